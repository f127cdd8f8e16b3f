"""Forces of a bevel pair at right angles, callable by name."""

from __future__ import annotations

from math import cos, degrees, radians, sin, tan

from pydantic import Field

from pulltide.core.family import Method
from pulltide.core.findings import EXACT
from pulltide.core.links.bevel_pair.checks import BEVEL
from pulltide.core.links.bevel_pair.inputs import BevelSizes
from pulltide.core.links.bevel_pair.transmission import PRESSURE_DEG
from pulltide.core.model import Nm
from pulltide.core.working import Step, Working


class BevelForcesInputs(BevelSizes):
    """A bevel pair and the torque on its driver, pressure angle 20 degrees."""

    torque_nm: Nm = Field(title="Torque on the driver", gt=0, le=100_000)


def forces_working(inputs: BevelForcesInputs) -> Working:
    """Cone, mean radius, then the tooth force along the rim, toward the driver's shaft and along it."""
    cone, teeth, m = inputs.cones[0], float(inputs.driver_teeth), inputs.module
    mean = (m * teeth - inputs.face_width_mm * sin(cone)) / 2
    along, phi = 1000 * inputs.torque_nm / mean, PRESSURE_DEG
    radial, thrust = along * tan(radians(phi)) * cos(cone), along * tan(radians(phi)) * sin(cone)
    of_cone = {"Σ": inputs.shafts_deg, "N2": float(inputs.driven_teeth), "N1": teeth}
    of_mean = {"m": m, "N1": teeth, "b": inputs.face_width_mm, "γ": degrees(cone)}
    parts = {"W": along, "φ": phi, "γ": degrees(cone)}
    return Working(
        "Forces of a bevel pair",
        (
            Step(
                "Pitch cone of the driver", "γ", "atan(sin Σ / (N2 / N1 + cos Σ))", of_cone, degrees(cone), "deg", BEVEL
            ),
            Step("Mean radius of the driver", "r_m", "(m N1 - b sin γ) / 2", of_mean, mean, "mm", BEVEL),
            Step("Along the rim", "W", "1000 T / r_m", {"T": inputs.torque_nm, "r_m": mean}, along, "N", EXACT),
            Step(
                "Toward the driver's shaft; thrust on the driven at right angles",
                "W_r",
                "W tan φ cos γ",
                parts,
                radial,
                "N",
                BEVEL,
            ),
            Step("Thrust on the driver", "W_a", "W tan φ sin γ", parts, thrust, "N", BEVEL),
        ),
    )


METHODS = (Method("bevel_forces", "Forces of a bevel pair", BevelForcesInputs, forces_working),)
