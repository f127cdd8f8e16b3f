"""The V-belt tables, read once and looked up by name."""

from __future__ import annotations

import re
from bisect import bisect_left, bisect_right
from dataclasses import dataclass
from functools import cache, lru_cache
from typing import Literal

from pydantic import Field

from pulltide.core.catalog import Catalog, Item
from pulltide.core.errors import InputError
from pulltide.core.model import CoreModel, Mm, Plain
from pulltide.core.tables import Table, load_table, number
from pulltide.core.units import MM_PER_IN

#: What a catalog calls a belt and a pulley.
BELT, PULLEY = "v_belt.belt", "v_belt.pulley"
PACKAGE = "pulltide.core.links.v_belt"
NAMES = (
    "sections",
    "stock_lengths",
    "groove_angles",
    "grooves_to_cut",
    "length_factor",
    "center_allowance",
    "old_rating",
    "ratio_factor",
    "rating_classical",
    "rating_light",
    "service_factor",
    "stock_pulleys",
    "life",
    "flat_belts",
    "flat_pulley_factor",
)
#: Reference length of the smooth fit of the length factor [in]; a fit, not a table. Common practice.
FIT_LENGTH_IN = {"A": 68.0, "B": 90.0, "C": 144.0}
#: Whose column a metric section reads where a table knows inch sections alone. Common practice, no source.
INCH_ALIKE = {"SPZ": "3V", "SPA": "3V", "SPB": "5V"}
METRIC = tuple(INCH_ALIKE)
#: How far its wheels may stand out of line [degrees]. Source: RMA IP-20, half a degree, from memory.
ALIGN_DEG = 0.5


def table(name: str) -> Table:
    """One of this family's tables."""
    return load_table(PACKAGE, name)


@dataclass(frozen=True, slots=True, kw_only=True)
class SectionData:
    """One row of the section table."""

    section: str
    group: str
    cogged: bool
    plain: str
    depth_mm: float
    min_diameter_mm: float
    min_is_outside: bool
    mass_kg_per_m: float
    max_speed_m_per_s: float
    outside_minus_pitch_mm: float
    length_addition_in: float
    flat_drum_mm: float | None
    rated_as: tuple[str, ...]
    rated_share: float
    groove_pitch_mm: float
    groove_edge_mm: float

    @property
    def light(self) -> bool:
        """Whether it is a light-duty section."""
        return self.group == "light"

    @property
    def inch(self) -> str:
        """The plain inch section whose length factor and allowances it reads."""
        return INCH_ALIKE.get(self.plain, self.plain)

    @property
    def angle_by_outside(self) -> bool:
        """Whether its groove angle goes by the outside diameter."""
        return self.light or self.plain in ("3V", "5V")

    @property
    def estimated(self) -> bool:
        """Whether its rating is an estimate from a neighboring section."""
        return self.rated_share < 1


@cache
def section(name: str) -> SectionData:
    """Size data of a section such as 4L, BX, 3V or SPA."""
    row = next(row for row in table("sections").rows if row["section"] == name)
    return SectionData(
        section=name,
        group=row["group"],
        cogged=row["cogged"] == "yes",
        plain=row["plain"],
        depth_mm=number(row, "depth_mm"),
        min_diameter_mm=number(row, "least_diameter_in") * MM_PER_IN,
        min_is_outside=row["least_diameter_basis"] == "outside",
        mass_kg_per_m=number(row, "mass_kg_per_m"),
        max_speed_m_per_s=number(row, "max_speed_m_per_s"),
        outside_minus_pitch_mm=number(row, "outside_minus_pitch_in") * MM_PER_IN,
        length_addition_in=number(row, "length_addition_in"),
        flat_drum_mm=None if row["flat_drum_in"] == "na" else number(row, "flat_drum_in") * MM_PER_IN,
        rated_as=tuple(row["rated_as"].split("+")),
        rated_share=number(row, "rated_share"),
        groove_pitch_mm=number(row, "groove_pitch_mm"),
        groove_edge_mm=number(row, "groove_edge_mm"),
    )


@cache
def section_names() -> tuple[str, ...]:
    """Every section, in table order."""
    return tuple(row["section"] for row in table("sections").rows)


class Belt(CoreModel):
    """A belt by its name, which says how long it is."""

    section: str = Field(title="Section")
    nominal_in: Plain = Field(title="Nominal length, inches", gt=0, le=1000)
    pitch_length_mm: Mm = Field(title="Pitch length", gt=0, le=30_000)


