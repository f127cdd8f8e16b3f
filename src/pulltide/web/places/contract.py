"""What a place provides, and what it is given: a machine, where its page is turned to, and answers made when needed."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from pulltide.core.catalog import Catalog, Item
from pulltide.core.findings import Finding
from pulltide.core.line import shaft_names, solve_plan
from pulltide.core.line_result import LineResult, PlanResult
from pulltide.core.line_working import working
from pulltide.core.machine import Machine
from pulltide.core.remedies import may_be_cured, with_remedies
from pulltide.core.sources import drive_of
from pulltide.presentation.working_view import WorkingView, working_view
from pulltide.quantities import Units
from pulltide.services.machines import StoredMachine
from pulltide.services.making import Making
from pulltide.services.photos import Photos
from pulltide.services.quotes import Quotes
from pulltide.services.revisions import Revisions
from pulltide.services.searching import Searcher
from pulltide.services.shelf import ShelfItem, ShelfItems, shop_catalog
from pulltide.services.shop import Shop
from pulltide.web.changes_view import ChangesView, changes_view
from pulltide.web.selection import Selection
from pulltide.words import filled


class EmptyShelf:
    """A shelf that nothing lies on."""

    def items(self, family: str = "") -> Sequence[ShelfItem]:
        """Nothing."""
        return ()

    def own(self) -> tuple[Item, ...]:
        """Nothing."""
        return ()


EMPTY_SHELF = EmptyShelf()


#: How long a page waits for a search before it says that it goes on [s].
PATIENCE_S = 1.0


#: By the name of a part of the shelf the machines that count on it, each with how many of it.
Claims = Mapping[str, tuple[tuple[str, int], ...]]


@dataclass(frozen=True, slots=True)
class Helpers:
    """What works beside the pages: the search of the lists, quotes, sheets given out, the shop's own machines."""

    searcher: Searcher | None = None
    quotes: Quotes | None = None
    making: Making | None = None
    shop: Shop | None = None
    photos: Photos | None = None
    claims: Callable[[], Claims] = dict
    former: Callable[[], Machine | None] = lambda: None
    revisions: Revisions | None = None
    patience_s: float = PATIENCE_S


class Context:
    """A machine and where its page is turned to. Each answer is worked out when a place first needs it, and once."""

    def __init__(
        self,
        stored: StoredMachine,
        selection: Selection,
        units: Units,
        shelf: ShelfItems = EMPTY_SHELF,
        *,
        remedies_later: bool = False,
        helpers: Helpers = Helpers(),
    ) -> None:
        self.stored = stored
        self.machine = stored.machine
        self.selection = selection.within(stored.id, len(self.machine.plans))
        self.plan = self.machine.plans[self.selection.plan]
        self.units = units
        self.shelf = shelf
        self.remedies_later = remedies_later
        self.searcher, self.quotes = helpers.searcher, helpers.quotes
        self.making, self.revisions, self.shop = helpers.making, helpers.revisions, helpers.shop
        self.photos, self._claims, self._former = helpers.photos, helpers.claims, helpers.former
        self.patience_s = helpers.patience_s
        self.lists: Callable[[], Catalog] = lambda: shop_catalog(shelf)

    @cached_property
    def catalog(self) -> Catalog:
        """The shipped lists and what lies on the shelf."""
        return self.lists()

    @cached_property
    def claims(self) -> Claims:
        """Which other machines count on a part of the shelf, by its name."""
        return self._claims()

    @cached_property
    def former(self) -> Machine | None:
        """The machine before its last change; None without one."""
        return self._former()

    @cached_property
    def result(self) -> PlanResult | None:
        """The plan solved at every setting, without remedies."""
        return solve_plan(self.machine, self.plan, catalog=self.catalog)

    @cached_property
    def proved(self) -> PlanResult | None:
        """The same with remedies, each tried on the whole plan; without while the page fetches them by itself."""
        if self.result is None or self.remedies_later:
            return self.result
        return with_remedies(self.machine, self.plan, self.result, self.catalog)

    def awaits_remedies(self, finding: Finding) -> bool:
        """Whether the remedies of a finding are still to come."""
        return self.remedies_later and may_be_cured(finding)

    @property
    def line(self) -> LineResult | None:
        """The plan at the setting in use."""
        return None if self.result is None else self.result.chosen

    @cached_property
    def names(self) -> tuple[str, ...]:
        """Names of the shafts, motor first."""
        return tuple(filled(name, self.units) for name in shaft_names(self.machine, self.plan))

    def working(self) -> WorkingView | None:
        """The working of the figure that is explained, of a line's figures."""
        drive, line = drive_of(self.plan.source), self.line
        if line is None or drive is None or not self.selection.figure:
            return None
        found = working(self.machine, drive, line, self.selection.figure)
        return working_view(found, self.units) if found else None

    def changes(self) -> ChangesView:
        """What the last change did to every plan."""
        label = self.stored.undo_label or ""
        return changes_view(self.machine, self.stored.before, label, {self.selection.plan: self.result}, self.units)


@dataclass(frozen=True, slots=True)
class Summary:
    """What the rail says of a place in a few words, and whether it is filled in."""

    words: str
    done: bool


@dataclass(frozen=True, slots=True)
class Place:
    """One place of a machine, at ``/machines/{id}/{key}``: its key after ``g``, its words on the rail, its view.

    Its templates ``main.html`` and ``side.html`` lie in its folder and are given the view as ``body``. ``searches``
    says that its view may take seconds; it waits for others that do.
    """

    key: str
    title: str
    shortcut: str
    summary: Callable[[Context], Summary]
    view: Callable[[Context], Any]
    searches: bool = False
