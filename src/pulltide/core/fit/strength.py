"""Strength of a round shaft: notches, endurance, fatigue by distortion energy, first yield, and the older code formula.

Stresses in MPa, moments and torques in N·mm, diameters in mm.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from math import inf, pi, sqrt
from typing import Literal

from pulltide.core.tables import Row, interpolated, load_table, number

PACKAGE = "pulltide.core.fit"
#: Share of the endurance limit left at a reliability [%]. Source: Shigley Table 6-5, from memory.
RELIABILITY = {50: 1.0, 90: 0.897, 95: 0.868, 99: 0.814}
#: Allowed shear stress with a keyseat where the steel is not known, and what shock adds to bending and torsion.
#: Source: ASME B17c, from memory (6000 psi).
CODE_MPA, CODE_BENDING, CODE_TORSION = 41.4, 1.5, 1.0


@dataclass(frozen=True, slots=True)
class Steel:
    """Tensile and yield strength of a steel [MPa]."""

    sut_mpa: float
    sy_mpa: float
    known: bool = True


@cache
def steel(code: str) -> Steel:
    """A steel by its code; one that is not known is the weakest bar that is sold."""
    rows = {row["steel"]: row for row in load_table(PACKAGE, "shaft_steels").rows}
    row = rows.get(code, rows["not_known"])
    return Steel(number(row, "sut_mpa"), number(row, "sy_mpa"), code in rows and code != "not_known")


@dataclass(frozen=True, slots=True)
class Notch:
    """What a notch makes of the stress in bending and torsion [-]."""

    bending: float
    torsion: float


@cache
def _notches() -> dict[str, Row]:
    return {row["notch"]: row for row in load_table(PACKAGE, "notches").rows}


def neuber_bending(sut_mpa: float) -> float:
    """√a for bending [√mm]. Source: Shigley Eq. 6-35, from memory, converted to MPa.

    >>> round(1 + (1.65 - 1) / (1 + neuber_bending(690.0) / 3.0**0.5), 2)
    1.55
    """
    return 1.24 - 2.25e-3 * sut_mpa + 1.60e-6 * sut_mpa**2 - 4.11e-10 * sut_mpa**3


def neuber_torsion(sut_mpa: float) -> float:
    """√a for torsion [√mm]. Source: Shigley Eq. 6-36, from memory, converted to MPa."""
    return 0.958 - 1.83e-3 * sut_mpa + 1.43e-6 * sut_mpa**2 - 4.11e-10 * sut_mpa**3


@dataclass(frozen=True, slots=True)
class Shoulder:
    """A step in a shaft: the larger diameter over the smaller, and the fillet's radius over the smaller [-]."""

    over: float
    radius: float


def shoulder_kt(shoulder: Shoulder, mode: Literal["bending", "torsion"]) -> float:
    """Stress at a fillet over that of the smaller diameter [-]; the larger of two published forms.

    K_t = Σ C_i (2h/D)^(i-1) with C_i = k0 + k1 √(h/r) + k2 h/r; K_t = A (r/d)^b, straight between the D/d that are
    listed. Source: Peterson, and the forms that Norton prints, from memory.

    >>> round(shoulder_kt(Shoulder(1.5, 0.1), "bending"), 2), round(shoulder_kt(Shoulder(2.0, 0.05), "torsion"), 2)
    (1.74, 1.76)
    """
    deep = (shoulder.over - 1) / 2
    rows = [row for row in load_table(PACKAGE, "shoulders").rows if row["mode"] == mode]
    ratio = deep / shoulder.radius
    found = [_power_kt(rows, shoulder)]
    branch = [row for row in rows if row["form"] == "polynomial" and number(row, "from") <= ratio <= number(row, "to")][
        :4
    ]
    if branch:
        terms = [number(row, "k0") + number(row, "k1") * sqrt(ratio) + number(row, "k2") * ratio for row in branch]
        found.append(sum(term * (2 * deep / shoulder.over) ** k for k, term in enumerate(terms)))
    return max(*found, 1.0)


def _power_kt(rows: list[Row], shoulder: Shoulder) -> float:
    """By A (r/d)^b, between the rows of D/d; level beyond them, and 1 where there is no step."""
    powers = sorted(
        (number(row, "from"), number(row, "k0") * shoulder.radius ** number(row, "k1"))
        for row in rows
        if row["form"] == "power"
    )
    return interpolated(((1.0, 1.0), *powers), shoulder.over)


def notch(name: str | Shoulder, diameter_mm: float, sut_mpa: float) -> Notch:
    """Fatigue factors of a notch: K_f = 1 + (K_t - 1) / (1 + √a / √r), or as tests give them.

    >>> found = notch("keyseat", 35.0, 570.0)
    >>> round(found.bending, 4), round(found.torsion, 4)
    (1.7705, 2.4678)
    """
    if isinstance(name, Shoulder):
        stress = shoulder_kt(name, "bending"), shoulder_kt(name, "torsion")
        return _fatigue(stress, name.radius * diameter_mm, sut_mpa)
    row = _notches()[name]
    if row["kf_bending"] != "na":
        return Notch(number(row, "kf_bending"), number(row, "kf_torsion"))
    stress = number(row, "kt_bending"), number(row, "kt_torsion")
    return _fatigue(stress, number(row, "radius_share") * diameter_mm, sut_mpa)


