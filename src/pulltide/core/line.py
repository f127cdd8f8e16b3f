"""Speed, torque and power at every shaft of a line, and every limit on the way.

Load torque runs from the last shaft back to the motor through each loss; motor torque runs forward. Belt creep
and belt loss depend on the load, so both passes are repeated until nothing moves.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from itertools import pairwise, product
from math import prod

from pulltide.core import line_checks
from pulltide.core.family import Flow, LinkResult, Sizing, Transmission, Turn
from pulltide.core.findings import Finding, Severity
from pulltide.core.ladder import HEAVY, Ladder, ladder
from pulltide.core.ladder import findings as fuse_findings
from pulltide.core.line_result import LineResult, PlanResult, Setting, Shaft
from pulltide.core.links import family_of
from pulltide.core.machine import Machine, Plan
from pulltide.core.need import Need
from pulltide.core.sources import Drive, drive_of
from pulltide.core.units import power_kw, torque_nm

CONVERGED = 1e-9
MOST_ROUNDS = 60
#: Settings beyond this many are not solved one by one.
MOST_SETTINGS = 36


def step_counts(plan: Plan) -> tuple[int, ...]:
    """How many positions each link has."""
    return tuple(family_of(link.kind).step_count(link) for link in plan.links)


def chosen_setting(plan: Plan) -> Setting:
    """The position in use at each link."""
    return tuple(getattr(link, "chosen_step", 1) for link in plan.links)


def all_settings(plan: Plan) -> list[Setting]:
    """Every combination of positions, at most 36; the chosen one is always among them."""
    settings = list(product(*(range(1, count + 1) for count in step_counts(plan))))[:MOST_SETTINGS]
    chosen = chosen_setting(plan)
    return settings if chosen in settings else [chosen, *settings[:-1]]


@dataclass(frozen=True, slots=True)
class Passed:
    """Converged speeds [rpm] and powers [kW] at every shaft."""

    speeds_rpm: tuple[float, ...]
    powers_kw: tuple[float, ...]


def _converge(transmissions: list[Transmission], motor_rpm: float, need: Need, times: float = 1.0) -> Passed:
    """Repeat the speed pass and the power pass until no speed moves. The load follows the speed it is given.

    ``times`` turns the load up.
    """
    count = len(transmissions)
    powers = [0.0] * (count + 1)
    speeds = [motor_rpm] * (count + 1)
    for _ in range(MOST_ROUNDS):
        before = speeds[-1]
        for index, transmission in enumerate(transmissions):
            speeds[index + 1] = transmission.carry(speeds[index], powers[index + 1]).driven_speed_rpm
        powers[count] = power_kw(times * (need.torque_at(speeds[count]) or 0.0), speeds[count])
        for index in range(count - 1, -1, -1):
            powers[index] = transmissions[index].carry(speeds[index], powers[index + 1]).power_in_kw
        if abs(speeds[-1] - before) <= CONVERGED * before:
            break
    return Passed(tuple(speeds), tuple(powers))


def peak_over_running(need: Need, motor: Drive, motor_running_nm: float) -> float | None:
    """Peak over running torque in the links. With a flywheel on the last shaft the motor gives only what its slip lets.

    While the wheel's speed swings by C_s, the motor swings by T_FL C_s / (2 s_FL) about the mean: its line near
    full load is straight. Checked against stepping a pulse through Kloss's curve: within 12 %.
    """
    if not need.peak_torque_nm or not need.running_torque_nm:
        return None
    plain = need.peak_torque_nm / need.running_torque_nm
    asked = need.requirement()
    if asked is None or asked.fluctuation is None or not motor.slip or motor_running_nm <= 0:
        return plain
    return min(plain, 1 + motor.torque_nm * asked.fluctuation / (2 * motor.slip) / motor_running_nm)


def _flow(machine: Machine, motor: Drive, passed: Passed, ratios: list[float], index: int) -> Flow:
    speeds, powers = passed.speeds_rpm, passed.powers_kw
    running = [torque_nm(powers[k], speeds[k]) for k in (index, index + 1)]
    need = machine.need
    over = peak_over_running(need, motor, torque_nm(powers[0], speeds[0]))
    multiplied = torque_nm(powers[index], speeds[index]) / torque_nm(powers[0], speeds[0]) if powers[0] else 0.0
    breakdown = motor.most_torque_nm
    return Flow(
        speeds[index],
        speeds[index + 1],
        running[0],
        running[1],
        None if over is None else running[0] * over,
        None if over is None else running[1] * over,
        motor.torque_nm * multiplied,
        None if breakdown is None else breakdown * prod(ratios[:index]),
        powers[index],
        powers[index + 1],
    )


def _turns(results: tuple[LinkResult, ...]) -> tuple[Turn, ...]:
    turns: list[Turn] = [1]
    for result in results:
        last = turns[-1]
        turns.append(None if last is None or result.turn is None else _sign(last * result.turn))
    return tuple(turns)


def _sign(value: int) -> Turn:
    return 1 if value > 0 else -1


def shaft_names(machine: Machine, plan: Plan) -> tuple[str, ...]:
    """Motor first, the need's name last; between them what the neighbouring links make of the shaft."""
    names = ["Motor"]
    housings = [family_of(link.kind).housing for link in plan.links]
    for before, after in pairwise(housings):
        if before and after:
            names.append(f"Between {before.lower()}s")
        else:
            names.append(f"{before} out" if before else f"{after} in" if after else "Jackshaft")
    if plan.links:
        names.append(machine.need.last_shaft)
    return tuple(names)


