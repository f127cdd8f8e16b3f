"""Findings of an induction motor: plate, place, start, circuit."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from pulltide.core.findings import Check, Finding, Remark, Severity, Source, judge, state
from pulltide.core.sources import supply as circuits
from pulltide.core.sources.contract import Demand, Drive
from pulltide.core.sources.induction import MAX_SLIP, InductionMotor
from pulltide.core.sources.inverter import RULES as INVERTER_RULES
from pulltide.core.sources.inverter import findings as inverter_findings
from pulltide.core.sources.plate import Plate
from pulltide.core.sources.starting import RULES as STARTING_RULES
from pulltide.core.sources.starting import allowed_starts_per_hour
from pulltide.core.sources.starting import findings as starting_findings
from pulltide.core.units import KW_PER_HP

MG1_VOLTS = Source("NEMA MG 1", "12.44, 14.42", "quoted from memory")
NEC_OVERLOAD = Source("NEC", "430.32", "quoted from memory")

SLIP = Check(
    code="motor.slip",
    severity=Severity.WARNING,
    quantity="slip at full load",
    unit="share",
    limits=(MAX_SLIP,),
    fact="Nameplate speed is far below any synchronous speed",
    clear="Nameplate speed fits the frequency",
    advice="Check the frequency; 1425 rpm, say, is a 50 Hz motor.",
)
FREQUENCY = Check(
    code="motor.frequency",
    severity=Severity.WARNING,
    quantity="supply frequency",
    unit="Hz",
    limits=(1.0,),
    fact="Supply frequency differs from the motor's nameplate",
    clear="Supply frequency matches the nameplate",
    advice="A 60 Hz motor on 50 Hz at the same volts overheats; a 50 Hz motor on 60 Hz runs a fifth faster "
    "and starts weaker.",
)
CLAIM = Check(
    code="motor.claim",
    severity=Severity.WARNING,
    quantity="power on the plate",
    unit="kW",
    fact="This is more power than the plug can supply, so it is not a continuous rating",
    clear="The plug can supply the power claimed",
    limits=(0.6,),
    base="power that the plug feeds",
    advice="Use the nameplate volts and amps instead: appliance nameplates print a stall figure.",
)
WEAK_START = Check(
    code="motor.weak_start",
    severity=Severity.ERROR,
    quantity="breakaway torque at the motor",
    unit="N*m",
    fact="This type of motor has little starting torque",
    clear="The starting load is light enough for this type of motor",
    limits=(0.5,),
    base="rated torque",
    advice="Use a capacitor-start or three-phase motor, or start it unloaded.",
)
INTERMITTENT = Check(
    code="motor.rating",
    severity=Severity.WARNING,
    quantity="hours a day",
    unit="h",
    limits=(0.5,),
    fact="The motor is rated for intermittent duty only",
    clear="The motor has a continuous rating",
    advice="Count on half its power, or use a motor with a continuous rating.",
)
ENCLOSURE = Remark(
    code="motor.enclosure",
    severity=Severity.WARNING,
    quantity="enclosure",
    fact="An open motor takes in the dust or water of this location",
    advice="Use a fan-cooled enclosed motor.",
)
AIR_OVER = Remark(
    code="motor.air_over",
    severity=Severity.ERROR,
    quantity="enclosure",
    fact="This motor burns out without an outside air stream",
    advice="Use a fan-cooled motor, or blow air over it at its rated rate.",
)
AMBIENT = Check(
    code="motor.ambient",
    severity=Severity.NOTE,
    quantity="ambient temperature",
    unit="degC",
    limits=(40.0,),
    fact="At this ambient temperature the motor is derated",
    clear="Ambient temperature allows full power",
    advice="The load shown already includes the derating.",
    source=MG1_VOLTS,
    about=True,
)
RESET = Remark(
    code="motor.reset",
    severity=Severity.WARNING,
    quantity="thermal protector",
    fact="The thermal protector restarts the motor by itself after it cools",
    advice="Use a magnetic starter that stays off after a trip, so nobody’s hands are in it when it restarts.",
)
OVERLOAD = Remark(
    code="motor.overload",
    severity=Severity.WARNING,
    quantity="thermal protector",
    fact="Nothing shuts the motor off on overload",
    advice="Fit a starter with an overload relay; over 1 hp it is required.",
    source=NEC_OVERLOAD,
)
FLYWHEEL = Check(
    code="motor.flywheel",
    severity=Severity.WARNING,
    quantity="swing of speed",
    unit="share",
    fact="The allowed speed swing exceeds this motor’s slip, so the motor takes the peak instead of the flywheel",
    clear="The flywheel takes the peak",
    limits=(2.0,),
    base="slip at full load",
    advice="Use a larger flywheel, a high-slip motor, or let the belt slip.",
)
TWO_SPEEDS = Remark(
    code="motor.two_speeds",
    severity=Severity.NOTE,
    quantity="two-speed motor",
    fact="Never energize both speeds at once",
    advice="Interlock the two, and let the motor stop between them.",
    about=True,
)
RULES = (
    SLIP,
    FREQUENCY,
    CLAIM,
    WEAK_START,
    INTERMITTENT,
    ENCLOSURE,
    AIR_OVER,
    AMBIENT,
    RESET,
    OVERLOAD,
    FLYWHEEL,
    TWO_SPEEDS,
    *circuits.RULES,
    *INVERTER_RULES,
    *STARTING_RULES,
)


def draw_of(motor: InductionMotor, plate: Plate) -> circuits.Draw:
    """What the motor draws from its circuit."""
    reserve = plate.service_factor >= 1.15
    return circuits.Draw(
        power_kw=plate.power_kw or 0.0,
        volts=plate.volts,
        phases=plate.phases,
        plate_a=plate.amps_a if plate.sure_of("current") in ("read", "guess") else None,
        locked_a=plate.locked_amps_a,
        allowance=1.25 if reserve else 1.15,
        frequency_hz=plate.frequency_hz or 60.0,
    )


def judge_motor(motor: InductionMotor, found: Drive, demand: Demand) -> Iterator[Finding]:
    """Findings of the motor itself, its start and its circuit."""
    plate: Plate = found.details
    if plate.poles is not None and plate.synchronous_rpm:
        yield judge(SLIP, "motor", 1 - (plate.speed_rpm or 0.0) / plate.synchronous_rpm)
    yield from _frequency(motor, plate)
    yield from _place(motor, demand)
    if motor.second_speed_rpm is not None:
        yield state(TWO_SPEEDS, "motor")
    if motor.start in ("permanent_split", "shaded_pole") and demand.breakaway_at_motor_nm is not None:
        yield judge(WEAK_START, "motor", demand.breakaway_at_motor_nm, of=found.torque_nm)
    if demand.fluctuation is not None and found.slip is not None and not motor.inverter.fitted:
        yield judge(FLYWHEEL, "motor", demand.fluctuation, of=found.slip)
    if motor.inverter.fitted:
        yield from inverter_findings(motor, plate)
    else:
        yield from starting_findings(found, demand, allowed_starts_per_hour(plate, found, demand))
    yield from circuits.findings(motor.supply, draw_of(motor, plate))


def _frequency(motor: InductionMotor, plate: Plate) -> Iterator[Finding]:
    supply_hz, own = motor.supply_frequency_hz, plate.frequency_hz
    if supply_hz is not None and own is not None and not motor.inverter.fitted:
        slower = supply_hz < own - 1
        finding = judge(
            FREQUENCY, "motor", abs(supply_hz - own), severity=Severity.ERROR if slower else Severity.WARNING
        )
        yield replace(finding, measured=supply_hz, limit=own)
    plug = motor.supply.circuit in ("120v_15a", "120v_20a", "230v_13a_plug", "230v_10a")
    if plug and motor.supply.circuit is not None and motor.power_kw is not None:
        row = circuits.circuit_row(motor.supply.circuit)
        feeds = float(row["volts"]) * float(row["rating_a"]) / 1000
        yield judge(CLAIM, "motor", motor.power_kw, of=feeds)


def _place(motor: InductionMotor, demand: Demand) -> Iterator[Finding]:
    """Enclosure, air, duty rating and protector."""
    duty = demand.duty
    if motor.enclosure == "ODP" and duty.environment in ("dusty", "wet", "outdoors", "washed_down"):
        yield state(ENCLOSURE, "motor")
    if motor.enclosure == "TEAO":
        yield state(AIR_OVER, "motor")
    if motor.rating is not None and motor.rating != "continuous" and duty.hours_per_day is not None:
        yield judge(INTERMITTENT, "motor", duty.hours_per_day)
    yield judge(AMBIENT, "motor", duty.ambient_c)
    if motor.protection == "automatic_reset":
        yield state(RESET, "motor")
    if motor.protection == "none" and (motor.power_kw or 0) > KW_PER_HP:
        yield state(OVERLOAD, "motor", motor.power_kw)
