"""A friction roller under a load."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import hypot
from typing import Literal

from pulltide.core.drawing import LinkPicture, polar
from pulltide.core.findings import COMMON_PRACTICE, Finding, Severity, judge, state
from pulltide.core.forces import Disc, ShaftForce, ToothForce, mesh_forces
from pulltide.core.links.friction_drive import checks, tables
from pulltide.core.links.friction_drive.inputs import FrictionDrive
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
    Turn,
    own_factor,
)
from pulltide.core.units import rim_speed_m_per_s

#: Margin on grip by shock, as a service factor. Common practice, no source: 1.5 for a drum on rollers.
GRIP_FACTORS = {"uniform": 1.3, "light": 1.5, "moderate": 1.75, "heavy": 2.0}
#: Margin on grip while no press is entered, and the least share of the grip that is counted as left by rolling.
USUAL_MARGIN, MIN_LEFT = 1.5, 0.05
#: What the press to set is rounded up by, so that the creep of the lining is carried too.
CREEP_COVER = 1.03


@dataclass(frozen=True, slots=True, kw_only=True)
class RollerDetails:
    """Intermediate figures of a rated roller, for cards and workings. Forces are at the rim [N]."""

    link: FrictionDrive
    friction: float
    usual_friction: float
    rolling_arm_mm: float
    pressure_allowed_mpa: float
    speed_m_per_s: float
    pull_n: float
    design_pull_n: float
    peak_pull_n: float | None
    pull_out_n: float
    margin: float
    rolling_share: float
    to_set_n: float
    rolling_n: float

    @property
    def grip_n(self) -> float | None:
        """Pull that the driving rollers pass on at the least [N]; None while the press is not entered."""
        return None if self.link.press_n is None else self.friction * self.link.press_n * self.link.rollers

    @property
    def press_n(self) -> float:
        """Press of each roller: as entered, or the one to set [N]."""
        return self.link.press_n or self.to_set_n

    @property
    def pressure_mpa(self) -> float:
        """Rolling pressure: press over face and equivalent diameter [MPa]."""
        return self.press_n / (self.link.face_width_mm * self.link.equivalent_mm)


def service_factor(sizing: Sizing) -> ServiceFactor:
    """Margin on grip by shock."""
    if (own := own_factor(sizing.duty)) is not None:
        return own
    return ServiceFactor(GRIP_FACTORS[sizing.duty.shock_used], COMMON_PRACTICE)


class RollerTransmission(Transmission[RollerDetails]):
    """A roller on a wheel or in a drum."""

    kind = "friction_drive"
    noise = "quiet"

    def __init__(self, link: FrictionDrive, step: int) -> None:
        self.link = link
        self.step = step
        self.data = tables.linings()[link.lining]
        low, usual = self.data.wet if link.surface == "wet_or_dusty" else self.data.dry
        self.friction = link.own_friction or low
        self.usual_friction = link.own_friction or usual
        self.rolling_arm_mm = link.own_rolling_arm_mm or self.data.rolling_arm_mm

    @property
    def ratio(self) -> float:
        """Driver over driven speed, creep left out."""
        return self.link.driven_diameter_mm / self.link.driver_diameter_mm

    @property
    def turn(self) -> Turn:
        """On the outside it reverses, inside it does not."""
        return 1 if self.link.is_inside else -1

    @property
    def rolling_share(self) -> float:
        """What rolling takes at the rim over the press: 2 e / d_e [-]."""
        return 2 * self.rolling_arm_mm / self.link.equivalent_mm

    def to_set_n(self, pull_out_n: float, margin: float) -> float:
        """Press of each roller [N] that grips a pull passed on, with a margin, and what rolling takes besides.

        μ N z = k (F + N z c), so N = k F / (z (μ - k c)); where rolling would take nearly all the grip, as if 5 % of
        it were left.
        """
        left = max(self.friction - margin * self.rolling_share, MIN_LEFT * self.friction)
        return margin * pull_out_n / (self.link.rollers * left)

    def rolling_n(self, pull_out_n: float) -> float:
        """What rolling takes at the rim [N]."""
        press = self.link.press_n or self.to_set_n(pull_out_n, USUAL_MARGIN)
        return self.link.rollers * press * self.rolling_share

    def creep(self, pull_n: float) -> float:
        """Share of the speed lost by stretch of the lining, in step with the grip used."""
        if self.link.press_n is None:
            return self.data.creep / USUAL_MARGIN if pull_n else 0.0
        return min(pull_n / (self.friction * self.link.press_n * self.link.rollers), 1.0) * self.data.creep

    def transmit(self, driver_speed_rpm: float, power_out_kw: float) -> Transmitted:
        """Speed after creep; rolling takes its pull at the rim whatever the load."""
        rim = rim_speed_m_per_s(self.link.driver_diameter_mm, driver_speed_rpm)
        pull = 1000 * power_out_kw / rim if rim > 0 else 0.0
        creep = self.creep(pull)
        taken_kw = self.rolling_n(pull) * rim / 1000
        return Transmitted(driver_speed_rpm / self.ratio * (1 - creep), (power_out_kw + taken_kw) / (1 - creep))

    def picture(self) -> LinkPicture:
        """Two rims that touch, one inside the other where it runs so."""
        link = self.link
        radii = link.driver_diameter_mm / 2, link.driven_diameter_mm / 2
        center = abs(radii[0] - radii[1]) if link.is_inside else sum(radii)
        return LinkPicture("gear", polar(center, link.angle_deg), *radii)

    @property
    def center_distance_mm(self) -> float:
        """Center distance [mm]."""
        return hypot(*self.picture().offset_mm)

    @property
    def discs(self) -> tuple[Disc, ...]:
        """The driving rollers, of steel. What they drive is part of the machine."""
        roller = Disc("driver", self.link.driver_diameter_mm, self.link.face_width_mm)
        return (roller,) * self.link.rollers

    def service_factor(self, sizing: Sizing) -> ServiceFactor:
        """Margin on grip by shock."""
        return service_factor(sizing)

    def capacity(self, driver_speed_rpm: float, sizing: Sizing) -> tuple[Bound, ...]:
        """Grip at the press that is set; without one, the pull whose press loads the lining fully."""
        link, lever = self.link, self.link.driver_diameter_mm / 2000
        margin = sizing.multiplier(self.service_factor(sizing).value)
        max_press = self.data.pressure_mpa * link.face_width_mm * link.equivalent_mm
        if link.press_n is not None:
            grip = self.friction * link.press_n * link.rollers * lever / margin
            pressed = float("inf") if link.press_n <= max_press else 0.0
            return Bound("friction_drive.pressure", "running", pressed), Bound("friction_drive.grip", "sized", grip)
        pull_out = max_press / (CREEP_COVER * self.to_set_n(1.0, margin))
        rim = rim_speed_m_per_s(link.driver_diameter_mm, driver_speed_rpm)
        slow = driver_speed_rpm / self.ratio * (1 - self.creep(pull_out))
        out_kw = pull_out * rim_speed_m_per_s(link.driven_diameter_mm, slow) / 1000
        pressed = 1000 * self.transmit(driver_speed_rpm, out_kw).power_in_kw / rim * lever
        return (Bound("friction_drive.pressure", "running", pressed), Bound("friction_drive.grip", "sized", None))

    def details(self, load: Loading) -> RollerDetails:
        """Grip, press and pressure under a load."""
        return self._details(load.flow, load.design.chosen_nm)

    def limits(self, result: LinkResult[RollerDetails]) -> tuple[Limit, ...]:
        """Grip and rolling pressure."""
        return _limits(result.details)

    def findings(self, result: LinkResult[RollerDetails]) -> Iterator[Finding]:
        """Every check, passed ones included."""
        return _findings(result.details, result.load.subject)

    def figures(self, result: LinkResult[RollerDetails]) -> tuple[Figure, ...]:
        """The numbers of the card, in reading order."""
        return _figures(result.details, self)

    def pulls_n(self, result: LinkResult[RollerDetails]) -> tuple[float, float]:
        """Press of one roller with its design pull."""
        pull = hypot(result.details.press_n, result.details.design_pull_n / self.link.rollers)
        return pull, pull

    def forces(self, result: LinkResult[RollerDetails]) -> tuple[ShaftForce, ShaftForce]:
        """One roller and the rim it drives: the pull around, the press apart."""
        d, link = result.details, self.link
        force = ToothForce(d.pull_n / link.rollers, d.press_n)
        inside: Literal["", "driver"] = "driver" if link.is_inside else ""
        radii = link.driver_diameter_mm / 2, link.driven_diameter_mm / 2
        return mesh_forces(force, radii, link.angle_deg, inside)

    def _details(self, flow: Flow, design_nm: float) -> RollerDetails:
        link = self.link
        per_nm = 2000 / link.driver_diameter_mm
        design, peak_nm = design_nm * per_nm, flow.driver_peak_torque_nm
        peak = None if peak_nm is None else peak_nm * per_nm
        pull, pull_out = flow.driver_torque_nm * per_nm, 2000 * flow.driven_torque_nm / link.driven_diameter_mm
        margin = max(design, peak or 0.0) / pull if pull else USUAL_MARGIN
        return RollerDetails(
            link=link,
            friction=self.friction,
            usual_friction=self.usual_friction,
            rolling_arm_mm=self.rolling_arm_mm,
            pressure_allowed_mpa=self.data.pressure_mpa,
            speed_m_per_s=rim_speed_m_per_s(link.driver_diameter_mm, flow.driver_speed_rpm),
            pull_n=pull,
            design_pull_n=design,
            peak_pull_n=peak,
            pull_out_n=pull_out,
            margin=margin,
            rolling_share=self.rolling_share,
            to_set_n=CREEP_COVER * self.to_set_n(pull_out, margin),
            rolling_n=self.rolling_n(pull_out),
        )


def _limits(d: RollerDetails) -> tuple[Limit, ...]:
    """The grip first where it is known: the pressure of a press that is set does not follow the load."""
    grip = Limit("friction_drive.grip", "grip", d.design_pull_n, d.grip_n, "N")
    pressure = Limit("friction_drive.pressure", "rolling pressure", d.pressure_mpa, d.pressure_allowed_mpa, "MPa")
    return (pressure, grip) if d.grip_n is None else (grip, pressure)


def _findings(d: RollerDetails, subject: str) -> Iterator[Finding]:
    if d.grip_n is None:
        yield state(checks.UNSET, subject, d.to_set_n)
    else:
        usual = d.grip_n * d.usual_friction / d.friction
        level = Severity.ERROR if d.pull_n > usual else Severity.WARNING
        yield judge(checks.GRIP, subject, d.design_pull_n, d.grip_n, severity=level)
        if d.peak_pull_n is not None and d.design_pull_n <= d.grip_n:
            yield judge(checks.PEAK, subject, d.peak_pull_n, d.grip_n)
    yield judge(checks.PRESSURE, subject, d.pressure_mpa, d.pressure_allowed_mpa)
    if d.pull_n > 0:
        yield judge(checks.LOSS, subject, d.rolling_n / d.pull_n)


def _figures(d: RollerDetails, made: RollerTransmission) -> tuple[Figure, ...]:
    return (
        Figure("ratio", "Ratio", made.ratio, ""),
        Figure("center", "Center distance", made.center_distance_mm, "mm"),
        Figure("rim_speed", "Rim speed", d.speed_m_per_s, "m/s"),
        Figure("friction", "Friction counted on", d.friction, ""),
        Figure("grip", "Pull it can transmit", d.grip_n, "N"),
        Figure("pull", "Pull, running", d.pull_n, "N", needs_load=True),
        Figure("design_pull", "Design pull", d.design_pull_n, "N", needs_load=True),
        Figure("to_set", "Press to set, each roller", d.to_set_n, "N", needs_load=True),
        Figure("pressure", "Rolling pressure", d.pressure_mpa, "MPa", needs_load=d.link.press_n is None),
        Figure("rolling", "Rolling resistance", d.rolling_n, "N", needs_load=d.link.press_n is None),
    )
