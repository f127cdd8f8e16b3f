"""What a pair of straight bevel gears is made of."""

from __future__ import annotations

from math import atan2, cos, radians, sin
from typing import Literal, Self

from pydantic import Field, model_validator

from pulltide.core.drawing import Points
from pulltide.core.labels import quantity
from pulltide.core.model import CoreModel, Degrees, Mm, Plain
from pulltide.core.spur.kinds import Made, Material, Running


class BevelSizes(CoreModel):
    """Teeth, pitch, shaft angle and face of a bevel pair, whose cones exist."""

    driver_teeth: int = Field(title="Driver teeth", ge=10, le=200)
    driven_teeth: int = Field(title="Driven teeth", ge=10, le=200)
    module_mm: Mm | None = Field(None, title="Module at the large end", ge=0.5, le=25)
    diametral_pitch: Plain | None = Field(None, title="Diametral pitch at the large end, teeth an inch", ge=1, le=50)
    shafts_deg: Degrees = Field(90.0, title="Angle between the shafts", ge=30, le=150)
    face_width_mm: Mm = Field(title="Face width", ge=2, le=300)

    @model_validator(mode="after")
    def _one_pitch(self) -> Self:
        if (self.module_mm is None) == (self.diametral_pitch is None):
            raise ValueError("give the module or the diametral pitch, one of the two; mating gears share it")
        return self

    @model_validator(mode="after")
    def _cones_exist(self) -> Self:
        if max(self.cones) >= radians(90):
            raise ValueError("at this shaft angle the larger gear is flat or hollow; use a smaller angle or ratio")
        if self.face_width_mm >= 0.9 * self.cone_mm:
            raise ValueError(
                f"the face is nearly as long as the cone, {quantity(self.cone_mm, 'mm')}; use a third of it"
            )
        return self

    @property
    def module(self) -> float:
        """Module at the large end [mm]."""
        return self.module_mm if self.module_mm is not None else 25.4 / (self.diametral_pitch or 1.0)

    @property
    def cones(self) -> tuple[float, float]:
        """Pitch cone angles of driver and driven gear [radians]: tan γ = sin Σ / (N_mate / N + cos Σ)."""
        sigma, pair = radians(self.shafts_deg), (self.driver_teeth, self.driven_teeth)
        first = atan2(sin(sigma), pair[1] / pair[0] + cos(sigma))
        return first, sigma - first

    @property
    def cone_mm(self) -> float:
        """Cone distance [mm]: d / (2 sin γ)."""
        return self.module * self.driver_teeth / (2 * sin(self.cones[0]))

    @property
    def mean_share(self) -> float:
        """Mean over large-end size [-]: 1 - b / (2 A)."""
        return 1 - self.face_width_mm / (2 * self.cone_mm)


class BevelPair(BevelSizes):
    """Two straight bevel gears whose axes cross."""

    kind: Literal["bevel_pair"] = "bevel_pair"
    driver_material: Material = Field("steel_1045_normalized", title="Driver material")
    driven_material: Material = Field("steel_1045_normalized", title="Driven material")
    made: Made = Field("cut", title="Tooth quality")
    running: Running = Field("enclosed_oiled", title="Runs")
    output_points: Points = Field("right", title="Driven shaft points", description="seen along the driver shaft")
    own_efficiency: Plain | None = Field(
        None, title="Your own efficiency", gt=0.3, le=0.999, description="measured; a share, 0.96"
    )
