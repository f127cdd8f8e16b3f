"""A run: started, up to speed, what happens then, switched off and run down; events end a leg where the drive parts."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial
from itertools import pairwise
from math import inf
from typing import Any

import numpy as np

from pulltide.core.run_up.contacts import Piece, pieces
from pulltide.core.run_up.control import Conditions
from pulltide.core.run_up.drive_train import DriveTrain
from pulltide.core.run_up.run import Event, Happening, Jam, Run, TooMuchWork
from pulltide.core.units import RPM_PER_RAD_PER_S

#: A start is given up after this long, and a run-down is followed so far [s].
MAX_START_S, MAX_DOWN_S = 60.0, 600.0
#: Time it runs at speed before it is switched off [s].
STEADY_S = 1.0
#: It is up to speed within this of where it settles, and at rest under this share of its running speed.
NEAR, STILL = 0.02, 1e-3
#: From power off until a spring brake grips [s]. Common practice, no source.
BRAKE_SETS_S = 0.1
#: Mode changes of one run at most: more is chatter, and said.
MAX_CHANGES = 60
#: So often a run works out its accelerations at most: one that takes more is cut short, and that is said.
MAX_WORK = 25_000
#: Relative tolerance of the integration, and the longest step [s].
TOLERANCE, LONGEST_S = 1e-7, 0.5
#: Two sides of an open contact meet within this [rad/s].
MEET = 1e-9

#: State: speed of the first shaft and of the first one after each contact; then, from its end, five energies and the
#: angle of the last shaft.
FIRST = 0
GIVEN, TAKEN, LOST, SLIPPED, BRAKED, ANGLE = range(-6, 0)
#: Share of the load at a time and an angle of the last shaft.
Share = Callable[[float, float], float]
#: A time [s] and the state then.
Moment = tuple[float, Any]


class Runner:
    """Runs one train under some conditions."""

    def __init__(self, train: DriveTrain, conditions: Conditions) -> None:
        self.train, self.conditions = train, conditions
        self.run = Run()
        self.on_at, self.off_at = 0.0, inf
        # of each contact: 0 while it holds, 1 while the driver runs ahead, -1 while the driven one does
        self.leads = [0.0] * len(train.contacts)
        self.slip_from_j = 0.0
        self.share: Share = lambda at, angle: conditions.load
        self.field: Callable[[float], float] | None = None
        self.held: tuple[float, ...] = ()
        self.jammed, self.way, self.longest_s = False, 1.0, LONGEST_S
        self.worked = 0
        self._pieces: dict[tuple[bool, ...], tuple[Piece, ...]] = {}
        bounds = [0, *(contact.stage + 1 for contact in train.contacts)]
        # the first shaft and that after each contact; speed of each over the next, and of the last over the last shaft
        self.heads = tuple(bounds)
        self.ratios = tuple(train.ratio(one, other) for one, other in pairwise(bounds))
        self.tail = train.ratio(bounds[-1], len(train.whole.stages))

    def motor(self, at: float, speed: float) -> float:
        """Torque of the motor at a time and speed [N·m]."""
        if at >= self.off_at:
            return 0.0
        field = None if self.field is None else self.field(at)
        return self.train.motor.torque(at - self.on_at, speed, self.conditions, field)

    def amps(self, at: float, speed: float) -> float | None:
        """Current of the motor [A]; None where its plate says none."""
        if at >= self.off_at:
            return 0.0 if self.train.motor.tells_amps else None
        field = None if self.field is None else self.field(at)
        return self.train.motor.amps(at - self.on_at, speed, self.conditions, field)

    def load(self, at: float, state: Any, speed: float) -> float:
        """Torque of the load at a time and speed of the last shaft [N·m]."""
        return self.train.load_nm(speed) * self.share(at, float(state[ANGLE]))

    @property
    def parted(self) -> bool:
        """Whether the drive is open somewhere."""
        return any(self.leads)

    def pieces(self) -> tuple[Piece, ...]:
        """The drive as it hangs together now."""
        is_open = tuple(lead != 0 for lead in self.leads)
        if is_open not in self._pieces:
            self._pieces[is_open] = pieces(self.train.whole, self.train.contacts, is_open)
        return self._pieces[is_open]

    def speeds(self, state: Any) -> list[float]:
        """Speed of the first shaft and of the first one after each contact [rad/s], never below 0."""
        found = [max(float(state[FIRST]), 0.0)]
        for number, ratio in enumerate(self.ratios):
            joined = self.leads[number] == 0
            found.append(found[-1] / ratio if joined else max(float(state[number + 1]), 0.0))
        return found

    def last(self, state: Any) -> float:
        """Speed of the last shaft [rad/s]."""
        return self.speeds(state)[-1] / self.tail

    def rates(self, at: float, state: Any) -> list[float]:
        """How everything changes now. Raises TooMuchWork."""
        self._work()
        rates, speeds = [0.0] * len(state), self.speeds(state)
        last = speeds[-1] / self.tail
        motor, load = self.motor(at, speeds[FIRST]), self.load(at, state, last)
        for piece in self.pieces():
            head = 0 if piece.left is None else piece.left + 1
            motion = self._motion(piece, (motor, load), speeds[head])
            stands = (self.jammed and piece.right is None) or (speeds[head] <= 0 and motion.acceleration < 0)
            acceleration = 0.0 if stands else motion.acceleration
            rates[LOST] += 0.0 if stands else motion.lost_w
            rates[BRAKED] += piece.group.braked_w(piece.held(self.held), speeds[head])
            rates[TAKEN] += piece.group.braked_w(self._drawn(piece, speeds[head]), speeds[head])
            for number in range(head, len(speeds) if piece.right is None else piece.right + 1):
                acceleration /= 1.0 if number == head else self.ratios[number - 1]
                rates[number] = acceleration
        self._rub(rates, speeds)
        rates[TAKEN] += load * last
        rates[GIVEN], rates[ANGLE] = motor * speeds[FIRST], last
        return rates

    def _motion(self, piece: Piece, ends: tuple[float, float], speed: float) -> Any:
        """Of a piece between the motor or the contact before it, and the contact after it or the load."""
        motor, load = ends
        first = motor if piece.left is None else self._passed(piece.left)
        holds = load if piece.right is None else self._friction(piece.right)
        return piece.group.motion(first, holds, speed, self._held(piece, speed))

    def _held(self, piece: Piece, speed: float) -> tuple[float, ...]:
        """What holds its shafts back beside the load [N·m]: brakes, take-offs, measured friction."""
        brakes, drawn = piece.held(self.held), self._drawn(piece, speed)
        if not (brakes and drawn):
            return brakes or drawn
        return tuple(brake + taken for brake, taken in zip(brakes, drawn, strict=True))

    def _drawn(self, piece: Piece, speed: float) -> tuple[float, ...]:
        """What take-offs and measured friction draw from its shafts, the first of them at a speed [N·m, rad/s]."""
        if not self.train.drawn:
            return ()
        found = [0.0] * len(piece.group.inertias_kgm2)
        for part in self.train.drawn:
            place = part.shaft - 1 - piece.first
            if 0 <= place < len(found):
                rpm = speed / self.train.ratio(piece.first, part.shaft - 1) * RPM_PER_RAD_PER_S
                found[place] = part.taken_nm(rpm)
        return tuple(found)

    def _friction(self, number: int) -> float:
        """Torque at the driver shaft of an open contact [N·m], below 0 where the driven one pulls it along."""
        return self.train.contacts[number].friction_nm(self.leads[number])

    def _kept(self, number: int) -> float:
        stage = self.train.whole.stages[self.train.contacts[number].stage]
        return stage.efficiency if self.leads[number] > 0 else 1 / stage.back_efficiency

    def _passed(self, number: int) -> float:
        """Torque that an open contact has on its driven shaft [N·m]."""
        stage = self.train.whole.stages[self.train.contacts[number].stage]
        return self._friction(number) * stage.ratio * self._kept(number)

    def _rub(self, rates: list[float], speeds: list[float]) -> None:
        """What open contacts turn to heat."""
        for number, lead in enumerate(self.leads):
            if lead == 0:
                continue
            stage = self.train.whole.stages[self.train.contacts[number].stage]
            friction, second = self._friction(number), speeds[number + 1]
            rates[SLIPPED] += friction * self._over(number, speeds)
            rates[LOST] += friction * stage.ratio * second * (1 - self._kept(number))

    def _over(self, number: int, speeds: list[float]) -> float:
        """How far the driver of a contact runs ahead at its own shaft [rad/s]."""
        stage = self.train.contacts[number].stage
        driver = speeds[number] / self.train.ratio(self.heads[number], stage)
        return driver - speeds[number + 1] * self.train.whole.stages[stage].ratio

    def _work(self) -> None:
        self.worked += 1
        if self.worked > MAX_WORK:
            raise TooMuchWork

    def strain(self, number: int, at: float, state: Any) -> float:
        """Over 0 once a contact that holds lets go."""
        self._work()
        return self.train.contacts[number].strain(self.into(number, at, state))

    def into(self, number: int, at: float, state: Any) -> float:
        """Torque into a contact that holds [N·m]; below 0 where the load drives."""
        speeds = self.speeds(state)
        motor, load = self.motor(at, speeds[FIRST]), self.load(at, state, speeds[-1] / self.tail)
        stage = self.train.contacts[number].stage
        piece = next(one for one in self.pieces() if one.first <= stage < one.first + len(one.group.inertias_kgm2))
        head = 0 if piece.left is None else piece.left + 1
        motion = self._motion(piece, (motor, load), speeds[head])
        if speeds[head] <= 0 and motion.acceleration < 0:
            # it stands: what comes in is held, and nothing of it is taken by inertia
            first = motor if piece.left is None else self._passed(piece.left)
            return piece.group.passed(first, stage - piece.first)
        return float(motion.into_nm[stage - piece.first])

    def begin(self) -> tuple[float, Any]:
        """From rest until it has run at speed for a while."""
        at, state = self.until_settled(0.0, self.at_rest())
        self.run.at_speed_j = self.stored(state)
        return at, state

    def at_rest(self) -> Any:
        """The state of a drive that stands."""
        return np.zeros(len(self.train.contacts) + 7)

    @property
    def came_up(self) -> bool:
        """Whether it came up to speed, and could be followed so far."""
        return self.run.when("stalls") is None and self.run.when("chatters") is None

    @property
    def last_rpm(self) -> float:
        """Speed of the last shaft as it was kept last [rpm]."""
        return self.run.last_rpm[-1]

    @property
    def is_down(self) -> bool:
        """Whether the last shaft stands."""
        return abs(self.last_rpm) < STILL * self.train.running_rpm[-1]

    def end(self, state: Any) -> Run:
        """The run with its energies."""
        run = self.run
        run.given_j, run.taken_j, run.lost_j, run.slip_j, run.braked_j = (float(one) for one in state[GIVEN:ANGLE])
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
        """Hold the last shaft fast: what turns behind the place that lets go, or all of it, stands at once."""
        speeds, last = self.speeds(state), self.last(state)
        before, load = self.stored(state), self.load(at, state, last)
        parts = self._lets_go(last, load)
        contact = None if parts is None else self.train.contacts[parts]
        self.run.jam = Jam(last, load, self.motor(at, speeds[FIRST]), contact)
        self.note(at, "jams")
        if parts is not None and contact is not None and self.leads[parts] == 0:
            self.leads[parts] = 1.0
            self.note(at, contact.kind)
        stands = 0 if parts is None else parts + 1
        state[: len(speeds)] = [*speeds[:stands], *([0.0] * (len(speeds) - stands))]
        self.leads[stands:] = [0.0] * len(self.leads[stands:])
        self.run.jam_j = before - self.stored(state)
        self.jammed = True
        return state

    def _lets_go(self, last: float, load: float) -> int | None:
        """Number of the contact that parts when the last shaft is held fast: the nearest one to it that can."""
        contacts = self.train.contacts
        for number in range(len(contacts) - 1, -1, -1):
            contact = contacts[number]
            if contact.kind == "slips" or (contact.kind == "shears" and self.leads[number] > 0):
                return number
            if contact.kind == "shears":
                behind = next((one.stage + 1 for one in contacts[number - 1 :: -1] if one.kind == "slips"), 0)
                shock = self.train.shock_nm((last, load, load), behind if number else 0, contact.stage)
                if shock is None or shock >= contact.torque_nm:
                    return number
        return None

    def stand(self, way: float) -> None:
        """Everything stands, brakes off, to be started one way or the other.

        Pins that are gone stay so, and backward a one-way clutch passes nothing.
        """
        contacts = self.train.contacts
        gone = [contact.stays_open(lead) for contact, lead in zip(contacts, self.leads, strict=True)]
        if way < 0:
            gone = [one or bool(contact.clutch) for one, contact in zip(gone, contacts, strict=True)]
            freed = tuple(replace(one, kind="shears", clutch="") if one.clutch else one for one in contacts)
            self.train = replace(self.train, contacts=freed)
        self.leads = [1.0 if one else 0.0 for one in gone]
        self.held, self.way = (), way

    def stored(self, state: Any) -> float:
        """Energy of all that turns [J]."""
        speeds = self.speeds(state)
        return sum(one.group.kinetic_j(speeds[0 if one.left is None else one.left + 1]) for one in self.pieces())

    def until_settled(self, at: float, state: Any) -> tuple[float, Any]:
        """Until nothing accelerates any more, and a while beyond."""
        since = len(self.run.time_s)
        for jump in self.conditions.jumps_s:
            at, state, _ = self.leg(at, state, self.on_at + jump, None)
        if self.conditions.jumps_s:
            self.note(at, "delta")
        at, state, stopped = self.leg(at, state, at + MAX_START_S, self.still_gaining)
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
        if at - self.on_at < self.conditions.ramp_s:
            return 1.0
        rates = self.rates(at, state)
        worst = max(abs(rates[0 if one.left is None else one.left + 1]) for one in self.pieces())
        return worst / (self.train.running_rpm[0] / RPM_PER_RAD_PER_S) - 1e-3

    def _run_down(self, at: float, state: Any) -> tuple[float, Any]:
        began = at
        still = [STILL * self.train.running_rpm[shaft] / RPM_PER_RAD_PER_S for shaft in self.heads]

        def turning(_: float, now: Any) -> float:
            speeds = self.speeds(now)
            heads = (0 if one.left is None else one.left + 1 for one in self.pieces())
            return max(speeds[head] - still[head] for head in heads)

        at, state, stopped = self.leg(at, state, began + MAX_DOWN_S, turning)
        self.note(at, "at_rest" if stopped else "still_turning", at - began)
        return at, state

    def leg(
        self, at: float, state: Any, until: float, ends: Callable[[float, Any], float] | None
    ) -> tuple[float, Any, bool]:
        """Integrate through mode changes until a time, or until ``ends`` falls below 0; whether it did."""
        from scipy.integrate import solve_ivp

        if until <= at:
            return at, state, False

        changed = None
        for _ in range(MAX_CHANGES):
            try:
                self._let_go(at, state, changed)
                watched = [self._end_of_mode(number) for number in range(len(self.leads))]
                events = [one for one in watched if one is not None]
                events += [] if ends is None else [_falling(ends)]
                found = _solved(partial(solve_ivp, max_step=self.longest_s), self.rates, (at, until), state, events)
            except TooMuchWork:
                break
            self._keep(found.t, found.y)
            at, state = float(found.t[-1]), found.y[:, -1].copy()
            if found.status != 1:
                return at, state, False
            if ends is not None and len(found.t_events[-1]):
                return at, state, True
            # the first of them whose event ended the leg
            met = iter(found.t_events)
            changed = next(k for k, one in enumerate(watched) if one is not None and len(next(met)))
            state = self._changed(changed, at, state)
        self.note(at, "chatters")
        return at, state, False

    def _let_go(self, at: float, state: Any, changed: int | None) -> None:
        """Open what the torque is too much for from the first moment; what has just met again is left as it is."""
        for number, lead in enumerate(self.leads):
            if lead == 0 and number != changed and self.strain(number, at, state) > 0:
                self._open(number, at, state)

    def _end_of_mode(self, number: int) -> Callable[[float, Any], float] | None:
        """What falls below 0 once a contact opens or meets again; None where it never does."""
        lead = self.leads[number]
        if lead == 0:
            return _falling(lambda at, state: -self.strain(number, at, state))
        if self.train.contacts[number].stays_open(lead):
            return None
        return _falling(lambda _, state: lead * self._over(number, self.speeds(state)) - MEET)

    def _open(self, number: int, at: float, state: Any) -> None:
        """The side that pushes runs ahead from here on."""
        speeds, lead = self.speeds(state), self.train.contacts[number].lead(self.into(number, at, state))
        self.leads[number] = lead
        state[: len(speeds)] = speeds
        self.note(at, self.train.contacts[number].opens(lead))

    def _changed(self, number: int, at: float, state: Any) -> Any:
        """From turning as one to parting, or the other way round."""
        if self.leads[number] == 0:
            self._open(number, at, state)
            return state
        overran = self.train.contacts[number].opens(self.leads[number]) == "overruns"
        self.leads[number] = 0.0
        speeds = self.speeds(state)
        state[: len(speeds)] = speeds
        if overran:
            self.note(at, "drives_again")
            return state
        self.note(at, "grips", float(state[SLIPPED]) - self.slip_from_j)
        self.slip_from_j = float(state[SLIPPED])
        return state

    def note(self, at: float, what: Happening, value: float = 0.0) -> None:
        """Remember that something happened."""
        self.run.events.append(Event(at, what, value))

    def _holds_nm(self, at: float, state: Any, motor: float) -> float:
        """What holds the last shaft back [N·m]: its load, or what it is held fast with."""
        if not self.jammed:
            return self.load(at, state, self.last(state))
        piece = self.pieces()[-1]
        return piece.group.passed(motor if piece.left is None else self._passed(piece.left))

    def _keep(self, times: Any, states: Any) -> None:
        """Every step of a leg; a place where two meet is kept once."""
        run = self.run
        for at, state in zip(times, states.T, strict=True):
            if run.time_s and at <= run.time_s[-1]:
                continue
            first = max(float(state[FIRST]), 0.0)
            run.time_s.append(float(at))
            run.first_rpm.append(self.way * first * RPM_PER_RAD_PER_S)
            run.last_rpm.append(self.way * self.last(state) * RPM_PER_RAD_PER_S)
            motor = self.motor(float(at), first)
            run.motor_nm.append(self.way * motor)
            run.load_nm.append(self.way * self._holds_nm(float(at), state, motor))
            run.slipping.append(self.parted)
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
