"""A solved line as it is run in time: its groups of shafts, what its motor gives and what its load takes."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import exp, sin

from pulltide.core.duty import Segment
from pulltide.core.errors import InputError
from pulltide.core.line_result import LineResult
from pulltide.core.links import family_of
from pulltide.core.machine import Machine, Plan
from pulltide.core.needs import hangs_in, move_of, pulse_of
from pulltide.core.needs.frame import Hanging, Move, Pulse
from pulltide.core.run_log.meters import InductionMeters, meters_of
from pulltide.core.run_up.control import VFD_LIMIT, Motor
from pulltide.core.run_up.train import Group, Stage
from pulltide.core.sources import Drive, drive_of
from pulltide.core.sources.curves import GovernedCurve, InductionCurve, LineCurve, PacedCurve
from pulltide.core.sources.permanent_magnet import Constants
from pulltide.core.units import RPM_PER_RAD_PER_S, torque_nm

#: Breakaway fades within this share of the running speed. Source: Stribeck's form; number common practice.
STRIBECK_SHARE = 0.05
#: What is left of the torque that a belt or clutch passes once it slips. Common practice, no source.
KINETIC_SHARE = 0.8
#: A stage loses at least so little.
MOST_EFFICIENCY = 0.999


@dataclass(frozen=True, slots=True, kw_only=True)
class DriveTrain:
    """What is integrated. ``slip_stage`` is the stage, from 0, that slips at ``slip_nm`` at its driver shaft; None
    where nothing is known to slip; ``slip_name`` is what it is. ``brakes_nm`` set with the power off, shaft by shaft.
    ``cycle`` is the duty cycle of the load, ``pulse`` the part of it that comes in blows, ``hangs`` what stays raised
    with the power off, beside friction at the last shaft. ``move`` is one to follow, ``rated_nm`` torque for all day.
    """

    whole: Group
    slip_stage: int | None
    slip_nm: float
    slip_name: str
    motor: Motor
    load_nm: Callable[[float], float]
    running_rpm: tuple[float, ...]
    names: tuple[str, ...]
    may_run_back: bool
    brakes_nm: tuple[float, ...] = ()
    cycle: tuple[Segment, ...] = ()
    pulse: Pulse | None = None
    hangs: Hanging | None = None
    hangs_friction_nm: float = 0.0
    move: Move | None = None
    rated_nm: float = 0.0

    @property
    def before(self) -> Group:
        """Shafts from the motor to the driver of the stage that slips."""
        assert self.slip_stage is not None
        return Group(self.whole.inertias_kgm2[: self.slip_stage + 1], self.whole.stages[: self.slip_stage])

    @property
    def after(self) -> Group:
        """Shafts from the driven one of the stage that slips to the last."""
        assert self.slip_stage is not None
        return Group(self.whole.inertias_kgm2[self.slip_stage + 1 :], self.whole.stages[self.slip_stage + 1 :])


def drive_train(machine: Machine, plan: Plan, line: LineResult) -> DriveTrain:
    """The train of a solved line, belts creeping as under the running load.

    Raises InputError naming what has to be known first.
    """
    drive = drive_of(plan.source)
    curve = None if drive is None else drive.curve
    if drive is None or curve is None:
        raise InputError("Source", "", "has no torque over speed yet", accepted="a plate that tells it, under Source")
    if line.last_shaft.running_torque_nm is None:
        raise InputError("Running torque", "", "is needed before it can be run", accepted="a torque under Need")
    made = [family_of(link.kind).prepare(link, step) for link, step in zip(plan.links, line.setting, strict=True)]
    inertias = [0.0] * (len(made) + 1)
    inertias[0] += drive.rotor_inertia_kgm2 or 0.0
    for number, one in enumerate(made):
        inertias[number] += one.inertia_kgm2("driver") or 0.0
        inertias[number + 1] += one.inertia_kgm2("driven") or 0.0
    inertias[-1] += machine.need.inertia_kgm2 or 0.0
    if inertias[0] <= 0:
        raise InputError("Inertia of the motor", "", "is not known", accepted="its inertia under Source")
    stages = tuple(
        Stage(fast.speed_rpm / slow.speed_rpm, min(result.efficiency, MOST_EFFICIENCY))
        for result, fast, slow in zip(line.links, line.shafts, line.shafts[1:], strict=False)
    )
    slips, hanging = _first_slip(line), hangs_in(machine.need.worksheet)
    return DriveTrain(
        whole=Group(tuple(inertias), stages),
        slip_stage=None if slips is None else slips[0],
        slip_nm=0.0 if slips is None else slips[1],
        slip_name="" if slips is None else slips[2],
        motor=motor_of(plan, drive),
        load_nm=_load(machine, line),
        running_rpm=tuple(shaft.speed_rpm for shaft in line.shafts),
        names=tuple(shaft.name for shaft in line.shafts),
        may_run_back=bool(machine.need.holding_torque_nm),
        brakes_nm=_brakes(plan, len(inertias)),
        cycle=machine.duty.cycle,
        pulse=pulse_of(machine.need.worksheet),
        hangs=hanging,
        move=move_of(machine.need.worksheet),
        rated_nm=torque_nm(drive.power_kw, drive.speed_rpm),
        hangs_friction_nm=_beside(line.last_shaft.running_torque_nm, hanging),
    )


def _direct_current(torque: Callable[[float], float], curve: LineCurve, details: object) -> Motor:
    """Less volts move the line down by V / k; the current follows from the torque: I = T / k + I_0."""
    no_load = curve.top_rpm / RPM_PER_RAD_PER_S
    if not isinstance(details, Constants):
        return Motor(torque_nm=torque, volts="line", no_load_rad_s=no_load)
    idle, k = details.no_load_a, details.k

    def amps(torque_nm: float) -> float:
        return torque_nm / k + idle if torque_nm > 0 else 0.0

    ideal = no_load * details.stall_a / max(details.stall_a - idle, 1e-9)
    return Motor(torque_nm=torque, volts="line", no_load_rad_s=ideal, amps_of=amps)


def _beside(running_nm: float, hanging: Hanging | None) -> float:
    """What of the running torque is friction, beside what hangs [N·m]."""
    return 0.0 if hanging is None else max(running_nm - hanging.weight_nm * sin(hanging.angle_rad), 0.0)


def _brakes(plan: Plan, shafts: int) -> tuple[float, ...]:
    """Torque of the brake on each shaft [N·m]."""
    known = {part.shaft: part.brake_nm or 0.0 for part in plan.shafts}
    return tuple(known.get(number, 0.0) for number in range(1, shafts + 1))


def motor_of(plan: Plan, drive: Drive) -> Motor:
    """The motor of a plan as it is switched on. Its curve must be known."""
    curve = drive.curve
    assert curve is not None

    def torque(speed: float) -> float:
        rpm = max(speed, 0.0) * RPM_PER_RAD_PER_S
        if isinstance(curve, InductionCurve) and rpm > curve.top_rpm:
            # driven beyond its field it brakes, by the same curve. Source: Kloss with slip below 0
            return -curve.torque_nm(max(2 * curve.top_rpm - rpm, 0.0))
        return curve.torque_nm(rpm)

    if isinstance(curve, LineCurve):
        return _direct_current(torque, curve, drive.details)
    if isinstance(curve, GovernedCurve | PacedCurve):
        return Motor(torque_nm=torque, volts="none")
    if not isinstance(curve, InductionCurve) or plan.source is None:
        return Motor(torque_nm=torque)
    limit = min(VFD_LIMIT * curve.rated_nm, 0.98 * curve.breakdown_ratio * curve.rated_nm * curve.scale)
    at_limit = curve.speed_rpm(limit) or 0.0
    meters = meters_of(plan.source, drive)
    known = isinstance(meters, InductionMeters) and meters.amps_a is not None
    return Motor(
        torque_nm=torque,
        field_rad_s=curve.synchronous_rpm / RPM_PER_RAD_PER_S,
        limited_slip_rad_s=(curve.synchronous_rpm - at_limit) / RPM_PER_RAD_PER_S,
        limit_nm=limit,
        amps_at=meters.amps_at if isinstance(meters, InductionMeters) and known else None,
        rated_a=meters.amps_a if isinstance(meters, InductionMeters) else None,
    )


def _first_slip(line: LineResult) -> tuple[int, float, str] | None:
    """The stage that slips first as the load rises, with the torque at its driver shaft."""
    found = []
    for number, result in enumerate(line.links):
        running = result.flow.driver_torque_nm
        for point in family_of(result.kind).failure_points(result):
            if point.mode == "slips" and point.torque_nm and running > 0:
                part = f"{family_of(result.kind).title} of stage {number + 1}"
                found.append((point.torque_nm / running, number, point.torque_nm, part))
    return min(found)[1:] if found else None


def _load(machine: Machine, line: LineResult) -> Callable[[float], float]:
    """Torque of the load at the last shaft [N·m] over its speed [rad/s]; it holds against turning either way."""
    need, running_nm = machine.need, line.last_shaft.running_torque_nm or 0.0
    ideal = (need.speed_ideal_rpm or line.last_shaft.speed_rpm) / RPM_PER_RAD_PER_S
    breakaway = need.breakaway_torque_nm or 0.0

    def load(speed: float) -> float:
        share = max(abs(speed) / ideal, 1e-6)
        # a load at constant power is taken up at speed: below it, it holds its running torque
        steady = float(running_nm * share ** max(need.load_exponent, 0.0))
        extra = max(breakaway - steady, 0.0) * exp(-((share / STRIBECK_SHARE) ** 2))
        return steady + extra

    return load
