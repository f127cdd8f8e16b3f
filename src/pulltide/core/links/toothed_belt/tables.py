"""The timing belt tables, read once and looked up by name."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache, lru_cache

from pydantic import Field

from pulltide.core.catalog import Catalog, Item, wheels
from pulltide.core.model import CoreModel
from pulltide.core.tables import Table, load_table, number

PACKAGE = "pulltide.core.links.toothed_belt"
#: What a catalog calls a belt and a pulley.
BELT, PULLEY = "toothed_belt.belt", "toothed_belt.pulley"
NAMES = ("profiles", "widths", "stock_lengths", "service_factor", "stock_teeth", "grooves_to_cut")
#: How far its wheels may stand out of line [degrees]. Common practice, no source.
ALIGN_DEG = 0.25


def table(name: str) -> Table:
    """One of this family's tables."""
    return load_table(PACKAGE, name)


@dataclass(frozen=True, slots=True, kw_only=True)
class ProfileData:
    """One row of the profile table; allowable pull [N] and mass [kg/m] at ``base_width_mm``."""

    profile: str
    pitch_mm: float
    outside_less_mm: float
    min_teeth: tuple[float, float, float]
    base_width_mm: float
    allowable_n: float
    mass_kg_m: float
    max_speed_m_s: float
    by_standard: bool

    def min_teeth_at(self, speed_rpm: float) -> float:
        """Fewest teeth at a speed of the small pulley [rpm]: the column of the next higher speed."""
        return self.min_teeth[0 if speed_rpm <= 1160 else 1 if speed_rpm <= 1750 else 2]


@cache
def profiles() -> dict[str, ProfileData]:
    """Every profile by name."""
    return {
        row["profile"]: ProfileData(
            profile=row["profile"],
            pitch_mm=number(row, "pitch_mm"),
            outside_less_mm=number(row, "outside_less_mm"),
            min_teeth=(
                number(row, "least_teeth_1160"),
                number(row, "least_teeth_1750"),
                number(row, "least_teeth_3500"),
            ),
            base_width_mm=number(row, "base_width_mm"),
            allowable_n=number(row, "allowable_n"),
            mass_kg_m=number(row, "mass_kg_m"),
            max_speed_m_s=number(row, "most_speed_m_s"),
            by_standard=row["rated_by"] == "standard",
        )
        for row in table("profiles").rows
    }


@cache
def widths_mm(profile: str) -> tuple[float, ...]:
    """Widths usually sold [mm]."""
    return tuple(number(row, "width_mm") for row in table("widths").rows if row["profile"] == profile)


class Belt(CoreModel):
    """A timing belt of a length that is sold."""

    profile: str = Field(title="Profile")
    teeth: int = Field(title="Teeth", ge=10, le=5000)


def belt_name(profile: str, teeth: int) -> str:
    """What a catalog calls the belt of a profile with so many teeth."""
    return f"{profile} {teeth}"


@cache
def shipped() -> tuple[Item, ...]:
    """The belts of the shipped list, by profile, and the pulleys by their teeth."""
    belts = tuple(_listed(row["profile"], int(row["teeth"])) for row in table("stock_lengths").rows)
    return belts + wheels(PULLEY, (int(row["teeth"]) for row in table("stock_teeth").rows))


def _listed(profile: str, teeth: int) -> Item:
    return Item(BELT, belt_name(profile, teeth), belt(profile, teeth), group=profile)


def belt(profile: str, teeth: int) -> Belt:
    """A belt as a plan carries it."""
    return Belt(profile=profile, teeth=teeth)


def listed_belts(catalog: Catalog, profile: str) -> tuple[int, ...]:
    """Teeth of the belts on the lists, rising; empty where they hold none of the profile."""
    return tuple(sorted({data.teeth for data in catalog.data(BELT) if data.profile == profile}))


@lru_cache(maxsize=512)
def service_factor(shock: str, high_torque: bool, hours_per_day: float) -> float:
    """Timing belt service factor [-]: that of V-belts and 0.2 to 0.5 more by shock."""
    torque = "high" if high_torque else "normal"
    row = next(row for row in table("service_factor").rows if (row["shock"], row["torque"]) == (shock, torque))
    column = "upto_5h" if hours_per_day <= 5 else "upto_10h" if hours_per_day <= 10 else "over_10h"
    return number(row, column)
