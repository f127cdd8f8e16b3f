"""The elevation of a line as a drawing: motor, cases, wheels, belts and chains to scale, senses, center distances."""

from __future__ import annotations

from pulltide.core.belt_path import Round, belt_path
from pulltide.core.drawing import IN_LINE, LinkPicture, open_loop
from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.fit.surroundings import box_of
from pulltide.core.layout import Placed, Point, place
from pulltide.core.line_result import LineResult
from pulltide.core.machine import Plan
from pulltide.core.sketch import Axle, Bow, Circle, Dimension, Line, Loop, Sketch, Straight, Text, Turning

#: Half the width of a motor's foot over half its height, and of a reducer's case.
FOOT_SHARE, CASE_SHARE = 0.82, 0.8
CORNER_SHARE = 0.12
#: Half the width of what stands under a motor's body over its radius, and how thick its feet are drawn [mm].
BODY_SHARE, FOOT_MM = 0.7, 10.0
#: A sense of turning is drawn at this share of the largest wheel of its shaft.
TURN_SHARE = 0.62
#: Half the height of a case is drawn at least this large, as a share of the whole width.
MIN_CASE_SHARE = 0.013


def elevation(plan: Plan, line: LineResult) -> Sketch:
    """Draw a solved line. Each shape names its part (``motor``, ``link-2``), so that a screen can mark it."""
    placed = place(plan, line)
    drawing = Sketch("Elevation of the drive")
    _room(drawing, plan, placed)
    _motor(drawing, placed)
    for index, picture in enumerate(placed.pictures):
        _link(drawing, picture, (placed.centers[index], placed.centers[index + 1]), placed, f"link-{index + 1}")
    for index, picture in enumerate(placed.pictures):
        if picture.in_line:
            drawing.shapes.append(Line((placed.centers[index], placed.centers[index + 1]), "axis", closed=False))
    drawing.shapes += [Axle(center) for center in placed.centers]
    _senses(drawing, placed, line)
    _center_distances(drawing, placed, line)
    _words(drawing, placed, line)
    return drawing


def _motor(drawing: Sketch, placed: Placed) -> None:
    (x, y), radius, floor = placed.centers[0], placed.motor_mm, placed.floor_mm
    half = FOOT_SHARE * radius if placed.body is None else placed.body.feet_wide_mm / 2
    left, right = x - half, x + half
    feet = floor if placed.feet_mm is None else placed.feet_mm
    if feet > floor + FOOT_MM:
        stand = ((left, floor), (left, feet), (right, feet), (right, floor))
        drawing.shapes.append(Line(stand, "stand", closed=True))
    # the body comes down to the feet, and they spread under it
    inner = min(radius * BODY_SHARE, half)
    foot = (
        (left, feet), (left, feet + FOOT_MM), (x - inner, feet + FOOT_MM), (x - inner, y), (x + inner, y),
        (x + inner, feet + FOOT_MM), (right, feet + FOOT_MM), (right, feet),
    )  # fmt: skip
    drawing.shapes += [Line(foot, "motor", closed=True, part="motor"), Circle((x, y), radius, "motor", "motor")]


def _room(drawing: Sketch, plan: Plan, placed: Placed) -> None:
    """What stands in the way, once it is known how high the motor stands, and guards."""
    room = plan.room
    if room.motor_height_mm is not None:
        for obstacle in room.obstacles:
            left, low, right, high = box_of(obstacle, room.motor_height_mm)
            corners = ((left, low), (left, high), (right, high), (right, low))
            drawing.shapes.append(Line(corners, f"obstacle {obstacle.kind}", closed=True))
            drawing.shapes.append(Text(((left + right) / 2, low), obstacle.name, "obstacle"))
    if room.guard_mm is not None:
        _guards(drawing, placed, room.guard_mm)


def _guards(drawing: Sketch, placed: Placed, guard_mm: float) -> None:
    """Round belts and chains, as far off as a guard stays."""
    for index, picture in enumerate(placed.pictures):
        radii = picture.driver_radius_mm + guard_mm, picture.driven_radius_mm + guard_mm
        if picture.role in ("belt", "chain") and not picture.path:
            loop = _open((placed.centers[index], placed.centers[index + 1]), radii)
            if loop is not None:
                drawing.shapes.append(Loop(*loop, "guard", f"link-{index + 1}"))


def _case_half_mm(picture: LinkPicture, placed: Placed) -> float:
    left, _, right, _ = placed.extent
    return max(picture.case_half_height_mm, MIN_CASE_SHARE * (right - left))


