"""Every conversion factor of the core, once. Exact unless the comment says otherwise."""

from __future__ import annotations

from math import pi

MM_PER_IN = 25.4
KW_PER_HP = 0.74569987158227  # 550 ft·lbf/s
M_PER_S_PER_FT_PER_MIN = 0.00508
G_M_PER_S2 = 9.80665
RPM_PER_RAD_PER_S = 30.0 / pi

#: Torque in N·m is this number times power in kW over speed in rpm.
NM_RPM_PER_KW = 60_000.0 / (2.0 * pi)


def torque_nm(power_kw: float, speed_rpm: float) -> float:
    """Torque carried by a shaft [N·m] from power P [kW] and speed n [rpm] > 0: T = 60000 P / (2 pi n).

    >>> round(torque_nm(2.0, 1440.0), 4)
    13.2629
    """
    return NM_RPM_PER_KW * power_kw / speed_rpm


def power_kw(torque_nm: float, speed_rpm: float) -> float:
    """Power carried by a shaft [kW] from torque T [N·m] and speed n [rpm].

    >>> round(power_kw(13.2629, 1440.0), 4)
    2.0
    """
    return torque_nm * speed_rpm / NM_RPM_PER_KW


def rpm_of_rim(diameter_mm: float, speed_m_per_s: float) -> float:
    """Speed [rpm] of a shaft whose rim of diameter d [mm] > 0 runs at v [m/s]: n = 60000 v / (pi d).

    >>> round(rpm_of_rim(100.0, 33.0), 1)
    6302.5
    """
    return 60_000.0 * speed_m_per_s / (pi * diameter_mm)


def rim_speed_m_per_s(diameter_mm: float, speed_rpm: float) -> float:
    """Speed of a rim [m/s] of diameter d [mm] at n [rpm]: v = pi d n / 60000."""
    return pi * diameter_mm * speed_rpm / 60_000.0
