"""What gears are made of, how their teeth are made, and how they run."""

from __future__ import annotations

from typing import Literal

Material = Literal[
    "steel_1020_hot_rolled",
    "steel_1045_normalized",
    "steel_4140_hardened",
    "steel_4140_hard",
    "gray_iron_30",
    "tin_bronze",
    "acetal_or_nylon",
    "printed_pla_petg",
    "printed_nylon",
    "aluminum_6061",
    "plywood_birch",
    "hardwood",
    "hdpe_sheet",
    "phenolic_cloth",
]
Made = Literal["cast", "cut", "hobbed", "ground"]
Running = Literal["enclosed_oiled", "open_greased", "open_dirty"]

PLASTICS = (
    "acetal_or_nylon", "printed_pla_petg", "printed_nylon", "plywood_birch", "hardwood", "hdpe_sheet", "phenolic_cloth",
)  # fmt: skip
#: Efficiency of one external mesh by how it runs; cast or worn teeth lose more. Common practice, no source.
EFFICIENCY = {"enclosed_oiled": 0.985, "open_greased": 0.96, "open_dirty": 0.93}
CAST_EFFICIENCY = 0.90
#: What dirt adds to the overload factor, and the pull on a shaft over the tooth force. Common practice, no source.
DIRT_ADDS, SHAFT_FACTOR = 0.25, 1.25
#: What a tooth bears for a moment over its lasting bending force. Common practice, no source.
MOMENT_SHARE = 2.0
#: Share of its bending strength left to a tooth that is bent both ways each turn. Source: AGMA, Shigley section 14-3.
BOTH_WAYS = 0.7


def mesh_efficiency(running: str, made: str) -> float:
    """Efficiency of one external mesh [-]."""
    return min(EFFICIENCY[running], CAST_EFFICIENCY if made == "cast" else 1.0)
