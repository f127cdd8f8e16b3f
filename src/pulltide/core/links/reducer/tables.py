"""The reducer tables, read once and looked up by name."""

from __future__ import annotations

from functools import cache
from typing import Literal

from pydantic import Field

from pulltide.core.catalog import Catalog, Item
from pulltide.core.model import Arcmin, Celsius, CoreModel, Kg, Kw, Mm, Newton, Nm, Plain, Rpm
from pulltide.core.tables import Row, Table, load_table, number

#: What a catalog calls a reducer.
PART = "reducer"
PACKAGE = "pulltide.core.links.reducer"
NAMES = ("stock", "service_factor", "outside")


def table(name: str) -> Table:
    """One of this family's tables."""
    return load_table(PACKAGE, name)


UnitType = Literal[
    "worm",
    "helical",
    "helical_inline",
    "helical_shaft_mounted",
    "helical_bevel",
    "planetary",
    "cycloidal",
    "strain_wave",
]


class Unit(CoreModel):
    """A reducer's data. None where the plate or the list does not say: unknown, never assumed."""

    designation: str = Field(title="Reducer", min_length=1, max_length=60)
    type: UnitType = Field(title="Type")
    ratio: Plain = Field(title="Ratio", ge=1, le=1000)
    ratio_nominal: Plain = Field(title="Nominal ratio", ge=1, le=1000)
    stages: int | None = Field(None, title="Stages", ge=1, le=6)
    size_mm: Mm | None = Field(None, title="Size", gt=0, le=2000)
    torque_1750_nm: Nm | None = Field(None, title="Rated output torque at 1750 rpm", gt=0, le=100_000)
    torque_875_nm: Nm | None = Field(None, title="Rated output torque at 875 rpm", gt=0, le=100_000)
    torque_300_nm: Nm | None = Field(None, title="Rated output torque at 300 rpm", gt=0, le=100_000)
    efficiency_1750: Plain | None = Field(None, title="Efficiency at 1750 rpm", gt=0.1, le=1)
    efficiency_300: Plain | None = Field(None, title="Efficiency at 300 rpm", gt=0.1, le=1)
    max_input_rpm: Rpm | None = Field(None, title="Fastest input", ge=50, le=20_000)
    input_shaft_mm: Mm | None = Field(None, title="Input shaft", gt=0, le=400)
    output_shaft_mm: Mm | None = Field(None, title="Output shaft", gt=0, le=600)
    overhung_out_n: Newton | None = Field(None, title="Overhung load, output", gt=0, le=1_000_000)
    overhung_in_n: Newton | None = Field(None, title="Overhung load, input", gt=0, le=1_000_000)
    thermal_kw: Kw | None = Field(None, title="Thermal input power", gt=0, le=1000)
    peak_factor: Plain | None = Field(None, title="Momentary over rated torque", ge=1, le=10)
    mass_kg: Kg | None = Field(None, title="Mass", gt=0, le=20_000)
    price_index: Plain | None = Field(None, title="Price index", ge=0, le=1_000_000)
    direction: Literal["same", "opposite", "right_angle"] = Field("right_angle", title="Output turns")
    backlash_arcmin: Arcmin | None = Field(None, title="Backlash", ge=0, le=600)
    output: str = Field("not_known", title="Output", max_length=40)
    input: str = Field("not_known", title="Input", max_length=40)
    backdrivable: Literal["yes", "uncertain", "no_static_only", "poor_high_breakaway", "not_known"] = Field(
        "not_known", title="May be driven back"
    )
    sump_c: Celsius = Field(93.0, title="Hottest oil", ge=40, le=150)
    rated_input_rpm: Rpm | None = Field(None, title="Rated at an input of", gt=0, le=6000)
    by_plate: bool = Field(False, title="Rated by one figure of its plate")

    @property
    def is_worm(self) -> bool:
        """Whether it is a worm unit."""
        return self.type == "worm"

    @property
    def may_hold(self) -> bool:
        """Whether a load at rest may not turn it back: only worms of small lead, and even those not for certain."""
        if self.backdrivable == "not_known":
            return self.is_worm and self.ratio >= 30
        return self.backdrivable != "yes"

    @property
    def coaxial(self) -> bool:
        """Whether both shafts lie in line."""
        return self.type in ("helical_inline", "planetary", "cycloidal", "strain_wave")


#: Columns of the list that are taken as they are printed.
NUMBERS = (
    "ratio",
    "ratio_nominal",
    "size_mm",
    "torque_1750_nm",
    "torque_875_nm",
    "torque_300_nm",
    "efficiency_1750",
    "efficiency_300",
    "max_input_rpm",
    "input_shaft_mm",
    "output_shaft_mm",
    "overhung_out_n",
    "overhung_in_n",
    "thermal_kw",
    "peak_factor",
    "mass_kg",
    "price_index",
    "backlash_arcmin",
    "sump_c",
)
WORDS = ("designation", "direction", "output", "input", "backdrivable")


@cache
def shipped() -> tuple[Item, ...]:
    """The units of the shipped list, in its order."""
    return tuple(Item(PART, row["designation"], _unit(row)) for row in table("stock").rows)


def _unit(row: Row) -> Unit:
    numbers = {name: number(row, name) for name in NUMBERS}
    words = {name: row[name] for name in WORDS} | {"direction": row["direction"].replace(" ", "_")}
    return Unit.model_validate({"type": row["family"], "stages": int(row["stages"]), **numbers, **words})


def unit(designation: str) -> Unit:
    """The unit of the shipped list with a designation such as ``PW-3 15:1``. Raises UnknownName with those alike."""
    found: Unit = Catalog(shipped()).named(PART, designation, "Reducer").data  # type: ignore[assignment]
    return found


@cache
def service_factor_row(family: str, shock: str) -> tuple[float, float, float, float]:
    """Service factors of a class: occasional, short, normal, continuous hours."""
    classes = {"uniform": "uniform", "light": "moderate", "moderate": "moderate", "heavy": "heavy"}
    rows = table("service_factor").rows
    row = next(r for r in rows if (r["family"], r["shock"]) == (family, classes[shock]))
    return (number(row, "occasional"), number(row, "short"), number(row, "normal"), number(row, "continuous"))
