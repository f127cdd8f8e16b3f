"""The best trains of all orders of families together, whatever their kind, behind any of many motors."""

from __future__ import annotations

from dataclasses import dataclass

from pulltide.core.search.bounds import Reach
from pulltide.core.search.cheapest_first import cheapest_first
from pulltide.core.search.engine import WORK, Asked, OutOfWork, Search, Train, order
from pulltide.core.search.field import FAR
from pulltide.core.search.kinds import GROW, Orders, first_step, highest
from pulltide.core.search.pace import Pace, at_once


@dataclass(frozen=True, slots=True)
class BestTrains:
    """So many of the best trains."""

    enough: int

    def last(self, found: tuple[Train, ...]) -> int:
        """The score of the last train, FAR while there are too few."""
        return found[self.enough - 1].score if len(found) >= self.enough else FAR

    def find(self, search: Search, known: tuple[Train, ...] | None = None) -> tuple[tuple[Train, ...], bool]:
        """The best trains, best first, and whether the work ran out; ``known`` were found behind other motors.

        One ceiling for all orders, raised until enough trains are under it.
        """
        orders, known = Orders(search), known or ()
        least, most = orders.least(), min(highest(search), self.last(known))
        step, ceiling, found = first_step(least), 0, known
        while least < FAR and ceiling < min(most, self.last(found)):
            ceiling, found = min(least + step, most), known
            try:
                for word in orders.under(ceiling):
                    limit = min(ceiling, self.last(found))
                    trains = search.under(word, limit, self.enough) if search.bound(word) <= limit else []
                    found = tuple(sorted((*found, *trains), key=order)[: self.enough])
            except OutOfWork:
                return found, True
            step = int(GROW * step)
        return found, False


def find_trains(
    reach: Reach, asked: Asked, enough: int, work: int = WORK, pace: Pace = at_once
) -> tuple[tuple[Train, ...], bool, int]:
    """The best trains behind any of the motors; whether the work ran out, and how many rows were looked at."""
    return cheapest_first(reach, asked, BestTrains(enough), work, pace)
