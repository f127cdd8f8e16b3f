"""A timing belt link: geometry first, then what it carries."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from math import sqrt
from typing import Literal

from pulltide.core import open_belt
from pulltide.core.drawing import LinkPicture, polar
from pulltide.core.findings import Finding, Severity, judge, judge_two, state
from pulltide.core.forces import DENSITY_KG_M3, Disc
from pulltide.core.links.toothed_belt import checks, rating, tables
from pulltide.core.links.toothed_belt.inputs import ToothedBelt
from pulltide.core.observed import Loop, Observed
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
from pulltide.core.two_wheels import LoopTransmission, placed_center
from pulltide.core.units import power_kw, rim_speed_m_per_s, rpm_of_rim, torque_nm

#: Efficiency of a timing belt near its rating. Common practice, no source.
EFFICIENCY = 0.97
#: Static tension over working pull, and the peak a belt takes over its allowable pull. Common practice, no source.
TENSION_SHARE, PEAK_SHARE = 0.7, 1.5
#: Pull on a shaft over effective pull. Common practice, no source.
SHAFT_FACTOR = 1.25
#: Pulley face beyond the belt. Common practice, no source.
PULLEY_WIDER_MM = 3.0
#: What speeding up adds to the service factor, by ratio. Common practice, uncertain.
SPEED_UP = ((1.25, 0.0), (1.75, 0.1), (2.5, 0.2), (3.5, 0.3), (float("inf"), 0.4))


@dataclass(frozen=True, slots=True)
class Layout:
    """Load-independent sizes [mm]; ``fault`` names a belt that cannot be fitted."""

    driver_pitch_mm: float
    driven_pitch_mm: float
    belt_teeth: float
    center_mm: float
    wrap_deg: float
    mesh: int
    fault: Finding | None


def layout(link: ToothedBelt) -> Layout:
    """Sizes of a timing belt link. A belt that does not fit is noted in ``fault``, and drawn just clear."""
    data = tables.profiles()[link.profile]
    driver, driven = (rating.pitch_diameter_mm(data.pitch_mm, n) for n in (link.driver_teeth, link.driven_teeth))
    touching, chosen = (driver + driven) / 2, link.belt_teeth

    def too_short() -> Finding:
        least = open_belt.open_belt_length_mm(driver, driven, touching) / data.pitch_mm
        return judge(checks.TOO_SHORT, "link", float(chosen or 0), least)

    def by_length() -> float:
        return open_belt.center_from_length_mm((chosen or 0) * data.pitch_mm, driver, driven)

    solved = None if chosen is None else by_length
    center, fault = placed_center(touching, link.center_distance_mm, solved, too_short, (checks.TOUCH, "link"))
    small, large = sorted((link.driver_teeth, link.driven_teeth))
    return Layout(
        driver,
        driven,
        open_belt.open_belt_length_mm(driver, driven, center) / data.pitch_mm,
        center,
        open_belt.wrap_small_deg(driver, driven, center),
        rating.teeth_in_mesh(small, large, data.pitch_mm, center),
        fault,
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class BeltDetails:
    """Intermediate figures of a rated belt, for cards and workings."""

    link: ToothedBelt
    data: tables.ProfileData
    layout: Layout
    small_teeth: int
    small_speed_rpm: float
    speed_m_per_s: float
    capacity_kw: float
    allowable_n: float
    design_power_kw: float
    pull_n: float
    peak_pull_n: float | None
    static_n: float


def speed_up_adds(ratio: float) -> float:
    """What a drive that speeds up adds to the service factor; ``ratio`` is driver over driven speed."""
    return next(adds for below, adds in SPEED_UP if 1 / ratio < below) if ratio < 1 else 0.0


def service_factor(sizing: Sizing, ratio: float = 1.0) -> ServiceFactor:
    """Service factor from the belt table; speeding up, reversing and many starts add to it (common practice)."""
    duty = sizing.duty
    if (own := own_factor(duty)) is not None:
        return own
    value = tables.service_factor(duty.shock_used, sizing.high_torque_motor, duty.hours_used)
    hard = 0.1 if duty.reversing or duty.starts_used > 10 else 0.0
    adds = hard + speed_up_adds(ratio)
    note = f"{adds:.1f} added for reversing, many starts or speeding up" if adds else ""
    return ServiceFactor(value + adds, tables.table("service_factor").as_source, note)


class BeltTransmission(LoopTransmission[BeltDetails]):
    """One timing belt link."""

    kind = "toothed_belt"
    link: ToothedBelt
    layout: Layout
    turn: Literal[1] = 1

    def __init__(self, link: ToothedBelt, step: int) -> None:
        self.link = link
        self.step = step
        self.data = tables.profiles()[link.profile]
        self.layout = layout(link)

    @property
    def ratio(self) -> float:
        """Driver over driven speed: driven over driver teeth."""
        return self.link.driven_teeth / self.link.driver_teeth

    def transmit(self, driver_speed_rpm: float, power_out_kw: float) -> Transmitted:
        """No creep; a constant share is lost."""
        return Transmitted(driver_speed_rpm / self.ratio, power_out_kw / (self.link.own_efficiency or EFFICIENCY))

    def picture(self) -> LinkPicture:
        """Two pulleys and the belt between them."""
        place, link = self.layout, self.link
        offset = polar(place.center_mm, link.angle_deg)
        radii = place.driver_pitch_mm / 2, place.driven_pitch_mm / 2
        return LinkPicture("belt", offset, *radii, link.driver_teeth, link.driven_teeth, note="toothed")

    @property
    def play_arcmin(self) -> float:
        """A tight belt has none."""
        return 0.0

    @property
    def discs(self) -> tuple[Disc, ...]:
        """Two pulleys, aluminum as most of this kind are, a little wider than the belt."""
        place, less = self.layout, self.data.outside_less_mm
        face, metal = self.link.width_mm + PULLEY_WIDER_MM, DENSITY_KG_M3["aluminum"]
        return (
            Disc("driver", place.driver_pitch_mm - less, face, metal),
            Disc("driven", place.driven_pitch_mm - less, face, metal),
        )

    @property
    def max_driver_rpm(self) -> float:
        """Speed at which the belt runs as fast as its profile may [rpm]."""
        return rpm_of_rim(self.layout.driver_pitch_mm, self.data.max_speed_m_s)

    def observed(self, result: LinkResult[BeltDetails]) -> Observed:
        """A belt that can be plucked; teeth hold it."""
        place, link = self.layout, self.link
        return Observed(
            loop=Loop(
                belts=1,
                driver_pitch_mm=place.driver_pitch_mm,
                driven_pitch_mm=place.driven_pitch_mm,
                wrap_deg=place.wrap_deg,
                span_mm=sqrt(max(place.center_mm**2 - (place.driven_pitch_mm - place.driver_pitch_mm) ** 2 / 4, 1.0)),
                mass_kg_per_m=self.data.mass_kg_m * link.width_mm / self.data.base_width_mm,
                bending_nm2=0.0,
                static_n=max(result.details.static_n, 1.0),
                known=False,
                wanted_n=result.details.static_n,
            )
        )

    def service_factor(self, sizing: Sizing) -> ServiceFactor:
        """By the belt table; speeding up adds to it."""
        return service_factor(sizing, self.ratio)

    def capacity(self, driver_speed_rpm: float, sizing: Sizing) -> tuple[Bound, ...]:
        """Rating; at the peak, the pull at which teeth jump."""
        link, place = self.link, self.layout
        factor = sizing.multiplier(self.service_factor(sizing).value)
        speed = rim_speed_m_per_s(place.driver_pitch_mm, driver_speed_rpm)
        rated = rating.rating_kw(self.data, link.width_mm, place.mesh, speed)
        jump = PEAK_SHARE * rating.allowable_pull_n(self.data, link.width_mm, place.mesh)
        return (
            Bound("toothed_belt.rating", "sized", torque_nm(rated, driver_speed_rpm) / factor),
            Bound("toothed_belt.jump", "peak", jump * place.driver_pitch_mm / 2000),
        )

    def details(self, load: Loading) -> BeltDetails:
        """Rating and pulls under a load."""
        return self._details(load.flow, power_kw(load.design.chosen_nm, load.flow.driver_speed_rpm))

    def limits(self, result: LinkResult[BeltDetails]) -> Iterator[Limit]:
        """Rating with its margin; pull at the peak against a jump; belt speed."""
        return Inspection(result.details, result.load.subject).limits()

    def findings(self, result: LinkResult[BeltDetails]) -> Iterator[Finding]:
        """Every check, passed ones included."""
        return Inspection(result.details, result.load.subject).findings()

    def figures(self, result: LinkResult[BeltDetails]) -> tuple[Figure, ...]:
        """The numbers of the card, in reading order."""
        return figures(result.details)

    def efficiency_at(self, load: Loading) -> float:
        """Of its kind, or your own."""
        return self.link.own_efficiency or EFFICIENCY

    def pulls_n(self, result: LinkResult[BeltDetails]) -> tuple[float, float]:
        """Running pull with what the tension adds."""
        at_driver = 2000 * result.flow.driver_torque_nm / self.layout.driver_pitch_mm
        return SHAFT_FACTOR * at_driver, SHAFT_FACTOR * result.details.pull_n

    def shafts(self, load: Loading) -> ShaftLimits:
        """A belt pulley, of this size, on the driver."""
        return ShaftLimits(driver_outside_mm=self.layout.driver_pitch_mm - self.data.outside_less_mm, is_belt=True)

    def _details(self, flow: Flow, design_kw: float) -> BeltDetails:
        link, place, data = self.link, self.layout, self.data
        small = min(link.driver_teeth, link.driven_teeth)
        speed = rim_speed_m_per_s(place.driver_pitch_mm, flow.driver_speed_rpm)
        pull = 1000 * flow.power_in_kw / speed
        peak = flow.driver_peak_torque_nm
        return BeltDetails(
            link=link,
            data=data,
            layout=place,
            small_teeth=small,
            small_speed_rpm=flow.driver_speed_rpm * link.driver_teeth / small,
            speed_m_per_s=speed,
            capacity_kw=rating.rating_kw(data, link.width_mm, place.mesh, speed),
            allowable_n=rating.allowable_pull_n(data, link.width_mm, place.mesh),
            design_power_kw=design_kw,
            pull_n=pull,
            peak_pull_n=None if peak is None else 2000 * peak / place.driver_pitch_mm,
            static_n=TENSION_SHARE * 1000 * design_kw / speed,
        )


class Inspection:
    """Runs the checks on one rated timing belt."""

    def __init__(self, details: BeltDetails, subject: str) -> None:
        self.details = details
        self.subject = subject

    def limits(self) -> Iterator[Limit]:
        """Rating with its margin; pull at the peak against a jump; belt speed."""
        d = self.details
        yield Limit("toothed_belt.rating", "belt rating", d.design_power_kw, d.capacity_kw, "kW")
        if d.peak_pull_n is not None:
            yield Limit("toothed_belt.jump", "tooth jump at peak", d.peak_pull_n, PEAK_SHARE * d.allowable_n, "N")
        yield Limit("toothed_belt.speed", "belt speed", d.speed_m_per_s, d.data.max_speed_m_s, "m/s", is_load=False)

    def findings(self) -> Iterator[Finding]:
        """Every check, passed ones included."""
        fault = self.details.layout.fault
        if fault is not None:
            yield replace(fault, subject=self.subject)
            return
        yield from self._strength()
        yield from self._wheels()
        yield from self._fit()
        yield state(checks.NO_FUSE, self.subject)

    def _strength(self) -> Iterator[Finding]:
        d, subject = self.details, self.subject
        level = Severity.ERROR if d.pull_n > d.allowable_n else Severity.WARNING
        yield judge(checks.RATING, subject, d.design_power_kw, d.capacity_kw, severity=level)
        if not d.data.by_standard:
            yield state(checks.ESTIMATE, subject)
        if d.peak_pull_n is None:
            return
        yield judge_two(checks.JUMP, subject, d.peak_pull_n, of=d.allowable_n)
        if d.link.static_tension_n is not None:
            yield judge(checks.SLACK, subject, d.link.static_tension_n, of=d.peak_pull_n)

    def _wheels(self) -> Iterator[Finding]:
        d, subject = self.details, self.subject
        yield judge_two(checks.MESH, subject, float(d.layout.mesh))
        yield judge(checks.LEAST, subject, float(d.small_teeth), d.data.min_teeth_at(d.small_speed_rpm))
        yield judge(checks.SPEED, subject, d.speed_m_per_s, d.data.max_speed_m_s)
        yield judge(checks.WIDE, subject, d.link.width_mm, min(d.layout.driver_pitch_mm, d.layout.driven_pitch_mm))

    def _fit(self) -> Iterator[Finding]:
        d, subject, link = self.details, self.subject, self.details.link
        if link.belt_teeth is None:
            yield state(checks.NO_BELT, subject, d.layout.belt_teeth)
        if link.take_up_mm is None:
            yield state(checks.TAKE_UP_UNKNOWN, subject, checks.TAKE_UP.limits[0] * d.data.pitch_mm)
        else:
            yield judge(checks.TAKE_UP, subject, link.take_up_mm, of=d.data.pitch_mm)


def figures(d: BeltDetails) -> tuple[Figure, ...]:
    """The numbers of the card, in reading order."""
    place, less = d.layout, d.data.outside_less_mm
    return (
        Figure("ratio", "Ratio", d.link.driven_teeth / d.link.driver_teeth, ""),
        Figure("mesh", "Teeth in mesh", float(place.mesh), "teeth"),
        Figure("wrap", "Wrap", place.wrap_deg, "deg"),
        Figure("driver_pitch", "Driver pitch diameter", place.driver_pitch_mm, "mm"),
        Figure("driven_pitch", "Driven pitch diameter", place.driven_pitch_mm, "mm"),
        Figure("driver_outside", "Driver outside diameter", place.driver_pitch_mm - less, "mm"),
        Figure("driven_outside", "Driven outside diameter", place.driven_pitch_mm - less, "mm"),
        Figure("center", "Center distance", place.center_mm, "mm"),
        Figure("length", "Belt length", place.belt_teeth, "teeth"),
        Figure("belt_speed", "Belt speed", d.speed_m_per_s, "m/s"),
        Figure("capacity", "Rating", d.capacity_kw, "kW"),
        Figure("design_power", "Design power", d.design_power_kw, "kW", needs_load=True),
        Figure("pull", "Running pull", d.pull_n, "N", needs_load=True),
        Figure("tension", "Tension to set, one strand", d.static_n, "N", needs_load=True),
    )
