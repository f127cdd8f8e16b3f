"""Why a drive that somebody names is not among those found: the first thing that it fails, and by how much."""

from __future__ import annotations

from dataclasses import dataclass
from math import log
from typing import Literal

from pulltide.core.bill import bill_of, total
from pulltide.core.catalog import Catalog
from pulltide.core.findings import Finding, Severity
from pulltide.core.labels import phrase
from pulltide.core.line import solve_plan
from pulltide.core.line_result import PlanResult
from pulltide.core.machine import Machine, Plan
from pulltide.core.search.ways import unreached
from pulltide.core.search.wish import Wish

#: In this order a drive is held against what is allowed, then against its own limits.
Failed = Literal[
    "no_drive", "never", "must", "stages", "use", "price", "unpriced", "turn", "speeds", "problem", "limit", "nothing"
]


@dataclass(frozen=True, slots=True)
class WhyNot:
    """The first thing that a drive fails: what it is about, measured and allowed where those are numbers; for a further
    speed the nearest that it runs at, and the one asked for [rpm].

    ``families`` are kinds of stages, ``finding`` a problem of the whole plan. ``nothing``: it would do; the list has
    others before it.
    """

    failed: Failed
    families: tuple[str, ...] = ()
    measured: float | None = None
    allowed: float | None = None
    finding: Finding | None = None
    limit: str = ""


def why_not(machine: Machine, plan: Plan, wish: Wish, catalog: Catalog, result: PlanResult | None = None) -> WhyNot:
    """Hold a drive against a wish, then solve it as a whole plan, where it is not solved yet."""
    if plan.source is None or not plan.links:
        return WhyNot("no_drive")
    kept_out = _against(plan, wish, catalog)
    if kept_out is not None:
        return kept_out
    solved = result or solve_plan(machine, plan, catalog=catalog)
    return WhyNot("no_drive") if solved is None else _of_itself(machine, plan, wish, solved)


def _against(plan: Plan, wish: Wish, catalog: Catalog) -> WhyNot | None:
    """What of a wish it does not keep, without solving it."""
    kinds = [link.kind for link in plan.links]
    ruled_out = tuple(kind for kind in dict.fromkeys(kinds) if kind in wish.never)
    if ruled_out:
        return WhyNot("never", ruled_out)
    missing = tuple(sorted(wish.must - set(kinds)))
    if missing:
        return WhyNot("must", missing)
    if len(kinds) > wish.max_stages:
        return WhyNot("stages", measured=float(len(kinds)), allowed=float(wish.max_stages))
    pieces = bill_of(plan, catalog)
    if wish.use and all(wish.use not in (piece.designation, piece.what) for piece in pieces):
        return WhyNot("use", limit=wish.use)
    # its own motor is at hand
    cost = total(piece for piece in pieces if piece.subject != "motor" or wish.motor)
    if wish.max_price is not None and cost.price > wish.max_price:
        return WhyNot("price", measured=cost.price, allowed=wish.max_price)
    if wish.max_price is not None and cost.unpriced:
        return WhyNot("unpriced", measured=float(cost.unpriced))
    return None


def _of_itself(machine: Machine, plan: Plan, wish: Wish, solved: PlanResult) -> WhyNot:
    """What it fails as a plan: its sense, its further speeds, its gravest problem, its tightest part."""
    wanted = {"same": 1, "opposite": -1}.get(wish.turn if wish.turn != "either" else machine.need.turn or "", 0)
    turn = solved.chosen.last_shaft.turn
    if wanted and turn is not None and turn != wanted:
        return WhyNot("turn")
    missed = unreached(plan, solved, wish.speeds)
    if missed:
        given = (line.last_shaft.speed_rpm for line in solved.settings)
        return WhyNot("speeds", measured=min(given, key=lambda rpm: abs(log(rpm / missed[0]))), allowed=missed[0])
    problems = [finding for finding in solved.findings if finding.severity is Severity.ERROR]
    if problems:
        return WhyNot("problem", finding=max(problems, key=lambda finding: finding.excess))
    tightest = solved.chosen.tightest
    if tightest is not None and (tightest[1].use or 0.0) > 1:
        number, limit = tightest
        return WhyNot("limit", measured=limit.use, allowed=1.0, limit=f"stage {number}, {phrase(limit.name)}")
    return WhyNot("nothing")
