"""Build sheet: one plan on paper, and its parts list as files."""

from __future__ import annotations

from pulltide.web.places.contract import Context, Place, Summary
from pulltide.web.places.sheet.sheet_view import SheetView, sheet_view
from pulltide.words import say


def summary(context: Context) -> Summary:
    """Which state of the machine it would print."""
    ready = context.plan.source is not None and bool(context.plan.links)
    return Summary(say("state {version}", version=context.stored.version) if ready else say("needs a drive"), ready)


def view(context: Context) -> SheetView:
    """The place in words."""
    return sheet_view(context)


PLACE = Place("sheet", "Build sheet", "b", summary, view)
