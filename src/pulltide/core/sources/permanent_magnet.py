"""Brushed DC and brushless motors: one straight line from stall to no-load speed, a driver and often a battery."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from functools import lru_cache
from math import sqrt
from typing import Literal

from pydantic import Field, model_validator

from pulltide.core.findings import (
    COMMON_PRACTICE,
    EXACT,
    Check,
    Finding,
    Remark,
    Severity,
    Source,
    judge,
    judge_two,
    state,
)
from pulltide.core.model import Ampere, AmpereHour, CoreModel, KgM2, Kw, Mm, Ohm, Plain, Rpm, RpmPerVolt, Volt
from pulltide.core.sources.contract import Demand, Drive, Fact, Reading, SourceKind, SourceModel, Sure
from pulltide.core.sources.curves import LineCurve
from pulltide.core.units import RPM_PER_RAD_PER_S, power_kw

MACHINE = Source("permanent-magnet motor", "V = I R + K ω, T = K (I - I0)", "formula")
#: Continuous current where none is given: 15 % of stall current. Common practice, no source.
CONTINUOUS_SHARE = 0.15
#: No small motor is better. Common practice, no source.
MAX_EFFICIENT = 0.97
#: Share of its charge that a battery gives, by kind, and how much deeper a hard draw cuts it. Common practice.
BATTERIES = {"lead_acid": (0.5, 0.9), "lithium": (0.8, 0.97)}


class Battery(CoreModel):
    """What feeds the driver, where that is a battery."""

    chemistry: Literal["lead_acid", "lithium"] = Field("lithium", title="Battery")
    capacity_ah: AmpereHour | None = Field(None, title="Capacity", gt=0, le=2000)
    c_rate: Plain | None = Field(
        None, title="Rated for, times C", gt=0, le=100, description="20C on a 5 Ah pack: 100 A"
    )
    depth: Plain | None = Field(None, title="Share of it used", gt=0, le=1, description="lead 0.5, lithium 0.8")
    resistance_ohm: Ohm | None = Field(
        None, title="Internal resistance", gt=0, le=5, description="volts it sags, over the amps that do it"
    )


class DcMotor(SourceModel):
    """Brushed motor with permanent magnets: scooter, treadmill, wiper."""

    kind: Literal["dc"] = "dc"
    volts: Volt | None = Field(None, title="Voltage at the motor", gt=1, le=400)
    kv_rpm_v: RpmPerVolt | None = Field(
        None, title="Speed per volt", gt=0.5, le=5000, description="kV, rpm per volt; or the no-load speed below"
    )
    no_load_rpm: Rpm | None = Field(None, title="No-load speed", gt=5, le=30_000, description="at that voltage")
    resistance_ohm: Ohm | None = Field(
        None, title="Winding resistance", gt=0.0005, le=200, description="stall volts over amps, 2 s at 1 to 3 V"
    )
    no_load_a: Ampere | None = Field(None, title="No-load current", ge=0, le=100)
    continuous_a: Ampere | None = Field(
        None, title="Continuous current", gt=0, le=500, description="A on the plate; else 15 % of stall is taken"
    )
    plate_kw: Kw | None = Field(
        None, title="Power on the plate", gt=0.001, le=20, description="W or hp that its shaft gives, at that current"
    )
    plate_rpm: Rpm | None = Field(None, title="Speed on the plate", gt=5, le=30_000, description="under that load")
    driver_limit_a: Ampere | None = Field(None, title="Driver current limit", gt=0, le=1000)
    max_rpm: Rpm | None = Field(None, title="Fastest it may turn", gt=0, le=60_000)
    rectified: bool = Field(False, title="Fed by a rectifier without smoothing", description="heats twice as much")
    controlled: bool = Field(False, title="Speed set by a pedal or controller", description="from slow up to full")
    slowest_share: Plain = Field(
        0.1, title="Slowest steady speed, share of full", ge=0.005, le=1, description="0.1 without feedback"
    )
    runs_slow: bool = Field(False, title="Run at its slowest")
    rotor_inertia_kgm2: KgM2 | None = Field(None, title="Rotor inertia", gt=0, le=10)
    shaft_diameter_mm: Mm | None = Field(None, title="Motor shaft", ge=1, le=80)
    on_battery: bool = Field(False, title="Runs on a battery")
    battery: Battery = Field(default_factory=Battery, title="Battery")

    @model_validator(mode="after")
    def _takes_in_more_than_it_gives(self) -> DcMotor:
        if self.plate_kw is None or self.volts is None or self.continuous_a is None:
            return self
        taken = self.volts * self.continuous_a
        if self.plate_kw * 1000 >= MAX_EFFICIENT * taken:
            raise ValueError(
                f"{self.volts:g} V times {self.continuous_a:g} A takes in {taken:.0f} W, and a shaft gives less than "
                f"{MAX_EFFICIENT * 100:.0f} % of that: power, voltage or current is not what the plate means. Some "
                "plates print what the motor takes in, or what it does for seconds"
            )
        return self


class BrushlessMotor(DcMotor):
    """Brushless motor by kV with its driver."""

    kind: Literal["brushless"] = "brushless"  # type: ignore[assignment]
    sensors: Literal["hall_sensors", "none"] = Field(
        "none", title="Position sensors", description="without, it starts weakly under load"
    )


CURRENT = Check(
    code="motor.current",
    severity=Severity.WARNING,
    quantity="running current",
    unit="A",
    fact="Running current is over the motor's continuous rating",
    clear="Running current is within the motor's continuous rating",
    limits=(1.0, 2.0),
    base="continuous rating",
    advice="Raise the ratio, or use a larger motor.",
    source=MACHINE,
)
DRIVER = Check(
    code="motor.driver",
    severity=Severity.ERROR,
    quantity="current at the peak",
    unit="A",
    fact="Peak current is over the driver's limit",
    clear="Peak current is within the driver's limit",
    base="current limit of the driver",
    advice="Raise the ratio, or use a larger driver.",
    source=MACHINE,
)
OVERSPEED = Check(
    code="motor.overspeed",
    severity=Severity.ERROR,
    quantity="no-load speed",
    unit="rpm",
    fact="No-load speed is over the motor's limit",
    clear="No-load speed is within the motor's limit",
    base="greatest speed of the motor",
    advice="Lower the voltage.",
    source=MACHINE,
)
SENSORLESS = Check(
    code="motor.sensorless",
    severity=Severity.WARNING,
    quantity="breakaway torque at the motor",
    unit="N*m",
    fact="Without sensors the motor may not start under this load",
    clear="The starting load is light enough to start without sensors",
    limits=(0.2,),
    base="most torque of the motor",
    advice="Use a motor with Hall sensors, or start it unloaded.",
)
BATTERY_RATE = Check(
    code="motor.battery_rate",
    severity=Severity.ERROR,
    quantity="most current of the driver",
    unit="A",
    fact="The battery is not rated for the current the driver may draw",
    clear="The battery is rated for the driver's current",
    base="discharge rate of the battery × its capacity",
    advice="Use a larger battery, or set the driver lower.",
)
HEAT = Remark(
    code="motor.rectified",
    severity=Severity.WARNING,
    quantity="form factor",
    fact="On an unfiltered rectifier the motor's continuous torque drops to 1/1.4",
    advice="Use a filtered supply, or count on the lower figure; the load shown already does.",
)
RULES = (CURRENT, DRIVER, OVERSPEED, SENSORLESS, BATTERY_RATE, HEAT)


@dataclass(slots=True, kw_only=True)
class Constants:
    """The motor's own figures, entered or inferred."""

    volts: float
    kv_rpm_v: float
    resistance_ohm: float
    no_load_a: float
    continuous_a: float
    sag_ohm: float = 0.0
    readings: list[Reading] = field(default_factory=list)

    @property
    def k(self) -> float:
        """Torque constant K [N·m/A] = 60 / (2 π kV).

        >>> given = Constants(volts=36, kv_rpm_v=140, resistance_ohm=0.1, no_load_a=1, continuous_a=10)
        >>> round(given.k, 7)
        0.0682093
        """
        return RPM_PER_RAD_PER_S / self.kv_rpm_v

    @property
    def stall_a(self) -> float:
        """Stall current V / (R + R_b) [A]; R_b is the battery's own resistance."""
        return self.volts / (self.resistance_ohm + self.sag_ohm)

    @property
    def stall_nm(self) -> float:
        """Stall torque K (I_s - I0) [N·m]."""
        return self.k * max(self.stall_a - self.no_load_a, 0.0)

    @property
    def no_load_rpm(self) -> float:
        """No-load speed kV (V - I0 R) [rpm]."""
        return self.kv_rpm_v * (self.volts - self.no_load_a * self.resistance_ohm)

    @property
    def best_efficiency(self) -> float:
        """Best efficiency (1 - √(I0 / I_s))²."""
        return (1 - sqrt(min(self.no_load_a / self.stall_a, 1.0))) ** 2

    def amps_at(self, torque_nm: float) -> float:
        """Current for a torque [A]: T / K + I0."""
        return torque_nm / self.k + self.no_load_a

    def speed_at(self, amps: float) -> float:
        """Speed at a current [rpm]: kV (V - I (R + R_b))."""
        return self.kv_rpm_v * max(self.volts - amps * (self.resistance_ohm + self.sag_ohm), 0.0)

    def tell(self, code: str, value: float, unit: str, how: str, sure: Sure, source: Source = EXACT) -> float:
        """Note how a figure was come by and give it back."""
        self.readings.append(Reading(code, value, unit, how, sure, source))
        return value


