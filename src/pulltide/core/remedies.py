"""The smallest stock changes that clear a finding, found by trying them."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from math import prod

from pulltide.core.findings import Finding, Remedy, Severity
from pulltide.core.line import solve_line, solve_plan, step_counts
from pulltide.core.line_result import LineResult, PlanResult
from pulltide.core.links import family_of
from pulltide.core.machine import Machine, Plan
from pulltide.core.motor import Motor
from pulltide.core.tables import load_table, number
from pulltide.core.units import KW_PER_HP

#: How many remedies a finding offers.
OFFERED = 3


@dataclass(frozen=True, slots=True)
class Candidate:
    """One change to a plan, with the line it gives at the setting in use."""

    direction: str
    label: str
    path: str
    value: object
    plan: Plan
    line: LineResult


def _motors(motor: Motor) -> Iterator[tuple[str, Motor]]:
    rows = sorted(load_table("pulltide.core", "standard_powers").rows, key=lambda row: number(row, "power"))
    for row in rows:
        in_hp = row["series"] == "hp"
        power = number(row, "power") * (KW_PER_HP if in_hp else 1.0)
        if in_hp == (motor.frequency_hz > 55) and power > motor.power_kw * 1.02:
            label = f"Use a {row['power']} {row['series']} motor"
            yield label, motor.model_copy(update={"power_kw": power, "shaft_diameter_mm": None})


def _changed_plans(plan: Plan) -> Iterator[tuple[str, str, str, object, Plan]]:
    for index, link in enumerate(plan.links):
        for variant in family_of(link.kind).variants(link):
            links = (*plan.links[:index], variant.link, *plan.links[index + 1 :])
            yield (
                f"links.{index} {variant.direction}",
                variant.label,
                f"links.{index}",
                variant.link,
                plan.model_copy(update={"links": links}),
            )
    if plan.source is not None:
        for label, motor in list(_motors(plan.source))[:3]:
            yield "motor", label, "source", motor, plan.model_copy(update={"source": motor})


def candidates(machine: Machine, plan: Plan) -> list[Candidate]:
    """Every stock neighbour of a plan, solved at the setting in use."""
    found = []
    for direction, label, path, value, changed in _changed_plans(plan):
        line = solve_line(machine, changed)
        if line is not None:
            found.append(Candidate(direction, label, path, value, changed, line))
    return found


def _ranks(line: LineResult) -> dict[tuple[str, str], int]:
    ranks: dict[tuple[str, str], int] = {}
    for finding in line.findings:
        ranks[finding.key] = max(ranks.get(finding.key, 0), finding.severity.rank)
    return ranks


def _clears(before: dict[tuple[str, str], int], after: dict[tuple[str, str], int], key: tuple[str, str]) -> bool:
    """The finding is gone or at most a note, and nothing else became an error or a warning."""
    if after.get(key, 0) >= Severity.WARNING.rank:
        return False
    worse = (rank for other, rank in after.items() if rank >= Severity.WARNING.rank and rank > before.get(other, 0))
    return not any(worse)


def with_remedies(machine: Machine, plan: Plan, result: PlanResult) -> PlanResult:
    """The same result with remedies on each finding to fix or to weigh; each was tried and clears it.

    Of each direction (more belts, larger chain...) the smallest change that works is offered; a change that
    brings another error or warning is not.
    """
    open_ones = [finding for finding in result.findings if finding.severity.rank >= Severity.WARNING.rank]
    if not open_ones:
        return result
    tried = candidates(machine, plan)
    before = _ranks(result.chosen)
    after = [_ranks(candidate.line) for candidate in tried]
    findings = []
    for finding in result.findings:
        if finding.severity.rank >= Severity.WARNING.rank and finding.step is None:
            findings.append(replace(finding, remedies=_remedies(machine, finding, tried, before, after)))
        else:
            findings.append(finding)
    return replace(result, findings=tuple(findings))


def _remedies(
    machine: Machine,
    finding: Finding,
    tried: list[Candidate],
    before: dict[tuple[str, str], int],
    after: list[dict[tuple[str, str], int]],
) -> tuple[Remedy, ...]:
    taken: dict[str, Remedy] = {}
    for candidate, ranks in zip(tried, after, strict=True):
        if candidate.direction in taken or not _clears(before, ranks, finding.key):
            continue
        if not _clear_at_every_setting(machine, candidate, finding):
            continue
        dump = getattr(candidate.value, "model_dump", None)
        value = dump(mode="json") if dump else candidate.value
        taken[candidate.direction] = Remedy(
            candidate.label, ((candidate.path, value),), candidate.line.last_shaft.speed_rpm
        )
        if len(taken) == OFFERED:
            break
    return tuple(taken.values())


def _clear_at_every_setting(machine: Machine, candidate: Candidate, finding: Finding) -> bool:
    if prod(step_counts(candidate.plan)) == 1:
        return True
    result = solve_plan(machine, candidate.plan)
    if result is None:
        return False
    return all(other.key != finding.key or other.severity.rank < Severity.WARNING.rank for other in result.findings)
