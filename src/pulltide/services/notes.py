"""Notes and questions of a plan: written, answered, taken away, and carried along when stages move."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date

from pulltide.core.errors import InputError, InputErrors
from pulltide.core.pinned import MAX_PINNED
from pulltide.services.change import Change, Document
from pulltide.words import say


def pin(plan: Document, change: Change) -> None:
    """A note where ``kind`` says: ``stage-2``, or ``stage-2 CODE`` of a finding."""
    if len(plan["pinned"]) >= MAX_PINNED:
        raise InputErrors(
            [
                InputError(
                    say("Notes"),
                    MAX_PINNED + 1,
                    say("are too many"),
                    accepted=say("up to {max_pinned}", max_pinned=MAX_PINNED),
                )
            ]
        )
    at, _, finding = change.kind.partition(" ")
    kind, _, number = at.partition("-")
    there = {"stage": len(plan["links"]), "shaft": len(plan["links"]) + 1}.get(kind, 0)
    if at != "plan" and not (number.isdecimal() and 1 <= int(number) <= there):
        raise InputErrors([InputError(say("Where"), at[:20], say("is not in this plan"))])
    note = {
        "at": at,
        "finding": finding,
        "text": change.part.strip(),
        "by": change.by.strip(),
        "on": date.today().isoformat(),
        "is_question": change.question,
    }
    plan["pinned"] = [*plan["pinned"], note]


def answer(plan: Document, change: Change) -> None:
    """The answer in ``part`` to the question at ``index``."""
    _at(plan, change.index).update(answer=change.part.strip(), answered_by=change.by.strip())


def unpin(plan: Document, change: Change) -> None:
    """Take a note away."""
    _at(plan, change.index)
    plan["pinned"] = [note for place, note in enumerate(plan["pinned"]) if place != change.index]


def moved(plan: Document, kind: str, number: Callable[[int], int | None]) -> None:
    """Let notes of a kind of place follow it; what was pinned to one that is gone stays with the plan."""
    for note in plan["pinned"]:
        what, _, place = str(note["at"]).partition("-")
        if what == kind and place.isdecimal():
            now = number(int(place))
            note["at"] = "plan" if now is None else f"{kind}-{now}"


def _at(plan: Document, index: int) -> Document:
    if not 0 <= index < len(plan["pinned"]):
        raise InputErrors(
            [
                InputError(
                    say("Note"), index + 1, say("does not exist"), accepted=say("1 to {plan}", plan=len(plan["pinned"]))
                )
            ]
        )
    note: Document = plan["pinned"][index]
    return note
