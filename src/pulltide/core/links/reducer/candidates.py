"""Listed reducers as stages, for a search."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from pulltide.core.candidates import Candidate, Stages
from pulltide.core.catalog import Catalog
from pulltide.core.links.reducer import tables
from pulltide.core.links.reducer.inputs import Reducer


def candidates(catalog: Catalog) -> Iterator[Candidate]:
    """Every unit on the lists that has a price; a unit on the shelf is bought already and costs nothing."""
    for item in catalog.of(tables.PART):
        unit: tables.Unit = item.data  # type: ignore[assignment]
        price = 0.0 if item.origin == "shelf" else unit.price_index
        if price is None:
            continue
        bought = () if item.origin == "shelf" else (item.id,)
        yield Candidate(parts=bought, price=price, shape=(item.id,), alike=item.id, made_of=(item.id,))


def build(shape: tuple[Any, ...], catalog: Catalog) -> Reducer:
    """The link of a candidate."""
    (name,) = shape
    return Reducer(designation=name, data=catalog.named(tables.PART, name, "Reducer").data)


STAGES = Stages(2, candidates, build, most=1, by_shape=False)
