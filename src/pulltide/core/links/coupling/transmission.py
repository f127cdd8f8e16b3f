"""A coupling under a load."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import pi
from typing import Literal

from pulltide.core.drawing import LinkPicture
from pulltide.core.findings import COMMON_PRACTICE, Finding, Severity, judge, state
from pulltide.core.links.coupling import checks, tables
from pulltide.core.links.coupling.inputs import Coupling
from pulltide.core.transmission import (
    Bound,
    Figure,
    Flow,
    Limit,
    LinkResult,
    Loading,
    ServiceFactor,
    ShaftLimits,
    Sizing,
    Transmission,
    Transmitted,
    own_factor,
)

#: Service factor by shock, heavy by type. Common practice, no source.
FACTORS = {"uniform": 1.0, "light": 1.25, "moderate": 1.5}
#: Drawn while its size is unknown [mm].
DRAWN_MM = (60.0, 70.0)


def service_factor(sizing: Sizing, kind: str = "jaw") -> ServiceFactor:
    """Service factor by shock; a jaw's rubber wants more under heavy shock."""
    if (own := own_factor(sizing.duty)) is not None:
        return own
    heavy = tables.type_data(kind).heavy_factor
    return ServiceFactor(FACTORS.get(sizing.duty.shock_used, heavy), COMMON_PRACTICE)


#: Ultimate shear strength of pins [MPa]. Common practice, no source: about 0.75 of tensile; no pin is exact.
PIN_SHEAR_MPA = {"brass": 230.0, "mild_steel_1018": 330.0, "steel_1045": 430.0}


def pin_torque_nm(link: Coupling) -> float | None:
    """Torque at which the shear pins let go [N·m]: n τ_u (π d² / 4) D / 2; None while a size or the steel is unknown.

    >>> pin = {"shear_pins": 1, "shear_pin_mm": 4.0, "shear_circle_mm": 60.0, "shear_pin_steel": "brass"}
    >>> round(pin_torque_nm(Coupling.model_validate({"designation": "own", "own": {}, **pin})), 1)
    86.7
    """
    shear = PIN_SHEAR_MPA.get(link.shear_pin_steel)
    if not link.shear_pins or shear is None or link.shear_pin_mm is None or link.shear_circle_mm is None:
        return None
    return link.shear_pins * shear * pi * link.shear_pin_mm**2 / 4 * link.shear_circle_mm / 2000


@dataclass(frozen=True, slots=True)
class CouplingDetails:
    """Intermediate figures of a rated coupling."""

    link: Coupling
    unit: tables.Unit
    data: tables.TypeData
    moment_nm: float | None
    misalignment: float | None
    pin_nm: float | None


def misalignment(link: Coupling, data: tables.TypeData) -> float | None:
    """Angle and offset as one share of what the coupling takes: a / a_max + p / p_max. None if neither is known."""
    if link.angle_off_deg is None and link.parallel_off_mm is None:
        return None
    return (link.angle_off_deg or 0.0) / data.angle_deg + (link.parallel_off_mm or 0.0) / data.parallel_mm


