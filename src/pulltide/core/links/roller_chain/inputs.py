"""What a roller chain link is made of."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BeforeValidator, Field, model_validator

from pulltide.core.model import CoreModel, Degrees, Mm, Plain

#: Numbers of ISO 606 for chains of the same geometry.
ISO_NUMBER = {"04C": "25", "06C": "35", "085": "41", "08A": "40", "10A": "50", "12A": "60", "16A": "80", "20A": "100"}


def _one_name(chain: object) -> object:
    return ISO_NUMBER.get(chain, chain) if isinstance(chain, str) else chain


ChainNumber = Annotated[
    Literal["25", "35", "41", "40", "50", "60", "80", "100", "06B", "08B", "10B", "12B"], BeforeValidator(_one_name)
]


class RollerChain(CoreModel):
    """A roller chain on two sprockets."""

    kind: Literal["roller_chain"] = "roller_chain"
    chain: ChainNumber = Field(title="Chain")
    driver_teeth: int = Field(title="Driver teeth", ge=6, le=120)
    driven_teeth: int = Field(title="Driven teeth", ge=6, le=120)
    strands: int = Field(1, title="Strands", ge=1, le=4)
    pitches: int | None = Field(None, title="Links", ge=16, le=600)
    offset_link: bool = Field(False, title="Offset link accepted")
    center_distance_mm: Mm | None = Field(None, title="Center distance wanted", ge=20, le=5000)
    take_up_mm: Mm | None = Field(None, title="Center adjustment", ge=0, le=500)
    oiled: bool = Field(True, title="Oiled as recommended")
    stretch_percent: Plain | None = Field(None, title="Stretched by, per cent, measured over many links", ge=0, le=10)
    own_efficiency: Plain | None = Field(
        None, title="Your own efficiency", gt=0.3, le=0.999, description="measured; a share, 0.93"
    )
    angle_deg: Degrees = Field(0.0, title="Center line above level", ge=-90, le=90)

    @model_validator(mode="after")
    def _placed(self) -> RollerChain:
        if self.pitches is None and self.center_distance_mm is None:
            raise ValueError("give the number of links or a center distance; one of them sets where the shafts are")
        return self
