"""The first jerk of a start against closed forms, sums of modes, a general solver and the balance of energy."""

from __future__ import annotations

from dataclasses import replace
from math import cos, pi, sqrt

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.linalg import eigh

from core.test_run_up import PLANS, train
from draws import draws
from pulltide.core.errors import InputError
from pulltide.core.line import solve_plan
from pulltide.core.needs.contract import Pulse
from pulltide.core.run_up.cases import run_up
from pulltide.core.run_up.checks import findings, nearest_swing
from pulltide.core.run_up.contacts import Contact
from pulltide.core.run_up.control import Conditions
from pulltide.core.run_up.drive_train import drive_train
from pulltide.core.run_up.elastic import DAMPING, RIGID_HZ, Chain, Joint, Swinging, chain_of
from pulltide.core.run_up.jam import JamPeak, start_peaks
from pulltide.core.run_up.jerk import jerk, solved
from pulltide.core.run_up.springs import RIGID, Springs
from pulltide.core.run_up.train import Group, Stage

NEAR_ONE = 1 - 1e-9
JERK = Conditions(then="jerk")
STEP = 10.0


def springy(inertias, springs, *, slacks=None, ratios=None, load=0.0, **more):
    """A drive of stages that lose nothing, all springy, under a steady torque."""
    ratios = ratios or [1.0] * len(springs)
    group = Group(tuple(inertias), tuple(Stage(ratio, NEAR_ONE) for ratio in ratios))
    made = Springs(tuple(springs), (None,) * len(inertias), tuple(slacks or [0.0] * len(springs)))
    return train(group, lambda w: STEP, lambda w: load, rpm=1000, springs=made, **more)


def undamped(chain: Chain) -> Chain:
    return replace(chain, joints=tuple(replace(joint, damping=0.0) for joint in chain.joints))


def test_two_masses_swing_at_their_frequency_and_three_as_a_general_solver_says():
    """(1 / 2π) √(k (1 / J1 + 1 / J2)), the second inertia over the ratio squared; three told at one shaft."""
    one = chain_of(springy([0.05, 0.8], [400.0], ratios=[2.0]))
    assert one.frequencies_hz()[0] == pytest.approx(sqrt(400 * (1 / 0.05 + 4 / 0.8)) / (2 * pi), rel=1e-12)
    three = chain_of(springy([0.05, 0.2, 3.0], [400.0, 900.0], ratios=[2.0, 3.0]))
    inertias, springs = np.diag([0.05, 0.2 / 4, 3.0 / 36]), (400.0, 900.0 / 4)
    k1, k2 = springs
    stiffness = np.array([[k1, -k1, 0], [-k1, k1 + k2, -k2], [0, -k2, k2]])
    squares = eigh(stiffness, inertias, eigvals_only=True)[1:]
    assert three.frequencies_hz() == pytest.approx([sqrt(s) / (2 * pi) for s in squares], rel=1e-9)


def peak_of(made, chain, seconds: float) -> float:
    """Greatest torque in the first joint over some time, without damping."""
    swinging = Swinging(made, chain, lambda at, first, last: (STEP, 0.0))
    _, states = solved(swinging, (0.0, seconds), np.zeros(swinging.size), seconds / 2000, None)
    return max(swinging.joint_torques(state)[0] for state in states.T)


@pytest.mark.parametrize("slack", [0.0, 0.02, 0.1])
def test_a_step_of_torque_winds_the_spring_up_twice_and_play_adds_its_blow(slack):
    """T_m = T J2 / (J1 + J2); peak T_m + √(T_m² + ω0² k J), ω0² = 2 T φ / J1 what the rotor gains in the play.

    Energy of the pair on its spring; J = J1 J2 / (J1 + J2).
    """
    first, second, spring = 0.05, 0.8, 400.0
    made = springy([first, second], [spring], slacks=[slack])
    mean = STEP * second / (first + second)
    together = first * second / (first + second)
    blow = 2 * STEP * slack / first * spring * together
    assert peak_of(made, undamped(chain_of(made)), 0.5) == pytest.approx(mean + sqrt(mean**2 + blow), rel=2e-3)


