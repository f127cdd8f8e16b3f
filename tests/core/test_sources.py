"""Motors and other sources against published tables and worked values, each with its source, and over their range."""

from __future__ import annotations

from math import isfinite
from typing import Any

import fluids
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from pydantic import TypeAdapter, ValidationError
from scipy.integrate import quad
from scipy.optimize import brentq

from anything import any_of
from builders import build_belt, build_machine
from draws import draws
from pulltide.core.duty import Duty
from pulltide.core.findings import Severity
from pulltide.core.line import solve_plan
from pulltide.core.sources import SOURCE_KINDS, SOURCE_RULES, AnySource, Demand, Drive, drive_of, source_kind
from pulltide.core.sources.contract import warm_share
from pulltide.core.sources.curves import (
    InductionCurve,
    LineCurve,
    PacedCurve,
    SeriesCurve,
    breakdown_slip,
    climb,
    kloss,
    run_point_rpm,
    run_up_unloaded_s,
)
from pulltide.core.sources.induction import poles, slip
from pulltide.core.sources.inverter import continuous_share
from pulltide.core.sources.others import BURST_KW
from pulltide.core.sources.permanent_magnet import constants
from pulltide.core.sources.plate import read_plate
from pulltide.core.sources.starting import KGM2_PER_LBFT2, allowed_starts_per_hour, max_inertia_kgm2, start_of
from pulltide.core.sources.supply import next_breaker_a, start_voltage_share, voltage_drop_v
from pulltide.core.sources.tables import code_letter_kva, frame_shaft_mm, full_load_amps, hp_of, rows
from pulltide.core.units import KW_PER_HP, RPM_PER_RAD_PER_S, torque_nm

SOURCES: TypeAdapter[Any] = TypeAdapter(AnySource)


def motor(**plate: Any) -> Any:
    return SOURCES.validate_python({"kind": "induction", **plate})


def source(kind: str, **inputs: Any) -> Any:
    return SOURCES.validate_python({"kind": kind, **inputs})


def read(**plate: Any) -> Any:
    return read_plate(motor(**plate))


def demand(**asked: Any) -> Demand:
    values = {"running_nm": 5.0, "peak_nm": 8.0, "breakaway_nm": 7.0, "inertia_kgm2": None}
    duty = Duty(**asked.pop("duty", {}))
    return Demand(**{**values, "load_exponent": 0.0, "efficiency": 0.9, "duty": duty, **asked})


def run_up_s(curve: Any, load: Any, inertia: float, to_rpm: float) -> float:
    return climb(curve, load, to_rpm).seconds(inertia)


# --- torque over speed -------------------------------------------------------------------------------------------


def test_kloss_by_hand():
    """5 hp, 4 poles, 60 Hz, 1755 rpm, breakdown 225 %: Kloss, recomputed by hand."""
    rated = torque_nm(5 * KW_PER_HP, 1755)
    assert rated == pytest.approx(20.2875, rel=1e-4)
    at = breakdown_slip(0.025, 2.25)
    assert at == pytest.approx(0.106639, rel=1e-4)
    assert 1800 * (1 - at) == pytest.approx(1608.05, rel=1e-4)
    assert kloss(90 / 1800, at, 2.25) == pytest.approx(1.72967, rel=1e-4)
    assert kloss(1.0, at, 2.25) == pytest.approx(0.4745, rel=1e-3)


def curve(**changes: float) -> InductionCurve:
    values = {"rated_nm": 20.2875, "synchronous_rpm": 1800.0, "rated_rpm": 1755.0}
    ratios = {"breakdown_ratio": 2.25, "locked_ratio": 1.85, "pull_up_ratio": 1.4}
    return InductionCurve(**{**values, **ratios, **changes})


def test_the_curve_goes_through_every_point_of_the_plate():
    found = curve()
    assert found.torque_nm(0) == pytest.approx(1.85 * 20.2875)
    assert found.torque_nm(450) == pytest.approx(1.4 * 20.2875)
    assert found.torque_nm(1755) == pytest.approx(20.2875)
    assert found.torque_nm(1800) == 0
    top = max(found.torque_nm(speed) for speed in range(0, 1801))
    assert top == pytest.approx(2.25 * 20.2875, rel=1e-3)
    low_voltage = curve(scale=0.81)
    assert low_voltage.torque_nm(900) == pytest.approx(0.81 * found.torque_nm(900))


