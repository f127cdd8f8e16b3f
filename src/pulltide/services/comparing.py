"""What a change did to every plan: the figures a builder looks at, before and after."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass
from typing import Any

from pulltide.core.bill import bill_of
from pulltide.core.catalog import Catalog
from pulltide.core.comparison import Merit, PlanFigures, best_at, compare
from pulltide.core.findings import Severity
from pulltide.core.line import solve_plan
from pulltide.core.line_result import PlanResult
from pulltide.core.machine import Machine, Plan
from pulltide.core.piece import Piece
from pulltide.quantities import DEFAULT_UNITS
from pulltide.words import filled


@dataclass(frozen=True, slots=True)
class Standing:
    """How one plan stands. Figures are None while they are unknown."""

    solved: bool
    last_speed_rpm: float | None
    motor_load: float | None
    tightest_use: float | None
    to_fix: int
    to_weigh: int


@dataclass(frozen=True, slots=True)
class PlanChange:
    """One plan now, and how it stood before the last change; ``before`` is None where it is new."""

    name: str
    now: Standing
    before: Standing | None


def standing(result: PlanResult | None) -> Standing:
    """The figures a builder looks at, of a solved plan."""
    if result is None:
        return Standing(False, None, None, None, 0, 0)
    line = result.chosen
    tightest = line.tightest
    return Standing(
        True,
        line.last_shaft.speed_rpm,
        line.motor_load,
        tightest[1].use if tightest else None,
        result.count(Severity.ERROR),
        result.count(Severity.WARNING),
    )


def plan_changes(
    machine: Machine, before: Machine | None, solved: Mapping[int, PlanResult | None]
) -> tuple[PlanChange, ...]:
    """Every plan of a machine beside itself before the last change, matched by place; ``solved`` ones are not again."""
    old = before.plans if before is not None and len(before.plans) == len(machine.plans) else ()

    def now(index: int, plan: Plan) -> PlanResult | None:
        return solved[index] if index in solved else solve_plan(machine, plan)

    return tuple(
        PlanChange(
            plan.name,
            standing(now(index, plan)),
            standing(solve_plan(before, old[index])) if before is not None and old else None,
        )
        for index, plan in enumerate(machine.plans)
    )


def compare_report(machine: Machine, catalog: Catalog) -> dict[str, Any]:
    """Every plan's figures beside each other, what each is the best at, and what it is made of, as plain data."""
    plans = compare(machine, catalog)
    best = best_at(plans)
    return {
        "plans": [
            _row(one, bill_of(one.plan, catalog), [merit for merit, at in best.items() if at == index])
            for index, one in enumerate(plans)
        ]
    }


#: Figures of a plan that are told by their own names.
FIGURES = (
    "last_speed_rpm",
    "off_ideal",
    "motor_load",
    "tightest_use",
    "loss_kw",
    "lost_kwh",
    "lost_price",
    "envelope_mm",
    "noise",
    "holds",
    "problems",
    "warnings",
)


def _row(one: PlanFigures, pieces: tuple[Piece, ...], best: list[Merit]) -> dict[str, Any]:
    first = one.first
    return {
        "name": one.plan.name,
        "note": one.plan.note,
        "solved": one.result is not None,
        "best_at": best,
        **{name: getattr(one, name) for name in FIGURES},
        "first": None if first is None else {"name": first.point.name, "subject": first.subject, "times": first.times},
        "cost": asdict(one.cost),
        "pieces": [{**asdict(piece), "what": filled(piece.what, DEFAULT_UNITS)} for piece in pieces],
    }
