"""Wheels to make: outlines against what runs in them, measures against published values and the outline itself."""

from __future__ import annotations

from math import atan2, cos, degrees, hypot, pi, radians, sin, tan

import pytest
from shapely import affinity
from shapely.geometry import LineString, Point, Polygon

from builders import LOOKED_UP, build_belt, build_machine, looked_up
from pulltide.core.ends import end_kind
from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.links import family_of
from pulltide.core.links.lantern.inputs import Lantern
from pulltide.core.links.lantern.making import flank
from pulltide.core.links.lantern.making import makes as lantern_makes
from pulltide.core.links.lantern.making import wheel_outline as lantern_outline
from pulltide.core.links.roller_chain import tables as chains
from pulltide.core.links.roller_chain.geometry import pitch_diameter_mm
from pulltide.core.links.roller_chain.making import gap_form, sprocket_outline
from pulltide.core.links.toothed_belt.making import groove_at as timing_groove
from pulltide.core.links.toothed_belt.making import pulley_outline
from pulltide.core.links.v_belt.making import groove_at
from pulltide.core.machine import Plan
from pulltide.core.made.of_plan import wheels_of
from pulltide.core.spur.form import THINNED, Tooth, contact_path, tight_center
from pulltide.core.spur.making import (
    between_pins_mm,
    gear_outline,
    made_gear,
    over_pins_mm,
    rack_outline,
    ring_outline,
    ring_tip,
    span_mm,
)
from pulltide.quantities import Units
from pulltide.words import filled

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
    told = {filled(measure.name, Units()): measure.value for measure in wheel.measures}
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
        return wheels_of(machine, Plan.model_validate(raw, context=LOOKED_UP))["1-driver"]

    assert (bored(19.05).bore_mm, bored(19.05).key_mm[0]) == (19.05, 5.0)
    assert bored(80.0).bore_mm is None


RINGS = [(20, 60, 20.0), (18, 54, 20.0), (30, 90, 20.0), (17, 51, 25.0), (40, 80, 14.5), (30, 41, 20.0)]


@pytest.mark.parametrize(("pinion", "teeth", "angle"), RINGS)
def test_a_pinion_rolls_in_its_ring_without_touching_but_for_the_backlash(pinion, teeth, angle):
    module, first = 3.0, Tooth(pinion, angle)
    gap = polygon(ring_outline(teeth, angle, ring_tip(first, teeth), module))
    gear = polygon(gear_outline(first, module))
    center = module * (teeth - pinion) / 2
    for number in range(8):
        turn = 360 / pinion * number / 8
        inside = affinity.translate(affinity.rotate(gear, turn, origin=(0, 0)), 0, center)
        ring = affinity.rotate(gap, turn * pinion / teeth, origin=(0, 0))
        assert inside.difference(ring).area < 1e-3
        assert 0.005 * module < inside.distance(ring.exterior) < 0.06 * module


@pytest.mark.parametrize(("pinion", "teeth", "addendum"), [(17, 51, 0.812), (20, 60, 0.932), (30, 90, 0.984)])
def test_a_ring_is_bored_until_it_clears_its_pinion(pinion, teeth, addendum):
    """Addendum left to a ring at standard centers, recomputed from rolled polygons."""
    assert teeth / 2 - ring_tip(Tooth(pinion), teeth) == pytest.approx(addendum, abs=1e-3)


def test_between_pins_is_what_pins_in_the_ring_measure():
    """m 2, pin 2.88: 77.3289 mm with 40 teeth, 67.2579 mm with 35; then pins laid into the outline."""
    assert between_pins_mm(40, 20.0, 2.0, 2.88) == pytest.approx(77.3289, abs=1e-4)
    assert between_pins_mm(35, 20.0, 2.0, 2.88) == pytest.approx(67.2579, abs=1e-4)
    gap = polygon(ring_outline(40, 20.0, 19.2, 2.0, 0.001))
    low, high = 36.0, 43.0
    for _ in range(50):
        at = (low + high) / 2
        inside = gap.contains(Point(0, at).buffer(1.44, 256))
        low, high = (at, high) if inside else (low, at)
    assert 2 * low - 2.88 == pytest.approx(between_pins_mm(40, 20.0, 2.0, 2.88, THINNED), abs=0.01)