def test_a_high_slip_motor_has_no_peak_of_its_own():
    """Design D, 13 % slip: two straight pieces."""
    found = curve(rated_rpm=1566.0, breakdown_ratio=3.4, locked_ratio=2.75)
    torques = [found.torque_nm(speed) for speed in range(0, 1801, 20)]
    assert torques == sorted(torques, reverse=True)
    assert torques[0] == pytest.approx(2.75 * 20.2875)


def test_run_up_times_by_closed_forms():
    """J 0.085 kg·m² to 1750 rpm: constant, rising and square load in closed form, recomputed by hand."""
    flat = PacedCurve(20.0, 4000.0)
    top = 1750.0
    omega = top / RPM_PER_RAD_PER_S
    assert omega == pytest.approx(183.260, rel=1e-5)
    assert run_up_s(flat, lambda n: 5.0, 0.085, top) == pytest.approx(1.03847, rel=1e-4)
    assert run_up_s(flat, lambda n: 10 * n / top, 0.085, top) == pytest.approx(1.07972, rel=1e-4)
    assert run_up_s(flat, lambda n: 10 * (n / top) ** 2, 0.085, top) == pytest.approx(0.97080, rel=1e-4)
    assert run_up_s(flat, lambda n: 25.0, 0.085, top) == float("inf")


def test_run_up_agrees_with_scipy():
    found = curve()
    ours = run_up_s(found, lambda n: 8.0, 0.2, 1700.0)
    theirs, _ = quad(lambda n: 0.2 / RPM_PER_RAD_PER_S / (found.torque_nm(n) - 8.0), 0, 1700.0, limit=400)
    assert ours == pytest.approx(theirs, rel=1e-3)
    assert run_up_unloaded_s(0.085, 1800.0, 45.0, 0.12, 0.05) == pytest.approx(0.80391, rel=1e-4)


@pytest.mark.parametrize("load", [2.0, 12.0, 20.0])
def test_the_run_point_is_the_root_that_scipy_finds(load: float):
    found = curve()
    assert run_point_rpm(found, lambda n: load) == pytest.approx(
        brentq(lambda n: found.torque_nm(n) - load, 1620, 1799.999), abs=0.05
    )
    assert run_point_rpm(found, lambda n: 90.0) is None


@settings(max_examples=draws(60), deadline=None)
@given(st.floats(0.005, 0.12), st.floats(1.2, 3.5), st.floats(0.3, 4.0))
def test_every_curve_falls_to_nothing_and_is_never_negative(rated_slip: float, breakdown: float, locked: float):
    curves = [
        curve(rated_rpm=1800 * (1 - rated_slip), breakdown_ratio=breakdown, locked_ratio=locked),
        LineCurve(50.0, 3000.0, 20.0),
        SeriesCurve(0.5, 12_000.0, 2.5, 20_000.0),
    ]
    for found in curves:
        torques = [found.torque_nm(found.top_rpm * k / 50) for k in range(51)]
        assert all(isfinite(torque) and torque >= 0 for torque in torques)
        assert torques[-1] <= 0.11 * max(torques)


# --- nameplate ---------------------------------------------------------------------------------------------------


def test_poles_and_slip_from_speed():
    """1425 rpm is no 60 Hz motor (slip 20.8 %) but a 50 Hz one (5.0 %); recomputed by hand."""
    assert poles(1425.0, 60.0) == 4
    assert slip(1425.0, 60.0) == pytest.approx(0.208, abs=5e-4)
    plate = read(power_kw=0.75, speed_rpm=1425)
    assert plate.frequency_hz == 50
    assert plate.sure_of("frequency") == "likely"
    assert read(power_kw=0.75, speed_rpm=1140).poles == 6
    assert read(power_kw=0.75, speed_rpm=1425, frequency_hz=60).frequency_hz == 60


def test_power_from_volts_and_amps():
    """230 V, 8.2 A, power factor 0.72, efficiency 0.74: P = V I pf η = 1004.9 W."""
    plate = read(start="capacitor_start", volts=230, amps_a=8.2, power_factor=0.72, efficiency=0.74, speed_rpm=1425)
    assert plate.power_kw == pytest.approx(1.0049, rel=1e-4)
    rough = read(start="capacitor_start", volts=115, amps_a=9.8, speed_rpm=1725)
    assert hp_of(rough.power_kw) == pytest.approx(0.5, rel=0.05), "NEC Table 430.248: 1/2 hp is 9.8 A at 115 V"
    assert rough.sure_of("power") == "likely"


