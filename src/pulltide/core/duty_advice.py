"""How hard a kind of machine works, what every table makes of it, and the equivalent load of a duty cycle."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from pulltide.core.duty import Duty, PrimeMover, Segment, Shock, root_mean_power
from pulltide.core.findings import COMMON_PRACTICE, EXACT, Check, Finding, Severity, Source, judge, judge_two
from pulltide.core.labels import phrase
from pulltide.core.links import FAMILIES
from pulltide.core.sources import Drive
from pulltide.core.tables import load_table, number
from pulltide.core.transmission import ServiceFactor, Sizing
from pulltide.core.working import Step, Working

PACKAGE = "pulltide.core"
S1_RULE = Source("IEC 60034-1", "equivalent load of a varying duty", "quoted from memory")
CUBE_LAW = Source("ISO 281 and gear rating standards", "equivalent load, exponent 3", "quoted from memory")
#: What a second of rest counts for a motor that cools itself: half. Common practice, no source.
STANDSTILL = 2.0


@dataclass(frozen=True, slots=True)
class Advice:
    """What the tables of applications say of one kind of machine."""

    machine_kind: str
    shock: Shock
    starts_per_hour: float
    reversing: bool
    source: Source


def advised(machine_kind: str) -> Advice | None:
    """The duty of a kind of machine, None for a kind that no table lists."""
    table = load_table(PACKAGE, "duty_class")
    row = next((row for row in table.rows if row["machine_kind"] == machine_kind), None)
    if row is None:
        return None
    shock: Shock = row["shock"]  # type: ignore[assignment]
    source = table.as_source if row["mark"] == "T" else COMMON_PRACTICE
    return Advice(machine_kind, shock, number(row, "starts_per_hour"), row["reversing"] == "yes", source)


@dataclass(frozen=True, slots=True)
class FactorRow:
    """What one table says: of which part, the factor, and whether a plan can use it."""

    part: str
    factor: ServiceFactor
    in_use: bool


def factor_rows(duty: Duty, prime_mover: PrimeMover) -> tuple[FactorRow, ...]:
    """Every table side by side for one duty, one's own factor left aside."""
    asked = duty.model_copy(update={"service_factor_override": None})
    sizing = Sizing(asked, prime_mover)
    rows = [FactorRow(part, factor, True) for family in FAMILIES for part, factor in family.factors(sizing)]
    return (*rows, *(FactorRow(part, factor, False) for part, factor in _practice(asked)))


def _practice(duty: Duty) -> Iterator[tuple[str, ServiceFactor]]:
    table = load_table(PACKAGE, "practice_factor")
    hours = duty.hours_used
    column = "upto_3h" if hours <= 3 else "upto_10h" if hours <= 10 else "over_10h"
    for row in table.rows:
        if row["shock"] == duty.shock_used:
            yield row["component"], ServiceFactor(number(row, column), table.as_source, row["note"])


def disagreements(duty: Duty, rows: tuple[FactorRow, ...]) -> tuple[str, ...]:
    """Where the tables part ways for this duty, in words."""
    values = {row.part: row.factor.value for row in rows}
    said = []
    spread = max(values.values()) / min(values.values())
    if spread > 1.15:
        low, high = min(values, key=lambda part: values[part]), max(values, key=lambda part: values[part])
        said.append(
            f"Factors run from {values[low]:g} ({phrase(low)}) to {values[high]:g} ({phrase(high)}): "
            "each part uses its own."
        )
    if any(row.factor.is_floored for row in rows):
        said.append("Gear tables give credit under 1 for short days; belts and chains do not: 1 is the floor.")
    if duty.hours_used <= 3 or duty.hours_used > 10:
        said.append("The chain table has no hours; belt and gear tables do.")
    if duty.shock_used in ("light", "moderate"):
        said.append("Gear and chain tables know three classes, belts four: light and moderate shock share one there.")
    if duty.starts_used > 10:
        said.append("More than 10 starts an hour: belts add 0.1, gears go up one class, chains add nothing.")
    said.append(
        "A factor is applied once, to the running load; factors of several parts are never multiplied together."
    )
    return tuple(said)


@dataclass(frozen=True, slots=True, kw_only=True)
class Equivalent:
    """Equivalent torques of a cycle as shares of running torque, mean speed as a share of ideal speed."""

    mean: float
    root_mean_square: float
    root_mean_cube: float
    most: float
    mean_speed: float
    seconds: float


