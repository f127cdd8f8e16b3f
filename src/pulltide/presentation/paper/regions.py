"""Outlines moved for a cutter or a printer, and large wheels cut into sectors: regions of the plane."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import cos, pi, sin
from typing import Any

from pulltide.core.made.wheel import MadeWheel, bore_outline
from pulltide.core.sketch import Point

Outline = tuple[Point, ...]
#: Corners of an outline that is moved are rounded in so many steps for a whole turn.
ROUND = 64
#: So many sectors are made at most.
MAX_SECTORS = 24
#: Between sectors laid side by side [mm].
APART_MM = 10.0


@dataclass(frozen=True, slots=True)
class Region:
    """One piece of metal: what is round it, and what is cut out of it; outer ones counter-clockwise."""

    outer: Outline
    inner: tuple[Outline, ...] = ()


def outlines_of(wheel: MadeWheel) -> Region:
    """A plate wheel as it is drawn, its bore and holes cut out."""
    bore = bore_outline(wheel)
    return Region(wheel.outline, (*((tuple(reversed(bore)),) if bore else ()), *wheel.holes))


def area_of(outlines: Sequence[Outline]) -> Any:
    """A region of the plane by its outlines: outer ones counter-clockwise, holes clockwise."""
    from manifold3d import CrossSection, FillRule
    from numpy import array

    return CrossSection([array(points, dtype=float) for points in outlines], FillRule.Positive)


def area_of_region(region: Region) -> Any:
    """The same for one piece."""
    return area_of([region.outer, *region.inner])


def pieces_of(area: Any) -> tuple[Region, ...]:
    """Every piece that an area consists of, holes with the piece that they are in."""
    found = []
    for piece in area.decompose():
        outlines = [tuple((float(x), float(y)) for x, y in points) for points in piece.to_polygons()]
        outer = [points for points in outlines if signed_area(points) > 0]
        inner = tuple(points for points in outlines if signed_area(points) < 0)
        found += [Region(points, inner) for points in outer]
    return tuple(found)


def signed_area(points: Outline) -> float:
    """Area of an outline [mm²], positive when it runs counter-clockwise."""
    pairs = zip(points, (*points[1:], points[0]), strict=True)
    return sum(a[0] * b[1] - b[0] * a[1] for a, b in pairs) / 2


def moved(region: Region, by_mm: float) -> tuple[Region, ...]:
    """Every edge moved outward from the metal: half a kerf for a cutter, less than 0 for a clearance."""
    from manifold3d import JoinType

    if by_mm == 0:
        return (region,)
    return pieces_of(area_of_region(region).offset(by_mm, JoinType.Round, 2.0, ROUND))


def sectors_needed(wheel: MadeWheel, sheet_mm: tuple[float, float]) -> int:
    """Into how many sectors a wheel is cut to fit a sheet, 1 when it fits whole, 0 where it cannot be done."""
    radius, inner = wheel.outside_mm / 2, (wheel.bore_mm or 0.0) / 2
    for count in range(1, MAX_SECTORS + 1):
        wide, high = _sector_size(radius, inner, count)
        if (wide <= sheet_mm[0] and high <= sheet_mm[1]) or (wide <= sheet_mm[1] and high <= sheet_mm[0]):
            return count if count == 1 or wheel.teeth >= count else 0
    return 0


def _sector_size(radius: float, inner: float, count: int) -> tuple[float, float]:
    """Width and height of one sector stood on its point; half a tooth more than its share may fall to one."""
    half = pi / count
    if count < 3:
        return 2 * radius, 2 * radius / count
    return 2 * radius * sin(half), radius - inner * cos(half)


def sectors(wheel: MadeWheel, count: int) -> tuple[Region, ...]:
    """A plate wheel cut through the middles of gaps, its sectors stood on their points side by side."""
    area = area_of_region(outlines_of(wheel))
    pitch = 2 * pi / wheel.teeth
    cuts = [wheel.gap_angle + pitch * round(number * wheel.teeth / count) for number in range(count + 1)]
    found: list[Region] = []
    left = 0.0
    for start, end in pairwise(cuts):
        wedge = area_of([_wedge(start, end, 2 * wheel.outside_mm)])
        turned = (area ^ wedge).rotate(90 - (start + end) / 2 * 180 / pi)
        low_x, low_y, high_x, _ = turned.bounds()
        found += pieces_of(turned.translate((left - low_x, -low_y)))
        left += high_x - low_x + APART_MM
    return tuple(found)


def _wedge(start: float, end: float, reach: float) -> Outline:
    """A fan about the origin, counter-clockwise."""
    steps = max(int((end - start) / 0.2) + 1, 2)
    rim = [start + (end - start) * number / steps for number in range(steps + 1)]
    return ((0.0, 0.0), *((reach * cos(angle), reach * sin(angle)) for angle in rim))
