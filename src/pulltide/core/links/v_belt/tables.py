"""The V-belt tables, read once and looked up by name."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from dataclasses import dataclass
from functools import cache

from pulltide.core.errors import UnknownName
from pulltide.core.tables import Table, load_table, number
from pulltide.core.units import MM_PER_IN

PACKAGE = "pulltide.core.links.v_belt"
NAMES = (
    "sections",
    "stock_lengths",
    "groove_angles",
    "length_factor",
    "centre_allowance",
    "old_rating",
    "ratio_factor",
    "rating_classical",
    "rating_light",
    "service_factor",
    "stock_pulleys",
)
#: What the nominal length of a belt adds to reach its pitch length [in]. RMA IP-20 and IP-23, from memory.
LENGTH_ADDITION_IN = {"3L": -0.19, "4L": -0.31, "5L": -0.50, "A": 1.3, "B": 1.8}
#: Reference length of the smooth fit of the length factor [in]; a fit, not a table. Common practice.
FIT_LENGTH_IN = {"A": 68.0, "B": 90.0}


def table(name: str) -> Table:
    """One of this family's tables."""
    return load_table(PACKAGE, name)


@dataclass(frozen=True, slots=True)
class SectionData:
    """One row of the section table."""

    section: str
    light: bool
    depth_mm: float
    least_diameter_mm: float
    least_is_outside: bool
    mass_kg_per_m: float
    max_speed_m_per_s: float
    outside_minus_pitch_mm: float


@cache
def section(name: str) -> SectionData:
    """Size data of a section: 3L, 4L, 5L, A or B."""
    row = next(row for row in table("sections").rows if row["section"] == name)
    return SectionData(
        name,
        row["group"] == "light",
        number(row, "depth_mm"),
        number(row, "least_diameter_in") * MM_PER_IN,
        row["least_diameter_basis"] == "outside",
        number(row, "mass_kg_per_m"),
        number(row, "max_speed_m_per_s"),
        number(row, "outside_minus_pitch_in") * MM_PER_IN,
    )


@dataclass(frozen=True, slots=True)
class Belt:
    """A belt by its designation. ``in_series`` tells whether the stock table lists it."""

    designation: str
    nominal_in: float
    pitch_length_mm: float
    in_series: bool


@cache
def stock_belts(section_name: str) -> tuple[Belt, ...]:
    """All stock belts of a section, shortest first."""
    rows = (row for row in table("stock_lengths").rows if row["section"] == section_name)
    belts = (Belt(row["designation"], number(row, "nominal_in"), number(row, "pitch_length_mm"), True) for row in rows)
    return tuple(sorted(belts, key=lambda belt: belt.pitch_length_mm))


def _whole_inch_belt(section_name: str, designation: str) -> Belt | None:
    """A or B belt in a whole inch from 20 to 130: commonly sold though not in the standard series."""
    digits = designation.removeprefix(section_name)
    if section_name not in ("A", "B") or not digits.isdecimal() or not 20 <= int(digits) <= 130:
        return None
    length_mm = (int(digits) + LENGTH_ADDITION_IN[section_name]) * MM_PER_IN
    return Belt(designation, float(digits), length_mm, False)


@cache
def belt(section_name: str, designation: str) -> Belt:
    """The belt of a designation such as A46 or 4L480.

    Raises UnknownName, offering the nearest stock lengths, if the section has no such belt.
    """
    listed = stock_belts(section_name)
    found = next((item for item in listed if item.designation == designation), None)
    found = found or _whole_inch_belt(section_name, designation)
    if found is None:
        digits = "".join(char for char in designation[len(section_name) :] if char.isdecimal())
        wanted = float(digits or 0) / (10.0 if section(section_name).light else 1.0)
        near = sorted(listed, key=lambda item: abs(item.nominal_in - wanted))[:4]
        raise UnknownName("Belt", designation, [item.designation for item in near])
    return found


def nearest_belts(section_name: str, pitch_length_mm: float, count: int) -> list[Belt]:
    """The stock belts nearest to a pitch length [mm], nearest first."""
    return sorted(stock_belts(section_name), key=lambda item: abs(item.pitch_length_mm - pitch_length_mm))[:count]


@cache
def _steps(table_name: str, section_name: str, column: str) -> tuple[tuple[float, ...], tuple[float, ...]]:
    rows = [row for row in table(table_name).rows if row["section"] == section_name]
    return tuple(number(row, "from_in") for row in rows), tuple(number(row, column) for row in rows)


def _at_or_below(table_name: str, section_name: str, column: str, value_in: float) -> float:
    starts, values = _steps(table_name, section_name, column)
    return values[max(bisect_right(starts, value_in) - 1, 0)]


def groove_angle_deg(section_name: str, diameter_mm: float) -> float:
    """Groove angle [degrees] of a pulley; diameter [mm] outside (light) or pitch (A, B)."""
    return _at_or_below("groove_angles", section_name, "groove_angle_deg", diameter_mm / MM_PER_IN)


