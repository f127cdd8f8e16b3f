"""Bearings of a shaft: inserts of blocks, deep-groove balls, tapered rollers. Source: ISO 281 and ISO 76."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache
from typing import Literal

from pulltide.core.fit.strength import PACKAGE
from pulltide.core.shafts import BearingType, is_inch_shaft
from pulltide.core.tables import Row, interpolated, load_table, number

#: Life adjustment for reliability a1 [%]. Source: ISO 281:2007, Table 12, from memory.
RELIABILITY = {90: 1.0, 95: 0.64, 96: 0.55, 97: 0.47, 98: 0.37, 99: 0.25}
#: Life is told up to here [h]; beyond it seals and grease end a bearing first. Common practice, no source.
MAX_HOURS = 100_000.0
#: Radial factor and thrust: e and Y over F_a / C_0. Source: Shigley Table 11-1, from memory.
THRUST = (
    (0.014, 0.19, 2.30), (0.021, 0.21, 2.15), (0.028, 0.22, 1.99), (0.042, 0.24, 1.85), (0.056, 0.26, 1.71),
    (0.070, 0.27, 1.63), (0.084, 0.28, 1.55), (0.11, 0.30, 1.45), (0.17, 0.34, 1.31), (0.28, 0.38, 1.15),
    (0.42, 0.42, 1.04), (0.56, 0.44, 1.00),
)  # fmt: skip
RADIAL = 0.56


@dataclass(frozen=True, slots=True, kw_only=True)
class Bearing:
    """A bearing for a bore [mm]: dynamic and static rating [N], outside and width of its inner ring [mm], most speed.

    Of tapered rollers also e, Y and Y_0, and where its load center is from the back of its cup [mm]. Of inserts how
    high their axis stands in a pillow block, and from bolt to bolt of that [mm].
    """

    type: BearingType = "insert"
    bore_mm: float
    dynamic_n: float
    static_n: float
    outside_mm: float
    width_mm: float
    speed_rpm: float
    e: float = 0.0
    y: float = 0.0
    y0: float = 0.0
    center_mm: float = 0.0
    block_height_mm: float = 0.0
    block_bolts_mm: float = 0.0

    @property
    def is_tapered(self) -> bool:
        """Whether it has tapered rollers."""
        return self.type.startswith("tapered")

    @property
    def exponent(self) -> float:
        """Of load in its life: 3 for balls, 10/3 for rollers. Source: ISO 281."""
        return 10 / 3 if self.is_tapered else 3.0

    def equivalent_n(self, radial_n: float, thrust_n: float) -> float:
        """Equivalent load for its life [N]."""
        if not self.is_tapered:
            return equivalent_n(radial_n, thrust_n, self.static_n)
        if radial_n > 0 and thrust_n / radial_n <= self.e:
            return radial_n
        return max(0.4 * radial_n + self.y * thrust_n, radial_n)

    def static_load_n(self, radial_n: float, thrust_n: float) -> float:
        """Equivalent load for its static safety [N]. Source: ISO 76."""
        if not self.is_tapered:
            return static_load_n(radial_n, thrust_n)
        return max(0.5 * radial_n + self.y0 * thrust_n, radial_n)

    def life_h(self, load_n: float, speed_rpm: float, reliability: int = 90) -> float:
        """Life at an equivalent load [h]."""
        return life_h(self.dynamic_n, load_n, speed_rpm, reliability, self.exponent)


#: Speed of an insert on grease, locked by set screws, over that of a bearing with its balls; and what a mean diameter
#: allows a tapered one [mm/min]. Common practice, low confidence.
INSERT_SPEED, TAPERED_DN = 0.5, 200_000.0


@cache
def inserts() -> tuple[Bearing, ...]:
    """Every insert by its bore, inch bores with those of the body they are made in."""
    found = []
    for row in load_table(PACKAGE, "ball_inserts").rows:
        bores = [number(row, "bore_mm"), *_inch(row)]
        found += [_insert(row, bore) for bore in bores]
    return tuple(sorted(found, key=lambda insert: insert.bore_mm))


def _insert(row: Row, bore_mm: float) -> Bearing:
    body = number(row, "bore_mm")
    like = next((one for one in deep_groove("62") if abs(one.bore_mm - body) < 0.05), None)
    fast = like.speed_rpm if like is not None else TAPERED_DN / body
    return Bearing(
        bore_mm=bore_mm,
        dynamic_n=1000 * number(row, "c_dyn_kn"),
        static_n=1000 * number(row, "c0_stat_kn"),
        outside_mm=number(row, "insert_od_mm"),
        width_mm=number(row, "inner_ring_width_mm"),
        speed_rpm=INSERT_SPEED * fast,
        block_height_mm=number(row, "block_axis_height_mm"),
        block_bolts_mm=number(row, "block_bolts_mm"),
    )


@cache
def deep_groove(series: Literal["60", "62", "63"]) -> tuple[Bearing, ...]:
    """Deep-groove balls of a series by bore."""
    types: dict[str, BearingType] = {"60": "deep_60", "62": "deep_62", "63": "deep_63"}
    return tuple(
        Bearing(type=types[series], speed_rpm=number(row, "speed_rpm"), **_sizes(row))
        for row in load_table(PACKAGE, "deep_groove").rows
        if row["series"] == series
    )


@cache
def tapered(type: Literal["tapered_face", "tapered_back"]) -> tuple[Bearing, ...]:
    """Tapered rollers by bore."""
    return tuple(
        Bearing(
            type=type,
            speed_rpm=TAPERED_DN / ((number(row, "bore_mm") + number(row, "od_mm")) / 2),
            e=number(row, "e"),
            y=number(row, "y"),
            y0=number(row, "y0"),
            center_mm=number(row, "center_mm"),
            **_sizes(row),
        )
        for row in load_table(PACKAGE, "tapered").rows
    )


def _sizes(row: Row) -> dict[str, float]:
    return {
        "bore_mm": number(row, "bore_mm"),
        "dynamic_n": 1000 * number(row, "c_dyn_kn"),
        "static_n": 1000 * number(row, "c0_stat_kn"),
        "outside_mm": number(row, "od_mm"),
        "width_mm": number(row, "width_mm"),
    }


def _inch(row: Row) -> list[float]:
    """Inch bores of a row [mm]: ``1-1/8 1-3/16*``."""
    found = []
    for word in row["inch_bores_in_same_body"].replace("*", "").split():
        whole, _, part = word.rpartition("-")
        top, _, bottom = part.partition("/")
        inches = float(whole or 0) + (float(top) / float(bottom) if bottom else float(top))
        found.append(round(25.4 * inches, 3))
    return found


def listed(type: BearingType) -> tuple[Bearing, ...]:
    """Every bearing of a type by bore."""
    if type == "insert":
        return inserts()
    if type == "tapered_face" or type == "tapered_back":
        return tapered(type)
    return deep_groove("60" if type == "deep_60" else "62" if type == "deep_62" else "63")


def bearing_for(bore_mm: float, type: BearingType = "insert") -> Bearing | None:
    """The bearing of a type for a bore, None where none is listed for it."""
    return next((one for one in listed(type) if abs(one.bore_mm - bore_mm) < 0.05), None)


def insert_for(bore_mm: float) -> Bearing | None:
    """The insert of a bore, None where none is made for it."""
    return bearing_for(bore_mm)


def thrusts_n(pair: Sequence[Bearing | None], radials_n: Sequence[float], along_n: float) -> tuple[float, ...]:
    """Thrust that each bearing of a shaft carries [N], in order along it.

    ``along_n`` is the outer thrust on the shaft, over 0 toward its far end. Of balls the one with more load takes it.
    Tapered rollers push each other apart by F_r / (2 Y): a pair face to face takes thrust at the end it points to, one
    back to back at the other. Source: Shigley section 11-9, with F_r / (2 Y) for 0.47 F_r / K.

    >>> one = Bearing(type="tapered_face", bore_mm=30, dynamic_n=4e4, static_n=4e4, outside_mm=62, width_mm=17,
    ...               speed_rpm=5000, e=0.37, y=1.6, y0=0.88, center_mm=14)
    >>> [round(thrust) for thrust in thrusts_n((one, one), (1600.0, 3200.0), -500.0)]
    [1500, 1000]
    """
    known = [one for one in pair if one is not None and one.is_tapered]
    if len(pair) == len(known) == 2:
        return _shared_n(known, radials_n, along_n)
    most = max(range(len(radials_n)), key=lambda k: radials_n[k])
    return tuple(abs(along_n) if k == most else 0.0 for k in range(len(radials_n)))


def _shared_n(known: Sequence[Bearing], radials_n: Sequence[float], along_n: float) -> tuple[float, ...]:
    """Thrusts of a pair of tapered bearings [N]."""
    own = [radial / (2 * one.y) for radial, one in zip(radials_n, known, strict=True)]
    takes = 0 if (along_n < 0) is (known[0].type == "tapered_face") else 1
    other, outer = 1 - takes, abs(along_n)
    found = [0.0, 0.0]
    if own[takes] <= own[other] + outer:
        found[takes], found[other] = own[other] + outer, own[other]
    else:
        found[takes], found[other] = own[takes], own[takes] - outer
    return tuple(found)


def support_mm(at_mm: float, one: Bearing | None, *, is_first: bool) -> float:
    """Where a bearing holds the shaft [mm]: its middle; of tapered rollers their load center, between the two bearings
    where the cups face each other, beyond them back to back.
    """
    if one is None or not one.is_tapered:
        return at_mm
    inward = (one.center_mm - one.width_mm / 2) * (1 if one.type == "tapered_face" else -1)
    return at_mm + inward * (1 if is_first else -1)


def next_insert_mm(min_mm: float) -> float | None:
    """The next larger bore that an insert is made for [mm], of the same system."""
    inch = is_inch_shaft(min_mm)
    fits = (one.bore_mm for one in inserts() if one.bore_mm > min_mm + 0.05 and is_inch_shaft(one.bore_mm) is inch)
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


def life_h(dynamic_n: float, load_n: float, speed_rpm: float, reliability: int = 90, exponent: float = 3.0) -> float:
    """Life of a bearing [h]: a1 (C / P)^p 10⁶ / (60 n), told up to 100,000 h. Source: ISO 281.

    >>> round(life_h(35140.0, 3962.0, 720.0), -1)
    16150.0
    """
    if load_n <= 0 or speed_rpm <= 0:
        return MAX_HOURS
    hours = RELIABILITY[reliability] * (dynamic_n / load_n) ** exponent * 1e6 / (60 * speed_rpm)
    return min(float(hours), MAX_HOURS)
