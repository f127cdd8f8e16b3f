"""Marks in a label for what only the edge can put into words: a choice, a quantity."""

from __future__ import annotations


def choice(code: str) -> str:
    """A choice by its code, to be put into words at the edge.

    >>> choice("bare_metal")
    '{bare_metal|choice}'
    """
    return f"{{{code}|choice}}"
