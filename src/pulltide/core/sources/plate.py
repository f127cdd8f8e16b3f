"""Reads an induction motor's nameplate: what is legible is taken, the rest is inferred and says how, and how sure."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import lru_cache
from math import sqrt

from pulltide.core.findings import COMMON_PRACTICE, EXACT, Source
from pulltide.core.labels import as_is, phrase
from pulltide.core.sources.contract import Reading, Sure
from pulltide.core.sources.induction import (
    AT_SYNCHRONOUS,
    MAX_SLIP,
    TACHOMETER_ERROR,
    InductionMotor,
    is_synchronous,
    poles,
    synchronous_speed_rpm,
)
from pulltide.core.sources.tables import (
    assigned_frame,
    cell,
    code_letter_kva,
    exactly,
    frame_row,
    frame_shaft_mm,
    full_load_amps,
    hp_of,
    rows,
    source_of,
)
from pulltide.core.tables import Row, interpolated
from pulltide.core.units import KW_PER_HP, NM_RPM_PER_KW

MG1 = Source("NEMA MG 1", "", "quoted from memory")
MG1_SERVICE_FACTOR = Source("NEMA MG 1", "12.51", "quoted from memory")
#: Typical pf·η by power [hp]: the product that full-load current tables imply. Source: NEC tables, from memory.
PRODUCT = {
    3: ((1.0, 0.45), (2.0, 0.55), (5.0, 0.62), (10.0, 0.67)),
    1: ((0.25, 0.28), (0.5, 0.33), (1.0, 0.41), (2.0, 0.54), (5.0, 0.58)),
}


@dataclass(slots=True, kw_only=True)
class Plate:
    """A whole nameplate. ``readings`` say of every figure how it was come by; what can't be told is None."""

    phases: int
    start: str
    frequency_hz: float | None = None
    poles: int | None = None
    synchronous_rpm: float | None = None
    speed_rpm: float | None = None
    power_kw: float | None = None
    volts: float | None = None
    amps_a: float | None = None
    efficiency: float | None = None
    power_factor: float | None = None
    service_factor: float = 1.0
    design: str | None = None
    breakdown_ratio: float | None = None
    locked_ratio: float | None = None
    pull_up_ratio: float | None = None
    locked_amps_a: float | None = None
    enclosure: str | None = None
    frame: str | None = None
    shaft_mm: float | None = None
    rotor_inertia_kgm2: float | None = None
    readings: list[Reading] = field(default_factory=list)

    def sure_of(self, code: str) -> Sure | None:
        """How sure a reading is, by its code; None where it is unknown."""
        return next((item.sure for item in self.readings if item.code == code), None)

    def tell(self, code: str, value: float | str, unit: str, how: str, sure: Sure, source: Source = EXACT) -> float:
        """Note how a figure was come by, and give it back where it is a number."""
        self.readings.append(Reading(code, value, unit, how, sure, source))
        return value if isinstance(value, float | int) else 0.0


@lru_cache(maxsize=512)
def read_plate(motor: InductionMotor) -> Plate:
    """Fill a plate from what is entered. A motor is frozen, so its plate is kept."""
    plate = Plate(phases=motor.phases, start=motor.start)
    _speeds(motor, plate)
    plate.volts = motor.volts
    if motor.volts is not None:
        plate.tell("voltage", motor.volts, "V", "on the plate", "read")
    _power(motor, plate)
    _slip_speed(motor, plate)
    if plate.power_kw is None or plate.speed_rpm is None:
        return plate
    _built(motor, plate)
    _electrical(motor, plate)
    _torques(motor, plate)
    _start_current(motor, plate)
    _rotor(plate)
    return plate


def _on_second(motor: InductionMotor) -> bool:
    return motor.runs_on == "second" and motor.second_speed_rpm is not None


def _plate_speed(motor: InductionMotor) -> float | None:
    return motor.second_speed_rpm if _on_second(motor) else motor.speed_rpm


def plausible_slip(speed_rpm: float, frequency_hz: float) -> bool:
    """Whether a full-load speed fits a frequency: slip from 0.3 to 13 %."""
    if speed_rpm > 60 * frequency_hz * (1 + AT_SYNCHRONOUS):
        return False
    if is_synchronous(speed_rpm, frequency_hz):
        return True
    synchronous = synchronous_speed_rpm(poles(speed_rpm, frequency_hz), frequency_hz)
    return 0.003 <= 1 - speed_rpm / synchronous <= MAX_SLIP


