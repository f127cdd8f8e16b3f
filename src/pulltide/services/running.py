"""A plan run in time, for programs."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from pulltide.core.errors import InputError, InputErrors
from pulltide.core.line import solve_plan
from pulltide.core.machine import Machine, Plan
from pulltide.core.run_up.checks import findings
from pulltide.core.run_up.drive_train import DriveTrain, drive_train
from pulltide.core.run_up.simulate import Conditions, Run, run_up


def _train(machine: Machine, plan: Plan) -> DriveTrain:
    result = solve_plan(machine, plan)
    if result is None or not plan.links:
        raise InputErrors([InputError("Plan", plan.name, "has no source and stage to run yet")])
    try:
        return drive_train(machine, plan, result.chosen)
    except InputError as error:
        raise InputErrors([error]) from error


def run_of(machine: Machine, plan: Plan, conditions: Conditions) -> Run:
    """The run of a plan. Raises InputErrors naming what is missing."""
    return run_up(_train(machine, plan), conditions)


def run_report(machine: Machine, plan: Plan, conditions: Conditions) -> dict[str, Any]:
    """A run as plain data: what happened, energies, what it means; the steps are had as CSV."""
    train = _train(machine, plan)
    run = run_up(train, conditions)
    return {
        "plan": plan.name,
        "conditions": asdict(conditions),
        "events": [asdict(event) for event in run.events],
        "energy_j": {
            "given": run.given_j,
            "taken": run.taken_j,
            "lost": run.lost_j,
            "slip": run.slip_j,
            "at_speed": run.at_speed_j,
        },
        "slips_at_nm": train.slip_nm if train.slip_stage is not None else None,
        "findings": [
            {
                "code": f.code,
                "severity": f.severity.value,
                "subject": f.subject,
                "measured": f.measured,
                "limit": f.limit,
            }
            for f in findings(train, run)
        ],
    }
