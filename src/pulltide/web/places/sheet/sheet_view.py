"""The Build sheet place: the sheet, its elevation, and the addresses of its files."""

from __future__ import annotations

from dataclasses import dataclass, field

from pulltide.core.bill import bill_of
from pulltide.presentation.build_sheet import BuildSheet, build_sheet
from pulltide.presentation.painting import Picture
from pulltide.presentation.sheet import sheet
from pulltide.web.places.frame import Context

STATES = {"shelf": "on the shelf", "buy": "to buy", "open": "make or find"}


@dataclass(frozen=True, slots=True)
class SheetView:
    """The place; ``sheet`` is None while the plan has no drive."""

    sheet: BuildSheet | None
    elevation: Picture | None
    files: tuple[tuple[str, str], ...]
    states: dict[str, str]
    printed: str
    quoted: dict[str, str] = field(default_factory=dict)
    asked: str = ""


def sheet_view(context: Context) -> SheetView:
    """Put the sheet together."""
    stored, plan, result = context.stored, context.plan, context.result
    if result is None or not plan.links:
        return SheetView(None, None, (), STATES, "")
    base = f"/machines/{stored.id}/parts"
    files = tuple((kind.upper(), f"{base}.{kind}?plan={context.selection.plan}") for kind in ("csv", "xlsx"))
    return SheetView(
        build_sheet(context.machine, plan, result, context.catalog, context.units),
        sheet(plan, result.chosen, context.units),
        (*files, ("JSON", f"/machines/{stored.id}/file")),
        STATES,
        f"State {stored.version} of {stored.updated_at.astimezone():%b %-d, %Y, %H:%M}",
        *_quotes(context),
    )


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
