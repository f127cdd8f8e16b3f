"""Machine documents as they were written by any version of the program, brought up to date step by step.

A step takes raw data to raw data and knows nothing of today's models, so that it stays true when they change. Steps run
on every load, import and restore; nothing stored is rewritten by reading it.
"""

from __future__ import annotations

import json
from collections.abc import Callable
from copy import deepcopy
from functools import cache
from importlib import resources
from typing import Any

from pydantic import ValidationError

from pulltide.core.errors import PulltideError
from pulltide.core.machine import FORMAT_VERSION, Machine
from pulltide.quantities import DEFAULT_UNITS
from pulltide.words import filled

Document = dict[str, Any]
#: Fields of free text, which no step may touch.
FREE_TEXT = frozenset({"name", "note", "last_shaft", "override_reason", "kind"})


class UnreadableDocument(PulltideError):
    """A stored machine that this program cannot read; its data is kept as it is. ``reasons`` say why."""

    def __init__(self, name: str, reasons: tuple[str, ...]) -> None:
        self.name = name
        self.reasons = reasons
        super().__init__(f"“{name}” cannot be read: {'; '.join(reasons)}.")


@cache
def _choices_of_version_1() -> dict[str, str]:
    text = resources.files("pulltide.services").joinpath("data", "choices_v1.json").read_text("utf-8")
    return dict(json.loads(text))


def _choices_become_codes(raw: Document) -> Document:
    """Version 1 stored the words of a choice; version 2 its code. Names of fields took to the spelling of the trade."""
    codes = _choices_of_version_1()

    def coded(value: Any) -> Any:
        if isinstance(value, dict):
            named = {str(key).replace("centre", "center"): item for key, item in value.items()}
            return {key: item if key in FREE_TEXT else coded(item) for key, item in named.items()}
        if isinstance(value, list):
            return [coded(item) for item in value]
        return codes.get(value, value) if isinstance(value, str) else value

    return dict(coded(raw))


@cache
def _units_of_version_2() -> dict[str, dict[str, Document]]:
    text = resources.files("pulltide.services").joinpath("data", "units_v2.json").read_text("utf-8")
    return dict(json.loads(text))


def _parts_bring_their_data(raw: Document) -> Document:
    """Version 2 named a stock reducer or coupling; version 3 carries its data, as the list had it then."""
    units = _units_of_version_2()
    plans = raw.get("plans")
    for plan in plans if isinstance(plans, list) else ():
        links = plan.get("links") if isinstance(plan, dict) else None
        for link in links if isinstance(links, list) else ():
            kind = link.get("kind") if isinstance(link, dict) else None
            listed = units.get(kind, {}) if isinstance(kind, str) else {}
            name = link.get("designation") if listed else None
            if isinstance(name, str) and name in listed and link.get("data") is None:
                link["data"] = dict(listed[name])
    return raw


#: Fields of version 3 that took to the names of all others in version 4.
NAMES_OF_VERSION_4 = {
    "least_blank_mm": "min_blank_mm",
    "most_blank_mm": "max_blank_mm",
    "least_diameter_mm": "min_diameter_mm",
    "most_diameter_mm": "max_diameter_mm",
    "least_drill_mm": "min_drill_mm",
    "least_hz": "min_hz",
    "most_hz": "max_hz",
    "most_rpm": "max_rpm",
    "most_backlash_arcmin": "max_backlash_arcmin",
}


def _ends_of_ranges_are_min_and_max(raw: Document) -> Document:
    """Version 3 had ``least_hz`` beside ``speed_min_rpm``; version 4 has ``min`` and ``max`` everywhere."""

    def named(value: Any) -> Any:
        if isinstance(value, dict):
            return {NAMES_OF_VERSION_4.get(key, key): named(item) for key, item in value.items()}
        return [named(item) for item in value] if isinstance(value, list) else value

    return dict(named(raw))


#: From each version to the next.
STEPS: dict[int, Callable[[Document], Document]] = {
    1: _choices_become_codes,
    2: _parts_bring_their_data,
    3: _ends_of_ranges_are_min_and_max,
}


def upgraded(raw: Any) -> Any:
    """Raw data in today's version; what is no machine document, or newer than this program, comes back as it is."""
    if not isinstance(raw, dict):
        return raw
    version = raw.get("format_version", FORMAT_VERSION)
    if isinstance(version, bool) or not isinstance(version, int) or not 1 <= version < FORMAT_VERSION:
        return raw
    document = deepcopy(raw)
    for number in range(version, FORMAT_VERSION):
        document = {**STEPS[number](document), "format_version": number + 1}
    return document


def loaded(raw: Any) -> Machine:
    """A machine out of stored data of any version. Raises UnreadableDocument with the reasons."""
    name = name_of(raw)
    version = raw.get("format_version") if isinstance(raw, dict) else None
    if isinstance(version, int) and version > FORMAT_VERSION:
        raise UnreadableDocument(name, (f"it was written by a newer version of this program (format {version})",))
    try:
        return Machine.model_validate(upgraded(raw))
    except ValidationError as error:
        raise UnreadableDocument(name, reasons_of(error)) from error


def name_of(raw: Any) -> str:
    """What a raw document calls its machine."""
    name = raw.get("name") if isinstance(raw, dict) else None
    return name if isinstance(name, str) and name.strip() else "a machine without a name"


#: So many faults of a document are told one by one.
MAX_REASONS = 5


def _said(message: str) -> str:
    return filled(message[:1].lower() + message[1:], DEFAULT_UNITS)


def reasons_of(error: ValidationError) -> tuple[str, ...]:
    """What is wrong with a document, by place, in words."""
    found = error.errors(include_url=False, include_context=False)
    found_wrong = tuple(
        f"{'.'.join(map(str, item['loc'])) or 'file'}: {_said(item['msg'])}" for item in found[:MAX_REASONS]
    )
    more = len(found) - MAX_REASONS
    return found_wrong if more <= 0 else (*found_wrong, f"and {more} more")
