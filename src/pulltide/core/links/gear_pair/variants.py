"""Neighbouring pairs of stock sizes, and the link made consistent after an edit."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil, pi
from typing import Any

from pulltide.core.family import Variant, whole
from pulltide.core.links.gear_pair.inputs import GearPair
from pulltide.core.spur import tables

REACH = 4
HARDER = {
    "steel 1020 hot rolled": "steel 1045 normalised",
    "steel 1045 normalised": "steel 4140 hardened",
    "steel 4140 hardened": "steel 4140 hard",
    "grey iron class 30": "steel 1045 normalised",
    "tin bronze": "steel 1045 normalised",
    "acetal or nylon": "steel 1045 normalised",
    "printed PLA or PETG": "acetal or nylon",
    "printed nylon": "acetal or nylon",
}


def starter() -> GearPair:
    """A plain start: module 3, 20 to 60 teeth, hobbed steel, 30 mm wide."""
    return GearPair(module_mm=3.0, driver_teeth=20, driven_teeth=61, face_width_mm=30.0)


def settle(before: GearPair, raw: dict[str, Any]) -> dict[str, Any]:
    """A pitch that is entered takes the place of the other kind of pitch; a new idler starts as large as the driver."""
    if whole(raw.get("idlers")) and raw.get("idler_teeth") is None:
        raw = {**raw, "idler_teeth": raw["driver_teeth"]}
    if raw.get("diametral_pitch") is not None and raw.get("module_mm") is not None:
        changed = raw["diametral_pitch"] != before.diametral_pitch
        return {**raw, "module_mm" if changed else "diametral_pitch": None}
    return raw


def variants(link: GearPair) -> Iterator[Variant]:
    """Stock changes, smallest first in each direction."""
    yield from _teeth(link)
    widest = ceil(5 * pi * link.module)
    for share in (1.25, 1.5, 2.0):
        width = float(round(link.face_width_mm * share))
        if width <= widest:
            yield Variant("wider", f"Use a {{{width}|mm}} face", link.model_copy(update={"face_width_mm": width}))
    harder = {name: HARDER.get(getattr(link, name), "") for name in ("driver_material", "driven_material")}
    update = {name: value for name, value in harder.items() if value}
    if update:
        yield Variant("harder", f"Use {' and '.join(dict.fromkeys(update.values()))}", link.model_copy(update=update))
    for module in [m for m in tables.modules_mm() if m > link.module * 1.01][:REACH]:
        width = max(link.face_width_mm, float(ceil(3 * pi * module)))
        sizes = {"module_mm": module, "diametral_pitch": None, "face_width_mm": width}
        yield Variant("module", f"Use module {module:g}", link.model_copy(update=sizes))
    if link.made == "cast":
        yield Variant("better teeth", "Use cut teeth", link.model_copy(update={"made": "cut"}))
    if link.spread_mm > 0:
        yield Variant("spread", "Set the centres to standard", link.model_copy(update={"spread_mm": 0.0}))


def _teeth(link: GearPair) -> Iterator[Variant]:
    stock, driver, driven = tables.stock_teeth(), link.driver_teeth, link.driven_teeth
    for step in (1, -1, 2, -2):
        if driven + step >= 8 and not (link.mesh == "internal" and driven + step == driver):
            yield _pair(f"driven {step:+d}", link, driver, driven + step)
    for word, above in (("larger", True), ("smaller", False)):
        for teeth in _near(stock, driver, above):
            if not (link.mesh == "internal" and teeth == driven):
                yield _pair(f"{word} driver", link, teeth, driven)
        for teeth in _near(stock, driven, above):
            if not (link.mesh == "internal" and teeth == driver):
                yield _pair(f"{word} driven", link, driver, teeth)
    for teeth in [n for n in stock if n > driver][: 2 * REACH]:
        partner = round(driven * teeth / driver)
        if partner <= 400 and partner != teeth:
            yield _pair("more teeth on both", link, teeth, partner)


def _near(stock: tuple[int, ...], teeth: int, above: bool) -> list[int]:
    return [n for n in (stock if above else reversed(stock)) if (n > teeth if above else n < teeth)][:REACH]


def _pair(direction: str, link: GearPair, driver: int, driven: int) -> Variant:
    update = {"driver_teeth": driver, "driven_teeth": driven}
    return Variant(direction, f"Use {driver} and {driven} teeth", link.model_copy(update=update))
