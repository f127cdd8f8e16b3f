"""A plan run in time, for programs."""

from __future__ import annotations

from dataclasses import asdict, replace
from math import inf
from typing import Any, cast, get_args

from pulltide.core.errors import InputError, InputErrors
from pulltide.core.line import solve_plan
from pulltide.core.line_result import LineResult
from pulltide.core.machine import Machine, Plan
from pulltide.core.run_up.cases import run_up
from pulltide.core.run_up.checks import findings, winding_goes_on
from pulltide.core.run_up.control import Conditions, Then
from pulltide.core.run_up.drive_train import DriveTrain, drive_train
from pulltide.core.run_up.jam import JamPeak, jam_peaks, start_peaks
from pulltide.core.run_up.run import Run
from pulltide.words import say


def _train(machine: Machine, plan: Plan) -> tuple[DriveTrain, LineResult]:
    result = solve_plan(machine, plan)
    if result is None or not plan.links:
        raise InputErrors([InputError(say("Plan"), plan.name, say("has no source and stage to run yet"))])
    try:
        return drive_train(machine, plan, result.chosen), result.chosen
    except InputError as error:
        raise InputErrors([error]) from error


def one_start(conditions: Conditions) -> Conditions:
    """The conditions, where they name one way to start at most. Raises InputErrors."""
    if sum(seconds > 0 for seconds in (conditions.soft_s, conditions.star_s, conditions.vfd_s)) > 1:
        raise InputErrors(
            [
                InputError(
                    say("Start"), "", say("is asked for in two ways"), accepted=say("soft, star or vfd, one of them")
                )
            ]
        )
    return conditions


def jam_peaks_of(line: LineResult, train: DriveTrain, run: Run) -> tuple[JamPeak, ...]:
    """What the jam of a run, or its first jerk, does to each stage; nothing of a run without either."""
    if run.jerk is not None:
        return tuple(start_peaks(line, run.jerk))
    return () if run.jam is None else tuple(jam_peaks(train, line, run.jam))


#: Ways to start that are written out, and how long they may take [s].
WRITTEN = {"star": ("star_s", 20.0), "vfd": ("vfd_s", 60.0)}


def started_by(conditions: Conditions, written: str) -> Conditions:
    """The conditions with a start as it is written, and what happens then: ``star:3 then:jam``. Raises InputErrors."""
    for word in written.split():
        how, _, value = word.partition(":")
        if how == "then" and value in get_args(Then):
            conditions = replace(conditions, then=cast(Then, value))
            continue
        name, most = WRITTEN.get(how, ("", 0.0))
        if not name or not value.replace(".", "", 1).isdecimal() or not 0 < float(value) <= most:
            accepted = ", ".join(
                say("{one}: up to {limit:g} s", one=one, limit=limit) for one, (_, limit) in WRITTEN.items()
            )
            accepted = say("{accepted}; then: {then}", accepted=accepted, then=", ".join(get_args(Then)))
            raise InputErrors([InputError(say("Start"), word[:20], say("is not offered"), accepted=accepted)])
        conditions = Conditions(**{**asdict(conditions), name: float(value)})
    return one_start(conditions)


def run_of(machine: Machine, plan: Plan, conditions: Conditions) -> tuple[DriveTrain, Run]:
    """A plan's drive, and its run. Raises InputErrors naming what is missing."""
    train, _ = _train(machine, plan)
    return train, _ran(train, conditions)


def _ran(train: DriveTrain, conditions: Conditions) -> Run:
    try:
        return run_up(train, conditions)
    except InputError as error:
        raise InputErrors([error]) from error


def run_report(machine: Machine, plan: Plan, conditions: Conditions) -> dict[str, Any]:
    """A run as plain data: what happened, energies, what it means; the steps are had as CSV."""
    train, line = _train(machine, plan)
    run = _ran(train, conditions)
    peaks, slips = jam_peaks_of(line, train, run), train.one("slips")
    return {
        "plan": plan.name,
        "conditions": asdict(conditions.of(train.motor.on_vfd)),
        "events": [asdict(event) for event in run.events],
        "energy_j": {
            "given": run.given_j,
            "taken": run.taken_j,
            "lost": run.lost_j,
            "slip": run.slip_j,
            "braked": run.braked_j,
            "jam": run.jam_j,
            "at_speed": run.at_speed_j,
        },
        "swing": run.swing,
        "followed": None if run.followed is None else asdict(run.followed),
        "jerk": None if run.jerk is None else {**asdict(run.jerk), "worst_stage": run.jerk.worst_stage + 1},
        "jam": [{**asdict(peak), "stage": peak.stage + 1, "use": peak.use} for peak in peaks],
        "winding_if_it_goes_on": winding_goes_on(train, run),
        "slips_at_nm": None if slips is None else slips.torque_nm,
        "parts_at": [
            {"stage": one.stage + 1, "name": one.name, "nm": None if one.torque_nm == inf else one.torque_nm}
            for one in train.contacts
        ],
        "findings": [
            {
                "code": f.code,
                "severity": f.severity.value,
                "subject": f.subject,
                "measured": f.measured,
                "limit": f.limit,
            }
            for f in findings(train, run, peaks)
        ],
    }
