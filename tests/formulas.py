"""Whether the formula that a step shows gives the value that it shows."""

from __future__ import annotations

from collections.abc import Mapping

import pytest

from pulltide.core.formula import read, value_of, without_remark
from pulltide.core.working import Step

#: Remarks that may change the value of the formula before them.
BOUNDS = ("at most", "at least", "never", "whole", "least", "odd", "worm also", "up to", "below", "with a fan", "1000")


def evaluate(formula: str, names: Mapping[str, float]) -> float | None:
    """Value of a written formula for the numbers put in; None where it holds words."""
    found = read(formula, names)
    return None if found is None else value_of(found, names)


def agrees(step: Step) -> bool | None:
    """Whether the written formula gives the value; None where it holds words, or a remark that bounds it."""
    formula, remark = without_remark(step.formula)
    found = evaluate(formula, step.inputs)
    if found is None:
        return None
    if found == pytest.approx(step.given, rel=2e-4, abs=1e-9):
        return True
    return None if any(word in remark for word in BOUNDS) else False
