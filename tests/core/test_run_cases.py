"""What happens to a drive that is up to speed, against closed forms, second integrations and the balance of energy."""

from __future__ import annotations

from dataclasses import replace
from math import cos, exp, log, pi, sin, sqrt

import numpy as np
import pytest
from scipy.integrate import quad, solve_ivp

from builders import build_machine
from core.test_run_up import CURVE, METERS, PLANS, RPM, train
from pulltide.core.duty import Segment
from pulltide.core.elasticity import in_series, jam_peak_nm, loop_nm_rad, mesh_nm_rad
from pulltide.core.line import solve_plan
from pulltide.core.machine import Plan
from pulltide.core.needs import NEED_KINDS, hangs_in, move_of, pulse_of
from pulltide.core.needs.axis import AXIS
from pulltide.core.needs.contract import Hanging, Move, Pulse
from pulltide.core.needs.press import PRESS
from pulltide.core.run_up import cases
from pulltide.core.run_up.cases import CASES, DIP_TO, pulse_at, run_up
from pulltide.core.run_up.checks import cases_go_on, findings, slip_seconds, winding_goes_on
from pulltide.core.run_up.contacts import KINETIC_SHARE, Contact
from pulltide.core.run_up.control import (
    CASE_S,
    EVEN_LOSS,
    OVER_CASE,
    WINDING_S,
    Conditions,
    Motor,
    heating,
    mean_heat,
    winding_heat,
)
from pulltide.core.run_up.drive_train import drive_train, motor_of
from pulltide.core.run_up.jam import jam_peaks
from pulltide.core.run_up.simulate import BRAKE_SETS_S, MAX_WORK, Runner
from pulltide.core.run_up.swing import half_swing, holds
from pulltide.core.run_up.train import Group, Stage
from pulltide.core.sources import drive_of
from pulltide.core.sources.others import Engine, HandCrank
from pulltide.core.sources.permanent_magnet import DcMotor
from pulltide.demo import demo_machines

UP_AND_DOWN = (
    Segment(seconds=3, torque_share=1.5),
    Segment(seconds=4, torque_share=0.2, torque_share_end=1.0),
    Segment(seconds=2, torque_share=-0.5),
)


def induction(speed: float) -> float:
    return CURVE.torque_nm(speed * RPM)


@pytest.mark.long
@pytest.mark.parametrize("then", sorted(CASES.keys() - {"jerk"}))
def test_energy_balances_whatever_happens(then):
    """To a thousandth of what the motor gives, in every demo plan that can be run."""
    for machine, plan in PLANS:
        line = solve_plan(machine, plan)
        if line is None or not plan.links:
            continue
        made = drive_train(machine, plan, line.chosen)
        made = replace(made, cycle=made.cycle or UP_AND_DOWN)
        run = run_up(made, Conditions(then=then))
        assert abs(run.residual_j) < 1e-3 * run.given_j, (machine.name, plan.name)
        assert run.when("power_off") is not None


def test_the_other_way_it_starts_as_the_first_time():
    made = train(Group((0.06,), ()), induction, lambda w: 3.0, rpm=1450)
    run = run_up(made, Conditions(then="other_way"))
    first, second = (event.at_s for event in run.events if event.what == "up_to_speed")
    assert second - run.when("other_way") == pytest.approx(first, rel=1e-2)
    assert min(run.first_rpm) == pytest.approx(-max(run.first_rpm), rel=1e-3)
    assert run.last_rpm[-1] < 0


def test_without_load_it_runs_near_its_field_and_comes_back():
    made = train(Group((0.06,), ()), induction, lambda w: 8.0, rpm=1450)
    run = run_up(made, Conditions(then="load_steps"))
    loaded, bare = CURVE.speed_rpm(8.0), CURVE.synchronous_rpm
    on = run.when("load_on")
    before = next(n for t, n in zip(run.time_s, run.first_rpm, strict=True) if t >= on)
    assert before == pytest.approx(bare, rel=2e-3)
    off = run.when("power_off")
    after = next(n for t, n in zip(run.time_s, run.first_rpm, strict=True) if t >= off)
    assert after == pytest.approx(loaded, rel=2e-3)


