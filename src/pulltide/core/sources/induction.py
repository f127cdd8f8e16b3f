"""Induction motor as its nameplate tells it: what is legible is entered, the rest may be missing."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from pulltide.core.labels import phrase
from pulltide.core.model import Ampere, CoreModel, Hertz, Kw, Mm, Plain, Rpm, Volt
from pulltide.core.sources.contract import SourceModel
from pulltide.core.sources.supply import Supply

Start = Literal[
    "three_phase", "capacitor_start", "capacitor_start_run", "split_phase", "permanent_split", "shaded_pole"
]
Design = Literal["A", "B", "C", "D", "N"]
Enclosure = Literal["ODP", "TEFC", "TENV", "TEAO"]
Rating = Literal["continuous", "min_60", "min_30", "min_15", "intermittent"]
Letter = Literal["A", "B", "C", "D", "E", "F", "G", "H", "J", "K", "L", "M", "N", "P", "R", "S", "T", "U", "V"]
Protection = Literal["none", "automatic_reset", "manual_reset"]

#: Largest slip that is still an ordinary motor: 13 % (high-slip design D). Common practice, no source.
MAX_SLIP = 0.13
#: A plate speed this near the field's is the field's. Common practice, no source.
AT_SYNCHRONOUS = 0.002
#: Slip beyond which the poles or the frequency must be wrong.
MAX_ROTOR_SLIP = 0.20
#: A hand tachometer reads at most 1 % wrong, and an idle motor slips less than that. Common practice, no source.
TACHOMETER_ERROR = 0.01


class Inverter(CoreModel):
    """A drive that sets the motor's speed by frequency."""

    fitted: bool = Field(False, title="Runs on a VFD")
    run_hz: Hertz | None = Field(None, title="Runs at", ge=2, le=120, description="empty: the plate's own frequency")
    min_hz: Hertz | None = Field(None, title="Slowest setting", ge=2, le=120)
    max_hz: Hertz | None = Field(None, title="Fastest setting", ge=2, le=120)
    overload: Plain = Field(
        1.5, title="Torque limit, times rated torque", ge=1, le=2, description="150 % for a minute, common practice"
    )
    single_phase_input: bool = Field(False, title="VFD fed from single phase")
    separate_fan: bool = Field(False, title="Motor has a separate fan")


