"""Where the curve of each source meets the load: by hand, by scipy, and against what a published curve says."""

from __future__ import annotations

from typing import Any

import pytest
from scipy.optimize import brentq

from builders import build_machine
from pulltide.core.findings import Severity
from pulltide.core.line import solve_plan
from pulltide.core.line_result import PlanResult
from pulltide.core.sources import drive_of
from pulltide.core.units import RPM_PER_RAD_PER_S

#: Three to one at exactly 95 %, so that a hand calculation needs no more than the motor's own law.
RATIO, EFFICIENCY = 3.0, 0.95
GEARS = {
    "kind": "gear_pair",
    "driver_teeth": 20,
    "driven_teeth": 60,
    "module_mm": 3.0,
    "face_width_mm": 30.0,
    "own_efficiency": EFFICIENCY,
}
DC = {"kind": "dc", "volts": 24.0, "resistance_ohm": 0.16, "no_load_a": 1.5, "no_load_rpm": 3000.0, "continuous_a": 40}
#: Volts a radian a second of that motor, from its idle point: (V - I R) / ω.
K = (24.0 - 1.5 * 0.16) / (3000.0 / RPM_PER_RAD_PER_S)


def solved(source: dict[str, Any], running_nm: float, **need: Any) -> PlanResult:
    torque = {"running_torque_nm": running_nm, "peak_torque_nm": running_nm, "breakaway_torque_nm": None}
    band = {"speed_min_rpm": None, "speed_ideal_rpm": None, "speed_max_rpm": None}
    machine = build_machine(links=[GEARS], need={**band, **torque, **need})
    raw = machine.model_dump(mode="json")
    raw["plans"][0]["source"] = source
    machine = type(machine).model_validate(raw)
    return solve_plan(machine, machine.plans[0])


def motor_rpm(result: PlanResult) -> float:
    return result.chosen.shafts[0].speed_rpm


def codes(result: PlanResult, least: Severity = Severity.WARNING) -> set[str]:
    return {finding.code for finding in result.findings if finding.severity.rank >= least.rank}


@pytest.mark.parametrize("running_nm", [1.0, 3.0, 6.0])
def test_a_permanent_magnet_motor_by_its_line(running_nm: float):
    """V = I R + K ω and T = K (I - I_0). Mechanics, by hand."""
    amps = running_nm / (RATIO * EFFICIENCY) / K + 1.5
    by_hand = (24.0 - amps * 0.16) / K * RPM_PER_RAD_PER_S
    assert motor_rpm(solved(DC, running_nm)) == pytest.approx(by_hand, rel=2e-3)


def test_a_treadmill_motor_that_its_plate_calls_too_slow_runs_in_its_band():
    """At a fifth of its load it turns near its no-load speed; judged there, not at the plate's point."""
    band = {"speed_min_rpm": 950.0, "speed_ideal_rpm": 970.0, "speed_max_rpm": 1000.0}
    assert drive_of(_source(DC)).speed_rpm / RATIO < 900
    result = solved(DC, 1.0, **band)
    assert not codes(result) & {"need.speed_low", "need.speed_high"}


def _source(raw: dict[str, Any]) -> Any:
    raw = {**build_machine().model_dump(mode="json")["plans"][0], "source": raw}
    return type(build_machine().plans[0]).model_validate(raw).source


def test_a_battery_sags_under_its_current():
    """Its resistance stands in line with the winding's: V = E - I (R_b + R). Mechanics, by hand."""
    battery = {"on_battery": True, "battery": {"capacity_ah": 20, "c_rate": 10, "resistance_ohm": 0.05}}
    amps = 4.0 / (RATIO * EFFICIENCY) / K + 1.5
    by_hand = (24.0 - amps * (0.16 + 0.05)) / K * RPM_PER_RAD_PER_S
    assert motor_rpm(solved({**DC, **battery}, 4.0)) == pytest.approx(by_hand, rel=5e-3)


def test_a_driver_that_lets_through_too_little_stalls():
    """20 A through the driver give K (20 - 1.5) at the shaft and no more."""
    max_nm = K * 18.5 * RATIO * EFFICIENCY
    limited = {**DC, "driver_limit_a": 20}
    assert not solved(limited, 0.97 * max_nm).chosen.stalled
    assert solved(limited, 1.03 * max_nm).chosen.stalled


