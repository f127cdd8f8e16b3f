"""The Source place: plate, torque over speed, what was inferred, circuit, heat, shaft, and the neighbors in stock."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import groupby
from typing import Any

from pulltide.core.findings import Severity
from pulltide.core.line import solve_line
from pulltide.core.line_checks import demand_of, min_motor_pulley_mm
from pulltide.core.line_result import PlanResult
from pulltide.core.line_rules import MG1
from pulltide.core.machine import Machine, Plan
from pulltide.core.sources import (
    SOURCE_KINDS,
    Demand,
    Drive,
    Fact,
    InductionMotor,
    Reading,
    SourceKind,
    drive_of,
    source_kind,
)
from pulltide.core.sources.contract import SourceModel
from pulltide.presentation.curve import CurvePicture, curve_picture
from pulltide.presentation.words import FindingLine, finding_line, source_text
from pulltide.quantities import Units, show
from pulltide.services.shelf import ShelfItem
from pulltide.web import forms
from pulltide.web.selection import Figured
from pulltide.web.tiles import KindChoice, Row, Tile
from pulltide.words import filled, reading, say, worded

SURE = {"read": "read", "follows": "follows", "likely": "likely", "guess": "a guess"}


@dataclass(frozen=True, slots=True)
class ReadingLine:
    """One figure of the plate: value, how it was come by, how sure."""

    name: str
    value: str
    how: str
    sure: str
    state: str


@dataclass(frozen=True, slots=True)
class FactLine:
    """One line of a report."""

    name: str
    value: str
    note: str
    source: str


@dataclass(frozen=True, slots=True)
class Neighbor:
    """A motor beside the chosen one, and what it would change. ``value`` is the source to take; None for the chosen."""

    title: str
    cells: tuple[str, ...]
    state: str
    path: str
    value: Any


#: What the columns of neighbors are compared by, in the order of their cells.
COMPARED = ("Power", "Loaded to", "Start over load", "Current", "Frame", "Shaft", "Least pulley")


@dataclass(frozen=True, slots=True)
class SourceView:
    """The whole place."""

    title: str
    kinds: tuple[KindChoice, ...]
    sections: tuple[tuple[str, tuple[Row, ...]], ...]
    wants: str
    curve: CurvePicture | None
    tiles: tuple[Tile, ...]
    readings: tuple[ReadingLine, ...]
    facts: tuple[tuple[str, tuple[FactLine, ...]], ...]
    neighbors: tuple[Neighbor, ...]
    shelf: tuple[ShelfItem, ...]
    shelf_path: str
    findings: tuple[FindingLine, ...]
    cautions: tuple[str, ...]
    is_blank: bool

    @property
    def compared(self) -> list[tuple[str, tuple[str, ...]]]:
        """The table of neighbors row by row."""
        return [
            (say(label), tuple(neighbor.cells[row] if neighbor.cells else "" for neighbor in self.neighbors))
            for row, label in enumerate(COMPARED)
        ]


def source_view(
    machine: Machine, index: int, result: PlanResult | None, shelf: tuple[ShelfItem, ...], units: Units
) -> SourceView:
    """Everything the place shows for one plan."""
    plan = machine.plans[index]
    document = machine.model_dump(mode="json")
    source = plan.source
    kind = source_kind(source.kind if source else "induction")
    if source is None:
        document["plans"][index]["source"] = {"kind": kind.kind, **kind.starter, "supply": {}, "inverter": {}}
    drive = drive_of(source)
    asked = demand_of(machine, result.chosen) if result else None
    readings = kind.readings(source) if source else ()
    return SourceView(
        worded(drive.title) if drive else worded(kind.title),
        tuple(KindChoice(other.kind, worded(other.title), other.kind == kind.kind) for other in SOURCE_KINDS),
        _sections(document, index, kind, source, units),
        "" if drive else kind.wants,
        curve_picture(drive, asked, units) if drive else None,
        _tiles(drive, asked, units) if drive else (),
        tuple(_reading(item, units) for item in readings),
        _facts(kind, source, drive, asked, _around(machine, plan, drive), units) if source and drive else (),
        _neighbors(machine, index, kind, result, units) if result else (),
        shelf,
        f"plans.{index}.source",
        _findings(result, units),
        tuple(worded(caution) for caution in kind.cautions),
        source is None,
    )


def _sections(
    document: Any, index: int, kind: SourceKind, source: Any, units: Units
) -> tuple[tuple[str, tuple[Row, ...]], ...]:
    hidden = kind.hides(source) if source else frozenset(("second_power_kw", "runs_on"))
    base = f"plans.{index}.source"
    return tuple(
        (
            worded(title),
            tuple(Row(forms.form_field(document, f"{base}.{name}", units)) for name in names if name not in hidden),
        )
        for title, names in kind.sections
    )


def _tiles(drive: Drive, demand: Demand | None, units: Units) -> tuple[Tile, ...]:
    tiles = [
        Tile(
            Figured(say("Continuous power"), show(drive.power_kw, "kW", units), ""),
            say(
                "{torque} at {speed}",
                torque=show(drive.torque_nm, "N*m", units),
                speed=show(drive.speed_rpm, "rpm", units),
            ),
        )
    ]
    if demand is None or demand.running_nm is None:
        return tuple(tiles)
    air = drive.power_in_air_kw(demand.duty.ambient_c) / drive.power_kw
    load = demand.running_nm / drive.torque_nm / air
    tiles.append(Tile(Figured(say("Loaded to"), show(load, "share", units), "line/motor_load"), say("running")))
    if demand.peak_nm is not None and drive.max_torque_nm:
        share = demand.peak_nm / drive.max_torque_nm
        tiles.append(Tile(Figured(say("Peak load"), show(share, "share", units), ""), say("of maximum torque")))
    at_rest = demand.breakaway_at_motor_nm
    if drive.start_torque_nm is not None and at_rest:
        times = drive.start_torque_nm / at_rest
        words = say("breakaway covered") if times >= 1.3 else say("breakaway not safely covered")
        tiles.append(
            Tile(
                Figured(say("Starting torque"), show(times, "", units), ""),
                say("times the starting load; {words}", words=words),
            )
        )
    return tuple(tiles)


def _value(value: float | str | None, unit: str, units: Units) -> str:
    if isinstance(value, str):
        return filled(value, units)
    shown = show(value, unit if unit != "× full load" else "", units)
    return say("{shown} × full load", shown=shown) if unit == "× full load" else str(shown)


def _reading(item: Reading, units: Units) -> ReadingLine:
    state = {"read": "clear", "follows": "clear", "likely": "note", "guess": "weigh"}[item.sure]
    return ReadingLine(
        reading(item.code), _value(item.value, item.unit, units), worded(item.how), say(SURE[item.sure]), state
    )


def _around(machine: Machine, plan: Plan, drive: Drive) -> tuple[Fact, ...]:
    """What the line makes of a source: least pulley on its shaft, and what its other speed gives."""
    facts = []
    least = min_motor_pulley_mm(drive) if drive.is_electric else None
    if least is not None:
        facts.append(
            Fact(
                "smallest_pulley",
                say("Frame and shaft"),
                say("Smallest V-belt pulley"),
                least,
                "mm",
                say("outside diameter"),
                MG1,
            )
        )
    source = plan.source
    if isinstance(source, InductionMotor) and source.second_speed_rpm is not None:
        other = source.model_copy(update={"runs_on": "first" if source.runs_on == "second" else "second"})
        line = solve_line(machine, plan.model_copy(update={"source": other}))
        if line is not None:
            note = (
                say("motor loaded to {motor_load:.0f} %", motor_load=(line.motor_load or 0) * 100)
                if line.motor_load is not None
                else ""
            )
            facts.append(
                Fact(
                    "other_speed",
                    say("Two speeds"),
                    say("Last shaft at the other speed"),
                    line.last_shaft.speed_rpm,
                    "rpm",
                    note,
                )
            )
    return tuple(facts)


def _facts(
    kind: SourceKind, source: SourceModel, drive: Drive, demand: Demand | None, extra: tuple[Fact, ...], units: Units
) -> tuple[tuple[str, tuple[FactLine, ...]], ...]:
    facts = sorted((*kind.facts(source, drive, demand), *extra), key=lambda fact: fact.group)
    return tuple(
        (worded(name), tuple(_fact(fact, units) for fact in group))
        for name, group in groupby(facts, lambda fact: fact.group)
    )


def _fact(fact: Fact, units: Units) -> FactLine:
    return FactLine(
        worded(fact.name), _value(fact.value, fact.unit, units), filled(fact.note, units), source_text(fact.source)
    )


def _neighbors(
    machine: Machine, index: int, kind: SourceKind, result: PlanResult, units: Units
) -> tuple[Neighbor, ...]:
    """The next smaller and larger standard motor, solved in the chosen one's place."""
    plan = machine.plans[index]
    smaller = next(iter(kind.smaller(plan.source)), None)
    larger = next(iter(kind.larger(plan.source)), None)
    if smaller is None and larger is None:
        return ()
    options = [
        ("smaller", smaller[1] if smaller else None),
        ("chosen", plan.source),
        ("larger", larger[1] if larger else None),
    ]
    return tuple(
        _neighbor(machine, plan, title, source, index, units) for title, source in options if source is not None
    )


