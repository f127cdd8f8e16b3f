"""What can be read, with what, and how far off an instrument may be."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from math import hypot

from pulltide.core.tables import load_table

#: What can be read, with its unit. Temperatures are read as they are and judged over the air.
READS: dict[str, str] = {
    "speed": "rpm",
    "amps": "A",
    "watts": "kW",
    "volts": "V",
    "breakaway": "N*m",
    "strum": "Hz",
    "press": "N",
    "small_pulley": "degC",
    "motor_case": "degC",
    "gear_case": "degC",
    "bearing": "degC",
    "sag": "mm",
    "stretch": "",
    "play": "deg",
    "run_down": "s",
    "vibration": "mm/s",
}
#: What is judged as a rise over the air.
WARM = frozenset(what for what, unit in READS.items() if unit == "degC")


@dataclass(frozen=True, slots=True)
class Instrument:
    """One instrument: what it reads, one sigma relative and absolute, minutes to read it, whether the machine stands
    locked out meanwhile.
    """

    code: str
    reads: str
    sigma_relative: float
    sigma_absolute: float
    minutes: float
    lockout: bool

    def sigma(self, value: float) -> float:
        """How far off one reading of a value is, one sigma, in its unit."""
        return hypot(self.sigma_relative * value, self.sigma_absolute)


@cache
def instruments() -> dict[str, Instrument]:
    """All instruments by code."""
    rows = load_table("pulltide.core.run_log", "instruments").rows
    return {
        row["code"]: Instrument(
            row["code"],
            row["reads"],
            float(row["sigma_relative"]),
            float(row["sigma_absolute"]),
            float(row["minutes"]),
            row["lockout"] == "yes",
        )
        for row in rows
    }


def for_reading(what: str) -> tuple[Instrument, ...]:
    """The instruments that read something, the usual one first.

    >>> [item.code for item in for_reading("strum")]
    ['strum']
    """
    asked = "temperature" if what in WARM else what
    return tuple(item for item in instruments().values() if item.reads == asked)


def instrument_of(what: str, code: str) -> Instrument:
    """An instrument by its code where it reads this, else the usual one."""
    fitting = for_reading(what)
    return next((item for item in fitting if item.code == code), fitting[0])


#: Slower shafts are counted by the clock: a tachometer is a turn off.
BY_THE_CLOCK_RPM = 60.0


def usual(what: str, value: float) -> Instrument:
    """The instrument that a person takes for a reading of about this value."""
    if what == "speed" and value < BY_THE_CLOCK_RPM:
        return instruments()["turns_by_the_clock"]
    return for_reading(what)[0]
