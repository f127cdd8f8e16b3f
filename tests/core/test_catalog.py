"""The catalog is handed in: parts by name, what a plan carries of them, and where the two differ."""

from __future__ import annotations

import pytest
from pydantic import ValidationError

from builders import LOOKED_UP, SHIPPED, build_belt, build_machine, looked_up
from pulltide.core.catalog import CATALOG, Catalog, Item
from pulltide.core.catalog_checks import differences, uses
from pulltide.core.errors import UnknownName
from pulltide.core.line import solve_plan
from pulltide.core.links import FAMILIES, family_of
from pulltide.core.links.coupling import Coupling
from pulltide.core.links.reducer import Reducer
from pulltide.core.links.reducer.inputs import ReducerPlate
from pulltide.core.remedies import with_remedies
from pulltide.quantities import Units
from pulltide.words import filled

UNIT = SHIPPED.find("reducer", "PW-6 15:1").data


def codes(machine, catalog: Catalog) -> set[str]:
    result = solve_plan(machine, machine.plans[0], catalog=catalog)
    return {finding.code for finding in result.findings if finding.code.startswith("catalog.")}


def test_what_lies_on_the_shelf_stands_for_the_list_of_the_same_name():
    mine = UNIT.model_copy(update={"torque_1750_nm": 90.0})
    shop = SHIPPED.with_items([Item("reducer", "PW-6 15:1", mine, "shelf"), Item("reducer", "rack 2", mine, "shelf")])
    assert shop.find("reducer", "PW-6 15:1").origin == "shelf"
    assert shop.names("reducer")[-1] == "rack 2"
    assert len(shop.of("reducer")) == len(SHIPPED.of("reducer")) + 1
    assert SHIPPED.find("reducer", "rack 2") is None, "the lists that ship are not changed"


@pytest.mark.parametrize(
    ("part", "wrong", "offered"),
    [("reducer", "PW-6 16:1", "PW-6 15:1"), ("coupling", "CJ 65", "CJ-65"), ("reducer", "", "PW-1 5:1")],
)
def test_an_unknown_name_is_answered_with_those_alike(part: str, wrong: str, offered: str):
    with pytest.raises(UnknownName, match=offered):
        SHIPPED.named(part, wrong, "Part")


@pytest.mark.parametrize(("model", "name"), [(Reducer, "PW-6 15:1"), (Coupling, "CJ-65")])
def test_a_named_part_brings_its_data_and_then_needs_no_list(model, name: str):
    with pytest.raises(ValidationError, match="comes without its data"):
        model.model_validate({"designation": name})
    link = looked_up(model, designation=name)
    assert model.model_validate(link.model_dump(mode="json")) == link
    nowhere = {CATALOG: Catalog(())}
    assert model.model_validate(link.model_dump(mode="json"), context=nowhere) == link, "data that is there stays"
    with pytest.raises(ValidationError, match="data of another part"):
        model.model_validate({**link.model_dump(mode="json"), "designation": "another"})


def test_a_changed_list_changes_no_answer_and_is_told():
    machine = build_machine()
    weaker = UNIT.model_copy(update={"torque_1750_nm": 40.0, "mass_kg": None})
    changed = SHIPPED.with_items([Item("reducer", "PW-6 15:1", weaker)])
    before, after = (solve_plan(machine, machine.plans[0], catalog=lists) for lists in (SHIPPED, changed))
    assert before.chosen == after.chosen
    assert codes(machine, SHIPPED) == set()
    assert codes(machine, changed) == {"catalog.differs"}
    ((_, belt), (index, use)) = uses(machine.plans[0])
    assert (belt.id, index, use.id) == ("A51", 1, "PW-6 15:1")
    found = differences(use, changed.find(use.part, use.id))
    assert [(item.field, item.in_list) for item in found] == [("torque_1750_nm", 40.0), ("mass_kg", None)]


def test_a_part_that_no_list_has_is_a_note_and_only_where_there_are_lists_of_its_kind():
    links = [build_belt(belt="A47"), {"kind": "reducer", "designation": "PW-6 15:1"}]
    machine = build_machine(links=links)
    assert codes(machine, SHIPPED) == {"catalog.not_listed"}
    only_b = Catalog(tuple(item for item in SHIPPED.items if item.group == "B"))
    assert codes(machine, only_b) == set()


def test_remedies_come_out_of_the_catalog_that_is_handed_in():
    weak = {"kind": "reducer", "designation": "PW-3 15:1"}
    machine = build_machine(links=[build_belt(take_up_mm=80), weak], need={"speed_min_rpm": 40, "speed_ideal_rpm": 50,
                            "speed_max_rpm": 60, "running_torque_nm": 110.0, "peak_torque_nm": 130.0})  # fmt: skip
    plan = machine.plans[0]

    def offered(catalog: Catalog) -> set[str]:
        result = with_remedies(machine, plan, solve_plan(machine, plan, catalog=catalog), catalog)
        (finding,) = (found for found in result.findings if found.code == "reducer.torque")
        return {filled(remedy.label, Units()) for remedy in finding.remedies}

    name = next(label for label in sorted(offered(SHIPPED)) if label.startswith("Use PW")).removeprefix("Use ")
    mine = SHIPPED.find("reducer", name).data.model_copy(update={"designation": "rack 2"})
    belts = tuple(item for item in SHIPPED.items if item.part.startswith("v_belt"))
    shelf = Catalog((*belts, Item("reducer", "rack 2", mine, "shelf")))
    assert "Use rack 2" in offered(shelf)
    assert not any(label.startswith("Use PW") for label in offered(shelf))


@pytest.mark.parametrize("family", FAMILIES, ids=lambda family: family.kind)
def test_a_family_works_without_any_list(family):
    """A starter, neighbors and values to step through, with no list at hand."""
    nothing = Catalog(())
    start = family.starter(nothing)
    assert family.prepare(start, 1).ratio > 0
    for variant in family.variants(start, nothing):
        assert family.prepare(variant.link, 1).ratio > 0
    family.stock(start, nothing)


@pytest.mark.parametrize("family", FAMILIES, ids=lambda family: family.kind)
def test_what_a_family_ships_reads_as_it_says(family):
    for item in family.shipped():
        assert family.parts[item.part].model_validate(item.data.model_dump(mode="json")) == item.data


def test_a_unit_of_your_own_is_kept_under_a_name():
    own = Reducer(designation="own", own=ReducerPlate(ratio=17.5, rated_torque_nm=80.0, rated_input_rpm=1750.0))
    use = family_of("reducer").kept(own, "rack 2")
    again = Reducer.model_validate(
        {"designation": "rack 2"}, context={CATALOG: SHIPPED.with_items([Item(use.part, use.id, use.data, "shelf")])}
    )
    first, second = (family_of("reducer").prepare(link, 1) for link in (own, again))
    assert first.ratio == second.ratio == 17.5
    assert first.transmit(1750.0, 1.0) == second.transmit(1750.0, 1.0), "still rated by one figure of its plate"
    assert family_of("v_belt").kept(family_of("v_belt").starter(SHIPPED), "belt") is None
    assert LOOKED_UP[CATALOG] is SHIPPED
