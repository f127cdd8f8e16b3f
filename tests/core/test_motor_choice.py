"""Listed motors in the place of a plan's own, against the plan solved with each."""

from __future__ import annotations

import pytest

from builders import SHIPPED, build_machine
from pulltide.core.findings import Severity
from pulltide.core.line import solve_plan
from pulltide.core.motor_choice import motor_choices
from pulltide.core.search.wish import motor_groups
from pulltide.demo import demo_machines
from pulltide.quantities import DEFAULT_UNITS
from pulltide.services.change import Change
from pulltide.services.editing import apply_change


@pytest.mark.parametrize("machine", demo_machines(), ids=lambda machine: machine.name)
def test_what_a_row_says_is_what_the_plan_says_once_the_motor_is_taken(machine):
    plan = machine.plans[0]
    for one in motor_choices(machine, plan, SHIPPED, solved=3)[:3]:
        taken, _ = apply_change(machine, Change(operation="take_stock", kind=one.item.id), DEFAULT_UNITS, SHIPPED)
        result = solve_plan(taken, taken.plans[0], catalog=SHIPPED)
        assert one.last_speed_rpm == result.chosen.last_shaft.speed_rpm
        assert one.load == result.chosen.motor_load
        assert (one.problems, one.warnings) == (result.count(Severity.ERROR), result.count(Severity.WARNING))
        again = motor_choices(taken, taken.plans[0], SHIPPED, solved=0)
        assert one.item.id in {other.item.id for other in again if other.chosen}


def test_strong_motors_come_first_then_the_nearest_speed_then_the_smallest():
    machine = build_machine()
    found = motor_choices(machine, machine.plans[0], SHIPPED, solved=8)
    asked = solve_plan(machine, machine.plans[0]).chosen.shafts[0].power_kw
    weak = [one.drive.power_kw < asked for one in found]
    assert weak == sorted(weak)
    assert not found[0].load > 1
    assert abs(found[0].last_speed_rpm / machine.need.aimed_rpm - 1) < 0.05
    assert found[0].drive.power_kw <= found[1].drive.power_kw


def test_a_supply_leaves_its_own_motors_alone():
    machine = build_machine()
    groups = motor_groups(SHIPPED)
    counts = [len(motor_choices(machine, machine.plans[0], SHIPPED, name, solved=0)) for name in groups]
    assert sum(counts) == len(motor_choices(machine, machine.plans[0], SHIPPED, solved=0))
    assert all(counts)
