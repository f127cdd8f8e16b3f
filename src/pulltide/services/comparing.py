"""What a change did to every plan: the figures a builder looks at, before and after."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from pulltide.core.findings import Severity
from pulltide.core.line import solve_plan
from pulltide.core.line_result import PlanResult
from pulltide.core.machine import Machine, Plan


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
