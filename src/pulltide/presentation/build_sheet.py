"""What a builder takes to the shop: one plan as tables and lists of words, in a person's units.

Screen, print and files are made of this one thing, so that none of them says anything else.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from pulltide.core.acceptance import accepted_as
from pulltide.core.bill import total
from pulltide.core.catalog import Catalog
from pulltide.core.cut_list import KERF_MM, CutList, cut_list
from pulltide.core.findings import Severity
from pulltide.core.line_result import LineResult, PlanResult
from pulltide.core.links import family_of
from pulltide.core.machine import Machine, Plan
from pulltide.core.piece import Piece
from pulltide.core.run_log.first import Bands, first_readings
from pulltide.core.run_log.model import Band
from pulltide.core.shaft_bill import left_out, whole_bill
from pulltide.core.transmission import AnyResult, Figure
from pulltide.presentation import sheet_care as care
from pulltide.presentation.log_words import band_text
from pulltide.presentation.words import LAST_CAUTION, TURN, FindingLine, finding_line, names_of
from pulltide.quantities import Units, show
from pulltide.words import choice, filled, say, worded

#: Figures that a stage is set up and checked by, where its family has them.
SETUP = ("wrap", "tension", "deflection_force", "deflection", "frequency", "shaft_load", "pull", "contact_ratio")
#: Where a drive is not known enough for a band, a tachometer this close reads right. Common practice, no source.
TACHOMETER = 0.03
#: Before first power. Common practice, no source.
CHECKS = (
    "Supply locked off; turned by hand through one whole turn, nothing touches",
    "Keys in, set screws tight and locked where they must not move",
    "Belts and chains in line within the tolerance, tension set as above",
    "Reducer filled to the level of its mounting position, breather open",
    "Guards on every nip, coupling and shaft end; no loose sleeve, no gloves",
    "Stop button reached from where it is loaded; overload set to the plate current",
    "Jogged: every shaft turns the way the arrows say",
    "Run empty ten minutes and listened to; locked off again, bearings felt for heat, screws and belts tightened",
)


@dataclass(frozen=True, slots=True, kw_only=True)
class PartLine:
    """One line of the parts list. ``state`` is ``shelf``, ``buy``, ``make`` or ``open``: to be found or made."""

    count: int
    what: str
    designation: str
    where: str
    state: str
    price: str
    lead: str


@dataclass(frozen=True, slots=True, kw_only=True)
class ShaftLine:
    """One shaft: what it does, and what a tachometer reads on it."""

    number: int
    name: str
    speed: str
    tachometer: str
    torque: str
    power: str
    turn: str


@dataclass(frozen=True, slots=True)
class StageLine:
    """One stage: what it is, center distance, and by what it is set up."""

    number: int
    title: str
    chips: str
    center: str
    setup: tuple[tuple[str, str], ...]


@dataclass(frozen=True, slots=True)
class OpenLine:
    """A finding that is open, or may stay: why, who says so, and when; ``named`` is what it is accepted by."""

    finding: FindingLine
    named: str
    reason: str = ""
    by: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class BuildSheet:
    """The whole sheet."""

    need: tuple[tuple[str, str], ...]
    shafts: tuple[ShaftLine, ...]
    stages: tuple[StageLine, ...]
    parts: tuple[PartLine, ...]
    cost: str
    left_out: str
    spans: tuple[tuple[str, str], ...]
    keys: tuple[tuple[str, str], ...]
    cuts: tuple[tuple[str, str], ...]
    in_line: tuple[tuple[str, str], ...]
    guards: tuple[tuple[str, str], ...]
    upkeep: tuple[care.CareLine, ...]
    readings: tuple[care.ReadingLine, ...]
    spares: str
    findings: tuple[OpenLine, ...]
    notes: tuple[tuple[str, str], ...]
    checks: tuple[str, ...]
    cautions: tuple[str, ...]


def setup_figures(result: AnyResult) -> Iterator[Figure]:
    """Figures that a stage is set up and checked by."""
    for figure in result.figures:
        if figure.key in SETUP and figure.value is not None:
            yield figure


def _not_in_it(plan: Plan, pieces: tuple[Piece, ...]) -> str:
    """What the parts do not hold, in a sentence."""
    *others, last = (*left_out(plan, pieces), "guards", "fasteners")
    return say("{others} and {last} are not in it.", others=", ".join(others), last=last).capitalize()


def build_sheet(machine: Machine, plan: Plan, result: PlanResult, catalog: Catalog, units: Units) -> BuildSheet:
    """The sheet of a solved plan."""
    line, pieces = result.chosen, whole_bill(plan, catalog)
    bands = first_readings(machine, plan, line)
    cost = total(pieces)
    unpriced = say(", {unpriced} without a list price", unpriced=cost.unpriced) if cost.unpriced else ""
    return BuildSheet(
        need=tuple(_need(machine, line, units)),
        shafts=tuple(_shafts(line, bands, units)),
        stages=tuple(_stages(plan, line, units)),
        parts=tuple(part_line(piece, units) for piece in pieces),
        cost=say(
            "{price:.1f} {money} for {to_buy} lines to buy{unpriced}",
            price=cost.price,
            money=units.money,
            to_buy=cost.to_buy,
            unpriced=unpriced,
        ),
        left_out=_not_in_it(plan, pieces),
        spans=tuple(_spans(plan, line, units)),
        keys=tuple(care.keys(plan, names_of(line), units)),
        cuts=cuts(plan, units),
        in_line=tuple(care.alignment(plan, line, units)),
        guards=tuple(care.guarding(plan, line, units)),
        upkeep=tuple(care.upkeep(machine, plan, line, units)),
        readings=tuple(care.first_day(plan, line, bands, units)),
        spares=_spares(pieces, units),
        findings=tuple(_open(plan, result, units)),
        notes=tuple(_notes(plan)),
        checks=tuple(say(check) for check in CHECKS),
        cautions=tuple(_cautions(machine, plan, units)),
    )


def _notes(plan: Plan) -> Iterator[tuple[str, str]]:
    """Notes and questions of the plan: where, and what with its answer."""
    for note in plan.pinned:
        kind, _, number = note.at.partition("-")
        words = f"{say('Open question: ') if note.is_open else ''}{note.text} ({note.by}, {note.on})"
        answer = f". Answer: {note.answer} ({note.answered_by})" if note.answer else ""
        yield f"{kind.capitalize()} {number}".strip(), words + answer


def _open(plan: Plan, result: PlanResult, units: Units) -> Iterator[OpenLine]:
    """Problems and warnings, those last that somebody accepted."""
    pressing = [one for one in result.findings if one.severity in (Severity.ERROR, Severity.WARNING)]
    for finding in sorted(pressing, key=lambda one: accepted_as(one, plan.accepted) is not None):
        why = accepted_as(finding, plan.accepted)
        line, named = finding_line(finding, units), " ".join(finding.key)
        yield OpenLine(line, named) if why is None else OpenLine(line, named, why.reason, f"{why.by}, {why.on}")


def _need(machine: Machine, line: LineResult, units: Units) -> Iterator[tuple[str, str]]:
    need, duty = machine.need, machine.duty
    band = [show(speed, "rpm", units).number for speed in (need.speed_min_rpm, need.speed_max_rpm) if speed]
    if band:
        best = (
            say(", best {speed_ideal}", speed_ideal=show(need.speed_ideal_rpm, "rpm", units).number)
            if need.speed_ideal_rpm
            else ""
        )
        yield (
            say("{last_shaft} speed", last_shaft=need.last_shaft),
            say("{band} rpm{best}", band=" to ".join(band), best=best),
        )
    torques = ((say("Running torque"), need.running_torque_nm), (say("Peak torque"), need.peak_torque_nm))
    for name, value in (*torques, (say("Breakaway torque"), need.breakaway_torque_nm)):
        if value is not None:
            yield name, str(show(value, "N*m", units))
    if need.worksheet is not None and need.worksheet.assumed:
        yield (
            say("Not confirmed yet"),
            say("{assumed} starting values of the worksheet", assumed=len(need.worksheet.assumed)),
        )
    yield say("Shock, hours"), f"{duty.shock or 'not entered'}, {_hours(duty.hours_per_day)}"
    if line.motor_load is not None:
        yield say("Motor load"), str(show(line.motor_load, "share", units))
    if line.efficiency is not None:
        yield say("Line efficiency"), str(show(line.efficiency, "share", units))


def _hours(hours: float | None) -> str:
    return say("hours not entered") if hours is None else say("{hours:g} h a day", hours=hours)


def _shafts(line: LineResult, bands: Bands, units: Units) -> Iterator[ShaftLine]:
    for shaft, name in zip(line.shafts, names_of(line), strict=True):
        band = bands.get(("speed", f"shaft-{shaft.number}")) or Band(shaft.speed_rpm, shaft.speed_rpm * TACHOMETER)
        yield ShaftLine(
            number=shaft.number,
            name=name,
            speed=str(show(shaft.speed_rpm, "rpm", units)),
            tachometer=band_text("speed", band, units),
            torque=str(show(shaft.running_torque_nm, "N*m", units)),
            power=str(show(shaft.power_kw, "kW", units)),
            turn=say(TURN[shaft.turn]),
        )


def _stages(plan: Plan, line: LineResult, units: Units) -> Iterator[StageLine]:
    for number, (link, result) in enumerate(zip(plan.links, line.links, strict=True), start=1):
        words = family_of(link.kind).words(link, result.step)
        center = result.center_distance_mm
        yield StageLine(
            number,
            filled(words.title, units),
            ", ".join(filled(chip, units) for chip in words.chips),
            "" if center is None else str(show(center, "mm", units)),
            (
                *_slide(link, units),
                *(
                    (worded(figure.label), str(show(figure.value, figure.unit, units)))
                    for figure in setup_figures(result)
                ),
            ),
        )


def _slide(link: Any, units: Units) -> Iterator[tuple[str, str]]:
    """How far a shaft moves to put a belt on and to tighten it."""
    found = family_of(link.kind).slide(link)
    if found is not None:
        words = zip(found, (say("in to put it on"), say("out to tighten")), strict=True)
        yield say("Slide"), ", ".join(f"{show(size, 'mm', units)} {way}" for size, way in words if size)


def part_line(piece: Piece, units: Units) -> PartLine:
    """A piece in words."""
    kind, _, number = piece.subject.partition("-")
    where = {"motor": say("Motor"), "shaft": say("Shaft {number}", number=number)}.get(
        kind, say("Stage {number}", number=number)
    )
    price = "" if piece.price is None or piece.owned else f"{piece.price:.1f}"
    state = "shelf" if piece.owned else "make" if piece.made else "buy" if piece.price is not None else "open"
    what = filled(piece.what, units) + (
        say(": {missing} is not chosen", missing=piece.missing) if piece.missing else ""
    )
    return PartLine(
        count=piece.count,
        what=what,
        designation=piece.designation,
        where=where,
        state=state,
        price=price,
        lead=worded(piece.lead),
    )


def _spans(plan: Plan, line: LineResult, units: Units) -> Iterator[tuple[str, str]]:
    """Shafts whose bearings are placed: bar, length, and where everything stands."""
    for part in sorted(plan.shafts, key=lambda part: part.shaft):
        span = part.span
        if span is None or part.diameter_mm is None or part.shaft > len(line.shafts):
            continue
        bits = [say("bar {diameter}", diameter=show(part.diameter_mm, "mm", units))]
        bits += [say("{length} long", length=show(span.length_mm, "mm", units))] if span.length_mm is not None else []
        bits += [say("bearing at {at}", at=show(at, "mm", units)) for at in span.bearings_mm]
        wheels = (span.driven_at_mm, span.driver_at_mm)
        bits += [say("wheel at {at}", at=show(at, "mm", units)) for at in wheels if at is not None]
        if part.key_width_mm is not None:
            long = f" × {show(part.key_length_mm, 'mm', units)}" if part.key_length_mm is not None else ""
            bits.append(say("key {key_width}{long}", key_width=show(part.key_width_mm, "mm", units), long=long))
        yield say("Shaft {shaft}, {name}", shaft=part.shaft, name=names_of(line)[part.shaft - 1]), ", ".join(bits)


def cuts(plan: Plan, units: Units, kerf_mm: float = KERF_MM) -> tuple[tuple[str, str], ...]:
    """Every bar with what is sawn from it, kerf and facing allowed for."""
    return tuple(_cuts(cut_list(plan, kerf_mm), units))


def _cuts(found: CutList, units: Units) -> Iterator[tuple[str, str]]:
    for bar in found.bars:
        size = show(bar.diameter_mm, "mm", units)
        pieces = ", ".join(
            say("shaft {shaft}: {sawn}", shaft=piece.shaft, sawn=show(piece.sawn_mm, "mm", units))
            for piece in bar.pieces
        )
        name = say(
            "Bar {size} × {length}, {steel}",
            size=size,
            length=show(bar.length_mm, "mm", units),
            steel=_steel(bar.steel),
        )
        yield name, say("{pieces}; {left} left", pieces=pieces, left=show(bar.left_mm, "mm", units))
    for piece in found.too_long:
        yield (
            say("Shaft {shaft}", shaft=piece.shaft),
            say("{sawn} is longer than a bar: ask for a long one", sawn=show(piece.sawn_mm, "mm", units)),
        )


def _steel(code: str) -> str:
    return say("steel not decided") if code == "not_known" else choice(code)


#: What wears first and stops a machine. Common practice, no source.
WEARS = frozenset({"belt", "chain"})


def _spares(pieces: tuple[Piece, ...], units: Units) -> str:
    """Pieces that wear, as they are ordered."""
    worn = [piece for piece in pieces if piece.kind in WEARS]
    named = [(filled(piece.what, units), piece.designation) for piece in worn]
    return "; ".join(dict.fromkeys(what if number in what else f"{what} ({number})" for what, number in named))


def _cautions(machine: Machine, plan: Plan, units: Units) -> Iterator[str]:
    asked = machine.need.requirement()
    if asked is not None and asked.kind.caution:
        yield filled(asked.kind.caution, units)
    yield from dict.fromkeys(
        worded(family_of(link.kind).caution) for link in plan.links if family_of(link.kind).caution
    )
    yield say(LAST_CAUTION)
