"""What the speeds of a plan mean in the machine's own words, beside the ideal speed."""

from __future__ import annotations

from dataclasses import dataclass

from pulltide.core.line_result import LineResult, PlanResult
from pulltide.core.need import Need
from pulltide.core.needs.contract import Saying


@dataclass(frozen=True, slots=True)
class Said:
    """The machine's own words at one speed; ``line`` is the setting that gives it, None for the ideal speed."""

    speed_rpm: float
    sayings: tuple[Saying, ...]
    line: LineResult | None = None


#: Settings that are put side by side.
MAX_SAID = 8


def own_words(need: Need, result: PlanResult | None) -> tuple[Said, ...]:
    """At the ideal speed and at every setting of the plan, the one in use among them; empty without a worksheet."""
    asked, ideal = need.requirement(), need.speed_ideal_rpm
    if asked is None:
        return ()
    speeds: list[tuple[float, LineResult | None]] = [(ideal, None)] if ideal else []
    speeds += [(line.last_shaft.speed_rpm, line) for line in _lines_of(result)]
    return tuple(Said(speed, asked.kind.say(need.worksheet, speed), line) for speed, line in speeds)


def _lines_of(result: PlanResult | None) -> list[LineResult]:
    """The settings that turn the last shaft, the one in use among them."""
    if result is None or result.chosen.unbridged:
        return []
    lines = [line for line in result.settings if line.last_shaft.speed_rpm > 0]
    first = lines[:MAX_SAID]
    return first if result.chosen in first or result.chosen not in lines else [*first[:-1], result.chosen]