def _speeds(motor: InductionMotor, plate: Plate) -> None:
    speed = _plate_speed(motor)
    if speed is None and motor.no_load_speed_rpm is not None:
        # An idle motor all but reaches synchronous speed, and a hand tachometer may read a little over.
        speed = (1 - TACHOMETER_ERROR) * motor.no_load_speed_rpm
    if motor.frequency_hz is not None:
        plate.frequency_hz = plate.tell("frequency", motor.frequency_hz, "Hz", "on the plate", "read")
    elif speed is not None:
        fits = [hz for hz in (60.0, 50.0) if plausible_slip(speed, hz)]
        guessed = fits[0] if fits else 60.0
        sure: Sure = "likely" if len(fits) == 1 else "guess"
        how = f"{speed:g} rpm fits {guessed:g} Hz" + (" only" if len(fits) == 1 else " best")
        plate.frequency_hz = plate.tell("frequency", guessed, "Hz", how, sure, COMMON_PRACTICE)
    if plate.frequency_hz is None:
        return
    if motor.poles is not None and not _on_second(motor):
        plate.poles = int(plate.tell("poles", float(motor.poles), "", "on the plate", "read"))
    elif speed is not None:
        count = poles(speed, plate.frequency_hz)
        plate.poles = int(
            plate.tell("poles", float(count), "", f"largest even p with 120 f / p above {speed:g} rpm", "follows")
        )
    if plate.poles is not None:
        synchronous = synchronous_speed_rpm(plate.poles, plate.frequency_hz)
        plate.synchronous_rpm = plate.tell("synchronous_speed", synchronous, "rpm", "120 f / p", "follows")


def usual_slip(power_kw: float, frequency_hz: float, phases: int) -> float:
    """Full-load slip of an ordinary motor: 0.033 P^-0.2 at 60 Hz, 0.048 P^-0.25 at 50 Hz, a tenth more on one phase.

    Common practice, no source.
    """
    share = 0.033 * power_kw**-0.2 if frequency_hz > 55 else 0.048 * power_kw**-0.25
    return float(min(share * (1.1 if phases == 1 else 1.0), 0.1))


def _slip_speed(motor: InductionMotor, plate: Plate) -> None:
    speed = _plate_speed(motor)
    printed = speed is not None and plate.frequency_hz is not None and is_synchronous(speed, plate.frequency_hz)
    if speed is not None and not printed:
        plate.speed_rpm = plate.tell("full_load_speed", speed, "rpm", "on the plate", "read")
    elif plate.synchronous_rpm is not None and plate.power_kw is not None and plate.frequency_hz is not None:
        slip = usual_slip(plate.power_kw, plate.frequency_hz, plate.phases)
        how = f"synchronous speed less {slip * 100:.1f} % slip, usual for this power"
        if printed:
            how = f"the plate prints the field’s own speed; {phrase(how)}: measure it under load"
        plate.speed_rpm = plate.tell(
            "full_load_speed", plate.synchronous_rpm * (1 - slip), "rpm", how, "guess", COMMON_PRACTICE
        )


def _power(motor: InductionMotor, plate: Plate) -> None:
    if _on_second(motor):
        _second_power(motor, plate)
    elif motor.power_kw is not None:
        plate.power_kw = plate.tell("power", motor.power_kw, "kW", "on the plate", "read")
    elif motor.volts is not None and motor.amps_a is not None:
        plate.power_kw = power_from_current(motor, plate)
    elif motor.frame is not None and plate.poles is not None:
        _power_from_frame(motor, plate)


def _second_power(motor: InductionMotor, plate: Plate) -> None:
    if motor.second_power_kw is not None:
        plate.power_kw = plate.tell("power", motor.second_power_kw, "kW", "on the plate, other speed", "read")
    elif motor.power_kw is not None:
        how = "a third of the first speed’s power; low speeds often give a third to half"
        plate.power_kw = plate.tell("power", motor.power_kw / 3, "kW", how, "guess", COMMON_PRACTICE)


