"""Many motors: a few cheap ones are tried first, then the others, as far as what was found lets one be of use."""

from __future__ import annotations

from math import ceil, exp, floor, log
from typing import Protocol, TypeVar

import numpy as np

from pulltide.core.search.bounds import Reach
from pulltide.core.search.engine import Asked, Search
from pulltide.core.search.field import FAR
from pulltide.core.search.pace import Pace
from pulltide.core.search.tables import EQUAL

#: So many motors that surely bring the power are tried before all others.
FEW = 4
#: Needs whose power lies within this of each other are searched behind the same motors, ln.
ALIKE = log(1.07)
#: A score is rounded up by no more than this before the others are chosen, ln.
ROUNDED = log(1.02)

Found = TypeVar("Found")


class Best(Protocol[Found]):
    """What is looked for: the best kinds of train, or the best trains."""

    def find(self, search: Search, known: Found | None = None) -> tuple[Found, bool]:
        """The best behind the motors of a search and what is ``known`` from others; whether the work ran out."""

    def last(self, found: Found) -> int:
        """The score from which on a train is of no use; FAR while too little was found."""


def cheapest_first(reach: Reach, asked: Asked, best: Best[Found], work: int, pace: Pace) -> tuple[Found, bool, int]:
    """The best behind any of the motors; whether the work ran out, and how many rows were looked at."""
    motors = reach.motors
    need = log(asked.torque_nm) + log(asked.low_rpm)
    power = motors.ln_speed + motors.ln_torque
    # what is a little under the need costs nothing to keep, and a little more or less of it takes the same motors
    step = floor(need / ALIKE)
    able = np.flatnonzero(power >= step * ALIKE - EQUAL)
    surely = np.sort(reach.motor_score[power >= (step + 1) * ALIKE])
    dearest = surely[:FEW].max(initial=0) if len(surely) >= FEW else FAR
    is_first = reach.motor_score[able] <= dearest
    first = Search(reach.of(able[is_first], need), asked, work, pace)
    found, stopped = best.find(first)
    last = _rounded(best.last(found))
    others = able[~is_first & (reach.motor_score[able] + first.without_motor() <= last)]
    if not len(others) or stopped:
        return found, stopped, first.looked_at
    search = Search(reach.of(others, need), asked, work, pace)
    search.looked_at = first.looked_at
    found, stopped = best.find(search, found)
    return found, stopped, search.looked_at


def _rounded(score: int) -> int:
    """A score rounded up, so that nearly equal ones are equal."""
    return FAR if score >= FAR else ceil(exp(ROUNDED * ceil(log(max(score, 1)) / ROUNDED)))
