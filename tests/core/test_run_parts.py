"""Drives that part in a run: one-way clutches, shear pins, fuses; and cycles that a VFD follows."""

from __future__ import annotations

from dataclasses import replace
from math import exp, log

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from core.test_run_up import CURVE, KLOSS, METERS, PLANS, RPM, train
from draws import draws
from pulltide.core.duty import Segment
from pulltide.core.line import solve_plan
from pulltide.core.run_up.cases import run_up
from pulltide.core.run_up.checks import findings
from pulltide.core.run_up.contacts import Contact
from pulltide.core.run_up.control import FUSE_SHARE, Conditions, Motor, fuse_heat
from pulltide.core.run_up.drive_train import drive_train
from pulltide.core.run_up.springs import Springs
from pulltide.core.run_up.stretches import Stretches
from pulltide.core.run_up.train import Group, Stage
from pulltide.core.shafts import ShaftPart

TWO = Group((0.05, 2.0), (Stage(2.0, 0.97),))
CLUTCH = Contact(0, "overruns", name="one-way clutch of shaft 2", clutch="one-way clutch of shaft 2")


def induction(speed: float) -> float:
    return CURVE.torque_nm(speed * RPM)


def codes(made, run) -> dict[str, str]:
    return {finding.code: finding.severity.value for finding in findings(made, run)}


def test_a_flywheel_behind_a_one_way_clutch_runs_on_as_if_its_motor_were_not_there():
    """Power off: J 2 on 3 + 0.05 ω alone, t = (J / c) ln(1 + c ω / T); the rotor only against its brake."""
    made = train(TWO, induction, lambda w: 3.0 + 0.05 * w, rpm=1470, contacts=(CLUTCH,))
    made = replace(made, brakes_nm=(4.0, 0.0))
    run = run_up(made)
    off = run.when("power_off")
    brakes = off + 0.1
    assert run.when("overruns") == pytest.approx(brakes, abs=1e-6), "as the motor's brake sets, not before"
    k = next(k for k, t in enumerate(run.time_s) if t >= brakes)
    speed = run.last_rpm[k] / RPM
    still = 1470 / 2 / RPM * 1e-3
    alone = 2.0 / 0.05 * log((1 + 0.05 * speed / 3.0) / (1 + 0.05 * still / 3.0))
    assert run.when("at_rest") - brakes == pytest.approx(alone, rel=2e-3)
    # its brake takes the rotor down by itself: J ω / T
    down = next(t for t, n in zip(run.time_s[k:], run.first_rpm[k:], strict=True) if n < 1) - brakes
    assert down == pytest.approx(0.05 * run.first_rpm[k] / RPM / 4.0, rel=0.05)
    assert abs(run.residual_j) < 1e-3 * run.given_j
    assert codes(made, run)["run.overruns"] == "clear"


def test_without_the_clutch_the_motor_s_brake_holds_the_flywheel_back():
    made = replace(train(TWO, induction, lambda w: 3.0, rpm=1470), brakes_nm=(4.0, 0.0))
    clutched = replace(made, contacts=(CLUTCH,))
    stops, runs_on = (run_up(one) for one in (made, clutched))
    assert stops.when("at_rest") < 0.6 * runs_on.when("at_rest")


def test_a_load_that_drives_runs_away_through_a_one_way_clutch_and_is_caught_again():
    """Once past the motor's field the load drives alone with 6 N·m: ω grows by T t / J; then it is taken up again."""
    cycle = (Segment(seconds=4.0, torque_share=1.0), Segment(seconds=2.0, torque_share=-1.0))
    made = train(TWO, induction, lambda w: 6.0, rpm=1470, contacts=(CLUTCH,), cycle=cycle)
    run = run_up(made, Conditions(then="cycle"))
    first = next(event.at_s for event in run.events if event.what == "overruns")
    pairs = list(zip(run.time_s, run.last_rpm, strict=True))
    ends = run.when("cycle") + 6.0
    begins = next(n for t, n in pairs if t >= first)
    assert begins == pytest.approx(CURVE.synchronous_rpm / 2, rel=2e-3)
    fastest = max(n for t, n in pairs if first <= t <= ends + 0.01)
    assert (fastest - begins) / RPM == pytest.approx((ends - first) * 6.0 / 2.0, rel=0.01)
    assert run.when("drives_again") > first
    assert abs(run.residual_j) < 1e-3 * run.given_j
    kinds = [event.what for event in run.events if event.what in ("overruns", "drives_again")]
    assert kinds[:4] == ["overruns", "drives_again"] * 2
    assert "run.overruns" in codes(made, run)


