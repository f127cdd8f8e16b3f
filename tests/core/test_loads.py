"""Several loads on one machine: each is solved as if alone, and the hardest decides."""

from __future__ import annotations

import pytest

from builders import SHIPPED
from pulltide.core.errors import InputErrors
from pulltide.core.findings import Severity
from pulltide.core.line import solve_plan
from pulltide.core.machine import Machine
from pulltide.core.own_words import own_words
from pulltide.core.remedies import with_remedies
from pulltide.demo import demo_machines
from pulltide.quantities import DEFAULT_UNITS
from pulltide.services.change import Change
from pulltide.services.editing import apply_change


def changed(machine: Machine, operation: str, kind: str = "") -> Machine:
    return apply_change(machine, Change(operation=operation, kind=kind), DEFAULT_UNITS, SHIPPED)[0]


@pytest.fixture(scope="module")
def lathe() -> Machine:
    return next(machine for machine in demo_machines() if "lathe" in machine.name)


@pytest.fixture(scope="module")
def both(lathe) -> Machine:
    """The lathe, with a drill chuck in its headstock."""
    made = changed(changed(lathe, "add_load", "drill"), "fill_typical")
    return changed(made, "choose_worksheet", lathe.need.worksheet.kind)


def test_a_further_load_is_solved_at_the_step_that_suits_it_as_if_it_were_alone(both):
    result = solve_plan(both, both.plans[0])
    ((title, line),) = result.further
    alone = changed(changed(both, "choose_worksheet", "drill"), "drop_load", both.need.worksheet.kind)
    by_itself = solve_plan(alone, alone.plans[0])
    same = next(other for other in by_itself.settings if other.setting == line.setting)
    assert title == "Drill press"
    assert line.shafts == same.shafts
    off = [abs(other.last_shaft.speed_rpm / alone.need.aimed_rpm - 1) for other in by_itself.settings]
    assert off.index(min(off)) == by_itself.settings.index(same)


def test_the_harder_load_decides_each_check_and_is_named(lathe, both):
    result = solve_plan(both, both.plans[0])
    before = {finding.key: finding for finding in solve_plan(lathe, lathe.plans[0]).findings}
    named = [finding for finding in result.findings if finding.load]
    assert named
    assert {finding.load for finding in named} == {"Drill press"}
    for finding in result.findings:
        seen = before.get(finding.key)
        assert seen is None or finding.severity.rank >= seen.severity.rank
        assert finding.load or finding == seen
    keys = [(code, place) for f in result.findings for code, place in [(f.code, place) for place in f.places]]
    assert len(keys) == len(set(keys))


def test_a_remedy_is_offered_only_where_every_load_is_well_with_it(both):
    plan = both.plans[0]
    proved = with_remedies(both, plan, solve_plan(both, plan))
    offered = [(finding, remedy) for finding in proved.findings if finding.load for remedy in finding.remedies]
    assert offered
    for finding, remedy in offered:
        made = both.model_dump(mode="json")
        for path, value in remedy.changes:
            *way, last = path.split(".")
            holder = made["plans"][0]
            for part in way[way.index("plans") + 2 :] if "plans" in way else way:
                holder = holder[int(part)] if part.isdecimal() else holder[part]
            holder[int(last) if last.isdecimal() else last] = value
        after = solve_plan(Machine.model_validate(made), Machine.model_validate(made).plans[0])
        assert finding.key not in {f.key for f in after.findings if f.severity is not Severity.CLEAR}


def test_loads_change_places_and_nothing_entered_is_lost(both):
    drilling = changed(both, "choose_worksheet", "drill")
    assert drilling.need.also == (both.need.worksheet.kind,)
    assert changed(drilling, "choose_worksheet", both.need.worksheet.kind) == both
    alone = changed(both, "drop_load", "drill")
    assert alone.need.also == ()
    assert [sheet.kind for sheet in alone.need.set_aside] == ["drill"]


def test_figures_entered_directly_are_a_load_too():
    machine = Machine(name="Rig", need={"speed_ideal_rpm": 500.0, "running_torque_nm": 3.0})
    made = changed(machine, "add_load", "drill")
    ((title, need),) = made.need.further()
    assert (title, need.speed_ideal_rpm, need.running_torque_nm) == ("Entered directly", 500.0, 3.0)


def test_the_same_load_twice_and_a_load_that_is_none_are_refused(both):
    for operation, kind in (("add_load", "drill"), ("add_load", both.need.worksheet.kind), ("drop_load", "fan")):
        with pytest.raises(InputErrors):
            changed(both, operation, kind)
    raw = both.model_dump(mode="json")
    raw["need"]["also"] = ["fan"]
    with pytest.raises(ValueError, match=r"fan\|as is} is no worksheet that was set aside"):
        Machine.model_validate(raw)


@pytest.mark.parametrize("machine", demo_machines(), ids=lambda machine: machine.name)
def test_own_words_are_said_at_the_ideal_and_at_every_step(machine):
    need, result = machine.need, solve_plan(machine, machine.plans[0])
    said = own_words(need, result)
    if need.worksheet is None:
        assert said == ()
        return
    kind = need.requirement().kind
    for one in said:
        assert one.sayings == kind.say(need.worksheet, one.speed_rpm)
    assert [one.speed_rpm for one in said if one.line] == [line.last_shaft.speed_rpm for line in result.settings][:8]
