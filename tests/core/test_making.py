"""Wheels to make: outlines against what runs in them, measures against published values and the outline itself."""

from __future__ import annotations

from math import atan2, cos, hypot, pi, radians, sin, tan

import pytest
from shapely import affinity
from shapely.geometry import LineString, Point, Polygon

from builders import LOOKED_UP, build_belt, build_machine, looked_up
from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.links import family_of
from pulltide.core.links.roller_chain import tables as chains
from pulltide.core.links.roller_chain.geometry import pitch_diameter_mm
from pulltide.core.links.roller_chain.making import gap_form, sprocket_outline
from pulltide.core.links.v_belt.making import groove_at
from pulltide.core.machine import Plan
from pulltide.core.spur.form import Tooth, contact_path, tight_center
from pulltide.core.spur.making import gear_outline, made_gear, over_pins_mm, span_mm
from pulltide.core.wheels import wheels_of

INCH = 25.4


def polygon(outline) -> Polygon:
    made = Polygon(outline)
    assert made.is_valid
    assert made.exterior.is_ccw
    return made


PAIRS = [(17, 52, 0.0, 0.0), (12, 60, 0.0, 0.0), (20, 20, 0.0, 0.0), (14, 31, 0.3, 0.1), (9, 40, 0.5, 0.0)]


@pytest.mark.parametrize(("z1", "z2", "x1", "x2"), PAIRS)
def test_two_gears_roll_through_a_pitch_without_touching_but_for_the_backlash(z1, z2, x1, x2):
    """Cut outlines turned in mesh at their tight centers: never over each other, no looser than thinned."""
    module, first, second = 3.0, Tooth(z1, 20.0, x1), Tooth(z2, 20.0, x2)
    center = module * tight_center(first, second)
    one, two = polygon(gear_outline(first, module)), polygon(gear_outline(second, module))
    # tooth of the second against the gap of the first
    two = affinity.rotate(two, 0 if z2 % 2 else 180 / z2, origin=(0, 0))
    gaps = []
    for number in range(12):
        turn = 360 / z1 * number / 12
        a = affinity.rotate(one, turn, origin=(0, 0))
        b = affinity.translate(affinity.rotate(two, 180 - turn * z1 / z2 + 90 + 90, origin=(0, 0)), 0, center)
        gaps.append(a.distance(b))
        assert a.intersection(b).area < 1e-3
    assert max(gaps) < 0.06 * module


@pytest.mark.parametrize(("z", "module", "pin", "over"), [(17, 2.0, 3.5, 38.7568), (24, 2.5, 4.32, 65.9992)])
def test_over_pins_is_what_pins_in_the_outline_measure(z, module, pin, over):
    """Published check values, and pins laid into the gaps of the outline until they touch both flanks."""
    tooth = Tooth(z, thinned=0.0)
    assert over_pins_mm(tooth, module, pin) == pytest.approx(over, abs=2e-4)
    gear = polygon(gear_outline(tooth, module, 0.001))
    first = _pin_radius(gear, pi / 2 + pi / z, pin)
    angle = pi if z % 2 == 0 else pi - pi / z
    measured = 2 * first if z % 2 == 0 else 2 * first * sin(angle / 2)
    assert measured + pin == pytest.approx(over, abs=0.01)


def _pin_radius(gear: Polygon, angle: float, pin: float) -> float:
    low, high = 0.0, gear.bounds[2] * 1.3
    for _ in range(60):
        middle = (low + high) / 2
        inside = gear.distance(Point(middle * cos(angle), middle * sin(angle))) < pin / 2
        low, high = (middle, high) if inside else (low, middle)
    return high


def test_span_over_teeth_is_the_published_one():
    """m 2.5, 24 teeth, over 3: 19.2912 mm, recomputed by two code paths."""
    measured, count = span_mm(Tooth(24, thinned=0.0), 2.5)
    assert (round(measured, 4), count) == (19.2912, 3)


