"""The catalog that ships with the program: every family's lists, and the motors."""

from __future__ import annotations

from functools import cache

from pulltide.core.catalog import Catalog
from pulltide.core.links import FAMILIES
from pulltide.core.sources.stock import shipped_sources


@cache
def shipped_catalog() -> Catalog:
    """All shipped lists. A shop's own lists and its shelf are added to it at the edge."""
    links = tuple(item for family in FAMILIES for item in family.shipped())
    return Catalog(links + shipped_sources())
