"""What a search may take: stages of every family and motors, and what a score counts."""

from __future__ import annotations

from dataclasses import dataclass, fields, replace
from math import log
from typing import Any

import numpy as np
import numpy.typing as npt

from pulltide.core.search.rows import LN_GRID, Columns, Floats, Ints

Flags = npt.NDArray[np.bool_]
#: Scores are whole numbers of a hundredth of a price unit, so that ties are exact on every machine.
UNIT = 100
#: From each speed of the grid to the next.
LN_STEPS = np.diff(LN_GRID)
#: How equal two logarithms are.
EQUAL = 1e-9


@dataclass(frozen=True, slots=True, kw_only=True)
class Weights:
    """What a price unit is worth: a bought part, an e-fold of loss, of speed error, of each stage's use above plenty,
    each class by which a stage is louder than a quiet one, each warning of a plan, once it is solved.

    Invented so that none drowns the others; a person chooses among them by what the list is ranked by.
    """

    price: float = 1.0
    part: float = 2.0
    loss: float = 60.0
    error: float = 80.0
    use: float = 30.0
    noise: float = 0.0
    warning: float = 0.0


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

    ``shaft_mm`` 0 where unknown; ``min_mm`` the smallest belt pulley allowed, 0 where none is set.
    """

    id: Ints
    ln_speed: Floats
    ln_torque: Floats
    price: Floats
    parts: Ints
    shaft_mm: Floats
    min_mm: Floats

    @property
    def key(self) -> tuple[bytes, ...]:
        """What tells them from others."""
        return tuple(getattr(self, one.name).tobytes() for one in fields(self))

    def taken(self, rows: Ints) -> Motors:
        """Some of them."""
        return Motors(**{one.name: getattr(self, one.name)[rows] for one in fields(self)})


#: Families of the stages of a train, the one next to the motor first.
Word = tuple[str, ...]


def at_speed(table: Floats, rows: Ints, ln_speed: Floats) -> Floats:
    """A column over the speed grid at any speed: straight between grid points, level beyond them."""
    place = held(np.searchsorted(LN_GRID, ln_speed, "right") - 1, 0, len(LN_GRID) - 2)
    share = held((ln_speed - LN_GRID[place]) / LN_STEPS[place], 0.0, 1.0)
    values, at = table.reshape(-1), rows * table.shape[1] + place
    low, high = values.take(at), values.take(at + 1)
    with np.errstate(invalid="ignore"):
        between = np.where(share >= 1, high, low + share * (high - low))
    lost = np.isnan(between)
    if lost.any():  # one of both is infinite
        between[lost] = np.where(share <= 0, low, np.minimum(low, high))[lost]
    return np.asarray(between)


def held(values: Any, low: float, high: float) -> Any:
    """Values held between two ends; quicker than numpy's own for short arrays."""
    return np.minimum(np.maximum(values, low), high)


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
