"""What a coupling is made of."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, ValidationInfo, model_validator

from pulltide.core.catalog import with_data
from pulltide.core.labels import as_is
from pulltide.core.links.coupling import tables
from pulltide.core.model import CoreModel, Degrees, Mm, Nm, Rpm

OWN = "own"
CouplingType = tables.CouplingType


PinSteel = Literal["not_known", "brass", "mild_steel_1018", "steel_1045"]


class CouplingPlate(CoreModel):
    """A coupling of your own. What is not known stays empty."""

    type: CouplingType = Field("jaw", title="Type")
    rated_torque_nm: Nm | None = Field(None, title="Rated torque", gt=0, le=50_000)
    max_bore_mm: Mm | None = Field(None, title="Greatest bore", ge=3, le=200)
    max_speed_rpm: Rpm | None = Field(None, title="Fastest speed", ge=50, le=30_000)


class Coupling(CoreModel):
    """Two shafts end to end, joined by a stock coupling or one of your own."""

    kind: Literal["coupling"] = "coupling"
    designation: str = Field(title="Coupling", min_length=1, max_length=60)
    own: CouplingPlate | None = Field(None, title="Your own coupling")
    data: tables.Unit | None = Field(None, title="Its data", description="as the list had it when it was chosen")
    driver_shaft_mm: Mm | None = Field(None, title="Driver shaft", ge=3, le=200)
    driven_shaft_mm: Mm | None = Field(None, title="Driven shaft", ge=3, le=200)
    shear_pins: int = Field(0, title="Shear pins", ge=0, le=4)
    shear_pin_mm: Mm | None = Field(None, title="Shear pin, diameter in its groove", ge=1, le=30)
    shear_circle_mm: Mm | None = Field(None, title="Circle of the shear pins, diameter", ge=10, le=600)
    shear_pin_steel: PinSteel = Field("not_known", title="Shear pin steel")
    limiter_nm: Nm | None = Field(
        None, title="Torque limiter slips at", gt=0, le=50_000, description="friction plates or balls, as it is set"
    )
    angle_off_deg: Degrees | None = Field(None, title="Shafts lie askew by", ge=0, le=10)
    parallel_off_mm: Mm | None = Field(None, title="Shafts lie beside by", ge=0, le=20)

    @model_validator(mode="before")
    @classmethod
    def _looked_up(cls, raw: object, info: ValidationInfo) -> object:
        return with_data(raw, tables.PART, "Coupling", info.context)

    @model_validator(mode="after")
    def _known(self) -> Coupling:
        if self.designation == OWN and self.own is None:
            raise ValueError("a coupling of your own needs at least its type")
        if self.designation != OWN and self.data is None:
            raise ValueError(
                f"{as_is(self.designation)} comes without its data, and no list is at hand to look it up in"
            )
        if self.data is not None and self.data.designation != self.designation:
            raise ValueError(
                f"{as_is(self.designation)} comes with the data of another part, {as_is(self.data.designation)}"
            )
        return self

    @property
    def slips_first(self) -> bool:
        """Whether it holds pins or a limiter that are meant to let go before anything else breaks."""
        return self.shear_pins > 0 or self.limiter_nm is not None

    @property
    def unit(self) -> tables.Unit:
        """The data in force: what was taken from a list, or what the plate says."""
        if self.data is not None and self.designation != OWN:
            return self.data
        plate = self.own or CouplingPlate()
        return tables.Unit(
            designation=OWN,
            type=plate.type,
            rated_torque_nm=plate.rated_torque_nm,
            max_bore_mm=plate.max_bore_mm,
            max_speed_rpm=plate.max_speed_rpm,
        )
