"""Neighboring friction rollers, and the link made consistent after an edit."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil
from typing import Any

from pulltide.core.catalog import Catalog
from pulltide.core.family import Variant
from pulltide.core.labels import choice, phrase
from pulltide.core.links.friction_drive.inputs import FrictionDrive

#: Roller diameters and faces usually at hand [mm]. Common practice, no source.
DIAMETERS_MM = (40.0, 50.0, 60.0, 75.0, 80.0, 100.0, 125.0, 150.0, 160.0, 200.0, 250.0, 300.0)
FACES_MM = (20.0, 25.0, 30.0, 40.0, 50.0, 60.0, 80.0, 100.0, 120.0, 150.0)


def starter(catalog: Catalog) -> FrictionDrive:
    """A plain start: a rubber roller of 100 mm on a wheel of 500 mm."""
    return FrictionDrive(driver_diameter_mm=100.0, driven_diameter_mm=500.0, face_width_mm=50.0)


def reconcile(before: FrictionDrive, raw: dict[str, Any], catalog: Catalog) -> dict[str, Any]:
    """Nothing follows from an edit."""
    return raw


def variants(link: FrictionDrive, catalog: Catalog) -> Iterator[Variant]:
    """Harder pressed, wider, a second roller, another lining; the roller a size up or down."""
    if link.press_n is not None:
        for share in (1.25, 1.5, 2.0, 2.5, 3.0, 4.0):
            press = float(ceil(link.press_n * share / 10) * 10)
            if press <= 100_000:
                yield Variant(
                    "press", f"Press each roller with {{{press}|N}}", link.model_copy(update={"press_n": press})
                )
        for share in (0.8, 0.65, 0.5):
            press = float(ceil(link.press_n * share))
            yield Variant(
                "lighter", f"Press each roller with {{{press}|N}}", link.model_copy(update={"press_n": press})
            )
    for width in [face for face in FACES_MM if face > link.face_width_mm][:4]:
        yield Variant("wider", f"Use a {{{width}|mm}} face", link.model_copy(update={"face_width_mm": width}))
    if link.rollers < 4:
        more = link.rollers + 1
        yield Variant("rollers", f"Drive {more} rollers", link.model_copy(update={"rollers": more}))
    for lining in ("rubber", "polyurethane", "pressed_fiber"):
        if lining != link.lining:
            yield Variant(
                f"{phrase(lining)} lining",
                f"Line the roller with {choice(lining)}",
                link.model_copy(update={"lining": lining}),
            )
    if link.surface == "wet_or_dusty":
        yield Variant("dry", "Keep the rim dry and clean", link.model_copy(update={"surface": "dry"}))
    yield from _sizes(link)


def _sizes(link: FrictionDrive) -> Iterator[Variant]:
    larger = [size for size in DIAMETERS_MM if size > link.driver_diameter_mm * 1.01][:4]
    smaller = [size for size in reversed(DIAMETERS_MM) if size < link.driver_diameter_mm * 0.99][:4]
    for word, sizes in (("larger driver", larger), ("smaller driver", smaller)):
        for size in sizes:
            if link.is_inside and max(size, link.driven_diameter_mm) < 1.2 * min(size, link.driven_diameter_mm):
                continue
            yield Variant(word, f"Use a {{{size}|mm}} roller", link.model_copy(update={"driver_diameter_mm": size}))
