"""How a machine begins: plausible values that are marked until they are a person's own."""

from __future__ import annotations

import pytest

from pulltide.core.errors import InputErrors
from pulltide.core.findings import Severity
from pulltide.core.line import solve_plan
from pulltide.core.machine import Plan
from pulltide.core.needs import NEED_KINDS
from pulltide.core.shipped import shipped_catalog
from pulltide.core.sources.stock import SOURCE
from pulltide.quantities import Units
from pulltide.services.beginning import begun
from pulltide.services.change import Change
from pulltide.services.editing import apply_change

STARTED = [kind for kind in NEED_KINDS if kind.starter]


@pytest.mark.parametrize("kind", STARTED, ids=lambda kind: kind.kind)
def test_a_starter_gives_a_whole_first_picture_and_marks_what_is_not_the_persons(kind):
    machine = begun("", kind.kind, "know", (), Units())
    need = machine.need
    assert machine.name == kind.title
    assert need.running_torque_nm > 0
    assert need.aimed_rpm > 0
    assert set(need.worksheet.assumed) == set(kind.starter)
    assert need.running_torque_low_nm <= need.running_torque_nm <= need.running_torque_high_nm


def test_only_what_stands_still_to_be_built_has_starting_values():
    assert begun("", "drum", "wrong", ("slips", "gets hot"), Units()).note == "What is wrong: slips, gets hot."
    assert begun("", "drum", "wrong", (), Units()).need.worksheet.assumed == ()
    assert begun("", "drum", "wrong", (), Units()).need.running_torque_nm is None
    assert begun("Mine", "", "know", (), Units()).name == "Mine"
    with pytest.raises(InputErrors):
        begun("", "spaceship", "know", (), Units())


def test_what_a_person_enters_is_theirs_and_the_rest_is_said():
    machine = begun("", "drum", "know", (), Units())
    before = machine.need.worksheet.assumed
    machine, _ = apply_change(machine, Change(sets={"need.worksheet.length_mm": "2 m"}), Units())
    assert set(before) - set(machine.need.worksheet.assumed) == {"length_mm"}
    motor = next(item.data for item in shipped_catalog().of(SOURCE) if item.id.startswith("M"))
    plan = Plan(source=motor)
    told = {finding.code: finding for finding in solve_plan(machine, plan).findings}
    assert told["need.assumed"].severity is Severity.NOTE
    machine, _ = apply_change(machine, Change(operation="take_as_own"), Units())
    assert machine.need.worksheet.assumed == ()
    assert "need.assumed" not in {finding.code for finding in solve_plan(machine, plan).findings}


def test_starting_values_never_replace_an_entry_and_travel_with_their_sheet():
    machine = begun("", "drum", "wrong", (), Units())
    machine, _ = apply_change(
        machine, Change(sets={"need.worksheet.length_mm": "1 m", "need.worksheet.fill": "0.3"}), Units()
    )
    machine, _ = apply_change(machine, Change(operation="fill_typical"), Units())
    assert machine.need.worksheet.length_mm == 1000
    assert machine.need.worksheet.fill == 0.3, "as its default, and still an entry"
    assert "inside_diameter_mm" in machine.need.worksheet.assumed
    assert not {"length_mm", "fill"} & set(machine.need.worksheet.assumed)
    away, _ = apply_change(machine, Change(operation="choose_worksheet", kind="hoist"), Units())
    back, _ = apply_change(away, Change(operation="choose_worksheet", kind="drum"), Units())
    assert back.need.worksheet == machine.need.worksheet


def test_a_found_drive_takes_the_place_of_a_plan_that_nothing_is_in():
    machine = begun("", "drum", "know", (), Units())
    found = Plan(name="Belt and chain").model_dump_json()
    taken, _ = apply_change(machine, Change(operation="add_plan", part=found), Units())
    assert [plan.name for plan in taken.plans] == ["Belt and chain"]
