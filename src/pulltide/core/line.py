"""Speed, torque and power at every shaft of a line, and every limit on the way.

Load torque runs from the last shaft back to the motor through each loss; motor torque runs forward. Belt creep
and belt loss depend on the load, so both passes are repeated until nothing moves.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace
from functools import lru_cache
from itertools import islice, pairwise, product
from math import prod

from pulltide.core import catalog_checks, line_checks
from pulltide.core.catalog import Catalog
from pulltide.core.findings import Finding, gathered, judge, state
from pulltide.core.fit.clearance import findings as room_findings
from pulltide.core.fit.shaft import findings as fit_findings
from pulltide.core.fit.surroundings import findings as surroundings
from pulltide.core.labels import as_is, inside, phrase
from pulltide.core.ladder import JAM_SHAFT, Ladder, heavy_times, ladder
from pulltide.core.ladder import findings as fuse_findings
from pulltide.core.line_result import LineResult, PlanResult, Setting, Shaft
from pulltide.core.line_rules import NO_STAGE
from pulltide.core.links import family_of
from pulltide.core.loads import OtherLoad, hardest, machines_of, nearest
from pulltide.core.machine import Machine, Plan
from pulltide.core.made.judging import findings as made_findings
from pulltide.core.model import CoreModel
from pulltide.core.need import Need
from pulltide.core.plan_checks import as_built, consistent, controlled, merged
from pulltide.core.running_point import Load, Passed, converge, meeting
from pulltide.core.shipped import shipped_catalog
from pulltide.core.sources import Drive, SourceModel, drive_of, position_of, source_kind
from pulltide.core.transmission import AnyResult, AnyTransmission, Flow, Sizing, Turn
from pulltide.core.units import power_kw, torque_nm

#: How little the last speed moves in the end where only torques without load and under a heavy one are wanted.
NEAR_ENOUGH = 1e-6
#: Settings beyond this many are not solved one by one.
MAX_SETTINGS = 36


def step_counts(plan: Plan) -> tuple[int, ...]:
    """How many positions each link has."""
    return tuple(family_of(link.kind).step_count(link) for link in plan.links)


def chosen_setting(plan: Plan) -> Setting:
    """The position in use at each link."""
    return tuple(getattr(link, "chosen_step", 1) for link in plan.links)


def all_settings(plan: Plan) -> list[Setting]:
    """Every combination of positions, at most 36; the chosen one is always among them."""
    settings = list(islice(product(*(range(1, count + 1) for count in step_counts(plan))), MAX_SETTINGS))
    chosen = chosen_setting(plan)
    return settings if chosen in settings else [chosen, *settings[:-1]]


def source_positions(plan: Plan) -> tuple[tuple[str, SourceModel], ...]:
    """The speeds its source can be set to, with their words; nothing without a source."""
    return () if plan.source is None else _positions(plan.source)


@lru_cache(maxsize=256)
def _positions(source: SourceModel) -> tuple[tuple[str, SourceModel], ...]:
    return tuple(source_kind(getattr(source, "kind", "")).positions(source))


@lru_cache(maxsize=512)
def _drive(source: SourceModel) -> Drive | None:
    return drive_of(source)


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


def _flow(machine: Machine, motor: Drive, passed: Passed, index: int) -> Flow:
    speeds, powers = passed.speeds_rpm, passed.powers_kw
    power_in = powers[index] - passed.taken_kw[index]
    running = torque_nm(power_in, speeds[index]), torque_nm(powers[index + 1], speeds[index + 1])
    over = peak_over_running(machine.need, motor, torque_nm(powers[0], speeds[0]))
    if over is not None:
        over = 1 + (over - 1) * (1 - passed.taken_share(index + 1))
    multiplied = running[0] / torque_nm(powers[0], speeds[0]) if powers[0] else 0.0
    return Flow(
        driver_speed_rpm=speeds[index],
        driven_speed_rpm=speeds[index + 1],
        driver_torque_nm=running[0],
        driven_torque_nm=running[1],
        driver_peak_torque_nm=None if over is None else running[0] * over,
        driven_peak_torque_nm=None if over is None else running[1] * over,
        driver_nameplate_torque_nm=motor.torque_nm * multiplied,
        power_in_kw=power_in,
        power_out_kw=powers[index + 1],
        driven_emergency_torque_nm=None
        if machine.duty.emergency_share is None
        else running[1] * machine.duty.emergency_share,
    )


def _turns(results: tuple[AnyResult, ...]) -> tuple[Turn, ...]:
    turns: list[Turn] = [1]
    for result in results:
        last = turns[-1]
        turns.append(None if last is None or result.turn is None else _sign(last * result.turn))
    return tuple(turns)


def _sign(value: int) -> Turn:
    return 1 if value > 0 else -1


def shaft_names(machine: Machine, plan: Plan) -> tuple[str, ...]:
    """Motor first, the need's name last, as texts with marks; between them what its neighbors make of a shaft."""
    names = ["Motor"]
    housings = [family_of(link.kind).housing for link in plan.links]
    for before, after in pairwise(housings):
        if before and after:
            names.append(f"Between {inside(before)}s")
        else:
            names.append(f"{phrase(before)} out" if before else f"{phrase(after)} in" if after else "Jackshaft")
    if plan.links:
        names.append(as_is(machine.need.last_shaft))
    return tuple(names)


