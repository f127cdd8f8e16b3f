"""Runs one formula by name with checked inputs."""

from __future__ import annotations

import json
from dataclasses import asdict
from importlib import resources
from math import isfinite
from typing import Any

from pydantic import ValidationError

from pulltide.core.errors import ImpossibleGeometry, InputError, InputErrors, UnknownName
from pulltide.core.family import Method
from pulltide.core.findings import Finding
from pulltide.core.model import READ_QUANTITY, CoreModel
from pulltide.core.working import Working, step_report
from pulltide.quantities import DEFAULT_UNITS, Units, reader_for
from pulltide.services.fields import described
from pulltide.services.raw_machines import reason
from pulltide.services.schema import schema_of_record
from pulltide.services.texts import unusable_texts
from pulltide.words import filled, filled_throughout, say, worded


def _fault(inputs: type[CoreModel], item: dict[str, Any], units: Units) -> InputError:
    name = ".".join(str(part) for part in item["loc"])
    field = inputs.model_fields.get(str(item["loc"][0])) if len(item["loc"]) == 1 else None
    about = described(field, name, inputs) if field else None
    given = item.get("input")
    inner = (item.get("ctx") or {}).get("error")
    if isinstance(inner, UnknownName):
        error: InputError = inner
    elif item["type"] == "extra_forbidden":
        error = InputError(name, given, say("is no input of this formula"), accepted=", ".join(inputs.model_fields))
    else:
        shown = "" if given is None or isinstance(given, dict | list) else given
        accepted = about.accepted(units) if about else ""
        error = InputError(
            about.title if about else (name or say("Inputs")), shown, reason(item, inner, units), accepted=accepted
        )
    error.path = name
    return error


def schema_of(method: Method) -> dict[str, Any]:
    """JSON Schema of a formula's inputs, with the results that it gives and an example that gives them."""
    schema = schema_of_record(method.inputs)
    example = next((case["inputs"] for case in published() if case["method"] == method.name), None)
    if example is not None:
        made = method.run(method.inputs.model_validate(example, context={READ_QUANTITY: reader_for(DEFAULT_UNITS)}))
        schema["examples"] = [example]
        schema["results"] = [{"key": one.key, "name": worded(one.name), "unit": one.unit} for one in made.results]
    else:
        schema["results"] = [{"key": key, "name": worded(name), "unit": unit} for key, name, unit in method.results]
    return schema


#: What is said of figures that no number comes out of.
NO_NUMBER = "is too large or too small beside the others to give a number"


def published() -> list[dict[str, Any]]:
    """Every published example: id, source, method, inputs, expected values by symbol, tolerance as a share."""
    text = resources.files("pulltide.services").joinpath("data", "published.json").read_text("utf-8")
    cases: list[dict[str, Any]] = json.loads(text)
    return cases


def run_method(method: Method, raw: object, units: Units) -> dict[str, Any]:
    """Result and working of a formula as plain data. Raises InputErrors naming every fault."""
    unusable = unusable_texts(raw)
    if unusable:
        raise InputErrors(unusable)
    try:
        inputs = method.inputs.model_validate(raw, context={READ_QUANTITY: reader_for(units)})
    except ValidationError as error:
        raise InputErrors([_fault(method.inputs, dict(item), units) for item in error.errors()]) from error
    try:
        working = method.run(inputs)
    except InputError as error:
        raise InputErrors([error]) from error
    except ImpossibleGeometry as error:
        raise InputErrors([InputError(worded(method.title), "", filled(str(error), units))]) from error
    except ArithmeticError as error:
        raise InputErrors([InputError(worded(method.title), "", say(NO_NUMBER))]) from error
    _sensible(method, working)
    answer: dict[str, Any] = {
        "method": method.name,
        "title": working.title,
        "inputs": inputs.model_dump(mode="json"),
        "result": {"value": working.value, "unit": working.unit},
        "results": [asdict(result) for result in working.results],
        "findings": [_finding(finding) for finding in working.findings],
        "working": [step_report(step) for step in working.steps],
        "more": [
            {"title": more.title, "working": [step_report(step) for step in more.steps]} for more in working.others
        ],
    }
    return {key: value if key == "inputs" else filled_throughout(value, units) for key, value in answer.items()}


def _sensible(method: Method, working: Working) -> None:
    """Raises InputErrors where what was put in is so large or small that a figure is no number any more."""
    steps = [step for one in (working, *working.others) for step in one.steps]
    values = [value for step in steps for value in (step.value, *step.inputs.values())]
    values += [result.value for result in working.results if result.value is not None]
    if not all(isfinite(value) for value in values):
        raise InputErrors([InputError(worded(method.title), "", say(NO_NUMBER))])


def _finding(finding: Finding) -> dict[str, Any]:
    answer = {"check": finding.code, "severity": finding.severity.value, "fact": finding.fact}
    return {**answer, "measured": finding.measured, "limit": finding.limit, "unit": finding.rule.unit}
