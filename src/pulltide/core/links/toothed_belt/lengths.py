"""The same pulleys on the listed timing belts nearest in length."""

from __future__ import annotations

from collections.abc import Iterator

from pulltide.core.catalog import Catalog
from pulltide.core.links.toothed_belt import tables
from pulltide.core.links.toothed_belt.inputs import ToothedBelt

#: How many lengths are shown.
COUNT = 5


def lengths(link: ToothedBelt, catalog: Catalog) -> Iterator[tuple[str, ToothedBelt]]:
    """Belts by name, shortest first; the one in use among them."""
    now = link.belt_teeth
    if now is None:
        return
    listed = sorted(tables.listed_belts(catalog, link.profile), key=lambda teeth: abs(teeth - now))[:COUNT]
    for teeth in sorted({*listed[: COUNT - 1], now}):
        yield (
            tables.belt_name(link.profile, teeth),
            link.model_copy(update={"belt_teeth": teeth, "center_distance_mm": None}),
        )
