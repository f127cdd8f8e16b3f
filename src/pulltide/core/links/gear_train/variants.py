"""Neighboring trains that keep their center distance, and the link made consistent after an edit."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from pulltide.core.catalog import Catalog
from pulltide.core.family import Variant, whole
from pulltide.core.labels import phrase, together
from pulltide.core.links.gear_train.counts import train_counts
from pulltide.core.links.gear_train.inputs import GearTrain
from pulltide.core.spur import geometry, neighbors

FEWEST = 8


def starter(catalog: Catalog) -> GearTrain:
    """A plain start: two pairs of 20 to 60 teeth at module 3, in line."""
    return GearTrain(driver_1_teeth=20, driven_1_teeth=61, driver_2_teeth=22, driven_2_teeth=59, module_1_mm=3.0)


def reconcile(before: GearTrain, raw: dict[str, Any], catalog: Catalog) -> dict[str, Any]:
    """A count that changes takes its teeth from its mate, so that pairs on shared axes keep their center distance."""
    shared = max(before.centers_mm) - min(before.centers_mm) < 0.02
    if raw.get("layout") != "back_and_forth" or not shared:
        return raw
    for number, pair in enumerate(before.pairs, start=1):
        names = (f"driver_{number}_teeth", f"driven_{number}_teeth")
        now = [whole(raw.get(name)) for name in names]
        if now[0] is None or now[1] is None or tuple(now) == pair:
            continue
        moved = [k for k in (0, 1) if now[k] != pair[k]]
        if len(moved) == 1:
            mate = sum(pair) - (now[moved[0]] or 0)
            if mate >= 6:
                raw = {**raw, names[1 - moved[0]]: mate}
    return raw


def variants(link: GearTrain, catalog: Catalog) -> Iterator[Variant]:
    """Counts that keep the centers, the nearest to a wanted ratio, wider faces, larger modules, harder steel."""
    yield from _onto_the_axes(link)
    yield from _shifted(link)
    yield from _wanted(link)
    for face in (12.0, 14.0, 16.0):
        if face > link.face_modules:
            yield Variant("wider", f"Use faces {face:g} modules wide", link.model_copy(update={"face_modules": face}))
    yield from neighbors.harder(link)
    for module in neighbors.larger_modules(link.module_1_mm):
        share = module / link.module_1_mm
        sizes = {"module_1_mm": module}
        sizes |= {n: round(getattr(link, n) * share, 3) for n in ("module_2_mm", "module_3_mm") if getattr(link, n)}
        if max(sizes.values()) <= 25:
            yield Variant("module", f"Use module {module:g}", link.model_copy(update=sizes))


def _wanted(link: GearTrain) -> Iterator[Variant]:
    """Counts of two pairs for the wanted ratio: on the same axes where that comes near, else on others."""
    if link.wanted_ratio is None or link.wanted_ratio < 1 or len(link.pairs) != 2:
        return
    fewest, wanted = geometry.min_teeth(float(link.pressure_angle)), link.wanted_ratio
    sums = [sum(pair) for pair in link.pairs]
    kept = [
        (abs((sums[0] - a) / a * (sums[1] - b) / b / wanted - 1), abs(a - b), (a, sums[0] - a, b, sums[1] - b))
        for a in range(fewest, sums[0] // 2 + 1)
        for b in range(fewest, sums[1] // 2 + 1)
    ]
    back = link.layout == "back_and_forth" and link.modules_mm[0] == link.modules_mm[1]
    found = [min(kept)[2]] if kept and min(kept)[0] < 0.02 else []
    for n1, n2, n3, n4 in (*found, train_counts(wanted, fewest, 100, back)):
        counts = {"driver_1_teeth": n1, "driven_1_teeth": n2, "driver_2_teeth": n3, "driven_2_teeth": n4}
        label = f"Use {n1} and {n2}, {n3} and {n4} teeth"
        yield Variant("wanted ratio", label, link.model_copy(update=counts))


def _onto_the_axes(link: GearTrain) -> Iterator[Variant]:
    """Driven teeth that bring every pair to the center distance of the first."""
    update, named = {}, []
    for number, (pair, module) in enumerate(zip(link.pairs, link.modules_mm, strict=True), start=1):
        driven = 2 * link.centers_mm[0] / module - pair[0]
        if abs(driven - round(driven)) > 1e-6 or not FEWEST <= round(driven) <= 400:
            return
        if round(driven) != pair[1]:
            update[f"driven_{number}_teeth"] = round(driven)
            named.append(phrase(f"{round(driven)} driven teeth in pair {number}"))
    if update and link.layout == "back_and_forth":
        yield Variant("same axes", f"Use {together(named)}", link.model_copy(update=update))


def _shifted(link: GearTrain) -> Iterator[Variant]:
    """A tooth or a few from one gear of a pair to its mate: other ratios on the same axes."""
    for number, (driver, driven) in enumerate(link.pairs, start=1):
        for move in (1, -1, 2, -2, 3, -3, 4, -4):
            counts = (driver + move, driven - move)
            if min(counts) < FEWEST:
                continue
            update = {f"driver_{number}_teeth": counts[0], f"driven_{number}_teeth": counts[1]}
            word = "lower" if move > 0 else "higher"
            label = f"Use {counts[0]} and {counts[1]} teeth in pair {number}"
            yield Variant(f"{word} pair {number}", label, link.model_copy(update=update))
