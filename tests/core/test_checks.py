"""Every check can fail: for each there is a machine that trips it, at the severity it should have."""

from __future__ import annotations

from math import inf
from typing import Any

import pytest

from builders import build_belt, build_machine
from pulltide.core import catalog_checks, ladder, line_rules
from pulltide.core.findings import Check, Finding, Severity, holds, judge, judge_two
from pulltide.core.line import solve_plan
from pulltide.core.links import FAMILIES
from pulltide.core.links.v_belt import checks as belt_checks
from pulltide.core.shafts import ShaftPart
from trips import LIGHT, TRIPS, chain, reducer

ALL_RULES = (
    *line_rules.RULES,
    *ladder.RULES,
    *catalog_checks.RULES,
    *(rule for family in FAMILIES for rule in family.rules),
)
BLANK_BAND = {"speed_min_rpm": None, "speed_ideal_rpm": None, "speed_max_rpm": None, "breakaway_torque_nm": None}


def findings(
    links: list[dict[str, Any]],
    need: dict[str, Any],
    motor: dict[str, Any],
    duty: dict[str, Any],
    *shafts: dict[str, Any],
) -> list[Finding]:
    band = {"speed_min_rpm": 14, "speed_ideal_rpm": 17, "speed_max_rpm": 20} if need is LIGHT else BLANK_BAND
    whole = {**BLANK_BAND, **band, "peak_torque_nm": need.get("running_torque_nm", 120.0), **need}
    machine = build_machine(links=links, need=whole, motor=motor, duty=duty)
    if shafts:
        plan = machine.plans[0].model_copy(update={"shafts": tuple(map(ShaftPart.model_validate, shafts))})
        machine = machine.model_copy(update={"plans": (plan,)})
    result = solve_plan(machine, machine.plans[0])
    return [*result.findings, *result.chosen.remarks]


@pytest.mark.parametrize("trip", TRIPS, ids=lambda trip: f"{trip[0]} {trip[1]}")
def test_the_check_fails_where_it_should(trip: tuple):
    code, severity, *rest = trip
    found = [finding for finding in findings(*rest) if finding.code == code]
    assert [finding.severity for finding in found] == [severity] * len(found)
    assert found
    for finding in found:
        assert finding.fact
        assert (finding.limit is not None) == isinstance(finding.rule, Check)
        if finding.limit is not None:
            assert not holds(finding.measured, finding.rule.relation, finding.limit)
            assert finding.rule.base or finding.limit in finding.rule.limits
            assert "{limit}" not in finding.fact + finding.advice


def test_no_check_is_left_without_a_case():
    assert {rule.code for rule in ALL_RULES} == {trip[0] for trip in TRIPS}


def test_most_checks_also_hold_somewhere():
    machine = build_machine(
        links=[
            build_belt(take_up_mm=80),
            *reducer("PW-6 15:1"),
            *chain(chain="50", driven_teeth=46, pitches=90, take_up_mm=30),
        ]
    )
    clear = {f.code for f in solve_plan(machine, machine.plans[0]).findings if f.severity is Severity.CLEAR}
    assert {
        "v_belt.rating",
        "v_belt.wrap",
        "v_belt.take_up",
        "roller_chain.rating",
        "roller_chain.static_safety",
        "roller_chain.odd_links",
        "reducer.torque",
        "reducer.thermal",
        "reducer.overhung_in",
        "reducer.overhung_out",
        "need.speed_low",
        "motor.load",
        "motor.breakaway",
    } <= clear


@pytest.mark.parametrize("value", [float("nan"), inf])
def test_what_is_not_a_number_never_passes(value: float):
    assert judge(belt_checks.RATING, "link-1", value, 1.0).severity is Severity.WARNING
    assert judge_two(belt_checks.SPEED, "link-1", value, 25.0, 33.0).severity is Severity.ERROR