def _of_plate(motor: DcMotor) -> Constants | None:
    """Motor constants from volts, amps, watts and rpm of a plate; None while one of them is missing.

    Of what is lost at the plate's load, half heats the winding and half stays whatever the load: so it is near its best
    efficiency, where plates are commonly set. R = L / (2 I²), K = (V - I R) / ω, I0 = L / (2 K ω). Common practice, no
    source; with a speed a volt entered, R = (V - K ω) / I follows instead.
    """
    volts, amps, kw, rpm = motor.volts, motor.continuous_a, motor.plate_kw, motor.plate_rpm
    if volts is None or amps is None or kw is None or rpm is None:
        return None
    lost = volts * amps - 1000 * kw
    resistance, sure, how = lost / 2 / amps**2, "guess", "half of what is lost at the plate's load"
    if motor.kv_rpm_v is not None and rpm < motor.kv_rpm_v * volts:
        resistance, sure, how = (volts - rpm / motor.kv_rpm_v) / amps, "follows", "(V - K ω) / I"
    inside = volts - amps * resistance
    found = Constants(
        volts=volts,
        kv_rpm_v=rpm / inside,
        resistance_ohm=resistance,
        no_load_a=max(amps - 1000 * kw / inside, 0.0),
        continuous_a=amps,
    )
    source = COMMON_PRACTICE if sure == "guess" else MACHINE
    found.tell("voltage", volts, "V", "entered", "read")
    found.tell("winding_resistance", resistance, "ohm", how, "guess" if sure == "guess" else "follows", source)
    found.tell("no_load_current", found.no_load_a, "A", "I - P / (V - I R)", "follows", MACHINE)
    found.tell("speed_a_volt", found.kv_rpm_v, "rpm/V", "n / (V - I R)", "follows", MACHINE)
    found.tell("continuous_current", amps, "A", "entered", "read")
    if motor.on_battery and motor.battery.resistance_ohm is not None:
        found.sag_ohm = found.tell("battery_resistance", motor.battery.resistance_ohm, "ohm", "entered", "read")
    return _with_consequences(found)


