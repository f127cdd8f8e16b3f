"""Where the shafts of a line stand: one after the other, each link adding the way from its driver to its driven shaft.

Elevation, in millimeters, x to the right, y up, the motor shaft at the origin.
"""

from __future__ import annotations

from dataclasses import dataclass

from pulltide.core.bodies import MotorBody, motor_body
from pulltide.core.drawing import LinkPicture
from pulltide.core.line_result import LineResult
from pulltide.core.links import family_of
from pulltide.core.machine import Plan
from pulltide.core.sources import drive_of

Point = tuple[float, float]
Box = tuple[float, float, float, float]
#: Between the wheels of two shafts in line that are drawn side by side [mm].
BESIDE_GAP_MM = 30.0
#: Wheels and cases stand this far above the floor line [mm].
FLOOR_GAP_MM = 12.0
#: A bare shaft end, and a motor whose power is unknown, take up this much [mm].
BARE_RADIUS_MM, UNKNOWN_MOTOR_MM = 12.0, 60.0


def motor_radius_mm(power_kw: float) -> float:
    """Half the height of a motor of a power, as frames grow [mm]; for the picture alone."""
    return float(78.0 * power_kw**0.25)


@dataclass(frozen=True, slots=True)
class Placed:
    """Centers of the shafts, what each link looks like, half the height of the motor [mm]."""

    centers: tuple[Point, ...]
    pictures: tuple[LinkPicture, ...]
    motor_mm: float
    motor_height_mm: float | None = None
    body: MotorBody | None = None

    @property
    def feet_mm(self) -> float | None:
        """Where the motor's feet stand [mm]; None where its frame is not known."""
        return None if self.body is None else -self.body.axis_height_mm

    @property
    def floor_mm(self) -> float:
        """The floor [mm]: as far below the motor's shaft as is entered, else just below everything."""
        return self.extent[1] if self.motor_height_mm is None else -self.motor_height_mm

    @property
    def extent(self) -> Box:
        """Left, low, right and high end of everything, with room for a floor below [mm]."""
        boxes = [_box(self.centers[0], self.motor_mm if self.feet_mm is None else max(self.motor_mm, -self.feet_mm))]
        for first, second, picture in zip(self.centers, self.centers[1:], self.pictures, strict=False):
            for center, radius in ((first, picture.driver_radius_mm), (second, picture.driven_radius_mm)):
                boxes.append(_box(center, max(radius, picture.case_half_height_mm, BARE_RADIUS_MM)))
            boxes += [_box(_beside(first, wheel.at_mm), wheel.radius_mm) for wheel in picture.extra]
        lefts, lows, rights, highs = zip(*boxes, strict=True)
        return min(lefts), min(lows) - FLOOR_GAP_MM, max(rights), max(highs)

    def wheel_radius_mm(self, index: int) -> float:
        """Radius of the largest wheel on a shaft, counted from 0 [mm]; a bare shaft has a little."""
        radii = [10.0]
        if index < len(self.pictures):
            radii.append(self.pictures[index].driver_radius_mm)
        if index > 0:
            radii.append(self.pictures[index - 1].driven_radius_mm)
        return max(radii)


def place(plan: Plan, line: LineResult) -> Placed:
    """Place the shafts of a solved line."""
    pictures = tuple(
        family_of(link.kind).prepare(link, step).picture() for link, step in zip(plan.links, line.setting, strict=True)
    )
    centers = [(0.0, 0.0)]
    for index, picture in enumerate(pictures):
        x, y = picture.offset_mm
        if picture.in_line:
            x = max(x, _room_beside_mm(pictures, index))
        centers.append(_beside(centers[-1], (x, y)))
    drive = drive_of(plan.source)
    body = motor_body(getattr(drive.details, "frame", None)) if drive else None
    motor_mm = body.body_mm / 2 if body else motor_radius_mm(drive.power_kw) if drive else UNKNOWN_MOTOR_MM
    return Placed(tuple(centers), pictures, motor_mm, plan.room.motor_height_mm, body)


def _room_beside_mm(pictures: tuple[LinkPicture, ...], index: int) -> float:
    """How far off a shaft in line is drawn so that neither its own wheels nor its neighbors' cover it [mm]."""
    here, before = pictures[index], pictures[index - 1].driven_radius_mm if index else 0.0
    after = pictures[index + 1].driver_reach_mm if index + 1 < len(pictures) else 0.0
    return max(here.driver_reach_mm, before) + max(here.driven_radius_mm, after) + BESIDE_GAP_MM


def _beside(center: Point, way: Point) -> Point:
    return center[0] + way[0], center[1] + way[1]


def _box(center: Point, reach: float) -> Box:
    return center[0] - reach, center[1] - reach, center[0] + reach, center[1] + reach
