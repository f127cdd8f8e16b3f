"""Formulas of the whole line that a shop asks for by name: ratio, flywheel, key, service factors, duty, motor."""

from __future__ import annotations

from math import pi, sqrt
from typing import Literal

from pydantic import Field, model_validator

from pulltide.core.duty import Duty, PrimeMover, Segment, Shock, root_mean_power
from pulltide.core.duty_advice import equivalent, factor_rows
from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.family import Method
from pulltide.core.findings import EXACT, Source
from pulltide.core.labels import phrase, quantity
from pulltide.core.model import Ampere, CoreModel, Hertz, Hours, Joule, KgM2, Kw, Mm, Mpa, Nm, Ohm, Plain, Rpm, Volt
from pulltide.core.shafts import SHIGLEY, key_crush_nm, key_shear_nm, usual_key_mm
from pulltide.core.sources import tables as source_tables
from pulltide.core.sources.induction import poles, synchronous_speed_rpm
from pulltide.core.units import KW_PER_HP, RPM_PER_RAD_PER_S
from pulltide.core.working import Step, Working

MECHANICS = Source("mechanics", "energy of a turning wheel", "exact")
MOTOR_LINE = Source("mechanics", "V = I R + K ω and T = K (I - I_0)", "exact")


class RatioInputs(CoreModel):
    """Inputs of the ratio that motor and machine call for."""

    first_speed_rpm: Rpm = Field(title="Speed of the motor under load", gt=0, le=60_000)
    last_speed_rpm: Rpm = Field(title="Wanted speed of the last shaft", gt=0, le=60_000)
    plan_ratio: Plain = Field(1.0, title="Ratio of the plan, to compare", gt=0, le=100_000)


def ratio_working(inputs: RatioInputs) -> Working:
    """Ratio asked, and how far a plan's ratio is from it."""
    asked = inputs.first_speed_rpm / inputs.last_speed_rpm
    speeds = {"n_1": inputs.first_speed_rpm, "n_2": inputs.last_speed_rpm}
    off = inputs.plan_ratio / asked - 1
    compared = {"i": inputs.plan_ratio, "i_w": asked}
    return Working(
        "Ratio asked",
        (
            Step("Plan's ratio over it, less one", "x", "i / i_w - 1", compared, off, "share", EXACT),
            Step("Ratio asked", "i_w", "n_1 / n_2", speeds, asked, "", EXACT),
        ),
    )


class GearTorqueInputs(CoreModel):
    """Inputs of the torque behind a ratio."""

    torque_nm: Nm = Field(title="Torque in", gt=0, le=100_000)
    ratio: Plain = Field(title="Ratio, speed in over speed out", gt=0, le=100_000)
    efficiency: Plain = Field(title="Efficiency, 0 to 1", gt=0, le=1)


def gear_torque_working(inputs: GearTorqueInputs) -> Working:
    """Torque out of a ratio without and with its loss."""
    ideal = inputs.torque_nm * inputs.ratio
    put_in = {"T": inputs.torque_nm, "i": inputs.ratio}
    real = {**put_in, "η": inputs.efficiency}
    return Working(
        "Torque behind a ratio",
        (
            Step("Torque out, without loss", "T_i", "T i", put_in, ideal, "N*m", EXACT),
            Step("Torque out", "T_r", "T i η", real, ideal * inputs.efficiency, "N*m", EXACT),
        ),
    )


class FlywheelInputs(CoreModel):
    """Inputs of a flywheel for a blow or a stroke."""

    energy_j: Joule = Field(title="Energy it gives", gt=0, le=10_000_000)
    speed_rpm: Rpm = Field(title="Mean speed", gt=0, le=20_000)
    swing: Plain = Field(title="Swing: greatest less least speed, over the mean", gt=0, le=1.9)


def flywheel_working(inputs: FlywheelInputs) -> Working:
    """Inertia of a flywheel from energy and swing of speed."""
    omega = inputs.speed_rpm / RPM_PER_RAD_PER_S
    value = inputs.energy_j / (inputs.swing * omega**2)
    numbers = {"E": inputs.energy_j, "c": inputs.swing, "n": inputs.speed_rpm}
    step = Step("Inertia", "J", "E / (c (2 π n / 60)²)", numbers, value, "kg*m**2", MECHANICS)
    return Working("Flywheel", (step,))


class BlowInputs(CoreModel):
    """Inputs of the speed that is left after a blow."""

    inertia_kgm2: KgM2 = Field(title="Inertia at this shaft", gt=0, le=100_000)
    speed_rpm: Rpm = Field(title="Speed before", gt=0, le=20_000)
    energy_j: Joule = Field(title="Energy taken", gt=0, le=10_000_000)


