"""A machine file read in where a machine of that name stands already: which one it is, and in what the two differ."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import Any

from pulltide.core.machine import Machine
from pulltide.services.fields import NoSuchField, describe
from pulltide.services.machines import StoredMachine, UnreadableMachine
from pulltide.words import say

#: So many differences are told one by one.
MAX_TOLD = 40
#: Data that follow from a name that is told anyway.
PLAIN = frozenset({"data", "format_version"})


@dataclass(frozen=True, slots=True)
class FieldDifference:
    """One field that differs: where it is, its title and unit, its value here and in the file."""

    place: str
    title: str
    unit: str
    here: Any
    there: Any


def same_named(machine: Machine, floor: Iterable[StoredMachine | UnreadableMachine]) -> StoredMachine | None:
    """The machine on the floor that goes by the name of another; the last changed one where there are several."""
    wanted = machine.name.strip().casefold()
    readable = (stored for stored in floor if isinstance(stored, StoredMachine))
    return next((stored for stored in readable if stored.machine.name.strip().casefold() == wanted), None)


def differences(here: Machine, there: Machine) -> tuple[FieldDifference, ...]:
    """What differs between two machines, in the order of the file; none where they are equal."""
    first, second = here.model_dump(mode="json"), there.model_dump(mode="json")
    return tuple(_walked(first, second, (), (first, second)))


def _walked(first: Any, second: Any, path: tuple[str, ...], whole: tuple[Any, Any]) -> Iterator[FieldDifference]:
    if first == second:
        return
    if isinstance(first, dict) and isinstance(second, dict) and first.get("kind") == second.get("kind"):
        for name in dict.fromkeys((*first, *second)):
            if name not in PLAIN:
                yield from _walked(first.get(name), second.get(name), (*path, name), whole)
    elif isinstance(first, list) and isinstance(second, list) and len(first) == len(second):
        for number, pair in enumerate(zip(first, second, strict=True)):
            yield from _walked(*pair, (*path, str(number)), whole)
    else:
        yield _difference(first, second, path, whole)


def _difference(first: Any, second: Any, path: tuple[str, ...], whole: tuple[Any, Any]) -> FieldDifference:
    title, unit = path[-1] if path else "", ""
    for document in whole:
        try:
            described = describe(document, ".".join(path))
        except (NoSuchField, LookupError, TypeError, AttributeError):
            continue
        title, unit = described.title, described.unit
        break
    return FieldDifference(_place(path), title, unit, _short(first), _short(second))


def _place(path: tuple[str, ...]) -> str:
    """Where a field is, in words: ``Plan 1, stage 2``."""
    words = []
    for name, number in zip(path, (*path[1:], ""), strict=True):
        if number.isdecimal() and name in ("plans", "links", "shafts", "steps", "cycle"):
            words.append(f"{say(PLACES[name])} {int(number) + 1}")
        elif name in ("need", "duty", "source"):
            words.append(say(PLACES[name]))
    return ", ".join(words)


PLACES = {
    "plans": "Plan",
    "links": "stage",
    "shafts": "shaft",
    "steps": "step",
    "cycle": "stretch",
    "need": "Need",
    "duty": "Duty",
    "source": "source",
}


def _short(value: Any) -> Any:
    """A whole part in a word or two."""
    if isinstance(value, list):
        return str(len(value) or "none")
    if isinstance(value, dict):
        return str(value.get("kind") or value.get("name") or "set").replace("_", " ")
    return value
