"""The Duty place: shock, hours, starts, place; what every table makes of it; the cycle; the three margin rules."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from pulltide.core.duty_advice import (
    STANDSTILL,
    Equivalent,
    advised,
    cycle_workings,
    disagreements,
    equivalent,
    factor_rows,
)
from pulltide.core.line_result import PlanResult
from pulltide.core.machine import Machine
from pulltide.core.sources import drive_of
from pulltide.presentation.words import RULE, FindingLine, finding_line, short_source, source_text
from pulltide.presentation.working_view import WorkingView, working_view
from pulltide.quantities import Units, show
from pulltide.web import forms
from pulltide.web.selection import Figured
from pulltide.web.tiles import Row, Tile, other_rules
from pulltide.words import choice, say, worded

FIELDS = (
    "shock",
    "hours_per_day",
    "starts_per_hour",
    "reversing",
    "environment",
    "ambient_c",
    "energy_price",
    "life_h",
    "bearing_reliability",
    "emergency_share",
    "emergency_stops",
)
OWN_FIELDS = ("margin_rule", "flat_factor", "service_factor_override", "override_reason", "fatigue")
MOVER = {
    "motor": "an electric motor with ordinary starting torque",
    "high_torque_motor": "a motor that starts with high torque",
    "engine": "an engine with several cylinders",
    "single_cylinder": "an engine with one cylinder",
    "hand": "a person at a crank",
}


@dataclass(frozen=True, slots=True)
class FactorLine:
    """One table's word: part, factor, note, source."""

    part: str
    value: str
    note: str
    source: str
    in_use: bool


@dataclass(frozen=True, slots=True)
class RuleLine:
    """One margin rule: what it asks of each link, and the use of the link's main limit."""

    name: str
    chosen: bool
    uses: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class SegmentLine:
    """One stretch of the cycle."""

    number: int
    cells: tuple[forms.FormField, ...]


@dataclass(frozen=True, slots=True)
class Advised:
    """The duty a table suggests for this machine, and whether it is in force."""

    text: str
    source: str
    sets: tuple[tuple[str, str], ...]
    in_force: bool


@dataclass(frozen=True, slots=True)
class DutyView:
    """The whole place."""

    rows: tuple[Row, ...]
    own: tuple[Row, ...]
    advised: Advised | None
    prime_mover: str
    factors: tuple[FactorLine, ...]
    disagreements: tuple[str, ...]
    rules: tuple[RuleLine, ...]
    links: tuple[str, ...]
    segments: tuple[SegmentLine, ...]
    tiles: tuple[Tile, ...]
    workings: tuple[WorkingView, ...]
    findings: tuple[FindingLine, ...]


def duty_view(machine: Machine, index: int, result: PlanResult | None, units: Units) -> DutyView:
    """Everything the place shows for one plan."""
    duty, document = machine.duty, machine.model_dump(mode="json")
    drive = drive_of(machine.plans[index].source)
    mover = drive.prime_mover if drive else "motor"
    rows = factor_rows(duty, mover)
    standstill = drive.standstill if drive else STANDSTILL
    found = equivalent(duty.cycle, standstill)

    def fields(names: tuple[str, ...]) -> tuple[Row, ...]:
        return tuple(Row(forms.form_field(document, f"duty.{name}", units)) for name in names)

    own = [finding for finding in (result.findings if result else ()) if finding.subject == "duty"]
    return DutyView(
        fields(FIELDS),
        fields(OWN_FIELDS),
        _advised(machine),
        say(MOVER[mover]) + ("" if drive else say(", taken while no source is entered")),
        tuple(
            FactorLine(
                worded(row.part),
                f"{row.factor.value:g}",
                worded(row.factor.note),
                short_source(row.factor.source),
                row.in_use,
            )
            for row in rows
        ),
        tuple(worded(sentence) for sentence in disagreements(duty, rows)),
        _rules(machine, result, units),
        tuple(say("Stage {number}", number=number) for number in range(1, len(machine.plans[index].links) + 1))
        if result
        else (),
        _segments(machine, document, units),
        _tiles(found, machine, units),
        tuple(working_view(working, units) for working in cycle_workings(duty.cycle, standstill)),
        tuple(finding_line(finding, units) for finding in own),
    )


def _advised(machine: Machine) -> Advised | None:
    asked = machine.need.requirement()
    advice = advised(asked.kind.duty_of(machine.need.worksheet)) if asked else None
    if advice is None:
        return None
    reverses = say(", reversing") if advice.reversing else ""
    text = say(
        "{shock}, about {starts_per_hour:g} starts an hour{reverses}: {machine_kind}",
        shock=choice(advice.shock),
        starts_per_hour=advice.starts_per_hour,
        reverses=reverses,
        machine_kind=worded(advice.machine_kind),
    )
    sets = (
        ("duty.shock", advice.shock),
        ("duty.starts_per_hour", f"{advice.starts_per_hour:g}"),
        ("duty.reversing", "yes" if advice.reversing else "no"),
    )
    duty = machine.duty
    now = (duty.shock, duty.starts_per_hour, duty.reversing)
    in_force = now == (advice.shock, advice.starts_per_hour, advice.reversing)
    return Advised(text, source_text(advice.source), sets, in_force)


def _rules(machine: Machine, result: PlanResult | None, units: Units) -> tuple[RuleLine, ...]:
    if result is None:
        return ()
    by_link = [dict(other_rules(link)) for link in result.chosen.links]
    return tuple(
        RuleLine(
            say(words),
            rule == machine.duty.margin_rule.value,
            tuple(str(show(uses[rule], "share", units)) if rule in uses else "?" for uses in by_link),
        )
        for rule, words in RULE.items()
    )


def _segments(machine: Machine, document: Any, units: Units) -> tuple[SegmentLine, ...]:
    names = ("seconds", "torque_share", "torque_share_end", "speed_share", "speed_share_end")
    return tuple(
        SegmentLine(
            number + 1, tuple(forms.form_field(document, f"duty.cycle.{number}.{name}", units) for name in names)
        )
        for number in range(len(machine.duty.cycle))
    )


def _tiles(found: Equivalent | None, machine: Machine, units: Units) -> tuple[Tile, ...]:
    if found is None:
        return ()
    running = machine.need.running_torque_nm

    def tile(label: str, share: float, under: str) -> Tile:
        torque = f"{show(share * running, 'N*m', units)}, {under}" if running is not None else under
        return Tile(Figured(label, show(share, "share", units), ""), torque)

    return (
        tile(say("Mean"), found.mean, say("while moving")),
        tile(say("Root mean square"), found.root_mean_square, say("heats the motor")),
        tile(say("Root mean cube"), found.root_mean_cube, say("wears teeth and bearings")),
        Tile(
            Figured(say("Mean speed"), show(found.mean_speed, "share", units), ""),
            say("of ideal, over the whole cycle"),
        ),
    )
