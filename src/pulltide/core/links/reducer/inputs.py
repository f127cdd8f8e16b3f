"""What a gear reducer link is made of."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, ValidationInfo, model_validator

from pulltide.core.catalog import with_data
from pulltide.core.drawing import Side
from pulltide.core.labels import as_is
from pulltide.core.links.reducer import tables
from pulltide.core.model import Arcmin, CoreModel, Kw, Mm, Newton, Nm, Plain, Rpm

ReducerType = Literal["worm", "helical", "helical_bevel", "planetary", "cycloidal", "strain_wave"]
Mounting = Literal["not_said", "floor", "wall", "overhead", "output_up", "output_down"]
OutputForm = Literal["as_listed", "solid_with_key", "hollow_with_key", "hollow_with_shrink_ring", "flange"]
Position = Literal["shoulder", "middle", "end"]
OWN = "own"


class ReducerPlate(CoreModel):
    """A reducer of your own, from its plate or by measuring. What is not known stays empty."""

    type: ReducerType = Field("worm", title="Type")
    ratio: Plain = Field(title="Ratio", ge=1, le=300)
    turn: Literal["same", "opposite", "right_angle"] = Field("right_angle", title="Output turns")
    rated_torque_nm: Nm | None = Field(None, title="Rated output torque", gt=0, le=50_000)
    rated_input_rpm: Rpm | None = Field(
        None, title="Rated at an input of", gt=0, le=6000, description="the speed that its plate's torque is given for"
    )
    efficiency: Plain | None = Field(None, title="Efficiency, 0 to 1", gt=0.1, le=1)
    max_input_rpm: Rpm | None = Field(None, title="Fastest input", ge=100, le=6000)
    overhung_out_n: Newton | None = Field(None, title="Overhung load, output", gt=0, le=200_000)
    overhung_in_n: Newton | None = Field(None, title="Overhung load, input", gt=0, le=200_000)
    thermal_kw: Kw | None = Field(None, title="Thermal input power", gt=0, le=100)
    input_shaft_mm: Mm | None = Field(None, title="Input shaft", ge=5, le=150)
    output_shaft_mm: Mm | None = Field(None, title="Output shaft", ge=5, le=200)
    peak_factor: Plain | None = Field(None, title="Momentary over rated torque", ge=1, le=5)
    backlash_arcmin: Arcmin | None = Field(None, title="Backlash", ge=0, le=600)


class Reducer(CoreModel):
    """A stock gear reducer by its designation, or one of your own."""

    kind: Literal["reducer"] = "reducer"
    designation: str = Field(title="Reducer", min_length=1, max_length=60)
    own: ReducerPlate | None = Field(None, title="Your own unit")
    data: tables.Unit | None = Field(None, title="Its data", description="as the list had it when it was chosen")
    input_position: Position = Field("middle", title="Wheel on the input shaft sits at")
    output_position: Position = Field("middle", title="Wheel on the output shaft sits at")
    input_at_mm: Mm | None = Field(
        None, title="Wheel on the input shaft, from its shoulder", gt=0, le=600, description="to the middle of its face"
    )
    output_at_mm: Mm | None = Field(
        None,
        title="Wheel on the output shaft, from its shoulder",
        gt=0,
        le=600,
        description="to the middle of its face",
    )
    output_form: OutputForm = Field("as_listed", title="Output shaft")
    mounting: Mounting = Field("not_said", title="Mounting position")
    output_points: Side = Field("right", title="Output shaft points", description="seen from the input shaft")
    worm_sits: Literal["over", "under"] = Field("over", title="Worm sits")
    torque_arm_mm: Mm | None = Field(None, title="Torque arm from the output shaft", ge=20, le=2000)
    max_backlash_arcmin: Arcmin | None = Field(None, title="Most backlash that will do", gt=0, le=600)

    @model_validator(mode="before")
    @classmethod
    def _looked_up(cls, raw: object, info: ValidationInfo) -> object:
        return with_data(raw, tables.PART, "Reducer", info.context)

    @model_validator(mode="after")
    def _known(self) -> Reducer:
        if self.designation == OWN and self.own is None:
            raise ValueError("a reducer of your own needs at least its ratio")
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
    def unit(self) -> tables.Unit:
        """The data in force: what was taken from a list, or what the plate says."""
        if self.data is not None and self.designation != OWN:
            return self.data
        plate = self.own or ReducerPlate(ratio=1.0)
        return tables.Unit(
            designation=OWN,
            type=plate.type,
            ratio=plate.ratio,
            ratio_nominal=plate.ratio,
            stages={"same": 2, "opposite": 1, "right_angle": None}[plate.turn],
            torque_1750_nm=plate.rated_torque_nm,
            torque_875_nm=plate.rated_torque_nm,
            torque_300_nm=plate.rated_torque_nm,
            efficiency_1750=plate.efficiency,
            efficiency_300=plate.efficiency,
            max_input_rpm=plate.max_input_rpm,
            input_shaft_mm=plate.input_shaft_mm,
            output_shaft_mm=plate.output_shaft_mm,
            overhung_out_n=plate.overhung_out_n,
            overhung_in_n=plate.overhung_in_n,
            thermal_kw=plate.thermal_kw,
            peak_factor=plate.peak_factor,
            direction=plate.turn,
            backlash_arcmin=plate.backlash_arcmin,
            rated_input_rpm=plate.rated_input_rpm,
            by_plate=True,
        )
