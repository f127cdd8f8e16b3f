"""Six whole plans with the arithmetic of a notebook beside them: speeds, torques and force by hand."""

from __future__ import annotations

from math import pi
from typing import Any

import pytest

from builders import build_machine
from pulltide.core.advantage import advantage
from pulltide.core.findings import Severity
from pulltide.core.line import solve_plan
from pulltide.core.line_result import PlanResult
from pulltide.core.machine import Machine

MOTOR = {"kind": "induction", "power_kw": 1.5, "speed_rpm": 1740.0, "volts": 230.0, "frequency_hz": 60.0}


def planned(links: list[dict[str, Any]], source: dict[str, Any], running_nm: float, **need: Any) -> Machine:
    empty = dict.fromkeys(("speed_min_rpm", "speed_ideal_rpm", "speed_max_rpm", "breakaway_torque_nm"))
    torque = {"running_torque_nm": running_nm, "peak_torque_nm": 1.2 * running_nm}
    raw = build_machine(links=links, need={**empty, **torque, **need}).model_dump(mode="json")
    raw["plans"][0]["source"] = source
    return Machine.model_validate(raw)


def solved(machine: Machine) -> PlanResult:
    return solve_plan(machine, machine.plans[0])


def torques(result: PlanResult) -> list[float]:
    return [shaft.running_torque_nm for shaft in result.chosen.shafts]


def speeds(result: PlanResult) -> list[float]:
    return [shaft.speed_rpm for shaft in result.chosen.shafts]


def by_slip(torque_nm: float, synchronous_rpm: float, plate_rpm: float, power_kw: float) -> float:
    """Straight from no slip at no load through the plate's point."""
    full_nm = 9549.3 * power_kw / plate_rpm
    return synchronous_rpm - (synchronous_rpm - plate_rpm) * torque_nm / full_nm


def test_a_tumbler_by_gears_and_chain():
    """20 → 80 at 95 %, then 17 → 51 at 97 %: 1/12 of the speed; 90 N·m need 90/3/0.97 and that /4/0.95."""
    gears = {"kind": "gear_pair", "driver_teeth": 20, "driven_teeth": 80, "module_mm": 2.5, "face_width_mm": 25.0}
    chain = {"kind": "roller_chain", "chain": "50", "driver_teeth": 17, "driven_teeth": 51, "pitches": 100}
    links = [gears | {"own_efficiency": 0.95}, chain | {"own_efficiency": 0.97}]
    result = solved(planned(links, MOTOR, 90.0))
    between, motor = 90 / 3 / 0.97, 90 / 3 / 0.97 / 4 / 0.95
    assert torques(result) == pytest.approx([motor, between, 90.0], rel=1e-4)
    rpm = by_slip(motor, 1800, 1740, 1.5)
    assert speeds(result) == pytest.approx([rpm, rpm / 4, rpm / 12], rel=2e-3)


def test_a_hand_winch_by_a_gear_train_and_a_drum():
    """80 N at 350 mm are 28 N·m; 20 → 61 and 22 → 59 at 96.5 % each on a drum of 102 mm with its rope: 4.2 kN pulled.

    Without loss 350/51 · 8.18 = 56 times the hand.
    """
    train = {
        "kind": "gear_train",
        "driver_1_teeth": 20,
        "driven_1_teeth": 61,
        "driver_2_teeth": 22,
        "driven_2_teeth": 59,
    }
    link = train | {"module_1_mm": 3.0, "own_efficiency": 0.965}
    hand = {"kind": "hand", "handle_force_n": 80, "handle_radius_mm": 350, "speed_rpm": 40}
    end = {"kind": "drum", "drum_diameter_mm": 96, "rope_diameter_mm": 6, "drum_efficiency": 0.95, "brake": "yes"}
    machine = planned([link], hand, 60.0, end=end)
    gained = advantage(machine, machine.plans[0], solved(machine).chosen)
    ratio = 61 / 20 * 59 / 22
    assert gained is not None
    assert gained.of_force
    assert gained.ideal == pytest.approx(ratio * 350 / 51, rel=1e-3)
    assert gained.real == pytest.approx(ratio * 350 / 51 * 0.965**2 * 0.95, rel=1e-3)


