"""Fit: the lengths that stock belts and chains allow, and every shaft between its bearings."""

from __future__ import annotations

from pulltide.core.fit.shaft import is_free
from pulltide.web.places.contract import Context, Place, Summary
from pulltide.web.places.fit.fit_view import FitView, fit_view
from pulltide.words import say, say_count


def summary(context: Context) -> Summary:
    """How many shafts have bearings of their own, and whether those are placed."""
    plan = context.plan
    free = [number for number in range(2, len(plan.links) + 2) if is_free(plan, number)]
    placed = [n for n in free if (part := plan.shaft_part(n)) is not None and part.span is not None]
    if not plan.links:
        return Summary(say("needs a stage"), False)
    if not free:
        return Summary(say("no free shafts"), True)
    return Summary(
        say_count("{placed} of {count} shaft", "{placed} of {count} shafts", len(free), placed=len(placed)),
        len(placed) == len(free),
    )


def view(context: Context) -> FitView:
    """The place in words."""
    return fit_view(context)


PLACE = Place("fit", "Fit", "f", summary, view)
