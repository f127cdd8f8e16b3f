"""Whether wheels, shafts and bearings of a line find room beside each other: what overlaps, and by how much.

Where two things stand along their shafts is judged only as far as it is entered; what a case or coupling adds along
the line is a guess of the picture and is not gone by.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import combinations
from math import hypot

from pulltide.core.findings import Finding, Remark, state
from pulltide.core.fit import checks, passing
from pulltide.core.fit.bearings import bearing_for
from pulltide.core.fit.shaft import is_free
from pulltide.core.layout import Placed, place
from pulltide.core.line_result import LineResult
from pulltide.core.machine import Plan
from pulltide.core.shafts import ShaftPart
from pulltide.core.space import NEAR, Cylinder, Vec, cross, dot, least, moved, overlap_mm
from pulltide.core.views import origin, rod

#: Shafts nearer than this stand on one axis, and overlaps below it are none [mm].
NEAR_MM = 1.0


@dataclass(frozen=True, slots=True)
class Wheel:
    """A wheel where it stands, to its outside: its shaft and its stage, counted from 0."""

    shaft: int
    stage: int
    disc: Cylinder


def findings(plan: Plan, line: LineResult) -> Iterator[Finding]:
    """What overlaps: wheels and bearings along one shaft, then wheels with shafts and wheels of other stages."""
    if line.unbridged:
        return
    for part in plan.shafts:
        # what was entered while a shaft had bearings of its own is kept, and not gone by once a case carries it
        if part.span is not None and part.shaft <= len(line.shafts) and is_free(plan, part.shaft):
            yield from _along(line, part)
    if not plan.links:
        return
    placed = place(plan, line)
    wheels = tuple(_wheels(line, placed))
    yield from passing.findings(plan, line, placed)
    yield from _shafts(plan, placed, wheels)
    yield from _clashes(placed, wheels)


def _size_mm(line: LineResult, stage: int, side: str) -> tuple[float, float]:
    """Outside and face of a stage's largest wheel on one side [mm]; nothing where it has none."""
    if not 0 <= stage < len(line.links):
        return 0.0, 0.0
    discs = [disc for disc in line.links[stage].transmission.discs if disc.side == side]
    return max((disc.outside_mm for disc in discs), default=0.0), max((disc.face_mm for disc in discs), default=0.0)


def _along(line: LineResult, part: ShaftPart) -> Iterator[Finding]:
    """Along one shaft: its two wheels, and each wheel with each bearing. The worst of either."""
    span, subject = part.span, f"shaft-{part.shaft}"
    assert span is not None
    stands = ((span.driven_at_mm, part.shaft - 2, "driven"), (span.driver_at_mm, part.shaft - 1, "driver"))
    wheels = [(at, _size_mm(line, stage, side)[1]) for at, stage, side in stands if at is not None]
    wheels = [(at, face) for at, face in wheels if face]
    if len(wheels) == 2:
        (a, face_a), (b, face_b) = wheels
        yield from _worst(checks.FACES, subject, [(face_a + face_b) / 2 - abs(a - b)])
    insert = bearing_for(part.diameter_mm, span.bearing) if part.diameter_mm else None
    width = insert.width_mm if insert is not None else 0.0
    overlaps = [(face + width) / 2 - abs(at - bearing) for at, face in wheels for bearing in span.bearings_mm]
    yield from _worst(checks.ON_BEARING, subject, overlaps)


def _worst(rule: Remark, subject: str, overlaps_mm: list[float]) -> Iterator[Finding]:
    worst = max(overlaps_mm, default=0.0)
    if worst > NEAR_MM:
        yield state(rule, subject, worst)


