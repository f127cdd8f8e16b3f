"""The list of what could stand in a field of a stage, by what each would do."""

from __future__ import annotations

from dataclasses import dataclass
from math import isfinite

from pulltide.core.alternatives import Alternative, alternatives
from pulltide.presentation.words import counted
from pulltide.quantities import Units, show, show_for_edit
from pulltide.services.fields import NoSuchField, describe
from pulltide.web.places.contract import Context
from pulltide.web.tiles import use_state
from pulltide.words import filled, say

#: So many rows are shown at most, and at least; between them as many as this number of solved lines is enough for.
MAX_SHOWN, MIN_SHOWN, MAX_LINES = 40, 4, 120


@dataclass(frozen=True, slots=True, kw_only=True)
class PickRow:
    """One listed value and what the stage would be with it."""

    value: str
    words: str
    ratio: str
    last_speed: str
    center: str
    use: str
    state: str
    findings: str
    findings_state: str
    chosen: bool


@dataclass(frozen=True, slots=True)
class Picker:
    """The list for one field, nearest to the ideal speed first."""

    path: str
    title: str
    rows: tuple[PickRow, ...]
    more: int
    by_speed: bool
    index: int
    is_step: bool


def picker_for(context: Context) -> Picker | None:
    """The list that is open, or None where none is, or nothing is solved yet."""
    selection, line, result = context.selection, context.line, context.result
    kind, _, number = selection.at.partition("-")
    if line is None or result is None or not selection.pick or kind != "link" or not number.isdecimal():
        return None
    index = int(number) - 1
    if not 0 <= index < len(context.plan.links):
        return None
    path = f"plans.{selection.plan}.links.{index}.{selection.pick}"
    document = context.machine.model_dump(mode="json")
    shown = min(max(MAX_LINES // len(result.settings), MIN_SHOWN), MAX_SHOWN)
    try:
        title = describe(document, path).title
        found = alternatives(
            context.machine, context.plan, line, (index, selection.pick), context.catalog, solved=shown
        )
    except (NoSuchField, KeyError, IndexError, TypeError, ValueError, AttributeError):
        return None
    if not found:
        return None
    rows = tuple(_row(one, context.units) for one in found[:shown])
    by_speed = context.machine.need.aimed_rpm is not None
    is_step = selection.pick.startswith("steps.")
    return Picker(path, title, rows, max(len(found) - shown, 0), by_speed, index, is_step)


def _row(one: Alternative, units: Units) -> PickRow:
    use = one.use if one.use is None or isfinite(one.use) else 999.0
    return PickRow(
        value=one.value if isinstance(one.value, str) else show_for_edit(one.value, "mm", units),
        words=" · ".join(filled(chip, units) for chip in one.words),
        ratio=f"{one.ratio:.4g}",
        last_speed=str(show(one.last_speed_rpm, "rpm", units)),
        center="" if one.center_distance_mm is None else str(show(one.center_distance_mm, "mm", units)),
        use="?" if use is None else say("far over") if use > 10 else str(show(use, "share", units)),
        state=use_state(use),
        findings=_counted(one),
        findings_state="fix" if one.problems else "weigh" if one.warnings else "clear",
        chosen=one.chosen,
    )


def _counted(one: Alternative) -> str:
    said = [counted(number, what) for number, what in ((one.problems, "problem"), (one.warnings, "warning")) if number]
    return ", ".join(said)
