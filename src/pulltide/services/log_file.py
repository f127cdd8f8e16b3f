"""A run log as a file: readings as CSV, out and in; upkeep as a calendar."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from datetime import date, datetime, timedelta
from typing import Any
from zlib import crc32

from icalendar import Calendar, Event

from pulltide.core.errors import InputError, InputErrors
from pulltide.core.machine import Machine, Plan
from pulltide.core.run_log.instruments import READS
from pulltide.core.run_log.judging import line_kinds
from pulltide.core.run_log.log import Visit
from pulltide.core.run_log.upkeep import Due
from pulltide.quantities import Units
from pulltide.services.lists.sheet import RefusedFile, read_sheet
from pulltide.services.lists.writing import table_csv
from pulltide.services.raw_machines import MAX_FAULTS, read_machine
from pulltide.words import say

OF_A_PAGE = ("hours", "day", "load", "air", "healthy")
HEADER = (*OF_A_PAGE, "reading", "where", "value", "instrument")
NEEDED = ("reading", "where", "value")
#: Hours a machine is taken to run in a day where its duty does not say: enough to be reminded in time.
USUAL_HOURS_A_DAY = 2.0
#: Tasks farther off than this are not put into a calendar [days].
MAX_DAYS = 400


def readings_csv(machine: Machine) -> bytes:
    """Every reading with its page's hours, day, load and air; values in the program's own units."""
    rows = (
        (*_page_cells(visit), one.kind, one.at, _value(one), one.instrument)
        for visit in machine.log.visits
        for one in visit.readings
    )
    return table_csv(HEADER, (["" if cell is None else cell for cell in row] for row in rows))


def _page_cells(visit: Visit) -> tuple[object, ...]:
    healthy = "yes" if visit.healthy else "no"
    return visit.hours, visit.day, visit.load, _with_unit(visit.air_c, "degC"), healthy


def _value(reading: Any) -> str:
    return _with_unit(float(reading.value), READS[reading.kind])


def _with_unit(value: float | None, unit: str) -> str:
    return "" if value is None else f"{value:g} {unit}".strip()


def with_readings(machine: Machine, plan: Plan, content: bytes, name: str, units: Units) -> Machine:
    """The machine with the readings of a file added to its log, rows of the same hours and day on one page.

    Raises InputErrors, naming every row that cannot be read; nothing is then added.
    """
    try:
        sheet = read_sheet(content, name)
    except RefusedFile as refused:
        raise InputErrors([InputError(say("File"), name, str(refused))]) from refused
    columns = {head.strip().lower(): number for number, head in enumerate(sheet.header)}
    missing = [head for head in NEEDED if head not in columns]
    if missing:
        raise InputErrors(
            [
                InputError(
                    say("Header"), "", say("lacks {missing}", missing=", ".join(missing)), accepted=", ".join(HEADER)
                )
            ]
        )
    document = machine.model_dump(mode="json")
    before = len(document["log"]["visits"])
    lines = _add_rows(document["log"]["visits"], sheet.rows, columns, line_kinds(plan))
    try:
        return read_machine(document, units)
    except InputErrors as refused:
        raise InputErrors([_on_line(error, lines, before) for error in refused.errors[:MAX_FAULTS]]) from refused


Row = tuple[int, tuple[str, ...]]


def _add_rows(visits: list[dict[str, Any]], rows: Sequence[Row], columns: dict[str, int], line: str) -> dict[str, int]:
    """Add pages for the rows; gives the line of the file that stands behind each path."""
    pages: dict[tuple[str, ...], dict[str, Any]] = {}
    lines: dict[str, int] = {}
    for number, cells in rows:
        said = {head: cells[column].strip() for head, column in columns.items() if column < len(cells)}
        key = tuple(said.get(head, "") for head in OF_A_PAGE)
        if key not in pages:
            pages[key] = {**_page(key), "line": line, "readings": []}
            visits.append(pages[key])
            lines[f"log.visits.{len(visits) - 1}"] = number
        index = next(k for k, visit in enumerate(visits) if visit is pages[key])
        readings = pages[key]["readings"]
        lines[f"log.visits.{index}.readings.{len(readings)}"] = number
        reading = {"kind": said["reading"].lower(), "at": said["where"].lower(), "value": said["value"]}
        readings.append(reading | {"instrument": said.get("instrument", "")})
    return lines


def _page(key: tuple[str, ...]) -> dict[str, Any]:
    hours, day, load, air, healthy = key
    made = {"hours": hours or None, "day": day or None, "load": load.lower() or "unknown", "air_c": air or None}
    return {**made, "healthy": healthy.lower() or "no"}


def _on_line(error: InputError, lines: dict[str, int], before: int) -> InputError:
    """A fault of the document as one of the file: at its line."""
    found = [path for path in lines if error.path == path or error.path.startswith(f"{path}.")]
    where = say(", line {line}", line=lines[max(found, key=len)]) if found else ""
    return InputError(f"{error.field}{where}", error.given, error.reason, accepted=error.accepted)


def upkeep_calendar(machine: Machine, named: Iterable[tuple[Due, str]], today: date, made_at: datetime) -> bytes:
    """What is due, as days in a calendar file (RFC 5545): hours by how long the machine runs a day."""
    calendar = Calendar()
    calendar.add("prodid", "-//Pulltide Gear//run log//EN")
    calendar.add("version", "2.0")
    for due, words in named:
        for day in _days(machine, due, today):
            event = Event()
            event.add("uid", f"{due.task.code}-{due.at or 'machine'}-{crc32(machine.name.encode()):08x}@pulltide-gear")
            event.add("dtstamp", made_at)
            event.add("dtstart", day)
            event.add("dtend", day + timedelta(days=1))
            event.add("summary", f"{machine.name}: {words}")
            if due.at_h is not None:
                event.add("description", say("Due at {at:g} hours run.", at=round(due.at_h, 1)))
            calendar.add_component(event)
    return bytes(calendar.to_ical())


def _days(machine: Machine, due: Due, today: date) -> Iterator[date]:
    """The day on which a task comes due, if that can be told and is not far off."""
    found = [due.on] if due.on is not None else []
    if due.at_h is not None:
        a_day = machine.duty.hours_per_day or USUAL_HOURS_A_DAY
        left = max(due.at_h - (machine.log.hours or 0.0), 0.0) / a_day
        if left <= MAX_DAYS:
            found.append(today + timedelta(days=int(left)))
    if found:
        yield max(min(found), today)