@pytest.mark.parametrize("running_nm", [4.0, 8.0, 12.0])
def test_an_induction_motor_by_its_slip(running_nm: float):
    """The root that scipy finds of the motor's own curve against the load through ratio and loss."""
    plate = {"kind": "induction", "power_kw": 0.75, "speed_rpm": 1425.0, "volts": 230.0, "frequency_hz": 50.0}
    curve = drive_of(_source(plate)).curve
    at_motor = running_nm / (RATIO * EFFICIENCY)
    root = brentq(lambda rpm: curve.torque_nm(rpm) - at_motor, 1350, 1499.9)
    assert motor_rpm(solved(plate, running_nm)) == pytest.approx(root, rel=1e-4)


def test_a_universal_motor_at_little_load_runs_near_its_no_load_speed():
    """A series motor's curve is steep: at 15 % of its rated torque within a third of no-load. Common practice."""
    source = {"kind": "universal", "input_kw": 0.9, "no_load_rpm": 20_000.0}
    rated = drive_of(_source(source))
    running = 0.15 * rated.torque_nm * RATIO * EFFICIENCY
    found = motor_rpm(solved(source, running))
    assert found > 1.2 * rated.speed_rpm
    assert 0.66 * 20_000 < found < 20_000


def test_an_engine_holds_its_governed_speed():
    """Governors droop: a little over the speed of the plate at part load, common practice no source; never under it."""
    source = {"kind": "engine", "power_kw": 4.0, "speed_rpm": 3000.0, "clutch": "centrifugal"}
    light, full = (motor_rpm(solved(source, share * 12.73 * RATIO * EFFICIENCY)) for share in (0.2, 1.0))
    assert full * 1.001 >= 3000
    assert full < light < 1.1 * 3000


INVERTER = {
    "kind": "induction",
    "power_kw": 1.5,
    "speed_rpm": 1740.0,
    "volts": 230.0,
    "frequency_hz": 60.0,
    "inverter": {"fitted": True, "run_hz": 60.0, "min_hz": 5.0, "max_hz": 60.0},
}
SLOW_BAND = {"speed_min_rpm": 55.0, "speed_ideal_rpm": 300.0, "speed_max_rpm": 580.0}


def test_five_hertz_at_a_small_load_is_no_finding_and_at_full_load_one():
    """Its own fan cools little at 5 Hz; at 8 % of the rating it need not."""
    rated = drive_of(_source(INVERTER)).torque_nm * RATIO * EFFICIENCY
    light, heavy = solved(INVERTER, 0.08 * rated, **SLOW_BAND), solved(INVERTER, 0.9 * rated, **SLOW_BAND)
    hot = {code for code in codes(heavy) if code.startswith("motor.")}
    assert hot
    assert not {code for code in codes(light) if code.startswith("motor.")}
    assert "need.control_range" not in codes(light)


def test_a_control_that_cannot_reach_the_band_is_told():
    assert "need.control_range" in codes(solved(INVERTER, 2.0, **{**SLOW_BAND, "speed_min_rpm": 20.0}))
    assert "need.control_top" in codes(solved(INVERTER, 2.0, **{**SLOW_BAND, "speed_max_rpm": 700.0}))


def test_both_speeds_of_a_motor_are_settings():
    plate = {"kind": "induction", "power_kw": 1.5, "speed_rpm": 1740.0, "volts": 230.0, "frequency_hz": 60.0}
    result = solved({**plate, "second_speed_rpm": 1140.0, "second_power_kw": 0.5}, 3.0)
    speeds = sorted(line.shafts[0].speed_rpm for line in result.settings)
    assert len(speeds) == 2
    assert 1140 < speeds[0] < 1200
    assert 1740 < speeds[1] < 1800


def test_a_pedal_is_judged_at_both_ends():
    result = solved({**DC, "controlled": True, "slowest_share": 0.1}, 1.0)
    speeds = [line.shafts[0].speed_rpm for line in result.settings]
    assert max(speeds) > 5 * min(speeds)


def test_a_fan_eases_as_it_slows():
    """Load as the square of speed, against the same curve, by scipy."""
    plate = {"kind": "induction", "power_kw": 0.75, "speed_rpm": 1425.0, "volts": 230.0, "frequency_hz": 50.0}
    band = {"speed_ideal_rpm": 400.0, "load_exponent": 2.0}
    curve = drive_of(_source(plate)).curve

    def off(rpm: float) -> float:
        return float(curve.torque_nm(rpm) - 10.0 * (rpm / RATIO / 400.0) ** 2 / (RATIO * EFFICIENCY))

    assert motor_rpm(solved(plate, 10.0, **band)) == pytest.approx(brentq(off, 1350, 1499.9), rel=1e-4)
