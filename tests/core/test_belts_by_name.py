"""Hinged motor bases and flat belts, called by name, against virtual work, a root finder and a printed example."""

from __future__ import annotations

from math import cos, exp, hypot, isfinite, pi, radians, sin
from typing import Any

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from scipy.optimize import brentq

from builders import build_belt, build_machine
from draws import draws
from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.findings import Severity
from pulltide.core.line import solve_line
from pulltide.core.links.v_belt.flat import FlatBeltInputs, flat_belt_working, pulley_factor
from pulltide.core.links.v_belt.hinged_base import (
    SLACK_BEYOND,
    TIGHT_BEYOND,
    HingedBaseInputs,
    hinged_base_working,
    slip_pull_n,
)
from pulltide.core.links.v_belt.transmission import design_tension_n
from pulltide.core.open_belt import open_belt_length_mm
from pulltide.core.working import Working

PLATE: dict[str, Any] = {
    "motor_across_mm": 180,
    "motor_up_mm": 60,
    "driven_across_mm": 180,
    "driven_up_mm": 700,
    "driver_diameter_mm": 71,
    "driven_diameter_mm": 224,
    "mass_kg": 25,
    "weight_arm_mm": 200,
    "belts": 1,
    "tight_strand": "nearer_the_hinge",
}
FLAT: dict[str, Any] = {
    "belt": "polyamide_a3",
    "width_mm": 152.4,
    "small_diameter_mm": 152.4,
    "large_diameter_mm": 457.2,
    "center_distance_mm": 2438.4,
    "small_speed_rpm": 1750,
    "power_kw": 11.18,
    "service_factor": 1.25,
    "design_factor": 1.1,
}


def plate(**changes: Any) -> Working:
    return hinged_base_working(HingedBaseInputs.model_validate({**PLATE, **changes}))


def flat(**changes: Any) -> Working:
    return flat_belt_working(FlatBeltInputs.model_validate({**FLAT, **changes}))


def figures(made: Working) -> dict[str, float]:
    return {step.symbol: step.value for step in made.steps}


def figures_or_none(**changes: Any) -> dict[str, float] | None:
    """Figures of a flat belt, None where it is refused in words."""
    try:
        return figures(flat(**changes))
    except ImpossibleGeometry:
        return None


places = st.floats(-600, 600)


@settings(max_examples=draws(150), deadline=None)
@given(x=places, y=places, across=places, up=places, d=st.floats(40, 300), large=st.floats(40, 500))
def test_arms_are_what_virtual_work_says(x: float, y: float, across: float, up: float, d: float, large: float):
    """Turning the plate a little changes the exact belt length by the sum of both arms. Source: virtual work."""
    assume(hypot(across - x, up - y) > (d + large) / 2 + 20)

    def length(turn: float) -> float:
        moved = (x * cos(turn) - y * sin(turn), x * sin(turn) + y * cos(turn))
        return open_belt_length_mm(d, large, hypot(across - moved[0], up - moved[1]))

    slope = abs(length(1e-5) - length(-1e-5)) / 2e-5
    assume(slope > 1.0)
    sizes: dict[str, Any] = {"motor_across_mm": x, "motor_up_mm": y, "driven_across_mm": across, "driven_up_mm": up}
    sizes |= {"driver_diameter_mm": d, "driven_diameter_mm": large, "tight_strand": "farther_from_the_hinge"}
    found = figures(plate(**sizes))
    assert found["a_t"] >= found["a_s"], "the strand farther from the hinge was said to be the tight one"
    assert found["a_t"] + found["a_s"] == pytest.approx(slope, rel=1e-4, abs=0.01)
    assert min(found["F"], found["T_0"]) > 0


def test_the_pull_at_slip_balances_the_plate():
    """At slip the strands stand in the ratio R and their moments hold the weights. Source: statics."""
    for strand in ("nearer_the_hinge", "farther_from_the_hinge"):
        found = figures(plate(tight_strand=strand))
        slack = found["F"] / (found["R"] - 1)
        moment = (found["R"] * slack * found["a_t"] + slack * found["a_s"]) / 1000
        assert moment == pytest.approx(found["M"], rel=1e-9)
        assert found["M"] == pytest.approx(25 * 9.80665 * 0.2)


