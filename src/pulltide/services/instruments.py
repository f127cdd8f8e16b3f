"""A live reading: what an instrument shows, understood, or why it is not."""

from __future__ import annotations

from math import isfinite
from typing import Protocol

from pydantic import TypeAdapter, ValidationError

from pulltide.core.errors import InputError
from pulltide.core.model import READ_QUANTITY
from pulltide.core.run_log.instruments import READS, WARM
from pulltide.core.run_log.log import AnyReading
from pulltide.quantities import Units, reader_for, show
from pulltide.words import say

#: Which instrument reads what.
BY = {"speed": "tachometer", "amps": "ammeter", "press": "scale", **dict.fromkeys(WARM, "thermometer")}


class Shows(Protocol):
    """Something that can be asked what an instrument shows."""

    def read(self, name: str, aimed_at: float) -> str:
        """As it says it."""


def understood(kind: str, at: str, shown: str, units: Units) -> str:
    """A reading as it is written down, with its unit. Raises InputError where the instrument says nothing usable.

    Units are read as they come; a number without one is not guessed at.
    """
    if not shown.strip("- "):
        raise InputError(say("Instrument"), "", say("shows no reading now"))
    if not any(char.isalpha() or char == "°" for char in shown):
        raise InputError(say("Instrument"), shown[:20], say("shows a number without a unit"))
    try:
        value = reader_for(units)(shown[:40], READS[kind])
        raw = {"kind": kind, "at": at, "value": value}
        reading = TypeAdapter(AnyReading).validate_python(raw, context={READ_QUANTITY: reader_for(units)})
    except (ValueError, ValidationError) as error:
        raise InputError(say("Instrument"), shown[:20], say("shows nothing that can be understood")) from error
    found = float(reading.value)
    if not isfinite(found):
        raise InputError(say("Instrument"), shown[:20], say("shows nothing that can be understood"))
    return str(show(found, READS[kind], units))
