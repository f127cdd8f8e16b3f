"""Whether a source starts its load: torque at rest and on the way up, time, heat, starts an hour."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import inf, isfinite

from pulltide.core.findings import COMMON_PRACTICE, EXACT, Check, Finding, Severity, Source, judge, judge_two
from pulltide.core.sources.contract import Demand, Drive, Fact
from pulltide.core.sources.curves import climb, run_point_rpm
from pulltide.core.sources.plate import Plate
from pulltide.core.sources.tables import at_or_above, hp_of
from pulltide.core.units import RPM_PER_RAD_PER_S

MG10 = Source("NEMA MG 10", "Table 7", "quoted from memory")
MG1_INERTIA = Source("NEMA MG 1", "12.54", "quoted from memory")
KGM2_PER_LBFT2 = 0.04214011
#: Steps of speed that a start is followed in.
STEPS = 40
#: Types with a start winding that is switched out, and the starts an hour it bears. Common practice, no source.
START_SWITCHED, MAX_SWITCHED = ("split_phase", "capacitor_start", "capacitor_start_run"), 20.0
#: Run-up that trips an ordinary overload relay (class 10) [s], and that overheats a motor. Common practice.
LONG_S, TOO_LONG_S = 10.0, 15.0

PULL_UP = Check(
    code="motor.pull_up",
    severity=Severity.WARNING,
    quantity="least torque of the motor over the load on the way up",
    relation=">=",
    limits=(1.2, 1.0),
    fact="While speeding up the motor has little more torque than the load",
    clear="The motor pulls the load up to speed",
    advice="Start it unloaded, or use a motor with more pull-up torque.",
)
RUN_UP = Check(
    code="motor.run_up",
    severity=Severity.WARNING,
    quantity="time to come up to speed",
    unit="s",
    limits=(LONG_S, TOO_LONG_S),
    fact="Starting takes so long that the overload relay trips",
    clear="Starting time is short enough",
    advice="Reduce the inertia, start unloaded, or use a class 20 relay after checking motor heating.",
)
STARTS = Check(
    code="motor.starts",
    severity=Severity.WARNING,
    quantity="starts an hour",
    unit="1/h",
    fact="Starts per hour are over the motor's limit",
    clear="Starts per hour are within the motor's limit",
    limits=(0.7, 1.0),
    base="starts an hour of the motor at this inertia",
    advice="Use a clutch or a VFD, a larger motor, or fewer starts.",
    source=MG10,
)
INERTIA = Check(
    code="motor.inertia",
    severity=Severity.ERROR,
    quantity="inertia of the load at the motor",
    unit="kg*m**2",
    fact="Load inertia is over what the motor may start",
    clear="The motor can start this inertia",
    base="inertia the motor can start, by its size and speed",
    advice="Start through a clutch or a VFD, or use a larger motor.",
    source=MG1_INERTIA,
)
RULES = (PULL_UP, RUN_UP, STARTS, INERTIA)


@dataclass(frozen=True, slots=True)
class StartLimits:
    """Starts an hour that the motor bears, rest between them [s], inertia it may start. None where not printed."""

    starts_per_h: float | None
    rest_s: float | None
    max_inertia_kgm2: float | None


def max_inertia_kgm2(power_hp: float, pole_count: int) -> float:
    """Largest inertia of a load that an ordinary three-phase motor may start [kg·m²].

    W = A P^0.95 / (n/1000)^2.4 - 0.0685 P^1.5 / (n/1000)^1.8 in lb ft², A 24 up to 1800 rpm, 27 at 3600.
    Source: NEMA MG 1 12.54, from memory; synchronous speed at 60 Hz.
    """
    thousands = 7.2 / pole_count
    factor = 27.0 if pole_count == 2 else 24.0
    pounds = factor * power_hp**0.95 / thousands**2.4 - 0.0685 * power_hp**1.5 / thousands**1.8
    return float(max(pounds, 0.0) * KGM2_PER_LBFT2)


def allowed_starts_per_hour(plate: Plate, drive: Drive, demand: Demand) -> StartLimits:
    """What the tables allow; small and single-phase motors by practice: half of it, or 20 an hour."""
    power_hp = hp_of(plate.power_kw or 0.0)
    if plate.start in START_SWITCHED:
        return StartLimits(MAX_SWITCHED, None, None)
    if plate.phases == 1 or plate.poles is None:
        return StartLimits(None, None, None)
    row = at_or_above("starts_three_phase", max(power_hp, 1.0), poles=str(plate.poles))
    if row is None:
        return StartLimits(None, None, max_inertia_kgm2(power_hp, plate.poles))
    small = 0.5 if power_hp < 0.98 else 1.0
    starts = float(row["a_max_starts_per_h"]) * small
    if demand.load_inertia_kgm2:
        times = float(row["b_starts_times_load_wk2_lbft2"]) * small
        starts = min(starts, times / (demand.load_inertia_kgm2 / KGM2_PER_LBFT2))
    return StartLimits(starts, float(row["c_min_rest_s"]), max_inertia_kgm2(power_hp, plate.poles))


@dataclass(frozen=True, slots=True)
class Start:
    """A start worked out: run point, least torque margin on the way, how long it takes."""

    run_rpm: float | None
    margin: float | None
    seconds: float | None


def start_of(drive: Drive, demand: Demand) -> Start:
    """Follow the torque curve against the load from rest to the run point."""
    curve = drive.curve
    if curve is None or demand.running_nm is None:
        return Start(None, None, None)

    def load(speed_rpm: float) -> float:
        return demand.torque_at(speed_rpm / drive.speed_rpm) or 0.0

    run = run_point_rpm(curve, load)
    if run is None:
        return Start(None, None, None)
    way = climb(curve, load, 0.97 * run, STEPS)
    turned = (demand.inertia_kgm2 or 0.0) + demand.wheels_kgm2
    inertia = (drive.rotor_inertia_kgm2 or 0.0) + turned / max(demand.efficiency, 0.05)
    return Start(run, way.margin(0.8 * run), way.seconds(inertia) if inertia else None)


def findings(drive: Drive, demand: Demand, limits: StartLimits) -> Iterator[Finding]:
    """Pull-up, time to speed, starts an hour, inertia."""
    start = start_of(drive, demand)
    if start.margin is not None:
        yield judge_two(PULL_UP, "motor", start.margin)
    if demand.inertia_kgm2 is not None and start.seconds is not None:
        yield judge_two(RUN_UP, "motor", start.seconds if isfinite(start.seconds) else 999.0)
    if limits.starts_per_h is not None and demand.duty.starts_per_hour is not None:
        yield judge_two(STARTS, "motor", demand.duty.starts_per_hour, of=limits.starts_per_h)
    if limits.max_inertia_kgm2 is not None and demand.load_inertia_kgm2 is not None:
        yield judge(INERTIA, "motor", demand.load_inertia_kgm2, limits.max_inertia_kgm2)


def facts(drive: Drive, demand: Demand, limits: StartLimits) -> Iterator[Fact]:
    """Start and heat in figures."""
    group = "Start and heat"
    start = start_of(drive, demand)
    if start.run_rpm is not None:
        yield Fact(
            "running_speed", group, "Runs at, under this load", start.run_rpm, "rpm", "where motor and load meet", EXACT
        )
    at_rest = demand.breakaway_at_motor_nm
    if drive.start_torque_nm is not None and at_rest:
        note = "1.3 or more covers a low supply" if demand.breakaway_nm else "breakaway not entered: running torque"
        yield Fact(
            "breakaway_margin",
            group,
            "Torque at rest over what it takes to move",
            drive.start_torque_nm / at_rest,
            "",
            note,
        )
    if start.margin is not None:
        yield Fact(
            "run_up_margin", group, "Least margin on the way up", start.margin, "", "1.2 or more", COMMON_PRACTICE
        )
    if start.seconds is not None and start.seconds != inf:
        known = "rotor, wheels and machine" if demand.inertia_kgm2 else "rotor and wheels: the machine's not known"
        yield Fact("starting_time", group, "Least time to come up to speed", start.seconds, "s", known, EXACT)
    if demand.load_inertia_kgm2 is not None and drive.curve is not None:
        omega = drive.curve.top_rpm / RPM_PER_RAD_PER_S
        heat = 0.5 * (demand.load_inertia_kgm2 + (drive.rotor_inertia_kgm2 or 0.0)) * omega**2
        yield Fact(
            "rotor_heat", group, "Heat in the rotor, each start", heat, "J", "as much as the energy of motion", EXACT
        )
    if limits.starts_per_h is not None:
        rest = f"at least {limits.rest_s:g} s of rest between" if limits.rest_s else "start winding and capacitor"
        yield Fact("starts_per_hour", group, "Starts an hour it bears", limits.starts_per_h, "1/h", rest, MG10)
