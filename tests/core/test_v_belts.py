"""V-belts of every section, on drums and round idlers, against published and independent values."""

from __future__ import annotations

from itertools import pairwise
from math import isfinite, pi
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError
from shapely import LinearRing, Point, union_all

from builders import INCH, SHIPPED, build_belt, build_machine
from draws import draws
from pulltide.core.belt_path import Idler, Round, belt_path, center_with_idler_mm, with_idler
from pulltide.core.duty import Duty
from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.line import solve_line, solve_plan
from pulltide.core.links.v_belt import VBelt, rating, tables
from pulltide.core.links.v_belt.layout import layout
from pulltide.core.links.v_belt.transmission import service_factor
from pulltide.core.transmission import LinkResult, Sizing
from pulltide.demo import demo_machines

LIGHT = {"running_torque_nm": 2.0, "peak_torque_nm": 3.0, "breakaway_torque_nm": None}


def solved(**changes: Any) -> LinkResult:
    machine = build_machine(links=[build_belt(**{"measured_as": "pitch", **changes})], need=LIGHT)
    line = solve_line(machine, machine.plans[0])
    assert line is not None
    return line.links[0]


def step(driver_mm: float, driven_mm: float) -> list[dict[str, float]]:
    return [{"driver_diameter_mm": driver_mm, "driven_diameter_mm": driven_mm}]


@pytest.mark.parametrize(
    ("section", "inches", "rpm", "horsepower"),
    [
        ("C", 9.0, 1750, 15.984),
        ("C", 7.0, 870, 6.326),
        ("3VX", 2.8, 1750, 2.494),
        ("3VX", 8.0, 3450, 17.441),
        ("5V", 7.1, 1160, 11.714),
        ("5VX", 4.4, 1750, 8.698),
        ("5VX", 8.0, 575, 9.367),
    ],
)
def test_ratings_of_the_heavier_sections(section: str, inches: float, rpm: float, horsepower: float):
    """RMA IP-20 and IP-22 formulas as printed in Machinery's Handbook, constants from memory, worked separately."""
    assert rating.basic_rating_kw(section, inches * INCH, rpm, 1.0) / 0.745700 == pytest.approx(horsepower, abs=0.001)


def test_cogged_belts_carry_more_than_plain_ones_on_small_pulleys():
    """The trade's reason to buy them. Common practice, no source."""
    for plain, cogged in (("A", "AX"), ("B", "BX"), ("C", "CX"), ("5V", "5VX")):
        small = tables.section(plain).min_diameter_mm
        assert rating.basic_rating_kw(cogged, small, 1750, 1.0) > rating.basic_rating_kw(plain, small, 1750, 1.0)


@pytest.mark.parametrize("section", tables.section_names())
def test_a_rating_rises_with_the_pulley_and_falls_with_none(section: str):
    least = tables.section(section).min_diameter_mm
    rated = [rating.basic_rating_kw(section, least * times, 1160.0, 1.0) for times in (1.0, 1.2, 1.5, 2.0)]
    assert rated == sorted(rated)
    assert rated[0] > 0


def test_the_older_table_for_c_belts():
    """Shigley Table 17-12, from memory: C, 9.0 in pitch at 3000 ft/min; the standard rates about twice that."""
    old = tables.old_rating_hp("C", 9.0, 3000.0)
    assert old is not None
    now = rating.basic_rating_kw("C", 9.0 * INCH, 3000 / (pi * 9 / 12), 1.0) / 0.7457
    assert 1.7 < now / old < 2.2


def test_a_belt_on_a_flat_drum():
    """2.75 in pitch to a 20 in drum, A81: 20.41 in effective, 21.082 in centers, 130.48°, factor 0.861, 7.42 to 1."""
    link = solved(steps=step(2.75 * INCH, 20 * INCH), belt="A81", driven_rim="flat_drum")
    place = link.details.layout
    assert place.driven_pitch_mm == pytest.approx(20.41 * INCH, abs=0.01)
    assert place.center_mm == pytest.approx(21.082 * INCH, rel=0.002)
    assert place.wrap_deg == pytest.approx(130.48, rel=0.002)
    assert link.details.arc_factor == pytest.approx(0.861, abs=0.001)
    assert link.ratio == pytest.approx(7.42, rel=0.002)
    assert link.flow.driven_speed_rpm > 1740 / 7.42 * 0.98


