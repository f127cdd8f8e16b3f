"""What a working shows is what was computed: each formula that can be read gives its own value from its numbers."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import pytest

from builders import SHIPPED, build_machine
from formulas import agrees, evaluate
from pulltide.core.ends import END_KINDS, end_working
from pulltide.core.family import Family
from pulltide.core.fit.bearings import MAX_HOURS
from pulltide.core.fit.shaft import ShaftAnswer, harder
from pulltide.core.fit.working import workings
from pulltide.core.line import solve_line
from pulltide.core.line_working import working
from pulltide.core.links import FAMILIES
from pulltide.core.methods import METHODS
from pulltide.core.model import READ_QUANTITY
from pulltide.core.needs import need_kind
from pulltide.core.needs.assess import assess
from pulltide.core.sources import drive_of
from pulltide.core.working import Step
from pulltide.demo import demo_machines
from pulltide.quantities import DEFAULT_UNITS, reader_for
from pulltide.services.proof import published
from worksheets import WORKSHEETS


def proven(steps: Iterator[Step]) -> int:
    """How many formulas were read and agree. Fails on the first that does not."""
    count = 0
    for step in steps:
        verdict = agrees(step)
        assert verdict is not False, (step.symbol, step.formula, dict(step.inputs), step.value)
        count += verdict is True
    return count


def link_steps(family: Family) -> Iterator[Step]:
    for link in (family.starter(SHIPPED), *family.samples):
        need = {"running_torque_nm": 6.0, "peak_torque_nm": 8.0, "breakaway_torque_nm": None}
        machine = build_machine(links=[link.model_dump(mode="json")], need=need)
        plan = machine.plans[0]
        line = solve_line(machine, plan)
        assert line is not None
        for key in (*(figure.key for figure in line.links[0].figures), "efficiency"):
            made = working(machine, plan.source, line, f"link-1/{key}")
            if made is not None:
                yield from made.steps


@pytest.mark.parametrize("family", FAMILIES, ids=lambda family: family.kind)
def test_formulas_of_links_give_what_is_shown(family: Family):
    assert proven(link_steps(family)) >= 2


def test_hundreds_of_formulas_of_links_are_read():
    assert sum(proven(link_steps(family)) for family in FAMILIES) >= 300


@pytest.mark.parametrize("case", published(), ids=lambda case: case["id"])
def test_formulas_called_by_name_give_what_is_shown(case: dict[str, Any]):
    method = METHODS[case["method"]]
    inputs = method.inputs.model_validate(case["inputs"], context={READ_QUANTITY: reader_for(DEFAULT_UNITS)})
    proven(iter(method.run(inputs).steps))


@pytest.mark.parametrize("kind", WORKSHEETS)
def test_formulas_of_worksheets_give_what_is_shown(kind: str):
    asked = assess(need_kind(kind).model.model_validate({"kind": kind, **WORKSHEETS[kind]}))
    proven(step for made in asked.workings.values() for step in made.steps)


@pytest.mark.parametrize("kind", END_KINDS, ids=lambda kind: kind.kind)
def test_formulas_of_ends_give_what_is_shown(kind: Any):
    end = kind.model.model_validate({"kind": kind.kind})
    assert proven(iter(end_working(end, 25.0, 40.0).steps)) >= 3


@pytest.mark.parametrize("figure", ["speed", "torque", "power", "design"])
def test_formulas_of_shafts_give_what_is_shown(figure: str):
    machine = build_machine()
    plan = machine.plans[0]
    line = solve_line(machine, plan)
    assert line is not None
    steps = []
    for number in range(1, 5):
        made = working(machine, drive_of(plan.source), line, f"shaft-{number}/{figure}")
        steps += list(made.steps) if made else []
    assert proven(iter(steps)) >= 1


def test_a_formula_that_does_not_give_its_value_is_found():
    """The reader is no rubber stamp: a wrong factor, sign or function is seen."""
    right = {"d": 76.2, "n": 1440.0}
    value = 3.141592653589793 * 76.2 * 1440 / 60_000
    assert evaluate("π d n / 60000", right) == pytest.approx(value)
    for wrong in ("π d n / 6000", "d n / 60000", "π d / 60000 - n", "π d² n / 60000"):
        assert evaluate(wrong, right) != pytest.approx(value)
    assert evaluate("sin θ", {"θ": 30.0}) == pytest.approx(0.5)
    assert evaluate("5^(θ/180)", {"θ": 180.0}) == pytest.approx(5.0)
    assert evaluate("|a - b|", {"a": 1.0, "b": 3.0}) == pytest.approx(2.0)
    assert evaluate("⌈P / Q⌉", {"P": 7.0, "Q": 2.0}) == 4
    assert evaluate("as listed", {}) is None


def shaft_answers() -> Iterator[ShaftAnswer]:
    """Every shaft of the demo whose span is entered."""
    for machine in demo_machines():
        for plan in machine.plans:
            line = solve_line(machine, plan)
            for part in plan.shafts:
                answer = harder(machine, plan, line, part.shaft) if line and part.span else None
                if answer is not None:
                    yield answer


def test_formulas_of_shafts_between_bearings_give_what_is_shown():
    answers = list(shaft_answers())
    assert len(answers) >= 3
    for answer in answers:
        made = {key: make() for key, make in workings(answer).items()}
        assert proven(step for working in made.values() for step in working.steps) >= 12
        assert made["fatigue"].value == pytest.approx(answer.weakest.goodman, rel=1e-12)
        assert made["ellipse"].value == pytest.approx(answer.weakest.elliptic, rel=1e-12)
        assert made["yield"].value == pytest.approx(min(section.yields for section in answer.sections), rel=1e-12)
        assert made["code"].value == pytest.approx(answer.code_mm, rel=1e-12)
        for number, bearing in enumerate(answer.bearings, start=1):
            told = made[f"bearing-{number}"]
            assert told.steps[0].value == pytest.approx(bearing.radial_n, rel=1e-12)
            if bearing.life_h is not None:
                assert min(told.value, MAX_HOURS) == pytest.approx(bearing.life_h)
