"""A pinion on a rack."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

from pydantic import Field

from pulltide.core.ends.contract import EndKind, EndResult, Pull, lever_step
from pulltide.core.findings import COMMON_PRACTICE, Check, Finding, Severity, Source, judge
from pulltide.core.made.wheel import MadeWheel
from pulltide.core.model import CoreModel, Mm, Plain
from pulltide.core.spur import geometry, rating, tables
from pulltide.core.spur.form import Tooth
from pulltide.core.spur.kinds import Material
from pulltide.core.spur.making import made_gear, made_rack
from pulltide.core.units import rim_speed_m_per_s
from pulltide.core.working import Step

LEWIS = Source("Shigley's Mechanical Engineering Design", "section 14-1, Lewis", "formula")


class RackAndPinion(CoreModel):
    """A spur pinion on the last shaft that moves a rack, or walks along one."""

    kind: Literal["rack"] = "rack"
    module_mm: Mm = Field(2.0, title="Module", ge=0.3, le=25)
    teeth: int = Field(20, title="Pinion teeth", ge=8, le=200)
    face_width_mm: Mm = Field(20.0, title="Face width", ge=2, le=200)
    material: Material = Field("steel_1045_normalized", title="Pinion material")
    efficiency: Plain = Field(0.94, title="Efficiency", ge=0.5, le=1, description="0.90 to 0.97 greased")


BENDING = Check(
    code="end.rack_bending",
    severity=Severity.WARNING,
    quantity="tooth force",
    unit="N",
    fact="Pinion tooth bending stress is over the allowable",
    clear="Pinion tooth bending stress is within its limit",
    base="tooth bending strength",
    advice="Use a wider pinion, a larger module or a harder steel.",
    source=LEWIS,
)
UNDERCUT = Check(
    code="end.rack_undercut",
    severity=Severity.NOTE,
    quantity="pinion teeth",
    relation=">=",
    unit="teeth",
    limits=(float(geometry.min_teeth(20.0)),),
    fact="A rack digs into the roots of a pinion this small unless it is undercut or shifted",
    clear="Rack and pinion run clear",
    advice="Use more teeth on the pinion.",
    source=Source("Shigley's Mechanical Engineering Design", "Eq. 13-13", "formula"),
)


def _pull(end: RackAndPinion) -> Pull:
    per_metre = 2000 / (end.module_mm * end.teeth)
    numbers = {"m": end.module_mm, "N": float(end.teeth)}
    loss = Step("Efficiency of the mesh", "η", "as entered", {}, end.efficiency, "share", COMMON_PRACTICE)
    return Pull(
        per_metre, end.efficiency, 2 - 1 / end.efficiency, (lever_step("2000 / (m N)", numbers, per_metre), loss)
    )


def _inspect(end: RackAndPinion, result: EndResult) -> Iterator[Finding]:
    force = result.peak_force_n or result.force_n
    if force is not None and result.speed_rpm is not None:
        speed = rim_speed_m_per_s(end.module_mm * end.teeth, result.speed_rpm)
        form, steel = tables.lewis_form(end.teeth, "20"), tables.materials()[end.material].static_mpa
        allowed = steel * end.face_width_mm * end.module_mm * form / rating.lewis_velocity_factor("cut", speed)
        yield judge(BENDING, "need", force, allowed)
    yield judge(UNDERCUT, "need", float(end.teeth))


def _makes(end: RackAndPinion) -> Iterator[MadeWheel]:
    """The pinion, and a stretch of rack."""
    yield made_gear("driver", Tooth(end.teeth), end.module_mm, end.face_width_mm, end.material)
    yield made_rack("driven", end.module_mm, end.face_width_mm)


RACK = EndKind(
    "rack",
    "Rack and pinion",
    "pushes",
    RackAndPinion,
    _pull,
    _inspect,
    (BENDING, UNDERCUT),
    "A rack draws fingers into the mesh all along its way: cover it, and stop it at both ends.",
    across=lambda end: _pull(end).per_metre,
    makes=_makes,
)
