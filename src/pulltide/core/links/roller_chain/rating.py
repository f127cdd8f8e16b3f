"""Rating of roller chain. Published equations take inches and give horsepower."""

from __future__ import annotations

from dataclasses import dataclass
from math import log, log10

from pulltide.core.links.roller_chain.tables import ChainSize
from pulltide.core.observed import USUAL_SAG
from pulltide.core.units import G_M_PER_S2, KW_PER_HP, MM_PER_IN


@dataclass(frozen=True, slots=True)
class Rating:
    """Power one strand carries by each limit [kW]; the least one governs."""

    plates_kw: float
    rollers_kw: float
    galling_kw: float

    @property
    def min_kw(self) -> float:
        """The governing rating [kW]; zero where the speed is not allowed."""
        return max(min(self.plates_kw, self.rollers_kw, self.galling_kw), 0.0)

    @property
    def governed_by(self) -> str:
        """The name of the governing limit."""
        named = {"plate fatigue": self.plates_kw, "roller impact": self.rollers_kw, "galling": self.galling_kw}
        return min(named, key=lambda name: named[name])


def rating(size: ChainSize, small_teeth: int, small_speed_rpm: float) -> Rating:
    """Rating of one strand [kW]: 15000 h, about 100 pitches, lubricated as recommended.

    Parameters: chain size; N teeth and n speed [rpm] > 0 of the small sprocket. p pitch in inches.
    Plates H1 = Kp N^1.08 n^0.9 p^(3 - 0.07 p); rollers H2 = 1000 Kr N^1.5 p^0.8 / n^1.5;
    galling H3 = (n p N / 110.84)(4.413 - 2.073 p - 0.0274 N - ln(n/1000)(1.59 log10 p + 1.873)).
    Source: Shigley Eq. 17-32, 17-33 and 17-40.
    """
    p, n, teeth = size.pitch_mm / MM_PER_IN, small_speed_rpm, small_teeth
    plates = size.plate_constant * teeth**1.08 * n**0.9 * p ** (3 - 0.07 * p)
    rollers = 1000 * size.roller_constant * teeth**1.5 * p**0.8 / n**1.5
    galling = n * p * teeth / 110.84 * (4.413 - 2.073 * p - 0.0274 * teeth - log(n / 1000) * (1.59 * log10(p) + 1.873))
    return Rating(plates * KW_PER_HP, rollers * KW_PER_HP, galling * KW_PER_HP)


#: Stretch at which a chain is done [%]: on sprockets up to 67 teeth; with fixed centers. Chain makers' guidance and
#: common practice, from memory.
WORN_PERCENT, WORN_FIXED_PERCENT, WORN_TEETH = 3.0, 1.5, 67


def worn_percent(large_teeth: int, fixed_centers: bool) -> float:
    """Stretch at which a chain is to be replaced [%]: 3 up to 67 teeth, 200 / N beyond, at most 1.5 on fixed centers.

    A stretched chain climbs a large sprocket. Source: chain makers' guidance, from memory.

    >>> worn_percent(45, False), worn_percent(100, False), round(worn_percent(67, False), 2), worn_percent(45, True)
    (3.0, 2.0, 3.0, 1.5)
    """
    limit = WORN_PERCENT if large_teeth <= WORN_TEETH else 200.0 / large_teeth
    return min(limit, WORN_FIXED_PERCENT) if fixed_centers else limit


def sag_pull_n(mass_kg_per_m: float, center_mm: float) -> float:
    """Pull of the slack strand's own weight [N] at its usual sag: q g C / (8 s)."""
    return mass_kg_per_m * G_M_PER_S2 * center_mm / 1000.0 / (8 * USUAL_SAG)
