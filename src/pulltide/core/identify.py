"""What a wheel found in the shop may be, by caliper and count: what comes near of sections, chains and pitches."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from math import pi, sin, tan
from typing import Literal

from pulltide.core.links.toothed_belt.tables import profiles
from pulltide.core.links.v_belt.tables import section
from pulltide.core.stock import stock_rows
from pulltide.core.tables import load_table, number

#: What may be measured; each needs its outside diameter, and the width of its groove or its number of teeth.
Found = Literal["v_pulley", "sprocket", "toothed_pulley", "spur_gear"]
#: A groove that differs by more than this share is another one; a pitch that differs by more is another pitch.
GROOVE_OFF, PITCH_OFF = 0.08, 0.03
#: Modules and diametral pitches of gears that are cut. Source: ISO 54, and preferred pitches.
MODULES = (0.5, 0.8, 1.0, 1.25, 1.5, 2.0, 2.5, 3.0, 4.0, 5.0, 6.0)
PITCHES = (4.0, 5.0, 6.0, 8.0, 10.0, 12.0, 16.0, 20.0, 24.0, 32.0, 48.0)


@dataclass(frozen=True, slots=True)
class Guess:
    """One thing it may be: section, profile, chain or pitch; its pitch diameter [mm]; how far the measure is off."""

    name: str
    pitch_mm: float
    off: float


def identify(found: Found, outside_mm: float, second: float) -> tuple[Guess, ...]:
    """Guesses, the nearest first. ``second`` is the width of the groove at the rim [mm], or the number of teeth.

    >>> [guess.name for guess in identify("v_pulley", 88.9, 12.5)]
    ['4L', 'A', 'SPA']
    >>> [guess.name for guess in identify("sprocket", 73.6, 17)][:2]
    ['08B', '40']
    """
    return tuple(sorted(GUESSES[found](outside_mm, second), key=lambda guess: (round(guess.off, 4), guess.name)))


def _v_pulleys(outside_mm: float, top_mm: float) -> Iterator[Guess]:
    for row in load_table("pulltide.core", "groove_tops").rows:
        off = abs(top_mm / number(row, "top_mm") - 1)
        if off <= GROOVE_OFF:
            yield Guess(row["section"], outside_mm - section(row["section"]).outside_minus_pitch_mm, off)


def _sprockets(outside_mm: float, teeth: float) -> Iterator[Guess]:
    """Outside p (0.6 + cot(180°/N)). Source: ANSI B29.1, as handbooks print it."""
    if teeth < 3:
        return
    for row in stock_rows("chain"):
        pitch = number(row, "pitch_mm")
        off = abs(outside_mm / (pitch * (0.6 + 1 / tan(pi / teeth))) - 1)
        if row["strands"] == "1" and off <= PITCH_OFF:
            yield Guess(row["chain"], pitch / sin(pi / teeth), off)


def _toothed(outside_mm: float, teeth: float) -> Iterator[Guess]:
    for name, profile in profiles().items():
        pitch_mm = profile.pitch_mm * teeth / pi
        off = abs((outside_mm + profile.outside_less_mm) / pitch_mm - 1)
        if off <= PITCH_OFF:
            yield Guess(name, pitch_mm, off)


def _gears(outside_mm: float, teeth: float) -> Iterator[Guess]:
    """Outside m (z + 2), or (z + 2) / P_d inches. Source: full-depth teeth."""
    for module in MODULES:
        off = abs(outside_mm / (module * (teeth + 2)) - 1)
        if off <= PITCH_OFF:
            yield Guess(f"M{module:g}", module * teeth, off)
    for pitch in PITCHES:
        off = abs(outside_mm / (25.4 * (teeth + 2) / pitch) - 1)
        if off <= PITCH_OFF:
            yield Guess(f"D{pitch:g}", 25.4 * teeth / pitch, off)


GUESSES: dict[Found, Callable[[float, float], Iterator[Guess]]] = {
    "v_pulley": _v_pulleys,
    "sprocket": _sprockets,
    "toothed_pulley": _toothed,
    "spur_gear": _gears,
}
