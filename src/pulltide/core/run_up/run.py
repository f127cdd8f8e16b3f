"""What a run in time is: its samples, what happened when, and where its energy went."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from pulltide.core.run_up.contacts import Contact

Happening = Literal[
    "up_to_speed",
    "slips",
    "grips",
    "power_off",
    "at_rest",
    "stalls",
    "still_turning",
    "chatters",
    "delta",
    "load_off",
    "load_on",
    "volts_dip",
    "volts_back",
    "jams",
    "freed",
    "stays_down",
    "blows",
    "cycle",
    "other_way",
    "swings_back",
    "hangs_still",
    "relay_trips",
    "moves",
    "falls_behind",
    "shears",
    "overruns",
    "drives_again",
    "rests",
    "starts_again",
    "fuse_blows",
    "moves_off",
    "jerks",
]


class TooMuchWork(Exception):
    """A run takes more than it is given."""


@dataclass(frozen=True, slots=True)
class Event:
    """What happened when [s]; ``value`` is seconds of slip, joules where it grips, or a speed [rpm]."""

    at_s: float
    what: Happening
    value: float = 0.0


@dataclass(frozen=True, slots=True)
class Jam:
    """Speed of the last shaft [rad/s] and torque in it [N·m] when it is held fast, torque of the motor then [N·m];
    ``parted`` is where the drive lets go then, None where nothing does.
    """

    speed_rad_s: float
    last_nm: float
    motor_nm: float
    parted: Contact | None = None


@dataclass(frozen=True, slots=True)
class Followed:
    """A move: most torque over what the motor has at its speed; its root mean square [N·m], and over the rated one."""

    worst: float
    rms_nm: float
    heat: float | None


@dataclass(frozen=True, slots=True)
class Jerk:
    """The first jerk of a start: greatest torque at the driver shaft of each stage [N·m], natural frequencies of the
    drive [Hz] from the lowest, and the stage whose torque goes furthest over what it is once it runs evenly.
    """

    peaks_nm: tuple[float, ...]
    frequencies_hz: tuple[float, ...]
    worst_stage: int


@dataclass(slots=True, kw_only=True)
class Run:
    """Samples over time [s]: speeds of the first and the last shaft [rpm], torque of motor and load [N·m], whether
    the stage slips, current of the motor [A] where it is known; energies [J]; events in order. Speed and torque are
    below 0 where it turns the other way. ``jam`` is what was so the moment before it was held fast,
    ``swing`` how far the first shaft's speed goes up and down over its mean where it works in blows,
    ``followed`` what a move takes of the motor, ``jerk`` what a start does to its springs.
    """

    time_s: list[float] = field(default_factory=list)
    first_rpm: list[float] = field(default_factory=list)
    last_rpm: list[float] = field(default_factory=list)
    motor_nm: list[float] = field(default_factory=list)
    load_nm: list[float] = field(default_factory=list)
    slipping: list[bool] = field(default_factory=list)
    amps_a: list[float] = field(default_factory=list)
    events: list[Event] = field(default_factory=list)
    given_j: float = 0.0
    taken_j: float = 0.0
    lost_j: float = 0.0
    slip_j: float = 0.0
    braked_j: float = 0.0
    jam_j: float = 0.0
    jam: Jam | None = None
    swing: float | None = None
    followed: Followed | None = None
    jerk: Jerk | None = None
    stored_j: float = 0.0
    at_speed_j: float = 0.0

    @property
    def residual_j(self) -> float:
        """What the energies do not account for: nothing but the error of the integration."""
        spent = self.taken_j + self.lost_j + self.slip_j + self.braked_j + self.jam_j
        return self.given_j - spent - self.stored_j

    def when(self, what: Happening) -> float | None:
        """When something happened first [s]."""
        return next((event.at_s for event in self.events if event.what == what), None)
