"""The pieces of a flat or round belt stage: none is on a list."""

from __future__ import annotations

from collections.abc import Iterator

from pulltide.core.catalog import Catalog
from pulltide.core.labels import choice, phrase
from pulltide.core.links.plain_belt import tables
from pulltide.core.links.plain_belt.inputs import PlainBelt
from pulltide.core.piece import Piece


def bill(link: PlainBelt, catalog: Catalog) -> Iterator[Piece]:
    """Two pulleys and the belts."""
    flat = not tables.belts()[link.belt].is_round
    for side, diameter in (("driver", link.driver_diameter_mm), ("driven", link.driven_diameter_mm)):
        face = f", for a belt {{{link.width_mm}|mm}} wide" if flat else ""
        yield Piece(
            what=f"{phrase(side.title())} {phrase('flat' if flat else 'round')} pulley {{{diameter}|mm}}{phrase(face)}",
            side=side,
        )
    what = f"Flat belt: {choice(link.belt)}" if flat else f"Round belt: {choice(link.belt)}"
    yield Piece(what=what, count=link.belts, kind="belt")
