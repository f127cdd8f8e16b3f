"""Neighboring helical pairs, and the link made consistent after an edit."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil, pi, radians, sin
from typing import Any

from pulltide.core.catalog import Catalog
from pulltide.core.family import Variant
from pulltide.core.links.helical_pair.inputs import HelicalPair
from pulltide.core.spur import neighbors


def starter(catalog: Catalog) -> HelicalPair:
    """A plain start: normal module 3, 20 to 61 teeth at 15 degrees, hobbed steel."""
    return HelicalPair(module_mm=3.0, driver_teeth=20, driven_teeth=61, helix_deg=15.0, face_width_mm=40.0)


def reconcile(before: HelicalPair, raw: dict[str, Any], catalog: Catalog) -> dict[str, Any]:
    """A pitch that is entered takes the place of the other kind of pitch."""
    if raw.get("diametral_pitch") is not None and raw.get("module_mm") is not None:
        changed = raw["diametral_pitch"] != before.diametral_pitch
        return {**raw, "module_mm" if changed else "diametral_pitch": None}
    return raw


def variants(link: HelicalPair, catalog: Catalog) -> Iterator[Variant]:
    """Stock changes, smallest first in each direction."""
    yield from neighbors.teeth(link, catalog)
    halves = link.face_width_mm / link.one_face_mm
    overlapping = float(ceil(halves * pi * link.module / sin(radians(link.helix_deg))))
    if link.face_width_mm < overlapping <= 400:
        label = f"Use a {{{overlapping}|mm}} face"
        yield Variant("overlap", label, link.model_copy(update={"face_width_mm": overlapping}))
    if link.helix_deg > 25 and link.helices == "single":
        yield Variant("flatter", "Use a 25° helix", link.model_copy(update={"helix_deg": 25.0}))
    yield from neighbors.wider(link, 2 * link.transverse_mm * min(link.driver_teeth, link.driven_teeth))
    yield from neighbors.harder(link)
    for module in neighbors.larger_modules(link.module):
        width = min(float(ceil(link.face_width_mm * module / link.module)), 400.0)
        sizes = {"module_mm": module, "diametral_pitch": None, "face_width_mm": width}
        yield Variant("module", f"Use module {module:g}", link.model_copy(update=sizes))
    if link.made == "cast":
        yield Variant("better teeth", "Use cut teeth", link.model_copy(update={"made": "cut"}))
