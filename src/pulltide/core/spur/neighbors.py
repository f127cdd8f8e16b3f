"""Stock neighbors that every family of gears offers: teeth, faces, materials, modules."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any

from pulltide.core.catalog import Catalog, counts
from pulltide.core.family import Variant
from pulltide.core.labels import choice, together
from pulltide.core.spur import tables

REACH = 4
#: What a catalog calls a spur gear off the shelf.
GEAR = "gear"
HARDER = {
    "steel_1020_hot_rolled": "steel_1045_normalized",
    "steel_1045_normalized": "steel_4140_hardened",
    "steel_4140_hardened": "steel_4140_hard",
    "gray_iron_30": "steel_1045_normalized",
    "tin_bronze": "steel_1045_normalized",
    "acetal_or_nylon": "steel_1045_normalized",
    "printed_pla_petg": "acetal_or_nylon",
    "printed_nylon": "acetal_or_nylon",
    "aluminum_6061": "steel_1045_normalized",
    "plywood_birch": "phenolic_cloth",
    "hardwood": "phenolic_cloth",
    "hdpe_sheet": "acetal_or_nylon",
    "phenolic_cloth": "steel_1045_normalized",
}


def harder(link: Any) -> Iterator[Variant]:
    """The next harder material on both gears."""
    found = {name: HARDER.get(getattr(link, name), "") for name in ("driver_material", "driven_material")}
    update = {name: value for name, value in found.items() if value}
    if update:
        yield Variant(
            "harder", f"Use {together(map(choice, dict.fromkeys(update.values())))}", link.model_copy(update=update)
        )


def wider(link: Any, widest_mm: float) -> Iterator[Variant]:
    """Wider faces up to a width."""
    for share in (1.25, 1.5, 2.0):
        width = float(round(link.face_width_mm * share))
        if width <= widest_mm:
            yield Variant("wider", f"Use a {{{width}|mm}} face", link.model_copy(update={"face_width_mm": width}))


def larger_modules(module_mm: float) -> list[float]:
    """The next stock modules up [mm]."""
    return [m for m in tables.modules_mm() if m > module_mm * 1.01][:REACH]


def teeth(
    link: Any, catalog: Catalog, allowed: Callable[[int, int], bool] = lambda driver, driven: True
) -> Iterator[Variant]:
    """A tooth or two on the driven gear, stock counts near either, and more teeth on both at the same ratio."""
    for direction, driver, driven in _counts(link.driver_teeth, link.driven_teeth, counts(catalog, GEAR)):
        if allowed(driver, driven):
            update = {"driver_teeth": driver, "driven_teeth": driven}
            yield Variant(direction, f"Use {driver} and {driven} teeth", link.model_copy(update=update))


def _counts(driver: int, driven: int, stock: tuple[int, ...]) -> Iterator[tuple[str, int, int]]:
    for step in (1, -1, 2, -2):
        if driven + step >= 8:
            yield f"driven {step:+d}", driver, driven + step
    for word, above in (("larger", True), ("smaller", False)):
        for count in _near(stock, driver, above):
            yield f"{word} driver", count, driven
        for count in _near(stock, driven, above):
            yield f"{word} driven", driver, count
    for count in [n for n in stock if n > driver][: 2 * REACH]:
        partner = round(driven * count / driver)
        if partner <= 400:
            yield "more teeth on both", count, partner


def _near(stock: tuple[int, ...], count: int, above: bool) -> list[int]:
    return [n for n in (stock if above else reversed(stock)) if (n > count if above else n < count)][:REACH]
