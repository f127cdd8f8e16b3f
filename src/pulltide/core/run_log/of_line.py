"""A solved line as it is watched: what its motor, stages and bearings let instruments see."""

from __future__ import annotations

from dataclasses import replace

from pulltide.core.errors import InputError
from pulltide.core.line_checks import wheels_kgm2
from pulltide.core.line_result import LineResult
from pulltide.core.links import family_of
from pulltide.core.machine import Machine, Plan
from pulltide.core.run_log.meters import CurveMeters, meters_of
from pulltide.core.run_log.running import BEARING_NM, BEARING_RPM, Running, StageModel
from pulltide.core.shafts import ShaftPart
from pulltide.core.sources import Drive, drive_of
from pulltide.core.sources.induction import InductionMotor
from pulltide.core.transmission import AnyResult
from pulltide.core.units import RPM_PER_RAD_PER_S, power_kw, torque_nm

#: Share of the power at which the loss of a stage is looked at a second time: what stays between them is its idle loss.
LESS = 0.8
#: No stage is taken to lose less.
MAX_EFFICIENCY = 0.999


def running_of(machine: Machine, plan: Plan, line: LineResult | None) -> Running:
    """The drive to predict readings with. Raises InputError naming what has to be known first."""
    drive = drive_of(plan.source)
    if line is None or drive is None or plan.source is None:
        raise InputError("Source", "", "has no torque over speed yet", accepted="a plate that tells it, under Source")
    if not line.links:
        raise InputError("Plan", plan.name, "has no stage yet", accepted="one or more, under Train")
    running_nm = line.need_torques_nm[0]
    if running_nm is None:
        raise InputError("Running torque", "", "is needed to say what to expect", accepted="a torque under Need")
    source = plan.source
    meters = meters_of(source, drive)
    volts = getattr(source, "volts", None) if not isinstance(meters, CurveMeters) else None
    measured = source.supply_volts if isinstance(source, InductionMotor) else None
    shafts = range(1, len(line.shafts) + 1)
    parts = {part.shaft: part for part in plan.shafts}
    frictions = [_Friction(line, shaft, parts.get(shaft)) for shaft in shafts]
    return Running(
        meters=meters,
        rated_w=1000 * drive.power_kw,
        stages=tuple(
            replace(stage, idle_w=stage.idle_w + friction.loss_w)
            for stage, friction in zip(map(stage_of, line.links), frictions, strict=False)
        ),
        bearing_nm=tuple(friction.bearing_nm for friction in frictions),
        taken_nm=tuple(friction.taken_nm for friction in frictions),
        load_nm=running_nm,
        load_exponent=machine.need.load_exponent,
        ideal_rad_s=line.last_shaft.speed_rpm / RPM_PER_RAD_PER_S,
        breakaway_nm=machine.need.breakaway_torque_nm,
        inertia_kgm2=_inertia_kgm2(machine, line, drive),
        base_volts=measured / volts if measured and volts else 1.0,
        rated_volts=volts,
        is_motor=drive.is_electric,
    )


class _Friction:
    """What holds a shaft back beside its stages: its bearings with friction that was measured, take-offs; and the
    measured loss of the stage it drives [W].
    """

    def __init__(self, line: LineResult, shaft: int, part: ShaftPart | None) -> None:
        speed_rpm, own = line.shafts[shaft - 1].speed_rpm, _bearing_nm(line, shaft - 1)
        dragged, lost = (part.drag_nm or 0.0, part.loss_nm or 0.0) if part is not None else (0.0, 0.0)
        # bearings that a motor or a case carries are not watched by themselves
        self.bearing_nm = own + dragged if own > 0 else 0.0
        drawn = part.taken_nm(speed_rpm) if part is not None else 0.0
        self.taken_nm = drawn - lost - (dragged if own > 0 else 0.0)
        self.loss_w = 1000 * power_kw(lost, speed_rpm)


def is_three_phase(plan: Plan) -> bool:
    """Whether it runs on three phases."""
    return isinstance(plan.source, InductionMotor) and plan.source.phases == 3


def stage_of(result: AnyResult) -> StageModel:
    """One stage: its loss at the load it has and at a little less, as a part that stays and one that follows.

    Torques are compared, not powers, so that what a belt loses by creeping is counted once.
    """
    transmission, flow = result.transmission, result.flow
    speed, out_kw = flow.driver_speed_rpm, flow.power_out_kw
    at = [_torques(result, share * out_kw) for share in (1.0, LESS)]
    (into, out), (into_less, out_less) = at
    slope = (into - into_less) / max(out - out_less, 1e-12)
    stays = max(into - slope * out, 0.0)
    efficiency = 1 / (slope * transmission.ratio) if slope > 0 else MAX_EFFICIENCY
    return StageModel(
        ratio=transmission.ratio,
        efficiency=min(max(efficiency, 0.05), MAX_EFFICIENCY),
        idle_w=1000 * power_kw(stays, speed),
        observed=transmission.observed(result),
    )


def _torques(result: AnyResult, power_out_kw: float) -> tuple[float, float]:
    """Torque into a stage and out of it at a power out [N·m]."""
    speed = result.flow.driver_speed_rpm
    passed = result.transmission.transmit(speed, power_out_kw)
    return torque_nm(passed.power_in_kw, speed), torque_nm(power_out_kw, passed.driven_speed_rpm)


def _bearing_nm(line: LineResult, shaft: int) -> float:
    """Drag of the bearings of a shaft of its own; none where a motor or a case carries it."""
    carried = shaft == 0 or any(
        family_of(line.links[k].kind).housing for k in (shaft - 1, shaft) if 0 <= k < len(line.links)
    )
    fast = BEARING_RPM / max(line.shafts[shaft].speed_rpm, BEARING_RPM)
    return 0.0 if carried else BEARING_NM * fast**0.5


def _inertia_kgm2(machine: Machine, line: LineResult, drive: Drive) -> float | None:
    """Everything that turns, at the motor; None while that of the motor is not known."""
    if drive.rotor_inertia_kgm2 is None:
        return None
    machine_kgm2 = (machine.need.inertia_kgm2 or 0.0) / line.ratio**2
    return drive.rotor_inertia_kgm2 + wheels_kgm2(line) + machine_kgm2
