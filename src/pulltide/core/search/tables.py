"""What a search may take, and its bounds: rows of every family made ready, and the least score that reaches a shaft.

Tables are over buckets of ln speed and levels of ln torque, rounded to the safe side: what they say no train can do,
none can. Capacities fall with speed, so that the slow edge of a bucket is a safe place to test them.
"""

from __future__ import annotations

from dataclasses import dataclass, fields, replace
from math import ceil, log
from typing import Any

import numpy as np
import numpy.typing as npt

from pulltide.core.search.rows import LN_GRID, MIDDLE, Columns, Floats, Ints

Flags = npt.NDArray[np.bool_]

#: Bucket of ln speed and ln ratio, and step of ln torque, of the tables; the speeds and torques that they span.
WIDTH, STEP = 0.05, 0.1
SLOWEST_RPM, FASTEST_RPM = 0.5, 20_000.0
MIN_NM, MAX_NM = 0.02, 100_000.0
LN_SLOWEST, LN_LEAST = log(SLOWEST_RPM), log(MIN_NM)
BUCKETS = ceil(log(FASTEST_RPM / SLOWEST_RPM) / WIDTH)
LEVELS = ceil(log(MAX_NM / MIN_NM) / STEP)
#: Scores are whole numbers of a thousandth of a price unit, so that ties are exact on every machine.
UNIT = 1000
FAR = 1 << 50
#: From each speed of the grid to the next.
LN_STEPS = np.diff(LN_GRID)
#: How equal two logarithms are.
EQUAL = 1e-9


@dataclass(frozen=True, slots=True, kw_only=True)
class Weights:
    """What a price unit is worth: a bought part, an e-fold of loss, of speed error, of each stage's use above plenty,
    each class by which a stage is louder than a quiet one.

    Invented so that none drowns the others; a person chooses among them by what the list is ranked by.
    """

    price: float = 1.0
    part: float = 2.0
    loss: float = 60.0
    error: float = 80.0
    use: float = 30.0
    noise: float = 0.0


#: Capacity beyond what leaves this use earns no more credit.
LN_PLENTY = log(0.6)


def penalty(weights: Weights, use: Floats) -> Ints:
    """What a use costs [score], ln in; nothing where there is plenty."""
    worth = weights.use * held(use - LN_PLENTY, 0.0, -LN_PLENTY)
    return np.asarray(np.floor(UNIT * worth), dtype=np.int64)


@dataclass(frozen=True, slots=True, kw_only=True)
class Stock(Columns):
    """Stages of one family under a duty.

    ``ln_capacity`` R x G [N·m at the driver] has the duty in it. ``id`` tells rows apart in every order of the lists.
    ``rank`` is where the family commonly stands in a train, ``most`` how many of its rank follow each other, ``noise``
    by how many classes it is louder than a quiet one.
    """

    kind: str
    rank: int
    most: int
    id: Ints
    ln_capacity: Floats
    ln_max: Floats
    noise: int = 0

    def __len__(self) -> int:
        return len(self.id)

    def taken(self, rows: Ints) -> Stock:
        """Some of the rows."""
        columns = {one.name: getattr(self, one.name) for one in fields(self)}
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


#: Families of the stages of a train, the one next to the motor first.
Word = tuple[str, ...]


def at_speed(table: Floats, rows: Ints, ln_speed: Floats) -> Floats:
    """A column over the speed grid at any speed: straight between grid points, level beyond them."""
    place = held(np.searchsorted(LN_GRID, ln_speed, "right") - 1, 0, len(LN_GRID) - 2)
    share = held((ln_speed - LN_GRID[place]) / LN_STEPS[place], 0.0, 1.0)
    low, high = table[rows, place], table[rows, place + 1]
    with np.errstate(invalid="ignore"):
        between = np.where(share >= 1, high, low + share * (high - low))
    lost = np.isnan(between)
    if lost.any():  # one of both is infinite
        between[lost] = np.where(share <= 0, low, np.minimum(low, high))[lost]
    return np.asarray(between)


