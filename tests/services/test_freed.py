"""A stage searched anew while the others stay, against the plan solved with it."""

from __future__ import annotations

from pathlib import Path

import pytest

from builders import LOOKED_UP
from pulltide.core.errors import InputError, InputErrors
from pulltide.core.findings import Severity
from pulltide.core.line import solve_plan
from pulltide.core.machine import Machine
from pulltide.core.search.wish import Wish
from pulltide.core.shipped import shipped_catalog
from pulltide.demo import demo_machines
from pulltide.services.searching import Searcher, wish_from
from pulltide.store.row_file import RowFile

PROJECT = Path(__file__).resolve().parents[2]
STAGES = [(machine, number) for machine in demo_machines() for number in range(1, len(machine.plans[0].links) + 1)]


@pytest.fixture(scope="module")
def searcher() -> Searcher:
    return Searcher(RowFile(PROJECT / ".run" / "rows"))


@pytest.mark.long
@pytest.mark.parametrize(("machine", "number"), STAGES, ids=[f"{machine.name} {number}" for machine, number in STAGES])
def test_the_other_stages_stay_and_nothing_new_is_wrong(searcher: Searcher, machine: Machine, number: int):
    plan = machine.plans[0]
    before = {f.code for f in solve_plan(machine, plan).findings if f.severity is Severity.ERROR}
    found = searcher.ways(machine, plan, Wish(free=number))
    for way in found.ways:
        new = len(way.plan.links) - len(plan.links) + 1
        assert new >= 1
        assert way.plan.links[: number - 1] == plan.links[: number - 1]
        assert way.plan.links[number - 1 + new :] == plan.links[number:]
        assert way.plan.source == plan.source
        result = solve_plan(machine, way.plan)
        assert {f.code for f in result.findings if f.severity is Severity.ERROR} <= before
        for link in result.chosen.links[number - 1 : number - 1 + new]:
            assert link.tightest is None or link.tightest.use <= 1
        low, high = machine.need.speed_min_rpm, machine.need.speed_max_rpm
        assert low * 0.97 <= result.chosen.last_shaft.speed_rpm <= high * 1.03


def noted_plan(machine: Machine) -> Machine:
    """The drum's plan with everything that belongs to its drive as it is."""
    raw = machine.model_dump(mode="json")
    plan = raw["plans"][0]
    plan["note"] = "the cheapest of three"
    plan["made"] = [{"wheel": "1-driven", "material": "plywood_birch"}, {"wheel": "3-driven", "material": "mild_steel"}]
    who = {"by": "Nan", "on": "2026-01-02"}
    plan["pinned"] = [{"at": "stage-1", "text": "rubs on the guard"} | who]
    plan["accepted"] = [
        {"code": "v_belt.slow", "subject": "link-1", "reason": "it is what we have", "severity": "note"} | who
    ]
    (last,) = plan["shafts"]
    plan["shafts"] = [last, {"shaft": 2, "take_off_nm": 0.4}]
    return Machine.model_validate(raw, context=LOOKED_UP)


def test_a_drive_found_does_not_inherit_what_is_noted_of_the_one_before(searcher: Searcher):
    """Wheels made for stages that go, accepted findings, notes; those of stages and shafts that stay follow them."""
    (drum,) = (one for one in demo_machines() if one.name.startswith("Windrow"))
    machine = noted_plan(drum)
    plan = machine.plans[0]
    for way in searcher.ways(machine, plan, Wish(max_stages=2)).ways:
        assert (way.plan.note, way.plan.made, way.plan.pinned, way.plan.accepted, way.plan.shafts) == (
            "",
            (),
            (),
            (),
            (),
        )
    seen = set()
    for way in searcher.ways(machine, plan, Wish(free=1, max_stages=3)).ways:
        more = len(way.plan.links) - len(plan.links)
        seen.add(more)
        assert [part.wheel for part in way.plan.made] == [f"{3 + more}-driven"]
        assert {part.shaft: part.take_off_nm for part in way.plan.shafts} == {2 + more: 0.4, 4 + more: None}
        assert (way.plan.pinned, way.plan.accepted) == ((), ())
        described = way.plan.shaft_part(4 + more)
        assert described.diameter_mm == plan.shaft_part(4).diameter_mm
    assert {0, 1} <= seen


@pytest.mark.long
def test_something_is_found_for_most_stages(searcher: Searcher):
    found = [bool(searcher.ways(machine, machine.plans[0], Wish(free=number)).ways) for machine, number in STAGES]
    assert sum(found) >= 0.7 * len(found)


@pytest.mark.long
def test_a_stage_that_is_not_there_and_a_motor_beside_it_are_refused(searcher: Searcher):
    machine = demo_machines()[0]
    with pytest.raises(InputError, match="does not exist"):
        searcher.ways(machine, machine.plans[0], Wish(free=8))
    with pytest.raises(InputErrors, match="leaves the motor as it is"):
        wish_from({"free": 1, "motor": "Brushless"}, shipped_catalog())


@pytest.mark.long
def test_a_change_of_another_stage_is_not_answered_from_what_was_kept(searcher: Searcher):
    machine = next(machine for machine in demo_machines() if len(machine.plans[0].links) == 3)
    plan = machine.plans[0]
    first = searcher.ways(machine, plan, Wish(free=3))
    belt = plan.links[0].model_copy(update={"belts": plan.links[0].belts + 1})
    other = plan.model_copy(update={"links": (belt, *plan.links[1:])})
    again = searcher.ways(machine, other, Wish(free=3))
    assert first.ways
    assert all(way.plan.links[0] == plan.links[0] for way in first.ways)
    assert all(way.plan.links[0] == belt for way in again.ways)
