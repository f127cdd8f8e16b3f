"""Notes and questions of a plan in words, and the places where one can be pinned."""

from __future__ import annotations

from dataclasses import dataclass

from pulltide.core.findings import Finding, Severity
from pulltide.presentation.words import counted, finding_line
from pulltide.web.places.contract import Context
from pulltide.words import say

#: A finding's fact in a list of places is cut after so many letters.
MAX_LETTERS = 60


@dataclass(frozen=True, slots=True)
class NoteRow:
    """One note: where it is pinned and where that leads, who wrote it, whether it is an open question."""

    index: int
    where: str
    address: str
    text: str
    signed: str
    is_open: bool
    answer: str


@dataclass(frozen=True, slots=True)
class Notes:
    """All notes of a plan, open questions first; ``places`` are value and words of where one can go."""

    rows: tuple[NoteRow, ...]
    open_count: int
    open_words: str
    places: tuple[tuple[str, str], ...]


def notes_view(context: Context) -> Notes:
    """Put the notes of the plan in words."""
    found = {finding.code: finding for finding in _found(context)}
    rows = tuple(_row(context, index, found) for index in range(len(context.plan.pinned)))
    ordered = tuple(sorted(rows, key=lambda row: not row.is_open))
    open_count = sum(row.is_open for row in rows)
    return Notes(ordered, open_count, counted(open_count, "open question"), tuple(_places(context)))


def _found(context: Context) -> tuple[Finding, ...]:
    findings = context.proved.findings if context.proved is not None else ()
    return tuple(finding for finding in findings if finding.severity is not Severity.CLEAR)


def _row(context: Context, index: int, found: dict[str, Finding]) -> NoteRow:
    note = context.plan.pinned[index]
    about = found.get(note.finding)
    where = _words(context, note.at)
    if note.finding:
        where += f" · {_fact(about, context)}" if about is not None else say(" · a finding that is gone")
    answer = f"{note.answer} ({note.answered_by})" if note.answer else ""
    opened = "" if note.at == "plan" else note.at.replace("stage", "link")
    address = context.selection.to("train", at=opened)
    return NoteRow(index, where, address, note.text, f"{note.by}, {note.on}", note.is_open, answer)


def _words(context: Context, at: str) -> str:
    kind, _, number = at.partition("-")
    if kind == "shaft" and number.isdecimal() and int(number) <= len(context.names):
        return context.names[int(number) - 1]
    return say("The plan") if kind == "plan" else f"{kind.capitalize()} {number}"


def _fact(finding: Finding, context: Context) -> str:
    fact = finding_line(finding, context.units).fact
    return fact if len(fact) <= MAX_LETTERS else f"{fact[: MAX_LETTERS - 1]}…"


def _places(context: Context) -> list[tuple[str, str]]:
    links = len(context.plan.links)
    names = [("plan", say("the plan")), *((f"stage-{k}", say("stage {k}", k=k)) for k in range(1, links + 1))]
    names += [(f"shaft-{k}", _words(context, f"shaft-{k}")) for k in range(1, links + 2)] if links else []
    places = dict.fromkeys((finding.code, _place(finding)) for finding in _found(context))
    facts = {finding.code: _fact(finding, context) for finding in reversed(_found(context))}
    return [*names, *((f"{at} {code}", say("finding: {facts}", facts=facts[code])) for code, at in places)]


def _place(finding: Finding) -> str:
    """Where a finding is pinned: at its stage or shaft, else at the plan."""
    kind, _, number = finding.subject.partition("-")
    at = {"link": "stage", "shaft": "shaft"}.get(kind)
    return f"{at}-{number}" if at and number.isdecimal() else "plan"
