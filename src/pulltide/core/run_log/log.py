"""What was read on a machine, and what was done to it: part of its document."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Discriminator, Field, Tag

from pulltide.core.model import (
    Ampere,
    Celsius,
    CoreModel,
    Degrees,
    Hertz,
    Hours,
    Kw,
    Mm,
    MmPerS,
    Newton,
    Nm,
    Plain,
    Rpm,
    Seconds,
    Volt,
)

MAX_VISITS, MAX_READINGS, MAX_WORKS, MAX_TAKEN = 60, 40, 200, 40
#: A day as it is written: 2026-03-14.
DAY = r"^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$"
PLACE = r"^(shaft|link)-[1-9]$"
Noticed = Literal["no_start", "trips", "squeal", "unsteady", "tick", "hum", "dust"]
#: What of a plan readings may correct.
Correctable = Literal["load", "breakaway", "tension", "full_load_speed", "friction", "loss"]
Loaded = Literal["full", "half", "none", "unknown"]


class ReadingBase(CoreModel):
    """One reading: where, with what, and what was written down."""

    at: str = Field(title="Where", pattern=PLACE, max_length=10)
    instrument: str = Field("", title="Read with", max_length=40)


class SpeedReading(ReadingBase):
    """Speed of a shaft."""

    kind: Literal["speed"] = "speed"
    value: Rpm = Field(title="Speed read", ge=0, le=60_000)


class AmpsReading(ReadingBase):
    """Current in one lead."""

    kind: Literal["amps"] = "amps"
    value: Ampere = Field(title="Current read", ge=0, le=2000)


class WattsReading(ReadingBase):
    """Power drawn."""

    kind: Literal["watts"] = "watts"
    value: Kw = Field(title="Power read", ge=0, le=200)


class VoltsReading(ReadingBase):
    """Voltage at the motor, running."""

    kind: Literal["volts"] = "volts"
    value: Volt = Field(title="Voltage read", ge=0, le=1000)


class BreakawayReading(ReadingBase):
    """Torque that moves it from rest."""

    kind: Literal["breakaway"] = "breakaway"
    value: Nm = Field(title="Breakaway torque read", ge=0, le=1_000_000)


class StrumReading(ReadingBase):
    """What a plucked span strums at."""

    kind: Literal["strum"] = "strum"
    value: Hertz = Field(title="Strum heard", ge=1, le=2000)


class PressReading(ReadingBase):
    """Force that deflects the span by a 64th of its length."""

    kind: Literal["press"] = "press"
    value: Newton = Field(title="Deflection force read", ge=0, le=5000)


class SmallPulleyReading(ReadingBase):
    """Small pulley, read within 20 s of stopping."""

    kind: Literal["small_pulley"] = "small_pulley"
    value: Celsius = Field(title="Small pulley read", ge=-40, le=250)


class MotorCaseReading(ReadingBase):
    """Case of the motor, warm."""

    kind: Literal["motor_case"] = "motor_case"
    value: Celsius = Field(title="Motor case read", ge=-40, le=250)


class GearCaseReading(ReadingBase):
    """Case of a reducer, warm."""

    kind: Literal["gear_case"] = "gear_case"
    value: Celsius = Field(title="Reducer case read", ge=-40, le=250)


class BearingReading(ReadingBase):
    """Bearing of a shaft, warm."""

    kind: Literal["bearing"] = "bearing"
    value: Celsius = Field(title="Bearing read", ge=-40, le=250)


class SagReading(ReadingBase):
    """How far the slack strand of a chain hangs."""

    kind: Literal["sag"] = "sag"
    value: Mm = Field(title="Chain sag read", ge=0, le=1000)


class StretchReading(ReadingBase):
    """By how much a chain is longer than new, in percent."""

    kind: Literal["stretch"] = "stretch"
    value: Plain = Field(title="Chain stretch read, %", ge=0, le=30)


class PlayReading(ReadingBase):
    """Backlash at the output."""

    kind: Literal["play"] = "play"
    value: Degrees = Field(title="Play read", ge=0, le=90)


class RunDownReading(ReadingBase):
    """Time from power off to standstill, without load."""

    kind: Literal["run_down"] = "run_down"
    value: Seconds = Field(title="Run-down time read", ge=0, le=3600)


class VibrationReading(ReadingBase):
    """Once-per-turn vibration."""

    kind: Literal["vibration"] = "vibration"
    value: MmPerS = Field(title="Vibration read", ge=0, le=200)


#: Every kind of reading, in the order they are offered.
READING_KINDS: tuple[type[ReadingBase], ...] = (
    SpeedReading,
    AmpsReading,
    WattsReading,
    VoltsReading,
    BreakawayReading,
    StrumReading,
    PressReading,
    SmallPulleyReading,
    MotorCaseReading,
    GearCaseReading,
    BearingReading,
    SagReading,
    StretchReading,
    PlayReading,
    RunDownReading,
    VibrationReading,
)


def _kind_of(raw: Any) -> str:
    return str(raw.get("kind", "") if isinstance(raw, dict) else getattr(raw, "kind", ""))


AnyReading = Annotated[
    Annotated[SpeedReading, Tag("speed")]
    | Annotated[AmpsReading, Tag("amps")]
    | Annotated[WattsReading, Tag("watts")]
    | Annotated[VoltsReading, Tag("volts")]
    | Annotated[BreakawayReading, Tag("breakaway")]
    | Annotated[StrumReading, Tag("strum")]
    | Annotated[PressReading, Tag("press")]
    | Annotated[SmallPulleyReading, Tag("small_pulley")]
    | Annotated[MotorCaseReading, Tag("motor_case")]
    | Annotated[GearCaseReading, Tag("gear_case")]
    | Annotated[BearingReading, Tag("bearing")]
    | Annotated[SagReading, Tag("sag")]
    | Annotated[StretchReading, Tag("stretch")]
    | Annotated[PlayReading, Tag("play")]
    | Annotated[RunDownReading, Tag("run_down")]
    | Annotated[VibrationReading, Tag("vibration")],
    Discriminator(_kind_of),
]


class Visit(CoreModel):
    """Readings taken together: at which hours, on which day, under what load.

    ``line`` names the kinds of stages that the line had then, so that readings are never compared with another one.
    """

    hours: Hours | None = Field(None, title="Hours run", ge=0, le=200_000)
    day: str | None = Field(None, title="Day", pattern=DAY, max_length=10, description="2026-03-14")
    load: Loaded = Field("unknown", title="Load on", description="a reading without it is kept, not judged")
    air_c: Celsius | None = Field(None, title="Air", ge=-40, le=60, description="temperatures are judged over it")
    healthy: bool = Field(False, title="Runs as it should", description="later readings are held against this")
    noticed: tuple[Noticed, ...] = Field((), title="Noticed", max_length=7)
    note: str = Field("", title="Note", max_length=1000)
    line: str = Field("", title="Line", max_length=200)
    readings: tuple[AnyReading, ...] = Field((), title="Readings", max_length=MAX_READINGS)


class Work(CoreModel):
    """Upkeep that was done: which task, where, when."""

    task: str = Field(title="Task", min_length=1, max_length=40)
    at: str = Field("", title="Where", pattern=r"^((shaft|link)-[1-9])?$", max_length=10)
    hours: Hours = Field(title="Hours run", ge=0, le=200_000)
    day: str | None = Field(None, title="Day", pattern=DAY, max_length=10)
    note: str = Field("", title="Note", max_length=300)


class Taken(CoreModel):
    """A figure of the plan that readings corrected: what it was, what it is since then, how well that is known."""

    what: Correctable = Field(title="Corrected")
    at: str = Field("", title="Where", pattern=r"^((link|shaft)-[1-9])?$", max_length=10)
    was: Plain = Field(title="Taken for", ge=0, le=1e6, description="N·m, N or rpm")
    now: Plain = Field(title="As measured", ge=0, le=1e6, description="N·m, N or rpm")
    half: Plain = Field(0.0, title="Give or take", ge=0, le=1e6, description="two sigma")
    hours: Hours | None = Field(None, title="Hours run", ge=0, le=200_000)
    day: str | None = Field(None, title="Day", pattern=DAY, max_length=10)


class Log(CoreModel):
    """Everything read and done, in the order it was entered."""

    visits: tuple[Visit, ...] = Field((), title="Readings", max_length=MAX_VISITS)
    works: tuple[Work, ...] = Field((), title="Upkeep done", max_length=MAX_WORKS)
    taken: tuple[Taken, ...] = Field((), title="Corrected by readings", max_length=MAX_TAKEN)

    @property
    def hours(self) -> float | None:
        """Hours run at the latest entry; None while none has any."""
        known = [visit.hours for visit in self.visits if visit.hours is not None]
        known += [work.hours for work in self.works]
        return max(known, default=None)
