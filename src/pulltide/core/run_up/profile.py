"""A move that a controller makes the last shaft follow: the torque of the motor for it, beside what the motor has."""

from __future__ import annotations

from math import sqrt

from pulltide.core.needs.contract import Move
from pulltide.core.run_up.drive_train import DriveTrain
from pulltide.core.run_up.run import Event, Followed, Run
from pulltide.core.units import RPM_PER_RAD_PER_S

#: Steps over each part of a move.
STEPS = 60
#: A speed that is as good as the top of the curve, as a share: nothing is left to ask for there.
MIN_LEFT = 1e-6


def follow(train: DriveTrain, move: Move) -> Run:
    """The move and the rest after it, from the motor's side: T = torque of load, friction and all inertias."""
    run, whole = Run(), train.whole
    peak, rising = move.angle_rad / (move.seconds - move.rising_s), move.rising_s
    # each part with the acceleration of the last shaft [rad/s²]
    parts = [(rising, peak / rising), (move.seconds - 2 * rising, 0.0), (rising, -peak / rising), (move.dwell_s, 0.0)]
    at = speed = angle = squares = 0.0
    worst = 0.0
    for seconds, acceleration in parts:
        if seconds <= 0:
            continue
        step = seconds / STEPS
        for k in range(STEPS + 1):
            now = max(speed + acceleration * k * step, 0.0)
            place = angle + speed * k * step + acceleration * (k * step) ** 2 / 2
            moves = now > 0 or acceleration > 0
            load = move.gravity_nm(place) + (move.friction_nm if moves else 0.0)
            torque = whole.needed_nm(load, acceleration * whole.ratio)
            first = now * whole.ratio
            squares += torque**2 * step * (0.5 if k in (0, STEPS) else 1.0)
            worst = max(worst, abs(torque) / max(available_nm(train, first), MIN_LEFT))
            _keep(run, train, (at + k * step, first, now), (torque, load))
        at, angle = at + seconds, angle + speed * seconds + acceleration * seconds**2 / 2
        speed = max(speed + acceleration * seconds, 0.0)
    rms = sqrt(squares / max(at, 1e-9))
    run.followed = Followed(worst, rms, rms / train.rated_nm if train.rated_nm > 0 else None)
    run.events.append(Event(0.0, "moves", at))
    if worst > 1:
        run.events.append(Event(0.0, "falls_behind", worst))
    return run


def available_nm(train: DriveTrain, speed: float) -> float:
    """Torque that the motor has at a speed [N·m, rad/s]; of one on a VFD what that lets it have, up to its field."""
    motor = train.motor
    if motor.field_rad_s is not None:
        return motor.limit_nm if speed <= motor.field_rad_s else 0.0
    return motor.torque_nm(speed)


def _keep(run: Run, train: DriveTrain, when: tuple[float, float, float], torques: tuple[float, float]) -> None:
    at, first, last = when
    if run.time_s and at <= run.time_s[-1]:
        at = run.time_s[-1] + 1e-9
    run.time_s.append(at)
    run.first_rpm.append(first * RPM_PER_RAD_PER_S)
    run.last_rpm.append(last * RPM_PER_RAD_PER_S)
    run.motor_nm.append(torques[0])
    run.load_nm.append(torques[1])
    run.slipping.append(False)
    if train.motor.amps_of is not None:
        run.amps_a.append(train.motor.amps_of(abs(torques[0])))
