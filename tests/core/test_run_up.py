"""Runs in time against closed forms, a second integration, and the balance of energy."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise
from math import log, pi

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import quad

from builders import build_machine
from pulltide.core.errors import InputError
from pulltide.core.line import solve_plan
from pulltide.core.line_checks import demand_of
from pulltide.core.machine import Plan
from pulltide.core.run_up.drive_train import KINETIC_SHARE, DriveTrain, drive_train
from pulltide.core.run_up.simulate import STILL, Conditions, run_up
from pulltide.core.run_up.train import Group, Stage
from pulltide.core.sources import drive_of
from pulltide.core.sources.curves import InductionCurve, kloss
from pulltide.core.sources.starting import start_of
from pulltide.demo import demo_machines

RPM = 30 / pi
PLANS = [(machine, plan) for machine in demo_machines() for plan in machine.plans]


def train(group: Group, motor, load, *, rpm: float, **more) -> DriveTrain:
    speeds = [rpm]
    for stage in group.stages:
        speeds.append(speeds[-1] / stage.ratio)
    fields = {"slip_stage": None, "slip_nm": 0.0, "slip_name": "", "may_run_back": False} | more
    return DriveTrain(
        whole=group,
        motor_nm=motor,
        load_nm=load,
        running_rpm=tuple(speeds),
        names=tuple(str(k) for k in range(len(speeds))),
        **fields,
    )


def speed_at(run, at: float) -> float:
    """Speed of the first shaft at a time [rad/s], straight between samples."""
    pairs = list(zip(run.time_s, run.first_rpm, strict=True))
    for (t0, n0), (t1, n1) in pairwise(pairs):
        if t0 <= at <= t1:
            return (n0 + (n1 - n0) * (at - t0) / (t1 - t0)) / RPM
    raise AssertionError(at)


def test_a_constant_surplus_speeds_up_evenly():
    """J 0.4, 10 N·m against 4 N·m up to a governed top: ω = (T_m - T_L) t / J."""
    group = Group((0.4,), ())
    run = run_up(train(group, lambda w: 10.0 if w < 150 else 4.0, lambda w: 4.0, rpm=150 * RPM))
    for at in (1.0, 4.0, 8.0):
        assert speed_at(run, at) == pytest.approx(15.0 * at, rel=1e-4)


def test_a_straight_line_motor_closes_in_by_its_time_constant():
    """T_m = T_0 (1 - ω/ω_0) without load: ω = ω_0 (1 - e^(-t/τ)), τ = J ω_0 / T_0."""
    group = Group((0.3,), ())
    run = run_up(train(group, lambda w: 12.0 * (1 - w / 100), lambda w: 0.0, rpm=100 * RPM))
    tau = 0.3 * 100 / 12
    for share in (0.3, 0.6, 0.9):
        assert speed_at(run, -tau * log(1 - share)) == pytest.approx(100 * share, rel=2e-3)


CURVE = InductionCurve(
    rated_nm=10.0, synchronous_rpm=1500.0, rated_rpm=1440.0, breakdown_ratio=2.4, locked_ratio=1.9, pull_up_ratio=1.6
)


def test_kloss_from_breakdown_to_near_full_speed_takes_what_its_integral_says():
    """Unloaded, between two slips below breakdown: t = J ω_s / 2 T_b · [(s1² - s2²)/(2 s_b) + s_b ln(s1/s2)]."""
    inertia, ws = 0.5, 1500 / RPM
    run = run_up(train(Group((inertia,), ()), lambda w: CURVE.torque_nm(w * RPM), lambda w: 0.0, rpm=1500))
    s1, s2, sb = CURVE.at_breakdown * 0.99, 0.01, CURVE.at_breakdown
    peak = 10.0 * 2.4
    expected = inertia * ws / (2 * peak) * ((s1**2 - s2**2) / (2 * sb) + sb * log(s1 / s2))
    times = [next(t for t, n in zip(run.time_s, run.first_rpm, strict=True) if n >= 1500 * (1 - s)) for s in (s1, s2)]
    assert times[1] - times[0] == pytest.approx(expected, abs=0.06)
    assert kloss(0.04, CURVE.at_breakdown, 2.4) == pytest.approx(1.0, rel=1e-6)


def test_time_to_speed_is_that_of_a_second_integration_over_speed():
    """t = ∫ J dω / (T_m - T_L), by scipy's quadrature over speed instead of over time."""
    group = Group((0.01, 0.2, 1.5), (Stage(2.5, 0.95), Stage(4.0, 0.8)))

    def load(w: float) -> float:
        return 20.0 + 0.5 * w

    run = run_up(train(group, lambda w: CURVE.torque_nm(w * RPM), load, rpm=1440))
    inertia = 0.01 + 0.2 / 2.5**2 / 0.95 + 1.5 / 10**2 / (0.95 * 0.8)

    def slowness(w: float) -> float:
        return inertia / (CURVE.torque_nm(w * RPM) - load(w / 10) / (10 * 0.95 * 0.8))

    expected = quad(slowness, 0, 140, limit=200)[0]
    found = next(t for t, n in zip(run.time_s, run.first_rpm, strict=True) if n >= 140 * RPM)
    assert found == pytest.approx(expected, abs=0.06)


