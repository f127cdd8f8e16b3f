"""A coupling to begin with, what follows from an edit, its neighbors on the list, and what lets go first."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from pulltide.core.catalog import Catalog
from pulltide.core.family import Variant
from pulltide.core.labels import as_is, choice
from pulltide.core.links.coupling import tables
from pulltide.core.links.coupling.inputs import OWN, Coupling, CouplingPlate
from pulltide.core.links.coupling.transmission import DRAWN_MM, CouplingDetails, pin_torque_nm
from pulltide.core.transmission import LinkResult


def starter(catalog: Catalog) -> Coupling:
    """A plain start: a jaw coupling for small motors; without a list one of your own."""
    found = catalog.find(tables.PART, "CJ-65") or next(iter(catalog.of(tables.PART)), None)
    if found is None:
        return Coupling(designation=OWN, own=CouplingPlate())
    return Coupling(designation=found.id, data=found.data)


def reconcile(before: Coupling, raw: dict[str, Any], catalog: Catalog) -> dict[str, Any]:
    """A coupling off a list carries its data and no plate of yours; a new plate starts from the type replaced."""
    if raw["designation"] != before.designation:
        raw = {**raw, "data": None}
    if raw["designation"] != OWN:
        return {**raw, "own": None}
    if raw.get("own") is None:
        return {**raw, "own": {"type": before.unit.type}}
    return raw


def variants(link: Coupling, catalog: Catalog) -> Iterator[Variant]:
    """Larger and smaller couplings of the same type, then the other types that carry as much."""
    unit, here = link.unit, link.unit.rated_torque_nm or 0.0
    units = catalog.data(tables.PART)
    same = [item for item in units if item.type == unit.type]
    larger = [item for item in same if (item.rated_torque_nm or 0.0) > here][:4]
    smaller = [item for item in reversed(same) if (item.rated_torque_nm or 0.0) < here][:3]
    for direction, items in (("larger coupling", larger), ("smaller coupling", smaller)):
        for item in items:
            yield _to(direction, link, item)
    for kind in ("jaw", "roller_chain", "rigid_sleeve"):
        others = [item for item in units if item.type == kind and (item.rated_torque_nm or 0.0) >= here]
        if kind != unit.type and others:
            yield _to("other kind of coupling", link, others[0])


#: A torque limiter's setting over the running torque: clear of its peaks, then tighter. Common practice, no source.
LIMITER_SHARES = (3.0, 2.5, 2.0, 1.6)


def with_limiter(torque_nm: float, catalog: Catalog) -> Iterator[Variant]:
    """A stock coupling with a torque limiter, to put where a running torque [N·m at its shaft] passes."""
    for share in LIMITER_SHARES:
        setting = float(f"{share * torque_nm:.2g}")
        jaws = [item for item in catalog.data(tables.PART) if item.type == "jaw"]
        fitting = [item for item in jaws if (item.rated_torque_nm or 0.0) >= 1.5 * setting]
        for item in fitting[:2] if setting > 0 else ():
            link = Coupling(designation=item.designation, data=item, limiter_nm=setting)
            label = f"Put a {as_is(item.designation)} with a torque limiter set to {{{setting}|N*m}} behind the motor"
            yield Variant("torque limiter", label, link)


#: Shear pins as cut from stock rod [mm].
PINS_MM = (2.0, 2.5, 3.0, 4.0, 5.0, 6.0, 8.0, 10.0)


def fuses(result: LinkResult[CouplingDetails], catalog: Catalog) -> Iterator[Variant]:
    """One shear pin of mild steel on a circle at the coupling's rim, the strongest first of those that may do."""
    d = result.details
    for share in LIMITER_SHARES:
        setting = float(f"{share * result.flow.driver_torque_nm:.2g}")
        if setting > 0 and not d.link.slips_first:
            label = f"Fit a torque limiter set to {{{setting}|N*m}}"
            yield Variant("torque limiter", label, d.link.model_copy(update={"limiter_nm": setting}))
    circle = float(round(0.75 * (d.unit.outside_mm or DRAWN_MM[0])))
    for diameter in reversed(PINS_MM):
        update = {
            "shear_pins": 1,
            "shear_pin_mm": diameter,
            "shear_circle_mm": circle,
            "shear_pin_steel": "mild_steel_1018",
        }
        pinned = d.link.model_copy(update=update)
        lets_go = pin_torque_nm(pinned) or 0.0
        if result.flow.driver_torque_nm < lets_go < PIN_REACH * max(result.flow.driver_torque_nm, 0.1):
            label = f"Fit one {{{diameter}|mm}} shear pin of mild steel on a {{{circle}|mm}} circle"
            yield Variant("shear pin", label, pinned)


#: Pins stronger than this many times the running torque protect nothing.
PIN_REACH = 20.0


def _to(direction: str, link: Coupling, item: tables.Unit) -> Variant:
    label = f"Use a {choice(item.type)} coupling {as_is(item.designation)}"
    update = {"designation": item.designation, "data": item, "own": None}
    return Variant(direction, label, link.model_copy(update=update))
