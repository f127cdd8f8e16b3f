"""What an edit does beside setting fields, in raw data: stages, shafts, steps, plans, sources, worksheets, the log."""

from __future__ import annotations

from collections.abc import Callable
from copy import deepcopy

from pulltide.core.beginning import begin, wish_for, wish_like
from pulltide.core.catalog import Catalog
from pulltide.core.duty import MAX_SEGMENTS
from pulltide.core.errors import InputError, InputErrors
from pulltide.core.line import solve_line
from pulltide.core.links import family_of
from pulltide.core.machine import MAX_LINKS, MAX_PLANS, Machine
from pulltide.core.room import MAX_BOXES, Obstacle
from pulltide.core.sources import SOURCE_KINDS, source_kind
from pulltide.core.sources.stock import SOURCE
from pulltide.services import correcting, log_edits, need_edits, notes, plan_edits
from pulltide.services.change import Change, Document
from pulltide.services.raw_machines import KINDS, NAMED, json_of
from pulltide.words import say

#: Steps that a stage may have.
MAX_STEPS = 6


def _links(document: Document, change: Change) -> list[Document]:
    return list(_plan(document, change)["links"])


def _plan(document: Document, change: Change) -> Document:
    if not 0 <= change.plan < len(document["plans"]):
        raise InputErrors(
            [
                InputError(
                    say("Plan"),
                    change.plan + 1,
                    say("does not exist"),
                    accepted=say("1 to {document}", document=len(document["plans"])),
                )
            ]
        )
    plan: Document = document["plans"][change.plan]
    return plan


def _link_at(document: Document, change: Change) -> list[Document]:
    links = _links(document, change)
    if not 0 <= change.index < len(links):
        raise InputErrors(
            [
                InputError(
                    say("Stage"),
                    change.index + 1,
                    say("does not exist"),
                    accepted=say("1 to {links}", links=len(links)),
                )
            ]
        )
    return links


def _begun(document: Document, change: Change, catalog: Catalog, at: int, *, like: bool) -> Document:
    """A new stage of a kind at what is left to bridge there, or at what the stage that it replaces does.

    ``part`` is the shop's favorite section or chain, where it has one.
    """
    if change.kind not in KINDS:
        raise InputErrors(
            [InputError(say("Kind of stage"), change.kind, say("is not known"), accepted=", ".join(KINDS))]
        )
    machine = Machine.model_validate(document)
    plan = machine.plans[change.plan]
    line = solve_line(machine, plan)
    wish = wish_for(machine, plan, line, at)
    if like and line is not None:
        wish = wish_like(machine, plan, line, at)
    return begin(family_of(change.kind), catalog, wish, change.part).model_dump(mode="json")


def _renumber(plan: Document, number: Callable[[int], int | None]) -> None:
    """Let what is known of the shafts follow them to their new places; None drops it."""
    moved = ((number(part["shaft"]), part) for part in plan["shafts"])
    plan["shafts"] = [{**part, "shaft": place} for place, part in moved if place is not None]
    notes.moved(plan, "shaft", number)


def _room_for_one_more(links: list[Document]) -> None:
    if len(links) >= MAX_LINKS:
        raise InputErrors(
            [
                InputError(
                    say("Stages"),
                    len(links) + 1,
                    say("are too many"),
                    accepted=say("up to {max_links}", max_links=MAX_LINKS),
                )
            ]
        )


def _add_link(document: Document, change: Change, catalog: Catalog) -> None:
    """A new link after shaft index + 1: every shaft beyond it moves up, the last one with it."""
    links = _links(document, change)
    _room_for_one_more(links)
    at = max(0, min(change.index, len(links)))
    links.insert(at, _begun(document, change, catalog, at, like=False))
    plan = _plan(document, change)
    plan["links"] = links
    _renumber(plan, lambda shaft: shaft if shaft <= at + 1 else shaft + 1)
    plan_edits.restage(plan, lambda stage: stage if stage <= at else stage + 1)


def _copy_link(document: Document, change: Change, catalog: Catalog) -> None:
    """The same link once more behind itself."""
    links = _link_at(document, change)
    _room_for_one_more(links)
    links.insert(change.index + 1, deepcopy(links[change.index]))
    plan = _plan(document, change)
    plan["links"] = links
    _renumber(plan, lambda shaft: shaft if shaft <= change.index + 2 else shaft + 1)
    plan_edits.restage(plan, lambda stage: stage if stage <= change.index + 1 else stage + 1)