def test_a_run_down_against_friction_is_even_and_its_losses_brake_too():
    """Power off at ω: back through η the load's own shaft has 2 - 1/η of its torque from the wheel behind it."""
    group, stage = Group((0.5, 0.1), (Stage(3.0, 0.9),)), Stage(3.0, 0.9)
    made = train(group, lambda w: 40.0 * (1 - w / 100), lambda w: 30.0, rpm=100 * RPM)
    run = run_up(made)
    off, rest = run.when("power_off"), run.when("at_rest")
    start = speed_at(run, off - 1e-4)
    # the rotor pushes the load forward through the stage all the way down
    slow = (30.0 / (3.0 * stage.efficiency)) / (0.5 + 0.1 / (9 * stage.efficiency))
    assert rest - off == pytest.approx(start * (1 - STILL * 100 / start) / slow, rel=5e-3)


def slipping(slip_nm: float, load_nm: float = 2.0) -> DriveTrain:
    group = Group((0.05, 2.0), (Stage(2.0, 0.97),))
    return train(
        group,
        lambda w: 60.0 if w < 100 else max(60.0 - 30.0 * (w - 100), -60.0) if w > 100 else 60.0,
        lambda w: load_nm,
        rpm=102 * RPM,
        slip_stage=0,
        slip_nm=slip_nm,
        slip_name="belt slips",
    )


def test_a_belt_that_slips_at_the_start_drags_the_load_up_at_its_own_torque():
    """The load speeds up by T_k i against its own torque; the belt turns at least half of J ω² to heat."""
    run = run_up(slipping(8.0))
    grips = run.when("grips")
    assert run.when("slips") == 0.0
    assert grips is not None
    pull = KINETIC_SHARE * 8.0 * 2.0 * 0.97 - 2.0
    second = 102 / 2
    assert grips == pytest.approx(2.0 * second / pull, rel=0.03)
    heat = next(event.value for event in run.events if event.what == "grips")
    assert heat >= 0.5 * 2.0 * (second * 0.95) ** 2 * 0.9
    assert heat == pytest.approx(0.5 * KINETIC_SHARE * 8.0 * 102 * grips, rel=0.12)


def test_a_belt_tight_enough_never_slips_and_one_too_slack_never_moves_the_load():
    assert run_up(slipping(200.0)).when("slips") is None
    slack = run_up(slipping(2.0, load_nm=30.0))
    assert slack.when("slips") == 0.0
    assert slack.when("stalls") is not None
    assert max(slack.last_rpm) < 1.0


def test_a_motor_weaker_than_the_load_stalls_and_fewer_volts_start_slower():
    group = Group((0.1,), ())
    weak = run_up(train(group, lambda w: 5.0, lambda w: 6.0, rpm=100))
    assert [event.what for event in weak.events] == ["stalls"]
    made = train(group, lambda w: CURVE.torque_nm(w * RPM), lambda w: 5.0, rpm=1440)
    full, low = run_up(made).when("up_to_speed"), run_up(made, Conditions(volts=0.85)).when("up_to_speed")
    soft = run_up(made, Conditions(soft_s=2.0)).when("up_to_speed")
    assert full < low
    assert full < soft


def balanced(run) -> None:
    through = max(run.given_j, 1.0)
    assert abs(run.residual_j) < 1e-3 * through
    assert min(run.given_j, run.taken_j, run.lost_j + 1e-9, run.slip_j + 1e-9) >= 0


