"""The pieces of a lantern stage: neither is on a list."""

from __future__ import annotations

from collections.abc import Iterator

from pulltide.core.catalog import Catalog
from pulltide.core.labels import phrase
from pulltide.core.links.lantern.inputs import Lantern
from pulltide.core.piece import Piece


def bill(link: Lantern, catalog: Catalog) -> Iterator[Piece]:
    """Pinion and wheel."""
    pinion, wheel = ("driver", "driven") if link.drives == "pinion" else ("driven", "driver")
    size = f"{{{link.circular_pitch_mm}|mm}} pitch"
    yield Piece(what=f"Lantern pinion, {link.pins} pins of {{{link.pin_diameter_mm}|mm}}, {phrase(size)}", side=pinion)
    yield Piece(what=f"Lantern wheel, {link.wheel_teeth} t, {phrase(size)}", side=wheel)
