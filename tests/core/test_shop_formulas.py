"""Formulas of the whole line by name: against integration in time, root finding, exact geometry and printed tables."""

from __future__ import annotations

from math import cos, pi, sin, sqrt
from typing import Any

import pytest
from scipy.integrate import solve_ivp
from scipy.optimize import brentq
from shapely.geometry import LineString, Point

from pulltide.core.errors import ImpossibleGeometry, InputErrors
from pulltide.core.links.planetary import motion
from pulltide.core.methods import METHODS
from pulltide.quantities import DEFAULT_UNITS
from pulltide.services.calculate import run_method


def told(name: str, **inputs: Any) -> dict[str, float]:
    return {result["key"]: result["value"] for result in run_method(METHODS[name], inputs, DEFAULT_UNITS)["results"]}


def test_a_flywheel_swings_as_much_as_was_asked():
    """Stepped in time: a steady motor torque, the energy taken in a tenth of a turn; J from the formula. Mechanics."""
    energy, rpm, swing = 400.0, 300.0, 0.15
    inertia = told("flywheel", energy_j=energy, speed_rpm=rpm, swing=swing)["J"]
    mean = rpm * 2 * pi / 60
    fast = mean * (1 + swing / 2)
    blow = energy / (0.02 * 2 * pi)

    def slow(at: float, state: list[float]) -> list[float]:
        angle, omega = state
        return [omega, -blow / inertia if angle < 0.02 * 2 * pi else 0.0]

    found = solve_ivp(slow, (0, 0.05), [0.0, fast], max_step=1e-5)
    assert (fast - found.y[1][-1]) / mean == pytest.approx(swing, rel=0.02)


@pytest.mark.parametrize("share", [0.05, 0.3, 0.9])
def test_the_speed_after_a_blow_leaves_the_rest_of_the_energy(share: float):
    inertia, rpm = 1.7, 420.0
    held = inertia * (rpm * 2 * pi / 60) ** 2 / 2
    after = told("speed_after_blow", inertia_kgm2=inertia, speed_rpm=rpm, energy_j=share * held)["n_2"]
    assert inertia * (after * 2 * pi / 60) ** 2 / 2 == pytest.approx((1 - share) * held)


@pytest.mark.parametrize(("shaft_mm", "governs"), [(25.0, "L_c"), (38.1, "L_c"), (50.0, "L_c")])
def test_the_longer_key_governs(shaft_mm: float, governs: str):
    """A square or flat key of one steel crushes before it shears: S_y h/2 against 0.577 S_y b. Shigley section 7-7."""
    found = told("key_length", shaft_diameter_mm=shaft_mm, torque_nm=120.0, yield_mpa=250.0)
    assert found["L"] == pytest.approx(max(found["L_s"], found["L_c"]), rel=1e-12)
    assert found["L"] == pytest.approx(found[governs], rel=1e-12)
    force = 2 * 120.0 * 2 / (shaft_mm / 1000)
    assert found["L_s"] == pytest.approx(force / (0.577 * 250 * found["b"]), rel=1e-3)
    assert found["L_c"] == pytest.approx(force / (250 * found["h"] / 2), rel=1e-3)


@pytest.mark.parametrize(
    ("letter", "least", "most"),
    [("B", 3.15, 3.54), ("F", 5.0, 5.59), ("H", 6.3, 7.09), ("K", 8.0, 8.99), ("M", 10.0, 11.19), ("U", 20.0, 22.39)],
)
def test_both_ends_of_a_code_letter(letter: str, least: float, most: float):
    """NEC Table 430.7(B), from memory: kVA a horsepower; three phases share it over √3."""
    found = told("motor_code_letter", letter=letter, power_kw="10 hp", volts=230)
    assert found["I_1"] == pytest.approx(10 * least * 1000 / 230 / sqrt(3), rel=1e-3)
    assert found["I_2"] == pytest.approx(10 * most * 1000 / 230 / sqrt(3), rel=1e-3)
    single = told("motor_code_letter", letter=letter, power_kw="10 hp", volts=230, phases="one")
    assert single["I_1"] == pytest.approx(sqrt(3) * found["I_1"])


