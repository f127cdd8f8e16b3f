"""The path of a belt round any number of wheels, inside or on its back: spans, wraps, tangent points, length."""

from __future__ import annotations

from dataclasses import dataclass
from math import asin, atan2, cos, degrees, hypot, pi, radians, sin, sqrt

from pulltide.core.errors import ImpossibleGeometry


@dataclass(frozen=True, slots=True)
class Round:
    """One wheel on a belt's path: center [mm], radius at the pitch line [mm] > 0, and the side of the belt it is on."""

    x_mm: float
    y_mm: float
    radius_mm: float
    on_back: bool = False

    @property
    def signed_mm(self) -> float:
        """Radius, negative on the back of the belt."""
        return -self.radius_mm if self.on_back else self.radius_mm


@dataclass(frozen=True, slots=True)
class Span:
    """A straight strand between two tangent points [mm]."""

    start_mm: tuple[float, float]
    end_mm: tuple[float, float]
    direction_rad: float

    @property
    def length_mm(self) -> float:
        """Length of the strand."""
        return hypot(self.end_mm[0] - self.start_mm[0], self.end_mm[1] - self.start_mm[1])


@dataclass(frozen=True, slots=True)
class BeltPath:
    """A closed belt: span k runs from wheel k to the next, wrap k is that of wheel k [degrees]."""

    spans: tuple[Span, ...]
    wraps_deg: tuple[float, ...]
    length_mm: float


def _span(first: Round, second: Round) -> Span:
    dx, dy = second.x_mm - first.x_mm, second.y_mm - first.y_mm
    center = hypot(dx, dy)
    difference = first.signed_mm - second.signed_mm
    if center <= abs(difference):
        raise ImpossibleGeometry("Two wheels of the belt overlap, so no strand runs between them.")
    angle = atan2(dy, dx) + asin(difference / center)

    def tangent(wheel: Round) -> tuple[float, float]:
        return wheel.x_mm + wheel.signed_mm * sin(angle), wheel.y_mm - wheel.signed_mm * cos(angle)

    return Span(tangent(first), tangent(second), angle)


def _distance_mm(span: Span, wheel: Round) -> float:
    """Distance of a wheel's center from a strand [mm]."""
    (x1, y1), (x2, y2) = span.start_mm, span.end_mm
    dx, dy = x2 - x1, y2 - y1
    along = ((wheel.x_mm - x1) * dx + (wheel.y_mm - y1) * dy) / (dx * dx + dy * dy or 1.0)
    along = min(max(along, 0.0), 1.0)
    return hypot(wheel.x_mm - x1 - along * dx, wheel.y_mm - y1 - along * dy)


def belt_path(wheels: tuple[Round, ...]) -> BeltPath:
    """Path of a belt that runs counter-clockwise round wheels in belt order, those inside it on its left.

    Span t = √(c² - (σi ri - σj rj)²) at angle(ij) + asin((σi ri - σj rj) / c), σ = -1 on the back; the wrap of a wheel
    is the turn between its strands; L = Σ t + Σ r wrap. At least two wheels.

    Raises ImpossibleGeometry if wheels overlap, or if a wheel does not touch the belt: the signed wraps of a belt that
    touches them all sum to 360 degrees, of one crossed between two wheels to none; or if one stands in the way of a
    strand. Source: exact.

    >>> path = belt_path((Round(0, 0, 40), Round(500, 0, 120), Round(150, 85, 35, on_back=True)))
    >>> round(path.length_mm, 3), [round(wrap, 2) for wrap in path.wraps_deg]
    (1516.542, [167.04, 201.05, 8.09])
    >>> round(belt_path((Round(0, 0, 40), Round(500, 0, 100, on_back=True))).length_mm, 3)
    1479.285
    """
    count = len(wheels)
    spans = tuple(_span(wheels[k], wheels[(k + 1) % count]) for k in range(count))
    wraps, turned = [], 0.0
    for before, after, wheel in zip((spans[-1], *spans), spans, wheels, strict=False):
        turn = (after.direction_rad - before.direction_rad) % (2 * pi)
        if wheel.on_back:
            turn = (2 * pi - turn) % (2 * pi)
        turned += -turn if wheel.on_back else turn
        wraps.append(turn)
    crossed = count == 2 and wheels[0].on_back != wheels[1].on_back
    if abs(turned - (0.0 if crossed else 2 * pi)) > 1e-6:
        raise ImpossibleGeometry("A wheel does not touch the belt: move it against the strand.")
    for index, span in enumerate(spans):
        for other, wheel in enumerate(wheels):
            if other not in (index, (index + 1) % count) and _distance_mm(span, wheel) < wheel.radius_mm - 1e-6:
                raise ImpossibleGeometry("A wheel stands in the way of a strand it does not carry.")
    length = sum(span.length_mm for span in spans)
    length += sum(wheel.radius_mm * wrap for wheel, wrap in zip(wheels, wraps, strict=True))
    return BeltPath(spans, tuple(degrees(wrap) for wrap in wraps), length)


@dataclass(frozen=True, slots=True)
class Idler:
    """An idler against the upper strand of two wheels.

    ``share`` is where along the strand from the first wheel it stands, 0 to 1; ``push_mm`` how far it pushes the strand
    out of its line, >= 0; ``radius_mm`` its radius at the pitch line.
    """

    radius_mm: float
    share: float
    push_mm: float
    on_back: bool


def with_idler(first_mm: float, second_mm: float, center_mm: float, idler: Idler) -> tuple[Round, Round, Round]:
    """Wheels of pitch radius r1, r2 at a center distance [mm], level, with an idler, in belt order.

    The belt runs along the lower strand first. Raises ImpossibleGeometry if the two wheels overlap.
    """
    difference = second_mm - first_mm
    if center_mm <= abs(difference):
        raise ImpossibleGeometry("One pulley would lie inside the other at this center distance.")
    slope = asin(difference / center_mm)
    span = sqrt(center_mm**2 - difference**2)
    outward = idler.radius_mm - idler.push_mm
    off = first_mm + (outward if idler.on_back else -outward)
    x = idler.share * span * cos(slope) - off * sin(slope)
    y = idler.share * span * sin(slope) + off * cos(slope)
    return Round(0, 0, first_mm), Round(center_mm, 0, second_mm), Round(x, y, idler.radius_mm, idler.on_back)


def center_with_idler_mm(length_mm: float, first_mm: float, second_mm: float, start_mm: float, idler: Idler) -> float:
    """Center distance [mm] at which a belt of pitch length L [mm] is taut over two wheels and an idler, by secants.

    ``start_mm`` is the center distance without the idler. Raises ImpossibleGeometry if there is none.
    """

    def excess(center: float) -> float:
        return belt_path(with_idler(first_mm, second_mm, center, idler)).length_mm - length_mm

    a, b = start_mm, start_mm * 0.99
    at_a, at_b = excess(a), excess(b)
    for _ in range(60):
        if abs(at_b - at_a) < 1e-15:
            break
        a, b, at_a = b, b - at_b * (b - a) / (at_b - at_a), at_b
        at_b = excess(b)
        if abs(at_b) < 1e-9 * length_mm:
            return b
    raise ImpossibleGeometry("The belt is too short to go round the idler as well.")


def rotated(wheels: tuple[Round, ...], angle_deg: float) -> tuple[Round, ...]:
    """The same wheels turned about the origin by an angle [degrees]."""
    c, s = cos(radians(angle_deg)), sin(radians(angle_deg))
    return tuple(Round(w.x_mm * c - w.y_mm * s, w.x_mm * s + w.y_mm * c, w.radius_mm, w.on_back) for w in wheels)
