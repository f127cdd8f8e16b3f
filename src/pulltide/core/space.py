"""Directions and solids in space, and what they look like from a side.

x to the right, y up, z away from a viewer at the near side, who sees the elevation. Millimeters.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import product
from math import cos, hypot, pi, sin, sqrt

Vec = tuple[float, float, float]
Point = tuple[float, float]
X: Vec = (1.0, 0.0, 0.0)
Y: Vec = (0.0, 1.0, 0.0)
Z: Vec = (0.0, 0.0, 1.0)
#: Directions nearer than this count as one, as the cosine or sine between them.
NEAR = 1e-6
#: Points of a rim that is seen at a slant.
RIM = 36


def dot(a: Vec, b: Vec) -> float:
    """How far one reaches along the other."""
    return a[0] * b[0] + a[1] * b[1] + a[2] * b[2]


def cross(a: Vec, b: Vec) -> Vec:
    """What stands square to both: X and Y give Z."""
    return a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]


def moved(point: Vec, along: Vec, by: float) -> Vec:
    """A point moved along a direction [mm]."""
    return point[0] + along[0] * by, point[1] + along[1] * by, point[2] + along[2] * by


@dataclass(frozen=True, slots=True)
class Axes:
    """How a shaft lies: to the right of it, up, and away along it, as whoever looks along it sees it."""

    right: Vec = X
    up: Vec = Y
    away: Vec = Z

    def at(self, origin: Vec, right: float = 0.0, up: float = 0.0, away: float = 0.0) -> Vec:
        """A point so far off another [mm]."""
        return moved(moved(moved(origin, self.right, right), self.up, up), self.away, away)

    def toward(self, direction: Vec) -> Axes:
        """The axes of a shaft that points in a direction, which is told as right, up and away here.

        Up stays up; for one that points up or down, right stays right.

        >>> Axes().toward((1.0, 0.0, 0.0)).right, Axes().toward((0.0, 1.0, 0.0)).up
        ((0.0, 0.0, -1.0), (0.0, 0.0, -1.0))
        """
        away = self.at((0.0, 0.0, 0.0), *direction)
        if abs(dot(away, self.up)) > NEAR:
            return Axes(self.right, _tidy(cross(away, self.right)), away)
        return Axes(_tidy(cross(self.up, away)), self.up, away)


def _tidy(a: Vec) -> Vec:
    """Without zeros that carry a sign."""
    return a[0] + 0.0, a[1] + 0.0, a[2] + 0.0


BASE = Axes()


@dataclass(frozen=True, slots=True)
class View:
    """A side that a drive is seen from: what is to the right and what is up on the picture."""

    right: Vec
    up: Vec

    @property
    def sight(self) -> Vec:
        """Where whoever looks looks to."""
        return cross(self.right, self.up)

    def at(self, point: Vec) -> Point:
        """A point as it is seen."""
        return dot(point, self.right), dot(point, self.up)

    def along(self, axes: Axes) -> bool:
        """Whether a shaft is seen from its end."""
        return abs(abs(dot(axes.away, self.sight)) - 1) < NEAR


FRONT, ABOVE = View(X, Y), View(X, Z)


@dataclass(frozen=True, slots=True)
class Cylinder:
    """A round body: its middle, the direction of its axis, radius and half its length [mm].

    One that tapers has smaller ends: their shares of the radius against and along the direction of its axis.
    """

    middle: Vec
    axis: Vec
    radius: float
    half: float
    taper: tuple[float, float] = (1.0, 1.0)

    def nearest(self, point: Vec) -> Vec:
        """The point of it that is nearest to another."""
        way = moved(point, self.middle, -1.0)
        along = dot(way, self.axis)
        across = moved(way, self.axis, -along)
        far = sqrt(dot(across, across))
        held = moved(self.middle, self.axis, min(max(along, -self.half), self.half))
        return moved(held, across, 1.0 if far <= self.radius else self.radius / far)

    def slimmer(self, by: float) -> Cylinder:
        """With a skin taken off all round [mm]."""
        return Cylinder(self.middle, self.axis, max(self.radius - by, 0.0), max(self.half - by, 0.0))

    @property
    def thinnest(self) -> float:
        """Half of how thick it is at its thinnest [mm]."""
        return min(self.radius, self.half)

    def seen(self, view: View) -> tuple[Point, ...]:
        """Its outline from a side that does not look along its axis."""
        ends = [moved(self.middle, self.axis, side * self.half) for side in (-1, 1)]
        radii = [share * self.radius for share in self.taper]
        side = cross(view.sight, self.axis)
        square = sqrt(dot(side, side))
        if square > 1 - NEAR:
            both = zip(ends, radii, strict=True)
            return hull([view.at(moved(end, side, sign * radius)) for end, radius in both for sign in (-1, 1)])
        first = X if abs(self.axis[0]) < 0.9 else Y
        one = cross(self.axis, first)
        one = moved((0.0, 0.0, 0.0), one, 1 / sqrt(dot(one, one)))
        other = cross(self.axis, one)
        angles = [2 * pi * k / RIM for k in range(RIM)]
        rims = [
            moved(moved(end, one, radius * cos(turn)), other, radius * sin(turn))
            for end, radius in zip(ends, radii, strict=True)
            for turn in angles
        ]
        return hull([view.at(point) for point in rims])


@dataclass(frozen=True, slots=True)
class Block:
    """A square body: its middle, how it lies, half of its size to the right, up and away [mm]."""

    middle: Vec
    axes: Axes
    half: Vec

    def nearest(self, point: Vec) -> Vec:
        """The point of it that is nearest to another."""
        way = moved(point, self.middle, -1.0)
        directions = (self.axes.right, self.axes.up, self.axes.away)
        held = [min(max(dot(way, one), -half), half) for one, half in zip(directions, self.half, strict=True)]
        return self.axes.at(self.middle, *held)

    def slimmer(self, by: float) -> Block:
        """With a skin taken off all round [mm]."""
        right, up, away = (max(half - by, 0.0) for half in self.half)
        return Block(self.middle, self.axes, (right, up, away))

    @property
    def thinnest(self) -> float:
        """Half of how thick it is at its thinnest [mm]."""
        return min(self.half)

    def seen(self, view: View) -> tuple[Point, ...]:
        """Its outline from a side."""
        corners = [
            self.axes.at(self.middle, *(sign * half for sign, half in zip(signs, self.half, strict=True)))
            for signs in product((-1, 1), repeat=3)
        ]
        return hull([view.at(corner) for corner in corners])


Solid = Cylinder | Block


def hull(points: Sequence[Point]) -> tuple[Point, ...]:
    """The corners of the smallest outline without a dent round points, counter-clockwise. Source: Andrew's chains."""
    ordered = sorted({(round(x, 6), round(y, 6)) for x, y in points})
    if len(ordered) < 3:
        return tuple(ordered)

    def chain(way: Sequence[Point]) -> list[Point]:
        made: list[Point] = []
        for point in way:
            while len(made) > 1 and _turn(made[-2], made[-1], point) <= 0:
                made.pop()
            made.append(point)
        return made[:-1]

    return (*chain(ordered), *chain(ordered[::-1]))


