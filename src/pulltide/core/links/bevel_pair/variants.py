"""Neighboring bevel pairs, and the link made consistent after an edit."""

from __future__ import annotations

from collections.abc import Iterator
from math import floor, pi
from typing import Any

from pulltide.core.catalog import Catalog
from pulltide.core.family import Variant
from pulltide.core.links.bevel_pair.inputs import BevelPair
from pulltide.core.spur import neighbors


def starter(catalog: Catalog) -> BevelPair:
    """A plain start: module 4, 20 to 40 teeth at right angles."""
    return BevelPair(module_mm=4.0, driver_teeth=20, driven_teeth=41, face_width_mm=26.0)


def reconcile(before: BevelPair, raw: dict[str, Any], catalog: Catalog) -> dict[str, Any]:
    """A pitch that is entered takes the place of the other kind of pitch."""
    if raw.get("diametral_pitch") is not None and raw.get("module_mm") is not None:
        changed = raw["diametral_pitch"] != before.diametral_pitch
        return {**raw, "module_mm" if changed else "diametral_pitch": None}
    return raw


def _exists(link: BevelPair, driver: int, driven: int) -> bool:
    """Whether a pair of counts is within range and its cones can be."""
    cones = link.model_copy(update={"driver_teeth": driver, "driven_teeth": driven}).cones
    return min(driver, driven) >= 10 and max(driver, driven) <= 200 and max(cones) < pi / 2


def variants(link: BevelPair, catalog: Catalog) -> Iterator[Variant]:
    """Stock changes, smallest first in each direction; faces stay a usual part of the cone."""
    usual = float(floor(min(0.3 * link.cone_mm, 10 * link.module)))
    if link.face_width_mm > usual:
        yield Variant("narrower", f"Use a {{{usual}|mm}} face", link.model_copy(update={"face_width_mm": usual}))
    yield from neighbors.teeth(link, catalog, lambda driver, driven: _exists(link, driver, driven))
    yield from neighbors.wider(link, usual)
    yield from neighbors.harder(link)
    for module in neighbors.larger_modules(link.module):
        width = min(float(round(link.face_width_mm * module / link.module)), 300.0)
        sizes = {"module_mm": module, "diametral_pitch": None, "face_width_mm": width}
        yield Variant("module", f"Use module {module:g}", link.model_copy(update=sizes))
    if link.made == "cast":
        yield Variant("better teeth", "Use cut teeth", link.model_copy(update={"made": "cut"}))