def _with_consequences(found: Constants) -> Constants:
    found.tell("torque_an_amp", found.k, "N*m", "60 / (2 π kV)", "follows", MACHINE)
    found.tell("stall_current", found.stall_a, "A", "V / R", "follows", MACHINE)
    found.tell("best_efficiency", found.best_efficiency, "share", "(1 - √(I0/I_s))²", "follows", MACHINE)
    return found


@lru_cache(maxsize=256)
def constants(motor: DcMotor) -> Constants | None:
    """Motor constants from what is entered, None while voltage, speed or resistance can't be told.

    A measured winding resistance is preferred to what a plate leads to.
    """
    if motor.volts is None or motor.resistance_ohm is None or (motor.kv_rpm_v is None and motor.no_load_rpm is None):
        return _of_plate(motor)
    found = Constants(
        volts=motor.volts, kv_rpm_v=1.0, resistance_ohm=motor.resistance_ohm, no_load_a=0.0, continuous_a=0.0
    )
    if motor.on_battery and motor.battery.resistance_ohm is not None:
        found.sag_ohm = found.tell("battery_resistance", motor.battery.resistance_ohm, "ohm", "entered", "read")
    found.tell("voltage", motor.volts, "V", "entered", "read")
    found.tell("winding_resistance", motor.resistance_ohm, "ohm", "entered", "read")
    if motor.no_load_a is not None:
        found.no_load_a = found.tell("no_load_current", motor.no_load_a, "A", "entered", "read")
    else:
        guess = 0.03 * found.stall_a
        found.no_load_a = found.tell("no_load_current", guess, "A", "3 % of stall", "guess", COMMON_PRACTICE)
    if motor.kv_rpm_v is not None:
        found.kv_rpm_v = found.tell("speed_a_volt", motor.kv_rpm_v, "rpm/V", "entered", "read")
    else:
        left = max(motor.volts - found.no_load_a * motor.resistance_ohm, 0.1 * motor.volts)
        value = (motor.no_load_rpm or 0.0) / left
        found.kv_rpm_v = found.tell("speed_a_volt", value, "rpm/V", "n0 / (V - I0 R)", "follows", MACHINE)
    if motor.continuous_a is not None:
        found.continuous_a = found.tell("continuous_current", motor.continuous_a, "A", "entered", "read")
    else:
        guess = CONTINUOUS_SHARE * found.stall_a
        found.continuous_a = found.tell(
            "continuous_current", guess, "A", "15 % of stall current", "guess", COMMON_PRACTICE
        )
    return _with_consequences(found)