def equivalent(cycle: tuple[Segment, ...], standstill: float = STANDSTILL) -> Equivalent | None:
    """Mean torque, root mean square for heat, root mean cube for fatigue; None without a cycle.

    Heat: √(Σ T² t / Σ t'), rest counted as t / k for a motor that cools itself. Fatigue: (Σ n t |T|³ / Σ n t)^(1/3).

    >>> parts = [(0.3, 120, 20), (0.6, 40, 40), (0.3, -80, 20), (1.8, 30, 0)]
    >>> cycle = tuple(Segment(seconds=t, torque_share=x / 100, speed_share=n / 40) for t, x, n in parts)
    >>> found = equivalent(cycle, 1.0)
    >>> round(100 * found.root_mean_square, 2), round(100 * found.root_mean_cube, 2), round(40 * found.mean_speed, 1)
    (54.22, 74.65, 12.0)
    """
    total = sum(part.seconds for part in cycle)
    if not cycle or total <= 0:
        return None
    cooled = sum(part.seconds / (standstill if part.rests else 1.0) for part in cycle)
    turns = sum(part.over_time(lambda torque, speed: speed) for part in cycle)
    moving = [part for part in cycle if not part.rests]
    running = sum(part.seconds for part in moving)
    heat = sum(part.over_time(lambda torque, speed: torque**2) for part in cycle)
    return Equivalent(
        mean=sum(part.over_time(lambda torque, speed: torque) for part in moving) / running if running else 0.0,
        root_mean_square=float((heat / cooled) ** 0.5),
        root_mean_cube=root_mean_power(cycle, 3.0) or 0.0,
        most=max(max(abs(part.torque_share), abs(part.torque_share_end or 0.0)) for part in cycle),
        mean_speed=turns / total,
        seconds=total,
    )


def cycle_workings(cycle: tuple[Segment, ...], standstill: float = STANDSTILL) -> tuple[Working, ...]:
    """How the equivalents of a cycle came about."""
    found = equivalent(cycle, standstill)
    if found is None:
        return ()
    parts = {f"x{number}": part.torque_share for number, part in enumerate(cycle, start=1)}
    heat = Step(
        "Root mean square, for the motor’s heat",
        "x_rms",
        f"√(Σ x² t / Σ t'), rest counted as t / {standstill:g}",
        parts,
        found.root_mean_square,
        "share",
        S1_RULE,
    )
    wear = Step(
        "Root mean cube, for teeth and bearings",
        "x_rmc",
        "(Σ n t |x|³ / Σ n t)^(1/3)",
        parts,
        found.root_mean_cube,
        "share",
        CUBE_LAW,
    )
    mean = Step("Mean while moving", "x_m", "Σ x t / Σ t", parts, found.mean, "share", EXACT)
    return tuple(Working(step.name, (step,)) for step in (mean, heat, wear))


HEAT = Check(
    code="duty.heat",
    severity=Severity.WARNING,
    quantity="motor load by root mean square of the cycle",
    unit="share",
    fact="The motor overheats over its duty cycle",
    clear="Motor heating is within its limit over the duty cycle",
    base="rated load; a problem past the source's overload, at least 1.1",
    advice="Use a larger motor, or rest longer between loads.",
    source=S1_RULE,
)
CYCLE_PEAK = Check(
    code="duty.cycle_peak",
    severity=Severity.WARNING,
    quantity="largest torque of the cycle",
    unit="N*m",
    fact="The duty cycle has a torque above the peak entered",
    clear="The peak entered covers the duty cycle",
    base="peak torque entered",
    advice="Raise the peak torque, or lower that stretch of the cycle.",
)
CYCLE_LONG = Check(
    code="duty.cycle_long",
    severity=Severity.NOTE,
    quantity="length of the cycle",
    unit="s",
    limits=(600.0,),
    fact="With a cycle this long the motor heats up within one stretch, so the mean says little",
    clear="The cycle is short compared with the motor's heating time",
    advice="Check the longest heavy stretch by itself.",
)
RULES = (HEAT, CYCLE_PEAK, CYCLE_LONG)


def cycle_findings(
    duty: Duty, motor_load: float | None, motor: Drive, torques: tuple[float | None, float | None]
) -> Iterator[Finding]:
    """Whether the motor bears the cycle; ``torques`` are running and peak torque of the last shaft [N·m].

    Teeth and reducers are sized by the cycle's own equivalent. Rest counts by how the motor is cooled.
    """
    found = equivalent(duty.cycle, motor.standstill)
    if found is None:
        return
    yield judge(CYCLE_LONG, "duty", found.seconds)
    if motor_load is not None:
        yield judge_two(HEAT, "duty", motor_load * found.root_mean_square, 1.0, max(motor.overload, 1.1))
    running, peak = torques
    if running is not None and peak is not None:
        yield judge(CYCLE_PEAK, "duty", found.most * running, peak)
