"""The best kinds of train: orders of families, each with its best trains, behind any of many motors.

Rounds. For each order of families everything under a ceiling is found; the ceiling is raised until there are enough.
What is returned is complete below it: nothing is sampled, and the order of the lists does not matter.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from math import log

from pulltide.core.search.bounds import Reach
from pulltide.core.search.cheapest_first import cheapest_first
from pulltide.core.search.engine import WORK, Asked, OutOfWork, Search, Train, order
from pulltide.core.search.field import FAR
from pulltide.core.search.pace import Pace, at_once
from pulltide.core.search.tables import LN_PLENTY, UNIT, Word

#: A ceiling begins this far above what no train is under, and its distance grows by this each round.
BEGIN, GROW = 0.03, 1.4


@dataclass(frozen=True, slots=True)
class Kind:
    """The best trains of one order of families, best first."""

    word: Word
    trains: tuple[Train, ...]


def highest(search: Search) -> int:
    """No train has a higher score."""
    rows = sum(int(group.score.max()) * group.stock.most for group in search.groups.values())
    w, asked = search.asked.weights, search.asked
    uses = -w.use * LN_PLENTY * (asked.max_stages + 1)
    span = w.error * log(asked.high_rpm / asked.low_rpm) + uses
    return int(search.reach.motor_score.max(initial=0)) + rows + int(UNIT * span) + UNIT


def first_step(least: int) -> int:
    """How far above a score that no train is under a ceiling begins."""
    return max(int(BEGIN * least), UNIT)


@dataclass(frozen=True, slots=True)
class BestKinds:
    """So many of the best orders of families, each with its best trains, up to so many."""

    kinds: int
    each: int

    def last(self, found: tuple[Kind, ...]) -> int:
        """The score of the last train of any kind, FAR while there are too few kinds."""
        return max(kind.trains[-1].score for kind in found) if len(found) == self.kinds else FAR

    def find(self, search: Search, known: tuple[Kind, ...] | None = None) -> tuple[tuple[Kind, ...], bool]:
        """The best kinds, and whether the work ran out; ``known`` were found by the same search behind other motors.

        All orders are searched under one ceiling, which is raised until enough of them have a train: those found are
        complete below it. Orders whose bound is over the ceiling are not looked into.
        """
        orders, best = Orders(search), _Best(self.kinds, self.each, known or ())
        try:
            for ceiling in _ceilings(search, orders.least(), best):
                for word in orders.under(ceiling):
                    best.look(search, word, ceiling)
            for word in best.unseen():
                best.look(search, word, 0)
        except OutOfWork:
            return best.ranked(), True
        return best.ranked(), False


def find_kinds(
    reach: Reach, asked: Asked, enough: tuple[int, int], work: int = WORK, pace: Pace = at_once
) -> tuple[tuple[Kind, ...], bool, int]:
    """The best kinds of train behind any of the motors, so many of so many trains; whether the work ran out, and how
    many rows were looked at.
    """
    return cheapest_first(reach, asked, BestKinds(*enough), work, pace)


class Orders:
    """The orders of families of a search, bounded only as far as a ceiling reaches."""

    def __init__(self, search: Search) -> None:
        self.search = search
        guesses = ((search.guess(word), word) for word in search.words)
        self._waiting = sorted(((guess, word) for guess, word in guesses if guess < FAR), reverse=True)
        self._bounds: list[tuple[int, int, Word]] = []

    def least(self) -> int:
        """A score that no train of any order is under; FAR where none fits."""
        while self._waiting and (not self._bounds or self._waiting[-1][0] <= self._bounds[0][0]):
            self._look(self._waiting[-1][0])
        return self._bounds[0][0] if self._bounds else FAR

    def under(self, ceiling: int) -> list[Word]:
        """Those that may have a train under a ceiling, the most promising first."""
        self._look(ceiling)
        return [word for bound, _, word in self._bounds if bound <= ceiling]

    def _look(self, ceiling: int) -> None:
        while self._waiting and self._waiting[-1][0] <= ceiling:
            word = self._waiting.pop()[1]
            self._bounds.append((self.search.bound(word), len(word), word))
        self._bounds.sort()


class _Best:
    """The best kinds of train so far, so many of so many trains; what is ``known`` was found behind other motors."""

    def __init__(self, kinds: int, each: int, known: Iterable[Kind]) -> None:
        self.kinds, self.each = kinds, each
        self.known = {kind.word: kind.trains[-1].score for kind in known}
        self._found = {kind.word: kind for kind in known}
        self._looked = set[Word]()

    def ranked(self) -> tuple[Kind, ...]:
        """Best first."""
        return tuple(sorted(self._found.values(), key=lambda kind: order(kind.trains[0])))[: self.kinds]

    def last(self) -> int | None:
        """What the best of the last kind counts; nothing while there are too few."""
        ranked = self.ranked()
        return ranked[-1].trains[0].score if len(ranked) == self.kinds else None

    def unseen(self) -> list[Word]:
        """Kinds on the list that were found behind other motors alone."""
        return [kind.word for kind in self.ranked() if kind.word in self.known and kind.word not in self._looked]

    def look(self, search: Search, word: Word, ceiling: int) -> None:
        """Add the trains of an order up to a ceiling, if there are any: those found are complete.

        An order that cannot better the last kind is not looked into; one that is known is as far as its trains go.
        """
        if word in self._looked:
            return
        last = self.last()
        limit = self.known.get(word, ceiling if last is None else min(ceiling, last))
        trains = search.under(word, limit, self.each) if search.bound(word) <= limit else []
        trains = sorted([*(self._found[word].trains if word in self.known else ()), *trains], key=order)
        if trains:
            self._looked.add(word)
            self._found[word] = Kind(word, tuple(trains[: self.each]))


def _ceilings(search: Search, least: int, best: _Best) -> Iterator[int]:
    """Higher ones until there are enough kinds, none of which is over the last: not those found elsewhere either."""
    most, step, ceiling = highest(search), first_step(least), 0
    while least < FAR and ceiling < most:
        last = best.last()
        if last is not None and last <= ceiling:
            return
        ceiling = min(least + step, most) if last is None else last
        yield ceiling
        step = int(GROW * step)
