"""Drawings of the core painted: scaled to their paper, with room for every word on it. Paths are those of SVG."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from math import atan2, cos, hypot, pi, sin

from pulltide.core.sketch import (
    Arrow,
    Axle,
    Circle,
    Dimension,
    Hatch,
    Line,
    Loop,
    Point,
    Shape,
    Sketch,
    Straight,
    Text,
    Turning,
)
from pulltide.quantities import Units, show
from pulltide.words import filled, worded

WIDTH, HEIGHT, MARGIN = 400.0, 330.0, 14.0
LETTER, LINE = 7.5, 17.0
HEAD = 9.0
#: From the middle of a line of words down to where it stands.
HALF_HEIGHT = 4.5
#: Squares of the paper.
SQUARE = 25.0
Box = tuple[float, float, float, float]


@dataclass(frozen=True, slots=True)
class Mark:
    """One path, what it stands for, corners of a box that holds it, and the part it belongs to."""

    d: str
    role: str
    corners: tuple[Point, ...]
    part: str = ""

    @property
    def box(self) -> Box:
        """Left, upper, right and lower end."""
        xs, ys = zip(*self.corners, strict=True)
        return min(xs), min(ys), max(xs), max(ys)

    @property
    def center(self) -> Point:
        """The middle of its box."""
        left, top, right, bottom = self.box
        return (left + right) / 2, (top + bottom) / 2

    @property
    def radius(self) -> float:
        """Half its width: the radius of a circle."""
        return (self.box[2] - self.box[0]) / 2


@dataclass(frozen=True, slots=True)
class Word:
    """A word and where it is set: at its middle, start or end. ``box`` is the paper under it, so that no line runs
    through it; None leaves what is there.
    """

    x: float
    y: float
    text: str
    role: str
    box: Box | None = None
    anchor: str = "middle"

    @property
    def baseline(self) -> float:
        """Where the word stands, its middle being at ``y``."""
        return round(self.y + HALF_HEIGHT, 1)

    @property
    def paper(self) -> str:
        """The paper under it as a path; empty without one."""
        if self.box is None:
            return ""
        left, top, right, bottom = self.box
        return path([(left, top), (right, top), (right, bottom), (left, bottom)], closed=True)


@dataclass(slots=True)
class Picture:
    """Paths back to front, then words, in picture units with y down."""

    caption: str
    width: float = WIDTH
    height: float = HEIGHT
    marks: list[Mark] = field(default_factory=list)
    words: list[Word] = field(default_factory=list)

    def of(self, role: str) -> list[Mark]:
        """The marks of a role, or of any role that begins with these words."""
        return [mark for mark in self.marks if mark.role == role or mark.role.startswith(f"{role} ")]


@dataclass(frozen=True, slots=True)
class Frame:
    """From millimeters, y up, to the picture."""

    scale: float
    left: float
    top: float

    def at(self, point: Point) -> Point:
        """A point on the picture."""
        return self.left + point[0] * self.scale, self.top - point[1] * self.scale


def picture(sketch: Sketch, units: Units) -> Picture:
    """Fit a drawing on its paper: the words keep their size, so the scale gives way until all is inside."""
    low, high = _extent(sketch.shapes)
    spans = [max(b - a, 1e-6) for a, b in zip(low, high, strict=True)]
    scale = min((WIDTH - 2 * MARGIN) / spans[0], (HEIGHT - 2 * MARGIN) / spans[1])
    size = max(spans)
    frame = Frame(scale, 0.0, 0.0)
    for _ in range(8):
        box = _bounds(_drawn(sketch, frame, size, units))
        wide, tall = box[2] - box[0], box[3] - box[1]
        left = (WIDTH - wide) / 2 - box[0] + frame.left
        top = (HEIGHT - tall) / 2 - box[1] + frame.top
        fits = min((WIDTH - MARGIN) / wide, (HEIGHT - MARGIN) / tall)
        frame = Frame(frame.scale, left, top)
        if fits >= 1:
            break
        frame = Frame(frame.scale * max(fits, 0.5) * 0.99, 0.0, 0.0)
    made = _drawn(sketch, frame, size, units)
    made.marks.insert(0, grid(WIDTH, HEIGHT, SQUARE))
    return made


def icon(sketch: Sketch, units: Units) -> Picture:
    """A drawing without words, measures and squared paper, to be known at the size of a thumb."""
    shapes: list[Shape] = [shape for shape in sketch.shapes if not isinstance(shape, Text | Dimension | Arrow)]
    made = picture(Sketch(sketch.caption, shapes), units)
    made.marks = made.marks[1:]
    return made


def grid(width: float, height: float, step: float) -> Mark:
    """Squared paper."""
    lines = [path([(x, 0.0), (x, height)]) for x in _steps(width, step)]
    lines += [path([(0.0, y), (width, y)]) for y in _steps(height, step)]
    return Mark("".join(lines), "grid", ((0.0, 0.0), (width, height)))


def _steps(reach: float, step: float) -> list[float]:
    return [step * k for k in range(1, int(reach / step) + 1)]


def _extent(shapes: list[Shape]) -> tuple[Point, Point]:
    points = [point for shape in shapes for point in points_of(shape)]
    return (min(x for x, _ in points), min(y for _, y in points)), (
        max(x for x, _ in points),
        max(y for _, y in points),
    )


def points_of(shape: Shape) -> tuple[Point, ...]:
    """Corners of a box that holds a shape, before it is painted."""
    if isinstance(shape, Circle | Turning):
        return around(shape.at, shape.radius)
    if isinstance(shape, Line):
        return shape.points
    if isinstance(shape, Hatch):
        return shape.outline
    if isinstance(shape, Loop):
        return (shape.start, *(step.to for step in shape.steps))
    return (shape.at,) if isinstance(shape, Text | Axle) else (shape.a, shape.b)


def outline(shape: Shape, frame: Frame) -> Mark | None:
    """A shape of lines and arcs as one path; None for one that has words or a head to it."""
    if isinstance(shape, Circle):
        return ring(frame.at(shape.at), shape.radius * frame.scale, shape.role, shape.part)
    if isinstance(shape, Line):
        points = tuple(map(frame.at, shape.points))
        return Mark(path(points, shape.closed), _line_role(shape), points, shape.part)
    if isinstance(shape, Loop):
        return _loop(shape, frame)
    if isinstance(shape, Hatch):
        lines = "".join(path([frame.at(a), frame.at(b)]) for a, b in shape.lines)
        return Mark(lines, shape.role, tuple(map(frame.at, shape.outline)))
    return None


def _loop(shape: Loop, frame: Frame) -> Mark:
    x, y = frame.at(shape.start)
    written, corners = [f"M{_n(x)} {_n(y)}"], [(x, y)]
    for step in shape.steps:
        x, y = frame.at(step.to)
        corners.append((x, y))
        if isinstance(step, Straight):
            written.append(f"L{_n(x)} {_n(y)}")
        else:
            r = _n(step.radius * frame.scale)
            written.append(f"A{r} {r} 0 {int(step.large)} {int(step.clockwise)} {_n(x)} {_n(y)}")
    return Mark("".join(written) + "Z", shape.role, tuple(corners), shape.part)


def _drawn(sketch: Sketch, frame: Frame, size: float, units: Units) -> Picture:
    made = Picture(worded(sketch.caption))
    for shape in sketch.shapes:
        mark = outline(shape, frame)
        if mark is not None:
            made.marks.append(mark)
        elif isinstance(shape, Turning):
            made.marks.append(turning(frame.at(shape.at), max(shape.radius * frame.scale, 9.0), shape.clockwise))
        elif isinstance(shape, Text):
            _word(made, frame.at(shape.at), filled(shape.text, units), shape.role)
    for shape in sketch.shapes:
        if isinstance(shape, Dimension):
            _dimension(made, shape, frame, size, units)
        elif isinstance(shape, Arrow):
            _arrow(made, shape, frame, units)
    return made


def _line_role(shape: Line) -> str:
    return shape.role if shape.closed or shape.role != "part" else "outline"


def _n(value: float) -> str:
    return f"{value:.1f}"


def path(points: Sequence[Point], closed: bool = False) -> str:
    """A polyline as a path."""
    return "M" + "L".join(f"{_n(x)} {_n(y)}" for x, y in points) + ("Z" if closed else "")


def polyline(points: Sequence[Point], role: str, closed: bool = False) -> Mark:
    """A polyline as a mark."""
    return Mark(path(points, closed), role, tuple(points))


def around(at: Point, r: float) -> tuple[Point, ...]:
    """Two corners of the box that holds a circle."""
    return (at[0] - r, at[1] - r), (at[0] + r, at[1] + r)


def ring(at: Point, r: float, role: str, part: str = "") -> Mark:
    """A whole circle."""
    r = max(r, 0.6)
    half = f"a{_n(r)} {_n(r)} 0 1 0 "
    d = f"M{_n(at[0] - r)} {_n(at[1])}{half}{_n(2 * r)} 0{half}{_n(-2 * r)} 0Z"
    return Mark(d, role, around(at, r), part)


def turning(at: Point, r: float, clockwise: bool) -> Mark:
    """An arc over the top with its head at the end."""
    first, last = (pi * 0.82, pi * 0.18) if clockwise else (pi * 0.18, pi * 0.82)
    (x1, y1), (x2, y2) = ((at[0] + r * cos(a), at[1] - r * sin(a)) for a in (first, last))
    along = last - pi / 2 if clockwise else last + pi / 2
    d = f"M{_n(x1)} {_n(y1)}A{_n(r)} {_n(r)} 0 0 {int(clockwise)} {_n(x2)} {_n(y2)}" + _head((x2, y2), along)
    return Mark(d, "turn", around(at, r))


def _head(tip: Point, direction: float, length: float = 7.0) -> str:
    """Two strokes of an arrow head; ``direction`` is counter-clockwise from the x axis, y up."""
    ends = [
        (tip[0] - length * cos(direction + turn), tip[1] + length * sin(direction + turn)) for turn in (0.45, -0.45)
    ]
    return f"M{_n(ends[0][0])} {_n(ends[0][1])}L{_n(tip[0])} {_n(tip[1])}L{_n(ends[1][0])} {_n(ends[1][1])}"


def _text(name: str, value: float | None, unit: str, units: Units) -> str:
    name = filled(name, units)
    return name if value is None else f"{name} {show(value, unit, units)}"


def _dimension(made: Picture, shape: Dimension, frame: Frame, size: float, units: Units) -> None:
    a, b = frame.at(shape.a), frame.at(shape.b)
    dx, dy = b[0] - a[0], b[1] - a[1]
    length = hypot(dx, dy) or 1.0
    ux, uy = dx / length, dy / length
    gap = shape.off * size * frame.scale
    nx, ny = uy * gap, -ux * gap
    p, q = (a[0] + nx, a[1] + ny), (b[0] + nx, b[1] + ny)
    if gap:
        reach = (nx + 4 * nx / abs(gap), ny + 4 * ny / abs(gap))
        for end in (a, b):
            made.marks.append(polyline([end, (end[0] + reach[0], end[1] + reach[1])], "reach"))
    ticks = [path([(x - uy * 4, y + ux * 4), (x + uy * 4, y - ux * 4)]) for x, y in (p, q)]
    made.marks.append(Mark(path([p, q]) + "".join(ticks), "measure", (p, q)))
    text = _text(shape.name, shape.value, shape.unit, units)
    middle = ((p[0] + q[0]) / 2, (p[1] + q[1]) / 2)
    wide = len(text) * LETTER
    if abs(uy) > 3 * abs(ux):
        middle = (middle[0] + (-1 if nx < 0 else 1) * (wide / 2 + 8), middle[1])
    elif abs(ux) * length < wide + 14:
        # too short to hold its words: they go beyond the line, away from the drawing
        side = 1 if gap <= 0 and ny >= 0 else -1
        middle = (middle[0], middle[1] + side * 12)
    _word(made, middle, text, "unknown" if shape.value is None else "size")


def _arrow(made: Picture, shape: Arrow, frame: Frame, units: Units) -> None:
    a, b = frame.at(shape.a), frame.at(shape.b)
    reach = hypot(b[0] - a[0], b[1] - a[1])
    if 0 < reach < 3 * HEAD:
        b = (a[0] + (b[0] - a[0]) * 3 * HEAD / reach, a[1] + (b[1] - a[1]) * 3 * HEAD / reach)
    made.marks.append(Mark(path([a, b]) + _head(b, atan2(a[1] - b[1], b[0] - a[0]), HEAD), "force", (a, b)))
    text = _text(shape.text, shape.value, shape.unit, units)
    wide = len(text) * LETTER / 2
    upright = abs(b[1] - a[1]) > abs(b[0] - a[0])
    middle = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
    _word(made, (middle[0] + wide + 9, middle[1]) if upright else (middle[0], middle[1] - 12), text, "force")


def _word(made: Picture, middle: Point, text: str, role: str) -> None:
    """Place a word; one that would stand on another moves down until it is free."""
    x, y = middle
    half = len(text) * LETTER / 2 + 4
    for _ in range(6):
        box = (x - half, y - LINE / 2, x + half, y + LINE / 2)
        clash = next((word.box for word in made.words if word.box and _overlap(word.box, box)), None)
        if clash is None:
            break
        y = clash[3] + LINE / 2 + 1
    made.words.append(Word(round(x, 1), round(y, 1), text, role, box))


def _overlap(a: Box, b: Box) -> bool:
    return a[0] < b[2] and b[0] < a[2] and a[1] < b[3] and b[1] < a[3]


def _bounds(made: Picture) -> Box:
    corners = [corner for mark in made.marks for corner in mark.corners]
    corners += [corner for word in made.words if word.box for corner in (word.box[:2], word.box[2:])]
    xs, ys = zip(*corners, strict=True)
    return min(xs), min(ys), max(xs), max(ys)
