"""What stands in the way of a drive, guards, floor, and where the last shaft is wanted."""

from __future__ import annotations

from math import dist

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import MultiPolygon, Point, Polygon, box

from builders import build_machine
from core.test_fit_plan import rig
from draws import draws
from pulltide.core.elevation import elevation
from pulltide.core.fit.surroundings import box_of, clearances, distance_mm
from pulltide.core.layout import place
from pulltide.core.line import solve_plan
from pulltide.core.machine import Machine
from pulltide.core.room import Obstacle, Room
from pulltide.presentation.painting import points_of

PLACE = st.floats(-500, 500)
DISC = st.tuples(st.tuples(PLACE, PLACE), st.floats(5, 120))


def hull(discs) -> Polygon:
    return MultiPolygon([Point(center).buffer(radius, quad_segs=256) for center, radius in discs]).convex_hull


@settings(max_examples=draws(200), deadline=None)
@given(st.lists(DISC, min_size=1, max_size=2), PLACE, PLACE, st.floats(5, 300), st.floats(5, 300))
def test_the_distance_of_a_strand_to_a_box_is_that_of_its_hull(discs, left, low, wide, high):
    """Against shapely: outside to a tenth, and inside exactly where the two overlap."""
    edges = (left, low, left + wide, low + high)
    found, exact = distance_mm(discs, edges), hull(discs).distance(box(*edges))
    if exact > 0.1:
        assert found == pytest.approx(exact, abs=0.1)
    else:
        assert found <= 0.1


def test_three_wheels_are_the_hulls_of_each_two():
    discs = [((0.0, 0.0), 20.0), ((300.0, 0.0), 40.0), ((150.0, 200.0), 30.0)]
    assert distance_mm(discs, (400.0, -50.0, 500.0, 50.0)) == pytest.approx(60.0)


def with_room(**room) -> Machine:
    machine = rig()
    plan = machine.plans[0].model_copy(update={"room": Room.model_validate(room)})
    return machine.model_copy(update={"plans": (plan,)})


def told(machine: Machine) -> dict[str, tuple[str, str, float]]:
    result = solve_plan(machine, machine.plans[0])
    return {
        one.code: (one.subject, one.severity.value, one.measured)
        for one in result.findings
        if one.code.startswith("room.")
    }


LINE = solve_plan(rig(), rig().plans[0]).chosen
PLACED = place(rig().plans[0], LINE)
LAST = PLACED.centers[-1]


def in_the_way(**edges) -> dict:
    """A box beside the last wheel of the rig, on a floor 600 mm below the motor."""
    return {"motor_height_mm": 600, "obstacles": [{"name": "Post", "bottom_mm": 0, "high_mm": 2000, **edges}]}


def test_nothing_is_said_of_a_room_that_nobody_described():
    assert told(rig()) == {}
    far = in_the_way(left_mm=5000, wide_mm=100)
    assert told(with_room(**{**far, "motor_height_mm": None})) == {}
    assert told(with_room(**far)) == {}


def test_what_stands_in_a_stage_or_its_guard_or_leaves_no_room_for_hands_is_said_once():
    # its chain runs across, behind the worm unit: seen edge on
    edge = LAST[0] + PLACED.stands[-1].face_mm / 2
    stage = f"link-{len(PLACED.pictures)}"
    for beside, room, expected in (
        (-15.0, {"guard_mm": 20, "hands_mm": 60}, {"room.in_the_way": (stage, "error", 15.0)}),
        (12.0, {"guard_mm": 20, "hands_mm": 60}, {"room.guard": (stage, "warning", 12.0)}),
        (40.0, {"guard_mm": 20, "hands_mm": 60}, {"room.hands": (stage, "note", 40.0)}),
        (90.0, {"guard_mm": 20, "hands_mm": 60}, {"room.hands": (stage, "clear", 90.0)}),
        (40.0, {"guard_mm": 20}, {}),
    ):
        found = told(with_room(**in_the_way(left_mm=edge + beside, wide_mm=100), **room))
        assert found.keys() == expected.keys(), beside
        for code, (subject, severity, measured) in expected.items():
            assert found[code] == (subject, severity, pytest.approx(measured, abs=0.05))


