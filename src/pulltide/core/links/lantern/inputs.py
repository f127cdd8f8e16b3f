"""What a lantern pinion and its wheel are made of."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from pulltide.core.model import CoreModel, Degrees, Mm
from pulltide.core.spur.kinds import Material


class Lantern(CoreModel):
    """A pinion of pins between two discs, and the toothed wheel it meshes with."""

    kind: Literal["lantern"] = "lantern"
    pins: int = Field(title="Pins", ge=3, le=60)
    wheel_teeth: int = Field(title="Wheel teeth", ge=8, le=400)
    circular_pitch_mm: Mm = Field(title="Pitch, tooth to tooth along the pitch circle", ge=4, le=120)
    pin_diameter_mm: Mm = Field(title="Pin diameter", ge=1.5, le=70)
    pin_span_mm: Mm = Field(title="Free length of the pins between the discs", ge=3, le=300)
    wheel_face_mm: Mm = Field(title="Wheel face width", ge=2, le=300)
    drives: Literal["wheel", "pinion"] = Field("pinion", title="Driven by the")
    pin_material: Material = Field("steel_1045_normalized", title="Pin material")
    wheel_material: Material = Field("steel_1020_hot_rolled", title="Wheel material")
    angle_deg: Degrees = Field(0.0, title="Center line above level", ge=-90, le=90)

    @property
    def driver_count(self) -> int:
        """Pins or teeth of the driver."""
        return self.pins if self.drives == "pinion" else self.wheel_teeth

    @property
    def driven_count(self) -> int:
        """Pins or teeth of the driven side."""
        return self.wheel_teeth if self.drives == "pinion" else self.pins
