"""The elevation of a line as a drawing: motor, cases, wheels, belts and chains to scale, senses, center distances."""

from __future__ import annotations

from pulltide.core import views
from pulltide.core.drawing import IN_LINE, LinkPicture
from pulltide.core.fit.surroundings import box_of
from pulltide.core.labels import as_is
from pulltide.core.layout import Box, Placed, bounds, ends_of, place
from pulltide.core.line_result import LineResult
from pulltide.core.machine import Plan
from pulltide.core.sketch import Axle, Circle, Dimension, Line, Loop, Shape, Sketch, Text, Turning
from pulltide.core.space import FRONT, Point, View

#: Half the width of a motor's foot over half its height, and of a reducer's case.
FOOT_SHARE, CASE_SHARE = 0.82, 0.8
#: Half the width of what stands under a motor's body over its radius, and how thick its feet are drawn [mm].
BODY_SHARE, FOOT_MM = 0.7, 10.0
#: A sense of turning is drawn at this share of the largest wheel of its shaft.
TURN_SHARE = 0.62
#: Half the height of a case is drawn at least this large, as a share of the whole width.
MIN_CASE_SHARE = 0.013


def elevation(plan: Plan, line: LineResult, *, unfolded: bool = False) -> Sketch:
    """Draw a solved line. Each shape names its part (``motor``, ``link-2``), so that a screen can mark it.

    As it is, or unfolded: with all its shafts parallel, and those on one axis side by side.
    """
    placed = place(plan, line, unfolded=unfolded)
    drawing = Sketch("Elevation of the drive")
    _room(drawing, plan, placed)
    base = None if unfolded else views.slide_base(plan, placed)
    if base is not None:
        drawing.shapes.append(Line(base.plate.seen(FRONT), "plate", closed=True))
    hides = not unfolded and views.is_before(placed)
    for draw in (_stages, _motor) if hides else (_motor, _stages):
        draw(drawing, plan, placed)
    if unfolded:
        ends = zip(placed.centers, placed.centers[1:], placed.pictures, strict=False)
        drawing.shapes += [Line((a, b), "axis", closed=False) for a, b, picture in ends if picture.in_line]
    drawing.shapes += _axles(placed, FRONT)
    _senses(drawing, placed, line)
    _center_distances(drawing, placed, line, FRONT)
    _words(drawing, plan, placed, line)
    if unfolded:
        drawing.shapes += _notes(placed)
    return drawing


def side_elevation(plan: Plan, line: LineResult) -> Sketch | None:
    """The drive from the side that shows what runs round shafts beyond a right angle; None where the front does."""
    placed = place(plan, line)
    view = views.side_of(placed)
    if view is None:
        return None
    drawing = Sketch("The drive from its side")
    body, *feet = views.motor(placed)
    drawing.shapes.append(Line(body.seen(view), "motor", closed=True, part="motor"))
    drawing.shapes += [Line(foot.seen(view), "feet", closed=True) for foot in feet]
    left, low, right, _ = bounds(body.seen(view))
    if min(low, placed.feet_mm or 0.0) > placed.floor_mm + FOOT_MM:
        top = low if placed.feet_mm is None else placed.feet_mm
        stand = ((left, placed.floor_mm), (left, top), (right, top), (right, placed.floor_mm))
        drawing.shapes.append(Line(stand, "stand", closed=True))
    _stages(drawing, plan, placed, view)
    drawing.shapes += _axles(placed, view)
    _center_distances(drawing, placed, line, view)
    return drawing


def _stages(drawing: Sketch, plan: Plan, placed: Placed, view: View = FRONT) -> None:
    """Shafts that are seen from their side with their bearings, then every stage, what is nearest last."""
    for index in range(len(placed.spots)):
        if not view.along(placed.axes(index)):
            drawing.shapes.append(views.seen(views.rod(plan, placed, index), view, "rod"))
            blocks = views.bearings(plan, placed, index)
            drawing.shapes += [Line(block.seen(view), "bearing", closed=True) for block in blocks]
    for index in views.far_to_near(placed, view):
        picture, part = placed.pictures[index], f"link-{index + 1}"
        if picture.role != "case":
            drawing.shapes += views.stage(placed, index, view)
        elif placed.stands[index].block is None:
            drawing.shapes.append(views.rounded(_case(picture, placed, index), "case", part))
        else:
            drawing.shapes += [_softened(shape, part) for shape in views.stage(placed, index, view)]