def test_what_is_not_legible_is_inferred_and_said():
    plate = read(power_kw=5 * KW_PER_HP, speed_rpm=1755, volts=230, start="three_phase")
    by_code = {item.code: item for item in plate.readings}
    assert by_code["power"].sure == "read"
    assert (plate.breakdown_ratio, plate.locked_ratio, plate.pull_up_ratio) == (2.25, 1.85, 1.30)
    assert by_code["breakdown_torque"].sure == "likely"
    assert "MG 1" in by_code["breakdown_torque"].source.document
    assert plate.frame == "184T"
    assert by_code["frame"].sure == "guess"
    assert plate.shaft_mm == pytest.approx(1.125 * 25.4)
    assert plate.locked_amps_a == pytest.approx(92)
    assert plate.service_factor == 1.0
    assert all(item.how for item in plate.readings)


def test_nothing_is_made_up_where_nothing_tells_it():
    assert drive_of(motor()) is None
    assert drive_of(motor(power_kw=1.0)) is None, "no speed, no poles"
    assert drive_of(motor(speed_rpm=1740.0)) is None, "no power"
    assert drive_of(motor(power_kw=1.0, poles=4, frequency_hz=60)).speed_rpm == pytest.approx(1740, abs=10)
    found = read(power_kw=1.0, no_load_speed_rpm=1795)
    assert (found.poles, found.sure_of("full_load_speed")) == (4, "guess")
    framed = read(frame="90S", no_load_speed_rpm=1497)
    assert (framed.power_kw, framed.sure_of("power")) == (1.1, "guess")


@pytest.mark.parametrize(("no_load_speed_rpm", "poles", "frequency_hz"), [(1803, 4, 60), (3602, 2, 60), (2998, 2, 50)])
def test_a_tachometer_that_reads_a_little_over_still_tells_the_poles(no_load_speed_rpm, poles, frequency_hz):
    plate = read(power_kw=1.0, no_load_speed_rpm=no_load_speed_rpm)
    assert (plate.poles, plate.frequency_hz) == (poles, frequency_hz)


def test_no_motor_turns_faster_idle_than_its_field():
    with pytest.raises(ValidationError, match="no-load speed 3200 rpm is above 3000 rpm"):
        motor(no_load_speed_rpm=3200, frequency_hz=50)


def test_single_phase_starting_torque():
    """NEMA MG 1 12.32: 1 hp, 4 poles 9.0 lb·ft; 1/2 hp 85 oz·ft (from memory)."""
    one = read(power_kw=KW_PER_HP, speed_rpm=1725, start="capacitor_start", frequency_hz=60)
    assert one.locked_ratio * torque_nm(KW_PER_HP, 1725) == pytest.approx(9.0 * 1.355818, rel=2e-3)
    half = read(power_kw=0.5 * KW_PER_HP, speed_rpm=1725, start="capacitor_start", frequency_hz=60)
    assert half.locked_ratio * torque_nm(0.5 * KW_PER_HP, 1725) == pytest.approx(85 / 16 * 1.355818, rel=3e-3)


def test_code_letters_and_tables_agree():
    """NEMA MG 1 12.35 gives letters N, L, K, J, H, H, G for 1 to 15 hp at 230 V; NEC Table 430.7(B), from memory."""
    letters = {1: "N", 2: "L", 3: "K", 5: "J", 7.5: "H", 10: "H", 15: "G"}
    for row in rows("locked_rotor_amps_three_phase"):
        size = float(row["hp"])
        if size in letters:
            kva = 3**0.5 * 230 * float(row["locked_rotor_a_230v_3ph"]) / 1000 / size
            low, high = code_letter_kva(letters[size])
            assert low <= kva <= high + 0.01, size
    plate = read(power_kw=3 * KW_PER_HP, speed_rpm=1750, volts=230, code_letter="K", frequency_hz=60)
    assert plate.locked_amps_a == pytest.approx(67.70, rel=2e-3)


