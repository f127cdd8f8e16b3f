"""Efficiency of a mesh of one's own, callable by name."""

from __future__ import annotations

from math import acos, pi, tan
from typing import Literal

from pydantic import Field

from pulltide.core.family import Method
from pulltide.core.findings import Source
from pulltide.core.links.gear_pair.working import (
    CountsInputs,
    LewisInputs,
    StrengthInputs,
    counts_working,
    lewis_working,
    strength_working,
)
from pulltide.core.model import CoreModel, Plain
from pulltide.core.spur.form import Tooth, contact_path
from pulltide.core.working import Step, Working

SLIDING = Source("ISO/TR 14179-2", "tooth loss factor H_v (Ohlendorf)", "quoted from memory")


class MeshInputs(CoreModel):
    """Two external gears and the friction of their teeth."""

    driver_teeth: int = Field(title="Driver teeth", ge=6, le=400)
    driven_teeth: int = Field(title="Driven teeth", ge=6, le=400)
    pressure_angle: Literal["14.5", "20", "25"] = Field("20", title="Pressure angle")
    friction: Plain = Field(
        0.07, title="Friction of the teeth", gt=0, le=0.3, description="0.05 to 0.08 oiled, 0.1 greased, 0.2 dry"
    )


def mesh_working(inputs: MeshInputs) -> Working:
    """Efficiency of one mesh from the sliding along its path of contact; bearings and oil left out."""
    angle = float(inputs.pressure_angle)
    first, second = (Tooth(count, angle) for count in (inputs.driver_teeth, inputs.driven_teeth))
    path = contact_path(first, second)
    phi = acos((first.base_radius + second.base_radius) / path.center)
    pitch_point = first.base_radius * tan(phi)
    recess, approach = ((x / path.base_pitch) for x in (path.end - pitch_point, pitch_point - path.start))
    z1, z2 = float(inputs.driver_teeth), float(inputs.driven_teeth)
    loss = pi * (1 / z1 + 1 / z2) * (1 - (recess + approach) + recess**2 + approach**2)
    sliding = {"z_1": z1, "z_2": z2, "ε_1": recess, "ε_2": approach}
    generated = Source("generated teeth", "path of contact", "exact")
    return Working(
        "Efficiency of a mesh",
        (
            Step(
                "Contact ratio after the pitch point",
                "ε_1",
                "path behind it over base pitch",
                {},
                recess,
                "",
                generated,
            ),
            Step("Contact ratio before it", "ε_2", "path before it over base pitch", {}, approach, "", generated),
            Step("Loss factor", "H_v", "π (1/z_1 + 1/z_2)(1 - ε_1 - ε_2 + ε_1² + ε_2²)", sliding, loss, "", SLIDING),
            Step(
                "Efficiency of the mesh",
                "η",
                "1 - μ H_v",
                {"μ": inputs.friction, "H_v": loss},
                1 - inputs.friction * loss,
                "",
                SLIDING,
            ),
        ),
    )


METHODS = (
    Method("gear_strength", "Tooth force that bending and wear allow", StrengthInputs, strength_working),
    Method("gear_lewis", "Bending stress of a gear tooth by Lewis", LewisInputs, lewis_working),
    Method("gear_counts", "Tooth counts nearest to a ratio", CountsInputs, counts_working),
    Method("gear_mesh_efficiency", "Efficiency of a mesh from its teeth and friction", MeshInputs, mesh_working),
)
