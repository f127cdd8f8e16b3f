"""The elevation painted on its sheet: the floor at the foot, center distances in rows below it, names above."""

from __future__ import annotations

from pulltide.core.elevation import elevation, side_elevation
from pulltide.core.line_result import LineResult
from pulltide.core.machine import Plan
from pulltide.core.sketch import Axle, Dimension, Point, Sketch, Text, Turning
from pulltide.presentation.painting import (
    Frame,
    Mark,
    Picture,
    Word,
    grid,
    outline,
    path,
    points_of,
    polyline,
    ring,
    turning,
)
from pulltide.presentation.words import names_of
from pulltide.quantities import Units, show
from pulltide.words import filled, say

WIDTH, HEIGHT = 785.0, 236.0
MARGIN_X, ABOVE, BELOW = 30.0, 44.0, 40.0
FLOOR = HEIGHT - BELOW
#: Squares of the paper.
SQUARE = 30.0
SIDE = "The drive from its side, along the shafts beyond the right angle, to the same scale"
#: Width of one letter of a dimension's figure, and half the width of a letter of a name.
LETTER, HALF_LETTER = 8.4, 4.0
#: A case lower than this on the picture has no room for its ratio inside; a smaller turning arrow is not drawn, a
#: narrower center distance not written.
SMALL_CASE, SMALL_TURN, NARROW = 60.0, 9.0, 40.0
#: Reach of the cross of a shaft.
CROSS = 13.0


def frame_of(plan: Plan, line: LineResult) -> Frame:
    """From millimeters to the sheet, as the elevation of a drive as it is is put on it."""
    return _frame(elevation(plan, line))


def scale_of(plan: Plan, line: LineResult) -> float:
    """Units of the sheet a millimeter at which a line fills it."""
    return _frame(elevation(plan, line)).scale


def sheet(plan: Plan, line: LineResult, units: Units, *, unfolded: bool = False) -> Picture:
    """The elevation of a solved line, to scale; as it is, or unfolded so that each wheel is seen."""
    drawing = elevation(plan, line, unfolded=unfolded)
    made = _painted(drawing, _frame(drawing), _summary(line, units), units)
    if not unfolded:
        made.words.append(view_name(say("Elevation")))
    return made


def small_sheet(plan: Plan, line: LineResult, units: Units, scale: float | None = None) -> Picture:
    """The elevation without words, measures and squares.

    ``scale``, in units of the sheet a millimeter, is the same for drawings that stand side by side.
    """
    drawing = elevation(plan, line)
    return _painted(drawing, _frame(drawing, scale), _summary(line, units), units, small=True)


def side_frame(plan: Plan, line: LineResult) -> Frame | None:
    """From millimeters to the sheet of its side elevation, to the scale of its elevation; None where there is none."""
    drawing = side_elevation(plan, line)
    return None if drawing is None else _frame(drawing, scale_of(plan, line))


def side_sheet(plan: Plan, line: LineResult, units: Units) -> Picture | None:
    """The drive from the side that shows what lies beyond a right angle, to the scale of its elevation."""
    drawing, frame = side_elevation(plan, line), side_frame(plan, line)
    if drawing is None or frame is None:
        return None
    made = _painted(drawing, frame, say(SIDE), units)
    made.words.append(view_name(say("From the side")))
    return made


def view_name(text: str) -> Word:
    """What a view is called, in its corner."""
    return Word(12.0, 13.5, text, "note", anchor="start")


def _painted(drawing: Sketch, frame: Frame, caption: str, units: Units, *, small: bool = False) -> Picture:
    made = Picture(caption, WIDTH, HEIGHT)
    if not small:
        made.marks.append(grid(WIDTH, HEIGHT, SQUARE))
    made.marks.append(polyline([(0.0, FLOOR), (WIDTH, FLOOR)], "floor"))
    for shape in drawing.shapes:
        mark = outline(shape, frame)
        if mark is not None:
            made.marks.append(mark)
        elif isinstance(shape, Axle):
            made.marks += axle(frame.at(shape.at))
        elif isinstance(shape, Turning) and shape.radius * frame.scale >= SMALL_TURN:
            made.marks.append(turning(frame.at(shape.at), shape.radius * frame.scale, shape.clockwise))
    if not small:
        _dimensions(made, drawing, frame, units)
        _words(made, drawing, frame, units)
    return made


