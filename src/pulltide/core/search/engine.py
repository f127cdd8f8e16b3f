r"""The best trains of listed stages for every order of families, without looking at those that cannot fit.

A train is a motor and up to four stages. Speeds run forward: ln n_k = ln n_(k-1) - ln i_k; torque runs back:
ln T_(k-1) = ln T_k - ln i_k - ln η_k. Trains are grown from the last shaft back to the motor.

Bounds (``tables.py``). For every choice of a motor and first stages by family a table tells the least score that
reaches a speed and delivers a torque there; a partial train is dropped only where its score and the table's are over
the ceiling.

Rounds. For each order of families everything under a ceiling is found; the ceiling is raised until there are enough.
What is returned is complete below it: nothing is sampled, and the order of the lists does not matter.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from itertools import product
from math import ceil, floor, log

import numpy as np

from pulltide.core.search.pace import Pace, at_once
from pulltide.core.search.rows import LN_GRID, Floats, Ints
from pulltide.core.search.tables import (
    BUCKETS,
    EQUAL,
    FAR,
    LN_PLENTY,
    UNIT,
    WIDTH,
    Flags,
    Reach,
    Shafts,
    Stock,
    Weights,
    Word,
    at_speed,
    bucket_of,
    level_of,
    penalty,
    table_at,
)

#: So many partial trains are grown at a time, and so many are looked at in one search at most.
CHUNK, WORK = 512, 4_000_000
#: A speed band is searched in pieces of about so much in ln n, those near the ideal speed first.
PIECE = 0.06


@dataclass(frozen=True, slots=True)
class Asked:
    """What the last shaft must do, and what is allowed.

    Speeds [rpm]; ``torque_nm`` running torque at the last shaft > 0; ``turn`` +1 as the motor, -1 against, 0 either;
    ``must`` families that have to be in the train; ``most_stages`` 1 to 4; ``most_price`` in price units.
    """

    low_rpm: float
    ideal_rpm: float
    high_rpm: float
    torque_nm: float
    turn: int = 0
    most_stages: int = 3
    most_price: float | None = None
    must: frozenset[str] = frozenset()
    weights: Weights = field(default_factory=Weights)


@dataclass(frozen=True, slots=True)
class Train:
    """A motor and its stages by their ids, first stage first, with what the search knows of them."""

    word: Word
    score: int
    motor: int
    stages: tuple[int, ...]
    speed_rpm: float
    use: float
    price: float
    parts: int


@dataclass(frozen=True, slots=True)
class Kind:
    """The best trains of one order of families, best first."""

    word: Word
    trains: tuple[Train, ...]


def words(stocks: Iterable[Stock], asked: Asked) -> list[Word]:
    """Orders of families, shortest first: ranks do not fall toward the last shaft, none stands oftener than it may."""
    known = {stock.kind: stock for stock in stocks if len(stock)}
    found = []
    for length in range(1, asked.most_stages + 1):
        for word in product(sorted(known), repeat=length):
            ranks = [known[kind].rank for kind in word]
            seldom = all(ranks.count(known[kind].rank) <= known[kind].most for kind in word)
            if ranks == sorted(ranks) and seldom and asked.must <= set(word):
                found.append(word)
    return found


class OutOfWork(Exception):
    """More was looked at than a search may."""


@dataclass(slots=True)
class Part:
    """Trains from some stage to the last shaft, P of them, those with the lowest bound on their score first.

    ``score`` of their rows and of their use at least, ``ln_speed`` [rpm] at their open end with the last shaft at its
    slowest, ``ln_torque`` the least they need there [N·m], ``rows`` P x stages.
    """

    bound: Ints
    score: Ints
    ln_speed: Floats
    ln_torque: Floats
    rows: Ints

    def __len__(self) -> int:
        return len(self.score)

    def taken(self, places: Ints | slice) -> Part:
        """Some of them."""
        return Part(*(getattr(self, name)[places] for name in self.__slots__))


class _Top:
    """The best trains so far, and the score that one must not be over to be among them."""

    def __init__(self, limit: int, enough: int) -> None:
        self.limit, self.enough = limit, enough
        self.trains: list[Train] = []

    def add(self, trains: Iterable[Train]) -> None:
        self.trains = sorted([*self.trains, *trains], key=order)[: self.enough]
        if len(self.trains) == self.enough:
            self.limit = min(self.limit, self.trains[-1].score)


class Search:
    """One search; groups and reach may be shared by searches for other needs under the same duty and weights."""

    def __init__(self, reach: Reach, asked: Asked, work: int = WORK, pace: Pace = at_once) -> None:
        self.reach, self.asked, self.work, self.pace = reach, asked, work, pace
        self.groups = reach.groups
        self.bands = _bands(log(asked.low_rpm), log(asked.ideal_rpm), log(asked.high_rpm))
        self.ideal, self.torque = log(asked.ideal_rpm), log(asked.torque_nm)
        motors = reach.motors
        self.power = float((motors.ln_speed + motors.ln_torque).max(initial=-np.inf))
        self.allowed = {kind: self._allowed(group.stock) for kind, group in self.groups.items()}
        self.words = words((group.stock for group in self.groups.values()), asked)
        self.looked_at = 0
        self._windows: dict[tuple[Word, int], Ints] = {}

    def _allowed(self, stock: Stock) -> Flags:
        """Rows that can pass the power of the last shaft at some speed, and cost no more than there is."""
        power = (stock.ln_capacity + LN_GRID).max(axis=1)
        fits: Flags = power >= self.torque + log(self.asked.low_rpm) - EQUAL
        return fits if self.asked.most_price is None else fits & (stock.price <= self.asked.most_price + EQUAL)

    def _window(self, word: Word, band: Band) -> Ints:
        """The table of a word, the best of every speed that a band may mean for its slowest."""
        span = min(ceil((band.high - band.low) / WIDTH) + 1, BUCKETS - 1)
        if (word, span) not in self._windows:
            table = self.reach.table(word)
            found = table.copy()
            for by in range(1, span + 1):
                np.minimum(found[:, :-by], table[:, by:], out=found[:, :-by])
            self._windows[word, span] = found
        return self._windows[word, span]

    def bound(self, word: Word) -> int:
        """A score that no train of these families is under; FAR where the table alone shows that none fits."""
        return min(self._band_bound(word, band) for band in self.bands)

    def _band_bound(self, word: Word, band: Band) -> int:
        place, level = int(bucket_of(np.array([band.low]))[0]), int(level_of(np.array([self.torque]))[0])
        return min(int(self._window(word, band)[level, max(place, 0)]) + self._error(band), FAR)

    def _error(self, band: Band) -> int:
        """What the speed error costs in a band at least [score]."""
        return floor(UNIT * self.asked.weights.error * band.off)

    # -- growing ----------------------------------------------------------------------------------------------------

    def under(self, word: Word, limit: int, enough: int) -> list[Train]:
        """All trains of these families up to a score, the best ``enough`` of them. Raises OutOfWork."""
        top = _Top(limit, enough)
        none = np.zeros(1, dtype=np.int64)
        for band in self.bands:
            least = self._band_bound(word, band)
            if least <= top.limit:
                start = np.array([self._error(band)])
                nothing = np.empty((1, 0), dtype=np.int64)
                last = Part(none, start, np.array([band.low]), np.array([self.torque]), nothing)
                self._grow((word, band), len(word), last, top)
        return top.trains

    def _grow(self, where: tuple[Word, Band], place: int, part: Part, top: _Top) -> None:
        """The most promising first, and to the end, so that what is found shortens what is left."""
        for piece in _pieces(part):
            if int(piece.bound[0]) > top.limit:
                return
            if place:
                self._grow(where, place - 1, self._before(where, place - 1, piece, top.limit), top)
            else:
                top.add(self._whole(where, piece, top.limit))

    def _before(self, where: tuple[Word, Band], place: int, after: Part, limit: int) -> Part:
        """Each partial with every row of the family before it."""
        word, band = where
        group, table = self.groups[word[place]], self._window(word[:place], band)
        steps = group.first + np.arange(group.count)
        speeds = bucket_of(after.ln_speed)[:, None] + steps[None, :]
        levels = level_of(after.ln_torque[:, None] - group.gain[None, :])
        rest = np.minimum(table_at(table, (levels,), speeds), table_at(table, (levels,), speeds + 1))
        left = limit - after.score[:, None] - rest
        partials, rows = group.within(left, levels, speeds, self.allowed[word[place]])
        self._count(len(rows))
        stock, weights = group.stock, self.asked.weights
        speed = after.ln_speed[partials] + stock.ln_ratio[rows]
        torque = after.ln_torque[partials] - group.ln_gain[rows]
        rest = table_at(table, (level_of(torque),), bucket_of(speed))
        fits = (after.score[partials] + group.score[rows] + rest <= limit) & (torque + speed <= self.power + EQUAL)
        near = np.flatnonzero(fits & (speed <= stock.ln_max[rows] + EQUAL))
        partials, rows, speed, torque, rest = partials[near], rows[near], speed[near], torque[near], rest[near]
        use = torque - at_speed(stock.ln_capacity, rows, speed)
        fits = use <= EQUAL
        if place < len(word) - 1:
            here = group.shafts, rows, speed
            following = self.groups[word[place + 1]].shafts, after.rows[partials, 0], after.ln_speed[partials]
            fits &= _bores(here, following) & (_shared(here, following, after.ln_torque[partials]) <= EQUAL)
        score = after.score[partials] + group.score[rows] + penalty(weights, use)
        kept = np.flatnonzero(fits & (score + rest <= limit))
        kept = kept[np.argsort((score + rest)[kept], kind="stable")]
        made = np.concatenate([rows[kept, None], after.rows[partials[kept]]], axis=1)
        return Part((score + rest)[kept], score[kept], speed[kept], torque[kept], made)

    def _count(self, looked_at: int) -> None:
        self.looked_at += looked_at
        if self.looked_at > self.work:
            raise OutOfWork
        self.pace(self.looked_at)

    def _whole(self, where: tuple[Word, Band], part: Part, limit: int) -> Iterator[Train]:
        """Each train behind every motor, each limit tested at its own speed."""
        word, band = where
        count = len(self.reach.motors.id)
        which, motor = np.repeat(np.arange(len(part)), count), np.tile(np.arange(count), len(part))
        out = band.low + self.reach.motors.ln_speed[motor] - part.ln_speed[which]
        near = band.holds(out) & (part.score[which] + self.reach.motor_score[motor] <= limit)
        self._count(int(near.sum()))
        which, motor = which[near], motor[near]
        if len(motor):
            yield from self.exact(word, motor, part.rows[which], limit)

    def exact(self, word: Word, motor: Ints, rows: Ints, limit: int = FAR) -> Iterator[Train]:
        """Those of some trains that fit and whose score is no more than a limit: motors, and rows x stages."""
        motors, groups = self.reach.motors, [self.groups[kind] for kind in word]
        stages = [(group.stock, rows[:, place]) for place, group in enumerate(groups)]
        speeds = [motors.ln_speed[motor]]
        for stock, row in stages:
            speeds.append(speeds[-1] - stock.ln_ratio[row])
        shafts = [(group.shafts, rows[:, place], speeds[place]) for place, group in enumerate(groups)]
        fits, use, costs = self._carried(stages, shafts, speeds, motor)
        out = speeds[-1]
        price, parts = motors.price[motor], motors.parts[motor]
        score, turn = self.reach.motor_score[motor] + costs, np.ones(len(motor), dtype=np.int64)
        for group, (stock, row) in zip(groups, stages, strict=True):
            price, parts = price + stock.price[row], parts + stock.parts[row]
            score, turn = score + group.score[row], turn * stock.turn[row]
        error = np.round(UNIT * self.asked.weights.error * np.abs(out - self.ideal)).astype(np.int64)
        score = score + error
        fits &= (out >= log(self.asked.low_rpm) - EQUAL) & (out <= log(self.asked.high_rpm) + EQUAL) & (score <= limit)
        if self.asked.most_price is not None:
            fits &= price <= self.asked.most_price + EQUAL
        if self.asked.turn:
            fits &= turn == self.asked.turn
        ids = np.stack([stock.id[row] for stock, row in stages], axis=1)
        for k in np.flatnonzero(fits).tolist():
            yield Train(
                word,
                int(score[k]),
                int(motors.id[motor[k]]),
                tuple(ids[k].tolist()),
                float(np.exp(out[k])),
                float(np.exp(use[k])),
                float(price[k]),
                int(parts[k]),
            )

    def _carried(
        self, stages: list[tuple[Stock, Ints]], shafts: list[OnShaft], speeds: list[Floats], motor: Ints
    ) -> tuple[Flags, Floats, Ints]:
        """Whether every stage and shaft stands its load and speed, ln of the greatest use, and what use costs."""
        motors, weights = self.reach.motors, self.asked.weights
        fits = motors.shaft_mm[motor] <= stages[0][0].bore_in[stages[0][1]] + EQUAL
        fits &= stages[0][0].outside_mm[stages[0][1]] >= motors.least_mm[motor] - EQUAL
        torque, use = np.full(len(motor), self.torque), np.full(len(motor), -np.inf)
        costs = np.zeros(len(motor), dtype=np.int64)
        for place in range(len(stages) - 1, -1, -1):
            stock, row = stages[place]
            if place < len(stages) - 1:
                fits &= _bores(shafts[place], shafts[place + 1])
                use = np.maximum(use, _shared(shafts[place], shafts[place + 1], torque))
            torque = torque - stock.ln_ratio[row] - at_speed(stock.ln_efficiency, row, speeds[place])
            here = torque - at_speed(stock.ln_capacity, row, speeds[place])
            use, costs = np.maximum(use, here), costs + penalty(weights, here)
            fits &= speeds[place] <= stock.ln_max[row] + EQUAL
        here = torque - motors.ln_torque[motor]
        use, costs = np.maximum(use, here), costs + penalty(weights, here)
        return fits & (use <= EQUAL), use, costs


@dataclass(frozen=True, slots=True)
class Band:
    """A piece of the speed band, ln n, and how far its nearest speed is off the ideal; the last one holds its end."""

    low: float
    high: float
    off: float
    last: bool

    def holds(self, ln_speed: Floats) -> Flags:
        """Whether speeds lie in it."""
        inside: Flags = ln_speed >= self.low - EQUAL
        return inside & (ln_speed <= self.high + EQUAL if self.last else ln_speed < self.high - EQUAL)


def _bands(low: float, ideal: float, high: float) -> tuple[Band, ...]:
    """The speed band in pieces, those nearest to the ideal first."""
    count = max(ceil((high - low) / PIECE), 1)
    edges = [low + (high - low) * k / count for k in range(count + 1)]
    made = [
        Band(edges[k], edges[k + 1], max(edges[k] - ideal, ideal - edges[k + 1], 0.0), k == count - 1)
        for k in range(count)
    ]
    return tuple(sorted(made, key=lambda band: (band.off, band.low)))


def _pieces(part: Part) -> Iterator[Part]:
    """In pieces that are grown one at a time."""
    for start in range(0, len(part), CHUNK):
        yield part.taken(slice(start, start + CHUNK))


#: Rows of one family, what they do on their shafts, and ln of the speeds of their drivers [rpm].
OnShaft = tuple[Shafts, Ints, Floats]


def _shared(before: OnShaft, after: OnShaft, ln_torque: Floats) -> Floats:
    """Ln of the greater share used of the overhung ratings at the shaft that two stages share."""
    (first, i, first_rpm), (second, j, second_rpm) = before, after
    on_first = second.pull_in[j] - at_speed(first.rating_out, i, first_rpm)
    on_second = first.pull_out[i] - at_speed(second.rating_in, j, second_rpm)
    return np.asarray(np.maximum(on_first, on_second) + ln_torque)


def _bores(before: OnShaft, after: OnShaft) -> Flags:
    """Whether the wheels on the shaft that two stages share may be bored to it."""
    (first, i, _), (second, j, _) = before, after
    on_first: Flags = second.bore_in[j] >= first.shaft_out[i] - EQUAL
    return on_first & (first.bore_out[i] >= second.shaft_in[j] - EQUAL)


#: A ceiling begins this far above what no train is under, and its distance grows by this each round.
BEGIN, GROW = 0.03, 1.18


def order(train: Train) -> tuple[int, int, Word, int, tuple[int, ...]]:
    """By score, then fewest stages, then families and ids: never by chance."""
    return train.score, len(train.stages), train.word, train.motor, train.stages


def highest(search: Search) -> int:
    """No train has a higher score."""
    rows = sum(int(group.score.max()) * group.stock.most for group in search.groups.values())
    w, asked = search.asked.weights, search.asked
    uses = -w.use * LN_PLENTY * (asked.most_stages + 1)
    span = w.error * log(asked.high_rpm / asked.low_rpm) + uses
    return int(search.reach.motor_score.max(initial=0)) + rows + int(UNIT * span) + UNIT


def best_kinds(search: Search, kinds: int, each: int) -> tuple[tuple[Kind, ...], bool]:
    """The best ``kinds`` orders of families, each with its best trains, up to ``each``; and whether the work ran out.

    All orders are searched under one ceiling, which is raised until enough of them have a train: those found are
    complete below it. Orders whose bound is over the ceiling are not looked into.
    """
    ordered = sorted((search.bound(word), len(word), word) for word in search.words)
    bounds = [(bound, word) for bound, _, word in ordered if bound < FAR]
    if not bounds:
        return (), False
    found: dict[Word, Kind] = {}
    most, step = highest(search), max(int(BEGIN * bounds[0][0]), UNIT)
    while len(found) < kinds:
        ceiling = min(bounds[0][0] + step, most)
        try:
            _add_under(search, [word for bound, word in bounds if bound <= ceiling], ceiling, (kinds, each), found)
        except OutOfWork:
            return _ranked(found), True
        if ceiling >= most:
            break
        step = int(GROW * step)
    return _ranked(found)[:kinds], False


def _add_under(
    search: Search, open_words: list[Word], ceiling: int, enough: tuple[int, int], found: dict[Word, Kind]
) -> None:
    """Add the orders that have trains under a ceiling; one found before is complete. ``enough`` kinds, trains of each.

    Once there are enough, an order that cannot better the last of them is not looked into.
    """
    kinds, each = enough
    for word in open_words:
        if word in found:
            continue
        firsts = sorted(kind.trains[0].score for kind in found.values())
        limit = ceiling if len(firsts) < kinds else min(ceiling, firsts[kinds - 1])
        trains = search.under(word, limit, each) if search.bound(word) <= limit else []
        if trains:
            found[word] = Kind(word, tuple(trains))


def _ranked(found: dict[Word, Kind]) -> tuple[Kind, ...]:
    return tuple(sorted(found.values(), key=lambda kind: order(kind.trains[0])))