def test_three_masses_wind_up_as_the_sum_of_their_modes():
    """Each mode from rest under a step: q = (φᵀ F / ω²)(1 - cos ω t); torque of the first spring from the sum."""
    made = springy([0.05, 0.2, 3.0], [400.0, 900.0])
    inertias = np.diag([0.05, 0.2, 3.0])
    stiffness = np.array([[400.0, -400, 0], [-400, 1300, -900], [0, -900, 900]])
    squares, shapes = eigh(stiffness, inertias)
    most = 0.0
    for at in np.linspace(0, 0.4, 4000):
        torque = 0.0
        for square, shape in zip(squares[1:], shapes.T[1:], strict=True):
            torque += 400 * (shape[0] - shape[1]) * shape[0] * STEP / square * (1 - cos(sqrt(square) * at))
        most = max(most, torque)
    assert peak_of(made, undamped(chain_of(made)), 0.4) == pytest.approx(most, rel=2e-3)


def test_damping_is_the_share_of_critical_that_is_told():
    """Free swings of two masses fade by e^(-2π ζ / √(1 - ζ²)) each."""
    made = springy([0.05, 0.8], [400.0])
    run = jerk(made, JERK)
    assert run.jerk.frequencies_hz[0] == pytest.approx(14.67, rel=1e-3)
    (joint,) = chain_of(made).joints
    together = 0.05 * 0.8 / 0.85
    assert joint.damping / (2 * sqrt(400.0 * together)) == pytest.approx(DAMPING)


def test_a_belt_that_slips_caps_the_jerk_and_a_one_way_clutch_never_pulls_back():
    made = springy([0.05, 0.8], [400.0], contacts=(Contact(0, "slips", 12.0),))
    run = jerk(made, JERK)
    assert run.jerk.peaks_nm[0] == pytest.approx(12.0, rel=0.05)
    assert run.slip_j > 0
    assert any(run.slipping)
    free = springy([0.05, 0.8], [400.0], contacts=(Contact(0, "overruns", clutch="clutch"),))
    assert min(jerk(free, JERK).load_nm) >= 0
    assert abs(jerk(free, JERK).residual_j) < 1e-3 * jerk(free, JERK).given_j


@pytest.mark.long
def test_a_load_that_stands_is_not_moved_until_the_torque_is_there_and_a_soft_start_jerks_less():
    made = springy([0.05, 0.8], [400.0], load=STEP * 1.5)
    run = jerk(made, JERK)
    assert run.when("stalls") is not None or run.when("moves_off") is not None
    held = springy([0.05, 0.8], [400.0], load=STEP * 2.5)
    assert jerk(held, JERK).when("stalls") is not None
    assert "run.stalls" in [one.code for one in findings(held, jerk(held, JERK))]
    light = springy([0.05, 0.8], [400.0], load=2.0)
    direct, soft = jerk(light, JERK), jerk(light, Conditions(then="jerk", soft_s=5.0))
    assert soft.jerk.peaks_nm[0] < 0.6 * direct.jerk.peaks_nm[0]


@settings(max_examples=draws(25), deadline=None)
@given(
    st.lists(st.floats(0.01, 3.0), min_size=2, max_size=5),
    st.floats(30.0, 3000.0),
    st.floats(0.5, 6.0),
    st.floats(0.4, 0.99),
    st.sampled_from([0.0, 0.01, 0.3]),
    st.floats(0.0, 8.0),
)
def test_energy_balances_in_every_jerk(inertias, spring, ratio, efficiency, slack, load):
    group = Group(tuple(inertias), tuple(Stage(ratio, efficiency) for _ in inertias[1:]))
    count = len(inertias) - 1
    springs = Springs((spring,) * count, (None,) * (count + 1), (slack,) * count)
    made = train(group, lambda w: max(12.0 - 0.05 * w, 0.0), lambda w: load, rpm=2000, springs=springs)
    if not chain_of(made).joints:
        return
    run = jerk(made, JERK)
    assert abs(run.residual_j) < 1e-3 * max(run.given_j, 0.1)
    assert min(run.given_j, run.taken_j, run.lost_j + 1e-6, run.stored_j) >= 0


