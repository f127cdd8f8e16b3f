"""The roller chain tables, read once and looked up by name."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

from pulltide.core.tables import Table, load_table, number

PACKAGE = "pulltide.core.links.roller_chain"
#: What a catalog calls a sprocket.
SPROCKET = "roller_chain.sprocket"
NAMES = ("sizes", "service_factor", "strand_factor", "stock_teeth")
#: How far its wheels may stand out of line [degrees]. Common practice, no source.
ALIGN_DEG = 0.25


def table(name: str) -> Table:
    """One of this family's tables."""
    return load_table(PACKAGE, name)


@dataclass(frozen=True, slots=True, kw_only=True)
class ChainSize:
    """One row of the size table."""

    chain: str
    pitch_mm: float
    roller_diameter_mm: float
    inner_width_mm: float
    plate_height_mm: float
    ultimate_strength_n: float
    mass_kg_per_m: float
    plate_constant: float
    roller_constant: float
    lube_a_max_ft_min: float
    lube_b_max_ft_min: float


@cache
def sizes() -> dict[str, ChainSize]:
    """All chain sizes by number, smallest pitch first."""
    return {
        row["chain"]: ChainSize(
            chain=row["chain"],
            pitch_mm=number(row, "pitch_mm"),
            roller_diameter_mm=number(row, "roller_diameter_mm"),
            inner_width_mm=number(row, "inner_width_mm"),
            plate_height_mm=number(row, "plate_height_mm"),
            ultimate_strength_n=number(row, "ultimate_strength_n"),
            mass_kg_per_m=number(row, "mass_kg_per_m"),
            plate_constant=number(row, "plate_constant"),
            roller_constant=number(row, "roller_constant"),
            lube_a_max_ft_min=number(row, "lube_a_max_ft_min"),
            lube_b_max_ft_min=number(row, "lube_b_max_ft_min"),
        )
        for row in table("sizes").rows
    }


@cache
def service_factor(shock: str, engine: bool = False) -> float:
    """Chain service factor [-] for a motor, or an engine with mechanical drive. Source: ANSI B29.1, from memory."""
    row = next(row for row in table("service_factor").rows if row["shock"] == shock)
    return number(row, "engine" if engine else "motor")


@cache
def strand_factor(strands: int) -> float:
    """Multiple strand factor [-]. Source: Shigley Table 17-23, from memory."""
    return next(number(row, "strand_factor") for row in table("strand_factor").rows if int(row["strands"]) == strands)


@cache
def stock_teeth() -> tuple[int, ...]:
    """Tooth counts usually on the shelf."""
    return tuple(int(row["teeth"]) for row in table("stock_teeth").rows)