def blow_working(inputs: BlowInputs) -> Working:
    """Speed of a wheel after a blow, the motor left out.

    Raises ImpossibleGeometry where the wheel does not hold so much energy.
    """
    held = inputs.inertia_kgm2 * (inputs.speed_rpm / RPM_PER_RAD_PER_S) ** 2 / 2
    if inputs.energy_j >= held:
        raise ImpossibleGeometry(
            f"At {inputs.speed_rpm:g} rpm the wheel holds {held:.3g} J; a blow of {inputs.energy_j:g} J stops it."
        )
    left = inputs.speed_rpm * sqrt(1 - inputs.energy_j / held)
    wheel = {"J": inputs.inertia_kgm2, "n": inputs.speed_rpm}
    after = {"n": inputs.speed_rpm, "E": inputs.energy_j, "E_0": held}
    return Working(
        "Speed after a blow",
        (
            Step("Energy before", "E_0", "J (2 π n / 60)² / 2", wheel, held, "J", MECHANICS),
            Step("Speed after", "n_2", "n √(1 - E / E_0)", after, left, "rpm", MECHANICS),
        ),
    )


class KeyInputs(CoreModel):
    """Inputs of the length of a key."""

    shaft_diameter_mm: Mm = Field(title="Shaft diameter", ge=6, le=300)
    torque_nm: Nm = Field(title="Torque", gt=0, le=100_000)
    yield_mpa: Mpa = Field(title="Yield strength of the softest of key, shaft and hub", gt=50, le=2000)
    safety: Plain = Field(2.0, title="Safety factor", ge=1, le=10)


def key_working(inputs: KeyInputs) -> Working:
    """Length of the usual key against shear and against crushing; the longer governs."""
    size = usual_key_mm(inputs.shaft_diameter_mm)
    if size is None:
        raise ImpossibleGeometry(f"No standard key is known for a shaft of {quantity(inputs.shaft_diameter_mm, 'mm')}.")
    width, height = size
    d, wanted = inputs.shaft_diameter_mm, inputs.safety * inputs.torque_nm
    shear = wanted / key_shear_nm(d, width, 1.0, inputs.yield_mpa)
    crush = wanted / key_crush_nm(d, height, 1.0, inputs.yield_mpa)
    common = {"S": inputs.safety, "T": inputs.torque_nm, "S_y": inputs.yield_mpa, "d": d}
    governs = "crushing governs" if crush >= shear else "shear governs"
    keys = Source("ISO 773 and ANSI B17.1", "key by shaft", "quoted from memory")
    return Working(
        "Length of a key",
        (
            Step("Key width", "b", "table by shaft", {"d": d}, width, "mm", keys),
            Step("Key height", "h", "table by shaft", {"d": d}, height, "mm", keys),
            Step("Against shear", "L_s", "2000 S T / (0.577 S_y b d)", {**common, "b": width}, shear, "mm", SHIGLEY),
            Step("Against crushing", "L_c", "4000 S T / (S_y h d)", {**common, "h": height}, crush, "mm", SHIGLEY),
            Step(
                "Length of key that bears",
                "L",
                "the longer of both",
                {"L_s": shear, "L_c": crush},
                max(shear, crush),
                "mm",
                SHIGLEY,
                governs,
            ),
        ),
    )


class FactorInputs(CoreModel):
    """Inputs of the service factors of a duty."""

    shock: Shock = Field(title="Shock")
    hours_per_day: Hours = Field(title="Hours a day", gt=0, le=24)
    starts_per_hour: Plain = Field(1.0, title="Starts an hour", ge=0, le=600)
    prime_mover: PrimeMover = Field("motor", title="Driven by")


def _key(part: str) -> str:
    return part.lower().replace(", ", "_").replace(" ", "_").replace("-", "_")


def factor_working(inputs: FactorInputs) -> Working:
    """Service factor of every kind of part for one duty, each by its own table."""
    duty = Duty(shock=inputs.shock, hours_per_day=inputs.hours_per_day, starts_per_hour=inputs.starts_per_hour)
    rows = [row for row in factor_rows(duty, inputs.prime_mover) if row.in_use]
    return Working(
        "Service factors",
        tuple(
            Step(
                row.part,
                f"SF_{_key(row.part)}",
                "table by shock, hours and source",
                {},
                row.factor.value,
                "",
                row.factor.source,
            )
            for row in rows
        ),
    )


