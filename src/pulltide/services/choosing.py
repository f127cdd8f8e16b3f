"""A plan by its number, and a copy of a machine: the same for pages, JSON interface and command line."""

from __future__ import annotations

from pulltide.core.errors import InputError, InputErrors
from pulltide.core.machine import Machine, Plan
from pulltide.core.run_log.log import Log


def plan_of(machine: Machine, number: int) -> Plan:
    """A plan, counted from 1. Raises InputErrors for one that is not there."""
    if not 1 <= number <= len(machine.plans):
        raise InputErrors([InputError("Plan", number, "does not exist", accepted=f"1 to {len(machine.plans)}")])
    return machine.plans[number - 1]


def copy_of(machine: Machine) -> Machine:
    """A machine once more, with a run log of its own: what was read on the one was not read on the other."""
    return machine.model_copy(update={"name": f"{machine.name[:52]} (copy)", "log": Log()})
