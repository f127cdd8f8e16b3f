"""Checks that need more than one link: speed band, motor, and what two links do to the shaft they share."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache
from math import prod
from typing import Any

from pulltide.core.duty import MarginRule
from pulltide.core.duty_advice import cycle_findings
from pulltide.core.ends import end_at, end_findings, end_kind
from pulltide.core.findings import MEASURED_TO_MM, Finding, judge, judge_two, state
from pulltide.core.line_result import LineResult
from pulltide.core.line_rules import (
    ASSUMED,
    BORE,
    BREAKAWAY,
    HIGH_LOAD,
    HIGH_USE,
    MOTOR_LIGHT,
    MOTOR_LOAD,
    MOTOR_PEAK,
    NO_BREAKDOWN,
    NO_DUTY,
    NO_LINKS,
    NO_PEAK,
    NO_REASON,
    NO_SPEED,
    NO_TORQUE,
    ONE_WAY_PLACE,
    ONE_WAY_REVERSED,
    OVERHUNG_END,
    OVERHUNG_IN,
    OVERHUNG_OUT,
    PULLEY,
    SLOW_HEAT,
    SOURCE_PEAK,
    SPEED_ERROR,
    SPEED_HIGH,
    SPEED_LOW,
    STALLS,
    TAKE_OFF_SPEED,
)
from pulltide.core.machine import Machine, Plan
from pulltide.core.need import Need
from pulltide.core.plan_rules import HOLD, HOLD_NONE, HOLD_UNKNOWN, HOLD_WORM, UNKNOWN_WAY, WRONG_WAY
from pulltide.core.shafts import ShaftPart
from pulltide.core.sources import Demand, Drive, source_kind
from pulltide.core.tables import load_table, number
from pulltide.core.transmission import AnyResult
from pulltide.core.units import KW_PER_HP, MM_PER_IN

#: Beyond a band limit by more than this share, a wrong speed is an error. Common practice, no source.
MARGINAL = 0.05
#: Load over what a source gives all day that is no matter, and that must not be. Common practice, no source: plate
#: powers are rounded, and insulation ages twice as fast at some 10 % more current.
NEARLY, MUST_NOT = 1.005, 1.1
#: Starting torque over breakaway torque: covers a low supply. Common practice, no source.
START_MARGIN = 1.3


def findings(machine: Machine, plan: Plan, driven_by: tuple[Any, Drive], line: LineResult) -> Iterator[Finding]:
    """Every check of the line as a whole; ``driven_by`` is the source as it is set, and what it gives."""
    source, motor = driven_by
    yield from _need(machine, line)
    yield from _motor(machine, motor, line)
    yield from source_kind(source.kind).judge(source, motor, demand_of(machine, line))
    yield from _motor_pulley(motor, line)
    torques = (machine.need.running_torque_nm, machine.need.peak_torque_nm)
    yield from cycle_findings(machine.duty, line.motor_load, motor, torques)
    if not line.stalled:
        yield from _high_end(machine, line)
    yield from _end(machine, line)
    yield from _holding(machine, plan, line)
    for index in range(len(line.shafts)):
        yield from _shared_shaft(machine, motor, line, index)
    yield from _last_pull(machine, line)
    for part in plan.shafts:
        if part.shaft <= len(line.shafts):
            yield from _shaft_part(machine, part, line)
    if not line.links:
        yield state(NO_LINKS, "line")
    yield from _turn(machine, line)


def _shaft_part(machine: Machine, part: ShaftPart, line: LineResult) -> Iterator[Finding]:
    """Take-off and one-way clutch of a shaft."""
    subject, stage = f"shaft-{part.shaft}", part.one_way_stage
    if part.take_off_nm is not None and part.take_off_rpm is not None:
        yield judge(TAKE_OFF_SPEED, subject, abs(line.shafts[part.shaft - 1].speed_rpm / part.take_off_rpm - 1))
    if stage is not None and not 0 <= stage < len(line.links):
        yield state(ONE_WAY_PLACE, subject)
    elif stage is not None and machine.duty.reversing:
        yield state(ONE_WAY_REVERSED, subject)


def _turn(machine: Machine, line: LineResult) -> Iterator[Finding]:
    """Sense of the last shaft, where a sense is wanted."""
    wanted = {"same": 1, "opposite": -1}.get(machine.need.turn)
    if wanted is None:
        return
    if line.last_shaft.turn is None:
        yield state(UNKNOWN_WAY, "line")
    else:
        yield judge(WRONG_WAY, "line", float(wanted * line.last_shaft.turn))


def _holding(machine: Machine, plan: Plan, line: LineResult) -> Iterator[Finding]:
    """What holds the load when the power is off: brakes, at their shafts; else the friction of a worm, perhaps."""
    holding = machine.need.holding_torque_nm
    if not holding:
        return
    last = line.last_shaft.speed_rpm
    brakes = [
        part.brake_nm * line.shafts[part.shaft - 1].speed_rpm / last
        for part in plan.shafts
        if part.brake_nm is not None and part.shaft <= len(line.shafts)
    ]
    if brakes:
        yield judge_two(HOLD, "need", sum(brakes), of=holding)
        return
    asked = machine.need.requirement()
    if asked is not None and asked.kind.held(machine.need.worksheet):
        yield state(HOLD_UNKNOWN, "need", holding)
    elif any(link.may_hold for link in line.links):
        yield state(HOLD_WORM, "need", holding)
    else:
        yield judge(HOLD_NONE, "need", holding)


def _last_pull(machine: Machine, line: LineResult) -> Iterator[Finding]:
    """Pull of rope, rack or wheel on a last shaft that is the output shaft of a reducer."""
    limit = line.links[-1].shafts.driven_overhung_n if line.links else None
    torque = line.last_shaft.design_torque_nm
    if limit is None or torque is None:
        return
    pull = end_pull_n(machine, torque)
    if pull is not None:
        yield judge(
            OVERHUNG_END, f"shaft-{len(line.shafts)}", pull * line.links[-1].shafts.driven_overhang_factor, limit
        )


def end_pull_n(machine: Machine, torque_nm: float) -> float | None:
    """Pull across the last shaft [N] for a torque on it: of the simple machine it works, or as its worksheet has it."""
    need = machine.need
    asked = need.requirement()
    per_metre = None
    if need.end is not None:
        per_metre = end_kind(need.end.kind).across(need.end)
    elif asked is not None:
        per_metre = asked.kind.pull_per_metre(need.worksheet)
    return None if per_metre is None else torque_nm * per_metre


def _end(machine: Machine, line: LineResult) -> Iterator[Finding]:
    """Checks of the simple machine that the last shaft works."""
    end, last = machine.need.end, line.last_shaft
    if end is not None:
        yield from end_findings(end, end_at(end, *line.need_torques_nm, last.speed_rpm))


def demand_of(machine: Machine, line: LineResult) -> Demand:
    """What a solved line asks of its source, at the source's shaft."""
    need, first = machine.need, line.shafts[0]
    asked = need.requirement()

    def at_source(torque: float | None) -> float | None:
        if torque is None or not need.running_torque_nm:
            return None
        return line.at_source_nm(torque / need.running_torque_nm)

    return Demand(
        running_nm=first.running_torque_nm,
        peak_nm=first.peak_torque_nm,
        breakaway_nm=at_source(need.breakaway_torque_nm),
        inertia_kgm2=None if need.inertia_kgm2 is None else need.inertia_kgm2 / line.ratio**2,
        load_exponent=need.load_exponent,
        efficiency=line.efficiency or 1.0,
        duty=machine.duty,
        wheels_kgm2=wheels_kgm2(line),
        high_nm=at_source(need.running_torque_high_nm),
        fluctuation=asked.fluctuation if asked else None,
        running_rpm=first.speed_rpm,
    )


