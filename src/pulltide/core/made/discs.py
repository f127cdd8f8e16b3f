"""Parts of a machine that belong to no stage: hole circles, crank discs, cams and motor bases, by their sizes alone."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import atan, cos, degrees, hypot, pi, radians, sin
from typing import Any, Literal

from pydantic import Field, model_validator

from pulltide.core.findings import COMMON_PRACTICE, EXACT, Source
from pulltide.core.labels import phrase
from pulltide.core.made.wheel import MadeWheel, Measure, arc, circle
from pulltide.core.model import CoreModel, Degrees, Mm
from pulltide.core.sketch import Point

#: Metal between two holes over a hole, and the angle and the share of a roller that a cam keeps to. Common practice.
MIN_WEB, MAX_PRESSURE_DEG, MIN_CURVE = 1.0, 30.0, 1.5
#: A cam is drawn in so many points.
CAM_POINTS = 1440
CAMS = Source("Shigley, Theory of Machines and Mechanisms", "cycloidal and harmonic motion", "formula")


class Disc(CoreModel):
    """What every loose part has: its thickness."""

    thickness_mm: Mm = Field(10.0, title="Thickness", ge=0.5, le=200)


class HoleCircle(Disc):
    """Holes evenly round a circle."""

    kind: Literal["hole_circle"] = "hole_circle"
    holes: int = Field(6, title="Holes", ge=2, le=60)
    circle_mm: Mm = Field(120.0, title="Hole circle", ge=5, le=3000, description="through the middles of the holes")
    hole_mm: Mm = Field(11.0, title="Hole diameter", ge=0.5, le=500)
    outside_mm: Mm = Field(160.0, title="Outside diameter", ge=6, le=4000)
    bore_mm: Mm = Field(30.0, title="Bore", ge=0, le=3000)
    start_deg: Degrees = Field(0.0, title="First hole at", ge=-360, le=360, description="0 right, counter-clockwise")

    @model_validator(mode="after")
    def _holes_are_in_it(self) -> HoleCircle:
        if self.circle_mm + self.hole_mm >= self.outside_mm:
            raise ValueError("the holes break out of the rim; a smaller circle or a larger disc holds them")
        if self.circle_mm - self.hole_mm <= self.bore_mm:
            raise ValueError("the holes run into the bore; a larger circle or a smaller bore keeps them apart")
        if chord_mm(self.circle_mm, self.holes) <= self.hole_mm:
            raise ValueError("the holes run into each other; take fewer, smaller, or a larger circle")
        return self


class CrankDisc(Disc):
    """A disc with one hole off its middle: a crank, or an eccentric."""

    kind: Literal["crank"] = "crank"
    stroke_mm: Mm = Field(80.0, title="Stroke", ge=1, le=2000)
    pin_mm: Mm = Field(16.0, title="Pin hole", ge=1, le=300)
    bore_mm: Mm = Field(25.0, title="Bore", ge=1, le=500)
    outside_mm: Mm = Field(140.0, title="Outside diameter", ge=5, le=3000)

    @model_validator(mode="after")
    def _pin_is_in_it(self) -> CrankDisc:
        throw = self.stroke_mm / 2
        if throw + self.pin_mm / 2 >= self.outside_mm / 2:
            raise ValueError("the pin breaks out of the rim; a larger disc or a shorter stroke holds it")
        if throw - self.pin_mm / 2 <= self.bore_mm / 2:
            raise ValueError("the pin runs into the bore; an eccentric round the shaft gives so short a stroke")
        return self


class Cam(Disc):
    """A disc that lifts a roller, holds it, and lets it down."""

    kind: Literal["cam"] = "cam"
    motion: Literal["cycloidal", "harmonic"] = Field("cycloidal", title="Motion")
    lift_mm: Mm = Field(20.0, title="Lift", gt=0, le=500)
    base_mm: Mm = Field(40.0, title="Shaft to roller, let down", ge=3, le=1000, description="middle to middle")
    roller_mm: Mm = Field(20.0, title="Roller diameter", ge=1, le=300)
    rise_deg: Degrees = Field(90.0, title="Lifts over", ge=10, le=350)
    hold_deg: Degrees = Field(60.0, title="Holds over", ge=0, le=340)
    fall_deg: Degrees = Field(90.0, title="Lets down over", ge=10, le=350)
    bore_mm: Mm = Field(20.0, title="Bore", ge=1, le=500)

    @model_validator(mode="after")
    def _within_a_turn(self) -> Cam:
        if self.rise_deg + self.hold_deg + self.fall_deg > 360:
            raise ValueError("lifting, holding and letting down take more than a turn of 360°")
        if self.base_mm - self.roller_mm / 2 <= self.bore_mm / 2:
            raise ValueError("the bore leaves no metal under the roller; a smaller bore, or farther from the shaft")
        return self


class MotorBase(Disc):
    """A plate with slots for the feet of a motor, so that it slides along them, and holes to bolt it down."""

    kind: Literal["base"] = "base"
    across_mm: Mm = Field(140.0, title="Foot holes, across the shaft", ge=20, le=1500)
    along_mm: Mm = Field(100.0, title="Foot holes, along the shaft", ge=20, le=1500)
    bolt_mm: Mm = Field(10.0, title="Slot width", ge=2, le=60, description="the bolt and {1|mm}")
    slide_mm: Mm = Field(60.0, title="Slide", ge=0, le=600, description="to put the belt on, and to tension it")
    hold_mm: Mm = Field(11.0, title="Holes to bolt it down", ge=2, le=60)

    @property
    def size_mm(self) -> tuple[float, float]:
        """Across and along."""
        edge = 3 * max(self.bolt_mm, self.hold_mm)
        return self.across_mm + self.slide_mm + 2 * edge, self.along_mm + 2 * edge


def chord_mm(circle_mm: float, holes: int) -> float:
    """From hole to hole straight across [mm]: D sin(180° / n). Source: exact.

    >>> round(chord_mm(120.0, 6), 3), round(chord_mm(100.0, 5), 3)
    (60.0, 58.779)
    """
    return circle_mm * sin(pi / holes)


def _hole_circle(disc: HoleCircle) -> MadeWheel:
    turn = [radians(disc.start_deg) + 2 * pi * number / disc.holes for number in range(disc.holes)]
    places = [(disc.circle_mm / 2 * cos(angle), disc.circle_mm / 2 * sin(angle)) for angle in turn]
    chord = chord_mm(disc.circle_mm, disc.holes)
    web = (chord - disc.hole_mm) / disc.hole_mm
    thin = "" if web >= MIN_WEB else "less than a hole between two holes: it tears there"
    measures = [
        Measure("Holes", float(disc.holes), ""),
        Measure("Hole to hole, straight across", chord, "mm", "step it off with dividers: it comes out even"),
        Measure("Metal between two holes", chord - disc.hole_mm, "mm", thin),
    ]
    for number, (x, y) in enumerate(places, start=1):
        measures.append(Measure(f"Hole {number}", x, "mm", f"across, and {{{round(y, 4)}|mm}} up from the middle"))
    return MadeWheel(
        side="driver",
        title=f"Hole circle, {disc.holes} holes",
        draw=lambda: circle((0.0, 0.0), disc.outside_mm / 2),
        outside_mm=disc.outside_mm,
        face_mm=disc.thickness_mm,
        turned=False,
        measures=tuple(measures),
        order=(
            "Find the middle and set both slides of the mill to zero there, backlash taken up one way.",
            "Spot every hole to the table, then check two neighbors and two opposite ones before they are drilled.",
        ),
        source=EXACT,
        largest_bore_mm=disc.circle_mm,
        bore_mm=disc.bore_mm or None,
        cut_out=lambda: tuple(tuple(reversed(circle(at, disc.hole_mm / 2))) for at in places),
        hub=disc.bore_mm > 0,
    )


def _crank(disc: CrankDisc) -> MadeWheel:
    throw = disc.stroke_mm / 2
    return MadeWheel(
        side="driver",
        title="Crank disc",
        draw=lambda: circle((0.0, 0.0), disc.outside_mm / 2),
        outside_mm=disc.outside_mm,
        face_mm=disc.thickness_mm,
        turned=False,
        measures=(
            Measure("Throw, middle to middle", throw, "mm", "half the stroke, with the slide in line with the shaft"),
            Measure("Stroke", disc.stroke_mm, "mm"),
            Measure("Pin hole", disc.pin_mm, "mm"),
        ),
        order=(
            "Bore and pin hole at one set-up, both square to the face.",
            "Press and rivet the pin, or bolt it with a shoulder; it carries the whole force one-sided.",
            "Balance it where it runs fast: as much metal opposite as pin and rod put here.",
        ),
        source=EXACT,
        caution="A crank pinches at every turn: guard its whole sweep.",
        largest_bore_mm=disc.outside_mm,
        bore_mm=disc.bore_mm,
        cut_out=lambda: (tuple(reversed(circle((throw, 0.0), disc.pin_mm / 2))),),
    )


def _lifted(motion: str, h: float, beta: float, x: float) -> tuple[float, float, float]:
    """Lift [mm], its first and second change by angle [mm/rad, mm/rad²] at a share x of the rise. Source: Shigley.

    Cycloidal: s = h (x - sin 2πx / 2π); harmonic: s = h / 2 (1 - cos πx), x = θ / β.
    """
    if motion == "cycloidal":
        s = h * (x - sin(2 * pi * x) / (2 * pi))
        return s, h / beta * (1 - cos(2 * pi * x)), 2 * pi * h / beta**2 * sin(2 * pi * x)
    s = h / 2 * (1 - cos(pi * x))
    return s, pi * h / (2 * beta) * sin(pi * x), pi**2 * h / (2 * beta**2) * cos(pi * x)


def _at(cam: Cam, theta: float) -> tuple[float, float, float]:
    """Lift and its changes at an angle of the cam [radians]."""
    rise, hold, fall = (radians(angle) for angle in (cam.rise_deg, cam.hold_deg, cam.fall_deg))
    if theta < rise:
        return _lifted(cam.motion, cam.lift_mm, rise, theta / rise)
    if theta < rise + hold:
        return cam.lift_mm, 0.0, 0.0
    if theta < rise + hold + fall:
        s, first, second = _lifted(cam.motion, cam.lift_mm, fall, 1 - (theta - rise - hold) / fall)
        return s, -first, second
    return 0.0, 0.0, 0.0


@dataclass(frozen=True, slots=True)
class CamFigures:
    """Greatest pressure angle [degrees] and where [degrees]; least radius of the convex pitch curve [mm]."""

    pressure_deg: float
    at_deg: float
    min_radius_mm: float


def cam_figures(cam: Cam) -> CamFigures:
    """tan φ = s' / R, ρ = (R² + s'²)^1.5 / (R² + 2 s'² - R s''), R = base + s. Source: exact for an in-line roller.

    >>> found = cam_figures(Cam())
    >>> round(found.pressure_deg, 2), round(found.at_deg, 1), round(found.min_radius_mm, 1)
    (27.37, 41.2, 31.6)
    """
    worst, at, least = 0.0, 0.0, float("inf")
    for number in range(CAM_POINTS):
        theta = 2 * pi * number / CAM_POINTS
        s, first, second = _at(cam, theta)
        radius = cam.base_mm + s
        angle = abs(degrees(atan(first / radius)))
        if angle > worst:
            worst, at = angle, degrees(theta)
        curve = radius**2 + 2 * first**2 - radius * second
        if curve > 0:
            least = min(least, (radius**2 + first**2) ** 1.5 / curve)
    return CamFigures(worst, at, least)


def cam_outline(cam: Cam) -> tuple[Point, ...]:
    """The profile [mm], counter-clockwise: the path of the roller's middle, drawn in by its radius."""
    points = []
    for number in range(CAM_POINTS):
        theta = 2 * pi * number / CAM_POINTS
        s, first, _ = _at(cam, theta)
        radius = cam.base_mm + s
        x, y = radius * cos(theta), radius * sin(theta)
        # along the curve, then square to it and inward
        dx, dy = first * cos(theta) - y, first * sin(theta) + x
        long = hypot(dx, dy)
        inward = cam.roller_mm / 2 / long
        points.append((x - dy * inward, y + dx * inward))
    return tuple(points)


def _cam(cam: Cam) -> MadeWheel:
    found = cam_figures(cam)
    steep = (
        "" if found.pressure_deg <= MAX_PRESSURE_DEG else "over 30° the roller jams: a larger base, or a longer rise"
    )
    tight = "" if found.min_radius_mm > MIN_CURVE * cam.roller_mm / 2 else "too tight for this roller: a smaller one"
    measures = [
        Measure("Lift", cam.lift_mm, "mm"),
        Measure("Base circle of the cam", 2 * cam.base_mm - cam.roller_mm, "mm"),
        Measure("Greatest pressure angle", found.pressure_deg, "°", steep or f"at {found.at_deg:.0f}°"),
        Measure("Least radius of the roller's path", found.min_radius_mm, "mm", tight),
    ]
    for angle in range(0, 360, 15):
        radius = cam.base_mm + _at(cam, radians(angle))[0]
        measures.append(Measure(f"Middle of the roller at {angle}°", radius, "mm"))
    outline = cam_outline(cam)
    return MadeWheel(
        side="driver",
        title=f"Cam, {phrase(cam.motion)}",
        draw=lambda: outline,
        outside_mm=2 * max(hypot(x, y) for x, y in outline),
        face_mm=cam.thickness_mm,
        turned=False,
        measures=tuple(measures),
        order=(
            "Cut to the outline a little full; file to it with the roller in place of a gauge, 15° at a time.",
            "Key it so that the lift begins where the machine needs it; mark that line on the face.",
            "Turn it by hand with the spring on: the roller never leaves it and never climbs hard.",
        ),
        source=CAMS if not (steep or tight) else COMMON_PRACTICE,
        caution="A cam and its roller draw in: guard the nip.",
        largest_bore_mm=2 * (cam.base_mm - cam.roller_mm / 2),
        bore_mm=cam.bore_mm,
    )


def _slot(middle: Point, wide: float, slide: float) -> tuple[Point, ...]:
    """A slot along x, clockwise."""
    radius, half = wide / 2, slide / 2
    right = tuple(arc((middle[0] + half, middle[1]), radius, pi / 2, -pi / 2))
    left = tuple(arc((middle[0] - half, middle[1]), radius, -pi / 2, -3 * pi / 2))
    return (*right, *left)


def _base(base: MotorBase) -> MadeWheel:
    wide, high = base.size_mm
    slots = [(x * base.across_mm / 2, y * base.along_mm / 2) for x in (-1, 1) for y in (-1, 1)]
    edge = 1.25 * base.hold_mm
    corners = [(x * (wide / 2 - edge), y * (high / 2 - edge)) for x in (-1, 1) for y in (-1, 1)]
    return MadeWheel(
        side="driver",
        title="Motor base",
        draw=lambda: ((-wide / 2, -high / 2), (wide / 2, -high / 2), (wide / 2, high / 2), (-wide / 2, high / 2)),
        outside_mm=0.0,
        face_mm=base.thickness_mm,
        turned=False,
        measures=(
            Measure("Plate", wide, "mm", f"by {{{high:.4g}|mm}}, the belt pulls along the first"),
            Measure("Slots, middle to middle across", base.across_mm, "mm", f"and {{{base.along_mm:.4g}|mm}} along"),
            Measure(
                "Slot", base.slide_mm + base.bolt_mm, "mm", f"long, {{{base.bolt_mm:.4g}|mm}} wide, round at both ends"
            ),
            Measure("Bolt-down holes", base.hold_mm, "mm", "one in every corner"),
        ),
        order=(
            "Drill both ends of every slot, chain-drill or mill between them, file flat.",
            "Square the slots to the belt: the motor slides without turning.",
            "A screw against the foot sets the tension; bolts are only tightened after it.",
        ),
        source=EXACT,
        cut_out=lambda: (
            *(_slot(at, base.bolt_mm, base.slide_mm) for at in slots),
            *(tuple(reversed(circle(at, base.hold_mm / 2))) for at in corners),
        ),
        hub=False,
    )


@dataclass(frozen=True, slots=True)
class LooseKind:
    """One kind of loose part: its record and how it is made."""

    title: str
    model: type[Disc]
    make: Callable[[Any], MadeWheel]


LOOSE: dict[str, LooseKind] = {
    "hole_circle": LooseKind("Hole circle", HoleCircle, _hole_circle),
    "crank": LooseKind("Crank disc", CrankDisc, _crank),
    "cam": LooseKind("Cam", Cam, _cam),
    "base": LooseKind("Motor base", MotorBase, _base),
}


def loose_part(disc: Disc) -> MadeWheel:
    """A loose part of any kind, with its outline and measures."""
    return LOOSE[getattr(disc, "kind", "")].make(disc)
