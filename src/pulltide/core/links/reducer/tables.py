"""The reducer tables, read once and looked up by name."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

from pulltide.core.errors import UnknownName
from pulltide.core.tables import Table, load_table, number

PACKAGE = "pulltide.core.links.reducer"
NAMES = ("stock", "service_factor")


def table(name: str) -> Table:
    """One of this family's tables."""
    return load_table(PACKAGE, name)


@dataclass(frozen=True, slots=True)
class Unit:
    """A reducer's data. None where the plate or the list does not say: unknown, never assumed."""

    designation: str
    type: str
    ratio: float
    stages: int | None
    size_mm: float | None
    torque_1750_nm: float | None
    torque_875_nm: float | None
    torque_300_nm: float | None
    efficiency_1750: float | None
    efficiency_300: float | None
    max_input_rpm: float | None
    input_shaft_mm: float | None
    output_shaft_mm: float | None
    overhung_out_n: float | None
    overhung_in_n: float | None
    thermal_kw: float | None
    peak_factor: float | None
    nominal: float
    rank: float
    direction: str = "right angle"
    backlash_arcmin: float | None = None
    output: str = "not_known"
    input: str = "not_known"
    backdrivable: str = "not_known"
    sump_c: float = 93.0
    rated_input_rpm: float | None = None

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
        return self.type in ("planetary", "cycloidal", "strain_wave")


@cache
def stock() -> dict[str, Unit]:
    """All stock units by designation, in list order."""
    units = {}
    for row in table("stock").rows:
        units[row["designation"]] = Unit(
            row["designation"],
            row["family"],
            number(row, "ratio"),
            int(row["stages"]),
            number(row, "size_mm"),
            number(row, "torque_1750_nm"),
            number(row, "torque_875_nm"),
            number(row, "torque_300_nm"),
            number(row, "efficiency_1750"),
            number(row, "efficiency_300"),
            number(row, "max_input_rpm"),
            number(row, "input_shaft_mm"),
            number(row, "output_shaft_mm"),
            number(row, "overhung_out_n"),
            number(row, "overhung_in_n"),
            number(row, "thermal_kw"),
            number(row, "peak_factor"),
            number(row, "ratio_nominal"),
            number(row, "price_index"),
            row["direction"],
            number(row, "backlash_arcmin"),
            row["output"],
            row["input"],
            row["backdrivable"],
            number(row, "sump_c"),
        )
    return units


def unit(designation: str) -> Unit:
    """The stock unit of a designation such as ``PW-3 15:1``.

    Raises UnknownName, offering units of the same size or type, if the list has none.
    """
    found = stock().get(designation)
    if found is None:
        size = designation.split(" ")[0]
        near = [name for name in stock() if name.startswith(size)] or list(stock())[:6]
        raise UnknownName("Reducer", designation, near[:8])
    return found


@cache
def service_factor_row(family: str, shock: str) -> tuple[float, float, float, float]:
    """Service factors of a class: occasional, short, normal, continuous hours."""
    classes = {"uniform": "uniform", "light": "moderate", "moderate": "moderate", "heavy": "heavy"}
    rows = table("service_factor").rows
    row = next(r for r in rows if (r["family"], r["shock"]) == (family, classes[shock]))
    return (number(row, "occasional"), number(row, "short"), number(row, "normal"), number(row, "continuous"))