def _wheels(line: LineResult, placed: Placed) -> Iterator[Wheel]:
    for stage, stand in enumerate(placed.stands):
        sides = ((stage, "driver", stand.driver, stand.axes), (stage + 1, "driven", stand.driven, stand.turned))
        bodies = placed.bodies(stage)[:2] or (None, None)
        for (shaft, side, middle, axes), body in zip(sides, bodies, strict=True):
            outside, face = _size_mm(line, stage, side)
            if outside:
                radius = max(outside / 2, body.radius if body is not None else 0.0)
                yield Wheel(shaft, stage, Cylinder(middle, axes.away, radius, face / 2))


def _is_known(placed: Placed, first: int, second: int) -> bool:
    """Whether two stages, counted from 0, stand to each other along the line as entered, without a guess."""
    low, high = sorted((first, second))
    guessed = any(shaft + 1 in placed.assumed for shaft in range(low + 1, high + 1))
    return not guessed and not any(placed.pictures[k].role in ("case", "coupling") for k in range(low, high + 1))


def _is_cased(placed: Placed, first: int, second: int) -> bool:
    """Whether a case stands between two shafts, counted from 0: wheels stand outside it, off its other shaft."""
    low, high = sorted((first, second))
    return any(picture.role in ("case", "coupling") for picture in placed.pictures[low:high])


def _apart_mm(one: Cylinder, point: Vec, axis: Vec) -> float | None:
    """From the axis of a wheel to a parallel one [mm]; None where they are not parallel."""
    if abs(abs(dot(one.axis, axis)) - 1) > NEAR:
        return None
    return hypot(*cross(moved(one.middle, point, -1.0), axis))


def _shafts(plan: Plan, placed: Placed, wheels: tuple[Wheel, ...]) -> Iterator[Finding]:
    """Every shaft that a wheel of a stage beyond its own reaches across: run into, or only to be kept short."""
    for shaft in range(len(placed.spots)):
        cut, over = [*_round_shaft(plan, placed, shaft)], []
        for wheel in wheels:
            if shaft in (wheel.stage, wheel.stage + 1) or _is_cased(placed, wheel.shaft, shaft):
                continue
            rod = _rod(plan, placed, shaft, wheel.stage)
            if rod is None:
                over.append(_across_mm(plan, placed, shaft, wheel))
            else:
                cut.append(_into_mm(wheel.disc, rod))
        yield from _worst(checks.CUTS, f"shaft-{shaft + 1}", cut)
        if not any(deep > NEAR_MM for deep in cut):
            yield from _worst(checks.OVER, f"shaft-{shaft + 1}", over)


def _across_mm(plan: Plan, placed: Placed, shaft: int, wheel: Wheel) -> float:
    """How far a wheel reaches across a parallel shaft whose ends are not known [mm]; 0 for one at an angle."""
    apart = _apart_mm(wheel.disc, placed.spots[shaft], placed.axes(shaft).away)
    part = plan.shaft_part(shaft + 1)
    half = (part.diameter_mm or 0.0) / 2 if part is not None else 0.0
    return 0.0 if apart is None or apart < NEAR_MM else wheel.disc.radius + half - apart


def _into_mm(disc: Cylinder, rod: Cylinder) -> float:
    """How deep a wheel stands in a shaft of known ends [mm]; 0 for one on its own axis."""
    apart = _apart_mm(disc, rod.middle, rod.axis)
    if apart is None:
        return overlap_mm(disc, rod)
    return disc.radius + rod.radius - apart if apart >= NEAR_MM and _meet(disc, rod) else 0.0


def _rod(plan: Plan, placed: Placed, shaft: int, stage: int) -> Cylinder | None:
    """A shaft whose ends are entered; None while they do not stand to a stage as entered."""
    part = plan.shaft_part(shaft + 1)
    span = None if part is None else part.span
    if span is None or span.length_mm is None or origin(plan, placed, shaft) is None or not is_free(plan, shaft + 1):
        return None
    own = shaft - 1 if shaft and span.driven_at_mm is not None else shaft
    return rod(plan, placed, shaft) if _is_known(placed, own, stage) else None


