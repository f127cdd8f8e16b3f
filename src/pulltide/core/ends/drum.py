"""Rope on a drum, with or without a block."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

from pydantic import Field

from pulltide.core.ends.contract import EndKind, EndResult, Pull, lever_step
from pulltide.core.findings import Check, Finding, Remark, Severity, Source, judge, state
from pulltide.core.model import CoreModel, Mm, Plain
from pulltide.core.working import Step

#: Efficiency of one sheave. Source: handbooks, from memory: rolling 0.96 to 0.98, plain 0.90 to 0.94.
SHEAVES = {"rolling_bearings": 0.97, "plain_bearings": 0.92}
BLOCK = Source("handbooks", "efficiency of a block of n falls", "quoted from memory")


class DrumAndRope(CoreModel):
    """A rope wound on a drum; with a block the load hangs on several falls."""

    kind: Literal["drum"] = "drum"
    drum_diameter_mm: Mm = Field(100.0, title="Drum diameter", ge=10, le=2000)
    rope_diameter_mm: Mm = Field(6.0, title="Rope", ge=1, le=40)
    layer: int = Field(1, title="Layer of rope on the drum", ge=1, le=10)
    falls: int = Field(1, title="Falls that carry the load", ge=1, le=12)
    sheaves: Literal["rolling_bearings", "plain_bearings"] = Field("rolling_bearings", title="Sheaves run in")
    drum_efficiency: Plain = Field(0.95, title="Efficiency of the drum", ge=0.5, le=1, description="0.90 to 0.95")
    brake: Literal["yes", "no"] = Field("no", title="A brake holds the load")


def block_efficiency(falls: int, sheave: float) -> float:
    """Efficiency of n falls, free end pulled off the load's block [-]: (1 - e^n) / (n (1 - e)).

    >>> round(block_efficiency(4, 0.97), 4), block_efficiency(1, 0.97)
    (0.9559, 1.0)
    """
    return 1.0 if falls == 1 else (1 - sheave**falls) / (falls * (1 - sheave))


NO_BRAKE = Remark(
    code="end.drum_brake",
    severity=Severity.ERROR,
    quantity="brake",
    fact="Only the drive would hold the load on the rope",
    advice="Fit a brake that sets when the power is off. Lifting gear is for rated parts and local rules.",
)
TIGHT = Check(
    code="end.drum_size",
    severity=Severity.WARNING,
    quantity="drum diameter",
    relation=">=",
    unit="mm",
    fact="The drum is too small for this rope",
    clear="The drum is large enough for the rope",
    limits=(18.0,),
    base="rope diameter",
    advice="Use a drum of {limit} or more: eighteen rope diameters.",
)


def _across(end: DrumAndRope) -> float:
    """Pull of one rope over the drum's torque [1/m]."""
    return 1000 / (end.drum_diameter_mm / 2 + end.rope_diameter_mm * (end.layer - 0.5))


def _pull(end: DrumAndRope) -> Pull:
    radius = end.drum_diameter_mm / 2 + end.rope_diameter_mm * (end.layer - 0.5)
    sheave = SHEAVES[end.sheaves]
    block = block_efficiency(end.falls, sheave)
    per_metre = 1000 * end.falls / radius
    falls = float(end.falls)
    numbers = {"D": end.drum_diameter_mm, "d": end.rope_diameter_mm, "j": float(end.layer)}
    forward = end.drum_efficiency * block
    return Pull(
        per_metre,
        forward,
        end.drum_efficiency * (2 - 1 / block),
        (
            Step("Radius to the rope's middle", "r", "D / 2 + d (j - 1/2)", numbers, radius, "mm", BLOCK),
            lever_step("1000 n / r", {"n": falls, "r": radius}, per_metre),
            Step(
                "Efficiency of drum and block",
                "η",
                "η_d (1 - e^n) / (n (1 - e))",
                {"η_d": end.drum_efficiency, "e": sheave, "n": falls},
                forward,
                "share",
                BLOCK,
            ),
        ),
    )


def _inspect(end: DrumAndRope, result: EndResult) -> Iterator[Finding]:
    if end.brake == "no":
        yield state(NO_BRAKE, "need")
    yield judge(TIGHT, "need", end.drum_diameter_mm, of=end.rope_diameter_mm)


DRUM = EndKind(
    "drum",
    "Drum and rope",
    "pulls",
    DrumAndRope,
    _pull,
    _inspect,
    (NO_BRAKE, TIGHT),
    "Never for people, and nobody under the load. Two turns of rope stay on the drum.",
    across=_across,
)
