"""A plan corrected by readings: drawn from a machine whose load and tension are known to be other than planned."""

from __future__ import annotations

import random

import pytest

from pulltide.core.line import solve_plan
from pulltide.core.machine import Machine
from pulltide.core.need import FIGURES, Need
from pulltide.core.run_log.corrected import corrections
from pulltide.core.run_log.instruments import usual
from pulltide.core.run_log.judging import line_kinds, page_of
from pulltide.core.run_log.log import Visit
from pulltide.core.run_log.of_line import running_of
from pulltide.core.run_up.cases import run_up
from pulltide.core.run_up.drive_train import drive_train
from pulltide.core.shafts import ShaftPart
from pulltide.core.shipped import shipped_catalog
from pulltide.demo import demo_machines
from pulltide.services.correcting import corrected, correction_report, effects, offered, take_over
from pulltide.services.documents import loaded
from pulltide.services.need_edits import choose_worksheet

TROMMEL = next(machine for machine in demo_machines() if "trommel" in machine.name)
PLAN = TROMMEL.plans[0]
READ = (("watts", "shaft-1"), ("amps", "shaft-1"), ("speed", "shaft-1"), ("strum", "link-1"), ("breakaway", "shaft-4"))


def read_from(off: dict[str, float], seed: int, what=READ, of=(TROMMEL, 0), **page) -> Machine:
    """A machine with one page of readings, drawn from one with something off, with each instrument's noise."""
    dice, (machine, index) = random.Random(seed), of
    bare, plan = machine.model_copy(update={"log": machine.log.model_copy(update={"visits": ()})}), machine.plans[index]
    running = running_of(bare, plan, solve_plan(bare, plan).chosen)
    told = running.predict(off)
    readings = [
        {"kind": kind, "at": at, "value": dice.gauss(told[key], usual(kind, told[key]).sigma(told[key]))}
        for key in told
        for kind, at in (key,)
        if key in what
    ]
    visit = {"load": "full", "healthy": True, "line": line_kinds(plan), "readings": readings, "hours": 12.0} | page
    return bare.model_copy(update={"log": bare.log.model_copy(update={"visits": (Visit.model_validate(visit),)})})


def found_in(machine: Machine) -> dict[tuple[str, str], object]:
    return {(one.what, one.at): one for one in corrections(machine, 0, 0)}


@pytest.mark.long
def test_load_and_tension_come_out_as_they_are():
    """Of 60 machines 20 % heavier loaded, with a belt at three quarters: inside two sigma in at least 9 of 10."""
    inside = {"load": 0, "tension": 0}
    for seed in range(60):
        found = found_in(read_from({"load": 1.2, "tension@1": 0.75}, seed))
        load, tension = found["load", ""], found["tension", "link-1"]
        inside["load"] += abs(load.measured - 1.2 * load.planned) <= load.half
        inside["tension"] += abs(tension.measured - 0.75 * tension.planned) <= tension.half
    assert min(inside.values()) >= 54, inside


@pytest.mark.long
@pytest.mark.parametrize("tension", [0.15, 0.25, 0.5, 2.0, 4.0])
def test_a_tension_far_from_the_plan_s_is_read_as_it_is(tension):
    """A span's pitch goes with the root of its tension: straight slopes would find none at all at half the pitch."""
    found = found_in(read_from({"tension@1": tension}, 5, what=(("strum", "link-1"),)))["tension", "link-1"]
    assert found.factor == pytest.approx(tension, rel=0.15)
    assert abs(found.measured - tension * found.planned) <= 1.5 * found.half


def test_a_load_twice_that_of_the_plan_is_read_as_it_is():
    found = found_in(read_from({"load": 2.0}, 5))["load", ""]
    assert found.factor == pytest.approx(2.0, rel=0.1)


@pytest.mark.long
def test_readings_of_quite_another_machine_in_good_order_fail_nothing():
    off = {"load": 0.002, "tension@1": 0.0005}
    machine = read_from(off, 5)
    page_of(machine, 0, 0)
    corrections(machine, 0, 0)
    visits = machine.log.visits * 2
    again = machine.model_copy(update={"log": machine.log.model_copy(update={"visits": visits})})
    assert page_of(again, 0, 1).learned


def test_what_no_reading_tells_is_not_corrected():
    only_strum = found_in(read_from({}, 1, what=(("strum", "link-1"),)))
    assert set(only_strum) == {("tension", "link-1")}
    assert found_in(read_from({}, 1, what=())) == {}