def length_factor(section_name: str, nominal_in: float) -> float:
    """Belt length factor K_L [-] by the nominal length [in]; 1 for light sections.

    Source: Shigley Table 17-14; below its first closed row the smaller of table and fit.
    """
    if section(section_name).light:
        return 1.0
    value = _at_or_below("length_factor", section_name, "length_factor", nominal_in)
    if value > 0.85:
        return value
    return min(value, float((nominal_in / FIT_LENGTH_IN[section_name]) ** 0.24))


def ratio_factor(ratio: float) -> float:
    """Speed ratio factor K_SR [-] of classical sections; ratio >= 1. Source: RMA IP-20."""
    bounds, values = _ratio_rows()
    return values[bisect_left(bounds, round(max(ratio, 1.0), 2))]


@cache
def _ratio_rows() -> tuple[tuple[float, ...], tuple[float, ...]]:
    rows = table("ratio_factor").rows
    return tuple(number(row, "up_to_ratio") for row in rows), tuple(number(row, "ratio_factor") for row in rows)


@cache
def rating_constants(section_name: str) -> tuple[float, ...]:
    """Constants of the rating formula: c1 to c4 (A, B) or a, b, c (3L, 4L, 5L)."""
    light = section(section_name).light
    rows = table("rating_light" if light else "rating_classical").rows
    row = next(row for row in rows if row["section"] == section_name)
    return tuple(number(row, column) for column in (("a", "b", "c") if light else ("c1", "c2", "c3", "c4")))


@cache
def service_factor(shock: str, high_torque: bool, hours_per_day: float) -> float:
    """V-belt service factor [-]. Source: RMA IP-20; hours up to 5, up to 10, above."""
    torque = "high" if high_torque else "normal"
    row = next(r for r in table("service_factor").rows if (r["shock"], r["torque"]) == (shock, torque))
    column = "upto_5h" if hours_per_day <= 5 else "upto_10h" if hours_per_day <= 10 else "over_10h"
    return number(row, column)


@dataclass(frozen=True, slots=True)
class Allowance:
    """How far the centres must close to fit a belt and open to tension it [mm]."""

    fit_mm: float
    take_up_mm: float


@cache
def allowance(section_name: str, item: Belt) -> Allowance:
    """Movement needed for a belt. Source: Machinery's Handbook (A, B, from memory); light sections common practice."""
    if section(section_name).light:
        fit_in = {"3L": 0.5, "4L": 0.75, "5L": 1.0}[section_name]
        return Allowance(fit_in * MM_PER_IN, max(0.75 * MM_PER_IN, 0.03 * item.pitch_length_mm))
    rows = [row for row in table("centre_allowance").rows if number(row, "from_in") <= item.nominal_in]
    row = [row for row in rows if row[f"fit_{section_name.lower()}_in"] != "na"][-1]
    return Allowance(
        number(row, f"fit_{section_name.lower()}_in") * MM_PER_IN, number(rows[-1], "take_up_in") * MM_PER_IN
    )


@cache
def stock_diameters_mm(measured_as: str) -> tuple[float, ...]:
    """Diameters usually on the shelf [mm]: inch outside sizes, or ISO 4183 datum sizes."""
    rows = table("stock_pulleys").rows
    return tuple(number(row, "diameter_mm") for row in rows if row["measured_as"] == measured_as)


@cache
def _old_rows(section_name: str) -> dict[float, tuple[tuple[float, ...], tuple[float, ...]]]:
    rows: dict[float, list[tuple[float, float]]] = {}
    for row in table("old_rating").rows:
        if row["section"] == section_name:
            point = (number(row, "belt_speed_ft_min"), number(row, "rating_hp"))
            rows.setdefault(number(row, "pitch_diameter_in"), []).append(point)
    return {diameter: (tuple(p[0] for p in points), tuple(p[1] for p in points)) for diameter, points in rows.items()}


def old_rating_hp(section_name: str, pitch_diameter_in: float, speed_ft_min: float) -> float | None:
    """Rating of one belt by the older table [hp], or None outside it.

    Linear in speed, diameter in the row at or below (safe side). Source: Shigley Table 17-12, from memory.
    """
    rows = _old_rows(section_name)
    fitting = [diameter for diameter in rows if diameter <= pitch_diameter_in + 1e-9]
    if not fitting:
        return None
    speeds, ratings = rows[max(fitting)]
    if not speeds[0] <= speed_ft_min <= speeds[-1]:
        return None
    index = min(bisect_right(speeds, speed_ft_min), len(speeds) - 1)
    share = (speed_ft_min - speeds[index - 1]) / (speeds[index] - speeds[index - 1])
    return ratings[index - 1] + share * (ratings[index] - ratings[index - 1])