@pytest.mark.parametrize(("machine", "plan"), PLANS, ids=[f"{machine.name}, {plan.name}" for machine, plan in PLANS])
def test_every_demo_plan_is_jerked_and_balances(machine, plan):
    line = solve_plan(machine, plan).chosen
    made = drive_train(machine, plan, line)
    run = run_up(made, JERK)
    assert abs(run.residual_j) < 1e-3 * run.given_j
    assert run.when("moves_off") is not None
    running = [result.flow.driver_torque_nm for result in line.links]
    assert all(peak > 0.8 * even for peak, even in zip(run.jerk.peaks_nm, running, strict=True))
    peaks = tuple(start_peaks(line, run.jerk))
    codes = [finding.code for finding in findings(made, run, peaks)]
    assert codes.count("run.start_peak") == bool(peaks)


def test_a_spring_too_stiff_to_matter_and_a_shaft_are_taken_as_they_are():
    stiff = springy([0.05, 0.8], [0.9 * (2 * pi * RIGID_HZ) ** 2 / (1 / 0.05 + 1 / 0.8)])
    assert chain_of(stiff).joints
    assert not chain_of(springy([0.05, 0.8], [1.1 * (2 * pi * RIGID_HZ) ** 2 / (1 / 0.05 + 1 / 0.8)])).joints
    shaft = train(
        Group((0.05, 0.8), (Stage(1.0, NEAR_ONE),)), lambda w: STEP, lambda w: 0.0, rpm=1000,
        springs=Springs((600.0,), (300.0, None)),
    )  # fmt: skip
    assert chain_of(shaft).joints[0].spring_nm_rad == pytest.approx(200.0)
    with pytest.raises(InputError, match="Springs"):
        jerk(replace(shaft, springs=RIGID), JERK)


def test_inside_a_rigid_body_a_stage_sees_what_its_inertia_takes():
    """No spring before it: T into it = (T_s + J α) / i with T_s the spring behind."""
    group = Group((0.05, 0.1, 0.8), (Stage(2.0, NEAR_ONE), Stage(1.0, NEAR_ONE)))
    made = train(group, lambda w: STEP, lambda w: 0.0, rpm=1000, springs=Springs((None, 400.0), (None,) * 3))
    run = jerk(made, JERK)
    swinging = Swinging(made, chain_of(made), lambda at, first, last: (STEP, 0.0))
    state = np.zeros(swinging.size)
    first, second = swinging.stage_torques(0.0, state)
    rate = STEP / (0.05 + 0.1 / 4)
    assert (first, second) == (pytest.approx(0.1 / 2 * rate / 2), 0.0)
    assert len(run.jerk.peaks_nm) == 2


def test_a_jerk_is_judged_by_the_weakest_part_and_blows_by_the_drive_s_own_swing():
    made = springy([0.05, 0.8], [400.0])
    run = jerk(made, JERK)
    own = run.jerk.frequencies_hz[0]
    use = [(0.7, "clear"), (0.9, "warning"), (1.2, "error")]
    for share, severity in use:
        peaks = (JamPeak(0, "key shears", share * 50, 50.0),)
        found = {one.code: one.severity.value for one in findings(made, run, peaks)}
        assert found["run.start_peak"] == severity
    near = replace(made, pulse=Pulse(1, 0.5, 0.8), running_rpm=(1000.0, own * 60 / 2.1))
    assert nearest_swing(near, run) == pytest.approx(abs(2 / 2.1 - 1), rel=1e-6)
    assert {one.code: one.severity.value for one in findings(near, run)}["run.resonance"] == "warning"
    far = replace(near, running_rpm=(1000.0, own * 60 / 20))
    assert {one.code: one.severity.value for one in findings(far, run)}["run.resonance"] == "clear"


def test_joints_press_and_never_pull_through_their_play():
    joint = Joint(Stage(1.0, 0.9), 0, 100.0, 0.1, damping=5.0)
    assert joint.torque_nm(0.05, 3.0) == 0.0
    assert joint.torque_nm(0.2, 0.0) == pytest.approx(10.0)
    assert joint.torque_nm(-0.1, 0.0) == pytest.approx(-10.0)
    assert joint.torque_nm(0.11, -10.0) == 0.0, "as it leaves, it does not stick"
    assert joint.stored_j(0.2) == pytest.approx(0.5)
