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


@dataclass(frozen=True, slots=True, kw_only=True)
class Rule:
    """What a finding says, as data: a check or a remark.

    The words hold no number but ``{limit}``, the limit that was judged by. ``needs_load`` marks what means nothing
    while the running torque is unknown. ``about`` marks what describes a part: it is shown with the part, never
    counted. ``curable`` is false where no other stock part cures it: a guard, a lost spring, a measurement that is
    missing. ``named`` has the quantity said before its numbers, where the fact leaves it open.
    """

    code: str
    severity: Severity
    quantity: str
    fact: str
    unit: str = ""
    advice: str = ""
    source: Source = COMMON_PRACTICE
    needs_load: bool = False
    about: bool = False
    curable: bool = True
    named: bool = False

    def quoting(self, text: str, limit: float | None) -> str:
        """Words of this rule with ``{limit}`` in them put in, marked ``{value|unit}`` for the edge to fill."""
        return text if limit is None else text.replace("{limit}", f"{{{limit:.12g}|{self.unit}}}")


@dataclass(frozen=True, slots=True, kw_only=True)
class Check(Rule):
    """What is compared with a limit: ``fact`` is said when it fails, ``clear`` when it holds.

    ``limits`` are those that are the same for every plan: one, or two with a severity in ``levels`` for each. They are
    in ``unit``, or times what ``base`` names, which follows from the parts. Without any, ``base`` is the limit itself.
    """

    clear: str
    relation: Relation = "<="
    limits: tuple[float, ...] = ()
    base: str = ""
    levels: tuple[Severity, Severity] = (Severity.WARNING, Severity.ERROR)

    def limits_of(self, base: float | None) -> tuple[float, ...]:
        """Its limits, times the base where they are shares of one."""
        return self.limits if base is None else tuple(share * base for share in self.limits)


@dataclass(frozen=True, slots=True, kw_only=True)
class Remark(Rule):
    """What is said without a limit: something to know, or something that is not entered."""


@dataclass(frozen=True, slots=True)
class Remedy:
    """A change that was tried and clears the finding: a label, edits to the plan, and what then results."""

    label: str
    changes: tuple[tuple[str, object], ...]
    last_speed_rpm: float | None


@dataclass(frozen=True, slots=True)
class Finding:
    """The outcome of one check. ``subject`` is ``need``, ``motor``, ``shaft-N`` or ``link-N`` (from 1).

    ``also`` names the other places where the same check failed; ``subject`` is then the worst of them. ``load`` names
    the further load of the machine that it is worst for; empty for the leading one.
    """

    rule: Rule
    severity: Severity
    subject: str
    measured: float | None
    limit: float | None
    step: int | None = None
    remedies: tuple[Remedy, ...] = ()
    also: tuple[str, ...] = ()
    load: str = ""

    @property
    def is_remark(self) -> bool:
        """Whether it describes its part instead of asking for something: shown there, never counted."""
        return self.rule.about and self.severity is Severity.NOTE

    @property
    def places(self) -> tuple[str, ...]:
        """Every place it is about, the worst first."""
        return (self.subject, *self.also)

    @property
    def relation(self) -> Relation | None:
        """How the measured has to stand to the limit; nothing for a remark."""
        return self.rule.relation if isinstance(self.rule, Check) else None

    @property
    def excess(self) -> float:
        """How far past its limit, as a share of it; 0 where that cannot be told."""
        if self.measured is None or not self.limit or self.severity is Severity.CLEAR:
            return 0.0
        share = self.measured / self.limit
        return share - 1 if self.relation == "<=" else 1 - share

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
        """What is so, in words; a limit in them is marked ``{value|unit}``."""
        if isinstance(self.rule, Check) and self.severity is Severity.CLEAR:
            return self.rule.quoting(self.rule.clear, self.limit)
        return self.rule.quoting(self.rule.fact, self.limit)

    @property
    def advice(self) -> str:
        """What to do about it; nothing while the check holds."""
        return "" if self.severity is Severity.CLEAR else self.rule.quoting(self.rule.advice, self.limit)


#: A size this little under its limit is as large: nobody measures a pulley closer [mm]. Common practice, no source.
MEASURED_TO_MM = 0.05


def holds(measured: float, relation: Relation, limit: float) -> bool:
    """Whether the relation is met; NaN never meets one."""
    return measured <= limit if relation == "<=" else measured >= limit


def judge(
    rule: Check,
    subject: str,
    measured: float,
    limit: float | None = None,
    *,
    of: float | None = None,
    severity: Severity | None = None,
) -> Finding:
    """Apply one rule: against a limit that follows from the parts, or its own, ``of`` what that is a share of.

    ``severity`` replaces the rule's own when the check fails.
    """
    if limit is None:
        (limit,) = rule.limits_of(of)
    if holds(measured, rule.relation, limit):
        return Finding(rule, Severity.CLEAR, subject, measured, limit)
    return Finding(rule, severity or rule.severity, subject, measured, limit)


def jam_rule(
    code: str,
    fact: str,
    clear: str,
    *,
    base: str,
    source: Source = COMMON_PRACTICE,
    quantity: str = "torque at its input",
) -> Check:
    """The check of a part when the machine is held fast; what protects it is the same everywhere."""
    return Check(
        code=code,
        severity=Severity.WARNING,
        quantity=quantity,
        unit="N*m",
        fact=fact,
        clear=clear,
        base=base,
        advice="Limit the torque first: a belt set to slip, a shear pin, a lower current limit or a smaller motor.",
        source=source,
        needs_load=True,
        named=True,
    )


def judge_two(
    rule: Check,
    subject: str,
    measured: float,
    weigh: float | None = None,
    fix: float | None = None,
    *,
    of: float | None = None,
) -> Finding:
    """Apply a rule with two limits, its own where none follow from the parts: each has its severity."""
    if weigh is None or fix is None:
        weigh, fix = rule.limits_of(of)
    milder, harder = rule.levels
    if not holds(measured, rule.relation, fix):
        return judge(rule, subject, measured, fix, severity=harder)
    return judge(rule, subject, measured, weigh, severity=milder)


def state(rule: Remark, subject: str, measured: float | None = None) -> Finding:
    """A finding without a limit: something to know, or something unknown."""
    return Finding(rule, rule.severity, subject, measured, None)


def gathered(findings: Iterable[Finding]) -> tuple[Finding, ...]:
    """The same failed check at several places said once, at the worst of them, naming the others."""
    groups: dict[tuple[str, str, int | None, str], list[Finding]] = {}
    for finding in findings:
        apart = finding.subject if finding.severity is Severity.CLEAR else ""
        groups.setdefault((finding.code, finding.severity + apart, finding.step, finding.load), []).append(finding)
    found = []
    for group in groups.values():
        worst = max(group, key=lambda finding: finding.excess)
        others = tuple(dict.fromkeys(f.subject for f in group if f.subject != worst.subject))
        found.append(replace(worst, also=others) if others else worst)
    return tuple(found)