def test_the_outline_has_the_contact_ratio_that_the_formula_gives():
    """Where the true flank of the pinion begins and ends in the outline bounds the path of contact."""
    first, second = Tooth(17), Tooth(52)
    outline = gear_outline(first, 1.0, 0.0005)
    radii = [hypot(*point) for point in outline]
    assert max(radii) == pytest.approx(first.tip_radius, abs=1e-6)
    base = first.base_radius
    start = max((first.form[0] ** 2 - base**2) ** 0.5, 0.3072)
    end = (max(radii) ** 2 - base**2) ** 0.5
    ratio = (end - start) / (pi * cos(radians(20)))
    assert ratio == pytest.approx(contact_path(first, second).ratio, abs=0.02)


CHAINS = ("40", "50", "60", "12B")


@pytest.mark.parametrize("chain", CHAINS)
@pytest.mark.parametrize("teeth", [9, 11, 17, 18, 38])
def test_a_chain_seats_in_the_sprocket_and_swings_out_without_touching(chain, teeth):
    """A roller in every gap touches its seat alone; one swung on a pitch about its seated neighbor clears the tooth."""
    size = chains.sizes()[chain]
    pitch, roller = size.pitch_mm, size.roller_diameter_mm
    wheel = polygon(sprocket_outline(pitch, roller, teeth))
    around = pitch_diameter_mm(pitch, teeth) / 2
    seat = gap_form(pitch, roller, teeth)[0]
    for number in range(teeth):
        angle = pi / 2 + 2 * pi * number / teeth
        center = Point(around * cos(angle), around * sin(angle))
        assert wheel.distance(center) == pytest.approx(seat, abs=0.01)
    still = (around * cos(pi / 2), around * sin(pi / 2))
    other = (around * cos(pi / 2 - 2 * pi / teeth), around * sin(pi / 2 - 2 * pi / teeth))
    start = atan2(other[1] - still[1], other[0] - still[0])
    clear = []
    for number in range(1, 25):
        turn = start + 2 * pi / teeth * number / 24
        center = Point(still[0] + pitch * cos(turn), still[1] + pitch * sin(turn))
        clear.append(wheel.distance(center) - roller / 2)
    assert min(clear) > 0.02


def test_a_sprocket_measures_over_pins_what_is_published():
    """Chain 40, 17 teeth: pitch diameter 69.116 mm, over pins 76.741 mm. Source: ISO 606, from memory, recomputed."""
    wheels = list(family_of("roller_chain").makes(_chain(17)))
    told = {measure.name: measure.value for measure in wheels[0].measures}
    assert told["Pitch diameter"] == pytest.approx(69.116, abs=1e-3)
    assert told["Over two pins"] == pytest.approx(76.741, abs=0.02)
    assert 72.70 <= told["Outside diameter"] <= 77.07


def _chain(teeth: int):
    kind = family_of("roller_chain").model
    return kind.model_validate({"chain": "40", "driver_teeth": teeth, "driven_teeth": 34, "pitches": 80})


def test_a_groove_at_four_inches_is_the_published_one():
    """A, 4.0 in outside, 34°, ball 7/16 in: over balls 4.3181 in, top slide 17°, bottom 0.2127 in, feed 0.4810 in."""
    groove = groove_at("A", 4.0 * INCH)
    assert groove.over_pins_mm / INCH == pytest.approx(4.3181, abs=2e-4)
    assert groove.bottom_mm / INCH == pytest.approx(0.2127, abs=2e-4)
    assert groove.depth_mm / cos(groove.half) / INCH == pytest.approx(0.4810, abs=2e-4)
    assert groove.angle_deg / 2 == 17


def _pulleys(**changes):
    link = looked_up(family_of("v_belt").model, **build_belt(**changes))
    return list(family_of("v_belt").makes(link))


