"""Checks that need more than one link: speed band, motor, and what two links do to the shaft they share."""

from __future__ import annotations

from collections.abc import Iterator
from functools import cache

from pulltide.core.findings import COMMON_PRACTICE, Finding, Rule, Severity, Source, judge, judge_two, state
from pulltide.core.line_result import LineResult
from pulltide.core.machine import Machine
from pulltide.core.motor import MOST_SLIP, Motor, slip
from pulltide.core.tables import load_table, number
from pulltide.core.units import KW_PER_HP, MM_PER_IN

NEED = Source("the need as entered", "speed band and torque", "entered")
MG1 = Source("NEMA MG 1", "12.51 and 14.42", "quoted from memory")
AGMA_OHL = Source("common practice", "overhung load 2000 T K Lf / PD, K 1.0 chain", "common practice")
HUB = Source("Machinery's Handbook", "sprocket hub proportions", "quoted from memory")

W, E, N = Severity.WARNING, Severity.ERROR, Severity.NOTE

SPEED_LOW = Rule(
    "need.speed_low",
    "speed of the last shaft",
    ">=",
    W,
    "The last shaft is too slow",
    "The last shaft is fast enough",
    "rpm",
    NEED,
    "Lower the ratio.",
)
SPEED_HIGH = Rule(
    "need.speed_high",
    "speed of the last shaft",
    "<=",
    W,
    "The last shaft is too fast",
    "The last shaft is slow enough",
    "rpm",
    NEED,
    "Raise the ratio.",
)
SPEED_ERROR = Rule(
    "need.speed_error",
    "distance from the ideal speed",
    "<=",
    N,
    "The last shaft is in its band, but off its ideal speed",
    "The last shaft runs at its ideal speed",
    "share",
    COMMON_PRACTICE,
    "Try the next pulley or sprocket.",
)
NO_SPEED = Rule(
    "need.no_speed",
    "speed band",
    ">=",
    W,
    "The wanted speed is not entered, so the speed cannot be judged",
    "",
    "rpm",
    NEED,
    "Enter the slowest, ideal and fastest useful speed.",
)
NO_TORQUE = Rule(
    "need.no_torque",
    "running torque",
    ">=",
    E,
    "The running torque is not entered, so no part can be judged",
    "",
    "N*m",
    NEED,
    "Enter the torque the last shaft takes, or measure it with a lever and a scale.",
)
NO_PEAK = Rule(
    "need.no_peak",
    "peak torque",
    ">=",
    N,
    "The peak torque is not entered, so peaks are not judged",
    "",
    "N*m",
    NEED,
    "Enter the highest torque the last shaft sees.",
)
NO_DUTY = Rule(
    "duty.unknown",
    "shock and hours",
    ">=",
    W,
    "Shock or hours are not entered: judged as heavy shock, all day",
    "",
    "",
    COMMON_PRACTICE,
    "Enter the shock of the load and the hours a day.",
)
NO_REASON = Rule(
    "duty.no_reason",
    "service factor",
    ">=",
    W,
    "A service factor of your own is in force without a reason",
    "",
    "",
    COMMON_PRACTICE,
    "Write down why, so that the next reader can judge it.",
)
MOTOR_LOAD = Rule(
    "motor.load",
    "power taken from the motor",
    "<=",
    W,
    "The motor is loaded past its nameplate power",
    "The motor carries the running load",
    "kW",
    MG1,
    "Use the next larger motor; a nameplate service factor is no spare power.",
)
MOTOR_LIGHT = Rule(
    "motor.light",
    "load of the motor",
    ">=",
    N,
    "The motor is lightly loaded, so it runs at poor efficiency",
    "The motor is reasonably loaded",
    "share",
    COMMON_PRACTICE,
    "A smaller motor would do.",
)
MOTOR_PEAK = Rule(
    "motor.peak",
    "peak torque at the motor",
    "<=",
    W,
    "Peak torque comes near the motor's breakdown torque",
    "Breakdown torque covers the peak",
    "N*m",
    COMMON_PRACTICE,
    "Use a larger motor or a flywheel.",
)
NO_BREAKDOWN = Rule(
    "motor.no_breakdown",
    "peak torque at the motor",
    "<=",
    N,
    "The motor's breakdown torque is not known, so peaks and stalls are not judged",
    "",
    "N*m",
    MG1,
    "Enter breakdown over full-load torque from its data sheet.",
)
BREAKAWAY = Rule(
    "motor.breakaway",
    "1.3 x breakaway torque at the motor",
    "<=",
    E,
    "The motor may not start this load",
    "The motor starts the load",
    "N*m",
    COMMON_PRACTICE,
    "Use a motor with more starting torque.",
)
SLIP = Rule(
    "motor.slip",
    "full-load slip",
    "<=",
    W,
    "This nameplate speed is far below any synchronous speed",
    "The nameplate speed is plausible",
    "share",
    COMMON_PRACTICE,
    "Check the speed and whether the plate says 50 or 60 Hz.",
)
PULLEY = Rule(
    "motor.least_pulley",
    "pulley on the motor shaft",
    ">=",
    W,
    "The motor pulley is smaller than the motor's bearings allow",
    "The motor pulley is large enough for its bearings",
    "mm",
    MG1,
    "Use a larger motor pulley.",
)
OVERHUNG_IN = Rule(
    "reducer.overhung_in",
    "pull on the reducer's input shaft",
    "<=",
    E,
    "The pull is over the reducer's input overhung rating",
    "The input shaft carries the pull",
    "N",
    AGMA_OHL,
    "Use a larger wheel on this shaft, set it closer to the case, or use a larger unit.",
    needs_load=True,
)
OVERHUNG_OUT = Rule(
    "reducer.overhung_out",
    "pull on the reducer's output shaft",
    "<=",
    E,
    "The pull is over the reducer's output overhung rating",
    "The output shaft carries the pull",
    "N",
    AGMA_OHL,
    "Use a larger wheel on this shaft, set it closer to the case, or use a larger unit.",
    needs_load=True,
)
BORE = Rule(
    "shaft.bore",
    "greatest bore of the sprocket",
    ">=",
    E,
    "The sprocket is too small to be bored for this shaft",
    "The sprocket can be bored for its shaft",
    "mm",
    HUB,
    "Use more teeth.",
)
SAME_WAY = Rule("line.turn", "sense", ">=", N, "The last shaft turns the same way as the motor", "", "", NEED)
OTHER_WAY = Rule("line.turn", "sense", ">=", N, "The last shaft turns against the motor", "", "", NEED)
UNKNOWN_WAY = Rule(
    "line.turn",
    "sense",
    ">=",
    N,
    "Which way the last shaft turns depends on the hand of the right-angle reducer",
    "",
    "",
    NEED,
    "Ask for the hand of the worm, or swap two motor leads (three-phase).",
)
NO_LINKS = Rule(
    "line.direct",
    "links",
    ">=",
    N,
    "The motor drives the last shaft directly",
    "",
    "",
    NEED,
    "Add a link to change speed.",
)
RULES = (
    SPEED_LOW,
    SPEED_HIGH,
    SPEED_ERROR,
    NO_SPEED,
    NO_TORQUE,
    NO_PEAK,
    NO_DUTY,
    NO_REASON,
    MOTOR_LOAD,
    MOTOR_LIGHT,
    MOTOR_PEAK,
    NO_BREAKDOWN,
    BREAKAWAY,
    SLIP,
    PULLEY,
    OVERHUNG_IN,
    OVERHUNG_OUT,
    BORE,
    SAME_WAY,
    OTHER_WAY,
    UNKNOWN_WAY,
    NO_LINKS,
)
#: Beyond a band limit by more than this share, a wrong speed is an error. Common practice, no source.
MARGINAL = 0.05
#: Off the ideal by more than this share is worth a note. Common practice, no source.
ON_TARGET = 0.03


