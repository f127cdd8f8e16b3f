"""Pieces that several places show: a row of a form, a tile with one figure, a kind to choose, how full a limit is."""

from __future__ import annotations

from dataclasses import dataclass

from pulltide.core.transmission import AnyResult
from pulltide.quantities import Units, show
from pulltide.web import forms
from pulltide.web.selection import Figured
from pulltide.words import say

#: From this use on a limit is nearly full. Common practice, no source.
NEARLY_FULL = 0.85


@dataclass(frozen=True, slots=True)
class Row:
    """One input with its origin, and the ends of its band where it has one."""

    field: forms.FormField
    low: forms.FormField | None = None
    high: forms.FormField | None = None


@dataclass(frozen=True, slots=True)
class Tile:
    """One figure of the result: big number, and what stands under it."""

    item: Figured
    under: str


@dataclass(frozen=True, slots=True)
class KindChoice:
    """One worksheet to choose."""

    kind: str
    title: str
    chosen: bool


def use_number(use: float, units: Units) -> str:
    """How much of a limit is used, as the post's number says it."""
    return str(show(use if use > 0.1 else round(use, 2), "share", units)) if use < 100 else say("far over")


def use_state(use: float | None) -> str:
    """State of a limit by its use; unknown is a note."""
    if use is None:
        return "note"
    return "fix" if use > 1 else "weigh" if use > NEARLY_FULL else "clear"


def other_rules(link: AnyResult) -> list[tuple[str, float | None]]:
    """Use of the main limit under every margin rule."""
    main = link.limits[0] if link.limits else None
    if main is None or main.use is None or not link.design.chosen_nm:
        return []
    return [(rule, main.use * value / link.design.chosen_nm) for rule, value in link.design.by_rule_nm.items()]
