"""The list of motors and other sources, by what the plan would be with each."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from pulltide.core.motor_choice import MotorChoice, motor_choices
from pulltide.core.search.wish import motor_groups, supply_of
from pulltide.presentation.words import counted
from pulltide.quantities import Units, show
from pulltide.web.places.contract import Context
from pulltide.web.tiles import use_state
from pulltide.words import say, worded

#: Under ``pick`` of the address: the list is open.
OPEN = "motors"
ANY = "any"
#: So many are shown at most; as many are solved as this number of lines is enough for.
MAX_SHOWN, MIN_SOLVED, MAX_LINES = 60, 4, 100


@dataclass(frozen=True, slots=True, kw_only=True)
class MotorRow:
    """One listed source and the plan with it."""

    id: str
    power: str
    speed: str
    kind: str
    frame: str
    price: str
    last_speed: str
    load: str
    load_state: str
    findings: str
    findings_state: str
    chosen: bool


@dataclass(frozen=True, slots=True)
class MotorTable:
    """The list for one supply, or for all: addresses of the others, rows, and how many more there are."""

    supplies: tuple[tuple[str, bool, str], ...]
    rows: tuple[MotorRow, ...]
    more: int
    close: str


def motor_table(context: Context) -> MotorTable | None:
    """The list while it is open."""
    selection, catalog = context.selection, context.catalog
    if selection.pick != OPEN:
        return None
    groups = motor_groups(catalog)
    wanted = selection.wish or supply_of(context.plan.source, catalog) or ANY
    supply = wanted if wanted in groups else ""
    settings = len(context.result.settings) if context.result else 1
    solved = max(MAX_LINES // settings, MIN_SOLVED)
    found = motor_choices(context.machine, context.plan, catalog, supply, solved=solved)
    places = [(name, name == supply, selection.to(wish=name)) for name in groups]
    places.append((say("any supply"), not supply, selection.to(wish=ANY)))
    rows = tuple(_row(one, context.units) for one in found[:MAX_SHOWN])
    return MotorTable(tuple(places), rows, max(len(found) - MAX_SHOWN, 0), selection.to(pick="", wish=""))


def _row(one: MotorChoice, units: Units) -> MotorRow:
    plate: Any = one.item.data
    known = one.problems is not None
    return MotorRow(
        id=one.item.id,
        power=str(show(one.drive.power_kw, "kW", units)),
        speed=str(show(one.drive.speed_rpm, "rpm", units)),
        kind=_kind(one),
        frame=str(getattr(plate, "frame", None) or "–"),
        price="–" if one.price is None else f"{one.price:.0f}",
        last_speed=str(show(one.last_speed_rpm, "rpm", units)) if known else "–",
        load=str(show(one.load, "share", units)) if one.load is not None else "–",
        load_state=use_state(one.load) if one.load is not None else "note",
        findings=_counted(one) if known else say("not solved"),
        findings_state="note" if not known else "fix" if one.problems else "weigh" if one.warnings else "clear",
        chosen=one.chosen,
    )


def _kind(one: MotorChoice) -> str:
    """What it is, beside what has a column of its own."""
    return worded(one.item.sort or one.drive.title)


def _counted(one: MotorChoice) -> str:
    said = [counted(number, what) for number, what in ((one.problems, "problem"), (one.warnings, "warning")) if number]
    return ", ".join(said)
