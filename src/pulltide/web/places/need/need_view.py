"""The Need place: the worksheet, its drawing, the speed it can live with, and what it asks of the last shaft."""

from __future__ import annotations

from dataclasses import dataclass, replace
from itertools import groupby
from typing import Any

from pulltide.core.line_result import PlanResult
from pulltide.core.machine import Machine
from pulltide.core.need import MEASURED as MEASURED_TORQUES
from pulltide.core.need import Need
from pulltide.core.needs import NEED_KINDS
from pulltide.core.needs.assess import Requirement
from pulltide.core.needs.contract import Worksheet, end_name
from pulltide.core.units import power_kw
from pulltide.presentation.own_words import WordsTable, words_table
from pulltide.presentation.painting import Picture, picture
from pulltide.presentation.speed_bar import SpeedBar, speed_bar
from pulltide.presentation.words import FindingLine, finding_line
from pulltide.presentation.working_view import WorkingView, working_view
from pulltide.quantities import Units, show
from pulltide.services.fields import describe
from pulltide.web import forms
from pulltide.web.selection import Figured
from pulltide.web.tiles import KindChoice, Row, Tile
from pulltide.words import filled, say, worded

DIRECT_TITLE = "Entered directly"
DIRECT_ADVICE = "A worksheet works these figures out, shows how certain they are, and can be reopened."
OWN_SPEEDS = ("speed_min_rpm", "speed_ideal_rpm", "speed_max_rpm")
STARTING = "starting value"
#: Worksheets offered first, before the whole list.
MEASURED = "pull"


@dataclass(frozen=True, slots=True)
class NeedView:
    """The whole place."""

    question: str
    title: str
    is_direct: bool
    groups: tuple[tuple[str, tuple[KindChoice, ...]], ...]
    rows: tuple[Row, ...]
    speeds: tuple[Row, ...]
    picture: Picture | None
    bar: SpeedBar | None
    tiles: tuple[Tile, ...]
    words: WordsTable | None
    missing: str
    workings: tuple[WorkingView, ...]
    findings: tuple[FindingLine, ...]
    advice: str
    caution: str
    offers_measured: bool
    assumed: int
    offers_typical: bool
    searchable: bool


def need_view(machine: Machine, result: PlanResult | None, figure: str, units: Units) -> NeedView:
    """Everything the place shows; ``figure`` names the working that is open."""
    need, document = machine.need, machine.model_dump(mode="json")
    asked = need.requirement()
    kind = asked.kind if asked else None
    sheet = need.worksheet
    return NeedView(
        worded(kind.question) if kind else say("What must the last shaft do?"),
        worded(kind.title) if kind else say(DIRECT_TITLE),
        sheet is None,
        kind_groups(kind.kind if kind else ""),
        _direct_rows(document, units) if sheet is None else _sheet_rows(document, sheet, asked, units),
        () if sheet is None else _speed_rows(document, asked, units),
        picture(kind.sketch(sheet), units) if kind else None,
        speed_bar(need, asked, result.chosen.last_shaft.speed_rpm if result else None, units),
        _tiles(need, units),
        words_table(need, result, units),
        _missing(document, sheet, asked),
        _workings(asked, figure, units),
        tuple(finding_line(finding, units) for finding in asked.findings) if asked else (),
        filled(kind.advice, units) if kind else say(DIRECT_ADVICE),
        filled(kind.caution, units) if kind else "",
        sheet is not None and sheet.kind != MEASURED,
        len(sheet.assumed) if sheet is not None else 0,
        kind is not None and bool(kind.starter) and need.running_torque_nm is None,
        bool(need.running_torque_nm and need.aimed_rpm),
    )


def kind_groups(chosen: str) -> tuple[tuple[str, tuple[KindChoice, ...]], ...]:
    """Every worksheet by group, for lists to choose from."""
    return tuple(
        (worded(name), tuple(KindChoice(kind.kind, worded(kind.title), kind.kind == chosen) for kind in kinds))
        for name, kinds in groupby(NEED_KINDS, key=lambda kind: kind.group)
    )


def _direct_rows(document: Any, units: Units) -> tuple[Row, ...]:
    def one(name: str) -> forms.FormField:
        return forms.form_field(document, f"need.{name}", units, noted=False)

    running = Row(one("running_torque_nm"), one("running_torque_low_nm"), one("running_torque_high_nm"))
    names = ("peak_torque_nm", "breakaway_torque_nm", "holding_torque_nm", "inertia_kgm2", "load_exponent")
    speeds = [Row(one(name)) for name in ("last_shaft", "turn", *OWN_SPEEDS)]
    return (*speeds, running, *(Row(one(name)) for name in names))


def _sheet_rows(document: Any, sheet: Any, asked: Requirement | None, units: Units) -> tuple[Row, ...]:
    """Every input in use, ends of a band with their typical value."""
    hidden = {"kind", "assumed", *OWN_SPEEDS} | (asked.kind.hides(sheet) if asked else frozenset())
    fields = type(sheet).model_fields
    ends = {end_name(name, corner) for name in sheet.BANDS for corner in ("low", "high")}
    rows = []
    for name in fields:
        if name in hidden or name in ends:
            continue
        low, high = end_name(name, "low"), end_name(name, "high")
        field = _input(document, name, units)
        if name in sheet.assumed:
            field = replace(field, note=say(STARTING))
        rows.append(Row(field, *_ends(document, sheet, name, (low, high), units)))
    whole = (Row(forms.form_field(document, f"need.{name}", units)) for name in ("last_shaft", "turn"))
    measured = (name for name in MEASURED_TORQUES if document["need"][name] is not None)
    return (*whole, *rows, *(Row(forms.form_field(document, f"need.{name}", units)) for name in measured))


