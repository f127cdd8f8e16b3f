"""The least case round a train: statics, room and oil, against sums written out, a second beam and shapely."""

from __future__ import annotations

from math import hypot, pi, tan

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import Point, Polygon, box

from draws import draws
from pulltide.core.fit.beam import Load, Piece, bend
from pulltide.core.sketch import Dimension, Hatch, Line
from pulltide.core.spur.case_section import case_section
from pulltide.core.spur.gear_case import DIP_MM, SEAT_MM, SUMP_MM, TIP_MM, GearCase, Pair, Places, _forces, gear_case

SLOPE = tan(20 * pi / 180)
TWO = (Pair(3, (18, 54), 30, 20.0, 1450.0), Pair(3, (18, 54), 30, 58.0, 1450 / 3))


def made(pairs=TWO, folded: bool = True) -> GearCase:
    return gear_case(pairs, folded=folded, pressure_angle_deg=20)


def test_two_pairs_of_one_size_fold_into_the_room_of_one_center_distance():
    """Centers 108 mm; the pinion's tip 30 mm on one side, the wheel's 84 on the other, on both axes."""
    case = made()
    assert case.reach_mm == (-84.0, 192.0)
    assert case.inside_mm[0] == 84 + 192 + 2 * TIP_MM
    assert case.inside_mm[1] == 2 * 84 + TIP_MM + SUMP_MM
    wall = 0.025 * 108 + 3
    assert case.wall_mm == max(8.0, wall)
    row = made(folded=False)
    assert row.inside_mm[0] == 30 + 216 + 84 + 2 * TIP_MM, "in a row both distances lie side by side"
    assert row.inside_mm[2] < case.inside_mm[2], "and no wall stands between the pairs"


def test_along_the_shafts_everything_has_its_place_in_order():
    """Bearings, gaps, faces, and between the pairs the boss with a bearing of each shaft on that axis."""
    places = Places.of(TWO, folded=True)
    wide = [one.width_mm for one in places.bearings]
    gap = max(8.0, 1.2 * places.wall_mm)
    boss = wide[0] + 8 + wide[2]
    assert places.long_mm == pytest.approx(
        max(wide[0], wide[1]) + gap + 30 + gap + boss + gap + 30 + gap + max(wide[1], wide[2])
    )
    (first, second), (low, high) = places.pairs_mm, places.held_mm[1]
    assert low < first < places.held_mm[0][1] < places.held_mm[2][0] < second < high
    assert second - first == pytest.approx(30 + 2 * gap + boss)


def test_on_the_countershaft_teeth_push_it_away_together_and_round_against_each_other():
    """Folded, both meshes lie on one side; in a row on both. Tooth force 2000 T / d, apart W tan 20°."""
    around = [2000 * 20 / 54, 2000 * 58 / 54]
    for folded in (True, False):
        (_, (x1, y1)), (_, (x2, y2)) = _forces(Places.of(TWO, folded), 1, SLOPE)
        assert (abs(y1), abs(y2)) == pytest.approx(around)
        assert (abs(x1), abs(x2)) == pytest.approx([one * SLOPE for one in around])
        assert (x1 * x2 > 0) is folded
        assert (y1 * y2 < 0) is folded


@pytest.mark.parametrize("folded", [True, False])
def test_bearing_loads_are_those_of_a_beam_on_the_same_places(folded):
    places, case = Places.of(TWO, folded), made(folded=folded)
    for number, shaft in enumerate(case.shafts):
        held = places.held_mm[number]
        forces = list(_forces(places, number, SLOPE))
        ends = min(held[0], *(at for at, _ in forces)), max(held[1], *(at for at, _ in forces))
        planes = [
            bend((Piece(*ends, shaft.diameter_mm),), held, [Load(at, force[plane]) for at, force in forces])
            for plane in (0, 1)
        ]
        found = [hypot(*pair) for pair in zip(*(plane.reactions_n.tolist() for plane in planes), strict=True)]
        assert shaft.load_n == pytest.approx(max(found), rel=1e-6)
        hours = (shaft.bearing.dynamic_n / shaft.load_n) ** 3 * 1e6 / (60 * shaft.speed_rpm)
        assert shaft.life_h == pytest.approx(min(hours, 100_000))


def test_shafts_are_as_thick_as_their_torque_needs_and_take_the_next_bearing():
    case = made()
    torques = (20.0, 58.0, 174.0)
    for shaft, torque in zip(case.shafts, torques, strict=True):
        assert 16_000 * torque / (pi * shaft.diameter_mm**3) == pytest.approx(40.0)
        assert shaft.bearing.bore_mm >= shaft.diameter_mm
    assert case.seat_mm == pytest.approx(108 - (62 + 47) / 2)
    assert case.seat_mm > SEAT_MM


