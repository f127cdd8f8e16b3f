"""What can be bought or lies on the shelf, handed in by whoever solves, searches or draws a form.

A plan carries the data of the parts it uses, so that a later change of a list changes no answer unasked. The catalog
is needed to choose a part, to offer neighbors, and to say where a plan and the lists differ.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from difflib import get_close_matches
from typing import Any, Literal, TypeVar

from pulltide.core.errors import UnknownName
from pulltide.core.model import CoreModel

T = TypeVar("T")
#: Where an item comes from: the lists that ship with the program, the shop's own lists, the shop's shelf.
Origin = Literal["shipped", "own_list", "shelf"]
#: Validation context key under which the edge passes the catalog that named parts are looked up in.
CATALOG = "catalog"
#: How many names are offered in place of an unknown one.
OFFERED = 8


@dataclass(frozen=True, slots=True)
class Item:
    """One part: which kind (``reducer``, ``v_belt.belt``), its name there, its data, where it comes from.

    ``group`` says under what a list shows it, ``sort`` what it is beside its size, with marks.
    """

    part: str
    id: str
    data: CoreModel
    origin: Origin = "shipped"
    group: str = ""
    sort: str = ""


@dataclass(frozen=True)
class Catalog:
    """Items by kind of part, in the order of their lists. Of one name the last counts: the shelf over the lists."""

    items: tuple[Item, ...]
    _by_part: Mapping[str, Mapping[str, Item]] = field(init=False, repr=False, compare=False)
    _known: dict[str, Any] = field(init=False, repr=False, compare=False, default_factory=dict)

    def __post_init__(self) -> None:
        found: dict[str, dict[str, Item]] = {}
        for item in self.items:
            found.setdefault(item.part, {})[item.id] = item
        object.__setattr__(self, "_by_part", found)

    def once(self, name: str, make: Callable[[], T]) -> T:
        """What follows from the items, by its name, made when it is first needed."""
        if name not in self._known:
            self._known[name] = make()
        found: T = self._known[name]
        return found

    def of(self, part: str) -> tuple[Item, ...]:
        """Every item of a kind of part."""
        return tuple(self._by_part.get(part, {}).values())

    def data(self, part: str) -> tuple[Any, ...]:
        """The data of every item of a kind of part."""
        return tuple(item.data for item in self.of(part))

    def names(self, part: str) -> tuple[str, ...]:
        """The names of a kind of part."""
        return tuple(self._by_part.get(part, {}))

    def find(self, part: str, name: str) -> Item | None:
        """An item by its name, None where no list has it."""
        return self._by_part.get(part, {}).get(name)

    def named(self, part: str, name: str, field: str) -> Item:
        """The same for what a person entered in a field. Raises UnknownName with the nearest names."""
        found = self.find(part, name)
        if found is None:
            raise UnknownName(field, name, self.near(part, name))
        return found

    def near(self, part: str, name: str) -> tuple[str, ...]:
        """Names of a kind of part like one that no list has."""
        known = self.names(part)
        first = name.split(" ")[0]
        same = [item for item in known if first and item.startswith(first)]
        alike = get_close_matches(name, known, OFFERED, 0.5)
        return tuple(dict.fromkeys((*same, *alike, *known[:OFFERED])))[:OFFERED]

    def with_items(self, items: Iterable[Item]) -> Catalog:
        """A catalog with more items; one of a name that is there replaces it."""
        return Catalog((*self.items, *items))


@dataclass(frozen=True, slots=True)
class Use:
    """A part that a link uses by name, with the data that the plan carries of it.

    ``group`` narrows the kind of part: belts of one section.
    """

    part: str
    id: str
    data: CoreModel
    group: str = ""


def counts(catalog: Catalog, part: str) -> tuple[int, ...]:
    """Tooth counts on the lists of a kind of wheel, rising."""
    return tuple(sorted({data.teeth for data in catalog.data(part)}))


class Teeth(CoreModel):
    """A wheel of which only the number of teeth matters."""

    teeth: int


def wheels(part: str, teeth: Iterable[int]) -> tuple[Item, ...]:
    """Items of a kind of wheel by their tooth counts."""
    return tuple(Item(part, str(count), Teeth(teeth=count)) for count in teeth)


def with_data(raw: object, part: str, field: str, context: object, *, own: str = "own") -> object:
    """Raw data of a link that names a part, with the part's data out of the catalog handed in.

    Data that is there stays. Raises UnknownName where the catalog has no such part.
    """
    if not isinstance(raw, dict) or raw.get("data") is not None or not isinstance(raw.get("designation"), str):
        return raw
    catalog = context.get(CATALOG) if isinstance(context, dict) else None
    if catalog is None or raw["designation"] == own:
        return raw
    return {**raw, "data": catalog.named(part, raw["designation"], field).data}