@pytest.mark.parametrize(("poles_", "enclosure"), [(p, e) for p in (2, 4, 6) for e in ("ODP", "TEFC")])
def test_efficiencies_agree_with_the_package_that_carries_them(poles_: int, enclosure: str):
    """NEMA MG 1 Tables 12-11 and 12-12, from 1 to 20 hp, against fluids, to 0.05 points."""
    count = 0
    for row in rows("efficiency_60hz"):
        if row["poles"] != str(poles_) or row["enclosure"] != enclosure or "Table" not in row["class"]:
            continue
        size = float(row["hp"])
        theirs = fluids.pump.CSA_motor_efficiency(
            size * 745.7, closed=enclosure == "TEFC", poles=poles_, high_efficiency="premium" in row["class"]
        )
        assert float(row["efficiency_pct"]) / 100 == pytest.approx(theirs, abs=6e-4), (row["class"], size)
        count += 1
    assert count == 18


def test_full_load_current_tables():
    """NEC Tables 430.248 and 430.250 (from memory): 3 hp; the 208 V column is 1.10 of the 230 V one."""
    assert full_load_amps(3 * KW_PER_HP, 230, 1) == 17
    assert full_load_amps(3 * KW_PER_HP, 230, 3) == 9.6
    assert full_load_amps(3 * KW_PER_HP, 460, 3) == 4.8
    assert full_load_amps(0.5 * KW_PER_HP, 120, 1) == 9.8
    assert full_load_amps(2.0, 400, 3) is None
    for row in rows("full_load_amps_three_phase"):
        assert float(row["a_208v"]) == pytest.approx(1.10 * float(row["a_230v"]), rel=0.03)
        assert float(row["a_460v"]) == pytest.approx(0.5 * float(row["a_230v"]), rel=0.03)


def test_frames():
    """NEMA MG 1 part 4 and IEC 60072-1 (from memory)."""
    assert frame_shaft_mm("56") == pytest.approx(15.875)
    assert frame_shaft_mm("145T") == pytest.approx(22.225)
    assert frame_shaft_mm("90S") == 24
    assert frame_shaft_mm("nothing") is None


# --- supply ------------------------------------------------------------------------------------------------------


def test_circuit_of_a_three_horsepower_motor():
    """3 hp, one phase, 230 V: 17 A; wire 21.25 A; breaker 42.5, so 45 A. NEC 430.22, 430.52, 240.6 (from memory)."""
    found = motor(power_kw=3 * KW_PER_HP, speed_rpm=1740, start="capacitor_start", volts=230, frequency_hz=60)
    facts = {fact.name: fact.value for fact in source_kind("induction").facts(found, drive_of(found), None)}
    assert facts["Wire must carry"] == pytest.approx(21.25)
    assert facts["Breaker, at most"] == 45
    assert facts["Disconnect, at least"] == pytest.approx(1.15 * 17)
    assert next_breaker_a(101) is None


def test_voltage_drop():
    """50 ft of 14 AWG at 75 °C: 12 A loses 3.685 V; 60 A at the start 18.43 V, torque falls to 0.7165."""
    ohm = next(float(row["ohm_per_km_75c"]) for row in rows("copper_wire") if row["awg"] == "14")
    assert voltage_drop_v(12, 15_240, ohm, 1) == pytest.approx(3.685, rel=1e-3)
    assert voltage_drop_v(60, 15_240, ohm, 1) == pytest.approx(18.43, rel=1e-3)
    found = motor(
        power_kw=0.5 * KW_PER_HP,
        speed_rpm=1725,
        start="capacitor_start",
        volts=120,
        amps_a=9.0,
        supply={"cord_length_mm": 15_240, "wire_awg": 14},
    )
    plate = read_plate(found)
    from pulltide.core.sources.mains_checks import draw_of

    left = start_voltage_share(found.supply, draw_of(found, plate))
    assert left == pytest.approx(1 - voltage_drop_v(plate.locked_amps_a, 15_240, ohm, 1) / 120)
    weaker = (
        drive_of(found).start_torque_nm / drive_of(found.model_copy(update={"supply": motor().supply})).start_torque_nm
    )
    assert weaker == pytest.approx(left**2)


