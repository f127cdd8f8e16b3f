"""Tasks: the right answer is right, each usual slip is named, and the working leads to the answer."""

from __future__ import annotations

import pytest

from formulas import agrees
from pulltide.core.practice.tasks import MAKERS, is_right, task, why_wrong
from pulltide.core.working import Working
from pulltide.presentation.working_view import working_view
from pulltide.quantities import Units, reader_for, show

NUMBERS = [(level, number) for level in MAKERS for number in range(1, 43)]


@pytest.mark.parametrize(("level", "number"), NUMBERS)
def test_right_is_right_and_a_slip_is_named(level, number):
    made = task(level, number)
    assert made == task(level, number), "the same task every time"
    assert made.level == level
    assert is_right(made, made.answer)
    assert not why_wrong(made, made.answer)
    for slip in made.slips:
        if not is_right(made, slip.value):
            assert why_wrong(made, slip.value)
    assert not is_right(made, 1.3 * made.answer)


@pytest.mark.parametrize(("level", "number"), NUMBERS)
def test_the_working_leads_to_the_answer_as_it_is_written(level, number):
    made = task(level, number)
    assert made.steps[-1].value == pytest.approx(made.answer)
    for step in made.steps:
        assert agrees(step), step.formula
    assert all(step.mathematics for step in working_view(Working("", made.steps), Units()).steps)


@pytest.mark.parametrize(("level", "number"), NUMBERS)
def test_the_answer_as_it_is_shown_counts_as_right(level, number):
    """Three figures in any units are near enough."""
    made = task(level, number)
    for units in (Units(), Units(length="in", torque="lbf*ft", force="lbf", mass="lb")):
        typed = str(show(made.answer, made.unit, units))
        assert is_right(made, reader_for(units)(typed, made.unit)), typed


def test_figures_of_the_trade():
    """Chain 60 has 3/4 in pitch; a class 10 relay at twice its setting trips in 155 s."""
    answers = {made.code: made for level, number in NUMBERS for made in [task(level, number)]}
    assert len(answers) == sum(len(makers) for makers in MAKERS.values())
    chains = [task(1, number) for number in range(6, 60, 6)]
    assert {round(made.answer, 3) for made in chains if "stamped 60" in made.question} <= {19.05}
    trips = [task(3, number) for number in range(6, 120, 6)]
    assert {round(made.answer, 1) for made in trips if "carries 2 times" in made.question} == {155.3}