def _turn(a: Point, b: Point, c: Point) -> float:
    """Above 0 where the way from a over b to c turns left."""
    return (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])


#: Steps in which the least of what has one lowest place is looked for: the interval shrinks to (2/3)^40 of it.
STEPS = 40


def least(cost: Callable[[float], float]) -> float:
    """The least that a cost without a second lowest place has from 0 to 1."""
    low, high = 0.0, 1.0
    for _ in range(STEPS):
        third = (high - low) / 3
        if cost(low + third) <= cost(high - third):
            high -= third
        else:
            low += third
    return min(cost(0.0), cost(1.0), cost((low + high) / 2))


#: Rounds of going from solid to solid, halvings of the skin, and how near counts as touching [mm].
ROUNDS, HALVINGS, TOUCH_MM = 200, 16, 0.05


def overlap_mm(one: Solid, other: Solid) -> float:
    """How deep two solids stand in each other [mm]: twice the skin that both have to lose to come free. 0 apart.

    Whether they meet is found by going from one to the nearest point of the other and back, which ends where they
    are nearest. At most twice the thinner of both, which is then wholly inside.
    """
    if not _meet(one, other, 0.0):
        return 0.0
    low, high = 0.0, min(one.thinnest, other.thinnest)
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        low, high = (middle, high) if _meet(one, other, middle) else (low, middle)
    return 2 * low


def _meet(one: Solid, other: Solid, skin: float) -> bool:
    first, second = one.slimmer(skin), other.slimmer(skin)
    point = first.middle
    for _ in range(ROUNDS):
        there = second.nearest(point)
        point = first.nearest(there)
        apart = moved(point, there, -1.0)
        if hypot(*apart) < TOUCH_MM:
            return True
    return False
