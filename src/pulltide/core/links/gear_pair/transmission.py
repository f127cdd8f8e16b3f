"""A pair of spur gears: geometry first, then what bending and wear allow."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise
from math import gcd, inf, pi, radians, tan
from typing import Literal

from pulltide.core.drawing import DrawnWheel, LinkPicture, polar
from pulltide.core.elasticity import mesh_nm_rad
from pulltide.core.findings import Finding, judge, judge_two, state
from pulltide.core.forces import Disc, ShaftForce, ToothForce, density_kg_m3, mesh_forces
from pulltide.core.links.gear_pair import checks
from pulltide.core.links.gear_pair.inputs import GearPair
from pulltide.core.spur import form, geometry
from pulltide.core.spur.judging import LoadedTeeth, safety_figures, tooth_bounds, tooth_findings
from pulltide.core.spur.kinds import mesh_efficiency
from pulltide.core.spur.mesh import Mesh, MeshStrength, mesh_strength
from pulltide.core.spur.rating import QUALITY, max_speed_m_per_s
from pulltide.core.spur.toothed import ToothedTransmission
from pulltide.core.transmission import Bound, Figure, LinkResult, Loading, Sizing, Turn
from pulltide.core.units import rim_speed_m_per_s, rpm_of_rim


@dataclass(frozen=True, slots=True, kw_only=True)
class GearDetails:
    """Intermediate figures of a rated pair, for cards and workings."""

    link: GearPair
    driver_mm: float
    driven_mm: float
    center_mm: float
    contact_ratio: float
    backlash_mm: float
    speed_m_per_s: float
    meshes: tuple[MeshStrength, ...]
    force_n: float
    design_force_n: float
    overload_factor: float

    @property
    def weakest(self) -> MeshStrength:
        """The mesh whose teeth bear least in bending."""
        return min(self.meshes, key=lambda mesh: mesh.bending_n)

    @property
    def bending_n(self) -> float:
        """Tooth force that every mesh bears in bending [N]."""
        return self.weakest.bending_n

    @property
    def soonest_worn(self) -> MeshStrength | None:
        """The mesh whose flanks bear least, None where one is not rated for wear."""
        if any(mesh.wear_n is None for mesh in self.meshes):
            return None
        return min(self.meshes, key=lambda mesh: mesh.wear_n or 0.0)

    @property
    def wear_n(self) -> float | None:
        """Tooth force that every mesh bears in wear [N]; None where no hardness rates it."""
        worn = self.soonest_worn
        return None if worn is None else worn.wear_n

    @property
    def teeth(self) -> LoadedTeeth:
        """The loaded teeth, as they are judged."""
        link = self.link
        return LoadedTeeth(
            force_n=self.force_n,
            design_force_n=self.design_force_n,
            bending_n=self.bending_n,
            wear_n=self.wear_n,
            speed_m_per_s=self.speed_m_per_s,
            made=link.made,
            materials=(link.driver_material, link.driven_material),
            moment_n=min(mesh.moment_n for mesh in self.meshes),
        )

    @property
    def pinion_mm(self) -> float:
        """Pitch diameter of the pinion [mm]."""
        return min(self.driver_mm, self.driven_mm)


class GearTransmission(ToothedTransmission[GearDetails]):
    """One pair of spur gears."""

    kind = "gear_pair"
    link: GearPair
    noise = "loud"

    def __init__(self, link: GearPair, step: int) -> None:
        self.link = link
        self.step = step
        self.driver_mm = link.module * link.driver_teeth
        self.driven_mm = link.module * link.driven_teeth
        self.center_mm = link.spread_mm + self._tight_mm()
        one = link.own_efficiency or mesh_efficiency(link.running, link.made)
        self.kept = float(one ** (1 + link.idlers))

    def _tight_mm(self) -> float:
        """Center distance without spread [mm]; profile shifts move the gears apart."""
        link = self.link
        if link.driver_shift or link.driven_shift:
            teeth = ((link.driver_teeth, link.driver_shift), (link.driven_teeth, link.driven_shift))
            return link.module * form.tight_center(*(form.Tooth(n, link.angle, x) for n, x in teeth))
        internal = link.mesh == "internal"
        return sum(geometry.center_mm(link.module, min(pair), max(pair), internal) for pair in pairwise(link.chain))

    @property
    def ratio(self) -> float:
        """Driver over driven speed: driven over driver teeth."""
        return self.link.driven_teeth / self.link.driver_teeth

    @property
    def turn(self) -> Turn:
        """An external mesh reverses, a gear inside a ring does not; each idler reverses once more."""
        if self.link.mesh == "internal":
            return 1
        return -1 if self.link.idlers % 2 == 0 else 1

    @property
    def stiffness_nm_rad(self) -> float | None:
        """Of steel teeth; of others it is not known."""
        link = self.link
        steel = link.driver_material.startswith("steel") and link.driven_material.startswith("steel")
        return mesh_nm_rad(link.face_width_mm, self.driver_mm, link.angle) if steel and not link.idlers else None

    @property
    def slack_rad(self) -> float:
        """As teeth are cut, and what spread centers add, once for each mesh, over the driver's pitch radius."""
        link = self.link
        play_mm = 2 * form.THINNED * link.module + 2 * link.spread_mm * tan(radians(link.angle))
        return (1 + link.idlers) * play_mm / (self.driver_mm / 2)

    def picture(self) -> LinkPicture:
        """Pitch circles that touch, idlers between."""
        link = self.link
        offset = polar(self.center_mm, link.angle_deg)
        return LinkPicture(
            "gear",
            offset,
            self.driver_mm / 2,
            self.driven_mm / 2,
            link.driver_teeth,
            link.driven_teeth,
            extra=tuple(self._idlers()),
            over_mm=self._over_mm,
        )

    @property
    def _over_mm(self) -> float:
        """The longest addendum; a ring is at least as large as the floor of its gaps [mm]."""
        link = self.link
        deep = form.TOOLS[link.angle][0] if link.mesh == "internal" else 1.0
        return float(link.module * max(deep, 1 + link.driver_shift, 1 + link.driven_shift))

    def _idlers(self) -> Iterator[DrawnWheel]:
        link, teeth = self.link, self.link.idler_teeth or 0
        for index in range(link.idlers):
            out = link.module * (link.driver_teeth + teeth * (2 * index + 1)) / 2
            yield DrawnWheel(polar(out, link.angle_deg), link.module * teeth / 2, teeth)

    @property
    def center_distance_mm(self) -> float:
        """Center distance [mm]."""
        return self.center_mm

    @property
    def discs(self) -> tuple[Disc, ...]:
        """Gears by their pitch diameters."""
        link = self.link
        made_of = (density_kg_m3(link.driver_material), density_kg_m3(link.driven_material))
        idlers = [Disc("between", link.module * (link.idler_teeth or 0), link.face_width_mm, made_of[0])] * link.idlers
        return (
            Disc("driver", self.driver_mm, link.face_width_mm, made_of[0]),
            *idlers,
            Disc("driven", self.driven_mm, link.face_width_mm, made_of[1]),
        )

    @property
    def max_driver_rpm(self) -> float:
        """Speed at which teeth of this quality run as fast as they may [rpm]."""
        return rpm_of_rim(self.driver_mm, max_speed_m_per_s(QUALITY[self.link.made]))

    def capacity(self, driver_speed_rpm: float, sizing: Sizing) -> tuple[Bound, ...]:
        """Bending and wear of the weakest mesh."""
        factor = sizing.multiplier(self.service_factor(sizing).value, self.fatigue_exponent)
        meshes = self._strengths(rim_speed_m_per_s(self.driver_mm, driver_speed_rpm), sizing.duty.life_h)
        worn = None if any(m.wear_n is None for m in meshes) else min(m.wear_n or 0.0 for m in meshes)
        bent = min(mesh.bending_n for mesh in meshes)
        return tooth_bounds(self.kind, bent, worn, self.driver_mm / 2000, factor)

    def _strengths(self, speed_m_per_s: float, life_h: float | None) -> tuple[MeshStrength, ...]:
        return tuple(mesh_strength(mesh, speed_m_per_s, life_h) for mesh in self.meshes)

    def findings(self, result: LinkResult[GearDetails]) -> Iterator[Finding]:
        """Every check, passed ones included."""
        return Inspection(result.details, result.load.subject).findings()

    def figures(self, result: LinkResult[GearDetails]) -> tuple[Figure, ...]:
        """The numbers of the card, in reading order."""
        return figures(result.details)

    def forces(self, result: LinkResult[GearDetails]) -> tuple[ShaftForce, ShaftForce]:
        """The first mesh on the driver, the last on the driven shaft."""
        link, around = self.link, result.details.force_n
        force = ToothForce(around, around * tan(radians(link.angle)))
        if not link.idlers:
            inside: Literal["", "driver", "driven"] = ""
            if link.mesh == "internal":
                inside = "driver" if link.driver_teeth < link.driven_teeth else "driven"
            return mesh_forces(force, (self.driver_mm / 2, self.driven_mm / 2), link.angle_deg, inside)
        idler_mm = link.module * (link.idler_teeth or 0) / 2
        first, _ = mesh_forces(force, (self.driver_mm / 2, idler_mm), link.angle_deg)
        _, last = mesh_forces(force, (idler_mm, self.driven_mm / 2), link.angle_deg, turn=(-1.0) ** link.idlers)
        return first, last

    def details(self, load: Loading) -> GearDetails:
        """Strength and forces under a load."""
        link, flow = self.link, load.flow
        speed = rim_speed_m_per_s(self.driver_mm, flow.driver_speed_rpm)
        meshes = self._strengths(speed, load.sizing.duty.life_h)
        contact = min(mesh.mesh.contact_ratio for mesh in meshes)
        return GearDetails(
            link=link,
            driver_mm=self.driver_mm,
            driven_mm=self.driven_mm,
            center_mm=self.center_mm,
            contact_ratio=contact,
            backlash_mm=2 * link.spread_mm * tan(radians(link.angle)),
            speed_m_per_s=speed,
            meshes=meshes,
            force_n=2000 * flow.driver_torque_nm / self.driver_mm,
            design_force_n=2000 * load.design.chosen_nm / self.driver_mm,
            overload_factor=load.sizing_factor,
        )

    @cached_property
    def meshes(self) -> tuple[Mesh, ...]:
        """Every mesh, from driver to driven."""
        return tuple(self._meshes())

    def _meshes(self) -> Iterator[Mesh]:
        """Every mesh from driver to driven. An idler is of the driver's material and is bent both ways."""
        link, last = self.link, len(self.link.chain) - 1
        shifts = (link.driver_shift, link.driven_shift)
        materials = (*((link.driver_material,) * last), link.driven_material)
        for index, pair in enumerate(pairwise(link.chain)):
            order = (0, 1) if pair[0] <= pair[1] else (1, 0)
            both = tuple(0 < index + side < last for side in order)
            made_of = tuple(materials[index + side] for side in order)
            yield Mesh(
                link.module,
                (min(pair), max(pair)),
                link.pressure_angle,
                link.face_width_mm,
                (made_of[0], made_of[1]),
                link.made,
                link.running,
                link.mesh == "internal",
                (both[0], both[1]),
                shifts if order == (0, 1) else (shifts[1], shifts[0]),
                link.spread_mm / link.module,
            )


