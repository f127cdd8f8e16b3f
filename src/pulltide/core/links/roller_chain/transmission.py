"""A roller chain link: geometry first, then what it carries."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from math import pi, sqrt
from typing import Literal

from pulltide.core.drawing import LinkPicture, polar
from pulltide.core.elasticity import CHAIN_EA, loop_nm_rad
from pulltide.core.findings import Finding, Severity, judge, judge_two, state
from pulltide.core.forces import Disc, ShaftForce, strand_forces
from pulltide.core.links.roller_chain import checks, geometry, tables
from pulltide.core.links.roller_chain.inputs import RollerChain
from pulltide.core.links.roller_chain.rating import Rating, rating, sag_pull_n, worn_percent
from pulltide.core.observed import USUAL_SAG, Chain, Observed
from pulltide.core.transmission import (
    Bound,
    Figure,
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
from pulltide.core.units import M_PER_S_PER_FT_PER_MIN, power_kw, torque_nm

#: Efficiency of one clean oiled stage, and of one that runs dry or dirty. Common practice, no source.
OILED_EFFICIENCY = 0.97
DRY_EFFICIENCY = 0.95
#: Share of the strength left at an offset link. Common practice, no source.
OFFSET_SHARE = 0.7
#: Share of the rating left without oil, below 1.5 m/s. Common practice, no source.
DRY_SHARE = 0.3
STALL_SAFETY_WANTED = 3.0
#: Overhung load counted heavier on so few teeth. Common practice, no source.
FEW_TEETH, FEW_TEETH_FACTOR = 17, 1.25
#: Width of a sprocket over pitch, each strand. Common practice, no source: 0.58 for most sizes.
TOOTH_SHARE = 0.6


@dataclass(frozen=True, slots=True, kw_only=True)
class Layout:
    """Load-independent sizes [mm, degrees]; ``fault`` names a chain that cannot be fitted."""

    driver_pitch_mm: float
    driven_pitch_mm: float
    driver_outside_mm: float
    driven_outside_mm: float
    pitches: float
    center_mm: float
    wrap_deg: float
    fault: Finding | None
    chordal_lever_mm: float = 0.0


def layout(link: RollerChain) -> Layout:
    """Sizes of a chain link. A chain that does not fit is noted in ``fault``, and drawn just clear."""
    pitch = tables.sizes()[link.chain].pitch_mm
    teeth = (link.driver_teeth, link.driven_teeth)
    outsides = [geometry.outside_diameter_mm(pitch, count) for count in teeth]
    touching, chosen = sum(outsides) / 2, link.pitches

    def too_short() -> Finding:
        least = geometry.exact_length_pitches(touching / pitch, *teeth)
        return judge(checks.TOO_SHORT, "link", float(chosen or 0), least)

    by_length = None if chosen is None else lambda: geometry.center_pitches(chosen, *teeth) * pitch
    center, fault = placed_center(touching, link.center_distance_mm, by_length, too_short, (checks.TOUCH, "link"))
    return Layout(
        driver_pitch_mm=geometry.pitch_diameter_mm(pitch, teeth[0]),
        driven_pitch_mm=geometry.pitch_diameter_mm(pitch, teeth[1]),
        driver_outside_mm=outsides[0],
        driven_outside_mm=outsides[1],
        pitches=geometry.exact_length_pitches(center / pitch, *teeth),
        center_mm=center,
        wrap_deg=geometry.wrap_small_deg(pitch, teeth, center),
        fault=fault,
        chordal_lever_mm=teeth[0] * pitch / (2 * pi),
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class ChainDetails:
    """Intermediate figures of a rated chain, for cards and workings."""

    link: RollerChain
    size: tables.ChainSize
    layout: Layout
    small_teeth: int
    small_speed_rpm: float
    speed_m_per_s: float
    rating: Rating
    strand_factor: float
    capacity_kw: float
    design_power_kw: float
    pull_n: float
    strand_pull_n: float
    static_safety: float

    @property
    def worn_percent(self) -> float:
        """Stretch at which the chain is done [%]."""
        return worn_percent(max(self.link.driver_teeth, self.link.driven_teeth), self.link.take_up_mm == 0)

    @property
    def worn_travel_mm(self) -> float:
        """Center travel that takes up that stretch [mm]: about half of what the chain grows by."""
        return self.worn_percent / 100 * self.layout.pitches * self.size.pitch_mm / 2


def service_factor(sizing: Sizing) -> ServiceFactor:
    """Service factor from the chain table; a reversing load counts as heavy (common practice)."""
    duty = sizing.duty
    if (own := own_factor(duty)) is not None:
        return own
    shock = "heavy" if duty.reversing else duty.shock_used
    note = "reversing counted as heavy shock" if duty.reversing else "the chain table has no hours"
    value = tables.service_factor(shock, sizing.engine_driven)
    return ServiceFactor(value, tables.table("service_factor").as_source, note)


@dataclass(frozen=True, slots=True)
class Strength:
    """What a chain can do at a speed, whatever its load."""

    small_speed_rpm: float
    speed_m_per_s: float
    rating: Rating
    capacity_kw: float
    own_n: float
    strength_n: float


class ChainTransmission(LoopTransmission[ChainDetails]):
    """One roller chain link."""

    kind = "roller_chain"
    link: RollerChain
    layout: Layout
    turn: Literal[1] = 1

    def __init__(self, link: RollerChain, step: int) -> None:
        self.link = link
        self.step = step
        self.size = tables.sizes()[link.chain]
        self.layout = layout(link)
        self.small_teeth = min(link.driver_teeth, link.driven_teeth)

    @property
    def ratio(self) -> float:
        """Driver over driven speed: driven over driver teeth."""
        return self.link.driven_teeth / self.link.driver_teeth

    @property
    def _efficiency(self) -> float:
        return self.link.own_efficiency or (OILED_EFFICIENCY if self.link.oiled else DRY_EFFICIENCY)

    def transmit(self, driver_speed_rpm: float, power_out_kw: float) -> Transmitted:
        """No creep; a constant share is lost."""
        return Transmitted(driver_speed_rpm / self.ratio, power_out_kw / self._efficiency)

    def picture(self) -> LinkPicture:
        """Two sprockets and the chain between them."""
        place = self.layout
        return LinkPicture(
            "chain",
            polar(place.center_mm, self.link.angle_deg),
            place.driver_pitch_mm / 2,
            place.driven_pitch_mm / 2,
            self.link.driver_teeth,
            self.link.driven_teeth,
            over_mm=self.size.plate_height_mm / 2,
        )

    @property
    def discs(self) -> tuple[Disc, ...]:
        """Two steel sprockets, a strand as wide as a tooth and the next a transverse pitch on; about 0.6 p a strand."""
        face = TOOTH_SHARE * self.size.pitch_mm * self.link.strands
        place = self.layout
        return (Disc("driver", place.driver_pitch_mm, face), Disc("driven", place.driven_pitch_mm, face))

    @property
    def stiffness_nm_rad(self) -> float:
        """By its strength; the slack strand hangs: half of both."""
        place, strength = self.layout, self.size.ultimate_strength_n * self.link.strands
        return loop_nm_rad(CHAIN_EA * strength, place.center_mm, (place.driver_pitch_mm, place.driven_pitch_mm)) / 2

    @property
    def slack_rad(self) -> float:
        """What a strand hanging by 2 % of its span is longer than straight, 8 s² / (3 t). Source: flat parabola."""
        return 8 / 3 * USUAL_SAG**2 * self.layout.center_mm / (self.layout.driver_pitch_mm / 2)

    def observed(self, result: LinkResult[ChainDetails]) -> Observed:
        """A chain that wears and hangs."""
        place = self.layout
        span = sqrt(max(place.center_mm**2 - ((place.driven_pitch_mm - place.driver_pitch_mm) / 2) ** 2, 1.0))
        return Observed(chain=Chain(result.details.size.pitch_mm, span, result.details.worn_percent))

    def service_factor(self, sizing: Sizing) -> ServiceFactor:
        """By the chain table."""
        return service_factor(sizing)

    def capacity(self, driver_speed_rpm: float, sizing: Sizing) -> tuple[Bound, ...]:
        """Rating of all strands; pull against strength, less what the chain's own weight and speed take."""
        factor = sizing.multiplier(self.service_factor(sizing).value)
        known = self._strength(driver_speed_rpm)
        pull = known.strength_n / checks.SAFETY.limits[0] - known.own_n
        rated = torque_nm(known.capacity_kw, driver_speed_rpm) / factor
        broken = max(pull, 0.0) * self.layout.chordal_lever_mm / 1000 / factor
        return Bound("roller_chain.rating", "sized", rated), Bound("roller_chain.static_safety", "sized", broken)

    def details(self, load: Loading) -> ChainDetails:
        """Rating, pull and safety under a load."""
        flow = load.flow
        known = self._strength(flow.driver_speed_rpm)
        design_kw = power_kw(load.design.chosen_nm, flow.driver_speed_rpm)
        pulled = 1000.0 * design_kw / known.speed_m_per_s + known.own_n
        return ChainDetails(
            link=self.link,
            size=self.size,
            layout=self.layout,
            small_teeth=self.small_teeth,
            small_speed_rpm=known.small_speed_rpm,
            speed_m_per_s=known.speed_m_per_s,
            rating=known.rating,
            strand_factor=tables.strand_factor(self.link.strands),
            capacity_kw=known.capacity_kw,
            design_power_kw=design_kw,
            pull_n=1000.0 * flow.power_in_kw / known.speed_m_per_s,
            strand_pull_n=pulled,
            static_safety=known.strength_n / pulled,
        )

    def _strength(self, driver_speed_rpm: float) -> Strength:
        link = self.link
        small_speed = driver_speed_rpm * link.driver_teeth / self.small_teeth
        speed = link.driver_teeth * self.size.pitch_mm * driver_speed_rpm / 60_000.0
        one = rating(self.size, self.small_teeth, small_speed)
        odd = OFFSET_SHARE if link.pitches is not None and link.pitches % 2 == 1 else 1.0
        mass = self.size.mass_kg_per_m * link.strands
        return Strength(
            small_speed,
            speed,
            one,
            one.min_kw * tables.strand_factor(link.strands) * odd * (1.0 if link.oiled else DRY_SHARE),
            mass * speed**2 + sag_pull_n(mass, self.layout.center_mm),
            self.size.ultimate_strength_n * link.strands * odd,
        )

    def limits(self, result: LinkResult[ChainDetails]) -> Iterator[Limit]:
        """Rating with its margin; static safety."""
        return Inspection(result).limits()

    def findings(self, result: LinkResult[ChainDetails]) -> Iterator[Finding]:
        """Every check, passed ones included."""
        return Inspection(result).findings()

    def figures(self, result: LinkResult[ChainDetails]) -> tuple[Figure, ...]:
        """The numbers of the card, in reading order."""
        return figures(result.details)

    def efficiency_at(self, load: Loading) -> float:
        """Oiled or dry, or your own."""
        return self._efficiency

    def pulls_n(self, result: LinkResult[ChainDetails]) -> tuple[float, float]:
        """Design pull, more on few teeth."""
        d, place = result.details, self.layout
        factor = FEW_TEETH_FACTOR if self.small_teeth < FEW_TEETH else 1.0
        at_driver = 2000 * result.design.chosen_nm / place.driver_pitch_mm
        return at_driver * factor, 1000.0 * d.design_power_kw / d.speed_m_per_s * factor

    def shafts(self, load: Loading) -> ShaftLimits:
        """Greatest bores, and the size of the driver."""
        pitch, link = self.size.pitch_mm, self.link
        return ShaftLimits(
            driver_bore_max_mm=geometry.greatest_bore_mm(pitch, link.driver_teeth),
            driven_bore_max_mm=geometry.greatest_bore_mm(pitch, link.driven_teeth),
            driver_outside_mm=self.layout.driver_outside_mm,
        )

    def forces(self, result: LinkResult[ChainDetails]) -> tuple[ShaftForce, ShaftForce]:
        """Each shaft is pulled toward the other by the tight strand."""
        pull = result.details.pull_n
        return strand_forces(pull, pull, self.link.angle_deg)


