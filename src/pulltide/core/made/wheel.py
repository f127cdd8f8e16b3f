"""Wheels to make in the shop: their outline, what they measure, and in which order they are made.

What a family says of its wheels is data; quantities in words are written ``{value|unit}``.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from functools import cached_property
from math import acos, cos, hypot, pi, sin
from typing import Literal

from pulltide.core.findings import Source
from pulltide.core.sketch import Point

Side = Literal["driver", "driven"]
#: How far a chord may stand off a curve [mm].
CHORD_MM = 0.005
#: Hub over bore: diameter and length of one that is printed with the wheel, and the least that is worth it. Common
#: practice, no source.
BOSS_SHARE, BOSS_LONG, MIN_BOSS_SHARE = 1.8, 0.6, 1.3


@dataclass(frozen=True, slots=True)
class Measure:
    """One figure to work to, with what it is good for."""

    name: str
    value: float
    unit: str
    note: str = ""


@dataclass(frozen=True, kw_only=True)
class MadeWheel:
    """One wheel, drawn when it is first looked at.

    ``outline`` is closed, its last point joining the first, seen from the end with the shaft at the origin; for one
    that is ``turned`` it is the half section over the axis.

    ``bore_mm`` is None until the shaft's size is entered; ``key_mm`` is width and depth in the hub. ``holes`` are
    further closed outlines cut out of the first: the teeth of a ring, the pins of a lantern. ``hub`` is False for what
    no shaft goes through. ``flange_mm`` is diameter and thickness of a disc at either face. ``material`` is told where
    the plan says what the wheel is made of. ``rims_mm`` are middle along the axis and diameter of each step of a cone.
    ``teeth`` and the angle of the middle of a gap [radians] tell where a large wheel may be cut into sectors; 0 teeth
    where it may not.
    """

    side: Side
    title: str
    draw: Callable[[], tuple[Point, ...]]
    outside_mm: float
    face_mm: float
    turned: bool
    measures: tuple[Measure, ...]
    order: tuple[str, ...]
    source: Source
    caution: str = ""
    largest_bore_mm: float = 0.0
    bore_mm: float | None = None
    key_mm: tuple[float, float] | None = None
    cut_out: Callable[[], tuple[tuple[Point, ...], ...]] = lambda: ()
    hub: bool = True
    flange_mm: tuple[float, float] | None = None
    material: str = ""
    teeth: int = 0
    rims_mm: tuple[tuple[float, float], ...] = ()
    gap_angle: float = 0.0

    @property
    def boss_mm(self) -> tuple[float, float] | None:
        """Diameter and length of the hub that a printed plate wheel stands on [mm]; None where nothing is bored."""
        if self.turned or self.bore_mm is None:
            return None
        diameter = min(BOSS_SHARE * self.bore_mm, self.largest_bore_mm)
        return (diameter, BOSS_LONG * self.bore_mm) if diameter > MIN_BOSS_SHARE * self.bore_mm else None

    @property
    def section(self) -> tuple[Point, ...]:
        """Half section of what is turned, down to its bore where that is known: along the axis, and radius [mm]."""
        if self.bore_mm is None:
            return self.outline
        inner = min(y for _, y in self.outline)
        return tuple((x, self.bore_mm / 2 if y == inner else y) for x, y in self.outline)

    @cached_property
    def outline(self) -> tuple[Point, ...]:
        """Round the metal, or the half section of what is turned [mm]."""
        return self.draw()

    @cached_property
    def holes(self) -> tuple[tuple[Point, ...], ...]:
        """What is cut out beside the bore [mm]; each clockwise."""
        return self.cut_out()

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


def tangent_side(corner: Point, center: Point, radius: float) -> Point:
    """Where a line from a corner touches a circle, on the side with the greater x.

    >>> [round(value, 3) for value in tangent_side((1.0, 2.0), (0.0, 0.0), 1.0)]
    [1.0, 0.0]
    """
    x, y = corner[0] - center[0], corner[1] - center[1]
    apart = hypot(x, y)
    along, across = radius**2 / apart, radius * (max(apart**2 - radius**2, 0.0)) ** 0.5 / apart
    ends = [
        (center[0] + along * x / apart - s * across * y / apart, center[1] + along * y / apart + s * across * x / apart)
        for s in (-1, 1)
    ]
    return max(ends)


def rim_corner(low: Point, high: Point, outside: float, radius: float) -> tuple[Point, Point, Point]:
    """The round between a flank and the rim [mm]: its center, where it leaves the flank, where it meets the rim.

    ``low`` to ``high`` is the right flank of a gap, ``high`` on the rim of radius ``outside``; metal lies to its right.
    """
    along = hypot(high[0] - low[0], high[1] - low[1])
    ux, uy = (high[0] - low[0]) / along, (high[1] - low[1]) / along
    # the flank moved into the metal by the radius, met with the rim drawn in by it
    ax, ay = low[0] + uy * radius, low[1] - ux * radius
    b, c = ax * ux + ay * uy, ax**2 + ay**2 - (outside - radius) ** 2
    t = -b + (max(b**2 - c, 0.0)) ** 0.5
    cx, cy = ax + t * ux, ay + t * uy
    share = outside / hypot(cx, cy)
    return (cx, cy), (cx - uy * radius, cy + ux * radius), (cx * share, cy * share)


def round_the_wheel(one: tuple[Point, ...], count: int) -> tuple[Point, ...]:
    """One tooth or gap repeated round the origin, counter-clockwise; points that fall on each other are one."""
    points: list[Point] = []
    for number in range(count):
        for point in turned_by(one, 2 * pi * number / count):
            if not points or hypot(point[0] - points[-1][0], point[1] - points[-1][1]) > 1e-7:
                points.append(point)
    if len(points) > 1 and hypot(points[0][0] - points[-1][0], points[0][1] - points[-1][1]) <= 1e-7:
        points.pop()
    return tuple(points)


def circle(center: Point, radius: float) -> tuple[Point, ...]:
    """A closed round outline."""
    return tuple(arc(center, radius, 0.0, 2 * pi))[:-1]


def bore_outline(wheel: MadeWheel) -> tuple[Point, ...]:
    """The bore with its keyseat at the top [mm], closed; nothing while no shaft is known, or for a half section."""
    if wheel.bore_mm is None or wheel.turned:
        return ()
    radius = wheel.bore_mm / 2
    if wheel.key_mm is None or wheel.key_mm[0] / 2 >= radius:
        return circle((0.0, 0.0), radius)
    half, deep = wheel.key_mm[0] / 2, radius + wheel.key_mm[1]
    foot = acos(half / radius)
    round_part = tuple(arc((0.0, 0.0), radius, pi - foot, 2 * pi + foot))
    return (*round_part, (half, deep), (-half, deep))