def _fatigue(stress: tuple[float, float], radius_mm: float, sut_mpa: float) -> Notch:
    """What of a stress concentration in bending and torsion counts in fatigue, by the radius at its root [mm]."""
    bending = 1 + (stress[0] - 1) / (1 + neuber_bending(sut_mpa) / sqrt(radius_mm))
    torsion = 1 + (stress[1] - 1) / (1 + neuber_torsion(sut_mpa) / sqrt(radius_mm))
    return Notch(bending, torsion)


def endurance_mpa(sut_mpa: float, diameter_mm: float, reliability: int = 50) -> float:
    """S_e = k_a k_b k_e 0.5 S_ut [MPa], machined or drawn surface. Source: Shigley Eqs. 6-18 to 6-20, Table 6-2.

    >>> round(endurance_mpa(570.0, 35.0), 2)
    202.73
    """
    surface = 4.51 * sut_mpa**-0.265
    size = 1.24 * diameter_mm**-0.107 if diameter_mm <= 51 else 1.51 * diameter_mm**-0.157
    return float(surface * size * RELIABILITY[reliability] * 0.5 * min(sut_mpa, 1400.0))


@dataclass(frozen=True, slots=True)
class Stressed:
    """A section that turns under a bending moment fixed in space, with a steady torque [N·mm]."""

    moment_nmm: float
    torque_nmm: float
    diameter_mm: float
    notch: Notch

    @property
    def bending_mpa(self) -> float:
        """Alternating bending stress with its notch: 32 K_f M / (π d³)."""
        return 32 * self.notch.bending * self.moment_nmm / (pi * self.diameter_mm**3)

    @property
    def torsion_mpa(self) -> float:
        """Steady shear stress with its notch: 16 K_fs T / (π d³)."""
        return 16 * self.notch.torsion * self.torque_nmm / (pi * self.diameter_mm**3)

    def goodman(self, endurance: float, sut_mpa: float) -> float:
        """Safety against fatigue by distortion energy and Goodman [-]. Source: Shigley Eq. 7-7."""
        return _over(self.bending_mpa / endurance + sqrt(3) * self.torsion_mpa / sut_mpa)

    def elliptic(self, endurance: float, sy_mpa: float) -> float:
        """Safety against fatigue by the ASME ellipse [-]. Source: Shigley Eq. 7-11."""
        return _over(sqrt((self.bending_mpa / endurance) ** 2 + 3 * (self.torsion_mpa / sy_mpa) ** 2))

    def yields(self, sy_mpa: float) -> float:
        """Safety against yield in the first turn [-]: S_y / √(σ² + 3 τ²), notches in. Source: Shigley Eq. 7-16."""
        return _over(sqrt(self.bending_mpa**2 + 3 * self.torsion_mpa**2) / sy_mpa)


def _over(share: float) -> float:
    """Safety of a share of what is allowed; infinite where nothing is used."""
    return 1 / share if share > 0 else inf


def code_diameter_mm(moment_nmm: float, torque_nmm: float, allowed_mpa: float = CODE_MPA) -> float:
    """Least diameter by the older code: d³ = 16/(π τ) √((K_b M)² + (K_t T)²) [mm]. Source: ASME B17c, from memory.

    >>> round(code_diameter_mm(200e3, 300e3, 55.2), 2)
    33.95
    """
    together = sqrt((CODE_BENDING * moment_nmm) ** 2 + (CODE_TORSION * torque_nmm) ** 2)
    return float((16 * together / (pi * allowed_mpa)) ** (1 / 3))


def goodman_diameter_mm(
    moment_nmm: float, torque_nmm: float, of: Steel, safety: float, notched: str | Shoulder
) -> float:
    """Least diameter for a safety by Goodman [mm], 3 to 400; the notch and the size effect follow the diameter.

    >>> round(goodman_diameter_mm(111.94e3, 134e3, Steel(570.0, 310.0), 1.5, "keyseat"), 1)
    28.0
    """

    low, high = 3.0, 400.0
    for _ in range(40):
        middle = (low + high) / 2
        section = Stressed(moment_nmm, torque_nmm, middle, notch(notched, middle, of.sut_mpa))
        strong = section.goodman(endurance_mpa(of.sut_mpa, middle), of.sut_mpa) >= safety
        low, high = (low, middle) if strong else (middle, high)
    return high


@cache
def stock_bars() -> tuple[tuple[float, bool], ...]:
    """Diameters that bar is sold in [mm], rising, and whether a bearing insert takes them."""
    rows = load_table(PACKAGE, "shaft_stock").rows
    return tuple(sorted((number(row, "diameter_mm"), row["insert_bearing_bore"] == "yes") for row in rows))


def next_bar_mm(min_mm: float, *, inch: bool) -> float | None:
    """The next bar with a bearing insert that is no thinner [mm], by the inch or not; None above the list."""
    from pulltide.core.shafts import is_inch_shaft

    fits = (size for size, takes in stock_bars() if takes and size >= min_mm - 1e-9 and is_inch_shaft(size) is inch)
    return next(fits, None)
