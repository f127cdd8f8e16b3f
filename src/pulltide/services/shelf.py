"""What the shop owns: parts put on the shelf, to be taken for another plan. Storage is behind a small port."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Protocol

from pydantic import TypeAdapter, ValidationError

from pulltide.core.catalog import Catalog, Item, Use
from pulltide.core.errors import InputError, InputErrors
from pulltide.core.links import FAMILIES, family_of
from pulltide.core.machine import Machine
from pulltide.core.shipped import shipped_catalog
from pulltide.core.sources import AnySource
from pulltide.core.sources.stock import SOURCE
from pulltide.words import say


@dataclass(frozen=True, slots=True)
class ShelfItem:
    """One thing on the shelf: which kind of part of a catalog, its name, and its document."""

    id: str
    family: str
    name: str
    document: dict[str, Any]


class ShelfItems(Protocol):
    """What lies on a shelf, to look at."""

    def items(self, family: str = "") -> Sequence[ShelfItem]:
        """Everything of a kind of part, or everything, by name."""

    def own(self) -> tuple[Item, ...]:
        """Parts of the shop's lists and shelf that can stand beside those of the generic lists."""


class Shelf(ShelfItems, Protocol):
    """Keeps what the shop owns."""

    def put(self, family: str, name: str, document: dict[str, Any]) -> ShelfItem:
        """Put something on the shelf; a thing of the same name is replaced."""

    def remove(self, item_id: str) -> None:
        """Take something off the shelf for good; nothing happens if it is not there."""


#: How the data of each kind of part are read.
READERS: dict[str, TypeAdapter[Any]] = {
    SOURCE: TypeAdapter(AnySource),
    **{part: TypeAdapter(model) for family in FAMILIES for part, model in family.parts.items()},
}


def shop_catalog(shelf: ShelfItems) -> Catalog:
    """The shipped lists with what lies on the shelf. What this program cannot read stays on the shelf, unused."""
    units = (item for thing in shelf.items() if (item := _readable(thing)) is not None)
    return shipped_catalog().with_items((*units, *shelf.own()))


def _readable(thing: ShelfItem) -> Item | None:
    reader = READERS.get(thing.family)
    if reader is None:
        return None
    try:
        return Item(thing.family, thing.name, reader.validate_python(thing.document), "shelf")
    except ValidationError:
        return None


def kept_part(machine: Machine, plan: int, stage: int | None, name: str) -> Use:
    """What a plan would put on the shelf under a name: the unit of a stage (from 1), or its source.

    Raises InputErrors where there is nothing of the kind.
    """
    chosen = machine.plans[plan] if plan < len(machine.plans) else None
    if chosen is None:
        raise InputErrors(
            [
                InputError(
                    say("Plan"), plan + 1, say("does not exist"), accepted=say("1 to {plans}", plans=len(machine.plans))
                )
            ]
        )
    if stage is None:
        if chosen.source is None:
            raise InputErrors([InputError(say("Plan"), plan + 1, say("has no source to put on the shelf"))])
        return Use(SOURCE, name, chosen.source)
    link = chosen.links[stage - 1] if 1 <= stage <= len(chosen.links) else None
    found = None if link is None else family_of(link.kind).kept(link, name)
    if found is None:
        raise InputErrors([InputError(say("Stage"), stage, say("is no single part that could lie on a shelf"))])
    return found
