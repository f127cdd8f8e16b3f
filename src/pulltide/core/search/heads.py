"""Every motor with every first stage of a family, at the motor's own speed."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import chain
from typing import Protocol

import numpy as np

from pulltide.core.search.field import DEAREST, FAR, FINE, Field, Scores
from pulltide.core.search.rows import LN_GRID, Floats, Ints
from pulltide.core.search.tables import EQUAL, LN_STEPS, Motors, Stock, Weights, held, penalty

#: So much apart are the keys of rows of neighboring buckets.
APART = 4 * FAR
#: So many buckets of speed apart are the heads of motors of one kind from those of the next.
ONE_MOTOR = 1 << 14
#: First stages of about one ratio are told apart by how much more than the best of them they lose, ln.
LOSES = (0.02, 0.05, 0.1)
#: So many levels above the highest looked at behind a stage may be taken from a motor in front of it.
MORE = 128


def column(by_speed: Floats, ln_speed: float) -> Floats:
    """All rows of a column over the speed grid, G x R, at one speed."""
    place = min(max(int(np.searchsorted(LN_GRID, ln_speed, "right")) - 1, 0), len(LN_GRID) - 2)
    share = min(max((ln_speed - LN_GRID[place]) / LN_STEPS[place], 0.0), 1.0)
    if share in (0.0, 1.0):
        return np.asarray(by_speed[place + int(share)])
    low, high = by_speed[place : place + 2]
    with np.errstate(invalid="ignore"):
        found = low + share * (high - low)
    return np.asarray(np.where(np.isnan(found), np.minimum(low, high), found))


def between(key: Ints, buckets: Ints, least: Ints | Scores, most: Ints) -> tuple[Ints, Ints]:
    """Rows of some buckets with a score from ``least`` to ``most``, as pairs of place in those arrays and row."""
    starts = np.searchsorted(key, buckets * APART + least, "left")
    chosen = np.maximum(np.searchsorted(key, buckets * APART + np.minimum(most, FAR), "right") - starts, 0)
    which = np.repeat(np.arange(len(chosen)), chosen)
    offset = np.arange(len(which)) - np.repeat(np.cumsum(chosen) - chosen, chosen)
    return which, starts[which] + offset


def least(buckets: Ints, values: Floats) -> Floats:
    """The least of the values in each bucket from the lowest on, infinity where there is none.

    Much quicker than ``minimum.at`` of numpy.
    """
    order = np.argsort(buckets.astype(np.int16), kind="stable")
    places = buckets[order] - buckets[order[0]]
    starts = np.concatenate([[0], np.flatnonzero(places[1:] != places[:-1]) + 1])
    found = np.full(int(places[-1]) + 1, np.inf)
    found[places[starts]] = np.minimum.reduceat(values[order], starts)
    return found


class Sourced(Protocol):
    """Motors, those alike together, their scores and what use costs."""

    motors: Motors
    alike: tuple[Ints, ...]
    motor_score: Ints
    weights: Weights


@dataclass(frozen=True, slots=True)
class AtSpeed:
    """All rows of a family behind one motor speed: ln of speed [rpm], of what they lose of power, and of the power
    behind them that they stand [N·m rpm].
    """

    ln_out: Floats
    ln_lost: Floats
    ln_stands: Floats

    @staticmethod
    def of(stock: Stock, ln_speed: float) -> AtSpeed:
        """At one speed of the motor [rpm]."""
        lost = -column(stock.ln_efficiency.T, ln_speed)
        stands = ln_speed + column(stock.ln_capacity.T, ln_speed) - lost
        return AtSpeed(ln_speed - stock.ln_ratio, lost, stands)


@dataclass(frozen=True, slots=True)
class Heads:
    """Motors alike in speed and shaft, each with every first stage of a family that goes on it: H rows.

    ``row`` of the stage, ``alike`` of the motors, ``key`` to find them by kind of motor, speed and score of the stage.
    ``field`` is the least score with use counted; ``motor`` that of the motors alone, by what is taken from them, from
    a level on, one row for each kind of ``motors``; ``speed`` of each kind is a row of the figures at its speed.
    """

    row: Ints
    alike: Ints
    key: Ints
    field: Field
    motor: Scores
    level: int
    motors: tuple[Ints, ...]
    speed: Ints
    ln_out: Floats
    ln_lost: Floats
    ln_stands: Floats

    def at(self, head: Ints) -> AtSpeed:
        """Some heads."""
        place = self.speed[self.alike[head]] * self.ln_out.shape[1] + self.row[head]
        return AtSpeed(*(one.reshape(-1).take(place) for one in (self.ln_out, self.ln_lost, self.ln_stands)))

    def within(self, budget: Ints, buckets: Ints, levels: Ints) -> tuple[Ints, Ints]:
        """Heads that may run in some buckets of speed within budgets, where some power or more is taken from the motor,
        as pairs of place in those arrays and head.
        """
        motor = self.motor[:, held(levels - self.level, 0, self.motor.shape[1] - 1)].T
        left = budget[:, None] - motor
        places, kinds = np.nonzero(left >= 0)
        here = kinds * ONE_MOTOR + buckets[places]
        which, head = between(self.key, here, np.zeros(1, dtype=np.int64), left[places, kinds])
        return places[which], head

    def motor_at(self, head: Ints, ln_power: Floats) -> Scores:
        """Least score of the motors of some heads with their use, by the power that is taken from them [N·m rpm]."""
        level = held(FINE.level_of(ln_power) - self.level, 0, self.motor.shape[1] - 1)
        return np.asarray(self.motor.reshape(-1).take(self.alike[head] * self.motor.shape[1] + level))


def heads_of(stock: Stock, score: Ints, source: Sourced, levels: tuple[int, int]) -> Heads:
    """All motors with all first stages of a family that stand the least power; the scores of its rows.

    ``levels``: the lowest of power that is looked at, and how many are told apart.
    """
    motors, alike = source.motors, source.alike
    speeds, speed = np.unique([motors.ln_speed[which[0]] for which in alike], return_inverse=True)
    figures = [AtSpeed.of(stock, float(one)) for one in speeds]
    rows, keys, behind = [], list[Ints](), []
    for which, at in zip(alike, speed.tolist(), strict=True):
        one, figure = which[0], figures[at]
        bucket = FINE.bucket_of(figure.ln_out)
        fits = (stock.bore_in >= motors.shaft_mm[one] - EQUAL) & (stock.outside_mm >= motors.min_mm[one] - EQUAL)
        fits &= (speeds[at] <= stock.ln_max + EQUAL) & (FINE.stood(figure.ln_stands) >= levels[0])
        rows.append(np.flatnonzero(fits))
        placed, costs = bucket[fits], score[fits]
        keys.append((len(keys) * ONE_MOTOR + placed) * APART + costs)
        behind.append(
            _Behind(placed, figure.ln_lost[fits], figure.ln_stands[fits], costs, _of_motors(which, source, levels))
        )
    key, row = np.concatenate(keys), np.concatenate(rows)
    order = np.argsort(key, kind="stable")
    numbers = np.repeat(np.arange(len(alike)), [len(one) for one in rows])
    return Heads(
        row[order].astype(np.int32),
        numbers[order].astype(np.int32),
        key[order],
        _field(behind, source.weights, levels),
        np.stack([one.motor for one in behind]),
        levels[0],
        alike,
        speed,
        *(np.stack([getattr(one, name) for one in figures]) for name in ("ln_out", "ln_lost", "ln_stands")),
    )


def alike_of(motors: Motors) -> Iterator[Ints]:
    """Motors of one speed, shaft and least pulley together."""
    columns = np.stack([motors.ln_speed, motors.shaft_mm, motors.min_mm])
    _, kind = np.unique(columns, axis=1, return_inverse=True)
    for number in range(int(kind.max(initial=-1)) + 1):
        yield np.flatnonzero(kind.ravel() == number)


def _of_motors(which: Ints, source: Sourced, levels: tuple[int, int]) -> Scores:
    """Least score of motors and their use by the power that is taken from them, by level."""
    first, count = levels
    power = source.motors.ln_speed[which] + source.motors.ln_torque[which]
    use = FINE.step * (first + np.arange(count + MORE))[:, None] - power[None, :]
    each = np.where(use > EQUAL, FAR, source.motor_score[which][None, :] + penalty(source.weights, use))
    return np.asarray(each.min(axis=1).astype(np.int32))


@dataclass(frozen=True, slots=True)
class _Behind:
    """First stages on alike motors: bucket of speed behind them, power lost, power that they stand, score; and of those
    motors the score by what is taken from them.
    """

    bucket: Ints
    lost: Floats
    stands: Floats
    score: Ints
    motor: Scores

    def parts(self) -> Iterator[_Behind]:
        """Stages that lose much apart from those that lose little, so that neither stands for the other."""
        if not len(self.bucket):
            return
        kind = np.digitize(self.lost - least(self.bucket, self.lost)[self.bucket - self.bucket.min()], LOSES)
        for number in range(len(LOSES) + 1):
            rows = np.flatnonzero(kind == number)
            if len(rows):
                yield _Behind(self.bucket[rows], self.lost[rows], self.stands[rows], self.score[rows], self.motor)

    def lower(self, found: Scores, first: int, level: int, weights: Weights) -> None:
        """Lower scores, from a bucket and level on, to what they reach."""
        start, levels = int(self.bucket.min()), len(found)
        place, lost = self.bucket - start, least(self.bucket, self.lost)
        more = FINE.level_of(np.where(np.isfinite(lost), lost, 0.0))
        stood = np.minimum(FINE.stood(self.stands) - level, levels + FINE.free - 1)
        by_level = np.full((levels + FINE.free, len(lost)), FAR, dtype=np.int32)
        np.minimum.at(by_level.reshape(-1), stood * len(lost) + place, self.score.astype(np.int32))
        at_motor = np.minimum(np.arange(levels)[:, None] + more[None, :], len(self.motor) - 1)
        whole = FINE.loaded(by_level, weights) + self.motor[at_motor]
        here = found[:, start - first : start - first + len(lost)]
        np.minimum(here, whole, out=here)


def _field(behind: list[_Behind], weights: Weights, levels: tuple[int, int]) -> Field:
    """The least score of any of them."""
    parts = list(chain.from_iterable(one.parts() for one in behind))
    if not parts:
        return Field.of(np.full((1, 1), FAR, dtype=np.int32), 0, 0)
    first, last = (end(getattr(part.bucket, end.__name__)() for part in parts) for end in (min, max))
    found = np.full((levels[1], int(last - first) + 1), FAR, dtype=np.int32)
    for part in parts:
        part.lower(found, int(first), levels[0], weights)
    found[found > DEAREST] = FAR
    return Field.of(found, levels[0], int(first), None)
