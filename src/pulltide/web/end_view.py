"""The simple machine on the last shaft: its sizes, and the force and speed it makes of torque and speed."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from pulltide.core.ends import END_KINDS, EndResult, end_at, end_kind, end_working
from pulltide.core.line_result import Shaft
from pulltide.core.machine import Machine
from pulltide.core.need import Need
from pulltide.presentation.words import FindingLine, finding_line
from pulltide.presentation.working_view import WorkingView, working_view
from pulltide.quantities import Units, show
from pulltide.web import forms
from pulltide.web.selection import Figured
from pulltide.words import say, worded


@dataclass(frozen=True, slots=True)
class EndView:
    """The card: ``kinds`` to choose from, and with one chosen its fields, figures, findings and working."""

    kinds: tuple[tuple[str, str], ...]
    title: str
    says: str
    fields: tuple[forms.FormField, ...]
    figures: tuple[Figured, ...]
    findings: tuple[FindingLine, ...]
    working: WorkingView | None
    caution: str


def end_view(machine: Machine, units: Units) -> EndView:
    """The card of the Need place: at the torque and the ideal speed that are asked for."""
    need, end = machine.need, machine.need.end
    kinds = tuple((kind.kind, worded(kind.title)) for kind in END_KINDS if end is None or kind.kind != end.kind)
    if end is None:
        return EndView(kinds, "", "", (), (), (), None, "")
    document = machine.model_dump(mode="json")
    names = [name for name in type(end).model_fields if name != "kind"]
    result = end_at(end, need.running_torque_nm, need.peak_torque_nm, need.speed_ideal_rpm)
    known = need.running_torque_nm is not None and need.speed_ideal_rpm is not None
    working = end_working(end, need.running_torque_nm or 0.0, need.speed_ideal_rpm or 0.0) if known else None
    findings = tuple(end_kind(end.kind).inspect(end, result))
    return EndView(
        kinds,
        worded(result.title),
        _says(result, units),
        tuple(forms.form_field(document, f"need.end.{name}", units) for name in names),
        _figures(result, units),
        tuple(finding_line(finding, units) for finding in findings),
        working_view(working, units) if working else None,
        worded(result.caution),
    )


def end_summary(need: Need, shaft: Shaft, units: Units) -> str:
    """One sentence for the Train: what the last shaft, as this plan turns it, does at the end; empty without one."""
    if need.end is None:
        return ""
    return _says(end_at(need.end, shaft.running_torque_nm, shaft.peak_torque_nm, shaft.speed_rpm), units)


def _says(result: EndResult, units: Units) -> str:
    parts = [f"{worded(result.title)} {worded(result.does)}"]
    if result.force_n is not None:
        ideal = show(result.ideal_force_n, "N", units)
        parts.append(say("with {force} ({ideal} without loss)", force=show(result.force_n, "N", units), ideal=ideal))
    if result.speed_m_per_s is not None:
        parts.append(say("at {speed}", speed=show(result.speed_m_per_s, "m/s", units)))
    return " ".join(parts)


def _figures(result: EndResult, units: Units) -> tuple[Figured, ...]:
    rows: tuple[tuple[str, Any, str], ...] = (
        (say("Force"), result.force_n, "N"),
        (say("Force without loss"), result.ideal_force_n, "N"),
        (say("Force at peak torque"), result.peak_force_n, "N"),
        (say("Speed"), result.speed_m_per_s, "m/s"),
        (say("Travel a turn"), result.travel_per_turn_mm, "mm"),
        (say("Efficiency"), result.pull.efficiency, "share"),
        (say("Driven back by the load, below 0 it stays"), result.pull.back_efficiency, "share"),
    )
    return tuple(Figured(label, show(value, unit, units), "") for label, value, unit in rows)