def test_a_dip_of_the_volts_slows_it_as_its_curve_says():
    """Torque goes with the square of the volts: Kloss at 5 N·m over 0.36."""
    made = train(Group((0.02,), ()), induction, lambda w: 5.0, rpm=1450)
    run = run_up(made, Conditions(then="dip"))
    back = next(event for event in run.events if event.what == "volts_back")
    assert back.value == pytest.approx(replace(CURVE, scale=DIP_TO**2).speed_rpm(5.0), rel=1e-3)


def test_a_jam_stops_what_is_behind_the_slip_and_the_belt_drives_on_with_its_friction():
    """Behind the slip turn 0.5 kg·m² at half of the motor's speed; 12 N·m slip, 9.6 N·m rub."""
    group = Group((0.02, 0.5), (Stage(2.0, 0.95),))
    made = train(group, induction, lambda w: 6.0, rpm=1460, contacts=(Contact(0, "slips", 12.0),))
    run = run_up(made, Conditions(then="jam"))
    stopped = 0.5 * 0.5 * run.jam.speed_rad_s**2
    assert run.jam_j == pytest.approx(stopped, rel=1e-6)
    jams, freed = run.when("jams"), run.when("freed")
    inside = [k for k, t in enumerate(run.time_s) if jams + 0.1 < t < freed]
    assert {round(run.load_nm[k], 6) for k in inside} == {round(KINETIC_SHARE * 12.0 * 2.0 * 0.95, 6)}
    assert all(run.last_rpm[k] == 0 for k in inside)
    slowed = CURVE.speed_rpm(KINETIC_SHARE * 12.0)
    assert run.first_rpm[inside[-1]] == pytest.approx(slowed, rel=1e-3)
    assert run.when("stays_down") is None


def test_a_belt_that_rubs_less_than_the_load_takes_stays_down_after_a_jam():
    """It started without slipping, 10 N·m against 11; slipping it passes 8.8 and the load takes 9."""
    group = Group((0.05, 0.05), (Stage(1.0, 0.999),))

    def motor(speed: float) -> float:
        return 10.0 if speed < 100 else max(10.0 - 40 * (speed - 100), -20.0)

    made = train(group, motor, lambda w: 9.0, rpm=100 * RPM, contacts=(Contact(0, "slips", 11.0),))
    run = run_up(made, Conditions(then="jam"))
    assert run.when("stays_down") is not None
    assert slip_seconds(run) == 0.0, "it slips in the jam, not at the start"
    assert "run.stays_down" in [finding.code for finding in findings(made, run)]


@pytest.mark.parametrize(("before", "drive"), [(150.0, 150.0), (150.0, 330.0)])
def test_the_peak_of_a_jam_is_that_of_a_mass_on_a_spring(before, drive):
    """J 0.9 at 100 rpm on 20,000 N·m/rad, against its equation of motion integrated: 1555.0 and 1746.4 N·m."""
    inertia, spring, speed = 0.9, 20_000.0, 100 / RPM

    def motion(_, state):
        return [state[1], (drive - spring * state[0]) / inertia]

    path = solve_ivp(motion, (0, 0.03), [before / spring, speed], rtol=1e-10, atol=1e-12, max_step=1e-4)
    assert jam_peak_nm(speed, inertia, spring, before, drive) == pytest.approx(spring * max(path.y[0]), rel=1e-4)


def test_springs_in_a_row_and_of_a_belt_and_a_mesh():
    """k = 2 (EA / t) r²; 18 N/(mm·µm) over 20 mm at a base radius of 50 cos 20° mm; springs in a row by their give."""
    assert loop_nm_rad(14_000, 450, (90, 250)) == pytest.approx(2 * 14_000 / sqrt(0.45**2 - 0.08**2) * 0.045**2)
    assert mesh_nm_rad(20, 100, 20) == pytest.approx(18e6 * 20 * (0.05 * 0.9396926) ** 2, rel=1e-6)
    assert in_series([300.0, 600.0]) == pytest.approx(200.0)
    assert in_series([]) is None


