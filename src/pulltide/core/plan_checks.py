"""What a plan as a whole adds to the findings of its lines: every setting, the need as built, and one voice for all."""

from __future__ import annotations

from dataclasses import replace

from pulltide.core.findings import Finding, Severity, judge
from pulltide.core.line_result import LineResult
from pulltide.core.machine import Machine
from pulltide.core.needs.contract import Built
from pulltide.core.plan_rules import CONTROL_RANGE, CONTROL_TOP


def merged(chosen: LineResult, lines: tuple[LineResult, ...]) -> tuple[Finding, ...]:
    """What the chosen setting says, and what only others say: one finding a check, at the worst of them."""
    worst = {finding.key: finding for finding in chosen.findings}
    for number, line in enumerate(lines, start=1):
        for finding in line.findings:
            seen = worst.get(finding.key)
            if finding.code in OF_THE_CHOSEN or finding.severity.rank < Severity.WARNING.rank:
                continue
            if seen and seen.severity.rank >= finding.severity.rank:
                continue
            worst[finding.key] = replace(finding, step=number)
    return tuple(worst.values())


#: Each step has a speed of its own: only the one in use is too slow or too fast for the job at hand.
OF_THE_CHOSEN = frozenset({"need.speed_low", "need.speed_high"})


def as_built(
    machine: Machine, chosen: LineResult, lines: tuple[LineResult, ...], asked: tuple[Finding, ...]
) -> tuple[Finding, ...]:
    """What the worksheet finds; where the plan has a figure of its own, judged by that instead of by an assumption."""
    requirement = machine.need.requirement()
    if requirement is None:
        return asked
    speeds = [line.last_shaft.speed_rpm for line in lines]
    plays = [link.play_arcmin for link in chosen.links]
    play = None
    if None not in plays:
        downstream = [chosen.last_shaft.speed_rpm / link.flow.driven_speed_rpm for link in chosen.links]
        play = sum((own or 0.0) * share for own, share in zip(plays, downstream, strict=True))
    built = Built(
        speed_rpm=chosen.last_shaft.speed_rpm,
        slowest_rpm=min(speeds),
        fastest_rpm=max(speeds),
        ratio=chosen.ratio,
        rotor_inertia_kgm2=chosen.rotor_inertia_kgm2,
        play_arcmin=play,
    )
    found = tuple(requirement.kind.judge_built(machine.need.worksheet, built))
    replaced = {finding.code for finding in found}
    return tuple(finding for finding in asked if finding.code not in replaced) + found


def controlled(
    machine: Machine, chosen: LineResult, lines: tuple[LineResult, ...], found: tuple[Finding, ...]
) -> tuple[Finding, ...]:
    """Findings of a source whose speed can be set: what its control reaches under load stands for one speed.

    ``lines`` are solved at every setting, so that each end of the control has the load of that end.
    """
    need = machine.need
    slowest = min(line.last_shaft.speed_rpm for line in lines if not line.stalled or line is chosen)
    fastest = max(line.last_shaft.speed_rpm for line in lines if not line.stalled or line is chosen)
    low, high = need.speed_min_rpm, need.speed_max_rpm
    ideal = need.aimed_rpm
    reached = (low is None or slowest <= low * AT_END) and (high is None or fastest >= high / AT_END)
    kept = [f for f in found if not (reached and f.code in SPEEDS)]
    if not reached and ideal is not None and slowest <= ideal <= fastest:
        kept = [f for f in found if f.code not in SPEEDS]
    if low is not None:
        kept.append(judge(CONTROL_RANGE, "need", slowest, low * AT_END))
    if high is not None:
        kept.append(judge(CONTROL_TOP, "need", fastest, high / AT_END))
    return tuple(kept)


#: A control within one per cent of the end of a band reaches it. Common practice, no source.
AT_END = 1.01
SPEEDS = frozenset({"need.speed_low", "need.speed_high", "need.speed_error"})

#: Small faults that a graver one on the same part makes moot: a part is never called too small and too large.
MOOT = {
    "motor.light": frozenset(
        {
            "motor.load",
            "motor.peak",
            "motor.peak_torque",
            "motor.breakaway",
            "motor.pull_up",
            "motor.run_up",
            "motor.inertia",
            "motor.starts",
            "motor.weak_start",
            "motor.flywheel",
            "need.high_load",
            "duty.heat",
        }
    ),
    "reducer.oversize": frozenset(
        {
            "reducer.torque",
            "reducer.peak",
            "reducer.stall",
            "reducer.thermal",
            "reducer.input_speed",
            "reducer.backlash",
            "reducer.overhung_in",
            "reducer.overhung_out",
            "reducer.overhung_end",
            "need.high_use",
        }
    ),
}


def consistent(findings: tuple[Finding, ...]) -> tuple[Finding, ...]:
    """Findings without those that a graver one makes moot."""
    failed = {finding.code for finding in findings if finding.severity.rank >= Severity.WARNING.rank}
    held = any(finding.code.startswith("need.hold") for finding in findings)
    return tuple(
        f
        for f in findings
        if not (held and f.code in HELD_BY_PLAN)
        and (f.severity is Severity.CLEAR or not MOOT.get(f.code, NONE) & failed)
    )


NONE: frozenset[str] = frozenset()
#: What a worksheet says of holding while there is no plan: the plan's own brakes then say it.
HELD_BY_PLAN = frozenset(
    {
        "need.hoist.brake",
        "need.belt_conveyor.back_run",
        "need.bulk_conveyor.back_run",
        "need.chain_conveyor.back_run",
        "need.bucket_elevator.backstop",
        "need.turntable.lurch",
        "end.drum_brake",
    }
)
