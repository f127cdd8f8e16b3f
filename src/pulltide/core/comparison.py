"""The plans of a machine beside each other, in the figures that decide between them."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from typing import Literal

from pulltide.core.bill import Total, bill_of, total
from pulltide.core.catalog import Catalog
from pulltide.core.findings import Severity
from pulltide.core.ladder import Rung
from pulltide.core.layout import place
from pulltide.core.line import ladder_of, solve_plan
from pulltide.core.line_result import LineResult, PlanResult
from pulltide.core.machine import Machine, Plan
from pulltide.core.search.wish import DAYS_A_YEAR
from pulltide.core.transmission import LOUDNESS, AnyResult, Noise


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanFigures:
    """One plan. Figures are None while they are unknown; ``result`` is None for a plan without a motor.

    ``off_ideal`` is the last shaft's speed over the ideal one, less 1; ``loss_kw`` what all stages lose under the
    running load, ``lost_kwh`` that over 250 days of the hours a day that the duty has, ``lost_price`` what that costs
    [price units]; ``envelope_mm`` width and height of the elevation; ``first`` what slips or breaks first, the motor's
    own limits too.
    """

    plan: Plan
    result: PlanResult | None
    cost: Total
    last_speed_rpm: float | None = None
    off_ideal: float | None = None
    motor_load: float | None = None
    tightest_use: float | None = None
    first: Rung | None = None
    loss_kw: float | None = None
    lost_kwh: float | None = None
    lost_price: float | None = None
    envelope_mm: tuple[float, float] | None = None
    noise: Noise | None = None
    holds: bool = False
    problems: int = 0
    warnings: int = 0


def compare(
    machine: Machine, catalog: Catalog, solved: Mapping[int, PlanResult | None] | None = None
) -> tuple[PlanFigures, ...]:
    """Every plan of a machine; those already ``solved``, by their place, are not solved again."""
    solved = solved or {}
    return tuple(
        _figures(
            machine,
            plan,
            solved[index] if index in solved else solve_plan(machine, plan, catalog=catalog),
            total(bill_of(plan, catalog)),
        )
        for index, plan in enumerate(machine.plans)
    )


def _figures(machine: Machine, plan: Plan, result: PlanResult | None, cost: Total) -> PlanFigures:
    if result is None:
        return PlanFigures(plan=plan, result=None, cost=cost)
    line, ideal, hours = result.chosen, machine.need.speed_ideal_rpm, machine.duty.hours_per_day
    speed, tightest = line.last_shaft.speed_rpm, line.tightest
    loss, energy = _loss_kw(line), machine.duty.energy_price
    lost = None if loss is None or hours is None else loss * hours * DAYS_A_YEAR
    return PlanFigures(
        plan=plan,
        result=result,
        cost=cost,
        last_speed_rpm=speed,
        off_ideal=None if ideal is None else speed / ideal - 1,
        motor_load=line.motor_load,
        tightest_use=None if tightest is None else tightest[1].use,
        first=_first(machine, plan, line),
        loss_kw=loss,
        lost_kwh=lost,
        lost_price=None if lost is None or energy is None else lost * energy,
        envelope_mm=_envelope_mm(plan, line),
        noise=_noise(line.links),
        holds=any(link.may_hold for link in line.links),
        problems=result.count(Severity.ERROR),
        warnings=result.count(Severity.WARNING),
    )


def _loss_kw(line: LineResult) -> float | None:
    if any(not link.load_known for link in line.links):
        return None
    return sum(link.loss_kw for link in line.links)


def _first(machine: Machine, plan: Plan, line: LineResult) -> Rung | None:
    found = None if line.unbridged else ladder_of(machine, plan, line)
    rungs = () if found is None else found.known
    return next((rung for rung in rungs if rung.point.mode != "wears"), None)


def _envelope_mm(plan: Plan, line: LineResult) -> tuple[float, float]:
    left, low, right, high = place(plan, line).extent
    return right - left, high - low


def _noise(links: Iterable[AnyResult]) -> Noise | None:
    return max((link.transmission.noise for link in links), key=LOUDNESS.index, default=None)


#: What a plan can be the best at.
Merit = Literal["speed", "margin", "loss", "price", "size"]


def _largest_mm(figures: PlanFigures) -> float | None:
    return None if figures.envelope_mm is None else max(figures.envelope_mm)


#: By which figure, the less the better.
MERITS: dict[Merit, Callable[[PlanFigures], float | None]] = {
    "speed": lambda plan: None if plan.off_ideal is None else abs(plan.off_ideal),
    "margin": lambda plan: plan.tightest_use,
    "loss": lambda plan: plan.loss_kw,
    "price": lambda plan: None if plan.cost.unpriced else plan.cost.price,
    "size": _largest_mm,
}
#: Plans nearer to each other than this share of the better one are equally good.
AS_GOOD = 0.02


def best_at(plans: tuple[PlanFigures, ...]) -> dict[Merit, int]:
    """Place of the plan that is alone the best at something, among those without a problem and with the figure known.

    Nothing is said where fewer than two can be compared, or the second is as good.
    """
    sound = [(index, plan) for index, plan in enumerate(plans) if plan.plan.links and not plan.problems]
    found: dict[Merit, int] = {}
    for merit, figure in MERITS.items():
        known = sorted((value, index) for index, plan in sound if (value := figure(plan)) is not None)
        if len(known) > 1 and known[1][0] - known[0][0] > max(AS_GOOD * known[0][0], 1e-9):
            found[merit] = known[0][1]
    return found
