"""Shafts between bearings against closed forms, textbook examples, and integrals of virtual work."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise
from math import cos, degrees, hypot, pi, radians, sin

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import quad

from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.fit import bearings
from pulltide.core.fit.beam import E_MPA, Load, Piece, bend, flexibility, inertia_mm4
from pulltide.core.fit.hubs import clamp_nm, holds, set_screws_nm
from pulltide.core.fit.strength import (
    Notch,
    Shoulder,
    Steel,
    Stressed,
    code_diameter_mm,
    goodman_diameter_mm,
    next_bar_mm,
    notch,
    shoulder_kt,
)
from pulltide.core.fit.tensions import settings
from pulltide.core.fit.whirl import critical_rpm
from pulltide.core.observed import Loop, tension_n
from pulltide.core.shafts import ShaftPart

IN, LBF = 25.4, 4.4482216
STEPPED = (Piece(0, 50, 25), Piece(50, 110, 30), Piece(110, 290, 40), Piece(290, 350, 30))


def test_an_overhung_load_bends_as_the_closed_form_says():
    """R = -W a / L, W (L + a) / L; deflection W a² (L + a) / 3EI; slopes W a L / 6EI and / 3EI."""
    bent = bend([Piece(0, 380, 30)], [0, 300], [Load(380, -1000)])
    assert bent.reactions_n == pytest.approx([-266.67, 1266.67], abs=0.01)
    assert bent.deflection_at(380) == pytest.approx(-0.09850, rel=2e-3)
    assert [bent.slope_at(at) for at in (0, 300, 380)] == pytest.approx([4.860e-4, -9.720e-4, -1.3608e-3], rel=2e-3)


def test_a_load_between_bearings_bends_as_the_closed_form_says():
    """W a² b² / 3EIL under the load, the worst slope W a b (L + a) / 6EIL at the bearing nearer to it."""
    stiff = E_MPA * inertia_mm4(25)
    bent = bend([Piece(0, 500, 25)], [0, 500], [Load(180, -700)])
    a, b = 180, 320
    assert bent.deflection_at(180) == pytest.approx(-700 * a**2 * b**2 / (3 * stiff * 500), rel=1e-9)
    assert bent.slope_at(0) == pytest.approx(-700 * b * (500**2 - b**2) / (6 * stiff * 500), rel=1e-9)
    assert bent.moment_at(180) == pytest.approx(700 * a * b / 500, rel=1e-9)


def test_three_bearings_share_as_the_three_moment_equation_says():
    """Equal spans, a load in the middle of the first: 13/32, 22/32, -3/32; a middle bearing that is low gives way."""
    length, load = 400.0, 1000.0
    bent = bend([Piece(0, 2 * length, 30)], [0, length, 2 * length], [Load(length / 2, -load)])
    assert bent.reactions_n == pytest.approx([load * share / 32 for share in (13, 22, -3)], rel=1e-9)
    low = bend([Piece(0, 400, 30)], [0, 200, 400], [], settlements_mm=[0, -0.1, 0])
    assert low.reactions_n[1] == pytest.approx(-6 * E_MPA * inertia_mm4(30) * 0.1 / 200**3, rel=1e-9)
    assert abs(low.reactions_n[1]) == pytest.approx(617.29, rel=2e-3)


def test_a_stepped_shaft_on_three_bearings_against_figures_worked_out_twice():
    pieces = (Piece(0, 300, 30), Piece(300, 900, 40))
    loads = [Load(150, -800), Load(550, -1200), Load(860, -600)]
    bent = bend(pieces, [50, 400, 780], loads)
    assert bent.reactions_n == pytest.approx([404.51, 1149.23, 1046.26], rel=2e-3)
    low = bend(pieces, [50, 400, 780], loads, settlements_mm=[0, -0.2, 0], nodes_mm=[900])
    assert low.reactions_n == pytest.approx([647.91, 681.65, 1270.44], rel=2e-3)
    assert (bent.moment_at(400), low.moment_at(400)) == pytest.approx((-58_420, 26_770), rel=1e-2)
    assert (bent.deflection_at(860), low.deflection_at(860)) == pytest.approx((-0.0044, 0.0543), abs=1e-3)


def test_thrust_off_the_axis_makes_the_moment_jump():
    """A sheave, and a gear whose thrust acts 75 mm below the axis, on a stepped shaft."""
    x = bend(STEPPED, [80, 320], [Load(20, -900), Load(200, 1500)])
    y = bend(STEPPED, [80, 320], [Load(20, -250), Load(200, -560, 75 * 400)])
    assert x.reactions_n == pytest.approx([375, -975], rel=2e-3)
    assert y.reactions_n == pytest.approx([717.5, 92.5], rel=2e-3)
    assert hypot(x.moment_at(80), y.moment_at(80)) == pytest.approx(56_040, rel=2e-3)
    gear = int(np.abs(x.nodes_mm - 200).argmin())
    before = hypot(x.moment_left_nmm[gear], y.moment_left_nmm[gear])
    after = hypot(x.moment_right_nmm[gear], y.moment_right_nmm[gear])
    assert (before, after) == pytest.approx((124_010, 117_530), rel=2e-3)
    assert hypot(x.deflection_at(200), y.deflection_at(200)) == pytest.approx(0.02597, rel=1e-2)
    assert x.deflection_at(20) == pytest.approx(-0.0402, rel=1e-2)


def test_two_pulleys_of_a_textbook_example():
    """Source: Shigley, Example 3-9, from memory: moments 8246 and 5657 lbf·in, bending 24,890 psi, torsion 2414 psi."""
    pieces = [Piece(0, 30 * IN, 1.5 * IN)]
    one = bend(pieces, [0, 30 * IN], [Load(10 * IN, -1200 * LBF)], nodes_mm=[20 * IN])
    two = bend(pieces, [0, 30 * IN], [Load(20 * IN, -600 * LBF)], nodes_mm=[10 * IN])
    found = [hypot(one.moment_at(at * IN), two.moment_at(at * IN)) / (IN * LBF) for at in (10, 20)]
    assert found == pytest.approx([8246, 5657], rel=2e-3)
    psi = 0.00689476
    section = Stressed(found[0] * IN * LBF, 1600 * IN * LBF, 1.5 * IN, Notch(1.0, 1.0))
    assert section.bending_mpa / psi == pytest.approx(24_890, rel=2e-3)
    assert section.torsion_mpa / psi == pytest.approx(2414, rel=2e-3)


@given(
    st.lists(st.tuples(st.floats(20, 580), st.floats(-3000, 3000)), min_size=1, max_size=4),
    st.floats(60, 240),
    st.floats(330, 560),
    st.floats(10, 60),
)
def test_forces_and_moments_close_and_bending_is_mutual(loads, first: float, second: float, diameter: float):
    pieces = [Piece(0, 300, diameter), Piece(300, 600, 1.3 * diameter)]
    bent = bend(pieces, [first, second], [Load(at, force) for at, force in loads])
    total = sum(force for _, force in loads)
    scale = 1.0 + max(abs(force) for _, force in loads)
    assert sum(bent.reactions_n) == pytest.approx(-total, abs=1e-4 * scale)
    about = sum(at * force for at, force in loads) + first * bent.reactions_n[0] + second * bent.reactions_n[1]
    # what stands as good as at one place is taken together, within a tenth of a millimeter
    assert about == pytest.approx(0, abs=scale)
    assert abs(bent.moment_left_nmm[-1]) <= 1e-3 * scale * 600
    mutual = flexibility(pieces, [first, second], [30.0, 290.0, 580.0])
    assert mutual == pytest.approx(mutual.T, rel=1e-6, abs=1e-12)


def test_a_stepped_shaft_bends_as_virtual_work_says():
    """scipy.integrate.quad of M m / E I along a determinate beam, m the moment of one newton at the place."""
    loads = [(60.0, -500.0), (240.0, -900.0)]
    first, second = 110.0, 300.0
    bent = bend(STEPPED, [first, second], [Load(*load) for load in loads], nodes_mm=[350])

    def held(forces: list[tuple[float, float]]) -> list[tuple[float, float]]:
        right = -sum(force * (at - first) for at, force in forces) / (second - first)
        return [*forces, (second, right), (first, -right - sum(force for _, force in forces))]

    def moment(s: float, forces: list[tuple[float, float]]) -> float:
        return sum(force * max(s - at, 0.0) for at, force in forces)

    def stiff(s: float) -> float:
        return E_MPA * inertia_mm4(25 if s < 50 else 30 if s < 110 else 40 if s < 290 else 30)

    for place in (60.0, 240.0, 350.0):
        one, all_of_them = held([(place, 1.0)]), held(loads)
        ends = sorted({0.0, 50.0, 60.0, 110.0, 240.0, 290.0, 300.0, 350.0})
        work = sum(
            quad(lambda s, one=one, all_=all_of_them: moment(s, all_) * moment(s, one) / stiff(s), a, b)[0]
            for a, b in pairwise(ends)
        )
        assert bent.deflection_at(place) == pytest.approx(work, rel=1e-6), place


def test_a_jackshaft_is_as_strong_as_the_textbook_formulas_say():
    """Moment 111.94 N·m, torque 134 N·m, 35 mm of 1045, an end-milled keyseat. Source: Shigley Eqs. 7-7 to 7-16."""
    section = Stressed(111_940, 134_000, 35, Notch(1.7705, 2.4678))
    assert section.goodman(202.73, 570) == pytest.approx(2.844, rel=2e-3)
    assert section.elliptic(202.73, 310) == pytest.approx(3.130, rel=2e-3)
    assert section.yields(310) == pytest.approx(3.747, rel=2e-3)
    of = Steel(570, 310)
    found = [goodman_diameter_mm(111_940, 134_000, of, safety, "keyseat") for safety in (1.5, 2.0)]
    assert found == pytest.approx([27.97, 30.94], rel=2e-3)
    assert code_diameter_mm(111_940, 134_000) == pytest.approx(29.79, rel=2e-3)
    assert next_bar_mm(30.94, inch=False) == 35
    assert next_bar_mm(30.94, inch=True) == pytest.approx(31.75)
    assert next_bar_mm(900, inch=True) is None


def test_the_textbooks_shaft_with_its_own_factors():
    """Source: Shigley, Example 7-1, from memory: Goodman 1.62, ASME ellipse 1.88, yield 4.50."""
    ksi = 6.894757
    section = Stressed(1260 * IN * LBF, 1100 * IN * LBF, 1.1 * IN, Notch(1.58, 1.37))
    assert section.goodman(29.3 * ksi, 105 * ksi) == pytest.approx(1.62, rel=1e-2)
    assert section.elliptic(29.3 * ksi, 82 * ksi) == pytest.approx(1.88, rel=1e-2)
    assert section.yields(82 * ksi) == pytest.approx(4.50, rel=1e-2)


def test_critical_speed_of_a_bare_shaft_and_of_one_with_wheels():
    """Bare: (π/L)² (d/4) √(E/ρ), 2151 rpm for 40 mm over 1.5 m; with wheels an eigenvalue worked out twice."""
    assert critical_rpm([Piece(0, 1500, 40)], [0, 1500], []) == pytest.approx(2151, rel=3e-3)
    pieces = [Piece(0, 120, 25), Piece(120, 1000, 30)]
    assert critical_rpm(pieces, [100, 940], [(30, 8), (520, 15)]) == pytest.approx(1846.9, rel=5e-3)


def test_bearing_life_of_textbook_examples():
    """Source: Shigley, Examples 11-1 and 11-4, from memory."""
    assert bearings.life_h(14_283, 400 * LBF, 1725) == pytest.approx(5000, rel=1e-2)
    assert bearings.equivalent_n(500 * LBF, 400 * LBF, 4450 * LBF) == pytest.approx(890.8 * LBF, rel=2e-3)
    assert bearings.insert_for(25.4).dynamic_n == 14_000
    assert bearings.insert_for(36.5125).bore_mm == pytest.approx(36.512)
    assert bearings.insert_for(33.0) is None
    assert bearings.life_h(14_000, 10, 100) == bearings.MAX_HOURS


@pytest.mark.parametrize(
    ("supports", "load", "said"),
    [([50], 20, "two bearings"), ([50, 50], 20, "two bearings"), ([50, 400], 20, "beyond"), ([10, 90], 700, "beyond")],
)
def test_a_shaft_that_is_not_held_says_so(supports, load, said):
    with pytest.raises(ImpossibleGeometry, match=said):
        bend([Piece(0, 300, 30)], supports, [Load(load, 10)])


def test_weight_bends_a_bare_shaft_as_an_even_load_does():
    """5 q L⁴ / 384 EI in the middle."""
    bent = bend([Piece(0, 1000, 30)], [0, 1000], [], weight=True, nodes_mm=[500])
    even = 7850e-9 * 9.80665 * pi * 30**2 / 4
    assert bent.deflection_at(500) == pytest.approx(-5 * even * 1000**4 / (384 * E_MPA * inertia_mm4(30)), rel=1e-6)
    assert degrees(bent.slope_at(500)) == pytest.approx(0, abs=1e-9)


def test_a_belt_s_settings_agree_however_they_are_measured():
    """Tension back from the strum; force by T/16; the pull at rest by the sum of both strands as vectors."""
    loop = Loop(
        belts=2,
        driver_pitch_mm=90,
        driven_pitch_mm=250,
        wrap_deg=159.5,
        span_mm=442.8,
        mass_kg_per_m=0.097,
        bending_nm2=0.018,
        static_n=120,
        known=True,
        friction=0.62,
        wanted_n=145,
    )
    found = {one.when: one for one in settings(loop)}
    assert [found[when].static_n for when in ("new", "run_in", "again", "now")] == pytest.approx([188.5, 145, 116, 120])
    for one in found.values():
        assert tension_n(one.strum_hz, 442.8, 0.097, 0.018) == pytest.approx(one.static_n, rel=1e-6)
        assert one.press_n == pytest.approx(one.static_n / 16)
        tilt = radians(159.5)
        strands = 2 * one.static_n * np.array([1 - cos(tilt), sin(tilt)])
        assert one.rest_pull_n == pytest.approx(float(np.hypot(*strands)))
    assert found["run_in"].dip_mm == pytest.approx(6.92, abs=0.01)
    held = replace(loop, friction=None, known=False)
    assert [one.when for one in settings(held)] == ["run_in"]


def test_what_holds_a_wheel_against_figures_worked_out_twice():
    """Clamp of two M8 on 25 mm 197.6 N·m; 3/8 in set screw on 1 1/4 in 141.2, two of them 247.2. Common practice."""
    assert clamp_nm("M8", 25.0) == pytest.approx(197.6, rel=3e-3)
    assert set_screws_nm("3/8 in", 31.75, 1) == pytest.approx(141.2, rel=1e-3)
    assert set_screws_nm("3/8 in", 31.75) == pytest.approx(247.2, rel=1e-3)


@pytest.mark.parametrize("diameter", [10.0, 17.0, 25.0, 25.4, 31.75, 50.0, 79.0, 120.0])
def test_every_shaft_has_ways_that_hold_more_on_a_thicker_one(diameter):
    found = {hold.way: hold for hold in holds(ShaftPart(shaft=2, diameter_mm=diameter))}
    assert {"set_screws", "clamp"} <= set(found)
    assert ("bushing" in found) == (11 <= diameter <= 80)
    thicker = {hold.way: hold for hold in holds(ShaftPart(shaft=2, diameter_mm=diameter * 1.6))}
    assert all(thicker[way].torque_nm > hold.torque_nm for way, hold in found.items() if way in thicker)


def test_a_key_is_as_it_is_entered():
    entered = ShaftPart(shaft=2, diameter_mm=25.0, key_width_mm=8.0, key_length_mm=30.0, key_steel="mild_steel_1018")
    key = next(hold for hold in holds(entered) if hold.way == "key")
    assert key.torque_nm == pytest.approx(328, abs=1)
    assert list(holds(ShaftPart(shaft=2))) == []


def test_a_published_pair_of_tapered_bearings():
    """Helical gear between two tapered bearings, 1690 N of thrust: 4607 and 3024 N. Source: Shigley, Example 11-8, from
    memory, with K 1.5 for both: F_r / (2 Y) is 0.47 F_r / K with Y = K / 0.94.
    """
    one = bearings.Bearing(
        type="tapered_face", bore_mm=30, dynamic_n=40_000, static_n=44_000, outside_mm=62, width_mm=17, speed_rpm=5000,
        e=0.37, y=1.5 / 0.94, y0=0.88, center_mm=14,
    )  # fmt: skip
    thrusts = bearings.thrusts_n((one, one), (1627.0, 3024.0), -1690.0)
    assert thrusts == pytest.approx((2637, 947), rel=1e-3)
    book = replace(one, y=1.5)
    assert book.equivalent_n(1627.0, thrusts[0]) == pytest.approx(4607, rel=2e-3)
    assert one.equivalent_n(3024.0, thrusts[1]) == pytest.approx(3024)
    assert bearings.thrusts_n((one, one), (1627.0, 3024.0), 1690.0)[1] == pytest.approx(510 + 1690, rel=1e-3)
    back = replace(one, type="tapered_back")
    assert bearings.thrusts_n((back, back), (1627.0, 3024.0), 1690.0) == pytest.approx((2637, 947), rel=1e-3)


def test_stress_at_a_fillet_in_published_examples():
    """Round shafts bent at a shoulder: 1.65 and 1.68, read off a chart; the larger of two forms lies a little over
    the second. Source: Shigley, Examples 6-6 and 7-1, from memory.
    """
    assert shoulder_kt(Shoulder(38 / 32, 3 / 32), "bending") == pytest.approx(1.65, rel=0.02)
    assert 1.68 <= shoulder_kt(Shoulder(42 / 28, 2.8 / 28), "bending") < 1.05 * 1.68


def test_a_fillet_is_worse_the_sharper_and_nothing_without_a_step():
    for mode in ("bending", "torsion"):
        found = [shoulder_kt(Shoulder(1.4, radius), mode) for radius in (0.02, 0.05, 0.1, 0.2)]
        assert found == sorted(found, reverse=True)
        assert shoulder_kt(Shoulder(1.0, 0.05), mode) == 1.0
    fatigue = notch(Shoulder(38 / 32, 3 / 32), 32.0, 690.0)
    assert fatigue.bending == pytest.approx(1.55, rel=0.02), "K_f of the same example"


@pytest.mark.parametrize(
    ("bore", "c_kn", "c0_kn"),
    [(10, 5.07, 2.24), (15, 7.80, 3.55), (20, 12.7, 6.20), (25, 14.0, 6.95), (30, 19.5, 10.0), (40, 30.7, 16.6),
     (50, 35.1, 19.6), (60, 47.5, 28.0)],
)  # fmt: skip
def test_series_62_carries_what_a_handbook_lists(bore, c_kn, c0_kn):
    """Shigley, Table 11-2, 02-series deep groove, from memory."""
    found = bearings.bearing_for(float(bore), "deep_62")
    assert (found.dynamic_n, found.static_n) == pytest.approx((1000 * c_kn, 1000 * c0_kn))


def test_bearings_grow_with_their_bore_and_rollers_keep_their_own_rule():
    """Larger bores carry more in every list; of tapered rollers Y e is 0.6, Y_0 is 0.55 Y, by their cone angle."""
    for kind in ("deep_60", "deep_62", "deep_63", "tapered_face"):
        listed = bearings.listed(kind)
        for one, other in pairwise(listed):
            assert one.bore_mm < other.bore_mm, kind
            assert one.outside_mm < other.outside_mm, kind
            assert one.dynamic_n < other.dynamic_n, (kind, other.bore_mm)
            assert one.static_n < other.static_n, (kind, other.bore_mm)
    for one in bearings.tapered("tapered_face"):
        assert one.y * one.e == pytest.approx(0.6, rel=0.03)
        assert one.y0 / one.y == pytest.approx(0.55, rel=0.02)