@pytest.mark.parametrize(("machine", "plan"), PLANS, ids=[f"{machine.name}, {plan.name}" for machine, plan in PLANS])
def test_every_demo_plan_starts_runs_down_and_balances(machine, plan):
    run = run_up(drive_train(machine, plan, solve_plan(machine, plan).chosen))
    assert [event.what for event in run.events if event.what in ("up_to_speed", "power_off", "at_rest")] == [
        "up_to_speed",
        "power_off",
        "at_rest",
    ]
    balanced(run)
    line = solve_plan(machine, plan).chosen
    settled = max(run.first_rpm)
    assert settled == pytest.approx(line.shafts[0].speed_rpm, rel=0.02)


@settings(max_examples=40, deadline=None)
@given(
    st.floats(0.002, 0.2),
    st.floats(0.01, 20.0),
    st.floats(1.2, 12.0),
    st.floats(0.45, 0.99),
    st.floats(0.0, 6.0),
    st.sampled_from([0.0, 3.0, 9.0, 40.0]),
    st.floats(0.75, 1.1),
)
def test_energy_is_accounted_for_in_every_case(first, last, ratio, efficiency, load, slip_nm, volts):
    group = Group((first, last / ratio**2, last), (Stage(ratio, efficiency), Stage(1.5, 0.95)))
    slips = {"slip_stage": 0, "slip_nm": slip_nm, "slip_name": "belt slips"} if slip_nm else {}
    made = train(
        group, lambda w: CURVE.torque_nm(w * RPM), lambda w: load * ratio * (0.3 + 0.01 * w), rpm=1440, **slips
    )
    run = run_up(made, Conditions(volts=volts))
    balanced(run)
    assert run.when("chatters") is None


def test_what_is_missing_is_named():
    machine = build_machine()
    line = solve_plan(machine, machine.plans[0]).chosen
    with pytest.raises(InputError, match="Source"):
        drive_train(machine, Plan(links=machine.plans[0].links), line)
    unknown = machine.model_copy(update={"need": machine.need.model_copy(update={"running_torque_nm": None})})
    with pytest.raises(InputError, match="Running torque"):
        drive_train(unknown, machine.plans[0], solve_plan(unknown, machine.plans[0]).chosen)


def test_a_tension_that_is_known_lets_the_belt_slip_in_the_run():
    """A belt set far too slack slips in the run as soon as the motor pulls."""
    machine = build_machine()
    made = drive_train(machine, machine.plans[0], solve_plan(machine, machine.plans[0]).chosen)
    assert made.slip_stage is None
    slack = replace(made, slip_stage=0, slip_nm=2.0, slip_name="belt slips")
    run = run_up(slack)
    assert run.when("slips") == 0.0
    balanced(run)


def test_power_off_in_the_middle_of_a_slip_lets_the_two_sides_meet():
    """The belt passes too little for the load's full speed: it slips on evenly, then both run down as one."""
    group = Group((0.05, 2.0), (Stage(2.0, 0.97),))
    made = train(
        group,
        lambda w: max(60.0 * (1 - w / 110), 0.0),
        lambda w: 0.4 * w,
        rpm=105 * RPM,
        slip_stage=0,
        slip_nm=10.0,
        slip_name="belt slips",
    )
    run = run_up(made)
    # T_k i η = 0.4 ω: 8 · 2 · 0.97 / 0.4
    assert max(run.last_rpm) == pytest.approx(38.8 * RPM, rel=0.02)
    off = run.when("power_off")
    assert any(event.what == "grips" and event.at_s > off for event in run.events)
    balanced(run)


@pytest.mark.parametrize(("machine", "plan"), PLANS, ids=lambda one: getattr(one, "name", ""))
def test_the_motor_s_own_check_and_the_run_agree_on_the_time_to_speed(machine, plan):
    """Source follows the curve against the load at the motor, Run-up every wheel and stage: two ways to one figure."""
    line = solve_plan(machine, plan).chosen
    said = start_of(drive_of(plan.source), demand_of(machine, line)).seconds
    assert run_up(drive_train(machine, plan, line), Conditions()).when("up_to_speed") == pytest.approx(said, rel=0.3)
