"""The loads of a machine side by side: what each asks for, at which step it is worked, and how hard the drive works."""

from __future__ import annotations

from dataclasses import dataclass

from pulltide.core.line_result import LineResult, PlanResult
from pulltide.core.machine import Machine
from pulltide.core.need import DIRECT, MAX_FURTHER
from pulltide.presentation.own_words import setting_words
from pulltide.quantities import Units, show
from pulltide.words import say, worded


@dataclass(frozen=True, slots=True, kw_only=True)
class LoadRow:
    """One load. ``hardest`` names the columns in which it decides."""

    kind: str
    title: str
    leads: bool
    speed: str
    torque: str
    worked: str
    motor: str
    tightest: str
    hardest: frozenset[str]


@dataclass(frozen=True, slots=True)
class LoadsView:
    """All loads, the open one first, and whether another may be added."""

    rows: tuple[LoadRow, ...]
    may_add: bool


def loads_view(machine: Machine, result: PlanResult | None, units: Units) -> LoadsView:
    """The loads; one row alone where there is only the leading one."""
    need, asked = machine.need, machine.need.requirement()
    lines = dict(result.further) if result else {}
    own = None if result is None or result.chosen.unbridged else result.chosen
    loads = [(worded(asked.kind.title) if asked else say("Entered directly"), need, own)]
    loads += [(name, other, lines.get(name)) for name, other in need.further()]
    tops = _tops([line for _, _, line in loads])
    rows = []
    for number, (name, one, line) in enumerate(loads):
        hardest = frozenset(key for key, top in tops.items() if top == number)
        rows.append(
            LoadRow(
                kind=one.worksheet.kind if one.worksheet else DIRECT,
                title=name,
                leads=number == 0,
                speed=_shown(one.aimed_rpm, "rpm", units) or say("not known"),
                torque=_shown(one.running_torque_nm, "N*m", units) or say("not known"),
                worked=_worked(result, line, units),
                motor=_shown(line.motor_load if line else None, "share", units) or "–",
                tightest=_tightest(line, units),
                hardest=hardest,
            )
        )
    return LoadsView(tuple(rows), len(loads) <= MAX_FURTHER)


def _shown(value: float | None, unit: str, units: Units) -> str:
    return "" if value is None else str(show(value, unit, units))


def _worked(result: PlanResult | None, line: LineResult | None, units: Units) -> str:
    if result is None or line is None:
        return say("no drive yet")
    speed = show(line.last_shaft.speed_rpm, "rpm", units)
    setting = setting_words(result, line)
    return f"{speed}, {setting}" if setting else str(speed)


def _tightest(line: LineResult | None, units: Units) -> str:
    if line is None or line.tightest is None:
        return "–"
    number, limit = line.tightest
    return say(
        "{use}, stage {number}, {name}", use=show(limit.use, "share", units), number=number, name=worded(limit.name)
    )


def _tops(lines: list[LineResult | None]) -> dict[str, int]:
    """Number of the load with the greatest motor load and the greatest use of a limit; nothing for one load alone."""
    uses = {"motor": [_motor(line) for line in lines], "tightest": [_use(line) for line in lines]}
    if len(lines) < 2:
        return {}
    return {key: values.index(max(values)) for key, values in uses.items() if max(values) > 0}


def _motor(line: LineResult | None) -> float:
    return 0.0 if line is None else line.motor_load or 0.0


def _use(line: LineResult | None) -> float:
    return 0.0 if line is None or line.tightest is None else line.tightest[1].use or 0.0
