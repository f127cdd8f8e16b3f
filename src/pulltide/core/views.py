"""A placed line from a side: wheels, loops and cases as outlines, seen from the end of their shafts or edge on."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import pairwise

from pulltide.core.belt_path import Round, belt_path
from pulltide.core.drawing import open_loop
from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.layout import Box, Placed, Stand, ends_of
from pulltide.core.links import family_of
from pulltide.core.machine import Plan
from pulltide.core.shafts import ShaftPart
from pulltide.core.sketch import Bow, Circle, Line, Loop, Shape, Straight
from pulltide.core.space import ABOVE, BASE, FRONT, Block, Cylinder, Point, Solid, Vec, View, X, cross, dot, hull, moved

#: Length of a motor over its height, and its shaft beyond that [mm], for the picture.
MOTOR_LONG, MOTOR_SHAFT_MM = 2.3, 20.0
#: A shaft of unknown size [mm], a bearing over the diameter of its shaft, a bare end of a shaft [mm]. For the picture.
THIN_MM, BEARING_ACROSS, BEARING_ALONG, END_MM = 16.0, 3.2, 1.3, 25.0
#: Half the width of a foot, and how thick it is [mm].
FOOT_HALF_MM, FOOT_MM = 9.0, 10.0
#: How thick the plate under a motor is drawn, and half the width of its slots [mm].
PLATE_MM, SLOT_HALF_MM = 12.0, 6.0
#: Width of what runs round wheels, over their face.
BAND_SHARE = 0.7
CORNER_SHARE = 0.12

Outline = tuple[Point, tuple[Straight | Bow, ...]]
Span = tuple[float, float]


def side_of(placed: Placed) -> View | None:
    """The side that neither the front nor the top shows: against a shaft turned level, from its free end."""
    for stand, picture in zip(placed.stands, placed.pictures, strict=True):
        if picture.role not in ("case", "coupling") and not (FRONT.along(stand.turned) or ABOVE.along(stand.turned)):
            right, up = stand.turned.right, stand.turned.up
            return View((-right[0], -right[1], -right[2]), up)
    return None


def far_to_near(placed: Placed, view: View) -> list[int]:
    """The stages as they cover each other, those that stand at one depth in their order."""

    def depth(index: int) -> float:
        stand = placed.stands[index]
        solids: tuple[Solid, ...] = (stand.block,) if stand.block is not None else placed.wheels(index)
        return min((dot(solid.middle, view.sight) for solid in solids), default=0.0)

    return sorted(range(len(placed.stands)), key=lambda index: -round(depth(index)))


def stage(placed: Placed, index: int, view: View) -> Iterator[Shape]:
    """What a stage looks like."""
    stand, picture, part = placed.stands[index], placed.pictures[index], f"link-{index + 1}"
    if stand.block is not None:
        yield Line(stand.block.seen(view), "case", closed=True, part=part)
        for foot in feet(placed, index):
            yield Line(foot.seen(view), "feet", closed=True)
        return
    wheels = placed.wheels(index)
    if picture.role == "coupling" and not view.along(stand.axes):
        middle = stand.axes.at(stand.driver, away=stand.face_mm / 2)
        whole = Cylinder(middle, stand.axes.away, wheels[0].radius, stand.face_mm / 2)
        yield Line(whole.seen(view), "wheel coupling", closed=True, part=part)
        return
    for number, wheel in enumerate(wheels):
        if wheel.radius:
            yield seen(wheel, view, f"wheel {picture.role}" if number < 2 else "wheel idler", part)
    if picture.role in ("belt", "chain"):
        yield from _round(placed, index, view)


def seen(solid: Solid, view: View, role: str, part: str = "") -> Shape:
    """A solid from a side: a circle from the end of its axis."""
    if isinstance(solid, Cylinder) and abs(abs(dot(solid.axis, view.sight)) - 1) < 1e-6:
        return Circle(view.at(solid.middle), solid.radius, role, part)
    return Line(solid.seen(view), role, closed=True, part=part)


def _round(placed: Placed, index: int, view: View) -> Iterator[Shape]:
    """What runs round the wheels of a stage: its path from the end of the shafts, a band edge on."""
    stand, picture, part = placed.stands[index], placed.pictures[index], f"link-{index + 1}"
    if view.along(stand.axes):
        loop = _path(stand, picture.path, view) if picture.path else around(placed, index, view)
        if loop is not None:
            yield Loop(*loop, f"loop {picture.role}", part)
        return
    half = stand.face_mm * BAND_SHARE / 2
    wheels = [Cylinder(wheel.middle, wheel.axis, wheel.radius, half) for wheel in placed.wheels(index)[:2]]
    outline = hull([point for wheel in wheels for point in wheel.seen(view)])
    yield Line(outline, f"band {picture.role}", closed=True, part=part)


def around(placed: Placed, index: int, view: View, more_mm: float = 0.0) -> Outline | None:
    """An open loop round both wheels of a stage, so far off them."""
    stand, picture = placed.stands[index], placed.pictures[index]
    first, second = (view.at(end) for end in ends_of(stand))
    return open_outline((first, second), (picture.driver_radius_mm + more_mm, picture.driven_radius_mm + more_mm))


def open_outline(ends: tuple[Point, Point], radii: tuple[float, float]) -> Outline | None:
    """Along the upper span, round the second wheel, back, round the first; None where one wheel holds the other."""
    (first, second), (r1, r2) = ends, radii
    try:
        loop = open_loop(first, r1, second, r2)
    except ImpossibleGeometry:
        return None
    (a, b), (c, d) = loop.upper, loop.lower
    return a, (
        Straight(b),
        Bow(d, r2, loop.wrap_second_deg > 180, clockwise=True),
        Straight(c),
        Bow(a, r1, loop.wrap_first_deg > 180, clockwise=True),
    )


def _path(stand: Stand, wheels: tuple[Round, ...], view: View) -> Outline:
    """Round every wheel of a belt, in belt order: counter-clockwise, clockwise where it runs on the belt's back."""
    mirrored = dot(cross(stand.axes.right, stand.axes.up), view.sight) < 0

    def at(point: Point) -> Point:
        return view.at(stand.axes.at(stand.driver, *point))

    path = belt_path(wheels)
    steps: list[Straight | Bow] = []
    for wrap, span, wheel in zip(path.wraps_deg, path.spans, wheels, strict=True):
        bow = Bow(at(span.start_mm), wheel.radius_mm, wrap > 180, clockwise=wheel.on_back != mirrored)
        steps += [bow, Straight(at(span.end_mm))]
    return steps[-1].to, tuple(steps)


