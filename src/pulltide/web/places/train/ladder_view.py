"""What fails first, as rows, and the frames of turning the load up."""

from __future__ import annotations

from dataclasses import dataclass
from math import inf
from typing import Any

from pulltide.core.ladder import Ladder, Rung
from pulltide.core.line_result import LineResult
from pulltide.presentation.words import subject_name
from pulltide.quantities import Units, show
from pulltide.web.tiles import use_number, use_state
from pulltide.words import say, worded

#: Steps of the slider, and the load it reaches at most, times the running load.
STEPS, MAX_TIMES = 60, 12.0
HAPPENS = {"wears": "wears or overheats", "slips": "slips, shears or stalls", "breaks": "breaks"}


@dataclass(frozen=True, slots=True, kw_only=True)
class RungRow:
    """One row: what gives, where, at which load; ``bar`` is its length out of 100, ``frame`` when it has given."""

    name: str
    where: str
    mode: str
    happens: str
    times: str
    torque: str
    bar: float
    frame: int
    wanted: bool


@dataclass(frozen=True, slots=True)
class LadderView:
    """Rows from the first to give, those nobody knows, and one frame of the picture for each step of the slider."""

    rows: tuple[RungRow, ...]
    unknown: tuple[tuple[str, str, str], ...]
    first: str
    peak: str
    frames: tuple[dict[str, Any], ...]
    start: int


def ladder_view(line: LineResult, found: Ladder, names: tuple[str, ...], units: Units) -> LadderView:
    """The ladder of a solved line in rows and frames."""
    highest = max((rung.times for rung in found.known if rung.times not in (None, inf)), default=1.0)
    top = min(max(highest or 1.0, found.peak_times or 1.0, 1.2) * 1.1, MAX_TIMES)
    steps = [top * index / STEPS for index in range(STEPS + 1)]
    start = min(range(STEPS + 1), key=lambda index: abs(steps[index] - 1.0))
    steps[start] = 1.0
    return LadderView(
        tuple(_row(rung, found, steps, names, units) for rung in found.known),
        tuple(
            (_opening(worded(rung.point.name)), _where(rung, names), worded(rung.point.missing))
            for rung in found.unknown
        ),
        _first(found),
        say("{peak_times} at normal peaks", peak_times=_times(found.peak_times))
        if found.peak_times
        else say("peaks unknown"),
        tuple(_frame(line, found, times, units) for times in steps),
        start,
    )


def _times(times: float | None) -> str:
    return "?" if times is None else f"{times:.2f} ×" if times < 10 else f"{times:.0f} ×"


def _opening(words: str) -> str:
    return words[:1].upper() + words[1:]


def _where(rung: Rung, names: tuple[str, ...]) -> str:
    return subject_name(rung.subject, names)


def _row(rung: Rung, found: Ladder, steps: list[float], names: tuple[str, ...], units: Units) -> RungRow:
    times = rung.times or 0.0
    frame = next((index for index, step in enumerate(steps) if step >= times), STEPS + 1)
    return RungRow(
        name=_opening(worded(rung.point.name)),
        where=_where(rung, names),
        mode=rung.point.mode,
        happens=say(HAPPENS[rung.point.mode]),
        times=_times(times),
        torque=str(show(times * found.running_torque_nm, "N*m", units)),
        bar=min(times / steps[-1], 1.0) * 100,
        frame=frame,
        wanted=rung.point.wanted,
    )


def _first(found: Ladder) -> str:
    """Who lets go first: the line of the card that a builder reads before all others."""
    strong = next((rung for rung in found.known if rung.point.mode != "wears"), None)
    if strong is None:
        return say("Nothing known slips, stalls or breaks")
    known = say("First known") if found.unknown else say("First")
    return say(
        "{known} to {mode}: {name}",
        known=known,
        mode="slip or shear" if strong.point.mode == "slips" else "break",
        name=worded(strong.point.name),
    )


def _number(torque_nm: float, units: Units) -> tuple[str, str]:
    shown = show(torque_nm, "N*m", units)
    return shown.number, shown.unit


def _frame(line: LineResult, found: Ladder, times: float, units: Units) -> dict[str, Any]:
    uses = [link.tightest.use if link.tightest else None for link in line.links]
    lets_go = [rung for rung in found.known if rung.point.mode != "wears" and (rung.times or 0.0) <= times]
    return {
        "torques": [_number(torque, units) for torque in found.torques_at(times)],
        "given": sorted({rung.subject for rung in lets_go}),
        "says": say(
            "{times} the running load, {running_torque}",
            times=_times(times),
            running_torque=show(times * found.running_torque_nm, "N*m", units),
        ),
        "posts": [
            None
            if use is None
            else (round(min(use * times, 1.0), 3), use_state(use * times), use_number(use * times, units))
            for use in uses
        ],
    }
