"""One mesh under a load, shared by the families that have just one: helical and bevel pairs."""

from __future__ import annotations

from abc import abstractmethod
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from pulltide.core.findings import COMMON_PRACTICE
from pulltide.core.forces import Disc, density_kg_m3
from pulltide.core.rim import rim_workings
from pulltide.core.spur.judging import LoadedTeeth, safety_figures, tooth_bounds
from pulltide.core.spur.kinds import mesh_efficiency
from pulltide.core.spur.mesh import Mesh, MeshStrength, mesh_strength
from pulltide.core.spur.rating import QUALITY, max_speed_m_per_s
from pulltide.core.spur.toothed import ToothedTransmission
from pulltide.core.spur.working import bending_working, safety_workings, wear_working
from pulltide.core.transmission import Bound, Figure, LinkResult, Loading, Sizing
from pulltide.core.units import rim_speed_m_per_s, rpm_of_rim
from pulltide.core.working import Working, made_of

#: Speed and forces of teeth, as they are called.
TOOTH_FORCES = (
    ("pitch_speed", "Pitch-line speed"),
    ("force", "Tooth force, running"),
    ("design_force", "Tooth force with overload"),
)


@dataclass(frozen=True, slots=True)
class LoadedMesh:
    """One mesh: its strength, the diameter [mm] its driver acts at, and the tooth forces there [N]."""

    link: Any
    strength: MeshStrength
    driver_mm: float
    force_n: float
    design_force_n: float
    overload_factor: float

    @property
    def teeth(self) -> LoadedTeeth:
        """The loaded teeth, as they are judged."""
        return LoadedTeeth(
            force_n=self.force_n,
            design_force_n=self.design_force_n,
            bending_n=self.strength.bending_n,
            wear_n=self.strength.wear_n,
            speed_m_per_s=self.strength.speed_m_per_s,
            made=self.link.made,
            materials=(self.link.driver_material, self.link.driven_material),
            moment_n=self.strength.moment_n,
        )


class SingleMesh(ToothedTransmission[LoadedMesh]):
    """A stage of one mesh: what helical and bevel pairs share."""

    @property
    @abstractmethod
    def mesh(self) -> Mesh:
        """The mesh, smaller gear first."""

    @property
    @abstractmethod
    def acting_mm(self) -> float:
        """Diameter at which its driver acts [mm]."""

    @property
    def ratio(self) -> float:
        """Driver over driven speed."""
        return float(self.link.driven_teeth / self.link.driver_teeth)

    @property
    def max_driver_rpm(self) -> float:
        """Speed at which teeth of this quality run as fast as they may [rpm]."""
        return rpm_of_rim(self.acting_mm, max_speed_m_per_s(QUALITY[self.link.made]))

    @property
    def discs(self) -> tuple[Disc, ...]:
        """Gears by the diameters they act at."""
        link, driven_mm = self.link, self.acting_mm * self.ratio
        return (
            Disc("driver", self.acting_mm, link.face_width_mm, density_kg_m3(link.driver_material)),
            Disc("driven", driven_mm, link.face_width_mm, density_kg_m3(link.driven_material)),
        )

    def capacity(self, driver_speed_rpm: float, sizing: Sizing) -> tuple[Bound, ...]:
        """Bending and wear."""
        factor = sizing.multiplier(self.service_factor(sizing).value, self.fatigue_exponent)
        speed = rim_speed_m_per_s(self.acting_mm, driver_speed_rpm)
        strength = mesh_strength(self.mesh, speed, sizing.duty.life_h)
        return tooth_bounds(self.kind, strength.bending_n, strength.wear_n, self.acting_mm / 2000, factor)

    def details(self, load: Loading) -> LoadedMesh:
        """Strength and forces under a load."""
        flow, d = load.flow, self.acting_mm
        speed = rim_speed_m_per_s(d, flow.driver_speed_rpm)
        return LoadedMesh(
            self.link,
            mesh_strength(self.mesh, speed, load.sizing.duty.life_h),
            d,
            2000 * flow.driver_torque_nm / d,
            2000 * load.design.chosen_nm / d,
            load.sizing_factor,
        )


def force_figures(d: LoadedMesh) -> tuple[Figure, ...]:
    """Figures of strength and force, in reading order."""
    return (
        Figure("pitch_speed", "Pitch-line speed", d.strength.speed_m_per_s, "m/s"),
        Figure("bending", "Tooth force, bending", d.strength.bending_n, "N"),
        Figure("wear", "Tooth force, wear", d.strength.wear_n, "N"),
        Figure("force", "Tooth force, running", d.force_n, "N", needs_load=True),
        Figure("design_force", "Tooth force with overload", d.design_force_n, "N", needs_load=True),
        *safety_figures(d.teeth),
    )


def force_workings(result: LinkResult[LoadedMesh], d: LoadedMesh) -> dict[str, Callable[[], Working]]:
    """Workings of those figures, and of the efficiency."""
    bending = bending_working(d.strength)
    wear = None if d.strength.wear_n is None else wear_working(d.strength)
    found = {
        **rim_workings(result, d.driver_mm, "W", TOOTH_FORCES),
        "bending": lambda: bending,
        "efficiency": made_of(
            "Efficiency",
            "η = by how it runs and how its teeth are made, or your own",
            result.efficiency,
            "share",
            COMMON_PRACTICE,
            η_1=mesh_efficiency(d.link.running, d.link.made),
        ),
    }
    if wear is not None:
        found["wear"] = lambda: wear
    return found | safety_workings(d.teeth, bending, wear)
