"""A whole line against a calculation by hand, and what is found on it."""

from __future__ import annotations

from math import pi, sin

import pytest

from builders import INCH, build_belt, build_machine
from pulltide.core.duty import Duty
from pulltide.core.findings import Severity
from pulltide.core.line import shaft_names, solve_line, solve_plan
from pulltide.core.links.reducer.tables import unit
from pulltide.core.links.reducer.transmission import tabulated_service_factor
from pulltide.core.machine import Machine
from pulltide.core.remedies import with_remedies
from pulltide.core.transmission import Sizing
from pulltide.quantities import Units
from pulltide.words import filled


def solved(machine: Machine):
    return solve_plan(machine, machine.plans[0])


def found(machine: Machine, code: str, subject: str | None = None):
    return next((f for f in solved(machine).findings if f.code == code and subject in (None, f.subject)), None)


def test_speed_by_hand():
    """1740 rpm, pitch diameters 3.15 and 7.75 in, 15 : 1, 17 to 46 teeth: 17.42 rpm before belt creep."""
    line = solve_line(build_machine(), build_machine().plans[0])
    no_creep = 1740 * 3.15 / 7.75 / 15 * 17 / 46
    assert no_creep == pytest.approx(17.424, abs=0.001)
    share = line.shafts[0].speed_rpm / 1740
    assert 1 < share < 1800 / 1740, "under part load the motor slips less than its plate"
    assert 0.98 * no_creep < line.last_shaft.speed_rpm / share < no_creep
    assert line.ratio == pytest.approx(1740 / no_creep)


def test_torque_by_hand():
    """Torque at the motor is the last torque over ratio and efficiencies, whatever the creep."""
    line = solve_line(build_machine(), build_machine().plans[0])
    speed_ratio = line.shafts[0].speed_rpm / line.last_shaft.speed_rpm
    efficiency = 1.0
    for link in line.links:
        efficiency *= link.efficiency
    assert line.efficiency == pytest.approx(efficiency)
    assert line.shafts[0].running_torque_nm == pytest.approx(120.0 / speed_ratio / efficiency)
    chain = line.links[2]
    assert chain.flow.driver_torque_nm == pytest.approx(120.0 * 17 / 46 / 0.97)


def test_stepped_pulley_by_ratio():
    """Common practice, no source: 2 in driving 2, 3, 4 in ahead of 15 : 1 from 1800 rpm gives 120, 80, 60 rpm."""
    steps = [{"driver_diameter_mm": 2 * INCH, "driven_diameter_mm": d * INCH} for d in (2, 3, 4)]
    belt = build_belt(section="3L", measured_as="pitch", steps=steps, belt=None, center_distance_mm=300)
    machine = build_machine(
        links=[belt, {"kind": "reducer", "designation": "own", "own": {"type": "worm", "ratio": 15}}],
        motor={"speed_rpm": 1795.0},
        need={"running_torque_nm": 1e-3, "peak_torque_nm": None, "breakaway_torque_nm": None},
    )
    speeds = [line.last_shaft.speed_rpm * 1800 / line.shafts[0].speed_rpm for line in solved(machine).settings]
    assert speeds == pytest.approx([120, 80, 60], rel=1e-3)


def test_power_falls_along_the_line_and_sense_is_known():
    line = solve_line(build_machine(), build_machine().plans[0])
    powers = [shaft.power_kw for shaft in line.shafts]
    assert powers == sorted(powers, reverse=True)
    assert [shaft.turn for shaft in line.shafts] == [1, 1, None, None]
    names = [filled(name, Units()) for name in shaft_names(build_machine(), build_machine().plans[0])]
    assert names == ["Motor", "Reducer in", "Reducer out", "Last shaft"]


def test_margin_rules_differ_as_they_should():
    by_rule = {}
    for rule in ("running_load", "motor_nameplate", "flat_factor"):
        line = solve_line(machine := build_machine(duty={"margin_rule": rule}), machine.plans[0])
        by_rule[rule] = line.links[2].design.chosen_nm
        assert by_rule[rule] == line.links[2].design.by_rule_nm[rule]
    line = solve_line(build_machine(), build_machine().plans[0])
    running = line.links[2].flow.driver_torque_nm
    assert by_rule["running_load"] == pytest.approx(1.3 * running)
    assert by_rule["flat_factor"] == pytest.approx(2.0 * running)
    assert by_rule["motor_nameplate"] == pytest.approx(
        1.3 * running * 6.1385 / line.shafts[0].running_torque_nm, rel=1e-3
    )