def _shafts(
    machine: Machine, plan: Plan, motor: Drive, passed: Passed, results: tuple[AnyResult, ...]
) -> tuple[Shaft, ...]:
    need, last = machine.need, len(passed.speeds_rpm) - 1
    known = need.running_torque_nm is not None
    at_last = need.peak_torque_nm / need.running_torque_nm if need.peak_torque_nm and need.running_torque_nm else None
    before = peak_over_running(need, motor, torque_nm(passed.powers_kw[0], passed.speeds_rpm[0]))
    shafts = []
    for index, (name, turn) in enumerate(zip(shaft_names(machine, plan), _turns(results), strict=True)):
        speed, power = passed.speeds_rpm[index], passed.powers_kw[index]
        torque, over = torque_nm(power, speed), at_last if index == last else before
        if over is not None:
            over = 1 + (over - 1) * (1 - passed.taken_share(index))
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


def _design_at(results: tuple[AnyResult, ...], index: int) -> float | None:
    """The larger design torque of the links that share a shaft [N·m]."""
    values = []
    if index < len(results):
        values.append(results[index].design.chosen_nm)
    if index > 0:
        link = results[index - 1]
        gain = link.flow.driven_torque_nm / link.flow.driver_torque_nm if link.flow.driver_torque_nm else 0.0
        values.append(link.design.chosen_nm * gain)
    return max(values, default=None)


def solve_line(
    machine: Machine, plan: Plan, setting: Setting | None = None, position: int | None = None
) -> LineResult | None:
    """Solve one plan at one setting of its steps and one position of its source.

    Parameters: the machine (need and duty), one of its plans, a position (from 1) for each link, and one of the speeds
    of the source (from 1); those in use by default.

    Returns None while the motor is not entered: without a speed nothing can be said. With the running torque
    unknown, speeds and geometry are given and everything that depends on load is left out.
    """
    positions = source_positions(plan)
    if plan.source is None:
        return None
    position = position_of(positions, plan.source) if position is None else position
    source = positions[position - 1][1]
    motor = _drive(source)
    if motor is None:
        return None
    unbridged = _is_unbridged(machine, plan, motor)
    if unbridged:
        machine = _without_torque(machine)
    setting = chosen_setting(plan) if setting is None else setting
    transmissions = _transmissions(plan, setting)
    load = Load.of(machine.need, plan.shafts, len(transmissions) + 1)
    passed, stalled = meeting(transmissions, motor, load)
    sizing = Sizing(machine.duty, motor.prime_mover, machine.cycle)
    results = tuple(
        transmission.rate(_flow(machine, motor, passed, index), sizing, f"link-{index + 1}")
        for index, transmission in enumerate(transmissions)
    )
    known = machine.need.running_torque_nm is not None
    if not known:
        results = tuple(replace(result, load_known=False) for result in results)
    continuous = motor.continuous_kw(passed.speeds_rpm[0], machine.duty.ambient_c)
    line = LineResult(
        setting,
        _shafts(machine, plan, motor, passed, results),
        results,
        prod(transmission.ratio for transmission in transmissions),
        _efficiency(plan, passed) if known else None,
        passed.powers_kw[0] / continuous if known else None,
        (),
        position=position,
        stalled=stalled,
        rotor_inertia_kgm2=motor.rotor_inertia_kgm2,
        taken_nm=_torques(Passed(passed.speeds_rpm, passed.taken_kw)),
        dragged_nm=_dragged_nm(plan, len(passed.speeds_rpm)),
        taken_share=passed.taken_share(0),
        unbridged=unbridged,
    )
    found = _ladder(machine, plan, line, (motor, transmissions))
    line = replace(line, jam_torques_nm=found.jam_torques_nm if found else None)
    all_found = (
        *(finding for result in results for finding in result.findings),
        *_jam_findings(line, found),
        *line_checks.findings(machine, plan, (source, motor), line),
        *fuse_findings(found),
    )
    if unbridged:
        all_found = (*(f for f in all_found if f.code not in MOOT_UNBRIDGED), state(NO_STAGE, "line"))
    return replace(
        line,
        findings=tuple(finding for finding in all_found if not finding.is_remark),
        remarks=tuple(finding for finding in all_found if finding.is_remark),
    )


