"""Neighboring stock reducers."""

from __future__ import annotations

from collections.abc import Iterator
from math import log
from typing import Any

from pulltide.core.catalog import Catalog
from pulltide.core.family import Variant
from pulltide.core.labels import as_is
from pulltide.core.links.reducer import tables
from pulltide.core.links.reducer.inputs import OWN, Reducer, ReducerPlate
from pulltide.core.links.reducer.rating import rated_torque_nm

#: How far a nominal ratio may lie off and still count as the same step, for units of another list.
SAME_STEP = 0.06
REACH = 3
#: Types that a shop takes for their precision or their shape, not to begin with.
SPECIAL = ("strain_wave", "cycloidal")


def starter(catalog: Catalog) -> Reducer:
    """A plain start: a small worm unit, 15 to 1; without a list one of your own of that ratio."""
    found = catalog.find(tables.PART, "PW-3 15:1") or next(iter(catalog.of(tables.PART)), None)
    if found is None:
        return Reducer(designation=OWN, own=ReducerPlate(ratio=15.0))
    return Reducer(designation=found.id, data=found.data)


def seeds(catalog: Catalog, ratio: float) -> Iterator[Reducer]:
    """Of each usual type the unit nearest to a ratio, the smallest of those."""
    units = catalog.data(tables.PART)
    for kind in dict.fromkeys(item.type for item in units if item.type not in SPECIAL):
        alike = (item for item in units if item.type == kind)
        best = min(alike, key=lambda item: (round(abs(log(item.ratio / ratio)), 2), item.torque_1750_nm or 0.0))
        yield Reducer(designation=best.designation, data=best)


def reconcile(before: Reducer, raw: dict[str, Any], catalog: Catalog) -> dict[str, Any]:
    """A unit off a list carries its own data and no plate of yours; a new plate starts from the unit replaced."""
    if raw["designation"] != before.designation:
        raw = {**raw, "data": None}
    if raw["designation"] != OWN:
        return {**raw, "own": None}
    if raw.get("own") is None:
        unit = before.unit
        kind = "helical" if unit.type in ("helical_inline", "helical_shaft_mounted") else unit.type
        return {**raw, "own": {"type": kind, "ratio": unit.ratio, "turn": unit.direction}}
    return raw


def variants(link: Reducer, catalog: Catalog) -> Iterator[Variant]:
    """Larger units of the same ratio, then neighboring ratios, then the other kinds of unit."""
    unit, units = link.unit, catalog.data(tables.PART)
    torque = rated_torque_nm(unit, 1750.0) or 0.0
    same_step = [item for item in units if abs(item.ratio_nominal / unit.ratio_nominal - 1) <= SAME_STEP]
    larger = sorted(
        (item for item in same_step if (item.torque_1750_nm or 0.0) > torque),
        key=lambda item: item.torque_1750_nm or 0.0,
    )
    same_type = [item for item in larger if item.type == unit.type]
    other_type = [item for item in larger if item.type != unit.type]
    for direction, items in (("larger unit", same_type[: REACH + 1]), ("other kind of unit", other_type[:REACH])):
        for item in items:
            yield _to(direction, link, item)
    family = [item for item in units if item.type == unit.type and item.size_mm == unit.size_mm]
    higher = sorted((item for item in family if item.ratio > unit.ratio), key=lambda item: item.ratio)
    lower = sorted((item for item in family if item.ratio < unit.ratio), key=lambda item: -item.ratio)
    for direction, items in (("higher ratio", higher[:REACH]), ("lower ratio", lower[:REACH])):
        for item in items:
            yield _to(direction, link, item)


def _to(direction: str, link: Reducer, item: tables.Unit) -> Variant:
    update = {"designation": item.designation, "data": item, "own": None}
    return Variant(direction, f"Use {as_is(item.designation)}", link.model_copy(update=update))