class CycleInputs(CoreModel):
    """Inputs of what a cycle amounts to."""

    cycle: tuple[Segment, ...] = Field(title="Stretches of the cycle", min_length=1, max_length=40)
    exponent: Plain = Field(3.0, title="Exponent of fatigue", ge=1, le=12, description="3, 10/3 for rolling bearings")
    standstill: Plain = Field(1.0, title="What a second at rest counts in cooling, one over", ge=1, le=6)

    @model_validator(mode="after")
    def _turns(self) -> CycleInputs:
        if all(part.rests for part in self.cycle):
            raise ValueError("nothing turns in this cycle; one stretch at least has a speed above 0")
        return self


def cycle_working(inputs: CycleInputs) -> Working:
    """Mean, heating and ageing torque of a cycle as shares of its running torque."""
    found, ages = equivalent(inputs.cycle, inputs.standstill), root_mean_power(inputs.cycle, inputs.exponent)
    if found is None or ages is None:
        raise ImpossibleGeometry("Nothing turns in this cycle: it has no equivalent torque.")
    by = Source("mechanics; Palmgren and Miner", "damage by a power of the load", "formula")
    power = {"p": inputs.exponent}
    return Working(
        "Equivalents of a duty cycle",
        (
            Step("Length of the cycle", "t", "Σ t", {}, found.seconds, "s", EXACT),
            Step("Mean speed over ideal speed", "n", "Σ n t / Σ t", {}, found.mean_speed, "", EXACT),
            Step("Mean torque while it turns", "T_m", "Σ T t / Σ t", {}, found.mean, "", EXACT),
            Step("Greatest torque", "T_p", "largest |T|", {}, found.most, "", EXACT),
            Step("Heats as", "T_h", "√(Σ T² t / Σ t')", {}, found.root_mean_square, "", EXACT),
            Step("Ages as", "T_a", "(Σ n t |T|^p / Σ n t)^(1/p)", power, ages, "", by),
        ),
    )


class InductionLineInputs(CoreModel):
    """Inputs of an induction motor's line near full load."""

    power_kw: Kw = Field(title="Power on its plate", gt=0, le=500)
    speed_rpm: Rpm = Field(title="Full-load speed", ge=300, lt=3900)
    frequency_hz: Hertz = Field(title="Supply frequency", ge=45, le=65)
    load: Plain = Field(1.0, title="Torque over full-load torque", ge=0, le=1.5)


def induction_line_working(inputs: InductionLineInputs) -> Working:
    """Slope of an induction motor's line, rotor frequency and speed at a load.

    Raises ImpossibleGeometry for a speed that no induction motor reaches at that frequency.
    """
    if inputs.speed_rpm >= 60 * inputs.frequency_hz:
        raise ImpossibleGeometry(
            f"Full-load speed {inputs.speed_rpm:g} rpm is not below {60 * inputs.frequency_hz:g} rpm, the fastest an "
            f"induction motor can turn on {inputs.frequency_hz:g} Hz."
        )
    field = synchronous_speed_rpm(poles(inputs.speed_rpm, inputs.frequency_hz), inputs.frequency_hz)
    torque = 60_000 * inputs.power_kw / (2 * pi * inputs.speed_rpm)
    slip = (field - inputs.speed_rpm) / field
    slope = (field - inputs.speed_rpm) / torque
    speed = field - slope * inputs.load * torque
    plate = {"P": inputs.power_kw, "n": inputs.speed_rpm}
    return Working(
        "Line of an induction motor",
        (
            Step("Full-load torque", "T", "60000 P / (2 π n)", plate, torque, "N*m", EXACT),
            Step(
                "Slope",
                "k",
                "(n_s - n) / T",
                {"n_s": field, "n": inputs.speed_rpm, "T": torque},
                slope,
                "rpm/(N*m)",
                EXACT,
            ),
            Step(
                "Rotor frequency at full load",
                "f_2",
                "s f",
                {"s": slip, "f": inputs.frequency_hz},
                slip * inputs.frequency_hz,
                "Hz",
                EXACT,
            ),
            Step(
                "Speed at this load",
                "n_x",
                "n_s - k x T",
                {"n_s": field, "k": slope, "x": inputs.load, "T": torque},
                speed,
                "rpm",
                EXACT,
                "straight up to about 1.25 of full load",
            ),
        ),
    )


class DcLineInputs(CoreModel):
    """Inputs of a permanent-magnet motor's line."""

    volts: Volt = Field(title="Voltage at the motor", gt=1, le=400)
    resistance_ohm: Ohm = Field(title="Winding resistance", gt=0, le=100)
    no_load_rpm: Rpm = Field(title="No-load speed at that voltage", gt=5, le=60_000)
    no_load_a: Ampere = Field(title="No-load current", gt=0, le=100)


