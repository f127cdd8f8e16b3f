"""Least scores by ln speed and ln power or torque, rounded to the safe side: what they say no train can do, none can.

Power hardly changes along a train, and what a search looks at needs about what its last shaft does: by power a field
is small, however far apart the speeds are.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil, floor

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
#: No level is further off than this.
BEYOND = 1 << 20


class Grid:
    """Buckets of ln speed and ln ratio, ``width`` wide, and levels of ln power or torque, ``step`` apart.

    ``free``: capacity so many levels above what is needed earns no more credit.
    """

    def __init__(self, width: float, step: float) -> None:
        self.width, self.step = width, step
        self.free = ceil(-LN_PLENTY / step)

    def bucket_of(self, ln_speed: Floats) -> Ints:
        """The bucket that a speed lies in, that below where it is at its edge."""
        return np.asarray(np.floor((ln_speed - EQUAL) / self.width), dtype=np.int64)

    def level_of(self, ln_needed: Floats) -> Ints:
        """The level at or below a torque or power: what is needed counts as a little less."""
        return np.asarray(held(np.floor(ln_needed / self.step + EQUAL), -BEYOND, BEYOND), dtype=np.int64)

    def stood(self, ln_stood: Floats) -> Ints:
        """The level of the greatest that is stood; none that is stood is of a higher one."""
        return np.asarray(held(np.floor(ln_stood / self.step + 100 * EQUAL), -BEYOND, BEYOND), dtype=np.int64)

    def faster(self, buckets: int) -> int:
        """So many levels more power at least takes the same torque that many buckets faster, less one."""
        return floor(max(buckets - 1, 0) * self.width / self.step + EQUAL)

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
        # nothing counts less than nothing, and what no train has stays what no train has whatever is added
        found = np.maximum(np.minimum(found, window[..., :levels, :] + dearest), 0)
        found[found > DEAREST] = FAR
        return np.asarray(found)


#: Power and speed of trains of several stages; of a motor with its first stage; torque and speed of single stages.
COARSE = Grid(0.05, 0.05)
FINER, FINER_STEP = 3, 4
FINE = Grid(COARSE.width / FINER, COARSE.step / FINER_STEP)
ROWS = Grid(COARSE.width, 0.05)


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
    def of(inside: Scores, level: int, first: int, above: int | None = FAR) -> Field:
        """With a margin of FAR; at the levels above as at the highest one where they are not told."""
        room = [(0, 0)] * (inside.ndim - 2) + [(0, 1), (1, 1)]
        values = np.pad(inside, room, constant_values=FAR)
        if above is None:
            values[..., -1, :] = values[..., -2, :]
        return Field(values, level, first)

    @property
    def inside(self) -> Scores:
        """Without its margin."""
        return self.values[..., :-1, 1:-1]

    def at(self, levels: Ints, buckets: Ints, places: tuple[Ints, ...] = ()) -> Scores:
        """At some levels and buckets."""
        high, wide = self.values.shape[-2:]
        level, bucket = held(levels - self.level, 0, high - 1), held(buckets - self.first + 1, 0, wide - 1)
        row = 0
        for place, count in zip(places, self.values.shape, strict=False):
            row = row * count + place
        # one flat place is looked up much quicker than one of several axes
        return np.asarray(self.values.reshape(-1).take((row * high + level) * wide + bucket))