def rounded(box: Box, role: str, part: str) -> Loop:
    """A box with round corners."""
    left, low, right, high = box
    r = CORNER_SHARE * min(right - left, high - low)
    corners = (
        ((right - r, low), (right, low + r)),
        ((right, high - r), (right - r, high)),
        ((left + r, high), (left, high - r)),
        ((left, low + r), (left + r, low)),
    )
    steps = [step for a, b in corners for step in (Straight(a), Bow(b, r, large=False, clockwise=False))]
    return Loop((left + r, low), tuple(steps), role, part)


def feet(placed: Placed, index: int) -> tuple[Block, ...]:
    """The feet of a case, a strip through the holes on either side, where it stands on some."""
    block, stands = placed.stands[index].block, placed.pictures[index].stands
    case = None if stands is None else stands.housing
    if block is None or case is None or case.foot_across_mm is None or case.foot_along_mm is None:
        return ()
    down, half = FOOT_MM / 2 - block.half[1], (FOOT_HALF_MM, FOOT_MM / 2, case.foot_along_mm / 2)
    sides = (-case.foot_across_mm / 2, case.foot_across_mm / 2)
    return tuple(Block(block.axes.at(block.middle, side, down), block.axes, half) for side in sides)


def motor(placed: Placed) -> tuple[Block, ...]:
    """The body of a motor, then its feet: behind its first wheel, or before what its shaft goes on into."""
    half, body = placed.motor_mm, placed.body
    face = placed.stands[0].face_mm / 2 if placed.stands else 0.0
    # a wheel stands at the end of the shaft, or as near to the body as its face lets it
    near = face + MOTOR_SHAFT_MM if body is None else max(face, body.shaft_long_mm - face)
    long = MOTOR_LONG * 2 * half * 0.75 if body is None else body.long_mm
    middle = near + long / 2
    if is_before(placed):
        middle = -long / 2 - (MOTOR_SHAFT_MM if body is None else body.shaft_long_mm)
    made = [Block((0.0, 0.0, middle), BASE, (half, half, long / 2))]
    if body is not None:
        size = (FOOT_HALF_MM, FOOT_MM / 2, body.foot_along_mm / 2)
        down = FOOT_MM / 2 - body.axis_height_mm
        made += [Block((side * body.foot_across_mm / 2, down, middle), BASE, size) for side in (-1, 1)]
    return tuple(made)


@dataclass(frozen=True, slots=True)
class SlideBase:
    """The plate that a motor slides on: its body, its slots, and how far it slides, as a way behind it [mm]."""

    plate: Block
    slots: tuple[Block, ...]
    travel: tuple[Vec, Vec]

    @property
    def travel_mm(self) -> float:
        """How far the motor slides [mm]."""
        return abs(self.travel[1][0] - self.travel[0][0])


