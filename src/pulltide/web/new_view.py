"""Beginning a machine: three ways to begin, and a gallery of what it does."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache
from itertools import groupby

from pulltide.core.needs import NEED_KINDS
from pulltide.core.needs.contract import NeedKind
from pulltide.presentation.painting import Picture, icon
from pulltide.quantities import DEFAULT_UNITS
from pulltide.words import worded

#: What is wrong with a machine that stands there, in plain words.
TROUBLES = (
    "noisy",
    "slips",
    "too slow",
    "too fast",
    "gets hot",
    "trips",
    "will not start",
    "eats belts",
    "strips teeth",
    "shakes",
)


@dataclass(frozen=True, slots=True)
class Tile:
    """One kind of machine: its drawing and the words that it is found by."""

    kind: str
    title: str
    words: str
    drawing: Picture


@dataclass(frozen=True, slots=True)
class Shelf:
    """Kinds of machine that do alike things."""

    title: str
    tiles: tuple[Tile, ...]


@cache
def gallery() -> tuple[Shelf, ...]:
    """Every kind of machine, by what it does; drawn once, since nothing of it depends on a person."""
    groups = [
        Shelf(worded(group), tuple(_tiles(kinds))) for group, kinds in groupby(NEED_KINDS, key=lambda kind: kind.group)
    ]
    # what is measured on a machine that stands there comes after what is still to be built
    return (*groups[1:], groups[0])


def _tiles(kinds: Iterator[NeedKind]) -> Iterator[Tile]:
    for kind in kinds:
        sheet = kind.model.model_validate(kind.starter)
        yield Tile(kind.kind, worded(kind.title), worded(kind.words), icon(kind.sketch(sheet), DEFAULT_UNITS))