def test_turning_the_other_way_changes_the_pull_but_not_the_rest():
    near, far = figures(plate()), figures(plate(tight_strand="farther_from_the_hinge"))
    assert near["T_0"] == pytest.approx(far["T_0"])
    assert near["F"] > far["F"], "load tightens the belt where the tight strand passes nearer the hinge"
    assert (near["a_t"], near["a_s"]) == (far["a_s"], far["a_t"])
    shared = figures(plate(belts=2))
    assert (shared["T_0"], shared["F"]) == pytest.approx((near["T_0"] / 2, near["F"]))


def test_signed_arms():
    """Worked by hand: R 4, weights of 10 N·m, slack arm 100 mm."""
    assert slip_pull_n(4, 10, 0, 100) == pytest.approx(300)
    assert slip_pull_n(4, 10, -20, 100) == pytest.approx(1500)
    for locked in (-25, -26):
        with pytest.raises(ImpossibleGeometry, match="never slips"):
            slip_pull_n(4, 10, locked, 100)


def test_a_strand_beyond_the_hinge_is_said():
    """The hinge lies between the strands, so that one of them turns the plate against the other."""
    between = {"motor_across_mm": 10, "motor_up_mm": 60, "driver_diameter_mm": 224, "driven_diameter_mm": 224}
    with pytest.raises(ImpossibleGeometry, match="turn the motor the other way"):
        plate(**between, driven_across_mm=10)
    loosening = plate(**between, driven_across_mm=10, tight_strand="farther_from_the_hinge")
    assert figures(loosening)["a_s"] < 0
    assert loosening.steps[-1].note == SLACK_BEYOND
    tightening = plate(**{**between, "motor_across_mm": 90}, driven_across_mm=90)
    assert figures(tightening)["a_t"] < 0
    assert tightening.steps[-1].note == TIGHT_BEYOND
    assert plate().steps[-1].note not in (SLACK_BEYOND, TIGHT_BEYOND)


def test_a_belt_that_runs_at_the_hinge_cannot_be_tightened():
    line = {"motor_across_mm": 0, "driven_across_mm": 0, "driver_diameter_mm": 100, "driven_diameter_mm": 100}
    with pytest.raises(ImpossibleGeometry, match="Move the hinge sideways"):
        plate(**line, tight_strand="farther_from_the_hinge")


def test_pulleys_that_touch_are_refused_on_the_plate():
    with pytest.raises(ImpossibleGeometry, match=r"touch: their shafts are \{14[0-9.]+\|mm\} apart"):
        plate(driven_up_mm=200)


def test_flat_belt_of_the_textbook():
    """Shigley's Mechanical Engineering Design, Example 17-1, figures quoted from memory, in its units."""
    found = figures(flat(power_kw=15 * 0.7457))
    assert found["θ"] * pi / 180 == pytest.approx(3.0165, rel=2e-4)
    assert found["v"] / 0.00508 == pytest.approx(2749, rel=2e-4)
    assert found["m"] * 9.80665 / 4.44822 * 0.3048 == pytest.approx(0.393, abs=0.0005)
    for symbol, pounds in (("F_c", 25.65), ("F_1", 420), ("F_2", 172.4), ("F_i", 270.6)):
        assert found[symbol] / 4.44822 == pytest.approx(pounds, rel=1e-3), symbol
    assert found["T"] / 0.112985 == pytest.approx(742.8, rel=2e-4)
    assert found["f"] == pytest.approx(0.328, abs=0.0005)
    assert found["y"] / 25.4 == pytest.approx(0.14, abs=0.002)


def test_the_friction_needed_solves_the_belt_equation():
    """Root of (F1 - Fc) = (F2 - Fc) exp(f θ) by scipy."""
    found = figures(flat())
    theta = radians(found["θ"])
    root = brentq(lambda f: found["F_1"] - found["F_c"] - (found["F_2"] - found["F_c"]) * exp(f * theta), 0.01, 2.0)
    assert found["f"] == pytest.approx(root, rel=1e-9)


def test_a_flat_belt_too_narrow_is_told_how_wide():
    with pytest.raises(ImpossibleGeometry, match=r"Use at least \{106\|mm\}"):
        flat(width_mm=104)
    assert 0.75 < figures(flat(width_mm=106))["f"] < 0.8, "just wide enough: nearly all the friction there is"


@pytest.mark.parametrize(
    ("changes", "words"),
    [
        ({"small_diameter_mm": 100}, r"at least \{114.3\|mm\}; the small one has \{100\|mm\}"),
        ({"small_speed_rpm": 9_000}, "runs too fast to carry anything"),
        ({"center_distance_mm": 300}, "touch"),
        ({"small_diameter_mm": 500}, "larger than the large one"),
    ],
)
def test_flat_belts_that_cannot_run_are_refused(changes: dict[str, Any], words: str):
    with pytest.raises(ImpossibleGeometry, match=words):
        flat(**changes)


