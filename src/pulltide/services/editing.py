"""Changes to a machine document. Every change gives a new, fully checked machine or a list of plain faults."""

from __future__ import annotations

import json
import re
from collections.abc import Callable, Iterable, Iterator, Mapping
from copy import deepcopy
from dataclasses import dataclass, field
from typing import Any

from pydantic import ValidationError

from pulltide.core.beginning import begin, wish_for, wish_like
from pulltide.core.catalog import CATALOG, Catalog
from pulltide.core.duty import MOST_SEGMENTS
from pulltide.core.ends import END_KINDS
from pulltide.core.errors import InputError, InputErrors, UnknownName
from pulltide.core.line import solve_line
from pulltide.core.links import FAMILIES, family_of
from pulltide.core.machine import FORMAT_VERSION, MOST_LINKS, MOST_PLANS, Machine
from pulltide.core.model import READ_QUANTITY
from pulltide.core.run_log.instruments import READS
from pulltide.core.shipped import shipped_catalog
from pulltide.core.sources import SOURCE_KINDS, source_kind
from pulltide.core.sources.stock import SOURCE
from pulltide.quantities import Units, reader_for, show_for_edit
from pulltide.services import log_edits, need_edits
from pulltide.services.documents import upgraded
from pulltide.services.fields import NoSuchField, describe, find_field, parse_path
from pulltide.services.texts import unusable_texts

Document = dict[str, Any]
KINDS = tuple(family.kind for family in FAMILIES)
#: Tags that a validation puts into the place of a fault.
TAGS = frozenset(
    (*KINDS, *need_edits.NEED_NAMES, *(kind.kind for kind in SOURCE_KINDS), *(kind.kind for kind in END_KINDS))
)
#: The speeds a worksheet keeps when another kind is chosen.
MOST_STEPS = 6
NAMED = "is not a set of named values"


@dataclass(frozen=True, slots=True)
class Change:
    """One edit: values to set by path, and at most one operation on links, steps or plans.

    ``seen`` are the texts that stood at those paths when they were changed, and ``shape`` what the plans were made of.
    ``part`` is what an operation adds, as JSON. ``together`` makes the same change to every stage equal to the one that
    is set.
    """

    sets: Mapping[str, str] = field(default_factory=dict)
    replacements: Mapping[str, str] = field(default_factory=dict)
    operation: str = ""
    plan: int = 0
    index: int = 0
    kind: str = ""
    label: str = ""
    seen: Mapping[str, str] = field(default_factory=dict)
    shape: str = ""
    part: str = ""
    together: bool = False


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
    except (LookupError, TypeError, ValueError, AttributeError):
        return False


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


def read_machine(raw: object, units: Units, catalog: Catalog | None = None) -> Machine:
    """A machine from raw data; text with units is read, parts are looked up by name in a catalog, the shipped one by
    default. Raises InputErrors naming every fault.
    """
    version = raw.get("format_version") if isinstance(raw, dict) else None
    if isinstance(version, int) and version > FORMAT_VERSION:
        said = "was written by a newer version of this program"
        error = InputError("Version of the format", version, said, accepted=f"1 to {FORMAT_VERSION}")
        raise InputErrors([_at(error, "format_version")])
    unusable = unusable_texts(raw)
    if unusable:
        raise InputErrors(unusable)
    try:
        return Machine.model_validate(upgraded(raw), context=_context(units, catalog))
    except ValidationError as error:
        raise InputErrors(faults(raw, error, units)) from error


def _context(units: Units, catalog: Catalog | None) -> dict[str, object]:
    return {READ_QUANTITY: reader_for(units), CATALOG: catalog or shipped_catalog()}


def faults(raw: object, error: ValidationError, units: Units) -> list[InputError]:
    """Every fault of a validation as field, value and accepted range, in a person's units."""
    items: list[dict[str, Any]] = [dict(item) for item in error.errors()]
    places: list[tuple[Any, ...]] = [tuple(item["loc"]) for item in items]

    def is_echo(item: dict[str, Any]) -> bool:
        """A list refused only because one of its entries was refused."""
        here = tuple(item["loc"])
        return item["type"] == "too_short" and any(len(p) > len(here) and p[: len(here)] == here for p in places)

    told = [_fault(raw, item, units) for item in items if not is_echo(item)]
    more = len(told) - MOST_FAULTS
    if more > 0:
        told = [*told[:MOST_FAULTS], InputError("File", "", f"has {more} more faults")]
    return told


#: So many faults of one submission are told one by one.
MOST_FAULTS = 25


