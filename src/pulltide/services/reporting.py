"""A solved machine as plain data: the same for the command line, the API and tests."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from pulltide.core.advantage import Advantage, advantage, ratio_asked
from pulltide.core.catalog import Catalog
from pulltide.core.duty_advice import equivalent, factor_rows
from pulltide.core.ends import end_at
from pulltide.core.findings import Finding
from pulltide.core.ladder import Ladder
from pulltide.core.line import ladder_of, solve_plan
from pulltide.core.line_checks import demand_of
from pulltide.core.line_result import LineResult
from pulltide.core.machine import Machine, Plan
from pulltide.core.own_words import Said, own_words
from pulltide.core.remedies import Budget, with_remedies
from pulltide.core.sources import drive_of, source_kind
from pulltide.core.transmission import AnyResult
from pulltide.core.working import step_report
from pulltide.quantities import DEFAULT_UNITS
from pulltide.words import filled_throughout, reading, say


def solve_report(machine: Machine, catalog: Catalog | None = None) -> dict[str, Any]:
    """Every plan of a machine, solved at every setting, with findings and remedies out of a catalog."""
    budget = Budget.of(len(machine.plans))
    plans = [_plan(machine, plan, catalog, budget) for plan in machine.plans]
    report = {"need": _need(machine), "duty": _duty(machine), "plans": plans}
    return {"machine": machine.name, **filled_throughout(report, DEFAULT_UNITS)}


def _need(machine: Machine) -> dict[str, Any]:
    """What the last shaft must do; with a worksheet also its own words, checks and workings."""
    need, asked = machine.need, machine.need.requirement()
    figures = need.model_dump(mode="json", exclude={"worksheet"})
    if asked is None:
        return {"worksheet": None, "figures": figures}
    return {
        "worksheet": asked.kind.kind,
        "figures": figures,
        "speed_reason": asked.speeds.reason,
        "own_words": [{"label": item.label, "value": item.value, "unit": item.unit} for item in asked.own],
        "findings": [_finding(finding) for finding in asked.findings],
        "workings": {name: [step_report(step) for step in working.steps] for name, working in asked.workings.items()},
    }


def _duty(machine: Machine) -> dict[str, Any]:
    """What every table asks for the duty, and the equivalents of its cycle."""
    found = equivalent(machine.duty.cycle)
    return {
        "factors": [
            {
                "part": row.part,
                "factor": row.factor.value,
                "source": row.factor.source.document,
                "note": row.factor.note,
            }
            for row in factor_rows(machine.duty, "motor")
        ],
        "cycle": None if found is None else asdict(found),
    }


def _source(machine: Machine, plan: Plan, line: LineResult) -> dict[str, Any]:
    """What turns the plan: figures read and inferred, and what surrounds it."""
    drive = drive_of(plan.source)
    if drive is None or plan.source is None:
        return {}
    kind = source_kind(plan.source.kind)
    return {
        "title": drive.title,
        "power_kw": drive.power_kw,
        "speed_rpm": drive.speed_rpm,
        "max_torque_nm": drive.max_torque_nm,
        "start_torque_nm": drive.start_torque_nm,
        "readings": [{**asdict(item), "name": reading(item.code)} for item in kind.readings(plan.source)],
        "facts": [asdict(fact) for fact in kind.facts(plan.source, drive, demand_of(machine, line))],
    }


def _plan(machine: Machine, plan: Plan, catalog: Catalog | None, budget: Budget) -> dict[str, Any]:
    result = solve_plan(machine, plan, catalog=catalog)
    if result is None:
        return {"plan": plan.name, "solved": False, "reason": say("power or speed of the source can't be told yet")}
    result = with_remedies(machine, plan, result, catalog, budget)
    return {
        "plan": plan.name,
        "solved": True,
        "source": _source(machine, plan, result.chosen),
        "chosen_setting": list(result.chosen.setting),
        "source_positions": list(result.positions),
        "ratio_asked": ratio_asked(machine, result.chosen),
        "advantage": _optional(advantage(machine, plan, result.chosen)),
        "settings": [_line(line) for line in result.settings],
        "at_the_end": _end(machine, result.chosen),
        "further_loads": [{"title": title, **_line(line)} for title, line in result.further],
        "own_words": [_said(said) for said in own_words(machine.need, result)],
        "gives_first": _ladder(ladder_of(machine, plan, result.chosen)),
        "findings": [_finding(finding) for finding in result.findings],
        "remedies": {"changes_tried": result.changes_tried, "all_tried": not result.stopped},
    }


def _said(said: Said) -> dict[str, Any]:
    words = [{"code": item.code, "label": item.label, "value": item.value, "unit": item.unit} for item in said.sayings]
    setting = None if said.line is None else list(said.line.setting)
    return {"speed_rpm": said.speed_rpm, "setting": setting, "words": words}


def _optional(found: Advantage | None) -> dict[str, Any] | None:
    return None if found is None else asdict(found)


def _end(machine: Machine, line: LineResult) -> dict[str, Any] | None:
    """Force and speed of the simple machine on the last shaft."""
    if machine.need.end is None:
        return None
    last = line.last_shaft
    found = end_at(machine.need.end, *line.need_torques_nm, last.speed_rpm)
    return {
        "kind": found.kind,
        "force_n": found.force_n,
        "ideal_force_n": found.ideal_force_n,
        "peak_force_n": found.peak_force_n,
        "speed_m_per_s": found.speed_m_per_s,
        "efficiency": found.pull.efficiency,
        "back_efficiency": found.pull.back_efficiency,
    }


def _ladder(found: Ladder | None) -> list[dict[str, Any]]:
    """What gives as the load rises, in order; those of unknown strength last, with what would tell."""
    return [
        {
            "subject": rung.subject,
            "name": rung.point.name,
            "gives": rung.point.mode,
            "times": rung.times,
            "missing": rung.point.missing or None,
            "wanted": rung.point.wanted,
        }
        for rung in ((*found.known, *found.unknown) if found else ())
    ]


def _line(line: LineResult) -> dict[str, Any]:
    tightest = line.tightest
    return {
        "setting": list(line.setting),
        "source_position": line.position,
        "stalled": line.stalled,
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
                "take_off_nm": taken - rubbed or None,
                "friction_nm": rubbed or None,
            }
            for shaft, taken, rubbed in zip(line.shafts, line.taken_nm, line.dragged_nm, strict=True)
        ],
        "links": [_link(link) for link in line.links],
        "about_the_parts": [_finding(finding) for finding in line.remarks],
    }


def _link(link: AnyResult) -> dict[str, Any]:
    return {
        "kind": link.kind,
        "ratio": link.ratio,
        "turn": link.turn,
        "efficiency": link.efficiency,
        "loss_kw": link.loss_kw,
        "service_factor": link.service_factor.value,
        "service_factor_source": link.service_factor.source.document,
        "design_torque_nm": dict(link.design.by_rule_nm),
        "center_distance_mm": link.center_distance_mm,
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
        "also": list(finding.also),
        "fact": finding.fact,
        "quantity": finding.rule.quantity,
        "measured": finding.measured,
        "relation": finding.relation,
        "limit": finding.limit,
        "unit": finding.rule.unit,
        "step": finding.step,
        "load": finding.load,
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
