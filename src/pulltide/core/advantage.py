"""What a whole line makes of its source: the ratio asked for, and how much torque or force is gained."""

from __future__ import annotations

from dataclasses import dataclass

from pulltide.core.ends import end_kind
from pulltide.core.line_result import LineResult
from pulltide.core.machine import Machine, Plan
from pulltide.core.sources import source_kind


def ratio_asked(machine: Machine, line: LineResult) -> float | None:
    """Speed of the source, as it runs under this load, over the speed aimed at; None while unknown."""
    ideal = machine.need.aimed_rpm
    return None if not ideal else line.shafts[0].speed_rpm / ideal


@dataclass(frozen=True, slots=True)
class Advantage:
    """Gain from the first shaft, or the hand on its crank, to the last shaft, or the load that it moves.

    ``ideal`` leaves losses out, ``real`` counts them. ``of_force`` tells force over force from torque over torque.
    """

    ideal: float
    real: float
    of_force: bool


def advantage(machine: Machine, plan: Plan, line: LineResult) -> Advantage | None:
    """Total advantage of a solved line, None while its torque is unknown.

    Torque: ratio, creep counted, times efficiency. Force, where a hand turns it and something is moved: torque gained
    times the handle's radius times newtons per newton meter at the end. Source: exact.
    """
    if line.efficiency is None or plan.source is None:
        return None
    as_it_runs = line.shafts[0].speed_rpm / line.last_shaft.speed_rpm
    end, lever_m = machine.need.end, source_kind(plan.source.kind).lever_m(plan.source)
    if end is None or lever_m is None:
        return Advantage(line.ratio, as_it_runs * line.efficiency, False)
    pull = end_kind(end.kind).pull(end)
    ideal = line.ratio * lever_m * pull.per_metre
    real = as_it_runs * line.efficiency * lever_m * pull.per_metre * pull.efficiency
    return Advantage(ideal, real, True)