def power_from_current(motor: InductionMotor, plate: Plate) -> float | None:
    """Shaft power from volts and amps: P = √m V I pf η, with what is known of pf and η; good to 20 %."""
    if motor.volts is None or motor.amps_a is None:
        return None
    apparent_kva = (sqrt(3) if motor.phases == 3 else 1.0) * motor.volts * motor.amps_a / 1000
    if motor.power_factor is not None and motor.efficiency is not None:
        value = apparent_kva * motor.power_factor * motor.efficiency
        return plate.tell("power", value, "kW", "√m V I pf η from the plate", "follows")
    power = apparent_kva * 0.5
    for _ in range(30):
        power = apparent_kva * interpolated(PRODUCT[motor.phases], hp_of(power))
    how = f"√m V I pf η with pf η {power / apparent_kva:.2f}, usual for this size; good to 20 %"
    return plate.tell("power", power, "kW", how, "likely", source_of("full_load_amps_three_phase"))


def _power_from_frame(motor: InductionMotor, plate: Plate) -> None:
    """The smallest power that the standards put into this frame."""
    fitting = [
        cell(row, "kw") or (cell(row, "hp") or 0.0) * KW_PER_HP
        for row in rows("frame_assignment")
        if row["frame"] == motor.frame and row["poles"] == str(plate.poles)
    ]
    if fitting:
        how = f"smallest power that the standards put into frame {as_is(motor.frame)}"
        plate.power_kw = plate.tell("power", min(fitting), "kW", how, "guess", source_of("frame_assignment"))


def _built(motor: InductionMotor, plate: Plate) -> None:
    """Enclosure, service factor, frame, shaft."""
    if motor.enclosure is not None:
        plate.enclosure = motor.enclosure
        plate.tell("enclosure", motor.enclosure, "", "on the plate", "read")
    if motor.nameplate_service_factor is not None:
        plate.service_factor = plate.tell("service_factor", motor.nameplate_service_factor, "", "on the plate", "read")
    else:
        plate.tell(
            "service_factor", 1.0, "", "none stamped, so no reserve is counted on", "follows", MG1_SERVICE_FACTOR
        )
    _frame(motor, plate)
    if motor.shaft_diameter_mm is not None:
        plate.shaft_mm = plate.tell("shaft", motor.shaft_diameter_mm, "mm", "measured", "read")
    elif plate.frame is not None and (shaft := frame_shaft_mm(plate.frame)) is not None:
        sure: Sure = "follows" if motor.frame else "guess"
        table = "frames_inch" if "shaft_u_in" in (frame_row(plate.frame) or {}) else "frames_metric"
        plate.shaft_mm = plate.tell("shaft", shaft, "mm", f"frame {as_is(plate.frame)}", sure, source_of(table))


def _frame(motor: InductionMotor, plate: Plate) -> None:
    if motor.frame:
        plate.frame = motor.frame.strip().upper()
        plate.tell("frame", plate.frame, "", "on the plate", "read")
        return
    if plate.power_kw is None or plate.poles is None or plate.frequency_hz is None:
        return
    metric = plate.frequency_hz < 55
    found = assigned_frame(plate.power_kw, plate.poles, motor.enclosure or "TEFC", metric)
    if found is not None:
        plate.frame = found
        plate.tell("frame", found, "", "what the standards give this power", "guess", source_of("frame_assignment"))


def _type_row(motor: InductionMotor) -> Row:
    return next(row for row in rows("motor_types") if row["type"] == motor.start)


def _middle(row: Row, name: str) -> float:
    return (float(row[f"{name}_low"]) + float(row[f"{name}_high"])) / 2