@pytest.mark.parametrize("belts", [1, 3])
def test_a_belt_sits_in_the_groove_at_the_rim_and_off_the_floor(belts):
    """The section of a new A belt, 12.7 mm wide and 8.6 deep at 40°, lies near the rim and never on the floor."""
    wheel = _pulleys(belts=belts)[0]
    profile = (
        polygon(tuple(reversed(wheel.outline)))
        if not Polygon(wheel.outline).exterior.is_ccw
        else polygon(wheel.outline)
    )
    assert wheel.turned
    top = max(y for _, y in wheel.outline)
    groove = groove_at("A", 2 * top)
    belt_low = groove.top_mm - 2 * 8.6 * ((groove.top_mm / 2 - groove.bottom_mm / 2) / groove.depth_mm)
    assert belt_low > groove.bottom_mm
    assert groove.depth_mm > 8.6
    gaps = LineString([(-1, top - 1), (wheel.face_mm + 1, top - 1)]).difference(profile)
    assert len(gaps.geoms) == belts + 2


def test_a_pin_in_the_turned_groove_measures_what_the_table_says():
    wheel = _pulleys()[0]
    told = {measure.name: measure.value for measure in wheel.measures}
    section = Polygon(wheel.outline)
    middle, pin = wheel.face_mm / 2, groove_at("A", told["Outside diameter"]).pin_mm
    low, high = 0.0, told["Outside diameter"]
    for _ in range(60):
        at = (low + high) / 2
        low, high = (at, high) if section.distance(Point(middle, at)) < pin / 2 else (low, at)
    assert 2 * high + pin == pytest.approx(told["Over two pins"], abs=0.01)


def test_a_cone_has_every_step_and_a_drum_is_not_turned():
    steps = [{"driver_diameter_mm": d, "driven_diameter_mm": 200.0 - d} for d in (80.0, 100.0, 120.0)]
    first, second = _pulleys(steps=steps, belt="A60")
    assert first.title == "V-belt pulley, 3 steps"
    assert [m.value for m in second.measures if m.name.startswith("Outside")] == [120.0, 100.0, 80.0]
    (alone,) = _pulleys(driven_rim="flat_drum")
    assert alone.side == "driver"


def test_a_wheel_is_bored_for_its_shaft_only_where_its_rim_leaves_room():
    machine = build_machine([build_belt()])
    raw = machine.plans[0].model_dump(mode="json")

    def bored(diameter: float):
        raw["shafts"] = [{"shaft": 1, "diameter_mm": diameter, "key_width_mm": 5.0}]
        return wheels_of(Plan.model_validate(raw, context=LOOKED_UP))["1-driver"]

    assert (bored(19.05).bore_mm, bored(19.05).key_mm[0]) == (19.05, 5.0)
    assert bored(80.0).bore_mm is None


def test_a_ring_is_not_cut_by_the_outline_of_a_gear():
    pair = {"driver_teeth": 18, "driven_teeth": 60, "module_mm": 2, "face_width_mm": 20, "mesh": "internal"}
    sides = [wheel.side for wheel in family_of("gear_pair").makes(family_of("gear_pair").model.model_validate(pair))]
    assert sides == ["driver"]


def test_a_form_that_cannot_be_is_said():
    with pytest.raises(ImpossibleGeometry):
        tight_center(Tooth(6, shift=-3.0), Tooth(6, shift=-3.0))


@pytest.mark.parametrize("angle", [14.5, 20.0, 25.0])
def test_a_deeper_cut_takes_off_the_span_what_the_order_of_work_says(angle):
    """Cut deeper by d, a tooth is thinner by 2 d tan φ on the pitch circle: the span by that times cos φ."""
    deeper = 0.05
    plain, cut = Tooth(30, angle, thinned=0.0), Tooth(30, angle, thinned=2 * deeper * tan(radians(angle)))
    off = (span_mm(plain, 1.0)[0] - span_mm(cut, 1.0)[0]) / deeper
    wheel = made_gear("driver", plain, 1.0, 10.0)
    assert f"takes off {off:.2f} of its depth" in wheel.order[2]


def test_a_cone_of_two_groove_angles_names_both_set_overs():
    (driver, *_) = _pulleys(
        steps=[{"driver_diameter_mm": d, "driven_diameter_mm": 150.0} for d in (90.0, 180.0)], belt="A60"
    )
    assert "17° and 19°" in driver.order[2]
