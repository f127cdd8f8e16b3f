"""A working as it is read: formula, the numbers put in, the value in the core's unit and in the person's own."""

from __future__ import annotations

import re
from dataclasses import dataclass, replace

from markupsafe import Markup

from pulltide.core.working import Step, Working
from pulltide.presentation.mathml import set_formula
from pulltide.presentation.words import cited
from pulltide.quantities import Units, plain_number, show
from pulltide.words import filled


@dataclass(frozen=True, slots=True, kw_only=True)
class StepView:
    """One line of a working."""

    name: str
    formula: str
    mathematics: Markup
    put_in: str
    value: str
    source: str
    note: str


@dataclass(frozen=True, slots=True)
class WorkingView:
    """A whole working."""

    title: str
    steps: tuple[StepView, ...]


CORE = Units()
#: A blank between two factors: once they are numbers, the multiplication has to be written.
BESIDE = re.compile(r"(?<=[0-9²³)π]) (?=[0-9(π√]|sin|cos)")


def working_view(working: Working, units: Units) -> WorkingView:
    """Put a working in words."""
    return WorkingView(filled(working.title, units), tuple(_step(step, units) for step in working.steps))


def substituted(step: Step) -> str:
    """The formula with numbers for its symbols; where a symbol is not in the formula, a list of what went in."""
    if not step.inputs:
        return ""
    names = sorted(step.inputs, key=len, reverse=True)
    pattern = "|".join(re.escape(name) for name in names)
    standing_alone = rf"(?<![A-Za-zθηγβ_0-9])({pattern})(?![A-Za-zθ_0-9'])"
    text, count = re.subn(standing_alone, lambda match: plain_number(step.inputs[match[1]], 4), step.formula)
    if count == 0 or "solved" in step.formula or len(step.formula) > 62:
        return ", ".join(f"{name} = {plain_number(value, 4)}" for name, value in step.inputs.items())
    return BESIDE.sub(" · ", text)


def _step(step: Step, units: Units) -> StepView:
    exact = str(show(step.value, step.unit, CORE)) if step.unit != "share" else plain_number(step.value, 4)
    own = str(show(step.value, step.unit, units))
    value = f"{step.symbol} = {exact}"
    if step.unit not in ("", "share") and own != exact:
        value += f" = {own}"
    formula = "" if step.formula == "as entered" else f"{step.symbol} = {filled(step.formula, units)}"
    name, note = filled(step.name, units), filled(step.note, units)
    mathematics = set_formula(step.symbol, step.formula, step.inputs) if formula else Markup("")
    return StepView(
        name=name,
        formula=formula,
        mathematics=mathematics,
        put_in=substituted(replace(step, formula=filled(step.formula, units))),
        value=value,
        source=cited(step.source),
        note=note,
    )
