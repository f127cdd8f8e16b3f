"""Duty: how hard the machine works, and by which rule parts are sized."""

from __future__ import annotations

from dataclasses import dataclass

from pulltide.web.changes_view import ChangesView
from pulltide.web.places.contract import Context, Place, Summary
from pulltide.web.places.duty.duty_view import DutyView, duty_view
from pulltide.words import say


@dataclass(frozen=True, slots=True)
class DutyBody:
    """The duty, and what the last change did."""

    duty: DutyView
    changes: ChangesView


def summary(context: Context) -> Summary:
    """The shock of the load."""
    shock = context.machine.duty.shock
    words = say("{shock} shock", shock=shock) if shock and shock != "uniform" else (shock or say("not entered"))
    return Summary(words, shock is not None)


def view(context: Context) -> DutyBody:
    """The place in words."""
    duty = duty_view(context.machine, context.selection.plan, context.result, context.units)
    return DutyBody(duty, context.changes())


PLACE = Place("duty", "Duty", "d", summary, view)