def _remove_link(document: Document, change: Change, catalog: Catalog) -> None:
    links = _link_at(document, change)
    del links[change.index]
    plan = _plan(document, change)
    plan["links"] = links
    gone = change.index + 2
    _renumber(plan, lambda shaft: None if shaft == gone else shaft if shaft < gone else shaft - 1)
    plan_edits.restage(plan, lambda stage: None if stage == gone - 1 else stage if stage < gone else stage - 1)


def _move_link(document: Document, change: Change, catalog: Catalog) -> None:
    links = _link_at(document, change)
    order = list(range(len(links)))
    order.insert(moved_to(change, len(links)), order.pop(change.index))
    plan = _plan(document, change)
    plan["links"] = [links[index] for index in order]
    plan_edits.restage(plan, lambda stage: order.index(stage - 1) + 1 if stage <= len(order) else None)


def moved_to(change: Change, links: int) -> int:
    """Place (from 0) of a stage that is moved: one earlier or later, or to a place that is named."""
    if change.kind.isdecimal() and len(change.kind) <= 2:
        target = int(change.kind)
    else:
        target = change.index + (1 if change.kind == "later" else -1)
    return min(max(target, 0), links - 1)


def _swap_link(document: Document, change: Change, catalog: Catalog) -> None:
    links = _link_at(document, change)
    links[change.index] = _begun(document, change, catalog, change.index, like=True)
    plan = _plan(document, change)
    plan["links"] = links
    plan_edits.restage(plan, lambda stage: None if stage == change.index + 1 else stage)


def _refresh_link(document: Document, change: Change, catalog: Catalog) -> None:
    """Let a link take the data that the lists have of its part now."""
    link = _link_at(document, change)[change.index]
    found = [catalog.find(part, str(link.get("designation"))) for part in family_of(link["kind"]).parts]
    listed = next((item for item in found if item is not None), None)
    if listed is None or "data" not in link:
        raise InputErrors([InputError(say("Stage"), change.index + 1, say("has no part that is on a list here"))])
    link["data"] = listed.data.model_dump(mode="json")
    _plan(document, change)["links"][change.index] = link


def _add_shaft(document: Document, change: Change, catalog: Catalog) -> None:
    """Room for what is known of a shaft, counted from the motor at index 0; ``part`` is its steel, where known."""
    plan, number = _plan(document, change), change.index + 1
    most = len(plan["links"]) + 1
    if not 1 <= number <= most:
        raise InputErrors(
            [InputError(say("Shaft"), number, say("does not exist"), accepted=say("1 to {most}", most=most))]
        )
    if all(part["shaft"] != number for part in plan["shafts"]):
        known = {"shaft": number, "steel": change.part} if change.part else {"shaft": number}
        plan["shafts"] = [*plan["shafts"], known]


def _remove_shaft(document: Document, change: Change, catalog: Catalog) -> None:
    """Forget what is known of a shaft."""
    _renumber(_plan(document, change), lambda shaft: None if shaft == change.index + 1 else shaft)


def _steps(document: Document, change: Change) -> Document:
    link = _link_at(document, change)[change.index]
    if "steps" not in link:
        raise InputErrors([InputError(say("Stage"), change.index + 1, say("has no steps"))])
    return link


def _add_step(document: Document, change: Change, catalog: Catalog) -> None:
    link = _steps(document, change)
    if len(link["steps"]) >= MAX_STEPS:
        raise InputErrors(
            [
                InputError(
                    say("Steps"),
                    len(link["steps"]) + 1,
                    say("are too many"),
                    accepted=say("up to {max_steps}", max_steps=MAX_STEPS),
                )
            ]
        )
    link["steps"] = [*link["steps"], dict(link["steps"][-1])]


def _remove_step(document: Document, change: Change, catalog: Catalog) -> None:
    link = _steps(document, change)
    if len(link["steps"]) > 1:
        link["steps"] = link["steps"][:-1]


def _room_for_a_plan(document: Document) -> None:
    if len(document["plans"]) >= MAX_PLANS:
        raise InputErrors(
            [
                InputError(
                    say("Plans"),
                    len(document["plans"]) + 1,
                    say("are too many"),
                    accepted=say("up to {max_plans}", max_plans=MAX_PLANS),
                )
            ]
        )


def _duplicate_plan(document: Document, change: Change, catalog: Catalog) -> None:
    _room_for_a_plan(document)
    copy = deepcopy(_plan(document, change))
    taken = {plan["name"] for plan in document["plans"]}
    copy["name"] = next(
        name for name in (say("Plan {letter}", letter=letter) for letter in "BCDEFGHIJ") if name not in taken
    )
    document["plans"].append(copy)


