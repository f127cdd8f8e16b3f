"""Elevation and plan of a line as DXF in true scale: millimeters, named layers, closed outlines."""

from __future__ import annotations

from dataclasses import replace
from io import StringIO
from math import atan2, degrees, hypot
from typing import Any

from pulltide.core.elevation import elevation, side_elevation
from pulltide.core.layout import place
from pulltide.core.line_result import LineResult
from pulltide.core.machine import Plan
from pulltide.core.plan_view import plan_view
from pulltide.core.sketch import Axle, Bow, Circle, Dimension, Hatch, Line, Loop, Point, Shape, Sketch, Straight, Text
from pulltide.quantities import Units, show

#: Layers and their colors by the number of the format.
LAYERS = {
    "MOTOR": 8,
    "CASES": 8,
    "WHEELS": 7,
    "BELTS": 5,
    "CHAINS": 3,
    "SHAFTS": 1,
    "BEARINGS": 6,
    "DIMENSIONS": 2,
    "WORDS": 7,
}
#: Height of letters, as a share of the width of the drawing, within what can be read [mm].
LETTER_SHARE, MIN_LETTER_MM, MAX_LETTER_MM = 0.012, 3.0, 30.0
CROSS_MM = 8.0
#: From the floor of the elevation down to the far side of the plan [mm].
BETWEEN_MM = 120.0


def dxf_file(plan: Plan, line: LineResult, units: Units) -> bytes:
    """The elevation of a solved line. The motor's shaft is at the origin of the layout."""
    from ezdxf.document import Drawing
    from ezdxf.units import MM

    document = Drawing.new("R2010")
    document.units = MM
    for name, color in LAYERS.items():
        document.layers.add(name, color=color)
    drawing = elevation(plan, line)
    space = document.modelspace()
    letter = _letter_mm(drawing)
    for shape in (*drawing.shapes, *_below(plan, line).shapes, *_beside(plan, line).shapes):
        _draw(space, shape, letter, units)
    stream = StringIO()
    document.write(stream)
    return stream.getvalue().encode("utf-8", "dxfreplace")


def _below(plan: Plan, line: LineResult) -> Sketch:
    """The plan on the verticals of the elevation, its far side this far under the floor."""
    drawing, placed = plan_view(plan, line)
    far = max(y for shape in drawing.shapes if isinstance(shape, Line) for _, y in shape.points)
    return _moved(drawing, 0.0, placed.extent[1] - BETWEEN_MM - far)


def _beside(plan: Plan, line: LineResult) -> Sketch:
    """The side that shows what lies beyond a right angle, on the level of the elevation, to its right."""
    drawing = side_elevation(plan, line)
    if drawing is None:
        return Sketch("")
    left = min(x for shape in drawing.shapes if isinstance(shape, Line) for x, _ in shape.points)
    return _moved(drawing, place(plan, line).extent[2] + BETWEEN_MM - left, 0.0)


def _moved(drawing: Sketch, right: float, up: float) -> Sketch:
    def at(point: Point) -> Point:
        return point[0] + right, point[1] + up

    def step(way: Straight | Bow) -> Straight | Bow:
        return replace(way, to=at(way.to))

    shapes: list[Shape] = []
    for shape in drawing.shapes:
        match shape:
            case Line(points=points):
                shapes.append(replace(shape, points=tuple(map(at, points))))
            case Dimension(a=a, b=b):
                shapes.append(replace(shape, a=at(a), b=at(b)))
            case Circle(at=middle) | Axle(at=middle):
                shapes.append(replace(shape, at=at(middle)))
            case Loop(start=start, steps=steps):
                shapes.append(replace(shape, start=at(start), steps=tuple(map(step, steps))))
            case _:
                pass
    return Sketch(drawing.caption, shapes)


def _letter_mm(drawing: Sketch) -> float:
    xs = [shape.at[0] for shape in drawing.shapes if isinstance(shape, Axle)] or [0.0, 1000.0]
    return min(max(LETTER_SHARE * (max(xs) - min(xs)), MIN_LETTER_MM), MAX_LETTER_MM)


def _layer(role: str) -> str:
    words = role.split(" ")
    if words[0] in ("loop", "band"):
        return "CHAINS" if "chain" in words else "BELTS"
    return {
        "motor": "MOTOR",
        "case": "CASES",
        "axis": "SHAFTS",
        "rod": "SHAFTS",
        "bearing": "BEARINGS",
        "feet": "CASES",
    }.get(words[0], "WHEELS")


def _draw(space: Any, shape: Shape, letter_mm: float, units: Units) -> None:
    match shape:
        case Circle(at, radius, role):
            space.add_circle(at, radius, dxfattribs={"layer": _layer(role)})
        case Line(points, role, closed):
            space.add_lwpolyline(points, close=closed, dxfattribs={"layer": _layer(role)})
        case Hatch(outline, apart):
            cut = space.add_hatch(dxfattribs={"layer": "CASES"})
            cut.set_pattern_fill("ANSI31", scale=apart / 3.0)
            cut.paths.add_polyline_path(outline, is_closed=True)
        case Loop():
            _loop(space, shape)
        case Axle(at):
            _cross(space, at)
        case Dimension():
            _dimension(space, shape, letter_mm, units)
        case Text(at, text):
            _text(space, text, at, letter_mm)
        case _:
            pass


def _cross(space: Any, at: Point) -> None:
    x, y = at
    for start, end in (((x - CROSS_MM, y), (x + CROSS_MM, y)), ((x, y - CROSS_MM), (x, y + CROSS_MM))):
        space.add_line(start, end, dxfattribs={"layer": "SHAFTS"})


def _loop(space: Any, shape: Loop) -> None:
    """A closed outline of straights and arcs, as one polyline with bulges."""
    corners: list[tuple[float, float, float]] = []
    at = shape.start
    for step in shape.steps:
        corners.append((*at, bulge(at, step) if isinstance(step, Bow) else 0.0))
        at = step.to
    if _apart(at, shape.start) > 1e-6:
        corners.append((*at, 0.0))
    attributes = {"layer": _layer(shape.role)}
    space.add_lwpolyline(corners, format="xyb", close=True, dxfattribs=attributes)


def bulge(start: Point, bow: Bow) -> float:
    """Tangent of a quarter of the angle of an arc, below 0 clockwise: what the format stores of it."""
    half = _apart(start, bow.to) / 2
    depth = bow.radius - (max(bow.radius**2 - half**2, 0.0)) ** 0.5
    depth = 2 * bow.radius - depth if bow.large else depth
    size = depth / half if half else 0.0
    return -size if bow.clockwise else size


def _apart(a: Point, b: Point) -> float:
    return hypot(a[0] - b[0], a[1] - b[1])


def _dimension(space: Any, shape: Dimension, letter_mm: float, units: Units) -> None:
    """The line from center to center with its measure beside it."""
    space.add_line(shape.a, shape.b, dxfattribs={"layer": "DIMENSIONS"})
    middle = (shape.a[0] + shape.b[0]) / 2, (shape.a[1] + shape.b[1]) / 2 + letter_mm
    turn = degrees(atan2(shape.b[1] - shape.a[1], shape.b[0] - shape.a[0]))
    placed = space.add_text(
        str(show(shape.value, shape.unit, units)),
        height=letter_mm,
        dxfattribs={"layer": "DIMENSIONS", "rotation": turn},
    )
    placed.set_placement(middle)


def _text(space: Any, text: str, at: Point, letter_mm: float) -> None:
    space.add_text(text, height=letter_mm, dxfattribs={"layer": "WORDS"}).set_placement(at)