def _electrical(motor: InductionMotor, plate: Plate) -> None:
    """Current, efficiency and power factor, each from the others where it can be."""
    row = _type_row(motor)
    power = plate.power_kw or 0.0
    if motor.efficiency is not None:
        plate.efficiency = plate.tell("efficiency", motor.efficiency, "share", "on the plate", "read")
    else:
        _efficiency(motor, plate, row)
    if motor.amps_a is not None:
        plate.amps_a = plate.tell("current", motor.amps_a, "A", "on the plate", "read")
    if motor.power_factor is not None:
        plate.power_factor = plate.tell("power_factor", motor.power_factor, "", "on the plate", "read")
    else:
        plate.power_factor = plate.tell(
            "power_factor", _middle(row, "power_factor"), "", "usual for its type", "guess", source_of("motor_types")
        )
    if plate.amps_a is None and motor.volts is not None:
        table = full_load_amps(power, motor.volts, motor.phases)
        if table is not None:
            name = "full_load_amps_single_phase" if motor.phases == 1 else "full_load_amps_three_phase"
            how = "by table, an upper value; the plate’s is lower"
            plate.amps_a = plate.tell("current", table, "A", how, "likely", source_of(name))
        else:
            whole = (sqrt(3) if motor.phases == 3 else 1.0) * motor.volts
            amps = power * 1000 / (whole * (plate.efficiency or 1.0) * plate.power_factor)
            plate.amps_a = plate.tell("current", amps, "A", "P / (√m V pf η)", "guess")


def _efficiency(motor: InductionMotor, plate: Plate, row: Row) -> None:
    found, name = _printed_efficiency(motor, plate), "efficiency_50hz"
    if (plate.frequency_hz or 60) > 55:
        name = "efficiency_60hz"
    if found is not None:
        how = "the lesser class of the standard for this size"
        plate.efficiency = plate.tell("efficiency", found, "share", how, "likely", source_of(name))
    else:
        value = _middle(row, "efficiency")
        plate.efficiency = plate.tell(
            "efficiency", value, "share", "usual for its type", "guess", source_of("motor_types")
        )


def _printed_efficiency(motor: InductionMotor, plate: Plate) -> float | None:
    """Least class printed for this size: energy efficient at 60 Hz, IE1 at 50 Hz."""
    if motor.phases != 3 or plate.power_kw is None:
        return None
    if (plate.frequency_hz or 60) > 55:
        found = exactly(
            "efficiency_60hz",
            hp_of(plate.power_kw),
            **{
                "class": "energy efficient (Table 12-11)",
                "enclosure": "ODP" if motor.enclosure == "ODP" else "TEFC",
                "poles": str(plate.poles),
            },
        )
        return None if found is None else float(found["efficiency_pct"]) / 100
    for row in rows("efficiency_50hz"):
        same = row["class"] == "IE1" and row["poles"] == str(plate.poles)
        if same and abs(float(row["kw"]) / plate.power_kw - 1) <= 0.02:
            return float(row["efficiency_pct"]) / 100
    return None


def _torques(motor: InductionMotor, plate: Plate) -> None:
    """Breakdown, locked-rotor and pull-up torque over full-load torque, at the low end of what is usual."""
    row, power = _type_row(motor), plate.power_kw or 0.0
    printed = _printed_torques(motor, plate)
    if motor.breakdown_torque_ratio is not None:
        plate.breakdown_ratio = plate.tell(
            "breakdown_torque", motor.breakdown_torque_ratio, "× full load", "from its data", "read"
        )
    else:
        plate.breakdown_ratio = _ratio(plate, "breakdown_torque", printed.get("breakdown_pct"), row, "breakdown")
    if motor.locked_rotor_torque_ratio is not None:
        plate.locked_ratio = plate.tell(
            "starting_torque", motor.locked_rotor_torque_ratio, "× full load", "from its data", "read"
        )
    elif (single := _single_phase_start(motor, power, plate)) is not None:
        how = "least of the standard for general-purpose motors"
        plate.locked_ratio = plate.tell(
            "starting_torque", single, "× full load", how, "likely", source_of("start_torque_single_phase")
        )
    else:
        plate.locked_ratio = _ratio(plate, "starting_torque", printed.get("locked_rotor_pct"), row, "locked")
    least = 0.8 * min(plate.locked_ratio, plate.breakdown_ratio)
    pull_up = printed.get("pull_up_pct")
    if pull_up is not None and motor.locked_rotor_torque_ratio is None:
        plate.pull_up_ratio = plate.tell(
            "pull_up_torque", pull_up / 100, "× full load", "least of the standard", "likely", MG1
        )
    else:
        how = "0.8 of the lesser of starting and breakdown torque"
        plate.pull_up_ratio = plate.tell("pull_up_torque", least, "× full load", how, "guess", COMMON_PRACTICE)