def _frame(drawing: Sketch, most: float | None = None) -> Frame:
    """As large as the sheet and a greatest scale allow, the lowest point on the floor."""
    solid = [shape for shape in drawing.shapes if not isinstance(shape, Text | Dimension)]
    xs, ys = zip(*(point for shape in solid for point in points_of(shape)), strict=True)
    left, low, right, high = min(xs), min(ys), max(xs), max(ys)
    room_x, room_y = WIDTH - 2 * MARGIN_X, HEIGHT - ABOVE - BELOW
    scale = min(room_x / max(right - left, 1.0), room_y / max(high - low, 1.0))
    scale = scale if most is None else min(scale, most)
    start = left - (room_x / scale - (right - left)) / 2
    return Frame(scale, MARGIN_X - start * scale, FLOOR + low * scale)


def axle(at: Point) -> list[Mark]:
    """The cross of a shaft seen from its end."""
    x, y = at
    cross = path([(x - CROSS, y), (x + CROSS, y)]) + path([(x, y - CROSS), (x, y + CROSS)])
    corners = ((x - CROSS, y - CROSS), (x + CROSS, y + CROSS))
    return [Mark(cross, "axle", corners), ring(at, 3.6, "axle-dot")]


def _dimensions(made: Picture, drawing: Sketch, frame: Frame, units: Units) -> None:
    """Figures wider than the gap they measure take turns on two rows rather than cover each other."""
    wide = []
    for shape in drawing.shapes:
        if isinstance(shape, Dimension):
            left, right = frame.at(shape.a)[0], frame.at(shape.b)[0]
            if right - left >= NARROW:
                wide.append((left, right, str(show(shape.value, shape.unit, units))))
    crowded = any(len(text) * LETTER + 16 > right - left for left, right, text in wide)
    rows = (HEIGHT - 29, HEIGHT - 11) if crowded and len(wide) > 1 else (HEIGHT - 18,)
    for index, (left, right, text) in enumerate(wide):
        y, middle, half = rows[index % len(rows)], (left + right) / 2, len(text) * LETTER / 2 + 8
        ticks = "".join(path([(x, y - 5), (x, y + 5)]) for x in (left, right))
        made.marks.append(Mark(path([(left, y), (right, y)]) + ticks, "dimension", ((left, y - 5), (right, y + 5))))
        made.words.append(Word(round(middle, 1), y, text, "dimension", (middle - half, y - 9, middle + half, y + 9)))


def _words(made: Picture, drawing: Sketch, frame: Frame, units: Units) -> None:
    notes = 0
    for shape in drawing.shapes:
        if not isinstance(shape, Text):
            continue
        x, y = frame.at(shape.at)
        if shape.role == "note":
            # how the picture departs from what stands in the shop, along the top
            x, anchor = (12.0, "start") if notes == 0 else (WIDTH - 12, "end")
            made.words.append(Word(x, 13.5, filled(shape.text, units), "note", anchor=anchor))
            notes += 1
        elif shape.role == "obstacle":
            made.words.append(Word(round(x, 1), round(y - 9, 1), filled(shape.text, units), "note"))
        elif shape.role == "ratio":
            below = shape.room * frame.scale < SMALL_CASE
            made.words.append(
                Word(x - 7, y + (13.0 if below else -12.5), filled(shape.text, units), "ratio", anchor="end")
            )
        else:
            made.words.append(
                _name(filled(shape.text, units), x, y, first=not any(word.role == "name" for word in made.words))
            )


def _name(text: str, x: float, y: float, *, first: bool) -> Word:
    """A shaft's name above it, kept on the sheet."""
    anchor = "start" if first and x < 70 else "middle"
    x = min(max(x, 40.0), WIDTH - 10)
    if not first and x + len(text) * HALF_LETTER > WIDTH - 12:
        anchor, x = "end", WIDTH - 12
    return Word(round(x, 1), round(max(y - 9, 14.0) - 4.5, 1), text, "name", anchor=anchor)


def _summary(line: LineResult, units: Units) -> str:
    parts = [
        f"{name} {show(shaft.speed_rpm, 'rpm', units)}" for shaft, name in zip(line.shafts, names_of(line), strict=True)
    ]
    return say("Elevation of the drive, to scale: ") + say(", then ").join(parts)