class Pulley(CoreModel):
    """A V-pulley of a diameter that is sold."""

    measured_as: Literal["outside", "pitch"] = Field(title="Diameter is")
    diameter_mm: Mm = Field(title="Diameter", ge=20, le=1500)


@cache
def shipped() -> tuple[Item, ...]:
    """The belts of the shipped list by section, a cogged section in the lengths of its plain one, and the pulleys."""
    rows = table("stock_lengths").rows
    belts = []
    for name in section_names():
        plain = section(name).plain
        designations = (name + row["designation"].removeprefix(plain) for row in rows if row["section"] == plain)
        belts += [Item(BELT, designation, belt(name, designation), group=name) for designation in designations]
    pulleys = (
        Pulley.model_validate({"measured_as": row["measured_as"], "diameter_mm": number(row, "diameter_mm")})
        for row in table("stock_pulleys").rows
    )
    return (*belts, *(Item(PULLEY, f"{data.measured_as} {data.diameter_mm:g}", data) for data in pulleys))


#: How long a belt may be by its name, pitch length [mm].
BELT_LENGTHS_MM = (250.0, 20_000.0)
#: A length in a designation: digits alone.
NUMBERED = re.compile(r"[0-9]{1,5}")


@cache
def belt(section_name: str, designation: str) -> Belt:
    """The belt of a designation such as A46, 4L480 or SPA1400: its section, then its nominal length.

    Classical sections count whole inches, light and narrow ones tenths of an inch, metric ones millimeters. The pitch
    length is the nominal one and what the section adds. Raises InputError for another section or no usable length.
    """
    data, digits = section(section_name), designation.removeprefix(section_name)
    if digits == designation or not NUMBERED.fullmatch(digits):
        number_given = "".join(char for char in digits if char.isdecimal())[:5]
        usual = "1400" if section_name in METRIC else "48" if data.group == "classical" else "480"
        example = f"{section_name}{number_given or usual}"
        reason = f"is not the name of a {section_name} belt"
        raise InputError("Belt", designation, reason, accepted=f"{section_name} and its length, such as {example}")
    nominal_in = float(digits) / _per_inch(section_name)
    length_mm = (nominal_in + data.length_addition_in) * MM_PER_IN
    if not BELT_LENGTHS_MM[0] <= length_mm <= BELT_LENGTHS_MM[1]:
        least, most = (f"{value / 1000:g} m" for value in BELT_LENGTHS_MM)
        raise InputError("Belt", designation, "has a length that no belt is made in", accepted=f"{least} to {most}")
    return Belt(section=section_name, nominal_in=nominal_in, pitch_length_mm=length_mm)


def _per_inch(section_name: str) -> float:
    """What the number of a designation is in: whole inches, tenths of an inch or millimeters."""
    if section_name in METRIC:
        return MM_PER_IN
    return 1.0 if section(section_name).group == "classical" else 10.0


def listed_belts(catalog: Catalog, section_name: str) -> tuple[Item, ...]:
    """The belts of a section on the lists, shortest first."""

    def made() -> tuple[Item, ...]:
        items = [item for item in catalog.of(BELT) if _belt_of(item).section == section_name]
        return tuple(sorted(items, key=lambda item: _belt_of(item).pitch_length_mm))

    return catalog.once(f"{BELT} {section_name}", made)


def _belt_of(item: Item) -> Belt:
    assert isinstance(item.data, Belt)
    return item.data


def nearest_belts(catalog: Catalog, section_name: str, pitch_length_mm: float, count: int) -> list[str]:
    """The names of the listed belts nearest to a pitch length [mm], nearest first."""
    listed = listed_belts(catalog, section_name)
    nearest = sorted(listed, key=lambda item: abs(_belt_of(item).pitch_length_mm - pitch_length_mm))
    return [item.id for item in nearest[:count]]


def listed_diameters_mm(catalog: Catalog, measured_as: str) -> tuple[float, ...]:
    """Pulley diameters on the lists [mm], rising: outside ones, or pitch (ISO 4183 datum) ones."""
    return tuple(sorted({data.diameter_mm for data in catalog.data(PULLEY) if data.measured_as == measured_as}))


@cache
def _steps(table_name: str, section_name: str, column: str) -> tuple[tuple[float, ...], tuple[float, ...]]:
    rows = [row for row in table(table_name).rows if row["section"] == section_name]
    return tuple(number(row, "from_in") for row in rows), tuple(number(row, column) for row in rows)