def test_a_box_in_the_motor_is_told_of_the_motor_and_one_beside_across_is_not():
    assert told(with_room(**in_the_way(left_mm=-40, wide_mm=30)))["room.in_the_way"][0] == "motor"
    edge = LAST[0] - 10
    deep = told(with_room(**in_the_way(left_mm=edge, wide_mm=20)))
    assert deep["room.in_the_way"][0].startswith("link")
    machine = with_room(**in_the_way(left_mm=edge, wide_mm=20, near_mm=9000, far_mm=9500))
    known = {clear.mm for clear in clearances(machine.plans[0], LINE)}
    assert known, "where the stages stand across is a guess there: it is taken as in the way"


@pytest.mark.parametrize(
    ("room", "code", "fails"),
    [
        ({"motor_height_mm": 600, "height_low_mm": LAST[1] + 650}, "room.height_low", True),
        ({"motor_height_mm": 600, "height_low_mm": LAST[1] + 550}, "room.height_low", False),
        ({"motor_height_mm": 600, "height_high_mm": max(LAST[1] + 550, 0)}, "room.height_high", True),
        ({"motor_height_mm": 600, "height_high_mm": LAST[1] + 650}, "room.height_high", False),
        ({"beside_low_mm": LAST[0] + 10}, "room.beside_low", True),
        ({"beside_high_mm": LAST[0] - 10}, "room.beside_high", True),
        ({"beside_high_mm": LAST[0] + 10}, "room.beside_high", False),
        ({"in_line": True}, "room.in_line", True),
    ],
)
def test_where_the_last_shaft_is_wanted(room, code, fails):
    found = told(with_room(**room))[code]
    assert (found[1] == "warning") is fails
    assert found[0] == f"shaft-{len(PLACED.centers)}"


def test_a_wheel_below_the_floor_is_told_by_how_much():
    drawn = (shape for shape in elevation(rig().plans[0], LINE).shapes if getattr(shape, "part", "").startswith("link"))
    lowest = min(y for shape in drawn for _, y in points_of(shape))
    # chain is drawn by its pitch line; half the height of its plates hangs below that
    below = LINE.links[-1].transmission.picture().over_mm
    assert below == pytest.approx(15.09 / 2)  # ANSI B29.1, No. 50
    found = told(with_room(motor_height_mm=-lowest - 30))["room.below_floor"]
    assert found[1:] == ("error", pytest.approx(30 + below, abs=0.5))
    assert "room.below_floor" not in told(with_room(motor_height_mm=-lowest + below + 0.1))
    assert "room.below_floor" in told(with_room(motor_height_mm=-lowest + below - 1.1))


def test_a_guard_is_drawn_as_far_off_as_it_is_judged():
    """Round the outside of the chain, half its plates beyond the pitch circle of the sprocket."""
    chain = {"kind": "roller_chain", "chain": "50", "driver_teeth": 17, "driven_teeth": 46, "pitches": 90}
    plan = build_machine(links=[chain]).plans[0].model_copy(update={"room": Room(guard_mm=25)})
    line = solve_plan(build_machine(links=[chain]), plan).chosen
    (guard,) = (one for one in elevation(plan, line).shapes if getattr(one, "role", "") == "guard")
    sprocket = line.links[0].transmission.picture().driven_radius_mm
    nearest = min(dist(place(plan, line).centers[-1], point) for point in points_of(guard))
    assert nearest == pytest.approx(sprocket + 15.09 / 2 + 25)  # ANSI B29.1, No. 50


@pytest.mark.parametrize(
    ("model", "raw", "told"),
    [
        (Obstacle, {"near_mm": 30, "far_mm": 10}, "not nearer"),
        (Room, {"height_low_mm": 800, "height_high_mm": 700}, r"at least \{800\|mm\} is more than at most \{700\|mm\}"),
        (Room, {"beside_low_mm": 5, "beside_high_mm": 1}, "beside"),
    ],
)
def test_a_room_that_cannot_be_is_refused(model, raw, told):
    with pytest.raises(ValueError, match=told):
        model.model_validate(raw)


def test_a_box_is_told_from_the_motor_s_shaft():
    assert box_of(Obstacle(left_mm=100, bottom_mm=50, wide_mm=200, high_mm=30), 400) == (100, -350, 300, -320)
