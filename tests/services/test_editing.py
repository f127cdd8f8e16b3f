"""Changes to a machine: what they give, what they refuse, and in which words."""

from __future__ import annotations

import json

import pytest

from builders import build_belt, build_machine
from pulltide.core.errors import InputErrors
from pulltide.core.line import solve_plan
from pulltide.core.machine import Machine
from pulltide.quantities import Units
from pulltide.services.change import Change
from pulltide.services.editing import apply_change, text_at
from pulltide.services.fields import describe
from pulltide.services.operations import MAX_PLANS
from pulltide.services.raw_machines import read_machine

INCH_UNITS = Units(length="in")
BELT = "plans.0.links.0"


def change(machine: Machine, units: Units = INCH_UNITS, **kinds) -> Machine:
    return apply_change(machine, Change(**kinds), units)[0]


def refused(machine: Machine, **kinds) -> InputErrors:
    with pytest.raises(InputErrors) as caught:
        change(machine, **kinds)
    return caught.value


def test_a_value_is_read_in_the_persons_unit():
    machine = change(build_machine(), sets={f"{BELT}.steps.0.driver_diameter_mm": "4"})
    assert machine.plans[0].links[0].steps[0].driver_diameter_mm == pytest.approx(101.6)


def test_an_emptied_value_is_unknown_again():
    assert change(build_machine(), sets={"need.peak_torque_nm": ""}).need.peak_torque_nm is None


@pytest.mark.parametrize(
    ("path", "text", "words"),
    [
        (f"{BELT}.steps.0.driver_diameter_mm", "400 in", ["Driver diameter", "400 in", "out of range", "59.0551 in"]),
        (f"{BELT}.belts", "2.5", ["Number of belts", "whole number", "1 to 6"]),
        (f"{BELT}.belt", "A999", ["Belt", "A999", "no belt is made in", "20 m"]),
        (f"{BELT}.section", "Q", ["Section", "Q", "not offered", "3L, 4L, 5L, A, AX, B"]),
        ("need.running_torque_nm", "two", ["Running torque", "two", "torque in N·m"]),
        ("plans.0.source.speed_rpm", "3690", ["3690", "3600 rpm"]),
        ("plans.0.links.1.designation", "PW-3 16:1", ["Reducer", "PW-3 15:1"]),
        ("need.speed_min_rpm", "500", ["slowest useful speed is above ideal speed"]),
        ("name", "", ["Machine", "is empty"]),
        ("no.such.field", "1", ["not a field"]),
        ("plans.9.name", "x", ["not a field"]),
    ],
)
def test_a_bad_value_is_refused_with_field_value_and_range(path: str, text: str, words: list[str]):
    sentence = str(refused(build_machine(), sets={path: text}))
    for word in words:
        assert word in sentence, sentence


def test_a_section_change_takes_the_nearest_belt_of_that_section():
    before = build_machine()
    after = change(before, sets={f"{BELT}.section": "B"}).plans[0].links[0]
    assert after.section == "B"
    assert after.belt.startswith("B")


def test_an_own_reducer_starts_from_the_unit_it_replaces():
    machine = change(build_machine(), sets={"plans.0.links.1.designation": "own"})
    assert machine.plans[0].links[1].own.ratio == 15
    back = change(machine, sets={"plans.0.links.1.designation": "PW-6 20:1"})
    assert back.plans[0].links[1].own is None


def test_links_are_added_moved_exchanged_and_removed():
    machine = change(build_machine(), operation="add_link", index=1, kind="roller_chain")
    assert [link.kind for link in machine.plans[0].links] == ["v_belt", "roller_chain", "reducer", "roller_chain"]
    machine = change(machine, operation="move_link", index=1, kind="later")
    assert [link.kind for link in machine.plans[0].links][1:3] == ["reducer", "roller_chain"]
    machine = change(machine, operation="swap_link", index=2, kind="v_belt")
    machine = change(machine, operation="remove_link", index=0)
    assert [link.kind for link in machine.plans[0].links] == ["reducer", "v_belt", "roller_chain"]
    assert "does not exist" in str(refused(machine, operation="remove_link", index=7))
    assert "not known" in str(refused(machine, operation="add_link", kind="magnet"))
    assert "not known" in str(refused(machine, operation="explode"))


