"""Linings of friction rollers, read once and looked up by name."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

from pulltide.core.tables import Table, load_table, number

PACKAGE = "pulltide.core.links.friction_drive"
NAMES = ("linings",)


def table(name: str) -> Table:
    """One of this family's tables."""
    return load_table(PACKAGE, name)


@dataclass(frozen=True, slots=True)
class LiningData:
    """One lining: friction (low, typical) dry and wet, rolling arm [mm], allowed rolling pressure [MPa], creep."""

    dry: tuple[float, float]
    wet: tuple[float, float]
    rolling_arm_mm: float
    pressure_mpa: float
    creep: float


@cache
def linings() -> dict[str, LiningData]:
    """Every lining by name."""
    return {
        row["lining"]: LiningData(
            (number(row, "dry_low"), number(row, "dry")),
            (number(row, "wet_low"), number(row, "wet")),
            number(row, "rolling_arm_mm"),
            number(row, "pressure_mpa"),
            number(row, "creep"),
        )
        for row in table("linings").rows
    }
