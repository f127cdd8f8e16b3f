"""An arm on the shaft, and a lever that it works."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

from pydantic import Field

from pulltide.core.ends.contract import EndKind, EndResult, Pull, lever_step
from pulltide.core.findings import COMMON_PRACTICE, Finding, Remark, Severity, state
from pulltide.core.model import CoreModel, Mm, Plain
from pulltide.core.working import Step


class ArmAndLever(CoreModel):
    """An arm at right angles to its force; a lever behind it multiplies or divides. Without one both arms are equal."""

    kind: Literal["lever"] = "lever"
    arm_mm: Mm = Field(100.0, title="Arm on the shaft", ge=5, le=3000)
    effort_arm_mm: Mm = Field(100.0, title="Lever, pivot to the arm's rod", ge=5, le=5000)
    load_arm_mm: Mm = Field(100.0, title="Lever, pivot to the load", ge=5, le=5000)
    efficiency: Plain = Field(0.97, title="Efficiency of the pins", ge=0.5, le=1, description="0.95 to 0.99")


SWINGS = Remark(
    code="end.lever_swings",
    severity=Severity.NOTE,
    quantity="angle",
    fact="This force applies at right angles only; leverage changes as the arm swings",
    advice="Use the least favorable position.",
)


def _pull(end: ArmAndLever) -> Pull:
    per_metre = 1000 / end.arm_mm * end.effort_arm_mm / end.load_arm_mm
    numbers = {"r": end.arm_mm, "a": end.effort_arm_mm, "b": end.load_arm_mm}
    loss = Step("Efficiency of the pins", "η", "as entered", {}, end.efficiency, "share", COMMON_PRACTICE)
    return Pull(
        per_metre, end.efficiency, 2 - 1 / end.efficiency, (lever_step("1000 a / (r b)", numbers, per_metre), loss)
    )


def _inspect(end: ArmAndLever, result: EndResult) -> Iterator[Finding]:
    yield state(SWINGS, "need")


LEVER = EndKind(
    "lever",
    "Arm and lever",
    "presses",
    ArmAndLever,
    _pull,
    _inspect,
    (SWINGS,),
    "A lever shears what comes between it and its frame: guard its whole swing.",
    across=lambda end: _pull(end).per_metre,
)
