"""What is due on a plan."""

from __future__ import annotations

from datetime import date

from pulltide.core.errors import InputError, InputErrors
from pulltide.core.line import shaft_names, solve_plan
from pulltide.core.machine import Machine, Plan
from pulltide.core.run_log.of_line import running_of
from pulltide.core.run_log.upkeep import Due, dues, location_of


def dues_of(machine: Machine, plan: Plan, today: date) -> tuple[tuple[Due, ...], tuple[str, ...]]:
    """Every task, the most pressing first, and the names of the shafts. Raises InputErrors naming what is missing."""
    result = solve_plan(machine, plan)
    try:
        running = running_of(machine, plan, None if result is None else result.chosen)
    except InputError as error:
        raise InputErrors([error]) from error
    assert plan.source is not None
    found = dues(running, plan.source, machine.log, location_of(machine.duty.environment), today)
    return found, shaft_names(machine, plan)
