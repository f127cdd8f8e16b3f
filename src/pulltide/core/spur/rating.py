"""Bending and wear of spur gears by the AGMA method of the textbooks, Lewis as a quick look. SI units.

Source: Shigley's Mechanical Engineering Design, chapter 14, from memory; checked against its examples.
"""

from __future__ import annotations

from math import cos, pi, radians, sin, sqrt

from pulltide.core.findings import Source
from pulltide.core.tables import interpolated

SHIGLEY = Source("Shigley's Mechanical Engineering Design", "chapter 14", "formula, constants from memory")
MPA_PER_PSI = 0.00689475729
MM_PER_IN = 25.4
FPM_PER_M_S = 196.850394
#: Quality number Qv by how teeth are made. Common practice, no source.
QUALITY = {"cast": 4.0, "cut": 5.0, "hobbed": 6.0, "ground": 9.0}
#: Reliability factor at 90 %, and cycles of the pinion where no life in hours is wanted.
RELIABILITY, CYCLES = 0.85, 1e8
#: From this quality on teeth share the load between pairs; rougher ones bear it at their tips. Source: AGMA 908.
SHARES_LOAD = 6.0
#: Face load distribution constants (A, B, C) by how the gears run.
MOUNTING = {
    "enclosed_oiled": (0.127, 0.0158, -0.930e-4),
    "open_greased": (0.247, 0.0167, -0.765e-4),
    "open_dirty": (0.247, 0.0167, -0.765e-4),
}


def lewis_velocity_factor(made: str, speed_m_per_s: float) -> float:
    """Velocity factor of the Lewis stress [-], at least 1. Source: Shigley Eq. 14-4 to 14-6.

    >>> round(lewis_velocity_factor("cut", 628.3 / 196.85), 3)
    1.523
    """
    forms = {
        "cast": (3.05 + speed_m_per_s) / 3.05,
        "cut": (6.1 + speed_m_per_s) / 6.1,
        "hobbed": (3.56 + sqrt(speed_m_per_s)) / 3.56,
        "ground": sqrt((5.56 + sqrt(speed_m_per_s)) / 5.56),
    }
    return forms[made]


def dynamic_constants(quality: float) -> tuple[float, float]:
    """Constants A and B of the dynamic factor by quality number. Source: Shigley Eq. 14-28."""
    b = float(0.25 * (12 - quality) ** (2 / 3))
    return 50 + 56 * (1 - b), b


def dynamic_factor(quality: float, speed_m_per_s: float) -> float:
    """Dynamic factor Kv [-]: ((A + √V) / A)^B, V in ft/min. Source: Shigley Eq. 14-27.

    >>> round(dynamic_factor(6.0, 801.1 / 196.85), 3)
    1.377
    """
    a, b = dynamic_constants(quality)
    return float(((a + sqrt(speed_m_per_s * FPM_PER_M_S)) / a) ** b)


def max_speed_m_per_s(quality: float) -> float:
    """Pitch-line speed that a quality allows [m/s]: (A + Qv - 3)² ft/min. Source: Shigley Eq. 14-29."""
    a, _ = dynamic_constants(quality)
    return float((a + quality - 3) ** 2 / FPM_PER_M_S)


def size_factor(face_mm: float, module_mm: float, form: float) -> float:
    """Size factor Ks [-]: 1.192 (F √Y / Pd)^0.0535 in inches, at least 1. Source: Shigley section 14-10.

    >>> round(size_factor(38.1, 2.54, 0.303), 3), round(size_factor(38.1, 2.54, 0.412), 3)
    (1.043, 1.052)
    """
    return max(float(1.192 * (face_mm / MM_PER_IN * sqrt(form) * module_mm / MM_PER_IN) ** 0.0535), 1.0)


def face_shares(face_mm: float, pinion_mm: float, running: str) -> tuple[float, float]:
    """What proportion C_pf and mounting C_ma add to the load distribution factor [-]. Shigley Eq. 14-32, 14-34."""
    face, d = face_mm / MM_PER_IN, pinion_mm / MM_PER_IN
    share = max(face / (10 * d), 0.05)
    a, b, c = MOUNTING[running]
    return share - 0.025 if face <= 1 else share - 0.0375 + 0.0125 * face, a + b * face + c * face**2


def face_factor(face_mm: float, pinion_mm: float, running: str) -> float:
    """Load distribution factor Km [-], uncrowned, straddle mounted. Source: Shigley Eq. 14-30 to 14-35."""
    proportion, mounting = face_shares(face_mm, pinion_mm, running)
    return 1 + proportion + mounting