@lru_cache(maxsize=256)
def drive(motor: DcMotor) -> Drive | None:
    """What the motor gives a line at its continuous current; peak by the driver or by stall."""
    found = constants(motor)
    if found is None or found.continuous_a <= found.no_load_a or found.speed_at(found.continuous_a) <= 0:
        return None
    amps = found.continuous_a
    torque = found.k * (amps - found.no_load_a) / (1.4 if motor.rectified else 1.0)
    speed = found.speed_at(amps)
    limit = motor.driver_limit_a
    most = found.stall_nm if limit is None else min(found.k * max(limit - found.no_load_a, 0.0), found.stall_nm)
    sensorless = isinstance(motor, BrushlessMotor) and motor.sensors == "none"
    line = LineCurve(found.stall_nm, found.no_load_rpm, most)
    if motor.controlled and motor.runs_slow:
        # the controller lowers the voltage: the line moves down, the current limit stays
        line = LineCurve(found.stall_nm * motor.slowest_share, found.no_load_rpm * motor.slowest_share, most)
        speed = max(line.speed_rpm(min(torque, line.stall_nm)) or 0.0, 0.02 * found.no_load_rpm * motor.slowest_share)
        most = min(most, line.stall_nm)
    return Drive(
        title="Brushless motor" if isinstance(motor, BrushlessMotor) else "Brushed DC motor",
        power_kw=power_kw(torque, speed),
        speed_rpm=speed,
        prime_mover="motor",
        max_torque_nm=most,
        start_torque_nm=None if sensorless else most,
        overload=1.0,
        shaft_diameter_mm=motor.shaft_diameter_mm,
        rotor_inertia_kgm2=motor.rotor_inertia_kgm2,
        curve=line,
        speed_note="Motor at its continuous current: kV (V - I R)",
        readings=tuple(found.readings),
        details=found,
        heats_by="torque",
        stalls="driver limits the torque" if limit is not None and most < found.stall_nm else "motor stalls",
        own_load_check=True,
    )