def _dragged_nm(plan: Plan, shafts: int) -> tuple[float, ...]:
    """Measured friction at every shaft [N·m]."""
    known = {part.shaft: part.dragged_nm for part in plan.shafts}
    return tuple(known.get(number, 0.0) for number in range(1, shafts + 1))


def _efficiency(plan: Plan, passed: Passed) -> float | None:
    """What arrives at the machine and at every take-off, over what the source gives."""
    if not passed.powers_kw[0]:
        return None
    dragged = _dragged_nm(plan, len(passed.speeds_rpm))
    rubbed = sum(power_kw(nm, speed) for nm, speed in zip(dragged, passed.speeds_rpm, strict=True))
    return (passed.powers_kw[-1] + sum(passed.taken_kw[:-1]) - rubbed) / passed.powers_kw[0]


#: A motor that turns this many times too fast or too slow is not meant to drive the last shaft directly.
FAR = 1.5
#: What is not said while the first stage is missing: that is the one thing to do.
MOOT_UNBRIDGED = frozenset({"need.no_torque", "need.speed_low", "need.speed_high", "need.speed_error", "line.direct"})


def _is_unbridged(machine: Machine, plan: Plan, motor: Drive) -> bool:
    ideal = machine.need.aimed_rpm
    return not plan.links and ideal is not None and max(motor.speed_rpm / ideal, ideal / motor.speed_rpm) > FAR


def _without_torque(machine: Machine) -> Machine:
    """The same machine with its torque unknown."""
    unknown = {name: None for name in type(machine.need).model_fields if name.endswith("torque_nm")}
    return machine.model_copy(update={"need": machine.need.model_copy(update={**unknown, "inertia_kgm2": None})})


def _jam_findings(line: LineResult, found: Ladder | None) -> Iterator[Finding]:
    """What would break when the machine is held fast, by the rungs of what gives first."""
    torques = line.jam_torques_nm
    if torques is None or found is None or found.fuse_is_late:
        return
    for rung in found.known:
        kind, _, number = rung.subject.partition("-")
        if rung.point.mode != "breaks" or rung.point.torque_nm is None:
            continue
        index = int(number) - 1
        family = family_of(line.links[index].kind) if kind == "link" else None
        rule, safety = (JAM_SHAFT, 1.0) if family is None else (family.jam, family.jam_safety)
        through = torques[index] if family is None else torques[index] - line.taken_nm[index]
        if rule is not None:
            yield judge(rule, rung.subject, through, rung.point.torque_nm / safety)


def _transmissions(plan: Plan, setting: Setting) -> list[AnyTransmission]:
    return [_prepared(link, step) for link, step in zip(plan.links, setting, strict=True)]


@lru_cache(maxsize=1024)
def _prepared(link: CoreModel, step: int) -> AnyTransmission:
    """A link at one position, made once: plans that are compared share most of their links."""
    return family_of(getattr(link, "kind", "")).prepare(link, step)


def ladder_of(machine: Machine, plan: Plan, line: LineResult) -> Ladder | None:
    """What gives first in a solved line of a plan; None while its running torque is unknown or nothing."""
    positions = source_positions(plan)
    motor = _drive(positions[line.position - 1][1]) if positions else None
    return None if motor is None else _ladder(machine, plan, line, (motor, _transmissions(plan, line.setting)))


