"""Geometry of two sprockets and a roller chain."""

from __future__ import annotations

from math import asin, cos, degrees, pi, radians, sin, sqrt, tan

from pulltide.core.errors import ImpossibleGeometry


def pitch_diameter_mm(pitch_mm: float, teeth: int) -> float:
    r"""Pitch diameter of a sprocket [mm]: D = p / sin(180 deg / N). Source: Shigley Eq. 17-29, exact.

    Parameters: pitch p [mm] > 0; teeth N >= 6. The circle through the pin centers, not the outside.

    >>> round(pitch_diameter_mm(12.7, 17) / 25.4, 4)
    2.7211
    """
    return pitch_mm / sin(pi / teeth)


def outside_diameter_mm(pitch_mm: float, teeth: int) -> float:
    """Outside diameter over the tooth tips [mm]: p (0.6 + cot(180 deg / N)). Source: ANSI B29.1, approximate.

    >>> round(outside_diameter_mm(12.7, 17) / 25.4, 4)
    2.9748
    """
    return pitch_mm * (0.6 + 1.0 / tan(pi / teeth))


def caliper_diameter_mm(pitch_mm: float, teeth: int, roller_mm: float) -> float:
    """Diameter over two roots [mm]: D - D_r with even teeth, D cos(90 deg / N) - D_r with odd. Source: exact.

    >>> round(caliper_diameter_mm(12.7, 17, 0.312 * 25.4) / 25.4, 4)
    2.3975
    """
    pitch_diameter = pitch_diameter_mm(pitch_mm, teeth)
    return pitch_diameter * (1.0 if teeth % 2 == 0 else cos(pi / 2 / teeth)) - roller_mm


def largest_hub_mm(pitch_mm: float, teeth: int) -> float:
    """Largest hub that clears the chain's side plates [mm]: p (cot(180 deg / N) - 1) - 0.030 in.

    Source: Machinery's Handbook sprocket proportions, from memory.

    >>> round(largest_hub_mm(12.7, 17) / 25.4, 3)
    2.145
    """
    return pitch_mm * (1.0 / tan(pi / teeth) - 1.0) - 0.762


def greatest_bore_mm(pitch_mm: float, teeth: int) -> float:
    """Greatest bore of an ordinary keyed steel hub [mm]: (MHD - 2 K - 0.02 PD) / (4/3).

    MHD = p (cot(180 deg / N) - 1) - 0.030 in; hub wall H = K + bore/6 + 0.01 PD, K by pitch diameter.
    Source: Machinery's Handbook sprocket proportions, from memory; makers allow somewhat more.

    >>> round(greatest_bore_mm(12.7, 17) / 25.4, 3)
    1.287
    """
    pitch_dia_in = pitch_diameter_mm(pitch_mm, teeth) / 25.4
    wall_in = 0.125 if pitch_dia_in <= 2 else 0.187 if pitch_dia_in <= 4 else 0.25 if pitch_dia_in <= 6 else 0.375
    hub_in = largest_hub_mm(pitch_mm, teeth) / 25.4
    return max((hub_in - 2 * wall_in - 0.02 * pitch_dia_in) / (4.0 / 3.0) * 25.4, 0.0)


def length_pitches(center_pitches: float, teeth_1: int, teeth_2: int) -> float:
    """Chain length in pitches, approximate: X = 2c + (N1+N2)/2 + (N2-N1)^2 / (4 pi^2 c). Shigley Eq. 17-34.

    >>> round(length_pitches(30.0, 19, 57), 2)
    99.22
    """
    return 2 * center_pitches + (teeth_1 + teeth_2) / 2 + (teeth_2 - teeth_1) ** 2 / (4 * pi**2 * center_pitches)


def exact_length_pitches(center_pitches: float, teeth_1: int, teeth_2: int) -> float:
    """Chain length in pitches round the pitch circles' tangents; c > R2 - R1. Source: exact.

    With R = 1 / (2 sin(180 deg / N)) and beta = asin((R2 - R1) / c):
    X = 2 c cos(beta) + N1 (180 - 2 beta) / 360 + N2 (180 + 2 beta) / 360.
    """
    small, large = sorted((teeth_1, teeth_2))
    difference = _radius_pitches(large) - _radius_pitches(small)
    if center_pitches <= difference:
        raise ImpossibleGeometry("One sprocket would lie inside the other at this center distance.")
    beta = degrees(asin(difference / center_pitches))
    return 2 * sqrt(center_pitches**2 - difference**2) + small * (180 - 2 * beta) / 360 + large * (180 + 2 * beta) / 360


def _radius_pitches(teeth: int) -> float:
    return 1.0 / (2.0 * sin(radians(180.0 / teeth)))


def handbook_center_pitches(pitches: float, teeth_1: int, teeth_2: int) -> float | None:
    """Center distance in pitches: c = (-A + sqrt(A^2 - 8 ((N2-N1)/(2 pi))^2)) / 4, A = (N1+N2)/2 - X.

    Returns None where the chain is too short. Source: Shigley Eq. 17-35 and 17-36.

    >>> round(handbook_center_pitches(100, 19, 57), 3)
    30.398
    """
    a = (teeth_1 + teeth_2) / 2 - pitches
    inside = a**2 - 8 * ((teeth_2 - teeth_1) / (2 * pi)) ** 2
    return (-a + sqrt(inside)) / 4 if inside >= 0 and a < 0 else None


def center_pitches(pitches: float, teeth_1: int, teeth_2: int) -> float:
    """Center distance in pitches at which a chain of X pitches is taut, solved exactly by Newton's method.

    Raises ImpossibleGeometry if the chain cannot go round both sprockets. Source: exact.

    >>> round(center_pitches(100, 19, 57), 3)
    30.396
    """
    center = handbook_center_pitches(pitches, teeth_1, teeth_2)
    difference = abs(_radius_pitches(teeth_2) - _radius_pitches(teeth_1))
    if center is None or center <= difference:
        raise ImpossibleGeometry("The chain is too short to go round these sprockets.")
    for _ in range(60):
        slope = 2 * sqrt(1 - (difference / center) ** 2)
        step = (exact_length_pitches(center, teeth_1, teeth_2) - pitches) / slope
        center = max(center - step, (center + difference) / 2)
        if abs(step) < 1e-12 * pitches:
            break
    return center


def wrap_small_deg(pitch_mm: float, teeth: tuple[int, int], center_mm: float) -> float:
    """Wrap of the smaller sprocket [degrees]: 180 - 2 asin((PD2 - PD1) / (2 C)). Source: exact."""
    first, second = (pitch_diameter_mm(pitch_mm, count) for count in teeth)
    return 180.0 - 2.0 * degrees(asin(min(abs(second - first) / (2 * center_mm), 1.0)))


def chordal_variation(teeth: int) -> float:
    """Speed variation as the chain rises and falls on a sprocket [-]: (pi/N)(1/sin(180/N) - 1/tan(180/N)).

    Source: Shigley Eq. 17-31.

    >>> round(100 * chordal_variation(17), 2)
    1.71
    """
    half = pi / teeth
    return half * (1 / sin(half) - 1 / tan(half))
