"""Neighbors of a flat or round belt: wider, stronger, larger pulleys, more strands."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from pulltide.core.catalog import Catalog
from pulltide.core.family import Variant
from pulltide.core.labels import choice
from pulltide.core.links.plain_belt import tables
from pulltide.core.links.plain_belt.inputs import PlainBelt

#: Widths usually cut [mm]. Common practice, no source.
WIDTHS_MM = (10.0, 15.0, 20.0, 25.0, 30.0, 40.0, 50.0, 65.0, 80.0, 100.0, 125.0, 150.0, 200.0, 250.0, 300.0)


def starter(catalog: Catalog) -> PlainBelt:
    """A plain start: a polyamide belt from 120 to 240 mm."""
    return PlainBelt(
        belt="polyamide_a2", driver_diameter_mm=120.0, driven_diameter_mm=240.0, width_mm=50.0, center_distance_mm=700.0
    )


def seeds(catalog: Catalog, ratio: float) -> Iterator[PlainBelt]:
    """The plain start with one pulley as large as the ratio wants."""
    start = starter(catalog)
    small = start.driver_diameter_mm
    sizes = (small, float(round(small * ratio))) if ratio >= 1 else (float(round(small / ratio)), small)
    update = {"driver_diameter_mm": sizes[0], "driven_diameter_mm": sizes[1]}
    yield start.model_copy(update={**update, "center_distance_mm": max(700.0, round(1.5 * max(sizes), -1))})


def reconcile(before: PlainBelt, raw: dict[str, Any], catalog: Catalog) -> dict[str, Any]:
    """Nothing follows from an edit."""
    return raw


def variants(link: PlainBelt, catalog: Catalog) -> Iterator[Variant]:
    """Wider and narrower belts, more strands, the next stronger belt, both pulleys larger, shafts farther apart."""
    data = tables.belts()[link.belt]
    if data.is_round:
        for count in range(link.belts + 1, min(link.belts + 5, 13)):
            yield Variant("more belts", f"Use {count} belts", link.model_copy(update={"belts": count}))
    else:
        for width in (w for w in WIDTHS_MM if w > link.width_mm):
            yield Variant("wider belt", f"Use a {{{width}|mm}} belt", link.model_copy(update={"width_mm": width}))
        for width in (w for w in reversed(WIDTHS_MM) if w < link.width_mm):
            yield Variant("narrower belt", f"Use a {{{width}|mm}} belt", link.model_copy(update={"width_mm": width}))
    alike = [one for one in tables.belts().values() if one.is_round == data.is_round and one.allowed_n > data.allowed_n]
    for one in sorted(alike, key=lambda belt: belt.allowed_n):
        yield Variant("stronger belt", f"Use {choice(one.belt)}", link.model_copy(update={"belt": one.belt}))
    for share in (1.25, 1.5, 2.0):
        sizes = {name: round(getattr(link, name) * share) for name in ("driver_diameter_mm", "driven_diameter_mm")}
        if sizes["driver_diameter_mm"] <= 2000 and sizes["driven_diameter_mm"] <= 3000:
            label = f"Use {{{sizes['driver_diameter_mm']}|mm}} and {{{sizes['driven_diameter_mm']}|mm}} pulleys"
            yield Variant("larger pulleys", label, link.model_copy(update=sizes))
    for share in (1.25, 1.6, 2.0, 3.0):
        center = round(link.center_distance_mm * share, -1)
        if center <= 10_000:
            changed = link.model_copy(update={"center_distance_mm": center})
            yield Variant("farther apart", f"Set the shafts {{{center}|mm}} apart", changed)
