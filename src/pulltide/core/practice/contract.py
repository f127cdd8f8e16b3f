"""What a task is made of: question, answer, steps of its working, usual slips, and numbers by chance."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from pulltide.core.findings import EXACT
from pulltide.core.working import Step

Level = Literal[1, 2, 3]


@dataclass(frozen=True, slots=True)
class Slip:
    """A usual wrong answer, and the slip that makes it."""

    value: float
    why: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Task:
    """One task: its question with quantities as marks, the unit and value of its answer, how near counts as right
    (share), the steps that lead there, and usual slips.
    """

    code: str
    level: Level
    question: str
    unit: str
    answer: float
    within: float
    steps: tuple[Step, ...]
    slips: tuple[Slip, ...] = ()


class Dice:
    """Sane numbers by chance, always the same for a seed."""

    def __init__(self, seed: int) -> None:
        self._random = np.random.default_rng(seed)

    def of(self, *values: float) -> float:
        """One of some values."""
        return float(values[int(self._random.integers(len(values)))])

    def between(self, low: float, high: float, step: float) -> float:
        """A value in whole steps."""
        count = round((high - low) / step)
        return round(low + step * int(self._random.integers(count + 1)), 6)


def step_of(name: str, symbol: str, formula: str, inputs: dict[str, float], answer: tuple[float, str]) -> Step:
    """A step of a working, exact."""
    return Step(name, symbol, formula, inputs, *answer, EXACT)