def _shafts(
    machine: Machine, plan: Plan, motor: Drive, passed: Passed, results: tuple[LinkResult, ...]
) -> tuple[Shaft, ...]:
    need, last = machine.need, len(passed.speeds_rpm) - 1
    known = need.running_torque_nm is not None
    at_last = need.peak_torque_nm / need.running_torque_nm if need.peak_torque_nm and need.running_torque_nm else None
    before = peak_over_running(need, motor, torque_nm(passed.powers_kw[0], passed.speeds_rpm[0]))
    shafts = []
    for index, (name, turn) in enumerate(zip(shaft_names(machine, plan), _turns(results), strict=True)):
        speed, power = passed.speeds_rpm[index], passed.powers_kw[index]
        torque, over = torque_nm(power, speed), at_last if index == last else before
        design = _design_at(results, index)
        shafts.append(
            Shaft(
                index + 1,
                name,
                speed,
                turn,
                torque if known else None,
                design if known else None,
                torque * over if known and over is not None else None,
                power if known else None,
            )
        )
    return tuple(shafts)


def _design_at(results: tuple[LinkResult, ...], index: int) -> float | None:
    """The larger design torque of the links that share a shaft [N·m]."""
    values = []
    if index < len(results):
        values.append(results[index].design.chosen_nm)
    if index > 0:
        link = results[index - 1]
        gain = link.flow.driven_torque_nm / link.flow.driver_torque_nm if link.flow.driver_torque_nm else 0.0
        values.append(link.design.chosen_nm * gain)
    return max(values, default=None)


def _without_load(result: LinkResult) -> LinkResult:
    """The same link with everything removed that means nothing while the torque is unknown."""
    return replace(
        result,
        limits=(),
        findings=tuple(finding for finding in result.findings if not finding.rule.needs_load),
        figures=tuple(replace(f, value=None) if f.needs_load else f for f in result.figures),
    )


