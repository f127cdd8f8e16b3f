"""Run-up: the line in time, started, run and switched off."""

from __future__ import annotations

from pulltide.web.places.contract import Context, Place, Summary
from pulltide.web.places.runup.runup_view import RunView, runup_view
from pulltide.words import say


def summary(context: Context) -> Summary:
    """What there is to run; nothing is run for the rail."""
    ready = context.line is not None and bool(context.plan.links)
    return Summary(say("start and stop") if ready else say("needs a drive"), ready)


def view(context: Context) -> RunView:
    """The place in words."""
    return runup_view(context)


PLACE = Place("runup", "Run-up", "r", summary, view, searches=True)
