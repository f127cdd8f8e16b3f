"""Marks in a text for what only the edge can put into words: a choice, a quantity, a name, words within words.

A sentence with marks in place of everything that changes is the same sentence every time, so that a
catalog can hold it. Numbers need no mark: the edge knows them.
"""

from __future__ import annotations

from collections.abc import Iterable

#: Braces and bars of a name are written with characters that no text may hold, until the edge shows them.
HIDE = str.maketrans({"{": "\ufdd0", "|": "\ufdd1", "}": "\ufdd2"})


def choice(code: str) -> str:
    """A choice by its code, to be put into words at the edge.

    >>> choice("bare_metal")
    '{bare_metal|choice}'
    """
    return f"{{{code}|choice}}"


def quantity(value: float, unit: str) -> str:
    """A quantity in a unit of the core, to be put into a person's units at the edge.

    >>> quantity(152.4, "mm"), quantity(0.1 + 0.2, "kg")
    ('{152.4|mm}', '{0.3|kg}')
    """
    return f"{{{value:.6g}|{unit}}}"


def as_is(name: object) -> str:
    """What is the same in every language: a name that a person gave, or a designation.

    >>> as_is("B68")
    '{B68|as is}'
    """
    return f"{{{str(name).translate(HIDE)}|as is}}"


def phrase(words: str) -> str:
    """Words of the core inside others.

    >>> "Bends at " + phrase("the near wheel")
    'Bends at {the near wheel|phrase}'
    """
    return f"{{{words}|phrase}}"


def inside(title: str) -> str:
    """A title of the core inside a sentence, where it begins with a small letter.

    >>> "Need of the last shaft: " + inside("Drum")
    'Need of the last shaft: {Drum|inside}'
    """
    return f"{{{title}|inside}}"


def counted(count: int, one: str, many: str) -> str:
    """One or many; ``{0}`` in both stands for how many.

    >>> counted(3, "{0} belt", "{0} belts")
    '{3|count|{0} belt|{0} belts}'
    """
    return f"{{{count}|count|{one}|{many}}}"


def together(words: Iterable[str]) -> str:
    """Words of the core one after another, with "and" between them.

    >>> together(["{24|choice}"]), together(["one", "two"])
    ('{24|choice}', '{one and two|phrase}')
    """
    first, *rest = words
    for word in rest:
        first = phrase(f"{first} and {word}")
    return first
