"""A machine and its plans: the document that is saved, exported, solved and undone as a whole."""

from __future__ import annotations

from typing import Final, Literal

from pydantic import Field, model_validator

from pulltide.core.acceptance import MAX_ACCEPTED, Accepted
from pulltide.core.duty import Duty, Segment
from pulltide.core.links import Link
from pulltide.core.made.part import MAX_MADE, MadePart
from pulltide.core.model import CoreModel
from pulltide.core.need import Need
from pulltide.core.pinned import MAX_PINNED, Pinned
from pulltide.core.room import Room
from pulltide.core.run_log.log import Log
from pulltide.core.shafts import MAX_SHAFTS, ShaftPart
from pulltide.core.sources import AnySource

#: Version of the machine documents that this program writes; ``services.documents`` brings older ones up to it.
FORMAT_VERSION: Final = 4
MAX_LINKS = 8
MAX_PLANS = 8


class Plan(CoreModel):
    """One way to drive the machine: a motor and links in order, motor side first."""

    name: str = Field("Plan A", title="Plan", min_length=1, max_length=60)
    note: str = Field("", title="Why, or why not", max_length=400)
    source: AnySource | None = Field(None, title="Source")
    shafts: tuple[ShaftPart, ...] = Field((), title="Shafts", max_length=MAX_SHAFTS)
    links: tuple[Link, ...] = Field((), title="Stages", max_length=MAX_LINKS)
    room: Room = Field(default_factory=Room, title="Room")

    made: tuple[MadePart, ...] = Field((), title="Made in the shop", max_length=MAX_MADE)

    accepted: tuple[Accepted, ...] = Field((), title="Accepted findings", max_length=MAX_ACCEPTED)

    pinned: tuple[Pinned, ...] = Field((), title="Notes", max_length=MAX_PINNED)

    @model_validator(mode="after")
    def _each_shaft_once(self) -> Plan:
        numbers = [part.shaft for part in self.shafts]
        if len(set(numbers)) != len(numbers):
            raise ValueError("a shaft is described twice; keep one of the two")
        made = [part.wheel for part in self.made]
        if len(set(made)) != len(made):
            raise ValueError("a made wheel stands twice; keep one of the two")
        return self

    def made_part(self, wheel: str) -> MadePart | None:
        """What is known of a wheel that the shop makes, by its name."""
        return next((part for part in self.made if part.wheel == wheel), None)

    def shaft_part(self, number: int) -> ShaftPart | None:
        """What is known of a shaft, counted from the motor at 1."""
        return next((part for part in self.shafts if part.shaft == number), None)


class Machine(CoreModel):
    """What is being built: need, duty and plans."""

    format: Literal["pulltide-machine"] = Field("pulltide-machine", title="File format")
    format_version: Literal[4] = Field(FORMAT_VERSION, title="Version of the format")
    name: str = Field(title="Machine", min_length=1, max_length=60)
    note: str = Field("", title="Note", max_length=2000)
    need: Need = Field(default_factory=Need, title="Need")
    duty: Duty = Field(default_factory=Duty, title="Duty")
    plans: tuple[Plan, ...] = Field((Plan(),), title="Plans", min_length=1, max_length=MAX_PLANS)
    log: Log = Field(default_factory=Log, title="Run log")

    @property
    def cycle(self) -> tuple[Segment, ...]:
        """How the load repeats: the duty cycle as entered, else the motion that the worksheet makes."""
        asked = self.need.requirement()
        return self.duty.cycle or (asked.cycle if asked is not None else ())
