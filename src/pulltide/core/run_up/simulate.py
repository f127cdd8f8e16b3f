"""A run: started, up to speed, what happens then, switched off and run down; events end a leg where something slips."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from functools import partial
from math import inf
from typing import Any, Literal

import numpy as np

from pulltide.core.run_up.control import Conditions
from pulltide.core.run_up.drive_train import KINETIC_SHARE, DriveTrain
from pulltide.core.units import RPM_PER_RAD_PER_S

#: A start is given up after this long, and a run-down is followed so far [s].
MOST_START_S, MOST_DOWN_S = 60.0, 600.0
#: Time it runs at speed before it is switched off [s].
STEADY_S = 1.0
#: It is up to speed within this of where it settles, and at rest under this share of its running speed.
NEAR, STILL = 0.02, 1e-3
#: From power off until a spring brake grips [s]. Common practice, no source.
BRAKE_SETS_S = 0.1
#: Mode changes of one run at most: more is chatter, and said.
MOST_CHANGES = 60
#: So often a run works out its accelerations at most: one that takes more is cut short, and that is said.
MOST_WORK = 25_000
#: Relative tolerance of the integration, and the longest step [s].
TOLERANCE, LONGEST_S = 1e-7, 0.5

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
]


@dataclass(frozen=True, slots=True)
class Event:
    """What happened when [s]; ``value`` is seconds of slip, joules where it grips, or a speed [rpm]."""

    at_s: float
    what: Happening
    value: float = 0.0


@dataclass(frozen=True, slots=True)
class Jam:
    """Speed of the last shaft [rad/s] and torque in it [N·m] when it is held fast, torque of the motor then [N·m]."""

    speed_rad_s: float
    last_nm: float
    motor_nm: float


@dataclass(frozen=True, slots=True)
class Followed:
    """A move: most torque over what the motor has at its speed; its root mean square [N·m], and over the rated one."""

    worst: float
    rms_nm: float
    heat: float | None


@dataclass(slots=True, kw_only=True)
class Run:
    """Samples over time [s]: speeds of the first and the last shaft [rpm], torque of motor and load [N·m], whether
    the stage slips, current of the motor [A] where it is known; energies [J]; events in order. Speed and torque are
    below 0 where it turns the other way. ``jam`` is what was so the moment before it was held fast,
    ``swing`` how far the first shaft's speed goes up and down over its mean where it works in blows,
    ``followed`` what a move takes of the motor.
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


#: State: speed of the first shaft, speed of the first shaft after the slip, five energies, angle of the last shaft.
FIRST, SECOND, GIVEN, TAKEN, LOST, SLIPPED, BRAKED, ANGLE = range(8)
#: Share of the load at a time and an angle of the last shaft.
Share = Callable[[float, float], float]


class TooMuchWork(Exception):
    """A run takes more than it is given."""


