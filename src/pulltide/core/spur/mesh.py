"""What one mesh of two spur gears bears at its pitch line."""

from __future__ import annotations

from dataclasses import dataclass

from pulltide.core.family import ServiceFactor, Sizing, own_factor
from pulltide.core.spur import rating, tables
from pulltide.core.spur.kinds import BOTH_WAYS, DIRT_ADDS, Made, Material, Running


@dataclass(frozen=True, slots=True)
class Mesh:
    """Two gears in mesh: teeth and materials of the smaller and the larger; ``internal`` for a gear inside a ring.

    ``bent_both_ways`` names the members whose teeth are bent both ways each turn: an idler, a planet.
    """

    module_mm: float
    teeth: tuple[int, int]
    pressure_angle: str
    face_width_mm: float
    materials: tuple[Material, Material]
    made: Made
    running: Running
    internal: bool = False
    bent_both_ways: tuple[bool, bool] = (False, False)

    @property
    def pinion_mm(self) -> float:
        """Pitch diameter of the smaller gear [mm]."""
        return self.module_mm * self.teeth[0]


@dataclass(frozen=True, slots=True)
class Strength:
    """What one gear of the pair bears at the pitch line [N]; wear is None where no hardness rates it.

    ``bent_share`` is what bending both ways leaves of its bending strength; ``bending_life`` is YN, ``contact_life`` ZN
    times the hardness ratio factor.
    """

    teeth: int
    material: tables.MaterialData
    bending_mpa: float
    geometry_factor: float
    size_factor: float
    bending_n: float
    contact_mpa: float | None
    lewis_n: float
    bent_share: float
    bending_life: float
    contact_life: float


@dataclass(frozen=True, slots=True)
class MeshStrength:
    """Strength of both gears, the factors it comes from, and what the mesh bears [N]."""

    mesh: Mesh
    pinion: Strength
    gear: Strength
    speed_m_per_s: float
    dynamic_factor: float
    face_factor: float
    contact_shape: float
    elastic: float
    wear_n: float | None

    @property
    def bending_n(self) -> float:
        """Tooth force that the weaker gear bears in bending."""
        return min(self.pinion.bending_n, self.gear.bending_n)

    @property
    def lewis_n(self) -> float:
        """The same by Lewis, the quick look."""
        return min(self.pinion.lewis_n, self.gear.lewis_n)


def mesh_strength(mesh: Mesh, speed_m_per_s: float) -> MeshStrength:
    """Strength of a mesh at a pitch-line speed [m/s]: AGMA bending and wear, Lewis where no hardness rates it.

    Source: Shigley's Mechanical Engineering Design, chapter 14, from memory.
    """
    dynamic = rating.dynamic_factor(rating.QUALITY[mesh.made], speed_m_per_s)
    face = rating.face_factor(mesh.face_width_mm, mesh.pinion_mm, mesh.running)
    pinion, gear = _strengths(mesh, speed_m_per_s, dynamic * face)
    shape = rating.contact_geometry(mesh.teeth[1] / mesh.teeth[0], float(mesh.pressure_angle), mesh.internal)
    made_of = [(item.material.elastic_gpa, item.material.poisson) for item in (pinion, gear)]
    elastic = rating.elastic_coefficient(made_of[0], made_of[1])
    wear = None
    if pinion.contact_mpa is not None and gear.contact_mpa is not None:
        factors = dynamic * face * max(pinion.size_factor, gear.size_factor)
        softer = min(pinion.contact_mpa, gear.contact_mpa)
        wear = rating.contact_force_n(softer, (elastic, mesh.pinion_mm, mesh.face_width_mm, shape), factors)
    return MeshStrength(mesh, pinion, gear, speed_m_per_s, dynamic, face, shape, elastic, wear)


def _strengths(mesh: Mesh, speed: float, factors: float) -> tuple[Strength, Strength]:
    """Pinion and gear; cycles fall with speed, and the gear of a harder pinion gains a little."""
    ratio = mesh.teeth[1] / mesh.teeth[0]
    hard = [tables.materials()[name].hardness_hb for name in mesh.materials]
    gains = 1.0
    if hard[0] is not None and hard[1] is not None:
        gains = rating.hardness_ratio_factor(hard[0], hard[1], ratio)
    pinion = _strength(mesh, 0, (speed, factors, rating.CYCLES, 1.0))
    return pinion, _strength(mesh, 1, (speed, factors, rating.CYCLES / ratio, gains))


def _strength(mesh: Mesh, member: int, at: tuple[float, float, float, float]) -> Strength:
    teeth, mate = mesh.teeth[member], mesh.teeth[1 - member]
    data, width = tables.materials()[mesh.materials[member]], mesh.face_width_mm
    speed, factors, cycles, gains = at
    both = BOTH_WAYS if mesh.bent_both_ways[member] else 1.0
    form = tables.lewis_form(teeth, mesh.pressure_angle)
    shape = tables.geometry_factor(teeth, mate, mesh.pressure_angle)
    size = rating.size_factor(width, mesh.module_mm, form)
    lewis = both * data.static_mpa * width * mesh.module_mm * form / rating.lewis_velocity_factor(mesh.made, speed)
    if data.hardness_hb is None:
        return Strength(teeth, data, both * data.static_mpa, shape, size, lewis, None, lewis, both, 1.0, 1.0)
    lives = (rating.bending_cycle_factor(cycles), rating.contact_cycle_factor(cycles) * gains)
    bending = both * rating.bending_allowable_mpa(data.hardness_hb, cycles)
    force = rating.bending_force_n(bending, width, mesh.module_mm, shape, factors * size)
    contact = rating.contact_allowable_mpa(data.hardness_hb, cycles, gains)
    return Strength(teeth, data, bending, shape, size, force, contact, lewis, both, *lives)


def service_factor(sizing: Sizing, running: str = "open, greased") -> ServiceFactor:
    """Overload factor Ko in place of a service factor, never with one; dirt adds 0.25."""
    if (own := own_factor(sizing.duty)) is not None:
        return own
    dirt = DIRT_ADDS if running == "open, dirty" else 0.0
    value = tables.overload_factor(sizing.duty.shock_used, sizing.prime_mover) + dirt
    note = "the overload factor stands for a service factor" + ("; 0.25 added for dirt" if dirt else "")
    return ServiceFactor(value, tables.table("overload_factor").as_source, note)
