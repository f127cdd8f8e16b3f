"""What a planetary set is made of."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from pulltide.core.links.planetary.motion import Member
from pulltide.core.model import CoreModel, Mm
from pulltide.core.spur.kinds import Made, Material, Running

Arrangement = Literal[
    "sun_to_carrier_ring_held",
    "sun_to_ring_carrier_held",
    "ring_to_carrier_sun_held",
    "ring_to_sun_carrier_held",
    "carrier_to_sun_ring_held",
    "carrier_to_ring_sun_held",
]


#: Driver, driven and held member of every arrangement.
MEMBERS: dict[str, tuple[Member, Member, Member]] = {
    "sun_to_carrier_ring_held": ("sun", "carrier", "ring"),
    "sun_to_ring_carrier_held": ("sun", "ring", "carrier"),
    "ring_to_carrier_sun_held": ("ring", "carrier", "sun"),
    "ring_to_sun_carrier_held": ("ring", "sun", "carrier"),
    "carrier_to_sun_ring_held": ("carrier", "sun", "ring"),
    "carrier_to_ring_sun_held": ("carrier", "ring", "sun"),
}


class Planetary(CoreModel):
    """A sun, planets on a carrier and a ring: one drives, one is driven, one is held; or several such in a row."""

    kind: Literal["planetary"] = "planetary"
    arrangement: Arrangement = Field("sun_to_carrier_ring_held", title="Drive")
    sun_teeth: int = Field(title="Sun teeth", ge=8, le=300)
    planet_teeth: int = Field(title="Planet teeth", ge=8, le=300)
    ring_teeth: int = Field(title="Ring teeth", ge=20, le=600)
    planets: int = Field(3, title="Planets", ge=1, le=8)
    stages: int = Field(1, title="Equal stages in a row", ge=1, le=3)
    module_mm: Mm = Field(title="Module", ge=0.3, le=25)
    face_width_mm: Mm = Field(title="Face width", ge=2, le=400)
    pressure_angle: Literal["20", "14.5"] = Field("20", title="Pressure angle, degrees")
    sun_material: Material = Field("steel_4140_hardened", title="Sun material")
    planet_material: Material = Field("steel_4140_hardened", title="Planet material")
    ring_material: Material = Field("steel_1045_normalized", title="Ring material")
    made: Made = Field("hobbed", title="Tooth quality")
    running: Running = Field("enclosed_oiled", title="Runs")
    sharing: Literal["floating_sun", "fixed"] = Field("floating_sun", title="Planets share by")

    @model_validator(mode="after")
    def _sized(self) -> Planetary:
        if self.ring_teeth <= self.sun_teeth:
            raise ValueError("the ring goes round the sun and needs more teeth than it")
        return self

    @property
    def driver(self) -> Member:
        """The member that drives."""
        return self._members()[0]

    @property
    def driven(self) -> Member:
        """The member that is driven."""
        return self._members()[1]

    @property
    def held(self) -> Member:
        """The member that is held still."""
        return self._members()[2]

    def _members(self) -> tuple[Member, Member, Member]:
        return MEMBERS[self.arrangement]
