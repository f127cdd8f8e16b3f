"""The press of a friction roller, callable by name."""

from __future__ import annotations

from pydantic import Field

from pulltide.core.family import Method
from pulltide.core.findings import EXACT
from pulltide.core.model import CoreModel, Mm, Nm, Plain
from pulltide.core.working import Step, Working


class PressInputs(CoreModel):
    """A wheel turned by rollers on its rim."""

    torque_nm: Nm = Field(title="Torque on the wheel", gt=0, le=100_000)
    wheel_diameter_mm: Mm = Field(title="Wheel or drum diameter", ge=10, le=5000)
    friction: Plain = Field(title="Friction", gt=0.02, le=1.2, description="rubber on dry steel 0.4 to 0.7")
    margin: Plain = Field(1.5, title="Margin on grip", ge=1, le=4)
    rollers: int = Field(1, title="Driving rollers", ge=1, le=8)


def press_working(inputs: PressInputs) -> Working:
    """Pull at the rim, and the force to press each driving roller with."""
    pull = 2000 * inputs.torque_nm / inputs.wheel_diameter_mm
    press = inputs.margin * pull / (inputs.friction * inputs.rollers)
    of_press = {"k": inputs.margin, "F": pull, "μ": inputs.friction, "z": float(inputs.rollers)}
    return Working(
        "Press of a friction roller",
        (
            Step(
                "Pull at the rim",
                "F",
                "2000 T / D",
                {"T": inputs.torque_nm, "D": inputs.wheel_diameter_mm},
                pull,
                "N",
                EXACT,
            ),
            Step("Press of each roller", "N", "k F / (μ z)", of_press, press, "N", EXACT),
        ),
    )


METHODS = (Method("friction_roller_press", "Press of a friction roller", PressInputs, press_working),)
