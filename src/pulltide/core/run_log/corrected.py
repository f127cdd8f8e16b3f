"""What readings of a machine that runs as it should tell of its plan: its load, tension, true speed, friction, loss."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from pulltide.core.line import solve_plan
from pulltide.core.machine import Machine, Plan
from pulltide.core.run_log.judging import SHARES, learned, line_kinds, page_of
from pulltide.core.run_log.log import Correctable
from pulltide.core.run_log.meters import InductionMeters
from pulltide.core.run_log.model import nuisances
from pulltide.core.run_log.of_line import running_of
from pulltide.core.run_log.running import Running
from pulltide.core.sources import InductionMotor

#: What a stage in a closed case loses, over what is reckoned with, one sigma. Common practice, low confidence: listed
#: efficiencies are of a run-in case at its rating, most of all a worm's.
LOSS_SPREAD = 0.4
#: By how much what rubs and an unmeasured tension may be off, one sigma, as logarithm. Common practice, no source.
RUB_SPREAD, TENSION_SPREAD = 0.6, 0.6
#: Readings tell of something when they leave no more than this of its spread.
TOLD = 0.6


@dataclass(frozen=True, slots=True)
class Correction:
    """One figure of the plan: what it was taken for, what the readings say, and half the width of the band of that.

    ``load`` and ``breakaway`` in N·m, ``tension`` of one belt in N, ``full_load_speed`` in rpm; ``friction`` of a shaft
    in N·m, ``loss`` of a stage in N·m at its driver; ``at`` is where.
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
    share = SHARES.get(visit.load)
    if not visit.healthy or visit.line != line_kinds(plan) or share is None:
        return ()
    spreads = {**nuisances(running), **open_spreads(running)}
    base, left = learned(running, visit, spreads)
    narrowed = {name: base[name] for name in base if left[name] <= TOLD * spreads[name]}
    # what is very likely a fault is mended, not planned with
    found = [] if _is_faulty(machine, plan_index, visit_index) else [*_of_parts(running, share, (narrowed, left))]
    # without load nothing of it is told
    found += _of_load(machine, plan, running, (narrowed, left)) if share else []
    return tuple(found)


def _is_faulty(machine: Machine, plan_index: int, visit_index: int) -> bool:
    """Whether the readings of a page tell of a fault."""
    diagnosis = page_of(machine, plan_index, visit_index).diagnosis
    return diagnosis is not None and diagnosis.is_certain and diagnosis.first.code != "nothing_wrong"


def open_spreads(running: Running) -> dict[str, float]:
    """Spread of what may be far from the plan before anything was read: what stages in a closed case lose, the tension
    of a belt that nobody measured, what all rubs. Common practice, no source.
    """
    found = {"coasting": RUB_SPREAD}
    for number, stage in enumerate(running.stages, 1):
        if stage.observed.case is not None:
            found[f"loss@{number}"] = LOSS_SPREAD
        if stage.observed.loop is not None and not stage.observed.loop.known:
            found[f"tension@{number}"] = TENSION_SPREAD
    return found


def _of_load(
    machine: Machine, plan: Plan, running: Running, known: tuple[dict[str, float], dict[str, float]]
) -> Iterator[Correction]:
    """Load and breakaway, the motor's true speed, and the tension of each belt."""
    narrowed, left = known
    need = machine.need
    if "load" in narrowed and need.running_torque_nm is not None:
        yield _by(narrowed["load"], left["load"], "load", "", need.running_torque_nm)
    if "breakaway" in narrowed and need.breakaway_torque_nm is not None:
        yield _by(narrowed["breakaway"], left["breakaway"], "breakaway", "", need.breakaway_torque_nm)
    if "slip" in narrowed:
        yield from _speed(plan.source, running, narrowed["slip"], left["slip"])
    for number, stage in enumerate(running.stages, 1):
        name, loop = f"tension@{number}", stage.observed.loop
        if name in narrowed and loop is not None and loop.static_n > 0:
            yield _by(narrowed[name], left[name], "tension", f"link-{number}", loop.static_n)


def _speed(source: object, running: Running, slip_share: float, left: float) -> Iterator[Correction]:
    """Full-load speed of a motor on the line, by the slip it is found to have."""
    meters = running.meters
    if not isinstance(source, InductionMotor) or not isinstance(meters, InductionMeters):
        return
    plate_rpm = None if source.inverter.fitted or source.second_speed_rpm is not None else source.speed_rpm
    if plate_rpm is not None:
        slip = meters.synchronous_rpm - plate_rpm
        yield Correction(
            "full_load_speed", "", plate_rpm, meters.synchronous_rpm - slip * slip_share, 2 * left * slip_share * slip
        )


def _of_parts(running: Running, share: float, known: tuple[dict[str, float], dict[str, float]]) -> Iterator[Correction]:
    """Friction of the shafts and loss in the stages, where there is more of it than is reckoned with."""
    narrowed, left = known
    planned = running.settled({}, share)
    if narrowed.get("coasting", 1.0) < 1:
        # it runs down by so much sooner
        factor = 1 / narrowed["coasting"]
        yield _by(factor, left["coasting"], "friction", "shaft-1", planned.friction_nm)
    for name, factor in narrowed.items():
        kind, _, number = name.partition("@")
        if kind == "bearing_times" and factor > 1:
            yield _by(factor, left[name], "friction", f"shaft-{number}", planned.bearing_nm(int(number)))
        elif kind == "loss" and factor > 1:
            yield _by(factor, left[name], "loss", f"link-{number}", planned.loss_nm(int(number)))


def _by(factor: float, spread: float, what: Correctable, at: str, planned: float) -> Correction:
    """``spread`` is one sigma, as a share of the factor."""
    return Correction(what, at, planned, planned * factor, 2 * spread * factor * planned)
