"""What a drive counts once it is solved: by its true speed, loss and use, where a search went by its tables."""

from __future__ import annotations

from math import exp, log

from pulltide.core.findings import Severity
from pulltide.core.line_result import PlanResult
from pulltide.core.search.bounds import Reach
from pulltide.core.search.engine import Asked, Train
from pulltide.core.search.tables import LN_PLENTY


def solved_score(
    train: Train, result: PlanResult, bought: tuple[float, int], asked: Asked, reach: Reach, first: int = 0
) -> float:
    """The score of a train in price units, as the weights of what is asked have it.

    ``bought`` is what it costs and how many parts that is; its stages begin at the shaft ``first``, from 0.
    """
    weights, (price, parts), line = asked.weights, bought, result.chosen
    links = line.links[first : first + len(train.word)]
    driver, driven = line.shafts[first], line.shafts[first + len(links)]
    lost = -sum(log(link.efficiency) for link in links if 0 < link.efficiency < 1)
    uses = [link.tightest.use or 0.0 for link in links if link.tightest is not None]
    uses.append((driver.running_torque_nm or 0.0) / exp(float(reach.motors.ln_torque[train.motor])))
    beyond_plenty = sum(max(log(use) - LN_PLENTY, 0.0) for use in uses if use > 0)
    return (
        weights.price * price
        + weights.part * parts
        + weights.noise * sum(reach.groups[kind].stock.noise for kind in train.word)
        + weights.loss * lost
        + weights.error * abs(log(driven.speed_rpm / asked.ideal_rpm))
        + weights.use * beyond_plenty
        + weights.warning * result.count(Severity.WARNING)
    )
