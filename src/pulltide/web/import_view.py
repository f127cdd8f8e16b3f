"""A file that matches a machine on the floor: both side by side, and what can be done."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from pulltide.core.machine import Machine
from pulltide.quantities import Units, show
from pulltide.services.machines import StoredMachine
from pulltide.services.matching import MAX_TOLD, FieldDifference, differences
from pulltide.words import choice, say


@dataclass(frozen=True, slots=True)
class DifferenceLine:
    """One field in words: where, what, here, in the file."""

    place: str
    title: str
    here: str
    there: str


@dataclass(frozen=True, slots=True)
class ImportView:
    """The machine that is there, when it was last changed, and every difference; ``more`` are not told."""

    machine_id: str
    version: int
    name: str
    changed_at: str
    lines: tuple[DifferenceLine, ...]
    more: int


def import_view(machine: Machine, match: StoredMachine, units: Units) -> ImportView:
    """Put the choice in words."""
    found = differences(match.machine, machine)
    return ImportView(
        match.id,
        match.version,
        match.machine.name,
        match.updated_at.astimezone().strftime("%b %-d, %Y, %H:%M"),
        tuple(difference_line(item, units) for item in found[:MAX_TOLD]),
        max(len(found) - MAX_TOLD, 0),
    )


def difference_line(item: FieldDifference, units: Units) -> DifferenceLine:
    """One difference in words."""
    return DifferenceLine(item.place, item.title, *(_said(v, item.unit, units) for v in (item.here, item.there)))


def _said(value: Any, unit: str, units: Units) -> str:
    if value is None:
        return say("not entered")
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, float):
        return str(show(value, unit, units))
    return choice(value) if isinstance(value, str) else str(value)