class InductionMotor(SourceModel):
    """Nameplate of an induction motor."""

    kind: Literal["induction"] = "induction"
    start: Start = Field("three_phase", title="How it starts")
    power_kw: Kw | None = Field(None, title="Power", ge=0.02, le=20, description="shaft output, HP or kW on the plate")
    speed_rpm: Rpm | None = Field(None, title="Full-load speed", ge=300, le=3600, description="RPM on the plate")
    frequency_hz: Hertz | None = Field(None, title="Frequency", ge=45, le=65, description="HZ")
    volts: Volt | None = Field(None, title="Voltage", ge=90, le=700, description="the one it is connected for")
    amps_a: Ampere | None = Field(None, title="Current", gt=0, le=200, description="A or FLA, at that voltage")
    nameplate_service_factor: Plain | None = Field(
        None, title="Nameplate service factor", ge=1, le=1.5, description="SF: heat reserve, not extra power"
    )
    design: Design | None = Field(None, title="Design letter", description="DES; N is the usual IEC design")
    code_letter: Letter | None = Field(None, title="Code letter", description="CODE")
    frame: str | None = Field(None, title="Frame", max_length=12, description="FR, such as 56, 145T or 90S")
    enclosure: Enclosure | None = Field(
        None, title="Enclosure", description="ODP open, TEFC fan cooled, TENV none, TEAO needs air"
    )
    rating: Rating | None = Field(None, title="Duty", description="DUTY or TIME; appliance motors are intermittent")
    protection: Protection | None = Field(None, title="Thermal protector")
    efficiency: Plain | None = Field(None, title="Efficiency", ge=0.1, le=0.98, description="EFF as a share: 0.78")
    power_factor: Plain | None = Field(None, title="Power factor", ge=0.3, le=1)
    poles: int | None = Field(None, title="Poles", ge=2, le=16)
    no_load_speed_rpm: Rpm | None = Field(
        None, title="Speed with the belt off", ge=300, le=3650, description="by tachometer, for a plate without RPM"
    )
    breakdown_torque_ratio: Plain | None = Field(
        None, title="Breakdown over full-load torque", gt=1, le=5, description="from a data sheet"
    )
    locked_rotor_torque_ratio: Plain | None = Field(None, title="Locked-rotor over full-load torque", gt=0, le=5)
    shaft_diameter_mm: Mm | None = Field(None, title="Motor shaft", ge=5, le=80)
    second_power_kw: Kw | None = Field(
        None, title="Power on the other speed", ge=0.02, le=20, description="two-speed motors"
    )
    second_speed_rpm: Rpm | None = Field(None, title="The other full-load speed", ge=200, le=3600)
    runs_on: Literal["first", "second"] = Field("first", title="Runs on", description="never both at once")
    supply_volts: Volt | None = Field(
        None, title="Voltage at the motor", ge=80, le=700, description="measured, running; empty: as on the plate"
    )
    supply_frequency_hz: Hertz | None = Field(
        None, title="Supply it runs on", ge=45, le=65, description="empty: as on the plate"
    )
    inverter: Inverter = Field(default_factory=Inverter, title="VFD")
    supply: Supply = Field(default_factory=Supply, title="Supply")

    @model_validator(mode="after")
    def _below_synchronous(self) -> InductionMotor:
        fastest = 60.0 * (self.frequency_hz or 60.0)
        for speed in (self.speed_rpm, self.second_speed_rpm):
            if speed is not None and speed > fastest * (1 + AT_SYNCHRONOUS):
                raise ValueError(
                    f"full-load speed {speed:g} rpm is above {fastest:g} rpm, the fastest "
                    f"an induction motor can turn on {self.frequency_hz or 60:g} Hz"
                )
        if self.no_load_speed_rpm is not None and self.no_load_speed_rpm > fastest * (1 + TACHOMETER_ERROR):
            raise ValueError(
                f"no-load speed {self.no_load_speed_rpm:g} rpm is above {fastest:g} rpm, the fastest "
                f"an induction motor can turn on {self.frequency_hz or 60:g} Hz"
            )
        if self.poles is not None and self.poles % 2:
            raise ValueError(f"poles come in pairs; given {self.poles}")
        return self._slips()

    def _slips(self) -> InductionMotor:
        """A rotor that turns with or ahead of its field, or far behind it, has other poles or another frequency."""
        if self.poles is None or self.speed_rpm is None or self.frequency_hz is None:
            return self
        synchronous = synchronous_speed_rpm(self.poles, self.frequency_hz)
        behind = 1 - self.speed_rpm / synchronous
        if not -TACHOMETER_ERROR / 10 <= behind <= MAX_ROTOR_SLIP:
            raise ValueError(
                f"{self.speed_rpm:g} rpm is {phrase('above' if behind < 0 else 'far below')} {synchronous:g} rpm, the "
                f"synchronous speed of {self.poles} poles on {self.frequency_hz:g} Hz; a motor slips 0 to 20 %. "
                "Check the poles, the speed and the frequency"
            )
        return self

    @property
    def phases(self) -> int:
        """Phases of its supply."""
        return 3 if self.start == "three_phase" else 1


def poles(speed_rpm: float, frequency_hz: float) -> int:
    """Pole count p inferred from full-load speed n [rpm] at f [Hz]: the largest even p with 120 f / p at or above n.

    A plate that prints the synchronous speed itself (1800 rpm) counts as that speed.

    >>> poles(1740.0, 60.0), poles(1425.0, 50.0), poles(1140.0, 60.0), poles(1800.0, 60.0)
    (4, 4, 6, 4)
    """
    return 2 * max(int(60.0 * frequency_hz / speed_rpm * (1 + AT_SYNCHRONOUS)), 1)


def is_synchronous(speed_rpm: float, frequency_hz: float) -> bool:
    """Whether a plate prints the speed of the field instead of the rotor's: 3600, 1800, 1500 rpm.

    >>> is_synchronous(1800.0, 60.0), is_synchronous(1790.0, 60.0)
    (True, False)
    """
    synchronous = synchronous_speed_rpm(poles(speed_rpm, frequency_hz), frequency_hz)
    return abs(speed_rpm / synchronous - 1) <= AT_SYNCHRONOUS


def synchronous_speed_rpm(pole_count: int, frequency_hz: float) -> float:
    """Synchronous speed n_s = 120 f / p [rpm] of p poles (even, >= 2) at f [Hz]."""
    return 120.0 * frequency_hz / pole_count


def slip(speed_rpm: float, frequency_hz: float) -> float:
    """Full-load slip s = (n_s - n) / n_s [-], with the pole count inferred."""
    synchronous = synchronous_speed_rpm(poles(speed_rpm, frequency_hz), frequency_hz)
    return (synchronous - speed_rpm) / synchronous
