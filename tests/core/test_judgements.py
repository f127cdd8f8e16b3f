"""Judgements that agree: remedies true on the whole plan, holding, jams by what gives first, each fact once."""

from __future__ import annotations

from typing import Any

import pytest
from scipy.optimize import brentq

from builders import build_belt, build_machine
from pulltide.core.findings import Finding, Severity
from pulltide.core.line import ladder_of, solve_plan
from pulltide.core.line_result import PlanResult
from pulltide.core.machine import Machine
from pulltide.core.remedies import with_remedies
from pulltide.demo import demo_machines
from worksheets import WORKSHEETS

WARNING, ERROR = Severity.WARNING, Severity.ERROR


def solved(machine: Machine) -> PlanResult:
    return solve_plan(machine, machine.plans[0])


def codes(result: PlanResult, least: Severity = Severity.WARNING) -> set[str]:
    return {finding.code for finding in result.findings if finding.severity.rank >= least.rank}


def named(result: PlanResult, code: str) -> list[Finding]:
    return [f for f in result.findings if f.code == code and f.severity is not Severity.CLEAR]


def changed(machine: Machine, changes: Any) -> Machine:
    raw = machine.model_dump(mode="json")
    plan = raw["plans"][0]
    for path, value in changes:
        head, _, index = path.partition(".")
        if index:
            plan[head][int(index)] = value
        else:
            plan[head] = value
    return Machine.model_validate(raw)


def with_worksheet(kind: str, machine: Machine, **inputs: Any) -> Machine:
    raw = machine.model_dump(mode="json")
    raw["need"] = {"worksheet": {"kind": kind, **WORKSHEETS[kind], **inputs}}
    return Machine.model_validate(raw)


HOIST = [build_belt(), {"kind": "reducer", "designation": "PS-3 15:1"}]


# --- remedies ----------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("machine", demo_machines(), ids=lambda machine: machine.name.split()[0])
def test_every_remedy_of_the_demo_shop_clears_its_finding_and_makes_nothing_worse(machine: Machine):
    """Solved again as a whole plan: need, ends, every setting, what gives first."""
    plan = machine.plans[0]
    before = with_remedies(machine, plan, solve_plan(machine, plan))
    known = {finding.key: finding.severity.rank for finding in before.findings}
    for finding in before.findings:
        for remedy in finding.remedies:
            after = solved(changed(machine, remedy.changes))
            assert not [f for f in named(after, finding.code) if f.severity.rank >= WARNING.rank], remedy.label
            worse = [f.key for f in after.findings if f.severity.rank > max(known.get(f.key, 0), 1)]
            assert not worse, (remedy.label, worse)


def test_nothing_that_only_a_brake_cures_is_offered_a_motor():
    machine = with_worksheet("hoist", build_machine(links=HOIST), load_holding="no")
    plan = machine.plans[0]
    result = with_remedies(machine, plan, solve_plan(machine, plan))
    (finding,) = named(result, "need.hold_none")
    assert finding.remedies == ()
    assert "brake" in finding.rule.advice


def test_torque_is_limited_before_a_reducer_is_enlarged():
    """Strong motor, small worm: a limit on the torque comes first of what is offered for a jam."""
    links = [build_belt(), {"kind": "reducer", "designation": "PW-2 15:1"}]
    machine = build_machine(links=links, need={"running_torque_nm": 20.0, "peak_torque_nm": 25.0})
    plan = machine.plans[0]
    result = with_remedies(machine, plan, solve_plan(machine, plan))
    (finding,) = named(result, "reducer.stall")
    assert finding.remedies
    assert not finding.remedies[0].label.startswith("Use PW-")
    after = solved(changed(machine, finding.remedies[0].changes))
    assert not named(after, "reducer.stall")


def test_a_chain_too_fast_for_its_pitch_is_offered_a_smaller_pitch():
    """No. 80 at 3200 rpm wears its rollers: a finer chain, not more teeth or a larger chain."""
    links = [{"kind": "roller_chain", "chain": "80", "driver_teeth": 17, "driven_teeth": 34, "pitches": 80}]
    band = {"speed_min_rpm": 1500, "speed_ideal_rpm": 1600, "speed_max_rpm": 1700}
    torque = {"running_torque_nm": 15.0, "peak_torque_nm": 18.0, "breakaway_torque_nm": 15.0}
    machine = build_machine(links=links, need=band | torque, motor={"power_kw": 4.0, "speed_rpm": 3450.0})
    plan = machine.plans[0]
    result = with_remedies(machine, plan, solve_plan(machine, plan))
    fast = next(f for f in result.findings if f.code in ("roller_chain.rating", "roller_chain.speed") and f.remedies)
    chains = [value["chain"] for remedy in fast.remedies for _path, value in remedy.changes if "chain" in value]
    assert chains
    assert all(int(chain.split("-")[0]) < 80 for chain in chains)


