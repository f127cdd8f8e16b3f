"""What a worm and its wheel are made of."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from pulltide.core.drawing import Points
from pulltide.core.model import CoreModel, Mm, Plain


class WormSet(CoreModel):
    """A worm that drives a wheel at a right angle. A wheel that drives its worm is not offered: see the findings."""

    kind: Literal["worm_set"] = "worm_set"
    starts: int = Field(1, title="Starts of the worm", ge=1, le=8)
    wheel_teeth: int = Field(title="Wheel teeth", ge=12, le=300)
    module_mm: Mm = Field(title="Module, along the worm", ge=0.3, le=20)
    worm_pitch_mm: Mm = Field(title="Worm pitch diameter", ge=5, le=250)
    face_width_mm: Mm = Field(title="Wheel face width", ge=2, le=200)
    pressure_angle: Literal["14.5", "20", "25"] = Field("20", title="Pressure angle, degrees")
    hand: Literal["right", "left"] = Field("right", title="Hand of the thread")
    worm_is: Literal["hardened_and_ground", "soft_or_as_cut"] = Field("soft_or_as_cut", title="Worm is")
    wheel_cast: Literal["sand_cast", "chill_cast", "centrifugally_cast"] = Field("sand_cast", title="Bronze wheel is")
    worm_sits: Literal["over", "under"] = Field("over", title="Worm sits", description="of a wheel that stands upright")
    output_points: Points = Field("right", title="Wheel shaft points", description="seen along the worm's shaft")
    case_area_m2: Plain | None = Field(None, title="Outer area of the case, square meters", gt=0.001, le=10)
    fan: bool = Field(False, title="Fan on the worm shaft")
