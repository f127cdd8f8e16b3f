"""Spur gears to cut: both of an external pair; a ring is not made by this outline."""

from __future__ import annotations

from collections.abc import Iterator

from pulltide.core.links.gear_pair.inputs import GearPair
from pulltide.core.making import MadeWheel
from pulltide.core.spur.form import Tooth
from pulltide.core.spur.making import made_gear


def makes(link: GearPair) -> Iterator[MadeWheel]:
    """Driver and driven, with their shifts."""
    angle = float(link.pressure_angle)
    yield made_gear("driver", Tooth(link.driver_teeth, angle, link.driver_shift), link.module, link.face_width_mm)
    if link.mesh == "external":
        yield made_gear("driven", Tooth(link.driven_teeth, angle, link.driven_shift), link.module, link.face_width_mm)
