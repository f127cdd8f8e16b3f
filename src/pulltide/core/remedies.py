"""The smallest stock changes that clear a finding, found by trying them."""

from __future__ import annotations

from dataclasses import dataclass, replace
from itertools import islice
from math import prod

from pulltide.core.family import Variant
from pulltide.core.findings import Finding, Remedy, Severity
from pulltide.core.line import all_settings, chosen_setting, solve_line, step_counts
from pulltide.core.line_result import LineResult, PlanResult
from pulltide.core.links import family_of
from pulltide.core.machine import Machine, Plan
from pulltide.core.model import CoreModel
from pulltide.core.sources import source_kind

#: How many remedies a finding offers.
OFFERED = 3
#: How many changes in a row may be tried in vain once a remedy is found.
PATIENCE = 8


Ranks = dict[tuple[str, str], int]


@dataclass(frozen=True, slots=True)
class Change:
    """One change to a plan, not yet solved."""

    direction: str
    label: str
    path: str
    value: CoreModel
    plan: Plan


def _changes(plan: Plan) -> dict[str, list[Change]]:
    """Every stock neighbour of a plan, by the part it changes: ``link-1`` and so on, then ``motor``."""
    groups: dict[str, list[Change]] = {}
    for index, link in enumerate(plan.links):
        group = f"link-{index + 1}"
        groups[group] = [
            Change(variant.direction, variant.label, f"links.{index}", variant.link, _with(plan, index, variant))
            for variant in family_of(link.kind).variants(link)
        ]
    if plan.source is not None:
        groups["motor"] = [
            Change("motor", label, "source", motor, plan.model_copy(update={"source": motor}))
            for label, motor in islice(source_kind(plan.source.kind).larger(plan.source), 3)
        ]
    return groups


def _with(plan: Plan, index: int, variant: Variant) -> Plan:
    links = (*plan.links[:index], variant.link, *plan.links[index + 1 :])
    return plan.model_copy(update={"links": links})


def _nearest_first(subject: str, groups: dict[str, list[Change]]) -> list[str]:
    """The parts to change for a finding, its own first: a shaft is shared by the links on both its sides."""
    kind, _, number = subject.partition("-")
    order = list(groups)
    if kind == "shaft":
        near = [f"link-{int(number)}", f"link-{int(number) - 1}"]
    elif kind == "need":
        near = list(groups)[::-1]
    else:
        near = [subject]
    return [name for name in near if name in groups] + [name for name in order if name not in near]


class Trial:
    """Solves changed plans once each, and only as many as are asked for."""

    def __init__(self, machine: Machine, plan: Plan, result: PlanResult) -> None:
        self.machine = machine
        self.groups = _changes(plan)
        self.before = _ranks(result.chosen)
        self.solved: dict[int, tuple[LineResult, Ranks] | None] = {}

    def outcome(self, change: Change) -> tuple[LineResult, Ranks] | None:
        """The line a change gives at the setting in use, with its findings by severity."""
        if id(change) not in self.solved:
            line = solve_line(self.machine, change.plan)
            self.solved[id(change)] = None if line is None else (line, _ranks(line))
        return self.solved[id(change)]

    def remedies(self, finding: Finding) -> tuple[Remedy, ...]:
        """Up to three changes that clear a finding: of each direction the smallest that works.

        Once one is found, the search goes on only while others turn up soon; a page must not wait for the third.
        """
        taken: dict[tuple[str, str], Remedy] = {}
        for group in _nearest_first(finding.subject, self.groups):
            vain = 0
            for change in self.groups[group]:
                if (group, change.direction) in taken:
                    continue
                remedy = self._remedy(change, finding)
                vain = 0 if remedy else vain + 1
                if remedy is not None:
                    taken[(group, change.direction)] = remedy
                if len(taken) == OFFERED or (taken and vain > PATIENCE):
                    return tuple(taken.values())
            if taken:
                break
        return tuple(taken.values())

    def _remedy(self, change: Change, finding: Finding) -> Remedy | None:
        outcome = self.outcome(change)
        if outcome is None or not _clears(self.before, outcome[1], finding.key):
            return None
        if not self._clears_at_every_setting(change, finding):
            return None
        value = change.value.model_dump(mode="json")
        return Remedy(change.label, ((change.path, value),), outcome[0].last_shaft.speed_rpm)

    def _clears_at_every_setting(self, change: Change, finding: Finding) -> bool:
        if prod(step_counts(change.plan)) == 1:
            return True
        others = (setting for setting in all_settings(change.plan) if setting != chosen_setting(change.plan))
        lines = (solve_line(self.machine, change.plan, setting) for setting in others)
        return all(line is None or _ranks(line).get(finding.key, 0) < Severity.WARNING.rank for line in lines)


def _ranks(line: LineResult) -> Ranks:
    ranks: Ranks = {}
    for finding in line.findings:
        ranks[finding.key] = max(ranks.get(finding.key, 0), finding.severity.rank)
    return ranks


def _clears(before: Ranks, after: Ranks, key: tuple[str, str]) -> bool:
    """The finding is gone or at most a note, and nothing else became an error or a warning."""
    if after.get(key, 0) >= Severity.WARNING.rank:
        return False
    return not any(rank >= Severity.WARNING.rank and rank > before.get(other, 0) for other, rank in after.items())


def with_remedies(machine: Machine, plan: Plan, result: PlanResult) -> PlanResult:
    """The same result with remedies on each finding to fix or to weigh; each was tried and clears it.

    The part that the finding is about is changed first; other parts only if nothing there helps. A change that
    brings another error or warning is not offered.
    """
    wanting = [f for f in result.findings if f.severity.rank >= Severity.WARNING.rank and f.step is None]
    if not wanting:
        return result
    trial = Trial(machine, plan, result)
    found = {finding.key: trial.remedies(finding) for finding in wanting}
    findings = tuple(
        replace(finding, remedies=found[finding.key]) if finding.step is None and finding.key in found else finding
        for finding in result.findings
    )
    return replace(result, findings=findings)
