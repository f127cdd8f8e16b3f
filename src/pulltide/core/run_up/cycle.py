"""A duty cycle over and over: its torques, and its speeds where a motor follows; else it is off in its rests."""

from __future__ import annotations

from functools import partial
from math import ceil, inf
from typing import Any

from pulltide.core.duty import Segment
from pulltide.core.run_up.control import VFD_RAMP_S
from pulltide.core.run_up.simulate import Moment, Runner, Share
from pulltide.core.run_up.stretches import Stretches, torque_and_speed
from pulltide.core.units import RPM_PER_RAD_PER_S

#: A cycle is repeated until it lasted so long [s] or had so many stretches, and is followed no longer than that [s].
CYCLES_S, MAX_STRETCHES, MAX_CYCLE_S = 20.0, 120, 600.0
#: At less than this share of its speed a load is as it is there: what is told of a stretch at rest is about no speed.
MIN_SPEED = 0.05


def through_cycle(runner: Runner, at: float, state: Any) -> Moment:
    """The load goes through its duty cycle, over and over for a while."""
    parts = runner.train.cycle
    whole = sum(part.seconds for part in parts)
    if not parts or whole <= 0:
        return at, state
    repeats = max(min(ceil(CYCLES_S / whole), MAX_STRETCHES // len(parts)), 1)
    cycle = Stretches(parts, at, at + min(repeats * whole, MAX_CYCLE_S), runner.conditions.vfd_s or VFD_RAMP_S)
    plain, follows = runner.share, runner.train.motor.follows or runner.conditions.vfd_s > 0
    runner.field = cycle.speed if follows and cycle.changes_speed else None
    runner.note(at, "cycle", whole)
    for begin, end, part in cycle.stretches():
        if not follows:
            _switch(runner, begin, part)
        runner.share = partial(_in_stretch, runner, plain, (begin, part))
        # a leg ends where torque jumps or speed bends
        for stop in cycle.bends(begin, end):
            at, state, _ = runner.leg(at, state, stop, None)
        if not runner.came_up:
            break
    runner.share, runner.field = plain, None
    if runner.is_down and not parts[-1].rests:
        runner.note(at, "stays_down")
    return at, state


def _switch(runner: Runner, begin: float, part: Segment) -> None:
    """Off for a rest, and on again after it."""
    is_off = runner.off_at <= begin
    if part.rests and not is_off:
        runner.off_at = begin
        runner.note(begin, "rests")
    elif is_off and not part.rests:
        runner.on_at, runner.off_at = begin, inf
        runner.note(begin, "starts_again")


def _in_stretch(runner: Runner, plain: Share, stretch: tuple[float, Segment], now: float, angle: float) -> float:
    """Share of the load in a stretch: its torque is told at its own speed, so that the load's law is undone there."""
    began, part = stretch
    torque, speed = torque_and_speed(part, now - began)
    running = runner.train.running_rpm[-1] / RPM_PER_RAD_PER_S
    there = runner.train.load_nm(running * max(speed, MIN_SPEED))
    return plain(now, angle) * torque * (runner.train.load_nm(running) / there if there > 0 else 1.0)