def held(values: Any, low: float, high: float) -> Any:
    """Values held between two ends; quicker than numpy's own for short arrays."""
    return np.minimum(np.maximum(values, low), high)


def at_least(by_level: Ints) -> Ints:
    """Least scores by level (last axis but one) of what stands that level or more."""
    return np.minimum.accumulate(by_level[..., ::-1, :], axis=-2)[..., ::-1, :]


def loaded(by_level: Ints, weights: Weights) -> Ints:
    """The same with what the use costs under that level: little in hand is dear, plenty is free."""
    free = ceil(-LN_PLENTY / STEP)
    found = np.full_like(by_level, FAR)
    found[..., : LEVELS - free, :] = at_least(by_level)[..., free:, :]
    for over in range(free):
        cost = int(penalty(weights, np.array([-over * STEP]))[0])
        under = found[..., : LEVELS - over, :]
        np.minimum(under, by_level[..., over:, :] + cost, out=under)
    # what stands more than the highest level has plenty in hand near it
    np.minimum(found[..., LEVELS - free :, :], by_level[..., -1:, :], out=found[..., LEVELS - free :, :])
    return np.minimum(found, FAR)


@dataclass(frozen=True, slots=True, kw_only=True)
class Shafts:
    """What the wheels of a family's rows do on their shafts, ln of pulls and ratings, R x G and falling with speed."""

    pull_in: Floats
    pull_out: Floats
    rating_in: Floats
    rating_out: Floats
    bore_in: Floats
    bore_out: Floats
    shaft_in: Floats
    shaft_out: Floats

    @staticmethod
    def of(stock: Stock) -> Shafts:
        """The columns of a stock, those that are multiplied as logarithms."""
        with np.errstate(divide="ignore"):
            logs = {name: np.log(getattr(stock, name)) for name in ("pull_in", "pull_out")}
        for name in ("rating_in", "rating_out"):
            logs[name] = np.minimum.accumulate(np.log(getattr(stock, name)), axis=1)
        return Shafts(
            **logs, bore_in=stock.bore_in, bore_out=stock.bore_out, shaft_in=stock.shaft_in, shaft_out=stock.shaft_out
        )


