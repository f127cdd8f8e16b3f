"""What is noted of a plan beside its parts: wheels that the shop makes, findings that are accepted."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date

from pulltide.core.catalog import Catalog
from pulltide.core.errors import InputError, InputErrors
from pulltide.core.findings import Severity
from pulltide.core.line import solve_plan
from pulltide.core.machine import Machine
from pulltide.services import notes
from pulltide.services.change import Change, Document
from pulltide.words import say


def restage(plan: Document, number: Callable[[int], int | None]) -> None:
    """Let the wheels that the shop makes, and notes, follow their stages; None drops a wheel."""
    kept = []
    for part in plan["made"]:
        stage, _, side = part["wheel"].partition("-")
        place = number(int(stage)) if stage.isdecimal() else stage
        if place is not None:
            kept.append({**part, "wheel": f"{place}-{side}"})
    plan["made"] = kept
    notes.moved(plan, "stage", number)


def make_wheel(plan: Document, change: Change) -> None:
    """The wheel named by ``kind`` is made of the material in ``part``; it is bought again where that is empty."""
    others = [part for part in plan["made"] if part["wheel"] != change.kind]
    plan["made"] = [*others, {"wheel": change.kind, "material": change.part}] if change.part else others


def accept_finding(document: Document, plan: Document, change: Change, catalog: Catalog) -> None:
    """The finding named by ``kind`` (code, a space, subject) may stay, for the reason in ``part``."""
    code, _, subject = change.kind.partition(" ")
    machine = Machine.model_validate(document)
    result = solve_plan(machine, machine.plans[change.plan], catalog=catalog)
    found = [] if result is None else [one for one in result.findings if one.key == (code, subject)]
    if not found or found[0].severity is Severity.CLEAR:
        raise InputErrors([InputError(say("Finding"), change.kind[:80], say("is not open in this plan"))])
    others = [one for one in plan["accepted"] if (one["code"], one["subject"]) != (code, subject)]
    finding = found[0]
    plan["accepted"] = [
        *others,
        {
            "code": code,
            "subject": subject,
            "reason": change.part.strip(),
            "by": change.by.strip(),
            "on": date.today().isoformat(),
            "severity": finding.severity.value,
            "measured": finding.measured,
            "limit": finding.limit,
        },
    ]


def reopen_finding(plan: Document, change: Change) -> None:
    """The finding named by ``kind`` is open again."""
    code, _, subject = change.kind.partition(" ")
    plan["accepted"] = [one for one in plan["accepted"] if (one["code"], one["subject"]) != (code, subject)]
