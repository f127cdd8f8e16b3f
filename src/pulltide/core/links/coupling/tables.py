"""The tables of couplings, read once."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from typing import Literal

from pydantic import Field

from pulltide.core.catalog import Catalog, Item
from pulltide.core.model import CoreModel, Mm, Nm, Rpm
from pulltide.core.tables import Table, load_table, number

#: What a catalog calls a coupling.
PART = "coupling"
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


CouplingType = Literal["rigid_sleeve", "jaw", "roller_chain"]


class Unit(CoreModel):
    """A coupling's data; None where its plate does not say."""

    designation: str = Field(title="Coupling", min_length=1, max_length=60)
    type: CouplingType = Field(title="Type")
    rated_torque_nm: Nm | None = Field(None, title="Rated torque", gt=0, le=50_000)
    max_bore_mm: Mm | None = Field(None, title="Greatest bore", ge=3, le=400)
    outside_mm: Mm | None = Field(None, title="Outside diameter", gt=0, le=2000)
    length_mm: Mm | None = Field(None, title="Length", gt=0, le=2000)
    max_speed_rpm: Rpm | None = Field(None, title="Fastest speed", ge=50, le=30_000)


@cache
def shipped() -> tuple[Item, ...]:
    """The couplings of the shipped list, in its order."""
    columns = ("rated_torque_nm", "max_bore_mm", "outside_mm", "length_mm", "max_speed_rpm")
    return tuple(
        Item(
            PART,
            row["designation"],
            Unit.model_validate(
                {
                    "designation": row["designation"],
                    "type": row["type"],
                    **{column: number(row, column) for column in columns},
                }
            ),
        )
        for row in table("stock").rows
    )


def unit(designation: str) -> Unit:
    """The coupling of the shipped list with a designation. Raises UnknownName, offering those alike."""
    found: Unit = Catalog(shipped()).named(PART, designation, "Coupling").data  # type: ignore[assignment]
    return found
