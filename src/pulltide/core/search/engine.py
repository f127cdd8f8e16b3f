r"""The best trains of listed stages for every order of families, without looking at those that cannot fit.

A train is a motor and up to four stages. Speeds run forward: ln n_k = ln n_(k-1) - ln i_k; torque runs back:
ln T_(k-1) = ln T_k - ln i_k - ln η_k. Trains are grown from the last shaft back to the motor.

Bounds. For every choice of a motor and first stages by family a table tells the least score that reaches a speed
[buckets of ``WIDTH`` in ln n] and delivers a torque there [levels of ``STEP`` in ln T]. It is rounded to the safe side,
so that it never excludes a train that fits; a partial train is dropped only where its score and the table's are over
the ceiling. Capacities fall with speed, so that the slow edge of the speed band is a safe place to test them.

Rounds. For each order of families everything under a ceiling is found; the ceiling is raised until there are enough.
What is returned is complete below it: nothing is sampled, and the order of the lists does not matter.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field, replace
from itertools import product
from math import ceil, log
from typing import Any

import numpy as np
import numpy.typing as npt

from pulltide.core.search.rows import LN_GRID, MIDDLE, Floats, Ints

Flags = npt.NDArray[np.bool_]

#: Bucket of ln speed and ln ratio, and step of ln torque, of the tables; the speeds and torques that they span.
WIDTH, STEP = 0.05, 0.2
SLOWEST_RPM, FASTEST_RPM = 0.5, 20_000.0
LEAST_NM, MOST_NM = 0.02, 100_000.0
LN_SLOWEST, LN_LEAST = log(SLOWEST_RPM), log(LEAST_NM)
BUCKETS = ceil(log(FASTEST_RPM / SLOWEST_RPM) / WIDTH)
LEVELS = ceil(log(MOST_NM / LEAST_NM) / STEP)
#: Scores are whole numbers of a thousandth of a price unit, so that ties are exact on every machine.
UNIT = 1000
FAR = 1 << 50
#: So many partial trains are grown at a time, and so many are looked at in one search at most.
CHUNK, WORK = 512, 12_000_000
#: How equal two logarithms are.
EQUAL = 1e-9


@dataclass(frozen=True, slots=True)
class Weights:
    """What a price unit is worth: a bought part, an e-fold of loss and of speed error, of use above a plenty.

    Invented so that none drowns the others; a person chooses among them by what the list is ranked by.
    """

    price: float = 1.0
    part: float = 2.0
    loss: float = 60.0
    error: float = 80.0
    use: float = 30.0


#: Capacity beyond what leaves this use earns no more credit.
LN_PLENTY = log(0.6)


@dataclass(frozen=True, slots=True, kw_only=True)
class Stock:
    """Stages of one family, R rows; columns as in :class:`~pulltide.core.search.rows.Rows`.

    ``ln_capacity`` R x G has the duty in it. ``id`` tells rows apart in every order of the lists. ``rank`` is where the
    family commonly stands in a train, ``most`` how many of its rank follow each other.
    """

    kind: str
    rank: int
    most: int
    id: Ints
    ln_ratio: Floats
    ln_capacity: Floats
    ln_efficiency: Floats
    ln_max: Floats
    pull_in: Floats
    pull_out: Floats
    rating_in: Floats
    rating_out: Floats
    bore_in: Floats
    bore_out: Floats
    shaft_in: Floats
    shaft_out: Floats
    outside_mm: Floats
    turn: Ints
    price: Floats
    parts: Ints

    def __len__(self) -> int:
        return len(self.id)

    def taken(self, rows: Ints) -> Stock:
        """Some of the rows."""
        columns = {name: getattr(self, name) for name in self.__slots__}
        taken: Any = {name: column[rows] for name, column in columns.items() if isinstance(column, np.ndarray)}
        return replace(self, **taken)


@dataclass(frozen=True, slots=True, kw_only=True)
class Motors:
    """Sources, one row each: ln speed at full load [rpm], ln running torque they may give [N·m], and what they cost.

    ``shaft_mm`` 0 where unknown; ``least_mm`` the smallest belt pulley allowed, 0 where none is set.
    """

    id: Ints
    ln_speed: Floats
    ln_torque: Floats
    price: Floats
    parts: Ints
    shaft_mm: Floats
    least_mm: Floats


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


#: Families of the stages of a train, the one next to the motor first.
Word = tuple[str, ...]


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


def at_speed(table: Floats, rows: Ints, ln_speed: Floats) -> Floats:
    """A column over the speed grid at any speed: straight between grid points, level beyond them."""
    place = np.clip(np.searchsorted(LN_GRID, ln_speed, "right") - 1, 0, len(LN_GRID) - 2)
    share = np.clip((ln_speed - LN_GRID[place]) / (LN_GRID[place + 1] - LN_GRID[place]), 0.0, 1.0)
    low, high = table[rows, place], table[rows, place + 1]
    with np.errstate(invalid="ignore"):
        between = low + share * (high - low)
    between = np.where(np.isnan(between), np.minimum(low, high), between)
    return np.where(share <= 0, low, np.where(share >= 1, high, between))


class Group:
    """One family made ready for some weights: rows in order of bucket of ratio and score, and its table of bounds."""

    def __init__(self, stock: Stock, weights: Weights) -> None:
        stock = replace(stock, ln_capacity=np.minimum.accumulate(stock.ln_capacity, axis=1))
        worth = weights.price * stock.price + weights.part * stock.parts
        worth = worth - weights.loss * np.minimum(stock.ln_efficiency[:, MIDDLE], 0.0)
        score = np.round(UNIT * worth).astype(np.int64)
        bucket = np.floor(stock.ln_ratio / WIDTH).astype(np.int64)
        order = np.lexsort((stock.id, score, bucket))
        self.stock = stock.taken(order)
        self.score, self.bucket = score[order], bucket[order]
        self.first = int(self.bucket[0])
        self.count = int(self.bucket[-1]) - self.first + 1
        self.start = np.searchsorted(self.bucket, self.first + np.arange(self.count + 1))
        self.key = (self.bucket - self.first) * (4 * FAR) + self.score
        self.most_efficient = self.stock.ln_efficiency.max(axis=1)
        self.gain = np.full(self.count, -np.inf)
        np.maximum.at(self.gain, self.bucket - self.first, self.stock.ln_ratio + self.most_efficient)
        self.cheapest = self._cheapest()

    def _cheapest(self) -> Ints:
        """Least score of a row, by bucket of ratio, level of torque that it stands at least, bucket of driver speed.

        A capacity counts at the slow edge of a bucket and is rounded up to a level, to the safe side.
        """
        found = np.full((self.count, LEVELS, BUCKETS), FAR, dtype=np.int64)
        every = np.arange(len(self.stock))
        for at in range(BUCKETS):
            speed = LN_SLOWEST + WIDTH * at
            stands = at_speed(self.stock.ln_capacity, every, np.full(len(every), speed))
            level = np.ceil((np.clip(stands, LN_LEAST - STEP, LN_LEAST + STEP * LEVELS) - LN_LEAST) / STEP)
            can = (level >= 0) & (speed <= self.stock.ln_max + EQUAL)
            places = (self.bucket - self.first)[can], np.minimum(level[can], LEVELS - 1).astype(np.int64)
            np.minimum.at(found[:, :, at], places, self.score[can])
        return np.minimum.accumulate(found[:, ::-1, :], axis=1)[:, ::-1, :]

    def within(self, budget: Ints, rows: Flags) -> tuple[Ints, Ints]:
        """Of each partial (P x buckets of ratio, what a row may cost) the rows to try: partials and rows, in pairs."""
        bases = np.arange(self.count, dtype=np.int64) * (4 * FAR)
        ends = np.searchsorted(self.key, (bases + np.clip(budget, -1, FAR)).ravel(), "right").reshape(budget.shape)
        counts = np.maximum(ends - self.start[:-1], 0)
        partials, buckets = np.nonzero(counts)
        chosen = counts[partials, buckets]
        which = np.repeat(np.arange(len(chosen)), chosen)
        offset = np.arange(len(which)) - np.repeat(np.cumsum(chosen) - chosen, chosen)
        found = self.start[:-1][buckets[which]] + offset
        kept = rows[found]
        return partials[which][kept], found[kept]


class Reach:
    """Least scores of a motor and first stages by family: LEVELS x BUCKETS for each word, made when first asked for."""

    def __init__(self, motors: Motors, groups: dict[str, Group], weights: Weights) -> None:
        self.motors, self.groups = motors, groups
        worth = weights.price * motors.price + weights.part * motors.parts
        self.motor_score = np.round(UNIT * worth).astype(np.int64)
        self._tables: dict[Word, Ints] = {}

    def table(self, word: Word) -> Ints:
        """Least score that reaches a bucket of speed and delivers at least a level of torque there."""
        if word not in self._tables:
            self._tables[word] = self._after(word) if word else self._alone()
        return self._tables[word]

    def _alone(self) -> Ints:
        found = np.full((LEVELS, BUCKETS), FAR, dtype=np.int64)
        speed = np.clip(_bucket(self.motors.ln_speed), 0, BUCKETS - 1)
        level = np.clip(np.ceil((self.motors.ln_torque - LN_LEAST) / STEP), 0, LEVELS - 1).astype(np.int64)
        np.minimum.at(found, (level, speed), self.motor_score)
        return np.minimum.accumulate(found[::-1], axis=0)[::-1]

    def _after(self, word: Word) -> Ints:
        before, group = self.table(word[:-1]), self.groups[word[-1]]
        found = np.full((LEVELS, BUCKETS), FAR, dtype=np.int64)
        wide = np.full((LEVELS, BUCKETS + 1), FAR, dtype=np.int64)
        wide[:, :-1] = before
        near = np.minimum(wide[:, :-1], wide[:, 1:])
        for place in range(group.count):
            if group.gain[place] == -np.inf:
                continue
            step = group.first + place
            level = np.clip(np.arange(LEVELS) - ceil(group.gain[place] / STEP), 0, LEVELS - 1)
            total = group.cheapest[place][level] + near[level]
            low, high = max(step, 0), min(BUCKETS, BUCKETS + step)
            here = slice(low - step, high - step)
            found[:, here] = np.minimum(found[:, here], total[:, low:high])
        return np.minimum(found, FAR)


def _bucket(ln_speed: Floats) -> Ints:
    return np.asarray(np.floor((ln_speed - LN_SLOWEST) / WIDTH), dtype=np.int64)


def _level(ln_torque: Floats) -> Ints:
    """The level at or below a torque: what is needed counts as a little less, to the safe side."""
    level = np.floor((ln_torque - LN_LEAST) / STEP + EQUAL)
    return np.asarray(np.clip(level, 0, LEVELS - 1), dtype=np.int64)


class OutOfWork(Exception):
    """More was looked at than a search may."""


@dataclass(slots=True)
class Part:
    """Trains from some stage to the last shaft, P of them, those with the lowest bound on their score first.

    ``ln_speed`` [rpm] at their open end with the last shaft at its slowest, ``ln_torque`` the least they need there
    [N·m], ``use`` ln of the greatest use at least, ``rows`` P x stages.
    """

    bound: Ints
    score: Ints
    ln_speed: Floats
    ln_torque: Floats
    use: Floats
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

    def __init__(self, reach: Reach, asked: Asked) -> None:
        self.reach, self.asked = reach, asked
        self.groups = reach.groups
        self.low, self.high = log(asked.low_rpm), log(asked.high_rpm)
        self.ideal, self.torque = log(asked.ideal_rpm), log(asked.torque_nm)
        motors = reach.motors
        self.power = float((motors.ln_speed + motors.ln_torque).max(initial=-np.inf))
        self.span = ceil((self.high - self.low) / WIDTH) + 1
        self.allowed = {kind: self._allowed(group.stock) for kind, group in self.groups.items()}
        self.words = words((group.stock for group in self.groups.values()), asked)
        self.looked_at = 0
        self._windows: dict[Word, Ints] = {}

    def _allowed(self, stock: Stock) -> Flags:
        """Rows that can pass the power of the last shaft at some speed, and cost no more than there is."""
        power = (stock.ln_capacity + LN_GRID).max(axis=1)
        fits: Flags = power >= self.torque + self.low - EQUAL
        return fits if self.asked.most_price is None else fits & (stock.price <= self.asked.most_price + EQUAL)

    def _window(self, word: Word) -> Ints:
        """The table of a word, the best of every speed that the band may mean for the slowest."""
        if word not in self._windows:
            table = self.reach.table(word)
            found = table.copy()
            for by in range(1, min(self.span, BUCKETS - 1) + 1):
                np.minimum(found[:, :-by], table[:, by:], out=found[:, :-by])
            self._windows[word] = found
        return self._windows[word]

    def bound(self, word: Word) -> int:
        """A score that no train of these families is under; FAR where the table alone shows that none fits."""
        place, level = int(_bucket(np.array([self.low]))[0]), int(_level(np.array([self.torque]))[0])
        return int(self._window(word)[level, max(place, 0)])

    # -- growing ----------------------------------------------------------------------------------------------------

    def under(self, word: Word, limit: int, enough: int) -> list[Train]:
        """All trains of these families up to a score, the best ``enough`` of them. Raises OutOfWork."""
        none, low, torque = np.zeros(1, dtype=np.int64), np.array([self.low]), np.array([self.torque])
        last = Part(none, none, low, torque, np.array([-np.inf]), np.empty((1, 0), dtype=np.int64))
        top = _Top(limit, enough)
        self._grow(word, len(word), last, top)
        return top.trains

    def _grow(self, word: Word, place: int, part: Part, top: _Top) -> None:
        """The most promising first, and to the end, so that what is found shortens what is left."""
        for piece in _pieces(part):
            if int(piece.bound[0]) > top.limit:
                return
            if place:
                self._grow(word, place - 1, self._before(word, place - 1, piece, top.limit), top)
            else:
                top.add(self._whole(word, piece, top.limit))

    def _before(self, word: Word, place: int, after: Part, limit: int) -> Part:
        """Each partial with every row of the family before it."""
        group, table = self.groups[word[place]], self._window(word[:place])
        steps = group.first + np.arange(group.count)
        speeds = _bucket(after.ln_speed)[:, None] + steps[None, :]
        levels = _level(after.ln_torque[:, None] - group.gain[None, :])
        rest = np.minimum(_at(table, levels, speeds), _at(table, levels, speeds + 1))
        left = limit - after.score - self._penalty(after.use)
        partials, rows = group.within(left[:, None] - rest, self.allowed[word[place]])
        self._count(len(rows))
        stock, later = group.stock, after.taken(partials)
        speed = later.ln_speed + stock.ln_ratio[rows]
        torque = later.ln_torque - stock.ln_ratio[rows] - group.most_efficient[rows]
        total = later.score + group.score[rows]
        use = np.maximum(later.use, torque - at_speed(stock.ln_capacity, rows, speed))
        fits = speed <= stock.ln_max[rows] + EQUAL
        if place < len(word) - 1:
            following = self.groups[word[place + 1]].stock, later.rows[:, 0]
            fits &= _bores((stock, rows), following)
            use = np.maximum(use, _shared((stock, rows), following, later.ln_torque))
        bound = total + self._penalty(use) + _at(table, _level(torque), _bucket(speed))
        fits &= (use <= EQUAL) & (bound <= limit) & (torque + speed <= self.power + EQUAL)
        kept = np.flatnonzero(fits)
        kept = kept[np.argsort(bound[kept], kind="stable")]
        made = np.concatenate([rows[kept, None], later.rows[kept]], axis=1)
        return Part(bound[kept], total[kept], speed[kept], torque[kept], use[kept], made)

    def _penalty(self, use: Floats) -> Ints:
        """What a use costs [score]; nothing where there is plenty."""
        worth = self.asked.weights.use * np.maximum(use - LN_PLENTY, 0.0)
        return np.asarray(np.floor(UNIT * np.minimum(worth, 1e6)), dtype=np.int64)

    def _count(self, looked_at: int) -> None:
        self.looked_at += looked_at
        if self.looked_at > WORK:
            raise OutOfWork

    def _whole(self, word: Word, part: Part, limit: int) -> Iterator[Train]:
        """Each train behind every motor, each limit tested at its own speed."""
        count = len(self.reach.motors.id)
        which, motor = np.repeat(np.arange(len(part)), count), np.tile(np.arange(count), len(part))
        speed = self.reach.motors.ln_speed[motor]
        near = (speed >= part.ln_speed[which] - EQUAL) & (speed <= part.ln_speed[which] + self.high - self.low + EQUAL)
        near &= part.score[which] + self.reach.motor_score[motor] <= limit
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
        fits, use = self._carried(stages, speeds, motor)
        out = speeds[-1]
        price, parts = motors.price[motor], motors.parts[motor]
        score, turn = self.reach.motor_score[motor], np.ones(len(motor), dtype=np.int64)
        for group, (stock, row) in zip(groups, stages, strict=True):
            price, parts = price + stock.price[row], parts + stock.parts[row]
            score, turn = score + group.score[row], turn * stock.turn[row]
        w = self.asked.weights
        worth = w.error * np.abs(out - self.ideal) + w.use * np.maximum(use - LN_PLENTY, 0.0)
        score = score + np.round(UNIT * np.where(fits, worth, 0.0)).astype(np.int64)
        fits &= (out >= self.low - EQUAL) & (out <= self.high + EQUAL) & (score <= limit)
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

    def _carried(self, stages: list[tuple[Stock, Ints]], speeds: list[Floats], motor: Ints) -> tuple[Flags, Floats]:
        """Whether every stage and shaft stands its load and speed, and ln of the greatest use."""
        motors = self.reach.motors
        fits = motors.shaft_mm[motor] <= stages[0][0].bore_in[stages[0][1]] + EQUAL
        fits &= stages[0][0].outside_mm[stages[0][1]] >= motors.least_mm[motor] - EQUAL
        torque, use = np.full(len(motor), self.torque), np.full(len(motor), -np.inf)
        for place in range(len(stages) - 1, -1, -1):
            stock, row = stages[place]
            if place < len(stages) - 1:
                fits &= _bores(stages[place], stages[place + 1])
                use = np.maximum(use, _shared(stages[place], stages[place + 1], torque))
            torque = torque - stock.ln_ratio[row] - at_speed(stock.ln_efficiency, row, speeds[place])
            use = np.maximum(use, torque - at_speed(stock.ln_capacity, row, speeds[place]))
            fits &= speeds[place] <= stock.ln_max[row] + EQUAL
        use = np.maximum(use, torque - motors.ln_torque[motor])
        return fits & (use <= EQUAL), use


def _pieces(part: Part) -> Iterator[Part]:
    """In pieces that are grown one at a time."""
    for start in range(0, len(part), CHUNK):
        yield part.taken(slice(start, start + CHUNK))


def _at(table: Ints, levels: Ints, speeds: Ints) -> Ints:
    inside = (speeds >= 0) & (speeds < BUCKETS)
    return np.asarray(np.where(inside, table[levels, np.clip(speeds, 0, BUCKETS - 1)], FAR))


def _shared(before: tuple[Stock, Ints], after: tuple[Stock, Ints], ln_torque: Floats) -> Floats:
    """Ln of the greater share used of the overhung ratings at the shaft that two stages share."""
    (first, i), (second, j) = before, after
    with np.errstate(divide="ignore"):
        on_first = np.log(second.pull_in[j]) - np.log(first.rating_out[i])
        on_second = np.log(first.pull_out[i]) - np.log(second.rating_in[j])
    return np.asarray(np.maximum(on_first, on_second) + ln_torque)


def _bores(before: tuple[Stock, Ints], after: tuple[Stock, Ints]) -> Flags:
    """Whether the wheels on the shaft that two stages share may be bored to it."""
    (first, i), (second, j) = before, after
    fits: Flags = (second.bore_in[j] >= first.shaft_out[i] - EQUAL) & (first.bore_out[i] >= second.shaft_in[j] - EQUAL)
    return fits


#: A ceiling begins this far above what no train is under, and its distance grows by this each round.
BEGIN, GROW = 0.02, 1.3


def order(train: Train) -> tuple[int, int, Word, int, tuple[int, ...]]:
    """By score, then fewest stages, then families and ids: never by chance."""
    return train.score, len(train.stages), train.word, train.motor, train.stages


def highest(search: Search) -> int:
    """No train has a higher score."""
    rows = sum(int(group.score.max()) * group.stock.most for group in search.groups.values())
    w = search.asked.weights
    span = w.error * (search.high - search.low) + -w.use * LN_PLENTY
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
            _add_under(search, [word for bound, word in bounds if bound <= ceiling], ceiling, each, found)
        except OutOfWork:
            return _ranked(found), True
        if ceiling >= most:
            break
        step = int(GROW * step)
    return _ranked(found)[:kinds], False


def _add_under(search: Search, open_words: list[Word], ceiling: int, each: int, found: dict[Word, Kind]) -> None:
    """Add the orders that have trains under a ceiling; one found before is complete."""
    for word in open_words:
        trains = [] if word in found else search.under(word, ceiling, each)
        if trains:
            found[word] = Kind(word, tuple(trains))


def _ranked(found: dict[Word, Kind]) -> tuple[Kind, ...]:
    return tuple(sorted(found.values(), key=lambda kind: order(kind.trains[0])))
