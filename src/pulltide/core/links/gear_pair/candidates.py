"""Stages of listed spur gears, for a search."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from pulltide.core.candidates import Candidate, Stages
from pulltide.core.catalog import Catalog
from pulltide.core.links.gear_pair.inputs import GearPair
from pulltide.core.stock import cheapest, list_rows, names, pairs, to_buy
from pulltide.core.tables import Row, number

#: What the list calls a material, and its code.
MATERIALS = {"steel 1045 normalized": "steel_1045_normalized", "gray iron class 30": "gray_iron_30"}

#: Fewer teeth are undercut by their hob, by pressure angle. Source: 2 / sin² φ, full depth.
MIN_TEETH = {"14.5": 32, "20": 18}


def candidates(catalog: Catalog) -> Iterator[Candidate]:
    """Every pair of listed gears of one pitch and pressure angle without undercut."""
    kinds: dict[tuple[str, str, str], list[Row]] = {}
    for row in list_rows(catalog, "spur_gears"):
        kinds.setdefault((row["module_mm"], row["diametral_pitch"], row["pressure_angle"]), []).append(row)
    for (module, pitch, angle), rows in kinds.items():
        true = [row for row in rows if number(row, "teeth") >= MIN_TEETH[angle]]
        for driver, first, driven, second in pairs(cheapest(true, "teeth")):
            materials = tuple(MATERIALS[row["material"]] for row in (first, second))
            faces = min(number(first, "face_mm"), number(second, "face_mm"))
            sizes = (float(module), None, angle) if pitch == "na" else (None, float(pitch), angle)
            yield Candidate(
                parts=to_buy(first, second),
                price=number(first, "price") + number(second, "price"),
                shape=(*sizes, int(driver), int(driven), faces, *materials),
                alike=f"m {module}" if pitch == "na" else f"{pitch} DP",
                made_of=names(first, second),
            )


def build(shape: tuple[Any, ...], catalog: Catalog) -> GearPair:
    """The link of a candidate."""
    module, pitch, angle, driver, driven, face, driver_material, driven_material = shape
    return GearPair(
        module_mm=module,
        diametral_pitch=pitch,
        pressure_angle=angle,
        driver_teeth=driver,
        driven_teeth=driven,
        face_width_mm=face,
        driver_material=driver_material,
        driven_material=driven_material,
    )


STAGES = Stages(4, candidates, build)
