"""Whether a drive keeps clear of its floor, of what stands in its way, and stands where it is wanted."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import combinations
from math import hypot, pi

from pulltide.core.findings import Check, Finding, judge, state
from pulltide.core.fit import checks
from pulltide.core.layout import Box, Placed, ends_of, place
from pulltide.core.line_result import LineResult
from pulltide.core.machine import Plan
from pulltide.core.room import NO_ROOM, Obstacle, Room
from pulltide.core.sketch import arc
from pulltide.core.space import FRONT, NEAR, Cylinder, Point, Solid, View, Y, Z, dot, hull, least

Disc = tuple[Point, float]
#: How a drive reaches across is read off from its side: up, and away.
SIDEWAYS = View(Y, Z)


@dataclass(frozen=True, slots=True)
class Clear:
    """How far an obstacle is from the nearest stage, from 0, or the motor, -1 [mm]; below 0 it stands in it."""

    obstacle: Obstacle
    stage: int
    mm: float


def clearances(plan: Plan, line: LineResult) -> tuple[Clear, ...]:
    """Every obstacle and what of the drive is nearest to it; nothing while the motor's height is not known."""
    if plan.room.motor_height_mm is None or line.unbridged:
        return ()
    placed = place(plan, line)
    made = []
    for obstacle in plan.room.obstacles:
        box = box_of(obstacle, plan.room.motor_height_mm)
        near = [(part.distance_mm(box), part.stage) for part in parts(placed) if part.meets(obstacle)]
        if near:
            mm, stage = min(near)
            made.append(Clear(obstacle, stage, mm))
    return tuple(made)


def box_of(obstacle: Obstacle, motor_height_mm: float) -> Box:
    """Left, low, right and high edge with the motor's shaft at the origin [mm]."""
    low = obstacle.bottom_mm - motor_height_mm
    return obstacle.left_mm, low, obstacle.left_mm + obstacle.wide_mm, low + obstacle.high_mm


@dataclass(frozen=True, slots=True)
class Part:
    """What a stage, from 0, or the motor, -1, takes up in the elevation: discs whose hull it fills, or corners.

    ``deep_mm`` is how far it reaches across the drive; None where that is not known.
    """

    stage: int
    discs: tuple[Disc, ...] = ()
    corners: tuple[Point, ...] = ()
    deep_mm: tuple[float, float] | None = None

    def distance_mm(self, box: Box) -> float:
        """From it to a box [mm]; below 0 inside it."""
        if not self.corners:
            return distance_mm(self.discs, box)
        apart = distance_mm([(corner, 0.0) for corner in self.corners], box)
        left, low, right, high = box
        return -apart if apart > 0 and _holds(self.corners, ((left + right) / 2, (low + high) / 2)) else apart

    def meets(self, obstacle: Obstacle) -> bool:
        """Whether an obstacle stands where it does across the drive; so it is taken where that is not known."""
        if self.deep_mm is None or (obstacle.near_mm is None and obstacle.far_mm is None):
            return True
        near, far = self.deep_mm
        begins = obstacle.near_mm is None or obstacle.near_mm < far
        return begins and (obstacle.far_mm is None or near < obstacle.far_mm)

    @property
    def lowest_mm(self) -> float:
        """Its lowest place, from the motor's shaft up [mm]."""
        return min([y - radius for (_, y), radius in self.discs] + [y for _, y in self.corners])


def _holds(corners: tuple[Point, ...], point: Point) -> bool:
    """Whether an outline without a dent, counter-clockwise, has a point inside."""
    ways = zip(corners, (*corners[1:], corners[0]), strict=True)
    return all((bx - ax) * (point[1] - ay) - (by - ay) * (point[0] - ax) > 0 for (ax, ay), (bx, by) in ways)


def parts(placed: Placed) -> Iterator[Part]:
    """The motor, and what every stage takes up."""
    yield Part(-1, ((placed.centers[0], placed.motor_mm),))
    for index in range(len(placed.stands)):
        known = not any(shaft <= index + 1 for shaft in placed.assumed)
        yield _part(placed, index, known=known)


def _part(placed: Placed, index: int, *, known: bool) -> Part:
    stand = placed.stands[index]
    if stand.block is not None:
        solids: tuple[Solid, ...] = (stand.block,)
    else:
        solids = tuple(wheel for wheel in placed.bodies(index) if wheel.radius)
    deep = [z for solid in solids for _, z in solid.seen(SIDEWAYS)]
    reach = (min(deep), max(deep)) if known and deep else None
    if stand.block is None and FRONT.along(stand.axes) and FRONT.along(stand.turned):
        first, second, *others = placed.bodies(index)
        ends = zip(ends_of(stand), (first.radius, second.radius), strict=True)
        extra = [(FRONT.at(wheel.middle), wheel.radius) for wheel in others]
        return Part(index, (*((FRONT.at(end), radius) for end, radius in ends), *extra), (), reach)
    outline = hull([point for solid in solids for point in _corners(solid)])
    return Part(index, (), outline, reach)


