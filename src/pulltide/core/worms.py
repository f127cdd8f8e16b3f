"""Friction and efficiency of worm gearing, for stock units and for worms of one's own.

Source: Shigley's Mechanical Engineering Design, chapters 13 and 15 (AGMA 6034), from memory.
"""

from __future__ import annotations

from math import cos, exp, radians, tan

FPM_PER_M_S = 196.850394
#: Friction before an oil film forms, for the start. Common practice, no source: 0.10 to 0.15.
START_FRICTION = 0.12
#: Friction at rest. Source: AGMA 6034 at no sliding.
REST_FRICTION = 0.15
#: What bearings, seals and oil leave of the power. Common practice, no source: 0.93 to 0.97.
BEARINGS = 0.95


def efficiency(lead_deg: float, angle_deg: float, mu: float) -> float:
    """Efficiency of the mesh with the worm driving [-]: (cos φ - f tan λ) / (cos φ + f cot λ). Source: Eq. 13-46.

    >>> [round(efficiency(lead, 14.5, 0.05), 3) for lead in (1, 5, 10, 20, 30)]
    [0.252, 0.626, 0.766, 0.859, 0.891]
    """
    lead = radians(lead_deg)
    return (cos(radians(angle_deg)) - mu * tan(lead)) / (cos(radians(angle_deg)) + mu / tan(lead))


def back_efficiency(lead_deg: float, angle_deg: float, mu: float) -> float:
    """Efficiency with the wheel driving [-]; zero or less: it does not turn back at this friction. Eq. 13-47."""
    lead = radians(lead_deg)
    return (cos(radians(angle_deg)) - mu / tan(lead)) / (cos(radians(angle_deg)) + mu * tan(lead))


def velocity_factor(sliding_ft_min: float) -> float:
    """Velocity factor C_v of worm gearing [-] at a sliding speed [ft/min]. Source: AGMA 6034, Shigley Eq. 15-37.

    >>> round(velocity_factor(465.0), 4), round(velocity_factor(1419.0), 3)
    (0.3951, 0.211)
    """
    if sliding_ft_min < 700:
        return 0.659 * exp(-0.0011 * sliding_ft_min)
    if sliding_ft_min < 3000:
        return float(13.31 * sliding_ft_min**-0.571)
    return float(65.52 * sliding_ft_min**-0.774)
