"""Run log: what was read, beside what is expected; what explains it; what is due."""

from __future__ import annotations

from pulltide.presentation.log_words import hours_run
from pulltide.web.places.contract import Context, Place, Summary
from pulltide.web.places.log.log_view import LogView, log_view
from pulltide.words import say, say_count


def summary(context: Context) -> Summary:
    """Hours run and pages of readings; nothing is judged for the rail."""
    log = context.machine.log
    if not log.visits:
        return Summary(say("nothing read yet"), False)
    pages = say_count("{count} page", "{count} pages", len(log.visits))
    return Summary(f"{pages}, {hours_run(log.hours)}" if log.hours is not None else pages, True)


def view(context: Context) -> LogView:
    """The place in words."""
    return log_view(context)


PLACE = Place("log", "Run log", "l", summary, view, searches=True)