def _corners(solid: Solid) -> tuple[Point, ...]:
    """The outline of a solid in the elevation, a round one by points."""
    if isinstance(solid, Cylinder) and abs(abs(dot(solid.axis, FRONT.sight)) - 1) < NEAR:
        return tuple((x, y) for x, y in arc(FRONT.at(solid.middle), solid.radius, 0.0, 2 * pi))
    return solid.seen(FRONT)


def distance_mm(discs: Sequence[Disc], box: Box) -> float:
    """From what discs take up with the straight strands round each two of them to a box [mm]; below 0 inside it.

    The hull of two discs is every disc between them, and its distance to a box is convex along them.
    """
    pairs = list(combinations(discs, 2)) or [(discs[0], discs[0])]
    return min(_between_mm(one, other, box) for one, other in pairs)


def _between_mm(one: Disc, other: Disc, box: Box) -> float:
    def at(share: float) -> float:
        (x1, y1), (x2, y2) = one[0], other[0]
        center = x1 + share * (x2 - x1), y1 + share * (y2 - y1)
        return _to_box_mm(center, box) - (one[1] + share * (other[1] - one[1]))

    return least(at)


def _to_box_mm(point: Point, box: Box) -> float:
    """From a point to a box [mm]; inside it below 0, by how far the nearest edge is."""
    left, low, right, high = box
    aside, above = max(left - point[0], point[0] - right), max(low - point[1], point[1] - high)
    if aside <= 0 and above <= 0:
        return max(aside, above)
    return hypot(max(aside, 0.0), max(above, 0.0))


def findings(plan: Plan, line: LineResult) -> Iterator[Finding]:
    """What is in the way, and where the last shaft is not where it is wanted."""
    room = plan.room
    if line.unbridged or not plan.links or room == NO_ROOM:
        return
    yield from _in_the_way(room, clearances(plan, line))
    placed = place(plan, line)
    last, x = f"shaft-{len(line.shafts)}", placed.centers[-1][0]
    if room.in_line:
        yield judge(checks.IN_LINE, last, hypot(*placed.centers[-1]))
    yield from _within(last, x, (room.beside_low_mm, room.beside_high_mm), (checks.BESIDE_LOW, checks.BESIDE_HIGH))
    if room.motor_height_mm is not None:
        high = placed.centers[-1][1] + room.motor_height_mm
        yield from _within(last, high, (room.height_low_mm, room.height_high_mm), (checks.LOW, checks.HIGH))
        yield from _floor(placed, room.motor_height_mm)


def _within(
    subject: str, value: float, limits: tuple[float | None, float | None], rules: tuple[Check, Check]
) -> Iterator[Finding]:
    for limit, rule in zip(limits, rules, strict=True):
        if limit is not None:
            yield judge(rule, subject, value, limit)


def _floor(placed: Placed, motor_height_mm: float) -> Iterator[Finding]:
    """The wheel that reaches farthest below the floor."""
    found = [(part.lowest_mm + motor_height_mm, part.stage) for part in parts(placed) if part.stage >= 0]
    lowest = min(found, default=None)
    if lowest is not None and lowest[0] < 0:
        yield state(checks.BELOW_FLOOR, f"link-{lowest[1] + 1}", -lowest[0])


def _in_the_way(room: Room, found: Sequence[Clear]) -> Iterator[Finding]:
    """Of every stage the nearest obstacle, by the gravest of what is said of it."""
    nearest: dict[int, Clear] = {}
    for clear in sorted(found, key=lambda one: one.mm):
        nearest.setdefault(clear.stage, clear)
    for stage, clear in sorted(nearest.items()):
        if clear.mm < 0:
            yield state(checks.IN_THE_WAY, "motor" if stage < 0 else f"link-{stage + 1}", -clear.mm)
        elif stage >= 0:
            yield from _beside(room, clear)


def _beside(room: Room, clear: Clear) -> Iterator[Finding]:
    """Room for a guard, then for hands."""
    subject = f"link-{clear.stage + 1}"
    if room.guard_mm is not None and clear.mm < room.guard_mm:
        yield judge(checks.GUARD, subject, clear.mm, room.guard_mm)
    elif room.hands_mm is not None:
        yield judge(checks.HANDS, subject, clear.mm, room.hands_mm)
