"""One mesh under a load, shared by the families that have just one: helical and bevel pairs."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from pulltide.core.duty import TOOTH_EXPONENT
from pulltide.core.family import DesignTorque, Figure, Flow, LinkResult, ServiceFactor, Sizing, design_torque
from pulltide.core.findings import COMMON_PRACTICE
from pulltide.core.rim import rim_workings
from pulltide.core.spur.judging import LoadedTeeth, safety_figures
from pulltide.core.spur.kinds import mesh_efficiency
from pulltide.core.spur.mesh import Mesh, MeshStrength, mesh_strength, service_factor
from pulltide.core.spur.working import bending_working, safety_workings, wear_working
from pulltide.core.units import rim_speed_m_per_s
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
            self.force_n,
            self.design_force_n,
            self.strength.bending_n,
            self.strength.wear_n,
            self.strength.speed_m_per_s,
            self.link.made,
            (self.link.driver_material, self.link.driven_material),
            self.strength.moment_n,
        )


@dataclass(frozen=True, slots=True)
class Rated:
    """A mesh under a load, with the factor and the design torque it was rated by."""

    mesh: LoadedMesh
    factor: ServiceFactor
    design: DesignTorque


def rated(link: Any, mesh: Mesh, driver_mm: float, flow: Flow, sizing: Sizing) -> Rated:
    """Rate one mesh whose driver acts at a diameter [mm]."""
    factor = service_factor(sizing, link.running)
    design = design_torque(flow, sizing, factor.value, TOOTH_EXPONENT)
    speed = rim_speed_m_per_s(driver_mm, flow.driver_speed_rpm)
    loaded = LoadedMesh(
        link,
        mesh_strength(mesh, speed, sizing.duty.life_h),
        driver_mm,
        2000 * flow.driver_torque_nm / driver_mm,
        2000 * design.chosen_nm / driver_mm,
        factor.value * design.repeats,
    )
    return Rated(loaded, factor, design)


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


def force_workings(result: LinkResult, d: LoadedMesh) -> dict[str, Callable[[], Working]]:
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
