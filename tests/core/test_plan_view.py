"""The plan of a line: on the verticals of its elevation, faces as the families have them, stations as entered."""

from __future__ import annotations

import pytest
from shapely.geometry import LineString, Polygon

from builders import build_belt, build_machine
from pulltide.core.layout import GAP_MM
from pulltide.core.line import solve_plan
from pulltide.core.machine import Plan
from pulltide.core.plan_view import plan_view
from pulltide.core.sketch import Line, Text
from pulltide.core.space import ABOVE
from pulltide.demo import demo_machines

PLANS = [(machine, plan) for machine in demo_machines() for plan in machine.plans]


def drawn(machine, plan=None):
    plan = plan or machine.plans[0]
    line = solve_plan(machine, plan).chosen
    drawing, placed = plan_view(plan, line)
    return placed, drawing


def lying(placed):
    return [(spot, placed.axes(index)) for index, spot in enumerate(placed.spots)]


def boxes(drawing, role, part=""):
    lines = (shape for shape in drawing.shapes if isinstance(shape, Line))
    return [
        Polygon(item.points) for item in lines if item.role.startswith(role) and item.part in ("", part or item.part)
    ]


@pytest.mark.parametrize(("machine", "plan"), PLANS, ids=[f"{machine.name}, {plan.name}" for machine, plan in PLANS])
def test_every_wheel_stands_on_its_shaft_and_nothing_runs_through_anything(machine, plan):
    placed, drawing = drawn(machine, plan)
    shafts = [LineString([ABOVE.at(axes.at(spot, away=way)) for way in (-5000, 5000)]) for spot, axes in lying(placed)]
    for wheel in boxes(drawing, "wheel"):
        assert min(shaft.distance(wheel.centroid) for shaft in shafts) < 1e-6
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
    placed, _ = drawn(machine, plan)
    one, two = placed.stands
    assert two.driver[2] - one.driver[2] == pytest.approx((one.face_mm + two.face_mm) / 2 + GAP_MM)
    assert placed.assumed == (2,)
    assert two.face_mm > 2 * one.face_mm


def test_stations_that_are_entered_place_wheels_and_bearings():
    machine, plan = two_belts(length_mm=500, driven_at_mm=60, driver_at_mm=420, bearing_1_mm=120, bearing_2_mm=360)
    placed, drawing = drawn(machine, plan)
    one, two = (stand.driver[2] for stand in placed.stands)
    assert two - one == pytest.approx(360)
    assert placed.assumed == ()
    middles = sorted(box.centroid.y - one for box in boxes(drawing, "bearing"))
    assert middles == pytest.approx([60, 300])
    shaft = next(rod for rod in boxes(drawing, "rod") if abs(rod.centroid.x - placed.centers[1][0]) < 1e-6)
    assert shaft.bounds[3] - shaft.bounds[1] == pytest.approx(500)


def test_a_case_stands_between_its_ends():
    machine = next(machine for machine in demo_machines() if machine.plans[0].links[1].kind == "reducer")
    plan = machine.plans[0]
    belt, case = drawn(machine, plan)[0].stands[:2]
    assert case.driven[2] > case.driver[2] > belt.driven[2]


def test_a_case_whose_outside_nobody_knows_is_said_to_be_a_guess():
    own = {"kind": "reducer", "designation": "own", "own": {"ratio": 20.0}}
    for unit, guessed in ((own, True), ({"kind": "reducer", "designation": "PW-5 10:1"}, False)):
        _, drawing = drawn(build_machine([build_belt(), unit]))
        notes = [shape.text for shape in drawing.shapes if isinstance(shape, Text)]
        assert notes == (["The outside of the case in stage 2 is a guess"] if guessed else [])