def _fault(raw: object, item: dict[str, Any], units: Units) -> InputError:
    location = _without_tags(item["loc"])
    path = ".".join(str(part) for part in location)
    inner = (item.get("ctx") or {}).get("error")
    try:
        described = describe(raw, path) if location else None
    except (NoSuchField, LookupError, TypeError, AttributeError):
        described = None
    title = described.title if described else (path or "File")
    given = item.get("input")
    shown = "" if isinstance(given, dict | list) else given
    if isinstance(inner, UnknownName):
        return _at(InputError(inner.field, inner.given, inner.reason, accepted=inner.accepted), path)
    accepted = described.accepted(units) if described else ""
    return _at(InputError(title, "" if shown is None else shown, reason(item, inner), accepted=accepted), path)


def _without_tags(location: tuple[Any, ...]) -> list[Any]:
    """The place of a fault without the kinds that a validation names; that of a reading follows its number."""
    kept = [part for part in location if part not in TAGS]
    where = kept.index("readings") + 2 if "readings" in kept else len(kept)
    return [part for number, part in enumerate(kept) if number != where or part not in READS]


def _at(error: InputError, path: str) -> InputError:
    error.path = path
    return error


def reason(item: dict[str, Any], inner: object) -> str:
    """Why a validation refused a value, in plain words."""
    kind = str(item["type"])
    if inner is not None:
        return str(inner)
    words = {
        "missing": "is missing",
        "extra_forbidden": "is not a field of this file",
        "int_parsing": "is not a whole number",
        "int_from_float": "is not a whole number",
        "float_parsing": "is not a number",
        "literal_error": "is not offered",
        "string_too_long": "is too long",
        "string_too_short": "is empty",
        "finite_number": "is not a usable number",
        "enum": "is not offered",
        "bool_parsing": "is neither yes nor no",
        "union_tag_invalid": "is not a kind of stage",
        "union_tag_not_found": "has no kind",
        "too_long": "has too many entries",
        "too_short": "has too few entries",
        "string_type": "is not text",
        "list_type": "is not a list",
        "tuple_type": "is not a list",
        "dict_type": NAMED,
        "model_type": NAMED,
        "model_attributes_type": NAMED,
    }
    if kind in ("greater_than", "greater_than_equal", "less_than", "less_than_equal"):
        return "is out of range"
    return words.get(kind, "is not of a kind that is read here")


def apply_change(machine: Machine, change: Change, units: Units, catalog: Catalog | None = None) -> tuple[Machine, str]:
    """The machine after a change, and what to call the change. Parts come out of the catalog, the shipped one by
    default.

    Raises InputErrors if the result would not be a machine; the machine given is not touched.
    """
    document: Document = machine.model_dump(mode="json")
    lists = catalog or shipped_catalog()
    twins = _twins(document, change)
    _put(document, change, twins, units, lists)
    try:
        need_edits.corrected(document["need"], (*change.sets, *change.replacements))
        if change.operation:
            OPERATIONS[_known(change.operation)](document, change, lists)
        _settle(machine, document, lists)
    except MALFORMED as error:
        # parts that are not built as they should be: what is wrong with them is said as for any file
        read_machine(document, units, lists)
        raise InputErrors([InputError("Change", change.operation, "does not fit what is there")]) from error
    try:
        return read_machine(document, units, lists), change.label or _label(document, change)
    except InputErrors as refused:
        raise InputErrors(_told_once(refused.errors, change, twins)) from refused


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
            _set(document, one, _json(path, text))


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
    return _at(InputError(error.field, typed, reason, accepted=error.accepted), error.path)


def _known(operation: str) -> str:
    if operation not in OPERATIONS:
        raise InputErrors([InputError("Change", operation, "is not known", accepted=", ".join(OPERATIONS))])
    return operation


def _json(path: str, text: str) -> Any:
    try:
        return json.loads(text)
    except (ValueError, RecursionError) as error:
        raise InputErrors([InputError(path, text[:40], "is not JSON")]) from error


def _typed(document: Document, path: str, text: str) -> Any:
    try:
        described = describe(document, path)
    except (NoSuchField, IndexError, KeyError, TypeError) as error:
        raise InputErrors([InputError(path, text, "is not a field of this machine")]) from error
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
        raise InputErrors([InputError(path_text, value, "is not a field of this machine")]) from error


def _settle(before: Machine, document: Document, catalog: Catalog) -> None:
    """Let each family make its edited links consistent; links that moved are compared with none."""
    for plan_index, plan in enumerate(document["plans"]):
        if plan_index >= len(before.plans):
            continue
        old_links = before.plans[plan_index].links
        for index, raw in enumerate(plan["links"]):
            if index < len(old_links) and raw.get("kind") == old_links[index].kind:
                plan["links"][index] = family_of(raw["kind"]).reconcile(old_links[index], raw, catalog)


def _links(document: Document, change: Change) -> list[Document]:
    return list(_plan(document, change)["links"])


