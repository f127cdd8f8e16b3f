"""What one mesh of two spur gears bears at its pitch line."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache
from math import pi
from typing import ClassVar

from pulltide.core.spur import form, geometry, rating, tables
from pulltide.core.spur.kinds import BOTH_WAYS, DIRT_ADDS, MOMENT_SHARE, Made, Material, Running
from pulltide.core.transmission import ServiceFactor, Sizing, own_factor
from pulltide.core.working import Step


@dataclass(frozen=True, slots=True)
class Mesh:
    """Two gears in mesh: teeth and materials of the smaller and the larger; ``internal`` for a gear inside a ring.

    ``bent_both_ways`` names the members whose teeth are bent both ways each turn: an idler, a planet. ``shifts`` are
    profile shifts, ``spread_modules`` what the centers are spread beyond the tight ones, in modules.
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
    shifts: tuple[float, float] = (0.0, 0.0)
    spread_modules: float = 0.0

    FORM_NOTE: ClassVar[str] = (
        "load at the highest point of single contact; at the tip where teeth are too rough to share it"
    )

    MIN_FACE_FACTOR: ClassVar[float] = 1.0

    def tooth(self, member: int) -> form.Tooth:
        """The form of one member's teeth; a ring stands for a rack."""
        teeth = form.RACK if self.internal and member == 1 else float(self.teeth[member])
        return form.Tooth(teeth, float(self.pressure_angle), self.shifts[member])

    @property
    def contact_ratio(self) -> float:
        """Pairs of teeth in contact on average, with undercut and shifts counted."""
        if self.internal:
            return geometry.contact_ratio(self.teeth, float(self.pressure_angle), True, self.spread_modules)
        return form.contact_path(self.tooth(0), self.tooth(1), self.spread_modules).ratio

    def geometry_factor(self, member: int) -> float:
        """Bending geometry factor J of one member [-]."""
        mate = self.tooth(1 - member)
        return form.geometry_factor(self.tooth(member), mate, self.spread_modules, self.shares_load)

    def lewis_form(self, member: int) -> float:
        """Lewis form factor Y of one member [-]."""
        return tables.lewis_form(self.teeth[member], self.pressure_angle, self.shifts[member])

    def form_values(self, member: int) -> dict[str, float]:
        """What the form of a tooth follows from, for workings."""
        return {"N": float(self.teeth[member]), "x": self.shifts[member]}

    @property
    def contact_shape(self) -> Step:
        """Contact geometry factor I, as it comes about."""
        ratio, angle = self.teeth[1] / self.teeth[0], float(self.pressure_angle)
        formula = f"cos φ sin φ / 2 · m_G / (m_G {'-' if self.internal else '+'} 1)"
        value = rating.contact_geometry(ratio, angle, self.internal)
        return Step("Contact geometry", "I", formula, {"φ": angle, "m_G": ratio}, value, "", rating.SHIGLEY)

    @property
    def rolling_mm(self) -> float:
        """Diameter that the flanks of the smaller gear roll like [mm]."""
        return self.pinion_mm

    @property
    def face_factor(self) -> float:
        """Load distribution factor Km [-]."""
        return max(rating.face_factor(self.face_width_mm, self.pinion_mm, self.running), self.MIN_FACE_FACTOR)

    @property
    def shares_load(self) -> bool:
        """Whether the teeth are true enough for pairs to share the load."""
        return rating.QUALITY[self.made] >= rating.SHARES_LOAD

    @property
    def pinion_mm(self) -> float:
        """Pitch diameter of the smaller gear [mm]."""
        return self.module_mm * self.teeth[0]


@dataclass(frozen=True, slots=True, kw_only=True)
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
    lewis_form: float = 0.0
    shift: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
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
    def moment_n(self) -> float:
        """Tooth force that the weaker gear bears for a moment at rest: twice the lasting one, without what speed takes.

        Common practice, no source.
        """
        rated = min(self.pinion, self.gear, key=lambda item: item.bending_n).material.hardness_hb is not None
        moving = self.dynamic_factor if rated else rating.lewis_velocity_factor(self.mesh.made, self.speed_m_per_s)
        return MOMENT_SHARE * self.bending_n * moving

    @property
    def lewis_n(self) -> float:
        """The same by Lewis, the quick look."""
        return min(self.pinion.lewis_n, self.gear.lewis_n)


@dataclass(frozen=True, slots=True)
class _Still:
    """What of a mesh does not change with its speed: contact shape, face factor, Lewis form and bending geometry."""

    contact_shape: float
    face_factor: float
    lewis_form: tuple[float, float]
    geometry_factor: tuple[float, float]


@lru_cache(maxsize=1024)
def _still(mesh: Mesh) -> _Still:
    return _Still(
        mesh.contact_shape.value,
        mesh.face_factor,
        (mesh.lewis_form(0), mesh.lewis_form(1)),
        (mesh.geometry_factor(0), mesh.geometry_factor(1)),
    )