def test_the_jam_of_a_plan_is_the_mass_on_the_springs_behind_each_stage():
    """The chain of the trommel: all that turns, on the chain alone, worked out anew."""
    machine = demo_machines()[4]
    plan = machine.plans[0]
    line = solve_plan(machine, plan).chosen
    made = drive_train(machine, plan, line)
    springs = made.springs
    run = run_up(made, Conditions(then="jam"))
    (peak,) = (one for one in jam_peaks(made, line, run.jam) if one.stage == 2)
    ratio = made.whole.stages[2].ratio
    j = made.whole.inertias_kgm2
    r0, r1 = (stage.ratio for stage in made.whole.stages[:2])
    mass = j[2] + j[1] * r1**2 + j[0] * (r1 * r0) ** 2
    before = run.jam.last_nm / ratio
    assert peak.peak_nm == pytest.approx(
        before + run.jam.speed_rad_s * ratio * sqrt(springs.stages[2] * mass), rel=1e-6
    )
    rules = [finding.code for finding in findings(made, run, list(jam_peaks(made, line, run.jam)))]
    assert rules.count("run.jam_peak") == 1


def test_blows_slow_a_flywheel_as_one_after_the_other():
    """Each blow at once, the straight-line motor between them, turn by turn; the program's take a short arc."""
    inertia, slope, idle, friction, energy = 4.0, 12.0, 33.0, 15.0, 220.0
    speed, period = 30.0, 0.0
    for _ in range(200):
        top = speed
        bottom = sqrt(top**2 - 2 * energy / inertia)
        level, tau = idle - friction / slope, inertia / slope

        def gone(seconds: float, bottom=bottom, level=level, tau=tau) -> float:
            return level * seconds - (level - bottom) * tau * (1 - exp(-seconds / tau))

        low, high = 0.0, 5.0
        for _ in range(60):
            middle = (low + high) / 2
            low, high = (middle, high) if gone(middle) < 2 * pi else (low, middle)
        period, speed = low, level - (level - bottom) * exp(-low / tau)
    mean = friction + energy / (2 * pi)
    pulse = Pulse(1, 0.05, energy / (2 * pi) / mean)
    made = train(Group((inertia,), ()), lambda w: slope * (idle - w), lambda w: mean, rpm=28 * RPM, pulse=pulse)
    run = run_up(made, Conditions(then="blows"))
    assert run.swing == pytest.approx((top - bottom) / (2 * pi / period), rel=2e-2)
    assert "run.swing" in [finding.code for finding in findings(made, run)]


def test_a_published_punch_press_falls_to_the_speed_its_flywheel_was_chosen_for(monkeypatch):
    """720 holes an hour, each 2 s and 15 kN·m of work, a motor of 3 kW at constant torque, 618 kg at 0.5 m radius of
    gyration: from 225 down to 200 rpm. Source: R. S. Khurmi, Theory of Machines, flywheel in a punching press, from
    memory; there the work of a hole is spread evenly over its 2 s.
    """

    def even(pulse: Pulse, angle: float) -> float:
        return 2 * pi / pulse.arc_rad if angle % (2 * pi) < pulse.arc_rad else 0.0

    monkeypatch.setattr(cases, "pulse_at", even)
    ratio, motor_nm = 212.5 / 12, 3000 / (212.5 / RPM)
    made = train(
        Group((618 * 0.5**2, 1e-3), (Stage(ratio, 1 - 1e-9),)), lambda w: motor_nm, lambda w: 15_000 / (2 * pi),
        rpm=225, pulse=Pulse(1, 0.4 * 2 * pi, 1.0),
    )  # fmt: skip
    runner = Runner(made, Conditions(then="blows"))
    state = runner.at_rest()
    state[0] = 225 / RPM
    runner.share = lambda at, angle: 0.0
    at, state, _ = runner.leg(0.0, state, 1e-6, None)
    runner.share = lambda at, angle: 1.0
    CASES["blows"](runner, at, state)
    first = [n for t, n in zip(runner.run.time_s, runner.run.first_rpm, strict=True) if t < 5]
    assert min(first) == pytest.approx(200, rel=5e-3)
    assert runner.run.swing == pytest.approx(25 / 212.5, rel=0.03)


