"""Forces of a link on its two shafts as vectors, and its wheels as solid discs."""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, pi, radians, sin
from typing import Literal

#: Density of what wheels are made of [kg/m³]. Source: handbook values, from memory; wood is dry oak.
DENSITY_KG_M3 = {
    "steel": 7850.0,
    "iron": 7200.0,
    "bronze": 8800.0,
    "brass": 8500.0,
    "aluminum": 2700.0,
    "nylon": 1150.0,
    "acetal": 1410.0,
    "pla": 1240.0,
    "wood": 700.0,
    "plywood": 700.0,
    "hardwood": 700.0,
    "mdf": 750.0,
    "hdpe": 950.0,
    "phenolic": 1350.0,
}


def density_kg_m3(material: str) -> float:
    """Density of a material by its code, of which the first word that is known counts; steel for any other.

    >>> density_kg_m3("steel_4140_hardened"), density_kg_m3("cast_iron_20"), density_kg_m3("printed_pla")
    (7850.0, 7200.0, 1240.0)
    """
    return next((DENSITY_KG_M3[word] for word in material.split("_") if word in DENSITY_KG_M3), DENSITY_KG_M3["steel"])


@dataclass(frozen=True, slots=True)
class ShaftForce:
    """Force on a shaft in the plane of the wheels, x to the right and y up, and along the shaft [N].

    It acts at ``at_mm`` from the middle of the shaft: where teeth touch, or the middle itself for what a belt pulls.
    ``thrust_n`` is positive toward whoever looks at the drawing. Along the shaft it acts at mid-face.
    """

    x_n: float = 0.0
    y_n: float = 0.0
    thrust_n: float = 0.0
    at_mm: tuple[float, float] = (0.0, 0.0)

    @property
    def torque_nm(self) -> float:
        """Its moment about the shaft [N·m], counterclockwise positive."""
        return (self.at_mm[0] * self.y_n - self.at_mm[1] * self.x_n) / 1000

    def reversed_turn(self, *, thrust_turns: bool) -> ShaftForce:
        """The same with everything turning the other way: what acts around changes its sense, what pushes apart stays.

        A belt pulls the same either way; ``thrust_turns`` where the thrust changes its sense too.
        """
        x, y = self.at_mm
        reach = x * x + y * y
        if not reach:
            return self
        along = (self.x_n * x + self.y_n * y) / reach
        thrust = -self.thrust_n if thrust_turns else self.thrust_n
        return ShaftForce(2 * along * x - self.x_n, 2 * along * y - self.y_n, thrust, self.at_mm)


NO_FORCE = ShaftForce()


def strand_forces(pull_driver_n: float, pull_driven_n: float, angle_deg: float) -> tuple[ShaftForce, ShaftForce]:
    """What a belt or chain pulls: each shaft toward the other, which lies at an angle [degrees]."""
    x, y = cos(radians(angle_deg)), sin(radians(angle_deg))
    return (ShaftForce(pull_driver_n * x, pull_driver_n * y), ShaftForce(-pull_driven_n * x, -pull_driven_n * y))


@dataclass(frozen=True, slots=True)
class ToothForce:
    """Force between two flanks [N]: around, apart, and along the driver and the driven shaft."""

    around_n: float
    apart_n: float
    driver_thrust_n: float = 0.0
    driven_thrust_n: float = 0.0


def mesh_forces(
    force: ToothForce,
    radii_mm: tuple[float, float],
    angle_deg: float,
    inside: Literal["", "driver", "driven"] = "",
    turn: float = 1.0,
) -> tuple[ShaftForce, ShaftForce]:
    """Forces of a mesh on driver and driven shaft, the driver turning counterclockwise, or clockwise with ``turn`` -1.

    ``radii_mm`` of driver and driven; the driven shaft lies at an angle [degrees]. ``inside`` names the wheel that runs
    inside the other. The flank of the driven wheel holds the driver back and pushes it off: F = -W t - S p, with p
    from the driver to where they touch and t the way the driver moves there. The driven one gets the reverse.
    """
    reach = -1.0 if inside == "driver" else 1.0
    out = (cos(radians(angle_deg)), sin(radians(angle_deg)))
    p = (reach * out[0], reach * out[1])
    t = (-p[1] * turn, p[0] * turn)
    off = -1.0 if inside == "driven" else 1.0
    x = -force.around_n * t[0] - off * force.apart_n * p[0]
    y = -force.around_n * t[1] - off * force.apart_n * p[1]
    seen = reach if inside else -1.0
    driven_at = (seen * out[0] * radii_mm[1], seen * out[1] * radii_mm[1])
    if inside == "driven":
        driven_at = (out[0] * radii_mm[1], out[1] * radii_mm[1])
    return (
        ShaftForce(x, y, force.driver_thrust_n, (p[0] * radii_mm[0], p[1] * radii_mm[0])),
        ShaftForce(-x, -y, force.driven_thrust_n, driven_at),
    )


@dataclass(frozen=True, slots=True)
class Disc:
    """A wheel as a solid disc: at least as heavy as a real one with web or arms. Sizes in mm, density in kg/m³."""

    side: Literal["driver", "driven", "between"]
    outside_mm: float
    face_mm: float
    density_kg_m3: float = DENSITY_KG_M3["steel"]

    @property
    def mass_kg(self) -> float:
        """ρ π D² b / 4 [kg]."""
        return self.density_kg_m3 * pi * (self.outside_mm / 1000) ** 2 / 4 * self.face_mm / 1000

    @property
    def inertia_kgm2(self) -> float:
        """m D² / 8 [kg·m²]."""
        return self.mass_kg * (self.outside_mm / 1000) ** 2 / 8
