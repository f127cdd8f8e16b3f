"""Bounds of a search: the least score that reaches a shaft, for a motor and every choice of first stages.

Capacities fall with speed, so that the slow edge of a bucket is a safe place to test them.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from pulltide.core.search.field import COARSE, DEAREST, FAR, FINE, FINER, FINER_STEP, LN_SLOWEST, Field, Grid, Scores
from pulltide.core.search.heads import APART, Heads, between, column, heads_of
from pulltide.core.search.rows import LN_GRID, MIDDLE, Floats, Ints
from pulltide.core.search.tables import EQUAL, UNIT, Flags, Motors, Shafts, Stock, Weights, Word, held

#: So many choices among the motors keep their bounds.
PARTS = 2


class Group:
    """One family made ready for some weights: rows in order of bucket of ratio and score, and its bounds.

    ``with_use`` is the least score of a row by bucket of ratio, torque and speed at its driver, ``cheapest`` the same
    without what its use costs.
    """

    def __init__(self, stock: Stock, weights: Weights) -> None:
        stock = replace(stock, ln_capacity=np.minimum.accumulate(stock.ln_capacity, axis=1))
        worth = weights.price * stock.price + weights.part * stock.parts + weights.noise * stock.noise
        worth = worth - weights.loss * np.minimum(stock.ln_efficiency[:, MIDDLE], 0.0)
        score = np.minimum(np.round(UNIT * worth), DEAREST).astype(np.int64)
        bucket = np.floor(stock.ln_ratio / COARSE.width).astype(np.int64)
        order = np.lexsort((stock.id, score, bucket))
        self.stock = stock.taken(order)
        self.score, self.bucket = score[order], bucket[order]
        self.first = int(self.bucket[0])
        self.count = int(self.bucket[-1]) - self.first + 1
        self.key = (self.bucket - self.first) * APART + self.score
        self.shafts = Shafts.of(self.stock)
        self.ln_gain = self.stock.ln_ratio + self.stock.ln_efficiency.max(axis=1)
        self.gain = self._most_gain(COARSE.width, 1)
        self.fine_gain = self._most_gain(FINE.width, FINER)
        #: What is left of power at most, ln.
        self.left = float(self.stock.ln_efficiency.max(initial=-np.inf))
        self.cheapest, self.with_use = self._fields(weights)

    def _most_gain(self, width: float, finer: int) -> Floats:
        """Most that torque is multiplied by, ln, in each bucket of ratio; minus infinity where there is no row."""
        place = np.floor(self.stock.ln_ratio / width).astype(np.int64) - finer * self.first
        found = np.full(finer * self.count, -np.inf)
        np.maximum.at(found, held(place, 0, len(found) - 1), self.ln_gain)
        return found

    def _fields(self, weights: Weights) -> tuple[Field, Field]:
        """A capacity counts at the slow edge of a bucket; below the slowest speed that rows know nothing changes."""
        capacity = np.ascontiguousarray(self.stock.ln_capacity.T)
        first, free = int(COARSE.bucket_of(LN_GRID[:1])[0]), COARSE.free
        stood = COARSE.stood(capacity)
        # under the least that any row stands at any speed, all of them have plenty
        level = max(int(stood.min(initial=COARSE.levels, where=np.isfinite(capacity))) - free, 0)
        levels = max(min(int(stood.max()), COARSE.levels - 1) - level + 1, 1)
        rows = levels + free
        found = np.full((COARSE.buckets - first, self.count * rows), FAR, dtype=np.int32)
        cost, place = self.score.astype(np.int32), (self.bucket - self.first) * rows
        for at in range(len(found)):
            speed = LN_SLOWEST + COARSE.width * (first + at)
            stood = COARSE.stood(column(capacity, speed))
            can = np.flatnonzero((stood >= 0) & (speed <= self.stock.ln_max + EQUAL))
            np.minimum.at(found[at], place[can] + held(stood[can] - level, 0, rows - 1), cost[can])
        by_level = np.ascontiguousarray(found.reshape(len(found), self.count, rows).transpose(1, 2, 0))
        cheapest = np.minimum.accumulate(by_level[:, ::-1], axis=1)[:, ::-1][:, :levels]
        with_use = COARSE.loaded(by_level, weights)
        return _as_slow(Field.of(cheapest, level, first)), _as_slow(Field.of(with_use, level, first))

    def least(self, levels: Ints, speeds: Ints) -> Scores:
        """Least score of a row of every bucket of ratio, P x buckets, by level and bucket at its driver."""
        return self.with_use.at(levels, speeds, (np.arange(self.count, dtype=np.int64)[None, :],))

    def within(self, budget: Ints, levels: Ints, speeds: Ints, rows: Flags) -> tuple[Ints, Ints]:
        """The rows to try before each partial, as pairs of partial and row.

        All P x buckets of ratio: what a row may cost, torque and speed at its driver. Rows cheaper than the cheapest
        that stands the torque are passed over.
        """
        partials, buckets = np.nonzero(self.least(levels, speeds) <= budget)
        least = self.cheapest.at(levels[partials, buckets], speeds[partials, buckets], (buckets,))
        which, found = between(self.key, buckets, least, budget[partials, buckets])
        kept = rows[found]
        return partials[which[kept]], found[kept]


def _as_slow(field: Field) -> Field:
    """Below its speeds everything is as at the slowest."""
    field.values[..., 0] = field.values[..., 1]
    return field


class Reach:
    """Least scores of a motor and first stages by family, a field for each word, made when first asked for.

    Of one stage on the fine grid, of more on the coarse one.
    """

    def __init__(self, motors: Motors, groups: dict[str, Group], weights: Weights) -> None:
        self.motors, self.groups, self.weights = motors, groups, weights
        worth = weights.price * motors.price + weights.part * motors.parts
        self.motor_score = np.minimum(np.round(UNIT * worth), DEAREST).astype(np.int64)
        self._fields: dict[Word, Field] = {}
        self._heads: dict[str, Heads] = {}
        self._parts: dict[bytes, Reach] = {}

    def of(self, which: Ints) -> Reach:
        """The same for some of the motors; a few of these are kept."""
        if len(which) == len(self.motors.id):
            return self
        key = which.tobytes()
        if key not in self._parts:
            if len(self._parts) == PARTS:
                del self._parts[next(iter(self._parts))]
            self._parts[key] = Reach(self.motors.taken(which), self.groups, self.weights)
        return self._parts[key]

    def heads(self, kind: str) -> Heads:
        """The motors with first stages of a family."""
        if kind not in self._heads:
            self._heads[kind] = heads_of(self.groups[kind].stock, self.groups[kind].score, self)
        return self._heads[kind]

    @staticmethod
    def grid(word: Word) -> Grid:
        """On which grid the field of a word is."""
        return FINE if len(word) == 1 else COARSE

    def power(self, word: Word) -> float:
        """Ln of the most power that any motor brings through first stages [N·m rpm]."""
        motors = float((self.motors.ln_speed + self.motors.ln_torque).max(initial=-np.inf))
        return motors + sum(min(self.groups[kind].left, 0.0) for kind in word)

    def field(self, word: Word) -> Field:
        """Least score that reaches a bucket of speed and delivers at least a level of torque there."""
        if len(word) == 1:
            return self.heads(word[0]).field
        if word not in self._fields:
            self._fields[word] = self._after(word)
        return self._fields[word]

    def _coarse(self, word: Word) -> Field:
        """The field of a word on the coarse grid."""
        field = self.field(word)
        if self.grid(word) is COARSE:
            return field
        if word not in self._fields:
            # more torque is never cheaper: the lowest of some levels tells for all of them
            level, first = field.level // FINER_STEP, field.first // FINER
            high, wide = field.inside.shape[0] + field.level, field.inside.shape[1] + field.first
            levels = np.maximum(FINER_STEP * np.arange(level, -(-high // FINER_STEP)), field.level)
            buckets = FINER * np.arange(first, -(-wide // FINER))
            each = [field.at(levels[:, None], (buckets + by)[None, :]) for by in range(FINER)]
            self._fields[word] = Field.of(np.minimum.reduce(each), level, first)
        return self._fields[word]

    def _after(self, word: Word) -> Field:
        before, group = self._coarse(word[:-1]), self.groups[word[-1]]
        inside = before.inside
        levels, speeds = (np.flatnonzero((inside < FAR).any(axis=axis)) for axis in (1, 0))
        if not len(levels):
            return Field.of(np.full((1, 1), FAR, dtype=np.int32), 0, 0)
        # what stands less torque than the lowest level of both costs no less
        level = min(before.level, group.with_use.level)
        count = before.level + int(levels[-1]) + 1 - level
        # the bucket of the driver or the one above it, as its speed lies in the bucket of the driven shaft
        drivers = before.first + np.arange(int(speeds[0]) - 1, int(speeds[-1]) + 1)
        rows = level + np.arange(count)[:, None]
        near = np.minimum(before.at(rows, drivers[None, :]), before.at(rows, drivers[None, :] + 1))
        return _spread(group.with_use.part(level, drivers, count) + near, group, level, int(drivers[0]))


def _spread(total: Scores, group: Group, level: int, driver: int) -> Field:
    """Scores by bucket of ratio, level and bucket at the driver, from a level and bucket on, as those behind it."""
    each = np.flatnonzero(np.isfinite(group.gain) & (total < FAR).any(axis=(1, 2)))
    if not len(each):
        return Field.of(np.full((1, 1), FAR, dtype=np.int32), 0, 0)
    count, wide = total.shape[1:]
    up = np.ceil(group.gain[each] / COARSE.step).astype(np.int64)
    steps = group.first + each
    low, first = level + int(up.min()), driver - int(steps.max())
    found = np.full((count + int(up.max() - up.min()), wide + int(steps.max() - steps.min())), FAR, dtype=np.int32)
    for place, by, step in zip(
        each.tolist(), (level + up - low).tolist(), (driver - steps - first).tolist(), strict=True
    ):
        here = found[:, step : step + wide]
        np.minimum(here[by : by + count], total[place], out=here[by : by + count])
        np.minimum(here[:by], total[place][:1], out=here[:by])
    found[found > DEAREST] = FAR
    # levels below the grid count as its lowest, buckets beyond it are not reached
    cut, top = max(-low, 0), max(min(len(found), COARSE.levels - low), 1)
    return Field.of(found[min(cut, top - 1) : top], max(low, 0), first)