def test_starts_per_hour():
    """5 hp, 4 poles, load 6 lb ft²: 4.5 starts an hour, 42 s of rest. NEMA MG 10 Table 7 (from memory)."""
    found = motor(power_kw=5 * KW_PER_HP, speed_rpm=1755, frequency_hz=60)
    limits = allowed_starts_per_hour(read_plate(found), drive_of(found), demand(inertia_kgm2=6 * KGM2_PER_LBFT2))
    assert limits.starts_per_h == pytest.approx(4.5, rel=0.01)
    assert limits.rest_s == 42


def test_two_standards_agree_on_the_inertia_a_motor_may_start():
    """B of NEMA MG 10 Table 7 is the inertia of MG 1 12.54, within 4 %."""
    for row in rows("starts_three_phase"):
        ours = max_inertia_kgm2(float(row["hp"]), int(row["poles"])) / KGM2_PER_LBFT2
        assert ours == pytest.approx(float(row["b_starts_times_load_wk2_lbft2"]), rel=0.05), row


# --- inverter, frequency, direct current -------------------------------------------------------------------------


def test_an_inverter_keeps_slip_and_gives_up_torque_above_its_frequency():
    fed = {"power_kw": 1.5, "speed_rpm": 1740, "frequency_hz": 60, "inverter": {"fitted": True, "run_hz": 90}}
    fast = drive_of(motor(**fed))
    assert fast.speed_rpm == pytest.approx(2700 - 60)
    assert fast.torque_nm == pytest.approx(torque_nm(1.5, 1740) * 60 / 90)
    slow = drive_of(motor(**{**fed, "inverter": {"fitted": True, "run_hz": 20}}))
    assert slow.speed_rpm == pytest.approx(600 - 60)
    assert slow.torque_nm == pytest.approx(torque_nm(1.5, 1740) * continuous_share(1 / 3, False))
    assert continuous_share(0.33, False) == 0.8


def test_another_frequency():
    """50 Hz motor on 60 Hz: speed × 1.2, torque at the start × (5/6)²; MG 1 and mechanics."""
    plate = {"power_kw": 1.5, "speed_rpm": 1430, "frequency_hz": 50}
    own, other = drive_of(motor(**plate)), drive_of(motor(**plate, supply_frequency_hz=60))
    assert other.speed_rpm == pytest.approx(1.2 * 1430)
    assert other.start_torque_nm == pytest.approx(own.start_torque_nm / 1.44)
    slower = drive_of(motor(power_kw=1.5, speed_rpm=1740, frequency_hz=60, supply_frequency_hz=50))
    assert slower.power_kw == pytest.approx(1.25)


def test_a_direct_current_motor_by_hand():
    """24 V, 0.16 ohm, 1.5 A, 3000 rpm unloaded: V = I R + K ω, recomputed by hand."""
    found = constants(source("dc", volts=24, resistance_ohm=0.16, no_load_a=1.5, no_load_rpm=3000))
    assert found.k == pytest.approx(0.0756304, rel=1e-5)
    assert found.kv_rpm_v == pytest.approx(126.263, rel=1e-5)
    assert found.stall_nm == pytest.approx(11.231, rel=1e-4)
    assert found.best_efficiency == pytest.approx(0.81, rel=1e-3)
    torque = found.k * (30 - 1.5)
    assert torque == pytest.approx(2.1555, rel=1e-4)
    assert found.speed_at(30) == pytest.approx(2424.2, rel=1e-4)
    assert torque * found.speed_at(30) / RPM_PER_RAD_PER_S == pytest.approx(547.2, rel=1e-3)


def test_a_direct_current_motor_by_its_plate():
    """24 V, 14 A, 250 W, 2650 rpm: 86 W lost, half of it in 0.2194 ohm: V = I R + K ω, by hand."""
    own = source("dc", volts=24, continuous_a=14, plate_kw=0.25, plate_rpm=2650)
    found, given = constants(own), drive_of(own)
    assert found.resistance_ohm == pytest.approx(43 / 14**2)
    assert 14**2 * found.resistance_ohm == pytest.approx(43)
    assert found.no_load_a == pytest.approx(43 / (24 - 14 * found.resistance_ohm))
    assert (given.power_kw, given.speed_rpm) == pytest.approx((0.25, 2650))
    assert {reading.code: reading.sure for reading in found.readings}["winding_resistance"] == "guess"
    measured = constants(source("dc", volts=24, continuous_a=14, plate_kw=0.25, plate_rpm=2650, kv_rpm_v=126))
    assert measured.resistance_ohm == pytest.approx((24 - 2650 / 126) / 14)
    assert {reading.code: reading.sure for reading in measured.readings}["winding_resistance"] == "follows"