class CouplingTransmission(Transmission[CouplingDetails]):
    """One coupling."""

    kind = "coupling"
    noise = "quiet"
    turn: Literal[1] = 1

    def __init__(self, link: Coupling, step: int) -> None:
        self.link = link
        self.step = step
        self.unit = link.unit
        self.data = tables.type_data(self.unit.type)

    @property
    def ratio(self) -> float:
        """Both shafts turn as one."""
        return 1.0

    def transmit(self, driver_speed_rpm: float, power_out_kw: float) -> Transmitted:
        """No slip; a little is lost where rubber or chain works."""
        return Transmitted(driver_speed_rpm, power_out_kw / self.data.efficiency)

    def picture(self) -> LinkPicture:
        """Two halves end to end; both shafts are in line."""
        outside, length = self.unit.outside_mm or DRAWN_MM[0], self.unit.length_mm or DRAWN_MM[1]
        return LinkPicture("coupling", (length * 1.5, 0.0), outside / 2, outside / 2, in_line=True)

    @property
    def play_arcmin(self) -> float:
        """None to speak of."""
        return 0.0

    @property
    def misalignment(self) -> tuple[float, float, float]:
        """As its type takes, and what is entered of its shafts."""
        return self.data.angle_deg, self.data.parallel_mm, misalignment(self.link, self.data) or 0.0

    @property
    def max_driver_rpm(self) -> float | None:
        """As listed [rpm]; None while unknown."""
        return self.unit.max_speed_rpm

    def service_factor(self, sizing: Sizing) -> ServiceFactor:
        """By shock and kind."""
        return service_factor(sizing, self.unit.type)

    @property
    def moment_nm(self) -> float | None:
        """Torque it bears for a moment [N·m]; None while unknown."""
        rated = self.unit.rated_torque_nm
        return None if rated is None else rated * self.data.peak_over_rated

    def capacity(self, driver_speed_rpm: float, sizing: Sizing) -> tuple[Bound, ...]:
        """Rated torque; at the peak, what it bears for a moment."""
        rated, factor = self.unit.rated_torque_nm, sizing.multiplier(self.service_factor(sizing).value)
        return (
            Bound("coupling.torque", "sized", None if rated is None else rated / factor),
            Bound("coupling.peak", "peak", self.moment_nm),
        )

    def details(self, load: Loading) -> CouplingDetails:
        """Momentary torque, misalignment, pins."""
        link = self.link
        off = misalignment(link, self.data)
        return CouplingDetails(link, self.unit, self.data, self.moment_nm, off, pin_torque_nm(link))

    def limits(self, result: LinkResult[CouplingDetails]) -> Iterator[Limit]:
        """Torque with its margin, momentary peak, speed."""
        flow, unit = result.flow, self.unit
        yield Limit("coupling.torque", "coupling torque", result.design.chosen_nm, unit.rated_torque_nm, "N*m")
        if flow.driver_peak_torque_nm is not None:
            yield Limit("coupling.peak", "momentary torque", flow.driver_peak_torque_nm, self.moment_nm, "N*m")
        yield Limit("coupling.speed", "speed", flow.driver_speed_rpm, unit.max_speed_rpm, "rpm", is_load=False)

    def findings(self, result: LinkResult[CouplingDetails]) -> Iterator[Finding]:
        """Every check, passed ones included."""
        return _findings(result.details, result.flow, result.design.chosen_nm, result.load.subject)

    def figures(self, result: LinkResult[CouplingDetails]) -> Iterator[Figure]:
        """The numbers of the card, in reading order."""
        d = result.details
        yield Figure("rated_torque", "Rated torque", self.unit.rated_torque_nm, "N*m")
        yield Figure("design_torque", "Design torque", result.design.chosen_nm, "N*m", needs_load=True)
        yield Figure("moment_torque", "Momentary torque", d.moment_nm, "N*m")
        yield Figure("max_bore", "Greatest bore", self.unit.max_bore_mm, "mm")
        yield Figure("angle", "Angular misalignment, alone", self.data.angle_deg, "deg")
        yield Figure("parallel", "Parallel offset, alone", self.data.parallel_mm, "mm")
        yield Figure("misalignment", "Of that in use", d.misalignment, "share")
        if self.link.shear_pins:
            yield Figure("pin_torque", "Shear pins shear at", d.pin_nm, "N*m")

    def efficiency_at(self, load: Loading) -> float:
        """A constant share."""
        return self.data.efficiency

    def shafts(self, load: Loading) -> ShaftLimits:
        """Greatest bores."""
        return ShaftLimits(driver_bore_max_mm=self.unit.max_bore_mm, driven_bore_max_mm=self.unit.max_bore_mm)


def _findings(d: CouplingDetails, flow: Flow, design_nm: float, subject: str) -> Iterator[Finding]:
    yield from _strength(d, flow, design_nm, subject)
    if d.misalignment is None:
        yield state(checks.NOT_MEASURED, subject)
    else:
        yield judge(checks.ALIGNMENT, subject, d.misalignment)
    shafts = [mm for mm in (d.link.driver_shaft_mm, d.link.driven_shaft_mm) if mm is not None]
    if shafts and d.unit.max_bore_mm is not None:
        yield judge(checks.BORE, subject, max(shafts), d.unit.max_bore_mm)
    if d.unit.type == "rigid_sleeve":
        yield state(checks.RIGID, subject)
        if len(shafts) == 2:
            yield judge(checks.SLEEVE, subject, abs(shafts[0] - shafts[1]))
    if d.unit.type == "roller_chain":
        yield state(checks.GREASE, subject)
    if d.unit.max_speed_rpm is not None:
        yield judge(checks.SPEED, subject, flow.driver_speed_rpm, d.unit.max_speed_rpm)


def _strength(d: CouplingDetails, flow: Flow, design_nm: float, subject: str) -> Iterator[Finding]:
    rated = d.unit.rated_torque_nm
    if rated is None or d.moment_nm is None:
        yield state(checks.UNKNOWN, subject, design_nm)
        return
    level = Severity.ERROR if flow.driver_torque_nm > rated else Severity.WARNING
    yield judge(checks.TORQUE, subject, design_nm, rated, severity=level)
    if flow.driver_peak_torque_nm is not None:
        yield judge(checks.PEAK, subject, flow.driver_peak_torque_nm, d.moment_nm)