def findings(machine: Machine, motor: Motor, line: LineResult) -> Iterator[Finding]:
    """Every check of the line as a whole."""
    yield from _need(machine, line)
    yield from _motor(machine, motor, line)
    yield from _motor_pulley(motor, line)
    for index in range(len(line.shafts)):
        yield from _shared_shaft(machine, motor, line, index)
    if not line.links:
        yield state(NO_LINKS, "line")
    yield state({1: SAME_WAY, -1: OTHER_WAY, None: UNKNOWN_WAY}[line.last_shaft.turn], "line")


def _need(machine: Machine, line: LineResult) -> Iterator[Finding]:
    need, duty = machine.need, machine.duty
    speed = line.last_shaft.speed_rpm
    if need.speed_min_rpm is not None:
        yield judge_two(SPEED_LOW, "need", speed, need.speed_min_rpm, need.speed_min_rpm * (1 - MARGINAL))
    if need.speed_max_rpm is not None:
        yield judge_two(SPEED_HIGH, "need", speed, need.speed_max_rpm, need.speed_max_rpm * (1 + MARGINAL))
    if need.speed_ideal_rpm is not None:
        yield judge(SPEED_ERROR, "need", abs(speed / need.speed_ideal_rpm - 1), ON_TARGET)
    if need.speed_min_rpm is None and need.speed_max_rpm is None:
        yield state(NO_SPEED, "need")
    if need.running_torque_nm is None:
        yield state(NO_TORQUE, "need")
    elif need.peak_torque_nm is None:
        yield state(NO_PEAK, "need")
    if duty.service_factor_override is None and (duty.shock is None or duty.hours_per_day is None):
        yield state(NO_DUTY, "duty")
    if duty.service_factor_override is not None and not duty.override_reason.strip():
        yield state(NO_REASON, "duty", duty.service_factor_override)


