"""Need: what the last shaft must do."""

from __future__ import annotations

from dataclasses import dataclass

from pulltide.quantities import show
from pulltide.web.changes_view import ChangesView
from pulltide.web.end_view import EndView, end_view
from pulltide.web.places.contract import Context, Place, Summary
from pulltide.web.places.need.loads_view import LoadsView, loads_view
from pulltide.web.places.need.need_view import NeedView, need_view
from pulltide.words import say


@dataclass(frozen=True, slots=True)
class NeedBody:
    """The need, the simple machine on the last shaft, and what the last change did."""

    need: NeedView
    end: EndView
    loads: LoadsView
    changes: ChangesView


def summary(context: Context) -> Summary:
    """Ideal speed and running torque."""
    need = context.machine.need
    torque = show(need.running_torque_nm, "N*m", context.units) if need.running_torque_nm else say("torque unknown")
    speed = show(need.speed_ideal_rpm, "rpm", context.units) if need.speed_ideal_rpm else say("speed unknown")
    return Summary(f"{speed}, {torque}", need.running_torque_nm is not None)


def view(context: Context) -> NeedBody:
    """The place in words."""
    need = need_view(context.machine, context.result, context.selection.figure, context.units)
    loads = loads_view(context.machine, context.result, context.units)
    return NeedBody(need, end_view(context.machine, context.units), loads, context.changes())


PLACE = Place("need", "Need", "n", summary, view)
