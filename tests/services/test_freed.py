"""A stage searched anew while the others stay, against the plan solved with it."""

from __future__ import annotations

from pathlib import Path

import pytest

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
