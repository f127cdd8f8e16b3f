"""The plan of a line as a drawing: the drive from above, on the verticals of its elevation, the near side at the foot.

Where stations along the shafts are entered the wheels stand there; elsewhere each stage stands behind the one before.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

from pulltide.core.layout import Placed, place
from pulltide.core.line_result import LineResult
from pulltide.core.links import family_of
from pulltide.core.machine import Plan
from pulltide.core.shafts import ShaftPart
from pulltide.core.sketch import Dimension, Line, Sketch, Text
from pulltide.core.transmission import AnyTransmission

#: Between the faces of neighbors that nobody placed, and beyond the last of a shaft [mm]. For the picture alone.
GAP_MM, END_MM = 15.0, 25.0
#: Length of a motor over its height, its shaft beyond that, and of a reducer's case over its height, for the picture.
MOTOR_LONG, MOTOR_SHAFT_MM, CASE_LONG = 2.3, 20.0, 0.9
#: A shaft of unknown size, and a bearing of one of known size: across and along, over its diameter. For the picture.
THIN_MM, BEARING_ACROSS, BEARING_ALONG = 16.0, 3.2, 1.3
#: Half the width of a foot seen from above [mm].
FOOT_HALF_MM = 9.0
#: Width of what runs round wheels, over their face.
BAND_SHARE = 0.7
#: A wheel that says nothing of its face [mm].
FACE_MM = 20.0

Span = tuple[float, float]


@dataclass(frozen=True, slots=True)
class Across:
    """Where the stages of a line stand across: the middle of the wheel on either shaft [mm], away from the viewer.

    ``assumed`` are the shafts, from 1, whose wheels nobody placed.
    """

    ends: tuple[tuple[float, float], ...]
    faces: tuple[float, ...]
    assumed: tuple[int, ...]


def across(plan: Plan, line: LineResult, placed: Placed) -> Across:
    """Put the stages one behind the other, as the shafts between them say."""
    made = tuple(family_of(link.kind).prepare(link, step) for link, step in zip(plan.links, line.setting, strict=True))
    faces = tuple(_face_mm(one) for one in made)
    ends: list[tuple[float, float]] = []
    assumed: list[int] = []
    at = 0.0
    for index, picture in enumerate(placed.pictures):
        if index:
            step = _placed_step(plan.shaft_part(index + 1))
            if step is None and line.shafts[index].number not in _moved(placed, index):
                assumed.append(index + 1)
            at = ends[-1][1] + (_assumed_step(placed, faces, index) if step is None else step)
        along = 2 * picture.case_half_height_mm * CASE_LONG if picture.role == "case" else 0.0
        along = faces[index] if picture.role == "coupling" else along
        ends.append((at, at + along))
    return Across(tuple(ends), faces, tuple(assumed))


def _moved(placed: Placed, index: int) -> tuple[int, ...]:
    """A shaft that two housings share needs no station: they are bolted end to end."""
    return (index + 1,) if _is_solid(placed, index) or _is_solid(placed, index - 1) else ()


def _is_solid(placed: Placed, index: int) -> bool:
    return placed.pictures[index].role in ("case", "coupling")


def _face_mm(made: AnyTransmission) -> float:
    return max((disc.face_mm for disc in made.discs if disc.side != "between"), default=FACE_MM)


def _placed_step(part: ShaftPart | None) -> float | None:
    """From the wheel of the stage before to that of the stage after, as entered [mm]."""
    span = None if part is None else part.span
    if span is None or span.driven_at_mm is None or span.driver_at_mm is None:
        return None
    return span.driver_at_mm - span.driven_at_mm


def _assumed_step(placed: Placed, faces: tuple[float, ...], index: int) -> float:
    """Faces beside each other with a gap; what has a case begins beyond the wheel before it."""
    before = 0.0 if _is_solid(placed, index - 1) else faces[index - 1] / 2
    after = 0.0 if _is_solid(placed, index) else faces[index] / 2
    return before + GAP_MM + after


def plan_view(plan: Plan, line: LineResult) -> tuple[Sketch, Across]:
    """Draw a solved line from above: x as in the elevation, y away from the viewer."""
    placed = place(plan, line)
    found = across(plan, line, placed)
    drawing = Sketch("Plan of the drive, from above")
    for index, (x, _) in enumerate(placed.centers):
        _shaft(drawing, x, _reach(plan, placed, found, index), plan.shaft_part(index + 1))
    _motor(drawing, placed, found)
    for index, picture in enumerate(placed.pictures):
        ends = (placed.centers[index][0], placed.centers[index + 1][0])
        if picture.role == "case":
            _case(drawing, ends, found.ends[index], picture.case_half_height_mm, f"link-{index + 1}")
        else:
            _wheels(drawing, placed, found, index)
    for index in range(len(placed.centers)):
        _bearings(drawing, placed.centers[index][0], origin_mm(plan, found, index), plan.shaft_part(index + 1))
    _measures(drawing, placed, found)
    return drawing, found


def origin_mm(plan: Plan, found: Across, index: int) -> float | None:
    """Where the end that stations of a shaft, counted from 0, run from stands [mm]; None while no wheel is placed."""
    part = plan.shaft_part(index + 1)
    span = None if part is None else part.span
    if span is None:
        return None
    if index and span.driven_at_mm is not None:
        return found.ends[index - 1][1] - span.driven_at_mm
    if index < len(found.ends) and span.driver_at_mm is not None:
        return found.ends[index][0] - span.driver_at_mm
    return None


def _reach(plan: Plan, placed: Placed, found: Across, index: int) -> Span:
    """Both ends of a shaft: as entered, or beyond what stands on it."""
    origin, part = origin_mm(plan, found, index), plan.shaft_part(index + 1)
    if origin is not None and part is not None and part.span is not None and part.span.length_mm is not None:
        return origin, origin + part.span.length_mm
    stands = [found.ends[index - 1][1]] if index else [-MOTOR_SHAFT_MM, found.faces[0] / 2 + MOTOR_SHAFT_MM]
    stands += [found.ends[index][0]] if index < len(found.ends) else []
    room = max([found.faces[k] for k in (index - 1, index) if 0 <= k < len(found.faces)], default=FACE_MM) / 2
    return min(stands) - room - END_MM / 2, max(stands) + room + END_MM


def _box(drawing: Sketch, across_x: Span, along: Span, role: str, part: str = "") -> None:
    (left, right), (near, far) = across_x, along
    corners = ((left, near), (right, near), (right, far), (left, far))
    drawing.shapes.append(Line(corners, role, closed=True, part=part))


def _shaft(drawing: Sketch, x: float, reach: Span, part: ShaftPart | None) -> None:
    half = (part.diameter_mm if part is not None and part.diameter_mm else THIN_MM) / 2
    _box(drawing, (x - half, x + half), reach, "rod")


def _motor(drawing: Sketch, placed: Placed, found: Across) -> None:
    """The body behind its first wheel, or behind its shaft's end where there is none."""
    x, half, body = placed.centers[0][0], placed.motor_mm, placed.body
    face = found.faces[0] / 2 if found.faces else 0.0
    # a wheel stands at the end of the shaft, or as near to the body as its face lets it
    near = face + MOTOR_SHAFT_MM if body is None else max(face, body.shaft_long_mm - face)
    long = MOTOR_LONG * 2 * half * 0.75 if body is None else body.long_mm
    _box(drawing, (x - half, x + half), (near, near + long), "motor", "motor")
    if body is not None:
        reach = near + long / 2 - body.foot_along_mm / 2, near + long / 2 + body.foot_along_mm / 2
        for side in (-1, 1):
            middle = x + side * body.foot_across_mm / 2
            _box(drawing, (middle - FOOT_HALF_MM, middle + FOOT_HALF_MM), reach, "feet")


