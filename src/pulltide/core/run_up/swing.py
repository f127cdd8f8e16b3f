"""With the power off, a batch that was carried up drives the drum back, to and fro until it hangs still."""

from __future__ import annotations

from dataclasses import dataclass
from math import degrees, pi, prod, sin, sqrt
from typing import Any

from pulltide.core.run_up.drive_train import DriveTrain
from pulltide.core.run_up.run import Event, Run
from pulltide.core.units import RPM_PER_RAD_PER_S

#: What the batch loses within itself, as a share of critical damping. Common practice, low confidence: 0.05 to 0.4.
DAMPING = 0.15
#: Half swings that are followed at most, the longest of one [s], and the least steps in each.
MAX_SWINGS, MAX_HALF_S, STEPS = 60, 60.0, 40
#: It hangs still with less than this left [rad].
STILL_RAD = 0.01


@dataclass(frozen=True, slots=True)
class HalfSwing:
    """Times [s] from its start, angles from the lowest place [rad] and speeds [rad/s] of the last shaft."""

    times_s: tuple[float, ...]
    angles_rad: tuple[float, ...]
    speeds_rad_s: tuple[float, ...]


def holds(train: DriveTrain, weight_nm: float, friction_nm: float) -> bool:
    """Whether friction, a brake or a stage that cannot be driven back holds a torque at the last shaft [N·m]."""
    if any(2 - 1 / stage.efficiency <= 0 for stage in train.whole.stages):
        return True
    ratios = [stage.ratio for stage in train.whole.stages]
    brakes = sum(brake * prod(ratios[k:]) for k, brake in enumerate(train.brakes_nm))
    return weight_nm <= friction_nm + brakes


def half_swing(train: DriveTrain, at_rad: float, friction_nm: float, damping: float = DAMPING) -> HalfSwing:
    """From rest at an angle down and up the other side, to rest; the whole drive turns along."""
    from scipy.integrate import solve_ivp

    assert train.hangs is not None
    whole, weight = train.whole, train.hangs.weight_nm
    inertia = sum(
        one * prod(stage.ratio for stage in whole.stages[k:]) ** 2 for k, one in enumerate(whole.inertias_kgm2)
    )
    rub = 2 * damping * sqrt(inertia * weight)

    def rates(_: float, state: Any) -> list[float]:
        angle, speed = state
        # along the way down: the weight drives, friction holds back
        held = friction_nm + rub * max(speed, 0.0) - weight * sin(angle)
        motion = whole.motion(0.0, held, max(speed, 0.0) * whole.ratio)
        return [-speed, motion.acceleration / whole.ratio]

    def rests(_: float, state: Any) -> float:
        return float(state[1])

    rests.terminal, rests.direction = True, -1.0  # type: ignore[attr-defined]
    step = pi * sqrt(inertia / weight) / STEPS
    found = solve_ivp(rates, (0.0, MAX_HALF_S), [at_rad, 0.0], events=rests, rtol=1e-7, atol=1e-9, max_step=step)
    return HalfSwing(*(tuple(float(one) for one in row) for row in (found.t, *found.y)))


def swing_back(train: DriveTrain, run: Run) -> None:
    """Add to a run what happens once everything stands; nothing where nothing hangs, or it is held."""
    rest = run.when("at_rest")
    if train.hangs is None or rest is None or run.when("other_way") is not None:
        return
    angle, friction = train.hangs.angle_rad, train.hangs_friction_nm
    if holds(train, train.hangs.weight_nm * sin(angle), friction):
        return
    began, at, way, far = run.time_s[-1], run.time_s[-1], -1.0, 0.0
    for _ in range(MAX_SWINGS):
        swung = half_swing(train, angle, friction)
        if swung.speeds_rad_s[-1] > STILL_RAD:
            return
        far = far or angle - swung.angles_rad[-1]
        _keep(train, run, swung, (at, way))
        at, way, angle = at + swung.times_s[-1], -way, -swung.angles_rad[-1]
        if angle < STILL_RAD or holds(train, train.hangs.weight_nm * sin(angle), friction):
            break
    run.events.append(Event(began, "swings_back", degrees(far)))
    run.events.append(Event(at, "hangs_still", at - began))


def _keep(train: DriveTrain, run: Run, swung: HalfSwing, when: tuple[float, float]) -> None:
    assert train.hangs is not None
    began, way = when
    for after, angle, speed in zip(swung.times_s, swung.angles_rad, swung.speeds_rad_s, strict=True):
        if run.time_s and began + after <= run.time_s[-1]:
            continue
        run.time_s.append(began + after)
        run.last_rpm.append(way * speed * RPM_PER_RAD_PER_S)
        run.first_rpm.append(way * speed * RPM_PER_RAD_PER_S * train.whole.ratio)
        run.motor_nm.append(0.0)
        run.load_nm.append(-way * train.hangs.weight_nm * sin(angle))
        run.slipping.append(False)
        if run.amps_a:
            run.amps_a.append(0.0)