def _plan(document: Document, change: Change) -> Document:
    if not 0 <= change.plan < len(document["plans"]):
        raise InputErrors(
            [InputError("Plan", change.plan + 1, "does not exist", accepted=f"1 to {len(document['plans'])}")]
        )
    plan: Document = document["plans"][change.plan]
    return plan


def _link_at(document: Document, change: Change) -> list[Document]:
    links = _links(document, change)
    if not 0 <= change.index < len(links):
        raise InputErrors([InputError("Stage", change.index + 1, "does not exist", accepted=f"1 to {len(links)}")])
    return links


def _begun(document: Document, change: Change, catalog: Catalog, at: int, *, like: bool) -> Document:
    """A new stage of a kind at what is left to bridge there, or at what the stage that it replaces does."""
    if change.kind not in KINDS:
        raise InputErrors([InputError("Kind of stage", change.kind, "is not known", accepted=", ".join(KINDS))])
    machine = Machine.model_validate(document)
    plan = machine.plans[change.plan]
    line = solve_line(machine, plan)
    wish = wish_for(machine, plan, line, at)
    if like and line is not None:
        wish = wish_like(machine, plan, line, at)
    return begin(family_of(change.kind), catalog, wish).model_dump(mode="json")


def _renumber(plan: Document, number: Callable[[int], int | None]) -> None:
    """Let what is known of the shafts follow them to their new places; None drops it."""
    moved = ((number(part["shaft"]), part) for part in plan["shafts"])
    plan["shafts"] = [{**part, "shaft": place} for place, part in moved if place is not None]


def _room_for_one_more(links: list[Document]) -> None:
    if len(links) >= MOST_LINKS:
        raise InputErrors([InputError("Stages", len(links) + 1, "are too many", accepted=f"up to {MOST_LINKS}")])


def _add_link(document: Document, change: Change, catalog: Catalog) -> None:
    """A new link after shaft index + 1: every shaft beyond it moves up, the last one with it."""
    links = _links(document, change)
    _room_for_one_more(links)
    at = max(0, min(change.index, len(links)))
    links.insert(at, _begun(document, change, catalog, at, like=False))
    plan = _plan(document, change)
    plan["links"] = links
    _renumber(plan, lambda shaft: shaft if shaft <= at + 1 else shaft + 1)


def _copy_link(document: Document, change: Change, catalog: Catalog) -> None:
    """The same link once more behind itself."""
    links = _link_at(document, change)
    _room_for_one_more(links)
    links.insert(change.index + 1, deepcopy(links[change.index]))
    plan = _plan(document, change)
    plan["links"] = links
    _renumber(plan, lambda shaft: shaft if shaft <= change.index + 2 else shaft + 1)


def _remove_link(document: Document, change: Change, catalog: Catalog) -> None:
    links = _link_at(document, change)
    del links[change.index]
    plan = _plan(document, change)
    plan["links"] = links
    gone = change.index + 2
    _renumber(plan, lambda shaft: None if shaft == gone else shaft if shaft < gone else shaft - 1)


def _move_link(document: Document, change: Change, catalog: Catalog) -> None:
    links = _link_at(document, change)
    links.insert(moved_to(change, len(links)), links.pop(change.index))
    _plan(document, change)["links"] = links


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
    _plan(document, change)["links"] = links


def _refresh_link(document: Document, change: Change, catalog: Catalog) -> None:
    """Let a link take the data that the lists have of its part now."""
    link = _link_at(document, change)[change.index]
    found = [catalog.find(part, str(link.get("designation"))) for part in family_of(link["kind"]).parts]
    listed = next((item for item in found if item is not None), None)
    if listed is None or "data" not in link:
        raise InputErrors([InputError("Stage", change.index + 1, "has no part that is on a list here")])
    link["data"] = listed.data.model_dump(mode="json")
    _plan(document, change)["links"][change.index] = link


def _add_shaft(document: Document, change: Change, catalog: Catalog) -> None:
    """Room for what is known of a shaft, counted from the motor at index 0."""
    plan, number = _plan(document, change), change.index + 1
    most = len(plan["links"]) + 1
    if not 1 <= number <= most:
        raise InputErrors([InputError("Shaft", number, "does not exist", accepted=f"1 to {most}")])
    if all(part["shaft"] != number for part in plan["shafts"]):
        plan["shafts"] = [*plan["shafts"], {"shaft": number}]


def _remove_shaft(document: Document, change: Change, catalog: Catalog) -> None:
    """Forget what is known of a shaft."""
    _renumber(_plan(document, change), lambda shaft: None if shaft == change.index + 1 else shaft)


def _steps(document: Document, change: Change) -> Document:
    link = _link_at(document, change)[change.index]
    if "steps" not in link:
        raise InputErrors([InputError("Stage", change.index + 1, "has no steps")])
    return link


