"""The pieces of a stage of spur gears."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from pulltide.core.catalog import Catalog
from pulltide.core.links.gear_pair.candidates import MATERIALS
from pulltide.core.links.gear_pair.inputs import GearPair
from pulltide.core.piece import Piece, piece_of
from pulltide.core.stock import listed

LISTED_AS = {code: name for name, code in MATERIALS.items()}


def bill(link: GearPair, catalog: Catalog) -> Iterator[Piece]:
    """Pinion, gear and idlers. Listed ones are external, without profile shift, and as wide as the list says."""
    wheels = [
        ("Driver gear", link.driver_teeth, link.driver_material, "driver"),
        (
            "Driven gear" if link.mesh == "external" else "Internal gear",
            link.driven_teeth,
            link.driven_material,
            "driven",
        ),
    ]
    if link.idlers and link.idler_teeth is not None:
        wheels += [("Idler gear", link.idler_teeth, link.driver_material, "")] * link.idlers
    if link.diametral_pitch is not None:
        pitch, system = f"{link.diametral_pitch:g} DP", {"diametral_pitch": f"{link.diametral_pitch:g}"}
    else:
        pitch, system = f"module {link.module_mm:g}", {"diametral_pitch": "na", "module_mm": f"{link.module_mm:g}"}
    system["pressure_angle"] = str(link.pressure_angle)
    plain = link.mesh == "external" and not link.driver_shift and not link.driven_shift
    for name, teeth, material, side in wheels:
        cells = {**system, "teeth": str(teeth), "material": LISTED_AS.get(material, "")}
        row = listed(catalog, "spur_gears", cells, {"face_mm": link.face_width_mm}, within=1.0) if plain else None
        yield replace(piece_of(f"{name} {pitch}, {teeth} t", row), side=side)
