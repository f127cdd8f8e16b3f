"""What a V-belt link is made of."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from pulltide.core.labels import as_is
from pulltide.core.links.v_belt import tables
from pulltide.core.model import CoreModel, Degrees, Kg, Mm, Newton, Plain

Section = Literal["3L", "4L", "5L", "A", "AX", "B", "BX", "C", "CX", "3V", "3VX", "5V", "5VX", "SPZ", "SPA", "SPB"]
IdlerSide = Literal[
    "none", "slack_strand_inside", "slack_strand_outside", "tight_strand_inside", "tight_strand_outside"
]
MeasuredAs = Literal["outside", "pitch"]


class PulleyStep(CoreModel):
    """One pair of pulley diameters; a stepped pulley has several."""

    driver_diameter_mm: Mm = Field(title="Driver diameter", ge=20, le=1500)
    driven_diameter_mm: Mm = Field(title="Driven diameter", ge=20, le=1500)


class VBelt(CoreModel):
    """One or more equal V-belts on two grooved pulleys, open, at one of several steps.

    Steps lie side by side on one pulley, or are pairs of pulleys that are changed over.
    """

    kind: Literal["v_belt"] = "v_belt"
    section: Section = Field(title="Section")
    measured_as: MeasuredAs = Field(title="Diameters are")
    steps: tuple[PulleyStep, ...] = Field(title="Steps", min_length=1, max_length=6)
    chosen_step: int = Field(1, title="Step in use", ge=1, le=6)
    steps_are: Literal["step_pulleys", "change_pulleys"] = Field("step_pulleys", title="Steps are")
    belts: int = Field(1, title="Number of belts", ge=1, le=6)
    belt: str | None = Field(None, title="Belt", max_length=12, description="its name, or a length such as 48 in")
    center_distance_mm: Mm | None = Field(None, title="Center distance wanted", ge=20, le=6000)
    take_up_mm: Mm | None = Field(None, title="Motor base travel", ge=0, le=500)
    tensioning: Literal["locked", "constant_pull", "hinged_plate"] = Field("locked", title="Tension type")
    static_tension_n: Newton | None = Field(None, title="Tension set, each belt", gt=0, le=5000)
    plate_mass_kg: Kg | None = Field(
        None, title="Motor, plate and weight together", gt=0, le=2000, description="hung on the side that tightens"
    )
    plate_arm_mm: Mm | None = Field(None, title="Their center of gravity from the hinge, across", gt=0, le=3000)
    hinge_across_mm: Mm | None = Field(None, title="Motor shaft from the hinge, across", ge=-2000, le=2000)
    hinge_up_mm: Mm | None = Field(None, title="Motor shaft from the hinge, up", ge=-2000, le=2000)
    tight_strand: Literal["nearer_the_hinge", "farther_from_the_hinge"] | None = Field(
        None, title="Tight strand is the one"
    )
    driven_rim: Literal["grooved", "flat_drum"] = Field("grooved", title="Driven rim is")
    run: Literal["open", "crossed"] = Field("open", title="Belt runs")
    idler: IdlerSide = Field("none", title="Idler")
    idler_diameter_mm: Mm | None = Field(None, title="Idler outside diameter", ge=15, le=600)
    idler_share: Plain = Field(0.3, title="Idler along the strand, share from the driver", ge=0.05, le=0.95)
    idler_push_mm: Mm = Field(10.0, title="Idler pushes the strand by", ge=0, le=400)
    own_efficiency: Plain | None = Field(
        None, title="Your own efficiency", gt=0.3, le=0.999, description="measured; a share, 0.93"
    )
    slips_first: bool = Field(False, title="Meant to slip before anything breaks")
    angle_deg: Degrees = Field(0.0, title="Center line above level", ge=-90, le=90)

    @model_validator(mode="after")
    def _placed(self) -> VBelt:
        if self.chosen_step > len(self.steps):
            raise ValueError(f"step {self.chosen_step} is chosen, but the pulley has {len(self.steps)}")
        if self.belt is None and self.center_distance_mm is None:
            raise ValueError("give a belt or a center distance; one of them sets where the shafts are")
        if self.run == "crossed":
            raise ValueError(
                "a V-belt does not run crossed: its strands rub where they pass and the belt turns over in its groove. "
                "Reverse with gears. A flat or round belt may cross, but no rating of one is known here"
            )
        if self.driven_rim == "flat_drum" and tables.section(self.section).flat_drum_mm is None:
            raise ValueError(
                f"a narrow {as_is(self.section)} belt does not run on a flat drum; use a classical or light one"
            )
        if self.idler != "none" and self.idler_diameter_mm is None:
            raise ValueError("an idler needs its outside diameter")
        if self.belt is not None:
            tables.belt(self.section, self.belt)
        return self

    @property
    def idler_on_back(self) -> bool:
        """Whether the idler runs on the back of the belt."""
        return self.idler in ("slack_strand_outside", "tight_strand_outside")

    @property
    def idler_on_tight(self) -> bool:
        """Whether the idler pushes the tight strand."""
        return self.idler in ("tight_strand_inside", "tight_strand_outside")
