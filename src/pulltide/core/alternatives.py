"""What each listed value of a stage's field would make of it: for picking a part by what it does, not by its name.

The whole list is ordered by what is cheap: ratio, and capacity at the speed and the load of today. The first of it are
then solved as whole plans, so that what is said of them is so.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from math import inf, log
from typing import Any

from pydantic import ValidationError

from pulltide.core.advantage import ratio_asked
from pulltide.core.catalog import CATALOG, Catalog
from pulltide.core.errors import PulltideError
from pulltide.core.findings import Severity
from pulltide.core.line import chosen_setting, solve_line, solve_plan
from pulltide.core.line_result import LineResult, Setting
from pulltide.core.links import family_of
from pulltide.core.machine import Machine, Plan
from pulltide.core.transmission import AnyResult, AnyTransmission, Bound
from pulltide.core.units import power_kw, torque_nm


@dataclass(frozen=True, slots=True, kw_only=True)
class Alternative:
    """One listed value of a field, and the stage with it. None where the load is not known, or no rating is.

    ``use`` is the greatest share used of a load limit. ``problems`` and ``warnings`` are counted in the whole plan with
    it, None while that is not solved.
    """

    value: float | str
    words: tuple[str, ...]
    ratio: float
    last_speed_rpm: float
    off: float
    use: float | None
    center_distance_mm: float | None
    chosen: bool
    link: Any
    problems: int | None = None
    warnings: int | None = None


#: A stage, from 0, and a field of it.
Place = tuple[int, str]


def alternatives(
    machine: Machine, plan: Plan, line: LineResult, at: Place, catalog: Catalog, *, solved: int = 0
) -> tuple[Alternative, ...]:
    """Every listed value of a field of a stage, nearest to the ideal speed first.

    Of those as near to 1 %, the smallest that carries the load comes first; the first ``solved`` are solved. ``at`` is
    the stage (from 0) and a field of its link, or ``steps.N.name`` of a step, at which speed and use are told.
    A value that makes no stage is left out.
    """
    index, _ = at
    setting = _setting(plan, at)
    if setting != line.setting:
        line = solve_line(machine, plan, setting, line.position) or line
    ordered = sorted(_all(machine, plan, line, at, catalog), key=_order)
    there = (setting, line.position)
    return (*(_solved(machine, plan, index, one, there, catalog) for one in ordered[:solved]), *ordered[solved:])


def _setting(plan: Plan, at: Place) -> Setting:
    """The setting in use, with the stage on the step that a field belongs to."""
    index, (first, *rest) = at[0], at[1].split(".")
    chosen = chosen_setting(plan)
    return chosen if first != "steps" else (*chosen[:index], int(rest[0]) + 1, *chosen[index + 1 :])


def _solved(
    machine: Machine, plan: Plan, index: int, one: Alternative, there: tuple[Setting, int], catalog: Catalog
) -> Alternative:
    """The same as its whole plan says, findings of every step and of the plan counted."""
    links = (*plan.links[:index], one.link, *plan.links[index + 1 :])
    changed = plan.model_copy(update={"links": links})
    result = solve_plan(machine, changed, catalog=catalog)
    if result is None:
        return one
    lines = {(line.setting, line.position): line for line in result.settings}
    line = lines.get(there) or solve_line(machine, changed, *there) or result.chosen
    tightest = line.links[index].tightest
    return replace(
        one,
        ratio=line.links[index].ratio,
        last_speed_rpm=line.last_shaft.speed_rpm,
        use=None if tightest is None else tightest.use,
        problems=result.count(Severity.ERROR),
        warnings=result.count(Severity.WARNING),
    )


#: A limit used more than this is better not chosen. Common practice, no source.
FULL = 0.95


def _order(one: Alternative) -> tuple[float, int, float]:
    """By speed in steps of 1 %; then what carries the load, fullest first; what does not; what nobody knows."""
    if one.use is None:
        return round(one.off, 2), 2, one.off
    return round(one.off, 2), int(one.use > FULL), one.use if one.use > FULL else -one.use


def _all(machine: Machine, plan: Plan, line: LineResult, at: Place, catalog: Catalog) -> Iterator[Alternative]:
    index, field = at
    link, solved = plan.links[index], line.links[index]
    family = family_of(link.kind)
    asked = ratio_asked(machine, line)
    name = field.rsplit(".", 1)[-1]
    for value in family.stock(link, catalog).get(name, ()):
        made = _with(link, field, value, line.setting[index], catalog)
        if made is None:
            continue
        new, transmission = made
        speed = line.last_shaft.speed_rpm * solved.ratio / transmission.ratio
        yield Alternative(
            value=value,
            words=family.words(new, line.setting[index]).chips,
            ratio=transmission.ratio,
            last_speed_rpm=speed,
            off=0.0 if asked is None else abs(log(line.shafts[0].speed_rpm / asked / speed)),
            use=_use(transmission, solved),
            center_distance_mm=transmission.center_distance_mm,
            link=new,
            chosen=str(_raw(link, field)) == str(value),
        )


def _raw(link: Any, field: str) -> Any:
    value: Any = link.model_dump(mode="json")
    for part in field.split("."):
        value = value[int(part)] if isinstance(value, list) else value.get(part)
    return value


def _with(link: Any, field: str, value: float | str, step: int, catalog: Catalog) -> tuple[Any, AnyTransmission] | None:
    """The stage with another value in a field, made consistent as an edit would; None where it cannot be."""
    family = family_of(link.kind)
    raw: Any = link.model_dump(mode="json")
    holder, (*way, last) = raw, field.split(".")
    for part in way:
        holder = holder[int(part)] if isinstance(holder, list) else holder[part]
    holder[last] = value
    try:
        new = family.model.model_validate(family.reconcile(link, raw, catalog), context={CATALOG: catalog})
        return new, family.prepare(new, step)
    except (ValidationError, PulltideError, ValueError):
        return None


def _use(made: AnyTransmission, solved: AnyResult) -> float | None:
    """Greatest use of a load limit with the delivered torque as it is; nothing while the load is not known."""
    flow, sizing = solved.flow, solved.load.sizing
    if not solved.load_known or not flow.driven_torque_nm:
        return None
    speed = flow.driver_speed_rpm
    out_kw = power_kw(flow.driven_torque_nm, speed / made.ratio)
    running = torque_nm(made.transmit(speed, out_kw).power_in_kw, speed)
    scale = running / flow.driver_torque_nm
    sized = flow.driver_nameplate_torque_nm if sizing.duty.margin_rule.value == "motor_nameplate" else running
    demands = {
        "sized": sized,
        "running": running,
        "peak": None if flow.driver_peak_torque_nm is None else flow.driver_peak_torque_nm * scale,
        "driven_peak": flow.driven_peak_torque_nm,
    }
    uses = [_share(demands[bound.basis], bound) for bound in made.capacity(speed, sizing)]
    fastest = made.max_driver_rpm
    if fastest is not None and speed > fastest:
        uses.append(speed / fastest)
    return max((use for use in uses if use is not None), default=None)


def _share(demand_nm: float | None, bound: Bound) -> float | None:
    if demand_nm is None or bound.torque_nm is None:
        return None
    return demand_nm / bound.torque_nm if bound.torque_nm > 0 else inf
