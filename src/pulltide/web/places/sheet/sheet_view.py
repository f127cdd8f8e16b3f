"""The Build sheet place: the sheet, its elevation, and the addresses of its files."""

from __future__ import annotations

from dataclasses import dataclass

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
    )
