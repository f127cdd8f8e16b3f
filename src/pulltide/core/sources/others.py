"""Universal motor, hand crank and small engine: what turns a machine without a nameplate speed of its own."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache
from typing import Literal

from pydantic import Field

from pulltide.core.findings import COMMON_PRACTICE, EXACT, Check, Finding, Remark, Severity, judge, judge_two, state
from pulltide.core.labels import quantity
from pulltide.core.model import Ampere, Kw, Mm, Newton, Plain, Rpm, Volt
from pulltide.core.sources.contract import Demand, Drive, Fact, Reading, SourceKind, SourceModel
from pulltide.core.sources.curves import GovernedCurve, PacedCurve, SeriesCurve
from pulltide.core.units import G_M_PER_S2, NM_RPM_PER_KW, power_kw

#: Low end of locked-rotor torque of universal motors over rated torque. Common practice, no source.
UNIVERSAL_LOCKED = 2.5
#: Speed under load over no-load speed of a universal motor. Common practice, no source.
LOADED_SHARE = 0.6
#: What a person keeps up all day, and for a burst [kW]. Common practice, no source.
ALL_DAY_KW, BURST_KW = 0.075, 0.25
#: Peak torque of a small engine over its torque at rated speed. Common practice, no source.
ENGINE_PEAK = 1.1


class UniversalMotor(SourceModel):
    """Series motor of a power tool or appliance."""

    kind: Literal["universal"] = "universal"
    power_kw: Kw | None = Field(
        None, title="Shaft power", gt=0.01, le=3, description="tool plates print the input: about 0.6 of it comes out"
    )
    input_kw: Kw | None = Field(None, title="Input on its plate", gt=0.01, le=5)
    speed_rpm: Rpm | None = Field(None, title="Speed under load", ge=500, le=40_000)
    no_load_rpm: Rpm | None = Field(None, title="No-load speed", ge=500, le=60_000)
    volts: Volt | None = Field(None, title="Voltage", ge=12, le=260)
    amps_a: Ampere | None = Field(None, title="Current on its plate", gt=0, le=30)
    can_lose_load: bool = Field(True, title="Load can come off", description="belt slips or breaks, tool runs free")
    shaft_diameter_mm: Mm | None = Field(None, title="Motor shaft", ge=1, le=40)


class HandCrank(SourceModel):
    """People at a crank."""

    kind: Literal["hand"] = "hand"
    handle_radius_mm: Mm = Field(
        350.0, title="Handle radius", ge=50, le=600, description="{300|mm} to {400|mm} suits an arm"
    )
    handle_force_n: Newton = Field(
        80.0, title="Force on the handle", ge=5, le=300, description="{50|N} to {150|N}, steady"
    )
    speed_rpm: Rpm = Field(50.0, title="Turned at", ge=5, le=120, description="40 to 60, common practice")
    people: int = Field(1, title="People", ge=1, le=4)
    shaft_diameter_mm: Mm | None = Field(None, title="Crank shaft", ge=5, le=80)


class Engine(SourceModel):
    """Small petrol or diesel engine."""

    kind: Literal["engine"] = "engine"
    power_kw: Kw | None = Field(
        None, title="Power on its plate", gt=0.2, le=20, description="the greatest, for minutes"
    )
    speed_rpm: Rpm | None = Field(None, title="At", ge=800, le=6000, description="governed speed under load")
    cylinders: Literal["one", "several"] = Field("one", title="Cylinders")
    continuous: Plain = Field(
        0.85, title="Share of it all day", ge=0.5, le=1, description="common practice; less in thin or hot air"
    )
    clutch: Literal["none", "centrifugal", "friction", "slack_belt"] = Field("none", title="Clutch")
    engages_rpm: Rpm | None = Field(None, title="Clutch takes hold at", ge=500, le=4000)
    shaft_diameter_mm: Mm | None = Field(None, title="Engine shaft", ge=5, le=60)


RUNAWAY = Remark(
    code="motor.runaway",
    severity=Severity.WARNING,
    quantity="no-load speed",
    fact="A universal motor overspeeds with no load",
    advice="Never run it unloaded; fit a speed control that limits it.",
)
SHORT_TIME = Check(
    code="motor.short_time",
    severity=Severity.WARNING,
    quantity="hours a day",
    unit="h",
    limits=(1.0,),
    fact="A power-tool motor is made for short runs",
    clear="The runs are short enough for a power-tool motor",
    advice="Count on half its power for long runs, and on brush wear.",
)
TIRED = Check(
    code="motor.tired",
    severity=Severity.WARNING,
    quantity="power of one person",
    unit="kW",
    limits=(ALL_DAY_KW, BURST_KW),
    fact="More power than a person can keep up",
    clear="A person can keep this up",
    advice="Raise the ratio, slow the work, or add a second handle.",
)
NO_CLUTCH = Remark(
    code="motor.no_clutch",
    severity=Severity.ERROR,
    quantity="clutch",
    fact="An engine can't start under load",
    advice="Fit a centrifugal clutch, or start it with a slack belt.",
)
EXHAUST = Remark(
    code="motor.exhaust",
    severity=Severity.NOTE,
    quantity="exhaust",
    fact="An engine indoors kills: carbon monoxide has no smell",
    advice="Run it outdoors, or pipe the exhaust out.",
    about=True,
)
RULES = (RUNAWAY, SHORT_TIME, TIRED, NO_CLUTCH, EXHAUST)


@lru_cache(maxsize=128)
def universal_drive(motor: UniversalMotor) -> Drive | None:
    """A series motor: torque falls steeply with speed; power by its plate's input where no output is known."""
    figures = list(universal_readings(motor))
    power = next((float(item.value) for item in figures if item.code == "power"), None)
    speed = next((float(item.value) for item in figures if item.code == "speed_under_load"), None)
    if power is None or speed is None:
        return None
    rated = power_torque(power, speed)
    no_load = max(motor.no_load_rpm or speed / LOADED_SHARE, 1.02 * speed)
    return Drive(
        title="Universal motor",
        power_kw=power,
        speed_rpm=speed,
        prime_mover="high_torque_motor",
        max_torque_nm=UNIVERSAL_LOCKED * rated,
        start_torque_nm=UNIVERSAL_LOCKED * rated,
        overload=1.0,
        shaft_diameter_mm=motor.shaft_diameter_mm,
        rotor_inertia_kgm2=None,
        curve=SeriesCurve(rated, speed, UNIVERSAL_LOCKED, no_load),
        max_torque_inferred=True,
        speed_note="Motor under load, as entered or inferred",
        readings=tuple(figures),
        heats_by="torque",
    )


