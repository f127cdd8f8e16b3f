"""Ball bearing inserts of pillow blocks: life and static safety. Source: ISO 281 and ISO 76."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

from pulltide.core.fit.strength import PACKAGE
from pulltide.core.shafts import is_inch_shaft
from pulltide.core.tables import Row, interpolated, load_table, number

#: Life adjustment for reliability a1 [%]. Source: ISO 281:2007, Table 12, from memory.
RELIABILITY = {90: 1.0, 95: 0.64, 96: 0.55, 97: 0.47, 98: 0.37, 99: 0.25}
#: Life is told up to here [h]; beyond it seals and grease end a bearing first. Common practice, no source.
MOST_HOURS = 100_000.0
#: Radial factor and thrust: e and Y over F_a / C_0. Source: Shigley Table 11-1, from memory.
THRUST = (
    (0.014, 0.19, 2.30), (0.021, 0.21, 2.15), (0.028, 0.22, 1.99), (0.042, 0.24, 1.85), (0.056, 0.26, 1.71),
    (0.070, 0.27, 1.63), (0.084, 0.28, 1.55), (0.11, 0.30, 1.45), (0.17, 0.34, 1.31), (0.28, 0.38, 1.15),
    (0.42, 0.42, 1.04), (0.56, 0.44, 1.00),
)  # fmt: skip
RADIAL = 0.56


@dataclass(frozen=True, slots=True)
class Insert:
    """An insert for a bore [mm]: dynamic and static rating [N], outside and width of its inner ring [mm]."""

    bore_mm: float
    dynamic_n: float
    static_n: float
    outside_mm: float
    width_mm: float


@cache
def inserts() -> tuple[Insert, ...]:
    """Every insert by its bore, inch bores with those of the body they are made in."""
    found = []
    for row in load_table(PACKAGE, "ball_inserts").rows:
        bores = [number(row, "bore_mm"), *_inch(row)]
        found += [_insert(row, bore) for bore in bores]
    return tuple(sorted(found, key=lambda insert: insert.bore_mm))


def _insert(row: Row, bore_mm: float) -> Insert:
    ratings = 1000 * number(row, "c_dyn_kn"), 1000 * number(row, "c0_stat_kn")
    return Insert(bore_mm, *ratings, number(row, "insert_od_mm"), number(row, "inner_ring_width_mm"))


def _inch(row: Row) -> list[float]:
    """Inch bores of a row [mm]: ``1-1/8 1-3/16*``."""
    found = []
    for word in row["inch_bores_in_same_body"].replace("*", "").split():
        whole, _, part = word.rpartition("-")
        top, _, bottom = part.partition("/")
        inches = float(whole or 0) + (float(top) / float(bottom) if bottom else float(top))
        found.append(round(25.4 * inches, 3))
    return found


def insert_for(bore_mm: float) -> Insert | None:
    """The insert of a bore, None where none is made for it."""
    return next((one for one in inserts() if abs(one.bore_mm - bore_mm) < 0.05), None)


def next_insert_mm(least_mm: float) -> float | None:
    """The next larger bore that an insert is made for [mm], of the same system."""
    inch = is_inch_shaft(least_mm)
    fits = (one.bore_mm for one in inserts() if one.bore_mm > least_mm + 0.05 and is_inch_shaft(one.bore_mm) is inch)
    return next(fits, None)


def equivalent_n(radial_n: float, thrust_n: float, static_rating_n: float) -> float:
    """Equivalent load of a deep-groove ball bearing [N]: X F_r + Y F_a, at least F_r. Source: Shigley Eq. 11-9.

    >>> round(equivalent_n(500.0, 400.0, 4450.0))
    891
    """
    if thrust_n <= 0:
        return radial_n
    share = thrust_n / static_rating_n
    e, y = _thrust(share)
    if radial_n > 0 and thrust_n / radial_n <= e:
        return radial_n
    return max(RADIAL * radial_n + y * thrust_n, radial_n)


def _thrust(share: float) -> tuple[float, float]:
    """e and Y, straight between the rows, level beyond them."""
    limits = tuple((at, e) for at, e, _ in THRUST)
    return interpolated(limits, share), interpolated(tuple((at, y) for at, _, y in THRUST), share)


def static_load_n(radial_n: float, thrust_n: float) -> float:
    """Static equivalent load of a deep-groove ball bearing [N]: 0.6 F_r + 0.5 F_a, at least F_r. Source: ISO 76.

    >>> static_load_n(1000.0, 2000.0), static_load_n(1000.0, 100.0)
    (1600.0, 1000.0)
    """
    return max(0.6 * radial_n + 0.5 * thrust_n, radial_n)


def life_h(dynamic_n: float, load_n: float, speed_rpm: float, reliability: int = 90) -> float:
    """Life of a ball bearing [h]: a1 (C / P)³ 10⁶ / (60 n), told up to 100,000 h. Source: ISO 281.

    >>> round(life_h(35140.0, 3962.0, 720.0), -1)
    16150.0
    """
    if load_n <= 0 or speed_rpm <= 0:
        return MOST_HOURS
    return min(RELIABILITY[reliability] * (dynamic_n / load_n) ** 3 * 1e6 / (60 * speed_rpm), MOST_HOURS)
