"""Shafts and solids in space, beside shapely and plain geometry; right angles and shafts in line as they stand."""

from __future__ import annotations

from math import cos, degrees, hypot, pi, sin

import numpy
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import MultiPoint, Polygon

from builders import build_belt, build_machine
from draws import draws
from pulltide.core.elevation import elevation, side_elevation
from pulltide.core.layout import place
from pulltide.core.line import solve_plan
from pulltide.core.links.bevel_pair import BevelPair
from pulltide.core.links.reducer import Reducer, tables
from pulltide.core.machine import Machine
from pulltide.core.plan_view import plan_view
from pulltide.core.sketch import Axle, Loop
from pulltide.core.space import ABOVE, BASE, FRONT, Axes, Block, Cylinder, View, X, Y, Z, cross, dot, hull, overlap_mm

PLACE = st.floats(-300, 300)
POINTS = st.lists(st.tuples(PLACE, PLACE), min_size=3, max_size=30)
SIZE = st.floats(5, 120)


@given(POINTS)
def test_a_hull_is_that_of_shapely(points):
    exact = MultiPoint(points).convex_hull
    found = hull(points)
    if exact.geom_type == "Polygon" and exact.area > 1:
        assert Polygon(found).area == pytest.approx(exact.area, rel=1e-6)
        assert Polygon(found).exterior.is_ccw


@settings(max_examples=draws(60))
@given(st.tuples(PLACE, PLACE, PLACE), st.floats(0, pi), SIZE, SIZE)
def test_a_wheel_is_seen_as_the_outline_of_its_points(middle, turn, radius, half):
    """Against the hull of many points on it, from the front and from above."""
    axis = (cos(turn), 0.0, sin(turn))
    wheel, side = Cylinder(middle, axis, radius, half), cross(axis, Y)
    round_ = [
        tuple(
            m + end * half * a + radius * (cos(t) * s + sin(t) * y)
            for m, a, s, y in zip(middle, axis, side, Y, strict=True)
        )
        for end in (-1, 1)
        for t in numpy.linspace(0, 2 * pi, 144, endpoint=False)
    ]
    for view in (FRONT, ABOVE):
        if abs(abs(dot(axis, view.sight)) - 1) < 1e-3:
            continue
        exact = MultiPoint([view.at(point) for point in round_]).convex_hull
        assert Polygon(wheel.seen(view)).symmetric_difference(exact).area <= 0.02 * exact.area + 1


@settings(max_examples=draws(60))
@given(PLACE, PLACE, SIZE, SIZE, SIZE, SIZE)
def test_wheels_at_right_angles_meet_where_their_slices_do(x, z, radius, half, other, long):
    """On one level two discs whose axes cross meet exactly where, from above, their boxes do; by how much at least."""
    one, two = Cylinder((0.0, 0.0, 0.0), Z, radius, half), Cylinder((x, 0.0, z), X, other, long)
    deep = min(radius + long - abs(x), half + other - abs(z))
    found = overlap_mm(one, two)
    if deep > 1:
        assert 0 < found <= min(deep, 2 * min(one.thinnest, two.thinnest)) + 0.2
    if deep < -1:
        assert found == 0


def test_a_box_in_a_box_is_told_by_the_shallowest_way():
    one, two = Block((0.0, 0.0, 0.0), BASE, (50.0, 40.0, 30.0)), Block((90.0, 10.0, 5.0), BASE, (50.0, 40.0, 30.0))
    assert overlap_mm(one, two) == pytest.approx(10, abs=0.2)


@pytest.mark.parametrize("way", [(1, 0, 0), (-1, 0, 0), (0, 1, 0), (0, -1, 0), (0.6, 0, 0.8), (0, 0, 1)])
def test_axes_stay_square_and_of_one_hand(way):
    axes = Axes().toward(way)
    assert axes.at((0, 0, 0), away=1) == pytest.approx(way)
    assert cross(axes.right, axes.up) == pytest.approx(axes.away)
    assert View(axes.right, axes.up).sight == pytest.approx(way)


def solved(*links):
    machine = build_machine([link if isinstance(link, dict) else link.model_dump(mode="json") for link in links])
    plan = machine.plans[0]
    return plan, solve_plan(machine, plan).chosen


