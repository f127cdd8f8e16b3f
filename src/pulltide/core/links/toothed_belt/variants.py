"""Neighboring timing belts made of stock sizes, and the link made consistent after an edit."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil
from typing import Any

from pulltide.core import open_belt
from pulltide.core.catalog import Catalog, counts
from pulltide.core.family import Variant
from pulltide.core.labels import as_is, phrase
from pulltide.core.links.toothed_belt import rating, tables
from pulltide.core.links.toothed_belt.inputs import ToothedBelt
from pulltide.core.links.toothed_belt.transmission import layout

REACH = 4
#: Profiles in the order a builder would move up through them.
NEXT_PROFILE = {"XL": "L", "L": "H", "3M": "5M", "5M": "8M", "8M": "14M", "T5": "T10"}


def starter(catalog: Catalog) -> ToothedBelt:
    """A plain start: L pitch, 20 to 40 teeth, 80 teeth of belt, 1 in wide."""
    return ToothedBelt(profile="L", driver_teeth=20, driven_teeth=40, width_mm=25.4, belt_teeth=80)


def reconcile(before: ToothedBelt, raw: dict[str, Any], catalog: Catalog) -> dict[str, Any]:
    """Another profile takes the nearest width it is sold in."""
    profile = raw.get("profile")
    if profile == before.profile or profile not in tables.profiles() or raw.get("width_mm") != before.width_mm:
        return raw
    widths = tables.widths_mm(str(profile))
    return {**raw, "width_mm": min(widths, key=lambda width: abs(width - before.width_mm))}


def belt_for(link: ToothedBelt, center_mm: float, catalog: Catalog) -> int:
    """Teeth of the shortest belt for a center distance: of the series where there is one."""
    pitch = tables.profiles()[link.profile].pitch_mm
    driver, driven = (rating.pitch_diameter_mm(pitch, n) for n in (link.driver_teeth, link.driven_teeth))
    center = max(center_mm, (driver + driven) / 2 * 1.05)
    wanted = ceil(open_belt.open_belt_length_mm(driver, driven, center) / pitch - 1e-9)
    return next((teeth for teeth in tables.listed_belts(catalog, link.profile) if teeth >= wanted), max(wanted, 20))


def _keeping_place(link: ToothedBelt, catalog: Catalog, **update: object) -> ToothedBelt:
    changed = link.model_copy(update=update)
    if link.belt_teeth is None:
        return changed
    return changed.model_copy(update={"belt_teeth": belt_for(changed, layout(link).center_mm, catalog)})


def variants(link: ToothedBelt, catalog: Catalog) -> Iterator[Variant]:
    """Stock changes, smallest first in each direction."""
    for width in [w for w in tables.widths_mm(link.profile) if w > link.width_mm]:
        yield Variant("wider", f"Use a {{{width}|mm}} wide belt", link.model_copy(update={"width_mm": width}))
    yield from _teeth(link, catalog)
    yield from _lengths(link, catalog)
    larger = NEXT_PROFILE.get(link.profile)
    if larger is not None:
        width = tables.widths_mm(larger)[0]
        yield Variant(
            "profile", f"Step up to {as_is(larger)}", _keeping_place(link, catalog, profile=larger, width_mm=width)
        )
    needed = float(ceil(1.5 * tables.profiles()[link.profile].pitch_mm))
    if link.take_up_mm is None or link.take_up_mm < needed:
        yield Variant("adjust", f"Give {{{needed}|mm}} of adjustment", link.model_copy(update={"take_up_mm": needed}))


def _lengths(link: ToothedBelt, catalog: Catalog) -> Iterator[Variant]:
    here = belt_for(link, layout(link).center_mm, catalog)
    longer = [teeth for teeth in tables.listed_belts(catalog, link.profile) if teeth >= here]
    listed = longer or list(range(here, here + 30))
    for teeth in listed[:10]:
        if teeth != link.belt_teeth:
            update = {"belt_teeth": teeth, "center_distance_mm": None}
            yield Variant("length", f"Use a belt of {teeth} teeth", link.model_copy(update=update))


def _teeth(link: ToothedBelt, catalog: Catalog) -> Iterator[Variant]:
    stock = counts(catalog, tables.PULLEY)
    driver, driven = link.driver_teeth, link.driven_teeth
    for teeth in [n for n in stock if n > driver][: 2 * REACH]:
        partner = min(stock, key=lambda n, teeth=teeth: abs(n - driven * teeth / driver))  # type: ignore[misc]
        yield _pair("larger pulleys", link, (teeth, partner), catalog)
    for word, above in (("larger", True), ("smaller", False)):
        near = [n for n in (stock if above else reversed(stock)) if (n > driver if above else n < driver)][:REACH]
        for teeth in near:
            yield _pair(f"{phrase(word)} driver", link, (teeth, driven), catalog)
        near = [n for n in (stock if above else reversed(stock)) if (n > driven if above else n < driven)][:REACH]
        for teeth in near:
            yield _pair(f"{phrase(word)} driven", link, (driver, teeth), catalog)


def _pair(direction: str, link: ToothedBelt, teeth: tuple[int, int], catalog: Catalog) -> Variant:
    driver, driven = teeth
    changed = _keeping_place(link, catalog, driver_teeth=driver, driven_teeth=driven)
    return Variant(direction, f"Use {driver} and {driven} teeth", changed)