def test_a_pair_in_a_ring_makes_both():
    pair = {"driver_teeth": 18, "driven_teeth": 60, "module_mm": 2, "face_width_mm": 20, "mesh": "internal"}
    pinion, ring = family_of("gear_pair").makes(family_of("gear_pair").model.model_validate(pair))
    assert (pinion.side, ring.side, ring.hub) == ("driver", "driven", False)
    assert Polygon(ring.outline, ring.holes).is_valid


@pytest.mark.parametrize("teeth", [14, 20, 60])
def test_a_pinion_rolls_along_its_rack(teeth):
    module = 3.0
    rack, gear = polygon(rack_outline(module, 12)), polygon(gear_outline(Tooth(teeth), module))
    for number in range(8):
        share = number / 8
        turned = affinity.rotate(gear, 180 - 360 / teeth * share, origin=(0, 0))
        placed = affinity.translate(turned, pi * module * (5 + share), module * teeth / 2)
        assert placed.intersection(rack).area < 1e-3
        assert placed.distance(rack) < 0.06 * module


def test_a_rack_moves_on_by_its_pitch():
    (_, rack) = end_kind("rack").makes(end_kind("rack").model(module_mm=2.5, teeth=20))
    told = {measure.name: measure.value for measure in rack.measures}
    assert told["Tooth to tooth"] == pytest.approx(7.854, abs=1e-3)
    xs = [x for x, _ in rack.outline]
    assert max(xs) - min(xs) == pytest.approx(told["Teeth drawn"] * told["Tooth to tooth"])


@pytest.mark.parametrize(("profile", "teeth", "pin", "over"), [("XL", 20, 2.5, 34.117), ("L", 17, 4.5, 54.503)])
def test_a_timing_pulley_measures_over_pins_what_is_published(profile, teeth, pin, over):
    """XL 20 t with pins of 2.5, L 17 t with 4.5: recomputed by two code paths. Source: ISO 5294, from memory."""
    groove = timing_groove(profile, teeth)
    assert groove.pin_mm == pin
    assert groove.over_pins_mm(teeth, pin) == pytest.approx(over, abs=1e-3)


PROFILES = ["XL", "L", "H", "T5", "T10", "3M", "5M", "8M", "14M"]


@pytest.mark.parametrize("profile", PROFILES)
@pytest.mark.parametrize("teeth", [17, 20, 40])
def test_pins_in_the_grooves_of_a_timing_pulley_measure_what_the_sheet_says(profile, teeth):
    groove = timing_groove(profile, teeth)
    wheel = polygon(pulley_outline(profile, teeth))
    assert max(hypot(*point) for point in wheel.exterior.coords) == pytest.approx(groove.outside, abs=1e-6)
    pin = groove.pin_mm
    if pin is None:
        assert profile in ("H", "T5", "T10")
        return
    low, high = groove.floor_radius - 1, groove.outside + pin
    for _ in range(60):
        at = (low + high) / 2
        touching = wheel.distance(Point(0, at)) < pin / 2
        low, high = (at, high) if touching else (low, at)
    odd = cos(pi / 2 / teeth) if teeth % 2 else 1.0
    assert 2 * high * odd + pin == pytest.approx(groove.over_pins_mm(teeth, pin), abs=0.02)


BELT_TEETH = [("XL", 2.57, 1.27, 50), ("L", 4.65, 1.91, 40), ("H", 6.12, 2.29, 40)]


@pytest.mark.parametrize(("profile", "wide", "high", "angle"), BELT_TEETH)
def test_the_tooth_of_a_belt_sits_in_the_groove_free_of_its_floor(profile, wide, high, angle):
    """Tooth of ISO 5296, from memory, on the pitch line of the belt, half its outside allowance over the rim."""
    teeth = 24
    groove = timing_groove(profile, teeth)
    wheel = polygon(pulley_outline(profile, teeth))
    slope = tan(radians(angle / 2))
    root = groove.outside + 0.001
    tooth = Polygon(
        [
            (-wide / 2, root),
            (wide / 2, root),
            (wide / 2 - high * slope, root - high),
            (high * slope - wide / 2, root - high),
        ]
    )
    assert tooth.intersection(wheel).area < 0.02 * tooth.area
    assert root - high > groove.floor_radius


