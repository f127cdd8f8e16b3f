"""Wheels, shafts and bearings that overlap: against boxes and circles of a geometry library."""

from __future__ import annotations

from math import atan2, cos

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import MultiPolygon, Point, Polygon, box

from builders import SHIPPED, build_belt, build_machine
from draws import draws
from pulltide.core.family import Family
from pulltide.core.findings import Severity
from pulltide.core.fit.clearance import Run
from pulltide.core.layout import place
from pulltide.core.line import solve_plan
from pulltide.core.links import FAMILIES, family_of
from pulltide.core.machine import Machine
from pulltide.core.shafts import ShaftPart, Span
from pulltide.core.space import FRONT, Cylinder, Z

BIG_MM = 8.0 * 25.4
PAIR = {"kind": "gear_pair", "module_mm": 2, "driver_teeth": 20, "driven_teeth": 40, "face_width_mm": 20}
SECOND = {"length_mm": 300, "bearing_1_mm": 20, "bearing_2_mm": 280, "driven_at_mm": 150, "driver_at_mm": 200}
THIRD = {"length_mm": 200, "bearing_1_mm": 20, "bearing_2_mm": 180, "driven_at_mm": 100}


def rig(second: dict | None = None, third: dict | None = None) -> Machine:
    """A belt to a large pulley, a small gear pair behind it: the pulley is larger than the pair's center distance."""
    machine = build_machine(links=[build_belt(), PAIR], need={"running_torque_nm": 20.0, "peak_torque_nm": 30.0})
    spans = ((2, None if second is None else SECOND | second), (3, None if third is None else THIRD | third))
    parts = tuple(
        ShaftPart(shaft=number, diameter_mm=25.0, span=Span(**span)) for number, span in spans if span is not None
    )
    plan = machine.plans[0].model_copy(update={"shafts": parts})
    return machine.model_copy(update={"plans": (plan,)})


def found(machine: Machine) -> dict:
    return {one.code: one for one in solve_plan(machine, machine.plans[0]).findings if one.code.startswith("fit.")}


def faces_mm(machine: Machine) -> tuple[float, float]:
    """Face of the large pulley, and of the small gear behind it."""
    line = solve_plan(machine, machine.plans[0]).chosen
    pulley, gear = (line.links[k].transmission.discs for k in (0, 1))
    return (
        next(disc.face_mm for disc in pulley if disc.side == "driven"),
        next(disc.face_mm for disc in gear if disc.side == "driver"),
    )


def test_nothing_is_said_of_what_stands_apart():
    machine = rig({"driven_at_mm": 60, "driver_at_mm": 200}, {"length_mm": 100, "driven_at_mm": 50, "bearing_2_mm": 90})
    assert not {"fit.faces", "fit.face_on_bearing", "fit.wheel_into_shaft", "fit.wheels_clash"} & set(found(machine))


def test_two_wheels_on_one_place_overlap_as_their_boxes_do():
    machine = rig({"driven_at_mm": 150, "driver_at_mm": 155})
    pulley, gear = faces_mm(machine)
    shared = box(150 - pulley / 2, 0, 150 + pulley / 2, 1).intersection(box(155 - gear / 2, 0, 155 + gear / 2, 1))
    # by moving one of them this far they part; where one covers the other it is more than what they share
    said = found(machine)["fit.faces"]
    assert (said.severity, said.subject) == (Severity.ERROR, "shaft-2")
    assert said.measured >= shared.area - 1e-9
    moved = rig({"driven_at_mm": 150, "driver_at_mm": 155 + said.measured + 0.1})
    assert "fit.faces" not in found(moved)
    almost = rig({"driven_at_mm": 150, "driver_at_mm": 155 + said.measured - 2})
    assert found(almost)["fit.faces"].measured == pytest.approx(2)


