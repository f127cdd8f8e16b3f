"""The places of a machine, in the order of the rail. A new one is one folder here and one name in ``PLACES``."""

from __future__ import annotations

from pulltide.web.places import compare, duty, fit, log, need, runup, sheet, source, train, ways
from pulltide.web.places.contract import Context, Helpers, Place, Summary

__all__ = ["PLACES", "Context", "Helpers", "Place", "Summary", "place_of"]

PLACES: tuple[Place, ...] = (
    need.PLACE,
    duty.PLACE,
    source.PLACE,
    train.PLACE,
    ways.PLACE,
    fit.PLACE,
    runup.PLACE,
    compare.PLACE,
    sheet.PLACE,
    log.PLACE,
)


def place_of(key: str) -> Place | None:
    """The place of a key, None if there is none."""
    return next((place for place in PLACES if place.key == key), None)