def slide_base(plan: Plan, placed: Placed) -> SlideBase | None:
    """What the motor slides on to put its first belt on and to tighten it; None where nothing of it is known.

    Slots reach as far toward the driven shaft as the belt needs to go on, and as far away as it is tightened.
    """
    body, room = placed.body, family_of(plan.links[0].kind).slide(plan.links[0]) if plan.links else None
    if body is None or room is None or not placed.stands:
        return None
    x, y = placed.centers[1]
    if abs(x) < abs(y):  # pulled up or down: a level slide would not tighten it
        return None
    way = 1.0 if x > 0 else -1.0
    low, high = sorted((way * room[0], -way * room[1]))
    middle = motor(placed)[0].middle[2]
    down = -body.axis_height_mm - PLATE_MM / 2
    wide, along = body.feet_wide_mm / 2 + 2 * SLOT_HALF_MM, body.foot_along_mm / 2 + 4 * SLOT_HALF_MM
    plate = Block(((low + high) / 2, down, middle), BASE, (wide + (high - low) / 2, PLATE_MM / 2, along))
    size = ((high - low) / 2 + SLOT_HALF_MM, PLATE_MM / 2, SLOT_HALF_MM)
    bolts = [
        (side * body.foot_across_mm / 2, down, middle + end * body.foot_along_mm / 2)
        for side in (-1, 1)
        for end in (-1, 1)
    ]
    slots = tuple(Block(moved(bolt, X, (low + high) / 2), BASE, size) for bolt in bolts)
    far = max(plate.middle[2] + plate.half[2], middle + motor(placed)[0].half[2])
    start = (bolts[0][0] + low, down, far)
    return SlideBase(plate, slots, (start, moved(start, X, high - low)))


def is_before(placed: Placed) -> bool:
    """Whether the motor stands on the near side: where its first stage goes on behind its own end."""
    return bool(placed.stands) and dot(placed.stands[0].driven, BASE.away) > placed.stands[0].face_mm / 2


def origin(plan: Plan, placed: Placed, shaft: int) -> Vec | None:
    """Where the end that stations of a shaft, counted from 0, run from stands; None while no wheel is placed."""
    part = plan.shaft_part(shaft + 1)
    span = None if part is None else part.span
    if span is None:
        return None
    axes = placed.axes(shaft)
    if shaft and span.driven_at_mm is not None:
        return axes.at(placed.stands[shaft - 1].driven, away=-span.driven_at_mm)
    if shaft < len(placed.stands) and span.driver_at_mm is not None:
        return axes.at(placed.stands[shaft].driver, away=-span.driver_at_mm)
    return None


def rod(plan: Plan, placed: Placed, shaft: int) -> Cylinder:
    """A shaft from end to end: as entered, or a little beyond what stands on it."""
    part, axes, start = plan.shaft_part(shaft + 1), placed.axes(shaft), origin(plan, placed, shaft)
    if start is None or part is None or part.span is None or part.span.length_mm is None:
        near, far = _reach(placed, shaft)
        start, long = axes.at(placed.spots[shaft], away=near), far - near
    else:
        long = part.span.length_mm
    half = (part.diameter_mm if part is not None and part.diameter_mm else THIN_MM) / 2
    return Cylinder(axes.at(start, away=long / 2), axes.away, half, long / 2)


def _reach(placed: Placed, shaft: int) -> Span:
    """Both ends of a shaft whose length is not entered, from its first wheel."""
    spot, away = placed.spots[shaft], placed.axes(shaft).away
    stands, faces = [0.0], [END_MM / 2]
    if shaft < len(placed.stands):
        after = placed.stands[shaft]
        stands.append(dot(after.driver, away) - dot(spot, away))
        faces.append(after.face_mm)
    if shaft:
        faces.append(placed.stands[shaft - 1].face_mm)
    elif placed.stands:
        stands += [-MOTOR_SHAFT_MM, placed.stands[0].face_mm / 2 + MOTOR_SHAFT_MM]
    room = max(faces[1:], default=END_MM) / 2
    return min(stands) - room - END_MM / 2, max(stands) + room + END_MM


def bearings(plan: Plan, placed: Placed, shaft: int) -> Iterator[Block]:
    """Bearings of a shaft where they are entered."""
    part, start = plan.shaft_part(shaft + 1), origin(plan, placed, shaft)
    if start is None or part is None or part.span is None:
        return
    across, along = _bearing_mm(part)
    axes = placed.axes(shaft)
    for at in part.span.bearings_mm:
        yield Block(axes.at(start, away=at), axes, (across / 2, across / 2, along / 2))


def _bearing_mm(part: ShaftPart) -> Span:
    size = part.diameter_mm or THIN_MM
    return size * BEARING_ACROSS, size * BEARING_ALONG


def offsets(placed: Placed) -> Iterator[tuple[Vec, Vec, float]]:
    """From plane to plane of neighboring stages, along the shaft that they share: both ends and how far [mm]."""
    solid = [picture.role in ("case", "coupling") for picture in placed.pictures]
    for index, (before, after) in enumerate(pairwise(placed.stands)):
        far = dot(after.driver, after.axes.away) - dot(before.driven, after.axes.away)
        if abs(far) > 1 and not (solid[index] or solid[index + 1]):
            yield before.driven, after.driver, abs(far)
