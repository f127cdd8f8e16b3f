"""Listed sources in the place of a plan's own: what each would make of the plan, for picking one by what it does."""

from __future__ import annotations

from dataclasses import dataclass
from math import log, prod
from typing import Any

from pulltide.core.catalog import Catalog, Item
from pulltide.core.findings import Severity
from pulltide.core.line import solve_line, solve_plan
from pulltide.core.links import family_of
from pulltide.core.machine import Machine, Plan
from pulltide.core.model import CoreModel
from pulltide.core.sources import Drive, SourceModel, drive_of
from pulltide.core.sources.stock import SOURCE, prices
from pulltide.core.units import power_kw

#: Share of the source's power that is taken to reach the last shaft here. Common practice, no source.
ROUGH_EFFICIENCY = 0.85
#: Speeds as near as this are as near, on a log scale.
AS_NEAR = 0.05


@dataclass(frozen=True, slots=True, kw_only=True)
class MotorChoice:
    """A listed source and the plan with it. ``price`` is in price units, None where the list has none.

    What the plan would be is None while it is not solved, ``load`` also while the running torque is unknown.
    """

    item: Item
    drive: Drive
    price: float | None
    last_speed_rpm: float | None = None
    load: float | None = None
    problems: int | None = None
    warnings: int | None = None
    chosen: bool = False


def motor_choices(
    machine: Machine, plan: Plan, catalog: Catalog, supply: str = "", *, solved: int = 20
) -> tuple[MotorChoice, ...]:
    """Listed sources on a supply, or on any: those strong enough first, nearest to the speed needed, smallest first.

    The first ``solved`` are solved as whole plans.
    """
    listed = [(item, drive_of(item.data)) for item in catalog.of(SOURCE) if supply in ("", item.group)]
    made = [(item, drive) for item, drive in listed if drive is not None]
    asked = _asked_kw(machine, plan)
    ordered = sorted(made, key=lambda pair: (pair[1].power_kw < asked, *_off(machine, plan, pair[1])))
    return tuple(
        _choice(machine, plan, item, drive, catalog if number < solved else None)
        for number, (item, drive) in enumerate(ordered)
    )


def _asked_kw(machine: Machine, plan: Plan) -> float:
    """Power that the need takes from a source [kW]: as the plan's own losses have it, or roughly; 0 while unknown."""
    line, need = solve_line(machine, plan), machine.need
    if line is not None and plan.links and line.shafts[0].power_kw is not None:
        return line.shafts[0].power_kw
    aimed, torque = need.aimed_rpm, need.running_torque_nm
    return power_kw(torque, aimed) / ROUGH_EFFICIENCY if aimed and torque else 0.0


def _off(machine: Machine, plan: Plan, drive: Drive) -> tuple[int, float]:
    aimed = machine.need.aimed_rpm
    ratio = prod(family_of(link.kind).prepare(link, getattr(link, "chosen_step", 1)).ratio for link in plan.links)
    off = abs(log(drive.speed_rpm / ratio / aimed)) if aimed and plan.links else 0.0
    return round(off / AS_NEAR), drive.power_kw


def _choice(machine: Machine, plan: Plan, item: Item, drive: Drive, catalog: Catalog | None) -> MotorChoice:
    source = _wired_as(item.data, plan.source)
    bare = MotorChoice(item=item, drive=drive, price=prices().get(item.id), chosen=source == plan.source)
    if catalog is None:
        return bare
    result = solve_plan(machine, plan.model_copy(update={"source": source}), catalog=catalog)
    if result is None:
        return bare
    return MotorChoice(
        item=item,
        drive=drive,
        price=bare.price,
        last_speed_rpm=result.chosen.last_shaft.speed_rpm,
        load=result.chosen.motor_load,
        problems=result.count(Severity.ERROR),
        warnings=result.count(Severity.WARNING),
        chosen=bare.chosen,
    )


#: What stays as it is when another motor is put in: circuit, cord and inverter.
WIRING = ("supply", "inverter")


def _wired_as(listed: CoreModel, present: SourceModel | None) -> Any:
    """A listed source on the circuit of the present one."""
    both = [name for name in WIRING if name in type(listed).model_fields and hasattr(present, name)]
    return listed.model_copy(update={name: getattr(present, name) for name in both})
