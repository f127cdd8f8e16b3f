"""Spur gears to cut: both of an external pair, or a pinion and its ring."""

from __future__ import annotations

from collections.abc import Iterator

from pulltide.core.links.gear_pair.inputs import GearPair
from pulltide.core.made.wheel import MadeWheel, Side
from pulltide.core.spur.form import Tooth
from pulltide.core.spur.making import made_gear, made_ring


def makes(link: GearPair) -> Iterator[MadeWheel]:
    """Driver and driven, with their shifts; the larger of an internal pair is the ring."""
    angle, sizes = link.angle, (link.module, link.face_width_mm)
    members: tuple[tuple[Side, int, float, str], ...] = (
        ("driver", link.driver_teeth, link.driver_shift, link.driver_material),
        ("driven", link.driven_teeth, link.driven_shift, link.driven_material),
    )
    for side, teeth, shift, material in members:
        if link.mesh == "internal" and teeth == link.large_teeth:
            yield made_ring(side, Tooth(link.small_teeth, angle), teeth, sizes, material)
        else:
            yield made_gear(side, Tooth(teeth, angle, shift), *sizes, material)
