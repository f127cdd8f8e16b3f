"""Findings that a person accepted with a reason, for as long as they are what was accepted."""

from __future__ import annotations

from collections.abc import Iterable

from pydantic import Field

from pulltide.core.findings import RANKS, Finding, Severity
from pulltide.core.model import CoreModel

#: A figure that moved by less than this share is what was accepted. Common practice, no source.
SAME_SHARE = 0.01
MAX_ACCEPTED = 40


class Accepted(CoreModel):
    """One finding by code and subject, as it stood, and why it is left so."""

    code: str = Field(title="Finding", min_length=1, max_length=60)
    subject: str = Field(title="Of", min_length=1, max_length=12)
    reason: str = Field(title="Why it may stay", min_length=3, max_length=200)
    by: str = Field(title="Accepted by", min_length=1, max_length=60)
    on: str = Field(title="On", pattern=r"^\d{4}-\d{2}-\d{2}$")
    severity: Severity = Field(title="Severity")
    measured: float | None = Field(None, title="As it stood")
    limit: float | None = Field(None, title="Its limit")

    def covers(self, finding: Finding) -> bool:
        """Whether a finding is the one that was accepted: not graver, its figures as they were."""
        if finding.key != (self.code, self.subject) or finding.severity.rank > RANKS[self.severity.value]:
            return False
        return _same(finding.measured, self.measured) and _same(finding.limit, self.limit)


def _same(now: float | None, then: float | None) -> bool:
    if now is None or then is None:
        return now is then
    return abs(now - then) <= SAME_SHARE * max(abs(now), abs(then))


def accepted_as(finding: Finding, accepted: Iterable[Accepted]) -> Accepted | None:
    """Why a finding may stay; None while it is open, or has become another than was accepted."""
    return next((one for one in accepted if one.covers(finding)), None)
