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
from pulltide.core.shipped import shipped_catalog
from pulltide.demo import demo_machines
from pulltide.services.correcting import corrected, correction_report, effects, take_over
from pulltide.services.documents import loaded
from pulltide.services.need_edits import choose_worksheet

TROMMEL = next(machine for machine in demo_machines() if "trommel" in machine.name)
PLAN = TROMMEL.plans[0]
READ = (("watts", "shaft-1"), ("amps", "shaft-1"), ("speed", "shaft-1"), ("strum", "link-1"), ("breakaway", "shaft-4"))


def read_from(off: dict[str, float], seed: int, what=READ, **page) -> Machine:
    """The trommel with one page of readings, drawn from a machine with something off, with each instrument's noise."""
    dice = random.Random(seed)
    bare = TROMMEL.model_copy(update={"log": TROMMEL.log.model_copy(update={"visits": ()})})
    running = running_of(bare, PLAN, solve_plan(bare, PLAN).chosen)
    told = running.predict(off)
    readings = [
        {"kind": kind, "at": at, "value": dice.gauss(told[key], usual(kind, told[key]).sigma(told[key]))}
        for key in told
        for kind, at in (key,)
        if key in what
    ]
    visit = {"load": "full", "healthy": True, "line": line_kinds(PLAN), "readings": readings, "hours": 12.0} | page
    return bare.model_copy(update={"log": bare.log.model_copy(update={"visits": (Visit.model_validate(visit),)})})


def found_in(machine: Machine) -> dict[tuple[str, str], object]:
    return {(one.what, one.at): one for one in corrections(machine, 0, 0)}


def test_load_and_tension_come_out_as_they_are():
    """Of 60 machines 20 % heavier loaded, with a belt at three quarters: inside two sigma in at least 9 of 10."""
    inside = {"load": 0, "tension": 0}
    for seed in range(60):
        found = found_in(read_from({"load": 1.2, "tension@1": 0.75}, seed))
        load, tension = found["load", ""], found["tension", "link-1"]
        inside["load"] += abs(load.measured - 1.2 * load.planned) <= load.half
        inside["tension"] += abs(tension.measured - 0.75 * tension.planned) <= tension.half
    assert min(inside.values()) >= 54, inside


def test_what_no_reading_tells_is_not_corrected():
    only_strum = found_in(read_from({}, 1, what=(("strum", "link-1"),)))
    assert set(only_strum) == {("tension", "link-1")}
    assert found_in(read_from({}, 1, what=())) == {}


@pytest.mark.parametrize("page", [{"healthy": False}, {"load": "none"}, {"load": "unknown"}, {"line": "v_belt"}])
def test_only_a_page_of_this_line_in_good_order_under_load_corrects(page):
    assert corrections(read_from({"load": 1.2}, 3, **page), 0, 0) == ()


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