def test_the_tension_ratio_of_a_drum():
    """At 145° on the groove: 3.656 on the V side, 2.988 on the drum, which decides. RMA IP-20 basis."""
    span = rating.Span(
        wrap_deg=145.0,
        speed_m_per_s=5.0,
        center_mm=500.0,
        chord_mm=480.0,
        mass_kg_per_m=0.1,
        locked=True,
        drum_wrap_deg=215.0,
    )
    assert rating.tension_ratio(145.0) == pytest.approx(3.656, rel=0.002)
    assert span.ratio == pytest.approx(2.988, rel=0.002)
    assert span.arc_factor == min(rating.arc_factor(145.0), rating.drum_arc_factor(215.0))


def test_drum_and_groove_run_out_of_grip_together_near_130_degrees():
    """RMA IP-20 engineering text, from memory: (D - d) / C about 0.84, wrap 130.6°."""
    both = [(rating.arc_factor(wrap), rating.drum_arc_factor(360 - wrap)) for wrap in (128.0, 133.0)]
    assert both[0][0] < both[0][1]
    assert both[1][0] > both[1][1]


@pytest.mark.parametrize(
    ("changes", "words"),
    [
        ({"run": "crossed"}, "crossed"),
        ({"section": "3V", "belt": "3V500", "driven_rim": "flat_drum"}, "flat drum"),
        ({"idler": "slack_strand_inside"}, "outside diameter"),
        ({"belt": "AX51"}, "A51"),
    ],
)
def test_what_a_v_belt_cannot_do_is_refused_with_the_reason(changes: dict[str, Any], words: str):
    with pytest.raises(ValidationError, match=words):
        VBelt.model_validate(build_belt(**changes))


def test_life_of_a_published_drive():
    """Shigley Example 17-4, from memory: B, 7.4 and 11 in, F1 64.4 lbf: peaks 142.2 and 116.8 lbf, 11e9 passes."""
    found = rating.life("B", 64.41 * rating.N_PER_LBF, (7.4 * INCH, 11 * INCH), 113.8 * INCH, 3390.3 * 0.00508)
    assert found is not None
    assert found.peak_small_n / rating.N_PER_LBF == pytest.approx(142.25, rel=0.001)
    assert found.peak_large_n / rating.N_PER_LBF == pytest.approx(116.77, rel=0.001)
    assert found.passes == pytest.approx(1.106e10, rel=0.005)
    assert found.hours == pytest.approx(46_620, rel=0.005), "told up to a thousand million passes"


def test_life_ranks_small_pulleys_as_the_method_does():
    """A, 40 lbf tight side, 10 in large pulley: 2.4 at 3.4 in, 1 at 3.0, 0.35 at 2.6, from the same equation."""
    passes = [
        rating.life("A", 40 * rating.N_PER_LBF, (d * INCH, 10 * INCH), 1400.0, 8.0).passes for d in (3.4, 3.0, 2.6)
    ]
    assert passes[0] / passes[1] == pytest.approx(2.4, abs=0.05)
    assert passes[2] / passes[1] == pytest.approx(0.35, abs=0.01)


def test_no_life_is_told_where_no_constants_are_known():
    assert solved().details.life is not None
    assert solved(section="AX", belt="AX51").details.life is None


def test_a_path_with_an_idler_on_the_back():
    """Exact tangents: 40 and 120 mm, 500 mm apart, back idler 35 mm at (150, 85): 1516.542 mm, 167.04/201.05/8.09°."""
    path = belt_path((Round(0, 0, 40), Round(500, 0, 120), Round(150, 85, 35, on_back=True)))
    assert path.length_mm == pytest.approx(1516.542, abs=0.001)
    assert [span.length_mm for span in path.spans] == pytest.approx([493.56, 325.12, 155.24], abs=0.01)
    assert path.wraps_deg == pytest.approx([167.04, 201.05, 8.09], abs=0.01)


def test_an_idler_that_misses_the_belt_is_refused():
    with pytest.raises(ImpossibleGeometry, match="does not touch"):
        belt_path((Round(0, 0, 40), Round(500, 0, 120), Round(150, 110, 35, on_back=True)))
    with pytest.raises(ImpossibleGeometry, match="in the way"):
        belt_path((Round(0, 0, 20), Round(300, 0, 20), Round(150, 4, 28)))
    with pytest.raises(ImpossibleGeometry, match="overlap"):
        belt_path((Round(0, 0, 40), Round(50, 0, 120)))