def test_a_wheel_on_a_bearing_is_said_until_it_is_moved():
    said = found(rig({"bearing_2_mm": 205}))["fit.face_on_bearing"]
    assert (said.severity, said.subject) == (Severity.ERROR, "shaft-2")
    assert "fit.face_on_bearing" not in found(rig({"bearing_2_mm": 205 + said.measured + 0.1}))


def test_what_is_left_of_a_shaft_that_a_case_now_carries_is_not_judged():
    machine = build_machine()
    span = Span(**(SECOND | {"driven_at_mm": 20, "driver_at_mm": 20}))
    plan = machine.plans[0].model_copy(update={"shafts": (ShaftPart(shaft=2, diameter_mm=25.0, span=span),)})
    assert "fit.face_on_bearing" not in found(machine.model_copy(update={"plans": (plan,)}))


def test_a_pulley_across_a_shaft_is_noted_while_places_are_open():
    machine = rig()
    said = found(machine)["fit.wheel_across_shaft"]
    centers = place(machine.plans[0], solve_plan(machine, machine.plans[0]).chosen).centers
    apart = Point(centers[1]).distance(Point(centers[2]))
    assert apart == pytest.approx(60, abs=0.5)
    assert (said.severity, said.subject) == (Severity.NOTE, "shaft-3")
    assert said.measured == pytest.approx(BIG_MM / 2 - apart, abs=0.5)
    assert Point(centers[1]).buffer(BIG_MM / 2).contains(Point(centers[2]))


def test_entered_places_tell_whether_the_pulley_runs_into_the_shaft():
    """Shaft 3 reaches 100 mm either side of the gears, which stand 50 mm behind the pulley: into it; 20 mm: not."""
    into = found(rig({}, {}))
    assert into["fit.wheel_into_shaft"].severity is Severity.ERROR
    assert into["fit.wheel_into_shaft"].measured == pytest.approx(BIG_MM / 2 + 12.5 - 60, abs=0.5)
    assert "fit.wheel_across_shaft" not in into
    pulley, _ = faces_mm(rig({}, {}))
    short = 50 - pulley / 2 - 1
    clear = found(rig({}, {"driven_at_mm": short, "bearing_1_mm": 0}))
    assert not {"fit.wheel_into_shaft", "fit.wheel_across_shaft"} & set(clear)


def folded(driver_at_mm: float) -> Machine:
    """The belt goes up and the gears come down again, in front of the motor's pulley."""
    up, down = build_belt(angle_deg=90.0, belt="A35"), PAIR | {"driven_teeth": 90, "angle_deg": -90.0}
    machine = build_machine(links=[up, down], need={"running_torque_nm": 20.0, "peak_torque_nm": 30.0})
    span = Span(**(SECOND | {"driven_at_mm": 60, "driver_at_mm": driver_at_mm}))
    plan = machine.plans[0].model_copy(update={"shafts": (ShaftPart(shaft=2, diameter_mm=25.0, span=span),)})
    return machine.model_copy(update={"plans": (plan,)})


def test_wheels_of_two_stages_in_one_plane_run_into_each_other():
    machine = folded(75)
    centers = place(machine.plans[0], solve_plan(machine, machine.plans[0]).chosen).centers
    pulley, gear = Point(centers[0]).buffer(3.4 * 25.4 / 2), Point(centers[2]).buffer(92.0)
    assert pulley.intersects(gear)
    said = found(machine)["fit.wheels_clash"]
    assert (said.severity, said.subject) == (Severity.ERROR, "shaft-3")
    # both pulleys are in its way, the large one more; a gear of module 2 reaches 2 mm beyond its pitch circle
    large = Point(centers[1]).distance(Point(centers[2]))
    assert said.measured == pytest.approx(BIG_MM / 2 + 92 - large, abs=0.5)
    assert "fit.wheels_clash" not in found(folded(200))


def hull(discs) -> Polygon:
    return MultiPolygon([Point(center).buffer(radius, quad_segs=128) for center, radius in discs]).convex_hull


