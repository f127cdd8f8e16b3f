"""The tables of spur gears, read once and looked up by name."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache, lru_cache

from pulltide.core.spur import form
from pulltide.core.tables import Table, interpolated, load_table, number

PACKAGE = "pulltide.core.spur"
NAMES = ("lewis_form", "materials", "overload_factor", "sizes", "stock_teeth")


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


#: Fewest teeth of the published table of form factors.
FEWEST_PUBLISHED = 12


@lru_cache(maxsize=4096)
def _published_form(teeth: float, angle: str) -> float:
    column = "y_20" if angle == "20" else "y_14_5"
    points = sorted((1 / number(row, "teeth"), number(row, column)) for row in table("lewis_form").rows)
    return round(interpolated(points, 1 / teeth), 6)


@lru_cache(maxsize=4096)
def lewis_form(teeth: float, angle: str, shift: float = 0.0) -> float:
    """Lewis form factor Y [-]: Shigley Table 14-2, from memory, linearly in 1/N between rows.

    Under 12 teeth, at 25 degrees and for a profile shift by the generated tooth, brought to meet the table.

    >>> lewis_form(16, "20"), lewis_form(22, "20"), round(lewis_form(8, "20"), 3), round(lewis_form(11, "20"), 3)
    (0.296, 0.331, 0.164, 0.228)
    """
    made = form.lewis_form(form.Tooth(teeth, float(angle), shift, thinned=0.0))
    if angle == "25":
        return made
    held = max(teeth, FEWEST_PUBLISHED)
    meets = _published_form(held, angle) / form.lewis_form(form.Tooth(held, float(angle), thinned=0.0))
    return made * meets


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
