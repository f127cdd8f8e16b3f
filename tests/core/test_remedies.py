"""Remedies: the part at fault first, the smallest change of each kind, nothing that breaks something else."""

from __future__ import annotations

import pytest

from builders import build_belt, build_machine
from pulltide.core.findings import Severity
from pulltide.core.line import solve_plan
from pulltide.core.machine import Machine
from pulltide.core.remedies import MAX_WORK, SHARED_TRIALS, with_remedies
from pulltide.quantities import Units
from pulltide.services.reporting import solve_report
from pulltide.words import filled


def offers(machine: Machine, code: str) -> list[str]:
    plan = machine.plans[0]
    result = with_remedies(machine, plan, solve_plan(machine, plan))
    finding = next(f for f in result.findings if f.code == code)
    assert finding.severity.rank >= Severity.WARNING.rank
    return [filled(remedy.label, Units()) for remedy in finding.remedies]


def test_a_good_plan_is_left_as_it_is():
    band = {"speed_min_rpm": 600, "speed_ideal_rpm": 700, "speed_max_rpm": 800}
    torque = {"running_torque_nm": 10.0, "peak_torque_nm": 12.0, "breakaway_torque_nm": 12.0}
    machine = build_machine(links=[build_belt(take_up_mm=80)], need=band | torque)
    plan = machine.plans[0]
    result = solve_plan(machine, plan)
    assert result.count(Severity.ERROR) + result.count(Severity.WARNING) == 0
    assert with_remedies(machine, plan, result) is result


def test_an_overloaded_motor_is_offered_the_next_standard_power():
    band = {"speed_min_rpm": 600, "speed_ideal_rpm": 700, "speed_max_rpm": 800}
    machine = build_machine(
        links=[build_belt(belts=3)], need={"running_torque_nm": 17.0, "peak_torque_nm": 20.0, **band}
    )
    assert offers(machine, "motor.load")[0] == "Use a 2 hp motor"


def test_an_overloaded_reducer_is_offered_the_next_size_first():
    machine = build_machine(
        links=[build_belt(), {"kind": "reducer", "designation": "PL-1 30:1"}],
        need={"running_torque_nm": 150.0, "peak_torque_nm": 160.0},
    )
    assert offers(machine, "reducer.torque")[0].startswith("Use PL-2 30:1")


def test_an_odd_chain_is_offered_the_even_one():
    links = [{"kind": "roller_chain", "chain": "40", "driver_teeth": 17, "driven_teeth": 34, "pitches": 77}]
    machine = build_machine(links=links, need={"running_torque_nm": 5.0, "peak_torque_nm": 6.0})
    assert offers(machine, "roller_chain.odd_links")[0] == "Use 78 links"


def test_a_belt_too_short_is_offered_the_shortest_that_fits():
    step = [{"driver_diameter_mm": 80, "driven_diameter_mm": 260}]
    machine = build_machine(
        links=[build_belt(steps=step, belt="A26", measured_as="pitch")],
        need={"running_torque_nm": 5.0, "peak_torque_nm": 6.0},
    )
    label = next(text for text in offers(machine, "v_belt.too_short") if text.endswith("belt") and "A" in text)
    number = int("".join(char for char in label if char.isdecimal()))
    assert 35 <= number <= 55


def test_a_slow_last_shaft_is_offered_pulleys_or_teeth_that_bring_it_into_its_band():
    machine = build_machine(need={"speed_min_rpm": 19.0, "speed_ideal_rpm": 20.0, "speed_max_rpm": 21.0})
    plan = machine.plans[0]
    result = with_remedies(machine, plan, solve_plan(machine, plan))
    finding = next(f for f in result.findings if f.code == "need.speed_low")
    assert finding.remedies
    assert all(19.0 <= remedy.last_speed_rpm <= 21.0 for remedy in finding.remedies)


@pytest.mark.parametrize("code", ["need.no_torque", "duty.unknown"])
def test_what_only_a_person_can_enter_gets_no_remedy(code: str):
    machine = build_machine(need={"running_torque_nm": None, "peak_torque_nm": None}, duty={"shock": None})
    assert offers(machine, code) == []


def test_at_most_three_are_offered_each_of_its_own_kind():
    machine = build_machine(links=[build_belt()], need={"running_torque_nm": 19.0, "peak_torque_nm": 19.0})
    labels = offers(machine, "v_belt.rating")
    assert 1 <= len(labels) <= 3
    assert len(set(labels)) == len(labels)


@pytest.mark.long
def test_a_plan_of_many_stages_and_steps_is_not_searched_without_end():
    """Eight belts of six steps: every change would be solved at 36 settings. The work is bounded, and that is said."""
    step = {"driver_diameter_mm": 80.0, "driven_diameter_mm": 200.0}
    steps = [{**step, "driver_diameter_mm": 80.0 + 2 * k} for k in range(6)]
    belts = [build_belt(measured_as="pitch", steps=steps)] * 8
    machine = build_machine(links=belts, need={"running_torque_nm": 50.0, "peak_torque_nm": 80.0})
    plan = machine.plans[0]
    found = with_remedies(machine, plan, solve_plan(machine, plan))
    assert found.stopped
    assert 0 < found.changes_tried * len(plan.links) <= MAX_WORK + 36 * len(plan.links)
    usual = build_machine()
    assert not with_remedies(usual, usual.plans[0], solve_plan(usual, usual.plans[0])).stopped


@pytest.mark.long
def test_an_answer_of_several_plans_shares_one_budget():
    machine = build_machine(need={"running_torque_nm": 600.0, "peak_torque_nm": 900.0})
    plans = tuple(machine.plans[0].model_copy(update={"name": f"Plan {letter}"}) for letter in "ABCDEF")
    several = machine.model_copy(update={"plans": plans})
    told = [plan["remedies"] for plan in solve_report(several)["plans"]]
    assert sum(one["changes_tried"] for one in told) <= SHARED_TRIALS + len(plans)
    assert not told[-1]["all_tried"]
    (alone,) = (plan["remedies"] for plan in solve_report(machine)["plans"])
    assert alone["changes_tried"] >= told[0]["changes_tried"]
