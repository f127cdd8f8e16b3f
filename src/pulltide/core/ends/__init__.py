"""Simple machines at the last shaft, or at the hand: force out of torque, with and without loss."""

from __future__ import annotations

from functools import reduce
from operator import or_
from typing import TYPE_CHECKING, Annotated, Any

from pydantic import Field

from pulltide.core.ends.contract import EndKind, EndResult, Pull, force_steps
from pulltide.core.ends.drum import DRUM
from pulltide.core.ends.lever import LEVER
from pulltide.core.ends.rack import RACK
from pulltide.core.ends.screw import SCREW_KIND
from pulltide.core.ends.wheel import WHEEL
from pulltide.core.findings import Finding
from pulltide.core.labels import inside
from pulltide.core.units import RPM_PER_RAD_PER_S
from pulltide.core.working import Working

__all__ = [
    "END_KINDS",
    "END_RULES",
    "AnyEnd",
    "EndKind",
    "EndResult",
    "Pull",
    "end_at",
    "end_findings",
    "end_kind",
    "end_working",
]

END_KINDS: tuple[EndKind, ...] = (DRUM, SCREW_KIND, RACK, WHEEL, LEVER)
END_RULES = tuple(rule for kind in END_KINDS for rule in kind.rules)

if TYPE_CHECKING:
    AnyEnd = Any
else:
    AnyEnd = Annotated[reduce(or_, (kind.model for kind in END_KINDS)), Field(discriminator="kind")]

_BY_KIND = {kind.kind: kind for kind in END_KINDS}


def end_kind(kind: str) -> EndKind:
    """The simple machine of a kind. Raises KeyError if there is none."""
    return _BY_KIND[kind]


def end_at(end: Any, torque_nm: float | None, peak_nm: float | None, speed_rpm: float | None) -> EndResult:
    """Force and speed at the end for torque [N·m] and speed [rpm] of its shaft; what is unknown stays so."""
    kind = end_kind(end.kind)
    pull = kind.pull(end)
    return EndResult(
        kind=kind.kind,
        title=kind.title,
        does=kind.does,
        pull=pull,
        torque_nm=torque_nm,
        speed_rpm=speed_rpm,
        ideal_force_n=None if torque_nm is None else torque_nm * pull.per_metre,
        force_n=None if torque_nm is None else torque_nm * pull.per_metre * pull.efficiency,
        peak_force_n=None if peak_nm is None else peak_nm * pull.per_metre * pull.efficiency,
        speed_m_per_s=None if speed_rpm is None else speed_rpm / RPM_PER_RAD_PER_S / pull.per_metre,
        caution=kind.caution,
    )


def end_findings(end: Any, result: EndResult) -> tuple[Finding, ...]:
    """Every check of an end."""
    return tuple(end_kind(end.kind).inspect(end, result))


def end_working(end: Any, torque_nm: float, speed_rpm: float) -> Working:
    """How the force at an end comes about."""
    kind = end_kind(end.kind)
    return Working(f"Force at the end: {inside(kind.title)}", force_steps(kind.pull(end), torque_nm, speed_rpm))