def test_less_play_is_never_bought_with_more():
    """Whatever is offered for play at the last shaft has less of it."""
    machine = next(m for m in demo_machines() if m.name.startswith("Lofthook"))
    for plan in machine.plans:
        result = with_remedies(machine, plan, solve_plan(machine, plan))
        for finding in result.findings:
            if "play" in finding.code or "backlash" in finding.code:
                for remedy in finding.remedies:
                    after = solve_plan(m := changed(machine, remedy.changes), m.plans[0])
                    again = [f.measured for f in named(after, finding.code)]
                    assert not again or max(again) < finding.measured


# --- holding -----------------------------------------------------------------------------------------------------


def test_a_hoist_that_nothing_holds_is_told_and_one_with_a_brake_is_not():
    bare = with_worksheet("hoist", build_machine(links=HOIST), load_holding="no")
    assert named(solved(bare), "need.hold_none")
    raw = bare.model_dump(mode="json")
    raw["plans"][0]["shafts"] = [{"shaft": 1, "brake_nm": 40.0}]
    held = solved(Machine.model_validate(raw))
    assert not {code for code in codes(held) if code.startswith("need.hold")}
    raw["plans"][0]["shafts"] = [{"shaft": 1, "brake_nm": 0.5}]
    assert named(solved(Machine.model_validate(raw)), "need.hold")


def test_a_worm_at_rest_is_no_brake_and_a_mixer_is_left_alone():
    worm = [build_belt(), {"kind": "reducer", "designation": "PW-6 60:1"}]
    hoist = solved(with_worksheet("hoist", build_machine(links=worm), load_holding="no"))
    assert named(hoist, "need.hold_worm")
    assert not named(hoist, "need.hold_none")
    mixer = solved(with_worksheet("paddle", build_machine(links=HOIST)))
    assert not {f.code for f in mixer.findings if f.code.startswith("need.hold")}


def test_an_arm_without_a_brake_is_told():
    arm = solved(with_worksheet("lift_arm", build_machine(links=HOIST)))
    assert {code for code in codes(arm) if code.startswith("need.hold")}


# --- start and jam -----------------------------------------------------------------------------------------------


def test_a_stock_worm_starts_with_the_friction_of_a_start():
    """60:1 starts at about half of its running efficiency. Common practice: 0.10 to 0.15 without an oil film."""
    links = [{"kind": "reducer", "designation": "PW-4 60:1"}]
    (link,) = solved(build_machine(links=links, need={"running_torque_nm": 60.0})).chosen.links
    assert link.start_efficiency is not None
    assert 0.35 * link.efficiency < link.start_efficiency < 0.85 * link.efficiency
    (gear,) = solved(build_machine(links=[HOIST[1]], need={"running_torque_nm": 60.0})).chosen.links
    assert gear.start_efficiency is None or gear.start_efficiency > 0.9 * gear.efficiency


def test_what_a_belt_lets_slip_never_reaches_the_reducer_behind_it():
    """The same plan with a slack belt and with a tight one: only the tight one jams the worm."""
    reducer = {"kind": "reducer", "designation": "PW-2 15:1"}
    need = {"running_torque_nm": 12.0, "peak_torque_nm": 14.0, "breakaway_torque_nm": 12.0}

    def at(newtons: float) -> PlanResult:
        return solved(build_machine(links=[build_belt(static_tension_n=newtons), reducer], need=need))

    slack, tight = at(60.0), at(600.0)
    assert named(tight, "reducer.stall")
    assert not named(slack, "reducer.stall")
    assert slack.chosen.jam_torques_nm[-1] < tight.chosen.jam_torques_nm[-1]


def test_a_driver_that_limits_current_limits_the_jam():
    """Torque at the stalled shaft is K (I - I_0) of the driver, through ratio and efficiency."""
    dc = {"kind": "dc", "volts": 24.0, "resistance_ohm": 0.16, "no_load_a": 1.5, "no_load_rpm": 3000.0}
    machine = build_machine(links=[HOIST[1]], need={"running_torque_nm": 20.0, "peak_torque_nm": 25.0})
    free = changed(machine, [("source", {**dc, "continuous_a": 30})])
    limited = changed(machine, [("source", {**dc, "continuous_a": 30, "driver_limit_a": 30})])
    most = (24 - 1.5 * 0.16) / (3000 / 9.5493) * (30 - 1.5)
    torques = solved(limited).chosen.jam_torques_nm
    assert torques[0] == pytest.approx(most, rel=0.01)
    assert torques[0] < 0.3 * solved(free).chosen.jam_torques_nm[0]