def positions(motor: DcMotor) -> tuple[tuple[str, SourceModel], ...]:
    """Slowest and full speed of a motor with a pedal or controller."""
    if not motor.controlled:
        return (("", motor),)
    return tuple(
        (words, motor.model_copy(update={"runs_slow": slow})) for words, slow in (("slowest", True), ("full", False))
    )


def limited(motor: DcMotor) -> Iterator[tuple[str, SourceModel]]:
    """Lower current limits, in steps of a fifth."""
    found = constants(motor)
    if found is None:
        return
    now = motor.driver_limit_a or found.stall_a
    for share in (0.8, 0.64, 0.5, 0.4, 0.3, 0.2):
        amps = float(f"{now * share:.2g}")
        yield f"Set the driver to {{{amps}|A}} at most", motor.model_copy(update={"driver_limit_a": amps})


def findings(motor: DcMotor, found: Drive, demand: Demand) -> Iterator[Finding]:
    """Current, driver, battery, start."""
    own: Constants = found.details
    if demand.running_nm is not None:
        bears = own.continuous_a / (1.4 if motor.rectified else 1.0)
        yield judge_two(CURRENT, "motor", own.amps_at(demand.running_nm), of=bears)
    if motor.driver_limit_a is not None and demand.peak_nm is not None:
        yield judge(DRIVER, "motor", own.amps_at(demand.peak_nm), motor.driver_limit_a)
    if motor.max_rpm is not None:
        yield judge(OVERSPEED, "motor", own.no_load_rpm, motor.max_rpm)
    if motor.rectified:
        yield state(HEAT, "motor")
    if isinstance(motor, BrushlessMotor) and motor.sensors == "none" and demand.breakaway_at_motor_nm is not None:
        yield judge(SENSORLESS, "motor", demand.breakaway_at_motor_nm, of=found.max_torque_nm or 0.0)
    battery = motor.battery
    if motor.on_battery and battery.capacity_ah and battery.c_rate:
        draws = motor.driver_limit_a or own.stall_a
        yield judge(BATTERY_RATE, "motor", draws, battery.c_rate * battery.capacity_ah)


def run_time_h(capacity_ah: float, depth: float, amps: float, hard_draw: float) -> float:
    """Running time of a battery [h]: C d k / I.

    >>> round(run_time_h(20.0, 0.8, 25.0, 0.9), 3)
    0.576
    """
    return capacity_ah * depth * hard_draw / amps


