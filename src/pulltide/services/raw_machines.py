"""A machine out of raw data, or every fault of it as field, value and accepted range."""

from __future__ import annotations

import json
from typing import Any

from pydantic import ValidationError

from pulltide.core.catalog import CATALOG, Catalog
from pulltide.core.ends import END_KINDS
from pulltide.core.errors import InputError, InputErrors, UnknownName
from pulltide.core.links import FAMILIES
from pulltide.core.machine import FORMAT_VERSION, Machine
from pulltide.core.model import READ_QUANTITY
from pulltide.core.run_log.instruments import READS
from pulltide.core.shipped import shipped_catalog
from pulltide.core.sources import SOURCE_KINDS
from pulltide.quantities import Units, reader_for
from pulltide.services import need_edits
from pulltide.services.documents import upgraded
from pulltide.services.fields import NoSuchField, describe
from pulltide.services.texts import unusable_texts
from pulltide.words import filled, say

KINDS = tuple(family.kind for family in FAMILIES)
#: Tags that a validation puts into the place of a fault.
TAGS = frozenset(
    (*KINDS, *need_edits.NEED_NAMES, *(kind.kind for kind in SOURCE_KINDS), *(kind.kind for kind in END_KINDS))
)
NAMED = "is not a set of named values"


def read_machine(raw: object, units: Units, catalog: Catalog | None = None) -> Machine:
    """A machine from raw data; text with units is read, parts are looked up by name in a catalog, the shipped one by
    default. Raises InputErrors naming every fault.
    """
    version = raw.get("format_version") if isinstance(raw, dict) else None
    if isinstance(version, int) and version > FORMAT_VERSION:
        said = say("was written by a newer version of this program")
        error = InputError(
            say("Version of the format"),
            version,
            said,
            accepted=say("1 to {format_version}", format_version=FORMAT_VERSION),
        )
        raise InputErrors([at_path(error, "format_version")])
    unusable = unusable_texts(raw)
    if unusable:
        raise InputErrors(unusable)
    try:
        return Machine.model_validate(upgraded(raw), context=context_of(units, catalog))
    except ValidationError as error:
        raise InputErrors(faults(raw, error, units)) from error


def context_of(units: Units, catalog: Catalog | None) -> dict[str, object]:
    """What a validation is told: how texts are read, and where parts are looked up."""
    return {READ_QUANTITY: reader_for(units), CATALOG: catalog or shipped_catalog()}


def faults(raw: object, error: ValidationError, units: Units) -> list[InputError]:
    """Every fault of a validation as field, value and accepted range, in a person's units."""
    items: list[dict[str, Any]] = [dict(item) for item in error.errors()]
    places: list[tuple[Any, ...]] = [tuple(item["loc"]) for item in items]

    def is_echo(item: dict[str, Any]) -> bool:
        """A list refused only because one of its entries was refused."""
        here = tuple(item["loc"])
        return item["type"] == "too_short" and any(len(p) > len(here) and p[: len(here)] == here for p in places)

    wrong = [_fault(raw, item, units) for item in items if not is_echo(item)]
    more = len(wrong) - MAX_FAULTS
    if more > 0:
        wrong = [*wrong[:MAX_FAULTS], InputError(say("File"), "", say("has {more} more faults", more=more))]
    return wrong


#: So many faults of one submission are told one by one.
MAX_FAULTS = 25


def _fault(raw: object, item: dict[str, Any], units: Units) -> InputError:
    location = _without_tags(item["loc"])
    path = ".".join(str(part) for part in location)
    inner = (item.get("ctx") or {}).get("error")
    try:
        described = describe(raw, path) if location else None
    except (NoSuchField, LookupError, TypeError, AttributeError):
        described = None
    title = described.title if described else (path or say("File"))
    given = item.get("input")
    shown = "" if isinstance(given, dict | list) else given
    if isinstance(inner, UnknownName):
        return at_path(InputError(inner.field, inner.given, inner.reason, accepted=inner.accepted), path)
    accepted = described.accepted(units) if described else ""
    return at_path(
        InputError(title, "" if shown is None else shown, reason(item, inner, units), accepted=accepted), path
    )


def _without_tags(location: tuple[Any, ...]) -> list[Any]:
    """The place of a fault without the kinds that a validation names; that of a reading follows its number."""
    kept = [part for part in location if part not in TAGS]
    where = kept.index("readings") + 2 if "readings" in kept else len(kept)
    return [part for number, part in enumerate(kept) if number != where or part not in READS]


def at_path(error: InputError, path: str) -> InputError:
    """The same fault at a place of the document."""
    error.path = path
    return error


#: Why a value is refused, by the kind of fault that the validation names.
WHY = {
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


def reason(item: dict[str, Any], inner: object, units: Units) -> str:
    """Why a validation refused a value, in plain words and a person's units."""
    kind = str(item["type"])
    if inner is not None:
        return filled(str(inner), units)
    if kind in ("greater_than", "greater_than_equal", "less_than", "less_than_equal"):
        return say("is out of range")
    return say(WHY.get(kind, "is not of a kind that is read here"))


def json_of(path: str, text: str) -> Any:
    """What a text holds as JSON. Raises InputErrors naming the path."""
    try:
        return json.loads(text)
    except (ValueError, RecursionError) as error:
        raise InputErrors([InputError(path, text[:40], say("is not JSON"))]) from error