def _ratio(plate: Plate, code: str, printed: float | None, row: Row, column: str) -> float:
    if printed is not None:
        how = f"least of the standard for design {as_is(plate.design)}"
        return plate.tell(code, printed / 100, "× full load", how, "likely", source_of("torques_three_phase"))
    low = float(row[f"{column}_low"])
    return plate.tell(code, low, "× full load", "low end for its type", "guess", source_of("motor_types"))


def _printed_torques(motor: InductionMotor, plate: Plate) -> dict[str, float]:
    """What NEMA prints for the design and size; design B where none is stamped on a 60 Hz three-phase motor."""
    if motor.phases != 3 or plate.power_kw is None:
        return {}
    plate.design = motor.design or ("B" if (plate.frequency_hz or 60) > 55 else "N")
    if plate.design == "D":
        return {"locked_rotor_pct": 275.0, "breakdown_pct": 275.0}
    if plate.design == "N":
        return {"locked_rotor_pct": 160.0, "breakdown_pct": 200.0}
    design = "C" if plate.design == "C" else "A/B"
    row = exactly("torques_three_phase", hp_of(plate.power_kw), design=design, poles=str(plate.poles))
    if row is None:
        return {}
    names = ("locked_rotor_pct", "pull_up_pct", "breakdown_pct")
    return {name: value for name in names if (value := cell(row, name)) is not None}


def _single_phase_start(motor: InductionMotor, power_kw: float, plate: Plate) -> float | None:
    """Least starting torque of a general-purpose single-phase motor, over full-load torque."""
    if motor.start not in ("capacitor_start", "capacitor_start_run") or plate.speed_rpm is None:
        return None
    row = exactly("start_torque_single_phase", hp_of(power_kw), poles=str(plate.poles))
    if row is None or (plate.frequency_hz or 60) < 55:
        return None
    full_nm = NM_RPM_PER_KW * power_kw / plate.speed_rpm
    return float(row["locked_rotor_torque_nm"]) / full_nm


def _start_current(motor: InductionMotor, plate: Plate) -> None:
    """Locked-rotor current: by code letter, by table, or as a multiple of full-load current, the upper end."""
    power_hp = hp_of(plate.power_kw or 0.0)
    if motor.code_letter is not None and motor.volts is not None:
        least, most = code_letter_kva(motor.code_letter)
        amps = (most or least * 1.12) * power_hp * 1000 / ((sqrt(3) if motor.phases == 3 else 1.0) * motor.volts)
        how = f"code letter {as_is(motor.code_letter)}, upper end"
        plate.locked_amps_a = plate.tell("current_at_the_start", amps, "A", how, "follows", source_of("code_letters"))
        return
    table = exactly("locked_rotor_amps_three_phase", power_hp) if motor.phases == 3 else None
    if table is not None and motor.volts is not None and (plate.frequency_hz or 60) > 55:
        amps = float(table["locked_rotor_a_230v_3ph"]) * 230 / motor.volts
        plate.locked_amps_a = plate.tell(
            "current_at_the_start", amps, "A", "by table", "likely", source_of("locked_rotor_amps_three_phase")
        )
    elif plate.amps_a is not None:
        times = float(_type_row(motor)["start_current_high"])
        how = f"{times:g} × full-load current, upper end for its type"
        plate.locked_amps_a = plate.tell(
            "current_at_the_start", times * plate.amps_a, "A", how, "guess", source_of("motor_types")
        )


def rotor_inertia_kgm2(power_kw: float, pole_count: int) -> float:
    """Inertia of a rotor [kg·m²]: 0.0023 P^1.30 (p/4)^1.2, good to 40 %. Common practice, no source."""
    return float(0.0023 * power_kw**1.30 * (pole_count / 4) ** 1.2)


def _rotor(plate: Plate) -> None:
    if plate.power_kw is not None and plate.poles is not None:
        value = rotor_inertia_kgm2(plate.power_kw, plate.poles)
        plate.rotor_inertia_kgm2 = plate.tell(
            "rotor_inertia", value, "kg*m**2", "by power and poles, good to 40 %", "guess", COMMON_PRACTICE
        )
