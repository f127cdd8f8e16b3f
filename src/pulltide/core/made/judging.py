"""Wheels that the shop makes itself, judged by what they are made of."""

from __future__ import annotations

from collections.abc import Iterator

from pulltide.core.findings import Finding, judge, state
from pulltide.core.line_result import LineResult
from pulltide.core.links import family_of
from pulltide.core.machine import Machine, Plan
from pulltide.core.made import checks
from pulltide.core.made.of_plan import END, as_made, shaft_of, wheels_of
from pulltide.core.made.part import MadePart, Stuff, stuff_of
from pulltide.core.made.wheel import MadeWheel
from pulltide.core.shafts import key_height_mm
from pulltide.core.units import rim_speed_m_per_s

#: What a drive adds to the temperature of the shop on a wheel [°C]. Common practice, no source.
WARMER_C = 20.0


def findings(machine: Machine, plan: Plan, line: LineResult) -> Iterator[Finding]:
    """What is found of the wheels that the plan has made: each check once a stage, for the wheel it is hardest for."""
    worst: dict[tuple[str, str], Finding] = {}
    for part in plan.made:
        for finding in of_wheel(machine, plan, line, part.wheel):
            seen = worst.get(finding.key)
            if seen is None or _graver(finding, seen):
                worst[finding.key] = finding
    yield from worst.values()


def _graver(finding: Finding, than: Finding) -> bool:
    """Whether one finding is worse than another of the same check: by severity, then by how far it uses its limit."""
    if finding.severity is not than.severity:
        return finding.severity.rank > than.severity.rank
    uses = [(one.measured or 0.0) / one.limit if one.limit else 0.0 for one in (finding, than)]
    return uses[0] > uses[1]


def of_wheel(machine: Machine, plan: Plan, line: LineResult, name: str) -> tuple[Finding, ...]:
    """What is found of one wheel; nothing where the shop does not make it, or where it is not there any more."""
    part, wheel = plan.made_part(name), wheels_of(machine, plan).get(name)
    if part is None or wheel is None:
        return ()
    stuff = stuff_of(as_made(plan, name, wheel).material)
    if stuff is None:
        return (state(checks.UNKNOWN, subject_of(part)),)
    return tuple(_judged((machine, plan, line), part, wheel, stuff))


def subject_of(part: MadePart) -> str:
    """What a finding of a made wheel is about: its stage, or the machine at the end."""
    stage = part.wheel.partition("-")[0]
    return "need" if stage == END else f"link-{stage}"


def _judged(
    where: tuple[Machine, Plan, LineResult], part: MadePart, wheel: MadeWheel, stuff: Stuff
) -> Iterator[Finding]:
    machine, plan, line = where
    subject, number = subject_of(part), shaft_of(plan, part.wheel)
    speed = line.shafts[number - 1].speed_rpm if number <= len(line.shafts) else 0.0
    if wheel.hub:
        yield judge(checks.RIM, subject, rim_speed_m_per_s(wheel.outside_mm, speed), stuff.rim_m_per_s)
    yield judge(checks.HEAT, subject, machine.duty.ambient_c, stuff.temperature_c - WARMER_C)
    if not stuff.soft:
        # a hub of metal stands what the key itself does, and that is judged with the shaft
        return
    pressure = key_pressure_mpa(plan, line, number) if wheel.hub else None
    if pressure is not None:
        yield judge(checks.BORE, subject, pressure, stuff.bending_mpa)
    holding = machine.need.holding_torque_nm
    if holding is not None:
        yield judge(checks.HOLDS, subject, holding)
    loops = part.wheel.partition("-")[0] != END and family_of(plan.links[_stage(part)].kind).toothed_loop
    if loops:
        yield state(checks.TEETH, subject)


def _stage(part: MadePart) -> int:
    return int(part.wheel.partition("-")[0]) - 1


def key_pressure_mpa(plan: Plan, line: LineResult, number: int) -> float | None:
    """Pressure of a key on half its height in the hub [MPa]: 4 T / (d h L); None while a size or the load is unknown.

    T is the design torque, d the shaft, h and L height and length of the key. Source: Shigley, section 7-7.
    """
    part = plan.shaft_part(number)
    torque = line.shafts[number - 1].design_torque_nm if number <= len(line.shafts) else None
    if part is None or torque is None or part.diameter_mm is None:
        return None
    if part.key_width_mm is None or part.key_length_mm is None:
        return None
    return 4000 * torque / (part.diameter_mm * key_height_mm(part.key_width_mm) * part.key_length_mm)
