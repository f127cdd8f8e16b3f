"""Where the shafts of a line stand: one after the other, each link adding the way from its driver to its driven shaft.

Millimeters in space: x to the right, y up, z away from the viewer, the first wheel of the motor shaft at the origin.
Unfolded, all shafts lie parallel and those on one axis side by side: a picture in which each wheel is seen.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

from pulltide.core.bodies import MotorBody, motor_body
from pulltide.core.drawing import Housing, LinkPicture, Stands
from pulltide.core.line_result import LineResult
from pulltide.core.machine import Plan
from pulltide.core.shafts import ShaftPart
from pulltide.core.sources import drive_of
from pulltide.core.space import BASE, FRONT, Axes, Block, Cylinder, Point, Vec, View
from pulltide.core.transmission import AnyTransmission

Box = tuple[float, float, float, float]
ORIGIN: Vec = (0.0, 0.0, 0.0)
#: Between the wheels of two shafts in line that are drawn side by side [mm].
BESIDE_GAP_MM = 30.0
#: Wheels and cases stand this far above the floor line [mm].
FLOOR_GAP_MM = 12.0
#: A bare shaft end, and a motor whose power is unknown, take up this much [mm].
BARE_RADIUS_MM, UNKNOWN_MOTOR_MM = 12.0, 60.0
#: Between the faces of neighbors that nobody placed [mm], and length of a case over its height. For the picture alone.
GAP_MM, CASE_LONG = 15.0, 0.9
#: A wheel that says nothing of its face [mm].
FACE_MM = 20.0


def motor_radius_mm(power_kw: float) -> float:
    """Half the height of a motor of a power, as frames grow [mm]; for the picture alone."""
    return float(78.0 * power_kw**0.25)


@dataclass(frozen=True, slots=True)
class Stand:
    """Where one stage stands: the middle of its wheel on its driver and its driven shaft, how either shaft lies.

    A case stands between where its driver shaft enters and where its driven shaft leaves it; ``block`` is its outside,
    ``known`` whether that is more than a guess. ``faces_mm`` are the widths of its wheels on either shaft.
    """

    driver: Vec
    driven: Vec
    axes: Axes
    turned: Axes
    faces_mm: tuple[float, float]
    block: Block | None = None
    known: bool = False

    @property
    def face_mm(self) -> float:
        """The width of its widest wheel [mm]."""
        return max(self.faces_mm)


@dataclass(frozen=True, slots=True)
class Placed:
    """Stages where they stand, what each looks like, half the height of the motor [mm].

    ``assumed`` are the shafts, from 1, along which nobody placed the wheels.
    """

    stands: tuple[Stand, ...]
    pictures: tuple[LinkPicture, ...]
    motor_mm: float
    motor_height_mm: float | None = None
    body: MotorBody | None = None
    assumed: tuple[int, ...] = ()

    @property
    def spots(self) -> tuple[Vec, ...]:
        """A place on every shaft: its first wheel, or where it leaves a case."""
        return ORIGIN, *(stand.driven for stand in self.stands)

    @property
    def centers(self) -> tuple[Point, ...]:
        """Every shaft as it is seen in the elevation."""
        return tuple((x, y) for x, y, _ in self.spots)

    def axes(self, shaft: int) -> Axes:
        """How a shaft lies, counted from 0."""
        return self.stands[shaft - 1].turned if shaft else BASE

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
        boxes = [_box((0.0, 0.0), self.motor_mm if self.feet_mm is None else max(self.motor_mm, -self.feet_mm))]
        for index in range(len(self.stands)):
            boxes += self._boxes(index)
        lefts, lows, rights, highs = zip(*boxes, strict=True)
        return min(lefts), min(lows) - FLOOR_GAP_MM, max(rights), max(highs)

    def _boxes(self, index: int) -> list[Box]:
        """What a stage takes up in the elevation."""
        stand, picture = self.stands[index], self.pictures[index]
        if stand.block is not None:
            return [bounds(stand.block.seen(FRONT)), *(_box(FRONT.at(end), BARE_RADIUS_MM) for end in ends_of(stand))]
        if not (FRONT.along(stand.axes) and FRONT.along(stand.turned)):
            return [box_seen(wheel, FRONT) for wheel in self.wheels(index)]
        boxes = []
        for end, radius in zip(ends_of(stand), (picture.driver_radius_mm, picture.driven_radius_mm), strict=True):
            boxes.append(_box(FRONT.at(end), max(radius, picture.case_half_height_mm, BARE_RADIUS_MM)))
        return boxes + [box_seen(wheel, FRONT) for wheel in self.wheels(index)[2:]]

    def wheels(self, index: int) -> tuple[Cylinder, ...]:
        """The wheels of a stage as solid discs: on its driver shaft, on its driven shaft, others. A case has none."""
        stand, picture = self.stands[index], self.pictures[index]
        if picture.role == "case":
            return ()
        first, second = (face / 2 for face in stand.faces_mm)
        half = max(first, second)
        return (
            Cylinder(stand.driver, stand.axes.away, picture.driver_radius_mm, first, (1.0, picture.tip_share)),
            Cylinder(stand.driven, stand.turned.away, picture.driven_radius_mm, second, (picture.tip_share, 1.0)),
            *(
                Cylinder(
                    stand.axes.at(stand.driver, *wheel.at_mm, wheel.back_mm), stand.axes.away, wheel.radius_mm, half
                )
                for wheel in picture.extra
            ),
        )

    def bodies(self, index: int) -> tuple[Cylinder, ...]:
        """The wheels of a stage to the outside of teeth, chain or belt; a side without a wheel has none."""
        over, wheels = self.pictures[index].over_mm, self.wheels(index)
        if not over:
            return wheels
        return tuple(replace(wheel, radius=wheel.radius + over) if wheel.radius else wheel for wheel in wheels)

    def wheel_radius_mm(self, index: int) -> float:
        """Radius of the largest wheel on a shaft, counted from 0 [mm]; a bare shaft has a little."""
        radii = [10.0]
        if index < len(self.pictures):
            radii.append(self.pictures[index].driver_radius_mm)
        if index > 0:
            radii.append(self.pictures[index - 1].driven_radius_mm)
        return max(radii)


def ends_of(stand: Stand) -> tuple[Vec, Vec]:
    """Where a stage stands on either shaft."""
    return stand.driver, stand.driven


def bounds(points: tuple[Point, ...]) -> Box:
    """Left, low, right and high end of points."""
    xs, ys = zip(*points, strict=True)
    return min(xs), min(ys), max(xs), max(ys)


def box_seen(wheel: Cylinder, view: View) -> Box:
    """What a wheel takes up on a picture."""
    if abs(abs(sum(a * b for a, b in zip(wheel.axis, view.sight, strict=True))) - 1) < 1e-6:
        return _box(view.at(wheel.middle), wheel.radius)
    return bounds(wheel.seen(view))


def place(plan: Plan, line: LineResult, *, unfolded: bool = False) -> Placed:
    """Place the shafts of a solved line."""
    made = tuple(link.transmission for link in line.links)
    pictures = tuple(one.picture() for one in made)
    faces = tuple(_faces_mm(one) for one in made)
    stands: list[Stand] = []
    assumed: list[int] = []
    at, axes = ORIGIN, BASE
    for index, picture in enumerate(pictures):
        if index:
            step = _placed_step(plan.shaft_part(index + 1))
            if step is None and not (_is_solid(picture) or _is_solid(pictures[index - 1])):
                assumed.append(index + 1)
            step = _assumed_step(pictures, faces, index) if step is None else step
            at = axes.at(stands[-1].driven, away=step)
        face = max(faces[index])
        way = _unfolded(pictures, index, face) if unfolded else _as_it_is(picture, face)
        stands.append(_stand(at, axes, way, faces[index]))
        axes = stands[-1].turned
    drive = drive_of(plan.source)
    body = motor_body(getattr(drive.details, "frame", None)) if drive else None
    motor_mm = body.body_mm / 2 if body else motor_radius_mm(drive.power_kw) if drive else UNKNOWN_MOTOR_MM
    return Placed(tuple(stands), pictures, motor_mm, plan.room.motor_height_mm, body, tuple(assumed))


def _stand(at: Vec, axes: Axes, way: Stands, faces_mm: tuple[float, float]) -> Stand:
    turned = axes.toward(way.toward)
    driven = turned.at(axes.at(at, *way.offset_mm, way.back_mm), away=way.out_mm)
    case = way.housing
    if case is None:
        return Stand(at, driven, axes, turned, faces_mm)
    half = (case.left_mm + case.right_mm) / 2, (case.low_mm + case.high_mm) / 2, case.deep_mm / 2
    middle = axes.at(at, half[0] - case.left_mm, half[1] - case.low_mm, half[2])
    return Stand(at, driven, axes, turned, faces_mm, Block(middle, axes, half), case.known)


def _as_it_is(picture: LinkPicture, face_mm: float) -> Stands:
    """As the family says; else parallel at its offset, or on the axis and a coupling's length farther on."""
    if picture.stands is not None:
        return picture.stands
    if picture.role == "case":
        return _some_case(picture)
    back = face_mm if picture.role == "coupling" else 0.0
    return Stands(offset_mm=(0.0, 0.0) if picture.in_line else picture.offset_mm, back_mm=back)


