"""Geometry of two pulleys and an open belt, shared by every family of belts."""

from __future__ import annotations

from math import asin, degrees, pi, sqrt

from pulltide.core.errors import ImpossibleGeometry


def open_belt_length_mm(small_mm: float, large_mm: float, center_mm: float) -> float:
    r"""Pitch length of an open belt.

    .. math:: L = 2C\cos\gamma + \pi(D+d)/2 + \gamma(D-d), \quad \gamma = \arcsin\frac{D-d}{2C}

    Parameters: d, D pitch diameters [mm] > 0 in either order; C center distance [mm] > |D - d| / 2.
    Raises ImpossibleGeometry if one pulley would lie inside the other. Source: exact.

    >>> round(open_belt_length_mm(63, 280, 420), 3)
    1406.971
    """
    difference = abs(large_mm - small_mm)
    if 2 * center_mm <= difference:
        raise ImpossibleGeometry("One pulley would lie inside the other at this center distance.")
    gamma = asin(difference / (2 * center_mm))
    span = sqrt(center_mm**2 - difference**2 / 4)
    return 2 * span + pi * (large_mm + small_mm) / 2 + gamma * difference


#: A little more than the least center, so that the next longer belt fits. Common practice, no source.
ROOM = 1.05


def compact_length_mm(one_mm: float, other_mm: float) -> float:
    """Pitch length of a belt at centers a little over the larger of D and (D + 3d)/2 [mm].

    Source: Machinery's Handbook, V-belt section, for that least center.

    >>> round(compact_length_mm(80.0, 224.0), 1)
    986.2
    """
    small, large = sorted((one_mm, other_mm))
    return open_belt_length_mm(small, large, ROOM * max(large, (large + 3 * small) / 2))


def handbook_center_mm(length_mm: float, small_mm: float, large_mm: float) -> float | None:
    r"""Center distance by the K formula, a close first value.

    .. math:: C = \frac{K + \sqrt{K^2 - 32(D-d)^2}}{16}, \quad K = 4L - 2\pi(D+d)

    Returns None where the root does not exist (belt too short). Source: Machinery's Handbook, V-belt section.

    >>> round(handbook_center_mm(61.3, 2.75, 13.5), 3)
    17.04
    """
    k = 4 * length_mm - 2 * pi * (large_mm + small_mm)
    inside = k**2 - 32 * (large_mm - small_mm) ** 2
    return (k + sqrt(inside)) / 16 if inside >= 0 and k > 0 else None


def center_from_length_mm(length_mm: float, small_mm: float, large_mm: float) -> float:
    """Center distance [mm] at which an open belt of pitch length L [mm] is taut, solved exactly.

    Newton's method on the exact length, whose slope is 2 cos(gamma); the length rises with C and is convex, so
    the method started above the root cannot overshoot it.

    Raises ImpossibleGeometry if the belt cannot go round both pulleys. Source: exact.

    >>> round(center_from_length_mm(61.3, 2.75, 13.5), 3)
    17.032
    """
    small, large = sorted((small_mm, large_mm))
    if length_mm <= pi * large:
        raise ImpossibleGeometry("The belt is shorter than the rim of the large pulley alone.")
    center = handbook_center_mm(length_mm, small, large) or length_mm / 2
    center = max(center, (large - small) / 2 * 1.0001)
    for _ in range(60):
        excess = open_belt_length_mm(small, large, center) - length_mm
        slope = 2 * sqrt(1 - ((large - small) / (2 * center)) ** 2)
        step = excess / slope
        center = max(center - step, (center + (large - small) / 2) / 2)
        if abs(step) < 1e-10 * length_mm:
            break
    return center


def wrap_small_deg(small_mm: float, large_mm: float, center_mm: float) -> float:
    """Wrap of the small pulley [degrees]: 180 - 2 asin((D - d) / 2C). Source: exact.

    >>> round(wrap_small_deg(63, 280, 420), 3)
    150.058
    """
    return 180.0 - 2.0 * degrees(asin(min(abs(large_mm - small_mm) / (2 * center_mm), 1.0)))
