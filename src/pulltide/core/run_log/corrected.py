"""What the readings of a machine that runs as it should tell of its plan: load, breakaway, belt tension, true speed."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from pulltide.core.line import solve_plan
from pulltide.core.machine import Machine
from pulltide.core.run_log.diagnosis import nuisances
from pulltide.core.run_log.judging import SHARES, learned, line_kinds
from pulltide.core.run_log.log import Correctable
from pulltide.core.run_log.meters import InductionMeters
from pulltide.core.run_log.of_line import running_of
from pulltide.core.run_log.running import Running
from pulltide.core.sources import InductionMotor

#: Readings tell of something when they leave no more than this of its spread.
TOLD = 0.6


@dataclass(frozen=True, slots=True)
class Correction:
    """One figure of the plan: what it was taken for, what the readings say, and half the width of the band of that.

    ``load`` and ``breakaway`` in N·m, ``tension`` of one belt in N, ``full_load_speed`` in rpm; ``at`` is its stage.
    """

    what: Correctable
    at: str
    planned: float
    measured: float
    half: float

    @property
    def factor(self) -> float:
        """Measured over planned."""
        return self.measured / self.planned


def corrections(machine: Machine, plan_index: int, visit_index: int) -> tuple[Correction, ...]:
    """What a page of readings corrects; nothing where it is not of this line, not of a machine in good order, or its
    load is not known. Raises InputError naming what has to be known first.
    """
    plan, visit = machine.plans[plan_index], machine.log.visits[visit_index]
    result = solve_plan(machine, plan)
    running = running_of(machine, plan, None if result is None else result.chosen)
    if not visit.healthy or visit.line != line_kinds(plan) or not SHARES.get(visit.load):
        return ()
    base, left = learned(running, visit)
    spreads = nuisances(running)
    told = {name: base[name] for name in base if left[name] <= TOLD * spreads[name]}
    return tuple(_found(machine, plan_index, running, (told, left)))


def _found(
    machine: Machine, plan_index: int, running: Running, known: tuple[dict[str, float], dict[str, float]]
) -> Iterator[Correction]:
    told, left = known
    need, source = machine.need, machine.plans[plan_index].source
    if "load" in told and need.running_torque_nm is not None:
        yield _by(told["load"], left["load"], "load", "", need.running_torque_nm)
    if "breakaway" in told and need.breakaway_torque_nm is not None:
        yield _by(told["breakaway"], left["breakaway"], "breakaway", "", need.breakaway_torque_nm)
    meters = running.meters
    plain = isinstance(source, InductionMotor) and not source.inverter.fitted and source.second_speed_rpm is None
    plate_rpm = source.speed_rpm if isinstance(source, InductionMotor) and plain else None
    if "slip" in told and plate_rpm is not None and isinstance(meters, InductionMeters):
        slip = meters.synchronous_rpm - plate_rpm
        speed = meters.synchronous_rpm - slip * told["slip"]
        yield Correction("full_load_speed", "", plate_rpm, speed, 2 * left["slip"] * slip)
    for number, stage in enumerate(running.stages, 1):
        name, loop = f"tension@{number}", stage.observed.loop
        if name in told and loop is not None and loop.static_n > 0:
            yield _by(told[name], left[name], "tension", f"link-{number}", loop.static_n)


def _by(factor: float, spread: float, what: Correctable, at: str, planned: float) -> Correction:
    return Correction(what, at, planned, planned * factor, 2 * spread * planned)