def test_a_cycle_that_drives_hard_enough_is_warned_of():
    cycle = (Segment(seconds=4.0, torque_share=1.0), Segment(seconds=4.0, torque_share=-3.0))
    made = train(TWO, induction, lambda w: 6.0, rpm=1470, contacts=(CLUTCH,), cycle=cycle)
    assert codes(made, run_up(made, Conditions(then="cycle")))["run.overruns"] == "warning"


def test_the_other_way_a_one_way_clutch_drives_nothing():
    made = train(TWO, induction, lambda w: 3.0, rpm=1470, contacts=(CLUTCH,))
    run = run_up(made, Conditions(then="other_way"))
    began = run.when("other_way")
    after = [n for t, n in zip(run.time_s, run.last_rpm, strict=True) if t > began]
    assert max(map(abs, after)) < 1
    assert min(run.first_rpm) < -1000
    assert codes(made, run) == {"run.backward": "error"}


@pytest.mark.parametrize(("side", "stage"), [("none", None), ("driven_wheel", 1), ("driver_wheel", 2)])
def test_a_one_way_clutch_stands_in_a_stage_of_its_shaft(side, stage):
    assert ShaftPart(shaft=3, one_way=side).one_way_stage == stage


def test_a_belt_under_a_one_way_clutch_slips_forward_and_is_free_backward():
    """One place, both: it slips at the start, and overruns as the motor's brake sets."""
    both = Contact(0, "slips", 8.0, name="belt", clutch="one-way clutch")
    made = replace(train(TWO, lambda w: 60.0 if w < 100 else max(60 - 30 * (w - 100), -60.0), lambda w: 2.0,
                         rpm=102 * RPM, contacts=(both,)), brakes_nm=(30.0, 0.0))  # fmt: skip
    run = run_up(made)
    assert [event.what for event in run.events if event.what in ("slips", "grips", "overruns")] == [
        "slips", "grips", "overruns",
    ]  # fmt: skip
    before = next(n for t, n in zip(run.time_s, run.last_rpm, strict=True) if t >= run.when("overruns"))
    alone = 2.0 * before / RPM / 2.0
    assert run.when("at_rest") - run.when("overruns") == pytest.approx(alone, rel=5e-3)
    assert abs(run.residual_j) < 1e-3 * run.given_j


PINS = Contact(0, "shears", 60.0, name="shear pins of stage 1")


def test_pins_shear_in_a_jam_and_nothing_behind_them_is_driven_any_more():
    made = train(TWO, induction, lambda w: 6.0, rpm=1460, contacts=(PINS,))
    run = run_up(made, Conditions(then="jam"))
    assert run.when("shears") == run.when("jams")
    assert run.jam_j == pytest.approx(0.5 * 2.0 * run.jam.speed_rad_s**2, rel=1e-9)
    jams = run.when("jams")
    after = [k for k, t in enumerate(run.time_s) if t > jams + 0.5]
    assert max(run.last_rpm[k] for k in after) == 0
    off = run.when("power_off")
    free = next(n for t, n in zip(run.time_s, run.first_rpm, strict=True) if t >= off)
    assert free == pytest.approx(CURVE.synchronous_rpm, rel=1e-3), "with nothing to drive"
    assert run.when("stays_down") is not None
    assert "run.pins" not in codes(made, run), "that is what they are for"
    assert "run.stays_down" not in codes(made, run)


def test_pins_stronger_than_the_springs_of_the_jam_hold():
    """J behind them on 50 N·m/rad: the peak stays under 400 N·m, so that everything stands at once instead."""
    soft = Springs((50.0,), (None, None))
    strong = train(TWO, induction, lambda w: 6.0, rpm=1460, contacts=(replace(PINS, torque_nm=400.0),), springs=soft)
    run = run_up(strong, Conditions(then="jam"))
    assert run.when("shears") is None
    assert run.jam.parted is None
    stiff = replace(strong, springs=Springs((50_000.0,), (None, None)))
    assert run_up(stiff, Conditions(then="jam")).when("shears") is not None


