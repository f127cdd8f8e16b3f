"""The tables of spur gears, read once and looked up by name."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

from pulltide.core.tables import Table, interpolated, load_table, number

PACKAGE = "pulltide.core.spur"
NAMES = ("lewis_form", "geometry_factor", "materials", "overload_factor", "sizes", "stock_teeth")
MATES = (18, 25, 35, 55, 85, 135)


def table(name: str) -> Table:
    """One of this family's tables."""
    return load_table(PACKAGE, name)


@dataclass(frozen=True, slots=True)
class MaterialData:
    """One row of the material table; hardness is None where no hardness rates it."""

    name: str
    hardness_hb: float | None
    static_mpa: float
    elastic_gpa: float
    poisson: float


@cache
def materials() -> dict[str, MaterialData]:
    """Every material by name."""
    return {
        row["material"]: MaterialData(
            row["material"],
            None if row["hardness_hb"] == "na" else number(row, "hardness_hb"),
            number(row, "static_mpa"),
            number(row, "elastic_gpa"),
            number(row, "poisson"),
        )
        for row in table("materials").rows
    }


@cache
def lewis_form(teeth: int, angle: str) -> float:
    """Lewis form factor Y [-], between rows linearly in 1/N. Source: Shigley Table 14-2, from memory.

    >>> lewis_form(16, "20"), lewis_form(22, "20")
    (0.296, 0.331)
    """
    column = "y_20" if angle == "20" else "y_14_5"
    points = sorted((1 / number(row, "teeth"), number(row, column)) for row in table("lewis_form").rows)
    return round(interpolated(points, 1 / teeth), 6)


@cache
def geometry_factor(teeth: int, mate: int, angle: str) -> float:
    """Bending geometry factor J [-], linearly in 1/N both ways; under 18 teeth and at 14.5 degrees Y / 1.5."""
    rows = table("geometry_factor").rows
    if angle != "20" or teeth < 18:
        return lewis_form(teeth, angle) / 1.5
    held = min(max(mate, MATES[0]), MATES[-1])

    def at(row: dict[str, str]) -> float:
        return interpolated(sorted((1 / n, number(row, f"mate_{n}")) for n in MATES), 1 / held)

    return interpolated(sorted((1 / number(row, "teeth"), at(row)) for row in rows), 1 / teeth)


@cache
def overload_factor(shock: str, driver: str) -> float:
    """Overload factor Ko [-]. Source: AGMA 2001 type table, from memory."""
    row = next(row for row in table("overload_factor").rows if row["shock"] == shock)
    return number(row, driver if driver in ("engine", "single_cylinder") else "motor")


@cache
def modules_mm() -> tuple[float, ...]:
    """Preferred modules [mm], rising."""
    return tuple(number(row, "module_mm") for row in table("sizes").rows)


@cache
def stock_teeth() -> tuple[int, ...]:
    """Tooth counts usually on the shelf."""
    return tuple(int(row["teeth"]) for row in table("stock_teeth").rows)