def _add_step(document: Document, change: Change, catalog: Catalog) -> None:
    link = _steps(document, change)
    if len(link["steps"]) >= MOST_STEPS:
        raise InputErrors([InputError("Steps", len(link["steps"]) + 1, "are too many", accepted=f"up to {MOST_STEPS}")])
    link["steps"] = [*link["steps"], dict(link["steps"][-1])]


def _remove_step(document: Document, change: Change, catalog: Catalog) -> None:
    link = _steps(document, change)
    if len(link["steps"]) > 1:
        link["steps"] = link["steps"][:-1]


def _room_for_a_plan(document: Document) -> None:
    if len(document["plans"]) >= MOST_PLANS:
        raise InputErrors(
            [InputError("Plans", len(document["plans"]) + 1, "are too many", accepted=f"up to {MOST_PLANS}")]
        )


def _duplicate_plan(document: Document, change: Change, catalog: Catalog) -> None:
    _room_for_a_plan(document)
    copy = deepcopy(_plan(document, change))
    taken = {plan["name"] for plan in document["plans"]}
    copy["name"] = next(name for name in (f"Plan {letter}" for letter in "BCDEFGHIJ") if name not in taken)
    document["plans"].append(copy)


def _add_plan(document: Document, change: Change, catalog: Catalog) -> None:
    """A whole plan beside the others, as a search made it; one of a name that is there is numbered."""
    added = _json("Plan", change.part)
    if not isinstance(added, dict):
        raise InputErrors([InputError("Plan", change.part[:40], NAMED)])
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
        raise InputErrors([InputError("Plan", 1, "is the only one, so it stays")])
    del document["plans"][change.plan]


def _pick_plan(document: Document, change: Change, catalog: Catalog) -> None:
    """The plan at ``index`` stands first: it is the one that the floor shows."""
    if not 0 <= change.index < len(document["plans"]):
        raise InputErrors(
            [InputError("Plan", change.index + 1, "does not exist", accepted=f"1 to {len(document['plans'])}")]
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
        raise InputErrors([InputError("Source", change.kind, "is not known", accepted=", ".join(known))])
    plan = _plan(document, change)
    if plan["source"] is None or plan["source"]["kind"] != change.kind:
        plan["source"] = {"kind": change.kind, **source_kind(change.kind).starter}


def _take_stock(document: Document, change: Change, catalog: Catalog) -> None:
    """A motor from the stock list; circuit and cord stay as they were."""
    found = catalog.find(SOURCE, change.kind)
    if found is None:
        raise InputErrors([InputError("Stock motor", change.kind, "is not in the list")])
    plan = _plan(document, change)
    taken = found.data.model_dump(mode="json")
    before = plan["source"] or {}
    plan["source"] = {
        **taken,
        **{name: before[name] for name in ("supply", "inverter") if name in before and name in taken},
    }


def _add_segment(document: Document, change: Change, catalog: Catalog) -> None:
    cycle = document["duty"]["cycle"]
    if len(cycle) >= MOST_SEGMENTS:
        raise InputErrors([InputError("Duty cycle", len(cycle) + 1, "is too long", accepted=f"up to {MOST_SEGMENTS}")])
    last = cycle[-1] if cycle else {"seconds": 30.0, "torque_share": 1.0, "speed_share": 1.0}
    cycle.append(dict(last))


def _remove_segment(document: Document, change: Change, catalog: Catalog) -> None:
    document["duty"]["cycle"] = document["duty"]["cycle"][:-1]


def _log_edit(change_log: Callable[[Document, Change], None]) -> Callable[[Document, Change, Catalog], None]:
    return lambda document, change, catalog: change_log(document["log"], change)


OPERATIONS: dict[str, Callable[[Document, Change, Catalog], None]] = {
    "add_link": _add_link,
    "copy_link": _copy_link,
    "remove_link": _remove_link,
    "move_link": _move_link,
    "swap_link": _swap_link,
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
    "fill_typical": _fill_typical,
    "take_as_own": _take_as_own,
    "add_load": lambda document, change, _: need_edits.add_load(document["need"], change.kind),
    "drop_load": lambda document, change, _: need_edits.drop_load(document["need"], change.kind),
    "choose_end": _choose_end,
    "choose_source": _choose_source,
    "take_stock": _take_stock,
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
    "fill_typical": "Starting values filled in",
    "take_as_own": "Starting values taken as right",
    "add_load": "Further load added",
    "drop_load": "Further load taken off",
    "choose_end": "End of the line changed",
    "choose_source": "Source chosen",
    "take_stock": "Motor taken from stock",
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


def _label(document: Document, change: Change) -> str:
    if change.operation:
        return LABELS[change.operation]
    paths = [*change.sets, *change.replacements]
    if len(paths) == 1:
        return f"{describe(document, paths[0]).title} changed"
    return f"{len(paths)} values changed"
