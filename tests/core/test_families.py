"""What every link family must do, asked of each of them."""

from __future__ import annotations

import json
from importlib.resources import files
from math import isfinite
from pathlib import Path

import pytest

from builders import SHIPPED, build_machine
from pulltide.core import line_rules
from pulltide.core.family import Family
from pulltide.core.findings import Check, Severity
from pulltide.core.handbook import chapters
from pulltide.core.line import solve_plan
from pulltide.core.line_working import working
from pulltide.core.links import FAMILIES, family_of
from pulltide.core.machine import Machine

CHECKS = (*(family.rules for family in FAMILIES), line_rules.RULES)
each_family = pytest.mark.parametrize("family", FAMILIES, ids=lambda family: family.kind)


#: Families that are not meant for motor speed, or not for a load far under their rating.
SLOW = {"lantern": {"power_kw": 0.2, "speed_rpm": 310.0}}
LOAD_NM = {"strain_wave": 30.0}


def machine_with(family: Family) -> Machine:
    load = LOAD_NM.get(family.kind, 2.0)
    return build_machine(
        motor=SLOW.get(family.kind, {}),
        links=[family.starter(SHIPPED).model_dump(mode="json")],
        need={
            "speed_min_rpm": None,
            "speed_ideal_rpm": None,
            "speed_max_rpm": None,
            "running_torque_nm": load,
            "peak_torque_nm": 1.5 * load,
            "breakaway_torque_nm": None,
        },
    )


@each_family
def test_the_starter_solves(family: Family):
    machine = machine_with(family)
    result = solve_plan(machine, machine.plans[0])
    link = result.chosen.links[0]
    assert 0.3 < link.efficiency < 1, "a large worm unit wastes much on a small load"
    assert link.tightest is not None
    assert link.tightest.use < 1
    assert not result.count(Severity.ERROR)


@each_family
def test_every_figure_can_be_worked_out(family: Family):
    """The working of each figure shown ends in the very number shown."""
    machine = machine_with(family)
    plan = machine.plans[0]
    line = solve_plan(machine, plan).chosen
    for figure in line.links[0].figures:
        if figure.value is None:
            continue
        made = working(machine, plan.source, line, f"link-1/{figure.key}")
        assert made is not None, figure.key
        assert made.value == pytest.approx(figure.value, rel=2e-6), figure.key
        assert made.unit == figure.unit, figure.key
        assert all(step.source.document for step in made.steps)


@each_family
def test_every_neighbor_is_a_valid_link_that_solves(family: Family):
    start = family.starter(SHIPPED)
    machine = machine_with(family)
    for variant in family.variants(start, SHIPPED):
        checked = family.model.model_validate(variant.link.model_dump(mode="json"))
        plan = machine.plans[0].model_copy(update={"links": (checked,)})
        assert solve_plan(machine, plan) is not None, variant.label


@each_family
def test_the_picture_has_the_true_center_distance(family: Family):
    start = family.starter(SHIPPED)
    transmission = family.prepare(start, 1)
    machine = machine_with(family)
    center = solve_plan(machine, machine.plans[0]).chosen.links[0].center_distance_mm
    if center is not None:
        x, y = transmission.picture().offset_mm
        assert (x**2 + y**2) ** 0.5 == pytest.approx(center)


@each_family
def test_heavier_load_never_lowers_use(family: Family):
    machine = machine_with(family)
    uses = []
    for torque in (0.5, 1.0, 2.0, 4.0, 8.0):
        need = machine.need.model_copy(update={"running_torque_nm": torque, "peak_torque_nm": torque * 1.5})
        loaded = machine.model_copy(update={"need": need})
        uses.append(solve_plan(loaded, loaded.plans[0]).chosen.links[0].limits[0].use)
    assert uses == sorted(uses)


@each_family
def test_a_link_goes_through_a_file_unchanged(family: Family):
    start = family.starter(SHIPPED)
    again = family_of(start.kind).model.model_validate(json.loads(start.model_dump_json()))
    assert again == start


def test_every_check_says_its_limit_or_what_it_follows_from():
    rules = {rule for chapter in chapters() for rule in chapter.rules if isinstance(rule, Check)}
    assert [rule.code for rule in rules if not rule.limits and not rule.base] == []


@each_family
def test_every_family_has_the_same_files(family: Family):
    folder = Path(str(files(family.model.__module__.rpartition(".")[0])))
    names = {path.stem for path in folder.glob("*.py")}
    assert {"inputs", "transmission", "checks", "failure", "variants", "working", "methods"} <= names


def test_rules_are_whole():
    for rule in (rule for rules in CHECKS for rule in rules):
        assert rule.source.document, rule.code
        assert rule.fact, rule.code
        assert not any(
            char.isdigit()
            for char in rule.fact.replace("70 %", "").replace("under 1", "").replace("1.0", "").replace("1.3 times", "")
        ), rule.code
        known = {family.kind for family in FAMILIES} | {"need", "motor", "duty", "shaft", "line", "reducer"}
        assert rule.code.split(".")[0] in known


def test_findings_hold_no_nan_and_name_their_source():
    machine = build_machine()
    for finding in solve_plan(machine, machine.plans[0]).findings:
        assert finding.measured is None or isfinite(finding.measured)
        assert finding.rule.source.document


@each_family
def test_what_a_family_says_of_its_findings_and_fields_exists(family: Family):
    """No link to a working is dead, no field is hidden or explained that is not there."""
    figures: set[str] = set()
    for link in (family.starter(SHIPPED), *family.samples):
        machine = build_machine(links=[link.model_dump(mode="json")], need={"running_torque_nm": 6.0})
        figures |= {figure.key for figure in solve_plan(machine, machine.plans[0]).chosen.links[0].figures}
        assert family.hides(link) <= set(family.model.model_fields)
    tails = {rule.code.partition(".")[2] for rule in family.rules}
    assert set(family.explains) <= tails
    assert set(family.explains.values()) <= figures
    for name in family.empty:
        assert family.model.model_fields[name].default is None, name


def test_a_finding_is_explained_by_its_own_figure():
    machine = build_machine()
    belt, reducer, chain = solve_plan(machine, machine.plans[0]).chosen.links
    assert FAMILIES[0].explaining("v_belt.rating", belt) == "capacity"
    assert FAMILIES[0].explaining("v_belt.wrap", belt) == "wrap"
    assert FAMILIES[0].explaining("v_belt.no_belt", belt) == ""
    assert FAMILIES[0].explaining("roller_chain.rating", chain) == "", "another family's"
    assert family_of("reducer").explaining("reducer.stall", reducer) == "rated_torque"
