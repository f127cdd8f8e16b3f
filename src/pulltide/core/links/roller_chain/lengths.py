"""The same sprockets on chains of an even number of links nearest in length."""

from __future__ import annotations

from collections.abc import Iterator

from pulltide.core.catalog import Catalog
from pulltide.core.links.roller_chain.inputs import RollerChain

#: Links fewest and most away from those in use; pairs of them, since an odd chain needs an offset link.
REACH = 4


def lengths(link: RollerChain, catalog: Catalog) -> Iterator[tuple[str, RollerChain]]:
    """Chains by their number of links, shortest first."""
    now = link.pitches
    if now is None:
        return
    even = now - now % 2
    for pitches in sorted({now, *range(even - REACH, even + REACH + 1, 2)}):
        if pitches >= 16:
            yield f"{pitches} links", link.model_copy(update={"pitches": pitches, "center_distance_mm": None})
