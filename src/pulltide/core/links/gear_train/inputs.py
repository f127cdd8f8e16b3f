"""What a train of two or three pairs in one gearbox is made of."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from pulltide.core.model import CoreModel, Degrees, Mm, Plain
from pulltide.core.spur.kinds import Made, Material, Running


class GearTrain(CoreModel):
    """Two or three pairs of spur gears in one case, back and forth on two axes or in a row."""

    kind: Literal["gear_train"] = "gear_train"
    layout: Literal["back_and_forth", "in_a_row"] = Field(
        "back_and_forth", title="Shafts", description="back and forth: two axes; two pairs end in line with the input"
    )
    wanted_ratio: Plain | None = Field(None, title="Wanted ratio", gt=0.001, le=3000)
    driver_1_teeth: int = Field(title="First pair, driver teeth", ge=6, le=400)
    driven_1_teeth: int = Field(title="First pair, driven teeth", ge=6, le=400)
    driver_2_teeth: int = Field(title="Second pair, driver teeth", ge=6, le=400)
    driven_2_teeth: int = Field(title="Second pair, driven teeth", ge=6, le=400)
    driver_3_teeth: int | None = Field(None, title="Third pair, driver teeth", ge=6, le=400)
    driven_3_teeth: int | None = Field(None, title="Third pair, driven teeth", ge=6, le=400)
    module_1_mm: Mm = Field(title="Module of the first pair", ge=0.3, le=25)
    module_2_mm: Mm | None = Field(
        None, title="Module of the second pair", description="empty: the same", ge=0.3, le=25
    )
    module_3_mm: Mm | None = Field(None, title="Module of the third pair", description="empty: the same", ge=0.3, le=25)
    face_modules: Plain = Field(10.0, title="Face width, in modules", ge=3, le=20, description="9 to 14 is usual")
    pressure_angle: Literal["20", "14.5", "25"] = Field("20", title="Pressure angle, degrees")
    driver_material: Material = Field("steel_4140_hardened", title="Driver material")
    driven_material: Material = Field("steel_1045_normalized", title="Driven gear material")
    made: Made = Field("hobbed", title="Tooth quality")
    running: Running = Field("enclosed_oiled", title="Runs")
    own_efficiency: Plain | None = Field(
        None, title="Your own efficiency, one pair", gt=0.3, le=0.999, description="measured; a share, 0.97"
    )
    iron_price_kg: Plain | None = Field(
        None, title="Price of a cast case, a kilogram", ge=0, le=10_000, description="in the shop's own price units"
    )
    angle_deg: Degrees = Field(0.0, title="Center line above level", ge=-90, le=90)

    @model_validator(mode="after")
    def _whole_pairs(self) -> GearTrain:
        if (self.driver_3_teeth is None) != (self.driven_3_teeth is None):
            raise ValueError("a third pair needs both its driver and its driven teeth")
        return self

    @property
    def pairs(self) -> tuple[tuple[int, int], ...]:
        """Driver and driven teeth of each pair."""
        third = ((self.driver_3_teeth, self.driven_3_teeth or 0),) if self.driver_3_teeth is not None else ()
        return ((self.driver_1_teeth, self.driven_1_teeth), (self.driver_2_teeth, self.driven_2_teeth), *third)

    @property
    def modules_mm(self) -> tuple[float, ...]:
        """Module of each pair [mm]."""
        second = self.module_2_mm or self.module_1_mm
        return (self.module_1_mm, second, self.module_3_mm or second)[: len(self.pairs)]

    @property
    def centers_mm(self) -> tuple[float, ...]:
        """Center distance of each pair [mm]: m (N1 + N2) / 2."""
        return tuple(m * sum(pair) / 2 for m, pair in zip(self.modules_mm, self.pairs, strict=True))

    @property
    def ratio(self) -> float:
        """Driver over driven speed."""
        value = 1.0
        for driver, driven in self.pairs:
            value *= driven / driver
        return value