def apart(placed, one: int, other: int) -> float:
    """The least distance of the lines of two shafts: for lines at an angle (p2 - p1)·n over |n|, n = d1 x d2."""
    p, q, d, e = placed.spots[one], placed.spots[other], placed.axes(one).away, placed.axes(other).away
    way, normal = numpy.subtract(q, p), numpy.cross(d, e)
    if numpy.linalg.norm(normal) < 1e-9:
        return float(numpy.linalg.norm(numpy.cross(way, d)))
    return float(abs(way @ normal) / numpy.linalg.norm(normal))


LISTED = sorted({(item.data.type, item.data.stages, item.data.size_mm): item.id for item in tables.shipped()}.items())


@pytest.mark.parametrize(("kind", "name"), LISTED, ids=[name for _, name in LISTED])
def test_the_shafts_of_a_listed_reducer_stand_as_its_type_has_them(kind, name):
    """A worm's a center distance apart, of a bevel unit crossing, in line on one axis; the case holds both axes."""
    type_, _, size = kind
    plan, line = solved(Reducer(designation=name, data=tables.unit(name)))
    placed = place(plan, line)
    (stand,) = placed.stands
    square = abs(dot(stand.axes.away, stand.turned.away)) < 1e-9
    assert square == (type_ in ("worm", "helical_bevel"))
    distance = apart(placed, 0, 1)
    if type_ == "worm":
        assert distance == pytest.approx(size)
    elif type_ == "helical_shaft_mounted":
        assert distance >= size
    else:
        assert distance == pytest.approx(0, abs=1e-9)
    assert stand.known
    for end in (stand.driver, stand.driven):
        assert numpy.subtract(stand.block.nearest(end), end) == pytest.approx((0, 0, 0), abs=1e-9), "on the case"


def build_chain() -> dict:
    return next(link.model_dump(mode="json") for link in build_machine().plans[0].links if link.kind == "roller_chain")


def worm(**fields) -> Reducer:
    return Reducer(designation="PW-5 10:1", data=tables.unit("PW-5 10:1"), **fields)


@pytest.mark.parametrize(
    ("fields", "away", "over"),
    [
        ({}, (1, 0, 0), -80),
        ({"output_points": "left"}, (-1, 0, 0), -80),
        ({"worm_sits": "under"}, (1, 0, 0), 80),
        ({"mounting": "output_up"}, (0, 1, 0), 0),
        ({"mounting": "output_down", "output_points": "left"}, (0, -1, 0), 0),
    ],
)
def test_the_output_of_a_worm_unit_points_as_it_is_mounted(fields, away, over):
    plan, line = solved(worm(**fields))
    (stand,) = place(plan, line).stands
    assert stand.turned.away == pytest.approx(away)
    assert stand.driven[1] - stand.turned.away[1] * 135 / 2 == pytest.approx(over)


def test_a_chain_beyond_a_right_angle_is_edge_on_in_front_and_a_loop_from_the_side():
    plan, line = solved(build_belt(), worm(), build_chain())
    bands = [shape for shape in elevation(plan, line).shapes if getattr(shape, "role", "") == "band chain"]
    assert len(bands) == 1
    assert bands[0].part == "link-3"
    side = side_elevation(plan, line)
    (loop,) = (shape for shape in side.shapes if isinstance(shape, Loop) and shape.role == "loop chain")
    first, second = (shape.at for shape in side.shapes if isinstance(shape, Axle))
    assert hypot(first[0] - second[0], first[1] - second[1]) == pytest.approx(line.links[2].center_distance_mm)
    assert loop.part == "link-3"
    above = [shape for shape in plan_view(plan, line)[0].shapes if getattr(shape, "role", "") == "band chain"]
    assert len(above) == 1, "edge on from above too"
    verticals = {round(x, 3) for band in (*bands, *above) for x, _ in band.points}
    assert len(verticals) == 2, "on one vertical in both views"


def test_a_chain_on_an_upright_shaft_is_a_loop_in_the_plan_and_needs_no_side():
    plan, line = solved(build_belt(), worm(mounting="output_up"), build_chain())
    assert side_elevation(plan, line) is None
    drawing, placed = plan_view(plan, line)
    (loop,) = (shape for shape in drawing.shapes if isinstance(shape, Loop))
    assert loop.role == "loop chain"
    assert apart(placed, 2, 3) == pytest.approx(line.links[2].center_distance_mm)


