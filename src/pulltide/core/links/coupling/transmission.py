"""A coupling under a load."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import pi
from typing import Any, Literal

from pulltide.core.catalog import Catalog
from pulltide.core.drawing import LinkPicture
from pulltide.core.family import Variant
from pulltide.core.findings import COMMON_PRACTICE, Finding, Severity, judge, state
from pulltide.core.labels import choice
from pulltide.core.links.coupling import checks, tables
from pulltide.core.links.coupling.inputs import OWN, Coupling, CouplingPlate
from pulltide.core.transmission import (
    Bound,
    FailurePoint,
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
    >>> round(pin_torque_nm(Coupling(designation="own", own=CouplingPlate(), **pin)), 1)
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


def failure_points(result: LinkResult[CouplingDetails]) -> Iterator[FailurePoint]:
    """Rating used up with its service factor, and what it bears for a moment."""
    d = result.details
    rated = d.unit.rated_torque_nm
    missing = "its rated torque" if rated is None else ""
    yield FailurePoint("rating used up", "wears", None if rated is None else rated / result.sizing_factor, missing)
    if d.link.shear_pins:
        lacking = "" if d.pin_nm is not None else "size, circle and steel of the shear pins"
        yield FailurePoint("shear pins shear", "slips", d.pin_nm, lacking, wanted=True)
    if d.link.limiter_nm is not None:
        yield FailurePoint("torque limiter slips", "slips", d.link.limiter_nm, wanted=True)
    yield FailurePoint("coupling breaks", "breaks", d.moment_nm, missing)


def starter(catalog: Catalog) -> Coupling:
    """A plain start: a jaw coupling for small motors; without a list one of your own."""
    found = catalog.find(tables.PART, "CJ-65") or next(iter(catalog.of(tables.PART)), None)
    if found is None:
        return Coupling(designation=OWN, own=CouplingPlate())
    return Coupling(designation=found.id, data=found.data)


def reconcile(before: Coupling, raw: dict[str, Any], catalog: Catalog) -> dict[str, Any]:
    """A coupling off a list carries its data and no plate of yours; a new plate starts from the type replaced."""
    if raw["designation"] != before.designation:
        raw = {**raw, "data": None}
    if raw["designation"] != OWN:
        return {**raw, "own": None}
    if raw.get("own") is None:
        return {**raw, "own": {"type": before.unit.type}}
    return raw


def variants(link: Coupling, catalog: Catalog) -> Iterator[Variant]:
    """Larger and smaller couplings of the same type, then the other types that carry as much."""
    unit, here = link.unit, link.unit.rated_torque_nm or 0.0
    units = catalog.data(tables.PART)
    same = [item for item in units if item.type == unit.type]
    larger = [item for item in same if (item.rated_torque_nm or 0.0) > here][:4]
    smaller = [item for item in reversed(same) if (item.rated_torque_nm or 0.0) < here][:3]
    for direction, items in (("larger coupling", larger), ("smaller coupling", smaller)):
        for item in items:
            yield _to(direction, link, item)
    for kind in ("jaw", "roller_chain", "rigid_sleeve"):
        others = [item for item in units if item.type == kind and (item.rated_torque_nm or 0.0) >= here]
        if kind != unit.type and others:
            yield _to("other kind of coupling", link, others[0])


#: A torque limiter's setting over the running torque: clear of its peaks, then tighter. Common practice, no source.
LIMITER_SHARES = (3.0, 2.5, 2.0, 1.6)


def with_limiter(torque_nm: float, catalog: Catalog) -> Iterator[Variant]:
    """A stock coupling with a torque limiter, to put where a running torque [N·m at its shaft] passes."""
    for share in LIMITER_SHARES:
        setting = float(f"{share * torque_nm:.2g}")
        jaws = [item for item in catalog.data(tables.PART) if item.type == "jaw"]
        fitting = [item for item in jaws if (item.rated_torque_nm or 0.0) >= 1.5 * setting]
        for item in fitting[:2] if setting > 0 else ():
            link = Coupling(designation=item.designation, data=item, limiter_nm=setting)
            label = f"Put a {item.designation} with a torque limiter set to {{{setting}|N*m}} behind the motor"
            yield Variant("torque limiter", label, link)


#: Shear pins as cut from stock rod [mm].
PINS_MM = (2.0, 2.5, 3.0, 4.0, 5.0, 6.0, 8.0, 10.0)


def fuses(result: LinkResult[CouplingDetails], catalog: Catalog) -> Iterator[Variant]:
    """One shear pin of mild steel on a circle at the coupling's rim, the strongest first of those that may do."""
    d = result.details
    for share in LIMITER_SHARES:
        setting = float(f"{share * result.flow.driver_torque_nm:.2g}")
        if setting > 0 and not d.link.slips_first:
            label = f"Fit a torque limiter set to {{{setting}|N*m}}"
            yield Variant("torque limiter", label, d.link.model_copy(update={"limiter_nm": setting}))
    circle = float(round(0.75 * (d.unit.outside_mm or DRAWN_MM[0])))
    for diameter in reversed(PINS_MM):
        update = {
            "shear_pins": 1,
            "shear_pin_mm": diameter,
            "shear_circle_mm": circle,
            "shear_pin_steel": "mild_steel_1018",
        }
        pinned = d.link.model_copy(update=update)
        lets_go = pin_torque_nm(pinned) or 0.0
        if result.flow.driver_torque_nm < lets_go < PIN_REACH * max(result.flow.driver_torque_nm, 0.1):
            label = f"Fit one {{{diameter}|mm}} shear pin of mild steel on a {{{circle}|mm}} circle"
            yield Variant("shear pin", label, pinned)


#: Pins stronger than this many times the running torque protect nothing.
PIN_REACH = 20.0


def _to(direction: str, link: Coupling, item: tables.Unit) -> Variant:
    label = f"Use a {choice(item.type)} coupling {item.designation}"
    update = {"designation": item.designation, "data": item, "own": None}
    return Variant(direction, label, link.model_copy(update=update))
