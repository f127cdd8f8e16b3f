"""Ways: what a search of the lists finds for the need, beside what is allowed."""

from __future__ import annotations

from pulltide.web.places.contract import Context, Place, Summary
from pulltide.web.places.ways.ways_view import WaysView, ways_view
from pulltide.words import say


def summary(context: Context) -> Summary:
    """What is there to do; nothing is searched for the rail."""
    need = context.machine.need
    known = bool(need.running_torque_nm and (need.aimed_rpm or need.speed_max_rpm))
    return Summary(say("search the lists") if known else say("needs speed and torque"), known)


def view(context: Context) -> WaysView:
    """The place in words."""
    return ways_view(context)


PLACE = Place("ways", "Ways", "w", summary, view, searches=True)
