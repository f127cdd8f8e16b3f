"""What a flat or round belt link is made of."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from pulltide.core.model import CoreModel, Degrees, Mm, Newton, Plain

BeltName = Literal[
    "leather_1_ply",
    "polyamide_f1",
    "polyamide_a2",
    "polyamide_a3",
    "urethane_flat_1_16",
    "urethane_round_1_4",
    "urethane_round_3_8",
    "urethane_round_1_2",
    "urethane_round_3_4",
]


class PlainBelt(CoreModel):
    """A flat or round belt on two smooth pulleys, open or crossed."""

    kind: Literal["plain_belt"] = "plain_belt"
    belt: BeltName = Field(title="Belt")
    runs: Literal["open", "crossed"] = Field("open", title="Runs", description="crossed turns the other way")
    driver_diameter_mm: Mm = Field(title="Driver pulley", ge=10, le=2000)
    driven_diameter_mm: Mm = Field(title="Driven pulley", ge=10, le=3000)
    width_mm: Mm = Field(50.0, title="Width of a flat belt", ge=5, le=600)
    belts: int = Field(1, title="Belts side by side", ge=1, le=12)
    center_distance_mm: Mm = Field(title="Center distance", ge=20, le=10_000)
    static_tension_n: Newton | None = Field(None, title="Tension set, each belt", gt=0, le=50_000)
    slips_first: bool = Field(False, title="Meant to slip first")
    own_efficiency: Plain | None = Field(
        None, title="Your own efficiency", gt=0.3, le=0.999, description="measured; a share, 0.93"
    )
    angle_deg: Degrees = Field(0.0, title="Center line above level", ge=-90, le=90)
