"""Every family over its whole allowed range: a helpful refusal or figures, never nan, never gained power."""

from __future__ import annotations

from itertools import pairwise
from math import isfinite
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from anything import any_of
from builders import LOOKED_UP, SHIPPED, build_machine
from draws import draws
from pulltide.core.family import Family
from pulltide.core.findings import Severity
from pulltide.core.line import ladder_of, solve_line, solve_plan
from pulltide.core.line_working import working
from pulltide.core.links import FAMILIES, family_of
from pulltide.core.machine import Machine
from pulltide.core.sources.others import HandCrank

each_family = pytest.mark.parametrize("family", FAMILIES, ids=lambda family: family.kind)
#: Names that must come from a list: any of the stock.
NAMED = {"reducer": "designation", "coupling": "designation"}


def any_link(family: Family) -> st.SearchStrategy[dict[str, Any]]:
    """Raw inputs of a family within its ranges, names from its stock, most of them links that can be."""
    fixed: dict[str, Any] = {"kind": family.kind}
    if family.kind in NAMED:
        names = family.stock(family.starter(SHIPPED), SHIPPED)[NAMED[family.kind]]
        fixed |= {"own": None, "data": None}
        return st.sampled_from([name for name in names if name != "own"]).flatmap(
            lambda name: any_of(family.model, **fixed, designation=name)
        )
    if family.kind == "v_belt":
        start = family.starter(SHIPPED).model_dump(mode="json")
        return any_of(family.model, **fixed, steps=start["steps"], chosen_step=1, section="4L", belt=start["belt"])
    return any_of(family.model, **fixed)


def with_link(raw: dict[str, Any], torque_nm: float = 5.0) -> Machine:
    need = {"running_torque_nm": torque_nm, "peak_torque_nm": 1.8 * torque_nm, "breakaway_torque_nm": None}
    return build_machine(links=[raw], need=need)


@each_family
@settings(max_examples=draws(60), deadline=None, suppress_health_check=list(HealthCheck))
@given(data=st.data())
def test_any_link_is_refused_in_words_or_gives_figures(family: Family, data: st.DataObject):
    raw = data.draw(any_link(family))
    try:
        family.model.model_validate(raw, context=LOOKED_UP)
    except ValidationError as error:
        told = [str(item["msg"]) for item in error.errors()]
        assert all(len(words.split()) >= 4 for words in told), told
        return
    machine = with_link(raw)
    line = solve_line(machine, machine.plans[0])
    assert line is not None
    link = line.links[0]
    assert 0 < link.efficiency <= 1
    assert link.loss_kw >= 0
    assert isfinite(line.last_shaft.speed_rpm)
    for limit in link.limits:
        assert isfinite(limit.measured)
        assert limit.allowed is None or limit.allowed >= 0
    assert all(figure.value is None or isfinite(figure.value) for figure in link.figures)
    assert all(finding.measured is None or isfinite(finding.measured) for finding in link.findings)


@each_family
@settings(max_examples=draws(25), deadline=None, suppress_health_check=list(HealthCheck))
@given(data=st.data())
def test_every_figure_of_any_link_can_be_worked_out(family: Family, data: st.DataObject):
    """The working of each figure ends in the very number shown."""
    raw = data.draw(any_link(family))
    try:
        machine = with_link(raw)
    except ValidationError:
        return
    plan = machine.plans[0]
    line = solve_line(machine, plan)
    assert line is not None
    if any(finding.severity is Severity.ERROR for finding in line.links[0].findings):
        return
    for figure in line.links[0].figures:
        if figure.value is None:
            continue
        made = working(machine, plan.source, line, f"link-1/{figure.key}")
        assert made is not None, figure.key
        assert made.value == pytest.approx(figure.value, rel=1e-6, abs=1e-9), figure.key


@each_family
@settings(max_examples=draws(25), deadline=None, suppress_health_check=list(HealthCheck))
@given(data=st.data())
def test_use_never_falls_as_the_load_rises(family: Family, data: st.DataObject):
    """At one speed: a crank keeps its pace. Under a motor that slows, a fast chain would be rated higher."""
    raw = data.draw(any_link(family))
    uses: list[list[float]] = []
    for torque in (1.0, 3.0, 9.0):
        try:
            machine = with_link(raw, torque)
        except ValidationError:
            return
        plan = machine.plans[0].model_copy(update={"source": HandCrank(speed_rpm=110, people=4, handle_force_n=300)})
        line = solve_line(machine, plan)
        assert line is not None
        loads = [limit for limit in line.links[0].limits if limit.is_load]
        uses.append([limit.use for limit in loads if limit.use is not None])
    for light, heavy in pairwise(uses):
        assert all(a <= b * (1 + 1e-6) for a, b in zip(light, heavy, strict=True))


@each_family
@settings(max_examples=draws(20), deadline=None, suppress_health_check=list(HealthCheck))
@given(data=st.data())
def test_the_ladder_of_any_link_stands_in_order(family: Family, data: st.DataObject):
    try:
        machine = with_link(data.draw(any_link(family)))
    except ValidationError:
        return
    line = solve_line(machine, machine.plans[0])
    assert line is not None
    found = ladder_of(machine, machine.plans[0], line)
    assert found is not None
    times = [rung.times for rung in found.known]
    assert times == sorted(times)
    assert all(rung.point.missing for rung in found.unknown)


@each_family
def test_neighbors_of_every_sample_are_links_that_solve(family: Family):
    """What is offered as a stock change is a valid link of the same family, and differs from what it replaces."""
    for start in (family.starter(SHIPPED), *family.samples):
        for variant in family.variants(start, SHIPPED):
            checked = family.model.model_validate(variant.link.model_dump(mode="json"))
            assert checked != start, variant.label
            machine = with_link(checked.model_dump(mode="json"))
            assert solve_plan(machine, machine.plans[0]) is not None, variant.label


@each_family
def test_an_edit_that_changes_nothing_settles_to_the_same_link(family: Family):
    for start in (family.starter(SHIPPED), *family.samples):
        raw = start.model_dump(mode="json")
        assert family.model.model_validate(family.reconcile(start, dict(raw), SHIPPED)) == start


@each_family
def test_samples_and_starters_go_through_a_file(family: Family):
    for start in (family.starter(SHIPPED), *family.samples):
        assert family_of(start.kind).model.model_validate_json(start.model_dump_json()) == start
