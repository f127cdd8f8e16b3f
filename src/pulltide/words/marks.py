"""Marks in a text of the core: what only the edge can put into words.

``{152.4|mm}`` is a quantity, ``{bare_metal|choice}`` the words for a code, ``{Drum|as is}`` the same in every language,
``{at the near end|phrase}`` another text of the core, ``{3|count|one belt|{0} belts}`` one or many.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import lru_cache

from pulltide.core.labels import HIDE

_SHOWN = {ord(hidden): chr(shown) for shown, hidden in HIDE.items()}
#: A number that stands alone; one within a designation, such as B68, does not.
_NUMBER = re.compile(r"(?<![\w.])(?:(?:(?<=[\s(:])|^)[-+])?\d(?:[\d,]*\d)?(?:\.\d+)?(?:e[-+]?\d+)?")

Mark = tuple[str, ...]


@lru_cache(maxsize=16384)
def parsed(text: str) -> tuple[str, tuple[Mark, ...]]:
    """A text with ``{0}``, ``{1}`` in place of marks and numbers, and what these hold, split at their bars.

    What is no mark, such as ``{limit}`` or a brace alone, stays.

    >>> parsed("{100.0|mm} rope of {{Hemp|as is}, tarred|phrase}, 3 strands")
    ('{0} rope of {1}, {2} strands', (('100.0', 'mm'), ('{Hemp|as is}, tarred', 'phrase'), ('3',)))
    """
    pieces: list[str] = []
    held: list[Mark] = []

    def place(mark: Mark) -> str:
        held.append(mark)
        return f"{{{len(held) - 1}}}"

    at = 0
    for start, end in _marks(text):
        pieces.append(_NUMBER.sub(lambda found: place((found[0],)), text[at:start]))
        pieces.append(place(tuple(_fields(text[start + 1 : end]))))
        at = end + 1
    pieces.append(_NUMBER.sub(lambda found: place((found[0],)), text[at:]))
    return "".join(pieces), tuple(held)


def shown_again(text: str) -> str:
    """A name with the braces and bars that it had."""
    return text.translate(_SHOWN)


def _marks(text: str) -> Iterator[tuple[int, int]]:
    """Where the outermost marks begin and end."""
    depth, start = 0, 0
    for found in re.finditer(r"[{}]", text):
        if found[0] == "{":
            depth, start = depth + 1, start if depth else found.start()
        elif depth:
            depth -= 1
            if not depth and len(list(_fields(text[start + 1 : found.start()]))) > 1:
                yield start, found.start()


def _fields(inside: str) -> Iterator[str]:
    depth, start = 0, 0
    for found in re.finditer(r"[{|}]", inside):
        if found[0] == "|" and not depth:
            yield inside[start : found.start()]
            start = found.end()
        depth += {"{": 1, "}": -1}.get(found[0], 0)
    yield inside[start:]
