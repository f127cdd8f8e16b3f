"""What a pair of helical gears on parallel shafts is made of."""

from __future__ import annotations

from math import cos, radians
from typing import Literal

from pydantic import Field, model_validator

from pulltide.core.model import CoreModel, Degrees, Mm, Plain
from pulltide.core.spur.kinds import Made, Material, Running


class HelicalPair(CoreModel):
    """Two helical gears of opposite hands on parallel shafts."""

    kind: Literal["helical_pair"] = "helical_pair"
    driver_teeth: int = Field(title="Driver teeth", ge=8, le=300)
    driven_teeth: int = Field(title="Driven teeth", ge=8, le=300)
    module_mm: Mm | None = Field(None, title="Module across the teeth", ge=0.3, le=25, description="normal module")
    diametral_pitch: Plain | None = Field(None, title="Normal diametral pitch, teeth an inch", ge=1, le=80)
    helix_deg: Degrees = Field(title="Helix angle", ge=5, le=45)
    helices: Literal["single", "double"] = Field(
        "single", title="Helix", description="double: two halves of opposite hands, no thrust"
    )
    face_width_mm: Mm = Field(title="Face width, both halves of a double one", ge=2, le=400)
    driver_material: Material = Field("steel_1045_normalized", title="Driver material")
    driven_material: Material = Field("steel_1045_normalized", title="Driven material")
    made: Made = Field("hobbed", title="Tooth quality")
    running: Running = Field("enclosed_oiled", title="Runs")
    own_efficiency: Plain | None = Field(
        None, title="Your own efficiency", gt=0.3, le=0.999, description="measured; a share, 0.97"
    )
    angle_deg: Degrees = Field(0.0, title="Center line above level", ge=-90, le=90)

    @model_validator(mode="after")
    def _one_pitch(self) -> HelicalPair:
        if (self.module_mm is None) == (self.diametral_pitch is None):
            raise ValueError("give the module or the diametral pitch, one of the two; mating gears share it")
        return self

    @property
    def module(self) -> float:
        """Normal module [mm]: as given, or 25.4 / P_n."""
        return self.module_mm if self.module_mm is not None else 25.4 / (self.diametral_pitch or 1.0)

    @property
    def transverse_mm(self) -> float:
        """Transverse module m_n / cos ψ [mm]."""
        return self.module / cos(radians(self.helix_deg))

    @property
    def one_face_mm(self) -> float:
        """Face width of one helix [mm]."""
        return self.face_width_mm / (2 if self.helices == "double" else 1)