@pytest.mark.parametrize("pulse", [Pulse(1, 0.4, 0.9), Pulse(3, 1.2, 0.5)])
def test_blows_are_the_same_work_as_the_even_load(pulse):
    steps = 20_000
    assert sum(pulse_at(pulse, 2 * pi * k / steps) for k in range(steps)) / steps == pytest.approx(1.0, rel=1e-3)


def test_a_press_cuts_over_the_arc_of_its_crank():
    """6 mm at 40 mm stroke, half of it cut: from 45.57° to 31.79° before the bottom."""
    sheet = PRESS.model(thickness_mm=6, stroke_mm=40, penetration=0.5)
    assert PRESS.pulse(sheet).arc_rad * 180 / pi == pytest.approx(45.573 - 31.788, abs=0.01)
    assert PRESS.pulse(PRESS.model()) is None
    assert {kind.kind for kind in NEED_KINDS if kind.pulse(kind.model.model_validate(kind.starter)) is not None} == {
        "hammer",
        "press",
    }
    assert pulse_of(None) is None


def test_the_winding_of_a_cycle_that_goes_on_comes_to_the_mean_of_its_losses():
    """A minute at 9 N·m and one at none: what the currents of both give by the square, half and half."""
    motor = Motor(torque_nm=induction, amps_at=METERS.amps_at, rated_a=METERS.amps_a)
    cycle = (Segment(seconds=60, torque_share=1.0), Segment(seconds=60, torque_share=0.0))
    made = replace(train(Group((0.02,), ()), induction, lambda w: 9.0, rpm=1450, cycle=cycle), motor=motor)
    run = run_up(made, Conditions(then="cycle"))
    amps = [METERS.amps_at(CURVE.speed_rpm(torque), 1.0) / METERS.amps_a for torque in (9.0, 0.0)]
    expected = sum(EVEN_LOSS + (1 - EVEN_LOSS) * share**2 for share in amps) / 2
    assert winding_goes_on(made, run) == pytest.approx(expected, rel=5e-3)
    assert "run.winding" in [finding.code for finding in findings(made, run)]
    assert winding_goes_on(made, run_up(made)) is None


def test_the_winding_warms_as_its_two_bodies_do():
    """Against both equations integrated: 1.5 times full load for 20 min, then off for 20."""

    def rates(at, state):
        losses = heating(1.5) if at < 1200 else 0.0
        return [(losses * (1 - OVER_CASE) - state[0]) / CASE_S, (losses * OVER_CASE - state[1]) / WINDING_S]

    first = solve_ivp(rates, (0, 1200), [0, 0], rtol=1e-9, atol=1e-12)
    second = solve_ivp(rates, (1200, 2400), first.y[:, -1], rtol=1e-9, atol=1e-12)
    times = [4.0 * k for k in range(601)]
    heat = winding_heat(times, [1.5 if at <= 1200 else 0.0 for at in times], 1.0)
    assert heat[300] == pytest.approx(first.y[:, -1].sum(), rel=1e-6)
    assert heat[600] == pytest.approx(second.y[:, -1].sum(), rel=1e-6)
    assert mean_heat(times, [1.0] * 601, 1.0, (0.0, 2400.0)) == pytest.approx(1.0)