def test_own_service_factor_replaces_every_table_and_asks_for_a_reason():
    machine = build_machine(duty={"service_factor_override": 2.5})
    assert {link.service_factor.value for link in solved(machine).chosen.links} == {2.5}
    assert found(machine, "duty.no_reason").severity is Severity.WARNING


@pytest.mark.parametrize(
    ("name", "duty", "expected"),
    [
        # AGMA 6034 and 6010 type tables, quoted from memory
        ("PW-3 15:1", {"shock": "moderate", "hours_per_day": 10}, 1.25),
        ("PW-3 15:1", {"shock": "heavy", "hours_per_day": 2, "starts_per_hour": 20}, 1.5),
        ("PL-1 15:1", {"shock": "uniform", "hours_per_day": 3}, 0.8),
        ("PL-1 15:1", {"shock": "heavy", "hours_per_day": 24}, 2.0),
    ],
)
def test_reducer_service_factor(name: str, duty: dict, expected: float):
    assert tabulated_service_factor(unit(name).is_worm, Sizing(Duty(**duty))) == expected


def test_unknown_stays_unknown():
    machine = build_machine(need={"running_torque_nm": None, "peak_torque_nm": None})
    line = solved(machine).chosen
    assert line.last_shaft.speed_rpm > 0
    assert line.last_shaft.running_torque_nm is None
    assert line.efficiency is None
    assert all(not link.limits for link in line.links)
    assert found(machine, "need.no_torque").severity is Severity.ERROR
    assert found(machine, "roller_chain.rating") is None
    assert solve_plan(machine, machine.plans[0].model_copy(update={"source": None})) is None


def test_own_reducer_of_unknown_rating_is_never_judged_good():
    links = [build_belt(), {"kind": "reducer", "designation": "own", "own": {"type": "worm", "ratio": 15}}]
    machine = build_machine(links=links)
    reducer = solved(machine).chosen.links[1]
    assert reducer.limits[0].allowed is None
    assert reducer.limits[0].use is None
    assert found(machine, "reducer.torque_unknown").severity is Severity.WARNING
    assert "reducer.efficiency_unknown" in {f.code for f in solved(machine).chosen.remarks}
    assert found(machine, "reducer.torque") is None


def test_unentered_duty_is_judged_at_the_cautious_end_and_said():
    machine = build_machine(duty={"shock": None, "hours_per_day": None})
    assert found(machine, "duty.unknown").severity is Severity.WARNING
    assert solved(machine).chosen.links[2].service_factor.value == 1.5


@pytest.mark.parametrize(
    ("links", "code"),
    [
        ([build_belt(steps=[{"driver_diameter_mm": 80, "driven_diameter_mm": 260}], belt="A26")], "v_belt.too_short"),
        ([build_belt(steps=[{"driver_diameter_mm": 150, "driven_diameter_mm": 180}], belt="A26")], "v_belt.touch"),
        ([build_belt(steps=[{"driver_diameter_mm": 40, "driven_diameter_mm": 80}], belt="A31")], "v_belt.no_rating"),
        (
            [{"kind": "roller_chain", "chain": "40", "driver_teeth": 17, "driven_teeth": 60, "pitches": 40}],
            "roller_chain.too_short",
        ),
        (
            [{"kind": "roller_chain", "chain": "40", "driver_teeth": 17, "driven_teeth": 17, "pitches": 77}],
            "roller_chain.odd_links",
        ),
        (
            [{"kind": "reducer", "designation": "own", "own": {"type": "worm", "ratio": 15, "max_input_rpm": 900}}],
            "reducer.input_speed",
        ),
    ],
)
def test_what_cannot_be_built_is_an_error_and_still_solved(links: list, code: str):
    machine = build_machine(links=links, need={"running_torque_nm": 2, "peak_torque_nm": 3})
    finding = found(machine, code)
    assert finding.severity is Severity.ERROR
    assert solved(machine).chosen.last_shaft.speed_rpm > 0


