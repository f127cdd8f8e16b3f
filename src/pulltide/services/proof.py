"""Published examples beside what the program computes for them: the checks that prove its formulas."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from typing import Any

from pulltide.core.methods import METHODS
from pulltide.quantities import DEFAULT_UNITS
from pulltide.services.calculate import published, run_method


@dataclass(frozen=True, slots=True)
class Proof:
    """One figure of one example: as published, as computed, and within which share they must agree."""

    method: str
    example: str
    source: str
    symbol: str
    published: float
    computed: float
    unit: str
    tolerance: float

    @property
    def holds(self) -> bool:
        """Whether the computed value meets the published one."""
        return abs(self.computed - self.published) <= self.tolerance * max(abs(self.published), 1e-12)


def proofs_of(case: dict[str, Any]) -> tuple[Proof, ...]:
    """Compute one example anew. Raises InputErrors if its inputs are refused, KeyError if a symbol is not computed."""
    report = run_method(METHODS[case["method"]], case["inputs"], DEFAULT_UNITS)
    found = {step["symbol"]: step for step in report["working"]}
    return tuple(
        Proof(
            case["method"],
            case["id"],
            case["source"],
            symbol,
            float(value),
            float(found[symbol]["value"]),
            found[symbol]["unit"],
            case["tolerance"],
        )
        for symbol, value in case["expected"].items()
    )


@cache
def proofs() -> tuple[Proof, ...]:
    """Every published figure with its computed one."""
    return tuple(proof for case in published() for proof in proofs_of(case))
