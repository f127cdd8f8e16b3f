"""A lantern pinion and its wheel under a load."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import pi, radians, tan
from typing import Literal

from pulltide.core.drawing import DrawnWheel, LinkPicture, polar
from pulltide.core.duty import TOOTH_EXPONENT
from pulltide.core.findings import Finding, Severity, judge, judge_two, state
from pulltide.core.forces import Disc, ShaftForce, ToothForce, density_kg_m3, mesh_forces
from pulltide.core.links.lantern import checks
from pulltide.core.links.lantern.inputs import Lantern
from pulltide.core.links.lantern.making import EDGE_SHARE
from pulltide.core.spur import rating, tables
from pulltide.core.spur.kinds import SHAFT_FACTOR
from pulltide.core.spur.mesh import service_factor
from pulltide.core.transmission import (
    Bound,
    Figure,
    Flow,
    Limit,
    LinkResult,
    Loading,
    ServiceFactor,
    Sizing,
    Transmission,
    Transmitted,
)
from pulltide.core.units import rim_speed_m_per_s, rpm_of_rim

#: Efficiency of pins on teeth; 0.85 to 0.9 is usual. Common practice, no source.
EFFICIENCY = 0.87
#: Pressure angle that the form of its teeth is taken at.
PRESSURE_DEG = 20.0


def pin_force_n(stress_mpa: float, diameter_mm: float, span_mm: float) -> float:
    """Force at mid-span that a pin fixed at both ends bears [N]: σ π d³ / (4 b). Source: beam theory, M = W b / 8.

    >>> round(pin_force_n(100.0, 10.0, 40.0))
    1963
    """
    return stress_mpa * pi * diameter_mm**3 / (4 * span_mm)


@dataclass(frozen=True, slots=True, kw_only=True)
class LanternDetails:
    """Intermediate figures of a rated pair, for cards and workings."""

    link: Lantern
    driver_mm: float
    driven_mm: float
    speed_m_per_s: float
    pin_mpa: float
    wheel_mpa: float
    form: float
    velocity_factor: float
    pin_n: float
    tooth_n: float
    force_n: float
    design_force_n: float
    overload_factor: float

    @property
    def weakest_n(self) -> float:
        """What pins and teeth bear [N]."""
        return min(self.pin_n, self.tooth_n)


class LanternTransmission(Transmission[LanternDetails]):
    """One lantern pinion with its wheel."""

    kind = "lantern"
    fatigue_exponent = TOOTH_EXPONENT
    noise = "loud"
    turn: Literal[-1] = -1

    def __init__(self, link: Lantern, step: int) -> None:
        self.link = link
        self.step = step
        self.driver_mm = link.circular_pitch_mm * link.driver_count / pi
        self.driven_mm = link.circular_pitch_mm * link.driven_count / pi
        self.pin_mpa = tables.materials()[link.pin_material].static_mpa
        self.wheel_mpa = tables.materials()[link.wheel_material].static_mpa
        self.form = tables.lewis_form(link.wheel_teeth, "20")

    @property
    def ratio(self) -> float:
        """Driver over driven speed: by pins and teeth."""
        return self.link.driven_count / self.link.driver_count

    @property
    def center_mm(self) -> float:
        """Center distance [mm]: half the sum of the pitch diameters."""
        return (self.driver_mm + self.driven_mm) / 2

    def transmit(self, driver_speed_rpm: float, power_out_kw: float) -> Transmitted:
        """No slip; a constant share is lost."""
        return Transmitted(driver_speed_rpm / self.ratio, power_out_kw / EFFICIENCY)

    def picture(self) -> LinkPicture:
        """Two pitch circles that touch, and every pin."""
        link, at_driver = self.link, self.link.drives == "pinion"
        offset = polar(self.center_mm, link.angle_deg)
        middle = (0.0, 0.0) if at_driver else offset
        orbit = link.circular_pitch_mm * link.pins / pi / 2
        pins, over = [], (0.5 + EDGE_SHARE) * link.pin_diameter_mm
        for index in range(link.pins):
            x, y = polar(orbit, 360.0 * index / link.pins + link.angle_deg)
            pins.append(DrawnWheel((middle[0] + x, middle[1] + y), link.pin_diameter_mm / 2))
        return LinkPicture("gear", offset, self.driver_mm / 2, self.driven_mm / 2, extra=tuple(pins), over_mm=over)

    @property
    def center_distance_mm(self) -> float:
        """Center distance [mm]."""
        return self.center_mm

    @property
    def discs(self) -> tuple[Disc, ...]:
        """Wheel and pinion by their pitch diameters: both are full at the width of the wheel."""
        link = self.link
        pinion, wheel = density_kg_m3(link.pin_material), density_kg_m3(link.wheel_material)
        first, second = (pinion, wheel) if link.drives == "pinion" else (wheel, pinion)
        return (
            Disc("driver", self.driver_mm, link.wheel_face_mm, first),
            Disc("driven", self.driven_mm, link.wheel_face_mm, second),
        )

    @property
    def max_driver_rpm(self) -> float:
        """Speed at which pins run as fast as they may [rpm]."""
        return rpm_of_rim(self.driver_mm, checks.SPEED.limits[0])

    def service_factor(self, sizing: Sizing) -> ServiceFactor:
        """Overload factor by shock."""
        return service_factor(sizing)

    def capacity(self, driver_speed_rpm: float, sizing: Sizing) -> tuple[Bound, ...]:
        """Bending of pins and of teeth."""
        lever = self.driver_mm / 2000 / sizing.multiplier(self.service_factor(sizing).value, self.fatigue_exponent)
        tooth = self.tooth_n(rim_speed_m_per_s(self.driver_mm, driver_speed_rpm))
        return Bound("lantern.pin", "sized", self.pin_n * lever), Bound("lantern.tooth", "sized", tooth * lever)

    @property
    def pin_n(self) -> float:
        """Force at mid-span that a pin bears [N]."""
        return pin_force_n(self.pin_mpa, self.link.pin_diameter_mm, self.link.pin_span_mm)

    def tooth_n(self, speed_m_per_s: float) -> float:
        """Force that a tooth of the wheel bears at a pitch-line speed [N]: Lewis with a velocity factor."""
        link, factor = self.link, rating.lewis_velocity_factor("cast", speed_m_per_s)
        return self.wheel_mpa * link.wheel_face_mm * link.circular_pitch_mm / pi * self.form / factor

    def details(self, load: Loading) -> LanternDetails:
        """Strength and forces under a load."""
        return self._details(load.flow, load.design.chosen_nm)

    def limits(self, result: LinkResult[LanternDetails]) -> Iterator[Limit]:
        """Bending of pins and of teeth, pitch-line speed."""
        d = result.details
        yield Limit("lantern.pin", "pin bending", d.design_force_n, d.pin_n, "N")
        yield Limit("lantern.tooth", "tooth bending", d.design_force_n, d.tooth_n, "N")
        fastest = checks.SPEED.limits[0]
        yield Limit("lantern.speed", "pitch-line speed", d.speed_m_per_s, fastest, "m/s", is_load=False)

    def findings(self, result: LinkResult[LanternDetails]) -> Iterator[Finding]:
        """Every check, passed ones included."""
        return _findings(result.details, result.load.subject)

    def figures(self, result: LinkResult[LanternDetails]) -> tuple[Figure, ...]:
        """The numbers of the card, in reading order."""
        return _figures(result.details, self.center_mm)

    def efficiency_at(self, load: Loading) -> float:
        """A constant share."""
        return EFFICIENCY

    def pulls_n(self, result: LinkResult[LanternDetails]) -> tuple[float, float]:
        """Design force with what separating adds."""
        pull = SHAFT_FACTOR * result.details.design_force_n
        return pull, pull

    def forces(self, result: LinkResult[LanternDetails]) -> tuple[ShaftForce, ShaftForce]:
        """Around, and apart as teeth of 20 degrees push."""
        around = result.details.force_n
        force = ToothForce(around, around * tan(radians(PRESSURE_DEG)))
        return mesh_forces(force, (self.driver_mm / 2, self.driven_mm / 2), self.link.angle_deg)

    def _details(self, flow: Flow, design_nm: float) -> LanternDetails:
        link = self.link
        speed = rim_speed_m_per_s(self.driver_mm, flow.driver_speed_rpm)
        return LanternDetails(
            link=link,
            driver_mm=self.driver_mm,
            driven_mm=self.driven_mm,
            speed_m_per_s=speed,
            pin_mpa=self.pin_mpa,
            wheel_mpa=self.wheel_mpa,
            form=self.form,
            velocity_factor=rating.lewis_velocity_factor("cast", speed),
            pin_n=self.pin_n,
            tooth_n=self.tooth_n(speed),
            force_n=2000 * flow.driver_torque_nm / self.driver_mm,
            design_force_n=2000 * design_nm / self.driver_mm,
            overload_factor=design_nm / flow.driver_torque_nm if flow.driver_torque_nm else 1.0,
        )


def _findings(d: LanternDetails, subject: str) -> Iterator[Finding]:
    link = d.link
    for rule, allowed in ((checks.PIN, d.pin_n), (checks.TOOTH, d.tooth_n)):
        level = Severity.ERROR if d.force_n > allowed else Severity.WARNING
        yield judge(rule, subject, d.design_force_n, allowed, severity=level)
    yield judge(checks.FEW, subject, float(link.pins))
    if link.drives == "pinion":
        yield state(checks.DRIVES, subject)
    yield judge(checks.THIN, subject, link.pin_diameter_mm, of=link.circular_pitch_mm)
    yield judge(checks.THICK, subject, link.pin_diameter_mm, of=link.circular_pitch_mm)
    yield judge(checks.SPEED, subject, d.speed_m_per_s)
    ratio = max(link.pins, link.wheel_teeth) / min(link.pins, link.wheel_teeth)
    yield judge_two(checks.RATIO, subject, ratio)


def _figures(d: LanternDetails, center_mm: float) -> tuple[Figure, ...]:
    return (
        Figure("ratio", "Ratio", d.driven_mm / d.driver_mm, ""),
        Figure("center", "Center distance", center_mm, "mm"),
        Figure("driver_pitch", "Driver pitch diameter", d.driver_mm, "mm"),
        Figure("driven_pitch", "Driven pitch diameter", d.driven_mm, "mm"),
        Figure("pitch_speed", "Pitch-line speed", d.speed_m_per_s, "m/s"),
        Figure("pin", "Tooth force, pins", d.pin_n, "N"),
        Figure("tooth", "Tooth force, wheel", d.tooth_n, "N"),
        Figure("force", "Tooth force, running", d.force_n, "N", needs_load=True),
        Figure("design_force", "Tooth force with overload", d.design_force_n, "N", needs_load=True),
    )