@pytest.mark.parametrize("shafts_deg", [60.0, 90.0, 110.0])
@pytest.mark.parametrize("points", ["right", "left", "up", "down"])
def test_bevel_wheels_share_the_tip_of_their_cones(shafts_deg, points):
    """The large ends of both lie a cone distance from where the axes cross: exact."""
    link = BevelPair(
        driver_teeth=20, driven_teeth=36, module_mm=4.0, face_width_mm=24.0, shafts_deg=shafts_deg, output_points=points
    )
    plan, line = solved(link)
    placed = place(plan, line)
    (stand,) = placed.stands
    assert apart(placed, 0, 1) == pytest.approx(0, abs=1e-9)
    assert degrees(numpy.arccos(dot(stand.axes.away, stand.turned.away))) == pytest.approx(shafts_deg)
    half = 12 * cos(link.cones[0])
    tip = stand.axes.at(stand.driver, away=half + (40 - 24 * sin(link.cones[0])) / numpy.tan(link.cones[0]))
    small = stand.turned.at(stand.driven, away=-12 * cos(link.cones[1]))
    # the driven wheel's small end is b sin γ smaller in radius than its large end
    assert numpy.linalg.norm(numpy.subtract(small, tip)) == pytest.approx(
        (72 - 24 * sin(link.cones[1])) / numpy.tan(link.cones[1])
    )


def test_shafts_in_line_stand_in_line_and_lie_side_by_side_only_unfolded():
    unit = Reducer(designation="PC-1 11:1", data=tables.unit("PC-1 11:1"))
    plan, line = solved(build_belt(), unit, build_chain())
    true, flat = place(plan, line), place(plan, line, unfolded=True)
    assert true.centers[1] == true.centers[2] != flat.centers[2]
    assert true.spots[2][2] - true.stands[1].driver[2] == pytest.approx(150), "as long as it is listed"
    notes = [
        shape.text for shape in elevation(plan, line, unfolded=True).shapes if getattr(shape, "role", "") == "note"
    ]
    assert notes == ["shafts on one axis are drawn side by side"]
    assert not [shape for shape in elevation(plan, line).shapes if getattr(shape, "role", "") == "note"]


def test_the_same_drive_has_one_set_of_center_distances_however_it_turns():
    for fields in ({}, {"output_points": "left"}, {"mounting": "output_up"}, {"mounting": "output_down"}):
        plan, line = solved(build_belt(angle_deg=30), worm(**fields), build_chain())
        placed = place(plan, line)
        for index, link in enumerate(line.links):
            if link.center_distance_mm is not None:
                assert apart(placed, index, index + 1) == pytest.approx(link.center_distance_mm)


def crossed(driver_at_mm: float, length_mm: float | None):
    """A belt, a bevel pair and a belt again, whose pulley stands on the crossed shaft at a station."""
    bevel = {"kind": "bevel_pair", "driver_teeth": 20, "driven_teeth": 20, "module_mm": 4.0, "face_width_mm": 18.0}
    raw = build_machine([build_belt(), bevel, build_belt()]).model_dump(mode="json")
    jack = {"length_mm": length_mm, "driven_at_mm": 40, "driver_at_mm": 200, "bearing_1_mm": 80, "bearing_2_mm": 160}
    last = {
        "length_mm": 500,
        "driven_at_mm": 100,
        "driver_at_mm": driver_at_mm,
        "bearing_1_mm": 250,
        "bearing_2_mm": 450,
    }
    raw["plans"][0]["shafts"] = [{"shaft": n, "diameter_mm": 30.0, "span": span} for n, span in ((2, jack), (3, last))]
    return Machine.model_validate(raw)


def test_a_pulley_that_stands_in_a_crossed_shaft_is_told_and_one_beside_it_is_not():
    """The pulley's plane is 5 mm off the axis of the shaft it crosses: 15 mm of shaft and half a face overlap."""

    def deep(driver_at_mm: float, length_mm: float | None) -> float | None:
        result = solve_plan(machine := crossed(driver_at_mm, length_mm), machine.plans[0])
        found = [one for one in result.findings if one.code == "fit.wheel_into_shaft" and one.subject == "shaft-2"]
        return found[0].measured if found else None

    plan = crossed(75, 400).plans[0]
    placed = place(plan, solve_plan(crossed(75, 400), plan).chosen)
    wheel, axis_x = placed.wheels(2)[0], placed.centers[1][0]
    beside = wheel.middle[0] - axis_x
    assert deep(75, 400) == pytest.approx(15 + wheel.half - beside, abs=0.5)
    assert deep(75, None) is None, "where the shaft ends nobody entered"
    assert deep(200, 400) is None, "the pulley stands clear"
