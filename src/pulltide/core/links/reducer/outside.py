"""What a reducer looks like from outside and where its output stands: as listed by size, or in proportion to one."""

from __future__ import annotations

from functools import cache

from pulltide.core.drawing import POINTS, Housing, Stands
from pulltide.core.links.reducer import tables
from pulltide.core.links.reducer.inputs import Reducer
from pulltide.core.model import CoreModel
from pulltide.core.tables import Row, number

#: The size drawn while it is unknown [mm].
UNKNOWN_SIZE_MM = 60.0
#: What a unit is drawn as of which no more is known than that it is helical, by the sense it turns its output in.
PARALLEL_STAGES = {"same": 2, "opposite": 1}
ROUND = ("planetary", "cycloidal", "strain_wave")
#: Where the output of a bevel unit stands from its far end, over its height: about in the middle of its last wheel.
BEVEL_END = 0.5


class Outside(CoreModel):
    """Sizes of a case [mm]: width along the output shaft of a unit at right angles, length along its input shaft.

    Of a shaft-mounted unit length runs along the line of both axes. ``offset_mm`` is between them; feet None without.
    """

    width_mm: float
    length_mm: float
    height_mm: float
    axis_height_mm: float | None
    offset_mm: float
    foot_across_mm: float | None
    foot_along_mm: float | None

    def scaled(self, by: float) -> Outside:
        """One larger or smaller in proportion."""
        sizes = {name: None if size is None else size * by for name, size in self}
        return Outside.model_validate(sizes)


@cache
def _listed(kind: str) -> tuple[tuple[int, float, Outside], ...]:
    """Stages, size and outside of every listed unit of a kind."""
    rows = [row for row in tables.table("outside").rows if row["type"] == kind]
    return tuple((int(row["stages"]), number(row, "size_mm"), _read(row)) for row in rows)


def _read(row: Row) -> Outside:
    return Outside.model_validate(
        {name: None if row[name] == "na" else number(row, name) for name in Outside.model_fields}
    )


def outside(unit: tables.Unit) -> Outside:
    """The outside of the listed unit of its kind that is nearest in size, in proportion to its own."""
    kind = "helical_shaft_mounted" if unit.type == "helical" else unit.type
    stages = PARALLEL_STAGES.get(unit.direction, 1) if unit.stages is None else unit.stages
    size = unit.size_mm or UNKNOWN_SIZE_MM
    near = min(_listed(kind), key=lambda listed: (abs(listed[0] - stages), abs(listed[1] - size)))
    return near[2] if near[1] == size else near[2].scaled(size / near[1])


def stands(link: Reducer) -> Stands:
    """Where the output stands from the input, and the case round both."""
    unit = link.unit
    sizes = outside(unit)
    known = unit.size_mm is not None and not unit.by_plate
    if unit.direction == "right_angle":
        return _right_angle(link, sizes, known=known)
    if unit.coaxial:
        half = sizes.width_mm / 2
        low = sizes.axis_height_mm if sizes.axis_height_mm is not None else sizes.height_mm / 2
        case = _housing(sizes, (half, half), low, sizes.length_mm, known=known)
        return Stands(back_mm=sizes.length_mm, housing=case)
    beyond = (sizes.length_mm - sizes.offset_mm) / 2
    case = _housing(sizes, (beyond, beyond + sizes.offset_mm), sizes.height_mm / 2, sizes.width_mm, known=known)
    return Stands(offset_mm=(sizes.offset_mm, 0.0), back_mm=sizes.width_mm, housing=case)


def _housing(sizes: Outside, sides_mm: tuple[float, float], low_mm: float, deep_mm: float, *, known: bool) -> Housing:
    return Housing(
        left_mm=sides_mm[0],
        right_mm=sides_mm[1],
        low_mm=low_mm,
        high_mm=sizes.height_mm - low_mm,
        deep_mm=deep_mm,
        foot_across_mm=sizes.foot_across_mm,
        foot_along_mm=sizes.foot_along_mm,
        known=known,
    )


#: Mounting positions that turn the output upright.
UPRIGHT = {"output_up": "up", "output_down": "down"}


def _right_angle(link: Reducer, sizes: Outside, *, known: bool) -> Stands:
    """Its output across its input, over or under it or level with it; an upright one stands beside its worm."""
    upright = UPRIGHT.get(link.mounting)
    toward = POINTS[upright or link.output_points]
    half, wheel_mm = sizes.width_mm / 2, sizes.axis_height_mm or sizes.height_mm / 2
    back_mm = sizes.length_mm / 2 if link.unit.is_worm else sizes.length_mm - BEVEL_END * sizes.height_mm
    # from the wheel's axis down to the feet, and from the worm's axis up to the top; a bevel unit has both in one
    down, over = wheel_mm, sizes.height_mm - wheel_mm - sizes.offset_mm
    if link.unit.is_worm and link.worm_sits == "under":
        step, low, high = sizes.offset_mm, over, down + sizes.offset_mm
    else:
        step, low, high = -sizes.offset_mm, down + sizes.offset_mm, over
    if upright is not None:  # lies on its side: what was across stands up, what was up points to the right
        turned = Housing(left_mm=low, right_mm=high, low_mm=half, high_mm=half, deep_mm=sizes.length_mm, known=known)
        return Stands(offset_mm=(step, 0.0), back_mm=back_mm, toward=toward, out_mm=half, housing=turned)
    case = Housing(
        left_mm=half,
        right_mm=half,
        low_mm=low,
        high_mm=high,
        deep_mm=sizes.length_mm,
        foot_across_mm=sizes.foot_across_mm,
        foot_along_mm=sizes.foot_along_mm,
        known=known,
    )
    return Stands(offset_mm=(0.0, step), back_mm=back_mm, toward=toward, out_mm=half, housing=case)
