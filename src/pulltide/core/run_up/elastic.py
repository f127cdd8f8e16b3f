"""A drive as masses on springs with play between them: how it twists to and fro, and the first jerk of a start."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import inf, pi, sqrt, tanh
from typing import Any

import numpy as np

from pulltide.core.elasticity import in_series
from pulltide.core.run_up.contacts import Contact
from pulltide.core.run_up.drive_train import DriveTrain
from pulltide.core.run_up.run import TooMuchWork
from pulltide.core.run_up.train import Group, Stage

#: Damping of each spring, as a share of critical. Common practice, low confidence: 0.02 to 0.08.
DAMPING = 0.04
#: A spring that swings faster than this with what is beside it [Hz] counts as rigid: no shaft follows it.
RIGID_HZ = 300.0
#: Friction turns about within this share of the running speed.
TURNS_WITHIN = 1e-3
#: So often a jerk works out its accelerations at most.
MAX_WORK = 60_000
#: A belt that slips in a jerk creeps at this share of the running speed for each hundredth over what it passes.
CREEP_SHARE = 1.0


@dataclass(frozen=True, slots=True)
class Joint:
    """A springy stage: stiffness, free turn and damping at its driver shaft [N·m/rad, rad, N·m·s/rad]; what it passes
    before it slips [N·m], and whether it drives one way only.
    """

    stage: Stage
    number: int
    spring_nm_rad: float
    slack_rad: float
    damping: float
    slips_nm: float = inf
    one_way: bool = False

    def pressed_rad(self, twist: float) -> float:
        """What of a twist is in the spring: its play comes first, and a one-way clutch is never pressed back."""
        if twist > self.slack_rad:
            return twist - self.slack_rad
        return 0.0 if self.one_way else min(twist, 0.0)

    def torque_nm(self, twist: float, speed: float) -> float:
        """Torque at its driver shaft for a twist [rad] and its speed [rad/s]."""
        pressed = self.pressed_rad(twist)
        if pressed == 0 and self.slack_rad > 0:
            return 0.0
        torque = self.spring_nm_rad * pressed + self.damping * speed
        if self.slack_rad > 0:
            # teeth and chains press, they never pull
            torque = max(torque, 0.0) if pressed > 0 else min(torque, 0.0)
        return max(torque, 0.0) if self.one_way else torque

    def stored_j(self, twist: float) -> float:
        """Energy in its spring [J]."""
        return 0.5 * self.spring_nm_rad * self.pressed_rad(twist) ** 2


@dataclass(frozen=True, slots=True)
class Chain:
    """Rigid bodies from the motor on, and the joints between them."""

    bodies: tuple[Group, ...]
    joints: tuple[Joint, ...]

    def inertia_kgm2(self, body: int) -> float:
        """Inertia of a body at its first shaft [kg·m²]."""
        return 2 * self.bodies[body].kinetic_j(1.0)

    def frequencies_hz(self) -> tuple[float, ...]:
        """Natural frequencies of the drive free at both ends, no play [Hz], from the lowest."""
        from scipy.linalg import eigh

        count = len(self.bodies)
        stiffness = np.zeros((count, count))
        for at, joint in enumerate(self.joints):
            twist = np.zeros(count)
            twist[at], twist[at + 1] = 1 / self.bodies[at].ratio, -joint.stage.ratio
            stiffness += joint.spring_nm_rad * np.outer(twist, twist)
        inertias = np.diag([self.inertia_kgm2(body) for body in range(count)])
        squares = eigh(stiffness, inertias, eigvals_only=True)
        # the first is the whole drive turning
        return tuple(sqrt(max(float(one), 0.0)) / (2 * pi) for one in squares[1:])


def chain_of(train: DriveTrain) -> Chain:
    """A drive cut at what is known to be springy and slow enough to matter."""
    whole = train.whole
    springy = {k: spring for k in range(len(whole.stages)) if (spring := _spring(train, k)) is not None}
    cuts = [k for k in springy if _local_hz(whole, k, springy[k]) < RIGID_HZ]
    bodies, joints, first = [], [], 0
    for k in cuts:
        bodies.append(Group(whole.inertias_kgm2[first : k + 1], whole.stages[first:k]))
        first = k + 1
    bodies.append(Group(whole.inertias_kgm2[first:], whole.stages[first:]))
    for at, k in enumerate(cuts):
        beside = _beside(bodies[at], bodies[at + 1], whole.stages[k])
        contact = next((one for one in train.contacts if one.stage == k), None)
        joints.append(_joint(train, k, springy[k], 2 * DAMPING * sqrt(springy[k] * beside), contact))
    return Chain(tuple(bodies), tuple(joints))


def _joint(train: DriveTrain, k: int, spring: float, damping: float, contact: Contact | None) -> Joint:
    slack = train.springs.slacks_rad[k] if k < len(train.springs.slacks_rad) else None
    slips = contact.torque_nm if contact is not None and contact.kind == "slips" else inf
    clutched = contact is not None and bool(contact.clutch)
    return Joint(train.whole.stages[k], k, spring, slack or 0.0, damping, slips, clutched)


def _spring(train: DriveTrain, k: int) -> float | None:
    """Of a stage and the shaft that drives it [N·m/rad at that shaft]; None where both count as rigid."""
    parts = [kept[k] for kept in (train.springs.stages, train.springs.shafts) if k < len(kept)]
    return in_series(one for one in parts if one is not None)


def _local_hz(whole: Group, k: int, spring: float) -> float:
    """What a spring swings at with the shafts right beside it alone [Hz]."""
    first, second = whole.inertias_kgm2[k], whole.inertias_kgm2[k + 1] / whole.stages[k].ratio ** 2
    if min(first, second) <= 0:
        return inf
    return sqrt(spring * (1 / first + 1 / second)) / (2 * pi)


def _beside(before: Group, after: Group, stage: Stage) -> float:
    """Inertia that a joint swings with, at its driver shaft [kg·m²]."""
    first = 2 * before.kinetic_j(1.0) * before.ratio**2
    second = 2 * after.kinetic_j(1.0) / stage.ratio**2
    return first * second / (first + second)


class Swinging:
    """The motion of a chain: state θ and ω of each body, slip of each joint [rad], then five energies [J]."""

    def __init__(self, train: DriveTrain, chain: Chain, torques: Any) -> None:
        self.train, self.chain = train, chain
        self.count = len(chain.bodies)
        self.ends = torques
        running = [rpm * pi / 30 for rpm in train.running_rpm]
        self.turns_within = [TURNS_WITHIN * running[joint.number + 1] for joint in chain.joints]
        heads = [0, *(joint.number + 1 for joint in chain.joints)]
        self.body_within = [TURNS_WITHIN * running[head] for head in heads]
        self.worked = 0
        self.last_within = TURNS_WITHIN * running[-1]
        self.creep = [CREEP_SHARE * running[joint.number] for joint in chain.joints]

    @property
    def size(self) -> int:
        """Length of the state."""
        return 2 * self.count + len(self.chain.joints) + 5

    def joint_torques(self, state: Any) -> list[float]:
        """Torque at the driver shaft of each joint [N·m]."""
        return [self._torque(at, state) for at in range(len(self.chain.joints))]

    def twist(self, at: int, state: Any) -> float:
        """Twist of a joint at its driver shaft, its slip left out [rad]."""
        joint, driver = self.chain.joints[at], self.chain.bodies[at].ratio
        return float(state[at] / driver - joint.stage.ratio * state[at + 1] - state[2 * self.count + at])

    def _torque(self, at: int, state: Any) -> float:
        joint, driver = self.chain.joints[at], self.chain.bodies[at].ratio
        speeds = state[self.count :]
        speed = float(speeds[at] / driver - joint.stage.ratio * speeds[at + 1])
        torque = joint.torque_nm(self.twist(at, state), speed)
        return min(max(torque, -1.1 * joint.slips_nm), 1.1 * joint.slips_nm)

    def slip_speed(self, at: int, torque: float) -> float:
        """How fast a belt slips under a torque [rad/s at its driver]."""
        over = max(abs(torque) / self.chain.joints[at].slips_nm - 1, 0.0)
        return 100 * over * self.creep[at] * (1 if torque > 0 else -1)

    def kept(self, at: int, torque: float, speed: float) -> float:
        """What a stage passes of a torque on: its efficiency, or over that of the way back where the load drives.

        At rest nothing is lost, so that it never makes energy as it turns about.
        """
        stage = self.chain.joints[at].stage
        way = tanh(speed / self.turns_within[at]) * (1 if torque > 0 else -1)
        return 1 - way * (1 - stage.efficiency) if way > 0 else 1 - way * (1 / stage.back_efficiency - 1)

    def acceleration(self, at: int, first: float, last: float, speed: float) -> float:
        """Of a body [rad/s²]; it loses what it does whichever way it turns, and nothing at rest."""
        body = self.chain.bodies[at]
        plain = (first - last / body.ratio) / self.chain.inertia_kgm2(at)
        if not body.stages:
            return plain
        way = tanh(speed / self.body_within[at])
        if way >= 0:
            return plain + way * (body.motion(first, last, speed).acceleration - plain)
        return plain + way * (body.motion(-first, -last, -speed).acceleration + plain)

    def slips(self, state: Any) -> bool:
        """Whether any joint slips."""
        pairs = zip(self.joint_torques(state), self.chain.joints, strict=True)
        return any(abs(torque) > joint.slips_nm for torque, joint in pairs)

    def stored_j(self, state: Any) -> float:
        """Energy of everything that turns, and in the springs [J]."""
        speeds = state[self.count : 2 * self.count]
        turning = sum(body.kinetic_j(float(speed)) for body, speed in zip(self.chain.bodies, speeds, strict=True))
        return turning + sum(joint.stored_j(self.twist(at, state)) for at, joint in enumerate(self.chain.joints))

    def last_rad_s(self, state: Any) -> float:
        """Speed of the last shaft [rad/s]."""
        return float(state[2 * self.count - 1]) / self.chain.bodies[-1].ratio

    def stage_torques(self, at_s: float, state: Any) -> list[float]:
        """Torque at the driver shaft of every stage [N·m], those inside a rigid body too."""
        firsts, lasts = self._body_ends(at_s, state)
        found: list[float] = []
        for body, first, last, speed in zip(self.chain.bodies, firsts, lasts, state[self.count :], strict=False):
            found += [*body.motion(first, last, float(speed)).into_nm, last]
        return found[:-1]

    def _body_ends(self, at_s: float, state: Any) -> tuple[list[float], list[float]]:
        """Torque on the first and from the last shaft of each body [N·m]."""
        speeds, last = state[self.count : 2 * self.count], self.last_rad_s(state)
        torques = self.joint_torques(state)
        motor, load = self.ends(at_s, float(speeds[0]), last)
        passed = [
            torque * joint.stage.ratio * self.kept(at, torque, float(speeds[at + 1]))
            for at, (joint, torque) in enumerate(zip(self.chain.joints, torques, strict=True))
        ]
        return [motor, *passed], [*torques, load * tanh(last / self.last_within)]

    def rates(self, at_s: float, state: Any) -> list[float]:
        """How everything changes now. Raises TooMuchWork."""
        self.worked += 1
        if self.worked > MAX_WORK:
            raise TooMuchWork
        speeds = [float(one) for one in state[self.count : 2 * self.count]]
        firsts, lasts = self._body_ends(at_s, state)
        moved = [self.acceleration(at, firsts[at], lasts[at], speed) for at, speed in enumerate(speeds)]
        torques = lasts[:-1]
        slips = [self.slip_speed(at, torque) for at, torque in enumerate(torques)]
        lost = self._lost_w(speeds, (firsts, lasts), moved)
        rubbed, slipped = self._in_joints_w(state, torques, slips)
        taken = lasts[-1] * self.last_rad_s(state)
        return [*speeds, *moved, *slips, firsts[0] * speeds[0], taken, lost, rubbed, slipped]

    def _lost_w(self, speeds: Sequence[float], ends: tuple[list[float], list[float]], moved: list[float]) -> float:
        """Power that stages turn to heat: what goes into them less what comes out [W]."""
        firsts, lasts = ends
        lost = 0.0
        for body, first, last, speed, rate in zip(self.chain.bodies, firsts, lasts, speeds, moved, strict=True):
            lost += first * speed - last * speed / body.ratio - 2 * body.kinetic_j(1.0) * speed * rate
        for at, joint in enumerate(self.chain.joints):
            lost += (lasts[at] * joint.stage.ratio - firsts[at + 1]) * speeds[at + 1]
        return lost

    def _in_joints_w(self, state: Any, torques: list[float], slips: list[float]) -> tuple[float, float]:
        """Power lost in springs, and to slip [W]."""
        speeds, rubbed, slipped = state[self.count :], 0.0, 0.0
        for at, (joint, torque) in enumerate(zip(self.chain.joints, torques, strict=True)):
            across = float(speeds[at] / self.chain.bodies[at].ratio - joint.stage.ratio * speeds[at + 1]) - slips[at]
            pressed = joint.pressed_rad(self.twist(at, state))
            rubbed += (torque - joint.spring_nm_rad * pressed) * across
            slipped += torque * slips[at]
        return rubbed, slipped
