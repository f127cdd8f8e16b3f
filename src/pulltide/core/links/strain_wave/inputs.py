"""What a strain-wave gear is made of."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from pulltide.core.model import CoreModel, Nm


class StrainWave(CoreModel):
    """A flexible cup that a wave generator presses into a rigid ring; the generator drives."""

    kind: Literal["strain_wave"] = "strain_wave"
    cup_teeth: int = Field(title="Teeth of the flexible cup", ge=20, le=640)
    ring_teeth: int = Field(title="Teeth of the rigid ring", ge=20, le=660)
    lobes: Literal["2", "3"] = Field("2", title="Lobes of the wave generator")
    held: Literal["ring", "cup"] = Field("ring", title="Held still")
    made_of: Literal["steel", "printed"] = Field("steel", title="Made of")
    rated_torque_nm: Nm | None = Field(None, title="Rated output torque", gt=0, le=20_000)

    @model_validator(mode="after")
    def _lobes_fit(self) -> StrainWave:
        more, lobes = self.ring_teeth - self.cup_teeth, int(self.lobes)
        if more <= 0:
            raise ValueError("the ring needs more teeth than the cup, or nothing turns")
        if more % lobes:
            raise ValueError(
                f"the ring has {more} teeth more than the cup; with {lobes} lobes that must be a multiple of {lobes}"
            )
        return self

    @property
    def ratio(self) -> float:
        """Generator over output speed, without its sign: Zf / (Zc - Zf) with the ring held, Zc / (Zc - Zf) else."""
        out = self.cup_teeth if self.held == "ring" else self.ring_teeth
        return out / (self.ring_teeth - self.cup_teeth)
