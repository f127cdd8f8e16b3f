"""Where the curve of a source meets the load of a line: speeds and powers at every shaft.

Load torque runs from the last shaft back to the motor through each loss; motor torque runs forward. Belt creep
and belt loss depend on the load, so both passes are repeated until nothing moves; the motor's speed depends on the
torque.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import repeat

from pulltide.core.family import Transmission
from pulltide.core.need import Need
from pulltide.core.sources import Drive
from pulltide.core.units import power_kw, torque_nm

#: How little the last speed moves in the end, and while the motor's speed is still sought.
CONVERGED, ROUGHLY = 1e-8, 1e-4
MOST_ROUNDS = 60


@dataclass(frozen=True, slots=True)
class Passed:
    """Converged speeds [rpm] and powers [kW] at every shaft."""

    speeds_rpm: tuple[float, ...]
    powers_kw: tuple[float, ...]


def converge(
    transmissions: list[Transmission],
    motor_rpm: float,
    need: Need,
    times: float = 1.0,
    near: Passed | None = None,
    within: float = CONVERGED,
) -> Passed:
    """Repeat the speed pass and the power pass until no speed moves. The load follows the speed it is given.

    ``times`` turns the load up. ``near`` is what was found close by, to start from; ``within`` is how little the last
    speed moves in the end, as a share.
    """
    count = len(transmissions)
    powers = [0.0] * (count + 1) if near is None else list(near.powers_kw)
    speeds = [motor_rpm] * (count + 1)
    for _ in range(MOST_ROUNDS):
        before = speeds[-1]
        for index, transmission in enumerate(transmissions):
            speeds[index + 1] = transmission.carry(speeds[index], powers[index + 1]).driven_speed_rpm
        powers[count] = power_kw(times * (need.torque_at(speeds[count]) or 0.0), speeds[count])
        for index in range(count - 1, -1, -1):
            powers[index] = transmissions[index].carry(speeds[index], powers[index + 1]).power_in_kw
        if abs(speeds[-1] - before) <= within * before:
            break
    return Passed(tuple(speeds), tuple(powers))


#: How near the motor's speed must come to where its curve meets the load, as a share, and how often it is tried.
MET, MOST_TRIES = 1e-7, 40
#: Speeds at which a motor that cannot carry the load at its own speed is tried, from the fastest down.
SLOWER = 60


def meeting(transmissions: list[Transmission], motor: Drive, need: Need) -> tuple[Passed, bool]:
    """Speeds and powers where the motor's curve meets the load, and whether it stalls instead.

    Secant steps on n(T(n)) - n. A motor that stalls, or whose load is unknown, is shown at the speed of its plate.
    """
    speed = motor.speed_rpm
    if not need.running_torque_nm:
        return converge(transmissions, speed, need), False
    before: tuple[float, float] | None = None
    passed: Passed | None = None
    for within in (ROUGHLY, ROUGHLY, *repeat(CONVERGED, MOST_TRIES)):
        passed = converge(transmissions, speed, need, near=passed, within=within)
        found = motor.speed_under(torque_nm(passed.powers_kw[0], speed))
        if found is None:
            return _slowed(transmissions, motor, need)
        off = found - speed
        if abs(off) <= MET * motor.speed_rpm and within == CONVERGED:
            return passed, False
        met = before is None or before[1] == off
        step = off if met or before is None else -off * (speed - before[0]) / (off - before[1])
        before = (speed, off)
        speed = max(speed + step, 0.02 * motor.speed_rpm)
    return converge(transmissions, speed, need, near=passed), False


def _slowed(transmissions: list[Transmission], motor: Drive, need: Need) -> tuple[Passed, bool]:
    """A load that eases as it slows, a fan's say, may still be carried at a lower speed."""
    curve = motor.running or motor.curve
    if curve is not None and need.load_exponent > 0:
        for number in range(SLOWER - 1, 0, -1):
            speed = motor.speed_rpm * number / SLOWER
            passed = converge(transmissions, speed, need)
            if curve.torque_nm(speed) >= torque_nm(passed.powers_kw[0], speed):
                return passed, False
    return converge(transmissions, motor.speed_rpm, need), True
