"""How springy the stages and shafts of a plan are, and how much play is in them."""

from __future__ import annotations

from dataclasses import dataclass

from pulltide.core.elasticity import shaft_nm_rad
from pulltide.core.line_result import LineResult
from pulltide.core.links import family_of
from pulltide.core.machine import Plan
from pulltide.core.shafts import Span


@dataclass(frozen=True, slots=True)
class Springs:
    """Stiffness of each stage at its driver shaft, of each shaft between its wheels [N·m/rad]; None: taken as rigid.

    ``slacks_rad`` is how far the driver shaft of each stage turns until it drives; None while unknown.
    """

    stages: tuple[float | None, ...]
    shafts: tuple[float | None, ...]
    slacks_rad: tuple[float | None, ...] = ()


#: A drive of which nothing is known to be springy.
RIGID = Springs((), ())


def springs_of(plan: Plan, line: LineResult) -> Springs:
    """What of a plan is known to be springy."""
    made = [family_of(link.kind).prepare(link, step) for link, step in zip(plan.links, line.setting, strict=True)]
    known = {part.shaft: _shaft(part.diameter_mm, part.span) for part in plan.shafts}
    return Springs(
        tuple(one.stiffness_nm_rad for one in made),
        tuple(known.get(number) for number in range(1, len(made) + 2)),
        tuple(one.slack_rad for one in made),
    )


def _shaft(diameter_mm: float | None, span: Span | None) -> float | None:
    """Of the shaft between its two wheels; None where a place or the diameter is not known."""
    if diameter_mm is None or span is None or span.driven_at_mm is None or span.driver_at_mm is None:
        return None
    between = abs(span.driven_at_mm - span.driver_at_mm)
    return shaft_nm_rad(diameter_mm, between) if between > 0 else None