class Inspection:
    """Runs the checks on one rated pair."""

    def __init__(self, details: GearDetails, subject: str) -> None:
        self.details = details
        self.subject = subject

    def findings(self) -> Iterator[Finding]:
        """Every check, passed ones included."""
        yield from tooth_findings(checks.TEETH, self.details.teeth, self.subject)
        yield from self._mesh()
        yield from self._proportions()

    def _mesh(self) -> Iterator[Finding]:
        d, subject, link = self.details, self.subject, self.details.link
        if link.mesh == "internal":
            yield judge(checks.RING, subject, float(link.large_teeth - link.small_teeth))
        elif link.made == "cast":
            # a cast flank is not relieved at its root; a generated one is, and then judged by what is left of it
            pairs = [(max(pair), geometry.largest_mate(min(pair), link.angle)) for pair in pairwise(link.chain)]
            large, most = max(pairs, key=lambda pair: pair[0] / pair[1] if pair[1] else inf)
            yield judge(checks.INTERFERENCE, subject, float(large), min(most, 1e6))
        for teeth, shift in self._fewest():
            yield judge(checks.UNDERCUT, subject, float(teeth), float(geometry.min_teeth(link.angle, shift)))
        if link.driver_shift or link.driven_shift:
            tips = [mesh.mesh.tooth(member).tip_thickness for mesh in d.meshes for member in (0, 1)]
            yield judge_two(checks.TIP, subject, link.module * min(tips), of=link.module)
        yield judge_two(checks.CONTACT, subject, d.contact_ratio)
        yield judge(checks.SPREAD, subject, d.backlash_mm)
        yield judge(checks.HUNTING, subject, float(max(gcd(*pair) for pair in pairwise(link.chain))))
        if link.idlers:
            yield state(checks.IDLER, subject, float(link.idlers))

    def _fewest(self) -> Iterator[tuple[int, float]]:
        """The external gear nearest to undercut, or past it: its teeth and profile shift."""
        link = self.details.link
        shifts = {0: link.driver_shift, len(link.chain) - 1: link.driven_shift}
        gears = [(n, shifts.get(index, 0.0)) for index, n in enumerate(link.chain)]
        if link.mesh == "internal":
            gears = [(link.small_teeth, 0.0)]
        yield min(gears, key=lambda gear: gear[0] - geometry.min_teeth(link.angle, gear[1]))

    def _proportions(self) -> Iterator[Finding]:
        d, subject, link = self.details, self.subject, self.details.link
        yield judge_two(checks.RATIO, subject, max(max(pair) / min(pair) for pair in pairwise(link.chain)))
        pitch = pi * link.module
        yield judge(checks.NARROW, subject, link.face_width_mm, of=pitch)
        yield judge(checks.WIDE, subject, link.face_width_mm, max(5 * pitch, d.pinion_mm))


