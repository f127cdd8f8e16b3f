"""What a search may take for one stage: a link that listed parts make, what it is made of, and what that costs."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any

from pulltide.core.catalog import Catalog
from pulltide.core.model import CoreModel


@dataclass(frozen=True, slots=True)
class Candidate:
    """One stage off the lists.

    ``parts`` are the names of what must be bought, a name as often as it is needed, ``made_of`` those of all of it,
    each once. ``price`` is in price units. The family makes the link of ``shape``. Of candidates that are ``alike`` a
    duty takes the same share: of one section, chain or pitch; a reducer stands for itself.
    """

    parts: tuple[str, ...]
    price: float
    shape: tuple[Any, ...]
    alike: str
    made_of: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Stages:
    """How a family offers stages to a search. ``rank`` is where they commonly stand, 1 next to the motor: speed falls
    and torque climbs toward the last shaft, so that belts come first and open gears last. Common practice, no source.

    ``most`` is how many of one rank follow each other. ``build`` makes the link of a candidate's shape. ``by_shape``
    says that the shape is all that the link is made of; else it names a part that a list may change.
    """

    rank: int
    candidates: Callable[[Catalog], Iterator[Candidate]]
    build: Callable[[tuple[Any, ...], Catalog], CoreModel]
    most: int = 2
    by_shape: bool = True
