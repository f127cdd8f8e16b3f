"""The pieces of a V-belt stage."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from pulltide.core.catalog import Catalog
from pulltide.core.labels import as_is, counted, phrase
from pulltide.core.links.v_belt import tables
from pulltide.core.links.v_belt.inputs import VBelt
from pulltide.core.links.v_belt.layout import layout
from pulltide.core.piece import Piece, piece_of, wheel_of
from pulltide.core.stock import listed


def bill(link: VBelt, catalog: Catalog) -> Iterator[Piece]:
    """Two pulleys, those to change to, the belts, and an idler where there is one."""
    yield from _pulleys(link, catalog)
    if link.belt is None:
        yield Piece(what=f"V-belt {as_is(link.section)}", count=link.belts, kind="belt", missing="its length")
    else:
        row = listed(catalog, "v_belts", {"section": link.section, "designation": link.belt}, {}, count=link.belts)
        yield replace(piece_of(f"V-belt {as_is(link.belt)}", row, link.belts), kind="belt")
    if link.idler_diameter_mm is not None and link.idler != "none":
        yield Piece(what=f"Idler {{{link.idler_diameter_mm}|mm}}")


def _pulleys(link: VBelt, catalog: Catalog) -> Iterator[Piece]:
    if len(link.steps) > 1 and link.steps_are == "change_pulleys":
        yield from _changed(link, catalog)
        return
    if len(link.steps) > 1:
        for side in ("driver", "driven"):
            yield Piece(
                what=f"{phrase(side.title())} step pulley {as_is(link.section)}, {len(link.steps)} steps", side=side
            )
        return
    place = layout(link, 1)
    yield from _pulley(catalog, link, "driver", place.driver_outside_mm)
    if place.drum:
        yield Piece(what=f"Flat drum {{{place.driven_outside_mm}|mm}}")
    else:
        yield from _pulley(catalog, link, "driven", place.driven_outside_mm)


def _changed(link: VBelt, catalog: Catalog) -> Iterator[Piece]:
    """Every size of change pulleys once on each side."""
    places = [layout(link, step) for step in range(1, len(link.steps) + 1)]
    for outside in dict.fromkeys(place.driver_outside_mm for place in places):
        yield from _pulley(catalog, link, "driver", outside)
    for outside in dict.fromkeys(place.driven_outside_mm for place in places):
        yield from _pulley(catalog, link, "driven", outside)


def _pulley(catalog: Catalog, link: VBelt, side: str, outside_mm: float) -> Iterator[Piece]:
    grooves = counted(link.belts, "{0} groove", "{0} grooves")
    groove = tables.section(link.section).plain
    row = listed(catalog, "v_pulleys", {"section": groove, "grooves": str(link.belts)}, {"outside_mm": outside_mm})
    what = f"{phrase(side.title())} pulley, {grooves}, {as_is(groove)} {{{outside_mm}|mm}} outside"
    yield from wheel_of(what, row, side)
