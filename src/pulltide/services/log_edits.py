"""Edits of a machine's run log, as raw data: visits with their readings, and upkeep that was done."""

from __future__ import annotations

from datetime import date
from typing import Any

from pulltide.core.errors import InputError, InputErrors
from pulltide.core.run_log.instruments import READS
from pulltide.core.run_log.log import MAX_READINGS, MAX_VISITS, MAX_WORKS
from pulltide.core.run_log.upkeep import TASKS
from pulltide.words import say

Log = dict[str, Any]


def _refused(field: str, given: object, reason: str, accepted: str = "") -> InputErrors:
    return InputErrors([InputError(field, given, reason, accepted=accepted)])


def add_visit(log: Log) -> None:
    """A new page of readings, for today, at the hours of the last; the load is for the person to say."""
    visits = log["visits"]
    if len(visits) >= MAX_VISITS:
        raise _refused(
            say("Readings"),
            len(visits) + 1,
            say("are too many"),
            say("up to {max_visits} pages", max_visits=MAX_VISITS),
        )
    last = visits[-1] if visits else {}
    visits.append({"hours": last.get("hours"), "day": date.today().isoformat(), "air_c": last.get("air_c")})


def remove_visit(log: Log, index: int) -> None:
    """Take a page of readings out."""
    _visit(log, index)
    del log["visits"][index]


def _visit(log: Log, index: int) -> dict[str, Any]:
    visits = log["visits"]
    if not 0 <= index < len(visits):
        raise _refused(
            say("Readings"),
            index + 1,
            say("do not exist"),
            say("1 to {visits}", visits=len(visits)) if visits else say("none yet"),
        )
    found: dict[str, Any] = visits[index]
    return found


def add_reading(log: Log, plan: dict[str, Any], index: int, named: str, text: str) -> None:
    """Write a reading down: ``strum@link-1``, or with its instrument ``speed@shaft-2@watch``, and what was typed.

    One of the same thing is taken again; the first of a page says which line it was read on.
    """
    visit, (kind, place) = _visit(log, index), _parted(named)
    at, instrument = _parted(place)
    if kind not in READS:
        raise _refused(say("Reading"), kind, say("is not known"), ", ".join(READS))
    if not text.strip():
        raise _refused(say("Reading"), "", say("is empty"), say("a number, with its unit or without"))
    readings = [one for one in visit.get("readings", ()) if (one.get("kind"), one.get("at")) != (kind, at)]
    if len(readings) >= MAX_READINGS:
        raise _refused(
            say("Readings"),
            len(readings) + 1,
            say("are too many"),
            say("up to {max_readings}", max_readings=MAX_READINGS),
        )
    if not visit.get("readings"):
        visit["line"] = ",".join(str(link.get("kind", "")) for link in plan["links"])
    visit["readings"] = [*readings, {"kind": kind, "at": at, "value": text.strip(), "instrument": instrument}]


def _parted(named: str) -> tuple[str, str]:
    kind, _, at = named.partition("@")
    return kind, at


def remove_reading(log: Log, index: int, named: str) -> None:
    """Take a reading out."""
    visit, (kind, at) = _visit(log, index), _parted(named)
    visit["readings"] = [one for one in visit.get("readings", ()) if (one.get("kind"), one.get("at")) != (kind, at)]


def toggle_noticed(log: Log, index: int, what: str) -> None:
    """Note something that needs no instrument, or take it back."""
    visit = _visit(log, index)
    noticed = list(visit.get("noticed", ()))
    visit["noticed"] = [one for one in noticed if one != what] if what in noticed else [*noticed, what]


def done(log: Log, named: str, hours: str) -> None:
    """Upkeep done: ``set_tension@link-1`` at so many hours, today."""
    task, at = _parted(named)
    if task not in TASKS:
        raise _refused(say("Task"), task, say("is not known"), ", ".join(TASKS))
    if len(log["works"]) >= MAX_WORKS:
        raise _refused(
            say("Upkeep done"), len(log["works"]) + 1, say("is too long"), say("up to {max_works}", max_works=MAX_WORKS)
        )
    log["works"].append({"task": task, "at": at, "hours": hours.strip() or 0, "day": date.today().isoformat()})


def undone(log: Log, index: int) -> None:
    """Take an entry of upkeep back."""
    if not 0 <= index < len(log["works"]):
        raise _refused(say("Upkeep done"), index + 1, say("does not exist"))
    del log["works"][index]
