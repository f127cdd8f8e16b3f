"""What every instrument would show on one drive, and by how much what is not known of it moves that."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from pulltide.core.run_log.instruments import Instrument, usual
from pulltide.core.run_log.running import SHOWN, Offsets, Quantity, Running, Settled

Array = NDArray[np.float64]

#: Spread of what is not known of a healthy machine, one sigma. Common practice, no source.
SPREADS = {
    "load": 0.15,
    "volts": 0.03,
    "slip": 0.10,
    "idle_amps": 0.08,
    "breakaway": 0.08,
    "coasting": 0.3,
    "shake": 0.35,
}
#: The same for each belt, each cooled thing.
BELT_SPREADS = {"creep": 0.25, "friction": 0.12, "mass": 0.03, "stiff": 0.03}
WARM_SPREAD, BEARING_SPREAD, SAG_SPREAD, PLAY_SPREAD = 0.20, 0.30, 0.25, 0.20
#: A load that was read on a healthy machine varies less.
READ_LOAD_SPREAD = 0.05
#: The share of one sigma by which slopes are taken, and unknowns over which readings bend.
STEP, BENDS = 0.3, frozenset(("load", "friction", "tension"))


@dataclass(frozen=True, slots=True)
class Band:
    """What is expected of a reading: its middle and two sigmas, without the instrument and with it."""

    middle: float
    half: float

    @property
    def low(self) -> float:
        """Lower end."""
        return self.middle - self.half

    @property
    def high(self) -> float:
        """Upper end."""
        return self.middle + self.half

    def off(self, value: float) -> float:
        """How far outside the band a value lies, with its sign; 0 inside."""
        return value - self.high if value > self.high else value - self.low if value < self.low else 0.0


def nuisances(running: Running, load_read: bool = False) -> dict[str, float]:
    """What is not known of a healthy drive, by name, with its spread."""
    found = dict(SPREADS)
    if load_read:
        found["load"] = READ_LOAD_SPREAD
    for number, stage in enumerate(running.stages, 1):
        seen = stage.observed
        if seen.loop is not None:
            found.update({f"{name}@{number}": value for name, value in BELT_SPREADS.items()})
            found[f"ratio@{number}"] = seen.loop.pitch_spread
            found[f"warmer_pulley@{number}"] = WARM_SPREAD
            if not seen.loop.known:
                found[f"tension@{number}"] = UNSET_SPREAD
        if seen.chain is not None:
            found[f"sag@{number}"] = SAG_SPREAD
        if seen.play_deg is not None:
            found[f"play_times@{number}"] = PLAY_SPREAD
        if seen.case is not None:
            found["warmer_case"] = WARM_SPREAD
    found["warmer_motor"] = WARM_SPREAD
    for shaft, drag in enumerate(running.bearing_nm, 1):
        if drag > 0:
            found[f"bearing_times@{shaft}"] = BEARING_SPREAD
    return found


#: A tension that nobody measured lies so near the one it should be. Common practice, no source.
UNSET_SPREAD = 0.15


def joined(one: Offsets, other: Offsets) -> dict[str, float]:
    """Both together: factors multiply, what is added adds up."""
    made = dict(one)
    for name, value in other.items():
        made[name] = made.get(name, 0.0) + value if name.partition("@")[0] in ADDED else made.get(name, 1.0) * value
    return made


#: A drive with nothing off.
NOTHING_OFF: Offsets = {}
#: Names of what is added; everything else is a factor.
ADDED = frozenset(
    ("driver_mm", "riding", "extra_w", "lossier", "slips", "bearing", "vibration", "play", "stretch", "case_k")
)


class Model:
    """Predictions of one drive at one share of the load, with what is not known of it."""

    def __init__(
        self, running: Running, share: float, spreads: Mapping[str, float], base: Offsets = NOTHING_OFF
    ) -> None:
        self.running, self.share, self.spreads, self.base = running, share, spreads, base
        self.healthy = running.settled(base, share)
        self.keys = list(self.healthy.readings())

    @cached_property
    def middle(self) -> Array:
        """The readings of the healthy drive."""
        return self.values(self.healthy)

    @cached_property
    def healthy_slopes(self) -> Array:
        """By how much each unknown moves every reading of the healthy drive."""
        return self.slopes(NOTHING_OFF, self.healthy, self.middle)

    def settled(self, off: Offsets, near: Settled | None = None) -> Settled:
        """The drive with something off."""
        return self.running.settled(joined(self.base, off), self.share, near or self.healthy)

    def values(self, at: Settled) -> Array:
        """All that can be read, in the order of ``keys``."""
        found = at.readings()
        return np.array([found[key] for key in self.keys])

    def slopes(self, off: Offsets, at: Settled, here: Array) -> Array:
        """Change of every reading by one sigma of each unknown: rows are readings."""
        return np.stack([self._slope(name, off, at, here) for name in self.spreads], axis=1)

    def _slope(self, name: str, off: Offsets, at: Settled, here: Array) -> Array:
        """By one sigma of one unknown. What makes a belt let go bends, so that it is pushed a whole sigma both ways."""
        kind = name.partition("@")[0]
        if kind not in BENDS:
            pushed = self.pushed(off, {name: STEP})
            shown = at.showing(joined(self.base, pushed)) if kind in SHOWN else self.settled(pushed, at)
            return (self.values(shown) - here) / STEP
        ends = [self.values(self.settled(self.pushed(off, {name: by}), at)) for by in (1.0, -1.0)]
        return (ends[0] - ends[1]) / 2

    def pushed(self, off: Offsets, sigmas: Mapping[str, float]) -> dict[str, float]:
        """What is off, with unknowns pushed by so many of their sigmas."""
        return joined(off, {name: 1 + by * self.spreads[name] for name, by in sigmas.items()})

    def band(self, key: Quantity, instrument: Instrument) -> Band:
        """What is expected of one reading, two sigmas wide on either side."""
        row = self.keys.index(key)
        return _band(float(self.middle[row]), float(np.linalg.norm(self.healthy_slopes[row])), instrument)

    def bands(self) -> dict[Quantity, Band]:
        """What is expected of every reading with its usual instrument."""
        spreads = np.linalg.norm(self.healthy_slopes, axis=1)
        return {
            key: _band(float(value), float(spread), usual(key[0], float(value)))
            for key, value, spread in zip(self.keys, self.middle, spreads, strict=True)
        }


def _band(middle: float, spread: float, instrument: Instrument) -> Band:
    return Band(middle, 2 * float(np.hypot(spread, instrument.sigma(middle))))
