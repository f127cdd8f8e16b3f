"""Whether a drive keeps clear of its floor, of what stands in its way, and stands where it is wanted."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import combinations
from math import hypot

from pulltide.core.findings import Check, Finding, judge, state
from pulltide.core.fit import checks
from pulltide.core.layout import Placed, Point, place
from pulltide.core.line_result import LineResult
from pulltide.core.machine import Plan
from pulltide.core.plan_view import Across, across
from pulltide.core.room import Obstacle, Room

#: Steps in which the nearest place of a strand is looked for: the interval shrinks to (2/3)^40 of it.
STEPS = 40

Disc = tuple[Point, float]


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
    found = across(plan, line, placed)
    made = []
    for obstacle in plan.room.obstacles:
        box = box_of(obstacle, plan.room.motor_height_mm)
        near = [(distance_mm(discs, box), stage) for stage, discs in _parts(placed) if _meets(obstacle, found, stage)]
        if near:
            mm, stage = min(near)
            made.append(Clear(obstacle, stage, mm))
    return tuple(made)


def box_of(obstacle: Obstacle, motor_height_mm: float) -> tuple[float, float, float, float]:
    """Left, low, right and high edge with the motor's shaft at the origin [mm]."""
    low = obstacle.bottom_mm - motor_height_mm
    return obstacle.left_mm, low, obstacle.left_mm + obstacle.wide_mm, low + obstacle.high_mm


def _parts(placed: Placed) -> Iterator[tuple[int, tuple[Disc, ...]]]:
    """The motor, and what every stage takes up, as discs whose hull it fills."""
    yield -1, ((placed.centers[0], placed.motor_mm),)
    for index, picture in enumerate(placed.pictures):
        first, second = placed.centers[index], placed.centers[index + 1]
        if picture.role == "case":
            yield index, ((first, picture.case_half_height_mm), (second, picture.case_half_height_mm))
            continue
        extra = [((first[0] + wheel.at_mm[0], first[1] + wheel.at_mm[1]), wheel.radius_mm) for wheel in picture.extra]
        yield index, ((first, picture.driver_radius_mm), (second, picture.driven_radius_mm), *extra)


def _meets(obstacle: Obstacle, found: Across, stage: int) -> bool:
    """Whether an obstacle stands where a stage does across the drive; so it is taken where that is not known."""
    if stage < 0 or (obstacle.near_mm is None and obstacle.far_mm is None):
        return True
    if any(shaft <= stage + 1 for shaft in found.assumed):
        return True
    half = found.faces[stage] / 2
    near, far = min(found.ends[stage]) - half, max(found.ends[stage]) + half
    begins = obstacle.near_mm is None or obstacle.near_mm < far
    return begins and (obstacle.far_mm is None or near < obstacle.far_mm)


def distance_mm(discs: Sequence[Disc], box: tuple[float, float, float, float]) -> float:
    """From what discs take up with the straight strands round each two of them to a box [mm]; below 0 inside it.

    The hull of two discs is every disc between them, and its distance to a box is convex along them.
    """
    pairs = list(combinations(discs, 2)) or [(discs[0], discs[0])]
    return min(_between_mm(one, other, box) for one, other in pairs)


def _between_mm(one: Disc, other: Disc, box: tuple[float, float, float, float]) -> float:
    def at(share: float) -> float:
        (x1, y1), (x2, y2) = one[0], other[0]
        center = x1 + share * (x2 - x1), y1 + share * (y2 - y1)
        return _to_box_mm(center, box) - (one[1] + share * (other[1] - one[1]))

    low, high = 0.0, 1.0
    for _ in range(STEPS):
        third = (high - low) / 3
        if at(low + third) <= at(high - third):
            high -= third
        else:
            low += third
    return min(at(0.0), at(1.0), at((low + high) / 2))


def _to_box_mm(point: Point, box: tuple[float, float, float, float]) -> float:
    """From a point to a box [mm]; inside it below 0, by how far the nearest edge is."""
    left, low, right, high = box
    aside, above = max(left - point[0], point[0] - right), max(low - point[1], point[1] - high)
    if aside <= 0 and above <= 0:
        return max(aside, above)
    return hypot(max(aside, 0.0), max(above, 0.0))


def findings(plan: Plan, line: LineResult) -> Iterator[Finding]:
    """What is in the way, and where the last shaft is not where it is wanted."""
    room = plan.room
    if line.unbridged or not plan.links:
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
    found = []
    for stage, discs in _parts(placed):
        found += [(center[1] - radius + motor_height_mm, stage) for center, radius in discs if stage >= 0 and radius]
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