def facts(motor: DcMotor, found: Drive, demand: Demand | None) -> Iterator[Fact]:
    """Current and speed under this load, what the driver allows, how long the battery lasts."""
    own: Constants = found.details
    group = "Current and speed"
    amps = None
    if demand is not None and demand.running_nm is not None:
        amps = own.amps_at(demand.running_nm)
        runs = own.speed_at(amps) if demand.running_rpm is None else demand.running_rpm
        yield Fact("running_current", group, "Current, running", amps, "A", "T / K + I0", MACHINE)
        yield Fact(
            "running_speed", group, "Runs at, under this load", runs, "rpm", "where motor and load meet", MACHINE
        )
        if not motor.runs_slow:
            out = power_kw(demand.running_nm, runs)
            yield Fact("efficiency", group, "Efficiency there", out * 1000 / (own.volts * amps), "share", "", MACHINE)
    yield Fact(
        "stall_torque", group, "Stall", own.stall_nm, "N*m", f"at {own.stall_a:.3g} A: not a working torque", MACHINE
    )
    if motor.driver_limit_a is not None:
        share = found.max_torque_nm
        yield Fact(
            "driver_torque",
            group,
            "Most torque through the driver",
            share,
            "N*m",
            f"at {motor.driver_limit_a:g} A",
            MACHINE,
        )
    if not motor.on_battery:
        return
    battery = motor.battery
    depth, hard = BATTERIES[battery.chemistry]
    if battery.capacity_ah and battery.c_rate:
        yield Fact(
            "battery_current",
            "Battery",
            "Most current",
            battery.c_rate * battery.capacity_ah,
            "A",
            "C rate times capacity",
        )
    if battery.capacity_ah and amps:
        used = battery.depth or depth
        hours = run_time_h(battery.capacity_ah, used, amps, hard)
        note = f"{used * 100:.0f} % of the charge, {(1 - hard) * 100:.0f} % lost to a steady draw"
        yield Fact("battery_time", "Battery", "Runs for", hours * 60, "min", note, COMMON_PRACTICE)
        yield Fact(
            "fuse", "Battery", "Fuse", "within {200|mm} of the battery", "", "sized for its wire", COMMON_PRACTICE
        )


def readings(motor: DcMotor) -> tuple[Reading, ...]:
    """Every figure, entered or inferred."""
    found = constants(motor)
    return () if found is None else tuple(found.readings)


def hides(motor: DcMotor) -> frozenset[str]:
    """Battery fields while it runs on something else, and what only a controller sets."""
    hidden = set() if motor.controlled else {"slowest_share", "runs_slow"}
    if not motor.on_battery:
        hidden |= {f"battery.{name}" for name in ("chemistry", "capacity_ah", "c_rate", "depth", "resistance_ohm")}
    return frozenset(hidden)


PLATE = ("volts", "continuous_a", "plate_kw", "plate_rpm")
MEASURED = ("resistance_ohm", "kv_rpm_v", "no_load_rpm", "no_load_a")
REST = ("max_rpm", "rotor_inertia_kgm2", "shaft_diameter_mm")
BATTERY = (
    "Battery",
    (
        "on_battery",
        "battery.chemistry",
        "battery.capacity_ah",
        "battery.c_rate",
        "battery.depth",
        "battery.resistance_ohm",
    ),
)
CONTROL = ("controlled", "slowest_share", "runs_slow")
CAUTIONS = (
    "A battery gives hundreds of amps into a short: fuse it at its terminal, cover the terminals, charge it as its "
    "maker says.",
    "A stall figure is not a working torque: at stall all power is heat, and the winding burns in seconds.",
)
WANTS = "Volts, amps, watts and rpm of its plate; or voltage, winding resistance and a speed without load."

DC = SourceKind(
    kind="dc",
    title="Brushed DC motor",
    model=DcMotor,
    drive=drive,
    judge=findings,
    facts=facts,
    sections=(
        ("The plate", PLATE),
        ("Measured", MEASURED),
        ("The motor", REST),
        ("Driver and supply", ("driver_limit_a", "rectified", *CONTROL)),
        BATTERY,
    ),
    rules=RULES,
    wants=WANTS,
    starter={},
    cautions=CAUTIONS,
    readings=readings,
    hides=hides,
    limited=limited,
    positions=positions,
    control=lambda motor: motor.controlled,
)
BRUSHLESS = SourceKind(
    kind="brushless",
    title="Brushless motor",
    model=BrushlessMotor,
    drive=drive,
    judge=findings,
    facts=facts,
    sections=(
        ("The plate", PLATE),
        ("Measured", MEASURED),
        ("The motor", ("sensors", *REST)),
        ("Driver", ("driver_limit_a", *CONTROL)),
        BATTERY,
    ),
    rules=RULES,
    wants=WANTS,
    starter={},
    cautions=CAUTIONS,
    readings=readings,
    hides=hides,
    limited=limited,
    positions=positions,
    control=lambda motor: motor.controlled,
)
