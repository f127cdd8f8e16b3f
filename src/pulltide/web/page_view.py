"""A machine's page: the shell with its rail, and in it one place."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from pulltide.core.machine import Machine, Plan
from pulltide.presentation.words import LAST_CAUTION
from pulltide.services.editing import shape_of
from pulltide.services.machines import StoredMachine
from pulltide.web.places import PLACES, Context, Place, place_of
from pulltide.web.selection import Selection
from pulltide.words import say, worded


@dataclass(frozen=True, slots=True)
class RailItem:
    """One entry of the rail."""

    key: str
    title: str
    shortcut: str
    address: str
    summary: str
    done: bool
    current: bool


@dataclass(frozen=True, slots=True)
class PageView:
    """The whole page; ``body`` is the view of its place."""

    stored: StoredMachine
    machine: Machine
    plan: Plan
    selection: Selection
    saved_at: str
    place: Place
    rail: tuple[RailItem, ...]
    body: Any
    last_speed: str
    shape: str
    caution: str = field(default_factory=lambda: say(LAST_CAUTION))


def page_view(context: Context, saved_at: str) -> PageView:
    """The page of a machine turned to its place. Raises KeyError for a place that is not registered."""
    selection = context.selection
    place = place_of(selection.place)
    if place is None:
        raise KeyError(selection.place)
    return PageView(
        context.stored,
        context.machine,
        context.plan,
        selection,
        saved_at,
        place,
        tuple(_item(other, context, place) for other in PLACES),
        place.view(context),
        selection.to("train", at=selection.at, show=f"shaft-{len(context.plan.links) + 1}/speed"),
        shape_of(context.machine),
    )


def _item(place: Place, context: Context, here: Place) -> RailItem:
    said = place.summary(context)
    address = context.selection.to(place.key, at="", show="")
    return RailItem(place.key, worded(place.title), place.shortcut, address, said.words, said.done, place is here)
