"""Several loads on one machine, as of a mill that also drills: each at the step that suits it, the hardest decides."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from math import inf, log

from pulltide.core.findings import Finding, Severity
from pulltide.core.line_result import LineResult
from pulltide.core.machine import Machine


@dataclass(frozen=True, slots=True)
class OtherLoad:
    """The line at the step in which a further load is worked; ``title`` is its worksheet's.

    ``number`` counts the settings of the plan from 1.
    """

    title: str
    machine: Machine
    line: LineResult
    number: int


def machines_of(machine: Machine) -> tuple[tuple[str, Machine], ...]:
    """The machine once for each further load, with that load as its need."""
    return tuple(
        (title, machine.model_copy(update={"need": need, "duty": machine.duty.model_copy(update={"cycle": ()})}))
        for title, need in machine.need.further()
    )


def nearest(machine: Machine, lines: Iterable[LineResult]) -> int:
    """Number (from 1) of the setting whose last shaft turns nearest to what the load is aimed at; the first without."""
    aimed = machine.need.aimed_rpm

    def off(line: LineResult) -> float:
        speed = line.last_shaft.speed_rpm
        return abs(log(speed / aimed)) if aimed and speed > 0 else inf

    numbered = list(enumerate(lines, start=1))
    return min(numbered, key=lambda pair: off(pair[1]))[0]


def hardest(found: tuple[Finding, ...], load: OtherLoad, further: Iterable[Finding]) -> tuple[Finding, ...]:
    """Findings with those of a further load, each check of a part once: of the load that it is worst for."""
    worst = {finding.key: finding for finding in found}
    for finding in further:
        seen = worst.get(finding.key)
        if finding.severity in (Severity.NOTE, Severity.CLEAR) and seen is not None:
            continue
        if seen is None or _weight(finding) > _weight(seen):
            worst[finding.key] = replace(finding, load=load.title, step=load.number)
    return tuple(worst.values())


def _weight(finding: Finding) -> tuple[int, float]:
    return finding.severity.rank, finding.excess