def wheels_kgm2(line: LineResult) -> float:
    """Every wheel of the stages as it is felt at the source: J / i² [kg·m²], as solid discs."""
    total, ratio = 0.0, 1.0
    for link in line.links:
        total += (link.transmission.inertia_kgm2("driver") or 0.0) / ratio**2
        ratio *= link.ratio
        total += (link.transmission.inertia_kgm2("driven") or 0.0) / ratio**2
    return total


def _speed(need: Need, speed: float) -> Iterator[Finding]:
    """The speed of the last shaft in its band, and near its ideal."""
    if need.speed_min_rpm is not None:
        yield judge_two(SPEED_LOW, "need", speed, need.speed_min_rpm, need.speed_min_rpm * (1 - MARGINAL))
    if need.speed_max_rpm is not None:
        grace = 0.0 if need.fastest_is_limit else MARGINAL
        yield judge_two(SPEED_HIGH, "need", speed, need.speed_max_rpm, need.speed_max_rpm * (1 + grace))
    slow = need.speed_min_rpm is not None and speed < need.speed_min_rpm
    fast = need.speed_max_rpm is not None and speed > need.speed_max_rpm
    if need.speed_ideal_rpm is not None and not (slow or fast):
        yield judge(SPEED_ERROR, "need", abs(speed / need.speed_ideal_rpm - 1))
    if need.speed_min_rpm is None and need.speed_max_rpm is None:
        yield state(NO_SPEED, "need")


