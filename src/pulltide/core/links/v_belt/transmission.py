"""A V-belt link at one step: geometry first, then what it carries."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import lru_cache
from math import ceil, log, pi, radians
from typing import Literal

from pulltide.core.belt_path import rotated
from pulltide.core.drawing import DrawnWheel, LinkPicture, polar
from pulltide.core.elasticity import loop_nm_rad
from pulltide.core.findings import MEASURED_TO_MM, Finding, Severity, judge, judge_two, state
from pulltide.core.forces import DENSITY_KG_M3, Disc
from pulltide.core.labels import phrase
from pulltide.core.links.v_belt import checks, rating, tables
from pulltide.core.links.v_belt.hinged_base import Balance
from pulltide.core.links.v_belt.inputs import VBelt
from pulltide.core.links.v_belt.layout import Layout, layout
from pulltide.core.links.v_belt.motor_plate import hinge_of, plate_of
from pulltide.core.observed import V_BELT_FRICTION, Loop, Observed
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
    Transmitted,
    own_factor,
)
from pulltide.core.two_wheels import LoopTransmission
from pulltide.core.units import MM_PER_IN, power_kw, rim_speed_m_per_s, rpm_of_rim, torque_nm


@dataclass(frozen=True, slots=True, kw_only=True)
class BeltDetails:
    """Intermediate figures of a rated V-belt, for cards and workings."""

    link: VBelt
    layout: Layout
    belt: tables.Belt | None
    small_speed_rpm: float
    belt_speed_m_per_s: float
    rating_one_kw: float
    arc_factor: float
    length_factor: float
    capacity_kw: float
    design_power_kw: float
    belts_needed: int | None
    creep: float
    loss: rating.Loss
    tension: rating.Tension
    life: rating.Life | None
    loss_kw: float
    set_n: float | None = None
    plate: Balance | None = None


@dataclass(frozen=True, slots=True)
class Rating:
    """Rating of the whole set of belts [kW] and its factors."""

    one_kw: float
    arc: float
    length: float
    total_kw: float


#: Friction over the wrap that designs count on: a ratio of 5 in half a turn. Basis of the arc factor, RMA IP-20.
DESIGN_FRICTION = log(rating.GROOVE_RATIO) / pi
#: A tension this near to the one wanted is it: nobody sets a belt closer. Common practice, no source.
NEARLY = 1.01


def span_of(details: BeltDetails) -> rating.Span:
    """The free span as tension formulas see it."""
    return rating.Span(
        wrap_deg=details.layout.wrap_deg,
        speed_m_per_s=details.belt_speed_m_per_s,
        center_mm=details.layout.center_mm,
        chord_mm=details.tension.span_mm,
        mass_kg_per_m=tables.section(details.link.section).mass_kg_per_m,
        locked=details.link.tensioning == "locked",
        drum_wrap_deg=details.layout.drum_wrap_deg,
        bending_nm2=rating.bending_nm2(details.link.section),
    )


def design_tension_n(details: BeltDetails) -> float:
    """Tension each belt is to be set to [N]: for the design pull, or the peak where that is greater."""
    return rating.tension(details.tension.pull_n, details.link.belts, span_of(details), None).static_n


def slip_pull_n(details: BeltDetails, dry: bool) -> float:
    """Pull at which one belt slips [N]: on dry grooves at the latest, else with the friction that designs rely on."""
    place = details.layout
    by_outside = tables.section(details.link.section).angle_by_outside
    angle = tables.groove_angle_deg(
        details.link.section, place.small_outside_mm if by_outside else place.small_pitch_mm
    )
    ratio = rating.dry_tension_ratio(place.wrap_deg, angle) if dry else details.tension.ratio
    if dry and place.drum_wrap_deg is not None:
        ratio = min(ratio, rating.dry_drum_ratio(place.drum_wrap_deg))
    if details.plate is not None:
        return details.plate.slip_n(ratio) / details.link.belts
    return rating.slip_pull_n(details.tension.static_n, ratio, span_of(details))


#: What an idler adds to the service factor. Source: Machinery's Handbook, V-belts, from memory.
IDLER_ADDS = {
    "none": 0.0,
    "slack_strand_inside": 0.0,
    "slack_strand_outside": 0.1,
    "tight_strand_inside": 0.1,
    "tight_strand_outside": 0.2,
}


def service_factor(sizing: Sizing, idler: str = "none") -> ServiceFactor:
    """Service factor from the belt table; +0.1 when reversing or above 10 starts an hour (common practice).

    An idler adds its own.
    """
    duty = sizing.duty
    if (own := own_factor(duty)) is not None:
        return own
    value = tables.service_factor(duty.shock_used, sizing.high_torque_motor, duty.hours_used)
    hard = duty.reversing or duty.starts_used > 10
    notes = ["0.1 added for reversing or more than 10 starts an hour, common practice"] if hard else []
    if IDLER_ADDS[idler]:
        notes.append(f"{IDLER_ADDS[idler]:g} added for the idler")
    note = "; ".join(map(phrase, notes)) if len(notes) > 1 else "".join(notes)
    return ServiceFactor(
        value + (0.1 if hard else 0.0) + IDLER_ADDS[idler], tables.table("service_factor").as_source, note
    )


class BeltTransmission(LoopTransmission[BeltDetails]):
    """One V-belt link at one step."""

    kind = "v_belt"
    link: VBelt
    layout: Layout
    noise = "quiet"
    turn: Literal[1] = 1

    def __init__(self, link: VBelt, step: int) -> None:
        self.link = link
        self.step = step
        self.section = tables.section(link.section)
        self.layout = layout(link, step)
        self.belt = None if link.belt is None else tables.belt(link.section, link.belt)
        over = self._small_mm / self.section.min_diameter_mm
        self.loss = rating.loss_model(link.section, link.belts, over, self.layout.drum)
        self.plate = plate_of(link, self.layout)
        self.bending_nm2 = rating.bending_nm2(link.section)
        self._last_rating: tuple[float, Rating] | None = None

    @property
    def set_n(self) -> float | None:
        """Tension of each belt at rest [N]: as measured, or by the weight of a hinged plate. None while unknown."""
        if self.link.tensioning == "hinged_plate":
            return None if self.plate is None else self.plate.rest_n
        return self.link.static_tension_n

    @property
    def ratio(self) -> float:
        """Driver over driven speed without creep: driven over driver pitch diameter."""
        return self.layout.driven_pitch_mm / self.layout.driver_pitch_mm

    @property
    def _small_mm(self) -> float:
        place = self.layout
        return place.small_outside_mm if self.section.min_is_outside else place.small_pitch_mm

    def _small_speed_rpm(self, driver_speed_rpm: float) -> float:
        return driver_speed_rpm * self.layout.driver_pitch_mm / self.layout.small_pitch_mm

    def rated_at(self, driver_speed_rpm: float) -> Rating:
        """Rating of all belts at a driver speed [rpm]; zero where the section has none."""
        if self._last_rating is None or self._last_rating[0] != driver_speed_rpm:
            self._last_rating = (driver_speed_rpm, self._rating(driver_speed_rpm))
        return self._last_rating[1]

    def _rating(self, driver_speed_rpm: float) -> Rating:
        speed = self._small_speed_rpm(driver_speed_rpm)
        diameter = self.layout.small_outside_mm if self.section.light else self.layout.small_pitch_mm
        one = rating.basic_rating_kw(self.link.section, diameter, speed, self.layout.reduction)
        arc = self._span(1.0).arc_factor
        nominal = self.belt.nominal_in if self.belt else self._nominal_of_layout()
        length = tables.length_factor(self.link.section, nominal)
        shared = rating.MATCHED_LIGHT_SHARE if self.section.light and self.link.belts > 1 else 1.0
        return Rating(one, arc, length, max(one, 0.0) * arc * length * self.link.belts * shared)

    def _nominal_of_layout(self) -> float:
        return self.layout.length_mm / MM_PER_IN - self.section.length_addition_in

    def transmit(self, driver_speed_rpm: float, power_out_kw: float) -> Transmitted:
        """Creep follows the pull, loss has a part that stays: n2 = n1 d / D (1 - s); P_in = P_out + L."""
        speed = rim_speed_m_per_s(self.layout.driver_pitch_mm, driver_speed_rpm)
        slowed = 1.0 - self.loss.creep_at(power_out_kw, speed)
        if self.link.own_efficiency is not None:
            return Transmitted(driver_speed_rpm / self.ratio * slowed, power_out_kw / self.link.own_efficiency)
        return Transmitted(
            driver_speed_rpm / self.ratio * slowed, power_out_kw + self.loss.loss_kw(power_out_kw, speed)
        )

    def picture(self) -> LinkPicture:
        """Two pulleys and the belt between them."""
        place = self.layout
        return LinkPicture(
            "belt",
            polar(place.center_mm, self.link.angle_deg),
            place.driver_outside_mm / 2,
            place.driven_outside_mm / 2,
            extra=self._idler(),
            path=rotated(place.path, self.link.angle_deg),
        )

    def _idler(self) -> tuple[DrawnWheel, ...]:
        place = self.layout
        if not place.path or self.link.idler_diameter_mm is None:
            return ()
        idler = rotated(place.path, self.link.angle_deg)[-1]
        return (DrawnWheel((idler.x_mm, idler.y_mm), self.link.idler_diameter_mm / 2),)

    @property
    def stiffness_nm_rad(self) -> float:
        """Creep read as stretch: all belts, both strands."""
        place = self.layout
        diameters = (place.driver_pitch_mm, place.driven_pitch_mm)
        return loop_nm_rad(self.loss.usual_n / self.loss.creep, place.center_mm, diameters)

    @property
    def play_arcmin(self) -> float:
        """A belt has none."""
        return 0.0

    @property
    def discs(self) -> tuple[Disc, ...]:
        """Two pulleys of cast iron, as wide as their grooves."""
        face = (self.link.belts - 1) * self.section.groove_pitch_mm + 2 * self.section.groove_edge_mm
        place, iron = self.layout, DENSITY_KG_M3["iron"]
        return (
            Disc("driver", place.driver_outside_mm, face, iron),
            Disc("driven", place.driven_outside_mm, face, iron),
        )

    @property
    def max_driver_rpm(self) -> float:
        """Speed at which the belt runs as fast as its section may [rpm]."""
        return rpm_of_rim(self.layout.driver_pitch_mm, self.section.max_speed_m_per_s)

    def observed(self, result: LinkResult[BeltDetails]) -> Observed:
        """A belt that can be plucked, creeps and slips; on a drum it slips there first."""
        place, d = self.layout, result.details
        friction = V_BELT_FRICTION
        if place.drum_wrap_deg is not None:
            drum = log(rating.drum_tension_ratio(place.drum_wrap_deg)) / radians(place.wrap_deg)
            friction = min(friction, drum * V_BELT_FRICTION / DESIGN_FRICTION)
        return Observed(
            loop=Loop(
                belts=self.link.belts,
                driver_pitch_mm=place.driver_pitch_mm,
                driven_pitch_mm=place.driven_pitch_mm,
                wrap_deg=place.wrap_deg,
                span_mm=d.tension.span_mm,
                mass_kg_per_m=self.section.mass_kg_per_m,
                bending_nm2=rating.bending_nm2(self.link.section),
                static_n=max(d.tension.static_n, 1.0),
                known=self.set_n is not None,
                wanted_n=design_tension_n(d),
                creep=self.loss.creep,
                creep_pull_n=self.loss.usual_n,
                friction=friction,
            )
        )

    def service_factor(self, sizing: Sizing) -> ServiceFactor:
        """By the belt table; an idler adds its own."""
        return service_factor(sizing, self.link.idler)

    def capacity(self, driver_speed_rpm: float, sizing: Sizing) -> tuple[Bound, ...]:
        """Rating of all belts; at the peak, slip at the tension that is set."""
        factor = sizing.multiplier(self.service_factor(sizing).value)
        rated = torque_nm(self.rated_at(driver_speed_rpm).total_kw, driver_speed_rpm) / factor
        bounds = (Bound("v_belt.rating", "sized", rated),)
        if self.set_n is None:
            return bounds
        speed = rim_speed_m_per_s(self.layout.driver_pitch_mm, driver_speed_rpm)
        span = self._span(speed)
        slip = rating.slip_pull_n(self.set_n, span.ratio, span)
        if self.plate is not None:
            slip = self.plate.slip_n(span.ratio) / self.link.belts
        lever_m = self.layout.driver_pitch_mm * self.link.belts / 2000
        return (*bounds, Bound("v_belt.slip_at_peak", "peak", slip * lever_m))

    def details(self, load: Loading) -> BeltDetails:
        """Rating, tension, life and loss under a load."""
        flow = load.flow
        rated = self.rated_at(flow.driver_speed_rpm)
        design_kw = power_kw(load.design.chosen_nm, flow.driver_speed_rpm)
        tension = self._tension(flow, design_kw)
        needed = ceil(design_kw / (rated.total_kw / self.link.belts) - 1e-9) if rated.total_kw > 0 else None
        speed = rim_speed_m_per_s(self.layout.driver_pitch_mm, flow.driver_speed_rpm)
        return BeltDetails(
            link=self.link,
            layout=self.layout,
            belt=self.belt,
            small_speed_rpm=self._small_speed_rpm(flow.driver_speed_rpm),
            belt_speed_m_per_s=speed,
            rating_one_kw=rated.one_kw,
            arc_factor=rated.arc,
            length_factor=rated.length,
            capacity_kw=rated.total_kw,
            design_power_kw=design_kw,
            belts_needed=needed,
            creep=self.loss.creep_at(flow.power_out_kw, speed),
            loss=self.loss,
            tension=tension,
            life=self._life(tension, flow),
            loss_kw=flow.power_in_kw - flow.power_out_kw,
            set_n=self.set_n,
            plate=self.plate,
        )

    def limits(self, result: LinkResult[BeltDetails]) -> Iterator[Limit]:
        """Rating with its margin, belt speed, and slip at peak once the tension really set is known."""
        return Inspection(result).limits()

    def findings(self, result: LinkResult[BeltDetails]) -> Iterator[Finding]:
        """Every check, passed ones included."""
        return Inspection(result).findings()

    def figures(self, result: LinkResult[BeltDetails]) -> tuple[Figure, ...]:
        """The numbers of the card, in reading order."""
        return figures(result.details)

    def pulls_n(self, result: LinkResult[BeltDetails]) -> tuple[float, float]:
        """Both strands at the tension set, on both shafts."""
        pull = result.details.tension.shaft_load_n
        return pull, pull

    def shafts(self, load: Loading) -> ShaftLimits:
        """A belt pulley, of this size, on the driver."""
        return ShaftLimits(driver_outside_mm=self.layout.driver_outside_mm, is_belt=True)

    def _span(self, speed_m_per_s: float) -> rating.Span:
        place = self.layout
        return rating.Span(
            wrap_deg=place.wrap_deg,
            speed_m_per_s=speed_m_per_s,
            center_mm=place.center_mm,
            chord_mm=place.span_mm,
            mass_kg_per_m=self.section.mass_kg_per_m,
            locked=self.link.tensioning == "locked",
            drum_wrap_deg=place.drum_wrap_deg,
            bending_nm2=self.bending_nm2,
        )

    def _tension(self, flow: Flow, design_kw: float) -> rating.Tension:
        """Tension for the larger of design pull and peak pull, so that neither slips."""
        speed = rim_speed_m_per_s(self.layout.driver_pitch_mm, flow.driver_speed_rpm)
        peak_nm = flow.driver_peak_torque_nm or 0.0
        peak_pull = 2000.0 * peak_nm / (self.layout.driver_pitch_mm * self.link.belts)
        pull = max(1000.0 * design_kw / (speed * self.link.belts), peak_pull)
        return rating.tension(pull, self.link.belts, self._span(speed), self.set_n)

    def _life(self, tension: rating.Tension, flow: Flow) -> rating.Life | None:
        """Life trend under the running pull at the tension set, or the one the design wants."""
        place = self.layout
        pull = 2000.0 * flow.driver_torque_nm / (place.driver_pitch_mm * self.link.belts)
        locked = self.link.tensioning == "locked"
        tight = tension.static_n + pull / 2 + (0.0 if locked else tension.centrifugal_n)
        length = self.belt.pitch_length_mm if self.belt else place.length_mm
        diameters = (place.small_pitch_mm, place.large_pitch_mm)
        speed = rim_speed_m_per_s(place.driver_pitch_mm, flow.driver_speed_rpm)
        return rating.life(self.link.section, tight, diameters, length, speed)


class Inspection:
    """Runs the checks on one rated belt link."""

    def __init__(self, result: LinkResult[BeltDetails]) -> None:
        self.details = result.details
        self.flow = result.flow
        self.sizing = result.load.sizing
        self.factor = result.service_factor
        self.subject = result.load.subject
        self.section = tables.section(self.details.link.section)

    def limits(self) -> Iterator[Limit]:
        """Rating with its margin, belt speed, and slip at peak once the tension really set is known."""
        d = self.details
        yield Limit("v_belt.rating", "belt rating", d.design_power_kw, d.capacity_kw, "kW")
        peak = self._peak_pull_n()
        if peak is not None and d.set_n is not None:
            yield Limit("v_belt.slip_at_peak", "slip at peak", peak, slip_pull_n(self.details, dry=False), "N")
        yield Limit(
            "v_belt.speed", "belt speed", d.belt_speed_m_per_s, self.section.max_speed_m_per_s, "m/s", is_load=False
        )

    def findings(self) -> Iterator[Finding]:
        """Every check, passed ones included."""
        place = self.details.layout
        if place.fault is not None:
            yield replace(place.fault, subject=self.subject)
            return
        yield from self._strength()
        yield from self._pulleys()
        yield from self._fit()

    def _peak_pull_n(self) -> float | None:
        peak = self.flow.driver_peak_torque_nm
        if peak is None:
            return None
        return 2000.0 * peak / self.details.layout.driver_pitch_mm / self.details.link.belts

    def _strength(self) -> Iterator[Finding]:
        d, subject = self.details, self.subject
        if d.rating_one_kw <= 0:
            yield judge(checks.NO_RATING, subject, d.rating_one_kw)
        else:
            over_running = self.flow.power_in_kw > d.capacity_kw
            level = Severity.ERROR if over_running else Severity.WARNING
            yield judge(checks.RATING, subject, d.design_power_kw, d.capacity_kw, severity=level)
            yield from self._old_table()
        peak = self._peak_pull_n()
        if peak is not None:
            # a tension set for this very peak meets its limit to the last digit
            within = peak * (1 - 1e-9)
            yield judge_two(
                checks.SLIP, subject, within, slip_pull_n(self.details, dry=False), slip_pull_n(self.details, dry=True)
            )
        if d.set_n is not None:
            yield judge(checks.TENSION, subject, d.set_n * NEARLY, design_tension_n(d))
        if d.link.tensioning == "hinged_plate" and d.plate is None:
            yield state(checks.PLATE_OFF if hinge_of(d.link, d.layout) is not None else checks.PLATE_UNKNOWN, subject)
        yield judge_two(
            checks.SPEED, subject, d.belt_speed_m_per_s, checks.FAST_M_PER_S, self.section.max_speed_m_per_s
        )
        yield judge(checks.SLOW, subject, d.belt_speed_m_per_s)
        if self.section.light:
            yield judge(checks.MANY, subject, float(d.link.belts))

    def _old_table(self) -> Iterator[Finding]:
        d = self.details
        if self.section.estimated:
            yield state(checks.ESTIMATE, self.subject, d.capacity_kw)
        section, place = d.link.section, d.layout
        cautious = rating.cautious_rating_kw(section, place.small_pitch_mm, d.small_speed_rpm, d.belt_speed_m_per_s)
        if cautious is None:
            return
        needed = ceil(d.design_power_kw / (cautious * d.arc_factor * d.length_factor) - 1e-9)
        hard = self.factor.value >= 1.5 or self.sizing.duty.hours_used > 10
        level = Severity.WARNING if hard and self.sizing.duty.hours_per_day is not None else Severity.NOTE
        rule = checks.OLD_RATING if not self.section.cogged and self.section.group == "classical" else checks.CAUTIOUS
        yield judge(rule, self.subject, float(d.link.belts), float(needed), severity=level)

    def _pulleys(self) -> Iterator[Finding]:
        d, subject = self.details, self.subject
        place = d.layout
        small = place.small_outside_mm if self.section.min_is_outside else place.small_pitch_mm
        least = self.section.min_diameter_mm
        yield judge_two(checks.DIAMETER, subject, small, of=least - MEASURED_TO_MM)
        if place.drum:
            yield judge_two(checks.DRUM_WRAP, subject, place.wrap_deg)
            yield judge(checks.DRUM_RATIO, subject, place.reduction)
        else:
            yield judge_two(checks.WRAP, subject, place.wrap_deg)
        if place.drum:
            yield judge(checks.DRUM_MOST, subject, place.reduction)
        else:
            yield judge_two(checks.RATIO, subject, place.reduction)
        length_m = (d.belt.pitch_length_mm if d.belt else place.length_mm) / 1000.0
        wheels = 3 if place.path else 2
        bends = wheels * d.belt_speed_m_per_s / length_m
        yield judge_two(checks.FLEX, subject, bends)
        yield from self._idler(least)

    def _idler(self, min_mm: float) -> Iterator[Finding]:
        link, place = self.details.link, self.details.layout
        if link.idler == "none" or link.idler_diameter_mm is None:
            return
        small = place.small_outside_mm
        wanted = max(1.33 * small, 1.5 * min_mm) if link.idler_on_back else small
        yield judge(checks.IDLER_SIZE, self.subject, link.idler_diameter_mm, wanted)
        if link.idler_on_tight:
            yield state(checks.IDLER_TIGHT, self.subject)

    def _fit(self) -> Iterator[Finding]:
        d, subject = self.details, self.subject
        place = d.layout
        near = max(place.large_pitch_mm, (place.large_pitch_mm + 3 * place.small_pitch_mm) / 2)
        if not place.drum:  # beside a drum the wrap decides, and near a drum is where it is good
            yield judge(checks.CENTER_NEAR, subject, place.center_mm, near)
        yield judge(checks.CENTER_FAR, subject, place.center_mm, of=place.large_pitch_mm + place.small_pitch_mm)
        if d.belt is None:
            yield state(checks.NO_BELT, subject, place.length_mm)
            return
        yield from self._slide(d.belt)

    def _slide(self, belt: tables.Belt) -> Iterator[Finding]:
        link, subject = self.details.link, self.subject
        if link.idler != "none":
            return
        room = tables.allowance(link.section, belt)
        spread = center_spread_mm(link)
        needed = room.fit_mm + room.take_up_mm + spread
        if link.take_up_mm is None:
            yield state(checks.SLIDE_UNKNOWN, subject, needed)
        else:
            level = Severity.ERROR if link.take_up_mm == 0 else Severity.WARNING
            yield judge(checks.SLIDE, subject, link.take_up_mm, needed, severity=level)
        if len(link.steps) > 1:
            spare = (link.take_up_mm or 0.0) - room.fit_mm - room.take_up_mm
            allowed = max(0.003 * belt.pitch_length_mm, spare)
            yield judge(checks.STEPS, subject, spread, allowed)


@lru_cache(maxsize=256)
def center_spread_mm(link: VBelt) -> float:
    """Difference between the widest and the narrowest center distance that the steps ask for [mm]."""
    if link.belt is None:
        return 0.0
    centers = [layout(link, step).center_mm for step in range(1, len(link.steps) + 1)]
    return max(centers) - min(centers)


def figures(details: BeltDetails) -> tuple[Figure, ...]:
    """The numbers of the card, in reading order."""
    place, tension = details.layout, details.tension
    return (
        Figure("wrap", "Wrap", place.wrap_deg, "deg"),
        Figure("ratio", "Ratio", place.driven_pitch_mm / place.driver_pitch_mm, ""),
        Figure("driver_pitch", "Driver pitch diameter", place.driver_pitch_mm, "mm"),
        Figure("driven_pitch", "Driven pitch diameter", place.driven_pitch_mm, "mm"),
        Figure("center", "Center distance", place.center_mm, "mm"),
        Figure("belt_speed", "Belt speed", details.belt_speed_m_per_s, "m/s"),
        Figure("capacity", "Rating, all belts", details.capacity_kw, "kW"),
        Figure("design_power", "Design power", details.design_power_kw, "kW", needs_load=True),
        Figure("belts_needed", "Belts needed", details.belts_needed, "", needs_load=True),
        Figure("creep", "Creep at this load", details.creep, "share", needs_load=True),
        Figure("loss_low", "Loss, perhaps as little as", rating.LOSS_BAND[0] * details.loss_kw, "kW", needs_load=True),
        Figure("loss_high", "or as much as", rating.LOSS_BAND[1] * details.loss_kw, "kW", needs_load=True),
        Figure("tension", "Tension each belt, at rest", tension.static_n, "N", needs_load=True),
        Figure("deflection_force", "Press mid-span with", tension.deflection_force_n, "N", needs_load=True),
        Figure("deflection", "until it gives", tension.deflection_mm, "mm"),
        Figure("frequency", "Strum frequency", tension.frequency_hz, "Hz", needs_load=True),
        *(_life_figures(details.life) if details.life else ()),
        *_plate_figures(details),
        Figure("shaft_load", "Pull on each shaft", tension.shaft_load_n, "N", needs_load=True),
    )


def _plate_figures(details: BeltDetails) -> tuple[Figure, ...]:
    plate, arm = details.plate, details.link.plate_arm_mm
    if plate is None or arm is None:
        return ()
    wanted = plate.mass_kg(design_tension_n(details), arm)
    return (
        Figure("plate_tension", "Tension from the plate, each belt", plate.rest_n, "N"),
        Figure("plate_slip", "Pull at which the belts slip, all", plate.slip_n(plate.ratio), "N"),
        Figure("plate_mass", "Mass that sets the tension wanted", wanted, "kg", needs_load=True),
    )


def _life_figures(life: rating.Life) -> tuple[Figure, ...]:
    how_sure = "at least" if life.passes > rating.MAX_PASSES else "about"
    return (
        Figure(
            "life_passes",
            f"Life as a trend, million passes, {phrase(how_sure)}",
            min(life.passes, rating.MAX_PASSES) / 1e6,
            "",
            True,
        ),
        Figure("life_hours", f"which is {phrase(how_sure)}", life.hours, "h", needs_load=True),
    )
