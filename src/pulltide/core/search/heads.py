"""Every motor with every first stage of a family, at the motor's own speed."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import chain
from math import ceil, log
from typing import Protocol

import numpy as np

from pulltide.core.search.field import DEAREST, FAR, FINE, LN_LEAST, Field, Scores
from pulltide.core.search.rows import LN_GRID, Floats, Ints
from pulltide.core.search.tables import EQUAL, LN_STEPS, Motors, Stock, Weights, held, penalty

#: So much apart are the keys of rows of neighboring buckets.
APART = 4 * FAR
#: First stages of about one ratio are told apart by how much more than the best of them they lose, ln.
LOSES = (0.02, 0.05, 0.1)
#: So many levels below what a motor gives behind a stage are told apart: a sixtieth of it and less counts as that.
TOLD_APART = ceil(log(60) / FINE.step)


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


class Sourced(Protocol):
    """Motors, their scores and what use costs."""

    motors: Motors
    motor_score: Ints
    weights: Weights


@dataclass(frozen=True, slots=True)
class AtSpeed:
    """All rows of a family behind one motor speed: ln of speed [rpm], of what they multiply torque by, and of the
    torque behind them that they stand [N·m].
    """

    ln_out: Floats
    ln_gain: Floats
    ln_stands: Floats

    @staticmethod
    def of(stock: Stock, ln_speed: float) -> AtSpeed:
        """At one speed of the motor [rpm]."""
        gain = stock.ln_ratio + column(stock.ln_efficiency.T, ln_speed)
        return AtSpeed(ln_speed - stock.ln_ratio, gain, gain + column(stock.ln_capacity.T, ln_speed))


@dataclass(frozen=True, slots=True)
class Heads:
    """Motors alike in speed and shaft, each with every first stage of a family that goes on it: H rows.

    ``row`` of the stage, ``alike`` of the motors, ``key`` to find them by speed, and by score with that of the cheapest
    motor. ``field`` is the least score with use counted; ``motor`` that of the motors alone, by what is taken from
    them, one row for each kind of ``motors``; ``speed`` of each kind is a row of the figures at its speed.
    """

    row: Ints
    alike: Ints
    key: Ints
    field: Field
    motor: Scores
    motors: tuple[Ints, ...]
    speed: Ints
    ln_out: Floats
    ln_gain: Floats
    ln_stands: Floats

    def at(self, head: Ints) -> AtSpeed:
        """Some heads."""
        place = self.speed[self.alike[head]], self.row[head]
        return AtSpeed(self.ln_out[place], self.ln_gain[place], self.ln_stands[place])

    def motor_at(self, head: Ints, ln_torque: Floats) -> Scores:
        """Least score of the motors of some heads with their use, by the torque that is taken from them [N·m]."""
        level = np.floor((ln_torque - LN_LEAST) / FINE.step) + 1
        return np.asarray(self.motor[self.alike[head], held(level, 0, self.motor.shape[1] - 1).astype(np.int64)])


def heads_of(stock: Stock, score: Ints, source: Sourced) -> Heads:
    """All motors with all first stages of a family, whose rows have some scores."""
    motors, alike = source.motors, tuple(_alike(source.motors))
    speeds, speed = np.unique([motors.ln_speed[which[0]] for which in alike], return_inverse=True)
    figures = [AtSpeed.of(stock, float(one)) for one in speeds]
    rows, keys, behind = [], [], []
    for which, at in zip(alike, speed.tolist(), strict=True):
        one, figure = which[0], figures[at]
        bucket = FINE.bucket_of(figure.ln_out)
        fits = (stock.bore_in >= motors.shaft_mm[one] - EQUAL) & (stock.outside_mm >= motors.least_mm[one] - EQUAL)
        fits &= (speeds[at] <= stock.ln_max + EQUAL) & (bucket >= 0) & (bucket < FINE.buckets)
        rows.append(np.flatnonzero(fits))
        placed, costs = bucket[fits], score[fits]
        keys.append(placed * APART + costs + int(source.motor_score[which].min()))
        behind.append(_Behind(placed, figure.ln_gain[fits], figure.ln_stands[fits], costs, _of_motors(which, source)))
    key, row = np.concatenate(keys), np.concatenate(rows)
    order = np.argsort(key, kind="stable")
    numbers = np.repeat(np.arange(len(alike)), [len(one) for one in rows])
    return Heads(
        row[order].astype(np.int32),
        numbers[order].astype(np.int32),
        key[order],
        _field(behind, source.weights),
        np.stack([one.motor for one in behind]),
        alike,
        speed,
        *(np.stack([getattr(one, name) for one in figures]) for name in ("ln_out", "ln_gain", "ln_stands")),
    )


def _alike(motors: Motors) -> Iterator[Ints]:
    """Motors of one speed, shaft and least pulley together."""
    columns = np.stack([motors.ln_speed, motors.shaft_mm, motors.least_mm])
    _, kind = np.unique(columns, axis=1, return_inverse=True)
    for number in range(int(kind.max(initial=-1)) + 1):
        yield np.flatnonzero(kind.ravel() == number)


def _of_motors(which: Ints, source: Sourced) -> Scores:
    """Least score of motors and their use by what is taken from them: below the least level first, then by level."""
    use = LN_LEAST + FINE.step * np.arange(FINE.levels)[:, None] - source.motors.ln_torque[which][None, :]
    score = source.motor_score[which]
    each = np.where(use > EQUAL, FAR, score[None, :] + penalty(source.weights, use))
    return np.concatenate([[score.min()], each.min(axis=1)]).astype(np.int32)


@dataclass(frozen=True, slots=True)
class _Behind:
    """First stages on alike motors: bucket of speed behind them, gain of torque, torque that they stand, score; and of
    those motors the score by what is taken from them.
    """

    bucket: Ints
    gain: Floats
    stands: Floats
    score: Ints
    motor: Scores

    def parts(self) -> Iterator[_Behind]:
        """Stages that lose much apart from those that lose little, so that neither stands for the other."""
        if not len(self.bucket):
            return
        most = np.full(int(self.bucket.max()) + 1, -np.inf)
        np.maximum.at(most, self.bucket, self.gain)
        kind = np.digitize(most[self.bucket] - self.gain, LOSES)
        for number in np.unique(kind).tolist():
            rows = np.flatnonzero(kind == number)
            yield _Behind(self.bucket[rows], self.gain[rows], self.stands[rows], self.score[rows], self.motor)

    def levels(self) -> tuple[int, int]:
        """The level below which nothing changes or is told apart, and the highest that the motors give behind."""
        gained = np.ceil(np.array([self.gain.min(), self.gain.max()]) / FINE.step).astype(int)
        given = int((self.motor[1:] < FAR).sum())
        plain = int((self.motor == self.motor[0]).sum()) - 2 + int(gained[0])
        top = given + int(gained[1])
        return max(min(int(FINE.stood(self.stands).min()) - FINE.free, plain), top - TOLD_APART), top

    def lower(self, found: Scores, level: int, first: int, weights: Weights) -> None:
        """Lower scores, from a level and bucket on, to what they reach."""
        low, top = (held(end, level, level + len(found) - 1) for end in self.levels())
        start, levels = int(self.bucket.min()), int(top - low) + 1
        place = self.bucket - start
        most = np.full(int(place.max()) + 1, -np.inf)
        np.maximum.at(most, place, self.gain)
        gained = np.ceil(np.where(np.isfinite(most), most, 0.0) / FINE.step).astype(np.int64)
        stood = held(FINE.stood(self.stands) - low, 0, levels + FINE.free - 1)
        by_level = np.full((levels + FINE.free, len(most)), FAR, dtype=np.int32)
        np.minimum.at(by_level, (stood, place), self.score.astype(np.int32))
        at_motor = held(low + np.arange(levels)[:, None] - gained[None, :] + 1, 0, len(self.motor) - 1)
        whole = FINE.loaded(by_level, weights) + self.motor[at_motor]
        # what stands less than the lowest level is plenty for less
        whole[0] = by_level.min(axis=0) + self.motor[0]
        here = found[:, start - first : start - first + len(most)]
        under, upto = int(low - level), int(low - level) + levels
        np.minimum(here[under:upto], whole, out=here[under:upto])
        np.minimum(here[:under], whole[:1], out=here[:under])


def _field(behind: list[_Behind], weights: Weights) -> Field:
    """The least score of any of them."""
    parts = list(chain.from_iterable(one.parts() for one in behind))
    if not parts:
        return Field.of(np.full((1, 1), FAR, dtype=np.int32), 0, 0)
    levels = np.array([part.levels() for part in parts])
    buckets = np.array([(part.bucket.min(), part.bucket.max()) for part in parts])
    level, first = max(int(levels[:, 0].min()), 0), int(buckets[:, 0].min())
    top, last = max(min(int(levels[:, 1].max()), FINE.levels - 1), level), int(buckets[:, 1].max())
    found = np.full((top - level + 1, last - first + 1), FAR, dtype=np.int32)
    for part in parts:
        part.lower(found, level, first, weights)
    found[found > DEAREST] = FAR
    return Field.of(found, level, first)
