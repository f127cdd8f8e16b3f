"""Geometry, friction, efficiency, forces, wear and heat of a worm and wheel.

Published formulas take inches, ft/min, lbf and degrees Fahrenheit; they are converted at this file's edge.
Source: Shigley's Mechanical Engineering Design, chapters 13 and 15 (AGMA 6034), from memory.
"""

from __future__ import annotations

from math import atan, cos, degrees, exp, log10, pi, radians, sin, sqrt, tan

from pulltide.core import worms
from pulltide.core.worms import BEARINGS, FPM_PER_M_S, REST_FRICTION, START_FRICTION, back_efficiency, efficiency

__all__ = ["BEARINGS", "FPM_PER_M_S", "REST_FRICTION", "START_FRICTION", "back_efficiency", "efficiency"]

MM_PER_IN, N_PER_LBF = 25.4, 4.4482216
#: Friction of a soft or rough worm over that of a hardened one. Common practice, no source: 1.5 to 2.
ROUGH_WORM = 2.0
#: Lasting bending stress of a bronze wheel [MPa]: half the endurance limit of phosphor bronze, 24,000 psi.
#: Source: Buckingham, from memory; the half by common practice.
BRONZE_MPA = 82.7


def lead_angle_deg(starts: int, module_mm: float, worm_mm: float) -> float:
    """Lead angle [degrees]: tan λ = L / (π d) = z1 m / d. Source: exact.

    >>> round(lead_angle_deg(2, 25.4 / 6, 50.8), 3)
    9.462
    """
    return degrees(atan(starts * module_mm / worm_mm))


def center_mm(module_mm: float, wheel_teeth: int, worm_mm: float) -> float:
    """Center distance [mm]: (d + m N) / 2. Source: exact."""
    return (worm_mm + module_mm * wheel_teeth) / 2


def sliding_m_per_s(worm_mm: float, worm_rpm: float, lead_deg: float) -> float:
    """Sliding speed [m/s]: π d n / (60000 cos λ). Source: exact."""
    return pi * worm_mm * worm_rpm / (60_000 * cos(radians(lead_deg)))


def friction(sliding: float, rough: bool = False) -> float:
    """Coefficient of friction [-] at a sliding speed [m/s] >= 0, hardened steel on bronze in oil; rough worms twice it.

    0.124 exp(-0.074 V^0.645) up to 10 ft/min, 0.103 exp(-0.110 V^0.450) + 0.012 above, 0.15 at rest.
    Source: AGMA 6034, Shigley Eq. 15-38.

    >>> [round(friction(v / 196.850394), 3) for v in (0, 1, 10, 100, 700, 2000)]
    [0.15, 0.115, 0.089, 0.055, 0.025, 0.016]
    """
    v = sliding * FPM_PER_M_S
    if v <= 0:
        value = REST_FRICTION
    elif v <= 10:
        value = 0.124 * exp(-0.074 * v**0.645)
    else:
        value = 0.103 * exp(-0.110 * v**0.450) + 0.012
    return value * (ROUGH_WORM if rough else 1.0)


def holding_friction(lead_deg: float, angle_deg: float) -> float:
    """Friction from which a wheel no longer turns its worm [-]: cos φ tan λ. Source: Eq. 15-47.

    >>> round(holding_friction(9.07, 20.0), 3)
    0.15
    """
    return cos(radians(angle_deg)) * tan(radians(lead_deg))


def separating_n(wheel_n: float, lead_deg: float, angle_deg: float, mu: float) -> float:
    """Force that parts worm and wheel [N]: F sin φ / (cos φ cos λ - f sin λ). Source: Shigley Eq. 13-41, 13-43."""
    phi, lead = radians(angle_deg), radians(lead_deg)
    return wheel_n * sin(phi) / (cos(phi) * cos(lead) - mu * sin(lead))


