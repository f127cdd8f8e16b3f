"""What a timing belt link is made of."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from pulltide.core.model import CoreModel, Degrees, Mm, Newton, Plain

Profile = Literal["XL", "L", "H", "3M", "5M", "8M", "14M", "T5", "T10"]


class ToothedBelt(CoreModel):
    """A timing belt on two toothed pulleys."""

    kind: Literal["toothed_belt"] = "toothed_belt"
    profile: Profile = Field(title="Profile")
    driver_teeth: int = Field(title="Driver teeth", ge=6, le=240)
    driven_teeth: int = Field(title="Driven teeth", ge=6, le=240)
    width_mm: Mm = Field(title="Belt width", ge=3, le=200)
    belt_teeth: int | None = Field(None, title="Belt teeth", ge=20, le=2000)
    center_distance_mm: Mm | None = Field(None, title="Center distance wanted", ge=10, le=5000)
    take_up_mm: Mm | None = Field(None, title="Center adjustment", ge=0, le=500)
    static_tension_n: Newton | None = Field(None, title="Tension set, one strand", ge=0, le=50_000)
    own_efficiency: Plain | None = Field(
        None, title="Your own efficiency", gt=0.3, le=0.999, description="measured; a share, 0.93"
    )
    angle_deg: Degrees = Field(0.0, title="Center line above level", ge=-90, le=90)

    @model_validator(mode="after")
    def _placed(self) -> ToothedBelt:
        if self.belt_teeth is None and self.center_distance_mm is None:
            raise ValueError("give the belt's teeth or a center distance; one of them sets where the shafts are")
        return self
