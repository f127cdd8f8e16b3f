"""One stage of a plan searched anew while the others stay: the shafts on both sides of it are what is asked."""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import exp, log

import numpy as np

from pulltide.core.catalog import Catalog
from pulltide.core.errors import InputError
from pulltide.core.findings import Severity
from pulltide.core.line import solve_plan
from pulltide.core.line_result import LineResult
from pulltide.core.links import Link
from pulltide.core.machine import MAX_LINKS, Machine, Plan
from pulltide.core.search.engine import Asked
from pulltide.core.search.tables import Motors


@dataclass(frozen=True, slots=True)
class Freed:
    """What is asked of the stage, the shaft that drives it as a source, the stages that stay, and problems that are
    theirs.
    """

    asked: Asked
    motors: Motors
    before: tuple[Link, ...]
    after: tuple[Link, ...]
    known: frozenset[str]


def freed(machine: Machine, plan: Plan, number: int, whole: tuple[Asked, Motors], catalog: Catalog) -> Freed:
    """The search for stage ``number``, from 1, out of that for the whole drive.

    Raises InputError where there is no such stage, or the plan says too little of its shafts.
    """
    asked, motors = whole
    if not 1 <= number <= len(plan.links):
        raise InputError("Stage to free", number, "does not exist", accepted=f"1 to {len(plan.links)}")
    result = solve_plan(machine, plan, catalog=catalog)
    if result is None or not result.chosen.shafts[number].running_torque_nm:
        raise InputError("Stage to free", number, "cannot be searched for before the plan is solved")
    line = result.chosen
    driver, driven = line.shafts[number - 1 : number + 1]
    down = line.last_shaft.speed_rpm / driven.speed_rpm
    mine = f"link-{number}"
    problems = (finding for finding in result.findings if finding.severity is Severity.ERROR)
    return Freed(
        asked=replace(
            asked,
            low_rpm=asked.low_rpm / down,
            ideal_rpm=asked.ideal_rpm / down,
            high_rpm=asked.high_rpm / down,
            torque_nm=driven.running_torque_nm or 0.0,
            turn=_turn(line, number, asked.turn),
            max_stages=min(asked.max_stages, MAX_LINKS - len(plan.links) + 1),
        ),
        motors=replace(
            motors,
            ln_speed=np.array([log(driver.speed_rpm)]),
            ln_torque=np.array([log(_allowed_nm(line, number, float(motors.ln_torque[0])))]),
            shaft_mm=motors.shaft_mm[:1] if number == 1 else np.zeros(1),
            min_mm=motors.min_mm[:1] if number == 1 else np.zeros(1),
        ),
        before=plan.links[: number - 1],
        after=plan.links[number:],
        known=frozenset(finding.code for finding in problems if set(finding.places) - {mine}),
    )


def _allowed_nm(line: LineResult, number: int, ln_source_nm: float) -> float:
    """Running torque at the driving shaft with which the source is at its limit [N·m]."""
    here, source = line.shafts[number - 1].running_torque_nm or 0.0, line.shafts[0].running_torque_nm or 0.0
    return exp(ln_source_nm) * here / source if here and source else exp(ln_source_nm)


def _turn(line: LineResult, number: int, wanted: int) -> int:
    """The sense that the stage has to have, so that the last shaft turns as it is wanted to; 0 where it may not matter
    or cannot be told.
    """
    before, after, last = line.shafts[number - 1].turn, line.shafts[number].turn, line.last_shaft.turn
    if not wanted or before is None or after is None or last is None:
        return 0
    return wanted * before * after * last