@given(st.floats(20, 100), st.floats(20, 150), st.floats(300, 900), st.floats(10, 60), st.floats(0.15, 0.85))
@settings(max_examples=draws(60))
def test_inside_wheels_run_along_their_hull(r1: float, r2: float, center: float, r3: float, share: float):
    """A belt round three wheels inside it is the convex hull of their circles: shapely's perimeter."""
    wheels = with_idler(r1, r2, center, Idler(r3, share, 12.0, on_back=False))
    try:
        path = belt_path(wheels)
    except ImpossibleGeometry:
        return
    discs = [Point(wheel.x_mm, wheel.y_mm).buffer(wheel.radius_mm, quad_segs=400) for wheel in wheels]
    assert path.length_mm == pytest.approx(union_all(discs).convex_hull.length, rel=1e-4)


def test_strands_of_a_back_idler_touch_every_wheel_and_cross_none():
    wheels = with_idler(40.0, 120.0, 500.0, Idler(50.0, 0.4, 25.0, on_back=True))
    path = belt_path(wheels)
    for wheel, before, after in zip(wheels, (path.spans[-1], *path.spans), path.spans, strict=False):
        for point in (before.end_mm, after.start_mm):
            assert Point(wheel.x_mm, wheel.y_mm).distance(Point(point)) == pytest.approx(wheel.radius_mm)
    corners = [point for span in path.spans for point in (span.start_mm, span.end_mm)]
    assert LinearRing(corners).is_simple


def test_the_center_with_an_idler_is_where_the_belt_is_taut():
    idler = Idler(45.0, 0.3, 20.0, on_back=True)
    center = center_with_idler_mm(1600.0, 45.0, 130.0, 520.0, idler)
    assert belt_path(with_idler(45.0, 130.0, center, idler)).length_mm == pytest.approx(1600.0, rel=1e-9)


def test_idlers_change_wrap_as_the_trade_says():
    """An outside idler adds wrap, an inside one takes it; both draw the shafts together on the same belt."""
    plain = solved().details.layout
    outside = solved(idler="slack_strand_outside", idler_diameter_mm=130.0, idler_push_mm=40.0).details.layout
    inside = solved(idler="slack_strand_inside", idler_diameter_mm=130.0, idler_push_mm=40.0).details.layout
    assert outside.wrap_deg > plain.wrap_deg > inside.wrap_deg
    assert outside.center_mm < plain.center_mm
    assert inside.center_mm < plain.center_mm
    assert outside.length_mm == pytest.approx(plain.length_mm, rel=1e-6)


@pytest.mark.parametrize(
    ("side", "adds"),
    [
        ("slack_strand_inside", 0.0),
        ("slack_strand_outside", 0.1),
        ("tight_strand_inside", 0.1),
        ("tight_strand_outside", 0.2),
    ],
)
def test_an_idler_adds_to_the_service_factor(side: str, adds: float):
    """Machinery's Handbook, V-belts, from memory."""
    more = solved(idler=side, idler_diameter_mm=130.0)
    assert more.service_factor.value - solved().service_factor.value == pytest.approx(adds)


