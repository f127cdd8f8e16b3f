"""The elevation of a line, to scale: shapes in millimeters turned into a picture's own coordinates."""

from __future__ import annotations

from dataclasses import dataclass, field
from math import cos, pi, sin

from pulltide.core.belt_path import Round, belt_path
from pulltide.core.drawing import IN_LINE, LinkPicture, open_loop
from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.line_result import LineResult
from pulltide.core.links import family_of
from pulltide.core.machine import Plan
from pulltide.core.sources import drive_of
from pulltide.quantities import Units, show

WIDTH, HEIGHT = 785.0, 236.0
MARGIN_X, ABOVE, BELOW = 30.0, 44.0, 40.0
#: Width of one letter of a dimension's figure.
LETTER = 8.4
#: Wheels and cases stand this far above the floor line [mm].
FLOOR_GAP_MM = 12.0
#: A case lower than this on the picture has no room for its ratio inside.
SMALL_CASE = 60.0
#: Between the wheels of two shafts in line that are drawn side by side [mm].
BESIDE_GAP_MM = 30.0
Point = tuple[float, float]


@dataclass(frozen=True, slots=True)
class Wheel:
    """A pulley or sprocket."""

    x: float
    y: float
    r: float
    role: str
    teeth: int
    link: int


@dataclass(frozen=True, slots=True)
class Dimension:
    """A dimension line between two shafts."""

    x1: float
    x2: float
    y: float
    x: float
    text: str


@dataclass(frozen=True, slots=True)
class Label:
    """A word at a place."""

    x: float
    y: float
    text: str
    strong: bool
    anchor: str = "middle"


@dataclass(slots=True)
class Elevation:
    """All shapes of the picture, back to front, in picture units with y down."""

    floor: float = HEIGHT - BELOW
    motor: tuple[float, float, float] | None = None
    cases: list[tuple[float, float, float, float, int]] = field(default_factory=list)
    wheels: list[Wheel] = field(default_factory=list)
    loops: list[tuple[str, str, int]] = field(default_factory=list)
    axles: list[Point] = field(default_factory=list)
    axes: list[tuple[Point, Point]] = field(default_factory=list)
    arrows: list[str] = field(default_factory=list)
    dimensions: list[Dimension] = field(default_factory=list)
    labels: list[Label] = field(default_factory=list)
    summary: str = ""


def motor_radius_mm(power_kw: float) -> float:
    """Half the height of a motor of a power, as frames grow [mm]; for the picture alone."""
    return float(78.0 * power_kw**0.25)


@dataclass(frozen=True, slots=True)
class Placed:
    """Where everything stands, in millimeters, y up."""

    centers: tuple[Point, ...]
    pictures: tuple[LinkPicture, ...]
    motor_mm: float


def place(plan: Plan, line: LineResult) -> Placed:
    """Shaft centers one after the other, each link adding its offset."""
    pictures = tuple(
        family_of(link.kind).prepare(link, step).picture() for link, step in zip(plan.links, line.setting, strict=True)
    )
    centers = [(0.0, 0.0)]
    for index, picture in enumerate(pictures):
        last = centers[-1]
        x, y = picture.offset_mm
        if picture.in_line:
            x = max(x, _room_beside_mm(pictures, index))
        centers.append((last[0] + x, last[1] + y))
    drive = drive_of(plan.source)
    return Placed(tuple(centers), pictures, motor_radius_mm(drive.power_kw) if drive else 60.0)


def _room_beside_mm(pictures: tuple[LinkPicture, ...], index: int) -> float:
    """How far off a shaft in line is drawn so that neither its own wheels nor its neighbors' cover it [mm]."""
    here, before = pictures[index], pictures[index - 1].driven_radius_mm if index else 0.0
    after = pictures[index + 1].driver_reach_mm if index + 1 < len(pictures) else 0.0
    return max(here.driver_reach_mm, before) + max(here.driven_radius_mm, after) + BESIDE_GAP_MM


def _extent(placed: Placed) -> tuple[float, float, float, float]:
    first = placed.centers[0]
    boxes = [_box(first, placed.motor_mm)]
    for index, picture in enumerate(placed.pictures):
        for center, radius in (
            (placed.centers[index], picture.driver_radius_mm),
            (placed.centers[index + 1], picture.driven_radius_mm),
        ):
            reach = max(radius, picture.case_half_height_mm, 12.0)
            boxes.append(_box(center, reach))
        first_shaft = placed.centers[index]
        for wheel in picture.extra:
            center = (first_shaft[0] + wheel.at_mm[0], first_shaft[1] + wheel.at_mm[1])
            boxes.append(_box(center, wheel.radius_mm))
    return (
        min(b[0] for b in boxes),
        min(b[1] for b in boxes) - FLOOR_GAP_MM,
        max(b[2] for b in boxes),
        max(b[3] for b in boxes),
    )


def _box(center: Point, reach: float) -> tuple[float, float, float, float]:
    return center[0] - reach, center[1] - reach, center[0] + reach, center[1] + reach


