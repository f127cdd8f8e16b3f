"""A wheel of a plan that the shop makes itself, and what it is made of."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from typing import Literal

from pydantic import Field

from pulltide.core.model import CoreModel
from pulltide.core.tables import Table, load_table, number

PACKAGE = "pulltide.core.made"
MadeMaterial = Literal[
    "pla_printed",
    "petg_printed",
    "abs_or_asa_printed",
    "printed_nylon",
    "acetal_or_nylon",
    "hdpe_sheet",
    "plywood_birch",
    "hardwood",
    "mdf",
    "phenolic_cloth",
    "aluminum_6061",
    "gray_iron_20",
    "gray_iron_30",
    "gray_iron_40",
    "cast_bronze",
    "mild_steel",
    "steel_1045_normalized",
    "not_known",
]
#: What a gear's own material is called here, where the two differ.
OF_GEARS = {
    "steel_1020_hot_rolled": "mild_steel",
    "steel_4140_hardened": "steel_1045_normalized",
    "steel_4140_hard": "steel_1045_normalized",
    "tin_bronze": "cast_bronze",
    "printed_pla_petg": "pla_printed",
}
#: Wheels of a plan that can be made: two of every stage, two of the simple machine at its end.
MAX_MADE = 18
NAME = r"^([1-8]|end)-(driver|driven)$"


class MadePart(CoreModel):
    """One wheel by its name (``1-driver``), and its material where its stage does not tell it."""

    wheel: str = Field(title="Wheel", pattern=NAME)
    material: MadeMaterial = Field("not_known", title="Made of")


@dataclass(frozen=True, slots=True, kw_only=True)
class Stuff:
    """One row of the table: allowable bending [MPa], rim speed [m/s], greatest temperature [°C]."""

    material: str
    bending_mpa: float
    rim_m_per_s: float
    temperature_c: float
    soft: bool


def table() -> Table:
    """What wheels are made of."""
    return load_table(PACKAGE, "materials")


@cache
def stuffs() -> dict[str, Stuff]:
    """Every material by its code."""
    return {
        row["material"]: Stuff(
            material=row["material"],
            bending_mpa=number(row, "bending_mpa"),
            rim_m_per_s=number(row, "rim_m_per_s"),
            temperature_c=number(row, "temperature_c"),
            soft=row["soft"] == "yes",
        )
        for row in table().rows
    }


def stuff_of(material: str) -> Stuff | None:
    """The row of a material, a gear's own name for it understood; None while it is not known.

    >>> stuff_of("tin_bronze").rim_m_per_s, stuff_of("not_known")
    (30.0, None)
    """
    return stuffs().get(OF_GEARS.get(material, material))