def test_pulley_factors_rise_with_the_pulley():
    """Shigley, Table 17-4, quoted from memory: ends and a middle of each row."""
    inch = 25.4
    assert [pulley_factor("polyamide_f1", d * inch) for d in (1.6, 6, 10, 14, 30)] == [0.7, 0.92, 0.95, 1, 1]
    assert [pulley_factor("polyamide_a2", d * inch) for d in (2.4, 6, 10, 14, 30)] == [0.73, 0.86, 0.96, 1, 1]
    assert [pulley_factor("polyamide_a3", d * inch) for d in (4.5, 10, 14, 18)] == [0.7, 0.87, 0.94, 0.96]
    with pytest.raises(ImpossibleGeometry, match=r"at least \{60.96\|mm\}"):
        pulley_factor("polyamide_a2", 2.0 * inch)


@settings(max_examples=draws(200), deadline=None)
@given(
    belt=st.sampled_from(["polyamide_f1", "polyamide_a2", "polyamide_a3"]),
    width=st.floats(5, 600),
    small=st.floats(20, 1500),
    center=st.floats(50, 10_000),
    rpm=st.floats(1, 10_000),
    kw=st.floats(0.01, 500),
)
def test_flat_belts_over_their_whole_range(belt: str, width: float, small: float, center: float, rpm: float, kw: float):
    sizes = {"small_diameter_mm": small, "large_diameter_mm": small * 1.5, "center_distance_mm": center}
    found = figures_or_none(belt=belt, width_mm=width, **sizes, small_speed_rpm=rpm, power_kw=kw)
    if found is not None:
        assert all(isfinite(value) and value > 0 for value in found.values())
        assert found["F_1"] > found["F_2"] > found["F_c"]


HUNG = {
    "tensioning": "hinged_plate",
    "plate_mass_kg": 30.0,
    "plate_arm_mm": 150.0,
    "hinge_across_mm": 180.0,
    "hinge_up_mm": 60.0,
    "tight_strand": "farther_from_the_hinge",
    "angle_deg": 90.0,
}


def hung(**changes):
    """A belt whose motor stands on a hinged plate, solved."""
    machine = build_machine(links=[build_belt(**{**HUNG, **changes})])
    line = solve_line(machine, machine.plans[0])
    return line.links[0], {figure.key: figure.value for figure in line.links[0].figures}


def test_a_hinged_plate_on_a_stage_is_the_formula_of_its_name():
    """Tension at rest and pull at slip on the card are those of the hinged base by its places."""
    link, figures = hung()
    place = link.details.layout
    working = hinged_base_working(
        HingedBaseInputs.model_validate(
            {
                "motor_across_mm": 180.0,
                "motor_up_mm": 60.0,
                "driven_across_mm": 180.0,
                "driven_up_mm": 60.0 + place.center_mm,
                "driver_diameter_mm": place.driver_pitch_mm,
                "driven_diameter_mm": place.driven_pitch_mm,
                "mass_kg": 30.0,
                "weight_arm_mm": 150.0,
                "belts": 1,
                "tight_strand": "farther_from_the_hinge",
            }
        )
    )
    assert figures["plate_tension"] == pytest.approx(working.steps[-2].value)
    assert figures["plate_slip"] == pytest.approx(working.value)
    assert link.details.tension.static_n == figures["plate_tension"]


def test_the_mass_told_sets_the_tension_wanted():
    _, figures = hung()
    link, _ = hung(plate_mass_kg=figures["plate_mass"])
    assert link.details.tension.static_n == pytest.approx(design_tension_n(link.details), rel=1e-9)
    codes = {finding.code: finding.severity for finding in link.findings}
    assert codes["v_belt.tension_set"] is Severity.CLEAR


def test_what_is_not_known_of_a_plate_is_not_guessed():
    link, figures = hung(plate_mass_kg=None)
    assert "plate_tension" not in figures
    assert "v_belt.plate_unknown" in {finding.code for finding in link.findings}
    assert link.details.set_n is None
    link, _ = hung(hinge_across_mm=0.0, hinge_up_mm=0.0)
    assert "v_belt.plate_off" in {finding.code for finding in link.findings}
