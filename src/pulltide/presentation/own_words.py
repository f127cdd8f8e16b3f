"""The machine's own words as a table: a column for the ideal speed and for each setting of the drive."""

from __future__ import annotations

from dataclasses import dataclass

from pulltide.core.line_result import LineResult, PlanResult
from pulltide.core.need import Need
from pulltide.core.needs.contract import POWER, Saying
from pulltide.core.own_words import Said, own_words
from pulltide.quantities import Units, show
from pulltide.words import filled, say


@dataclass(frozen=True, slots=True)
class Column:
    """One speed: what gives it, and whether that is in use."""

    title: str
    in_use: bool


@dataclass(frozen=True, slots=True)
class WordsTable:
    """Rows of a label and one text a column; ``fixed`` is the same at every speed."""

    columns: tuple[Column, ...]
    rows: tuple[tuple[str, tuple[str, ...]], ...]
    fixed: tuple[tuple[str, str], ...]


def words_table(need: Need, result: PlanResult | None, units: Units) -> WordsTable | None:
    """The table; None without a worksheet or where it says nothing."""
    asked, said = need.requirement(), own_words(need, result)
    if asked is None:
        return None
    shown = [item for one in said for item in one.sayings if _is_shown(item)]
    labels: dict[str, str] = {}
    for item in shown:
        labels.setdefault(item.code, item.label)
    rows = tuple(
        (_capital(filled(label, units)), tuple(_text(one, code, units) for one in said))
        for code, label in labels.items()
    )
    fixed = tuple(
        (_capital(filled(item.label, units)), str(show(item.value, item.unit, units)))
        for item in asked.own
        if _is_shown(item)
    )
    if not rows:
        return WordsTable((), (), fixed) if fixed else None
    speeds = (say("Speed"), tuple(str(show(one.speed_rpm, "rpm", units)) for one in said))
    return WordsTable(tuple(_column(result, one) for one in said), (speeds, *rows), fixed)


def _column(result: PlanResult | None, said: Said) -> Column:
    if result is None or said.line is None:
        return Column(say("Ideal"), False)
    return Column(setting_words(result, said.line) or say("Built"), _is_in_use(result, said.line))


def setting_words(result: PlanResult, line: LineResult) -> str:
    """Step of each link that has several, and how the source is set."""
    steps = [str(step) for step, count in zip(line.setting, result.step_counts, strict=True) if count > 1]
    source = result.positions[line.position - 1] if len(result.positions) > 1 else ""
    return ", ".join(part for part in (say("step {steps}", steps="/".join(steps)) if steps else "", source) if part)


def _is_in_use(result: PlanResult, line: LineResult) -> bool:
    return (line.setting, line.position) == (result.chosen.setting, result.chosen.position)


def _is_shown(item: Saying) -> bool:
    return item.value is not None and item.code != POWER


def _text(said: Said, code: str, units: Units) -> str:
    values = [item for item in said.sayings if item.code == code and item.value is not None]
    return str(show(values[0].value, values[0].unit, units)) if values else "–"


def _capital(text: str) -> str:
    return text[:1].upper() + text[1:]