def _ladder(machine: Machine, plan: Plan, line: LineResult, made: tuple[Drive, list[AnyTransmission]]) -> Ladder | None:
    motor, transmissions = made
    if not line.last_shaft.running_torque_nm:
        return None
    times = heavy_times(line, motor)
    speed, load = line.shafts[0].speed_rpm, Load.of(machine.need, plan.shafts, len(line.shafts))
    speeds = [shaft.speed_rpm for shaft in line.shafts]
    slowed = tuple(driven / driver for driver, driven in pairwise(speeds))
    near = Passed((), tuple((shaft.power_kw or 0.0) * times for shaft in line.shafts), slowed=slowed)
    idle = _torques(converge(transmissions, speed, load, 0.0, within=NEAR_ENOUGH))
    heavy = _torques(converge(transmissions, speed, load, times, near, NEAR_ENOUGH))
    return ladder(line, motor, (idle, heavy), times, plan.shafts)


def _torques(passed: Passed) -> tuple[float, ...]:
    """Torque at every shaft [N·m]."""
    return tuple(map(torque_nm, passed.powers_kw, passed.speeds_rpm))


#: A setting of the steps and a position of the source.
Place = tuple[Setting, int]


def solve_plan(
    machine: Machine, plan: Plan, known: Mapping[Place, LineResult] | None = None, *, catalog: Catalog | None = None
) -> PlanResult | None:
    """Solve every setting of a plan; findings of steps not in use are added, marked with their step.

    ``known`` are lines of this plan that were solved before. ``catalog`` is what the plan's parts are compared with; it
    changes no figure. The shipped lists by default.
    """
    known = known or {}

    def solved_at(place: Place) -> LineResult | None:
        return known.get(place) or solve_line(machine, plan, place[0], place[1])

    settings, positions = all_settings(plan), source_positions(plan)
    if plan.source is None:
        return None
    chosen = solved_at((chosen_setting(plan), position_of(positions, plan.source)))
    if chosen is None:
        return None
    places = [(setting, position) for position in range(1, len(positions) + 1) for setting in settings][:MAX_SETTINGS]
    here = (chosen.setting, chosen.position)
    if here not in places:
        places = [here, *places[:-1]]
    solved = [chosen if place == here else solved_at(place) for place in places]
    lines = tuple(line for line in solved if line is not None)
    further = tuple(_further(machine, plan, lines))
    findings = _found(machine, plan, chosen, lines)
    for load in further:
        findings = hardest(findings, load, _found_for(load, lines))
    findings += (*fit_findings(machine, plan, chosen), *room_findings(plan, chosen), *surroundings(plan, chosen))
    findings += tuple(made_findings(machine, plan, chosen))
    findings += tuple(catalog_checks.findings(plan, catalog or shipped_catalog()))
    ordered = _ordered(gathered(consistent(findings)))
    loads = tuple((load.title, load.line) for load in further)
    return PlanResult(chosen, lines, ordered, step_counts(plan), tuple(words for words, _ in positions), further=loads)


def _asked(machine: Machine) -> tuple[Finding, ...]:
    """What its worksheet finds before there is a drive."""
    requirement = machine.need.requirement()
    return tuple(f for f in requirement.findings if not f.is_remark) if requirement else ()


def _found(machine: Machine, plan: Plan, chosen: LineResult, lines: tuple[LineResult, ...]) -> tuple[Finding, ...]:
    """What the leading load finds at every setting."""
    findings = chosen.findings if len(lines) == 1 else merged(chosen, lines)
    if plan.source is not None and source_kind(plan.source.kind).control(plan.source):
        findings = controlled(machine, chosen, lines, findings)
    asked = _asked(machine)
    return findings + (asked if chosen.unbridged else as_built(machine, chosen, lines, asked))


def _further(machine: Machine, plan: Plan, lines: tuple[LineResult, ...]) -> Iterator[OtherLoad]:
    """Each further load at the setting that suits it best."""
    for title, other in machines_of(machine):
        number = nearest(other, lines)
        line = solve_line(other, plan, lines[number - 1].setting, lines[number - 1].position)
        if line is not None and not line.unbridged:
            yield OtherLoad(title, other, line, number)


def _found_for(load: OtherLoad, lines: tuple[LineResult, ...]) -> tuple[Finding, ...]:
    return (*load.line.findings, *as_built(load.machine, load.line, lines, _asked(load.machine)))


def _ordered(findings: tuple[Finding, ...]) -> tuple[Finding, ...]:
    return tuple(sorted(findings, key=lambda finding: -finding.severity.rank))