def test_the_last_code_letter_has_no_upper_end():
    assert "I_2" not in told("motor_code_letter", letter="V", power_kw="1 hp", volts=230)


def test_best_efficiency_is_where_its_current_says():
    """Output over input along the line has its top at √(I_0 I_s): by search."""
    volts, ohm, idle = 36.0, 0.12, 1.8
    found = told("dc_motor_line", volts=volts, resistance_ohm=ohm, no_load_rpm=4000, no_load_a=idle)

    def efficiency(amps: float) -> float:
        return (volts - amps * ohm) * (amps - idle) / (volts * amps)

    rising = brentq(lambda a: efficiency(a + 1e-4) - efficiency(a - 1e-4), 2.0, 200.0)
    assert found["I_b"] == pytest.approx(rising, rel=1e-3)
    assert found["η"] == pytest.approx(efficiency(rising), rel=1e-6)


def test_rotor_frequency_is_slip_times_supply():
    found = told("motor_line", power_kw=4.0, speed_rpm=1440, frequency_hz=50)
    assert found["f_2"] == pytest.approx(2.0)
    assert found["n_x"] == pytest.approx(1440)
    assert found["k"] * found["T"] == pytest.approx(60)


@pytest.mark.parametrize(("d", "large", "center"), [(80, 200, 400), (100, 100, 350), (63, 280, 420)])
def test_an_open_belt_from_its_center_and_back(d: float, large: float, center: float):
    """Perimeter of the hull of two circles, by a geometry library; the way back by the formula that asks for length."""
    found = told("belt_open", small_diameter_mm=d, large_diameter_mm=large, center_distance_mm=center)
    hull = Point(0, 0).buffer(d / 2, 2048).union(Point(center, 0).buffer(large / 2, 2048)).convex_hull
    assert found["L"] == pytest.approx(hull.length, rel=1e-6)
    back = told("v_belt_center", small_diameter_mm=d, large_diameter_mm=large, pitch_length_mm=found["L"])
    assert back["C"] == pytest.approx(center, rel=1e-6)


@pytest.mark.parametrize("wrap", [120.0, 140.0, 165.0])
def test_the_center_for_a_wrap_gives_that_wrap(wrap: float):
    center = told("belt_wrap_center", small_diameter_mm=60, large_diameter_mm=300, wrap_deg=wrap)["C"]
    found = told("belt_open", small_diameter_mm=60, large_diameter_mm=300, center_distance_mm=center)
    assert found["θ"] == pytest.approx(wrap)


@pytest.mark.parametrize("hertz", [12.0, 47.0, 110.0])
def test_a_strum_goes_there_and_back(hertz: float):
    tension = told("belt_strum", span_mm=520, mass_kg_per_m=0.19, frequency_hz=hertz)["T"]
    assert told("belt_strum", span_mm=520, mass_kg_per_m=0.19, tension_n=tension)["f"] == pytest.approx(hertz)
    wave_speed = sqrt(tension / 0.19)
    assert wave_speed / (2 * 0.520) == pytest.approx(hertz)


def test_a_crossed_belt_runs_along_its_tangents():
    """Strands of a crossed belt are tangents: as far from both centers as the radii, by a geometry library."""
    found = told("belt_crossed", small_diameter_mm=80, large_diameter_mm=200, center_distance_mm=500)
    half = (found["θ"] - 180) / 2 * pi / 180
    start = (40 * sin_cos(half)[0], 40 * sin_cos(half)[1])
    strand = LineString([start, (500 - 100 * sin_cos(half)[0], -100 * sin_cos(half)[1])])
    assert strand.distance(Point(0, 0)) == pytest.approx(40, abs=1e-6)
    assert strand.distance(Point(500, 0)) == pytest.approx(100, abs=1e-6)
    assert found["L"] == pytest.approx(2 * strand.length + (40 + 100) * found["θ"] * pi / 180, rel=1e-9)