def dc_line_working(inputs: DcLineInputs) -> Working:
    """Torque constant, slope, best efficiency and the current there, of a permanent-magnet motor.

    Raises ImpossibleGeometry where the no-load current takes all of the voltage.
    """
    v, r, i_0 = inputs.volts, inputs.resistance_ohm, inputs.no_load_a
    if i_0 * r >= v:
        raise ImpossibleGeometry(f"{i_0:g} A through {r:g} ohm take all of the {v:g} V: nothing is left to turn it.")
    k = (v - i_0 * r) / (inputs.no_load_rpm / RPM_PER_RAD_PER_S)
    stall = v / r
    best, most = sqrt(i_0 * stall), (1 - sqrt(i_0 / stall)) ** 2
    slope = r / k**2 * RPM_PER_RAD_PER_S
    idle = {"V": v, "I_0": i_0, "R": r, "n_0": inputs.no_load_rpm}
    at = {"I_0": i_0, "I_s": stall}
    return Working(
        "Line of a permanent-magnet motor",
        (
            Step("Torque constant", "K", "(V - I_0 R) / (2 π n_0 / 60)", idle, k, "N*m/A", MOTOR_LINE),
            Step("Stall current", "I_s", "V / R", {"V": v, "R": r}, stall, "A", MOTOR_LINE),
            Step("Stall torque", "T_s", "K (I_s - I_0)", {"K": k, **at}, k * (stall - i_0), "N*m", MOTOR_LINE),
            Step("Slope", "k", "60 R / (2 π K²)", {"R": r, "K": k}, slope, "rpm/(N*m)", MOTOR_LINE),
            Step("Best efficiency", "η", "(1 - √(I_0 / I_s))²", at, most, "", MOTOR_LINE),
            Step("Current at best efficiency", "I_b", "√(I_0 I_s)", at, best, "A", MOTOR_LINE),
        ),
    )


Letter = Literal["A", "B", "C", "D", "E", "F", "G", "H", "J", "K", "L", "M", "N", "P", "R", "S", "T", "U", "V"]


class CodeLetterInputs(CoreModel):
    """Inputs of the starting current of a code letter."""

    letter: Letter = Field(title="Code letter")
    power_kw: Kw = Field(title="Power on its plate", gt=0, le=500)
    volts: Volt = Field(title="Voltage", ge=100, le=600)
    phases: Literal["one", "three"] = Field("three", title="Phases")


def code_letter_working(inputs: CodeLetterInputs) -> Working:
    """Starting current from a code letter, at both ends of its band."""
    least, most = source_tables.code_letter_kva(inputs.letter)
    table = source_tables.source_of("code_letters")
    power_hp, root = inputs.power_kw / KW_PER_HP, sqrt(1.0 if inputs.phases == "one" else 3.0)
    steps = [Step("Power", "P_hp", "P / 0.7456999", {"P": inputs.power_kw}, power_hp, "hp", EXACT)]
    for end, symbol, kva in (("least", "I_1", least), ("most", "I_2", most)):
        if kva is None:  # the last letter has no upper end
            continue
        numbers = {"s": kva, "P_hp": power_hp, "V": inputs.volts, "ph": root**2}
        value = 1000 * kva * power_hp / (inputs.volts * root)
        steps.append(
            Step(f"Starting current, {phrase(end)}", symbol, "1000 s P_hp / (V √ph)", numbers, value, "A", table)
        )
    return Working("Starting current of a code letter", tuple(steps))


METHODS = (
    Method("ratio_asked", "Ratio that motor and machine call for", RatioInputs, ratio_working),
    Method("gear_torque", "Torque behind a ratio, ideal and real", GearTorqueInputs, gear_torque_working),
    Method("flywheel", "Flywheel from energy and swing of speed", FlywheelInputs, flywheel_working),
    Method("speed_after_blow", "Speed of a wheel after a blow", BlowInputs, blow_working),
    Method("key_length", "Length of a key against shear and crushing", KeyInputs, key_working),
    Method("service_factors", "Service factors of every part for a duty", FactorInputs, factor_working),
    Method("duty_equivalents", "What a duty cycle amounts to, by any exponent", CycleInputs, cycle_working),
    Method(
        "motor_line", "Slope and rotor frequency of an induction motor", InductionLineInputs, induction_line_working
    ),
    Method("dc_motor_line", "Slope and best efficiency of a magnet motor", DcLineInputs, dc_line_working),
    Method("motor_code_letter", "Starting current from a code letter", CodeLetterInputs, code_letter_working),
)