@pytest.mark.parametrize(("section", "take_off_mm"), [("3V", 1.27), ("5V", 2.54), ("C", 10.16), ("SPA", 5.5)])
def test_outside_to_pitch_diameter(section: str, take_off_mm: float):
    """RMA IP-20 and IP-22, ISO 4183 (twice the least b), from memory."""
    belt = tables.listed_belts(SHIPPED, section)[len(tables.listed_belts(SHIPPED, section)) // 2].id
    link = VBelt.model_validate(build_belt(section=section, belt=belt, steps=step(250.0, 400.0)))
    assert layout(link, 1).driver_pitch_mm == pytest.approx(250.0 - take_off_mm, abs=0.01)


@given(
    st.sampled_from([name for name in tables.section_names() if tables.section(name).flat_drum_mm]),
    st.sampled_from(["none", "slack_strand_inside", "slack_strand_outside"]),
    st.floats(50, 300),
    st.floats(60, 900),
    st.floats(20, 400),
    st.floats(0, 200),
    st.data(),
)
@settings(max_examples=draws(120))
def test_drums_and_idlers_never_break_the_line(
    section: str, idler: str, driver: float, drum: float, idler_mm: float, push_mm: float, data: st.DataObject
):
    """No exception, no nan, no gain of power, over the allowed range; what does not fit says so."""
    belt = data.draw(st.sampled_from([belt.id for belt in tables.listed_belts(SHIPPED, section)]))
    link = solved(
        section=section,
        belt=belt,
        steps=step(driver, drum),
        driven_rim="flat_drum",
        idler=idler,
        idler_diameter_mm=idler_mm,
        idler_push_mm=push_mm,
    )
    assert 0 < link.efficiency < 1
    assert all(figure.value is None or isfinite(figure.value) for figure in link.figures)
    place = link.details.layout
    assert place.fault is not None or place.center_mm > (place.driver_outside_mm + place.driven_outside_mm) / 2


def test_more_push_never_gives_longer_centers():
    sizes = {"idler": "slack_strand_outside", "idler_diameter_mm": 130.0}
    centers = [solved(**sizes, idler_push_mm=push).details.layout.center_mm for push in (0.0, 10.0, 30.0, 60.0)]
    assert all(a >= b for a, b in pairwise(centers))


@pytest.mark.parametrize("belts", [1, 2, 3])
def test_belts_share_pull_and_tension_not_speed(belts: int):
    """Pull of each: the larger of 1000 P_d / (v N) and 2000 T_peak / (d N); rating N times, speed as of one. Exact."""
    one, several = solved(), solved(belts=belts)
    d = several.details
    design = 1000 * d.design_power_kw / (d.belt_speed_m_per_s * belts)
    peak = 2000 * several.flow.driver_peak_torque_nm / (d.layout.driver_pitch_mm * belts)
    assert d.tension.pull_n == pytest.approx(max(design, peak))
    assert d.capacity_kw == pytest.approx(belts * one.details.capacity_kw, rel=3e-3)
    assert d.belt_speed_m_per_s == pytest.approx(one.details.belt_speed_m_per_s, rel=3e-3)
    assert d.life.peak_small_n <= one.details.life.peak_small_n


def test_life_feels_the_tension_that_is_set():
    slack, tight = solved(static_tension_n=100.0).details.life, solved(static_tension_n=300.0).details.life
    assert slack.passes > tight.passes
    assert tight.peak_small_n - slack.peak_small_n == pytest.approx(200.0)


@pytest.mark.parametrize(
    ("section", "belt", "share"), [("5VX", "5VX600", 0.8), ("AX", "AX51", None), ("SPZ", "SPZ1250", None)]
)
def test_the_second_rating_is_the_cautious_one(section: str, belt: str, share: float | None):
    """0.8 of a narrow rating; the plain section under a cogged one; none where the first is an estimate."""
    small, rpm, speed = 130.0, 1450.0, 9.87
    first = rating.basic_rating_kw(section, small, rpm, 1.0)
    second = rating.cautious_rating_kw(section, small, rpm, speed)
    if section == "SPZ":
        assert second is None
    elif share:
        assert second == pytest.approx(share * first)
    else:
        assert second == pytest.approx(rating.basic_rating_kw("A", small, rpm, 1.0))
        assert second < first
    assert solved(section=section, belt=belt).details.capacity_kw > 0


@pytest.mark.parametrize(("section", "of", "share"), [("3V", "3VX", 0.8), ("SPZ", "3VX", 0.8), ("SPB", "5V", 0.8)])
def test_estimated_ratings_are_a_share_of_their_neighbor(section: str, of: str, share: float):
    """Common practice, no source; said so on screen."""
    own = rating.basic_rating_kw(section, 150.0, 1450.0, 2.0)
    assert own == pytest.approx(share * rating.basic_rating_kw(of, 150.0, 1450.0, 2.0))
    assert tables.section(section).estimated


def test_narrow_belts_gain_more_from_ratio_than_classical_ones():
    """Largest K_SR 1.1106 classical, 1.1278 narrow; none at 1:1. RMA IP-20 and IP-22, from memory."""
    assert tables.ratio_factor("classical", 5.0) == 1.1106
    assert tables.ratio_factor("narrow", 5.0) == 1.1278
    assert tables.ratio_factor("narrow", 1.0) == tables.ratio_factor("classical", 1.0) == 1.0
    for group in ("classical", "narrow"):
        factors = [tables.ratio_factor(group, ratio) for ratio in (1.0, 1.05, 1.2, 1.5, 2.0, 4.0)]
        assert factors == sorted(factors)


def test_supple_belts_lose_less_and_drums_creep_more():
    """Common practice, no source: cogged and narrow 0.7 of the bending, on a drum at least 1.4 % of creep."""
    plain, cogged, narrow = (rating.loss_model(name, 1, 1.0) for name in ("A", "AX", "3V"))
    assert plain.idle == pytest.approx(0.0225)
    assert (cogged.idle, cogged.creep) == pytest.approx((0.0105, 0.007))
    assert narrow.idle == cogged.idle
    assert rating.loss_model("A", 1, 2.0, on_drum=True).creep == 0.014


def test_an_arc_beyond_half_a_turn_counts_a_little_more():
    """Over 180° with an idler the formula holds, at most 1.05. Common practice, no source."""
    assert 1.0 < rating.arc_factor(190.0) < rating.arc_factor(240.0) <= 1.05


@pytest.mark.parametrize(("od", "section", "angle"), [(60, "3V", 36), (120, "3V", 38), (200, "3V", 40), (210, "C", 36)])
def test_groove_angles_of_the_heavier_sections(od: float, section: str, angle: float):
    """RMA IP-20 and IP-22, from memory."""
    assert tables.groove_angle_deg(section, od) == angle


def test_life_goes_by_the_running_pull_of_each_belt():
    """Tight side: tension set + half the running pull of one belt (locked: the static mean holds). Statics."""
    link = solved(belts=2, static_tension_n=150.0)
    pull = 2000 * link.flow.driver_torque_nm / (link.details.layout.driver_pitch_mm * 2)
    bending = 220 / (link.details.layout.small_pitch_mm / INCH) * rating.N_PER_LBF
    assert link.details.life.peak_small_n == pytest.approx(150 + pull / 2 + bending)
    loose = solved(belts=2, static_tension_n=150.0, tensioning="constant_pull")
    assert loose.details.life.peak_small_n == pytest.approx(
        150 + pull / 2 + bending + loose.details.tension.centrifugal_n
    )


def test_the_free_span_is_that_between_the_tangent_points():
    """t = sqrt(C^2 - (D - d)^2 / 4), and 1/64 of it is pressed in. Exact."""
    place = solved().details.layout
    chord = (place.center_mm**2 - (place.large_pitch_mm - place.small_pitch_mm) ** 2 / 4) ** 0.5
    assert place.span_mm == pytest.approx(chord)
    assert solved().details.tension.deflection_mm == pytest.approx(chord / 64)


def test_slide_needed_is_room_to_fit_to_tighten_and_between_steps():
    """Machinery's Handbook allowances, from memory: A51 wants 0.75 in to fit and 1.5 in to tighten."""
    machine = build_machine(links=[build_belt()], need=LIGHT)
    found = solve_line(machine, machine.plans[0])
    slide = next(f for f in found.remarks if f.code == "v_belt.take_up")
    assert slide.measured == pytest.approx((0.75 + 1.5) * INCH)


@pytest.mark.parametrize(("duty", "adds"), [({"reversing": True}, 0.1), ({"starts_per_hour": 12}, 0.1), ({}, 0.0)])
def test_reversing_and_many_starts_add_a_tenth(duty: dict[str, Any], adds: float):
    """Common practice, no source."""
    plain = Duty(shock="light", hours_per_day=6, starts_per_hour=2)
    hard = plain.model_copy(update=duty)
    first, second = (service_factor(Sizing(each)).value for each in (plain, hard))
    assert second - first == pytest.approx(adds)


def demo_links(name: str, plan: int) -> list[LinkResult]:
    machine = next(machine for machine in demo_machines() if machine.name.startswith(name))
    result = solve_plan(machine, machine.plans[plan])
    assert result is not None
    return [line.links[-1] for line in result.settings]


def test_one_cogged_belt_serves_a_cone_of_four_steps():
    """AX38 on cones worked out separately: 329.3 mm at every step; 0.915, 1.822, 2.402, 1.868 kW at 1425 rpm.

    Those were worked with the smooth length factor (38/68)^0.24 = 0.870; the table's row of 38 in says 0.90.
    """
    steps = demo_links("Spindlewood", 0)
    for link, rated in zip(steps, (0.915, 1.822, 2.402, 1.868), strict=True):
        assert link.center_distance_mm == pytest.approx(329.3, abs=0.1)
        smooth = link.details.capacity_kw * (38 / 68) ** 0.24 / 0.90
        assert smooth == pytest.approx(rated, rel=0.012), (
            "worked at 1425 rpm; under its load the motor runs a little faster"
        )


def test_belts_round_a_drums_shell():
    """B144, 140 to 960 mm effective: 892 mm, 125°, 1.65 belts at their load. Worked separately, with less loss."""
    (link,) = demo_links("Windrow", 1)
    assert link.center_distance_mm == pytest.approx(892, abs=0.5)
    assert link.details.layout.wrap_deg == pytest.approx(125, abs=0.5)
    assert 3 * link.details.design_power_kw / link.details.capacity_kw == pytest.approx(1.65, rel=0.08)
    assert link.flow.driver_speed_rpm == pytest.approx(130.0, rel=0.01), (
        "1430 rpm on the plate, by its load a little more"
    )
