"""What the speeds of a plan mean in the machine's own words, beside the ideal speed."""

from __future__ import annotations

from dataclasses import dataclass

from pulltide.core.line_result import LineResult, PlanResult
from pulltide.core.need import Need
from pulltide.core.needs.frame import Saying


@dataclass(frozen=True, slots=True)
class Said:
    """The machine's own words at one speed; ``line`` is the setting that gives it, None for the ideal speed."""

    speed_rpm: float
    sayings: tuple[Saying, ...]
    line: LineResult | None = None


#: Settings that are put side by side.
MOST_SAID = 8


def own_words(need: Need, result: PlanResult | None) -> tuple[Said, ...]:
    """At the ideal speed and at every setting of the plan, the one in use among them; empty without a worksheet."""
    asked = need.requirement()
    if asked is None:
        return ()
    ideal = need.speed_ideal_rpm
    said = [Said(ideal, asked.kind.say(need.worksheet, ideal))] if ideal else []
    if result is not None and not result.chosen.unbridged:
        lines = [line for line in result.settings if line.last_shaft.speed_rpm > 0][:MOST_SAID]
        if result.chosen not in lines and result.chosen.last_shaft.speed_rpm > 0:
            lines = [*lines[: MOST_SAID - 1], result.chosen]
        for line in lines:
            speed = line.last_shaft.speed_rpm
            said.append(Said(speed, asked.kind.say(need.worksheet, speed), line))
    return tuple(said)
