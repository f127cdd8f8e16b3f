"""A page of the run log judged, for programs."""

from __future__ import annotations

from datetime import date
from typing import Any

from pulltide.core.catalog import Catalog
from pulltide.core.errors import InputError, InputErrors
from pulltide.core.machine import Machine
from pulltide.core.run_log.diagnosis import Diagnosis
from pulltide.core.run_log.instruments import READS
from pulltide.core.run_log.judging import Page, page_of
from pulltide.core.shipped import shipped_catalog
from pulltide.services.correcting import correction_report
from pulltide.services.upkeep import dues_of
from pulltide.words import say

#: So many causes are told.
MAX_CAUSES = 8


def log_report(
    machine: Machine, plan_index: int, page: int | None, today: date, catalog: Catalog | None = None
) -> dict[str, Any]:
    """A page of readings, counted from 1, the last by default, held against a plan; and what is due.

    Units are those of the program; ``expected`` is low and high. Raises InputErrors naming what is missing.
    """
    visits = machine.log.visits
    number = len(visits) if page is None else page
    if visits and not 1 <= number <= len(visits):
        raise InputErrors(
            [InputError(say("Page"), number, say("does not exist"), accepted=say("1 to {visits}", visits=len(visits)))]
        )
    found, _ = dues_of(machine, machine.plans[plan_index], today)
    report: dict[str, Any] = {
        "plan": machine.plans[plan_index].name,
        "pages": len(visits),
        "hours": machine.log.hours,
        "upkeep": [
            {"task": one.task.code, "where": one.at, "state": one.state, "at_h": one.at_h, "every_h": one.every_h}
            for one in found
        ],
    }
    if visits:
        report["page"] = number
        report |= _judged(page_of(machine, plan_index, number - 1))
        report |= correction_report(machine, plan_index, number - 1, catalog or shipped_catalog())
    return report


def _judged(page: Page) -> dict[str, Any]:
    return {
        "not_judged": page.why_not,
        "held_against": say("earlier page") if page.learned else "plan",
        "readings": [
            {
                "reading": one.what,
                "where": one.at,
                "value": one.value,
                "unit": READS[one.what],
                "expected": [one.band.low, one.band.high],
                "state": one.state,
                "slip": one.slip,
            }
            for one in page.judged
        ],
        **(_explained(page.diagnosis) if page.diagnosis else {}),
    }


def _explained(found: Diagnosis) -> dict[str, Any]:
    return {
        "certain": found.is_certain,
        "none_fits": found.none_fits,
        "causes": [
            {"cause": one.code, "where": one.at, "probability": round(one.probability, 4), "speaks": list(one.speaks)}
            for one in found.ranked[:MAX_CAUSES]
        ],
        "load": None if found.load is None else {"share": found.load[0], "sigma": found.load[1]},
        "read_next": [
            {
                "reading": one.what,
                "where": one.at,
                "instrument": one.instrument,
                "bits": round(one.bits, 3),
                "minutes": one.minutes,
            }
            for one in found.nexts[:5]
        ],
    }
