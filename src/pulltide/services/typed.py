"""A record out of a filled form, or every field of it that is wrong, by the words on its label."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, TypeVar

from pydantic import ValidationError

from pulltide.core.errors import InputError, InputErrors
from pulltide.core.model import READ_QUANTITY, CoreModel
from pulltide.quantities import Units
from pulltide.quantities.reading import reader_for
from pulltide.services.fields import described
from pulltide.services.raw_machines import reason
from pulltide.words import say

Record = TypeVar("Record", bound=CoreModel)


def record_from(model: type[Record], typed: Mapping[str, Any], units: Units) -> Record:
    """The record of typed values, quantities read in a person's units. Raises InputErrors naming every fault."""
    try:
        return model.model_validate(dict(typed), context={READ_QUANTITY: reader_for(units)})
    except ValidationError as error:
        raise InputErrors([_fault(model, item, units) for item in error.errors()]) from error


def _fault(model: type[CoreModel], item: Any, units: Units) -> InputError:
    field = str(item["loc"][0]) if item["loc"] else ""
    about = described(model.model_fields[field], field, model) if field in model.model_fields else None
    inner, given = item.get("ctx", {}).get("error"), item.get("input")
    echoed = "" if isinstance(given, dict) else given
    title, accepted = (about.title, about.accepted(units)) if about else (field or say("Entry"), "")
    return InputError(title, echoed, reason(dict(item), inner, units), accepted=accepted)
