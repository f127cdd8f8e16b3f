"""Plans side by side against the plans solved by themselves."""

from __future__ import annotations

import pytest

from pulltide.core.comparison import PlanFigures, best_at, compare
from pulltide.core.line import solve_plan
from pulltide.core.machine import Plan
from pulltide.core.shipped import shipped_catalog
from pulltide.demo import demo_machines

CATALOG = shipped_catalog()


@pytest.mark.parametrize("machine", demo_machines(), ids=lambda machine: machine.name)
def test_every_figure_is_that_of_the_plan_solved_by_itself(machine):
    for one, plan in zip(compare(machine, CATALOG), machine.plans, strict=True):
        line = solve_plan(machine, plan, catalog=CATALOG).chosen
        assert one.last_speed_rpm == line.last_shaft.speed_rpm
        power_in = line.links[0].flow.power_in_kw
        power_out = line.links[-1].flow.power_out_kw
        assert one.loss_kw == pytest.approx(power_in - power_out - line.taken_share * power_in, rel=0.02, abs=2e-3)
        if machine.duty.hours_per_day:
            assert one.lost_kwh == pytest.approx(one.loss_kw * machine.duty.hours_per_day * 250)


def test_the_best_is_told_only_among_plans_without_problems_and_never_of_equals():
    machine = next(machine for machine in demo_machines() if len(machine.plans) > 1)
    plans = compare(machine, CATALOG)
    best = best_at(plans)
    assert best
    for merit, index in best.items():
        assert not plans[index].problems, merit
    assert best_at((plans[0], plans[0])) == {}
    assert best_at(plans[:1]) == {}


def test_a_plan_without_a_motor_has_no_figures():
    machine = demo_machines()[0].model_copy(update={"plans": (Plan(), Plan(name="Plan B"))})
    for one in compare(machine, CATALOG):
        assert isinstance(one, PlanFigures)
        assert one.last_speed_rpm is None
        assert one.loss_kw is None
    assert best_at(compare(machine, CATALOG)) == {}