def test_a_plate_that_gives_more_than_it_takes_in_is_refused():
    with pytest.raises(ValidationError, match="24 V times 14 A takes in 336 W"):
        source("dc", volts=24, continuous_a=14, plate_kw=0.75, plate_rpm=2650)
    assert constants(source("dc", volts=24, continuous_a=14, plate_kw=0.25)) is None


def test_speed_is_volts_times_kv():
    """Common practice, no source: rpm = kV × volts."""
    found = constants(source("brushless", volts=36, kv_rpm_v=190, resistance_ohm=0.045, no_load_a=0.0))
    assert found.no_load_rpm == pytest.approx(36 * 190)


def test_battery_runs_three_minutes_at_twenty_c():
    """Common practice, no source: a 5 Ah pack at 20C gives 100 A for about 3 minutes."""
    found = source(
        "brushless",
        volts=36,
        kv_rpm_v=190,
        resistance_ohm=0.045,
        no_load_a=1.0,
        on_battery=True,
        battery={"capacity_ah": 5, "c_rate": 20, "depth": 1},
    )
    own = constants(found)
    asked = demand(running_nm=own.k * 99.0)
    facts = {fact.name: fact.value for fact in source_kind("brushless").facts(found, drive_of(found), asked)}
    assert facts["Most current"] == 100
    assert facts["Runs for"] == pytest.approx(3 * 0.97, rel=1e-3)


def test_a_person_at_a_crank():
    found = drive_of(source("hand", handle_force_n=80, handle_radius_mm=350, speed_rpm=50))
    assert found.torque_nm == pytest.approx(28.0)
    assert found.power_kw < BURST_KW


def test_warm_air():
    """Common practice, no source: full power to 40 °C, 0.92 at 50, 0.82 at 60."""
    assert [warm_share(t) for t in (20, 40, 50, 60)] == [1.0, 1.0, 0.92, 0.82]


# --- every source ------------------------------------------------------------------------------------------------

SANE: dict[str, dict[str, Any]] = {
    "induction": {"power_kw": 0.75, "speed_rpm": 1425, "volts": 230},
    "dc": {"volts": 24, "resistance_ohm": 0.16, "no_load_a": 1.5, "no_load_rpm": 3000, "continuous_a": 14},
    "brushless": {"volts": 36, "kv_rpm_v": 190, "resistance_ohm": 0.045, "no_load_a": 1.6, "continuous_a": 40},
    "universal": {"input_kw": 0.9, "no_load_rpm": 20_000},
    "hand": {},
    "engine": {"power_kw": 4.0, "speed_rpm": 3000, "clutch": "centrifugal"},
}
EACH = pytest.mark.parametrize("kind", [kind.kind for kind in SOURCE_KINDS])


@EACH
def test_a_line_is_solved_with_every_source(kind: str):
    machine = build_machine(links=[build_belt()])
    plan = machine.plans[0].model_copy(update={"source": source(kind, **SANE[kind])})
    result = solve_plan(machine.model_copy(update={"plans": (plan,)}), plan)
    assert result.chosen.last_shaft.speed_rpm > 0
    assert result.chosen.motor_load > 0


@EACH
@settings(max_examples=draws(60), deadline=None, suppress_health_check=list(HealthCheck))
@given(data=st.data())
def test_any_allowed_source_gives_figures_or_says_what_it_wants(kind: str, data: st.DataObject):
    described = source_kind(kind)
    raw = data.draw(any_of(described.model, kind=kind, frame=None, poles=None))
    try:
        found = SOURCES.validate_python(raw)
    except ValidationError as error:
        refused = str(error)
        found = None
    if found is None:
        assert any(reason in refused for reason in ("not below", "is above", "pairs", "takes in"))
        return
    drive = described.drive(found)
    if drive is None:
        assert described.wants
        return
    strengths = [drive.power_kw, drive.speed_rpm, drive.torque_nm, drive.max_torque_nm, drive.start_torque_nm]
    assert all(value is None or (isfinite(value) and value >= 0) for value in strengths)
    asked = demand(running_nm=0.6 * drive.torque_nm, inertia_kgm2=0.02, duty={"hours_per_day": 6, "starts_per_hour": 5})
    for finding in described.judge(found, drive, asked):
        assert finding.fact or finding.severity is Severity.CLEAR
        assert finding.measured is None or isfinite(finding.measured)
    for fact in described.facts(found, drive, asked):
        assert not isinstance(fact.value, float) or isfinite(fact.value)
    start = start_of(drive, asked)
    assert start.run_rpm is None or 0 < start.run_rpm <= drive.curve.top_rpm
    for _, neighbor in list(described.larger(found))[:2]:
        assert described.drive(neighbor).power_kw >= 0.99 * drive.power_kw or found.inverter.fitted


