"""A worm and its wheel under a load."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from math import pi

from pulltide.core.drawing import POINTS, LinkPicture, Stands
from pulltide.core.duty import REDUCER_EXPONENT
from pulltide.core.findings import MEASURED_TO_MM, Finding, Severity, judge, judge_two, state
from pulltide.core.forces import Disc, ShaftForce, ToothForce, density_kg_m3, mesh_forces
from pulltide.core.links.worm_set import checks, rating, tables
from pulltide.core.links.worm_set.inputs import WormSet
from pulltide.core.observed import Observed
from pulltide.core.spur.mesh import service_factor
from pulltide.core.transmission import (
    Bound,
    Figure,
    Limit,
    LinkResult,
    Loading,
    ServiceFactor,
    Sizing,
    Transmission,
    Transmitted,
    Turn,
)
from pulltide.core.units import torque_nm

#: Share of the worm's diameter that a wheel's face can use. Source: Shigley Eq. 15-48.
FACE_SHARE = 0.67
#: Length of a worm over its diameter. Common practice, no source.
WORM_LENGTHS = 2.0


@dataclass(frozen=True, slots=True, kw_only=True)
class WormDetails:
    """Intermediate figures of a rated set, for cards and workings."""

    link: WormSet
    lead_deg: float
    wheel_mm: float
    center_mm: float
    face_mm: float
    sliding_m_per_s: float
    friction: float
    mesh_efficiency: float
    back_running: float
    back_at_rest: float
    start_efficiency: float
    wear_n: float
    bending_n: float
    force_n: float
    design_force_n: float
    separating_n: float
    worm_force_n: float
    area_m2: float
    oil_c: float
    rise_c: float
    overload_factor: float


class WormTransmission(Transmission[WormDetails]):
    """One worm and wheel."""

    kind = "worm_set"
    fatigue_exponent = REDUCER_EXPONENT
    noise = "quiet"

    def __init__(self, link: WormSet, step: int) -> None:
        self.link = link
        self.step = step
        self.lead_deg = rating.lead_angle_deg(link.starts, link.module_mm, link.worm_pitch_mm)
        self.center_mm = rating.center_mm(link.module_mm, link.wheel_teeth, link.worm_pitch_mm)
        self.wheel_mm = link.module_mm * link.wheel_teeth

    @property
    def ratio(self) -> float:
        """Wheel teeth over starts, not over one."""
        return self.link.wheel_teeth / self.link.starts

    @property
    def turn(self) -> Turn:
        """At a right angle; the sense goes by the hand of the thread and the side one looks from."""
        return None

    def _friction(self, worm_rpm: float) -> float:
        sliding = rating.sliding_m_per_s(self.link.worm_pitch_mm, worm_rpm, self.lead_deg)
        return rating.friction(sliding, self.link.worm_is != "hardened_and_ground")

    def _mesh(self, mu: float) -> float:
        return rating.efficiency(self.lead_deg, float(self.link.pressure_angle), mu)

    def efficiency(self, worm_rpm: float) -> float:
        """Efficiency of mesh and bearings [-] at a worm speed: friction falls as sliding rises."""
        return self._mesh(self._friction(worm_rpm)) * rating.BEARINGS

    def transmit(self, driver_speed_rpm: float, power_out_kw: float) -> Transmitted:
        """No slip; the loss goes by sliding speed."""
        return Transmitted(driver_speed_rpm / self.ratio, power_out_kw / self.efficiency(driver_speed_rpm))

    def picture(self) -> LinkPicture:
        """Worm and wheel at their center distance, their axes at right angles."""
        step = self.center_mm if self.link.worm_sits == "under" else -self.center_mm
        upright = self.link.output_points in ("up", "down")
        return LinkPicture(
            "gear",
            (self.center_mm, 0.0),
            self.link.worm_pitch_mm / 2,
            self.wheel_mm / 2,
            0,
            self.link.wheel_teeth,
            note="right angle, drawn unfolded",
            over_mm=self.link.module_mm,
            stands=Stands(offset_mm=(step, 0.0) if upright else (0.0, step), toward=POINTS[self.link.output_points]),
        )

    @property
    def center_distance_mm(self) -> float:
        """Center distance [mm]."""
        return self.center_mm

    @property
    def discs(self) -> tuple[Disc, ...]:
        """A steel worm twice as long as its diameter, a bronze wheel."""
        link, worm = self.link, self.link.worm_pitch_mm
        wheel = Disc("driven", self.wheel_mm, link.face_width_mm, density_kg_m3("bronze"))
        return Disc("driver", worm, WORM_LENGTHS * worm, density_kg_m3("steel")), wheel

    def observed(self, result: LinkResult[WormDetails]) -> Observed:
        """Worm and wheel in the open."""
        return replace(super().observed(result), meshes=True, is_worm=True)

    def service_factor(self, sizing: Sizing) -> ServiceFactor:
        """Overload factor by shock."""
        return service_factor(sizing, "enclosed_oiled")

    def capacity(self, driver_speed_rpm: float, sizing: Sizing) -> tuple[Bound, ...]:
        """Wear and bending of the wheel; heat in the oil."""
        factor = sizing.multiplier(self.service_factor(sizing).value, self.fatigue_exponent)
        kept = self.efficiency(driver_speed_rpm)
        lever = self.wheel_mm / 2000 / (self.ratio * kept)
        sliding = rating.sliding_m_per_s(self.link.worm_pitch_mm, driver_speed_rpm, self.lead_deg)
        ambient = sizing.duty.ambient_c
        per_kw = self._oil_c(1.0, driver_speed_rpm, ambient) - ambient
        lost_kw = (checks.HOT.limits[1] - ambient) / per_kw
        return (
            Bound("worm_set.wear", "sized", self._wear_n(sliding) * lever / factor),
            Bound("worm_set.bending", "sized", self._bending_n * lever / factor),
            Bound("worm_set.heat", "running", torque_nm(lost_kw / (1 - kept), driver_speed_rpm)),
        )

    @property
    def _face_mm(self) -> float:
        return min(self.link.face_width_mm, FACE_SHARE * self.link.worm_pitch_mm)

    @property
    def _area_m2(self) -> float:
        return self.link.case_area_m2 or rating.min_case_area_m2(self.center_mm)

    def _wear_n(self, sliding_m_per_s: float) -> float:
        cast = (sliding_m_per_s, self.link.wheel_cast)
        return rating.wear_n(self.center_mm, self.wheel_mm, self._face_mm, self.ratio, cast)

    @property
    def _bending_n(self) -> float:
        link = self.link
        form = tables.form_factor(link.pressure_angle)
        return rating.bending_n(rating.BRONZE_MPA, link.module_mm, self._face_mm, form, self.lead_deg)

    def _oil_c(self, lost_kw: float, worm_rpm: float, ambient_c: float) -> float:
        return rating.oil_temperature_c(lost_kw, self._area_m2, worm_rpm, self.link.fan, ambient_c)

    def limits(self, result: LinkResult[WormDetails]) -> Iterator[Limit]:
        """Wear of the bronze, bending of its teeth, heat over the ambient limit."""
        d = result.details
        yield Limit("worm_set.wear", "bronze wear", d.design_force_n, d.wear_n, "N")
        yield Limit("worm_set.bending", "wheel tooth bending", d.design_force_n, d.bending_n, "N")
        yield Limit("worm_set.heat", "oil temperature", d.oil_c, checks.HOT.limits[1], "degC", is_load=False)

    def findings(self, result: LinkResult[WormDetails]) -> Iterator[Finding]:
        """Every check, passed ones included."""
        return Inspection(result.details, result.load.subject).findings()

    def figures(self, result: LinkResult[WormDetails]) -> tuple[Figure, ...]:
        """The numbers of the card, in reading order."""
        return figures(result.details)

    def efficiency_at(self, load: Loading) -> float:
        """By sliding speed."""
        return self.efficiency(load.flow.driver_speed_rpm)

    def start_efficiency(self, result: LinkResult[WormDetails]) -> float:
        """Before an oil film forms."""
        return result.details.start_efficiency

    def may_hold(self, result: LinkResult[WormDetails]) -> bool:
        """Where friction at rest is over the lead."""
        return result.details.back_at_rest <= 0

    def forces(self, result: LinkResult[WormDetails]) -> tuple[ShaftForce, ShaftForce]:
        """Each in its own plane: what one takes around, the other takes along its shaft. Source: Shigley Eq. 13-41."""
        d = result.details
        radii = self.link.worm_pitch_mm / 2, self.wheel_mm / 2
        worm, _ = mesh_forces(ToothForce(d.worm_force_n, d.separating_n, d.force_n), radii, 0.0)
        _, wheel = mesh_forces(ToothForce(d.force_n, d.separating_n, 0.0, d.worm_force_n), radii, 0.0)
        return worm, wheel

    def details(self, load: Loading) -> WormDetails:
        """Friction, strength, forces and heat under a load."""
        link, flow, angle = self.link, load.flow, float(self.link.pressure_angle)
        rpm, ambient = flow.driver_speed_rpm, load.sizing.duty.ambient_c
        sliding = rating.sliding_m_per_s(link.worm_pitch_mm, rpm, self.lead_deg)
        mu = self._friction(rpm)
        force = 2000 * flow.driven_torque_nm / self.wheel_mm
        overload = load.design.chosen_nm / flow.driver_torque_nm if flow.driver_torque_nm else 1.0
        oil = self._oil_c(flow.power_in_kw - flow.power_out_kw, rpm, ambient)
        start = self._mesh(rating.START_FRICTION * (1.0 if link.worm_is == "hardened_and_ground" else 1.25))
        return WormDetails(
            link=link,
            lead_deg=self.lead_deg,
            wheel_mm=self.wheel_mm,
            center_mm=self.center_mm,
            face_mm=self._face_mm,
            sliding_m_per_s=sliding,
            friction=mu,
            mesh_efficiency=self._mesh(mu),
            back_running=rating.back_efficiency(self.lead_deg, angle, mu),
            back_at_rest=rating.back_efficiency(self.lead_deg, angle, rating.REST_FRICTION),
            start_efficiency=min(start * rating.BEARINGS, self.efficiency(rpm)),
            wear_n=self._wear_n(sliding),
            bending_n=self._bending_n,
            force_n=force,
            design_force_n=force * overload,
            separating_n=rating.separating_n(force, self.lead_deg, angle, mu),
            worm_force_n=2000 * flow.driver_torque_nm / link.worm_pitch_mm,
            area_m2=self._area_m2,
            oil_c=oil,
            rise_c=oil - ambient,
            overload_factor=overload,
        )


class Inspection:
    """Runs the checks on one rated worm set."""

    def __init__(self, details: WormDetails, subject: str) -> None:
        self.details = details
        self.subject = subject

    def findings(self) -> Iterator[Finding]:
        """Every check, passed ones included."""
        d, subject, link = self.details, self.subject, self.details.link
        yield state(checks.BRAKE, subject)
        yield from self._strength()
        yield judge_two(checks.HOT, subject, d.oil_c)
        if link.case_area_m2 is None:
            yield state(checks.AREA, subject, d.area_m2)
        least, most = rating.usual_worm_mm(d.center_mm)
        yield judge(checks.FACE, subject, link.face_width_mm - MEASURED_TO_MM, of=link.worm_pitch_mm)
        yield judge(checks.THIN, subject, link.worm_pitch_mm, least)
        yield judge(checks.THICK, subject, link.worm_pitch_mm, most)
        yield judge(checks.TEETH, subject, float(link.wheel_teeth), tables.fewest_wheel_teeth(link.pressure_angle))
        yield judge(checks.START, subject, d.start_efficiency, of=d.mesh_efficiency * rating.BEARINGS)
        if link.worm_is != "hardened_and_ground":
            yield state(checks.ROUGH, subject, d.friction)
        yield judge(checks.SPEED, subject, d.sliding_m_per_s)
        yield judge(checks.RATIO, subject, link.wheel_teeth / link.starts)

    def _strength(self) -> Iterator[Finding]:
        d, subject = self.details, self.subject
        for rule, allowed in ((checks.WEAR, d.wear_n), (checks.BENDING, d.bending_n)):
            level = Severity.ERROR if d.force_n > allowed else Severity.WARNING
            yield judge(rule, subject, d.design_force_n, allowed, severity=level)


def figures(d: WormDetails) -> tuple[Figure, ...]:
    """The numbers of the card, in reading order."""
    link = d.link
    return (
        Figure("ratio", "Ratio", link.wheel_teeth / link.starts, ""),
        Figure("lead_angle", "Lead angle", d.lead_deg, "deg"),
        Figure("lead", "Lead", pi * link.module_mm * link.starts, "mm"),
        Figure("center", "Center distance", d.center_mm, "mm"),
        Figure("wheel_pitch", "Wheel pitch diameter", d.wheel_mm, "mm"),
        Figure("worm_outside", "Worm outside diameter", link.worm_pitch_mm + 2 * link.module_mm, "mm"),
        Figure("sliding", "Sliding speed", d.sliding_m_per_s, "m/s"),
        Figure("friction", "Friction", d.friction, ""),
        Figure("mesh_efficiency", "Efficiency of the mesh", d.mesh_efficiency, "share"),
        Figure("start_efficiency", "Efficiency at the start", d.start_efficiency, "share"),
        Figure("back_running", "Driven back while running, below 0 it stays", d.back_running, "share"),
        Figure("back_at_rest", "Driven back from rest, below 0 it stays", d.back_at_rest, "share"),
        Figure("wear", "Wheel force, wear", d.wear_n, "N"),
        Figure("bending", "Wheel force, bending", d.bending_n, "N"),
        Figure("force", "Wheel force, the worm's thrust", d.force_n, "N", needs_load=True),
        Figure("worm_force", "Worm force, the wheel's thrust", d.worm_force_n, "N", needs_load=True),
        Figure("separating", "Separating force", d.separating_n, "N", needs_load=True),
        Figure("oil", "Oil temperature, running on", d.oil_c, "degC", needs_load=True),
    )
