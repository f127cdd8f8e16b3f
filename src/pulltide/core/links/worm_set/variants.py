"""A worm set to begin with, what follows from an edit, and its neighbors."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil
from typing import Any

from pulltide.core.catalog import Catalog, counts
from pulltide.core.family import Variant
from pulltide.core.labels import choice
from pulltide.core.links.worm_set import tables
from pulltide.core.links.worm_set.inputs import WormSet
from pulltide.core.links.worm_set.transmission import FACE_SHARE
from pulltide.core.spur.tables import modules_mm

REACH = 3


def starter(catalog: Catalog) -> WormSet:
    """A plain start: single start, 40 teeth of module 3."""
    return WormSet(wheel_teeth=40, module_mm=3.0, worm_pitch_mm=36.0, face_width_mm=22.0, worm_is="hardened_and_ground")


def reconcile(before: WormSet, raw: dict[str, Any], catalog: Catalog) -> dict[str, Any]:
    """Nothing follows from an edit."""
    return raw


def variants(link: WormSet, catalog: Catalog) -> Iterator[Variant]:
    """Stock wheels, starts, modules, face, bronze and cooling, smallest change first."""
    stock = counts(catalog, tables.WHEEL)
    higher = [n for n in stock if n > link.wheel_teeth][:REACH]
    lower = [n for n in reversed(stock) if n < link.wheel_teeth][:REACH]
    for direction, listed in (("more teeth", higher), ("fewer teeth", lower)):
        for count in listed:
            yield Variant(direction, f"Use {count} teeth", link.model_copy(update={"wheel_teeth": count}))
    for starts in (link.starts + 1, link.starts - 1):
        if 1 <= starts <= 4:
            yield Variant("starts", f"Use {starts} starts", link.model_copy(update={"starts": starts}))
    if link.worm_is != "hardened_and_ground":
        update = {"worm_is": "hardened_and_ground"}
        yield Variant("better worm", "Use a hardened and ground worm", link.model_copy(update=update))
    for module in [m for m in modules_mm() if m > link.module_mm * 1.01][:REACH]:
        worm = float(ceil(link.worm_pitch_mm * module / link.module_mm))
        sizes = {"module_mm": module, "worm_pitch_mm": worm, "face_width_mm": float(int(FACE_SHARE * worm))}
        yield Variant("module", f"Use module {module:g}", link.model_copy(update=sizes))
    for cast in ("chill_cast", "centrifugally_cast"):
        if cast != link.wheel_cast:
            yield Variant("better bronze", f"Use a {choice(cast)} wheel", link.model_copy(update={"wheel_cast": cast}))
    if not link.fan:
        yield Variant("cooling", "Put a fan on the worm shaft", link.model_copy(update={"fan": True}))
