"""Neighboring V-belt links made of stock sizes, and the link made consistent after an edit."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil
from typing import Any

from pulltide.core.catalog import Catalog
from pulltide.core.family import Variant
from pulltide.core.labels import as_is, phrase
from pulltide.core.links.v_belt import tables
from pulltide.core.links.v_belt.inputs import PulleyStep, VBelt
from pulltide.core.links.v_belt.layout import layout
from pulltide.core.links.v_belt.transmission import BeltDetails, center_spread_mm, design_tension_n
from pulltide.core.transmission import LinkResult

#: Sections in the order a builder would move up through them.
NEXT_SECTION = {
    "3L": ("4L", "A"),
    "4L": ("A", "5L"),
    "5L": ("B",),
    "A": ("AX", "B"),
    "AX": ("BX",),
    "B": ("BX", "C"),
    "BX": ("CX",),
    "C": ("CX",),
    "CX": (),
    "3V": ("3VX", "5V"),
    "3VX": ("5VX",),
    "5V": ("5VX",),
    "5VX": (),
    "SPZ": ("SPA",),
    "SPA": ("SPB",),
    "SPB": (),
}
REACH = 3


def starter(catalog: Catalog) -> VBelt:
    """A plain one-belt start: 4L section, 3 to 6 in, on the stock belt nearest to 15 in between centers."""
    pair = PulleyStep(driver_diameter_mm=76.2, driven_diameter_mm=152.4)
    link = VBelt(section="4L", measured_as="outside", steps=(pair,), center_distance_mm=381.0)
    return _with_nearest_belt(link, 381.0, catalog)


def _with_nearest_belt(link: VBelt, center_mm: float, catalog: Catalog) -> VBelt:
    """On the listed belt that keeps a center distance best; without a list at that center distance."""
    free = link.model_copy(update={"belt": None, "center_distance_mm": center_mm})
    place = layout(free, link.chosen_step)
    wanted = place.length_mm
    best = tables.nearest_belts(catalog, link.section, wanted, 1)
    return free.model_copy(update={"belt": best[0], "center_distance_mm": None}) if best else free


def reconcile(before: VBelt, raw: dict[str, Any], catalog: Catalog) -> dict[str, Any]:
    """After an edit: in another section the nearest belt of that section; a chosen step that exists.

    A new idler starts at the least good size for its side.
    """
    if raw.get("idler") not in (None, "none") and raw.get("idler_diameter_mm") is None:
        small = layout(before, before.chosen_step).small_outside_mm
        raw = {**raw, "idler_diameter_mm": float(5 * ceil(small * 1.33 / 5))}
    if isinstance(raw["chosen_step"], int):
        raw = {**raw, "chosen_step": min(raw["chosen_step"], len(raw["steps"]))}
    if raw["section"] != before.section and raw["section"] in NEXT_SECTION and before.belt and raw["belt"]:
        changed = _with_nearest_belt(
            before.model_copy(update={"section": raw["section"]}), layout(before, before.chosen_step).center_mm, catalog
        )
        raw["belt"] = changed.belt
    return raw


def _nearby(values: tuple[float, ...], value: float, above: bool, count: int) -> list[float]:
    if above:
        return [item for item in values if item > value + 0.05][:count]
    return [item for item in reversed(values) if item < value - 0.05][:count]


def _keeping_place(link: VBelt, pair: PulleyStep, catalog: Catalog) -> VBelt:
    """The chosen step with other diameters, on the belt that keeps the center distance best."""
    steps = list(link.steps)
    steps[link.chosen_step - 1] = pair
    changed = link.model_copy(update={"steps": tuple(steps)})
    if link.belt is None:
        return changed
    touching = (pair.driver_diameter_mm + pair.driven_diameter_mm) / 2
    return _with_nearest_belt(changed, max(layout(link, link.chosen_step).center_mm, 1.05 * touching), catalog)


def variants(link: VBelt, catalog: Catalog) -> Iterator[Variant]:
    """Stock changes, smallest first in each direction."""
    yield from _slide(link)
    yield from _more_belts(link)
    yield from _other_lengths(link, catalog)
    yield from _other_pulleys(link, catalog)
    yield from _other_sections(link, catalog)


def _more_belts(link: VBelt) -> Iterator[Variant]:
    for count in range(link.belts + 1, min(link.belts + 3, 6) + 1):
        yield Variant("more belts", f"Use {count} belts", link.model_copy(update={"belts": count}))


def _other_lengths(link: VBelt, catalog: Catalog) -> Iterator[Variant]:
    current = layout(link, link.chosen_step).length_mm
    names = [item.id for item in tables.listed_belts(catalog, link.section)]
    lengths = {name: tables.belt(link.section, name).pitch_length_mm for name in names}
    longer = [name for name, length in lengths.items() if length > current + 1][: 2 * REACH]
    shorter = [name for name, length in reversed(lengths.items()) if length < current - 1][:REACH]
    for direction, names in (("longer belt", longer), ("shorter belt", shorter)):
        for name in names:
            update = {"belt": name, "center_distance_mm": None}
            yield Variant(direction, f"Use a {as_is(name)} belt", link.model_copy(update=update))


def _other_pulleys(link: VBelt, catalog: Catalog) -> Iterator[Variant]:
    pair = link.steps[link.chosen_step - 1]
    stock = tables.listed_diameters_mm(catalog, link.measured_as)
    driver, driven = pair.driver_diameter_mm, pair.driven_diameter_mm
    for size in _nearby(stock, driver, True, REACH):
        partner = min(stock, key=lambda item, size=size: abs(item - driven * size / driver))  # type: ignore[misc]
        yield _pulleys("larger pulleys", link, _pair(size, partner), catalog)
    for above, word in ((True, "larger"), (False, "smaller")):
        for size in _nearby(stock, driver, above, REACH):
            yield _pulleys(f"{phrase(word)} driver", link, _pair(size, driven), catalog)
        for size in _nearby(stock, driven, above, REACH):
            yield _pulleys(f"{phrase(word)} driven", link, _pair(driver, size), catalog)


def _pair(driver_mm: float, driven_mm: float) -> PulleyStep:
    return PulleyStep(driver_diameter_mm=driver_mm, driven_diameter_mm=driven_mm)


def _pulleys(direction: str, link: VBelt, pair: PulleyStep, catalog: Catalog) -> Variant:
    changed = _keeping_place(link, pair, catalog)
    belt = f" with a {as_is(changed.belt)} belt" if changed.belt != link.belt else ""
    sizes = f"{{{pair.driver_diameter_mm}|mm}} and {{{pair.driven_diameter_mm}|mm}}"
    return Variant(direction, f"Use {phrase(sizes)} pulleys{phrase(belt)}", changed)


def _other_sections(link: VBelt, catalog: Catalog) -> Iterator[Variant]:
    center = layout(link, link.chosen_step).center_mm
    for name in NEXT_SECTION[link.section]:
        if link.driven_rim == "flat_drum" and tables.section(name).flat_drum_mm is None:
            continue
        changed = _with_nearest_belt(link.model_copy(update={"section": name}), center, catalog)
        belt = f" with a {as_is(changed.belt)} belt" if changed.belt else ""
        yield Variant("larger section", f"Use section {as_is(name)}{phrase(belt)}", changed)


def _slide(link: VBelt) -> Iterator[Variant]:
    if link.belt is None or link.idler != "none":
        return
    room = tables.allowance(link.section, tables.belt(link.section, link.belt))
    needed = room.fit_mm + room.take_up_mm + center_spread_mm(link)
    if link.take_up_mm is None or link.take_up_mm < needed:
        slots = float(5 * ceil(needed / 5 + 0.001))
        yield Variant(
            "more slide", f"Give the base {{{slots}|mm}} of slide", link.model_copy(update={"take_up_mm": slots})
        )


def fuses(result: LinkResult[BeltDetails], catalog: Catalog) -> Iterator[Variant]:
    """The same belts set to the tension the load asks for, and meant to slip before anything breaks."""
    details = result.details
    link = details.link
    if link.tensioning == "hinged_plate":
        return
    wanted = design_tension_n(details)
    for share in (1.0, 1.15, 0.85):
        tension = float(f"{wanted * share:.3g}")
        update = {"static_tension_n": tension, "slips_first": True}
        yield Variant(
            "belt slips first", f"Set each belt to {{{tension}|N}} and let it slip", link.model_copy(update=update)
        )
