"""An induction motor at work: what it gives a line, whether it starts it, and what it needs around it."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace
from fractions import Fraction
from functools import lru_cache

from pulltide.core.findings import COMMON_PRACTICE
from pulltide.core.labels import as_is, quantity
from pulltide.core.sources import supply as circuits
from pulltide.core.sources.contract import Demand, Drive, Fact, Reading, SourceKind, warm_share
from pulltide.core.sources.curves import InductionCurve
from pulltide.core.sources.induction import InductionMotor, Inverter, synchronous_speed_rpm
from pulltide.core.sources.inverter import continuous_share
from pulltide.core.sources.inverter import facts as inverter_facts
from pulltide.core.sources.mains_checks import RULES, draw_of, judge_motor
from pulltide.core.sources.mains_choices import has_control, larger, limited, positions, smaller, stronger
from pulltide.core.sources.plate import Plate, read_plate
from pulltide.core.sources.starting import allowed_starts_per_hour
from pulltide.core.sources.starting import facts as starting_facts
from pulltide.core.sources.tables import frame_row
from pulltide.core.tables import load_table
from pulltide.core.units import NM_RPM_PER_KW


@lru_cache(maxsize=512)
def drive(motor: InductionMotor) -> Drive | None:
    """What the motor gives a line, at the frequency it runs on; None while power or speed can't be told."""
    plate = read_plate(motor)
    if plate.power_kw is None or plate.speed_rpm is None or plate.synchronous_rpm is None:
        return None
    curve = _curve(motor, plate)
    running = replace(curve, scale=voltage_scale(motor, plate))
    rated = NM_RPM_PER_KW * plate.power_kw / plate.speed_rpm
    breakdown = plate.breakdown_ratio * rated * running.scale if plate.breakdown_ratio else None
    base = Drive(
        title=_title(motor),
        power_kw=plate.power_kw,
        speed_rpm=plate.speed_rpm,
        prime_mover="high_torque_motor" if motor.start in ("capacitor_start", "capacitor_start_run") else "motor",
        max_torque_nm=breakdown,
        start_torque_nm=plate.locked_ratio * rated * curve.scale if plate.locked_ratio else None,
        overload=plate.service_factor,
        shaft_diameter_mm=plate.shaft_mm,
        rotor_inertia_kgm2=plate.rotor_inertia_kgm2,
        curve=curve,
        slip=1 - plate.speed_rpm / plate.synchronous_rpm,
        max_torque_inferred=plate.sure_of("breakdown_torque") in ("likely", "guess"),
        readings=tuple(plate.readings),
        details=plate,
        running=running,
        standstill=SELF_COOLED,
        is_pull_out=True,
    )
    if motor.inverter.fitted:
        return _inverted(motor.inverter, plate, base)
    return _at_supply(motor, plate, base)


#: A motor cooled by its own fan loses about half its cooling at rest. Common practice, no source.
SELF_COOLED = 2.0
#: How much warmer than the room a box may be that a motor's heat is blown out of. Common practice, no source.
WARMER_C = 10.0
#: Supply voltage over plate voltage that a motor is made to bear. Source: NEMA MG 1 12.44.
MIN_VOLTS, MAX_VOLTS = 0.9, 1.1


def voltage_scale(motor: InductionMotor, plate: Plate) -> float:
    """What the supply's voltage leaves of every torque [-]: (V / V_plate)². 1 while the supply is not entered."""
    if motor.supply_volts is None or not plate.volts:
        return 1.0
    return (motor.supply_volts / plate.volts) ** 2


TITLES = {
    "three_phase": "Three-phase motor",
    "capacitor_start": "Capacitor-start motor",
    "capacitor_start_run": "Capacitor-start, capacitor-run motor",
    "split_phase": "Split-phase motor",
    "permanent_split": "Permanent-capacitor motor",
    "shaded_pole": "Shaded-pole motor",
}


def _title(motor: InductionMotor) -> str:
    return TITLES[motor.start]


def _curve(motor: InductionMotor, plate: Plate) -> InductionCurve:
    left = circuits.start_voltage_share(motor.supply, draw_of(motor, plate))
    rated = NM_RPM_PER_KW * (plate.power_kw or 0.0) / (plate.speed_rpm or 1.0)
    return InductionCurve(
        rated_nm=rated,
        synchronous_rpm=plate.synchronous_rpm or 1.0,
        rated_rpm=plate.speed_rpm or 1.0,
        breakdown_ratio=max(plate.breakdown_ratio or 2.0, 1.01),
        locked_ratio=plate.locked_ratio or 1.0,
        pull_up_ratio=plate.pull_up_ratio or 1.0,
        scale=left**2 * voltage_scale(motor, plate),
    )


