"""Findings: one thing checked, with what was measured, the limit, and where the limit comes from.

A bad design is a finding and still yields numbers; an error is raised only when no number can be given.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Literal


class Severity(StrEnum):
    """How much a finding matters; the screen says fix, weigh, note and clear."""

    ERROR = "error"
    WARNING = "warning"
    NOTE = "note"
    CLEAR = "clear"

    @property
    def rank(self) -> int:
        """0 for clear up to 3 for error."""
        return RANKS[self.value]


RANKS = {"clear": 0, "note": 1, "warning": 2, "error": 3}


@dataclass(frozen=True, slots=True)
class Source:
    """Where a limit, formula or value comes from, and how sure we are of it."""

    document: str
    locator: str = ""
    confidence: str = "formula"


COMMON_PRACTICE = Source("common practice", "no source", "common practice")
EXACT = Source("geometry and mechanics", "", "formula")

Relation = Literal["<=", ">="]


@dataclass(frozen=True, slots=True)
class Rule:
    """A check as data: what is compared with what, and the words for both outcomes.

    ``fact`` is said when the check fails, ``clear`` when it holds; neither holds a number. ``needs_load`` marks
    checks that mean nothing while the running torque is unknown. ``about`` marks what describes a part: it is shown
    with the part, never counted. ``curable`` is false where no other stock part cures it: a guard, a lost spring, a
    measurement that is missing. ``named`` has the quantity said before its numbers, where the fact leaves it open.
    ``limits`` are the limits that are the same for every plan, in ``unit``: one, or where a warning and where a problem
    starts; empty where the limit follows from the parts.
    """

    code: str
    quantity: str
    relation: Relation
    severity: Severity
    fact: str
    clear: str
    unit: str
    source: Source
    advice: str = ""
    needs_load: bool = False
    about: bool = False
    curable: bool = True
    named: bool = False
    limits: tuple[float, ...] = ()


def check(  # noqa: PLR0913
    code: str,
    severity: Severity,
    relation: Relation,
    words: tuple[str, str],
    unit: str,
    advice: str = "",
    *,
    quantity: str,
    source: Source = COMMON_PRACTICE,
    needs_load: bool = False,
    about: bool = False,
    curable: bool = True,
    limits: tuple[float, ...] = (),
) -> Rule:
    """A rule written short: ``words`` are those when it fails and when it holds."""
    told = (*words, unit, source, advice, needs_load, about, curable)
    return Rule(code, quantity, relation, severity, *told, limits=limits)


@dataclass(frozen=True, slots=True)
class Remedy:
    """A change that was tried and clears the finding: a label, edits to the plan, and what then results."""

    label: str
    changes: tuple[tuple[str, object], ...]
    last_speed_rpm: float | None


@dataclass(frozen=True, slots=True)
class Finding:
    """The outcome of one check. ``subject`` is ``need``, ``motor``, ``shaft-N`` or ``link-N`` (from 1).

    ``also`` names the other places where the same check failed; ``subject`` is then the worst of them.
    """

    rule: Rule
    severity: Severity
    subject: str
    measured: float | None
    limit: float | None
    step: int | None = None
    remedies: tuple[Remedy, ...] = ()
    also: tuple[str, ...] = ()

    @property
    def is_remark(self) -> bool:
        """Whether it describes its part instead of asking for something: shown there, never counted."""
        return self.rule.about and self.severity is Severity.NOTE

    @property
    def places(self) -> tuple[str, ...]:
        """Every place it is about, the worst first."""
        return (self.subject, *self.also)

    @property
    def excess(self) -> float:
        """How far past its limit, as a share of it; 0 where that cannot be told."""
        if self.measured is None or not self.limit or self.severity is Severity.CLEAR:
            return 0.0
        share = self.measured / self.limit
        return share - 1 if self.rule.relation == "<=" else 1 - share

    @property
    def key(self) -> tuple[str, str]:
        """What makes two findings the same one."""
        return (self.rule.code, self.subject)

    @property
    def code(self) -> str:
        """Stable name of the check."""
        return self.rule.code

    @property
    def fact(self) -> str:
        """What is so, in words without numbers."""
        return self.rule.clear if self.severity is Severity.CLEAR else self.rule.fact

    @property
    def advice(self) -> str:
        """What to do about it; nothing while the check holds."""
        return "" if self.severity is Severity.CLEAR else self.rule.advice


def holds(measured: float, relation: Relation, limit: float) -> bool:
    """Whether the relation is met; NaN never meets one."""
    return measured <= limit if relation == "<=" else measured >= limit


def judge(
    rule: Rule, subject: str, measured: float, limit: float | None = None, *, severity: Severity | None = None
) -> Finding:
    """Apply one rule: against its own limit where none follows from the parts.

    ``severity`` replaces the rule's own when the check fails.
    """
    if limit is None:
        (limit,) = rule.limits
    if holds(measured, rule.relation, limit):
        return Finding(rule, Severity.CLEAR, subject, measured, limit)
    return Finding(rule, severity or rule.severity, subject, measured, limit)


def jam_rule(
    code: str, fact: str, clear: str, source: Source = COMMON_PRACTICE, quantity: str = "torque at its input"
) -> Rule:
    """The check of a part when the machine is held fast; what protects it is the same everywhere."""
    rule = check(
        code,
        Severity.WARNING,
        "<=",
        (fact, clear),
        "N*m",
        "Limit the torque first: a belt set to slip, a shear pin, a lower current limit or a smaller motor.",
        quantity=quantity,
        source=source,
        needs_load=True,
    )
    return replace(rule, named=True)


def judge_two(
    rule: Rule, subject: str, measured: float, weigh: float | None = None, fix: float | None = None
) -> Finding:
    """Apply a rule with two limits, its own where none follow from the parts: past the first a warning, past the
    second an error.
    """
    if weigh is None or fix is None:
        weigh, fix = rule.limits
    if not holds(measured, rule.relation, fix):
        return judge(rule, subject, measured, fix, severity=Severity.ERROR)
    return judge(rule, subject, measured, weigh, severity=Severity.WARNING)


def state(rule: Rule, subject: str, measured: float | None = None) -> Finding:
    """A finding without a limit: something to know, or something unknown."""
    return Finding(rule, rule.severity, subject, measured, None)


def gathered(findings: Iterable[Finding]) -> tuple[Finding, ...]:
    """The same failed check at several places said once, at the worst of them, naming the others."""
    groups: dict[tuple[str, str, int | None], list[Finding]] = {}
    for finding in findings:
        apart = finding.subject if finding.severity is Severity.CLEAR else ""
        groups.setdefault((finding.code, finding.severity + apart, finding.step), []).append(finding)
    found = []
    for group in groups.values():
        worst = max(group, key=lambda finding: finding.excess)
        others = tuple(dict.fromkeys(f.subject for f in group if f.subject != worst.subject))
        found.append(replace(worst, also=others) if others else worst)
    return tuple(found)