def test_pins_too_weak_for_the_start_shear_at_once_and_that_is_said():
    made = train(TWO, induction, lambda w: 6.0, rpm=1460, contacts=(replace(PINS, torque_nm=4.0),))
    run = run_up(made)
    assert run.when("shears") == 0.0
    assert max(run.last_rpm) == 0
    assert codes(made, run) == {"run.pins": "error"}
    assert abs(run.residual_j) < 1e-3 * run.given_j


def test_a_soft_start_under_a_load_that_stands_slips_nothing_before_it_moves():
    """While it stands, a belt passes what the motor pushes in, however large the breakaway."""
    group = Group((0.05, 0.2), (Stage(2.0, 0.97),))
    made = train(group, induction, lambda w: 30.0 * exp(-w) + 4.0, rpm=1460, contacts=(Contact(0, "slips", 20.0),))
    run = run_up(made, Conditions(soft_s=5.0))
    slips = run.when("slips")
    assert slips is None or slips > 0.5


@settings(max_examples=draws(30), deadline=None)
@given(
    st.lists(st.sampled_from(["slips", "shears", "overruns"]), min_size=1, max_size=3),
    st.floats(3.0, 60.0),
    st.sampled_from(["stop", "load_steps", "dip", "jam", "cycle", "other_way"]),
    st.floats(0.5, 8.0),
)
def test_energy_balances_wherever_a_drive_parts(kinds, strength, then, load):
    """Up to three places that part, each after the other, in every case."""
    group = Group((0.03, 0.1, 0.4, 2.0), (Stage(2.0, 0.96), Stage(3.0, 0.9), Stage(1.5, 0.7)))
    into = (1.0, 2.0, 6.0)
    made = train(group, induction, lambda w: load * (1 + 0.02 * w), rpm=1450)
    contacts = tuple(
        Contact(k, kind, strength * into[k], kind, "clutch" if kind == "overruns" else "")
        for k, kind in enumerate(kinds)
    )
    cycle = (Segment(seconds=3, torque_share=2.0), Segment(seconds=2, torque_share=-0.6))
    run = run_up(replace(made, contacts=contacts, cycle=cycle), Conditions(then=then))
    assert abs(run.residual_j) < 1e-3 * max(run.given_j, 1.0)


@pytest.mark.parametrize("times", [5.0, 3.0, 2.0])
def test_fuses_melt_as_their_equation_says(times):
    """τ h' = x² - h to 1.8225, held 10 s at 5 times their rating: t = τ ln(x² / (x² - h))."""
    tau = 10.0 / log(25 / (25 - 1.35**2))
    at = tau * log(times**2 / (times**2 - 1.35**2))
    steps = [at * k / 500 for k in range(600)]
    assert fuse_heat(steps, [times * FUSE_SHARE] * 600, 1.0)[1] == pytest.approx(at, rel=6e-3)


def test_fuses_hold_at_a_start_and_blow_in_a_stall():
    motor = Motor(torque_nm=lambda w: KLOSS.torque_nm(w * RPM), field_rad_s=1500 / RPM, amps_at=METERS.amps_at,
                  rated_a=2.65)  # fmt: skip
    made = replace(train(Group((0.06,), ()), motor.torque_nm, lambda w: 4.0, rpm=1425), motor=motor)
    assert run_up(made).when("fuse_blows") is None
    stalled = replace(made, load_nm=lambda w: 40.0)
    assert run_up(stalled).when("fuse_blows") == pytest.approx(30, abs=15)


def ramps(*parts: tuple[float, float, float | None], ramp_s: float = 2.0) -> Stretches:
    segments = tuple(Segment(seconds=s, speed_share=n, speed_share_end=end) for s, n, end in parts)
    return Stretches(segments, 10.0, 10.0 + 2 * sum(one.seconds for one in segments), ramp_s)


