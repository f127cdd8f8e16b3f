"""Wheels to make in the shop: their outline, what they measure, and in which order they are made.

What a family says of its wheels is data; quantities in words are written ``{value|unit}``.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from math import acos, cos, hypot, pi, sin
from typing import Literal

from pulltide.core.findings import Source
from pulltide.core.sketch import Point

Side = Literal["driver", "driven"]
#: How far a chord may stand off a curve [mm].
CHORD_MM = 0.005
#: No outline has more points.
MOST_POINTS = 40_000


@dataclass(frozen=True, slots=True)
class Measure:
    """One figure to work to, with what it is good for."""

    name: str
    value: float
    unit: str
    note: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class MadeWheel:
    """One wheel. ``outline`` is closed, its last point joining the first, seen from the end with the shaft at the
    origin; for one that is turned it is the half section over the axis, ``turned``.

    ``bore_mm`` is None until the shaft's size is entered; ``key_mm`` is width and depth in the hub.
    """

    side: Side
    title: str
    outline: tuple[Point, ...]
    face_mm: float
    turned: bool
    measures: tuple[Measure, ...]
    order: tuple[str, ...]
    source: Source
    caution: str = ""
    largest_bore_mm: float = 0.0
    bore_mm: float | None = None
    key_mm: tuple[float, float] | None = None

    def fitted(self, bore_mm: float | None, key_mm: tuple[float, float] | None) -> MadeWheel:
        """The same on a shaft of a size, where its rim leaves room for that."""
        fits = bore_mm is not None and bore_mm < self.largest_bore_mm
        return replace(self, bore_mm=bore_mm if fits else None, key_mm=key_mm if fits else None)


def arc(center: Point, radius: float, start: float, end: float, chord_mm: float = CHORD_MM) -> Iterator[Point]:
    """Points along an arc from one angle to another [radians], both ends included, as near as the chord error says."""
    step = 2 * (2 * chord_mm / radius) ** 0.5 if radius > chord_mm else pi / 2
    count = max(round(abs(end - start) / step + 0.5), 1)
    for number in range(count + 1):
        angle = start + (end - start) * number / count
        yield center[0] + radius * cos(angle), center[1] + radius * sin(angle)


def turned_by(points: tuple[Point, ...], angle: float) -> tuple[Point, ...]:
    """Points turned about the origin [radians]."""
    c, s = cos(angle), sin(angle)
    return tuple((x * c - y * s, x * s + y * c) for x, y in points)


def round_the_wheel(one: tuple[Point, ...], count: int) -> tuple[Point, ...]:
    """One tooth or gap repeated round the origin, counter-clockwise; points that fall on each other are one."""
    points: list[Point] = []
    for number in range(count):
        for point in turned_by(one, 2 * pi * number / count):
            if not points or hypot(point[0] - points[-1][0], point[1] - points[-1][1]) > 1e-7:
                points.append(point)
    if len(points) > 1 and hypot(points[0][0] - points[-1][0], points[0][1] - points[-1][1]) <= 1e-7:
        points.pop()
    return tuple(points[:MOST_POINTS])


def bore_outline(wheel: MadeWheel) -> tuple[Point, ...]:
    """The bore with its keyseat at the top [mm], closed; nothing while no shaft is known, or for a half section."""
    if wheel.bore_mm is None or wheel.turned:
        return ()
    radius = wheel.bore_mm / 2
    if wheel.key_mm is None or wheel.key_mm[0] / 2 >= radius:
        return tuple(arc((0.0, 0.0), radius, 0.0, 2 * pi))[:-1]
    half, deep = wheel.key_mm[0] / 2, radius + wheel.key_mm[1]
    foot = acos(half / radius)
    round_part = tuple(arc((0.0, 0.0), radius, pi - foot, 2 * pi + foot))
    return (*round_part, (half, deep), (-half, deep))
