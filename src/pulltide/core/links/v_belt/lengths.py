"""The same pulleys on the listed belts nearest in length."""

from __future__ import annotations

from collections.abc import Iterator

from pulltide.core.catalog import Catalog
from pulltide.core.links.v_belt import tables
from pulltide.core.links.v_belt.inputs import VBelt
from pulltide.core.links.v_belt.layout import layout

#: How many lengths are shown.
COUNT = 5


def lengths(link: VBelt, catalog: Catalog) -> Iterator[tuple[str, VBelt]]:
    """Belts by name, shortest first; the one in use among them."""
    length = layout(link, link.chosen_step).length_mm
    if link.belt is not None:
        length = tables.belt(link.section, link.belt).pitch_length_mm
    names = tables.nearest_belts(catalog, link.section, length, COUNT)
    if link.belt is not None and link.belt not in names:
        names = [*names[:-1], link.belt]
    for name in sorted(names, key=lambda name: tables.belt(link.section, name).pitch_length_mm):
        yield name, link.model_copy(update={"belt": name, "center_distance_mm": None})