def mesh_strength(mesh: Mesh, speed_m_per_s: float, life_h: float | None = None) -> MeshStrength:
    """Strength of a mesh at a pitch-line speed [m/s]: AGMA bending and wear, Lewis where no hardness rates it.

    A wanted life [h] gives the cycles of the pinion, 60 n L; 100 million without one.
    Source: Shigley's Mechanical Engineering Design, chapter 14, from memory.
    """
    dynamic = rating.dynamic_factor(rating.QUALITY[mesh.made], speed_m_per_s)
    still = _still(mesh)
    face, shape = still.face_factor, still.contact_shape
    turns = 60_000 * speed_m_per_s / (pi * mesh.pinion_mm)
    cycles = rating.CYCLES if life_h is None else max(60 * turns * life_h, 1.0)
    pinion, gear = _strengths(mesh, speed_m_per_s, dynamic * face, cycles)
    made_of = [(item.material.elastic_gpa, item.material.poisson) for item in (pinion, gear)]
    elastic = rating.elastic_coefficient(made_of[0], made_of[1])
    wear = None
    if pinion.contact_mpa is not None and gear.contact_mpa is not None:
        factors = dynamic * face * max(pinion.size_factor, gear.size_factor)
        softer = min(pinion.contact_mpa, gear.contact_mpa)
        wear = rating.contact_force_n(softer, (elastic, mesh.rolling_mm, mesh.face_width_mm, shape), factors)
    return MeshStrength(
        mesh=mesh,
        pinion=pinion,
        gear=gear,
        speed_m_per_s=speed_m_per_s,
        dynamic_factor=dynamic,
        face_factor=face,
        contact_shape=shape,
        elastic=elastic,
        wear_n=wear,
    )


def _strengths(mesh: Mesh, speed: float, factors: float, cycles: float) -> tuple[Strength, Strength]:
    """Pinion and gear; cycles fall with speed, and the gear of a harder pinion gains a little."""
    ratio = mesh.teeth[1] / mesh.teeth[0]
    hard = [tables.materials()[name].hardness_hb for name in mesh.materials]
    gains = 1.0
    if hard[0] is not None and hard[1] is not None:
        gains = rating.hardness_ratio_factor(hard[0], hard[1], ratio)
    pinion = _strength(mesh, 0, (speed, factors, cycles, 1.0))
    return pinion, _strength(mesh, 1, (speed, factors, cycles / ratio, gains))


def _strength(mesh: Mesh, member: int, at: tuple[float, float, float, float]) -> Strength:
    teeth = mesh.teeth[member]
    data, width = tables.materials()[mesh.materials[member]], mesh.face_width_mm
    speed, factors, cycles, gains = at
    both = BOTH_WAYS if mesh.bent_both_ways[member] else 1.0
    lewis_y, shape = _still(mesh).lewis_form[member], _still(mesh).geometry_factor[member]
    size = rating.size_factor(width, mesh.module_mm, lewis_y)
    lewis = both * data.static_mpa * width * mesh.module_mm * lewis_y / rating.lewis_velocity_factor(mesh.made, speed)
    unrated = Strength(
        teeth=teeth,
        material=data,
        bending_mpa=both * data.static_mpa,
        geometry_factor=shape,
        size_factor=size,
        bending_n=lewis,
        contact_mpa=None,
        lewis_n=lewis,
        bent_share=both,
        bending_life=1.0,
        contact_life=1.0,
        lewis_form=lewis_y,
        shift=mesh.shifts[member],
    )
    if data.hardness_hb is None:
        return unrated
    bending = both * rating.bending_allowable_mpa(data.hardness_hb, cycles)
    return replace(
        unrated,
        bending_mpa=bending,
        bending_n=rating.bending_force_n(bending, width, mesh.module_mm, shape, factors * size),
        contact_mpa=rating.contact_allowable_mpa(data.hardness_hb, cycles, gains),
        bending_life=rating.bending_cycle_factor(cycles, data.hardness_hb),
        contact_life=rating.contact_cycle_factor(cycles) * gains,
    )


def service_factor(sizing: Sizing, running: str = "open_greased") -> ServiceFactor:
    """Overload factor Ko in place of a service factor, never with one; dirt adds 0.25."""
    if (own := own_factor(sizing.duty)) is not None:
        return own
    dirt = DIRT_ADDS if running == "open_dirty" else 0.0
    value = tables.overload_factor(sizing.duty.shock_used, sizing.prime_mover) + dirt
    note = "overload factor used in place of a service factor" + ("; 0.25 added for dirt" if dirt else "")
    return ServiceFactor(value, tables.table("overload_factor").as_source, note)