def figures(d: GearDetails) -> tuple[Figure, ...]:
    """The numbers of the card, in reading order."""
    link = d.link
    inside = link.mesh == "internal"
    tips = [
        link.module * (n - 2 if inside and n == link.large_teeth else n + 2 + 2 * x)
        for n, x in ((link.driver_teeth, link.driver_shift), (link.driven_teeth, link.driven_shift))
    ]
    return (
        Figure("ratio", "Ratio", link.driven_teeth / link.driver_teeth, ""),
        Figure("center", "Center distance", d.center_mm, "mm"),
        Figure("driver_pitch", "Driver pitch diameter", d.driver_mm, "mm"),
        Figure("driven_pitch", "Driven pitch diameter", d.driven_mm, "mm"),
        Figure("driver_outside", "Driver tip diameter", tips[0], "mm"),
        Figure("driven_outside", "Driven tip diameter", tips[1], "mm"),
        Figure("contact_ratio", "Contact ratio", d.contact_ratio, ""),
        Figure("pitch_speed", "Pitch-line speed", d.speed_m_per_s, "m/s"),
        Figure("bending", "Tooth force, bending", d.bending_n, "N"),
        Figure("wear", "Tooth force, wear", d.wear_n, "N"),
        Figure("lewis", "Quick look, Lewis", min(mesh.lewis_n for mesh in d.meshes), "N"),
        Figure("force", "Tooth force, running", d.force_n, "N", needs_load=True),
        Figure("design_force", "Tooth force with overload", d.design_force_n, "N", needs_load=True),
        *safety_figures(d.teeth),
        Figure("separating", "Separating force", d.force_n * tan(radians(link.angle)), "N", needs_load=True),
    )
