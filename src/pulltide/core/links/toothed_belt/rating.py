"""What a timing belt carries, and how many teeth share it."""

from __future__ import annotations

from math import floor, pi

from pulltide.core.links.toothed_belt.tables import ProfileData


def pitch_diameter_mm(pitch_mm: float, teeth: int) -> float:
    """Pitch diameter of a toothed pulley [mm]: d = z p / π; it lies outside the teeth, in the belt's cords.

    >>> round(pitch_diameter_mm(9.525, 20), 3)
    60.638
    """
    return teeth * pitch_mm / pi


def teeth_in_mesh(small_teeth: int, large_teeth: int, pitch_mm: float, center_mm: float) -> int:
    """Whole teeth of the small pulley in the belt: z1/2 - p z1 (z2 - z1) / (2 π² C). Source: ISO 5294.

    >>> teeth_in_mesh(20, 60, 9.525, 239.946)
    8
    """
    return max(
        floor(small_teeth / 2 - pitch_mm * small_teeth * (large_teeth - small_teeth) / (2 * pi**2 * center_mm)), 0
    )


def mesh_factor(mesh: int) -> float:
    """Share of the rating left with few teeth in mesh: 1 from six on, 0.2 less for each one missing. Source: ISO 5294.

    >>> mesh_factor(8), mesh_factor(5), mesh_factor(1)
    (1.0, 0.8, 0.0)
    """
    return 1.0 if mesh >= 6 else max(round(1 - 0.2 * (6 - mesh), 10), 0.0)


def width_factor(profile: ProfileData, width_mm: float) -> float:
    """Share of the base width's pull: (w / w0)^1.14 by standard, in proportion for the others. Source: ISO 5294."""
    share = width_mm / profile.base_width_mm
    return float(share**1.14) if profile.by_standard else share


def centrifugal_n(profile: ProfileData, width_mm: float, speed_m_per_s: float) -> float:
    """Pull that the belt's own mass takes [N]: m (w / w0) v²."""
    return profile.mass_kg_m * width_mm / profile.base_width_mm * speed_m_per_s**2


def allowable_pull_n(profile: ProfileData, width_mm: float, mesh: int) -> float:
    """Working pull of the belt [N]: k_z k_w T_a."""
    return mesh_factor(mesh) * width_factor(profile, width_mm) * profile.allowable_n


def rating_kw(profile: ProfileData, width_mm: float, mesh: int, speed_m_per_s: float) -> float:
    """Power a timing belt carries [kW]: (k_z k_w T_a - (w / w0) m v²) v / 1000, never below 0. Source: ISO 5294."""
    pull = allowable_pull_n(profile, width_mm, mesh) - centrifugal_n(profile, width_mm, speed_m_per_s)
    return max(pull, 0.0) * speed_m_per_s / 1000
