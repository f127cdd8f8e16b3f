"""What is due on a plan, and what is expected of it."""

from __future__ import annotations

from datetime import date

from pulltide.core.errors import InputError, InputErrors
from pulltide.core.line import shaft_names, solve_plan
from pulltide.core.machine import Machine, Plan
from pulltide.core.run_log.instruments import WARM
from pulltide.core.run_log.of_line import running_of
from pulltide.core.run_log.running import Running
from pulltide.core.run_log.upkeep import Due, dues, location_of
from pulltide.quantities import DEFAULT_UNITS
from pulltide.words import filled


def dues_of(machine: Machine, plan: Plan, today: date) -> tuple[tuple[Due, ...], tuple[str, ...]]:
    """Every task, the most pressing first, and the names of the shafts. Raises InputErrors naming what is missing."""
    running = watched(machine, plan)
    assert plan.source is not None
    found = dues(running, plan.source, machine.log, location_of(machine.duty.environment), today)
    return found, tuple(filled(name, DEFAULT_UNITS) for name in shaft_names(machine, plan))


def watched(machine: Machine, plan: Plan) -> Running:
    """The drive as it is watched. Raises InputErrors naming what is missing."""
    result = solve_plan(machine, plan)
    try:
        return running_of(machine, plan, None if result is None else result.chosen)
    except InputError as error:
        raise InputErrors([error]) from error


#: Air that a warm part is taken to stand in where nobody said [°C].
USUAL_AIR_C = 20.0


def expected_of(machine: Machine, plan: Plan, kind: str, at: str) -> float | None:
    """What a reading is expected to show under full load, temperatures over the air of the last page; None where there
    is none of its kind. Raises InputErrors naming what is missing.
    """
    found = watched(machine, plan).predict({}).get((kind, at))
    if found is None or kind not in WARM:
        return found
    airs = [visit.air_c for visit in machine.log.visits if visit.air_c is not None]
    return found + (airs[-1] if airs else USUAL_AIR_C)
