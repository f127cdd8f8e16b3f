"""A lantern pinion and its wheel to begin with, what follows from an edit, and its neighbors."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from pulltide.core.catalog import Catalog
from pulltide.core.family import Variant
from pulltide.core.labels import choice, phrase, together
from pulltide.core.links.lantern.inputs import Lantern


def starter(catalog: Catalog) -> Lantern:
    """A plain start: twelve pins to sixty teeth."""
    return Lantern(
        pins=12, wheel_teeth=60, circular_pitch_mm=12.0, pin_diameter_mm=5.7, pin_span_mm=20.0, wheel_face_mm=16.0
    )


def reconcile(before: Lantern, raw: dict[str, Any], catalog: Catalog) -> dict[str, Any]:
    """Nothing follows from an edit."""
    return raw


def variants(link: Lantern, catalog: Catalog) -> Iterator[Variant]:
    """More and fewer pins and teeth, thicker pins with their pitch, wider wheels."""
    for name, word in (("wheel_teeth", "teeth"), ("pins", "pins")):
        here = getattr(link, name)
        for direction, steps in ((f"more {word}", (1, 2, 4, 8)), (f"fewer {word}", (-1, -2, -4, -8))):
            for step in steps:
                if 8 <= here + step <= 60 or (name == "wheel_teeth" and 8 <= here + step <= 400):
                    label = f"Use {here + step} {phrase(word)}"
                    yield Variant(direction, label, link.model_copy(update={name: here + step}))
    for share in (1.25, 1.5, 2.0):
        pitch, pin = round(link.circular_pitch_mm * share, 1), round(link.pin_diameter_mm * share, 1)
        if pitch <= 120 and pin <= 70:
            update = {"circular_pitch_mm": pitch, "pin_diameter_mm": pin}
            yield Variant(
                "larger pitch", f"Use {{{pitch}|mm}} pitch and {{{pin}|mm}} pins", link.model_copy(update=update)
            )
    harder = {"pin_material": "steel_4140_hardened", "wheel_material": "steel_1045_normalized"}
    changed = {name: value for name, value in harder.items() if getattr(link, name) != value}
    if changed:
        label = f"Use {together(map(choice, changed.values()))}"
        yield Variant("harder", label, link.model_copy(update=changed))
