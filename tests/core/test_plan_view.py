"""The plan of a line: on the verticals of its elevation, faces as the families have them, stations as entered."""

from __future__ import annotations

import pytest
from shapely.geometry import Polygon

from builders import build_belt, build_machine
from pulltide.core.layout import place
from pulltide.core.line import solve_plan
from pulltide.core.machine import Plan
from pulltide.core.plan_view import GAP_MM, across, plan_view
from pulltide.core.sketch import Line
from pulltide.demo import demo_machines

PLANS = [(machine, plan) for machine in demo_machines() for plan in machine.plans]


def drawn(machine, plan=None):
    plan = plan or machine.plans[0]
    line = solve_plan(machine, plan).chosen
    drawing, found = plan_view(plan, line)
    return place(plan, line), drawing, found


def boxes(drawing, role, part=""):
    lines = (shape for shape in drawing.shapes if isinstance(shape, Line))
    return [
        Polygon(item.points) for item in lines if item.role.startswith(role) and item.part in ("", part or item.part)
    ]


@pytest.mark.parametrize(("machine", "plan"), PLANS, ids=[f"{machine.name}, {plan.name}" for machine, plan in PLANS])
def test_every_wheel_stands_on_its_shaft_and_nothing_runs_through_anything(machine, plan):
    placed, drawing, _ = drawn(machine, plan)
    verticals = [x for x, _ in placed.centers]
    for wheel in boxes(drawing, "wheel"):
        assert min(abs(wheel.centroid.x - x) for x in verticals) < 1e-6
    solid = [*boxes(drawing, "case"), *boxes(drawing, "motor")]
    for one in solid:
        for wheel in boxes(drawing, "wheel"):
            assert not one.overlaps(wheel), "a wheel in a case"
    for number in range(1, len(plan.links) + 1):
        for other in range(number + 1, len(plan.links) + 1):
            for band in boxes(drawing, "band", f"link-{number}"):
                assert all(not band.overlaps(next_) for next_ in boxes(drawing, "band", f"link-{other}"))


def two_belts(**span) -> Plan:
    machine = build_machine([build_belt(), build_belt(belts=3)])
    raw = machine.plans[0].model_dump(mode="json")
    raw["shafts"] = [{"shaft": 2, "diameter_mm": 25.0, "span": span}] if span else []
    return machine, Plan.model_validate(raw)


def test_stages_nobody_placed_stand_face_to_face_with_a_gap():
    machine, plan = two_belts()
    _, _, found = drawn(machine, plan)
    (one, _), (two, _) = found.ends
    assert two - one == pytest.approx(sum(found.faces) / 2 + GAP_MM)
    assert found.assumed == (2,)
    assert found.faces[1] > 2 * found.faces[0]


def test_stations_that_are_entered_place_wheels_and_bearings():
    machine, plan = two_belts(length_mm=500, driven_at_mm=60, driver_at_mm=420, bearing_1_mm=120, bearing_2_mm=360)
    placed, drawing, found = drawn(machine, plan)
    (one, _), (two, _) = found.ends
    assert two - one == pytest.approx(360)
    assert found.assumed == ()
    middles = sorted(box.centroid.y - one for box in boxes(drawing, "bearing"))
    assert middles == pytest.approx([60, 300])
    shaft = next(rod for rod in boxes(drawing, "rod") if abs(rod.centroid.x - placed.centers[1][0]) < 1e-6)
    assert shaft.bounds[3] - shaft.bounds[1] == pytest.approx(500)


def test_a_case_stands_between_its_ends():
    machine = next(machine for machine in demo_machines() if machine.plans[0].links[1].kind == "reducer")
    plan = machine.plans[0]
    placed, _, found = drawn(machine, plan)
    near, far = across(plan, solve_plan(machine, plan).chosen, placed).ends[1]
    assert far > near > found.ends[0][1]