COORDINATE, RADIUS = st.floats(-300, 300), st.floats(10, 90)
RUN = st.tuples(*[st.tuples(st.tuples(COORDINATE, COORDINATE), RADIUS)] * 2)


def run(stage: int, discs) -> Run:
    return Run(stage, *(Cylinder((*at, 0.0), Z, radius, 10.0) for at, radius in discs))


@settings(max_examples=draws(60), deadline=None)
@given(RUN, RUN)
def test_loops_meet_exactly_where_their_hulls_do(one, other):
    apart, exact = run(0, one).from_mm(run(2, other)), hull(one).distance(hull(other))
    if exact > 0.2:
        assert apart == pytest.approx(exact, abs=0.2)
    else:
        assert apart <= 0.2


def three_belts(behind_mm: float) -> Machine:
    """The second goes up, the third comes down again past the first, so far before the plane of the second."""
    links = [build_belt(belt="A75"), build_belt(angle_deg=90.0, belt="A35"), build_belt(angle_deg=-90.0, belt="A75")]
    raw = build_machine(links, need={"running_torque_nm": 5.0, "peak_torque_nm": 8.0}).model_dump(mode="json")
    raw["plans"][0]["shafts"] = [
        {"shaft": n, "diameter_mm": 25.0, "span": {**SECOND, "driven_at_mm": a, "driver_at_mm": b}}
        for n, (a, b) in enumerate(((60, 140), (140, 140 - behind_mm)), start=2)
    ]
    return Machine.model_validate(raw)


def test_a_belt_that_comes_back_through_another_is_told():
    crossing, clear = found(three_belts(80)), found(three_belts(20))
    plan = three_belts(80).plans[0]
    placed = place(plan, solve_plan(three_belts(80), plan).chosen)
    first, third = (hull([(FRONT.at(w.middle), w.radius) for w in placed.wheels(k)[:2]]) for k in (0, 2))
    assert first.intersects(third)
    said = crossing["fit.loops_cross"]
    assert (said.severity, said.subject) == (Severity.ERROR, "link-3")
    assert said.measured > 0
    assert "fit.wheels_clash" not in crossing, "each fact once"
    assert "fit.loops_cross" not in clear


@pytest.mark.parametrize("family", FAMILIES, ids=lambda family: family.kind)
def test_room_is_judged_to_the_outside_of_every_wheel_that_can_be_made(family: Family):
    """What is cut in the shop is at most as large as the body that is held against all else; a ring by its gaps."""
    for link in (family.starter(SHIPPED), *family.samples):
        picture = family.prepare(link, 1).picture()
        bodies = {"driver": picture.driver_radius_mm, "driven": picture.driven_radius_mm}
        for wheel in family.makes(link):
            if bodies.get(wheel.side) and "Ring" not in wheel.title:
                assert wheel.outside_mm / 2 <= bodies[wheel.side] + picture.over_mm + 0.1, wheel.title


@pytest.mark.parametrize(
    ("kind", "over_mm"),
    [
        # d_a = m_n z / cos ψ + 2 m_n; Shigley's Mechanical Engineering Design, Table 14-1 and chapter 13, m_n 3
        ("helical_pair", 3.0),
        # 2 m cos δ on the large end, 20 and 41 teeth at a right angle, m 4: tan δ = 20 / 41
        ("bevel_pair", 4 * cos(atan2(20, 41))),
        # d_a = d + 2 m of the worm; Shigley, chapter 15, m 3
        ("worm_set", 3.0),
        # a ring to the floor of its gaps: 1.25 m of the rack of ISO 53, m 2
        ("planetary", 2.5),
        ("gear_train", 3.0),
        # half the plates of the starter's chain, No. 40; ANSI B29.1, from memory
        ("roller_chain", 12.06 / 2),
    ],
)
def test_teeth_and_plates_reach_beyond_the_circles_drawn_as_handbooks_say(kind: str, over_mm: float):
    family = family_of(kind)
    assert family.prepare(family.starter(SHIPPED), 1).picture().over_mm == pytest.approx(over_mm)