LANTERNS = [(8, 48, 20, 9), (10, 36, 15, 6), (12, 60, 20, 9), (20, 30, 12, 4), (40, 10, 20, 8)]


@pytest.mark.parametrize(("pins", "teeth", "pitch", "pin"), LANTERNS)
def test_pins_of_a_lantern_roll_through_its_wheel(pins, teeth, pitch, pin):
    """Pins swept through a pitch never overlap the outline, and are never farther off than the play."""
    link = Lantern(
        pins=pins, wheel_teeth=teeth, circular_pitch_mm=pitch, pin_diameter_mm=pin, pin_span_mm=30, wheel_face_mm=20
    )
    wheel = polygon(lantern_outline(link))
    r1, r2 = pitch * pins / 2 / pi, pitch * teeth / 2 / pi
    for number in range(16):
        turn = 2 * pi / pins * number / 16
        still = affinity.rotate(wheel, turn * r1 / r2, origin=(0, 0), use_radians=True)
        around = [turn + 2 * pi * k / pins for k in range(pins)]
        placed = [Point(r1 + r2 - r1 * cos(a), r1 * sin(a)).buffer(pin / 2, 64) for a in around]
        assert max(still.intersection(one).area for one in placed) < 1e-6
        assert min(still.distance(one) for one in placed) < 0.011 * pitch


@pytest.mark.parametrize(("pins", "pin_mm"), [(12, 11.5), (12, 17.1), (3, 10.0)])
def test_a_lantern_without_metal_between_its_pins_or_gaps_is_not_drawn(pins: int, pin_mm: float):
    """At 12 mm pitch: no tooth is left, pins lie in each other, pins meet across a pinion of three."""
    usual = {"pins": pins, "wheel_teeth": 60, "circular_pitch_mm": 12, "pin_span_mm": 20, "wheel_face_mm": 16}
    assert not list(lantern_makes(Lantern(pin_diameter_mm=pin_mm, **usual)))
    (disc, wheel) = lantern_makes(Lantern(pin_diameter_mm=5.5, **usual))
    assert all(polygon(made.outline).is_valid for made in (disc, wheel))


def test_the_flank_of_a_lantern_wheel_ends_where_it_is_published():
    """8 pins, 48 teeth, pin 0.45 of the pitch, no land: ends at 60.94°, ratio 1.18, height 0.592 p; from swept pins."""
    found = flank(8, 48, 1.0, 0.225, 0.0)
    assert degrees(found.end) == pytest.approx(60.94, abs=0.06)
    assert found.contact_ratio(8) == pytest.approx(1.18, abs=0.005)
    assert found.tip - 48 / 2 / pi == pytest.approx(0.592, abs=1e-3)


def test_a_flat_pulley_is_crowned_once_and_as_high_as_iso_22_says():
    kind = family_of("plain_belt").model
    link = kind(
        belt="leather_1_ply", driver_diameter_mm=100, driven_diameter_mm=200, center_distance_mm=600, width_mm=80
    )
    straight, crowned = family_of("plain_belt").makes(link)
    assert {y for _, y in straight.outline[1:-1]} == {50.0}
    assert max(y for _, y in crowned.outline) == pytest.approx(100.6, abs=0.006)
    assert min(y for x, y in crowned.outline[1:-1]) == pytest.approx(100.0)
    assert straight.face_mm == pytest.approx(90.0)


def test_a_round_belt_has_no_flat_pulleys():
    kind = family_of("plain_belt").model
    link = kind(belt="urethane_round_1_4", driver_diameter_mm=100, driven_diameter_mm=200, center_distance_mm=600)
    assert list(family_of("plain_belt").makes(link)) == []


def test_the_outline_of_the_largest_wheel_is_whole():
    pair = {"driver_teeth": 12, "driven_teeth": 400, "module_mm": 10, "face_width_mm": 20}
    _, large = family_of("gear_pair").makes(family_of("gear_pair").model.model_validate(pair))
    assert polygon(large.outline).area == pytest.approx(pi * 2000**2, rel=0.01)


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