def test_a_brake_stops_it_as_its_torque_says():
    """J 0.8 at the last shaft, 20 N·m load and a brake of 30 at the first, ratio 2: evenly down in J ω / T."""
    group = Group((0.05, 0.8), (Stage(2.0, 0.999),))
    plain = train(group, induction, lambda w: 20.0, rpm=1450)
    braked = replace(plain, brakes_nm=(30.0, 0.0))
    speeds = []
    for made in (plain, braked):
        run = run_up(made)
        speeds.append(run.when("at_rest") - run.when("power_off"))
    speed = CURVE.speed_rpm(20.0 / 2 / 0.999) / RPM
    inertia = 0.05 + 0.8 / 4
    assert speeds[0] == pytest.approx(inertia * speed / 10.0, rel=0.02)
    slowed = speed - BRAKE_SETS_S * 10.0 / inertia
    assert speeds[1] == pytest.approx(BRAKE_SETS_S + inertia * slowed / 40.0, rel=0.02)
    assert run.braked_j > 0
    assert abs(run.residual_j) < 1e-3 * run.given_j


def direct_current(limit_a: float | None = 40.0) -> DcMotor:
    """36 V, 0.12 Ω, k 0.11 V·s, I_0 1.5 A."""
    return DcMotor(
        volts=36, resistance_ohm=0.12, kv_rpm_v=RPM / 0.11, no_load_a=1.5, driver_limit_a=limit_a, continuous_a=20
    )


def of_direct_current(motor: DcMotor, load: float):
    made = motor_of(Plan(name="A", source=motor), drive_of(motor))
    return replace(train(Group((0.02,), ()), made.torque_nm, lambda w: load, rpm=300 * RPM), motor=made)


def test_a_direct_current_motor_comes_up_by_its_limit_and_then_its_line():
    """Limit until 283.64 rad/s at 2.0741 s, then to 310.76 with 0.19835 s."""
    run = run_up(of_direct_current(direct_current(), 1.5))
    at = next(t for t, n in zip(run.time_s, run.first_rpm, strict=True) if n >= 283.6 * RPM)
    assert at == pytest.approx(2.0741, rel=1e-2)
    off = run.when("power_off")
    steady = next(n for t, n in zip(run.time_s, run.first_rpm, strict=True) if t >= off - 1e-9)
    assert steady == pytest.approx(310.76 * RPM, rel=2e-3)
    assert max(run.amps_a) == pytest.approx(40.0, rel=1e-6)
    assert findings(of_direct_current(direct_current(), 1.5), run) is not None


@pytest.mark.parametrize("volts", [0.9, 0.8])
def test_less_volts_lower_the_speed_of_a_direct_current_motor_by_their_share_of_v_over_k(volts):
    """ω = (V - I R) / k with I = T / k + I_0, the same at any volts."""
    run = run_up(of_direct_current(direct_current(), 1.5), Conditions(volts=volts))
    amps = 1.5 / 0.11 + 1.5
    off = run.when("power_off")
    steady = next(n for t, n in zip(run.time_s, run.first_rpm, strict=True) if t >= off - 1e-9)
    assert steady == pytest.approx((36 * volts - amps * 0.12) / 0.11 * RPM, rel=2e-3)


def test_a_pedal_lets_the_speed_follow_the_volts():
    """Half way along a slow ramp the volts are half: the motor turns at what they give, less its lag."""
    run = run_up(of_direct_current(direct_current(None), 1.5), Conditions(soft_s=20.0))
    at = next(k for k, t in enumerate(run.time_s) if t >= 10.0)
    slope = 36 / 20 / 0.11
    amps = (1.5 + 0.02 * slope) / 0.11 + 1.5
    assert run.first_rpm[at] == pytest.approx((18 * run.time_s[at] / 10 - amps * 0.12) / 0.11 * RPM, rel=5e-3)


def test_an_engine_and_a_person_know_no_volts():
    engine = Engine(power_kw=3.0, speed_rpm=3000, clutch="centrifugal", engages_rpm=1800)
    made = motor_of(Plan(name="A", source=engine), drive_of(engine))
    for volts in (1.0, 0.5):
        assert made.torque(1.0, 280.0, Conditions(volts=volts)) == made.torque_nm(280.0)