def _neighbor(machine: Machine, plan: Plan, title: str, source: Any, index: int, units: Units) -> Neighbor:
    drive, line = drive_of(source), solve_line(machine, plan.model_copy(update={"source": source}))
    if drive is None or line is None:
        return Neighbor(say(title), (), "note", "", None)
    ranks = [finding.severity for finding in line.findings if finding.subject in ("motor", "shaft-1")]
    worst = max(ranks, key=lambda severity: severity.rank, default=Severity.CLEAR)
    amps = next((item.value for item in drive.readings if item.code == "current"), None)
    cells = (
        str(show(drive.power_kw, "kW", units)),
        str(show(line.motor_load, "share", units)),
        _start_words(drive, machine, line, units),
        _value(amps, "A", units) if amps is not None else say("unknown"),
        str(next((item.value for item in drive.readings if item.code == "frame"), say("unknown"))),
        str(show(drive.shaft_diameter_mm, "mm", units)),
        str(show(min_motor_pulley_mm(drive), "mm", units)),
    )
    state = {"error": "fix", "warning": "weigh", "note": "clear", "clear": "clear"}[worst.value]
    value = None if title == "chosen" else source.model_dump(mode="json")
    return Neighbor(say(title), cells, state, f"plans.{index}.source", value)


def _start_words(drive: Drive, machine: Machine, line: Any, units: Units) -> str:
    at_rest = demand_of(machine, line).breakaway_at_motor_nm
    return (
        f"{show(drive.start_torque_nm / at_rest, '', units)} ×" if drive.start_torque_nm and at_rest else say("unknown")
    )


def _findings(result: PlanResult | None, units: Units) -> tuple[FindingLine, ...]:
    if result is None:
        return ()
    found = (*result.findings, *result.chosen.remarks)
    own = [finding for finding in found if finding.subject == "motor" or finding.code == "motor.least_pulley"]
    return tuple(finding_line(finding, units) for finding in own)
