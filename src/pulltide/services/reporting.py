"""A solved machine as plain data: the same for the command line, the API and tests."""

from __future__ import annotations

from typing import Any

from pulltide.core.family import LinkResult
from pulltide.core.findings import Finding
from pulltide.core.line import solve_plan
from pulltide.core.line_result import LineResult
from pulltide.core.machine import Machine, Plan
from pulltide.core.remedies import with_remedies


def solve_report(machine: Machine) -> dict[str, Any]:
    """Every plan of a machine, solved at every setting, with findings and remedies."""
    return {"machine": machine.name, "plans": [_plan(machine, plan) for plan in machine.plans]}


def _plan(machine: Machine, plan: Plan) -> dict[str, Any]:
    result = solve_plan(machine, plan)
    if result is None:
        return {"plan": plan.name, "solved": False, "reason": "the motor is not entered"}
    result = with_remedies(machine, plan, result)
    return {
        "plan": plan.name,
        "solved": True,
        "chosen_setting": list(result.chosen.setting),
        "settings": [_line(line) for line in result.settings],
        "findings": [_finding(finding) for finding in result.findings],
    }


def _line(line: LineResult) -> dict[str, Any]:
    tightest = line.tightest
    return {
        "setting": list(line.setting),
        "ratio": line.ratio,
        "efficiency": line.efficiency,
        "motor_load": line.motor_load,
        "tightest": {"link": tightest[0], "limit": tightest[1].code, "use": _finite(tightest[1].use)}
        if tightest
        else None,
        "shafts": [
            {
                "number": shaft.number,
                "name": shaft.name,
                "speed_rpm": shaft.speed_rpm,
                "turn": shaft.turn,
                "running_torque_nm": shaft.running_torque_nm,
                "design_torque_nm": shaft.design_torque_nm,
                "peak_torque_nm": shaft.peak_torque_nm,
                "power_kw": shaft.power_kw,
            }
            for shaft in line.shafts
        ],
        "links": [_link(link) for link in line.links],
    }


def _link(link: LinkResult) -> dict[str, Any]:
    return {
        "kind": link.kind,
        "ratio": link.ratio,
        "turn": link.turn,
        "efficiency": link.efficiency,
        "loss_kw": link.loss_kw,
        "service_factor": link.service_factor.value,
        "service_factor_source": link.service_factor.source.document,
        "design_torque_nm": dict(link.design.by_rule_nm),
        "centre_distance_mm": link.centre_distance_mm,
        "limits": [
            {
                "code": limit.code,
                "name": limit.name,
                "measured": limit.measured,
                "allowed": limit.allowed,
                "unit": limit.unit,
                "use": _finite(limit.use),
            }
            for limit in link.limits
        ],
        "figures": {
            figure.key: {"label": figure.label, "value": figure.value, "unit": figure.unit} for figure in link.figures
        },
    }


def _finite(use: float | None) -> float | None:
    """Use as JSON can carry it: a limit of nothing has no finite use."""
    return None if use is None or use == float("inf") else use


def _finding(finding: Finding) -> dict[str, Any]:
    return {
        "code": finding.code,
        "severity": finding.severity.value,
        "subject": finding.subject,
        "fact": finding.fact,
        "quantity": finding.rule.quantity,
        "measured": finding.measured,
        "relation": finding.rule.relation,
        "limit": finding.limit,
        "unit": finding.rule.unit,
        "step": finding.step,
        "advice": finding.advice,
        "source": {
            "document": finding.rule.source.document,
            "locator": finding.rule.source.locator,
            "confidence": finding.rule.source.confidence,
        },
        "remedies": [
            {
                "label": remedy.label,
                "changes": [{"path": path, "value": value} for path, value in remedy.changes],
                "last_speed_rpm": remedy.last_speed_rpm,
            }
            for remedy in finding.remedies
        ],
    }
