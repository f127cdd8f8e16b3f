"""Marks in a label for what only the edge can put into words: a choice, a quantity."""

from __future__ import annotations


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