def contact_geometry(ratio: float, angle_deg: float, internal: bool) -> float:
    """Contact geometry factor I [-]: cos φ sin φ / 2 · m_G / (m_G ± 1). Source: Shigley Eq. 14-23.

    >>> round(contact_geometry(52 / 17, 20.0, False), 4)
    0.1211
    """
    phi = radians(angle_deg)
    return cos(phi) * sin(phi) / 2 * ratio / (ratio - 1 if internal else ratio + 1)


def elastic_coefficient(first: tuple[float, float], second: tuple[float, float]) -> float:
    """Elastic coefficient Cp [√MPa] from E [GPa] and Poisson's ratio of both. Source: Shigley Eq. 14-13.

    >>> round(elastic_coefficient((207, 0.3), (207, 0.3)))
    190
    """
    soft = sum((1 - nu**2) / (1000 * modulus) for modulus, nu in (first, second))
    return sqrt(1 / (pi * soft))


#: Stress cycle factor in bending under 3 million cycles by hardness [HB]: a N^b, flat under 1000. Source: Shigley Fig.
#: 14-14, from memory; all meet 1.04 at 3 million.
SHORT_BENDING = ((160.0, 2.3194, -0.0538), (250.0, 4.9404, -0.1045), (400.0, 9.4518, -0.148))


def bending_cycle_factor(cycles: float, hardness_hb: float = 250.0) -> float:
    """Stress cycle factor YN [-]: 1.3558 N^-0.0178 beyond 3 million cycles, by hardness below. Shigley Fig. 14-14.

    >>> round(bending_cycle_factor(1e8), 3), round(bending_cycle_factor(1e8 * 17 / 52), 3)
    (0.977, 0.996)
    >>> round(bending_cycle_factor(1e5, 250.0), 3), round(bending_cycle_factor(1e5, 160.0), 3)
    (1.483, 1.248)
    """
    if cycles > 3e6:
        return float(1.3558 * cycles**-0.0178)
    counted = max(cycles, 1e3)
    points = [(hb, a * counted**b) for hb, a, b in SHORT_BENDING]
    return max(interpolated(points, hardness_hb), 1.0)


def contact_cycle_factor(cycles: float) -> float:
    """Stress cycle factor ZN [-]: 1.4488 N^-0.023 beyond 10 million cycles, 2.466 N^-0.056 below. Shigley Fig. 14-15.

    >>> round(contact_cycle_factor(1e8), 3), round(contact_cycle_factor(1e8 * 17 / 52), 3)
    (0.948, 0.973)
    >>> round(contact_cycle_factor(1e5), 3), round(contact_cycle_factor(10.0), 3)
    (1.294, 1.472)
    """
    return float(1.4488 * cycles**-0.023) if cycles > 1e7 else float(2.466 * max(cycles, 1e4) ** -0.056)


def bending_allowable_mpa(hardness_hb: float, cycles: float) -> float:
    """Allowable bending stress of through-hardened steel, grade 1 [MPa]. Source: Shigley Fig. 14-2.

    (77.3 HB + 12800) psi · YN / KR, HB 180 to 400.
    """
    return (77.3 * hardness_hb + 12_800) * MPA_PER_PSI * bending_cycle_factor(cycles, hardness_hb) / RELIABILITY


def contact_allowable_mpa(hardness_hb: float, cycles: float, hardness_ratio: float = 1.0) -> float:
    """Allowable contact stress of through-hardened steel, grade 1 [MPa]: (322 HB + 29100) psi · ZN CH / KR."""
    return (322 * hardness_hb + 29_100) * MPA_PER_PSI * contact_cycle_factor(cycles) * hardness_ratio / RELIABILITY


def hardness_ratio_factor(pinion_hb: float, gear_hb: float, ratio: float) -> float:
    """Hardness ratio factor CH of the gear [-]: 1 + A' (m_G - 1). Source: Shigley Eq. 14-36.

    >>> round(hardness_ratio_factor(240, 200, 52 / 17), 3)
    1.005
    """
    harder = pinion_hb / gear_hb
    slope = 0.0 if harder < 1.2 else 8.98e-3 * min(harder, 1.7) - 8.29e-3
    return 1 + slope * (ratio - 1)


def bending_force_n(stress_mpa: float, face_mm: float, module_mm: float, shape: float, factors: float) -> float:
    """Tangential force that a bending stress allows [N]: σ b m J / (Kv Ks Km)."""
    return stress_mpa * face_mm * module_mm * shape / factors


def contact_force_n(stress_mpa: float, sizes: tuple[float, float, float, float], factors: float) -> float:
    """Tangential force that a contact stress allows [N]: (σ_c / C_p)² d_P b I / (Kv Ks Km).

    ``sizes`` are C_p [√MPa], pinion diameter [mm], face width [mm] and I.
    """
    elastic, pinion_mm, face_mm, shape = sizes
    return (stress_mpa / elastic) ** 2 * pinion_mm * face_mm * shape / factors