def _case(drawing: Sketch, ends: Span, along: Span, half: float, part: str) -> None:
    low, high = sorted(ends)
    inset = GAP_MM / 2
    _box(drawing, (low - 0.8 * half, high + 0.8 * half), (along[0] + inset, along[1] - inset), "case", part)


def _wheels(drawing: Sketch, placed: Placed, found: Across, index: int) -> None:
    picture, face, part = placed.pictures[index], found.faces[index], f"link-{index + 1}"
    xs = (placed.centers[index][0], placed.centers[index + 1][0])
    radii = (picture.driver_radius_mm, picture.driven_radius_mm)
    if picture.role == "coupling":
        _box(drawing, (xs[0] - radii[0], xs[0] + radii[0]), found.ends[index], "wheel coupling", part)
        return
    for x, radius, at in zip(xs, radii, found.ends[index], strict=True):
        if radius:
            _box(drawing, (x - radius, x + radius), (at - face / 2, at + face / 2), f"wheel {picture.role}", part)
    for wheel in picture.extra:
        x, at = xs[0] + wheel.at_mm[0], found.ends[index][0]
        _box(drawing, (x - wheel.radius_mm, x + wheel.radius_mm), (at - face / 2, at + face / 2), "wheel idler", part)
    if picture.role in ("belt", "chain"):
        left = min(xs[0] - radii[0], xs[1] - radii[1])
        right = max(xs[0] + radii[0], xs[1] + radii[1])
        half, at = face * BAND_SHARE / 2, found.ends[index][0]
        _box(drawing, (left, right), (at - half, at + half), f"band {picture.role}", part)


def _bearings(drawing: Sketch, x: float, origin: float | None, part: ShaftPart | None) -> None:
    if origin is None or part is None or part.span is None:
        return
    size = part.diameter_mm or THIN_MM
    for at in part.span.bearings_mm:
        along = (origin + at - size * BEARING_ALONG / 2, origin + at + size * BEARING_ALONG / 2)
        _box(drawing, (x - size * BEARING_ACROSS / 2, x + size * BEARING_ACROSS / 2), along, "bearing")


def _measures(drawing: Sketch, placed: Placed, found: Across) -> None:
    """From plane to plane of neighboring stages, at the shaft that they share; names of the first and last shaft."""
    for index, (before, after) in enumerate(pairwise(found.ends), start=1):
        x = placed.centers[index][0]
        if abs(after[0] - before[1]) > 1 and not (_is_solid(placed, index) or _is_solid(placed, index - 1)):
            offset = after[0] - before[1]
            drawing.shapes.append(Dimension((x, before[1]), (x, after[0]), "", abs(offset), "mm", 0.0))
    if found.assumed:
        numbers = ", ".join(str(number) for number in found.assumed)
        drawing.shapes.append(Text((0.0, 0.0), f"Places along shaft {numbers} are assumed until entered below", "note"))
