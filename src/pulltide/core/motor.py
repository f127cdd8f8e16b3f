"""Induction motor from its nameplate. What the plate does not say stays unknown."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from pulltide.core.model import CoreModel, Hertz, Kw, Mm, Plain, Rpm, Volt
from pulltide.core.units import torque_nm

Start = Literal["three_phase", "capacitor_start", "split_phase", "permanent_split"]

#: Largest slip that is still an ordinary motor: 13 % (high-slip design D). Common practice, no source.
MOST_SLIP = 0.13


class Motor(CoreModel):
    """Nameplate of an induction motor run at its own supply frequency."""

    kind: Literal["induction"] = "induction"
    power_kw: Kw = Field(title="Power", ge=0.02, le=20)
    speed_rpm: Rpm = Field(title="Full-load speed", ge=300, le=3600)
    frequency_hz: Hertz = Field(60.0, title="Supply frequency", ge=45, le=65)
    start: Start = Field("three_phase", title="How it starts")
    volts: Volt | None = Field(None, title="Voltage", ge=90, le=700)
    nameplate_service_factor: Plain | None = Field(None, title="Nameplate service factor", ge=1, le=1.5)
    breakdown_torque_ratio: Plain | None = Field(None, title="Breakdown over full-load torque", gt=1, le=5)
    locked_rotor_torque_ratio: Plain | None = Field(None, title="Locked-rotor over full-load torque", gt=0, le=5)
    shaft_diameter_mm: Mm | None = Field(None, title="Motor shaft", ge=5, le=80)

    @model_validator(mode="after")
    def _below_synchronous(self) -> Motor:
        if self.speed_rpm >= 60.0 * self.frequency_hz:
            raise ValueError(
                f"full-load speed {self.speed_rpm:g} rpm is not below {60 * self.frequency_hz:g} rpm, the fastest "
                f"an induction motor can turn on {self.frequency_hz:g} Hz"
            )
        return self

    @property
    def torque_nm(self) -> float:
        """Full-load torque [N·m]: T = 60000 P / (2 pi n)."""
        return torque_nm(self.power_kw, self.speed_rpm)

    @property
    def breakdown_torque_nm(self) -> float | None:
        """Breakdown torque [N·m], or None while the ratio is unknown."""
        return None if self.breakdown_torque_ratio is None else self.breakdown_torque_ratio * self.torque_nm

    @property
    def locked_rotor_torque_nm(self) -> float | None:
        """Locked-rotor torque [N·m], or None while the ratio is unknown."""
        return None if self.locked_rotor_torque_ratio is None else self.locked_rotor_torque_ratio * self.torque_nm

    @property
    def starts_with_high_torque(self) -> bool:
        """Whether belt tables count this motor as a high-torque source (capacitor start). Source: RMA IP-20."""
        return self.start == "capacitor_start"


def poles(speed_rpm: float, frequency_hz: float) -> int:
    """Pole count p inferred from full-load speed n [rpm] at f [Hz]: the largest even p with 120 f / p > n.

    >>> poles(1740.0, 60.0), poles(1425.0, 50.0), poles(1140.0, 60.0)
    (4, 4, 6)
    """
    pairs = int(60.0 * frequency_hz / speed_rpm)
    if 60.0 * frequency_hz / pairs <= speed_rpm and pairs > 1:
        pairs -= 1
    return 2 * pairs


def synchronous_speed_rpm(pole_count: int, frequency_hz: float) -> float:
    """Synchronous speed n_s = 120 f / p [rpm] of p poles (even, >= 2) at f [Hz]."""
    return 120.0 * frequency_hz / pole_count


def slip(speed_rpm: float, frequency_hz: float) -> float:
    """Full-load slip s = (n_s - n) / n_s [-], with the pole count inferred."""
    synchronous = synchronous_speed_rpm(poles(speed_rpm, frequency_hz), frequency_hz)
    return (synchronous - speed_rpm) / synchronous
