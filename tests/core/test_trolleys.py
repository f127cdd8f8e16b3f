"""A trolley or spring door by hand: what changes over the travel, both ways."""

from __future__ import annotations

from itertools import pairwise
from math import pi, sin, sqrt
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import quad

from pulltide.core.needs.trolley import TrolleySheet, places, say, spring_n, work
from worksheets import WORKSHEETS

G = 9.80665


def trolley(**changes: Any) -> TrolleySheet:
    return TrolleySheet.model_validate({**WORKSHEETS["trolley"], **changes})


def test_a_level_trolley_rolls_and_nothing_more():
    """80 kg on wheels at 3.5 % are 27.5 N; a sprocket of 60 mm at 97 % takes 0.85 N·m."""
    out = work(trolley(mass_kg=80, slope_start_deg=0, slope_end_deg=0, spring="none"), "typical")
    assert out.running_nm == pytest.approx(0.035 * 80 * G * 0.03 / 0.97)
    assert out.holding_nm == pytest.approx(0.0, abs=1e-9)


def test_a_cable_trolley_up_a_slope():
    """200 kg up 30° are 980.7 N and 3.5 % of what presses, 59.4 N; a drum of 100 mm at 95 % takes 54.7 N·m."""
    slope = {"slope_start_deg": 30, "slope_end_deg": 30}
    out = work(trolley(mass_kg=200, **slope, spring="none", moved_by="cable", drive_diameter_mm=100), "typical")
    pull = 200 * G * (0.5 + 0.035 * sqrt(3) / 2)
    assert out.running_nm == pytest.approx(pull * 0.05 / 0.95, rel=1e-6)
    assert out.holding_nm == pytest.approx(200 * G * 0.5 * 0.05)


def test_a_torsion_spring_loses_a_turn_with_each_turn_of_its_drum():
    """7.4 turns of 4 N·m on a drum of 100 mm pull 592 N; after 2.2 m, 7.0 turns less, 32 N."""
    sheet = trolley()
    assert spring_n(sheet, 0.0) == pytest.approx(7.4 * 4 / 0.05)
    assert spring_n(sheet, 2.2) == pytest.approx((7.4 - 2.2 / (pi * 0.1)) * 4 / 0.05)
    assert spring_n(sheet, 9.0) == 0.0


def test_an_extension_spring_falls_evenly():
    sheet = trolley(spring="extension", spring_start_n=600, spring_end_n=160)
    assert [spring_n(sheet, moved) for moved in (0.0, 1.1, 2.2)] == pytest.approx([600.0, 380.0, 160.0])


def test_a_door_in_sections_hangs_less_and_less():
    whole, sections = (places(trolley(in_sections=made), 0.035) for made in (False, True))
    weight = 60 * G
    assert [place.weight_n for place in sections] == pytest.approx([weight * (1 - k / 10) for k in range(11)])
    assert whole[5].weight_n == pytest.approx(weight * sin(pi / 4))


def test_the_hardest_place_decides_and_what_is_missing_is_left_out():
    sheet = trolley()
    along = places(sheet, 0.035)
    out = work(sheet, "typical")
    assert out.running_nm == pytest.approx(max(max(p.out_n, p.back_n) for p in along) * 0.03 / 0.97)
    assert work(trolley(wound_turns=None), "typical").running_nm is None
    assert work(trolley(mass_kg=None), "typical").running_nm is None


@given(st.floats(5, 2000), st.floats(-60, 90), st.floats(-60, 90), st.floats(0.01, 0.1))
def test_energy_out_is_what_the_track_lifts_and_what_rolling_takes(mass: float, start: float, end: float, c: float):
    """Pull over the travel, by the trapezoid of its places, against the integral of the slope."""
    sheet = trolley(mass_kg=mass, slope_start_deg=start, slope_end_deg=end, in_sections=False, spring="none")
    along = places(sheet, c)
    stretch = 2.2 / 10
    work_n_m = sum((a.out_n - a.rolling_n + b.out_n - b.rolling_n) / 2 * stretch for a, b in pairwise(along))
    lifted, _ = quad(lambda s: mass * G * sin((start + (end - start) * s) * pi / 180), 0, 1)
    assert work_n_m == pytest.approx(2.2 * lifted, rel=0.01, abs=0.01 * mass * G)
    # there and back nothing is left of the weight: rolling alone
    assert all(p.out_n + p.back_n == pytest.approx(2 * p.rolling_n, abs=1e-6 * mass * G) for p in along)


def test_the_duty_cycle_follows_the_pull():
    out = work(trolley(), "typical")
    assert len(out.cycle) == 4
    assert sum(part.seconds for part in out.cycle) == pytest.approx(2 * 2.2 / 0.15)
    assert max(part.torque_share for part in out.cycle) <= 1.0


def test_travel_and_time_from_end_to_end():
    """A 100 mm wheel at 60 rpm rolls π · 0.1 m/s: 3 m take 9.549 s; without a travel only the speed is said."""
    whole = say(TrolleySheet(drive_diameter_mm=100.0, travel_mm=3000.0), 60.0)
    assert [saying.value for saying in whole] == pytest.approx([pi * 0.1, 9.549], abs=0.001)
    assert len(say(TrolleySheet(drive_diameter_mm=100.0), 60.0)) == 1
    assert say(TrolleySheet(travel_mm=3000.0), 60.0) == ()


def test_how_far_a_spring_is_out_of_balance():
    """An even 400 N spring on a 60 kg door that hangs free, 588.4 N, leaves 188.4 N: 32 % of the weight."""
    slope = {"slope_start_deg": 90, "slope_end_deg": 90, "in_sections": False}
    spring = {"spring": "extension", "spring_start_n": 400, "spring_end_n": 400}
    out = work(trolley(mass_kg=60, **slope, **spring), "typical")
    found = next(finding for finding in out.findings if finding.code == "need.trolley.balance")
    assert found.measured == pytest.approx((60 * G - 400) / (60 * G))
