"""What a page of readings corrects in the plan, what that changes in every plan, and what was corrected before."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from pulltide.core.comparison import PlanFigures
from pulltide.core.errors import InputErrors
from pulltide.core.run_log.log import Correctable, Taken
from pulltide.presentation.log_words import hours_run
from pulltide.presentation.words import counted
from pulltide.quantities import Units, show
from pulltide.services.correcting import corrected, effects, offered
from pulltide.web.places.contract import Context
from pulltide.web.tiles import use_number
from pulltide.words import running as said
from pulltide.words import say

UNITS: dict[Correctable, str] = {
    "load": "N*m",
    "breakaway": "N*m",
    "tension": "N",
    "full_load_speed": "rpm",
    "friction": "N*m",
    "loss": "N*m",
}
#: The address asks for what it would change.
ASKED = "correct"


@dataclass(frozen=True, slots=True)
class CorrectedRow:
    """One figure: its name, as planned, as measured, and by how much that is off."""

    name: str
    planned: str
    measured: str
    off: str


@dataclass(frozen=True, slots=True)
class ChangedPlan:
    """One plan: each figure as it is and would be, and whether they differ."""

    name: str
    cells: tuple[tuple[str, str, bool], ...]


@dataclass(frozen=True, slots=True)
class CorrectedView:
    """``plans`` is empty until it is asked what it changes; ``ask`` is the address that asks."""

    rows: tuple[CorrectedRow, ...]
    plans: tuple[ChangedPlan, ...]
    columns: tuple[str, ...]
    ask: str
    taken: tuple[str, ...]


def corrected_view(context: Context, index: int) -> CorrectedView:
    """What stands below a page of readings."""
    units, plan = context.units, context.selection.plan
    try:
        found = offered(context.machine, plan, index) if index >= 0 else ()
    except InputErrors:
        found = ()
    plans: tuple[ChangedPlan, ...] = ()
    if found and context.selection.wish == ASKED:
        shown = effects(context.machine, corrected(context.machine, plan, index), context.catalog)
        plans = tuple(ChangedPlan(one.before.plan.name, tuple(_cells(one.before, one.after, units))) for one in shown)
    return CorrectedView(
        rows=tuple(
            CorrectedRow(
                _name(one.what, one.at),
                str(show(one.planned, UNITS[one.what], units)),
                _measured(one.what, one.measured, one.half, units),
                _off(one.factor),
            )
            for one in found
        ),
        plans=plans,
        columns=(say("Last shaft"), say("Motor load"), say("Tightest part"), say("Findings")),
        ask=context.selection.to(at=f"visit-{index + 1}", wish=ASKED),
        taken=tuple(_taken(one, units) for one in context.machine.log.taken),
    )


def _name(what: Correctable, at: str) -> str:
    words = said(f"corrected.{what}")
    part, _, number = at.partition("-")
    where = say("shaft {number}", number=number) if part == "shaft" else say("stage {number}", number=number)
    return f"{words}, {where}" if at else words


def _measured(what: Correctable, value: float, half: float, units: Units) -> str:
    there, around = show(value, UNITS[what], units), show(half, UNITS[what], units)
    return f"{there.number} ± {around}"


def _off(factor: float) -> str:
    percent = 100 * (factor - 1)
    if abs(percent) < 0.5:
        return say("as planned")
    size = f"{abs(percent):.0f}"
    return say("{percent} % more", percent=size) if percent > 0 else say("{percent} % less", percent=size)


def _taken(one: Taken, units: Units) -> str:
    unit = UNITS[one.what]
    when = " · ".join(filter(None, (one.day or "", hours_run(one.hours) if one.hours is not None else "")))
    then, now = show(one.was, unit, units), _measured(one.what, one.now, one.half, units)
    return f"{when + ': ' if when else ''}{_name(one.what, one.at)} {then} → {now}"


def _cells(before: PlanFigures, after: PlanFigures, units: Units) -> Iterator[tuple[str, str, bool]]:
    for one, other in zip(_figures(before, units), _figures(after, units), strict=True):
        yield one, other, one != other


def _figures(one: PlanFigures, units: Units) -> Iterator[str]:
    yield "–" if one.last_speed_rpm is None else str(show(one.last_speed_rpm, "rpm", units))
    yield "–" if one.motor_load is None else use_number(one.motor_load, units)
    yield "–" if one.tightest_use is None else use_number(one.tightest_use, units)
    counts = [counted(count, what) for count, what in ((one.problems, "problem"), (one.warnings, "warning")) if count]
    yield ", ".join(counts) or "none"
