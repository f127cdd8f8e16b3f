"""Neighboring chain links made of stock sizes, and the link made consistent after an edit."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil
from typing import Any

from pulltide.core.catalog import Catalog, counts
from pulltide.core.family import Variant
from pulltide.core.labels import as_is, phrase
from pulltide.core.links.roller_chain import geometry, tables
from pulltide.core.links.roller_chain.inputs import RollerChain
from pulltide.core.links.roller_chain.transmission import layout

REACH = 5
MAX_STRANDS = 4
#: Chains in the order a builder would move up through them; 41 is a light 40 and never the next one up.
NEXT_CHAIN = {
    "25": ("35", "40"),
    "35": ("40", "50"),
    "41": ("40", "50"),
    "40": ("50", "60"),
    "50": ("60", "80"),
    "60": ("80", "100"),
    "80": ("100",),
    "100": (),
    "06B": ("08B", "10B"),
    "08B": ("10B", "12B"),
    "10B": ("12B",),
    "12B": (),
}


def starter(catalog: Catalog) -> RollerChain:
    """A plain start: 40 chain, 17 to 34 teeth, 76 links."""
    return RollerChain(chain="40", driver_teeth=17, driven_teeth=34, pitches=76)


def reconcile(before: RollerChain, raw: dict[str, Any], catalog: Catalog) -> dict[str, Any]:
    """Nothing to settle: every chain takes every tooth count."""
    return raw


def _even_links(link: RollerChain, center_mm: float) -> int:
    pitch = tables.sizes()[link.chain].pitch_mm
    exact = geometry.exact_length_pitches(center_mm / pitch, link.driver_teeth, link.driven_teeth)
    return max(2 * ceil(exact / 2 - 1e-9), 16)


def _keeping_place(link: RollerChain, **update: object) -> RollerChain:
    changed = link.model_copy(update=update)
    if link.pitches is None:
        return changed
    pitch = tables.sizes()[changed.chain].pitch_mm
    teeth = (changed.driver_teeth, changed.driven_teeth)
    touching = sum(geometry.outside_diameter_mm(pitch, count) for count in teeth) / 2
    return changed.model_copy(update={"pitches": _even_links(changed, max(layout(link).center_mm, 1.1 * touching))})


def variants(link: RollerChain, catalog: Catalog) -> Iterator[Variant]:
    """Stock changes, smallest first in each direction."""
    yield from _other_lengths(link)
    yield from _other_teeth(link, counts(catalog, tables.SPROCKET))
    yield from _larger(link)
    yield from _smaller_pitch(link)
    if link.take_up_mm is None or link.take_up_mm < 1.5 * tables.sizes()[link.chain].pitch_mm:
        needed = float(5 * ceil(1.5 * tables.sizes()[link.chain].pitch_mm / 5))
        yield Variant(
            "more adjustment", f"Give {{{needed}|mm}} of adjustment", link.model_copy(update={"take_up_mm": needed})
        )
    if not link.oiled:
        yield Variant("oil", "Oil it as recommended", link.model_copy(update={"oiled": True}))


def _other_lengths(link: RollerChain) -> Iterator[Variant]:
    here = _even_links(link, layout(link).center_mm)
    for count in range(here, here + 26, 2):
        if count != link.pitches:
            yield Variant(
                "longer chain",
                f"Use {count} links",
                link.model_copy(update={"pitches": count, "center_distance_mm": None}),
            )


def _other_teeth(link: RollerChain, stock: tuple[int, ...]) -> Iterator[Variant]:
    driver, driven = link.driver_teeth, link.driven_teeth
    for teeth in [n for n in stock if n > driver][: 2 * REACH]:
        partner = min(stock, key=lambda n, teeth=teeth: abs(n - driven * teeth / driver))  # type: ignore[misc]
        if partner <= 120:
            yield _teeth("larger sprockets", link, teeth, partner)
    for word, above in (("larger", True), ("smaller", False)):
        for teeth in _nearby(stock, driver, above):
            yield _teeth(f"{phrase(word)} driver", link, teeth, driven)
        for teeth in _nearby(stock, driven, above):
            yield _teeth(f"{phrase(word)} driven", link, driver, teeth)


def _nearby(stock: tuple[int, ...], teeth: int, above: bool) -> list[int]:
    if above:
        return [n for n in stock if n > teeth][:REACH]
    return [n for n in reversed(stock) if n < teeth][:REACH]


def _teeth(direction: str, link: RollerChain, driver: int, driven: int) -> Variant:
    changed = _keeping_place(link, driver_teeth=driver, driven_teeth=driven)
    return Variant(direction, f"Use {driver} and {driven} teeth", changed)


def _larger(link: RollerChain) -> Iterator[Variant]:
    for name in NEXT_CHAIN[link.chain]:
        yield Variant("larger chain", f"Step up to {as_is(name)}", _keeping_place(link, chain=name))
    for strands in range(link.strands + 1, MAX_STRANDS + 1):
        words = {2: "two strands", 3: "three strands", 4: "four strands"}[strands]
        yield Variant("more strands", f"Use {phrase(words)}", link.model_copy(update={"strands": strands}))


def _smaller_pitch(link: RollerChain) -> Iterator[Variant]:
    """Smaller chains, in more strands where one is not enough: they run fast where a large pitch may not."""
    smaller = [name for name, larger in NEXT_CHAIN.items() if link.chain in larger and name != "41"]
    smaller += [name for name, larger in NEXT_CHAIN.items() if smaller and smaller[-1] in larger and name != "41"]
    for name in dict.fromkeys(smaller):
        for strands in range(link.strands, MAX_STRANDS + 1):
            label = f"Use {as_is(name)} chain" + (f" in {strands} strands" if strands > 1 else "")
            yield Variant("smaller pitch", label, _keeping_place(link, chain=name, strands=strands))
