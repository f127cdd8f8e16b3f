"""A pair of spur gears: geometry first, then what bending and wear allow."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import gcd, inf, pi, radians, tan

from pulltide.core.drawing import LinkPicture, polar
from pulltide.core.family import (
    Carried,
    Figure,
    Flow,
    Limit,
    LinkResult,
    ServiceFactor,
    ShaftLimits,
    Sizing,
    Turn,
    design_torque,
    own_factor,
)
from pulltide.core.findings import Finding, Severity, judge, judge_two, state
from pulltide.core.links.gear_pair import checks, geometry, rating, tables
from pulltide.core.links.gear_pair.inputs import GearPair
from pulltide.core.units import rim_speed_m_per_s

#: Efficiency of one mesh by how it runs; cast or worn teeth lose more. Common practice, no source.
EFFICIENCY = {"enclosed, oiled": 0.985, "open, greased": 0.96, "open, dirty": 0.93}
CAST_EFFICIENCY = 0.90
#: What dirt adds to the overload factor, and the pull on a shaft over the tooth force. Common practice, no source.
DIRT_ADDS, SHAFT_FACTOR = 0.25, 1.25
#: What a tooth bears for a moment over its lasting bending force. Common practice, no source.
MOMENT_SHARE = 2.0
PLASTICS = ("acetal or nylon", "printed PLA or PETG", "printed nylon")


@dataclass(frozen=True, slots=True)
class Strength:
    """What one gear of the pair bears at the pitch line [N]; wear is None where no hardness rates it."""

    teeth: int
    material: tables.MaterialData
    bending_mpa: float
    geometry_factor: float
    size_factor: float
    bending_n: float
    contact_mpa: float | None
    lewis_n: float


@dataclass(frozen=True, slots=True)
class GearDetails:
    """Intermediate figures of a rated pair, for cards and workings."""

    link: GearPair
    driver_mm: float
    driven_mm: float
    centre_mm: float
    contact_ratio: float
    backlash_mm: float
    speed_m_per_s: float
    dynamic_factor: float
    face_factor: float
    contact_shape: float
    elastic: float
    pinion: Strength
    gear: Strength
    bending_n: float
    wear_n: float | None
    force_n: float
    design_force_n: float
    stall_force_n: float | None
    overload_factor: float

    @property
    def pinion_mm(self) -> float:
        """Pitch diameter of the pinion [mm]."""
        return min(self.driver_mm, self.driven_mm)


def service_factor(sizing: Sizing, running: str = "open, greased") -> ServiceFactor:
    """Overload factor Ko in place of a service factor, never with one; dirt adds 0.25."""
    if (own := own_factor(sizing.duty)) is not None:
        return own
    dirt = DIRT_ADDS if running == "open, dirty" else 0.0
    value = tables.overload_factor(sizing.duty.shock_used, sizing.prime_mover) + dirt
    note = "the overload factor stands for a service factor" + ("; 0.25 added for dirt" if dirt else "")
    return ServiceFactor(value, tables.table("overload_factor").as_source, note)


class GearTransmission:
    """One pair of spur gears."""

    def __init__(self, link: GearPair, step: int) -> None:
        self.link = link
        self.step = step
        self.driver_mm = link.module * link.driver_teeth
        self.driven_mm = link.module * link.driven_teeth
        internal = link.mesh == "internal"
        self.centre_mm = geometry.centre_mm(link.module, link.small_teeth, link.large_teeth, internal) + link.spread_mm

    @property
    def ratio(self) -> float:
        """Driver over driven speed: driven over driver teeth."""
        return self.link.driven_teeth / self.link.driver_teeth

    @property
    def turn(self) -> Turn:
        """An external mesh reverses, a gear inside a ring does not."""
        return -1 if self.link.mesh == "external" else 1

    @property
    def _efficiency(self) -> float:
        return min(EFFICIENCY[self.link.running], CAST_EFFICIENCY if self.link.made == "cast" else 1.0)

    def carry(self, driver_speed_rpm: float, power_out_kw: float) -> Carried:
        """No slip; a constant share is lost."""
        return Carried(driver_speed_rpm / self.ratio, power_out_kw / self._efficiency)

    def picture(self) -> LinkPicture:
        """Two pitch circles that touch."""
        link = self.link
        offset = polar(self.centre_mm, link.angle_deg)
        return LinkPicture("gear", offset, self.driver_mm / 2, self.driven_mm / 2, link.driver_teeth, link.driven_teeth)

    def rate(self, flow: Flow, sizing: Sizing, subject: str) -> LinkResult:
        """Limits, findings and figures of the pair under a load."""
        factor = service_factor(sizing, self.link.running)
        design = design_torque(flow, sizing, factor.value)
        details = self._details(flow, design.chosen_nm, factor.value)
        inspection = Inspection(details, subject)
        pull = SHAFT_FACTOR * details.force_n
        return LinkResult(
            kind="gear_pair",
            step=self.step,
            ratio=self.ratio,
            turn=self.turn,
            flow=flow,
            efficiency=self._efficiency,
            service_factor=factor,
            design=design,
            limits=tuple(inspection.limits()),
            findings=tuple(inspection.findings()),
            figures=figures(details),
            centre_distance_mm=self.centre_mm,
            driver_pull_n=pull,
            driven_pull_n=pull,
            shafts=ShaftLimits(),
            details=details,
        )

    def _details(self, flow: Flow, design_nm: float, overload: float) -> GearDetails:
        link, internal = self.link, self.link.mesh == "internal"
        teeth = link.small_teeth, link.large_teeth
        speed = rim_speed_m_per_s(self.driver_mm, flow.driver_speed_rpm)
        quality = rating.QUALITY[link.made]
        pinion_mm = link.module * teeth[0]
        dynamic = rating.dynamic_factor(quality, speed)
        face = rating.face_factor(link.face_width_mm, pinion_mm, link.running)
        first, second = self._strengths(speed, dynamic * face)
        shape = rating.contact_geometry(teeth[1] / teeth[0], link.angle, internal)
        made_of = [(item.material.elastic_gpa, item.material.poisson) for item in (first, second)]
        elastic = rating.elastic_coefficient(made_of[0], made_of[1])
        stresses = [item.contact_mpa for item in (first, second)]
        known = [stress for stress in stresses if stress is not None]
        wear = None
        if len(known) == 2:
            factors = dynamic * face * max(first.size_factor, second.size_factor)
            wear = rating.contact_force_n(min(known), (elastic, pinion_mm, link.face_width_mm, shape), factors)
        spread = link.spread_mm / link.module
        stall = flow.driver_stall_torque_nm
        return GearDetails(
            link,
            self.driver_mm,
            self.driven_mm,
            self.centre_mm,
            geometry.contact_ratio(teeth, link.angle, internal, spread),
            2 * link.spread_mm * tan(radians(link.angle)),
            speed,
            dynamic,
            face,
            shape,
            elastic,
            first,
            second,
            min(first.bending_n, second.bending_n),
            wear,
            2000 * flow.driver_torque_nm / self.driver_mm,
            2000 * design_nm / self.driver_mm,
            None if stall is None else 2000 * stall / self.driver_mm,
            overload,
        )

    def _strengths(self, speed: float, factors: float) -> tuple[Strength, Strength]:
        """Pinion and gear; cycles fall with speed, and the gear of a harder pinion gains a little."""
        link = self.link
        drives = link.driver_teeth <= link.driven_teeth
        names = (link.driver_material, link.driven_material) if drives else (link.driven_material, link.driver_material)
        teeth, ratio = (link.small_teeth, link.large_teeth), link.large_teeth / link.small_teeth
        hard = [tables.materials()[name].hardness_hb for name in names]
        gains = 1.0
        if hard[0] is not None and hard[1] is not None:
            gains = rating.hardness_ratio_factor(hard[0], hard[1], ratio)
        pinion = self._strength(teeth[0], teeth[1], names[0], (speed, factors, rating.CYCLES, 1.0))
        gear = self._strength(teeth[1], teeth[0], names[1], (speed, factors, rating.CYCLES / ratio, gains))
        return pinion, gear

    def _strength(self, teeth: int, mate: int, material: str, at: tuple[float, float, float, float]) -> Strength:
        link, data = self.link, tables.materials()[material]
        speed, factors, cycles, gains = at
        form = tables.lewis_form(teeth, link.pressure_angle)
        shape = tables.geometry_factor(teeth, mate, link.pressure_angle)
        size = rating.size_factor(link.face_width_mm, link.module, form)
        lewis = (
            data.static_mpa * link.face_width_mm * link.module * form / rating.lewis_velocity_factor(link.made, speed)
        )
        if data.hardness_hb is None:
            return Strength(teeth, data, data.static_mpa, shape, size, lewis, None, lewis)
        bending = rating.bending_allowable_mpa(data.hardness_hb, cycles)
        force = rating.bending_force_n(bending, link.face_width_mm, link.module, shape, factors * size)
        contact = rating.contact_allowable_mpa(data.hardness_hb, cycles, gains)
        return Strength(teeth, data, bending, shape, size, force, contact, lewis)


class Inspection:
    """Runs the checks on one rated pair."""

    def __init__(self, details: GearDetails, subject: str) -> None:
        self.details = details
        self.subject = subject

    def limits(self) -> Iterator[Limit]:
        """Bending of the weaker tooth, wear of the flanks, pitch-line speed."""
        d = self.details
        yield Limit("gear_pair.bending", "tooth bending", d.design_force_n, d.bending_n, "N")
        yield Limit("gear_pair.wear", "flank wear", d.design_force_n, d.wear_n, "N")
        most = rating.most_speed_m_per_s(rating.QUALITY[d.link.made])
        yield Limit("gear_pair.speed", "pitch-line speed", d.speed_m_per_s, most, "m/s", is_load=False)

    def findings(self) -> Iterator[Finding]:
        """Every check, passed ones included."""
        yield from self._strength()
        yield from self._mesh()
        yield from self._proportions()

    def _strength(self) -> Iterator[Finding]:
        d, subject = self.details, self.subject
        level = Severity.ERROR if d.force_n > d.bending_n else Severity.WARNING
        yield judge(checks.BENDING, subject, d.design_force_n, d.bending_n, level)
        if d.wear_n is None:
            yield state(checks.NO_WEAR, subject)
        else:
            worn = Severity.ERROR if d.force_n > d.wear_n else Severity.WARNING
            yield judge(checks.WEAR, subject, d.design_force_n, d.wear_n, worn)
        if d.stall_force_n is not None:
            yield judge(checks.STALL, subject, d.stall_force_n, MOMENT_SHARE * d.bending_n)
        if {d.link.driver_material, d.link.driven_material} & set(PLASTICS):
            yield state(checks.PROTOTYPE, subject)

    def _mesh(self) -> Iterator[Finding]:
        d, subject, link = self.details, self.subject, self.details.link
        if link.mesh == "internal":
            yield judge(checks.RING, subject, float(link.large_teeth - link.small_teeth), 10.0)
        else:
            most = geometry.largest_mate(link.small_teeth, link.angle)
            yield judge(checks.INTERFERENCE, subject, float(link.large_teeth), min(most, 1e6) if most != inf else 1e6)
        yield judge(checks.UNDERCUT, subject, link.small_teeth + 0.99, geometry.undercut_teeth(link.angle))
        yield judge_two(checks.CONTACT, subject, d.contact_ratio, 1.2, 1.0)
        yield judge(checks.SPREAD, subject, d.backlash_mm, 0.0)
        yield judge(checks.HUNTING, subject, float(gcd(link.driver_teeth, link.driven_teeth)), 1.0)

    def _proportions(self) -> Iterator[Finding]:
        d, subject, link = self.details, self.subject, self.details.link
        yield judge_two(checks.RATIO, subject, link.large_teeth / link.small_teeth, 6.0, 10.0)
        pitch = pi * link.module
        yield judge(checks.NARROW, subject, link.face_width_mm, 2.9 * pitch)
        yield judge(checks.WIDE, subject, link.face_width_mm, max(5 * pitch, d.pinion_mm))
        yield judge(checks.SPEED, subject, d.speed_m_per_s, rating.most_speed_m_per_s(rating.QUALITY[link.made]))


def figures(d: GearDetails) -> tuple[Figure, ...]:
    """The numbers of the card, in reading order."""
    link = d.link
    inside = link.mesh == "internal"
    tips = [
        link.module * (n - 2 if inside and n == link.large_teeth else n + 2)
        for n in (link.driver_teeth, link.driven_teeth)
    ]
    return (
        Figure("ratio", "Ratio", link.driven_teeth / link.driver_teeth, ""),
        Figure("centre", "Centre distance", d.centre_mm, "mm"),
        Figure("driver_pitch", "Driver pitch diameter", d.driver_mm, "mm"),
        Figure("driven_pitch", "Driven pitch diameter", d.driven_mm, "mm"),
        Figure("driver_outside", "Driver tip diameter", tips[0], "mm"),
        Figure("driven_outside", "Driven tip diameter", tips[1], "mm"),
        Figure("contact_ratio", "Contact ratio", d.contact_ratio, ""),
        Figure("pitch_speed", "Pitch-line speed", d.speed_m_per_s, "m/s"),
        Figure("bending", "Tooth force, bending", d.bending_n, "N"),
        Figure("wear", "Tooth force, wear", d.wear_n, "N"),
        Figure("lewis", "Quick look, Lewis", min(d.pinion.lewis_n, d.gear.lewis_n), "N"),
        Figure("force", "Tooth force, running", d.force_n, "N", needs_load=True),
        Figure("design_force", "Tooth force with overload", d.design_force_n, "N", needs_load=True),
        Figure("separating", "Separating force", d.force_n * tan(radians(link.angle)), "N", needs_load=True),
    )
