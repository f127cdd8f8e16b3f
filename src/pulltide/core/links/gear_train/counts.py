"""Tooth counts of two pairs for a ratio, callable by name."""

from __future__ import annotations

from bisect import bisect_left
from functools import lru_cache

from pydantic import Field

from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.findings import EXACT
from pulltide.core.labels import phrase
from pulltide.core.model import CoreModel, Plain
from pulltide.core.working import Step, Working


class TrainInputs(CoreModel):
    """Inputs of a search for two pairs of gears in a row."""

    ratio: Plain = Field(title="Wanted ratio", ge=1, le=2500)
    fewest: int = Field(17, title="Fewest teeth", ge=8, le=60)
    most: int = Field(120, title="Most teeth", ge=10, le=150)
    reverted: bool = Field(False, title="Both pairs at one center distance")


@lru_cache(maxsize=512)
def train_counts(ratio: float, fewest: int, most: int, reverted: bool) -> tuple[int, int, int, int]:
    """Teeth (driver, driven, driver, driven) of two reducing pairs of one pitch nearest to a ratio.

    Least error first, then the least total of teeth. Reverted pairs have equal sums, so input and output lie in line.
    Every first pair is tried with the nearest second one. Raises ImpossibleGeometry if the counts leave none.

    >>> train_counts(30.0, 16, 126, False)
    (16, 80, 16, 96)
    """
    pairs = [(n2 / n1, n1, n2) for n1 in range(fewest, most + 1) for n2 in range(n1, most + 1)]
    groups: dict[int, list[tuple[float, int, int]]] = {}
    for pair in pairs:
        groups.setdefault(pair[1] + pair[2] if reverted else 0, []).append(pair)
    best: tuple[float, int, tuple[int, int, int, int]] | None = None
    for group in groups.values():
        group.sort()
        for first, n1, n2 in group:
            at = bisect_left(group, (ratio / first * (1 - 1e-12), 0, 0))
            for second, n3, n4 in group[max(at - 1, 0) : at + 2]:
                off = round(abs(first * second / ratio - 1), 12)
                found = (off, n1 + n2 + n3 + n4, (n1, n2, n3, n4))
                best = found if best is None or found < best else best
    if best is None:
        raise ImpossibleGeometry("The fewest teeth are more than the most; exchange them.")
    return best[2]


def train_working(inputs: TrainInputs) -> Working:
    """Two pairs of gears in a row nearest to a ratio, and the error."""
    n1, n2, n3, n4 = train_counts(inputs.ratio, inputs.fewest, inputs.most, inputs.reverted)
    numbers = {"N1": float(n1), "N2": float(n2), "N3": float(n3), "N4": float(n4)}
    rule = "every pair tried" + (", N1 + N2 = N3 + N4" if inputs.reverted else "")
    wanted = {"r": inputs.ratio}
    steps = [
        Step(f"Teeth, {phrase(name)}", name, rule, wanted, count, "teeth", EXACT) for name, count in numbers.items()
    ]
    exact = n2 / n1 * n4 / n3
    return Working(
        "Two pairs of gears for a ratio",
        (
            *steps,
            Step("Ratio", "i", "N2 / N1 · N4 / N3", numbers, exact, "", EXACT),
            Step("Error", "e", "i / r - 1", {"i": exact, **wanted}, exact / inputs.ratio - 1, "share", EXACT),
        ),
    )
