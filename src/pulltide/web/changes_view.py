"""Every plan at a glance, with what the last change did to it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from pulltide.core.line_result import PlanResult
from pulltide.core.machine import Machine
from pulltide.core.need import Need
from pulltide.presentation.words import counted
from pulltide.quantities import Units, show
from pulltide.services.comparing import PlanChange, Standing, plan_changes
from pulltide.words import say

#: Figures of the need that a worksheet gives, with the words for them.
NEED_FIGURES = (
    ("speed_ideal_rpm", "ideal speed", "rpm"),
    ("running_torque_nm", "running torque", "N*m"),
    ("peak_torque_nm", "peak torque", "N*m"),
    ("breakaway_torque_nm", "breakaway torque", "N*m"),
    ("holding_torque_nm", "torque to hold", "N*m"),
)


@dataclass(frozen=True, slots=True)
class Cell:
    """A figure now, and what it was before the last change where that differs."""

    now: str
    before: str = ""


@dataclass(frozen=True, slots=True)
class PlanLine:
    """One plan: name, state, last shaft, motor, tightest part, findings."""

    name: str
    state: str
    cells: tuple[Cell, ...]


@dataclass(frozen=True, slots=True)
class ChangesView:
    """All plans, and the figures of the need that the last change moved."""

    plans: tuple[PlanLine, ...]
    moved: tuple[str, ...]
    label: str


def changes_view(
    machine: Machine, before: Machine | None, label: str, solved: Mapping[int, PlanResult | None], units: Units
) -> ChangesView:
    """Compare a machine with itself before its last change, whose ``label`` names it."""
    rows = tuple(_line(change, units) for change in plan_changes(machine, before, solved))
    moved = _moved(before.need, machine.need, units) if before is not None else ()
    return ChangesView(rows, moved, label if moved or any(cell.before for row in rows for cell in row.cells) else "")


def _line(change: PlanChange, units: Units) -> PlanLine:
    now, before = _words(change.now, units), _words(change.before, units) if change.before else ()
    cells = tuple(
        Cell(text, before[index] if before and before[index] != text else "") for index, text in enumerate(now)
    )
    state = "fix" if change.now.to_fix else "weigh" if change.now.to_weigh else "clear" if change.now.solved else "note"
    return PlanLine(change.name, state, cells)


def _words(standing: Standing, units: Units) -> tuple[str, ...]:
    if not standing.solved:
        return (say("no motor yet"), "", "", "")
    return (
        str(show(standing.last_speed_rpm, "rpm", units)),
        str(show(standing.motor_load, "share", units)),
        str(show(standing.tightest_use, "share", units)),
        _open(standing),
    )


def _moved(old: Need, new: Need, units: Units) -> tuple[str, ...]:
    moved = []
    for name, words, unit in NEED_FIGURES:
        before, now = getattr(old, name), getattr(new, name)
        if before != now:
            moved.append(f"{say(words)} {show(before, unit, units)} → {show(now, unit, units)}")
    return tuple(moved)


def _open(standing: Standing) -> str:
    """Problems and warnings of a plan, those there are."""
    counts = ((standing.to_fix, "problem"), (standing.to_weigh, "warning"))
    return ", ".join(counted(number, what) for number, what in counts if number) or say("no problems")
