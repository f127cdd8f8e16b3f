"""What a friction roller on a wheel or drum is made of."""

from __future__ import annotations

from math import inf
from typing import Literal

from pydantic import Field, model_validator

from pulltide.core.labels import quantity
from pulltide.core.model import CoreModel, Degrees, Mm, Newton, Plain

#: Least difference of diameters of a roller inside a drum.
INSIDE = 1.2


class FrictionDrive(CoreModel):
    """A roller pressed on the rim of a wheel, or on the inside of a drum."""

    kind: Literal["friction_drive"] = "friction_drive"
    runs: Literal["outside_rim", "inside_drum"] = Field("outside_rim", title="Roller runs")
    driver_diameter_mm: Mm = Field(title="Driver diameter", ge=10, le=3000)
    driven_diameter_mm: Mm = Field(title="Driven diameter", ge=10, le=3000)
    face_width_mm: Mm = Field(title="Face in contact", ge=2, le=500)
    lining: Literal["rubber", "polyurethane", "pressed_fiber", "bare_metal"] = Field(
        "rubber", title="Lining of the roller"
    )
    surface: Literal["dry", "wet_or_dusty"] = Field("dry", title="Rim is")
    rollers: int = Field(1, title="Driving rollers", ge=1, le=4)
    press_n: Newton | None = Field(
        None, title="Pressed with, each roller", gt=0, le=100_000, description="by spring, weight, or the drum itself"
    )
    own_friction: Plain | None = Field(None, title="Your own friction, low end", gt=0.02, le=1.2)
    own_rolling_arm_mm: Mm | None = Field(None, title="Your own rolling arm", gt=0, le=30)
    angle_deg: Degrees = Field(0.0, title="Center line above level", ge=-90, le=90)

    @model_validator(mode="after")
    def _fits_inside(self) -> FrictionDrive:
        small, large = sorted((self.driver_diameter_mm, self.driven_diameter_mm))
        if self.is_inside and large < INSIDE * small:
            least = INSIDE * small
            raise ValueError(
                f"a roller of {quantity(small, 'mm')} runs inside a drum of {quantity(least, 'mm')} at the least"
            )
        return self

    @property
    def is_inside(self) -> bool:
        """Whether it runs on the inside of the drum."""
        return self.runs == "inside_drum"

    @property
    def equivalent_mm(self) -> float:
        """Equivalent diameter 1 / (1/d1 ± 1/d2) [mm], minus inside."""
        sign = -1 if self.is_inside else 1
        small, large = sorted((self.driver_diameter_mm, self.driven_diameter_mm))
        curved = 1 / small + sign / large
        return 1 / curved if curved > 0 else inf
