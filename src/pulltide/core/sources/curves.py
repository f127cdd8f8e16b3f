"""Torque over speed of what turns a machine: ``torque_nm(speed_rpm)`` from rest to its top speed."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from math import log, sqrt
from typing import Protocol

from pulltide.core.units import RPM_PER_RAD_PER_S

#: Share of synchronous speed at which pull-up torque is taken: 25 %. Common practice, no source.
PULL_UP_SLIP = 0.75
#: Breakdown slip beyond which a motor has no peak of its own (high-slip design). Common practice, no source.
MAX_BREAKDOWN_SLIP = 0.8
SAMPLES = 200
#: Halvings of one step of these to find where curve and load meet: within 1e-7 of the top speed.
HALVINGS = 16


class Curve(Protocol):
    """Torque that a source can give at a speed."""

    @property
    def top_rpm(self) -> float:
        """Speed at which the torque has fallen to nothing."""

    def torque_nm(self, speed_rpm: float) -> float:
        """Torque [N·m] at a speed from 0 to ``top_rpm``; 0 beyond it."""

    def speed_rpm(self, torque_nm: float) -> float | None:
        """Fastest speed [rpm] at which it gives a torque [N·m] >= 0; None if it never does."""

    def explained(self, torque_nm: float) -> tuple[str, dict[str, float]]:
        """Formula of that speed with the numbers put in."""


def breakdown_slip(rated_slip: float, breakdown_ratio: float) -> float:
    """Slip at breakdown: s_b = s_r (k + √(k² - 1)), k > 1. Source: Kloss, stator resistance ignored.

    >>> round(breakdown_slip(0.025, 2.25), 6)
    0.106639
    """
    return rated_slip * (breakdown_ratio + sqrt(breakdown_ratio**2 - 1))


def kloss(slip: float, at_breakdown: float, breakdown_ratio: float) -> float:
    """Torque over full-load torque at a slip: 2 k / (s / s_b + s_b / s). Source: Kloss.

    >>> round(kloss(90 / 1800, 0.106639, 2.25), 4)
    1.7297
    """
    return 0.0 if slip <= 0 else 2 * breakdown_ratio / (slip / at_breakdown + at_breakdown / slip)


def _between(low: tuple[float, float], high: tuple[float, float], slip: float) -> float:
    """A curve that is level at both ends and never overshoots."""
    u = min(max((slip - low[0]) / (high[0] - low[0]), 0.0), 1.0)
    return low[1] + (high[1] - low[1]) * u * u * (3 - 2 * u)


@dataclass(frozen=True, slots=True, kw_only=True)
class InductionCurve:
    """Induction motor: Kloss up to breakdown, then through pull-up to locked rotor (plain Kloss starts far too low).

    ``scale`` is (V / V_rated)².
    """

    rated_nm: float
    synchronous_rpm: float
    rated_rpm: float
    breakdown_ratio: float
    locked_ratio: float
    pull_up_ratio: float
    scale: float = 1.0
    at_breakdown: float = field(init=False)

    def __post_init__(self) -> None:
        object.__setattr__(self, "at_breakdown", breakdown_slip(self.rated_slip, self.breakdown_ratio))

    @property
    def top_rpm(self) -> float:
        """Synchronous speed [rpm]."""
        return self.synchronous_rpm

    @property
    def rated_slip(self) -> float:
        """Slip at full load."""
        return 1 - self.rated_rpm / self.synchronous_rpm

    def torque_nm(self, speed_rpm: float) -> float:
        """Torque [N·m] from rest to synchronous speed."""
        slip = 1 - speed_rpm / self.synchronous_rpm
        return self.rated_nm * self.scale * self._ratio(min(max(slip, 0.0), 1.0))

    def speed_rpm(self, torque_nm: float) -> float | None:
        """Speed [rpm] on the working side of breakdown: s = s_b (k/x - √((k/x)² - 1)), x = T / T_rated. Source: Kloss.

        >>> given = {"rated_nm": 10.0, "synchronous_rpm": 1800.0, "rated_rpm": 1755.0}
        >>> ratios = {"breakdown_ratio": 2.25, "locked_ratio": 2.0, "pull_up_ratio": 1.5}
        >>> round(InductionCurve(**given, **ratios).speed_rpm(10.0), 6)
        1755.0
        """
        share = torque_nm / (self.rated_nm * self.scale)
        if share <= 0:
            return self.synchronous_rpm
        rated, locked = self.rated_slip, self.locked_ratio
        if self.at_breakdown > MAX_BREAKDOWN_SLIP:
            if share > max(locked, 1.0):
                return None
            slip = share * rated if share <= 1 else rated + (share - 1) * (1 - rated) / (locked - 1)
        else:
            if share > self.breakdown_ratio:
                return None
            over = self.breakdown_ratio / share
            slip = self.at_breakdown * (over - sqrt(over**2 - 1))
        return self.synchronous_rpm * (1 - slip)

    def explained(self, torque_nm: float) -> tuple[str, dict[str, float]]:
        """Synchronous speed less the slip at the torque."""
        speed = self.speed_rpm(torque_nm) or 0.0
        return "n_s (1 - s)", {"n_s": self.synchronous_rpm, "s": 1 - speed / self.synchronous_rpm}

    def _ratio(self, slip: float) -> float:
        at_breakdown = self.at_breakdown
        if at_breakdown > MAX_BREAKDOWN_SLIP:
            rated = self.rated_slip
            return (
                slip / rated if slip <= rated else 1 + (self.locked_ratio - 1) * (slip - rated) / max(1 - rated, 1e-9)
            )
        if slip <= at_breakdown:
            return kloss(slip, at_breakdown, self.breakdown_ratio)
        peak = (at_breakdown, self.breakdown_ratio)
        dip = (max(PULL_UP_SLIP, at_breakdown + 0.01), self.pull_up_ratio)
        return _between(peak, dip, slip) if slip <= dip[0] else _between(dip, (1.0, self.locked_ratio), slip)


@dataclass(frozen=True, slots=True)
class LineCurve:
    """A straight line from stall to no-load speed, cut off at what the driver lets through."""

    stall_nm: float
    no_load_rpm: float
    max_nm: float

    @property
    def top_rpm(self) -> float:
        """No-load speed [rpm]."""
        return self.no_load_rpm

    def torque_nm(self, speed_rpm: float) -> float:
        """Torque [N·m]."""
        return max(min(self.stall_nm * (1 - speed_rpm / self.no_load_rpm), self.max_nm), 0.0)

    def speed_rpm(self, torque_nm: float) -> float | None:
        """Speed [rpm] on the line: n_0 (1 - T / T_s). Source: exact."""
        if torque_nm > min(self.max_nm, self.stall_nm):
            return None
        return self.no_load_rpm * (1 - max(torque_nm, 0.0) / self.stall_nm)

    def explained(self, torque_nm: float) -> tuple[str, dict[str, float]]:
        """The line at the torque."""
        return "n_0 (1 - T / T_s)", {"n_0": self.no_load_rpm, "T": torque_nm, "T_s": self.stall_nm}


@dataclass(frozen=True, slots=True)
class SeriesCurve:
    """Universal motor. Up to its rated speed T = T_l / (1 + c n / n_r)², c from the torque there; then a straight line
    to the no-load speed, where brushes, bearings and fan take all it has. Common practice, no source.
    """

    rated_nm: float
    rated_rpm: float
    locked_ratio: float
    no_load_rpm: float

    @property
    def top_rpm(self) -> float:
        """No-load speed [rpm]."""
        return self.no_load_rpm

    @property
    def _steep(self) -> float:
        return sqrt(self.locked_ratio) - 1

    def torque_nm(self, speed_rpm: float) -> float:
        """Torque [N·m]."""
        if speed_rpm <= self.rated_rpm:
            return self.rated_nm * self.locked_ratio / (1 + self._steep * speed_rpm / self.rated_rpm) ** 2
        left = (self.no_load_rpm - speed_rpm) / (self.no_load_rpm - self.rated_rpm)
        return self.rated_nm * max(left, 0.0)

    def speed_rpm(self, torque_nm: float) -> float | None:
        """Speed [rpm] at which it gives a torque."""
        share = max(torque_nm, 0.0) / self.rated_nm
        if share > self.locked_ratio:
            return None
        if share <= 1:
            return self.no_load_rpm - share * (self.no_load_rpm - self.rated_rpm)
        return self.rated_rpm * (sqrt(self.locked_ratio / share) - 1) / self._steep

    def explained(self, torque_nm: float) -> tuple[str, dict[str, float]]:
        """The straight part up to rated torque, the curve beyond."""
        share = torque_nm / self.rated_nm
        if share <= 1:
            return "n_0 - x (n_0 - n_r)", {"n_0": self.no_load_rpm, "x": share, "n_r": self.rated_rpm}
        return "n_r (√(k / x) - 1) / c", {"n_r": self.rated_rpm, "k": self.locked_ratio, "x": share, "c": self._steep}


@dataclass(frozen=True, slots=True)
class GovernedCurve:
    """Engine: nearly constant torque from the speed it engages at, ``rise`` more in the middle, then its governor.

    ``droop`` is how far the speed rises, as a share, when the load comes off. Common practice, no source: 5 %.
    """

    rated_nm: float
    from_rpm: float
    rated_rpm: float
    rise: float
    droop: float = 0.05

    @property
    def top_rpm(self) -> float:
        """Speed without load [rpm]."""
        return self.rated_rpm * (1 + self.droop)

    def torque_nm(self, speed_rpm: float) -> float:
        """Torque [N·m]."""
        if speed_rpm < self.from_rpm:
            return 0.0
        if speed_rpm > self.rated_rpm:
            return self.rated_nm * max(1 - (speed_rpm / self.rated_rpm - 1) / self.droop, 0.0)
        share = (speed_rpm - self.from_rpm) / max(self.rated_rpm - self.from_rpm, 1e-9)
        return self.rated_nm * (1 + 4 * self.rise * share * (1 - share))

    def speed_rpm(self, torque_nm: float) -> float | None:
        """Speed [rpm] that the governor holds, or to which the engine lugs down, at the latest in mid-range."""
        share = max(torque_nm, 0.0) / self.rated_nm
        if share <= 1:
            return self.rated_rpm * (1 + self.droop * (1 - share))
        over = (share - 1) / self.rise if self.rise else 2.0
        if over > 1:
            return None
        return self.from_rpm + (1 + sqrt(1 - over)) / 2 * (self.rated_rpm - self.from_rpm)

    def explained(self, torque_nm: float) -> tuple[str, dict[str, float]]:
        """Governed speed with its droop; lugged down as it is."""
        share = torque_nm / self.rated_nm
        if share <= 1:
            return "n_r (1 + d (1 - x))", {"n_r": self.rated_rpm, "d": self.droop, "x": share}
        return "as entered", {}


@dataclass(frozen=True, slots=True)
class PacedCurve:
    """A person at a crank: keeps a pace up to the torque they can press, whatever the load."""

    max_nm: float
    pace_rpm: float

    @property
    def top_rpm(self) -> float:
        """Fastest speed [rpm]: 1.4 times the pace. Common practice, no source."""
        return 1.4 * self.pace_rpm

    def torque_nm(self, speed_rpm: float) -> float:
        """Torque [N·m]."""
        return self.max_nm if speed_rpm <= self.top_rpm else 0.0

    def speed_rpm(self, torque_nm: float) -> float | None:
        """The pace [rpm]."""
        return self.pace_rpm if torque_nm <= self.max_nm else None

    def explained(self, torque_nm: float) -> tuple[str, dict[str, float]]:
        """The pace, as entered."""
        return "as entered", {}


Load = Callable[[float], float]


def run_point_rpm(curve: Curve, load: Load) -> float | None:
    """Fastest speed at which the curve still carries the load [rpm], None if it never does. By bisection."""
    top = curve.top_rpm
    step = top / SAMPLES
    speed = top
    while speed > 0 and curve.torque_nm(speed) < load(speed):
        speed -= step
    if speed <= 0:
        return None
    low, high = speed, min(speed + step, top)
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        low, high = (middle, high) if curve.torque_nm(middle) >= load(middle) else (low, middle)
    return low


@dataclass(frozen=True, slots=True)
class Climb:
    """A way up from rest, sampled at even steps of speed: torque of the source and of the load."""

    speeds_rpm: tuple[float, ...]
    source_nm: tuple[float, ...]
    load_nm: tuple[float, ...]

    def margin(self, to_rpm: float) -> float:
        """Least torque of the source over the load, up to a speed."""
        steps = zip(self.speeds_rpm, self.source_nm, self.load_nm, strict=True)
        return min(own / max(load, 1e-9) for speed, own, load in steps if speed <= to_rpm)

    def seconds(self, inertia_kgm2: float) -> float:
        """Time to the last speed [s]: t = J ∫ dω / (T_m - T_L), by Simpson's rule; infinite if it stalls."""
        surplus = [own - load for own, load in zip(self.source_nm, self.load_nm, strict=True)]
        if min(surplus) <= 0:
            return float("inf")
        last = len(surplus) - 1
        total = sum(
            (1 if number in (0, last) else 4 if number % 2 else 2) / value for number, value in enumerate(surplus)
        )
        return inertia_kgm2 * total * self.speeds_rpm[1] / 3 / RPM_PER_RAD_PER_S


def climb(curve: Curve, load: Load, to_rpm: float, steps: int = SAMPLES) -> Climb:
    """Sample curve and load from rest to a speed; ``steps`` is even."""
    speeds = tuple(to_rpm * number / steps for number in range(steps + 1))
    return Climb(speeds, tuple(map(curve.torque_nm, speeds)), tuple(map(load, speeds)))


def run_up_unloaded_s(
    inertia_kgm2: float, synchronous_rpm: float, max_nm: float, at_breakdown: float, to: float
) -> float:
    """Run-up of an unloaded induction motor to slip ``to`` by Kloss [s].

    t = J ω_s / (2 T_b) ((1 - s²) / (2 s_b) + s_b ln(1/s)).

    >>> round(run_up_unloaded_s(0.085, 1800.0, 45.0, 0.12, 0.05), 4)
    0.8039
    """
    omega = synchronous_rpm / RPM_PER_RAD_PER_S
    return inertia_kgm2 * omega / (2 * max_nm) * ((1 - to**2) / (2 * at_breakdown) + at_breakdown * log(1 / to))