def _round_shaft(plan: Plan, placed: Placed, shaft: int) -> Iterator[float]:
    """How far belts and chains of stages beyond its own reach into a shaft, or run round it [mm]."""
    for loop in _loops(placed):
        if shaft in (loop.stage, loop.stage + 1) or _is_cased(placed, loop.stage, shaft):
            continue
        rod = _rod(plan, placed, shaft, loop.stage)
        if rod is not None and abs(abs(dot(rod.axis, loop.first.axis)) - 1) < NEAR and _meet(loop.first, rod):
            yield -loop.to_mm(rod)


@dataclass(frozen=True, slots=True)
class Run:
    """What runs round two wheels of a stage, as far as they reach."""

    stage: int
    first: Cylinder
    second: Cylinder

    def to_mm(self, rod: Cylinder) -> float:
        """From it to a parallel round body, seen along both [mm]; below 0 inside."""
        return least(lambda share: self._between_mm(share, rod.middle)) - rod.radius

    def from_mm(self, other: Run) -> float:
        """From it to another on parallel shafts, seen along them [mm]; below 0 inside. Convex in both places."""

        def at(share: float) -> float:
            way = moved(other.second.middle, other.first.middle, -1.0)
            radius = other.first.radius + share * (other.second.radius - other.first.radius)
            point = moved(other.first.middle, way, share)
            return least(lambda own: self._between_mm(own, point)) - radius

        return least(at)

    def _between_mm(self, share: float, point: Vec) -> float:
        way = moved(self.second.middle, self.first.middle, -1.0)
        off = cross(moved(moved(self.first.middle, way, share), point, -1.0), self.first.axis)
        return hypot(*off) - self.first.radius - share * (self.second.radius - self.first.radius)


def _loops(placed: Placed) -> Iterator[Run]:
    """Every open belt and chain."""
    for index, picture in enumerate(placed.pictures):
        if picture.role in ("belt", "chain") and not picture.path:
            first, second, *_ = placed.bodies(index)
            yield Run(index, first, second)


def _clashes(placed: Placed, wheels: tuple[Wheel, ...]) -> Iterator[Finding]:
    """Wheels of different stages on different shafts that stand in each other, where both are known; then loops."""
    overlaps: dict[int, list[float]] = {}
    reported: set[tuple[int, int]] = set()
    for one, other in combinations(wheels, 2):
        if one.stage == other.stage or one.shaft == other.shaft or not _is_known(placed, one.stage, other.stage):
            continue
        deep = _deep_mm(one.disc, other.disc)
        if deep > NEAR_MM:
            overlaps.setdefault(max(one.shaft, other.shaft), []).append(deep)
            reported.add((one.stage, other.stage))
    for shaft, deep_mm in overlaps.items():
        yield from _worst(checks.CLASH, f"shaft-{shaft + 1}", deep_mm)
    for run, other_run in combinations(_loops(placed), 2):
        # neighbors share a shaft, on which their faces are held against each other
        if other_run.stage - run.stage > 1 and (run.stage, other_run.stage) not in reported:
            yield from _crossed(placed, run, other_run)


def _crossed(placed: Placed, one: Run, other: Run) -> Iterator[Finding]:
    parallel = abs(abs(dot(one.first.axis, other.first.axis)) - 1) < NEAR
    if parallel and _meet(one.first, other.first) and _is_known(placed, one.stage, other.stage):
        yield from _worst(checks.CROSSED, f"link-{other.stage + 1}", [-one.from_mm(other)])


def _meet(one: Cylinder, other: Cylinder) -> bool:
    """Whether two parallel bodies stand beside each other along their axes."""
    return abs(dot(moved(one.middle, other.middle, -1.0), one.axis)) < one.half + other.half


def _deep_mm(one: Cylinder, other: Cylinder) -> float:
    """How far two wheels stand in each other [mm]: across parallel shafts by their circles, if their faces meet."""
    apart = _apart_mm(one, other.middle, other.axis)
    if apart is None:
        return overlap_mm(one, other)
    return one.radius + other.radius - apart if _meet(one, other) else 0.0
