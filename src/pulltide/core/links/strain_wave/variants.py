"""A strain-wave gear to begin with, what follows from an edit, and its neighbors."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from pulltide.core.catalog import Catalog
from pulltide.core.family import Variant, whole
from pulltide.core.labels import phrase
from pulltide.core.links.strain_wave.inputs import StrainWave


def starter(catalog: Catalog) -> StrainWave:
    """A plain start: 100 to 1."""
    return StrainWave(cup_teeth=200, ring_teeth=202, rated_torque_nm=60.0)


def reconcile(before: StrainWave, raw: dict[str, Any], catalog: Catalog) -> dict[str, Any]:
    """A cup that changes takes its ring along; so does another number of lobes."""
    cup, more = whole(raw.get("cup_teeth")), before.ring_teeth - before.cup_teeth
    if cup is None or whole(raw.get("ring_teeth")) != before.ring_teeth:
        return raw
    if raw.get("lobes") != before.lobes:
        return {**raw, "ring_teeth": cup + (whole(raw.get("lobes")) or more)}
    return {**raw, "ring_teeth": cup + more}


def variants(link: StrainWave, catalog: Catalog) -> Iterator[Variant]:
    """Other ratios with the same lobes; larger ratings; the other member held."""
    more = link.ring_teeth - link.cup_teeth
    for direction, steps in (("higher ratio", (1.25, 1.6, 2.0)), ("lower ratio", (0.8, 0.625, 0.5))):
        for step in steps:
            cup = int(round(link.cup_teeth * step / more) * more)
            if 20 <= cup <= 640:
                update = {"cup_teeth": cup, "ring_teeth": cup + more}
                yield Variant(direction, f"Use {cup} in {cup + more} teeth", link.model_copy(update=update))
    if link.rated_torque_nm is not None:
        for share in (1.5, 2.0, 3.0):
            rated = float(f"{link.rated_torque_nm * share:.2g}")
            if rated <= 20_000:
                label = f"Use a gear rated {{{rated}|N*m}}"
                yield Variant("larger gear", label, link.model_copy(update={"rated_torque_nm": rated}))
    other = "cup" if link.held == "ring" else "ring"
    yield Variant("other sense", f"Hold the {phrase(other)}", link.model_copy(update={"held": other}))
