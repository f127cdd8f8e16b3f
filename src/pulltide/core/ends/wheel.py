"""A wheel on the floor or on rails."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

from pydantic import Field

from pulltide.core.ends.contract import EndKind, EndResult, Pull, lever_step
from pulltide.core.findings import COMMON_PRACTICE, Check, Finding, Remark, Severity, judge, state
from pulltide.core.model import CoreModel, Mm, Newton, Plain
from pulltide.core.working import Step


class WheelOnFloor(CoreModel):
    """A driven wheel that pushes against floor, road or rail."""

    kind: Literal["wheel"] = "wheel"
    diameter_mm: Mm = Field(200.0, title="Wheel diameter", ge=20, le=2500)
    weight_on_wheel_n: Newton | None = Field(None, title="Weight on the driven wheels", gt=0, le=200_000)
    grip: Plain = Field(0.5, title="Grip", ge=0.02, le=1.2, description="rubber on dry concrete 0.5 to 0.7, steel 0.15")
    efficiency: Plain = Field(0.97, title="Efficiency of hub and bearings", ge=0.5, le=1)


SPINS = Check(
    code="end.wheel_spins",
    severity=Severity.WARNING,
    quantity="force at the rim",
    unit="N",
    fact="The wheel spins before it pushes this hard",
    clear="The wheel grips",
    base="grip of the wheel",
    advice="Put more weight on it, or drive more wheels.",
)
NO_WEIGHT = Remark(
    code="end.wheel_weight",
    severity=Severity.NOTE,
    quantity="weight",
    fact="The weight on the driven wheels is not entered, so their grip is not checked",
    advice="Enter it: grip limits what a wheel can push, and acts as its fuse.",
)


def _pull(end: WheelOnFloor) -> Pull:
    per_metre = 2000 / end.diameter_mm
    loss = Step("Efficiency of hub and bearings", "η", "as entered", {}, end.efficiency, "share", COMMON_PRACTICE)
    return Pull(
        per_metre,
        end.efficiency,
        2 - 1 / end.efficiency,
        (lever_step("2000 / D", {"D": end.diameter_mm}, per_metre), loss),
    )


def _inspect(end: WheelOnFloor, result: EndResult) -> Iterator[Finding]:
    if end.weight_on_wheel_n is None:
        yield state(NO_WEIGHT, "need")
        return
    force = result.peak_force_n or result.force_n
    if force is not None:
        yield judge(SPINS, "need", force, end.grip * end.weight_on_wheel_n)


WHEEL = EndKind(
    "wheel",
    "Wheel on the floor",
    "pushes",
    WheelOnFloor,
    _pull,
    _inspect,
    (SPINS, NO_WEIGHT),
    "It rolls on when the power is off: plan how it stops, on a slope too.",
    across=lambda end: _pull(end).per_metre,
)
