"""What the last shaft must do. Unknown stays unknown: every figure may be missing until it is entered."""

from __future__ import annotations

from pydantic import Field, model_validator

from pulltide.core.model import CoreModel, Nm, Rpm


class Need(CoreModel):
    """Speed band and torque at the last shaft."""

    last_shaft: str = Field("Last shaft", title="Name of the last shaft", min_length=1, max_length=40)
    speed_min_rpm: Rpm | None = Field(None, title="Slowest useful speed", gt=0, le=20_000)
    speed_ideal_rpm: Rpm | None = Field(None, title="Ideal speed", gt=0, le=20_000)
    speed_max_rpm: Rpm | None = Field(None, title="Fastest useful speed", gt=0, le=20_000)
    running_torque_nm: Nm | None = Field(None, title="Running torque", gt=0, le=100_000)
    peak_torque_nm: Nm | None = Field(None, title="Peak torque", gt=0, le=200_000)
    breakaway_torque_nm: Nm | None = Field(None, title="Breakaway torque", gt=0, le=200_000)

    @model_validator(mode="after")
    def _ordered(self) -> Need:
        pairs = (
            (self.speed_min_rpm, self.speed_ideal_rpm, "slowest useful speed", "ideal speed"),
            (self.speed_ideal_rpm, self.speed_max_rpm, "ideal speed", "fastest useful speed"),
            (self.speed_min_rpm, self.speed_max_rpm, "slowest useful speed", "fastest useful speed"),
            (self.running_torque_nm, self.peak_torque_nm, "running torque", "peak torque"),
        )
        for low, high, low_name, high_name in pairs:
            if low is not None and high is not None and low > high:
                raise ValueError(f"{low_name} is above {high_name}; lower the one or raise the other")
        return self
