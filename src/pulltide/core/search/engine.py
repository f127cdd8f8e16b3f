r"""The best trains of listed stages for every order of families, without looking at those that cannot fit.

A train is a motor and up to four stages. Speeds run forward: ln n_k = ln n_(k-1) - ln i_k; torque runs back:
ln T_(k-1) = ln T_k - ln i_k - ln η_k. Trains are grown from the last shaft back to the motor.

Bounds (``bounds.py``). For every choice of a motor and first stages by family a table tells the least score that
reaches a speed and delivers a power there; a partial train is dropped only where its score and the table's are over
the ceiling.

Everything under a ceiling is found (``kinds.py`` raises it until there is enough), and nothing is sampled.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from itertools import product
from math import ceil, log

import numpy as np

from pulltide.core.search.bounds import Bounds, Group
from pulltide.core.search.field import COARSE, DEAREST, FAR, Field, Grid, Scores
from pulltide.core.search.heads import Heads
from pulltide.core.search.options import Options
from pulltide.core.search.pace import Pace, at_once
from pulltide.core.search.rows import Floats, Ints
from pulltide.core.search.tables import EQUAL, UNIT, Flags, Shafts, Stock, Weights, Word, at_speed, held, penalty

#: So many partial trains are grown at a time, and so many are looked at in one search at most.
FIRST, CHUNK, WORK = 32, 1024, 20_000_000
#: A speed band is searched in pieces of about so much in ln n, those near the ideal speed first.
PIECE = 0.06


@dataclass(frozen=True, slots=True)
class Asked:
    """What the last shaft must do, and what is allowed.

    Speeds [rpm]; ``torque_nm`` running torque at the last shaft > 0; ``turn`` +1 as the motor, -1 against, 0 either;
    ``must`` families that have to be in the train; ``only`` one order of families and no other; ``max_stages`` 1 to 4;
    ``max_price`` in price units.
    """

    low_rpm: float
    ideal_rpm: float
    high_rpm: float
    torque_nm: float
    turn: int = 0
    max_stages: int = 3
    max_price: float | None = None
    must: frozenset[str] = frozenset()
    only: Word | None = None
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


def order(train: Train) -> tuple[int, int, Word, int, tuple[int, ...]]:
    """By score, then fewest stages, then families and ids: never by chance."""
    return train.score, len(train.stages), train.word, train.motor, train.stages


def words(stocks: Iterable[Stock], asked: Asked) -> list[Word]:
    """Orders of families, shortest first: ranks do not fall toward the last shaft, none stands oftener than it may."""
    known = {stock.kind: stock for stock in stocks if len(stock)}
    found = []
    for length in range(1, asked.max_stages + 1):
        for word in product(sorted(known), repeat=length):
            ranks = [known[kind].rank for kind in word]
            seldom = all(ranks.count(known[kind].rank) <= known[kind].most for kind in word)
            if ranks == sorted(ranks) and seldom and asked.must <= set(word) and asked.only in (None, word):
                found.append(word)
    if not asked.turn:
        return found
    senses = {kind: {int(stock.turn.min()), int(stock.turn.max())} for kind, stock in known.items()}
    return [word for word in found if asked.turn in _turned(senses[kind] for kind in word)]


def _turned(senses: Iterable[set[int]]) -> set[int]:
    """How the last shaft may turn behind stages of which each turns in one of some senses."""
    found = {1}
    for each in senses:
        found = {before * sense for before in found for sense in each}
    return found


class OutOfWork(Exception):
    """More was looked at than a search may."""


@dataclass(slots=True)
class Part:
    """Trains from some stage to the last shaft, P of them, those with the lowest bound on their score first.

    ``score`` of their rows and of their use at least, ``ln_speed`` [rpm] at their open end with the last shaft at the
    slowest of their ``band``, ``ln_torque`` the least they need there [N·m], ``rows`` P x stages.
    """

    bound: Ints
    score: Ints
    ln_speed: Floats
    ln_torque: Floats
    band: Ints
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
    """One search; bounds may be shared by searches for other needs under the same duty and weights."""

    def __init__(self, reach: Bounds, asked: Asked, work: int = WORK, pace: Pace = at_once) -> None:
        self.reach, self.asked, self.work, self.pace = reach, asked, work, pace
        self.groups = reach.groups
        self.bands = Bands.of(asked)
        self.ideal, self.torque = log(asked.ideal_rpm), log(asked.torque_nm)
        self.allowed = {kind: self._allowed(group) for kind, group in self.groups.items()}
        self.least = {
            kind: int(group.score[self.allowed[kind]].min(initial=FAR)) for kind, group in self.groups.items()
        }
        self._lasts: dict[str, int] = {}
        count = self.bands.count
        #: Number, slowest speed and torque of each band at the last shaft.
        self._lowest = np.arange(count), self.bands.lows, np.full(count, self.torque)
        self.words = words((group.stock for group in self.groups.values()), asked)
        self.looked_at = 0
        self._offs: dict[Grid, Scores] = {}
        self._windows: dict[Word, Field] = {}
        self._options: dict[Word, Options] = {}
        self._bounds: dict[Word, list[int]] = {}

    def _allowed(self, group: Group) -> Flags:
        """Rows that can pass the power of the last shaft at some speed, and cost no more than there is."""
        fits: Flags = group.ln_power >= self.torque + log(self.asked.low_rpm) - EQUAL
        return fits if self.asked.max_price is None else fits & (group.stock.price <= self.asked.max_price + EQUAL)

    def _window(self, word: Word) -> Field:
        """The field of a word by what each band may mean for its slowest speed: the best, with the speed error in."""
        if word not in self._windows:
            grid, field = self.reach.grid(word), self.reach.field(word)
            inside, span = field.inside, self._span(grid)
            levels, wide = inside.shape
            found = np.full((self.bands.count, levels, wide + span), FAR, dtype=np.int32)
            for by in range(span + 1):
                cost = self._off(grid)[by]
                faster = min(grid.faster(by), levels - 1)
                there = np.concatenate([inside[faster:], np.repeat(inside[-1:], faster, axis=0)]) if faster else inside
                here = found[:, :, span - by : span - by + wide]
                np.minimum(here, there + cost[:, None, None], out=here)
            found[found > DEAREST] = FAR
            self._windows[word] = Field.of(found, field.level, field.first - span, None)
        return self._windows[word]

    def _span(self, grid: Grid) -> int:
        """So many buckets above that of its slowest speed may a speed lie."""
        return ceil(self.bands.width / grid.width) + 1

    def _off(self, grid: Grid) -> Scores:
        """What it counts at least to run so many buckets above the slowest speed of each band, buckets x bands: a speed
        in the bucket so many on is at least a bucket less and at most one more above it.
        """
        if grid not in self._offs:
            each = range(self._span(grid) + 1)
            found = [self.bands.error(max(by - 1, 0) * grid.width, (by + 1) * grid.width) for by in each]
            self._offs[grid] = self._error(np.stack(found))
        return self._offs[grid]

    def _error(self, off: Floats) -> Scores:
        """What it counts at least to be so far off the ideal speed, ln."""
        return np.asarray(np.floor(UNIT * self.asked.weights.error * off), dtype=np.int32)

    def guess(self, word: Word) -> int:
        """A score that no train of these families is under, without any field: the least of the last stage where it
        stands, and of every other at all.
        """
        kind = word[-1]
        if kind not in self._lasts:
            nothing = Field(np.zeros((self.bands.count, 1, 1), dtype=np.int32), 0, 0)
            alone = Options(self.groups[kind], nothing, COARSE)
            self._lasts[kind] = int(alone.least_before(*self._lowest).min(initial=FAR))
        others = sum(self.least[other] for other in word[:-1])
        return min(int(self.reach.motor_score.min(initial=FAR)) + others + self._lasts[kind], FAR)

    def without_motor(self) -> int:
        """The least that the stages of any train count, whatever its motor."""
        return min(map(self.guess, self.words), default=FAR) - int(self.reach.motor_score.min(initial=FAR))

    def bound(self, word: Word) -> int:
        """A score that no train of these families is under; FAR where the tables alone show that none fits."""
        if word not in self._bounds:
            least = (
                self._rest(word, *self._lowest) if len(word) == 1 else self._before(word).least_before(*self._lowest)
            )
            able = self.torque + self._lowest[1] <= self.reach.power(word) + EQUAL
            self._bounds[word] = np.where(able, least, FAR).tolist()
        return min(self._bounds[word])

    def _rest(self, word: Word, bands: Ints, ln_speed: Floats, ln_torque: Floats) -> Scores:
        """Least score of motor and first stages that reach some speeds and torques."""
        grid = self.reach.grid(word)
        return self._window(word).at(grid.level_of(ln_torque + ln_speed), grid.bucket_of(ln_speed), (bands,))

    def _before(self, word: Word) -> Options:
        """The rows of the last of these families, before the rest of a train and after the others."""
        if word not in self._options:
            window = self._window(word[:-1])
            self._options[word] = Options(self.groups[word[-1]], window, self.reach.grid(word[:-1]))
        return self._options[word]

    # -- growing ----------------------------------------------------------------------------------------------------

    def under(self, word: Word, limit: int, enough: int) -> list[Train]:
        """All trains of these families up to a score, the best ``enough`` of them. Raises OutOfWork."""
        top = _Top(limit, enough)
        self.bound(word)
        bounds = np.array(self._bounds[word], dtype=np.int64)
        bands = np.argsort(bounds, kind="stable")
        _, lows, torque = self._lowest
        nothing = np.empty((len(bands), 0), dtype=np.int64)
        last = Part(bounds[bands], np.zeros(len(bands), dtype=np.int64), lows[bands], torque[bands], bands, nothing)
        self._grow(word, len(word) - 1, last, top)
        return top.trains

    def _grow(self, word: Word, place: int, part: Part, top: _Top) -> None:
        """The most promising first, and to the end, so that what is found shortens what is left."""
        for piece in _pieces(part):
            if int(piece.bound[0]) > top.limit:
                return
            if place:
                self._grow(word, place - 1, self._with(word, place, piece, top.limit), top)
            else:
                self._headed(word, piece, top)

    def _with(self, word: Word, place: int, after: Part, limit: int) -> Part:
        """Each partial with every row of the family before it."""
        group, options = self.groups[word[place]], self._before(word[: place + 1])
        cells = options.cells(after.band, after.ln_speed, after.ln_torque)
        partials, rows = options.within(limit - after.score, cells, self.allowed[word[place]])
        self._count(len(rows))
        stock, weights = group.stock, self.asked.weights
        speed = after.ln_speed[partials] + stock.ln_ratio[rows]
        torque = after.ln_torque[partials] - group.ln_gain[rows]
        rest = self._rest(word[:place], after.band[partials], speed, torque)
        fits = (after.score[partials] + group.score[rows] + rest <= limit) & (
            torque + speed <= self.reach.power(word[:place]) + EQUAL
        )
        near = np.flatnonzero(fits & (speed <= stock.ln_max[rows] + EQUAL))
        partials, rows, speed, torque, rest = partials[near], rows[near], speed[near], torque[near], rest[near]
        use = torque - at_speed(stock.ln_capacity, rows, speed)
        score = after.score[partials] + group.score[rows] + penalty(weights, use)
        least = score + rest
        near = np.flatnonzero((use <= EQUAL) & (least <= limit))
        if place < len(word) - 1:
            here = group.shafts, rows[near], speed[near]
            then = partials[near]
            following = self.groups[word[place + 1]].shafts, after.rows[then, 0], after.ln_speed[then]
            fits = _bores(here, following) & (_shared(here, following, after.ln_torque[then]) <= EQUAL)
            near = near[fits]
        kept = near[np.argsort(least[near], kind="stable")]
        made = np.concatenate([rows[kept, None], after.rows[partials[kept]]], axis=1)
        return Part(least[kept], score[kept], speed[kept], torque[kept], after.band[partials[kept]], made)

    def _count(self, looked_at: int) -> None:
        self.looked_at += looked_at
        if self.looked_at > self.work:
            raise OutOfWork
        self.pace(self.looked_at)

    def _headed(self, word: Word, part: Part, top: _Top) -> None:
        """Each train behind every motor with its first stage, the most promising first."""
        kind = word[0]
        heads, grid = self.reach.heads(kind), self.reach.grid((kind,))
        span = np.arange(self._span(grid) + 1)
        speeds = grid.bucket_of(part.ln_speed)[:, None] + span[None, :]
        faster = np.array([grid.faster(by) for by in range(len(span))])
        levels = grid.level_of(part.ln_torque + part.ln_speed)[:, None] + faster[None, :]
        left = top.limit - part.score[:, None] - self._off(grid).T[part.band]
        partials, at = np.nonzero(heads.field.at(levels, speeds) <= left)
        which, head = heads.within(left[partials, at], speeds[partials, at], levels[partials, at])
        which = partials[which]
        self._count(len(head))
        figures = heads.at(head)
        power = part.ln_torque[which] + figures.ln_out
        use = power - figures.ln_stands
        band = part.band[which]
        speed = self.bands.lows[band] + figures.ln_out - part.ln_speed[which]
        near = np.flatnonzero((use <= EQUAL) & (band == self.bands.piece(speed)))
        taken = (power + figures.ln_lost)[near]
        which, head, use, speed = which[near], head[near], use[near], speed[near]
        error = self._error(np.abs(speed - self.ideal))
        row = heads.row[head]
        score = part.score[which] + self.groups[kind].score[row] + penalty(self.asked.weights, use) + error
        score += heads.motor_at(head, taken)
        allowed = self.allowed[kind][row]
        near = np.flatnonzero(allowed & (score <= top.limit))
        near = near[np.argsort(score[near], kind="stable")]
        for first in range(0, len(near), CHUNK):
            these = near[first : first + CHUNK]
            if int(score[these[0]]) > top.limit:
                return
            top.add(self._behind(word, heads, head[these], part.rows[which[these]], top))

    def _behind(self, word: Word, heads: Heads, head: Ints, rows: Ints, top: _Top) -> Iterator[Train]:
        """Heads with the stages after them, by motor."""
        counts = np.array([len(one) for one in heads.motors])[heads.alike[head]]
        motor = np.concatenate([heads.motors[number] for number in heads.alike[head].tolist()])
        whole = np.concatenate([heads.row[head][:, None], rows], axis=1)
        return self.exact(word, motor, np.repeat(whole, counts, axis=0), top.limit, top.enough)

    def exact(self, word: Word, motor: Ints, rows: Ints, limit: int, enough: int) -> Iterator[Train]:
        """Those of some trains that fit and whose score is no more than a limit, and with them none that has ``enough``
        better ones: motors, and rows x stages.
        """
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
        if self.asked.max_price is not None:
            fits &= price <= self.asked.max_price + EQUAL
        if self.asked.turn:
            fits &= turn == self.asked.turn
        if fits.sum() > enough:
            fits &= score <= np.partition(score[fits], enough - 1)[enough - 1]
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
        fits &= stages[0][0].outside_mm[stages[0][1]] >= motors.min_mm[motor] - EQUAL
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
class Bands:
    """A speed band, ln n, in ``count`` pieces of one width; ``lows`` is the slowest speed of each."""

    low: float
    ideal: float
    high: float
    count: int
    width: float
    lows: Floats

    @staticmethod
    def of(asked: Asked) -> Bands:
        """What is asked, in pieces."""
        low, ideal, high = log(asked.low_rpm), log(asked.ideal_rpm), log(asked.high_rpm)
        count = max(ceil((high - low) / PIECE), 1)
        width = (high - low) / count
        return Bands(low, ideal, high, count, width, np.asarray(low + width * np.arange(count)))

    def error(self, above: float, below: float) -> Floats:
        """How far off the ideal a speed is at least that lies between two distances above the slowest of each piece."""
        highs = self.lows + self.width
        fast, slow = np.minimum(self.lows + above, highs), np.minimum(self.lows + below, highs)
        return np.asarray(np.maximum(np.maximum(fast - self.ideal, self.ideal - slow), 0.0))

    def piece(self, ln_speed: Floats) -> Ints:
        """In which of them speeds lie, -1 outside."""
        above = ln_speed - self.low + EQUAL
        piece = held(np.floor(above / (self.width or 1.0)), 0, self.count - 1).astype(np.int64)
        return np.where((above >= 0) & (ln_speed <= self.high + EQUAL), piece, -1)


def _pieces(part: Part) -> Iterator[Part]:
    """In pieces that are grown one at a time, small ones first: what they end in shortens the others."""
    start, size = 0, FIRST
    while start < len(part):
        yield part.taken(slice(start, start + size))
        start, size = start + size, min(2 * size, CHUNK)


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
