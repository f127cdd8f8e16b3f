"""Simple machines at either end of the line: force, speed, loss, and what runs back."""

from __future__ import annotations

from math import atan, cos, pi, radians, tan
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from anything import any_of
from builders import build_machine
from draws import draws
from pulltide.core.ends import END_KINDS, END_RULES, end_at, end_findings, end_kind, end_working
from pulltide.core.ends.drum import block_efficiency
from pulltide.core.ends.screw import ScrewAndNut, back_efficiency, screw_efficiency
from pulltide.core.findings import Severity
from pulltide.core.line import solve_line
from pulltide.core.methods import METHODS

W, E, N = Severity.WARNING, Severity.ERROR, Severity.NOTE


def end(kind: str, **sizes: Any) -> Any:
    return end_kind(kind).model.model_validate({"kind": kind, **sizes})


def test_from_hand_to_rope():
    """100 N on a 300 mm crank, 15 to 60 teeth at 0.95, a drum of 50 mm radius at 0.90: 2052 N, 2400 N without loss.

    The rope moves 1 mm for 24 mm at the hand: ideal advantage 24, overall efficiency 0.855. Worked separately.
    """
    crank = METHODS["end_crank"].run(METHODS["end_crank"].inputs(hand_force_n=100, arm_mm=300, turns_rpm=30))
    assert crank.value == pytest.approx(30)
    torque = crank.value * 60 / 15 * 0.95
    assert torque == pytest.approx(114)
    drum = end("drum", drum_diameter_mm=98.0, rope_diameter_mm=2.0, drum_efficiency=0.90)
    found = end_at(drum, torque, None, 30 / 4)
    assert found.force_n == pytest.approx(2052)
    assert found.ideal_force_n / 0.95 == pytest.approx(2400)
    hand_travel = 2 * pi * 300 * 4
    assert hand_travel / found.travel_per_turn_mm == pytest.approx(24)
    assert found.force_n / 100 / 24 == pytest.approx(0.855)


def test_a_block_loses_a_little_in_every_sheave():
    """η = (1 - e^n) / (n (1 - e)): the sum of strand tensions that fall by e each. Handbooks, from memory."""
    for falls in (1, 2, 4, 6):
        strands = [0.97**k for k in range(falls)]
        assert block_efficiency(falls, 0.97) == pytest.approx(sum(strands) / falls)


def test_layers_and_falls():
    """A second layer pulls less, four falls pull four times as slow and, but for loss, four times as hard. Exact."""
    one, two = (end_at(end("drum", layer=layer), 50.0, 80.0, 20.0) for layer in (1, 2))
    assert one.force_n > two.force_n
    assert two.speed_m_per_s == pytest.approx(20 * pi / 30 * (50 + 9) / 1000)
    four = end_at(end("drum", falls=4), 50.0, None, 20.0)
    assert four.ideal_force_n == pytest.approx(4 * one.ideal_force_n)
    assert four.speed_m_per_s == pytest.approx(one.speed_m_per_s / 4)
    assert four.peak_force_n is None


def test_a_published_power_screw():
    """Shigley Ex. 8-1: square, d 32 mm, pitch 4, double thread (l 8, d_m 30), f 0.08, collar 40 mm, F 6.4 kN.

    Raises with 26.18 N·m, lowers with -0.466 + 10.24 = 9.77 N·m; overall efficiency 0.311. From memory, 0.3 %.
    """
    screw = end("screw", thread="square", mean_diameter_mm=30, lead_mm=8, friction=0.08, collar_diameter_mm=40)
    torque = 6400 * 8 / (2000 * pi * screw_efficiency(screw))
    assert torque == pytest.approx(26.18, rel=0.003)
    assert screw_efficiency(screw) == pytest.approx(0.311, rel=0.003)
    lowering = -6400 * 8 / (2000 * pi) * back_efficiency(screw)
    assert lowering == pytest.approx(9.77, rel=0.01)


@given(st.floats(5, 60), st.floats(1, 30), st.floats(0.02, 0.3))
def test_a_square_thread_without_collar_is_an_inclined_plane(diameter: float, lead: float, friction: float):
    """η = tan λ / tan(λ + ρ), and it runs back where λ > ρ. Statics."""
    screw = ScrewAndNut(thread="square", mean_diameter_mm=diameter, lead_mm=lead, friction=friction)
    angle, rho = atan(lead / (pi * diameter)), atan(friction)
    if angle + rho < 1.5:
        assert screw_efficiency(screw) == pytest.approx(tan(angle) / tan(angle + rho), rel=1e-6)
    assert (back_efficiency(screw) > 0) == (angle > rho)


def test_flanks_at_an_angle_rub_more():
    square, trapezoidal, v = (
        screw_efficiency(end("screw", thread=name)) for name in ("square", "trapezoidal", "v_thread")
    )
    assert square > trapezoidal > v
    as_if = ScrewAndNut(thread="square", friction=0.15 / cos(radians(15)))
    assert trapezoidal == pytest.approx(screw_efficiency(as_if), rel=1e-9)


def test_a_rack_moves_its_pitch_circle_a_turn():
    """Travel π m N, force 2 T / (m N). Exact."""
    found = end_at(end("rack", module_mm=2, teeth=20), 20.0, None, 60.0)
    assert found.travel_per_turn_mm == pytest.approx(pi * 40)
    assert found.ideal_force_n == pytest.approx(1000)
    assert found.speed_m_per_s == pytest.approx(pi * 0.040)


