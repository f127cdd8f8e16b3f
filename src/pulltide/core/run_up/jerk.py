"""The first jerk of a start: play closes, springs wind up, and each stage sees more than the motor's torque."""

from __future__ import annotations

from functools import partial
from typing import Any

import numpy as np

from pulltide.core.errors import InputError
from pulltide.core.run_up.control import Conditions
from pulltide.core.run_up.drive_train import DriveTrain
from pulltide.core.run_up.elastic import Swinging, chain_of
from pulltide.core.run_up.run import Event, Jerk, Run, TooMuchWork
from pulltide.core.units import RPM_PER_RAD_PER_S

#: It is given so long to move off, and followed so many swings beyond, between so many seconds.
MAX_WAIT_S, SWINGS, MIN_S, MAX_S = 20.0, 10.0, 0.1, 3.0
#: The last shaft has moved off at this share of its speed.
MOVED = 0.01
#: Samples of its slowest swing at least.
SAMPLES = 24


def jerk(train: DriveTrain, conditions: Conditions) -> Run:
    """A start from rest, every play open, every spring slack, until the first swings have faded.

    Raises InputError where nothing of the drive is known to be springy.
    """
    chain = chain_of(train)
    if not chain.joints:
        raise InputError(
            "Springs",
            "",
            "are not known: nothing of this drive gives way",
            accepted="a belt, chain or steel gears, or shafts with diameter and wheels placed under Fit",
        )
    frequencies, run = chain.frequencies_hz(), Run()
    swinging = Swinging(train, chain, partial(_ends, train, conditions))
    period = 1 / frequencies[0]
    moved = MOVED * train.running_rpm[-1] / RPM_PER_RAD_PER_S

    def still(_: float, now: Any) -> float:
        return moved - swinging.last_rad_s(now)

    still.terminal, still.direction = True, -1.0  # type: ignore[attr-defined]
    path = _followed(run, swinging, period, still)
    _keep(run, swinging, path, conditions)
    _peaks(run, swinging, path, frequencies)
    return run


def _followed(run: Run, swinging: Swinging, period: float, still: Any) -> tuple[Any, Any]:
    """Times and states until it moves off, and some swings beyond; what takes too much work to follow is said."""
    start = np.zeros(swinging.size)
    times, states = np.zeros(1), start[:, None]
    try:
        times, states = solved(swinging, (0.0, MAX_WAIT_S), start, period / SAMPLES, still)
        at = float(times[-1])
        run.events.append(Event(at, "moves_off" if at < MAX_WAIT_S else "stalls"))
        if at < MAX_WAIT_S:
            until = at + min(max(SWINGS * period, MIN_S), MAX_S)
            after, later = solved(swinging, (at, until), states[:, -1], period / SAMPLES, None)
            times, states = np.concatenate([times, after[1:]]), np.concatenate([states, later[:, 1:]], axis=1)
    except TooMuchWork:
        run.events.append(Event(float(times[-1]), "chatters"))
    return times, states


def _ends(train: DriveTrain, conditions: Conditions, at: float, first: float, last: float) -> tuple[float, float]:
    """Torque of the motor, and what the load takes [N·m]."""
    return train.motor.torque(at, max(first, 0.0), conditions), train.load_nm(abs(last)) * conditions.load


def solved(swinging: Swinging, times: tuple[float, float], state: Any, step: float, ends: Any) -> tuple[Any, Any]:
    """Times and states of a stretch, until ``ends`` falls through 0."""
    from scipy.integrate import solve_ivp

    how = {"rtol": 1e-6, "atol": 1e-9, "max_step": step, "events": ends}
    found = solve_ivp(swinging.rates, times, state, method="LSODA", **how)
    return found.t, found.y


def _keep(run: Run, swinging: Swinging, path: tuple[Any, Any], conditions: Conditions) -> None:
    times, states = path
    train, count = swinging.train, swinging.count
    run.time_s = [float(at) for at in times]
    run.first_rpm = [float(one) * RPM_PER_RAD_PER_S for one in states[count]]
    run.last_rpm = [swinging.last_rad_s(state) * RPM_PER_RAD_PER_S for state in states.T]
    speeds = [max(float(one), 0.0) for one in states[count]]
    run.motor_nm = [train.motor.torque(at, speed, conditions) for at, speed in zip(run.time_s, speeds, strict=True)]
    amps = [train.motor.amps(at, speed, conditions) for at, speed in zip(run.time_s, speeds, strict=True)]
    run.amps_a = [one for one in amps if one is not None]
    run.given_j, run.taken_j, lost, rubbed, run.slip_j = (float(one) for one in states[-5:, -1])
    run.lost_j, run.stored_j = lost + rubbed, swinging.stored_j(states[:, -1])
    run.slipping = [swinging.slips(state) for state in states.T]


def _peaks(run: Run, swinging: Swinging, path: tuple[Any, Any], frequencies: tuple[float, ...]) -> None:
    """Greatest torque of each stage, and that of the worst one at the last shaft in place of the load's."""
    times, states = path
    by_stage = [swinging.stage_torques(float(at), state) for at, state in zip(times, states.T, strict=True)]
    series = list(zip(*by_stage, strict=True))
    steady = swinging.train.whole
    evenly = [run.motor_nm[-1]]
    for stage in steady.stages[:-1]:
        evenly.append(evenly[-1] * stage.ratio * stage.efficiency)
    peaks = tuple(max(map(abs, row)) for row in series)
    worst = max(range(len(peaks)), key=lambda k: peaks[k] / max(evenly[k], 1e-9))
    at = max(range(len(times)), key=lambda k: abs(series[worst][k]))
    run.jerk = Jerk(peaks, frequencies, worst)
    run.events.append(Event(run.time_s[at], "jerks", peaks[worst]))
    run.events.sort(key=lambda event: event.at_s)
    after = swinging.train.ratio(worst, len(steady.stages))
    run.load_nm = [torque * after for torque in series[worst]]
