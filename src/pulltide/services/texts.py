"""Which texts are taken in: no zero bytes, half characters or control characters, and no name that shows nothing."""

from __future__ import annotations

import unicodedata
from collections.abc import Iterator
from typing import Any

from pulltide.core.errors import InputError, InputErrors
from pulltide.words import say

#: Control characters that text may hold.
ALLOWED_CONTROLS = frozenset("\n\r\t")
#: No characters, by Unicode; the program writes braces of a name with some of them.
NO_CHARACTERS = frozenset(map(chr, range(0xFDD0, 0xFDF0)))
#: Fields whose text is a name, and must show something.
NAMES = frozenset({"name", "last_shaft", "designation"})
#: Longest name of a person or of something that a shop keeps.
MAX_NAME = 60
#: How deep a document may be nested, and how many of its texts are told of.
DEEPEST, MAX_TOLD = 40, 20


def why_unusable(text: str, *, is_name: bool = False) -> str:
    """Why a text is not taken in; empty for one that is.

    >>> why_unusable("a\\ufdd0b")
    'holds a character that cannot be stored'
    >>> why_unusable("drum"), why_unusable("a\\0b"), why_unusable("\\u200b \\u202e", is_name=True)
    ('', 'holds a character that cannot be stored', 'shows nothing: it holds only blanks or marks')
    """
    kinds = [unicodedata.category(char) for char in text]
    controls = [char for char, kind in zip(text, kinds, strict=True) if kind == "Cc" and char not in ALLOWED_CONTROLS]
    if controls or "Cs" in kinds or not set(text).isdisjoint(NO_CHARACTERS):
        return say("holds a character that cannot be stored")
    if is_name and text and all(kind in ("Cf", "Cc", "Zs", "Zl", "Zp") for kind in kinds):
        return say("shows nothing: it holds only blanks or marks")
    return ""


def unusable_texts(raw: Any) -> list[InputError]:
    """The faults of every text in a document, by its path."""
    found = []
    for path, text in _texts(raw, ()):
        name = path[-1] if path else ""
        reason = why_unusable(text, is_name=name in NAMES)
        if reason:
            shown = "".join(char if char.isprintable() else "�" for char in text[:40])
            error = InputError(name or say("File"), shown, reason)
            error.path = ".".join(path)
            found.append(error)
        if len(found) == MAX_TOLD:
            break
    return found


def _texts(raw: Any, path: tuple[str, ...]) -> Iterator[tuple[tuple[str, ...], str]]:
    if len(path) > DEEPEST:
        return
    if isinstance(raw, str):
        yield path, raw
    elif isinstance(raw, dict):
        for name, value in raw.items():
            yield (*path, say("a field")), str(name)
            yield from _texts(value, (*path, str(name)))
    elif isinstance(raw, list | tuple):
        for number, value in enumerate(raw):
            yield from _texts(value, (*path, str(number)))


def checked_name(name: str) -> str:
    """A name that shows something, without blanks at its ends or twice within. Raises InputErrors."""
    name = " ".join(name.split())
    why = why_unusable(name, is_name=True)
    if why or not name or len(name) > MAX_NAME:
        raise InputErrors(
            [
                InputError(
                    say("Name"),
                    name,
                    why or (say("is too long") if name else say("is missing")),
                    accepted=say("1 to {max_name} characters", max_name=MAX_NAME),
                )
            ]
        )
    return name
