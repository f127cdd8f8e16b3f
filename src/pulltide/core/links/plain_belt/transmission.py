"""A flat or round belt under a load: geometry first, then what it carries."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import asin, cos, degrees, exp, hypot, pi, radians, sqrt
from typing import Literal

from pulltide.core.belt_path import Round
from pulltide.core.drawing import LinkPicture, polar
from pulltide.core.findings import Finding, Severity, judge, state
from pulltide.core.forces import DENSITY_KG_M3, Disc
from pulltide.core.links.plain_belt import checks, tables
from pulltide.core.links.plain_belt.inputs import PlainBelt
from pulltide.core.observed import Loop, Observed
from pulltide.core.transmission import (
    Bound,
    Figure,
    Flow,
    Limit,
    LinkResult,
    Loading,
    ServiceFactor,
    Sizing,
    Transmitted,
    own_factor,
)
from pulltide.core.two_wheels import BARELY, LoopTransmission, just_clear_mm
from pulltide.core.units import rim_speed_m_per_s, rpm_of_rim

#: Share left by bending and bearings: flat open, flat crossed, round. Common practice, no source.
OPEN_KEPT, CROSSED_KEPT, ROUND_KEPT = 0.975, 0.955, 0.95
#: Speed lost at the allowed pull, flat and round. Common practice, no source: 1 to 2 %.
FLAT_CREEP, ROUND_CREEP, MAX_CREEP = 0.01, 0.02, 0.05
#: Pulley face over belt width. Common practice, no source.
FACE_SHARE = 1.1


@dataclass(frozen=True, slots=True)
class Layout:
    """Load-independent sizes; ``fault`` names pulleys that touch."""

    center_mm: float
    length_mm: float
    wrap_deg: float
    fault: Finding | None


def layout(link: PlainBelt) -> Layout:
    """Length and least wrap of an open or crossed belt; pulleys that touch are drawn just clear. Source: exact."""
    d, large = sorted((link.driver_diameter_mm, link.driven_diameter_mm))
    touching = (d + large) / 2

    center, fault = link.center_distance_mm, None
    if center <= touching:
        fault = judge(checks.TOUCH, "link", center, touching * BARELY)
        center = just_clear_mm(center, touching)
    if link.runs == "crossed":
        beta = asin((d + large) / (2 * center))
        return Layout(center, 2 * center * cos(beta) + (d + large) * (pi / 2 + beta), 180 + 2 * degrees(beta), fault)
    gamma = asin((large - d) / (2 * center))
    length = 2 * center * cos(gamma) + pi * (large + d) / 2 + gamma * (large - d)
    return Layout(center, length, 180 - 2 * degrees(gamma), fault)


@dataclass(frozen=True, slots=True, kw_only=True)
class BeltDetails:
    """Intermediate figures of a rated belt, for cards and workings. Forces are those of all belts [N]."""

    link: PlainBelt
    data: tables.BeltData
    layout: Layout
    small_mm: float
    speed_m_per_s: float
    mass_kg_per_m: float
    centrifugal_n: float
    tension_ratio: float
    pulley_share: float
    allowed_n: float
    capacity_n: float
    pull_n: float
    design_pull_n: float
    peak_pull_n: float | None
    to_set_n: float

    @property
    def slip_n(self) -> float | None:
        """Pull at which it slips at the tension set [N]: 2 (T - T_c)(R - 1)/(R + 1); None where none is entered."""
        most = self.max_n
        return None if most is None else most * (self.tension_ratio - 1) / (self.tension_ratio + 1)

    @property
    def max_n(self) -> float | None:
        """Pull that no friction passes on at the tension set [N]: 2 (T - T_c), where the slack side hangs loose."""
        if self.link.static_tension_n is None:
            return None
        return 2 * max(self.link.belts * self.link.static_tension_n - self.centrifugal_n, 0.0)


def service_factor(sizing: Sizing) -> ServiceFactor:
    """Service factor by shock and source."""
    if (own := own_factor(sizing.duty)) is not None:
        return own
    value = tables.service_factor(sizing.duty.shock_used, sizing.high_torque_motor)
    return ServiceFactor(value, tables.table("service_factor").as_source)


class BeltTransmission(LoopTransmission[BeltDetails]):
    """One flat or round belt."""

    kind = "plain_belt"
    link: PlainBelt
    layout: Layout
    noise = "quiet"

    def __init__(self, link: PlainBelt, step: int) -> None:
        self.link = link
        self.step = step
        self.data = tables.belts()[link.belt]
        self.layout = layout(link)
        self.small_mm = min(link.driver_diameter_mm, link.driven_diameter_mm)
        self.tension_ratio = exp(self.data.friction * radians(self.layout.wrap_deg))
        self.pulley_share = self.data.pulley_share(self.small_mm)
        width = 1.0 if self.data.is_round else link.width_mm
        self.allowed_n = self.data.allowed_n * width * link.belts * self.pulley_share
        self.mass_kg_per_m = self.data.mass_kg_per_m(link.width_mm) * link.belts

    @property
    def turn(self) -> Literal[1, -1]:
        """A crossed belt turns its driven shaft the other way."""
        return -1 if self.link.runs == "crossed" else 1

    @property
    def ratio(self) -> float:
        """Driver over driven speed, creep left out."""
        return self.link.driven_diameter_mm / self.link.driver_diameter_mm

    @property
    def kept(self) -> float:
        """Share of the power that bending leaves."""
        if self.data.is_round:
            return ROUND_KEPT
        return CROSSED_KEPT if self.link.runs == "crossed" else OPEN_KEPT

    def creep(self, speed_m_per_s: float, power_out_kw: float) -> float:
        """Share of the speed lost by stretch, in step with the pull."""
        pull = 1000 * power_out_kw / speed_m_per_s if speed_m_per_s > 0 else 0.0
        most = ROUND_CREEP if self.data.is_round else FLAT_CREEP
        return min(most * pull / self.allowed_n, MAX_CREEP)

    def transmit(self, driver_speed_rpm: float, power_out_kw: float) -> Transmitted:
        """Speed after creep, and the power that goes in."""
        creep = self.creep(rim_speed_m_per_s(self.link.driver_diameter_mm, driver_speed_rpm), power_out_kw)
        kept = self.link.own_efficiency or self.kept * (1 - creep)
        return Transmitted(driver_speed_rpm / self.ratio * (1 - creep), power_out_kw / kept)

    def picture(self) -> LinkPicture:
        """Two pulleys and the belt, its strands crossed where it is."""
        link = self.link
        offset = polar(self.layout.center_mm, link.angle_deg)
        radii = link.driver_diameter_mm / 2, link.driven_diameter_mm / 2
        crossed = link.runs == "crossed" and hypot(*offset) > sum(radii)
        path = (Round(0.0, 0.0, radii[0]), Round(*offset, radii[1], True)) if crossed else ()
        return LinkPicture("belt", offset, *radii, path=path, over_mm=self.data.size_mm)

    @property
    def discs(self) -> tuple[Disc, ...]:
        """Two pulleys of cast iron, a little wider than the belt."""
        link, iron = self.link, DENSITY_KG_M3["iron"]
        face = FACE_SHARE * link.belts * (self.data.size_mm if self.data.is_round else link.width_mm)
        return Disc("driver", link.driver_diameter_mm, face, iron), Disc("driven", link.driven_diameter_mm, face, iron)

    @property
    def max_driver_rpm(self) -> float:
        """Speed at which the belt runs as fast as it may [rpm]."""
        return rpm_of_rim(self.link.driver_diameter_mm, checks.SPEED.limits[0])

    def observed(self, result: LinkResult[BeltDetails]) -> Observed:
        """A belt that can be plucked, and slips."""
        link, d, place = self.link, result.details, self.layout
        across = link.driven_diameter_mm - self.turn * link.driver_diameter_mm
        return Observed(
            loop=Loop(
                belts=link.belts,
                driver_pitch_mm=link.driver_diameter_mm,
                driven_pitch_mm=link.driven_diameter_mm,
                wrap_deg=place.wrap_deg,
                span_mm=sqrt(max(place.center_mm**2 - across**2 / 4, 1.0)),
                mass_kg_per_m=self.mass_kg_per_m / link.belts,
                bending_nm2=0.0,
                static_n=max(link.static_tension_n or d.to_set_n, 1.0),
                known=link.static_tension_n is not None,
                wanted_n=d.to_set_n,
                creep=ROUND_CREEP if self.data.is_round else FLAT_CREEP,
                creep_pull_n=self.allowed_n,
                friction=self.data.friction,
            )
        )

    def service_factor(self, sizing: Sizing) -> ServiceFactor:
        """By shock and source."""
        return service_factor(sizing)

    def capacity(self, driver_speed_rpm: float, sizing: Sizing) -> tuple[Bound, ...]:
        """Pull that the belts can transmit at a speed."""
        pull = self._capacity_n(rim_speed_m_per_s(self.link.driver_diameter_mm, driver_speed_rpm))
        factor = sizing.multiplier(self.service_factor(sizing).value)
        return (Bound("plain_belt.pull", "sized", pull * self.link.driver_diameter_mm / 2000 / factor),)

    def _capacity_n(self, speed_m_per_s: float) -> float:
        thrown = self.mass_kg_per_m * speed_m_per_s**2
        return max((self.allowed_n - thrown) * (1 - 1 / self.tension_ratio), 1e-6)

    def details(self, load: Loading) -> BeltDetails:
        """Pulls and tension under a load."""
        return self._details(load.flow, load.design.chosen_nm)

    def limits(self, result: LinkResult[BeltDetails]) -> Iterator[Limit]:
        """Pull with its margin; belt speed."""
        d = result.details
        yield Limit("plain_belt.pull", "belt pull", d.design_pull_n, d.capacity_n, "N")
        fastest = checks.SPEED.limits[0]
        yield Limit("plain_belt.speed", "belt speed", d.speed_m_per_s, fastest, "m/s", is_load=False)

    def findings(self, result: LinkResult[BeltDetails]) -> Iterator[Finding]:
        """Every check, passed ones included."""
        return _findings(result.details, result.load.subject)

    def figures(self, result: LinkResult[BeltDetails]) -> tuple[Figure, ...]:
        """The numbers of the card, in reading order."""
        return _figures(result.details, self.ratio)

    def efficiency_at(self, load: Loading) -> float:
        """Power out over power in; without a load what is kept of a load."""
        flow = load.flow
        return flow.power_out_kw / flow.power_in_kw if flow.power_in_kw else self.kept

    def pulls_n(self, result: LinkResult[BeltDetails]) -> tuple[float, float]:
        """Both strands at the tension to set, on both shafts."""
        pull = 2 * result.details.to_set_n * self.link.belts
        return pull, pull

    def _details(self, flow: Flow, design_nm: float) -> BeltDetails:
        link = self.link
        speed = rim_speed_m_per_s(link.driver_diameter_mm, flow.driver_speed_rpm)
        thrown = self.mass_kg_per_m * speed**2
        ratio = self.tension_ratio
        per_nm = 2000 / link.driver_diameter_mm
        design_pull = design_nm * per_nm
        peak = None if flow.driver_peak_torque_nm is None else flow.driver_peak_torque_nm * per_nm
        hardest = max(design_pull, peak or 0.0)
        return BeltDetails(
            link=link,
            data=self.data,
            layout=self.layout,
            small_mm=self.small_mm,
            speed_m_per_s=speed,
            mass_kg_per_m=self.mass_kg_per_m,
            centrifugal_n=thrown,
            tension_ratio=ratio,
            pulley_share=self.pulley_share,
            allowed_n=self.allowed_n,
            capacity_n=self._capacity_n(speed),
            pull_n=flow.driver_torque_nm * per_nm,
            design_pull_n=design_pull,
            peak_pull_n=peak,
            to_set_n=(hardest * (ratio + 1) / (2 * (ratio - 1)) + thrown) / link.belts,
        )


def _findings(d: BeltDetails, subject: str) -> Iterator[Finding]:
    link = d.link
    if d.layout.fault is not None:
        yield judge(checks.TOUCH, subject, d.layout.fault.measured or 0.0, d.layout.fault.limit or 0.0)
        return
    level = Severity.ERROR if d.pull_n > d.capacity_n else Severity.WARNING
    yield judge(checks.PULL, subject, d.design_pull_n, d.capacity_n, severity=level)
    if d.slip_n is None:
        yield state(checks.UNSET, subject, d.to_set_n)
    else:
        tight = link.belts * (link.static_tension_n or 0.0) + d.pull_n / 2
        yield judge(checks.TIGHT, subject, tight, d.allowed_n)
        if d.peak_pull_n is not None:
            yield judge(checks.SLIP, subject, d.peak_pull_n, d.slip_n)
    yield judge(checks.LEAST, subject, d.small_mm, d.data.min_pulley_mm)
    yield judge(checks.WRAP, subject, d.layout.wrap_deg)
    yield judge(checks.SPEED, subject, d.speed_m_per_s)
    if link.runs == "crossed" and not d.data.is_round:
        yield judge(checks.CROSSED, subject, d.layout.center_mm, of=link.width_mm)


def _figures(d: BeltDetails, ratio: float) -> tuple[Figure, ...]:
    return (
        Figure("ratio", "Ratio", ratio, ""),
        Figure("center", "Center distance", d.layout.center_mm, "mm"),
        Figure("length", "Belt length", d.layout.length_mm, "mm"),
        Figure("wrap", "Wrap of the small pulley", d.layout.wrap_deg, "deg"),
        Figure("belt_speed", "Belt speed", d.speed_m_per_s, "m/s"),
        Figure("tension_ratio", "Tight over slack, most", d.tension_ratio, ""),
        Figure("allowed", "Allowed in the tight side", d.allowed_n, "N"),
        Figure("capacity", "Pull it can transmit", d.capacity_n, "N"),
        Figure("pull", "Pull, running", d.pull_n, "N", needs_load=True),
        Figure("design_pull", "Design pull", d.design_pull_n, "N", needs_load=True),
        Figure("to_set", "Tension to set, each belt", d.to_set_n, "N", needs_load=True),
    )
