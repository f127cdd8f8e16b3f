"""V-belts: light, classical, cogged, narrow and metric, single, multiple and stepped, on drums and round idlers."""

from collections.abc import Iterator
from typing import Any

from pulltide.core.catalog import Catalog, Use
from pulltide.core.family import Family, LinkWords
from pulltide.core.labels import as_is, choice, counted, phrase
from pulltide.core.links.v_belt import tables
from pulltide.core.links.v_belt.bill import bill
from pulltide.core.links.v_belt.candidates import STAGES
from pulltide.core.links.v_belt.checks import RULES
from pulltide.core.links.v_belt.failure import failure_points
from pulltide.core.links.v_belt.inputs import IdlerSide, PulleyStep, VBelt
from pulltide.core.links.v_belt.lengths import lengths
from pulltide.core.links.v_belt.making import makes
from pulltide.core.links.v_belt.methods import METHODS
from pulltide.core.links.v_belt.stepped import with_ratios
from pulltide.core.links.v_belt.transmission import BeltTransmission, service_factor
from pulltide.core.links.v_belt.variants import fuses, reconcile, starter, variants
from pulltide.core.links.v_belt.working import workings
from pulltide.core.units import MM_PER_IN

__all__ = ["FAMILY", "VBelt"]


def _step_count(link: VBelt) -> int:
    return len(link.steps)


def _stock(link: VBelt, catalog: Catalog) -> dict[str, tuple[float | str, ...]]:
    diameters = tables.listed_diameters_mm(catalog, link.measured_as)
    belts = tuple(item.id for item in tables.listed_belts(catalog, link.section))
    return {"belt": belts, "driver_diameter_mm": diameters, "driven_diameter_mm": diameters}


def _uses(link: VBelt) -> tuple[Use, ...]:
    if link.belt is None:
        return ()
    return (Use(tables.BELT, link.belt, tables.belt(link.section, link.belt), group=link.section),)


def _belt_of_length(raw: dict[str, Any], length_mm: float, catalog: Catalog) -> str | None:
    """The listed belt of the link's section whose length, as it is sold by, is nearest."""
    name = str(raw.get("section"))
    if name not in tables.section_names():
        return None
    listed = tables.listed_belts(catalog, name)
    nominal = {item.id: tables.belt(name, item.id).nominal_in * MM_PER_IN for item in listed}
    return min(nominal, key=lambda item: abs(nominal[item] - length_mm), default=None)


def _words(link: VBelt, step: int) -> LinkWords:
    pair = link.steps[step - 1]
    belts = counted(link.belts, "{0} belt", "{0} belts") + (f" {as_is(link.belt)}" if link.belt else "")
    pairs = phrase("change pulleys, pair" if link.steps_are == "change_pulleys" else "step")
    steps = (f"{pairs} {step} of {len(link.steps)}",) if len(link.steps) > 1 else ()
    sizes = f"{{{pair.driver_diameter_mm}|mm}} → {{{pair.driven_diameter_mm}|mm}}"
    extra = (
        *((choice("flat_drum"),) if link.driven_rim == "flat_drum" else ()),
        *(("idler",) if link.idler != "none" else ()),
    )
    return LinkWords(f"V-belt {as_is(link.section)}", (sizes, belts, *steps, *extra))


def _samples() -> Iterator[VBelt]:
    """A classical belt, a metric one, one on a drum, one with an idler."""
    pair = (PulleyStep(driver_diameter_mm=90.0, driven_diameter_mm=200.0),)
    plain = VBelt(section="A", measured_as="pitch", steps=pair, belt="A55", static_tension_n=150.0)
    yield plain
    yield VBelt(section="SPA", measured_as="pitch", steps=pair, belt="SPA1400")
    yield VBelt(section="A", measured_as="pitch", steps=pair, belt="A55", driven_rim="flat_drum")
    hinge = {"plate_mass_kg": 30.0, "plate_arm_mm": 150.0, "hinge_across_mm": 180.0, "hinge_up_mm": 60.0}
    yield VBelt.model_validate(
        {"section": "A", "measured_as": "pitch", "steps": pair, "belt": "A55", "tensioning": "hinged_plate", **hinge}
        | {"tight_strand": "farther_from_the_hinge", "angle_deg": 90.0}
    )
    side: IdlerSide = "slack_strand_outside"
    yield VBelt(section="A", measured_as="pitch", steps=pair, belt="A55", idler=side, idler_diameter_mm=130.0)


#: What only an idler has.
IDLER_FIELDS = frozenset({"idler_diameter_mm", "idler_share", "idler_push_mm"})

#: What only a hinged plate has.
PLATE_FIELDS = frozenset({"plate_mass_kg", "plate_arm_mm", "hinge_across_mm", "hinge_up_mm", "tight_strand"})


def _hides(link: VBelt) -> frozenset[str]:
    tension = frozenset({"static_tension_n"}) if link.tensioning == "hinged_plate" else PLATE_FIELDS
    steps = frozenset({"steps_are"}) if len(link.steps) == 1 else frozenset()
    return tension | steps | (IDLER_FIELDS if link.idler == "none" else frozenset())


def _slide(link: VBelt) -> tuple[float, float] | None:
    if link.belt is None:
        return None
    room = tables.allowance(link.section, tables.belt(link.section, link.belt))
    return room.fit_mm, room.take_up_mm


FAMILY = Family(
    kind="v_belt",
    title="V-belt",
    model=VBelt,
    step_count=_step_count,
    prepare=BeltTransmission,
    variants=variants,
    reconcile=reconcile,
    starter=starter,
    favorite="section",
    usual_ratios=(0.2, 6.0),
    workings=workings,
    stock=_stock,
    by_length={"belt": _belt_of_length},
    shipped=tables.shipped,
    parts={tables.BELT: tables.Belt, tables.PULLEY: tables.Pulley},
    uses=_uses,
    makes=makes,
    align_deg=tables.ALIGN_DEG,
    slide=_slide,
    words=_words,
    methods=METHODS,
    factors=lambda sizing: (("V-belt", service_factor(sizing)),),
    failure_points=failure_points,
    fuses=fuses,
    rules=RULES,
    stages=STAGES,
    stepped=with_ratios,
    bill=bill,
    lengths=lengths,
    samples=tuple(_samples()),
    explains={
        "rating": "capacity",
        "slip_at_peak": "tension",
        "tension_set": "tension",
        "speed": "belt_speed",
        "slow": "belt_speed",
        "least_diameter": "driver_pitch",
        "center_near": "center",
        "touch": "center",
        "center_far": "center",
        "old_rating": "belts_needed",
        "cautious_rating": "belts_needed",
    },
    empty={
        "center_distance_mm": "follows from the length",
        "static_tension_n": "not measured",
        "belt": "not chosen",
        "own_efficiency": "from the tables",
    },
    hides=_hides,
)
