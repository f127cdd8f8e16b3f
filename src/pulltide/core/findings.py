"""Findings: one thing checked, with what was measured, the limit, and where the limit comes from.

A bad design is a finding and still yields numbers; an error is raised only when no number can be given.
"""

from __future__ import annotations

from dataclasses import dataclass, field
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
        return ("clear", "note", "warning", "error").index(self.value)


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
    checks that mean nothing while the running torque is unknown.
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


@dataclass(frozen=True, slots=True)
class Remedy:
    """A change that was tried and clears the finding: a label, edits to the plan, and what then results."""

    label: str
    changes: tuple[tuple[str, object], ...]
    last_speed_rpm: float | None


@dataclass(frozen=True, slots=True)
class Finding:
    """The outcome of one check. ``subject`` is ``need``, ``motor``, ``shaft-N`` or ``link-N`` (from 1)."""

    code: str
    severity: Severity
    subject: str
    quantity: str
    fact: str
    measured: float | None
    limit: float | None
    unit: str
    relation: Relation
    source: Source
    advice: str = ""
    needs_load: bool = False
    step: int | None = None
    remedies: tuple[Remedy, ...] = field(default=())

    @property
    def key(self) -> tuple[str, str]:
        """What makes two findings the same one."""
        return (self.code, self.subject)


def holds(measured: float, relation: Relation, limit: float) -> bool:
    """Whether the relation is met; NaN never meets one."""
    return measured <= limit if relation == "<=" else measured >= limit


def judge(rule: Rule, subject: str, measured: float, limit: float, severity: Severity | None = None) -> Finding:
    """Apply one rule; ``severity`` replaces the rule's own when the check fails."""
    passed = holds(measured, rule.relation, limit)
    level = Severity.CLEAR if passed else (severity or rule.severity)
    return Finding(
        rule.code,
        level,
        subject,
        rule.quantity,
        rule.clear if passed else rule.fact,
        measured,
        limit,
        rule.unit,
        rule.relation,
        rule.source,
        "" if passed else rule.advice,
        rule.needs_load,
    )


def judge_two(rule: Rule, subject: str, measured: float, weigh: float, fix: float) -> Finding:
    """Apply a rule with two thresholds: past ``weigh`` a warning, past ``fix`` an error."""
    if not holds(measured, rule.relation, fix):
        return judge(rule, subject, measured, fix, Severity.ERROR)
    return judge(rule, subject, measured, weigh, Severity.WARNING)


def state(rule: Rule, subject: str, measured: float | None = None) -> Finding:
    """A finding without a limit: something to know, or something unknown."""
    return Finding(
        rule.code,
        rule.severity,
        subject,
        rule.quantity,
        rule.fact,
        measured,
        None,
        rule.unit,
        rule.relation,
        rule.source,
        rule.advice,
        rule.needs_load,
    )