def _some_case(picture: LinkPicture) -> Stands:
    """A case of which no more is known than its height."""
    (x, y), half = ((0.0, 0.0) if picture.in_line else picture.offset_mm), picture.case_half_height_mm
    deep = 2 * half * CASE_LONG
    case = Housing(
        left_mm=max(-x, 0.0) + half,
        right_mm=max(x, 0.0) + half,
        low_mm=max(-y, 0.0) + half,
        high_mm=max(y, 0.0) + half,
        deep_mm=deep,
        known=False,
    )
    return Stands(offset_mm=(x, y), back_mm=deep, housing=case)


def _unfolded(pictures: tuple[LinkPicture, ...], index: int, face_mm: float) -> Stands:
    """Parallel and beside each other, whatever the drive is."""
    picture = pictures[index]
    x, y = picture.offset_mm
    if picture.in_line:
        x = max(x, _room_beside_mm(pictures, index))
    back = 2 * picture.case_half_height_mm * CASE_LONG if picture.role == "case" else 0.0
    return Stands(offset_mm=(x, y), back_mm=face_mm if picture.role == "coupling" else back)


def _is_solid(picture: LinkPicture) -> bool:
    """Whether both its shafts end at it: a shaft that two of these share needs no place along it."""
    return picture.role in ("case", "coupling")


