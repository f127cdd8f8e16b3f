"""The tables of couplings, read once."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

from pulltide.core.errors import UnknownName
from pulltide.core.tables import Table, load_table, number

PACKAGE = "pulltide.core.links.coupling"
NAMES = ("types", "stock")


def table(name: str) -> Table:
    """One of this family's tables."""
    return load_table(PACKAGE, name)


@dataclass(frozen=True, slots=True)
class TypeData:
    """One row of the type table."""

    type: str
    angle_deg: float
    parallel_mm: float
    efficiency: float
    peak_over_rated: float
    heavy_factor: float


@cache
def type_data(name: str) -> TypeData:
    """What a type of coupling takes and loses."""
    row = next(row for row in table("types").rows if row["type"] == name)
    columns = ("angle_deg", "parallel_mm", "efficiency", "peak_over_rated", "heavy_factor")
    return TypeData(name, *(number(row, column) for column in columns))


@dataclass(frozen=True, slots=True)
class Unit:
    """A coupling's data; None where its plate does not say."""

    designation: str
    type: str
    rated_torque_nm: float | None
    max_bore_mm: float | None
    outside_mm: float | None
    length_mm: float | None
    max_speed_rpm: float | None


@cache
def stock() -> dict[str, Unit]:
    """All stock couplings by designation, in list order."""
    columns = ("rated_torque_nm", "max_bore_mm", "outside_mm", "length_mm", "max_speed_rpm")
    return {
        row["designation"]: Unit(row["designation"], row["type"], *(number(row, column) for column in columns))
        for row in table("stock").rows
    }


def unit(designation: str) -> Unit:
    """The stock coupling of a designation. Raises UnknownName, offering those of its type, if the list has none."""
    found = stock().get(designation)
    if found is None:
        near = [name for name in stock() if name[:2] == designation[:2]] or list(stock())
        raise UnknownName("Coupling", designation, near[:8])
    return found