def test_a_drill_press_from_a_line_shaft_by_a_crossed_belt():
    """150 → 300 mm crossed at 95.5 % less 0.1 % of creep, from an engine: half its speed, reversed."""
    belt = {"kind": "plain_belt", "belt": "leather_1_ply", "runs": "crossed", "width_mm": 60}
    link = belt | {"driver_diameter_mm": 150, "driven_diameter_mm": 300, "center_distance_mm": 1500}
    engine = {"kind": "engine", "power_kw": 2.2, "speed_rpm": 1500.0, "clutch": "slack_belt"}
    result = solved(planned([link], engine, 8.0))
    assert speeds(result)[1] == pytest.approx(speeds(result)[0] / 2, rel=0.01)
    assert torques(result)[0] == pytest.approx(8 / 2 / 0.955, rel=0.01)
    assert result.chosen.last_shaft.turn == -1


def test_a_cart_on_a_battery():
    """24 V, 0.16 + 0.02 ohm: I = T/K + 1.5, n by V - I R; 15 : 1 in two pairs at 97 % each."""
    source = {"kind": "dc", "volts": 24.0, "resistance_ohm": 0.16, "no_load_a": 1.5, "no_load_rpm": 3000.0}
    battery = {"on_battery": True, "battery": {"capacity_ah": 40, "resistance_ohm": 0.02}}
    gears = {"kind": "gear_pair", "driver_teeth": 18, "driven_teeth": 90, "module_mm": 2.0, "face_width_mm": 20.0}
    links = [gears | {"own_efficiency": 0.97}, gears | {"driven_teeth": 54, "own_efficiency": 0.97}]
    result = solved(planned(links, source | battery | {"continuous_a": 30}, 12.0))
    k = (24 - 1.5 * 0.16) / (3000 * 2 * pi / 60)
    torque = 12 / 15 / 0.97**2
    rpm = (24 - (torque / k + 1.5) * 0.18) / k * 60 / (2 * pi)
    assert torques(result)[0] == pytest.approx(torque, rel=1e-4)
    assert speeds(result)[0] == pytest.approx(rpm, rel=5e-3)
    assert speeds(result)[2] == pytest.approx(rpm / 15, rel=5e-3)


def test_a_bulk_belt_up_a_slope():
    """12 m at 12°, 30 t/h at 1.2 m/s: q 6.944 kg/m; friction 57 + 10, lift 170, cleaners 50 N; at 110 mm 31.6 N·m."""
    sheet = {"kind": "bulk_conveyor", "length_mm": 12_000, "incline_deg": 12, "throughput_t_h": 30, "belt_kg_m": 5.0}
    drum = {"top_idlers_kg_m": 8.0, "return_idlers_kg_m": 3.0, "drum_diameter_mm": 220, "belt_ideal_m_s": 1.2}
    raw = build_machine(links=[{"kind": "reducer", "designation": "PS-2 15:1"}]).model_dump(mode="json")
    raw["need"] = {"worksheet": sheet | drum | {"belt_thickness_mm": 0}}
    machine = Machine.model_validate(raw)
    carried = 30 / 3.6 / 1.2
    friction = 0.020 * 12 * 9.80665 * (11 + (10 + carried) * 0.97815) + 30 * 1.2 / 3.6
    lift = carried * 9.80665 * 12 * 0.20791
    assert machine.need.running_torque_nm == pytest.approx((friction + lift + 50) * 0.110, rel=1e-3)
    assert machine.need.holding_torque_nm == pytest.approx(
        (lift - 0.5 * 0.016 * 12 * 9.80665 * (21 + carried)) * 0.110, rel=1e-3
    )
    assert "need.hold_none" in {f.code for f in solved(machine).findings if f.severity is Severity.ERROR}
    assert "need.bulk_conveyor.back_run" not in {f.code for f in solved(machine).findings}, "said once"


def test_a_saw_spindle_sped_up():
    """V-belt 150 → 75 mm pitch at 94 % of one's own: twice the speed less creep, 2 N·m need 2 · 2 / 0.94."""
    step = [{"driver_diameter_mm": 150, "driven_diameter_mm": 75}]
    belt = {"kind": "v_belt", "section": "A", "measured_as": "pitch", "steps": step, "belt": "A46", "belts": 2}
    result = solved(planned([belt | {"own_efficiency": 0.94}], MOTOR, 2.0))
    creep = 1 - speeds(result)[1] / (2 * speeds(result)[0])
    assert 0 < creep < 0.02
    assert torques(result)[0] == pytest.approx(2 * 2 / 0.94 * (1 - creep), rel=1e-3)
    assert speeds(result)[0] == pytest.approx(by_slip(4.2, 1800, 1740, 1.5), rel=2e-3)