def _faces_mm(made: AnyTransmission) -> tuple[float, float]:
    """Widths of the wheels on either shaft; one that tells nothing is as wide as the other."""
    width_of = {disc.side: disc.face_mm for disc in sorted(made.discs, key=lambda disc: disc.face_mm)}
    first, second = width_of.get("driver"), width_of.get("driven")
    return first or second or FACE_MM, second or first or FACE_MM


def _placed_step(part: ShaftPart | None) -> float | None:
    """From the wheel of the stage before to that of the stage after, as entered [mm]."""
    span = None if part is None else part.span
    if span is None or span.driven_at_mm is None or span.driver_at_mm is None:
        return None
    return span.driver_at_mm - span.driven_at_mm


def _assumed_step(pictures: tuple[LinkPicture, ...], faces: tuple[tuple[float, float], ...], index: int) -> float:
    """Faces beside each other with a gap; what has a case begins beyond the wheel before it."""
    before = 0.0 if _is_solid(pictures[index - 1]) else faces[index - 1][1] / 2
    after = 0.0 if _is_solid(pictures[index]) else faces[index][0] / 2
    return before + GAP_MM + after


def _room_beside_mm(pictures: tuple[LinkPicture, ...], index: int) -> float:
    """How far off a shaft in line is drawn so that neither its own wheels nor its neighbors' cover it [mm]."""
    here, before = pictures[index], pictures[index - 1].driven_radius_mm if index else 0.0
    after = pictures[index + 1].driver_reach_mm if index + 1 < len(pictures) else 0.0
    return max(here.driver_reach_mm, before) + max(here.driven_radius_mm, after) + BESIDE_GAP_MM


def _box(center: Point, reach: float) -> Box:
    return center[0] - reach, center[1] - reach, center[0] + reach, center[1] + reach
