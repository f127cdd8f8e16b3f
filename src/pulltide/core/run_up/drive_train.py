"""A solved line as it is run in time: its groups of shafts, what its motor gives and what its load takes."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from math import exp, prod, sin

from pulltide.core.duty import Segment
from pulltide.core.elasticity import in_series, jam_peak_nm
from pulltide.core.errors import InputError
from pulltide.core.labels import phrase
from pulltide.core.line_result import LineResult
from pulltide.core.links import family_of
from pulltide.core.machine import Machine, Plan
from pulltide.core.needs import hangs_in, move_of, pulse_of
from pulltide.core.needs.contract import Hanging, Move, Pulse
from pulltide.core.run_log.meters import InductionMeters, meters_of
from pulltide.core.run_up.contacts import Contact, ContactKind
from pulltide.core.run_up.control import VFD_LIMIT, Motor
from pulltide.core.run_up.springs import RIGID, Springs, springs_of
from pulltide.core.run_up.train import Group, Stage
from pulltide.core.shafts import ShaftPart
from pulltide.core.sources import Drive, InductionMotor, drive_of
from pulltide.core.sources.curves import GovernedCurve, InductionCurve, LineCurve, PacedCurve
from pulltide.core.sources.permanent_magnet import Constants
from pulltide.core.units import RPM_PER_RAD_PER_S, torque_nm

#: Breakaway fades within this share of the running speed. Source: Stribeck's form; number common practice.
STRIBECK_SHARE = 0.05
#: A stage loses at least so little.
MAX_EFFICIENCY = 0.999


@dataclass(frozen=True, slots=True, kw_only=True)
class DriveTrain:
    """What is integrated. ``contacts`` are where it may part, from the motor on; of those that slip, the one that does
    first. ``brakes_nm`` set with the power off, shaft by shaft. ``springs`` is how springy it is known to be, ``drawn``
    the shafts that take-offs or measured friction draw from.
    ``cycle`` is the duty cycle of the load, ``pulse`` the part of it that comes in blows, ``hangs`` what stays raised
    with the power off, beside friction at the last shaft. ``move`` is one to follow, ``rated_nm`` torque for all day.
    ``by_hand`` where a person turns it.
    """

    whole: Group
    motor: Motor
    load_nm: Callable[[float], float]
    running_rpm: tuple[float, ...]
    names: tuple[str, ...]
    may_run_back: bool
    brakes_nm: tuple[float, ...] = ()
    drawn: tuple[ShaftPart, ...] = ()
    cycle: tuple[Segment, ...] = ()
    pulse: Pulse | None = None
    hangs: Hanging | None = None
    hangs_friction_nm: float = 0.0
    move: Move | None = None
    rated_nm: float = 0.0
    by_hand: bool = False

    contacts: tuple[Contact, ...] = ()
    springs: Springs = RIGID

    def one(self, kind: ContactKind) -> Contact | None:
        """The first contact of a kind; None without."""
        return next((contact for contact in self.contacts if contact.kind == kind), None)

    def ratio(self, first: int, last: int) -> float:
        """Speed of one shaft over that of a later one."""
        return prod(stage.ratio for stage in self.whole.stages[first:last])

    def shock_nm(self, jam: tuple[float, float, float], behind: int, stage: int) -> float | None:
        """Torque at the driver shaft of a stage when the last shaft is held fast in an instant [N·m].

        ``jam`` is speed of the last shaft [rad/s], torque in it before and what drives on there [N·m]; ``behind`` the
        first shaft that still hangs on. All is told at the last shaft first. None where nothing is known to be springy.
        """
        speed, before, drive = jam
        end = len(self.whole.stages)
        inertia = sum(self.whole.inertias_kgm2[k] * self.ratio(k, end) ** 2 for k in range(behind, stage + 1))
        parts = [(k, self.springs.stages[k]) for k in range(stage, len(self.springs.stages))]
        parts += [(k, self.springs.shafts[k]) for k in range(stage + 1, len(self.springs.shafts))]
        spring = in_series(one * self.ratio(k, end) ** 2 for k, one in parts if one is not None)
        if spring is None:
            return None
        return jam_peak_nm(speed, inertia, spring, before, drive) / self.ratio(stage, end)


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
    inertias = _inertias_kgm2(machine, plan, line, drive)
    if inertias[0] <= 0:
        raise InputError("Inertia of the motor", "", "is not known", accepted="its inertia under Source")
    stages = tuple(
        Stage(fast.speed_rpm / slow.speed_rpm, min(result.efficiency, MAX_EFFICIENCY))
        for result, fast, slow in zip(line.links, line.shafts, line.shafts[1:], strict=False)
    )
    hanging = hangs_in(machine.need.worksheet)
    return DriveTrain(
        whole=Group(tuple(inertias), stages),
        contacts=contacts_of(plan, line),
        springs=springs_of(plan, line),
        motor=motor_of(plan, drive, line.shafts[0].running_torque_nm or 0.0),
        load_nm=_load(machine, line),
        running_rpm=tuple(shaft.speed_rpm for shaft in line.shafts),
        names=tuple(shaft.name for shaft in line.shafts),
        may_run_back=bool(machine.need.holding_torque_nm),
        drawn=tuple(part for part in plan.shafts if part.is_taken_from and part.shaft <= len(inertias)),
        brakes_nm=_brakes(plan, len(inertias)),
        cycle=machine.duty.cycle,
        pulse=pulse_of(machine.need.worksheet),
        hangs=hanging,
        move=move_of(machine.need.worksheet),
        rated_nm=torque_nm(drive.power_kw, drive.speed_rpm),
        by_hand=drive.prime_mover == "hand",
        hangs_friction_nm=_beside(line.last_shaft.running_torque_nm, hanging),
    )


def _inertias_kgm2(machine: Machine, plan: Plan, line: LineResult, drive: Drive) -> list[float]:
    """Of every shaft with its wheels, the rotor on the first and the machine on the last [kg·m²]."""
    made = [family_of(link.kind).prepare(link, step) for link, step in zip(plan.links, line.setting, strict=True)]
    inertias = [0.0] * (len(made) + 1)
    inertias[0] += drive.rotor_inertia_kgm2 or 0.0
    for number, one in enumerate(made):
        inertias[number] += one.inertia_kgm2("driver") or 0.0
        inertias[number + 1] += one.inertia_kgm2("driven") or 0.0
    inertias[-1] += machine.need.inertia_kgm2 or 0.0
    return inertias


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


#: A person eases off over this share of their pace. Common practice, no source.
EASES_OVER = 0.1


def _by_hand(curve: PacedCurve, running_nm: float) -> Callable[[float], float]:
    """Torque [N·m] over speed [rad/s] of a person at a crank: all they have until they near their pace, which they then
    keep under the running torque.
    """

    def torque(speed: float) -> float:
        short = 1 - max(speed, 0.0) * RPM_PER_RAD_PER_S / curve.pace_rpm
        return min(max(running_nm + curve.max_nm * short / EASES_OVER, 0.0), curve.max_nm)

    return torque


def motor_of(plan: Plan, drive: Drive, running_nm: float = 0.0) -> Motor:
    """The motor of a plan as it is switched on, under a running torque [N·m]. Its curve must be known."""
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
    if isinstance(curve, GovernedCurve):
        return Motor(torque_nm=torque, volts="none")
    if isinstance(curve, PacedCurve):
        return Motor(torque_nm=_by_hand(curve, running_nm), volts="none")
    if not isinstance(curve, InductionCurve) or plan.source is None:
        return Motor(torque_nm=torque)
    inverter = plan.source.inverter if isinstance(plan.source, InductionMotor) else None
    fitted = inverter is not None and inverter.fitted
    overload = inverter.overload if inverter is not None and inverter.fitted else VFD_LIMIT
    limit = min(overload * curve.rated_nm, 0.98 * curve.breakdown_ratio * curve.rated_nm * curve.scale)
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
        on_vfd=fitted,
    )


def contacts_of(plan: Plan, line: LineResult) -> tuple[Contact, ...]:
    """Where the drive may part: what slips first as the load rises, the weakest pins, every one-way clutch."""
    found: dict[int, Contact] = {}
    for _, contact in sorted(_lets_go(line), key=lambda one: one[0]):
        if contact.kind not in [other.kind for other in found.values()]:
            found.setdefault(contact.stage, contact)
    for stage, clutch in _clutches(plan, len(line.links)):
        found[stage] = replace(found.get(stage, Contact(stage, "overruns", name=clutch)), clutch=clutch)
    return tuple(found[stage] for stage in sorted(found))


def _clutches(plan: Plan, stages: int) -> Iterator[tuple[int, str]]:
    """Stage and name of every one-way clutch that sits under a wheel."""
    for part in plan.shafts:
        if part.one_way_stage is not None and 0 <= part.one_way_stage < stages:
            yield part.one_way_stage, f"one-way clutch of shaft {part.shaft}"


def _lets_go(line: LineResult) -> Iterator[tuple[float, Contact]]:
    """What slips or shears, with the torque that it takes over the running one."""
    for number, result in enumerate(line.links):
        running, family = result.flow.driver_torque_nm, family_of(result.kind)
        for point in family.failure_points(result) if running > 0 else ():
            if point.mode == "slips" and point.torque_nm:
                part = point.name.removesuffix(" shear") if point.parts else family.title
                kind: ContactKind = "shears" if point.parts else "slips"
                contact = Contact(number, kind, point.torque_nm, f"{phrase(part)} of stage {number + 1}")
                yield point.torque_nm / running, contact


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
