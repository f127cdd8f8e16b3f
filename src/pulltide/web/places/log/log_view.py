"""The Run log place: a page of readings, each on its strip; the verdict; earlier readings; upkeep."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date

from pulltide.core.bill import bill_of
from pulltide.core.errors import InputError
from pulltide.core.run_log.causes import NOTICED
from pulltide.core.run_log.diagnosis import Ranked
from pulltide.core.run_log.instruments import READS
from pulltide.core.run_log.judging import Page, line_kinds, page_of
from pulltide.core.run_log.log import Visit
from pulltide.core.run_log.meters import InductionMeters
from pulltide.core.run_log.of_line import running_of
from pulltide.core.run_log.running import Running
from pulltide.core.run_log.trend import trends
from pulltide.core.run_log.upkeep import Due, dues, location_of
from pulltide.presentation.log_charts import Line, Strip, history, strip, timeline
from pulltide.presentation.log_words import (
    Places,
    SaidRow,
    Verdict,
    band_text,
    cause_fits,
    cause_words,
    hours_run,
    load_words,
    next_words,
    row_words,
    trend_words,
    verdict,
    worth_reading,
)
from pulltide.presentation.painting import Picture
from pulltide.quantities import show
from pulltide.web import forms
from pulltide.web.places.contract import Context
from pulltide.web.places.log.corrected_view import CorrectedView, corrected_view
from pulltide.words import error_text, say
from pulltide.words import running as said

#: Fields of a page of readings, in order.
FIELDS = ("hours", "day", "load", "air_c", "healthy")
#: So many causes and readings stand in the table of what speaks for what; so many charts of earlier readings.
MAX_CAUSES, MAX_COLUMNS, MAX_CHARTS = 5, 4, 2
MARKS = {1: ("for", "●", "speaks for it"), -1: ("against", "⊘", "speaks against it"), 0: ("none", "–", "not told")}


@dataclass(frozen=True, slots=True)
class PageChoice:
    """One page of readings to turn to."""

    words: str
    address: str
    on: bool


@dataclass(frozen=True, slots=True)
class Row:
    """One reading: its words, its strip, the name it is edited and removed by, its field."""

    said: SaidRow
    strip: Strip | None
    named: str
    field: forms.FormField


@dataclass(frozen=True, slots=True)
class Option:
    """Something that can be read: the name it is written down by, its words, what is expected."""

    named: str
    words: str
    expected: str


@dataclass(frozen=True, slots=True)
class Listen:
    """Something that can be listened to, and how long."""

    named: str
    words: str
    seconds: int


@dataclass(frozen=True, slots=True)
class CauseLine:
    """One cause in the table: where, how likely, and what each reading says of it."""

    words: str
    where: str
    likely: str
    first: bool
    marks: tuple[tuple[str, str, str], ...]


@dataclass(frozen=True, slots=True)
class Toggle:
    """Something noticed, or not."""

    code: str
    words: str
    on: bool


@dataclass(frozen=True, slots=True)
class TaskLine:
    """One task of upkeep: words, when, state, its line of dots, the name it is written down by."""

    words: str
    where: str
    when: str
    state: str
    line: Line
    named: str


@dataclass(frozen=True, slots=True)
class PhotoLine:
    """A photo: where it is, where it is taken away, what is written below it."""

    address: str
    action: str
    caption: str
    signed: str
    removed: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class LogView:
    """The place; ``missing`` says what is needed before anything is expected."""

    missing: str
    pages: tuple[PageChoice, ...]
    index: int
    title: str
    fields: tuple[forms.FormField, ...]
    note: forms.FormField | None
    noticed: tuple[Toggle, ...]
    rows: tuple[Row, ...]
    kept: tuple[Row, ...]
    options: tuple[Option, ...]
    listens: tuple[Listen, ...]
    verdict: Verdict | None
    columns: tuple[str, ...]
    causes: tuple[CauseLine, ...]
    load: str
    nexts: tuple[str, ...]
    learned: bool
    charts: tuple[Picture, ...]
    trends: tuple[str, ...]
    tasks: tuple[TaskLine, ...]
    now_x: float
    now: str
    now_h: str
    plan_name: str
    photos: tuple[PhotoLine, ...]
    spares: tuple[tuple[str, int], ...]
    corrected: CorrectedView


def visit_index(context: Context) -> int:
    """The page of readings an address names, the latest by default; -1 where there is none."""
    _, _, number = context.selection.at.partition("visit-")
    last = len(context.machine.log.visits) - 1
    return min(int(number) - 1, last) if number.isdecimal() and int(number[:3]) > 0 else last


def log_view(context: Context) -> LogView:
    """Everything the place shows."""
    index = visit_index(context)
    places = Places(context.plan, context.names)
    running, missing = _running(context)
    page = None
    if not missing and index >= 0:
        page = page_of(context.machine, context.selection.plan, index)
    visit = context.machine.log.visits[index] if index >= 0 else None
    tasks, now_x = _tasks(context, running, places)
    found = page.diagnosis if page else None
    return LogView(
        missing=missing,
        pages=tuple(_pages(context, index)),
        index=index,
        title=_title(index, visit),
        fields=tuple(_field(context, index, name) for name in FIELDS) if visit else (),
        note=_field(context, index, "note") if visit else None,
        noticed=tuple(Toggle(code, said(f"noticed.{code}"), code in visit.noticed) for code in NOTICED)
        if visit
        else (),
        rows=tuple(_rows(context, page, index, places)),
        kept=tuple(_kept(context, index, page, places)),
        options=tuple(_options(context, page, visit, places)),
        listens=tuple(_listens(page, places)) if page else (),
        verdict=verdict(page, places, context.units) if page else None,
        columns=tuple(_columns(page, places)) if page else (),
        causes=tuple(_causes(page, places)) if page else (),
        load=load_words(found) if found else "",
        nexts=tuple(next_words(one, places) for one in worth_reading(found)[1:4]) if found else (),
        learned=bool(page and page.learned),
        charts=tuple(_charts(context, page, places)) if page else (),
        trends=_trends(context, running, places),
        tasks=tasks,
        now_x=now_x,
        now=hours_run(context.machine.log.hours or 0.0),
        now_h=f"{context.machine.log.hours or 0:g}",
        plan_name=context.plan.name,
        photos=tuple(_photos(context)),
        spares=tuple(_spares(context)),
        corrected=corrected_view(context, index),
    )


def _spares(context: Context) -> Iterator[tuple[str, int]]:
    """Parts of this plan that lie on the shelf, by their names, and how many."""
    named = {piece.designation for piece in bill_of(context.plan, context.catalog) if piece.designation}
    counts: dict[str, int] = {}
    for item in context.catalog.items:
        cells = dict(getattr(item.data, "cells", ()))
        if item.origin == "shelf" and cells.get("designation") in named:
            counts[cells["designation"]] = counts.get(cells["designation"], 0) + int(cells.get("on_hand") or 0)
    yield from sorted(counts.items())


def _photos(context: Context) -> Iterator[PhotoLine]:
    base = f"/machines/{context.stored.id}/photos"
    for one in context.photos.of(context.stored.id) if context.photos is not None else ():
        when = one.at.astimezone().strftime("%b %-d, %Y")
        signed = f"{one.author}, {when}" if one.author else when
        yield PhotoLine(f"{base}/{one.id}.jpg", f"{base}/{one.id}", one.caption, signed, one.removed)


def _running(context: Context) -> tuple[Running | None, str]:
    try:
        return running_of(context.machine, context.plan, context.line), ""
    except InputError as error:
        return None, error_text(error)


def _pages(context: Context, index: int) -> Iterator[PageChoice]:
    for number, visit in enumerate(context.machine.log.visits):
        words = (
            hours_run(visit.hours) if visit.hours is not None else visit.day or say("page {number}", number=number + 1)
        )
        yield PageChoice(words, context.selection.to(at=f"visit-{number + 1}"), number == index)


def _title(index: int, visit: Visit | None) -> str:
    if visit is None:
        return say("Readings, what they say, and what is due")
    parts = [say("Page {index}", index=index + 1), visit.day or "", said(f"load.{visit.load}")]
    return " · ".join(filter(None, parts))


def _field(context: Context, index: int, name: str) -> forms.FormField:
    document = context.machine.model_dump(mode="json", include={"log"})
    return forms.form_field(document, f"log.visits.{index}.{name}", context.units)


def _reading_field(context: Context, index: int, number: int) -> forms.FormField:
    document = context.machine.model_dump(mode="json", include={"log"})
    return forms.form_field(document, f"log.visits.{index}.readings.{number}.value", context.units)


def _numbers(context: Context, index: int) -> dict[tuple[str, str], int]:
    readings = context.machine.log.visits[index].readings
    return {(reading.kind, reading.at): number for number, reading in enumerate(readings)}


def _rows(context: Context, page: Page | None, index: int, places: Places) -> Iterator[Row]:
    if page is None:
        return
    numbers = _numbers(context, index)
    for judged in page.judged:
        field = _reading_field(context, index, numbers[judged.what, judged.at])
        words = row_words(judged, places, context.units)
        yield Row(words, strip(judged.value, judged.band), f"{judged.what}@{judged.at}", field)


def _kept(context: Context, index: int, page: Page | None, places: Places) -> Iterator[Row]:
    """Readings that are not judged: all of them where nothing can be."""
    if index < 0:
        return
    judged = {(one.what, one.at) for one in page.judged} if page else set()
    for number, reading in enumerate(context.machine.log.visits[index].readings):
        if (reading.kind, reading.at) in judged:
            continue
        value = str(show(float(reading.value), READS[reading.kind], context.units))
        words = SaidRow(
            what=said(f"what.{reading.kind}"),
            where=places.name(reading.at),
            how=said(f"how.{reading.kind}"),
            value=value,
            expected="",
            state="note",
            says=say("kept, not judged"),
            slip="",
        )
        yield Row(words, None, f"{reading.kind}@{reading.at}", _reading_field(context, index, number))


def _options(context: Context, page: Page | None, visit: Visit | None, places: Places) -> Iterator[Option]:
    """What can still be read on this page."""
    if page is None or visit is None:
        return
    there = {(reading.kind, reading.at) for reading in visit.readings}
    for key in page.running.predict({}):
        if key in there:
            continue
        words = f"{said(f'what.{key[0]}')}: {places.name(key[1])}"
        band = page.bands.get(key)
        yield Option(f"{key[0]}@{key[1]}", words, band_text(key[0], band, context.units) if band else "")


#: How long to record [s]: a pluck after a quiet second; a slow shaft many turns; a hum long enough for its side line.
PLUCK_S, TURNS_S, HUM_S = 3, 12, 20


def _listens(page: Page, places: Places) -> Iterator[Listen]:
    """What can be told by ear on this line."""
    expected = page.running.predict({})
    for what, at in expected:
        if what == "strum":
            yield Listen(f"strum@{at}", say("Belt plucked: {at}", at=places.name(at)), PLUCK_S)
    for (what, at), rpm in expected.items():
        if what == "speed" and rpm > 0:
            seconds = min(max(TURNS_S, round(600 / rpm)), 59)
            yield Listen(f"tick@{at}", say("A tick each turn: {at}", at=places.name(at)), seconds)
    if isinstance(page.running.meters, InductionMeters):
        yield Listen("hum@shaft-1", say("Hum of the motor: {value}", value=places.name("shaft-1")), HUM_S)


def _shown(page: Page) -> list[Ranked]:
    """The causes that stay in sight: the first two, and what is not next to nothing."""
    ranked = page.diagnosis.ranked[:MAX_CAUSES] if page.diagnosis else ()
    return [one for number, one in enumerate(ranked) if number < 2 or one.probability >= 0.02]


def _telling(page: Page) -> list[int]:
    """Numbers of the readings that say most about the causes shown: first those that tell them apart, then those that
    speak for or against them all; the first few where none speaks.
    """
    marks = {number: [one.speaks[number] for one in _shown(page)] for number in range(len(page.judged))}
    found = [number for number, speaks in marks.items() if any(speaks)]
    found.sort(key=lambda number: (len(set(marks[number])) == 1, -sum(abs(mark) for mark in marks[number])))
    return sorted((found or list(marks))[:MAX_COLUMNS])


def _columns(page: Page, places: Places) -> Iterator[str]:
    for judged in (page.judged[number] for number in _telling(page)):
        yield places.short(judged.at) if judged.what == "speed" else said(f"short.{judged.what}")


def _causes(page: Page, places: Places) -> Iterator[CauseLine]:
    if page.diagnosis is None or not page.judged:
        return
    found = page.diagnosis
    for number, one in enumerate(_shown(page)):
        speaks = (MARKS[one.speaks[column]] for column in _telling(page))
        marks = tuple((code, sign, say(words)) for code, sign, words in speaks)
        first = number == 0 and not found.none_fits
        yield CauseLine(cause_words(one), places.short(one.at), cause_fits(found, one), first, marks)


def _charts(context: Context, page: Page, places: Places) -> Iterator[Picture]:
    """What was read twice or more, over the hours; first what is outside its band now."""
    line = line_kinds(context.plan)
    series: dict[tuple[str, str], dict[float, float]] = {}
    for visit in context.machine.log.visits:
        if visit.hours is None or visit.line != line:
            continue
        for reading in visit.readings:
            series.setdefault((reading.kind, reading.at), {})[visit.hours] = float(reading.value)
    outside = [(judged.what, judged.at) for judged in page.judged if judged.state != "clear"]
    order = [*outside, *(key for key in series if key not in outside)]
    several = [key for key in order if len(series.get(key, {})) > 1]
    for key in several[:MAX_CHARTS]:
        name = f"{said(f'what.{key[0]}')}, {places.name(key[1])}"
        yield history(key[0], name, sorted(series[key].items()), page.bands.get(key), context.units)


def _tasks(context: Context, running: Running | None, places: Places) -> tuple[tuple[TaskLine, ...], float]:
    if running is None or context.plan.source is None:
        return (), 0.0
    log, now = context.machine.log, context.machine.log.hours or 0.0
    found = dues(running, context.plan.source, log, location_of(context.machine.duty.environment), date.today())
    lines, now_x = timeline(found, now)
    return tuple(_task(due, line, now, places) for due, line in zip(found, lines, strict=True)), now_x


def _trends(context: Context, running: Running | None, places: Places) -> tuple[str, ...]:
    if running is None:
        return ()
    found = trends(running, context.machine.log, line_kinds(context.plan))
    return tuple(trend_words(trend, places, context.units) for trend in found)


#: Words and mark of a task's state.
TASK_STATE = {"overdue": "weigh", "soon": "note", "later": "clear"}


def _task(due: Due, line: Line, now: float, places: Places) -> TaskLine:
    when = say("as needed") if due.at_h is None else say("at {at}", at=hours_run(due.at_h))
    if due.state == "overdue":
        when = (
            say("{at} overdue", at=hours_run(now - due.at_h))
            if due.at_h is not None and now > due.at_h
            else say("due now")
        )
        if due.on is not None and due.at_h is not None and now < due.at_h:
            when = say("due since {isoformat}", isoformat=due.on.isoformat())
    return TaskLine(
        said(f"task.{due.task.code}"),
        places.name(due.at),
        when,
        TASK_STATE[due.state],
        line,
        f"{due.task.code}@{due.at}",
    )