def materials_factor(center: float, wheel_mm: float, cast: str) -> float:
    """Materials factor C_s [-] of a bronze wheel. Source: AGMA 6034, Shigley Eq. 15-32 to 15-35.

    Up to 3 in of center distance 720 + 10.37 C³: some printings give 270, which would leave a step of 450 at 3 in.
    The smaller of this and the value by wheel diameter.

    >>> round(materials_factor(114.3, 152.4, "sand_cast"))
    819
    """
    d, c = wheel_mm / MM_PER_IN, center / MM_PER_IN
    forms = {"sand_cast": (2.5, 1190.0, 477.0), "chill_cast": (8.0, 1412.0, 456.0)}
    most, start, slope = forms.get(cast, (25.0, 1251.0, 180.0))
    value = 1000.0 if d <= most else start - slope * log10(d)
    return min(value, 720 + 10.37 * c**3) if c <= 3 else value


def ratio_factor(ratio: float) -> float:
    """Ratio correction factor C_m [-]. Source: AGMA 6034, Shigley Eq. 15-36; held below 3 and never under 0.2.

    >>> round(ratio_factor(24), 3)
    0.823
    """
    i = max(ratio, 3.0)
    if i <= 20:
        return 0.02 * sqrt(-(i**2) + 40 * i - 76) + 0.46
    if i <= 76:
        return 0.0107 * sqrt(-(i**2) + 56 * i + 5145)
    return max(1.1483 - 0.00658 * i, 0.2)


def velocity_factor(sliding: float) -> float:
    """Velocity factor C_v [-] at a sliding speed [m/s]. Source: AGMA 6034, Shigley Eq. 15-37."""
    return worms.velocity_factor(sliding * FPM_PER_M_S)


def wear_n(center: float, wheel_mm: float, face_mm: float, ratio: float, at: tuple[float, str]) -> float:
    """Tangential force on the wheel that wear allows [N]: C_s D^0.8 F_e C_m C_v. Source: Shigley Eq. 15-28.

    ``at`` is sliding speed [m/s] and how the bronze is cast; the face counts up to 0.67 of the worm, see the caller.
    """
    sliding, cast = at
    pounds = materials_factor(center, wheel_mm, cast) * (wheel_mm / MM_PER_IN) ** 0.8 * face_mm / MM_PER_IN
    return float(pounds * ratio_factor(ratio) * velocity_factor(sliding) * N_PER_LBF)


def bending_n(stress_mpa: float, module_mm: float, face_mm: float, form: float, lead_deg: float) -> float:
    """Tangential force on the wheel that bending allows [N]: σ p_n F y, p_n = π m cos λ. Source: Shigley Eq. 15-53."""
    return stress_mpa * pi * module_mm * cos(radians(lead_deg)) * face_mm * form


def min_case_area_m2(center: float) -> float:
    """Least outer area of a case [m²] by center distance [mm]: 43.2 C^1.7 in². Source: AGMA 6034, Shigley Eq. 15-52.

    >>> round(min_case_area_m2(100.0), 3)
    0.286
    """
    return float(43.2 * (center / MM_PER_IN) ** 1.7 * 0.0254**2)


def oil_temperature_c(lost_kw: float, area_m2: float, worm_rpm: float, fan: bool, ambient_c: float) -> float:
    """Temperature of the oil [°C] once it settles: ambient + loss / (h A). Source: Shigley Eq. 15-49 to 15-51.

    h = n / 6494 + 0.13 without fan, n / 3939 + 0.13 with one, ft·lbf/(min·in²·°F).
    """
    h = worm_rpm / (3939 if fan else 6494) + 0.13
    foot_pounds = lost_kw / 0.745699872 * 33_000
    return ambient_c + foot_pounds / (h * area_m2 / 0.0254**2) / 1.8


def usual_worm_mm(center: float) -> tuple[float, float]:
    """Least and greatest usual worm diameter [mm]: C^0.875 / 3.0 to C^0.875 / 1.7 in. Source: Shigley Eq. 15-27."""
    base = float((center / MM_PER_IN) ** 0.875) * MM_PER_IN
    return base / 3.0, base / 1.7
