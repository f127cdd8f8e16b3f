"""How a number came about, as data: formula, numbers put in, value, unit, source."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import asdict, dataclass
from typing import Any

from pulltide.core.findings import Finding, Source
from pulltide.core.formula import written_value


@dataclass(frozen=True, slots=True)
class Step:
    """One line of a working. ``inputs`` maps each symbol of ``formula`` to its number, in order.

    ``given`` is what the core worked out. The value that is shown comes from the formula as it is written wherever it
    can be read, so that the two lines of a step never differ; that both agree is tested.
    """

    name: str
    symbol: str
    formula: str
    inputs: Mapping[str, float]
    given: float
    unit: str
    source: Source
    note: str = ""

    @property
    def value(self) -> float:
        """What the formula gives for its numbers; what was given where it holds words."""
        found = written_value(self.formula, self.inputs)
        return self.given if found is None else found


def step_report(step: Step) -> dict[str, Any]:
    """A step as plain data."""
    return {
        "name": step.name,
        "symbol": step.symbol,
        "formula": step.formula,
        "inputs": dict(step.inputs),
        "value": step.value,
        "unit": step.unit,
        "source": asdict(step.source),
        "note": step.note,
    }


@dataclass(frozen=True, slots=True)
class Result:
    """One figure that a formula gives, by the name a program finds it by; None while unknown."""

    key: str
    name: str
    value: float | None
    unit: str


@dataclass(frozen=True, slots=True)
class Working:
    """An ordered list of steps; the last one is the answer. ``others`` and ``findings`` are what comes with it."""

    title: str
    steps: tuple[Step, ...]
    others: tuple[Working, ...] = ()
    findings: tuple[Finding, ...] = ()
    figures: tuple[Result, ...] = ()

    @property
    def value(self) -> float:
        """The answer."""
        return self.steps[-1].value

    @property
    def results(self) -> tuple[Result, ...]:
        """Every figure it gives: its own list, or each step by its symbol."""
        return self.figures or tuple(Result(step.symbol, step.name, step.value, step.unit) for step in self.steps)

    @property
    def unit(self) -> str:
        """Unit of the answer."""
        return self.steps[-1].unit


def made_of(
    name: str, written: str, value: float, unit: str, source: Source, /, *, note: str = "", **put_in: float
) -> Callable[[], Working]:
    """A working of one step, made when asked: ``written`` is symbol = formula, the rest are the numbers put in."""
    symbol, _, formula = written.partition(" = ")
    return lambda: Working(name, (Step(name, symbol, formula, put_in, value, unit, source, note),))
