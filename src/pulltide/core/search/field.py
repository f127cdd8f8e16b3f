"""Least scores by ln speed and ln torque, rounded to the safe side: what they say no train can do, none can.

A field keeps only the part of its grid where scores are and differ.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil, log

import numpy as np
import numpy.typing as npt

from pulltide.core.search.rows import Floats, Ints
from pulltide.core.search.tables import EQUAL, LN_PLENTY, UNIT, Weights, held, penalty

#: Half the memory of whole numbers of 64 bits.
Scores = npt.NDArray[np.int32]
#: No train has this score; two of it are still a number of 32 bits.
FAR = (1 << 30) - 1
#: No row counts more than this, five million price units.
DEAREST = FAR >> 1
#: Speeds and torques that bounds span.
SLOWEST_RPM, FASTEST_RPM = 0.5, 20_000.0
MIN_NM, MAX_NM = 0.02, 100_000.0
LN_SLOWEST, LN_LEAST = log(SLOWEST_RPM), log(MIN_NM)


class Grid:
    """Buckets of ln speed and ln ratio, ``width`` wide, and levels of ln torque, ``step`` apart."""

    def __init__(self, width: float, step: float) -> None:
        self.width, self.step = width, step
        self.buckets = ceil(log(FASTEST_RPM / SLOWEST_RPM) / width)
        self.levels = ceil(log(MAX_NM / MIN_NM) / step)
        #: Capacity so many levels above what is needed earns no more credit.
        self.free = ceil(-LN_PLENTY / step)

    def bucket_of(self, ln_speed: Floats) -> Ints:
        """The bucket that a speed lies in, that below where it is at its edge."""
        return np.asarray(np.floor((ln_speed - EQUAL - LN_SLOWEST) / self.width), dtype=np.int64)

    def level_of(self, ln_torque: Floats) -> Ints:
        """The level at or below a torque: what is needed counts as a little less."""
        level = np.floor((ln_torque - LN_LEAST) / self.step + EQUAL)
        return np.asarray(held(level, 0, self.levels - 1), dtype=np.int64)

    def stood(self, ln_torque: Floats) -> Ints:
        """The level of the greatest torque that is stood; none that is stood is of a higher one."""
        level = np.floor((ln_torque - LN_LEAST) / self.step + 100 * EQUAL)
        return np.asarray(held(level, -1, self.levels - 1 + self.free), dtype=np.int64)

    def loaded(self, by_level: Scores, weights: Weights) -> Scores:
        """Least scores that deliver each level, out of those of what stands it, with what the use costs: little in hand
        is dear, plenty is free. Of L + ``free`` levels (last axis but one) the lower L.

        That cost falls by the same from level to level until there is plenty; windows of levels are doubled, so that
        each takes a few steps and not one for every level.
        """
        free, levels = self.free, by_level.shape[-2] - self.free
        found = np.minimum.accumulate(by_level[..., ::-1, :], axis=-2)[..., ::-1, :][..., free:, :]
        fall = ceil(UNIT * weights.use * self.step)
        dearest = int(penalty(weights, np.array([-self.step]))[0])
        window, size = by_level.copy(), 1
        while size < free:
            by = min(size, free - size)
            lower = window[..., by:, :] - fall * by
            np.minimum(window[..., :-by, :], lower, out=window[..., :-by, :])
            size += by
        found = np.minimum(found, np.maximum(window[..., :levels, :], 0) + dearest)
        found[found > DEAREST] = FAR
        return np.asarray(found)


#: Bounds of trains of several stages, and those of a motor with its first stage.
COARSE = Grid(0.05, 0.1)
FINER, FINER_STEP = 3, 8
FINE = Grid(COARSE.width / FINER, COARSE.step / FINER_STEP)


@dataclass(frozen=True, slots=True)
class Field:
    """Scores of a part of a grid, [...] x levels x buckets with a margin: a level above, a bucket at both ends.

    ``level`` and ``first`` are the lowest level and bucket inside. Levels below cost what the lowest does; beyond the
    margin everything is as at the margin.
    """

    values: Scores
    level: int
    first: int

    @staticmethod
    def of(inside: Scores, level: int, first: int) -> Field:
        """With a margin of FAR."""
        room = [(0, 0)] * (inside.ndim - 2) + [(0, 1), (1, 1)]
        return Field(np.pad(inside, room, constant_values=FAR), level, first)

    @property
    def inside(self) -> Scores:
        """Without its margin."""
        return self.values[..., :-1, 1:-1]

    def at(self, levels: Ints, buckets: Ints, places: tuple[Ints, ...] = ()) -> Scores:
        """At some levels and buckets."""
        high, wide = self.values.shape[-2:]
        where = held(levels - self.level, 0, high - 1), held(buckets - self.first + 1, 0, wide - 1)
        return np.asarray(self.values[(*places, *where)])

    def part(self, level: int, buckets: Ints, count: int) -> Scores:
        """So many levels from one on, at some buckets."""
        high, wide = self.values.shape[-2:]
        rows = held(np.arange(level, level + count) - self.level, 0, high - 1)
        columns = held(buckets - self.first + 1, 0, wide - 1)
        return np.asarray(self.values.take(rows, axis=-2).take(columns, axis=-1))
