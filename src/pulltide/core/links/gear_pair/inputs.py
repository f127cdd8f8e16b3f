"""What a pair of spur gears is made of."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from pulltide.core.model import CoreModel, Degrees, Mm, Plain

Material = Literal[
    "steel 1020 hot rolled",
    "steel 1045 normalised",
    "steel 4140 hardened",
    "steel 4140 hard",
    "grey iron class 30",
    "tin bronze",
    "acetal or nylon",
    "printed PLA or PETG",
    "printed nylon",
]
Made = Literal["cast", "cut", "hobbed", "ground"]
Running = Literal["enclosed, oiled", "open, greased", "open, dirty"]


class GearPair(CoreModel):
    """Two spur gears in mesh, outside or inside one another."""

    kind: Literal["gear_pair"] = "gear_pair"
    mesh: Literal["external", "internal"] = Field("external", title="Mesh")
    driver_teeth: int = Field(title="Driver teeth", ge=8, le=400)
    driven_teeth: int = Field(title="Driven teeth", ge=8, le=400)
    module_mm: Mm | None = Field(None, title="Module", ge=0.3, le=25)
    diametral_pitch: Plain | None = Field(None, title="Diametral pitch, teeth an inch", ge=1, le=80)
    pressure_angle: Literal["20", "14.5"] = Field("20", title="Pressure angle, degrees")
    face_width_mm: Mm = Field(title="Face width", ge=2, le=400)
    driver_material: Material = Field("steel 1045 normalised", title="Driver made of")
    driven_material: Material = Field("steel 1045 normalised", title="Driven made of")
    made: Made = Field("hobbed", title="Teeth are")
    running: Running = Field("open, greased", title="Runs")
    spread_mm: Mm = Field(0.0, title="Centres spread by", ge=0, le=20)
    angle_deg: Degrees = Field(0.0, title="Centre line above level", ge=-90, le=90)

    @model_validator(mode="after")
    def _one_pitch(self) -> GearPair:
        if (self.module_mm is None) == (self.diametral_pitch is None):
            raise ValueError("give the module or the diametral pitch, one of the two; mating gears share it")
        if self.mesh == "internal" and self.driver_teeth == self.driven_teeth:
            raise ValueError("a gear inside another needs fewer teeth than its ring")
        return self

    @property
    def module(self) -> float:
        """Module m [mm]: as given, or 25.4 / Pd."""
        return self.module_mm if self.module_mm is not None else 25.4 / (self.diametral_pitch or 1.0)

    @property
    def angle(self) -> float:
        """Pressure angle [degrees]."""
        return float(self.pressure_angle)

    @property
    def small_teeth(self) -> int:
        """Teeth of the pinion, or of the gear inside a ring."""
        return min(self.driver_teeth, self.driven_teeth)

    @property
    def large_teeth(self) -> int:
        """Teeth of the larger gear or the ring."""
        return max(self.driver_teeth, self.driven_teeth)
