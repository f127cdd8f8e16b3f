"""Neighboring planetary sets, and the set made consistent after an edit."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from pulltide.core.catalog import Catalog
from pulltide.core.family import Variant, whole
from pulltide.core.labels import choice, together
from pulltide.core.links.planetary import motion
from pulltide.core.links.planetary.inputs import Planetary
from pulltide.core.spur import tables

REACH = 3
HARDER = {
    "steel_1020_hot_rolled": "steel_1045_normalized",
    "steel_1045_normalized": "steel_4140_hardened",
    "steel_4140_hardened": "steel_4140_hard",
}


def starter(catalog: Catalog) -> Planetary:
    """A plain start: 24 to 72 teeth, 4 to 1, three planets of module 2."""
    return Planetary(sun_teeth=24, planet_teeth=24, ring_teeth=72, module_mm=2.0, face_width_mm=25.0)


def reconcile(before: Planetary, raw: dict[str, Any], catalog: Catalog) -> dict[str, Any]:
    """Where the set fitted and one of its gears changed, another follows so that it still does."""
    names = ("sun_teeth", "planet_teeth", "ring_teeth")
    counts = [whole(raw.get(name)) for name in names]
    fitted = before.ring_teeth == before.sun_teeth + 2 * before.planet_teeth
    changed = [name for name, count in zip(names, counts, strict=True) if count != getattr(before, name)]
    if not fitted or len(changed) != 1 or None in counts:
        return raw
    sun, planet, ring = (count or 0 for count in counts)
    if changed[0] != "ring_teeth":
        return {**raw, "ring_teeth": sun + 2 * planet}
    spare = ring - sun
    return {**raw, "planet_teeth": spare // 2} if spare % 2 == 0 and spare > 0 else raw


def variants(link: Planetary, catalog: Catalog) -> Iterator[Variant]:
    """Tooth counts that fit and go together nearby, then width, steel, planets and stages."""
    yield from _counts(link)
    for share in (1.25, 1.5, 2.0):
        width = float(round(link.face_width_mm * share))
        if width <= 400:
            yield Variant("wider", f"Use a {{{width}|mm}} face", link.model_copy(update={"face_width_mm": width}))
    harder = {name: HARDER.get(getattr(link, name)) for name in ("sun_material", "planet_material", "ring_material")}
    update = {name: value for name, value in harder.items() if value}
    if update:
        yield Variant(
            "harder",
            f"Use {together(dict.fromkeys(choice(str(item)) for item in update.values()))}",
            link.model_copy(update=update),
        )
    for module in [m for m in tables.modules_mm() if m > link.module_mm * 1.01][:REACH]:
        yield Variant("module", f"Use module {module:g}", link.model_copy(update={"module_mm": module}))
    for planets in (3, 4, 5, 6):
        if planets != link.planets and motion.goes_together(
            link.sun_teeth, link.planet_teeth, link.ring_teeth, planets
        ):
            yield Variant("planets", f"Use {planets} planets", link.model_copy(update={"planets": planets}))
    if link.stages < 3:
        update_stages = {"stages": link.stages + 1}
        yield Variant("stages", f"Use {link.stages + 1} stages", link.model_copy(update=update_stages))


def _counts(link: Planetary) -> Iterator[Variant]:
    """Suns nearby with the planets that fit the same ring, and rings nearby, that go together."""
    found = []
    for ring in range(max(link.ring_teeth - 12, 20), min(link.ring_teeth + 12, 600) + 1):
        for sun in range(max(link.sun_teeth - 8, 12), min(link.sun_teeth + 8, 300) + 1):
            planet, odd = divmod(ring - sun, 2)
            if odd or planet < 12 or not motion.goes_together(sun, planet, ring, link.planets):
                continue
            if (sun, ring) != (link.sun_teeth, link.ring_teeth):
                found.append((abs(ring - link.ring_teeth) + abs(sun - link.sun_teeth), sun, planet, ring))
    for direction, wanted in (("higher ratio", True), ("lower ratio", False)):
        here = link.ring_teeth / link.sun_teeth
        side = [item for item in found if (item[3] / item[1] > here) == wanted]
        for _, sun, planet, ring in sorted(side)[: 2 * REACH]:
            update = {"sun_teeth": sun, "planet_teeth": planet, "ring_teeth": ring}
            yield Variant(direction, f"Use {sun}, {planet} and {ring} teeth", link.model_copy(update=update))
