"""The Build sheet place: the sheet as it goes to paper, and the addresses of its files."""

from __future__ import annotations

from dataclasses import dataclass, replace

from pulltide.core.bill import bill_of
from pulltide.core.wheels import wheels_of
from pulltide.presentation.paper.sheet_paper import SheetPaper, sheet_paper
from pulltide.presentation.paper.wheel_file import WHEEL_KINDS, WheelPaper, stage_words, wheel_paper
from pulltide.services.machines import StoredMachine
from pulltide.web.places.frame import Context

#: Files of a plan, in the order that they are offered in: their words, and what their address ends with.
FILES = (
    ("PDF, Letter", "pdf?size=Letter&"),
    ("PDF, A4", "pdf?size=A4&"),
    ("Drawing, SVG", "svg?"),
    ("Drawing in true scale, DXF", "dxf?"),
    ("Parts, XLSX", "xlsx?"),
    ("Parts, CSV", "csv?"),
    ("Machine, JSON", "json?"),
    ("All of them, ZIP", "zip?"),
)


@dataclass(frozen=True, slots=True)
class WheelLine:
    """A wheel that can be made: its words, the address that opens it, and those of its files."""

    words: str
    address: str
    files: tuple[tuple[str, str], ...]


@dataclass(frozen=True, slots=True)
class SheetView:
    """The place; ``paper`` is None while the plan has no drive."""

    paper: SheetPaper | None
    files: tuple[tuple[str, str], ...] = ()
    label: str = ""
    asked: str = ""
    wheels: tuple[WheelLine, ...] = ()
    wheel: WheelPaper | None = None


def printed(stored: StoredMachine) -> str:
    """Which state of a machine a sheet is of."""
    return f"State {stored.version} of {stored.updated_at.astimezone():%b %-d, %Y, %H:%M}"


def sheet_view(context: Context) -> SheetView:
    """Put the sheet together."""
    stored, plan, result = context.stored, context.plan, context.result
    if result is None or not plan.links:
        return SheetView(None)
    base = f"/machines/{stored.id}"
    files = tuple((words, f"{base}/plan.{ending}plan={context.selection.plan}") for words, ending in FILES)
    paper = sheet_paper(context.machine, plan, result, context.catalog, context.units, printed(stored))
    quoted, asked = _quotes(context)
    return SheetView(replace(paper, quoted=quoted), files, f"{base}/label.svg", asked, *_wheels(context))


def _wheels(context: Context) -> tuple[tuple[WheelLine, ...], WheelPaper | None]:
    """Every wheel that can be made, and the one that is open."""
    machine, plan, selection = context.machine, context.plan, context.selection
    made = wheels_of(plan)
    lines = []
    for name, wheel in made.items():
        base = f"/machines/{context.stored.id}/wheels/{name}"
        files = tuple((kind.upper(), f"{base}.{kind}?plan={selection.plan}") for kind in WHEEL_KINDS)
        lines.append(WheelLine(f"{wheel.title}, {stage_words(name)}", selection.to(at=name), files))
    open_ = made.get(selection.at)
    where = (machine.name, plan.name, stage_words(selection.at))
    return tuple(lines), None if open_ is None else wheel_paper(open_, where, context.units)


def _quotes(context: Context) -> tuple[dict[str, str], str]:
    """Quotes that are kept, by the name of the part, each with its date; and what came of asking last."""
    if context.quotes is None:
        return {}, ""
    names = [piece.designation for piece in bill_of(context.plan, context.catalog) if piece.designation]
    kept, last = context.quotes.kept(names), context.quotes.asked()
    told = "" if last is None else f"{last.at.astimezone():%b %-d, %H:%M}: {last.told}"
    quoted = {
        name: f"{quote.price:g}, {quote.lead_days} days ({quote.fetched_at.astimezone():%b %-d})"
        for name, quote in kept.items()
    }
    return quoted, told