def test_a_drive_follows_jumps_as_ramps_and_ramps_as_they_are_told():
    cycle = ramps((4.0, 0.5, None), (2.0, 0.5, 1.0), (1.0, 1.0, None))
    for at, share in ((10.0, 1.0), (10.5, 0.75), (11.0, 0.5), (14.0, 0.5), (15.0, 0.75), (16.0, 1.0), (17.0, 1.0)):
        assert cycle.speed(at) == pytest.approx(share), at
    assert cycle.speed(18.0) == pytest.approx(0.5), "the second time round"
    late = ramps((0.5, 0.0, None), (3.0, 1.0, None))
    assert late.speed(10.5) == pytest.approx(0.75), "too short to come to rest"
    assert late.speed(11.0) == pytest.approx(1.0)
    steep = ramps((1.0, 0.0, 1.0), (1.0, 1.0, None), ramp_s=4.0)
    assert steep.speed(10.8) == pytest.approx(0.8), "down by a quarter in a second meets what comes up"


def vfd_train(cycle, load):
    made = train(Group((0.06,), ()), induction, load, rpm=1455, cycle=cycle)
    motor = Motor(torque_nm=induction, field_rad_s=CURVE.synchronous_rpm / RPM, limit_nm=1.5 * CURVE.rated_nm,
                  limited_slip_rad_s=(CURVE.synchronous_rpm - CURVE.speed_rpm(1.5 * CURVE.rated_nm)) / RPM,
                  on_vfd=True)  # fmt: skip
    return replace(made, motor=motor)


def test_a_vfd_takes_a_cycle_to_its_speeds_with_the_slip_of_its_torque():
    """At half of the field less the slip of the torque told there, whatever the load's own law."""
    cycle = (Segment(seconds=6, torque_share=1.0), Segment(seconds=6, torque_share=0.5, speed_share=0.5))
    for exponent in (0.0, 2.0):
        made = vfd_train(cycle, lambda w, e=exponent: 6.0 * max(w / (1455 / RPM), 1e-6) ** e)
        run = run_up(made, Conditions(then="cycle"))
        began = run.when("cycle")
        slow = next(n for t, n in zip(run.time_s, run.first_rpm, strict=True) if t >= began + 11.9)
        slip = CURVE.synchronous_rpm - CURVE.speed_rpm(3.0)
        assert slow == pytest.approx(0.5 * CURVE.synchronous_rpm - slip, rel=5e-3), exponent
        assert abs(run.residual_j) < 1e-3 * run.given_j


def test_a_motor_without_a_vfd_is_off_in_its_rests_and_starts_again():
    cycle = (Segment(seconds=5, torque_share=1.0), Segment(seconds=5, torque_share=0.0, speed_share=0.0))
    made = train(Group((0.06,), ()), induction, lambda w: 5.0, rpm=1450, cycle=cycle)
    run = run_up(made, Conditions(then="cycle"))
    whats = [event.what for event in run.events]
    assert whats.count("rests") == 2
    assert whats.count("starts_again") == 1
    again = run.when("starts_again")
    assert next(n for t, n in zip(run.time_s, run.first_rpm, strict=True) if t >= again + 2) > 1400
    assert "stays_down" not in whats
    assert abs(run.residual_j) < 1e-3 * run.given_j


def test_one_motor_on_a_vfd_is_started_by_it_unless_told_how():
    made = vfd_train((), lambda w: 6.0)
    assert run_up(made, Conditions(soft_s=5)).when("up_to_speed") == run_up(made).when("up_to_speed")
    assert run_up(made, Conditions(vfd_s=5)).when("up_to_speed") == pytest.approx(5.0, rel=0.05)


def test_a_coupling_with_pins_shears_in_the_run_and_one_with_a_limiter_slips():
    """Both of one plan: the weakest that slips, and the pins; whichever stage they are in."""
    machine, plan = next((m, p) for m, p in PLANS if any(link.kind == "v_belt" for link in p.links))
    line = solve_plan(machine, plan).chosen
    kinds = {contact.kind for contact in drive_train(machine, plan, line).contacts}
    assert kinds <= {"slips"}
    shafts = (*plan.shafts[:0], ShaftPart(shaft=2, one_way="driven_wheel"))
    clutched = drive_train(machine, plan.model_copy(update={"shafts": shafts}), line)
    assert [contact.clutch for contact in clutched.contacts if contact.clutch] == ["one-way clutch of shaft 2"]
