"""A shaft drawn to its length with its bearings and wheels, and under it shear, bending, torque and how it bends."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass
from math import hypot
from typing import Literal

from pulltide.core.fit.shaft import ShaftAnswer
from pulltide.core.sketch import Point
from pulltide.presentation.painting import Mark, Picture, Word, path, polyline
from pulltide.presentation.strip_chart import Frame
from pulltide.quantities import Units, show
from pulltide.words import say, worded

WIDTH, LEFT, RIGHT = 640.0, 86.0, 40.0
#: Middle of the shaft, and of each strip below it; half a strip's height.
SHAFT_Y, FIRST_Y, STEP_Y, HALF = 62.0, 166.0, 82.0, 27.0
HEIGHT = FIRST_Y + 3 * STEP_Y + 42.0
LETTER = 7.2
#: Below this share of the largest value of a strip a value is none.
ROUNDING = 1e-6


def strips(answer: ShaftAnswer, units: Units) -> Picture:
    """The whole drawing."""
    x, _ = across(answer)
    made = Picture(say("Shaft {number} between its bearings", number=answer.case.number), WIDTH, HEIGHT)
    _shaft(made, answer, x)
    stops = [x(at) for at in (*answer.case.bearings_mm, *(wheel.at_mm for wheel in answer.case.wheels))]
    for at in stops:
        made.marks.append(polyline([(at, SHAFT_Y + 30), (at, HEIGHT - 20)], "guide"))
    for wheel in answer.case.wheels:
        _wheel(made, x(wheel.at_mm), hypot(wheel.force.x_n, wheel.force.y_n), worded(wheel.name), units)
    for number, at in enumerate(answer.case.bearings_mm, start=1):
        _bearing(made, x(at), say("bearing {number}", number=number))
    xs = [x(at) for at in answer.strip.at_mm]
    for number, row in enumerate(_rows(answer)):
        _strip(made, FIRST_Y + number * STEP_Y, row, xs, units)
    return made


def across(answer: ShaftAnswer) -> tuple[Callable[[float], float], tuple[float, float]]:
    """Where a station of the shaft stands across the drawing, and both ends of the shaft [mm]."""
    low, high = answer.case.pieces[0].start_mm, answer.case.pieces[-1].end_mm
    scale = (WIDTH - LEFT - RIGHT) / (high - low)
    return lambda at_mm: round(LEFT + (at_mm - low) * scale, 1), (low, high)


def _rows(answer: ShaftAnswer) -> tuple[Row, ...]:
    """What is drawn under the shaft, value by value at the stations of its strip."""
    low_mm, high_mm = answer.case.twisted_mm
    torque = tuple(answer.case.torque_nm if low_mm <= at < high_mm else 0.0 for at in answer.strip.at_mm)
    moment = tuple(value / 1000 for value in answer.strip.moment_nmm)
    return (
        Row("shear", answer.strip.shear_n, "N", "steps"),
        Row("bending", moment, "N*m", "area"),
        Row("torque", torque, "N*m", "steps"),
        Row("bends", answer.strip.deflection_mm, "mm", "line"),
    )


def frames(answer: ShaftAnswer, units: Units) -> Iterator[Frame]:
    """What is read at every station, signs left out as in the drawing's own numbers."""
    x, _ = across(answer)
    rows = _rows(answer)
    for k, at in enumerate(answer.strip.at_mm):
        values = (f"{worded(row.name)} {show(row.size(k), row.unit, units)}" for row in rows)
        yield Frame(x(at), f"{show(at, 'mm', units)}: {', '.join(values)}")


def _shaft(made: Picture, answer: ShaftAnswer, x: Callable[[float], float]) -> None:
    """Every piece of the shaft, as thick as the thickest allows."""
    most = answer.case.thickest_mm
    for piece in answer.case.pieces:
        half = min(max(most * 0.5, 8.0), 22.0) / 2 * piece.diameter_mm / most
        left, right = x(piece.start_mm), x(piece.end_mm)
        corners = [(left, SHAFT_Y - half), (right, SHAFT_Y - half), (right, SHAFT_Y + half), (left, SHAFT_Y + half)]
        made.marks.append(polyline(corners, "bar", closed=True))


def _wheel(made: Picture, x: float, force_n: float, name: str, units: Units) -> None:
    corners = [(x - 7, SHAFT_Y - 26), (x + 7, SHAFT_Y - 26), (x + 7, SHAFT_Y + 26), (x - 7, SHAFT_Y + 26)]
    made.marks.append(polyline(corners, "rim", closed=True))
    text = f"{name.split(',')[0]} {show(force_n, 'N', units)}"
    half = len(text) * LETTER / 2 + 4
    middle = min(max(x, half + 2), WIDTH - half - 2)
    row = 14.0 if not any(abs(word.x - middle) < 2 * half and word.y < 20 for word in made.words) else 29.0
    made.words.append(Word(middle, row, text, "force", (middle - half, row - 8, middle + half, row + 8)))


def _bearing(made: Picture, x: float, name: str) -> None:
    box = [(x - 11, SHAFT_Y - 16), (x + 11, SHAFT_Y - 16), (x + 11, SHAFT_Y + 16), (x - 11, SHAFT_Y + 16)]
    made.marks.append(polyline(box, "block", closed=True))
    foot = [(x, SHAFT_Y + 16), (x - 8, SHAFT_Y + 29), (x + 8, SHAFT_Y + 29)]
    made.marks.append(polyline(foot, "block", closed=True))
    made.words.append(Word(x, SHAFT_Y + 40, name, "label"))


@dataclass(frozen=True, slots=True)
class Row:
    """One strip: values at every station, their unit, and how they are drawn."""

    name: str
    values: Sequence[float]
    unit: str
    shape: Literal["steps", "area", "line"]

    def size(self, k: int) -> float:
        """Its value at a station without its sign; what is left of rounding is none."""
        value = abs(self.values[k])
        return value if value > ROUNDING * max(map(abs, self.values)) else 0.0


def _strip(made: Picture, y: float, row: Row, xs: Sequence[float], units: Units) -> None:
    values = row.values
    most = max(map(abs, values)) or 1.0
    points = list(_points(xs, [y - HALF * value / most for value in values], row.shape == "steps"))
    made.marks.append(polyline([(xs[0], y), (xs[-1], y)], "axis"))
    area = [(xs[0], y), *points, (xs[-1], y)]
    is_line = row.shape == "line"
    made.marks.append(polyline(points, "curve") if is_line else Mark(path(area, closed=True), "water", tuple(area)))
    made.words.append(Word(8.0, y, worded(row.name), "label", anchor="start"))
    at = max(range(len(values)), key=lambda k: abs(values[k]))
    text = str(show(abs(values[at]), row.unit, units))
    half = len(text) * LETTER / 2 + 3
    middle, up = min(max(xs[at], half + LEFT), WIDTH - half), -1 if values[at] < 0 else 1
    stand = y - up * (HALF - 9)
    made.words.append(Word(middle, stand, text, "size", (middle - half, stand - 8, middle + half, stand + 8)))


def _points(xs: Sequence[float], ys: Sequence[float], stepped: bool) -> Iterable[Point]:
    """Along a curve; a stepped one holds its level to the next station."""
    for k, (x, y) in enumerate(zip(xs, ys, strict=True)):
        if stepped and k:
            yield x, ys[k - 1]
        yield x, y