@pytest.mark.parametrize("inertia", [None, 0.5, 40.0])
def test_a_person_turns_at_their_pace_and_no_faster(inertia):
    """However light the machine is: full force up to nearly the pace, then what it takes."""
    need = {"running_torque_nm": 60.0, "peak_torque_nm": 60.0, "breakaway_torque_nm": 70.0, "inertia_kgm2": inertia}
    plain = build_machine(need=need)
    plan = plain.plans[0].model_copy(update={"source": HandCrank(speed_rpm=50.0, handle_force_n=120.0)})
    machine = plain.model_copy(update={"plans": (plan,)})
    line = solve_plan(machine, plan).chosen
    run = run_up(drive_train(machine, plan, line))
    at = next(k for k, t in enumerate(run.time_s) if t >= run.when("power_off")) - 1
    assert run.first_rpm[at] == pytest.approx(50.0, rel=5e-3)
    assert run.last_rpm[at] == pytest.approx(line.last_shaft.speed_rpm, rel=5e-3)
    assert max(run.first_rpm) < 1.1 * 50.0
    assert max(run.motor_nm) <= 2 * 120 * 0.35 + 1e-6


def hanging(weight: float, angle_deg: float, friction: float, inertia: float = 32.0, **more):
    made = train(Group((inertia,), ()), induction, lambda w: 200.0, rpm=20, **more)
    return replace(made, hangs=Hanging(weight, angle_deg * pi / 180), hangs_friction_nm=friction)


def test_a_batch_swings_as_a_pendulum_with_friction():
    """J 32, m g r 300, friction 20, from 40°: m g r (cos φ_1 - cos φ_0) = T_f (φ_0 + φ_1): 31.829°.

    The half swing takes 1.0532 s and reaches 18.007 rpm.
    """
    made = hanging(300.0, 40.0, 20.0)
    swung = half_swing(made, made.hangs.angle_rad, 20.0, damping=0.0)
    assert -swung.angles_rad[-1] * 180 / pi == pytest.approx(31.829, rel=1e-4)
    assert swung.times_s[-1] == pytest.approx(1.0532, rel=1e-3)
    assert max(swung.speeds_rad_s) * RPM == pytest.approx(18.007, rel=2e-3)