@pytest.mark.parametrize("page", [{"healthy": False}, {"load": "unknown"}, {"line": "v_belt"}])
def test_only_a_page_of_this_line_in_good_order_at_a_known_load_corrects(page):
    assert corrections(read_from({"load": 1.2}, 3, **page), 0, 0) == ()


@pytest.mark.long
def test_without_load_nothing_of_the_load_is_corrected():
    assert set(found_in(read_from({"coasting": 0.5}, 3, what=(RUN_DOWN,), load="none"))) == {("friction", "shaft-1")}


RUN_DOWN, CASE = ("run_down", "shaft-1"), ("gear_case", "link-2")
BEARING = ("bearing", "shaft-2")
HAMMER = next(machine for machine in demo_machines() if "hammer" in machine.name)


@pytest.mark.long
def test_a_short_run_down_is_friction_and_a_warm_case_is_loss_as_they_are():
    """Of 20 machines that rub twice as much, run-down read to a tenth: inside two sigma in at least 9 of 10."""
    inside = 0
    for seed in range(20):
        friction = found_in(read_from({"coasting": 0.5}, seed, what=(RUN_DOWN,)))["friction", "shaft-1"]
        inside += abs(friction.measured - 2 * friction.planned) <= friction.half
    assert inside >= 18
    warm = found_in(read_from({"loss@2": 1.8}, 1, what=(*READ, CASE), air_c=0.0))["loss", "link-2"]
    assert warm.measured > 1.3 * warm.planned
    assert abs(warm.measured - 1.8 * warm.planned) <= 1.5 * warm.half


@pytest.mark.long
def test_a_hot_bearing_is_friction_of_its_shaft():
    """The jackshaft of the hammer, twice as much drag as grease should have."""
    dry = {(one.what, one.at): one for one in corrections(
        read_from({"bearing_times@2": 2.0}, 1, what=(BEARING,), of=(HAMMER, 1), air_c=0.0), 1, 0)}  # fmt: skip
    found = dry["friction", "shaft-2"]
    assert abs(found.measured - 2 * found.planned) <= 1.5 * found.half
    assert found.measured > 1.4 * found.planned


def test_what_is_very_likely_a_fault_is_mended_and_not_planned_with():
    """A case that warms by far too much: the diagnosis names a fault, and no loss is taken into the plan."""
    machine = read_from({"loss@2": 3.5}, 1, what=(*READ, CASE), air_c=0.0)
    first = page_of(machine, 0, 0).diagnosis
    assert first.is_certain
    assert first.first.code != "nothing_wrong"
    assert not {what for what, _ in found_in(machine)} & {"friction", "loss"}


def test_what_runs_easier_than_reckoned_is_never_credited():
    """Less friction than planned could hide another fault: the plan stays on the careful side."""
    easy = read_from({"coasting": 2.0, "loss@2": 0.5}, 2, what=(RUN_DOWN, CASE), air_c=0.0)
    assert not {what for what, _ in found_in(easy)} & {"friction", "loss"}


@pytest.mark.long
def test_friction_and_loss_stand_at_their_shafts_and_load_the_motor():
    machine = read_from({"coasting": 0.65, "loss@2": 1.6}, 4, what=(*READ, RUN_DOWN, CASE), air_c=0.0)
    found, after = found_in(machine), corrected(machine, 0, 0)
    friction, loss = found["friction", "shaft-1"], found["loss", "link-2"]
    parts = {part.shaft: part for part in after.plans[0].shafts}
    assert parts[1].drag_nm == pytest.approx(friction.measured - friction.planned, rel=1e-3)
    assert parts[2].loss_nm == pytest.approx(loss.measured - loss.planned, rel=1e-3)
    line = solve_plan(after, after.plans[0]).chosen
    assert line.dragged_nm == pytest.approx((parts[1].drag_nm, parts[2].loss_nm, 0, 0))
    last = line.last_shaft
    useful = (line.need_torques_nm[0] * last.speed_rpm) / (line.shafts[0].running_torque_nm * line.shafts[0].speed_rpm)
    assert line.efficiency == pytest.approx(useful, rel=1e-6), "friction is no use"
    assert {(one.what, one.at) for one in after.log.taken} >= {("friction", "shaft-1"), ("loss", "link-2")}
    again = found_in(after)
    for key in (("friction", "shaft-1"), ("loss", "link-2")):
        if key in again:
            assert again[key].factor == pytest.approx(1.0, abs=0.3), "most of it is in the plan by now"
    assert loaded(after.model_dump(mode="json")) == after
    once_more = {(one.what, one.at) for one in offered(after, 0, 0)}
    assert not once_more & {("friction", "shaft-1"), ("loss", "link-2")}, "what is added is added once"
    assert ("load", "") in once_more


