"""What happens to a drive that is up to speed: load steps, a dip of the volts, a jam, blows, a cycle, turned about."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from itertools import pairwise
from math import cos, pi
from typing import Any

from pulltide.core.errors import InputError
from pulltide.core.needs.contract import Pulse
from pulltide.core.run_up.control import Conditions, Motor, Then, fuse_heat, relay_heat
from pulltide.core.run_up.cycle import through_cycle
from pulltide.core.run_up.drive_train import DriveTrain
from pulltide.core.run_up.jerk import jerk
from pulltide.core.run_up.profile import follow
from pulltide.core.run_up.run import Event, Happening, Run
from pulltide.core.run_up.simulate import Moment, Runner
from pulltide.core.run_up.swing import swing_back

#: How long the load is off, the volts are down and to what share, and the last shaft is held fast [s].
OFF_S, DIP_S, DIP_TO, JAM_S = 2.0, 1.0, 0.6, 1.0
#: It is given so long to come back to speed [s].
BACK_S = 30.0
#: Blows that are followed, and steps over the arc of each.
BLOWS, STEPS = 12.0, 8.0
#: A blow over less of a turn is spread over so much [rad].
MIN_ARC = 0.03


def run_up(train: DriveTrain, conditions: Conditions | None = None) -> Run:
    """Start a train from rest, let happen what is asked for, switch it off and let it run down.

    Raises InputError for what cannot be followed from its first moment on.
    """
    run = _run(train, (conditions or Conditions()).of(train.motor.on_vfd))
    if not run.time_s or run.time_s[-1] <= run.time_s[0]:
        given = "its lightest shaft changes speed faster than can be followed"
        raise InputError("Run", "", given, accepted="inertia of the machine under Need, or wheels with their sizes")
    return run


def _run(train: DriveTrain, conditions: Conditions) -> Run:
    if conditions.then == "move" and train.move is not None:
        return follow(train, train.move)
    if conditions.then == "jerk":
        return jerk(train, conditions)
    runner = Runner(train, conditions)
    at, state = runner.begin()
    if runner.came_up:
        at, state = CASES[conditions.then](runner, at, state)
    if runner.came_up:
        at, state = runner.switch_off(at, state)
        if conditions.then == "other_way" and runner.run.when("still_turning") is None:
            at, state = _other_way(runner, at, state)
    run = runner.end(state)
    swing_back(train, run)
    protect(train.motor, run)
    return run


def protect(motor: Motor, run: Run) -> None:
    """Note when a class 10 relay set to the plate would trip and usual fuses may blow; nothing where nobody can say."""
    if motor.rated_a is None or len(run.amps_a) != len(run.time_s):
        return
    for heat, what in PROTECTED:
        at = heat(run.time_s, run.amps_a, motor.rated_a)[1]
        if at is not None:
            run.events.append(Event(at, what))
    run.events.sort(key=lambda event: event.at_s)


Heat = Callable[[list[float], list[float], float], tuple[float, float | None]]
PROTECTED: tuple[tuple[Heat, Happening], ...] = ((relay_heat, "relay_trips"), (fuse_heat, "fuse_blows"))


def _nothing(runner: Runner, at: float, state: Any) -> Moment:
    """It is switched off."""
    return at, state


def _load_steps(runner: Runner, at: float, state: Any) -> Moment:
    """The load goes off, and comes back at once."""
    full = runner.share
    runner.note(at, "load_off")
    runner.share = lambda at, angle: 0.0
    at, state, _ = runner.leg(at, state, at + OFF_S, None)
    runner.note(at, "load_on", runner.last_rpm)
    runner.share = full
    return _back(runner, at, state)


def _dip(runner: Runner, at: float, state: Any) -> Moment:
    """The volts fall for a while, as when something large starts beside it."""
    rated = runner.conditions
    runner.note(at, "volts_dip", DIP_TO)
    runner.conditions = replace(rated, volts=rated.volts * DIP_TO)
    at, state, _ = runner.leg(at, state, at + DIP_S, None)
    runner.conditions = rated
    runner.note(at, "volts_back", runner.last_rpm)
    return _back(runner, at, state)


def _jam(runner: Runner, at: float, state: Any) -> Moment:
    """The last shaft is held fast, and freed again."""
    state = runner.hold_fast(at, state)
    at, state, _ = runner.leg(at, state, at + JAM_S, None)
    runner.jammed = False
    runner.note(at, "freed")
    return _back(runner, at, state)


def _back(runner: Runner, at: float, state: Any) -> Moment:
    """Until it is at speed again, and a while beyond; or it is said that it stays down."""
    at, state, _ = runner.leg(at, state, at + BACK_S, runner.still_gaining)
    if abs(runner.last_rpm) < 0.5 * runner.train.running_rpm[-1]:
        runner.note(at, "stays_down")
    at, state, _ = runner.leg(at, state, at + 0.5, None)
    return at, state


def _blows(runner: Runner, at: float, state: Any) -> Moment:
    """Part of the work comes in blows, at one place of every turn."""
    pulse, plain = runner.train.pulse, runner.share
    if pulse is None:
        return at, state
    pulse = replace(pulse, arc_rad=max(pulse.arc_rad, MIN_ARC))
    turn_s = 60 / max(abs(runner.last_rpm), 1e-6)
    runner.share = lambda at, angle: plain(at, angle) * pulse_at(pulse, angle)
    runner.longest_s, usual = turn_s * pulse.arc_rad / (2 * pi) / STEPS, runner.longest_s
    began = len(runner.run.time_s)
    runner.note(at, "blows", pulse.per_turn * abs(runner.last_rpm))
    at, state, _ = runner.leg(at, state, at + BLOWS * turn_s / pulse.per_turn, None)
    runner.run.swing = _swing(runner.run, began)
    runner.share, runner.longest_s = plain, usual
    return at, state


def _swing(run: Run, began: int) -> float | None:
    """Greatest less least speed over the mean in the last half of the samples: the start of it has faded by then."""
    late = slice(began + (len(run.time_s) - began) // 2, None)
    times, speeds = run.time_s[late], run.first_rpm[late]
    if len(times) < 2 or times[-1] <= times[0]:
        return None
    steps = zip(pairwise(times), pairwise(speeds), strict=True)
    turned = sum((t1 - t0) * (n0 + n1) / 2 for (t0, t1), (n0, n1) in steps)
    return (max(speeds) - min(speeds)) * (times[-1] - times[0]) / turned


def pulse_at(pulse: Pulse, angle: float) -> float:
    """Torque over its mean at an angle of the last shaft [rad]: what is left outside the blows, and in each a half wave
    from 0 to 0 whose mean over the turn is the share.

    >>> mean = sum(pulse_at(Pulse(1, 0.5, 0.8), 2 * pi * k / 10_000) for k in range(10_000)) / 10_000
    >>> round(mean, 4)
    1.0
    """
    turn = 2 * pi / pulse.per_turn
    here = angle % turn
    base = 1 - pulse.share
    if here >= pulse.arc_rad:
        return base
    # 1 - cos: no corner where it begins, so that the integration keeps its step
    return base + pulse.share * turn / pulse.arc_rad * (1 - cos(2 * pi * here / pulse.arc_rad))


def _other_way(runner: Runner, at: float, state: Any) -> Moment:
    """Everything stands; started again, the other way round."""
    state[: len(runner.heads)] = 0.0
    runner.stand(-1.0)
    runner.on_at, runner.off_at = at, float("inf")
    runner.note(at, "other_way")
    return runner.until_settled(at, state)


CASES: dict[Then, Callable[[Runner, float, Any], Moment]] = {
    "stop": _nothing,
    "load_steps": _load_steps,
    "dip": _dip,
    "jam": _jam,
    "blows": _blows,
    "cycle": through_cycle,
    "other_way": _nothing,
    "move": _nothing,
    "jerk": _nothing,
}
