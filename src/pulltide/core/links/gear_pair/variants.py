"""Neighboring pairs of stock sizes, and the link made consistent after an edit."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil, pi
from typing import Any

from pulltide.core.catalog import Catalog
from pulltide.core.family import Variant, whole
from pulltide.core.links.gear_pair.inputs import GearPair
from pulltide.core.spur import neighbors


def starter(catalog: Catalog) -> GearPair:
    """A plain start: module 3, 20 to 60 teeth, hobbed steel, 30 mm wide."""
    return GearPair(module_mm=3.0, driver_teeth=20, driven_teeth=61, face_width_mm=30.0)


def reconcile(before: GearPair, raw: dict[str, Any], catalog: Catalog) -> dict[str, Any]:
    """A pitch that is entered takes the place of the other kind of pitch; a new idler starts as large as the driver."""
    if whole(raw.get("idlers")) and raw.get("idler_teeth") is None:
        raw = {**raw, "idler_teeth": raw["driver_teeth"]}
    if raw.get("diametral_pitch") is not None and raw.get("module_mm") is not None:
        changed = raw["diametral_pitch"] != before.diametral_pitch
        return {**raw, "module_mm" if changed else "diametral_pitch": None}
    return raw


def variants(link: GearPair, catalog: Catalog) -> Iterator[Variant]:
    """Stock changes, smallest first in each direction."""
    yield from neighbors.teeth(link, catalog, lambda driver, driven: link.mesh == "external" or driver != driven)
    yield from neighbors.wider(link, ceil(5 * pi * link.module))
    yield from neighbors.harder(link)
    for module in neighbors.larger_modules(link.module):
        width = max(link.face_width_mm, float(ceil(3 * pi * module)))
        sizes = {"module_mm": module, "diametral_pitch": None, "face_width_mm": width}
        yield Variant("module", f"Use module {module:g}", link.model_copy(update=sizes))
    if link.made == "cast":
        yield Variant("better teeth", "Use cut teeth", link.model_copy(update={"made": "cut"}))
    if link.spread_mm > 0:
        yield Variant("spread", "Set the centers to standard", link.model_copy(update={"spread_mm": 0.0}))