class Sheet:
    """Turns millimeters into picture units."""

    def __init__(self, placed: Placed) -> None:
        left, low, right, high = _extent(placed)
        room_x, room_y = WIDTH - 2 * MARGIN_X, HEIGHT - ABOVE - BELOW
        self.scale = min(room_x / max(right - left, 1.0), room_y / max(high - low, 1.0))
        self.left = left - (room_x / self.scale - (right - left)) / 2
        self.low = low

    def at(self, point: Point) -> Point:
        """Picture coordinates of a point in millimeters."""
        return MARGIN_X + (point[0] - self.left) * self.scale, HEIGHT - BELOW - (point[1] - self.low) * self.scale


def elevation(plan: Plan, line: LineResult, units: Units) -> Elevation:
    """Draw a solved line."""
    placed = place(plan, line)
    sheet = Sheet(placed)
    drawing = Elevation()
    centers = [sheet.at(center) for center in placed.centers]
    drawing.axles = centers
    drawing.motor = (*centers[0], placed.motor_mm * sheet.scale)
    for index, picture in enumerate(placed.pictures):
        ends = (centers[index], centers[index + 1])
        if picture.in_line:
            drawing.axes.append(ends)
        _draw_link(drawing, picture, ends, sheet.scale, index + 1)
    _draw_arrows(drawing, placed, line, centers, sheet.scale)
    _draw_dimensions(drawing, line, centers, units)
    _draw_labels(drawing, placed, line, centers, sheet.scale)
    drawing.summary = _summary(line, units)
    return drawing


def _draw_link(drawing: Elevation, picture: LinkPicture, ends: tuple[Point, Point], scale: float, link: int) -> None:
    """Shapes of one link; each knows its link, so that the page can mark what has given."""
    first, second = ends
    if picture.role == "case":
        half = max(picture.case_half_height_mm * scale, 10.0)
        left, right = min(first[0], second[0]) - half * 0.8, max(first[0], second[0]) + half * 0.8
        drawing.cases.append((left, first[1] - half, right - left, 2 * half, link))
        return
    radii = (picture.driver_radius_mm * scale, picture.driven_radius_mm * scale)
    for center, radius, teeth in ((first, radii[0], picture.driver_teeth), (second, radii[1], picture.driven_teeth)):
        if radius:
            drawing.wheels.append(Wheel(*center, radius, picture.role, teeth, link))
    for wheel in picture.extra:
        x, y = first[0] + wheel.at_mm[0] * scale, first[1] - wheel.at_mm[1] * scale
        drawing.wheels.append(Wheel(x, y, wheel.radius_mm * scale, picture.role, wheel.teeth, link))
    if picture.role not in ("belt", "chain"):
        return
    plain = _loop_path(first, radii[0], second, radii[1])
    path = _belt_path(first, picture.path, scale) if picture.path else plain
    if path:
        drawing.loops.append((picture.role, path, link))


def _loop_path(first: Point, r1: float, second: Point, r2: float) -> str:
    """An SVG path: along one span, round the second wheel, back, round the first."""
    flipped = ((first[0], -first[1]), (second[0], -second[1]))
    try:
        loop = open_loop(flipped[0], r1, flipped[1], r2)
    except ImpossibleGeometry:
        return ""
    (a, b), (c, d) = loop.upper, loop.lower
    large_second = 1 if loop.wrap_second_deg > 180 else 0
    large_first = 1 if loop.wrap_first_deg > 180 else 0
    return (
        f"M{a[0]:.1f} {-a[1]:.1f}L{b[0]:.1f} {-b[1]:.1f}"
        f"A{r2:.1f} {r2:.1f} 0 {large_second} 1 {d[0]:.1f} {-d[1]:.1f}"
        f"L{c[0]:.1f} {-c[1]:.1f}A{r1:.1f} {r1:.1f} 0 {large_first} 1 {a[0]:.1f} {-a[1]:.1f}Z"
    )


def _belt_path(first: Point, wheels: tuple[Round, ...], scale: float) -> str:
    """An SVG path round every wheel of a belt, in belt order; the picture's y points down, so turns are mirrored."""
    path = belt_path(wheels)
    written = []
    for index, (span, wheel) in enumerate(zip(path.spans, wheels, strict=True)):
        starts = (first[0] + span.start_mm[0] * scale, first[1] - span.start_mm[1] * scale)
        large, sweep = int(path.wraps_deg[index] > 180), int(wheel.on_back)
        radius = wheel.radius_mm * scale
        arc = f"A{radius:.1f} {radius:.1f} 0 {large} {sweep} {starts[0]:.1f} {starts[1]:.1f}"
        ends = (first[0] + span.end_mm[0] * scale, first[1] - span.end_mm[1] * scale)
        written.append((f"{arc}L{ends[0]:.1f} {ends[1]:.1f}", ends))
    last = written[-1][1]
    return f"M{last[0]:.1f} {last[1]:.1f}" + "".join(part for part, _ in written) + "Z"