#: Slow range, where pull against strength decides, and the least safety anywhere. Common practice, no source.
SLOW_M_PER_S, SLOW_RPM, MIN_SAFETY = 0.25, 50.0, 5.0


class Inspection:
    """Runs the checks on one rated chain link."""

    def __init__(self, result: LinkResult[ChainDetails]) -> None:
        self.details = result.details
        self.flow = result.flow
        self.subject = result.load.subject

    def limits(self) -> Iterator[Limit]:
        """Rating with its margin; static safety."""
        d = self.details
        yield Limit("roller_chain.rating", d.rating.governed_by, d.design_power_kw, d.capacity_kw, "kW")
        yield Limit(
            "roller_chain.static_safety",
            "pull against strength",
            d.strand_pull_n,
            d.strand_pull_n * d.static_safety / checks.SAFETY.limits[0],
            "N",
        )

    def findings(self) -> Iterator[Finding]:
        """Every check, passed ones included."""
        fault = self.details.layout.fault
        if fault is not None:
            yield replace(fault, subject=self.subject)
            return
        yield from self._strength()
        yield from self._wheels()
        yield from self._fit()
        yield from self._oil()

    def _strength(self) -> Iterator[Finding]:
        d, subject = self.details, self.subject
        level = Severity.ERROR if self.flow.power_in_kw > d.capacity_kw else Severity.WARNING
        yield judge(checks.RATING, subject, d.design_power_kw, d.capacity_kw, severity=level)
        if d.link.chain.endswith("B"):
            yield state(checks.B_SERIES, subject)
        slow = d.speed_m_per_s <= SLOW_M_PER_S or d.small_speed_rpm <= SLOW_RPM
        decides = Severity.ERROR if slow or d.static_safety < MIN_SAFETY else Severity.WARNING
        yield judge(checks.SAFETY, subject, d.static_safety, severity=decides)

    def _wheels(self) -> Iterator[Finding]:
        d, subject = self.details, self.subject
        yield judge(checks.TEETH, subject, float(d.small_teeth))
        fewest = checks.FEWEST if d.small_speed_rpm > SLOW_RPM else checks.FEWEST_SLOW
        yield judge(fewest, subject, float(d.small_teeth))
        larger, smaller = max(d.link.driver_teeth, d.link.driven_teeth), d.small_teeth
        yield judge(checks.RATIO, subject, larger / smaller)
        yield judge_two(checks.WRAP, subject, d.layout.wrap_deg)

    def _fit(self) -> Iterator[Finding]:
        d, subject, link = self.details, self.subject, self.details.link
        center = d.layout.center_mm / d.size.pitch_mm
        yield judge(checks.CENTER_NEAR, subject, center)
        yield judge(checks.CENTER_FAR, subject, center)
        yield judge(checks.STEEP, subject, abs(link.angle_deg))
        if link.pitches is None:
            yield state(checks.NO_LENGTH, subject, d.layout.pitches)
        elif link.pitches % 2 == 1:
            rule = checks.ODD_ACCEPTED if link.offset_link else checks.ODD
            yield judge(rule, subject, OFFSET_SHARE, 1.0)
        else:
            yield judge(checks.ODD, subject, 1.0)
        if link.stretch_percent is not None:
            yield judge_two(checks.WORN, subject, link.stretch_percent, of=d.worn_percent)
        if link.take_up_mm is None:
            yield state(checks.TAKE_UP_UNKNOWN, subject, checks.TAKE_UP.limits[0] * d.size.pitch_mm)
        else:
            yield judge(checks.TAKE_UP, subject, link.take_up_mm, of=d.size.pitch_mm)

    def _oil(self) -> Iterator[Finding]:
        d, subject = self.details, self.subject
        if not d.link.oiled:
            yield judge(checks.DRY, subject, d.speed_m_per_s)
        hand = d.size.lube_a_max_ft_min * M_PER_S_PER_FT_PER_MIN
        yield judge(checks.LUBRICATION, subject, d.speed_m_per_s, hand)


