"""A gear reducer link."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from pulltide.core.drawing import LinkPicture
from pulltide.core.duty import REDUCER_EXPONENT, one_class_heavier
from pulltide.core.findings import Finding, Severity, judge, judge_two, state
from pulltide.core.links.reducer import checks, rating, tables
from pulltide.core.links.reducer.inputs import Reducer
from pulltide.core.links.reducer.outside import UNKNOWN_SIZE_MM, stands
from pulltide.core.observed import Case, Observed
from pulltide.core.transmission import (
    Bound,
    Figure,
    Limit,
    LinkResult,
    Loading,
    ServiceFactor,
    ShaftLimits,
    Sizing,
    Transmission,
    Transmitted,
    Turn,
    own_factor,
)
from pulltide.core.units import power_kw, torque_nm

#: Location factor of an overhung load by where the wheel sits. Common practice without the bearing position.
OVERHANG = {"shoulder": 0.8, "middle": 1.0, "end": 1.25}
#: Shaft ends by diameter [mm].
ENDS_MM = (
    (11.0, 23.0), (14.0, 30.0), (19.0, 40.0), (24.0, 50.0), (28.0, 60.0), (38.0, 80.0), (56.0, 110.0), (75.0, 140.0),
    (95.0, 170.0),
)  # fmt: skip
#: Emergency stops in a life that still count as few, and what a unit bears of more, over its rating. Common practice,
#: no source.
FEW_STOPS, OFTEN_SHARE = 1000.0, 1.5
#: Half height of the case over its size, unfolded.
CASE_SHARE = 1.25


def extension_mm(shaft_mm: float) -> float:
    """Length of a shaft end of a diameter [mm], the next listed one. Source: ISO/R 775, long series, from memory.

    >>> extension_mm(28.0), extension_mm(35.0)
    (60.0, 80.0)
    """
    return next((long for diameter, long in ENDS_MM if shaft_mm <= diameter + 0.01), 2 * shaft_mm)


def overhang_factor(position: str, at_mm: float | None, shaft_mm: float | None) -> float:
    """What a pull counts against a rating given for the middle of a shaft end [-].

    By where the wheel sits; where that is measured, x from the shoulder of an end L long: (x + 1.5 L) / (2 L), which is
    1 in the middle and 1.25 at the end. Common practice without the bearing position.

    >>> overhang_factor("end", None, 28.0), overhang_factor("middle", 30.0, 28.0), overhang_factor("middle", 60.0, 28.0)
    (1.25, 1.0, 1.25)
    """
    if at_mm is None or shaft_mm is None:
        return OVERHANG[position]
    long = extension_mm(shaft_mm)
    return (at_mm + 1.5 * long) / (2 * long)


@dataclass(frozen=True, slots=True)
class ReducerDetails:
    """Intermediate figures of a rated reducer, for cards and workings."""

    link: Reducer
    unit: tables.Unit
    rated_torque_nm: float | None
    design_torque_nm: float
    thermal_kw: float | None
    tabulated_factor: float
    arm_torques_nm: tuple[float, float]
    arm_sense: float

    @property
    def momentary_nm(self) -> float | None:
        """Torque it bears for a moment at its output [N·m]; None while unknown."""
        return momentary_torque_nm(self.rated_torque_nm, self.unit)

    @property
    def arm_force_n(self) -> float | None:
        """Force on the torque arm [N] from the balance of the case; None without an arm."""
        if self.link.torque_arm_mm is None:
            return None
        first, second = self.arm_torques_nm
        return 1000 * (second - self.arm_sense * first) / self.link.torque_arm_mm


def momentary_torque_nm(rated_torque_nm: float | None, unit: tables.Unit) -> float | None:
    """Torque the unit bears for a moment at its output [N·m]; None while unknown."""
    if rated_torque_nm is None or unit.peak_factor is None:
        return None
    return rated_torque_nm * unit.peak_factor


#: What the classic gear table adds for an engine with several cylinders; for one cylinder at least as much.
ENGINE_ADDS = 0.25


def tabulated_service_factor(is_worm: bool, sizing: Sizing) -> float:
    """Service factor as the table prints it [-], before the floor at 1. Source: AGMA 6010 and 6034 type tables.

    More than 10 starts an hour, or reversing: the next class up, for worms the shifted table. An engine adds 0.25.
    """
    duty = sizing.duty
    hours = duty.hours_used
    frequent = duty.starts_used > 10 or duty.reversing
    adds = ENGINE_ADDS if sizing.engine_driven else 0.0
    if is_worm:
        row = tables.service_factor_row("worm_frequent" if frequent else "worm", duty.shock_used)
        return row[0 if hours <= 0.5 else 1 if hours <= 2 else 2 if hours <= 10 else 3] + adds
    shock = one_class_heavier(one_class_heavier(duty.shock_used)) if frequent else duty.shock_used
    row = tables.service_factor_row("helical", shock)
    return row[0 if hours <= 0.5 else 1 if hours <= 3 else 2 if hours <= 10 else 3] + adds


def service_factor(is_worm: bool, sizing: Sizing) -> ServiceFactor:
    """Service factor from the gear table, never under 1."""
    if (own := own_factor(sizing.duty)) is not None:
        return own
    value = tabulated_service_factor(is_worm, sizing)
    note = f"table prints {value:g}; 1.0 is used" if value < 1 else ""
    return ServiceFactor(max(value, 1.0), tables.table("service_factor").as_source, note, is_floored=value < 1)


class ReducerTransmission(Transmission[ReducerDetails]):
    """One gear reducer."""

    kind = "reducer"
    fatigue_exponent = REDUCER_EXPONENT
    noise = "quiet"

    def __init__(self, link: Reducer, step: int) -> None:
        self.link = link
        self.step = step
        self.unit = link.unit

    @property
    def ratio(self) -> float:
        """Exact ratio of input over output speed."""
        return self.unit.ratio

    @property
    def turn(self) -> Turn:
        """As listed: (-1)^stages for parallel gears; a right-angle unit must be asked."""
        senses: dict[str, Turn] = {"same": 1, "opposite": -1}
        return senses.get(self.unit.direction)

    def transmit(self, driver_speed_rpm: float, power_out_kw: float) -> Transmitted:
        """No slip; a part of the loss stays whatever the load."""
        return Transmitted(driver_speed_rpm / self.ratio, rating.power_in_kw(self.unit, driver_speed_rpm, power_out_kw))

    def picture(self) -> LinkPicture:
        """A case round two shafts, its size from the list."""
        size = self.unit.size_mm or UNKNOWN_SIZE_MM
        note = "right angle, drawn unfolded" if self.turn is None else ""
        return LinkPicture(
            "case",
            (size * 1.6, 0.0),
            case_half_height_mm=size * CASE_SHARE,
            note=note,
            in_line=self.unit.coaxial,
            stands=stands(self.link),
        )

    @property
    def play_arcmin(self) -> float | None:
        """As listed [arcmin]."""
        return self.unit.backlash_arcmin

    @property
    def max_driver_rpm(self) -> float | None:
        """As listed [rpm]; None while unknown."""
        return self.unit.max_input_rpm

    @property
    def mass_kg(self) -> float | None:
        """As listed [kg]; None while unknown."""
        return self.unit.mass_kg

    def observed(self, result: LinkResult[ReducerDetails]) -> Observed:
        """A case that warms up."""
        seen = super().observed(result)
        return replace(seen, case=Case.of(self.unit.mass_kg), meshes=True, is_worm=self.unit.is_worm)

    def service_factor(self, sizing: Sizing) -> ServiceFactor:
        """By the gear table."""
        return service_factor(self.unit.is_worm, sizing)

    def at_input_nm(self, output_nm: float, driver_speed_rpm: float) -> float:
        """Torque at the driver for one at the output [N·m]."""
        out_kw = power_kw(output_nm, driver_speed_rpm / self.ratio)
        return torque_nm(rating.power_in_kw(self.unit, driver_speed_rpm, out_kw), driver_speed_rpm)

    def capacity(self, driver_speed_rpm: float, sizing: Sizing) -> tuple[Bound, ...]:
        """Rated torque, heat; at the peak, what it bears for a moment at its output."""
        rated = rating.rated_torque_nm(self.unit, driver_speed_rpm)
        factor = sizing.multiplier(self.service_factor(sizing).value, self.fatigue_exponent)
        thermal_kw = rating.thermal_limit_kw(self.unit, driver_speed_rpm, sizing.duty.ambient_c)
        return (
            Bound(
                "reducer.torque", "sized", None if rated is None else self.at_input_nm(rated / factor, driver_speed_rpm)
            ),
            Bound("reducer.peak", "driven_peak", momentary_torque_nm(rated, self.unit)),
            Bound(
                "reducer.thermal", "running", None if thermal_kw is None else torque_nm(thermal_kw, driver_speed_rpm)
            ),
        )

    def details(self, load: Loading) -> ReducerDetails:
        """Ratings, design torque and arm under a load."""
        flow = load.flow
        return ReducerDetails(
            self.link,
            self.unit,
            rating.rated_torque_nm(self.unit, flow.driver_speed_rpm),
            load.design.chosen_nm * self.ratio * self.efficiency_at(load),
            rating.thermal_limit_kw(self.unit, flow.driver_speed_rpm, load.sizing.duty.ambient_c),
            tabulated_service_factor(self.unit.is_worm, load.sizing),
            load.peak_nm,
            float(self.turn or 0),
        )

    def limits(self, result: LinkResult[ReducerDetails]) -> Iterator[Limit]:
        """Torque with its margin, momentary peak, heat, input speed."""
        return Inspection(result).limits()

    def findings(self, result: LinkResult[ReducerDetails]) -> Iterator[Finding]:
        """Every check, passed ones included."""
        return Inspection(result).findings()

    def figures(self, result: LinkResult[ReducerDetails]) -> tuple[Figure, ...]:
        """The numbers of the card, in reading order."""
        return figures(result.details)

    def efficiency_at(self, load: Loading) -> float:
        """Power out over power in; without a load as at full load."""
        flow = load.flow
        if flow.power_in_kw <= 0:
            return rating.efficiency(self.unit, flow.driver_speed_rpm)
        return flow.power_out_kw / flow.power_in_kw

    def start_efficiency(self, result: LinkResult[ReducerDetails]) -> float | None:
        """Before an oil film forms."""
        return rating.start_efficiency(self.unit)

    def may_hold(self, result: LinkResult[ReducerDetails]) -> bool:
        """Some worms do."""
        return self.unit.may_hold

    def shafts(self, load: Loading) -> ShaftLimits:
        """Overhung ratings at its speeds, where the wheels sit, its shafts."""
        unit, flow = self.unit, load.flow
        listed_out_rpm = 1750.0 / unit.ratio if not unit.by_plate else flow.driven_speed_rpm
        listed_in_rpm = 1750.0 if not unit.by_plate else flow.driver_speed_rpm
        return ShaftLimits(
            driver_overhung_n=rating.overhung_at_speed_n(unit.overhung_in_n, flow.driver_speed_rpm, listed_in_rpm),
            driven_overhung_n=rating.overhung_at_speed_n(unit.overhung_out_n, flow.driven_speed_rpm, listed_out_rpm),
            driver_overhang_factor=overhang_factor(
                self.link.input_position, self.link.input_at_mm, unit.input_shaft_mm
            ),
            driven_overhang_factor=overhang_factor(
                self.link.output_position, self.link.output_at_mm, unit.output_shaft_mm
            ),
            driver_shaft_mm=unit.input_shaft_mm,
            driven_shaft_mm=unit.output_shaft_mm,
        )


#: Kind of output shaft that each form of it has; a unit as listed has the one of its list.
OUTPUT_SHAFTS = {
    "solid_with_key": "solid",
    "hollow_with_key": "hollow",
    "hollow_with_shrink_ring": "hollow",
    "flange": "flange",
}


class Inspection:
    """Runs the checks on one rated reducer."""

    def __init__(self, result: LinkResult[ReducerDetails]) -> None:
        self.details = result.details
        self.sizing = result.load.sizing
        self.flow = result.flow
        self.efficiency = rating.efficiency(self.details.unit, self.flow.driver_speed_rpm)
        self.subject = result.load.subject

    def limits(self) -> Iterator[Limit]:
        """Torque with its margin, momentary peak, heat, input speed."""
        d, flow = self.details, self.flow
        yield Limit("reducer.torque", "output torque", d.design_torque_nm, d.rated_torque_nm, "N*m")
        if flow.driven_peak_torque_nm is not None:
            yield Limit("reducer.peak", "momentary torque", flow.driven_peak_torque_nm, d.momentary_nm, "N*m")
        yield Limit("reducer.thermal", "heat", flow.power_in_kw, d.thermal_kw, "kW")
        yield Limit(
            "reducer.input_speed", "input speed", flow.driver_speed_rpm, d.unit.max_input_rpm, "rpm", is_load=False
        )

    def findings(self) -> Iterator[Finding]:
        """Every check, passed ones included."""
        yield from self._strength()
        d, flow, subject = self.details, self.flow, self.subject
        if d.unit.max_input_rpm is not None:
            yield judge(checks.SPEED, subject, flow.driver_speed_rpm, d.unit.max_input_rpm)
        if d.thermal_kw is not None:
            yield judge_two(checks.THERMAL, subject, flow.power_in_kw, of=d.thermal_kw)
        if d.unit.efficiency_1750 is None:
            yield state(checks.EFFICIENCY, subject, self.efficiency)
        if d.unit.is_worm:
            yield state(checks.BRAKE, subject)
        else:
            yield state(checks.TURNS_BACK, subject)
        if d.tabulated_factor < 1:
            yield state(checks.SERVICE_FLOOR, subject, d.tabulated_factor)
        if d.unit.type == "strain_wave" or d.unit.type == "cycloidal":
            yield state(checks.SCALED, subject)
        yield from self._fitting()

    def _fitting(self) -> Iterator[Finding]:
        """How it stands, is oiled, is held, and how much play it has."""
        d, flow, subject, link = self.details, self.flow, self.subject, self.details.link
        if link.mounting == "not_said":
            yield state(checks.MOUNTING_UNKNOWN, subject)
        else:
            if link.mounting != "floor":
                yield state(checks.MOUNTING, subject)
            yield state(checks.OIL_WORM if d.unit.is_worm else checks.OIL_GEAR, subject)
        if d.unit.max_input_rpm is not None:
            yield judge(checks.SPLASH, subject, flow.driver_speed_rpm, of=d.unit.max_input_rpm)
        wanted = OUTPUT_SHAFTS[link.output_form] if link.output_form != "as_listed" else d.unit.output
        if wanted == "hollow" and link.torque_arm_mm is None:
            yield state(checks.ARM, subject)
        offered = d.unit.output
        if offered != "not_known" and wanted not in offered:
            yield state(checks.FORM, subject)
        if d.unit.input == "clamp":
            yield state(checks.CLAMP, subject, flow.driver_peak_torque_nm)
        if link.max_backlash_arcmin is not None:
            if d.unit.backlash_arcmin is None:
                yield state(checks.BACKLASH_UNKNOWN, subject)
            else:
                yield judge(checks.BACKLASH, subject, d.unit.backlash_arcmin, link.max_backlash_arcmin)

    def _strength(self) -> Iterator[Finding]:
        d, flow, subject = self.details, self.flow, self.subject
        if d.rated_torque_nm is None:
            yield state(checks.TORQUE_UNKNOWN, subject, d.design_torque_nm)
            return
        if d.unit.by_plate and d.unit.rated_input_rpm is None:
            yield state(checks.RATED_SPEED_UNKNOWN, subject)
        elif d.unit.rated_input_rpm is not None:
            yield judge(checks.RATED_SPEED, subject, flow.driver_speed_rpm, d.unit.rated_input_rpm)
        named = flow.driver_nameplate_torque_nm * d.unit.ratio * self.efficiency
        yield judge(checks.NAMEPLATE, subject, named, d.rated_torque_nm)
        if d.design_torque_nm > 0:
            yield judge(checks.OVERSIZE, subject, d.rated_torque_nm / d.design_torque_nm)
        level = Severity.ERROR if flow.driven_torque_nm > d.rated_torque_nm else Severity.WARNING
        yield judge(checks.TORQUE, subject, d.design_torque_nm, d.rated_torque_nm, severity=level)
        momentary = d.momentary_nm
        if momentary is None:
            return
        if flow.driven_peak_torque_nm is not None:
            yield judge(checks.PEAK, subject, flow.driven_peak_torque_nm, momentary)
        if flow.driven_emergency_torque_nm is not None:
            few = self.sizing.duty.emergency_stops_used <= FEW_STOPS
            allowed = momentary if few else min(momentary, OFTEN_SHARE * d.rated_torque_nm)
            yield judge(checks.EMERGENCY, subject, flow.driven_emergency_torque_nm, allowed)


def figures(details: ReducerDetails) -> tuple[Figure, ...]:
    """The numbers of the card, in reading order."""
    return (
        Figure("ratio", "Exact ratio", details.unit.ratio, ""),
        Figure("rated_torque", "Rated torque at this speed", details.rated_torque_nm, "N*m"),
        Figure("design_torque", "Design torque", details.design_torque_nm, "N*m", needs_load=True),
        Figure("thermal", "Heat limit, input power", details.thermal_kw, "kW"),
        Figure("input_shaft", "Input shaft", details.unit.input_shaft_mm, "mm"),
        Figure("output_shaft", "Output shaft", details.unit.output_shaft_mm, "mm"),
        Figure("backlash", "Backlash", details.unit.backlash_arcmin, "arcmin"),
        *(() if details.link.torque_arm_mm is None else (_arm(details),)),
    )


def _arm(details: ReducerDetails) -> Figure:
    return Figure("arm_force", "Force on the torque arm", details.arm_force_n, "N", needs_load=True)