def solve_line(machine: Machine, plan: Plan, setting: Setting | None = None) -> LineResult | None:
    """Solve one plan at one setting of its steps.

    Parameters: the machine (need and duty), one of its plans, and a position (from 1) for each link; the
    chosen positions by default.

    Returns None while the motor is not entered: without a speed nothing can be said. With the running torque
    unknown, speeds and geometry are given and everything that depends on load is left out.
    """
    motor = drive_of(plan.source)
    if motor is None:
        return None
    setting = chosen_setting(plan) if setting is None else setting
    transmissions = _transmissions(plan, setting)
    passed = _converge(transmissions, motor.speed_rpm, machine.need)
    ratios = [transmission.ratio for transmission in transmissions]
    sizing = Sizing(machine.duty, motor.prime_mover)
    results = tuple(
        transmission.rate(_flow(machine, motor, passed, ratios, index), sizing, f"link-{index + 1}")
        for index, transmission in enumerate(transmissions)
    )
    known = machine.need.running_torque_nm is not None
    if not known:
        results = tuple(_without_load(result) for result in results)
    line = LineResult(
        setting,
        _shafts(machine, plan, motor, passed, results),
        results,
        prod(ratios),
        passed.powers_kw[-1] / passed.powers_kw[0] if known and passed.powers_kw[0] else None,
        passed.powers_kw[0] / motor.power_in_air_kw(machine.duty.ambient_c) if known else None,
        (),
    )
    own = tuple(finding for result in results for finding in result.findings)
    line = replace(line, findings=own + tuple(line_checks.findings(machine, plan.source, motor, line)))
    if not any(getattr(link, "slips_first", False) for link in plan.links):
        return line
    found = _ladder(machine, plan, line, (motor, transmissions))
    return replace(line, findings=line.findings + tuple(fuse_findings(found)))


def _transmissions(plan: Plan, setting: Setting) -> list[Transmission]:
    return [family_of(link.kind).prepare(link, step) for link, step in zip(plan.links, setting, strict=True)]


def ladder_of(machine: Machine, plan: Plan, line: LineResult) -> Ladder | None:
    """What gives first in a solved line of a plan; None while its running torque is unknown or nothing."""
    motor = drive_of(plan.source)
    return None if motor is None else _ladder(machine, plan, line, (motor, _transmissions(plan, line.setting)))


def _ladder(machine: Machine, plan: Plan, line: LineResult, made: tuple[Drive, list[Transmission]]) -> Ladder | None:
    motor, transmissions = made
    if not line.last_shaft.running_torque_nm:
        return None
    heavy = _converge(transmissions, motor.speed_rpm, machine.need, HEAVY)
    return ladder(line, motor, tuple(map(torque_nm, heavy.powers_kw, heavy.speeds_rpm)), plan.shafts)


def solve_plan(machine: Machine, plan: Plan) -> PlanResult | None:
    """Solve every setting of a plan; findings of steps not in use are added, marked with their step."""
    chosen = solve_line(machine, plan)
    if chosen is None:
        return None
    requirement = machine.need.requirement()
    asked = requirement.findings if requirement else ()
    settings = all_settings(plan)
    if len(settings) == 1:
        return PlanResult(chosen, (chosen,), _ordered(chosen.findings + asked), step_counts(plan))
    solved = [chosen if setting == chosen.setting else solve_line(machine, plan, setting) for setting in settings]
    lines = tuple(line for line in solved if line is not None)
    return PlanResult(chosen, lines, _ordered(_merged(chosen, lines) + asked), step_counts(plan))


def _merged(chosen: LineResult, lines: tuple[LineResult, ...]) -> tuple[Finding, ...]:
    worst = {finding.key: finding for finding in chosen.findings}
    for number, line in enumerate(lines, start=1):
        for finding in line.findings:
            seen = worst.get(finding.key)
            if finding.severity.rank < Severity.WARNING.rank or (seen and seen.severity.rank >= finding.severity.rank):
                continue
            other_speed = finding.code.startswith("need.speed")
            worst[finding.key] = replace(
                finding, step=number, severity=Severity.NOTE if other_speed else finding.severity
            )
    return tuple(worst.values())


def _ordered(findings: tuple[Finding, ...]) -> tuple[Finding, ...]:
    return tuple(sorted(findings, key=lambda finding: -finding.severity.rank))