class Runner:
    """Runs one train under some conditions."""

    def __init__(self, train: DriveTrain, conditions: Conditions) -> None:
        self.train, self.conditions = train, conditions
        self.run = Run()
        self.on_at, self.off_at = 0.0, inf
        self.slips, self.leads = False, 1.0
        self.slip_from_j = 0.0
        self.share: Share = lambda at, angle: conditions.load
        self.held: tuple[float, ...] = ()
        self.jammed, self.way, self.longest_s = False, 1.0, LONGEST_S
        self.worked = 0

    def motor(self, at: float, speed: float) -> float:
        """Torque of the motor at a time and speed [N·m]."""
        if at >= self.off_at:
            return 0.0
        return self.train.motor.torque(at - self.on_at, speed, self.conditions)

    def amps(self, at: float, speed: float) -> float | None:
        """Current of the motor [A]; None where its plate says none."""
        if at >= self.off_at:
            return 0.0 if self.train.motor.tells_amps else None
        return self.train.motor.amps(at - self.on_at, speed, self.conditions)

    def load(self, at: float, state: Any, speed: float) -> float:
        """Torque of the load at a time and speed of the last shaft [N·m]."""
        return self.train.load_nm(speed) * self.share(at, float(state[ANGLE]))

    def together(self, at: float, state: Any) -> list[float]:
        """Everything turns as one."""
        whole, speed = self.train.whole, max(float(state[FIRST]), 0.0)
        last = speed / whole.ratio
        motor, load = self.motor(at, speed), self.load(at, state, last)
        motion = whole.motion(motor, load, speed, self.held)
        if self.jammed or (speed <= 0 and motion.acceleration < 0):
            return [0.0] * len(state)
        second = 0.0 if self.train.slip_stage is None else motion.acceleration / self._to_second()
        braked = whole.braked_w(self.held, speed)
        return [motion.acceleration, second, motor * speed, load * last, motion.lost_w, 0.0, braked, last]

    def _to_second(self) -> float:
        assert self.train.slip_stage is not None
        ratio = 1.0
        for stage in self.train.whole.stages[: self.train.slip_stage + 1]:
            ratio *= stage.ratio
        return ratio

    def apart(self, at: float, state: Any) -> list[float]:
        """One stage slips: both sides go their own way, joined by its friction."""
        train = self.train
        assert train.slip_stage is not None
        stage = train.whole.stages[train.slip_stage]
        ratio, kept = stage.ratio, stage.efficiency if self.leads > 0 else 1 / stage.back_efficiency
        first, second = max(float(state[FIRST]), 0.0), max(float(state[SECOND]), 0.0)
        driver = first / train.before.ratio
        over = driver - second * ratio
        friction = KINETIC_SHARE * train.slip_nm * self.leads
        last = second / train.after.ratio
        motor, load = self.motor(at, first), self.load(at, state, last)
        brakes_a, brakes_b = self.held[: train.slip_stage + 1], self.held[train.slip_stage + 1 :]
        a = train.before.motion(motor, friction, first, brakes_a)
        b = train.after.motion(friction * ratio * kept, load, second, brakes_b)
        held_a = first <= 0 and a.acceleration < 0
        held_b = self.jammed or (second <= 0 and b.acceleration < 0)
        return [
            0.0 if held_a else a.acceleration,
            0.0 if held_b else b.acceleration,
            motor * first,
            load * last,
            a.lost_w + (0.0 if self.jammed else b.lost_w) + friction * ratio * second * (1 - kept),
            friction * over,
            train.before.braked_w(brakes_a, first) + train.after.braked_w(brakes_b, second),
            last,
        ]

    def rates(self, at: float, state: Any) -> list[float]:
        """How everything changes now. Raises TooMuchWork."""
        self._work()
        return (self.apart if self.slips else self.together)(at, state)

    def _work(self) -> None:
        self.worked += 1
        if self.worked > MOST_WORK:
            raise TooMuchWork

    def strain(self, at: float, state: Any) -> float:
        """Torque into the stage that may slip, over what it passes, less one."""
        self._work()
        return abs(self.into(at, state)) / self.train.slip_nm - 1

    def into(self, at: float, state: Any) -> float:
        """Torque into the stage that may slip while all turns as one [N·m]; below 0 where the load drives."""
        train = self.train
        assert train.slip_stage is not None
        speed = max(float(state[FIRST]), 0.0)
        load = self.load(at, state, speed / train.whole.ratio)
        motion = train.whole.motion(self.motor(at, speed), load, speed, self.held)
        return motion.into_nm[train.slip_stage]

    def over(self, state: Any) -> float:
        """Speed of the slip at its driver shaft [rad/s]."""
        train = self.train
        assert train.slip_stage is not None
        return (
            float(state[FIRST]) / train.before.ratio - float(state[SECOND]) * train.whole.stages[train.slip_stage].ratio
        )

    def begin(self) -> tuple[float, Any]:
        """From rest until it has run at speed for a while."""
        state = np.zeros(8)
        self.slips = self.train.slip_stage is not None and self.strain(0.0, state) > 0
        if self.slips:
            self.note(0.0, "slips")
        at, state = self.until_settled(0.0, state)
        self.run.at_speed_j = self.stored(state)
        return at, state

    @property
    def came_up(self) -> bool:
        """Whether it came up to speed, and could be followed so far."""
        return self.run.when("stalls") is None and self.run.when("chatters") is None

    def end(self, state: Any) -> Run:
        """The run with its energies."""
        run, values = self.run, [float(value) for value in state]
        run.given_j, run.taken_j, run.lost_j, run.slip_j, run.braked_j = values[GIVEN : BRAKED + 1]
        run.stored_j = self.stored(state)
        return run

    def switch_off(self, at: float, state: Any) -> tuple[float, Any]:
        """Power off, brakes on, until everything stands."""
        self.off_at = at
        self.note(at, "power_off")
        if any(self.train.brakes_nm):
            at, state, _ = self.leg(at, state, at + BRAKE_SETS_S, None)
            self.held = self.train.brakes_nm
        return self._run_down(at, state)

    def hold_fast(self, at: float, state: Any) -> Any:
        """Hold the last shaft fast: what turned behind the slip, or all of it, stands at once."""
        train, first = self.train, max(float(state[FIRST]), 0.0)
        last = float(state[SECOND]) / train.after.ratio if self.slips else first / train.whole.ratio
        self.run.jam = Jam(last, self.load(at, state, last), self.motor(at, first))
        before = self.stored(state)
        self.note(at, "jams")
        if train.slip_stage is not None:
            if not self.slips:
                self.slips, self.leads = True, 1.0
                self.note(at, "slips")
            state[SECOND] = 0.0
        else:
            state[FIRST] = 0.0
        self.run.jam_j = before - self.stored(state)
        self.jammed = True
        return state

    def stored(self, state: Any) -> float:
        """Energy of all that turns [J]."""
        if self.train.slip_stage is None:
            return self.train.whole.kinetic_j(float(state[FIRST]))
        return self.train.before.kinetic_j(float(state[FIRST])) + self.train.after.kinetic_j(float(state[SECOND]))

    def until_settled(self, at: float, state: Any) -> tuple[float, Any]:
        """Until nothing accelerates any more, and a while beyond."""
        since = len(self.run.time_s)
        for jump in self.conditions.jumps_s:
            at, state, _ = self.leg(at, state, self.on_at + jump, None)
        if self.conditions.jumps_s:
            self.note(at, "delta")
        at, state, stopped = self.leg(at, state, at + MOST_START_S, self.still_gaining)
        if self.run.when("chatters") is not None:
            return at, state
        if float(state[FIRST]) < STILL * self.train.running_rpm[0] / RPM_PER_RAD_PER_S or not stopped:
            self.note(at, "stalls")
            return at, state
        speed = abs(self.run.last_rpm[-1])
        seen = zip(self.run.time_s[since:], self.run.last_rpm[since:], strict=True)
        up = next(t for t, n in seen if abs(n) >= (1 - NEAR) * speed)
        moves = speed > STILL * self.train.running_rpm[-1]
        self.note(up, "up_to_speed" if moves else "stalls")
        self.run.events.sort(key=lambda event: event.at_s)
        at, state, _ = self.leg(at, state, at + STEADY_S, None)
        return at, state

    def still_gaining(self, at: float, state: Any) -> float:
        """Below 0 once what accelerates it would take over ten seconds for another hundredth of its speed."""
        rates = (self.apart if self.slips else self.together)(at, state)
        worst = max(abs(rates[FIRST]), abs(rates[SECOND]) if self.slips else 0.0)
        return (
            1.0
            if at - self.on_at < self.conditions.ramp_s
            else worst / (self.train.running_rpm[0] / RPM_PER_RAD_PER_S) - 1e-3
        )

    def _run_down(self, at: float, state: Any) -> tuple[float, Any]:
        began = at
        limit = STILL * self.train.running_rpm[0] / RPM_PER_RAD_PER_S
        last = STILL * self.train.running_rpm[-1] / RPM_PER_RAD_PER_S

        def turning(_: float, now: Any) -> float:
            tail = self.train.whole.ratio if not self.slips else 1.0
            last_speed = float(now[FIRST]) / tail if not self.slips else float(now[SECOND]) / self.train.after.ratio
            return max(float(now[FIRST]) - limit, last_speed - last)

        at, state, stopped = self.leg(at, state, began + MOST_DOWN_S, turning)
        self.note(at, "at_rest" if stopped else "still_turning", at - began)
        return at, state

    def leg(
        self, at: float, state: Any, until: float, ends: Callable[[float, Any], float] | None
    ) -> tuple[float, Any, bool]:
        """Integrate through mode changes until a time, or until ``ends`` falls below 0; whether it did."""
        from scipy.integrate import solve_ivp

        if until <= at:
            return at, state, False

        for _ in range(MOST_CHANGES):
            events = [self._end_of_mode()] if self.train.slip_stage is not None else []
            if ends is not None:
                events.append(_falling(ends))
            try:
                found = _solved(partial(solve_ivp, max_step=self.longest_s), self.rates, (at, until), state, events)
            except TooMuchWork:
                break
            self._keep(found.t, found.y)
            at, state = float(found.t[-1]), found.y[:, -1].copy()
            if found.status != 1:
                return at, state, False
            if ends is not None and len(found.t_events[-1]):
                return at, state, True
            state = self._changed(at, state)
        self.note(at, "chatters")
        return at, state, False

    def _end_of_mode(self) -> Callable[[float, Any], float]:
        if self.slips:
            return _falling(lambda _, state: self.leads * self.over(state) - 1e-9)
        return _falling(lambda at, state: -self.strain(at, state))

    def _changed(self, at: float, state: Any) -> Any:
        """From turning as one to slipping, or the other way round."""
        if not self.slips:
            # the side that pushes runs ahead from here on
            self.slips, self.leads = True, 1.0 if self.into(at, state) >= 0 else -1.0
            self.note(at, "slips")
            return state
        self.slips = False
        state[SECOND] = state[FIRST] / self._to_second()
        self.note(at, "grips", float(state[SLIPPED]) - self.slip_from_j)
        self.slip_from_j = float(state[SLIPPED])
        return state

    def note(self, at: float, what: Happening, value: float = 0.0) -> None:
        """Remember that something happened."""
        self.run.events.append(Event(at, what, value))

    def _holds_nm(self, at: float, state: Any, motor: float, last: float) -> float:
        """What holds the last shaft back [N·m]: its load, or what it is held fast with."""
        train = self.train
        if not self.jammed:
            return self.load(at, state, last)
        if train.slip_stage is None or not self.slips:
            return train.whole.passed(motor)
        stage = train.whole.stages[train.slip_stage]
        return train.after.passed(KINETIC_SHARE * train.slip_nm * stage.ratio * stage.efficiency)

    def _keep(self, times: Any, states: Any) -> None:
        """Every step of a leg; a place where two meet is kept once."""
        run, whole = self.run, self.train.whole
        for at, state in zip(times, states.T, strict=True):
            if run.time_s and at <= run.time_s[-1]:
                continue
            first = max(float(state[FIRST]), 0.0)
            last = float(state[SECOND]) / self.train.after.ratio if self.slips else first / whole.ratio
            run.time_s.append(float(at))
            run.first_rpm.append(self.way * first * RPM_PER_RAD_PER_S)
            run.last_rpm.append(self.way * max(last, 0.0) * RPM_PER_RAD_PER_S)
            motor = self.motor(float(at), first)
            run.motor_nm.append(self.way * motor)
            run.load_nm.append(self.way * self._holds_nm(float(at), state, motor, max(last, 0.0)))
            run.slipping.append(self.slips)
            amps = self.amps(float(at), first)
            if amps is not None:
                run.amps_a.append(amps)


def _solved(solve: Any, rates: Any, times: tuple[float, float], state: Any, events: list[Any]) -> Any:
    """A leg: a light motor side beside a heavy slipping one is stiff; where a corner of a curve throws the quick method
    off, a slower one that stays whole does it.
    """
    how = {"rtol": TOLERANCE, "atol": 1e-9, "events": events or None}
    found = solve(rates, times, state, method="LSODA", **how)
    if found.status >= 0 and np.isfinite(found.y).all():
        return found
    return solve(rates, times, state, method="Radau", **how)


def _falling(value: Callable[[float, Any], float]) -> Callable[[float, Any], float]:
    """An event that ends a leg where a value falls through 0."""

    def event(at: float, state: Any) -> float:
        return value(at, state)

    event.terminal = True  # type: ignore[attr-defined]
    event.direction = -1.0  # type: ignore[attr-defined]
    return event
