"""Changes to a machine document. Every change gives a new, fully checked machine or a list of plain faults."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import replace
from typing import Any

from pydantic import ValidationError

from pulltide.core.catalog import Catalog
from pulltide.core.errors import InputError, InputErrors
from pulltide.core.links import family_of
from pulltide.core.machine import Machine
from pulltide.core.shipped import shipped_catalog
from pulltide.quantities import Units, reader_for, show_for_edit
from pulltide.services import need_edits
from pulltide.services.change import Change, Document
from pulltide.services.fields import NoSuchField, describe, find_field, parse_path
from pulltide.services.operations import LABELS, operation_of
from pulltide.services.raw_machines import KINDS, at_path, json_of, read_machine
from pulltide.words import say


def shape_of(machine: Machine) -> str:
    """What every plan is made of, by kinds: the same where paths mean the same places."""
    return "|".join(",".join(link.kind for link in plan.links) for plan in machine.plans)


def touches_nothing_new(machine: Machine, change: Change, units: Units) -> bool:
    """Whether a change made for an older version means the same for this one.

    It only sets fields, the machine is made of the same parts, and each field still holds what was seen when it was
    changed, or already what it is to hold.
    """
    if change.operation or change.replacements or not change.sets or change.shape != shape_of(machine):
        return False
    document = machine.model_dump(mode="json")
    try:
        return all(
            text_at(document, path, units) in (change.seen[path], value.strip()) for path, value in change.sets.items()
        )
    except NOT_A_FIELD:
        return False


#: What a path that is no field of a machine meets.
NOT_A_FIELD = (LookupError, TypeError, ValueError, AttributeError)


def text_at(document: Document, path: str, units: Units) -> str:
    """The value at a path as its input shows it. Raises LookupError where there is no such field."""
    described = describe(document, path)
    value: Any = document
    for part in parse_path(path):
        value = None if value is None else value[part]
    if described.kind == "yes_no":
        return "yes" if value else "no"
    if value is None:
        return ""
    return show_for_edit(value, described.unit, units) if described.kind == "quantity" else str(value)


def apply_change(machine: Machine, change: Change, units: Units, catalog: Catalog | None = None) -> tuple[Machine, str]:
    """The machine after a change, and what to call the change. Parts come out of the catalog, the shipped one by
    default.

    Raises InputErrors if the result would not be a machine; the machine given is not touched.
    """
    document: Document = machine.model_dump(mode="json")
    change = replace(change, sets=_entered(document, change.sets, units))
    lists = catalog or shipped_catalog()
    twins = _twins(document, change)
    _put(document, change, twins, units, lists)
    try:
        need_edits.corrected(document["need"], (*change.sets, *change.replacements))
        if change.operation:
            operation_of(change.operation)(document, change, lists)
        _reconcile(machine, document, lists)
    except MALFORMED as error:
        # parts that are not built as they should be: what is wrong with them is said as for any file
        read_machine(document, units, lists)
        raise InputErrors([InputError(say("Change"), change.operation, say("does not fit what is there"))]) from error
    try:
        return read_machine(document, units, lists), change.label or _label(document, change)
    except InputErrors as refused:
        raise InputErrors(_told_once(refused.errors, change, twins)) from refused


def _entered(document: Document, sets: Mapping[str, str], units: Units) -> dict[str, str]:
    """Without what still holds the text that its field shows: figures that were never shown are not lost by it."""
    return {path: text for path, text in sets.items() if not _is_as_shown(document, path, text, units)}


def _is_as_shown(document: Document, path: str, text: str, units: Units) -> bool:
    try:
        return text_at(document, path, units) == text.strip()
    except NOT_A_FIELD:
        return False


def _put(
    document: Document, change: Change, twins: Mapping[str, tuple[str, ...]], units: Units, catalog: Catalog
) -> None:
    """Put every value of a change in its place and into those of its twins."""
    for path, text in change.sets.items():
        value = _by_length(document, path, _typed(document, path, text), units, catalog)
        for one in (path, *twins.get(path, ())):
            _set(document, one, value)
    for path, text in change.replacements.items():
        for one in (path, *twins.get(path, ())):
            _set(document, one, json_of(path, text))


def _told_once(errors: Iterable[InputError], change: Change, twins: Mapping[str, tuple[str, ...]]) -> list[InputError]:
    """Faults as they were typed, without those of twins that say the same."""
    paths = tuple(twin for others in twins.values() for twin in others)
    own = [error for error in errors if not error.path.startswith(paths)]
    return [_as_typed(error, change.sets) for error in own or errors]


OF_A_STAGE = re.compile(r"plans\.(\d{1,2})\.links\.(\d{1,2})(\..+)?")


def _twins(document: Document, change: Change) -> dict[str, tuple[str, ...]]:
    """The same field of every stage of the plan that is equal to the one that is set, by the path that is set."""
    if not change.together:
        return {}
    paths = (*change.sets, *change.replacements)
    return {path: tuple(_twins_of(document, named)) for path in paths if (named := OF_A_STAGE.fullmatch(path))}


def _twins_of(document: Document, named: re.Match[str]) -> Iterator[str]:
    plan, index, rest = int(named[1]), int(named[2]), named[3] or ""
    links = document["plans"][plan]["links"] if plan < len(document["plans"]) else []
    for other, link in enumerate(links):
        if index < len(links) and other != index and link == links[index]:
            yield f"plans.{plan}.links.{other}{rest}"


#: What code that expects a well-built document meets in one that is not.
MALFORMED = (TypeError, AttributeError, KeyError, IndexError, ValidationError)


def _as_typed(error: InputError, sets: Mapping[str, str]) -> InputError:
    """The fault with the text the person typed instead of the number it was read as."""
    typed = sets.get(error.path)
    if typed is None:
        return error
    reason = error.reason.replace(f"“{typed}” ", "")
    return at_path(InputError(error.field, typed, reason, accepted=error.accepted), error.path)


def _typed(document: Document, path: str, text: str) -> Any:
    try:
        described = describe(document, path)
    except (NoSuchField, IndexError, KeyError, TypeError) as error:
        raise InputErrors([InputError(path, text, say("is not a field of this machine"))]) from error
    if described.kind == "yes_no":
        return text.strip().lower() in ("true", "on", "yes", "1")
    return None if described.optional and text.strip() == "" else text.strip()


#: A length as a person writes it: a number first, then its unit.
LENGTH = re.compile(r"\s*[0-9][^A-Za-z]*(in|inch|inches|mm|cm|m|ft|\"|')\s*")


def _by_length(document: Document, path: str, value: Any, units: Units, catalog: Catalog) -> Any:
    """A part that is named by its length: the listed one that is nearest."""
    plans, plan, links, index, name, *rest = (*path.split("."), "", "", "", "", "")
    if (plans, links) != ("plans", "links") or any(rest) or not isinstance(value, str) or not LENGTH.fullmatch(value):
        return value
    raw = document["plans"][int(plan)]["links"][int(index)]
    find = family_of(raw["kind"]).by_length.get(name) if raw.get("kind") in KINDS else None
    found = None if find is None else find(raw, reader_for(units)(value, "mm"), catalog)
    return value if found is None else found


def _set(document: Document, path_text: str, value: Any) -> None:
    path = parse_path(path_text)
    try:
        find_field(document, path)
        holder: Any = document
        for part in path[:-1]:
            if isinstance(holder, dict) and holder.get(part) is None:
                holder[part] = {}
            holder = holder[part]
        holder[path[-1]] = value
    except (NoSuchField, IndexError, KeyError, TypeError) as error:
        raise InputErrors([InputError(path_text, value, say("is not a field of this machine"))]) from error


def _reconcile(before: Machine, document: Document, catalog: Catalog) -> None:
    """Let each family make its edited links consistent; links that moved are compared with none."""
    for plan_index, plan in enumerate(document["plans"]):
        if plan_index >= len(before.plans):
            continue
        old_links = before.plans[plan_index].links
        for index, raw in enumerate(plan["links"]):
            if index < len(old_links) and raw.get("kind") == old_links[index].kind:
                plan["links"][index] = family_of(raw["kind"]).reconcile(old_links[index], raw, catalog)


def _label(document: Document, change: Change) -> str:
    if change.operation:
        return say(LABELS[change.operation])
    paths = [*change.sets, *change.replacements]
    if len(paths) == 1:
        return say("{title} changed", title=describe(document, paths[0]).title)
    return say("{count} values changed", count=len(paths))
