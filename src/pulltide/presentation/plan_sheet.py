"""The plan painted under its elevation, on the same verticals and to the same scale."""

from __future__ import annotations

from pulltide.core.line_result import LineResult
from pulltide.core.machine import Plan
from pulltide.core.plan_view import plan_view
from pulltide.core.sketch import Axle, Circle, Dimension, Line, Loop, Sketch, Text
from pulltide.presentation.painting import Frame, Mark, Picture, Word, grid, outline, path, points_of
from pulltide.presentation.sheet import LETTER, SQUARE, WIDTH, axle, frame_of, view_name
from pulltide.quantities import Units, show
from pulltide.words import filled, say, worded

EDGE, NOTE, MEASURE = 22.0, 20.0, 36.0
#: A measure shorter than this on the picture is not written.
SHORT = 16.0


def plan_sheet(plan: Plan, line: LineResult, units: Units) -> Picture:
    """The plan of a solved line; as high as it is deep."""
    drawing, _ = plan_view(plan, line)
    noted = any(isinstance(shape, Text) for shape in drawing.shapes)
    frame = _frame(drawing, frame_of(plan, line))
    near, far = _depths(drawing)
    height = (far - near) * frame.scale + _top(drawing) + EDGE + (NOTE if noted else 0.0)
    made = Picture(say("Plan of the drive from above, near side at the foot"), WIDTH, round(height, 1))
    made.marks.append(grid(WIDTH, made.height, SQUARE))
    made.words.append(view_name(say("Plan")))
    for shape in drawing.shapes:
        mark = outline(shape, frame)
        if mark is not None and not isinstance(shape, Dimension | Text):
            made.marks.append(mark)
        elif isinstance(shape, Axle):
            made.marks += axle(frame.at(shape.at))
        elif isinstance(shape, Dimension):
            _measure(made, shape, frame, units)
        elif isinstance(shape, Text):
            made.words.append(Word(EDGE, made.height - 9, filled(shape.text, units), "note", None, "start"))
    return made


def plan_frame(plan: Plan, line: LineResult) -> Frame:
    """From millimeters to the sheet of the plan."""
    return _frame(plan_view(plan, line)[0], frame_of(plan, line))


def _frame(drawing: Sketch, elevation: Frame) -> Frame:
    return Frame(elevation.scale, elevation.left, _top(drawing) + _depths(drawing)[1] * elevation.scale)


def _top(drawing: Sketch) -> float:
    """Room above the far side: more where a measure stands there."""
    return EDGE + (MEASURE if any(isinstance(shape, Dimension) and shape.name for shape in drawing.shapes) else 0.0)


def _depths(drawing: Sketch) -> tuple[float, float]:
    """Near and far end [mm]."""
    solid = (shape for shape in drawing.shapes if isinstance(shape, Line | Circle | Loop))
    depths = [y for shape in solid for _, y in points_of(shape)]
    return min(depths), max(depths)


def _measure(made: Picture, shape: Dimension, frame: Frame, units: Units) -> None:
    """Beside the shaft that both stages share, which stands upright on the picture; else above it."""
    (x, low), (other, high) = frame.at(shape.a), frame.at(shape.b)
    if abs(other - x) > abs(high - low):
        text = f"{worded(shape.name)} {show(shape.value, shape.unit, units)}".strip()
        _measure_across(made, (x, other), min(low, high), text)
        return
    if abs(high - low) < SHORT:
        return
    beside = x + 16
    ticks = "".join(path([(beside - 5, y), (beside + 5, y)]) for y in (low, high))
    corners = ((beside - 5, min(low, high)), (beside + 5, max(low, high)))
    made.marks.append(Mark(path([(beside, low), (beside, high)]) + ticks, "dimension", corners))
    text, middle = str(show(shape.value, shape.unit, units)), (low + high) / 2
    left = beside + 6
    box = (left, middle - 9, left + len(text) * LETTER, middle + 9)
    made.words.append(Word(round(left, 1), round(middle, 1), text, "dimension", box, "start"))


def _measure_across(made: Picture, ends: tuple[float, float], y: float, text: str) -> None:
    left, right = sorted(ends)
    above, middle = y - 16, (left + right) / 2
    ticks = "".join(path([(x, above - 5), (x, above + 5)]) for x in (left, right))
    made.marks.append(
        Mark(path([(left, above), (right, above)]) + ticks, "dimension", ((left, above - 5), (right, above + 5)))
    )
    half = len(text) * LETTER / 2 + 4
    middle = max(middle, half + EDGE / 2)
    made.words.append(
        Word(
            round(middle, 1),
            round(above - 14, 1),
            text,
            "dimension",
            (middle - half, above - 23, middle + half, above - 5),
        )
    )