def _at_or_below(table_name: str, section_name: str, column: str, value_in: float) -> float:
    starts, values = _steps(table_name, section_name, column)
    return values[max(bisect_right(starts, value_in) - 1, 0)]


def groove_angle_deg(section_name: str, diameter_mm: float) -> float:
    """Groove angle [degrees] of a pulley; diameter [mm] outside (light, 3V, 5V) or pitch."""
    name = section(section_name).plain
    return _at_or_below("groove_angles", name, "groove_angle_deg", diameter_mm / MM_PER_IN)


def length_factor(section_name: str, nominal_in: float) -> float:
    """Belt length factor K_L [-] by the nominal length [in]; 1 for light sections.

    Source: Shigley Table 17-14, RMA IP-22; below the first closed row of A, B, C the smaller of table and fit.
    """
    data = section(section_name)
    if data.light:
        return 1.0
    value = _at_or_below("length_factor", data.inch, "length_factor", nominal_in)
    if value > 0.85 or data.inch not in FIT_LENGTH_IN:
        return value
    return min(value, float((nominal_in / FIT_LENGTH_IN[data.inch]) ** 0.24))


def ratio_factor(group: str, ratio: float) -> float:
    """Speed ratio factor K_SR [-] of classical or narrow sections; ratio >= 1. Source: RMA IP-20 and IP-22."""
    bounds, values = _ratio_rows(group)
    return values[bisect_left(bounds, round(max(ratio, 1.0), 2))]


@cache
def _ratio_rows(group: str) -> tuple[tuple[float, ...], tuple[float, ...]]:
    rows = [row for row in table("ratio_factor").rows if row["group"] == group]
    return tuple(number(row, "up_to_ratio") for row in rows), tuple(number(row, "ratio_factor") for row in rows)


@cache
def rating_constants(name: str) -> tuple[float, ...]:
    """Constants of the rating formula: a, b, c (3L, 4L, 5L), else c1 to c4, of a section that has its own."""
    light = section(name).light
    rows = table("rating_light" if light else "rating_classical").rows
    row = next(row for row in rows if row["section"] == name)
    return tuple(number(row, column) for column in (("a", "b", "c") if light else ("c1", "c2", "c3", "c4")))


@dataclass(frozen=True, slots=True)
class LifeData:
    """Constants of the life trend of a section: bending K_b, force K [lbf] and exponent b."""

    bending: float
    life_force_lbf: float
    exponent: float


@cache
def life(section_name: str) -> LifeData | None:
    """Life constants of a section, None where none are published. Source: Shigley Table 17-16, 17-17, from memory."""
    for row in table("life").rows:
        if row["section"] == section_name:
            return LifeData(number(row, "bending"), number(row, "life_force_lbf"), number(row, "exponent"))
    return None


@lru_cache(maxsize=512)
def service_factor(shock: str, high_torque: bool, hours_per_day: float) -> float:
    """V-belt service factor [-]. Source: RMA IP-20; hours up to 5, up to 10, above."""
    torque = "high" if high_torque else "normal"
    row = next(r for r in table("service_factor").rows if (r["shock"], r["torque"]) == (shock, torque))
    column = "upto_5h" if hours_per_day <= 5 else "upto_10h" if hours_per_day <= 10 else "over_10h"
    return number(row, column)


@dataclass(frozen=True, slots=True)
class Allowance:
    """How far the centers must close to fit a belt and open to tension it [mm]."""

    fit_mm: float
    take_up_mm: float


@cache
def allowance(section_name: str, item: Belt) -> Allowance:
    """Movement needed for a belt. Source: Machinery's Handbook, from memory; light sections common practice."""
    data = section(section_name)
    if data.light:
        fit_in = {"3L": 0.5, "4L": 0.75, "5L": 1.0}[section_name]
        return Allowance(fit_in * MM_PER_IN, max(0.75 * MM_PER_IN, 0.03 * item.pitch_length_mm))
    rows = [row for row in table("center_allowance").rows if row["group"] == data.group]
    rows = [row for row in rows if number(row, "from_in") <= item.nominal_in] or rows[:1]
    column = f"fit_{data.inch.lower()}_in"
    known = [row for row in rows if row[column] != "na"]
    fit_in = number(known[-1], column) if known else 1.5
    return Allowance(fit_in * MM_PER_IN, number(rows[-1], "take_up_in") * MM_PER_IN)


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
