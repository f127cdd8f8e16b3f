"""Bounds of a search: the least score that reaches a shaft, for a motor and every choice of first stages.

Capacities fall with speed, so that the slow edge of a bucket is a safe place to test them.
"""

from __future__ import annotations

from dataclasses import replace
from math import log

import numpy as np

from pulltide.core.search.field import BEYOND, COARSE, DEAREST, FAR, FINE, FINER, FINER_STEP, ROWS, Field, Grid, Scores
from pulltide.core.search.heads import APART, Heads, alike_of, column, heads_of
from pulltide.core.search.rows import LN_GRID, MIDDLE, Ints
from pulltide.core.search.tables import EQUAL, UNIT, Motors, Shafts, Stock, Weights, Word, held

#: So many choices among the motors keep their bounds, from so many levels of power below a need on, for needs up to
#: so many above that.
PARTS, LESS, MORE = 2, 2, 10
#: So many levels above the lowest are told apart: trains lose no more, else the highest stands for what is above it.
TOLD_APART = 32
LN_FASTEST = log(20_000.0)
#: The level of a twentieth of a newton meter, below which torques are not told apart.
LITTLE = int(ROWS.level_of(np.array(log(0.05))))


class Group:
    """One family made ready for some weights: rows in order of bucket of ratio and score, and its bounds.

    ``with_use`` is the least score of a row by bucket of ratio, torque and speed at its driver, ``cheapest`` the same
    without what its use costs; only of the buckets of ratio that have rows, ``filled`` on the coarse grid.
    """

    def __init__(self, stock: Stock, weights: Weights) -> None:
        stock = replace(stock, ln_capacity=np.minimum.accumulate(stock.ln_capacity, axis=1))
        worth = weights.price * stock.price + weights.part * stock.parts + weights.noise * stock.noise
        worth = worth - weights.loss * np.minimum(stock.ln_efficiency[:, MIDDLE], 0.0)
        score = np.minimum(np.round(UNIT * worth), DEAREST).astype(np.int64)
        bucket = np.floor(stock.ln_ratio / FINE.width).astype(np.int64)
        order = np.lexsort((stock.id, score, bucket))
        self.stock = stock.taken(order)
        self.score = score[order]
        #: Fine buckets of ratio, all of each coarse one.
        coarse, self.row = np.unique(bucket[order] // FINER, return_inverse=True)
        self.filled = coarse.astype(np.int64)
        self.steps = (FINER * self.filled[:, None] + np.arange(FINER)[None, :]).ravel()
        self.ratios = len(self.steps)
        self.place = FINER * self.row + bucket[order] % FINER
        self.key = self.place * APART + self.score
        self.shafts = Shafts.of(self.stock)
        #: Most power that each stands at any speed, ln.
        self.ln_power = (self.stock.ln_capacity + LN_GRID).max(axis=1)
        self.ln_gain = self.stock.ln_ratio + self.stock.ln_efficiency.max(axis=1)
        #: Most that torque is multiplied by, ln, in each fine bucket of ratio; minus infinity where there is no row.
        self.gain = np.full(self.ratios, -np.inf)
        np.maximum.at(self.gain, self.place, self.ln_gain)
        #: Least that is lost of power, ln, likewise.
        self.lost = np.full(self.ratios, np.inf)
        np.minimum.at(self.lost, self.place, -self.stock.ln_efficiency.max(axis=1))
        #: What is left of power at most, ln.
        self.left = float(self.stock.ln_efficiency.max(initial=-np.inf))
        self.cheapest, self.with_use = self._fields(weights)

    def _fields(self, weights: Weights) -> tuple[Field, Field]:
        """A capacity counts at the slow edge of a bucket; below the slowest speed that rows know nothing changes."""
        capacity = np.ascontiguousarray(self.stock.ln_capacity.T)
        first, last = (int(ROWS.bucket_of(np.array(ln_speed))) for ln_speed in (LN_GRID[0], LN_FASTEST))
        stood = ROWS.stood(capacity[np.isfinite(capacity)])
        # under the least that any row stands at any speed, all of them have plenty; very little counts as a little
        level = max(int(stood.min(initial=BEYOND)) - ROWS.free, LITTLE)
        levels = max(int(stood.max(initial=-BEYOND)) - level + 1, 1)
        rows = levels + ROWS.free
        found = np.full((last - first + 1, len(self.filled) * rows), FAR, dtype=np.int32)
        cost, place = self.score.astype(np.int32), self.row * rows
        for at in range(len(found)):
            speed = ROWS.width * (first + at)
            stands = column(capacity, speed)
            can = np.flatnonzero((stands > -np.inf) & (speed <= self.stock.ln_max + EQUAL))
            stood = ROWS.stood(stands[can]) - level
            np.minimum.at(found[at], place[can] + held(stood, 0, rows - 1), cost[can])
        by_level = np.ascontiguousarray(found.reshape(len(found), len(self.filled), rows).transpose(1, 2, 0))
        cheapest = np.minimum.accumulate(by_level[:, ::-1], axis=1)[:, ::-1][:, :levels]
        with_use = ROWS.loaded(by_level, weights)
        # for less than is told apart all have plenty
        with_use[:, 0] = cheapest[:, 0]
        return _as_slow(Field.of(cheapest, level, first)), _as_slow(Field.of(with_use, level, first))


def _as_slow(field: Field) -> Field:
    """Below its speeds everything is as at the slowest."""
    field.values[..., 0] = field.values[..., 1]
    return field


class Reach:
    """Motors and families of a search; bounds for some of the motors and the power of a need are kept for the next."""

    def __init__(self, motors: Motors, groups: dict[str, Group], weights: Weights) -> None:
        self.motors, self.groups, self.weights = motors, groups, weights
        worth = weights.price * motors.price + weights.part * motors.parts
        self.motor_score = np.minimum(np.round(UNIT * worth), DEAREST).astype(np.int64)
        self._kept: dict[tuple[bytes, int], Bounds] = {}

    def of(self, which: Ints, ln_power: float) -> Bounds:
        """Bounds for some of the motors and trains that need a power [N·m rpm] and more."""
        motors, need = which.tobytes(), int(COARSE.level_of(np.array(ln_power)))
        for (others, level), bounds in self._kept.items():
            if others == motors and level <= need <= level + MORE:
                return bounds
        if len(self._kept) == PARTS:
            del self._kept[next(iter(self._kept))]
        level = need - LESS
        self._kept[motors, level] = Bounds(self, which, level)
        return self._kept[motors, level]


class Bounds:
    """Least scores of a motor and first stages by family, a field for each word, made when first asked for.

    By power from a level on and by speed: of one stage on the fine grid, of more on the coarse one.
    """

    def __init__(self, reach: Reach, which: Ints, level: int) -> None:
        self.groups, self.weights, self.level = reach.groups, reach.weights, level
        self.motors, self.motor_score = reach.motors.taken(which), reach.motor_score[which]
        self.alike = tuple(alike_of(self.motors))
        self.ln_power = float((self.motors.ln_speed + self.motors.ln_torque).max(initial=-np.inf))
        most = int(COARSE.level_of(np.array(self.ln_power)))
        self.levels = min(max(most - level, 0), TOLD_APART) + 1
        self._fields: dict[Word, Field] = {}
        self._heads: dict[str, Heads] = {}

    def heads(self, kind: str) -> Heads:
        """The motors with first stages of a family."""
        if kind not in self._heads:
            group = self.groups[kind]
            levels = FINER_STEP * self.level, FINER_STEP * self.levels
            self._heads[kind] = heads_of(group.stock, group.score, self, levels)
        return self._heads[kind]

    @staticmethod
    def grid(word: Word) -> Grid:
        """On which grid the field of a word is."""
        return FINE if len(word) == 1 else COARSE

    def power(self, word: Word) -> float:
        """Ln of the most power that any motor brings through first stages [N·m rpm]."""
        return self.ln_power + sum(min(self.groups[kind].left, 0.0) for kind in word)

    def field(self, word: Word) -> Field:
        """Least score that reaches a bucket of speed and delivers at least a level of power there."""
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
            # more power is never cheaper: the lowest of some levels tells for all of them
            levels = FINER_STEP * (self.level + np.arange(self.levels))
            first, wide = field.first // FINER, field.inside.shape[1] + field.first
            buckets = FINER * np.arange(first, -(-wide // FINER))
            each = [field.at(levels[:, None], (buckets + by)[None, :]) for by in range(FINER)]
            self._fields[word] = Field.of(np.minimum.reduce(each), self.level, first, None)
        return self._fields[word]

    def _after(self, word: Word) -> Field:
        before, group = self._coarse(word[:-1]), self.groups[word[-1]]
        reached = np.flatnonzero((before.inside < FAR).any(axis=0))
        if not len(reached):
            return Field.of(np.full((1, 1), FAR, dtype=np.int32), 0, 0)
        # the bucket of the driver or the one above it, as its speed lies in the bucket of the driven shaft
        drivers = before.first + np.arange(int(reached[0]) - 1, int(reached[-1]) + 1)
        levels = (self.level + np.arange(self.levels))[:, None]
        near = np.minimum(before.at(levels, drivers[None, :]), before.at(levels, drivers[None, :] + 1))
        # the least torque of a power is where it turns fastest
        torque = ROWS.level_of(COARSE.step * levels - COARSE.width * (drivers + 2)[None, :])
        total = near + group.with_use.at(torque, drivers[None, :], (np.arange(len(group.filled))[:, None, None],))
        return self._spread(total, group, int(drivers[0]))

    def _spread(self, total: Scores, group: Group, driver: int) -> Field:
        """Scores by bucket of ratio, level and bucket at the driver, from a bucket on, as those behind it."""
        lost = group.lost.reshape(-1, FINER).min(axis=1)
        each = np.flatnonzero((total < FAR).any(axis=(1, 2)))
        if not len(each):
            return Field.of(np.full((1, 1), FAR, dtype=np.int32), 0, 0)
        levels, wide = total.shape[1:]
        more = np.minimum(COARSE.level_of(lost[each]), levels - 1)
        steps = group.filled[each]
        first = driver - int(steps.max())
        found = np.full((levels, wide + int(steps.max() - steps.min())), FAR, dtype=np.int32)
        for place, by, step in zip(each.tolist(), more.tolist(), (driver - steps - first).tolist(), strict=True):
            here = found[:, step : step + wide]
            np.minimum(here[: levels - by], total[place][by:], out=here[: levels - by])
            np.minimum(here[levels - by :], total[place][-1:], out=here[levels - by :])
        found[found > DEAREST] = FAR
        return Field.of(found, self.level, first, None)