class Group:
    """One family made ready for some weights: rows in order of bucket of ratio and score, and its table of bounds."""

    def __init__(self, stock: Stock, weights: Weights) -> None:
        stock = replace(stock, ln_capacity=np.minimum.accumulate(stock.ln_capacity, axis=1))
        worth = weights.price * stock.price + weights.part * stock.parts + weights.noise * stock.noise
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
        self.shafts = Shafts.of(self.stock)
        self.ln_gain = self.stock.ln_ratio + self.stock.ln_efficiency.max(axis=1)
        self.gain = np.full(self.count, -np.inf)
        np.maximum.at(self.gain, self.bucket - self.first, self.ln_gain)
        by_level = self._cheapest()
        self.cheapest = at_least(by_level)
        self.with_use = loaded(by_level, weights)

    def _cheapest(self) -> Ints:
        """Least score of a row, by bucket of ratio, level of torque that it stands, bucket of driver speed.

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
        return found

    def within(self, budget: Ints, levels: Ints, speeds: Ints, rows: Flags) -> tuple[Ints, Ints]:
        """The rows to try before each partial, as pairs of partial and row.

        All P x buckets of ratio: what a row may cost, torque and speed at its driver. Rows cheaper than the cheapest
        that stands the torque are passed over.
        """
        every = np.arange(self.count, dtype=np.int64)[None, :]
        least = table_at(self.cheapest, (every, levels), speeds)
        partials, buckets = np.nonzero(table_at(self.with_use, (every, levels), speeds) <= budget)
        bases, least, most = buckets * (4 * FAR), least[partials, buckets], budget[partials, buckets]
        starts = np.searchsorted(self.key, bases + least, "left")
        chosen = np.searchsorted(self.key, bases + np.minimum(most, FAR), "right") - starts
        which = np.repeat(np.arange(len(chosen)), chosen)
        offset = np.arange(len(which)) - np.repeat(np.cumsum(chosen) - chosen, chosen)
        found = starts[which] + offset
        kept = rows[found]
        return partials[which[kept]], found[kept]


class Reach:
    """Least scores of a motor and first stages by family: LEVELS x BUCKETS for each word, made when first asked for."""

    def __init__(self, motors: Motors, groups: dict[str, Group], weights: Weights) -> None:
        self.motors, self.groups, self.weights = motors, groups, weights
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
        speed = np.clip(bucket_of(self.motors.ln_speed), 0, BUCKETS - 1)
        level = np.clip(np.ceil((self.motors.ln_torque - LN_LEAST) / STEP), 0, LEVELS - 1).astype(np.int64)
        np.minimum.at(found, (level, speed), self.motor_score)
        return loaded(found, self.weights)

    def _after(self, word: Word) -> Ints:
        before, group = self.table(word[:-1]), self.groups[word[-1]]
        found = np.full((LEVELS, BUCKETS), FAR, dtype=np.int64)
        wide = np.full((LEVELS, BUCKETS + 1), FAR, dtype=np.int64)
        wide[:, :-1] = before
        near = np.minimum(wide[:, :-1], wide[:, 1:])
        # only so many levels and such speeds are reached at all
        levels, speeds = (np.flatnonzero((near < FAR).any(axis=axis)) for axis in (1, 0))
        if not len(levels):
            return found
        reached, first, last = int(levels[-1]) + 1, int(speeds[0]), int(speeds[-1]) + 1
        for place in range(group.count):
            if group.gain[place] == -np.inf:
                continue
            step = group.first + place
            low, high = max(step, 0, first), min(BUCKETS, BUCKETS + step, last)
            if low < high:
                total = group.with_use[place][:reached, low:high] + near[:reached, low:high]
                _raise_levels(found[:, low - step : high - step], total, ceil(group.gain[place] / STEP))
        return np.minimum(found, FAR)


def _raise_levels(found: Ints, total: Ints, by: int) -> None:
    """Lower scores to those that stand so many levels under; what would lie beyond the ends counts at the ends.

    ``total`` has the lowest levels only, where no higher one is reached.
    """
    reached = len(total)
    if by >= 0:
        by = min(by, LEVELS - 1)
        count = min(reached, LEVELS - by)
        np.minimum(found[by : by + count], total[:count], out=found[by : by + count])
        np.minimum(found[:by], total[:1], out=found[:by])
        return
    by = min(-by, LEVELS - 1)
    if reached > by:
        np.minimum(found[: reached - by], total[by:], out=found[: reached - by])
    if reached == LEVELS:
        np.minimum(found[LEVELS - by :], total[-1:], out=found[LEVELS - by :])


def bucket_of(ln_speed: Floats) -> Ints:
    """The bucket that a speed lies in."""
    return np.asarray(np.floor((ln_speed - LN_SLOWEST) / WIDTH), dtype=np.int64)


def level_of(ln_torque: Floats) -> Ints:
    """The level at or below a torque: what is needed counts as a little less, to the safe side."""
    level = np.floor((ln_torque - LN_LEAST) / STEP + EQUAL)
    return np.asarray(held(level, 0, LEVELS - 1), dtype=np.int64)


def table_at(table: Ints, places: tuple[Ints, ...], speeds: Ints) -> Ints:
    """A table at some places and buckets of speed; FAR beyond its speeds."""
    inside = (speeds >= 0) & (speeds < BUCKETS)
    return np.asarray(np.where(inside, table[(*places, held(speeds, 0, BUCKETS - 1))], FAR))
