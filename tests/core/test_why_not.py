"""Why a drive is not on the list: the first thing that it fails, and what a year of loss is worth."""

from __future__ import annotations

from dataclasses import replace
from math import log

import pytest

from builders import SHIPPED, build_belt, build_machine
from pulltide.core.comparison import compare
from pulltide.core.errors import InputError
from pulltide.core.line import solve_plan
from pulltide.core.machine import Machine, Plan
from pulltide.core.search.why_not import why_not
from pulltide.core.search.wish import RANKINGS, Wish, weights_for

MACHINE = build_machine()
WIDE = Wish(max_stages=4)


def told(machine: Machine = MACHINE, **wish):
    return why_not(machine, machine.plans[0], replace(WIDE, **wish), SHIPPED)


@pytest.mark.parametrize(
    ("wish", "failed"),
    [
        ({}, "nothing"),
        ({"never": frozenset({"v_belt"})}, "never"),
        ({"must": frozenset({"gear_pair"})}, "must"),
        ({"max_stages": 2}, "stages"),
        ({"use": "VP-A-9.99-1F"}, "use"),
        ({"use": "A51"}, "nothing"),
        ({"max_price": 5.0}, "price"),
    ],
)
def test_the_first_thing_that_a_wish_rules_out_is_told(wish, failed):
    assert told(**wish).failed == failed


def test_a_drive_that_turns_the_other_way_is_told():
    straight = build_machine([build_belt()])
    assert told(straight, turn="opposite").failed == "turn"
    assert told(straight, turn="same").failed != "turn"


def test_a_further_speed_that_it_does_not_run_at_is_told_with_the_nearest():
    now = solve_plan(MACHINE, MACHINE.plans[0]).chosen.last_shaft.speed_rpm
    assert told(speeds=(1.04 * now,)).failed == "nothing", "near enough"
    found = told(speeds=(1.04 * now, 1.5 * now))
    assert (found.failed, found.allowed) == ("speeds", 1.5 * now)
    assert found.measured == pytest.approx(now)


def test_a_price_says_by_how_much_and_leaves_the_plans_own_motor_out():
    found = told(max_price=5.0)
    assert found.allowed == 5.0
    assert found.measured == pytest.approx(compare(MACHINE, SHIPPED)[0].cost.price, abs=0.1)


def test_a_problem_is_the_plans_gravest():
    slow = build_machine(need={"speed_min_rpm": 60.0, "speed_ideal_rpm": 70.0, "speed_max_rpm": 80.0})
    found = told(slow)
    assert found.failed == "problem"
    problems = [one for one in solve_plan(slow, slow.plans[0]).findings if one.severity.value == "error"]
    assert found.finding.excess == max(one.excess for one in problems)


def test_a_plan_without_a_drive_is_none():
    bare = MACHINE.model_copy(update={"plans": (Plan(),)})
    assert told(bare).failed == "no_drive"


def test_a_year_of_loss_costs_power_hours_and_price():
    """17 rpm and 120 N·m are 0.2136 kW; 6 h a day on 250 days at 0.1 a kWh: 32.04 price units for all of it."""
    machine = build_machine(duty={"energy_price": 0.1})
    weights = weights_for(machine, replace(WIDE, rank_by="year"))
    assert weights.loss == pytest.approx(0.21363 * 6 * 250 * 0.1, rel=1e-4)
    assert weights_for(machine, WIDE) == RANKINGS["balance"]
    share = 0.05
    assert weights.loss * log(1 / (1 - share)) == pytest.approx(weights.loss * share, rel=0.03)


@pytest.mark.parametrize("duty", [{}, {"energy_price": 0.1, "hours_per_day": None}])
def test_a_year_cannot_be_ranked_by_without_its_figures(duty):
    with pytest.raises(InputError, match="under Duty"):
        weights_for(build_machine(duty=duty), replace(WIDE, rank_by="year"))


def test_plans_side_by_side_say_what_their_loss_costs():
    machine = build_machine(duty={"energy_price": 0.2})
    (plan,) = compare(machine, SHIPPED)
    assert plan.lost_price == pytest.approx(0.2 * plan.lost_kwh)
    (unknown,) = compare(MACHINE, SHIPPED)
    assert unknown.lost_price is None
