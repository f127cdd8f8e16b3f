"""Where the curve of a source meets the load of a line: speeds and powers at every shaft.

Load torque runs from the last shaft back to the motor through each loss; motor torque runs forward. Belt creep
and belt loss depend on the load, so both passes are repeated until nothing moves; the motor's speed depends on the
torque.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import repeat

from pulltide.core.need import Need
from pulltide.core.shafts import ShaftPart
from pulltide.core.sources import Drive
from pulltide.core.transmission import AnyTransmission
from pulltide.core.units import power_kw, torque_nm

#: How little the last speed moves in the end, and while the motor's speed is still sought.
CONVERGED, ROUGHLY = 1e-8, 1e-4
MAX_ROUNDS = 60


@dataclass(frozen=True, slots=True)
class Passed:
    """Converged speeds [rpm], powers into every shaft [kW], and of these what a take-off draws there [kW].

    ``slowed`` is driven over driver speed of every link.
    """

    speeds_rpm: tuple[float, ...]
    powers_kw: tuple[float, ...]
    taken_kw: tuple[float, ...] = ()
    slowed: tuple[float, ...] = ()

    def taken_share(self, index: int) -> float:
        """Share of the power into a shaft that ends in take-offs, there or farther on [-]."""
        share = 0.0
        for here, taken in zip(reversed(self.powers_kw[index:]), reversed(self.taken_kw[index:]), strict=True):
            share = (taken + share * (here - taken)) / here if here > 0 else 0.0
        return share


@dataclass(frozen=True, slots=True)
class Load:
    """What a line drives: the need at its last shaft, and a take-off here and there, by shaft from 0."""

    need: Need
    take_offs: tuple[tuple[int, ShaftPart], ...] = ()

    @classmethod
    def of(cls, need: Need, parts: tuple[ShaftPart, ...], shafts: int) -> Load:
        """The load of a plan whose line has so many shafts."""
        return cls(need, tuple((p.shaft - 1, p) for p in parts if p.is_taken_from and p.shaft <= shafts))


def converge(
    transmissions: list[AnyTransmission],
    motor_rpm: float,
    load: Load,
    times: float = 1.0,
    near: Passed | None = None,
    within: float = CONVERGED,
) -> Passed:
    """Repeat the speed pass and the power pass until no speed moves. The load follows the speed it is given.

    ``times`` turns the load of the need up. ``near`` is what was found close by, to start from; ``within`` is how
    little the last speed moves in the end, as a share.
    """
    count, need = len(transmissions), load.need
    taken = [0.0] * (count + 1)
    powers = [0.0] * (count + 1) if near is None else list(near.powers_kw)
    speeds = [motor_rpm] * (count + 1)
    # what each link slows its driver by; taken along from the power pass, so that a round asks each link once
    slowed = [1 / transmission.ratio for transmission in transmissions] if near is None else list(near.slowed)
    for _ in range(MAX_ROUNDS):
        before = speeds[-1]
        for index, share in enumerate(slowed):
            speeds[index + 1] = speeds[index] * share
        for index, part in load.take_offs:
            taken[index] = power_kw(part.taken_nm(speeds[index]), speeds[index])
        powers[count] = taken[count] + power_kw(times * (need.torque_at(speeds[count]) or 0.0), speeds[count])
        for index in range(count - 1, -1, -1):
            carried = transmissions[index].transmit(speeds[index], powers[index + 1])
            powers[index] = taken[index] + carried.power_in_kw
            slowed[index] = carried.driven_speed_rpm / speeds[index]
        if abs(speeds[-1] - before) <= within * before:
            break
    return Passed(tuple(speeds), tuple(powers), tuple(taken), tuple(slowed))


#: How near the motor's speed must come to where its curve meets the load, as a share, and how often it is tried.
MET, MAX_TRIES = 1e-7, 40
#: Speeds at which a motor that cannot carry the load at its own speed is tried, from the fastest down.
SLOWER = 60


def meeting(transmissions: list[AnyTransmission], motor: Drive, load: Load) -> tuple[Passed, bool]:
    """Speeds and powers where the motor's curve meets the load, and whether it stalls instead.

    Secant steps on n(T(n)) - n. A motor that stalls, or whose load is unknown, is shown at the speed of its plate.
    """
    speed = motor.speed_rpm
    if not load.need.running_torque_nm:
        return converge(transmissions, speed, load), False
    before: tuple[float, float] | None = None
    passed: Passed | None = None
    for within in (ROUGHLY, ROUGHLY, *repeat(CONVERGED, MAX_TRIES)):
        passed = converge(transmissions, speed, load, near=passed, within=within)
        found = motor.speed_under(torque_nm(passed.powers_kw[0], speed))
        if found is None:
            return _slowed(transmissions, motor, load)
        off = found - speed
        if abs(off) <= MET * motor.speed_rpm and within == CONVERGED:
            return passed, False
        met = before is None or before[1] == off
        step = off if met or before is None else -off * (speed - before[0]) / (off - before[1])
        before = (speed, off)
        speed = max(speed + step, 0.02 * motor.speed_rpm)
    return converge(transmissions, speed, load, near=passed), False


def _slowed(transmissions: list[AnyTransmission], motor: Drive, load: Load) -> tuple[Passed, bool]:
    """A load that eases as it slows, a fan's say, may still be carried at a lower speed."""
    curve = motor.running or motor.curve
    if curve is not None and load.need.load_exponent > 0:
        for number in range(SLOWER - 1, 0, -1):
            speed = motor.speed_rpm * number / SLOWER
            passed = converge(transmissions, speed, load)
            if curve.torque_nm(speed) >= torque_nm(passed.powers_kw[0], speed):
                return passed, False
    return converge(transmissions, motor.speed_rpm, load), True
