"""The pieces of a timing belt stage."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from pulltide.core.catalog import Catalog
from pulltide.core.labels import as_is, phrase
from pulltide.core.links.toothed_belt.inputs import ToothedBelt
from pulltide.core.piece import Piece, piece_of, wheel_of
from pulltide.core.stock import listed


def bill(link: ToothedBelt, catalog: Catalog) -> Iterator[Piece]:
    """Two toothed pulleys and the belt."""
    wide = {"profile": link.profile}
    for side, teeth in (("driver", link.driver_teeth), ("driven", link.driven_teeth)):
        row = listed(catalog, "toothed_pulleys", {**wide, "teeth": str(teeth)}, {"belt_width_mm": link.width_mm})
        what = f"{phrase(side.title())} pulley {as_is(link.profile)}, {teeth} t, for a belt {{{link.width_mm}|mm}} wide"
        yield from wheel_of(what, row, side)
    if link.belt_teeth is None:
        yield Piece(
            what=f"Timing belt {as_is(link.profile)}, {{{link.width_mm}|mm}} wide", kind="belt", missing="its length"
        )
        return
    row = listed(catalog, "toothed_belts", {**wide, "teeth": str(link.belt_teeth)}, {"width_mm": link.width_mm})
    what = f"Timing belt {as_is(link.profile)}, {link.belt_teeth} t, {{{link.width_mm}|mm}} wide"
    yield replace(piece_of(what, row), kind="belt")
