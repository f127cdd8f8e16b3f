"""Flat and round belts, read once and looked up by name."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from math import pi

from pulltide.core.tables import Table, load_table, number
from pulltide.core.units import G_M_PER_S2, MM_PER_IN

N_PER_LBF = 4.4482216152605
PACKAGE = "pulltide.core.links.plain_belt"
NAMES = ("belts", "service_factor", "crowns")
#: Pulleys from so many inches have the share of allowed pull in that column.
BANDS = ((1.6, "cp_1_6"), (4.5, "cp_4_5"), (9.0, "cp_9"), (14.0, "cp_14"), (18.0, "cp_18"))
#: How far its wheels may stand out of line [degrees]. Common practice, no source.
ALIGN_DEG = 0.25


def table(name: str) -> Table:
    """One of this family's tables."""
    return load_table(PACKAGE, name)


@dataclass(frozen=True, slots=True)
class BeltData:
    """One belt: thickness or diameter [mm], allowed pull [N a mm of width, or N], density, friction, least pulley."""

    belt: str
    is_round: bool
    size_mm: float
    allowed_n: float
    density_kg_m3: float
    friction: float
    min_pulley_mm: float
    shares: tuple[float, ...]

    def pulley_share(self, small_mm: float) -> float:
        """Share of the allowed pull that is left on a small pulley [-]."""
        held = [share for (inches, _), share in zip(BANDS, self.shares, strict=True) if small_mm >= inches * MM_PER_IN]
        return held[-1] if held else self.shares[0]

    def mass_kg_per_m(self, width_mm: float) -> float:
        """Mass of one belt [kg/m]."""
        area_mm2 = pi * self.size_mm**2 / 4 if self.is_round else self.size_mm * width_mm
        return self.density_kg_m3 * area_mm2 / 1e6


@cache
def belts() -> dict[str, BeltData]:
    """Every belt by name."""
    found = {}
    for row in table("belts").rows:
        is_round = row["shape"] == "round"
        force = number(row, "allowed_lbf") * N_PER_LBF
        found[row["belt"]] = BeltData(
            row["belt"],
            is_round,
            number(row, "size_in") * MM_PER_IN,
            force if is_round else force / MM_PER_IN,
            number(row, "weight_lbf_per_in3") * N_PER_LBF / G_M_PER_S2 / (MM_PER_IN / 1000) ** 3,
            number(row, "friction"),
            number(row, "least_pulley_in") * MM_PER_IN,
            tuple(number(row, column) for _, column in BANDS),
        )
    return found


@cache
def service_factor(shock: str, high_torque: bool) -> float:
    """Service factor [-] by shock and source."""
    row = next(row for row in table("service_factor").rows if row["shock"] == shock)
    return number(row, "high_torque" if high_torque else "motor")