def test_steps_are_added_and_the_chosen_one_always_exists():
    machine = change(build_machine(), operation="add_step", index=0)
    machine = change(machine, sets={f"{BELT}.chosen_step": "2"})
    machine = change(machine, operation="remove_step", index=0)
    assert machine.plans[0].links[0].chosen_step == 1


def test_limits_on_links_and_plans():
    machine = build_machine()
    for _ in range(5):
        machine = change(machine, operation="add_link", index=0, kind="roller_chain")
    assert "up to 8" in str(refused(machine, operation="add_link", index=0, kind="roller_chain"))
    assert "only one" in str(refused(machine, operation="remove_plan"))
    machine = change(machine, operation="duplicate_plan")
    assert [plan.name for plan in machine.plans] == ["Plan A", "Plan B"]
    assert len(change(machine, operation="remove_plan", plan=1).plans) == 1


def test_a_file_may_hold_quantities_with_units_and_every_fault_is_named():
    raw = build_machine().model_dump(mode="json")
    raw["need"]["running_torque_nm"] = "90 ft-lb"
    assert read_machine(raw, Units()).need.running_torque_nm == pytest.approx(122.02, rel=1e-4)
    raw["need"]["running_torque_nm"] = "90 furlong"
    raw["plans"][0]["links"][0]["belts"] = 99
    raw["surprise"] = 1
    with pytest.raises(InputErrors) as caught:
        read_machine(raw, Units())
    assert {error.path for error in caught.value.errors} == {
        "need.running_torque_nm",
        "plans.0.links.0.belts",
        "surprise",
    }


@pytest.mark.parametrize(
    "raw",
    [
        None,
        [],
        3,
        "x",
        {},
        {"name": "x", "format_version": 99},
        {"name": "x", "plans": []},
        {"name": "x", "plans": [{"links": [{"kind": "magnet"}]}]},
    ],
)
def test_what_is_no_machine_is_refused(raw: object):
    with pytest.raises(InputErrors):
        read_machine(raw, Units())


def test_fields_are_described_once():
    document = json.loads(build_machine().model_dump_json())
    described = describe(document, f"{BELT}.steps.0.driver_diameter_mm")
    assert (described.kind, described.unit, described.low, described.high) == ("quantity", "mm", 20, 1500)
    assert describe(document, "duty.shock").choices == ("uniform", "light", "moderate", "heavy")


def test_what_is_known_of_a_shaft_follows_it_when_links_come_and_go():
    """The reducer's output shaft keeps its size through a link added before it and removed again; its end drops it."""
    machine = change(build_machine(), operation="add_shaft", index=2)
    machine = change(machine, sets={"plans.0.shafts.0.diameter_mm": "30 mm"})
    assert machine.plans[0].shaft_part(3).diameter_mm == 30
    longer = change(machine, operation="add_link", index=0, kind="coupling")
    assert longer.plans[0].shaft_part(4).diameter_mm == 30
    again = change(longer, operation="remove_link", index=0)
    assert again.plans[0].shaft_part(3).diameter_mm == 30
    assert change(again, operation="remove_link", index=1).plans[0].shafts == ()
    assert change(again, operation="remove_shaft", index=2).plans[0].shafts == ()


def test_a_shaft_that_is_not_there_cannot_be_described():
    assert "1 to 4" in str(refused(build_machine(), operation="add_shaft", index=7))


def test_an_end_is_put_on_and_taken_off():
    machine = change(build_machine(), operation="choose_end", kind="screw")
    assert machine.need.end.kind == "screw"
    assert change(machine, sets={"need.end.lead_mm": "5 mm"}).need.end.lead_mm == 5
    assert "0.007875 in to 7.874 in" in str(refused(machine, sets={"need.end.lead_mm": "0"}))
    assert change(machine, operation="choose_end", kind="nothing").need.end is None
    assert "drum, screw" in str(refused(machine, operation="choose_end", kind="catapult"))


