"""Forces of a helical mesh, callable by name."""

from __future__ import annotations

from math import cos, degrees, radians, sqrt, tan

from pydantic import Field

from pulltide.core.family import Method
from pulltide.core.findings import EXACT
from pulltide.core.links.helical_pair.checks import HELICAL
from pulltide.core.links.helical_pair.mesh import transverse_angle
from pulltide.core.model import CoreModel, Degrees, Mm, Nm
from pulltide.core.working import Step, Working


class HelicalForcesInputs(CoreModel):
    """One helical gear and the torque on it, normal pressure angle 20 degrees."""

    torque_nm: Nm = Field(title="Torque on the gear", gt=0, le=100_000)
    teeth: int = Field(title="Teeth", ge=8, le=400)
    module_mm: Mm = Field(title="Module across the teeth", ge=0.3, le=25)
    helix_deg: Degrees = Field(title="Helix angle", ge=5, le=45)


def forces_working(inputs: HelicalForcesInputs) -> Working:
    """Pitch diameter, then the tooth force along the rim, toward the shaft, along it, and all together."""
    psi, phi = radians(inputs.helix_deg), transverse_angle(inputs.helix_deg)
    pitch = inputs.module_mm * inputs.teeth / cos(psi)
    along = 2000 * inputs.torque_nm / pitch
    radial, thrust = along * tan(phi), along * tan(psi)
    sizes = {"m": inputs.module_mm, "N": float(inputs.teeth), "ψ": inputs.helix_deg}
    parts = {"W_t": along, "W_r": radial, "W_a": thrust}
    whole = sqrt(along**2 + radial**2 + thrust**2)
    return Working(
        "Forces of a helical gear",
        (
            Step("Pitch diameter", "d", "m N / cos ψ", sizes, pitch, "mm", HELICAL),
            Step("Along the rim", "W_t", "2000 T / d", {"T": inputs.torque_nm, "d": pitch}, along, "N", EXACT),
            Step("Apart", "W_r", "W_t tan φ_t", {"W_t": along, "φ_t": degrees(phi)}, radial, "N", HELICAL),
            Step("Thrust", "W_a", "W_t tan ψ", {"W_t": along, "ψ": inputs.helix_deg}, thrust, "N", HELICAL),
            Step("Together", "W", "√(W_t² + W_r² + W_a²)", parts, whole, "N", EXACT),
        ),
    )


METHODS = (Method("helical_forces", "Forces of a helical gear", HelicalForcesInputs, forces_working),)