def _at_supply(motor: InductionMotor, plate: Plate, base: Drive) -> Drive:
    """Straight on the mains; on another frequency speed follows it and torque beyond rated falls with it."""
    supply_hz, own = motor.supply_frequency_hz, plate.frequency_hz
    if supply_hz is None or own is None or abs(supply_hz - own) < 1 or not isinstance(base.curve, InductionCurve):
        return base
    ratio = supply_hz / own
    weaker = ratio**-2
    power = base.power_kw * min(ratio, 1.0)
    speed = base.speed_rpm * ratio
    changed = {
        "rated_nm": NM_RPM_PER_KW * power / speed,
        "synchronous_rpm": base.curve.synchronous_rpm * ratio,
        "rated_rpm": speed,
        "breakdown_ratio": max(base.curve.breakdown_ratio * min(weaker, 1.0) * ratio, 1.01),
        "locked_ratio": base.curve.locked_ratio * min(weaker, 1.0) * ratio,
    }
    curve = replace(base.curve, **changed)
    return replace(
        base,
        power_kw=power,
        speed_rpm=speed,
        max_torque_nm=None if base.max_torque_nm is None else base.max_torque_nm * min(weaker, 1.0),
        start_torque_nm=None if base.start_torque_nm is None else base.start_torque_nm * min(weaker, 1.0),
        curve=curve,
        running=replace(curve, scale=voltage_scale(motor, plate)),
        speed_note=f"Motor at full load on {supply_hz:g} Hz: plate speed × {ratio:.4g}",
    )


def _inverted(inverter: Inverter, plate: Plate, base: Drive) -> Drive:
    """Fed by an inverter: slip in rpm stays, torque is constant up to the plate's frequency and power above it."""
    own = plate.frequency_hz or 60.0
    run = inverter.run_hz or own
    slip_rpm = (plate.synchronous_rpm or 0.0) - base.speed_rpm
    speed = max(synchronous_speed_rpm(plate.poles or 4, run) - slip_rpm, 1.0)
    share = continuous_share(run / own, inverter.separate_fan)
    full = base.torque_nm * min(own / run, 1.0)
    peak = inverter.overload * full
    if base.max_torque_nm is not None:
        peak = min(peak, base.max_torque_nm * min(own / run, 1.0) ** 2)
    over = max(peak / full, 1.01)
    top = synchronous_speed_rpm(plate.poles or 4, run)
    curve = InductionCurve(
        rated_nm=full,
        synchronous_rpm=top,
        rated_rpm=min(speed, 0.999 * top),
        breakdown_ratio=over,
        locked_ratio=over,
        pull_up_ratio=over,
    )
    return replace(
        base,
        power_kw=full * share * speed / NM_RPM_PER_KW,
        speed_rpm=speed,
        max_torque_nm=peak,
        start_torque_nm=min(inverter.overload, 1.5) * base.torque_nm,
        overload=1.0,
        curve=curve,
        running=None,
        max_torque_inferred=False,
        speed_note=f"Motor on a VFD at {run:g} Hz: synchronous speed less {slip_rpm:.3g} rpm of slip",
        standstill=1.0 if inverter.separate_fan else SELF_COOLED,
        is_pull_out=False,
        stalls="VFD limits the torque",
        cooled_share=share,
        heats_by="torque",
    )


def facts(motor: InductionMotor, found: Drive, demand: Demand | None) -> Iterator[Fact]:
    """Frame and shaft, start and heat, circuit, inverter."""
    plate: Plate = found.details
    yield from _frame_facts(plate)
    if demand is not None and not motor.inverter.fitted:
        yield from starting_facts(found, demand, allowed_starts_per_hour(plate, found, demand))
    yield from circuits.facts(motor.supply, draw_of(motor, plate))
    if motor.phases == 3:
        yield from inverter_facts(motor, plate)
    if demand is not None and demand.running_nm is not None and plate.efficiency:
        loss_kw = demand.running_nm / found.torque_nm * found.power_kw * (1 / plate.efficiency - 1)
        blown, warmer = quantity(3000 * loss_kw / WARMER_C, "m**3/h"), quantity(WARMER_C, "delta_degC")
        air = f"in a box, {blown} of air keeps it {warmer} above the room"
        yield Fact("heat", "Start and heat", "Heat it gives off, running", loss_kw, "kW", air, COMMON_PRACTICE)
    share = warm_share(demand.duty.ambient_c) if demand else 1.0
    if share < 1:
        yield Fact("warm_air_power", "Start and heat", "Power left in warm air", share, "share", "", COMMON_PRACTICE)


