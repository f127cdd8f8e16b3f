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
from draws import draws
from pulltide.core.errors import InputError
from pulltide.core.line import solve_plan
from pulltide.core.line_checks import demand_of
from pulltide.core.machine import Plan
from pulltide.core.run_log.meters import InductionMeters
from pulltide.core.run_up.cases import run_up
from pulltide.core.run_up.contacts import KINETIC_SHARE, Contact
from pulltide.core.run_up.control import VFD_RAMP_S, Conditions, Motor, relay_heat
from pulltide.core.run_up.drive_train import DriveTrain, drive_train
from pulltide.core.run_up.simulate import STILL
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
    fields = {"may_run_back": False} | more
    return DriveTrain(
        whole=group,
        motor=Motor(torque_nm=motor),
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
        contacts=(Contact(0, "slips", slip_nm),),
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


@settings(max_examples=draws(40), deadline=None)
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
    slips = {"contacts": (Contact(0, "slips", slip_nm),)} if slip_nm else {}
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
    assert made.contacts == ()
    slack = replace(made, contacts=(Contact(0, "slips", 2.0),))
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
        contacts=(Contact(0, "slips", 10.0),),
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
    said, made = start_of(drive_of(plan.source), demand_of(machine, line)).seconds, drive_train(machine, plan, line)
    up = run_up(made, Conditions()).when("up_to_speed")
    assert up == (pytest.approx(VFD_RAMP_S, rel=0.05) if made.motor.on_vfd else pytest.approx(said, rel=0.3))


#: A motor of 1.1 kW by its plate, 4 poles on 50 Hz, against which the starts below were worked out by hand and by a
#: second integration at 1e-10.
RATED_NM = 1100 / (1425 * pi / 30)
KLOSS = InductionCurve(
    rated_nm=RATED_NM, synchronous_rpm=1500, rated_rpm=1425, breakdown_ratio=2.6, locked_ratio=2.2, pull_up_ratio=2.2
)
METERS = InductionMeters(
    synchronous_rpm=1500,
    rated_rpm=1425,
    rated_nm=RATED_NM,
    breakdown=2.6,
    power_kw=1.1,
    amps_a=2.65,
    idle_share=0.6,
    locked_a=5.1 * 2.65,
)


def straight(speed: float) -> float:
    """Its torque: Kloss up to breakdown, then straight in the slip to 2.2 times rated at rest [N·m]."""
    slip, most = 1 - speed * RPM / 1500, 0.25
    if slip <= most:
        return RATED_NM * kloss(max(slip, 0.0), most, 2.6)
    return RATED_NM * (2.6 + (2.2 - 2.6) * (slip - most) / (1 - most))


def started(load, conditions: Conditions, to: float) -> float:
    """Seconds until a share of the speed of the field."""
    slip_limit = 119.08 / RPM
    motor = Motor(
        torque_nm=straight,
        field_rad_s=1500 / RPM,
        limited_slip_rad_s=slip_limit,
        limit_nm=1.5 * RATED_NM,
        amps_at=METERS.amps_at,
        rated_a=2.65,
    )
    made = replace(train(Group((0.06,), ()), straight, load, rpm=1425), motor=motor)
    run = run_up(made, conditions)
    pairs = list(pairwise(zip(run.time_s, run.first_rpm, strict=True)))
    return next(t0 + (to * 1500 - n0) / (n1 - n0) * (t1 - t0) for (t0, n0), (t1, n1) in pairs if n1 >= to * 1500 > n0)


def test_star_and_delta_take_the_time_worked_out():
    """J 0.06, T_L = 1 + 1e-5 ω²: star to 0.8 of the field 1.5517 s, gap 0.05 s, 0.94 at 1.7058 s; direct 0.55285 s."""

    def load(speed: float) -> float:
        return 1 + 1e-5 * speed**2

    assert started(load, Conditions(), 0.94) == pytest.approx(0.55285, rel=2e-3)
    assert started(load, Conditions(star_s=1.5517), 0.94) == pytest.approx(1.7058, rel=2e-3)


@pytest.mark.parametrize(("ramp", "taken"), [(1.0, 1.3252), (3.0, 2.9665)])
def test_a_vfd_takes_its_ramp_or_what_its_limit_allows(ramp, taken):
    """J 0.06, T_L 4, limit 1.5 times rated: 0.9405 of the field."""
    assert started(lambda speed: 4.0, Conditions(vfd_s=ramp), 0.9405) == pytest.approx(taken, rel=3e-3)


def test_current_over_speed_by_the_circuit():
    """I_0 0.6, locked 5.1 times the plate's 2.65 A: 7.807 A at breakdown, 2.65 at full load, 2.046 at 3 % slip."""
    for slip, amps in ((0.25, 7.807), (0.05, 2.65), (0.03, 2.046), (1.0, 13.515)):
        assert METERS.amps_at(1500 * (1 - slip), 1.0) == pytest.approx(amps, rel=1e-3)
    assert METERS.amps_at(0.0, 0.5) == pytest.approx(13.515 / 2)


@pytest.mark.parametrize(
    ("times", "seconds"), [(1.5, 342.9), (2, 155.3), (3, 61.5), (4, 33.4), (6, 14.48), (7.2, 10.0)]
)
def test_a_class_10_relay_trips_as_its_curve_says(times, seconds):
    """From cold: t = τ ln(x² / (x² - 1.3225)), τ 387.0 s."""
    steps = [seconds * k / 500 for k in range(600)]
    assert relay_heat(steps, [times] * 600, 1.0)[1] == pytest.approx(seconds, rel=6e-3)


def test_energy_balances_however_it_is_started():
    machine = demo_machines()[4]
    plan = machine.plans[0]
    made = drive_train(machine, plan, solve_plan(machine, plan).chosen)
    for conditions in (Conditions(star_s=1.0), Conditions(vfd_s=2.0), Conditions(soft_s=2.0)):
        run = run_up(made, conditions)
        assert abs(run.residual_j) < 1e-3 * run.given_j, conditions
        assert len(run.amps_a) == len(run.time_s)
    direct, soft = (max(run_up(made, c).amps_a) for c in (Conditions(), Conditions(vfd_s=2.0)))
    assert soft < 0.5 * direct