def power_torque(kw: float, rpm: float) -> float:
    """Torque of a power at a speed [N·m]."""
    return NM_RPM_PER_KW * kw / rpm


def universal_readings(motor: UniversalMotor) -> tuple[Reading, ...]:
    """Power and speed, read or inferred."""
    figures = []
    if motor.power_kw is not None:
        figures.append(Reading("power", motor.power_kw, "kW", "entered", "read"))
    elif motor.input_kw is not None:
        how = "0.6 of the input on the plate"
        figures.append(Reading("power", 0.6 * motor.input_kw, "kW", how, "guess", COMMON_PRACTICE))
    elif motor.volts is not None and motor.amps_a is not None:
        how = "0.55 of volts times amps"
        figures.append(Reading("power", 0.55 * motor.volts * motor.amps_a / 1000, "kW", how, "guess", COMMON_PRACTICE))
    if motor.speed_rpm is not None:
        figures.append(Reading("speed_under_load", motor.speed_rpm, "rpm", "entered", "read"))
    elif motor.no_load_rpm is not None:
        how = "0.6 of no-load speed"
        figures.append(
            Reading("speed_under_load", LOADED_SHARE * motor.no_load_rpm, "rpm", how, "guess", COMMON_PRACTICE)
        )
    return tuple(figures)


def judge_universal(motor: UniversalMotor, drive: Drive, demand: Demand) -> Iterator[Finding]:
    """Runaway and short-time rating."""
    if motor.can_lose_load:
        yield state(RUNAWAY, "motor")
    if demand.duty.hours_per_day is not None:
        yield judge(SHORT_TIME, "motor", demand.duty.hours_per_day)


def universal_facts(motor: UniversalMotor, drive: Drive, demand: Demand | None) -> Iterator[Fact]:
    """Where it runs, and what it would reach unloaded."""
    if demand is not None and demand.running_rpm is not None:
        yield Fact(
            "running_speed",
            "Speed",
            "Runs at, under this load",
            demand.running_rpm,
            "rpm",
            "where motor and load meet",
            EXACT,
        )
    top = motor.no_load_rpm or (drive.curve.top_rpm if drive.curve else None)
    note = "measured" if motor.no_load_rpm else "speed under load is usually 0.6 of it"
    yield Fact("unloaded_speed", "Speed", "Unloaded", top, "rpm", note, COMMON_PRACTICE)


@lru_cache(maxsize=128)
def hand_drive(crank: HandCrank) -> Drive:
    """Force at a radius, times the people; for a moment twice that."""
    torque = crank.people * crank.handle_force_n * crank.handle_radius_mm / 1000
    return Drive(
        title="Hand crank",
        power_kw=power_kw(torque, crank.speed_rpm),
        speed_rpm=crank.speed_rpm,
        prime_mover="hand",
        max_torque_nm=2 * torque,
        start_torque_nm=2 * torque,
        overload=1.0,
        shaft_diameter_mm=crank.shaft_diameter_mm,
        rotor_inertia_kgm2=None,
        curve=PacedCurve(2 * torque, crank.speed_rpm),
        speed_note="Crank, as entered",
        stalls="nobody can press the crank harder",
    )


