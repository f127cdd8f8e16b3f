"""Source: what turns the plan."""

from __future__ import annotations

from dataclasses import dataclass

from pulltide.core.sources import drive_of
from pulltide.core.sources.stock import SOURCE
from pulltide.presentation.working_view import WorkingView
from pulltide.quantities import show
from pulltide.web.changes_view import ChangesView
from pulltide.web.places.contract import Context, Place, Summary
from pulltide.web.places.source.motor_table import MotorTable, motor_table
from pulltide.web.places.source.source_view import SourceView, source_view
from pulltide.words import say


@dataclass(frozen=True, slots=True)
class SourceBody:
    """The source, what the last change did, and the working that is open."""

    source: SourceView
    motors: MotorTable | None
    changes: ChangesView
    working: WorkingView | None


def summary(context: Context) -> Summary:
    """Power and speed."""
    motor, units = drive_of(context.plan.source), context.units
    if motor is None:
        return Summary(say("not entered"), False)
    return Summary(f"{show(motor.power_kw, 'kW', units)}, {show(motor.speed_rpm, 'rpm', units)}", True)


def view(context: Context) -> SourceBody:
    """The place in words."""
    plan, units = context.selection.plan, context.units
    shelf = tuple(context.shelf.items(SOURCE))
    source = source_view(context.machine, plan, context.result, shelf, units)
    return SourceBody(source, motor_table(context), context.changes(), context.working())


PLACE = Place("source", "Source", "o", summary, view)