def _need(machine: Machine, line: LineResult) -> Iterator[Finding]:
    need, duty = machine.need, machine.duty
    yield from _speed(need, line.last_shaft.speed_rpm)
    if need.worksheet is not None and need.worksheet.assumed:
        yield state(ASSUMED, "need")
    if need.running_torque_nm is None:
        yield state(NO_TORQUE, "need")
    elif need.peak_torque_nm is None:
        yield state(NO_PEAK, "need")
    if duty.service_factor_override is None and (duty.shock is None or duty.hours_per_day is None):
        yield state(NO_DUTY, "duty")
    if duty.service_factor_override is not None and not duty.override_reason.strip():
        yield state(NO_REASON, "duty", duty.service_factor_override)


def _motor(machine: Machine, motor: Drive, line: LineResult) -> Iterator[Finding]:
    first = line.shafts[0]
    if first.power_kw is None or first.running_torque_nm is None or line.motor_load is None:
        return
    most = motor.max_torque_nm
    if line.stalled:
        yield judge(STALLS, "motor", first.running_torque_nm, min(most or 0.0, 0.999 * first.running_torque_nm))
        return
    yield from _motor_load(motor, first.power_kw, motor.continuous_kw(first.speed_rpm, machine.duty.ambient_c))
    yield judge(MOTOR_LIGHT, "motor", line.motor_load)
    if motor.is_pull_out and (most is None or motor.max_torque_inferred):
        yield state(NO_BREAKDOWN, "motor", most)
    if most is not None and first.peak_torque_nm is not None:
        if motor.is_pull_out:
            yield judge_two(MOTOR_PEAK, "motor", first.peak_torque_nm, of=most)
        else:
            yield judge_two(SOURCE_PEAK, "motor", first.peak_torque_nm, of=most * NEARLY)
    yield from _breakaway(machine, motor, line)


def _motor_load(motor: Drive, power_kw: float, allowed_kw: float) -> Iterator[Finding]:
    """Running power against what the source gives all day, as its own fan cools it."""
    fix = allowed_kw * max(motor.overload, MUST_NOT)
    if motor.cooled_share < 1:
        yield judge_two(SLOW_HEAT, "motor", power_kw, allowed_kw * NEARLY, fix)
    elif not motor.own_load_check:
        yield judge_two(MOTOR_LOAD, "motor", power_kw, allowed_kw * NEARLY, fix)


def _breakaway(machine: Machine, motor: Drive, line: LineResult) -> Iterator[Finding]:
    """Starting torque against what moves the load from rest, before oil films form."""
    start, breakaway = motor.start_torque_nm, machine.need.breakaway_torque_nm
    if start is not None and breakaway is not None and machine.need.running_torque_nm:
        at_motor = line.at_source_nm(breakaway / machine.need.running_torque_nm) or 0.0
        at_motor *= prod(link.efficiency / link.start_efficiency for link in line.links if link.start_efficiency)
        yield judge_two(BREAKAWAY, "motor", at_motor, start / START_MARGIN, start)