PLUG = {"start": "capacitor_start", "frequency_hz": 60, "speed_rpm": 1725}
DC_SANE = SANE["dc"]
NO_SENSORS = {**SANE["brushless"], "sensors": "none", "driver_limit_a": 40}
LONG_WIRE = {"circuit": "120v_15a", "cord_length_mm": 60_000, "wire_awg": 14}
#: What trips each check of a source: kind, inputs, what is asked, and the severity it must have.
TRIPS: list[tuple[str, str, dict[str, Any], dict[str, Any], Severity]] = [
    ("slip", "induction", {"power_kw": 1, "speed_rpm": 1425, "frequency_hz": 60}, {}, Severity.WARNING),
    ("frequency", "induction", {**PLUG, "power_kw": 1, "supply_frequency_hz": 50}, {}, Severity.ERROR),
    ("frequency", "induction", {"power_kw": 1, "speed_rpm": 1425, "supply_frequency_hz": 60}, {}, Severity.WARNING),
    ("claim", "induction", {**PLUG, "power_kw": 2.2, "supply": {"circuit": "120v_15a"}}, {}, Severity.WARNING),
    ("weak_start", "induction", {**PLUG, "power_kw": 0.5, "start": "permanent_split"}, {}, Severity.ERROR),
    (
        "rating",
        "induction",
        {**PLUG, "power_kw": 1, "rating": "min_30"},
        {"duty": {"hours_per_day": 4}},
        Severity.WARNING,
    ),
    (
        "enclosure",
        "induction",
        {**PLUG, "power_kw": 1, "enclosure": "ODP"},
        {"duty": {"environment": "dusty"}},
        Severity.WARNING,
    ),
    ("air_over", "induction", {**PLUG, "power_kw": 1, "enclosure": "TEAO"}, {}, Severity.ERROR),
    ("ambient", "induction", {**PLUG, "power_kw": 1}, {"duty": {"ambient_c": 48}}, Severity.NOTE),
    ("reset", "induction", {**PLUG, "power_kw": 1, "protection": "automatic_reset"}, {}, Severity.WARNING),
    ("overload", "induction", {**PLUG, "power_kw": 1, "protection": "none"}, {}, Severity.WARNING),
    ("flywheel", "induction", {"power_kw": 2.2, "speed_rpm": 1435}, {"fluctuation": 0.2}, Severity.WARNING),
    ("two_speeds", "induction", {**PLUG, "power_kw": 0.3, "second_speed_rpm": 1140}, {}, Severity.NOTE),
    (
        "circuit",
        "induction",
        {**PLUG, "power_kw": 0.745, "volts": 120, "supply": {"circuit": "120v_20a"}, "amps_a": 17},
        {},
        Severity.WARNING,
    ),
    (
        "circuit",
        "induction",
        {**PLUG, "power_kw": 1.5, "volts": 120, "supply": {"circuit": "120v_15a"}},
        {},
        Severity.ERROR,
    ),
    ("phases", "induction", {"power_kw": 1, "speed_rpm": 1740, "supply": {"circuit": "240v_20a"}}, {}, Severity.ERROR),
    (
        "voltage",
        "induction",
        {**PLUG, "power_kw": 1, "volts": 230, "supply": {"circuit": "120v_20a"}},
        {},
        Severity.ERROR,
    ),
    ("wire", "induction", {**PLUG, "power_kw": 1.5, "volts": 120, "supply": {"wire_awg": 14}}, {}, Severity.ERROR),
    ("drop", "induction", {**PLUG, "power_kw": 0.37, "volts": 120, "supply": LONG_WIRE}, {}, Severity.WARNING),
    ("start_drop", "induction", {**PLUG, "power_kw": 0.37, "volts": 120, "supply": LONG_WIRE}, {}, Severity.WARNING),
    ("inverter_phase", "induction", {**PLUG, "power_kw": 1, "inverter": {"fitted": True}}, {}, Severity.ERROR),
    (
        "inverter_fast",
        "induction",
        {"power_kw": 1, "speed_rpm": 1740, "inverter": {"fitted": True, "max_hz": 110}},
        {},
        Severity.WARNING,
    ),
    (
        "pull_up",
        "induction",
        {"power_kw": 1, "speed_rpm": 1740},
        {"running_nm": 5.4, "breakaway_nm": 5.4, "peak_nm": 6},
        Severity.WARNING,
    ),
    (
        "pull_up",
        "induction",
        {"power_kw": 1, "speed_rpm": 1740},
        {"running_nm": 9.0, "breakaway_nm": 9.0, "peak_nm": 9},
        Severity.ERROR,
    ),
    (
        "run_up",
        "induction",
        {"power_kw": 1, "speed_rpm": 1740},
        {"running_nm": 3, "breakaway_nm": 3, "inertia_kgm2": 0.26},
        Severity.WARNING,
    ),
    ("starts", "induction", {"power_kw": 1, "speed_rpm": 1740}, {"duty": {"starts_per_hour": 60}}, Severity.ERROR),
    ("inertia", "induction", {"power_kw": 1, "speed_rpm": 1740}, {"inertia_kgm2": 9.0}, Severity.ERROR),
    ("current", "dc", DC_SANE, {"running_nm": 1.2}, Severity.WARNING),
    ("driver", "dc", {**DC_SANE, "driver_limit_a": 20}, {"peak_nm": 5}, Severity.ERROR),
    ("overspeed", "dc", {**DC_SANE, "max_rpm": 2500}, {}, Severity.ERROR),
    ("rectified", "dc", {**DC_SANE, "rectified": True}, {}, Severity.WARNING),
    ("sensorless", "brushless", NO_SENSORS, {"breakaway_nm": 1.5}, Severity.WARNING),
    (
        "battery_rate",
        "brushless",
        {**NO_SENSORS, "on_battery": True, "battery": {"capacity_ah": 5, "c_rate": 5}},
        {},
        Severity.ERROR,
    ),
    ("runaway", "universal", SANE["universal"], {}, Severity.WARNING),
    ("short_time", "universal", SANE["universal"], {"duty": {"hours_per_day": 3}}, Severity.WARNING),
    ("tired", "hand", {}, {"running_nm": 20}, Severity.WARNING),
    ("no_clutch", "engine", {**SANE["engine"], "clutch": "none"}, {}, Severity.ERROR),
    ("exhaust", "engine", SANE["engine"], {}, Severity.NOTE),
]