def _motor(machine: Machine, motor: Motor, line: LineResult) -> Iterator[Finding]:
    yield judge(SLIP, "motor", slip(motor.speed_rpm, motor.frequency_hz), MOST_SLIP)
    first = line.shafts[0]
    if first.power_kw is None or first.running_torque_nm is None or line.motor_load is None:
        return
    most = motor.power_kw * (motor.nameplate_service_factor or 1.0)
    yield judge_two(MOTOR_LOAD, "motor", first.power_kw, motor.power_kw, most)
    yield judge(MOTOR_LIGHT, "motor", line.motor_load, 0.4)
    breakdown = motor.breakdown_torque_nm
    if breakdown is None:
        yield state(NO_BREAKDOWN, "motor", first.peak_torque_nm)
    elif first.peak_torque_nm is not None:
        yield judge_two(MOTOR_PEAK, "motor", first.peak_torque_nm, 0.8 * breakdown, breakdown)
    start, breakaway = motor.locked_rotor_torque_nm, machine.need.breakaway_torque_nm
    if start is not None and breakaway is not None and machine.need.running_torque_nm:
        at_motor = first.running_torque_nm * breakaway / machine.need.running_torque_nm
        yield judge(BREAKAWAY, "motor", 1.3 * at_motor, start)


def least_motor_pulley_mm(motor: Motor) -> float | None:
    """Smallest pulley on the motor shaft [mm], or None where the table prints nothing.

    Between speeds the next lower column, between powers the next higher row. Source: NEMA MG 1 Table 14-1.
    """
    return _least_pulley_mm(motor.power_kw / KW_PER_HP, motor.speed_rpm)


@cache
def _least_pulley_mm(power_hp: float, speed_rpm: float) -> float | None:
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


def _motor_pulley(motor: Motor, line: LineResult) -> Iterator[Finding]:
    if not line.links or not line.links[0].shafts.is_belt:
        return
    outside, least = line.links[0].shafts.driver_outside_mm, least_motor_pulley_mm(motor)
    if outside is not None and least is not None:
        yield judge_two(PULLEY, "link-1", outside, least - 0.05, 0.9 * least)


def _shared_shaft(machine: Machine, motor: Motor, line: LineResult, index: int) -> Iterator[Finding]:
    """Overhung load and bore at the shaft between link ``index`` and link ``index + 1`` (both from 1)."""
    before = line.links[index - 1] if index > 0 else None
    after = line.links[index] if index < len(line.links) else None
    known = machine.need.running_torque_nm is not None
    shaft_mm = motor.shaft_diameter_mm if before is None else before.shafts.driven_shaft_mm
    if before is not None and after is not None:
        pull, limit = after.driver_pull_n, before.shafts.driven_overhung_n
        if known and limit is not None and pull > 0:
            yield judge(OVERHUNG_OUT, f"shaft-{index + 1}", pull * before.shafts.driven_overhang_factor, limit)
        pull, limit = before.driven_pull_n, after.shafts.driver_overhung_n
        if known and limit is not None and pull > 0:
            yield judge(OVERHUNG_IN, f"shaft-{index + 1}", pull * after.shafts.driver_overhang_factor, limit)
    if after is not None and after.shafts.driver_bore_max_mm is not None and shaft_mm is not None:
        yield judge(BORE, f"shaft-{index + 1}", after.shafts.driver_bore_max_mm, shaft_mm)
    if before is not None and after is not None and before.shafts.driven_bore_max_mm is not None:
        input_mm = after.shafts.driver_shaft_mm
        if input_mm is not None:
            yield judge(BORE, f"shaft-{index + 1}", before.shafts.driven_bore_max_mm, input_mm)