def judge_hand(crank: HandCrank, drive: Drive, demand: Demand) -> Iterator[Finding]:
    """Power of one person: what is asked, or the handle force where no load is known."""
    asked = power_kw(demand.running_nm, drive.speed_rpm) if demand.running_nm is not None else drive.power_kw
    yield judge_two(TIRED, "motor", asked / crank.people)


def hand_facts(crank: HandCrank, drive: Drive, demand: Demand | None) -> Iterator[Fact]:
    """Force on the handle that the load asks for."""
    if demand is not None and demand.running_nm is not None:
        force = demand.running_nm / crank.people / crank.handle_radius_mm * 1000
        yield Fact(
            "handle_force",
            "At the handle",
            "Force, running",
            force,
            "N",
            f"the weight of {quantity(force / G_M_PER_S2, 'kg')}",
            EXACT,
        )
        yield Fact(
            "person_power",
            "At the handle",
            "Power of one person",
            power_kw(demand.running_nm, drive.speed_rpm) / crank.people,
            "kW",
        )
    yield Fact("all_day_power", "At the handle", "Kept up all day", ALL_DAY_KW, "kW", "50 to 75 W", COMMON_PRACTICE)


@lru_cache(maxsize=128)
def engine_drive(engine: Engine) -> Drive | None:
    """Continuous share of its plate power; it gives torque only once its clutch has taken hold."""
    if engine.power_kw is None or engine.speed_rpm is None:
        return None
    power = engine.continuous * engine.power_kw
    torque = power_torque(engine.power_kw, engine.speed_rpm)
    clutched = engine.clutch != "none"
    engages = engine.engages_rpm or 0.55 * engine.speed_rpm
    return Drive(
        title="Engine",
        power_kw=power,
        speed_rpm=engine.speed_rpm,
        prime_mover="single_cylinder" if engine.cylinders == "one" else "engine",
        max_torque_nm=ENGINE_PEAK * torque,
        start_torque_nm=torque if clutched else 0.0,
        overload=1.0 / engine.continuous,
        shaft_diameter_mm=engine.shaft_diameter_mm,
        rotor_inertia_kgm2=None,
        curve=GovernedCurve(torque, 0.0 if clutched else engages, engine.speed_rpm, ENGINE_PEAK - 1),
        speed_note="Engine at its governed speed",
        stalls="engine stalls",
    )


def judge_engine(engine: Engine, drive: Drive, demand: Demand) -> Iterator[Finding]:
    """Clutch and exhaust."""
    if engine.clutch == "none":
        yield state(NO_CLUTCH, "motor")
    yield state(EXHAUST, "motor")


def engine_facts(engine: Engine, drive: Drive, demand: Demand | None) -> Iterator[Fact]:
    """What is left for all-day running."""
    note = f"{engine.continuous * 100:.0f} % of its plate power"
    yield Fact("continuous_power", "Power", "All day", drive.power_kw, "kW", note, COMMON_PRACTICE)
    yield Fact(
        "governed_torque", "Power", "Torque at governed speed", power_torque(drive.power_kw, drive.speed_rpm), "N*m"
    )


UNIVERSAL = SourceKind(
    kind="universal",
    title="Universal motor",
    model=UniversalMotor,
    drive=universal_drive,
    judge=judge_universal,
    facts=universal_facts,
    sections=(
        (
            "The motor",
            (
                "power_kw",
                "input_kw",
                "volts",
                "amps_a",
                "speed_rpm",
                "no_load_rpm",
                "can_lose_load",
                "shaft_diameter_mm",
            ),
        ),
    ),
    rules=RULES,
    wants="Shaft power or the input on its plate, and its speed under load or unloaded.",
    starter={},
    cautions=("Unplug it before belt or tool are touched: a trigger lock starts it when the power comes back.",),
    readings=universal_readings,
)
HAND = SourceKind(
    kind="hand",
    title="Hand crank",
    model=HandCrank,
    drive=hand_drive,
    judge=judge_hand,
    facts=hand_facts,
    sections=(("The crank", ("handle_radius_mm", "handle_force_n", "speed_rpm", "people", "shaft_diameter_mm")),),
    rules=(),
    wants="",
    starter={},
    lever_m=lambda crank: crank.handle_radius_mm / 1000,
    cautions=("A load that can turn the crank back breaks wrists: fit a ratchet.",),
)
ENGINE = SourceKind(
    kind="engine",
    title="Small engine",
    model=Engine,
    drive=engine_drive,
    judge=judge_engine,
    facts=engine_facts,
    sections=(
        (
            "The engine",
            ("power_kw", "speed_rpm", "cylinders", "continuous", "clutch", "engages_rpm", "shaft_diameter_mm"),
        ),
    ),
    rules=(),
    wants="Power and speed on its plate.",
    starter={},
    cautions=("Stop the engine and pull the plug lead before a belt or a guard is touched. Hot parts, fuel, exhaust.",),
)