@pytest.mark.parametrize(
    ("kind", "field", "typed", "follows"),
    [
        ("planetary", "sun_teeth", "18", {"ring_teeth": 66, "planet_teeth": 24}),
        ("planetary", "planet_teeth", "30", {"ring_teeth": 84}),
        ("planetary", "ring_teeth", "80", {"planet_teeth": 28}),
        ("strain_wave", "cup_teeth", "160", {"ring_teeth": 162}),
        ("strain_wave", "lobes", "3", {"ring_teeth": 203}),
        ("gear_pair", "idlers", "1", {"idler_teeth": 20}),
        ("v_belt", "idler", "slack_strand_outside", {"idler_diameter_mm": 105.0}),
    ],
)
def test_what_is_typed_in_a_form_takes_its_neighbors_along(kind: str, field: str, typed: str, follows: dict):
    """Forms send text: the rest of a link follows it just as it follows a number."""
    unknown = {"speed_min_rpm": None, "speed_ideal_rpm": None, "speed_max_rpm": None}
    machine = change(build_machine(links=[], need=unknown), operation="add_link", kind=kind)
    link = change(machine, sets={f"plans.0.links.0.{field}": typed}).plans[0].links[0]
    assert {name: getattr(link, name) for name in follows} == follows


def test_a_change_is_called_by_what_it_changed():
    machine = build_machine()
    one = apply_change(machine, Change(sets={"name": "Mill"}), INCH_UNITS)[1]
    two = apply_change(machine, Change(sets={"name": "Mill", "note": "oak"}), INCH_UNITS)[1]
    assert (one, two) == ("Machine changed", "2 values changed")
    assert apply_change(machine, Change(operation="add_link", kind="coupling"), INCH_UNITS)[1] == "Stage added"


def test_a_fault_of_several_fields_is_told_in_a_persons_units():
    """What a record finds about itself is written once, and put into units where it is said."""
    bevel = {"kind": "bevel_pair", "module_mm": 3, "driver_teeth": 20, "driven_teeth": 40, "face_width_mm": 18}
    machine = build_machine(links=[bevel])
    sentence = str(refused(machine, sets={"plans.0.links.0.face_width_mm": "4 in"}))
    assert "the face is nearly as long as the cone, 2.641 in" in sentence
    room = {"plans.0.room.height_low_mm": "60 in", "plans.0.room.height_high_mm": "1 m"}
    assert "at least 60 in is more than at most 39.37 in" in str(refused(machine, sets=room))


@pytest.mark.parametrize("units", [INCH_UNITS, Units(torque="kgf*cm", power="W", mass="lb", rim_speed="ft/min")])
def test_a_form_sent_as_it_was_shown_changes_nothing(units: Units):
    """A module of 3 mm is shown as 0.1181 in: a form that is sent whole, with a button, leaves it what it was."""
    pair = {"kind": "gear_pair", "module_mm": 3, "driver_teeth": 20, "driven_teeth": 61, "face_width_mm": 31.7}
    machine = build_machine(links=[pair, build_belt()], need={"running_torque_nm": 1 / 3})
    document = machine.model_dump(mode="json")
    fields = [*(f"plans.0.links.0.{name}" for name in pair if name != "kind"), "need.running_torque_nm", "name"]
    shown = {path: text_at(document, path, units) for path in fields}
    assert change(machine, units, sets=shown) == machine
    added = change(machine, units, sets=shown, operation="add_link", kind="coupling")
    assert added.plans[0].links[1] == machine.plans[0].links[0]
    assert added.need == machine.need
    one = apply_change(machine, Change(sets=shown | {"name": "Mill"}), units)
    assert one == (machine.model_copy(update={"name": "Mill"}), "Machine changed"), "only that is told as changed"


def test_a_source_of_the_same_kind_keeps_its_plate():
    machine = build_machine()
    same = change(machine, operation="choose_source", kind="induction")
    assert same.plans[0].source == machine.plans[0].source
    other = change(machine, operation="choose_source", kind="hand")
    assert other.plans[0].source.kind == "hand"


def test_a_stretch_of_a_cycle_starts_at_the_running_load():
    first = change(build_machine(), operation="add_segment").duty.cycle[0]
    assert (first.seconds, first.torque_share, first.speed_share) == (30.0, 1.0, 1.0)


def test_more_links_than_allowed_are_counted_in_the_refusal():
    machine = build_machine(links=[{"kind": "coupling", "designation": "CJ-65"}] * 8)
    told = str(refused(machine, operation="add_link", kind="coupling"))
    assert "9" in told
    assert "up to 8" in told


