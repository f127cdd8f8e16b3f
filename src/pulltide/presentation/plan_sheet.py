"""The plan painted under its elevation, on the same verticals and to the same scale."""

from __future__ import annotations

from pulltide.core.line_result import LineResult
from pulltide.core.machine import Plan
from pulltide.core.plan_view import plan_view
from pulltide.core.sketch import Dimension, Line, Text
from pulltide.presentation.painting import Frame, Mark, Picture, Word, grid, outline, path
from pulltide.presentation.sheet import LETTER, SQUARE, WIDTH, frame_of
from pulltide.quantities import Units, show

EDGE, NOTE = 14.0, 20.0
#: A measure shorter than this on the picture is not written.
SHORT = 16.0


def plan_sheet(plan: Plan, line: LineResult, units: Units) -> Picture:
    """The plan of a solved line; as high as it is deep."""
    drawing, found = plan_view(plan, line)
    depths = [y for shape in drawing.shapes if isinstance(shape, Line) for _, y in shape.points]
    elevation = frame_of(plan, line)
    near, far = min(depths), max(depths)
    height = (far - near) * elevation.scale + 2 * EDGE + (NOTE if found.assumed else 0.0)
    frame = Frame(elevation.scale, elevation.left, EDGE + far * elevation.scale)
    made = Picture("Plan of the drive from above, near side at the foot", WIDTH, round(height, 1))
    made.marks.append(grid(WIDTH, made.height, SQUARE))
    for shape in drawing.shapes:
        mark = outline(shape, frame)
        if mark is not None and not isinstance(shape, Dimension | Text):
            made.marks.append(mark)
        elif isinstance(shape, Dimension):
            _measure(made, shape, frame, units)
        elif isinstance(shape, Text):
            made.words.append(Word(EDGE, made.height - 9, shape.text, "note", None, "start"))
    return made


def _measure(made: Picture, shape: Dimension, frame: Frame, units: Units) -> None:
    """Upright, beside the shaft that both stages share."""
    (x, low), (_, high) = frame.at(shape.a), frame.at(shape.b)
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
