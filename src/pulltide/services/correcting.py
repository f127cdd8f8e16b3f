"""A plan corrected by the readings of its machine, as an edit that can be undone, and what it changes everywhere."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import asdict, dataclass
from typing import Any

from pulltide.core.catalog import Catalog
from pulltide.core.comparison import PlanFigures, compare
from pulltide.core.errors import InputError, InputErrors
from pulltide.core.machine import Machine, Plan
from pulltide.core.run_log.corrected import Correction, corrections
from pulltide.core.run_log.log import MAX_TAKEN, Visit
from pulltide.core.shafts import ShaftPart
from pulltide.services.change import Document
from pulltide.words import say

#: A figure that is measured is kept to so many places.
PLACES = 4


@dataclass(frozen=True, slots=True)
class Effect:
    """One plan before and after."""

    before: PlanFigures
    after: PlanFigures


def take_over(document: Document, plan: int, visit: int) -> None:
    """Put what a page of readings says into a raw document, and note it in the log. Raises InputErrors."""
    found = offered(Machine.model_validate(document), plan, visit)
    if not found:
        accepted = say("a page of this line, marked as running right, with its load and a reading that tells")
        raise InputErrors(
            [InputError(say("Readings"), visit + 1, say("correct nothing of this plan"), accepted=accepted)]
        )
    page, log = document["log"]["visits"][visit], document["log"]
    for one in found:
        _put(document, plan, one)
        entry = {"what": one.what, "at": one.at, "was": _kept(one.planned), "now": _kept(one.measured)}
        entry |= {"half": _kept(one.half), "hours": page.get("hours"), "day": page.get("day")}
        log["taken"] = [*log["taken"], entry][-MAX_TAKEN:]


def offered(machine: Machine, plan: int, visit: int) -> tuple[Correction, ...]:
    """What a page of readings corrects. Raises InputErrors where there is no such page, or the plan cannot be run."""
    visits = machine.log.visits
    if not 0 <= visit < len(visits):
        raise InputErrors(
            [
                InputError(
                    say("Page"), visit + 1, say("does not exist"), accepted=say("1 to {visits}", visits=len(visits))
                )
            ]
        )
    try:
        found = corrections(machine, plan, visit)
    except InputError as error:
        raise InputErrors([error]) from error
    return tuple(one for one in found if not _is_in_already(machine, machine.plans[plan], visits[visit], one))


def _is_in_already(machine: Machine, plan: Plan, page: Visit, found: Correction) -> bool:
    """Whether friction or loss of this page is in the plan: what is added to it is added once."""
    if found.what not in ("friction", "loss") or (page.hours is None and page.day is None):
        return False
    part = plan.shaft_part(int(found.at.partition("-")[2]))
    held = 0.0 if part is None else (part.drag_nm if found.what == "friction" else part.loss_nm) or 0.0
    return any(
        (one.what, one.at, one.hours, one.day) == (found.what, found.at, page.hours, page.day)
        and held >= 0.99 * (one.now - one.was)
        for one in machine.log.taken
    )


def corrected(machine: Machine, plan: int, visit: int) -> Machine:
    """The machine with what a page of readings says of it. Raises InputErrors."""
    document = machine.model_dump(mode="json")
    take_over(document, plan, visit)
    return Machine.model_validate(document)


def effects(before: Machine, after: Machine, catalog: Catalog) -> tuple[Effect, ...]:
    """Every plan as it is, and as it would be."""
    pairs = zip(compare(before, catalog), compare(after, catalog), strict=True)
    return tuple(Effect(one, other) for one, other in pairs)


def correction_report(machine: Machine, plan: int, visit: int, catalog: Catalog) -> dict[str, Any]:
    """What readings correct and what that changes in every plan, for programs; nothing of either where they do not."""
    try:
        found = corrections(machine, plan, visit)
    except InputError:
        found = ()
    if not found:
        return {"corrections": [], "changes": []}
    shown = effects(machine, corrected(machine, plan, visit), catalog)
    return {"corrections": [asdict(one) for one in found], "changes": [*_changes(shown)]}


def _changes(shown: Sequence[Effect]) -> Iterator[dict[str, Any]]:
    for one in shown:
        pair = {"before": one.before, "after": one.after}
        yield {"plan": one.before.plan.name} | {
            when: {
                "last_speed_rpm": figures.last_speed_rpm,
                "motor_load": figures.motor_load,
                "tightest_use": figures.tightest_use,
                "problems": figures.problems,
                "warnings": figures.warnings,
            }
            for when, figures in pair.items()
        }


def _put(document: Document, plan: int, one: Correction) -> None:
    """One correction. With a worksheet the measured torque stands beside it; the peak goes with the load."""
    need = document["need"]
    by_sheet = need["worksheet"] is not None
    if one.what == "load" and by_sheet:
        need |= {"measured_torque_nm": _kept(one.measured), "measured_half_nm": _kept(one.half)}
    elif one.what == "breakaway" and by_sheet:
        need["measured_breakaway_nm"] = _kept(one.measured)
    elif one.what == "load":
        need["running_torque_nm"] = _kept(one.measured)
        need["running_torque_low_nm"] = _kept(max(one.measured - one.half, 0.01 * one.measured))
        need["running_torque_high_nm"] = _kept(one.measured + one.half)
        if need["peak_torque_nm"] is not None:
            need["peak_torque_nm"] = _kept(need["peak_torque_nm"] * one.factor)
    elif one.what == "breakaway":
        need["breakaway_torque_nm"] = _kept(one.measured)
    elif one.what == "full_load_speed":
        document["plans"][plan]["source"]["speed_rpm"] = _kept(one.measured)
    elif one.what in ("friction", "loss"):
        _rub(document["plans"][plan], one)
    else:
        document["plans"][plan]["links"][int(one.at.partition("-")[2]) - 1]["static_tension_n"] = _kept(one.measured)


def _rub(plan: Document, one: Correction) -> None:
    """Friction or loss over what is reckoned with, at its shaft; a stage is driven by the shaft of its own number."""
    number = int(one.at.partition("-")[2])
    if number not in [part["shaft"] for part in plan["shafts"]]:
        plan["shafts"] = [*plan["shafts"], ShaftPart(shaft=number).model_dump(mode="json")]
    part = next(part for part in plan["shafts"] if part["shaft"] == number)
    name = "drag_nm" if one.what == "friction" else "loss_nm"
    part[name] = _kept((part[name] or 0.0) + one.measured - one.planned)


def _kept(value: float) -> float:
    return float(f"{value:.{PLACES}g}")