def figures(details: ChainDetails) -> tuple[Figure, ...]:
    """The numbers of the card, in reading order."""
    place = details.layout
    return (
        Figure("wrap", "Wrap", place.wrap_deg, "deg"),
        Figure("ratio", "Ratio", details.link.driven_teeth / details.link.driver_teeth, ""),
        Figure("driver_pitch", "Driver pitch diameter", place.driver_pitch_mm, "mm"),
        Figure("driven_pitch", "Driven pitch diameter", place.driven_pitch_mm, "mm"),
        Figure("center", "Center distance", place.center_mm, "mm"),
        Figure("length", "Chain length", place.pitches, "links"),
        Figure("chain_speed", "Chain speed", details.speed_m_per_s, "m/s"),
        Figure("capacity", "Rating, all strands", details.capacity_kw, "kW"),
        Figure("design_power", "Design power", details.design_power_kw, "kW", needs_load=True),
        Figure("pull", "Running pull", details.pull_n, "N", needs_load=True),
        Figure("static_safety", "Safety against breaking", details.static_safety, "", needs_load=True),
        Figure("worn", "Done when stretched by, per cent", details.worn_percent, ""),
        Figure("worn_travel", "Center travel by then", details.worn_travel_mm, "mm"),
        Figure("chordal", "Speed variation of the links", geometry.chordal_variation(details.small_teeth), "share"),
    )
