"""A worm and its wheel under a load."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import pi

from pulltide.core.drawing import LinkPicture
from pulltide.core.duty import REDUCER_EXPONENT
from pulltide.core.family import Carried, Figure, Flow, Limit, LinkResult, Sizing, Turn, design_torque
from pulltide.core.findings import Finding, Severity, judge, judge_two, state
from pulltide.core.links.worm_set import checks, rating, tables
from pulltide.core.links.worm_set.inputs import WormSet
from pulltide.core.spur.mesh import service_factor

#: Share of the worm's diameter that a wheel's face can use. Source: Shigley Eq. 15-48.
FACE_SHARE = 0.67


@dataclass(frozen=True, slots=True)
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


class WormTransmission:
    """One worm and wheel."""

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

    def carry(self, driver_speed_rpm: float, power_out_kw: float) -> Carried:
        """No slip; the loss goes by sliding speed."""
        return Carried(driver_speed_rpm / self.ratio, power_out_kw / self.efficiency(driver_speed_rpm))

    def picture(self) -> LinkPicture:
        """Worm and wheel as circles at their center distance; the worm's axis lies in the plane of the picture."""
        return LinkPicture(
            "gear",
            (self.center_mm, 0.0),
            self.link.worm_pitch_mm / 2,
            self.wheel_mm / 2,
            0,
            self.link.wheel_teeth,
            note="right angle, drawn unfolded",
        )

    def rate(self, flow: Flow, sizing: Sizing, subject: str) -> LinkResult:
        """Limits, findings and figures of the set under a load."""
        factor = service_factor(sizing, "enclosed_oiled")
        design = design_torque(flow, sizing, factor.value, REDUCER_EXPONENT)
        details = self._details(flow, design.chosen_nm, sizing.duty.ambient_c)
        inspection = Inspection(details, subject)
        return LinkResult(
            kind="worm_set",
            step=self.step,
            ratio=self.ratio,
            turn=None,
            flow=flow,
            efficiency=self.efficiency(flow.driver_speed_rpm),
            service_factor=factor,
            design=design,
            limits=tuple(inspection.limits()),
            findings=tuple(inspection.findings()),
            figures=figures(details),
            details=details,
            center_distance_mm=self.center_mm,
            start_efficiency=details.start_efficiency,
            may_hold=details.back_at_rest <= 0,
        )

    def _details(self, flow: Flow, design_nm: float, ambient_c: float) -> WormDetails:
        link, angle = self.link, float(self.link.pressure_angle)
        rpm = flow.driver_speed_rpm
        sliding = rating.sliding_m_per_s(link.worm_pitch_mm, rpm, self.lead_deg)
        mu = self._friction(rpm)
        face = min(link.face_width_mm, FACE_SHARE * link.worm_pitch_mm)
        force = 2000 * flow.driven_torque_nm / self.wheel_mm
        overload = design_nm / flow.driver_torque_nm if flow.driver_torque_nm else 1.0
        area = link.case_area_m2 or rating.least_case_area_m2(self.center_mm)
        oil = rating.oil_temperature_c(flow.power_in_kw - flow.power_out_kw, area, rpm, link.fan, ambient_c)
        start = self._mesh(rating.START_FRICTION * (1.0 if link.worm_is == "hardened_and_ground" else 1.25))
        return WormDetails(
            link,
            self.lead_deg,
            self.wheel_mm,
            self.center_mm,
            face,
            sliding,
            mu,
            self._mesh(mu),
            rating.back_efficiency(self.lead_deg, angle, mu),
            rating.back_efficiency(self.lead_deg, angle, rating.REST_FRICTION),
            min(start * rating.BEARINGS, self.efficiency(rpm)),
            rating.wear_n(self.center_mm, self.wheel_mm, face, self.ratio, (sliding, link.wheel_cast)),
            rating.bending_n(
                rating.BRONZE_MPA, link.module_mm, face, tables.form_factor(link.pressure_angle), self.lead_deg
            ),
            force,
            force * overload,
            rating.separating_n(force, self.lead_deg, angle, mu),
            2000 * flow.driver_torque_nm / link.worm_pitch_mm,
            area,
            oil,
            oil - ambient_c,
            overload,
        )


class Inspection:
    """Runs the checks on one rated worm set."""

    def __init__(self, details: WormDetails, subject: str) -> None:
        self.details = details
        self.subject = subject

    def limits(self) -> Iterator[Limit]:
        """Wear of the bronze, bending of its teeth, heat over the ambient limit."""
        d = self.details
        yield Limit("worm_set.wear", "bronze wear", d.design_force_n, d.wear_n, "N")
        yield Limit("worm_set.bending", "wheel tooth bending", d.design_force_n, d.bending_n, "N")
        yield Limit("worm_set.heat", "oil temperature", d.oil_c, checks.HOT.limits[1], "degC", is_load=False)

    def findings(self) -> Iterator[Finding]:
        """Every check, passed ones included."""
        d, subject, link = self.details, self.subject, self.details.link
        yield state(checks.BRAKE, subject)
        yield from self._strength()
        yield judge_two(checks.HOT, subject, d.oil_c)
        if link.case_area_m2 is None:
            yield state(checks.AREA, subject, d.area_m2)
        least, most = rating.usual_worm_mm(d.center_mm)
        yield judge(checks.FACE, subject, link.face_width_mm, FACE_SHARE * link.worm_pitch_mm + 0.05)
        yield judge(checks.THIN, subject, link.worm_pitch_mm, least)
        yield judge(checks.THICK, subject, link.worm_pitch_mm, most)
        yield judge(checks.TEETH, subject, float(link.wheel_teeth), tables.fewest_wheel_teeth(link.pressure_angle))
        yield judge(checks.START, subject, d.start_efficiency, 0.9 * d.mesh_efficiency * rating.BEARINGS)
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