def _frame_facts(plate: Plate) -> Iterator[Fact]:
    group = "Frame and shaft"
    if plate.shaft_mm is not None:
        yield Fact(
            "shaft_diameter", group, "Shaft", plate.shaft_mm, "mm", f"frame {as_is(plate.frame)}" if plate.frame else ""
        )
    row = frame_row(plate.frame) if plate.frame else None
    if row is None:
        return
    inch = "shaft_u_in" in row
    source = load_table("pulltide.core.sources", "frames_inch" if inch else "frames_metric").as_source
    scale, names = (
        (25.4, ("shaft_height_d_in", "shaft_length_nw_in"))
        if inch
        else (1.0, ("shaft_height_h_mm", "shaft_length_e_mm"))
    )
    yield Fact(
        "shaft_height", group, "Shaft height", scale * float(row[names[0]]), "mm", f"frame {as_is(plate.frame)}", source
    )
    yield Fact("shaft_length", group, "Shaft length", scale * float(row[names[1]]), "mm", "", source)
    yield Fact("key", group, "Key", _key_words(row, inch=inch), "", "", source)


def _key_words(row: Mapping[str, str], *, inch: bool) -> str:
    if not inch:
        return f"{quantity(float(row['key_width_mm']), 'mm')} × {quantity(float(row['key_height_mm']), 'mm')}"
    if row["flat_or_key"] == "flat":
        return "a flat, no key"
    return f"{quantity(25.4 * float(Fraction(row['key_square_in'])), 'mm')} square"


def readings(motor: InductionMotor) -> tuple[Reading, ...]:
    """Every figure of the plate, read or inferred."""
    return tuple(read_plate(motor).readings)


def hides(motor: InductionMotor) -> frozenset[str]:
    """Fields without meaning for this type or without an inverter."""
    hidden = set()
    if motor.phases == 1:
        hidden |= {"design", "inverter.overload", "inverter.single_phase_input"}
    if not motor.inverter.fitted:
        names = ("run_hz", "min_hz", "max_hz", "overload", "single_phase_input", "separate_fan")
        hidden |= {f"inverter.{name}" for name in names}
    if motor.second_speed_rpm is None:
        hidden |= {"second_power_kw", "runs_on"}
    return frozenset(hidden)


INDUCTION = SourceKind(
    kind="induction",
    title="Induction motor",
    model=InductionMotor,
    drive=drive,
    judge=judge_motor,
    facts=facts,
    sections=(
        (
            "Nameplate: whatever is legible",
            (
                "start",
                "power_kw",
                "speed_rpm",
                "frequency_hz",
                "volts",
                "amps_a",
                "nameplate_service_factor",
                "frame",
                "design",
                "code_letter",
                "enclosure",
                "rating",
                "protection",
                "efficiency",
                "power_factor",
            ),
        ),
        (
            "Measured, or from a data sheet",
            ("shaft_diameter_mm", "no_load_speed_rpm", "poles", "breakdown_torque_ratio", "locked_rotor_torque_ratio"),
        ),
        ("Two speeds", ("second_speed_rpm", "second_power_kw", "runs_on")),
        (
            "Circuit and cord",
            ("supply.circuit", "supply.cord_length_mm", "supply.wire_awg", "supply_volts", "supply_frequency_hz"),
        ),
        (
            "VFD",
            (
                "inverter.fitted",
                "inverter.run_hz",
                "inverter.min_hz",
                "inverter.max_hz",
                "inverter.overload",
                "inverter.single_phase_input",
                "inverter.separate_fan",
            ),
        ),
    ),
    rules=RULES,
    wants="Its power and full-load speed, or what they can be inferred from: volts and amps, frequency, "
    "the speed with the belt off.",
    starter={"start": "three_phase"},
    cautions=(
        "Disconnect and lock out before the terminal box is opened; a capacitor keeps its charge: discharge it "
        "through a resistor.",
        "An emergency stop latches, cuts the power and is in reach from every place of work; power that comes back "
        "must not start the machine.",
    ),
    readings=readings,
    hides=hides,
    larger=larger,
    smaller=smaller,
    stronger=stronger,
    limited=limited,
    positions=positions,
    control=has_control,
)
