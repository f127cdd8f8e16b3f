"""Runs one formula by name with checked inputs."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from pydantic import ValidationError

from pulltide.core.errors import ImpossibleGeometry, InputError, InputErrors
from pulltide.core.family import Method
from pulltide.core.model import READ_QUANTITY, CoreModel
from pulltide.quantities import Units, reader_for
from pulltide.services.editing import reason


def _fault(inputs: type[CoreModel], item: dict[str, Any]) -> InputError:
    name = str(item["loc"][0]) if item["loc"] else "Inputs"
    field = inputs.model_fields.get(name)
    limits = [
        str(limit) for limit in (field.metadata if field else ()) if type(limit).__name__ in ("Ge", "Gt", "Le", "Lt")
    ]
    given = item.get("input")
    inner = (item.get("ctx") or {}).get("error")
    error = InputError(
        name, "" if isinstance(given, dict | list) else given, reason(item, inner), accepted=", ".join(limits)
    )
    error.path = name
    return error


def run_method(method: Method, raw: object, units: Units) -> dict[str, Any]:
    """Result and working of a formula as plain data. Raises InputErrors naming every fault."""
    try:
        inputs = method.inputs.model_validate(raw, context={READ_QUANTITY: reader_for(units)})
    except ValidationError as error:
        raise InputErrors([_fault(method.inputs, dict(item)) for item in error.errors()]) from error
    try:
        working = method.run(inputs)
    except ImpossibleGeometry as error:
        raise InputErrors([InputError(method.title, "", str(error))]) from error
    return {
        "method": method.name,
        "title": working.title,
        "inputs": inputs.model_dump(mode="json"),
        "result": {"value": working.value, "unit": working.unit},
        "working": [{**asdict(step), "inputs": dict(step.inputs)} for step in working.steps],
    }
