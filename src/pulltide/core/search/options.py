"""Which rows of a family may stand before partial trains: the least score that each bucket of ratio adds.

Partial trains with one speed and torque at their open end, as nearly as the fine grid tells them apart, share a cell.
What holds for a cell is worked out when the first of them is grown.
"""

from __future__ import annotations

import numpy as np

from pulltide.core.search.bounds import Group
from pulltide.core.search.field import COARSE, FAR, FINE, FINER, ROWS, Field, Grid, Scores
from pulltide.core.search.heads import between
from pulltide.core.search.rows import Floats, Ints
from pulltide.core.search.tables import Flags

#: Levels of torque in a key, and the middle one of them.
LEVELS, MIDDLE = 1 << 14, 1 << 13


class Options:
    """The rows of a family between partial trains and what goes before it, C cells x buckets of ratio.

    ``window`` has a field for each band. ``rest`` is the least score of what goes before, ``least`` with that of a row
    and its use, ``cheapest`` that of a row alone.
    """

    def __init__(self, group: Group, window: Field, grid: Grid) -> None:
        self.group, self.window, self.grid = group, window, grid
        # ends with a key above all others
        self._keys = np.array([np.iinfo(np.int64).max])
        self._rows = np.array([-1])
        none = np.empty((0, group.ratios), dtype=np.int32)
        self.rest, self.least, self.cheapest = none, none, none

    def cells(self, bands: Ints, ln_speed: Floats, ln_torque: Floats) -> Ints:
        """The cells of partial trains by band, speed [rpm] and torque [N·m] at their open end, ln."""
        place = (FINE.bucket_of(ln_speed) * LEVELS + FINE.level_of(ln_torque) + MIDDLE) * len(
            self.window.values
        ) + bands
        keys, which = np.unique(place, return_inverse=True)
        at = np.searchsorted(self._keys[:-1], keys)
        new = keys[self._keys[at] != keys]
        if len(new):
            self._add(new)
        return np.asarray(self._rows[np.searchsorted(self._keys, keys)][which.ravel()])

    def _add(self, keys: Ints) -> None:
        places, bands = np.divmod(keys, len(self.window.values))
        buckets, levels = np.divmod(places, LEVELS)
        rest, least, cheapest = self._of(bands[:, None], buckets[:, None], levels[:, None] - MIDDLE)
        self.rest = np.concatenate([self.rest, rest])
        self.least = np.concatenate([self.least, least])
        self.cheapest = np.concatenate([self.cheapest, cheapest])
        known = np.concatenate([self._keys, keys])
        rows = np.concatenate([self._rows, len(self._rows) - 1 + np.arange(len(keys))])
        order = np.argsort(known)
        self._keys, self._rows = known[order], rows[order]

    def _of(self, bands: Ints, buckets: Ints, levels: Ints) -> tuple[Scores, Scores, Scores]:
        group, ln_torque = self.group, FINE.step * levels
        power = self.grid.level_of(ln_torque + FINE.width * buckets + group.lost[None, :])
        # a speed in the bucket so many on: ratio and speed each lie somewhere in their own
        drivers = buckets + group.steps[None, :]
        slow = drivers // FINER
        each = (slow, (drivers + 1) // FINER) if self.grid is COARSE else (drivers, drivers + 1)
        rest = np.minimum(self.window.at(power, each[0], (bands,)), self.window.at(power, each[1], (bands,)))
        torque = ROWS.level_of(ln_torque - group.gain[None, :])
        place = (np.arange(group.ratios, dtype=np.int64)[None, :] // FINER,)
        row = group.with_use.at(torque, slow, place)
        return rest, np.minimum(rest + row, FAR), group.cheapest.at(torque, slow, place)

    def least_before(self, bands: Ints, ln_speed: Floats, ln_torque: Floats) -> Scores:
        """The least score that any row and what goes before it add to some partial trains."""
        cells = self.cells(bands, ln_speed, ln_torque)
        return np.asarray(self.least[cells].min(axis=1, initial=FAR))

    def within(self, budget: Ints, cells: Ints, rows: Flags) -> tuple[Ints, Ints]:
        """The rows to try before each partial train, as pairs of partial and row: what both may add, and their cells.

        Rows cheaper than the cheapest that stands the torque are passed over.
        """
        partials, ratios = np.nonzero(self.least[cells] <= budget[:, None])
        where = cells[partials], ratios
        which, found = between(self.group.key, ratios, self.cheapest[where], budget[partials] - self.rest[where])
        kept = rows[found]
        return partials[which[kept]], found[kept]