def sin_cos(angle: float) -> tuple[float, float]:

    return sin(angle), cos(angle)


@pytest.mark.parametrize(
    ("name", "pitch", "strands"),
    [
        ("25", 6.35, 1),
        ("35", 9.525, 1),
        ("41", 12.7, 1),
        ("40", 12.7, 1),
        ("80-2", 25.4, 2),
        ("120H", 38.1, 1),
        ("60-4", 19.05, 4),
    ],
)
def test_the_name_of_a_chain(name: str, pitch: float, strands: int):
    """ANSI B29.1 numbering, from memory: eighths of an inch, strands behind the dash."""
    found = told("roller_chain_name", designation=name)
    assert found["p"] == pytest.approx(pitch)
    assert found["N_s"] == strands


@pytest.mark.parametrize("name", ["foo", "9", "50-0", "50-x", "47"])
def test_what_is_no_chain_is_refused(name: str):
    with pytest.raises(InputErrors):
        told("roller_chain_name", designation=name)


def test_links_below_and_above_stand_round_the_wish():
    found = told("roller_chain_links", chain="40", small_teeth=17, large_teeth=45, center_distance_mm=400)
    assert found["X_2"] == found["X_1"] + 2
    assert found["C_1"] < 400 < found["C_2"]
    assert found["C_2"] - found["C_1"] == pytest.approx(12.7, rel=0.05), "two links move the shaft about one pitch"


def test_planets_that_go_together_are_those_that_mesh_and_clear():
    found = told("planetary_planets", sun_teeth=18, planet_teeth=27, ring_teeth=72)
    for count in range(2, 9):
        assert found[f"q_{count}"] == pytest.approx(90 / count)
    most = max(n for n in range(1, 9) if motion.goes_together(18, 27, 72, n))
    assert found["n_p"] == most


@pytest.mark.parametrize(("held", "first", "second", "driven"), [(40, 20, 19, 39), (30, 30, 31, 29), (24, 36, 20, 40)])
def test_a_train_with_two_suns_by_relative_motion(held: int, first: int, second: int, driven: int):
    """Speeds relative to the carrier: (ω_d - ω_c)/(ω_h - ω_c) = S_1 P_2/(P_1 S_2), held sun at rest. Willis."""
    ratio = told(
        "planetary_two_suns",
        held_sun_teeth=held,
        first_planet_teeth=first,
        second_planet_teeth=second,
        driven_sun_teeth=driven,
    )["i"]
    carrier = 1.0
    driven_speed = carrier + (0 - carrier) * held * second / (first * driven)
    assert ratio == pytest.approx(carrier / driven_speed)


def test_two_equal_pairs_of_suns_stand_still():
    with pytest.raises(InputErrors, match="stands still"):
        told(
            "planetary_two_suns", held_sun_teeth=30, first_planet_teeth=20, second_planet_teeth=20, driven_sun_teeth=30
        )


@pytest.mark.parametrize("friction", [0.05, 0.1])
def test_more_teeth_lose_less(friction: float):
    few, many = (
        told("gear_mesh_efficiency", driver_teeth=n, driven_teeth=3 * n, friction=friction)["η"] for n in (18, 40)
    )
    assert few < many < 1
    assert 1 - few == pytest.approx(
        friction / 0.05 * (1 - told("gear_mesh_efficiency", driver_teeth=18, driven_teeth=54, friction=0.05)["η"])
    )


def test_slip_comes_with_its_torque():
    raw = {"section": "A", "static_tension_n": 180, "wrap_deg": 157, "small_diameter_mm": 86.4, "belt_speed_m_s": 7.9}
    found = told("v_belt_slip", **raw)
    assert found["T_1"] == pytest.approx(found["F_1"] * 0.0864 / 2)
    assert found["T_2"] > found["T_1"]


def test_a_wheel_that_holds_too_little_is_refused_in_words():
    run = METHODS["speed_after_blow"]
    with pytest.raises(ImpossibleGeometry, match="stops it"):
        run.run(run.inputs(inertia_kgm2=0.1, speed_rpm=100, energy_j=500))