def _case(picture: LinkPicture, ends: tuple[Point, Point], placed: Placed) -> tuple[float, float, float, float]:
    """Left, low, right and high end of a case round both its shafts [mm]."""
    half = _case_half_mm(picture, placed)
    (x1, y1), (x2, _) = ends
    return min(x1, x2) - CASE_SHARE * half, y1 - half, max(x1, x2) + CASE_SHARE * half, y1 + half


def _link(drawing: Sketch, picture: LinkPicture, ends: tuple[Point, Point], placed: Placed, part: str) -> None:
    first, second = ends
    if picture.role == "case":
        drawing.shapes.append(_rounded(_case(picture, ends, placed), "case", part))
        return
    wheels = [(first, picture.driver_radius_mm), (second, picture.driven_radius_mm)]
    wheels += [((first[0] + item.at_mm[0], first[1] + item.at_mm[1]), item.radius_mm) for item in picture.extra]
    role = f"wheel {picture.role}"
    drawing.shapes += [Circle(center, radius, role, part) for center, radius in wheels if radius]
    if picture.role in ("belt", "chain"):
        radii = (picture.driver_radius_mm, picture.driven_radius_mm)
        loop = _round_all(first, picture.path) if picture.path else _open(ends, radii)
        if loop is not None:
            drawing.shapes.append(Loop(*loop, f"loop {picture.role}", part))


def _rounded(box: tuple[float, float, float, float], role: str, part: str) -> Loop:
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


Outline = tuple[Point, tuple[Straight | Bow, ...]]


def _open(ends: tuple[Point, Point], radii: tuple[float, float]) -> Outline | None:
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


def _round_all(first: Point, wheels: tuple[Round, ...]) -> Outline:
    """Round every wheel of a belt, in belt order: counter-clockwise, clockwise where it runs on the belt's back."""
    path = belt_path(wheels)
    steps: list[Straight | Bow] = []
    for wrap, span, wheel in zip(path.wraps_deg, path.spans, wheels, strict=True):
        start, end = ((first[0] + x, first[1] + y) for x, y in (span.start_mm, span.end_mm))
        steps += [Bow(start, wheel.radius_mm, wrap > 180, clockwise=wheel.on_back), Straight(end)]
    return steps[-1].to, tuple(steps)


def _senses(drawing: Sketch, placed: Placed, line: LineResult) -> None:
    for index, shaft in enumerate(line.shafts):
        if shaft.turn is not None:
            radius = placed.wheel_radius_mm(index) * TURN_SHARE
            drawing.shapes.append(Turning(placed.centers[index], radius, clockwise=shaft.turn == 1))


def _center_distances(drawing: Sketch, placed: Placed, line: LineResult) -> None:
    for index, link in enumerate(line.links):
        if link.center_distance_mm is not None:
            a, b = sorted((placed.centers[index], placed.centers[index + 1]))
            drawing.shapes.append(Dimension(a, b, "", link.center_distance_mm, "mm", 0.0))


def _words(drawing: Sketch, placed: Placed, line: LineResult) -> None:
    """Names of the first and the last shaft above what stands there, ratios at their cases, notes."""
    tops = [y + placed.wheel_radius_mm(index) for index, (_, y) in enumerate(placed.centers)]
    tops[0] = max(tops[0], placed.centers[0][1] + placed.motor_mm)
    for index, picture in enumerate(placed.pictures):
        if picture.role == "case":
            _, low, right, high = _case(picture, (placed.centers[index], placed.centers[index + 1]), placed)
            tops[index], tops[index + 1] = max(tops[index], high), max(tops[index + 1], high)
            drawing.shapes.append(Text((right, low), f"{line.links[index].ratio:.4g} : 1", "ratio", high - low))
    notes = {picture.note for picture in placed.pictures if picture.note}
    if any(picture.in_line for picture in placed.pictures):
        notes.add(IN_LINE)
    drawing.shapes += [Text((0.0, 0.0), note, "note") for note in sorted(notes, reverse=True)]
    for index, shaft in dict.fromkeys(((0, line.shafts[0]), (len(tops) - 1, line.last_shaft))):
        x = placed.centers[index][0]
        near = [i for i, (at, _) in enumerate(placed.centers) if abs(at - x) <= placed.wheel_radius_mm(i)]
        drawing.shapes.append(Text((x, max(tops[i] for i in near)), shaft.name, "name"))
