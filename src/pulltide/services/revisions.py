"""Sheets that were given out: their numbers, and what has changed since."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Protocol

from pydantic import ValidationError

from pulltide.core.machine import Machine, Plan
from pulltide.core.run_log.log import Log
from pulltide.services.change import Document
from pulltide.services.documents import upgraded
from pulltide.services.matching import FieldDifference, differences
from pulltide.words import say


@dataclass(frozen=True, slots=True)
class Revision:
    """One sheet that was given out."""

    number: int
    plan_name: str
    note: str
    document: Document
    issued_at: datetime


class Revisions(Protocol):
    """Where they are kept."""

    def last(self, machine_id: str, plan_name: str) -> Revision | None:
        """The last one of a plan."""
        ...

    def issue(self, machine_id: str, plan_name: str, document: Document, note: str) -> int:
        """Give out the next one of a machine; its number."""
        ...


def changed_since(revision: Revision, machine: Machine, plan: Plan) -> tuple[FieldDifference, ...] | None:
    """What of a plan, its need and its duty is not as it was given out; None where that cannot be read any more."""
    try:
        then = Machine.model_validate(upgraded(revision.document))
    except (ValidationError, LookupError, TypeError, ValueError):
        return None
    before = next((one for one in then.plans if one.name == revision.plan_name), None)
    if before is None:
        return None
    return differences(_alone(then, before), _alone(machine, plan))


def _alone(machine: Machine, plan: Plan) -> Machine:
    """A machine with one plan, and nothing that its sheet does not say."""
    bare = plan.model_copy(update={"name": say("Plan"), "note": ""})
    return machine.model_copy(update={"name": say("Machine"), "note": "", "log": Log(), "plans": (bare,)})
