"""What the build sheet says of keys, alignment, guards, upkeep and first readings, in a person's units."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from pulltide.core.errors import InputError
from pulltide.core.fit.bearings import bearing_for
from pulltide.core.line_result import LineResult
from pulltide.core.links import family_of
from pulltide.core.machine import Machine, Plan
from pulltide.core.run_log.first import Bands
from pulltide.core.run_log.of_line import running_of
from pulltide.core.run_log.upkeep import Task, location_of, places
from pulltide.core.set_up import grease_g, grease_hours, guards, in_line
from pulltide.core.shafts import key_height_mm
from pulltide.presentation.log_words import Places, band_text
from pulltide.presentation.words import names_of
from pulltide.quantities import Units, show
from pulltide.words import filled, say, say_count, worded
from pulltide.words import running as said

Pairs = Iterator[tuple[str, str]]


@dataclass(frozen=True, slots=True)
class CareLine:
    """One task of upkeep: what, where, with what and how much, and when."""

    what: str
    where: str
    amount: str
    when: str


@dataclass(frozen=True, slots=True)
class ReadingLine:
    """One reading to take on the first day: what, where, what counts as right."""

    what: str
    where: str
    expected: str


def keys(plan: Plan, names: tuple[str, ...], units: Units) -> Pairs:
    """Every key with its keyseats in shaft and hub."""
    for part in sorted(plan.shafts, key=lambda part: part.shaft):
        if part.key_width_mm is None or part.shaft > len(names):
            continue
        height = key_height_mm(part.key_width_mm)
        long = (
            ""
            if part.key_length_mm is None
            else say(" × {key_length} long", key_length=show(part.key_length_mm, "mm", units))
        )
        sizes = f"{show(part.key_width_mm, 'mm', units)} × {show(height, 'mm', units)}{long}"
        half = show(height / 2, "mm", units)
        yield (
            say("Shaft {shaft}, {name}", shaft=part.shaft, name=names[part.shaft - 1]),
            say("key {sizes}; keyseat {half} deep in shaft and in hub", sizes=sizes, half=half),
        )


def alignment(plan: Plan, line: LineResult, units: Units) -> Pairs:
    """How far rims may stand out of line, also in thicknesses of a card."""
    for one in in_line(plan, line):
        title = worded(family_of(plan.links[one.stage - 1].kind).title)
        cards = say_count(", {count} card", ", {count} cards", round(one.cards)) if one.cards >= 0.5 else ""
        yield (
            say("Stage {stage}, {title}", stage=one.stage, title=title),
            say("{offset}{cards} over the centers, both rims", offset=show(one.offset_mm, "mm", units), cards=cards),
        )


def guarding(plan: Plan, line: LineResult, units: Units) -> Pairs:
    """Clear inside of the guard round every open stage."""
    for one in guards(plan, line):
        sizes = " × ".join(str(show(size, "mm", units)) for size in (one.length_mm, one.height_mm, one.depth_mm))
        yield say("Stage {stage}", stage=one.stage), say("{sizes} clear inside, at least", sizes=sizes)


def first_day(plan: Plan, line: LineResult, bands: Bands, units: Units) -> Iterator[ReadingLine]:
    """What instruments are to show under the full load, but for the speeds: they stand with the shafts."""
    named = Places(plan, _named(line))
    for (kind, at), band in bands.items():
        if kind == "speed":
            continue
        yield ReadingLine(said(f"what.{kind}"), named.name(at), band_text(kind, band, units))


def _named(line: LineResult) -> tuple[str, ...]:
    return tuple(
        say("shaft {number}, {name}", number=number, name=name) for number, name in enumerate(names_of(line), start=1)
    )


def upkeep(machine: Machine, plan: Plan, line: LineResult, units: Units) -> Iterator[CareLine]:
    """Every task of the line's upkeep; nothing where the drive is not known enough."""
    if plan.source is None:
        return
    try:
        running = running_of(machine, plan, line)
    except InputError:
        return
    named = Places(plan, _named(line))
    location = location_of(machine.duty.environment)
    for task, at in places(running, plan.source):
        amount, hours = _amount(machine, plan, line, (task.code, at))
        every = task.every_h(location) if hours is None else hours
        if every is not None or task.first_h is not None:
            yield CareLine(
                said(f"task.{task.code}"),
                named.name(at) or say("the whole drive"),
                filled(amount, units),
                _when(task, every),
            )


def _when(task: Task, every_h: float | None) -> str:
    first = say("after {first:g} h", first=task.first_h) if task.first_h is not None else ""
    then = (
        ""
        if every_h is None
        else say("every {every:.0f} h", every=every_h)
        if not first
        else say("then every {every:.0f} h", every=every_h)
    )
    months = "" if task.months is None else say("every {months:g} months at the latest", months=task.months)
    return ", ".join(filter(None, (first, then, months)))


#: Tasks that put oil or grease somewhere.
OILS = frozenset({"oil_chain", "change_oil", "grease_gears"})


def _amount(machine: Machine, plan: Plan, line: LineResult, task: tuple[str, str]) -> tuple[str, float | None]:
    """With what and how much; and hours between, where the part itself tells them."""
    code, at = task
    kind, _, number = at.partition("-")
    index = int(number) if number.isdecimal() else 0
    if code in OILS and kind == "link":
        return family_of(plan.links[index - 1].kind).oil(line.links[index - 1], machine.duty.ambient_c), None
    if code != "grease_bearings" or kind != "shaft":
        return "", None
    part = plan.shaft_part(index)
    kind = "insert" if part is None or part.span is None else part.span.bearing
    insert = bearing_for(part.diameter_mm, kind) if part is not None and part.diameter_mm is not None else None
    if insert is None:
        return "", None
    hours = grease_hours(insert.bore_mm, line.shafts[index - 1].speed_rpm, location_of(machine.duty.environment))
    return say("about {insert:.0f} g in each, lithium grease NLGI 2", insert=grease_g(insert)), hours
