"""Whether wheels, shafts and bearings of a line find room beside each other: what overlaps, and by how much.

Where two things stand along their shafts is judged only as far as it is entered; what a case or coupling adds along
the line is a guess of the picture and is not gone by.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import hypot

from pulltide.core.findings import Finding, Remark, state
from pulltide.core.fit import checks
from pulltide.core.fit.bearings import bearing_for
from pulltide.core.fit.shaft import is_free
from pulltide.core.layout import Placed, place
from pulltide.core.line_result import LineResult
from pulltide.core.machine import Plan
from pulltide.core.plan_view import Across, across, origin_mm
from pulltide.core.shafts import ShaftPart

#: Shafts nearer than this stand on one axis, and overlaps below it are none [mm].
NEAR_MM = 1.0


@dataclass(frozen=True, slots=True)
class Wheel:
    """A wheel where it stands: its shaft and its stage, counted from 0, its radius as a solid disc, both faces [mm]."""

    shaft: int
    stage: int
    radius_mm: float
    along_mm: tuple[float, float]


def findings(plan: Plan, line: LineResult) -> Iterator[Finding]:
    """What overlaps: wheels and bearings along one shaft, then wheels with shafts and wheels of other stages."""
    if line.unbridged:
        return
    for part in plan.shafts:
        # what was entered while a shaft had bearings of its own is kept, and not gone by once a case carries it
        if part.span is not None and part.shaft <= len(line.shafts) and is_free(plan, part.shaft):
            yield from _along(line, part)
    if len(plan.links) < 2:
        return
    placed = place(plan, line)
    found = across(plan, line, placed)
    wheels = tuple(_wheels(line, found))
    yield from _shafts(plan, placed, found, wheels)
    yield from _clashes(placed, found, wheels)


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


def _wheels(line: LineResult, found: Across) -> Iterator[Wheel]:
    for stage in range(len(line.links)):
        for shaft, side, at in ((stage, "driver", 0), (stage + 1, "driven", 1)):
            outside, face = _size_mm(line, stage, side)
            if outside:
                middle = found.ends[stage][at]
                yield Wheel(shaft, stage, outside / 2, (middle - face / 2, middle + face / 2))


def _is_known(found: Across, placed: Placed, first: int, second: int) -> bool:
    """Whether two stages, counted from 0, stand to each other along the line as entered, without a guess."""
    low, high = sorted((first, second))
    guessed = any(shaft + 1 in found.assumed for shaft in range(low + 1, high + 1))
    return not guessed and not any(placed.pictures[k].role in ("case", "coupling") for k in range(low, high + 1))


def _is_cased(placed: Placed, first: int, second: int) -> bool:
    """Whether a case stands between two shafts, counted from 0: wheels stand outside it, off its other shaft."""
    low, high = sorted((first, second))
    return any(picture.role in ("case", "coupling") for picture in placed.pictures[low:high])


def _apart_mm(placed: Placed, first: int, second: int) -> float:
    (x1, y1), (x2, y2) = placed.centers[first], placed.centers[second]
    return hypot(x2 - x1, y2 - y1)


def _shafts(plan: Plan, placed: Placed, found: Across, wheels: tuple[Wheel, ...]) -> Iterator[Finding]:
    """Every shaft that a wheel of a stage beyond its own reaches across: run into, or only to be kept short."""
    for shaft in range(len(placed.centers)):
        part = plan.shaft_part(shaft + 1)
        half = (part.diameter_mm or 0.0) / 2 if part is not None else 0.0
        cut, over = [], []
        for wheel in wheels:
            apart = _apart_mm(placed, wheel.shaft, shaft)
            overlap = wheel.radius_mm + half - apart
            own = shaft in (wheel.stage, wheel.stage + 1) or _is_cased(placed, wheel.shaft, shaft)
            if own or apart < NEAR_MM or overlap <= NEAR_MM:
                continue
            ends = _ends_mm(plan, placed, found, shaft, wheel.stage)
            if ends is None:
                over.append(overlap)
            elif ends[0] < wheel.along_mm[1] and wheel.along_mm[0] < ends[1]:
                cut.append(overlap)
        yield from _worst(checks.CUTS, f"shaft-{shaft + 1}", cut)
        if not cut:
            yield from _worst(checks.OVER, f"shaft-{shaft + 1}", over)


def _ends_mm(plan: Plan, placed: Placed, found: Across, shaft: int, stage: int) -> tuple[float, float] | None:
    """Both ends of a shaft on the scale of the stages [mm]; None while they do not stand to a stage as entered."""
    part, origin = plan.shaft_part(shaft + 1), origin_mm(plan, found, shaft)
    span = None if part is None else part.span
    if span is None or span.length_mm is None or origin is None or not is_free(plan, shaft + 1):
        return None
    own = shaft - 1 if shaft and span.driven_at_mm is not None else shaft
    return (origin, origin + span.length_mm) if _is_known(found, placed, own, stage) else None


def _clashes(placed: Placed, found: Across, wheels: tuple[Wheel, ...]) -> Iterator[Finding]:
    """Wheels of different stages on different shafts whose faces and circles overlap, where both are known."""
    overlaps: dict[int, list[float]] = {}
    for k, one in enumerate(wheels):
        for other in wheels[k + 1 :]:
            if one.stage == other.stage or one.shaft == other.shaft:
                continue
            deep = one.radius_mm + other.radius_mm - _apart_mm(placed, one.shaft, other.shaft)
            beside = one.along_mm[0] >= other.along_mm[1] or other.along_mm[0] >= one.along_mm[1]
            if deep > NEAR_MM and not beside and _is_known(found, placed, one.stage, other.stage):
                overlaps.setdefault(max(one.shaft, other.shaft), []).append(deep)
    for shaft, deep_mm in overlaps.items():
        yield from _worst(checks.CLASH, f"shaft-{shaft + 1}", deep_mm)