def _wheel_radius(placed: Placed, index: int) -> float:
    radii = [10.0]
    if index < len(placed.pictures):
        radii.append(placed.pictures[index].driver_radius_mm)
    if index > 0:
        radii.append(placed.pictures[index - 1].driven_radius_mm)
    return max(radii)


def _draw_arrows(drawing: Elevation, placed: Placed, line: LineResult, centers: list[Point], scale: float) -> None:
    for index, shaft in enumerate(line.shafts):
        radius = _wheel_radius(placed, index) * scale * 0.62
        if shaft.turn is None or radius < 9:
            continue
        drawing.arrows.append(_arrow(centers[index], radius, clockwise=shaft.turn == 1))


def _arrow(center: Point, radius: float, clockwise: bool) -> str:
    """An arc over the top of a wheel with a barbed end."""
    start, end = (1.25 * pi, 1.8 * pi) if clockwise else (1.75 * pi, 1.2 * pi)

    def at(angle: float, reach: float = 1.0) -> Point:
        return center[0] + radius * reach * cos(angle), center[1] + radius * reach * sin(angle)

    tail, tip = at(start), at(end)
    back = -0.42 if clockwise else 0.42
    barb = min(0.34, 7 / radius) if radius else 0.3
    inner, outer = at(end + back * 0.8, 1 - barb), at(end + back * 0.8, 1 + barb)
    sweep = 1 if clockwise else 0
    return (
        f"M{tail[0]:.1f} {tail[1]:.1f}A{radius:.1f} {radius:.1f} 0 0 {sweep} {tip[0]:.1f} {tip[1]:.1f}"
        f"M{inner[0]:.1f} {inner[1]:.1f}L{tip[0]:.1f} {tip[1]:.1f}L{outer[0]:.1f} {outer[1]:.1f}"
    )


def _draw_dimensions(drawing: Elevation, line: LineResult, centers: list[Point], units: Units) -> None:
    wide = []
    for index, link in enumerate(line.links):
        left, right = sorted((centers[index][0], centers[index + 1][0]))
        if link.center_distance_mm is not None and right - left >= 40:
            wide.append((left, right, str(show(link.center_distance_mm, "mm", units))))
    # Figures wider than the gap they measure take turns on two rows rather than cover each other.
    crowded = any(len(text) * LETTER + 16 > right - left for left, right, text in wide)
    rows = (HEIGHT - 29, HEIGHT - 11) if crowded and len(wide) > 1 else (HEIGHT - 18,)
    for index, (left, right, text) in enumerate(wide):
        drawing.dimensions.append(Dimension(left, right, rows[index % len(rows)], (left + right) / 2, text))


#: Half the width of a letter of a name on the sheet.
HALF_LETTER = 4.0


def _draw_labels(drawing: Elevation, placed: Placed, line: LineResult, centers: list[Point], scale: float) -> None:
    tops = [
        y - max(_wheel_radius(placed, i) * scale, drawing.motor[2] if i == 0 and drawing.motor else 0)
        for i, (_, y) in enumerate(centers)
    ]
    cases = iter(drawing.cases)
    for index, picture in enumerate(placed.pictures):
        if picture.role == "case":
            x, y, width, height, _ = next(cases)
            tops[index] = min(tops[index], y)
            tops[index + 1] = min(tops[index + 1], y)
            ratio = f"{line.links[index].ratio:.4g} : 1"
            below = y + height + 15 if height < SMALL_CASE else y + height - 8
            drawing.labels.append(Label(x + width - 7, below, ratio, False, "end"))
    _draw_notes(drawing, placed)
    ends = {0: line.shafts[0].name, len(centers) - 1: line.last_shaft.name}
    for index, name in ends.items():
        anchor = "start" if index == 0 and centers[0][0] < 70 else "middle"
        x = min(max(centers[index][0], 40), WIDTH - 10)
        if index and x + len(name) * HALF_LETTER > WIDTH - 12:
            anchor, x = "end", WIDTH - 12
        drawing.labels.append(Label(x, max(tops[index] - 9, 14), name, True, anchor))


def _draw_notes(drawing: Elevation, placed: Placed) -> None:
    """How the picture departs from what stands in the shop, each departure said once, along the top."""
    notes = {picture.note for picture in placed.pictures if picture.note}
    if any(picture.in_line for picture in placed.pictures):
        notes.add(IN_LINE)
    for index, note in enumerate(sorted(notes, reverse=True)):
        x, anchor = (12.0, "start") if index == 0 else (WIDTH - 12, "end")
        drawing.labels.append(Label(x, 18, note, False, anchor))


def _summary(line: LineResult, units: Units) -> str:
    parts = [f"{shaft.name} {show(shaft.speed_rpm, 'rpm', units)}" for shaft in line.shafts]
    return "Elevation of the drive, to scale: " + ", then ".join(parts)