def _softened(shape: Shape, part: str) -> Shape:
    """A case that is seen square has round corners."""
    if isinstance(shape, Line) and shape.role == "case" and len(shape.points) == 4:
        return views.rounded(bounds(shape.points), "case", part)
    return shape


def _axles(placed: Placed, view: View) -> list[Axle]:
    return [Axle(view.at(spot)) for index, spot in enumerate(placed.spots) if view.along(placed.axes(index))]


def _motor(drawing: Sketch, plan: Plan, placed: Placed) -> None:
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
            drawing.shapes.append(Text(((left + right) / 2, low), as_is(obstacle.name), "obstacle"))
    if room.guard_mm is not None:
        _guards(drawing, placed, room.guard_mm)


def _guards(drawing: Sketch, placed: Placed, guard_mm: float) -> None:
    """Round belts and chains, as far off as a guard stays."""
    for index, picture in enumerate(placed.pictures):
        if picture.role in ("belt", "chain") and not picture.path and FRONT.along(placed.stands[index].axes):
            loop = views.around(placed, index, FRONT, picture.over_mm + guard_mm)
            if loop is not None:
                drawing.shapes.append(Loop(*loop, "guard", f"link-{index + 1}"))


def _case(picture: LinkPicture, placed: Placed, index: int) -> Box:
    """Left, low, right and high end of a case: its outside, or of a picture, round both its shafts [mm]."""
    block = placed.stands[index].block
    if block is not None:
        return bounds(block.seen(FRONT))
    left, _, right, _ = placed.extent
    half = max(picture.case_half_height_mm, MIN_CASE_SHARE * (right - left))
    (x1, y1), (x2, _) = placed.centers[index], placed.centers[index + 1]
    return min(x1, x2) - CASE_SHARE * half, y1 - half, max(x1, x2) + CASE_SHARE * half, y1 + half


def _senses(drawing: Sketch, placed: Placed, line: LineResult) -> None:
    for index, shaft in enumerate(line.shafts):
        if shaft.turn is not None and FRONT.along(placed.axes(index)):
            radius = placed.wheel_radius_mm(index) * TURN_SHARE
            drawing.shapes.append(Turning(placed.centers[index], radius, clockwise=shaft.turn == 1))


def _center_distances(drawing: Sketch, placed: Placed, line: LineResult, view: View) -> None:
    for link, stand in zip(line.links, placed.stands, strict=True):
        if link.center_distance_mm is not None and view.along(stand.axes) and view.along(stand.turned):
            a, b = sorted(view.at(end) for end in ends_of(stand))
            drawing.shapes.append(Dimension(a, b, "", link.center_distance_mm, "mm", 0.0))


def _middle(plan: Plan, placed: Placed, shaft: int) -> float:
    """Where a shaft's name stands: over its end, or over the middle of one that is seen from its side."""
    if FRONT.along(placed.axes(shaft)):
        return placed.centers[shaft][0]
    return FRONT.at(views.rod(plan, placed, shaft).middle)[0]


def _words(drawing: Sketch, plan: Plan, placed: Placed, line: LineResult) -> None:
    """Names of the first and the last shaft above what stands there, ratios at their cases."""
    tops = [y + placed.wheel_radius_mm(index) for index, (_, y) in enumerate(placed.centers)]
    tops[0] = max(tops[0], placed.centers[0][1] + placed.motor_mm)
    for index, picture in enumerate(placed.pictures):
        if picture.role == "case":
            _, low, right, high = _case(picture, placed, index)
            tops[index], tops[index + 1] = max(tops[index], high), max(tops[index + 1], high)
            # inside a case that is seen whole, else under it: what stands before it would cover the words
            room = high - low if placed.stands[index].block is None else 0.0
            drawing.shapes.append(Text((right, low), f"{line.links[index].ratio:.4g} : 1", "ratio", room))
    for index, shaft in dict.fromkeys(((0, line.shafts[0]), (len(tops) - 1, line.last_shaft))):
        x = _middle(plan, placed, index)
        near = [i for i, (at, _) in enumerate(placed.centers) if abs(at - x) <= placed.wheel_radius_mm(i)]
        drawing.shapes.append(Text((x, max(tops[i] for i in near or (index,))), shaft.name, "name"))


def _notes(placed: Placed) -> list[Text]:
    """How the picture departs from what stands in the shop."""
    notes = {picture.note for picture in placed.pictures if picture.note}
    if any(picture.in_line for picture in placed.pictures):
        notes.add(IN_LINE)
    at: Point = (0.0, 0.0)
    return [Text(at, note, "note") for note in sorted(notes, reverse=True)]