def test_what_was_entered_for_another_kind_of_machine_comes_back():
    machine = build_machine()
    drum = change(machine, operation="choose_worksheet", kind="drum")
    drum = change(drum, sets={"need.worksheet.inside_diameter_mm": "777 mm"})
    hammer = change(drum, operation="choose_worksheet", kind="hammer")
    assert [sheet.kind for sheet in hammer.need.set_aside] == ["drum"]
    again = change(hammer, operation="choose_worksheet", kind="drum")
    assert again.need.worksheet.inside_diameter_mm == 777.0
    assert [sheet.kind for sheet in again.need.set_aside] == ["hammer"]
    direct = change(again, operation="choose_worksheet", kind="direct")
    assert direct.need.running_torque_nm == machine.need.running_torque_nm == 120.0
    assert {sheet.kind for sheet in direct.need.set_aside} == {"hammer", "drum"}
    assert change(direct, operation="choose_worksheet", kind="direct") == direct
    assert change(direct, operation="choose_worksheet", kind="drum").need.worksheet == again.need.worksheet
    with pytest.raises(InputErrors, match="no figure of the need"):
        read_machine({**machine.model_dump(), "need": {"entered": {"weight": 3.0}}}, Units())


def test_a_new_stage_bridges_what_is_left_and_another_kind_keeps_the_ratio():
    machine = change(build_machine(links=[]), operation="add_link", kind="reducer")
    first = machine.plans[0].links[0]
    assert 60 <= first.unit.ratio <= 102
    machine = change(machine, operation="add_link", kind="roller_chain", index=1)
    result = solve_plan(machine, machine.plans[0])
    assert 14 <= result.chosen.last_shaft.speed_rpm <= 20
    before = result.chosen.links[1].ratio
    swapped = change(machine, operation="swap_link", kind="v_belt", index=1)
    assert solve_plan(swapped, swapped.plans[0]).chosen.links[1].ratio == pytest.approx(before, rel=0.08)


@pytest.mark.parametrize(
    ("section", "typed", "belt"),
    [
        ("4L", "96 in", "4L960"),
        ("A", "51 1/4 in", "A51"),
        ("SPA", "1.4 m", "SPA1400"),
        ("A", '46"', "A46"),
        ("A", "A47", "A47"),
    ],
)
def test_a_belt_is_found_by_its_length(section: str, typed: str, belt: str):
    machine = change(build_machine(), sets={"plans.0.links.0.section": section})
    assert change(machine, sets={"plans.0.links.0.belt": typed}).plans[0].links[0].belt == belt
    with pytest.raises(InputErrors, match="is not the name of a"):
        change(machine, sets={"plans.0.links.0.belt": "long"})


def test_a_stage_is_copied_behind_itself_and_the_shafts_move_on():
    machine = change(build_machine(), operation="add_shaft", index=2)
    copied = change(machine, operation="copy_link", index=0)
    kinds = [link.kind for link in copied.plans[0].links]
    assert kinds == ["v_belt", "v_belt", "reducer", "roller_chain"]
    assert copied.plans[0].links[0] == copied.plans[0].links[1]
    assert [part.shaft for part in copied.plans[0].shafts] == [4]


def test_a_plan_that_a_search_found_is_added_beside_the_others():
    machine = build_machine()
    plan = machine.plans[0].model_copy(update={"name": machine.plans[0].name})
    added, label = apply_change(machine, Change(operation="add_plan", part=plan.model_dump_json()), Units())
    assert label == "Plan added from the search"
    assert [one.name for one in added.plans] == [plan.name, f"{plan.name} 2"]
    assert added.plans[1].links == plan.links
    while len(added.plans) < MAX_PLANS:
        added, _ = apply_change(added, Change(operation="add_plan", part=plan.model_dump_json()), Units())
    with pytest.raises(InputErrors, match="too many"):
        apply_change(added, Change(operation="add_plan", part=plan.model_dump_json()), Units())


@pytest.mark.parametrize(
    "part", ["", "[]", "5", "null", "{", '{"links": 5}', '{"name": 5, "wings": 2}', '{"name": "\\u0000"}']
)
def test_what_is_no_plan_is_not_added(part: str):
    with pytest.raises(InputErrors):
        apply_change(build_machine(), Change(operation="add_plan", part=part), Units())
