"""The tables of worm sets, read once."""

from __future__ import annotations

from functools import cache

from pulltide.core.tables import Table, load_table, number

PACKAGE = "pulltide.core.links.worm_set"
NAMES = ("tooth_form", "stock_teeth")
#: What a catalog calls a worm wheel.
WHEEL = "worm_set.wheel"


def table(name: str) -> Table:
    """One of this family's tables."""
    return load_table(PACKAGE, name)


@cache
def form_factor(angle: str) -> float:
    """Form factor y of a wheel's teeth [-] by normal pressure angle."""
    return number(_row(angle), "form_factor")


@cache
def fewest_wheel_teeth(angle: str) -> float:
    """Fewest wheel teeth that run without trouble, by normal pressure angle."""
    return number(_row(angle), "fewest_wheel_teeth")


def _row(angle: str) -> dict[str, str]:
    return next(row for row in table("tooth_form").rows if row["pressure_angle_deg"] == angle)


@cache
def stock_teeth() -> tuple[int, ...]:
    """Tooth counts usually on the shelf."""
    return tuple(int(row["teeth"]) for row in table("stock_teeth").rows)