def _add_plan(document: Document, change: Change, catalog: Catalog) -> None:
    """A whole plan beside the others, as a search made it; one of a name that is there is numbered."""
    added = json_of(say("Plan"), change.part)
    if not isinstance(added, dict):
        raise InputErrors([InputError(say("Plan"), change.part[:40], say(NAMED))])
    taken, name = {plan["name"] for plan in document["plans"]}, str(added.get("name", "Plan"))[:56]
    bare = _plan(document, change)
    if bare["source"] is None and not bare["links"]:
        # nothing is lost in a plan that nothing is in
        document["plans"].remove(bare)
        taken.discard(bare["name"])
    _room_for_a_plan(document)
    added["name"] = next(each for each in (name, *(f"{name} {k}" for k in range(2, 20))) if each not in taken)
    document["plans"].append(added)


def _remove_plan(document: Document, change: Change, catalog: Catalog) -> None:
    _plan(document, change)
    if len(document["plans"]) == 1:
        raise InputErrors([InputError(say("Plan"), 1, say("is the only one, so it stays"))])
    del document["plans"][change.plan]


def _pick_plan(document: Document, change: Change, catalog: Catalog) -> None:
    """The plan at ``index`` stands first: it is the one that the floor shows."""
    if not 0 <= change.index < len(document["plans"]):
        raise InputErrors(
            [
                InputError(
                    say("Plan"),
                    change.index + 1,
                    say("does not exist"),
                    accepted=say("1 to {document}", document=len(document["plans"])),
                )
            ]
        )
    document["plans"].insert(0, document["plans"].pop(change.index))


def _choose_worksheet(document: Document, change: Change, catalog: Catalog) -> None:
    need_edits.choose_worksheet(document["need"], change.kind)


def _fill_typical(document: Document, change: Change, catalog: Catalog) -> None:
    need_edits.fill_typical(document["need"])


def _take_as_own(document: Document, change: Change, catalog: Catalog) -> None:
    need_edits.take_as_own(document["need"])


def _choose_end(document: Document, change: Change, catalog: Catalog) -> None:
    need_edits.choose_end(document["need"], change.kind)


def _choose_source(document: Document, change: Change, catalog: Catalog) -> None:
    """Another kind of source, blank; an induction motor's entries are kept when its own kind is chosen again."""
    known = [kind.kind for kind in SOURCE_KINDS]
    if change.kind not in known:
        raise InputErrors([InputError(say("Source"), change.kind, say("is not known"), accepted=", ".join(known))])
    plan = _plan(document, change)
    if plan["source"] is None or plan["source"]["kind"] != change.kind:
        plan["source"] = {"kind": change.kind, **source_kind(change.kind).starter}


def _take_stock(document: Document, change: Change, catalog: Catalog) -> None:
    """A motor from the stock list; circuit and cord stay as they were."""
    found = catalog.find(SOURCE, change.kind)
    if found is None:
        raise InputErrors([InputError(say("Stock motor"), change.kind, say("is not in the list"))])
    plan = _plan(document, change)
    taken = found.data.model_dump(mode="json")
    before = plan["source"] or {}
    plan["source"] = {
        **taken,
        **{name: before[name] for name in ("supply", "inverter") if name in before and name in taken},
    }


def _add_segment(document: Document, change: Change, catalog: Catalog) -> None:
    cycle = document["duty"]["cycle"]
    if len(cycle) >= MAX_SEGMENTS:
        raise InputErrors(
            [
                InputError(
                    say("Duty cycle"),
                    len(cycle) + 1,
                    say("is too long"),
                    accepted=say("up to {max_segments}", max_segments=MAX_SEGMENTS),
                )
            ]
        )
    last = cycle[-1] if cycle else {"seconds": 30.0, "torque_share": 1.0, "speed_share": 1.0}
    cycle.append(dict(last))


def _remove_segment(document: Document, change: Change, catalog: Catalog) -> None:
    document["duty"]["cycle"] = document["duty"]["cycle"][:-1]


def _add_obstacle(document: Document, change: Change, catalog: Catalog) -> None:
    obstacles = _plan(document, change)["room"]["obstacles"]
    if len(obstacles) >= MAX_BOXES:
        accepted = say("up to {max_boxes}", max_boxes=MAX_BOXES)
        raise InputErrors([InputError(say("Obstacles"), len(obstacles) + 1, say("is too many"), accepted=accepted)])
    obstacles.append(Obstacle().model_dump(mode="json"))


def _remove_obstacle(document: Document, change: Change, catalog: Catalog) -> None:
    room = _plan(document, change)["room"]
    room["obstacles"] = [one for k, one in enumerate(room["obstacles"]) if k != change.index]


#: Changes a raw document in place.
Operation = Callable[[Document, Change, Catalog], None]


def _log_edit(change_log: Callable[[Document, Change], None]) -> Operation:
    return lambda document, change, catalog: change_log(document["log"], change)


