"""How springy belts, chains, teeth and shafts are, and the torque when what they drive is held fast in an instant."""

from __future__ import annotations

from collections.abc import Iterable
from math import cos, pi, radians, sqrt

#: Shear modulus of steel [MPa]. Source: handbook value.
SHEAR_MODULUS_MPA = 80_000.0
#: Stiffness of a steel mesh for each millimeter of face [N/(mm µm)]. Source: ISO 6336-1 gives 14 to 20, from memory.
MESH_N_PER_MM_UM = 18.0
#: Pull that would stretch a roller chain to twice its length, over its strength. Common practice, low confidence: 40
#: to 80.
CHAIN_EA = 60.0


def loop_nm_rad(ea_n: float, center_mm: float, diameters_mm: tuple[float, float]) -> float:
    """Stiffness of a belt or chain, both strands tight, at its first wheel [N·m/rad]: 2 (EA / t) r².

    ``ea_n`` is the pull of one strand over its stretch; t the free strand √(C² - ((D - d) / 2)²). Half of it once the
    slack strand hangs. Source: Hooke.

    >>> round(loop_nm_rad(20_000, 500, (100, 100)), 1)
    200.0
    """
    first, second = diameters_mm
    strand_m = sqrt(max(center_mm**2 - ((second - first) / 2) ** 2, 1.0)) / 1000
    return 2 * ea_n / strand_m * (first / 2000) ** 2


def mesh_nm_rad(face_mm: float, driver_mm: float, pressure_angle_deg: float) -> float:
    """Stiffness of a mesh of steel gears at the driver [N·m/rad]: c b r_b², r_b its base radius."""
    base_m = driver_mm / 2000 * cos(radians(pressure_angle_deg))
    return MESH_N_PER_MM_UM * 1e6 * face_mm * base_m**2


def shaft_nm_rad(diameter_mm: float, length_mm: float) -> float:
    """Stiffness of a round steel shaft in torsion [N·m/rad]: π G d⁴ / (32 L). Source: Saint-Venant.

    >>> round(shaft_nm_rad(30, 600))
    10603
    """
    return pi * SHEAR_MODULUS_MPA * diameter_mm**4 / (32 * length_mm) / 1000


def in_series(stiffnesses_nm_rad: Iterable[float]) -> float | None:
    """Springs one after the other [N·m/rad]; None where there is none: then all is taken as rigid."""
    give = sum(1 / one for one in stiffnesses_nm_rad)
    return 1 / give if give > 0 else None


def jam_peak_nm(
    speed_rad_s: float, inertia_kgm2: float, spring_nm_rad: float, before_nm: float, drive_nm: float
) -> float:
    """Torque when the far end of a spring stops in an instant: T_d + √((T_0 - T_d)² + ω² k J) [N·m].

    T_0 was in the spring before, T_d is what drives on. Source: energy of a mass on a spring.

    >>> round(jam_peak_nm(10.471976, 0.9, 20_000, 150, 150), 1), round(jam_peak_nm(10.471976, 0.9, 20_000, 150, 330), 1)
    (1555.0, 1746.4)
    """
    return drive_nm + sqrt((before_nm - drive_nm) ** 2 + speed_rad_s**2 * spring_nm_rad * inertia_kgm2)