def test_a_lever_trades_force_for_way():
    found = end_at(end("lever", arm_mm=100, effort_arm_mm=300, load_arm_mm=100), 10.0, None, 10.0)
    assert found.ideal_force_n == pytest.approx(300)
    assert found.force_n == pytest.approx(291)


#: Code, severity, end, torque, peak.
TRIPS = [
    ("end.drum_brake", E, end("drum"), 10.0, 12.0),
    ("end.drum_size", W, end("drum", drum_diameter_mm=80.0), 10.0, 12.0),
    ("end.screw_holds", W, end("screw"), 10.0, 12.0),
    ("end.screw_runs_back", W, end("screw", thread="ball_screw"), 10.0, 12.0),
    ("end.wheel_spins", W, end("wheel", weight_on_wheel_n=300.0), 10.0, 30.0),
    ("end.wheel_weight", N, end("wheel"), 10.0, 12.0),
    ("end.rack_bending", W, end("rack", face_width_mm=5.0), 40.0, 80.0),
    ("end.rack_undercut", N, end("rack", teeth=15), 1.0, 1.0),
    ("end.lever_swings", N, end("lever"), 10.0, 12.0),
]


@pytest.mark.parametrize("trip", TRIPS, ids=lambda trip: trip[0])
def test_checks_of_the_ends(trip: tuple):
    code, severity, machine, torque, peak = trip
    found = {f.code: f.severity for f in end_findings(machine, end_at(machine, torque, peak, 30.0))}
    assert found[code] is severity


def test_no_check_of_an_end_is_left_without_a_case():
    assert {rule.code for rule in END_RULES} == {trip[0] for trip in TRIPS}


def test_a_brake_and_a_large_drum_clear_the_drum():
    machine = end("drum", drum_diameter_mm=150.0, brake="yes")
    assert all(f.severity is Severity.CLEAR for f in end_findings(machine, end_at(machine, 10.0, None, 30.0)))


def test_the_line_judges_its_end_at_its_own_speed():
    machine = build_machine(need={"end": {"kind": "wheel", "diameter_mm": 300.0, "weight_on_wheel_n": 500.0}})
    line = solve_line(machine, machine.plans[0])
    assert line is not None
    spins = next(f for f in line.findings if f.code == "end.wheel_spins")
    assert spins.measured == pytest.approx(0.97 * 180.0 * 2 / 0.300)
    assert spins.severity is Severity.WARNING


def test_an_unknown_torque_gives_no_force():
    found = end_at(end("drum"), None, None, 20.0)
    assert (found.force_n, found.ideal_force_n, found.peak_force_n) == (None, None, None)
    assert found.speed_m_per_s is not None


@pytest.mark.parametrize("kind", END_KINDS, ids=lambda kind: kind.kind)
@settings(max_examples=draws(60), deadline=None, suppress_health_check=list(HealthCheck))
@given(data=st.data())
def test_power_is_never_gained(kind: Any, data: st.DataObject):
    """Force times speed is at most torque times speed of the shaft, and the working ends in the force."""
    machine = kind.model.model_validate(data.draw(any_of(kind.model, kind=kind.kind)))
    found = end_at(machine, 10.0, 20.0, 30.0)
    assert 0 <= found.force_n * found.speed_m_per_s <= 10.0 * pi * (1 + 1e-9)
    assert found.pull.back_efficiency <= 1
    assert end_working(machine, 10.0, 30.0).value == pytest.approx(found.force_n)
    again = METHODS[f"end_{kind.kind}"]
    inputs = again.inputs.model_validate({**machine.model_dump(), "torque_nm": 10.0, "speed_rpm": 30.0})
    assert again.run(inputs).value == pytest.approx(found.force_n)


@pytest.mark.parametrize("bad", [{"drum_diameter_mm": 0}, {"falls": 0}, {"rope_diameter_mm": -1}])
def test_sizes_that_cannot_be_are_refused(bad: dict[str, float]):
    with pytest.raises(ValidationError, match="greater than or equal"):
        end("drum", **bad)


@pytest.mark.parametrize(("sheaves", "efficiency"), [("rolling_bearings", 0.97), ("plain_bearings", 0.92)])
def test_sheaves_lose_what_handbooks_say(sheaves: str, efficiency: float):
    """Rolling 0.96 to 0.98, plain 0.90 to 0.94; two falls lose in one sheave. Handbooks, from memory."""
    found = end_at(end("drum", falls=2, sheaves=sheaves, drum_efficiency=1.0), 10.0, None, 10.0)
    assert found.pull.efficiency == pytest.approx((1 + efficiency) / 2)


def test_a_rack_is_bent_as_lewis_says():
    """σ b m Y / Kv with Kv = (6.1 + v) / 6.1, 20 teeth of 0.322: at rest 103 x 20 x 2 x 0.322. Shigley Eq. 14-6."""
    machine = end("rack", module_mm=2, teeth=20, face_width_mm=20)
    found = next(f for f in end_findings(machine, end_at(machine, 5.0, None, 60.0)) if f.code == "end.rack_bending")
    speed = pi * 40 * 60 / 60_000
    assert found.limit == pytest.approx(103 * 20 * 2 * 0.322 / ((6.1 + speed) / 6.1), rel=0.001)


def test_a_wheel_grips_by_its_weight():
    machine = end("wheel", weight_on_wheel_n=1000.0, grip=0.6)
    found = next(f for f in end_findings(machine, end_at(machine, 10.0, 50.0, 30.0)) if f.code == "end.wheel_spins")
    assert found.limit == pytest.approx(600.0)
    assert found.measured == pytest.approx(0.97 * 50.0 / 0.1)
