"""The piece of a coupling stage."""

from __future__ import annotations

from collections.abc import Iterator

from pulltide.core.catalog import Catalog
from pulltide.core.links.coupling import tables
from pulltide.core.links.coupling.inputs import OWN, Coupling
from pulltide.core.piece import Piece, piece_of
from pulltide.core.stock import listed


def bill(link: Coupling, catalog: Catalog) -> Iterator[Piece]:
    """The coupling as the lists or the shelf have it."""
    if link.designation == OWN:
        yield Piece(what="Coupling of your own")
        return
    item = catalog.find(tables.PART, link.designation)
    if item is not None and item.origin == "shelf":
        yield Piece(what="Coupling", designation=link.designation, owned=True)
        return
    yield piece_of("Coupling", listed(catalog, "couplings", {"designation": link.designation}, {}))
