"""What a pair of spur gears is made of."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from pulltide.core.model import CoreModel, Degrees, Mm, Plain
from pulltide.core.spur import form
from pulltide.core.spur.kinds import Made, Material, Running


class GearPair(CoreModel):
    """Two spur gears in mesh, outside or inside one another."""

    kind: Literal["gear_pair"] = "gear_pair"
    mesh: Literal["external", "internal"] = Field("external", title="Mesh")
    driver_teeth: int = Field(title="Driver teeth", ge=6, le=400)
    driven_teeth: int = Field(title="Driven teeth", ge=6, le=400)
    idlers: int = Field(0, title="Idlers between", ge=0, le=3)
    idler_teeth: int | None = Field(None, title="Idler teeth", ge=6, le=400)
    module_mm: Mm | None = Field(None, title="Module", ge=0.3, le=25)
    diametral_pitch: Plain | None = Field(None, title="Diametral pitch, teeth an inch", ge=1, le=80)
    pressure_angle: Literal["20", "14.5", "25"] = Field("20", title="Pressure angle, degrees")
    face_width_mm: Mm = Field(title="Face width", ge=2, le=400)
    driver_material: Material = Field("steel_1045_normalized", title="Driver material")
    driven_material: Material = Field("steel_1045_normalized", title="Driven material")
    made: Made = Field("hobbed", title="Tooth quality")
    running: Running = Field("open_greased", title="Runs")
    driver_shift: Plain = Field(
        0.0, title="Driver profile shift", ge=-0.5, le=1, description="in modules; 0.3 to 0.5 saves a small pinion"
    )
    driven_shift: Plain = Field(0.0, title="Driven profile shift", ge=-1, le=1, description="in modules")
    spread_mm: Mm = Field(0.0, title="Centers spread by", ge=0, le=20)
    own_efficiency: Plain | None = Field(
        None, title="Your own efficiency", gt=0.3, le=0.999, description="measured; a share, 0.93"
    )
    angle_deg: Degrees = Field(0.0, title="Center line above level", ge=-90, le=90)

    @model_validator(mode="after")
    def _one_pitch(self) -> GearPair:
        if (self.module_mm is None) == (self.diametral_pitch is None):
            raise ValueError("give the module or the diametral pitch, one of the two; mating gears share it")
        if self.mesh == "internal" and self.driver_teeth == self.driven_teeth:
            raise ValueError("a gear inside another needs fewer teeth than its ring")
        if self.idlers and self.mesh == "internal":
            raise ValueError("an idler between a gear and its ring is a planetary set with its carrier held: use that")
        if (self.driver_shift or self.driven_shift) and (self.idlers or self.mesh == "internal"):
            raise ValueError("profile shift is for a plain external pair; leave it 0 with idlers or inside a ring")
        if self.driver_shift or self.driven_shift:
            pair = (form.Tooth(self.driver_teeth, self.angle, self.driver_shift),)
            form.tight_center(*pair, form.Tooth(self.driven_teeth, self.angle, self.driven_shift))
        if self.idlers and self.idler_teeth is None:
            raise ValueError("an idler needs its teeth; they do not change the ratio, but where the shafts stand")
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
    def chain(self) -> tuple[int, ...]:
        """Teeth of every gear from driver to driven, idlers between."""
        return (self.driver_teeth, *((self.idler_teeth or 0,) * self.idlers), self.driven_teeth)

    @property
    def small_teeth(self) -> int:
        """Teeth of the pinion, or of the gear inside a ring."""
        return min(self.driver_teeth, self.driven_teeth)

    @property
    def large_teeth(self) -> int:
        """Teeth of the larger gear or the ring."""
        return max(self.driver_teeth, self.driven_teeth)
