"""Compare: every plan of a machine side by side, and why one was picked."""

from __future__ import annotations

from pulltide.presentation.words import counted
from pulltide.web.places.compare.compare_view import CompareView, compare_view
from pulltide.web.places.contract import Context, Place, Summary


def summary(context: Context) -> Summary:
    """How many there are; nothing is solved for the rail."""
    plans = len(context.machine.plans)
    return Summary(counted(plans, "plan"), plans > 1)


def view(context: Context) -> CompareView:
    """The place in words."""
    return compare_view(context)


PLACE = Place("compare", "Compare", "c", summary, view)