def _high_end(machine: Machine, line: LineResult) -> Iterator[Finding]:
    """Whether what holds at the typical running torque still holds at its high end, in proportion."""
    typical, high = machine.need.running_torque_nm, machine.need.running_torque_high_nm
    if typical is None or high is None or line.motor_load is None:
        return
    if line.motor_load <= 1:
        more = (high / typical) * (1 - line.taken_share) + line.taken_share
        yield judge(HIGH_LOAD, "motor", line.motor_load * more)
    tightest = line.tightest
    if tightest is None or tightest[1].use is None or machine.duty.margin_rule is MarginRule.MOTOR_NAMEPLATE:
        return
    number, limit = tightest
    if limit.is_load and tightest[1].use <= 1:
        yield judge(HIGH_USE, f"link-{number}", tightest[1].use * high / typical)


def min_motor_pulley_mm(motor: Drive) -> float | None:
    """Smallest pulley on the motor shaft [mm], or None where the table prints nothing.

    Between speeds the next lower column, between powers the next higher row. Source: NEMA MG 1 Table 14-1.
    """
    return _min_pulley_mm(motor.power_kw / KW_PER_HP, motor.speed_rpm)


@lru_cache(maxsize=512)
def _min_pulley_mm(power_hp: float, speed_rpm: float) -> float | None:
    rows = load_table("pulltide.core", "least_motor_pulley").rows
    powers = sorted({number(row, "power_hp") for row in rows})
    row_hp = next((power for power in powers if power >= power_hp * 0.98), None)
    fitting = [
        row for row in rows if number(row, "power_hp") == row_hp and number(row, "speed_rpm") <= speed_rpm * 1.02
    ]
    if not fitting or power_hp < 0.5 * 0.98:
        return None
    cell = fitting[-1]["least_diameter_in"]
    return None if cell == "na" else float(cell) * MM_PER_IN


def _motor_pulley(motor: Drive, line: LineResult) -> Iterator[Finding]:
    if not line.links or not line.links[0].shafts.is_belt:
        return
    outside, least = line.links[0].shafts.driver_outside_mm, min_motor_pulley_mm(motor)
    if outside is not None and least is not None:
        yield judge_two(PULLEY, "link-1", outside, of=least - MEASURED_TO_MM)


def _overhung(before: AnyResult, after: AnyResult, subject: str) -> Iterator[Finding]:
    """The pull of each neighbor against the overhung rating of the other."""
    pull, limit = after.driver_pull_n, before.shafts.driven_overhung_n
    if limit is not None and pull > 0:
        yield judge(OVERHUNG_OUT, subject, pull * before.shafts.driven_overhang_factor, limit)
    pull, limit = before.driven_pull_n, after.shafts.driver_overhung_n
    if limit is not None and pull > 0:
        yield judge(OVERHUNG_IN, subject, pull * after.shafts.driver_overhang_factor, limit)


def _shared_shaft(machine: Machine, motor: Drive, line: LineResult, index: int) -> Iterator[Finding]:
    """Overhung load and bore at the shaft between link ``index`` and link ``index + 1`` (both from 1)."""
    before = line.links[index - 1] if index > 0 else None
    after = line.links[index] if index < len(line.links) else None
    subject = f"shaft-{index + 1}"
    shaft_mm = motor.shaft_diameter_mm if before is None else before.shafts.driven_shaft_mm
    if before is not None and after is not None and machine.need.running_torque_nm is not None:
        yield from _overhung(before, after, subject)
    if after is not None and after.shafts.driver_bore_max_mm is not None and shaft_mm is not None:
        yield judge(BORE, subject, after.shafts.driver_bore_max_mm, shaft_mm)
    if before is not None and after is not None and before.shafts.driven_bore_max_mm is not None:
        input_mm = after.shafts.driver_shaft_mm
        if input_mm is not None:
            yield judge(BORE, subject, before.shafts.driven_bore_max_mm, input_mm)
