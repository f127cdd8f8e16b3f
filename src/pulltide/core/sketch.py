"""Drawings as data: shapes with named dimensions, in millimeters, y up. What paints them gives size and color.

One set of shapes serves elevations, sketches of worksheets, curves and bars, on the screen, in print and in files.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from math import cos, pi, sin
from typing import Literal

from pulltide.core.hatch import hatch

Point = tuple[float, float]
#: What a shape of a worksheet stands for: the machine, what it works on, a moving part, a thin or hidden line, the
#: ground. Other drawings have roles of their own (``wheel belt``, ``case``, ``axis``).
Role = Literal["part", "charge", "motion", "thin", "hidden", "ground"]


@dataclass(frozen=True, slots=True)
class Circle:
    """A wheel, drum or hole. ``part`` names what it belongs to (``motor``, ``link-2``)."""

    at: Point
    radius: float
    role: str
    part: str = ""


@dataclass(frozen=True, slots=True)
class Line:
    """A polyline; a closed one is an area."""

    points: tuple[Point, ...]
    role: str
    closed: bool
    part: str = ""


@dataclass(frozen=True, slots=True)
class Hatch:
    """Cut metal inside an outline: slanted lines, so far apart."""

    outline: tuple[Point, ...]
    apart: float
    role: str = "hatch"

    @property
    def lines(self) -> tuple[tuple[Point, Point], ...]:
        """Its lines, from end to end."""
        return hatch(self.outline, self.apart)


@dataclass(frozen=True, slots=True)
class Straight:
    """A step of an outline: straight to a point."""

    to: Point


@dataclass(frozen=True, slots=True)
class Bow:
    """A step of an outline: an arc to a point, the larger of the two that fit or the smaller."""

    to: Point
    radius: float
    large: bool
    clockwise: bool


@dataclass(frozen=True, slots=True)
class Loop:
    """A closed outline of straights and arcs: a belt or a chain."""

    start: Point
    steps: tuple[Straight | Bow, ...]
    role: str
    part: str = ""


@dataclass(frozen=True, slots=True)
class Axle:
    """A shaft seen from its end."""

    at: Point


@dataclass(frozen=True, slots=True)
class Dimension:
    """A named measure between two points, set off to the left of the way from ``a`` to ``b`` by ``off`` of the
    drawing's size. A value of None is still to be entered."""

    a: Point
    b: Point
    name: str
    value: float | None
    unit: str
    off: float


@dataclass(frozen=True, slots=True)
class Arrow:
    """A force or a travel from ``a`` to ``b``, with its name."""

    a: Point
    b: Point
    text: str
    value: float | None
    unit: str


@dataclass(frozen=True, slots=True)
class Turning:
    """The sense a part turns in."""

    at: Point
    radius: float
    clockwise: bool


@dataclass(frozen=True, slots=True)
class Text:
    """A word at a place. ``room`` is how much free height there is above it, where that decides how it is set."""

    at: Point
    text: str
    role: str = "name"
    room: float = 0.0


Shape = Circle | Line | Hatch | Loop | Axle | Dimension | Arrow | Turning | Text


@dataclass(slots=True)
class Sketch:
    """Shapes back to front, with short ways to add them."""

    caption: str
    shapes: list[Shape] = field(default_factory=list)

    def circle(self, at: Point, radius: float, role: Role = "part") -> None:
        """Add a circle."""
        self.shapes.append(Circle(at, radius, role))

    def line(self, *points: Point, role: Role = "part") -> None:
        """Add a polyline."""
        self.shapes.append(Line(points, role, closed=False))

    def area(self, points: Iterable[Point], role: Role = "part") -> None:
        """Add a closed outline."""
        self.shapes.append(Line(tuple(points), role, closed=True))

    def metal(self, points: Iterable[Point], apart: float, role: Role = "part") -> None:
        """Add cut metal: an outline and its hatching."""
        outline = tuple(points)
        self.shapes += [Line(outline, role, closed=True), Hatch(outline, apart)]

    def box(self, left: float, low: float, width: float, height: float, role: Role = "part") -> None:
        """Add an upright rectangle."""
        right, top = left + width, low + height
        self.area(((left, low), (right, low), (right, top), (left, top)), role)

    def measure(self, a: Point, b: Point, name: str, value: float | None, off: float = 0.0, unit: str = "mm") -> None:
        """Add a named dimension."""
        self.shapes.append(Dimension(a, b, name, value, unit, off))

    def arrow(self, a: Point, b: Point, text: str, value: float | None = None, unit: str = "N") -> None:
        """Add a force or a travel."""
        self.shapes.append(Arrow(a, b, text, value, unit))

    def turn(self, at: Point, radius: float, clockwise: bool = True) -> None:
        """Add a sense of turning."""
        self.shapes.append(Turning(at, radius, clockwise))

    def text(self, at: Point, text: str) -> None:
        """Add a word."""
        self.shapes.append(Text(at, text))

    def ground(self, left: float, right: float, y: float = 0.0) -> None:
        """Add the floor line."""
        self.line((left, y), (right, y), role="ground")


def arc(at: Point, radius: float, start_rad: float, end_rad: float) -> list[Point]:
    """Points along an arc, ends included; angles from the x axis, counter-clockwise."""
    steps = max(int(abs(end_rad - start_rad) / (pi / 36)), 2)
    angles = [start_rad + (end_rad - start_rad) * k / steps for k in range(steps + 1)]
    return [(at[0] + radius * cos(angle), at[1] + radius * sin(angle)) for angle in angles]


def turned(points: Iterable[Point], angle_rad: float, about: Point = (0.0, 0.0)) -> list[Point]:
    """Points turned about one of them, counter-clockwise."""
    c, s = cos(angle_rad), sin(angle_rad)
    return [
        (about[0] + (x - about[0]) * c - (y - about[1]) * s, about[1] + (x - about[0]) * s + (y - about[1]) * c)
        for x, y in points
    ]
