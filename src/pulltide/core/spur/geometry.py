"""Geometry of involute spur gears, full depth. Lengths in mm, angles in degrees."""

from __future__ import annotations

from math import acos, cos, degrees, floor, inf, pi, radians, sin, sqrt


def center_mm(module_mm: float, small: int, large: int, internal: bool) -> float:
    """Standard center distance [mm]: m (N2 ± N1) / 2, minus for a gear inside a ring."""
    return module_mm * (large - small if internal else large + small) / 2


def undercut_teeth(angle_deg: float) -> float:
    """Fewest teeth a hob cuts without undercut: 2 / sin²φ. Source: Shigley Eq. 13-13.

    >>> round(undercut_teeth(20.0), 1), round(undercut_teeth(14.5), 1)
    (17.1, 31.9)
    """
    return 2 / sin(radians(angle_deg)) ** 2


def min_teeth(angle_deg: float, shift: float = 0.0) -> int:
    """Fewest teeth in practice without undercut: 2 (1 - x) / sin²φ, rounded down: a tenth of a tooth is no matter.

    >>> min_teeth(20.0), min_teeth(14.5), min_teeth(20.0, 0.4), min_teeth(25.0)
    (17, 31, 10, 11)
    """
    return max(floor(2 * (1 - shift) / sin(radians(angle_deg)) ** 2), 0)


def largest_mate(pinion: int, angle_deg: float) -> float:
    """Largest gear that runs with a pinion without interference, infinite where any does. Source: Shigley Eq. 13-12.

    >>> [largest_mate(n, 20.0) for n in (13, 14, 15, 16, 17, 18)]
    [16, 26, 45, 101, 1309, inf]
    """
    s2 = sin(radians(angle_deg)) ** 2
    below = 4 - 2 * pinion * s2
    return inf if below <= 0 else max(floor((pinion**2 * s2 - 4) / below), 0)


def contact_ratio(teeth: tuple[int, int], angle_deg: float, internal: bool, spread_modules: float = 0.0) -> float:
    """Pairs of teeth in contact on average, in modules so that size does not matter. Source: Shigley section 13-4.

    External: (√(ra1² - rb1²) + √(ra2² - rb2²) - C' sin φ') / p_b; internal: the ring's own term is taken off.

    >>> round(contact_ratio((18, 18), 20.0, False), 3), round(contact_ratio((24, 72), 20.0, False), 3)
    (1.53, 1.707)
    """
    small, large = teeth
    phi = radians(angle_deg)
    base = [n / 2 * cos(phi) for n in teeth]
    center = ((large - small) if internal else (small + large)) / 2 + spread_modules
    cosine = ((base[1] - base[0]) if internal else sum(base)) / center
    working = acos(min(cosine, 1.0))
    first = sqrt(max((small / 2 + 1) ** 2 - base[0] ** 2, 0.0))
    if internal:
        second = -sqrt(max((large / 2 - 1) ** 2 - base[1] ** 2, 0.0))
        path = first + second + center * sin(working)
    else:
        path = first + sqrt(max((large / 2 + 1) ** 2 - base[1] ** 2, 0.0)) - center * sin(working)
    return path / (pi * cos(phi))


def working_angle_deg(teeth: tuple[int, int], angle_deg: float, spread_modules: float) -> float:
    """Pressure angle at spread centers [degrees]: cos φ' = C cos φ / C'. Source: exact.

    >>> round(working_angle_deg((16, 40), 20.0, 0.5), 2)
    22.6
    """
    standard = sum(teeth) / 2
    return degrees(acos(min(standard * cos(radians(angle_deg)) / (standard + spread_modules), 1.0)))