@pytest.mark.parametrize("machine", demo_machines(), ids=lambda machine: machine.name.split()[0])
def test_the_ladder_and_the_findings_never_disagree(machine: Machine):
    """A jam finding stands exactly where the ladder's part breaks below the torque that a jam brings there."""
    for plan in machine.plans:
        line = solve_plan(machine, plan).chosen
        found = ladder_of(machine, plan, line)
        if found is None or line.jam_torques_nm is None:
            continue
        first = min((rung for rung in found.known if rung.point.mode == "slips"), key=lambda r: r.times, default=None)
        for finding in line.findings:
            if finding.code.endswith((".stall", ".jam")) and finding.severity.rank >= WARNING.rank and first:
                rungs = [r for r in found.known if r.subject == finding.subject and r.point.mode == "breaks"]
                assert min(r.times for r in rungs) < 3.0 * first.times


# --- each fact once, and in proportion -----------------------------------------------------------------------------


def test_five_equal_pairs_give_one_finding_with_five_places():
    weak = {"kind": "gear_pair", "driver_teeth": 20, "driven_teeth": 20, "module_mm": 1.0, "face_width_mm": 5.0}
    result = solved(build_machine(links=[weak] * 5, need={"running_torque_nm": 12.0, "peak_torque_nm": 14.0}))
    every = [(f.code, f.severity) for f in result.findings if f.code.startswith("gear_pair.") and f.severity.rank > 0]
    assert len(set(every)) == len(every)
    (bent,) = named(result, "gear_pair.bending")
    assert len(bent.places) == 5


@pytest.mark.parametrize("machine", demo_machines(), ids=lambda machine: machine.name.split()[0])
def test_no_part_is_both_too_small_and_too_large_and_notes_are_few(machine: Machine):
    for plan in machine.plans:
        result = solve_plan(machine, plan)
        small = {f.subject for f in result.findings if f.severity.rank >= WARNING.rank and f.code.endswith(".stall")}
        large = {f.subject for f in result.findings if f.code.endswith("oversize") and f.severity.rank > 0}
        assert not small & large
        assert result.count(Severity.NOTE) <= 3
        keys = [(f.code, f.subject, f.severity) for f in result.findings]
        assert len(keys) == len(set(keys))


def test_a_twentieth_of_a_per_cent_over_the_plate_is_no_error():
    """Severity follows size: just over is a warning at most, far over an error."""
    links = [{"kind": "reducer", "designation": "PW-4 15:1"}]

    def at(nm: float) -> PlanResult:
        need = {"running_torque_nm": nm, "peak_torque_nm": nm, "breakaway_torque_nm": None}
        return solved(build_machine(links=links, need=need))

    full = brentq(lambda nm: at(nm).chosen.motor_load - 1.0, 10.0, 120.0)
    assert "motor.load" not in codes(at(1.0005 * full), ERROR)
    assert "motor.load" in codes(at(1.3 * full), ERROR)


def test_a_crank_is_a_person():
    """Shares of breakdown torque are for induction motors."""
    machine = changed(
        build_machine(links=[build_belt()], need={"running_torque_nm": 30.0, "peak_torque_nm": 60.0}),
        [("source", {"kind": "hand", "handle_force_n": 80, "handle_radius_mm": 350, "speed_rpm": 50})],
    )
    found = [finding for finding in solved(machine).findings if finding.code.startswith("motor.")]
    assert {"motor.peak", "motor.pull_up"}.isdisjoint(finding.code for finding in found)
    assert not any(word in finding.fact for finding in found for word in ("stall", "breakdown"))


def test_a_wheel_speed_gets_no_grace_and_is_judged_as_built():
    """The worksheet's own speed is allowed; the plan's is not, and that is an error."""
    fast = {"speed_ideal_rpm": 3000.0, "speed_max_rpm": 3100.0}
    machine = with_worksheet("grinder", build_machine(links=[build_belt()]), **fast)
    limit = 33.0 * 60 / (3.14159265 * 0.2)
    step = {"driver_diameter_mm": 200.0, "driven_diameter_mm": 200.0 * 3500 / (1.05 * limit)}
    belt = build_belt(steps=[step], measured_as="pitch", belt=None, center_distance_mm=500)
    raw = machine.model_dump(mode="json")
    raw["plans"][0].update(links=[belt], source={"power_kw": 0.75, "speed_rpm": 3450.0})
    result = solved(Machine.model_validate(raw))
    over = result.chosen.last_shaft.speed_rpm / limit
    assert 1.0 < over < 1.05
    assert [f for f in result.findings if f.code.startswith("need.grinder") and f.severity is ERROR]