def test_a_measured_friction_makes_the_run_down_shorter():
    """2 N·m of friction on the motor's shaft: the whole drive stops sooner, and its energy still balances."""
    rubbing = PLAN.model_copy(update={"shafts": (*PLAN.shafts, ShaftPart(shaft=1, drag_nm=2.0))})
    times = []
    for plan in (PLAN, rubbing):
        made = drive_train(TROMMEL, plan, solve_plan(TROMMEL, plan).chosen)
        run = run_up(made)
        assert abs(run.residual_j) < 1e-3 * run.given_j
        times.append(next(event.value for event in run.events if event.what == "at_rest"))
    assert times[1] < 0.9 * times[0]


@pytest.mark.long
def test_taken_over_the_plan_says_what_was_read_and_the_log_keeps_what_was():
    machine = read_from({"load": 1.2, "tension@1": 0.75}, 5)
    after = corrected(machine, 0, 0)
    load = found_in(machine)["load", ""]
    assert after.need.running_torque_nm == pytest.approx(load.measured, rel=1e-3)
    assert after.need.peak_torque_nm == pytest.approx(machine.need.peak_torque_nm * load.factor, rel=1e-3)
    assert after.need.speed_ideal_rpm == machine.need.speed_ideal_rpm
    assert after.need.worksheet == machine.need.worksheet, "the worksheet stays, with what was measured beside it"
    assert after.need.running_torque_low_nm == pytest.approx(load.measured - load.half, rel=1e-3)
    taken = {(one.what, one.at): one for one in after.log.taken}
    assert taken["load", ""].was == pytest.approx(machine.need.running_torque_nm, rel=1e-3)
    assert loaded(after.model_dump(mode="json")) == after
    again = {one.what: one for one in corrections(after, 0, 0)}
    assert again["load"].factor == pytest.approx(1.0, abs=0.03), "nothing is left to correct"
    judged = {(one.what, one.at): one.state for one in page_of(after, 0, 0).judged}
    assert set(judged.values()) == {"clear"}


def test_without_a_worksheet_the_entries_themselves_are_corrected():
    machine = read_from({"load": 1.1}, 7)
    figures = {name: getattr(machine.need, name) for name in sorted(FIGURES)}
    plain = machine.model_copy(update={"need": Need(last_shaft="Drum", **figures)})
    after = corrected(plain, 0, 0)
    load = found_in(plain)["load", ""]
    assert after.need.measured_torque_nm is None
    assert after.need.running_torque_nm == pytest.approx(load.measured, rel=1e-3)
    assert after.need.speed_ideal_rpm == machine.need.speed_ideal_rpm


def test_another_worksheet_lets_what_was_measured_go():
    document = corrected(read_from({"load": 1.2}, 5), 0, 0).model_dump(mode="json")
    assert document["need"]["measured_torque_nm"] is not None
    choose_worksheet(document["need"], "fan")
    assert document["need"]["measured_torque_nm"] is None


def test_every_plan_is_shown_before_and_after_as_it_is_solved():
    machine = read_from({"load": 1.3}, 9)
    after, catalog = corrected(machine, 0, 0), shipped_catalog()
    shown = effects(machine, after, catalog)
    assert [one.before.plan.name for one in shown] == [plan.name for plan in machine.plans]
    for one, plan in zip(shown, after.plans, strict=True):
        line = solve_plan(after, plan, catalog=catalog).chosen
        assert one.after.motor_load == line.motor_load
        assert one.after.motor_load > one.before.motor_load
    report = correction_report(machine, 0, 0, catalog)
    assert "load" in {one["what"] for one in report["corrections"]}
    assert report["changes"][1]["after"]["motor_load"] == shown[1].after.motor_load


def test_a_page_that_corrects_nothing_is_refused_and_changes_nothing():
    from pulltide.core.errors import InputErrors

    document = read_from({}, 2, healthy=False).model_dump(mode="json")
    before = str(document)
    with pytest.raises(InputErrors, match="correct nothing"):
        take_over(document, 0, 0)
    with pytest.raises(InputErrors, match="Page: 9"):
        take_over(document, 0, 8)
    assert str(document) == before