OPERATIONS: dict[str, Operation] = {
    "add_link": _add_link,
    "copy_link": _copy_link,
    "remove_link": _remove_link,
    "move_link": _move_link,
    "swap_link": _swap_link,
    "make_wheel": lambda document, change, _: plan_edits.make_wheel(_plan(document, change), change),
    "accept_finding": lambda document, change, catalog: plan_edits.accept_finding(
        document, _plan(document, change), change, catalog
    ),
    "reopen_finding": lambda document, change, _: plan_edits.reopen_finding(_plan(document, change), change),
    "pin_note": lambda document, change, _: notes.pin(_plan(document, change), change),
    "answer_note": lambda document, change, _: notes.answer(_plan(document, change), change),
    "unpin_note": lambda document, change, _: notes.unpin(_plan(document, change), change),
    "refresh_link": _refresh_link,
    "add_shaft": _add_shaft,
    "remove_shaft": _remove_shaft,
    "add_step": _add_step,
    "remove_step": _remove_step,
    "duplicate_plan": _duplicate_plan,
    "add_plan": _add_plan,
    "remove_plan": _remove_plan,
    "pick_plan": _pick_plan,
    "choose_worksheet": _choose_worksheet,
    "take_over": lambda document, change, _: correcting.take_over(document, change.plan, change.index),
    "fill_typical": _fill_typical,
    "take_as_own": _take_as_own,
    "add_load": lambda document, change, _: need_edits.add_load(document["need"], change.kind),
    "drop_load": lambda document, change, _: need_edits.drop_load(document["need"], change.kind),
    "choose_end": _choose_end,
    "choose_source": _choose_source,
    "take_stock": _take_stock,
    "add_obstacle": _add_obstacle,
    "remove_obstacle": _remove_obstacle,
    "add_segment": _add_segment,
    "remove_segment": _remove_segment,
    "add_visit": _log_edit(lambda log, change: log_edits.add_visit(log)),
    "remove_visit": _log_edit(lambda log, change: log_edits.remove_visit(log, change.index)),
    "add_reading": lambda document, change, _: log_edits.add_reading(
        document["log"], _plan(document, change), change.index, change.kind, change.part
    ),
    "remove_reading": _log_edit(lambda log, change: log_edits.remove_reading(log, change.index, change.kind)),
    "toggle_noticed": _log_edit(lambda log, change: log_edits.toggle_noticed(log, change.index, change.kind)),
    "upkeep_done": _log_edit(lambda log, change: log_edits.done(log, change.kind, change.part)),
    "upkeep_undone": _log_edit(lambda log, change: log_edits.undone(log, change.index)),
}
LABELS = {
    "add_link": "Stage added",
    "copy_link": "Stage copied",
    "remove_link": "Stage removed",
    "move_link": "Stages reordered",
    "swap_link": "Stage exchanged",
    "make_wheel": "Wheel to make, or to buy",
    "accept_finding": "Finding accepted",
    "reopen_finding": "Finding open again",
    "pin_note": "Note pinned",
    "answer_note": "Question answered",
    "unpin_note": "Note removed",
    "refresh_link": "Data taken from the list",
    "add_shaft": "Shaft to be described",
    "remove_shaft": "Sizes of a shaft removed",
    "add_step": "Step added",
    "remove_step": "Step removed",
    "duplicate_plan": "Plan duplicated",
    "add_plan": "Plan added from the search",
    "remove_plan": "Plan removed",
    "pick_plan": "Plan picked",
    "choose_worksheet": "Worksheet chosen",
    "take_over": "Readings taken over",
    "fill_typical": "Starting values filled in",
    "take_as_own": "Starting values taken as right",
    "add_load": "Further load added",
    "drop_load": "Further load taken off",
    "choose_end": "End of the line changed",
    "choose_source": "Source chosen",
    "take_stock": "Motor taken from stock",
    "add_obstacle": "Obstacle added",
    "remove_obstacle": "Obstacle removed",
    "add_segment": "Stretch of the cycle added",
    "remove_segment": "Stretch of the cycle removed",
    "add_visit": "Page of readings begun",
    "remove_visit": "Page of readings removed",
    "add_reading": "Reading written down",
    "remove_reading": "Reading taken out",
    "toggle_noticed": "Observation noted",
    "upkeep_done": "Upkeep written down",
    "upkeep_undone": "Upkeep taken back",
}


def operation_of(named: str) -> Operation:
    """The operation of a name. Raises InputErrors where there is none."""
    if named not in OPERATIONS:
        raise InputErrors([InputError(say("Change"), named, say("is not known"), accepted=", ".join(OPERATIONS))])
    return OPERATIONS[named]
