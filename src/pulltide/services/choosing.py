"""A plan by its number, and a copy of a machine: the same for pages, JSON interface and command line."""

from __future__ import annotations

from pulltide.core.errors import InputError, InputErrors
from pulltide.core.machine import Machine, Plan
from pulltide.core.run_log.log import Log
from pulltide.words import say


def plan_of(machine: Machine, number: int) -> Plan:
    """A plan, counted from 1. Raises InputErrors for one that is not there."""
    if not 1 <= number <= len(machine.plans):
        raise InputErrors(
            [
                InputError(
                    say("Plan"), number, say("does not exist"), accepted=say("1 to {plans}", plans=len(machine.plans))
                )
            ]
        )
    return machine.plans[number - 1]


def copy_of(machine: Machine) -> Machine:
    """A machine once more, with a run log of its own: what was read on the one was not read on the other."""
    return machine.model_copy(update={"name": say("{name} (copy)", name=machine.name[:52]), "log": Log()})