def test_speed_outside_its_band():
    just_slow = build_machine(need={"speed_min_rpm": 17.9, "speed_ideal_rpm": 18.0, "speed_max_rpm": 19.0})
    far_fast = build_machine(need={"speed_min_rpm": 10.0, "speed_ideal_rpm": 12.0, "speed_max_rpm": 14.0})
    assert found(just_slow, "need.speed_low").severity is Severity.WARNING
    assert found(far_fast, "need.speed_high").severity is Severity.ERROR
    for machine in (just_slow, far_fast):
        assert not [f for f in solved(machine).findings if f.code == "need.speed_error"], "one fault is said once"


def test_small_sprocket_overloads_a_reducer_shaft_and_more_teeth_clear_it():
    links = [
        build_belt(),
        {"kind": "reducer", "designation": "PW-6 15:1", "output_position": "end"},
        {"kind": "roller_chain", "chain": "50", "driver_teeth": 10, "driven_teeth": 27, "pitches": 70},
    ]
    machine = build_machine(
        links=links, need={"running_torque_nm": 400, "peak_torque_nm": 500}, motor={"power_kw": 2.237}
    )
    finding = found(machine, "reducer.overhung_out")
    design = 1.3 * 400 * 10 / 27 / 0.97
    pull = 2000 * design / (15.875 / sin(pi / 10)) * 1.25 * 1.25
    assert finding.measured == pytest.approx(pull, rel=1e-6)
    assert finding.severity is Severity.ERROR


def test_every_remedy_offered_really_clears_its_finding():
    machine = build_machine(
        links=[build_belt(), {"kind": "reducer", "designation": "PL-1 30:1"}],
        need={
            "running_torque_nm": 200,
            "peak_torque_nm": 250,
            "speed_min_rpm": 20,
            "speed_ideal_rpm": 23,
            "speed_max_rpm": 26,
        },
    )
    plan = machine.plans[0]
    result = with_remedies(machine, plan, solve_plan(machine, plan))
    open_ones = [f for f in result.findings if f.severity.rank >= 2]
    assert open_ones
    offered = [(finding, remedy) for finding in open_ones for remedy in finding.remedies]
    assert offered
    for finding, remedy in offered:
        raw = machine.model_dump(mode="json")
        ((path, value),) = remedy.changes
        kind, _, index = path.partition(".")
        if kind == "links":
            raw["plans"][0]["links"][int(index)] = value
        else:
            raw["plans"][0]["source"] = value
        changed = Machine.model_validate(raw)
        again = solved(changed)
        assert again.chosen.last_shaft.speed_rpm == pytest.approx(remedy.last_speed_rpm)
        assert all(f.key != finding.key or f.severity.rank < 2 for f in again.findings), remedy.label
        assert again.count(Severity.ERROR) <= result.count(Severity.ERROR)


def test_worst_step_is_not_hidden_by_the_chosen_one():
    steps = [
        {"driver_diameter_mm": 100, "driven_diameter_mm": 200},
        {"driver_diameter_mm": 45, "driven_diameter_mm": 250},
    ]
    machine = build_machine(
        links=[build_belt(steps=steps, belt="A60", measured_as="pitch")],
        need={"running_torque_nm": 6, "peak_torque_nm": 8},
    )
    finding = found(machine, "v_belt.least_diameter")
    assert finding.severity is Severity.ERROR
    assert finding.step == 2
    assert found(machine, "v_belt.steps") is not None


def test_a_speed_limit_is_not_the_tightest_part_until_it_is_passed():
    fast = [
        {
            "kind": "reducer",
            "designation": "own",
            "own": {"type": "worm", "ratio": 15, "max_input_rpm": 1800, "rated_torque_nm": 100, "efficiency": 0.8},
        }
    ]
    easy = solved(build_machine(links=fast, need={"running_torque_nm": 10, "peak_torque_nm": 12})).chosen
    assert easy.tightest[1].code == "reducer.torque"
    fast[0]["own"]["max_input_rpm"] = 900
    over = solved(build_machine(links=fast, need={"running_torque_nm": 10, "peak_torque_nm": 12})).chosen
    assert over.tightest[1].code == "reducer.input_speed"
