"""A section through a gear case along its axes: walls, shafts, bearings and gears, x along the centers, y along z."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

from pulltide.core.sketch import Point, Sketch
from pulltide.core.spur.gear_case import Pair, Places

#: Beyond the wall the input and the output reach so many diameters, and a boss round a seat is so much thicker [mm].
STUB, BOSS_ROUND_MM = 2.0, 10.0
#: Hatching of cut iron, over the length of the case.
HATCH_SHARE = 0.02


def case_section(pairs: Sequence[Pair], *, folded: bool) -> Sketch:
    """The least case of a train, cut through the axes of its shafts."""
    places = Places.of(pairs, folded)
    left, right = places.case_mm
    wide, long, wall = right - left, places.long_mm, places.wall_mm
    drawing = Sketch("Section through the least case, along its shafts")
    apart = HATCH_SHARE * max(wide, long)
    for low, high in (((left - wall, -wall), (right + wall, 0.0)), ((left - wall, long), (right + wall, long + wall))):
        drawing.metal(_box(low, high), apart)
    for low, high in (((left - wall, 0.0), (left, long)), ((right, 0.0), (right + wall, long))):
        drawing.metal(_box(low, high), apart)
    for number, diameter in enumerate(places.diameters_mm):
        _shaft(drawing, places, number, diameter / 2)
    for number, pair in enumerate(pairs):
        for side in (0, 1):
            x, z, half = places.shaft_mm(number + side), places.pairs_mm[number], pair.face_mm / 2
            drawing.area(_box((x - pair.tip_mm(side), z - half), (x + pair.tip_mm(side), z + half)), "motion")
            drawing.line((x, z - half), (x, z + half), role="hidden")
    _bosses(drawing, places, apart)
    for a, b in pairwise(places.axes_mm):
        drawing.measure((a, long + wall), (b, long + wall), "", b - a, off=0.08)
    drawing.measure((left, -wall), (right, -wall), "inside", wide, off=-0.08)
    drawing.measure((right + wall, 0.0), (right + wall, long), "inside", long, off=-0.06)
    return drawing


def _shaft(drawing: Sketch, places: Places, number: int, half: float) -> None:
    """A shaft with its bearings; the first goes out through the near wall, the last through the far one."""
    x, wide = places.shaft_mm(number), places.wide_mm(number)
    begins, ends = places.held_mm[number]
    low, high = begins - wide / 2, ends + wide / 2
    low = -places.wall_mm - STUB * 2 * half if number == 0 else low
    high = places.long_mm + places.wall_mm + STUB * 2 * half if number == len(places.pairs) else high
    drawing.area(_box((x - half, low), (x + half, high)), "charge")
    outside = places.seat_outside_mm(number) / 2
    for at in (begins, ends):
        for side in (-1, 1):
            a, b = sorted((x + side * half, x + side * outside))
            drawing.area(_box((a, at - wide / 2), (b, at + wide / 2)), "thin")
            drawing.line((a, at - wide / 2), (b, at + wide / 2), role="thin")
            drawing.line((a, at + wide / 2), (b, at - wide / 2), role="thin")


def _bosses(drawing: Sketch, places: Places, apart: float) -> None:
    """Of a folded train: what holds the two bearings that meet on one axis, between the pairs."""
    for number in range(len(places.pairs) - 1):
        before, after = number, number + 2
        if not places.meets(before, after):
            continue
        x, low = places.shaft_mm(before), places.held_mm[before][1] - places.wide_mm(before) / 2
        high = places.held_mm[after][0] + places.wide_mm(after) / 2
        seat = max(places.seat_outside_mm(before), places.seat_outside_mm(after)) / 2
        for side in (-1, 1):
            a, b = sorted((x + side * seat, x + side * (seat + BOSS_ROUND_MM)))
            drawing.metal(_box((a, low), (b, high)), apart)


def _box(low: Point, high: Point) -> tuple[Point, ...]:
    return low, (high[0], low[1]), high, (low[0], high[1])