@pytest.mark.parametrize("trip", TRIPS, ids=lambda trip: f"{trip[0]} {trip[4]}")
def test_each_check_of_a_source_fails_where_it_should(trip: tuple):
    code, kind, inputs, asked, severity = trip
    found = source(kind, **inputs)
    drive: Drive = drive_of(found)
    judged = [f for f in source_kind(kind).judge(found, drive, demand(**asked)) if f.code == f"motor.{code}"]
    assert [finding.severity for finding in judged] == [severity]


def test_no_check_of_a_source_is_left_without_a_case():
    assert {rule.code for rule in SOURCE_RULES} == {f"motor.{trip[0]}" for trip in TRIPS}


def test_a_good_motor_passes_its_checks():
    found = motor(power_kw=0.75, speed_rpm=1425, volts=400, enclosure="TEFC", supply={"circuit": "400v_3ph_16a"})
    asked = demand(running_nm=3.5, breakaway_nm=4.0, peak_nm=5.0, inertia_kgm2=0.01, duty={"starts_per_hour": 4})
    judged = list(source_kind("induction").judge(found, drive_of(found), asked))
    assert {finding.severity for finding in judged} == {Severity.CLEAR}
    assert {"motor.circuit", "motor.voltage", "motor.pull_up", "motor.run_up"} <= {f.code for f in judged}
