"""The shafts of a plan between their bearings, and where its belts and chains are set, for programs."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import asdict
from math import isinf
from typing import Any

from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.fit.feet import on_blocks, standings
from pulltide.core.fit.hubs import holds
from pulltide.core.fit.passing import passings
from pulltide.core.fit.shaft import ShaftAnswer, harder, is_free, missing, wheels_of
from pulltide.core.fit.slack import slack_of
from pulltide.core.fit.surroundings import clearances
from pulltide.core.fit.tensions import settings
from pulltide.core.layout import place
from pulltide.core.line import solve_plan
from pulltide.core.line_result import LineResult
from pulltide.core.machine import Machine, Plan
from pulltide.quantities import DEFAULT_UNITS
from pulltide.words import filled, filled_throughout, say


def fit_report(machine: Machine, plan: Plan) -> dict[str, Any]:
    """Where the shafts of a plan stand [mm], what its belts are set to, and every shaft with bearings of its own.

    A shaft of which something is not entered says what; one that cannot stand so says why. Units are in the names.
    """
    result = solve_plan(machine, plan)
    if result is None:
        return {
            "plan": plan.name,
            "centers_mm": [],
            "tensions": [],
            "in_the_way": [],
            "feet": [],
            "chains": [],
            "belts_come_off": [],
            "shafts": [],
        }
    line = result.chosen
    placed = place(plan, line)
    report = {
        "plan": plan.name,
        "centers_mm": [list(center) for center in placed.centers],
        "tensions": list(_tensions(line)),
        "in_the_way": [
            {"name": one.obstacle.name, "stage": one.stage + 1 if one.stage >= 0 else None, "clearance_mm": one.mm}
            for one in clearances(plan, line)
        ],
        "feet": [
            {"subject": one.subject, "pull_n": one.pull_n, "shear_n": one.shear_n, "weighed": one.weighed}
            for one in standings(line, placed)
        ],
        "chains": [
            {"stage": number, **asdict(slack)}
            for number, link in enumerate(line.links, start=1)
            if (slack := slack_of(link, line.shafts[number - 1].turn)) is not None
        ],
        "belts_come_off": [
            {"stage": one.stage, "driver": sorted(one.driver), "driven": sorted(one.driven)}
            for one in passings(plan, line, placed)
        ],
        "shafts": [_shaft(machine, plan, line, n) for n in range(1, len(line.shafts) + 1) if is_free(plan, n)],
    }
    return {"machine": machine.name, **filled_throughout(report, DEFAULT_UNITS)}


def _tensions(line: LineResult) -> Iterator[dict[str, Any]]:
    for number, link in enumerate(line.links, start=1):
        loop = link.transmission.observed(link).loop if link.load_known else None
        if loop is not None:
            yield {"stage": number, "settings": [asdict(setting) for setting in settings(loop)]}


def _shaft(machine: Machine, plan: Plan, line: LineResult, number: int) -> dict[str, Any]:
    part = plan.shaft_part(number)
    driven, driver = wheels_of(line, number)
    report: dict[str, Any] = {"shaft": number, "name": filled(line.shafts[number - 1].name, DEFAULT_UNITS)}
    report["holds"] = [] if part is None else [asdict(hold) for hold in holds(part)]
    try:
        answer = harder(machine, plan, line, number)
    except ImpossibleGeometry as error:
        return {**report, "fault": filled(str(error), DEFAULT_UNITS)}
    if answer is None:
        return {**report, "missing": list(missing(part, driven=driven, driver=driver) or (say("the running torque"),))}
    return {**report, **_answer(answer)}


def _answer(answer: ShaftAnswer) -> dict[str, Any]:
    return {
        "blocks": [asdict(block) for block in on_blocks(answer)],
        "bearings": [{**asdict(bearing), "radial_n": bearing.radial_n} for bearing in answer.bearings],
        "sections": [_finite(asdict(section)) for section in answer.sections],
        "bends_mm": list(answer.wheels_mm),
        "min_diameter_mm": answer.goodman_mm,
        "min_diameter_by_code_mm": answer.code_mm,
        "critical_rpm": answer.critical_rpm,
        "twist_deg": answer.twist_deg,
        "turned_either_way": answer.either_way,
        "strip": asdict(answer.strip),
    }


def _finite(report: dict[str, Any]) -> dict[str, Any]:
    """Without what has no bound: a place that nothing bends has no safety to tell."""
    return {key: None if isinstance(value, float) and isinf(value) else value for key, value in report.items()}