def _input(document: Any, name: str, units: Units, hint: str = "") -> forms.FormField:
    return forms.form_field(document, f"need.worksheet.{name}", units, hint)


def _ends(
    document: Any, sheet: Worksheet, name: str, ends: tuple[str, str], units: Units
) -> tuple[forms.FormField | None, forms.FormField | None]:
    if ends[0] not in type(sheet).model_fields:
        return None, None
    unit = describe(document, f"need.worksheet.{name}").unit
    known = getattr(sheet, name) is not None
    hints = [str(show(sheet.at(name, corner), unit, units)) if known else "" for corner in ("low", "high")]
    return _input(document, ends[0], units, hints[0]), _input(document, ends[1], units, hints[1])


def _speed_rows(document: Any, asked: Requirement | None, units: Units) -> tuple[Row, ...]:
    found = (asked.speeds.min_rpm, asked.speeds.ideal_rpm, asked.speeds.max_rpm) if asked else (None, None, None)
    hints = [str(show(value, "rpm", units)) if value else say("not known") for value in found]
    return tuple(Row(_input(document, name, units, hint)) for name, hint in zip(OWN_SPEEDS, hints, strict=True))


def _tiles(need: Need, units: Units) -> tuple[Tile, ...]:
    """The figures the drive is sized on; torque to hold and inertia only where they mean something."""

    def tile(label: str, value: float | None, unit: str, figure: str, under: str) -> Tile:
        opens = f"need/{figure}" if need.worksheet is not None and value is not None else ""
        return Tile(Figured(label, show(value, unit, units), opens), under)

    low, high = (show(value, "N*m", units) for value in (need.running_torque_low_nm, need.running_torque_high_nm))
    band = (
        say("{number} to {high}", number=low.number, high=high)
        if need.running_torque_low_nm and need.running_torque_high_nm
        else say("no range given")
    )
    band = f"{band}; {law_words(need.load_exponent)}"
    tiles = [
        tile(say("Running torque"), need.running_torque_nm, "N*m", "running", band),
        tile(say("Breakaway"), need.breakaway_torque_nm, "N*m", "breakaway", _times(need, need.breakaway_torque_nm)),
        tile(say("Peak torque"), need.peak_torque_nm, "N*m", "peak", _times(need, need.peak_torque_nm)),
    ]
    if need.running_torque_nm and need.speed_ideal_rpm:
        power = power_kw(need.running_torque_nm, need.speed_ideal_rpm)
        tiles.append(
            tile(
                say("Power"),
                power,
                "kW",
                "power",
                say("at {speed_ideal}, no losses", speed_ideal=show(need.speed_ideal_rpm, "rpm", units)),
            )
        )
    if need.holding_torque_nm:
        tiles.append(
            tile(
                say("Holding torque, power off"),
                need.holding_torque_nm,
                "N*m",
                "holding",
                say("needs a brake or backstop"),
            )
        )
    if need.inertia_kgm2:
        tiles.append(tile(say("Inertia"), need.inertia_kgm2, "kg*m**2", "inertia", say("at the last shaft")))
    return tuple(tiles)


def law_words(exponent: float) -> str:
    """How the torque follows the speed."""
    laws = {0.0: say("the same at every speed"), -1.0: say("at constant power: less torque the faster it turns")}
    laws |= {
        1.0: say("grows with speed"),
        2.0: say("grows with the square of speed"),
        3.0: say("grows with the cube of speed"),
    }
    return laws.get(exponent, say("grows with speed to the power {exponent:g}", exponent=exponent))


def _times(need: Need, value: float | None) -> str:
    if value is None:
        return say("not checked without it")
    return (
        say("× {running_torque:.2g} running", running_torque=value / need.running_torque_nm)
        if need.running_torque_nm
        else ""
    )


def _missing(document: Any, sheet: Worksheet | None, asked: Requirement | None) -> str:
    """Titles of empty inputs while the running torque is unknown."""
    if sheet is None or asked is None or asked.running_nm[1] is not None:
        return ""
    hidden = asked.kind.hides(sheet) | {"assumed", "friction", "power_number", "cutting_speed_m_min", "own_force_n"}
    hidden |= {"feed_mm", "tooth_feed_mm", "cutting_force_mpa"}
    names = [
        name
        for name, info in type(sheet).model_fields.items()
        if getattr(sheet, name) is None and name not in hidden and not name.endswith(("_low_deg", "_high_deg"))
    ]
    titles = [describe(document, f"need.worksheet.{name}").title.lower() for name in names if name not in OWN_SPEEDS]
    return ", ".join(titles[:5])


def _workings(asked: Requirement | None, figure: str, units: Units) -> tuple[WorkingView, ...]:
    if asked is None:
        return ()
    place, _, key = figure.partition("/")
    wanted = (key,) if place == "need" and key in asked.workings else ("running", "speed")
    return tuple(working_view(asked.workings[name], units) for name in wanted if name in asked.workings)
