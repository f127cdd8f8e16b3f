"""The piece of a reducer stage: the unit itself."""

from __future__ import annotations

from collections.abc import Iterator

from pulltide.core.catalog import Catalog
from pulltide.core.links.reducer import tables
from pulltide.core.links.reducer.inputs import Reducer
from pulltide.core.piece import Piece


def bill(link: Reducer, catalog: Catalog) -> Iterator[Piece]:
    """The unit as the lists or the shelf have it."""
    item = None if link.data is None else catalog.find(tables.PART, link.designation)
    if link.data is None:
        yield Piece(what="Reducer of your own")
        return
    yield Piece(
        what="Gear reducer",
        designation=link.designation,
        price=link.data.price_index,
        mass_kg=link.data.mass_kg,
        owned=item is not None and item.origin == "shelf",
    )