def test_oil_fills_the_sump_up_to_where_the_largest_gear_dips_less_what_dips():
    """Against the area that shapely finds of each wheel under the level."""
    case, places = made(), Places.of(TWO, folded=True)
    assert case.dip_mm == DIP_MM
    level = -(84 - DIP_MM)
    dipped = 0.0
    for number, pair in enumerate(TWO):
        for side in (0, 1):
            at = places.axes_mm[places.axes[number + side]]
            wheel = Point(at, 0).buffer(pair.tip_mm(side), quad_segs=512)
            dipped += wheel.intersection(box(-1e4, -1e4, 1e4, level)).area * pair.face_mm
    trough = case.inside_mm[0] * case.inside_mm[2] * (SUMP_MM + DIP_MM)
    assert case.oil_l == pytest.approx((trough - dipped) / 1e6, rel=1e-4)


def test_the_mass_is_that_of_walls_gears_and_shafts():
    case = made()
    x, y, z = case.inside_mm
    outside = (x + 2 * case.wall_mm) * (y + 2 * case.wall_mm) * (z + 2 * case.wall_mm)
    assert case.case_kg == pytest.approx(1.25 * 7.2e-6 * (outside - x * y * z))
    wheels = sum(0.85 * 7.85e-6 * pi * (3 * teeth) ** 2 / 4 * 30 for teeth in (18, 54, 18, 54))
    assert wheels < case.gears_kg < 1.3 * wheels
    assert case.mass_kg == case.case_kg + case.gears_kg
    assert case.volume_l == pytest.approx(x * y * z / 1e6)


@settings(max_examples=draws(60), deadline=None)
@given(
    st.lists(st.tuples(st.integers(14, 40), st.integers(14, 120)), min_size=2, max_size=3),
    st.floats(1.0, 6.0),
    st.floats(0.5, 400.0),
    st.booleans(),
)
def test_everything_lies_inside_whatever_the_train(teeth, module, torque, folded):
    pairs, speed = [], 1450.0
    for pair in teeth:
        pairs.append(Pair(module, pair, 10 * module, torque, speed))
        torque, speed = torque * pair[1] / pair[0], speed * pair[0] / pair[1]
    places, case = Places.of(pairs, folded), made(pairs, folded)
    stations = [at for pair in places.held_mm for at in pair] + list(places.pairs_mm)
    assert min(stations) > 0
    assert max(stations) < case.inside_mm[2]
    assert all(low < high for low, high in places.held_mm)
    assert case.oil_l > 0
    assert case.outside_mm > case.inside_mm


@pytest.mark.parametrize("folded", [True, False])
def test_the_section_shows_the_case_that_is_worked_out(folded):
    """Gears mesh at their pitch circles and stand clear of metal and of other pairs; measures are the case's."""
    case, drawing = made(folded=folded), case_section(TWO, folded=folded)
    lines = [shape for shape in drawing.shapes if isinstance(shape, Line) and shape.closed]
    gears = [Polygon(line.points) for line in lines if line.role == "motion"]
    metal = [Polygon(shape.outline) for shape in drawing.shapes if isinstance(shape, Hatch)]
    assert len(gears) == 4
    assert len(metal) == (6 if folded else 4), "and both sides of the boss"
    for first, second in ((0, 1), (2, 3)):
        left, _, right, _ = gears[first].intersection(gears[second]).bounds
        assert right - left == pytest.approx(2 * TWO[0].module_mm), "each reaches an addendum past the pitch line"
    for gear in gears:
        assert not any(gear.intersects(wall) for wall in metal)
    assert not any(gears[a].intersects(gears[b]) for a in (0, 1) for b in (2, 3))
    inside = [shape.value for shape in drawing.shapes if isinstance(shape, Dimension) and shape.name == "inside"]
    assert inside == pytest.approx([case.inside_mm[0], case.inside_mm[2]])


def test_a_life_that_more_bearings_reach_is_shorter():
    """a1 of ISO 281, Table 12: 0.64 at 95 %, 0.25 at 99 %."""
    hard = (Pair(3, (18, 54), 30, 90.0, 1450.0), Pair(3, (18, 54), 30, 260.0, 1450 / 3))
    lives = [gear_case(hard, folded=True, pressure_angle_deg=20, reliability=share).life_h for share in (90, 95, 99)]
    assert lives[1:] == pytest.approx([0.64 * lives[0], 0.25 * lives[0]])
