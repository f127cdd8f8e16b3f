"""Whether the list of what could stand in a field says what solving the plan with it says."""

from __future__ import annotations

import pytest

from builders import SHIPPED, build_belt, build_machine
from pulltide.core.alternatives import FULL, alternatives
from pulltide.core.findings import Severity
from pulltide.core.line import solve_line, solve_plan
from pulltide.core.machine import Machine
from pulltide.demo import demo_machines

FIELDS = [(0, "steps.0.driven_diameter_mm"), (0, "belt"), (1, "designation"), (2, "driven_teeth")]


def listed(machine: Machine, index: int, field: str):
    plan = machine.plans[0]
    return alternatives(machine, plan, solve_line(machine, plan), (index, field), SHIPPED, solved=40)


def plan_with(machine: Machine, index: int, field: str, value: float | str):
    """The plan with a value in a field of a stage."""
    raw = machine.model_dump(mode="json")
    holder, (*way, last) = raw["plans"][0]["links"][index], field.split(".")
    for part in way:
        holder = holder[int(part)] if isinstance(holder, list) else holder[part]
    holder[last] = value
    if last == "designation":
        raw["plans"][0]["links"][index]["data"] = SHIPPED.find("reducer", value).data.model_dump(mode="json")
    return Machine.model_validate(raw).plans[0]


@pytest.mark.parametrize(("index", "field"), FIELDS)
def test_a_row_says_what_the_solved_plan_says(index: int, field: str):
    machine = build_machine()
    rows = listed(machine, index, field)
    assert len(rows) >= 8
    checked = 0
    for row in rows[:40:5]:
        if row.value == "own":
            continue
        line = solve_line(machine, plan_with(machine, index, field, row.value))
        link = line.links[index]
        assert link.ratio == pytest.approx(row.ratio)
        assert line.last_shaft.speed_rpm == pytest.approx(row.last_speed_rpm, rel=1e-9)
        assert link.center_distance_mm == (
            None if row.center_distance_mm is None else pytest.approx(row.center_distance_mm)
        )
        uses = [x.use for x in link.limits if x.use is not None and (x.is_load or x.use > 1)]
        plan = plan_with(machine, index, field, row.value)
        result = solve_plan(machine, plan, catalog=SHIPPED)
        assert (row.problems, row.warnings) == (result.count(Severity.ERROR), result.count(Severity.WARNING))
        assert max(uses, default=None) == (None if row.use is None else pytest.approx(row.use))
        checked += 1
    assert checked >= 4


def test_the_nearest_speed_comes_first_and_of_those_the_smallest_that_carries():
    machine = build_machine()
    rows = alternatives(machine, machine.plans[0], solve_line(machine, machine.plans[0]), (1, "designation"), SHIPPED)
    offs = [round(row.off, 2) for row in rows]
    assert offs == sorted(offs)
    first = [row for row in rows if round(row.off, 2) == offs[0] and row.use is not None and row.use <= FULL]
    assert [row.use for row in first] == sorted((row.use for row in first), reverse=True)
    assert sum(row.chosen for row in rows) == 1


def test_without_a_load_nothing_is_said_of_use():
    need = {"running_torque_nm": None, "peak_torque_nm": None, "breakaway_torque_nm": None}
    rows = listed(build_machine(need=need), 2, "driven_teeth")
    assert rows
    assert all(row.use is None for row in rows)


def test_a_value_that_makes_no_stage_is_left_out():
    """The belts of other sections do not lie on the list, and one too short is drawn clear and told, not hidden."""
    machine = build_machine(links=[build_belt()])
    names = [row.value for row in listed(machine, 0, "belt")]
    assert names
    assert all(str(name).startswith("A") for name in names)


def test_the_list_of_a_step_that_is_not_in_use_is_worked_out_on_that_step():
    sizes = ((80.0, 200.0), (100.0, 180.0))
    steps = [{"driver_diameter_mm": small, "driven_diameter_mm": large} for small, large in sizes]
    belt = build_belt(measured_as="pitch", steps=steps, chosen_step=1)
    machine = build_machine(links=[belt, *build_machine().model_dump(mode="json")["plans"][0]["links"][1:]])
    rows = listed(machine, 0, "steps.1.driven_diameter_mm")
    assert len({round(row.ratio, 6) for row in rows}) == len(rows)
    assert all(row.ratio == pytest.approx(float(row.value) / 100.0) for row in rows)
    line = solve_line(machine, machine.plans[0], (2, 1, 1))
    now = next((row for row in rows if row.chosen), None) or min(rows, key=lambda row: abs(float(row.value) - 180.0))
    assert now.last_speed_rpm == pytest.approx(line.last_shaft.speed_rpm, rel=0.03)


def test_the_row_in_use_counts_what_the_page_counts():
    """The lathe of the demo: a warning of its worksheet and those of other steps are counted, as on the page."""
    machine = next(machine for machine in demo_machines() if "lathe" in machine.name)
    plan = machine.plans[0]
    result = solve_plan(machine, plan, catalog=SHIPPED)
    rows = alternatives(machine, plan, result.chosen, (0, "belt"), SHIPPED, solved=40)
    now = next(row for row in rows if row.chosen)
    assert (now.problems, now.warnings) == (result.count(Severity.ERROR), result.count(Severity.WARNING))
    assert now.warnings > 0