def test_with_the_power_off_the_raised_batch_swings_to_and_fro_until_friction_holds_it():
    made = hanging(300.0, 40.0, 10.0)
    run = run_up(replace(made, load_nm=lambda w: 190.0, whole=Group((32.0,), ()), motor=Motor(torque_nm=strong)))
    back = next(event for event in run.events if event.what == "swings_back")
    assert 40.0 < back.value < 80.0
    still = run.when("hangs_still")
    turns = [n for t, n in zip(run.time_s, run.last_rpm, strict=True) if back.at_s < t < still]
    assert min(turns) < 0 < max(turns), "to and fro"
    assert turns[len(turns) // 50] < 0, "back first"
    assert [f.severity.value for f in findings(made, run) if f.code == "run.swings_back"] == ["warning"]


def strong(speed: float) -> float:
    return 400.0 if speed < 2 else max(400.0 - 2000 * (speed - 2), -400.0)


def test_a_worm_that_locks_a_brake_or_enough_friction_hold_the_batch():
    made = hanging(300.0, 40.0, 10.0)
    raised = 300.0 * sin(40 * pi / 180)
    assert not holds(made, raised, 10.0)
    assert holds(made, raised, 200.0)
    assert holds(replace(made, brakes_nm=(185.0,)), raised, 10.0)
    locking = replace(made, whole=Group((0.01, 32.0), (Stage(20.0, 0.45),)))
    assert holds(locking, raised, 10.0)
    geared = replace(made, whole=Group((0.01, 32.0), (Stage(20.0, 0.9),)), brakes_nm=(8.0, 0.0))
    assert not holds(geared, raised, 10.0)
    assert holds(replace(geared, brakes_nm=(9.5, 0.0)), raised, 10.0)


def test_the_demo_drum_hangs_its_batch_and_is_held_or_swings():
    machine = demo_machines()[4]
    plan = machine.plans[0]
    made = drive_train(machine, plan, solve_plan(machine, plan).chosen)
    lift = made.hangs.weight_nm * sin(made.hangs.angle_rad)
    assert lift + made.hangs_friction_nm == pytest.approx(machine.need.running_torque_nm, rel=2e-2)
    assert hangs_in(None) is None
    told = {event.what for event in run_up(made).events}
    assert ("swings_back" in told) is not holds(made, lift, made.hangs_friction_nm)


@pytest.mark.long
def test_at_speed_it_turns_as_the_line_was_solved_creep_and_all():
    """Every demo plan, to a fifth of a percent: load and motor meet where the line says."""
    for machine, plan in PLANS:
        line = solve_plan(machine, plan)
        if line is None or not plan.links:
            continue
        made, chosen = drive_train(machine, plan, line.chosen), line.chosen
        run = run_up(made)
        off = run.when("power_off")
        speed = next(n for t, n in zip(run.time_s, run.last_rpm, strict=True) if t >= off - 1e-9)
        assert made.whole.ratio == pytest.approx(chosen.shafts[0].speed_rpm / chosen.last_shaft.speed_rpm)
        assert speed == pytest.approx(run.first_rpm[run.last_rpm.index(speed)] / made.whole.ratio)
        assert speed == pytest.approx(chosen.last_shaft.speed_rpm, rel=2e-3), (machine.name, plan.name)


def test_a_relay_trips_where_its_curve_says_while_the_motor_stalls():
    """A rotor that is held draws 5.1 times the plate's: from cold t = 387 ln(x² / (x² - 1.3225)) = 20.2 s."""
    motor = Motor(torque_nm=induction, amps_at=METERS.amps_at, rated_a=METERS.amps_a)
    held = replace(train(Group((0.02,), ()), induction, lambda w: 90.0, rpm=1450), motor=motor)
    times = METERS.amps_at(0.0, 1.0) / METERS.amps_a
    expected = 387.0 * log(times**2 / (times**2 - 1.3225))
    assert run_up(held).when("relay_trips") == pytest.approx(expected, rel=2e-2)
    assert run_up(replace(held, load_nm=lambda w: 5.0)).when("relay_trips") is None


def test_a_case_warms_by_what_its_stage_loses_of_the_mean_power():
    """Heat over what the case sheds; the mean power worked out anew, by the samples of the cycle alone."""
    machine = demo_machines()[4]
    plan = machine.plans[0]
    line = solve_plan(machine, plan).chosen
    made = replace(drive_train(machine, plan, line), cycle=UP_AND_DOWN[:2])
    run = run_up(made, Conditions(then="cycle"))
    ((stage, rise),) = cases_go_on(line, run)
    began, off = run.when("cycle"), run.when("power_off")
    inside = [k for k, t in enumerate(run.time_s) if began <= t <= off]
    watts = [run.first_rpm[k] / RPM * run.motor_nm[k] for k in inside]
    mean = np.trapezoid(watts, [run.time_s[k] for k in inside]) / (off - began)
    lost = mean * line.links[0].efficiency * (1 - line.links[1].efficiency)
    case = line.links[1].transmission.observed(line.links[1]).case
    assert stage == 2
    assert rise == pytest.approx(lost / case.w_per_k, rel=1e-3)
    assert [*cases_go_on(line, run_up(made))] == []


def test_the_torque_for_an_acceleration_is_the_acceleration_of_that_torque_turned_round():
    """J_m 0.0035, 2.8 at 0.95 to 0.02 kg·m², 15 at 0.96, 2 at 0.97 to 40: 15 N·m against 250 give 923.95 rad/s²."""
    group = Group((0.0035, 0.02, 0.0, 40.0), (Stage(2.8, 0.95), Stage(15.0, 0.96), Stage(2.0, 0.97)))
    assert group.motion(15.0, 250.0, 10.0).acceleration == pytest.approx(923.95, rel=1e-4)
    assert group.needed_nm(250.0, 923.95) == pytest.approx(15.0, rel=1e-4)
    assert group.needed_nm(-250.0, 240.13) == pytest.approx(0.0, abs=1e-3)


def test_a_move_takes_what_its_mass_gravity_and_friction_take():
    """90° in 0.9 s, a third each: J 0.5 straight on the motor; gravity 4 N·m at level, by the cosine; 1 N·m rub."""
    move = Move(pi / 2, 0.9, 0.3, 0.6, lambda gone: 4.0 * cos(gone), 1.0)
    made = replace(train(Group((0.5,), ()), lambda w: 30.0, lambda w: 0.0, rpm=100), move=move, rated_nm=6.0)
    run = run_up(made, Conditions(then="move"))
    peak = pi / 2 / 0.6
    thrust = 0.5 * peak / 0.3
    assert max(run.last_rpm) == pytest.approx(peak * RPM, rel=1e-6)
    assert run.motor_nm[0] == pytest.approx(thrust + 4.0 + 1.0)
    assert run.followed.worst == pytest.approx((thrust + 5.0) / 30.0)
    assert run.motor_nm[-1] == pytest.approx(4.0 * cos(pi / 2), abs=1e-9)

    def torque(at: float) -> float:
        if at < 0.3:
            return thrust + 4 * cos(peak / 0.3 * at**2 / 2) + 1
        if at < 0.6:
            return 4 * cos(peak * (at - 0.15)) + 1
        left = 0.9 - at
        return -thrust + 4 * cos(pi / 2 - peak / 0.3 * left**2 / 2) + 1 if at < 0.9 else 0.0

    squares = sum(quad(lambda t: torque(t) ** 2, a, b)[0] for a, b in ((0, 0.3), (0.3, 0.6), (0.6, 0.9)))
    assert run.followed.rms_nm == pytest.approx(sqrt(squares / 1.5), rel=2e-3)
    found = {finding.code: finding.severity.value for finding in findings(made, run)}
    assert found == {"run.follows": "clear", "run.move_heat": "clear"}
    weak = replace(made, motor=Motor(torque_nm=lambda w: 6.0), rated_nm=2.0)
    run = run_up(weak, Conditions(then="move"))
    assert run.when("falls_behind") is not None
    assert {finding.severity.value for finding in findings(weak, run)} == {"error"}


def test_only_an_axis_whose_move_is_known_is_made_to_follow():
    known = AXIS.model(move_deg=90, move_s=0.9, accelerating=0.3, mass_kg=2, mass_radius_mm=100, start_deg=60)
    move = move_of(known)
    assert (move.rising_s, move.angle_rad) == (pytest.approx(0.27), pytest.approx(pi / 2))
    assert move.gravity_nm(pi / 6) == pytest.approx(0.0, abs=1e-9)
    assert move_of(AXIS.model()) is None
    assert move_of(None) is None


@pytest.mark.long
def test_a_cycle_that_changes_faster_than_can_be_followed_is_cut_short_and_said():
    """A belt that lets go at every stretch of a cycle of a thousandth of a second, at ten thousand times the load."""
    made = train(
        Group((0.02, 0.5), (Stage(2.0, 0.95),)),
        induction, lambda w: 6.0, rpm=1460, contacts=(Contact(0, "slips", 12.0),),
        cycle=tuple(Segment(seconds=0.001, torque_share=10_000 * way) for way in (1, -1)),
    )  # fmt: skip
    runner = Runner(made, Conditions(then="cycle"))
    run = run_up(made, Conditions(then="cycle"))
    assert run.time_s[-1] < 120
    runner.worked = MAX_WORK
    assert runner.leg(0.0, runner.at_rest(), 5.0, None)[0] == 0.0
    assert runner.run.when("chatters") == 0.0
    assert not runner.came_up
