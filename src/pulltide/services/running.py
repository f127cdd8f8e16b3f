"""A plan run in time, for programs."""

from __future__ import annotations

from dataclasses import asdict, replace
from typing import Any

from pulltide.core.errors import InputError, InputErrors
from pulltide.core.line import solve_plan
from pulltide.core.machine import Machine, Plan
from pulltide.core.run_up.checks import findings
from pulltide.core.run_up.control import Conditions
from pulltide.core.run_up.drive_train import DriveTrain, drive_train
from pulltide.core.run_up.simulate import Run, run_up


def _train(machine: Machine, plan: Plan) -> DriveTrain:
    result = solve_plan(machine, plan)
    if result is None or not plan.links:
        raise InputErrors([InputError("Plan", plan.name, "has no source and stage to run yet")])
    try:
        return drive_train(machine, plan, result.chosen)
    except InputError as error:
        raise InputErrors([error]) from error


def one_start(conditions: Conditions) -> Conditions:
    """The conditions, where they name one way to start at most. Raises InputErrors."""
    if sum(seconds > 0 for seconds in (conditions.soft_s, conditions.star_s, conditions.vfd_s)) > 1:
        raise InputErrors(
            [InputError("Start", "", "is asked for in two ways", accepted="soft, star or vfd, one of them")]
        )
    return conditions


#: Ways to start that are written out, and how long they may take [s].
WRITTEN = {"star": ("star_s", 20.0), "vfd": ("vfd_s", 60.0)}


def started_by(conditions: Conditions, written: str) -> Conditions:
    """The conditions with a start as it is written, ``star:3``. Raises InputErrors."""
    if not written:
        return conditions
    how, _, seconds = written.partition(":")
    name, most = WRITTEN.get(how, ("", 0.0))
    known = name and seconds.replace(".", "", 1).isdecimal() and 0 < float(seconds) <= most
    if not known:
        accepted = ", ".join(f"{one}: up to {limit:g} s" for one, (_, limit) in WRITTEN.items())
        raise InputErrors([InputError("Start", written[:20], "is not offered", accepted=accepted)])
    return one_start(replace(conditions, **{name: float(seconds)}))


def run_of(machine: Machine, plan: Plan, conditions: Conditions) -> tuple[DriveTrain, Run]:
    """A plan's drive, and its run. Raises InputErrors naming what is missing."""
    train = _train(machine, plan)
    return train, run_up(train, conditions)


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
