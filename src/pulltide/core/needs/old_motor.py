"""The electrical load of the motor that drives the machine now."""

from __future__ import annotations

from math import sqrt
from typing import Literal

from pydantic import Field

from pulltide.core.findings import COMMON_PRACTICE, Remark, Severity, Source, state
from pulltide.core.model import Ampere, Kw, Plain, Rpm
from pulltide.core.needs.contract import (
    Corner,
    NeedKind,
    Outcome,
    SpeedBand,
    Worksheet,
    known,
    pick,
    torque_from_power_nm,
)
from pulltide.core.sketch import Sketch

MEASURED_ONCE = (0.8, 1.0, 1.3)
SLIP_SOURCE = Source("US DOE motor guide", "load from slip", "quoted from memory")
RIGHT_ANGLES = Source("mechanics", "magnetising and load current at right angles", "formula")


class OldMotorSheet(Worksheet):
    """Amps, watts or speed of the present motor under load."""

    ORDER = (
        ("plate_speed_rpm", "synchronous_rpm"),
        ("loaded_speed_rpm", "synchronous_rpm"),
        ("no_load_amps_a", "running_amps_a"),
        ("no_load_amps_a", "plate_amps_a"),
    )

    kind: Literal["old_motor"] = "old_motor"
    how: Literal["watts", "amps", "slip"] = Field("watts", title="Measured")
    supply: Literal["three_phase", "single_phase"] = Field("three_phase", title="Supply of that motor")
    rated_power_kw: Kw | None = Field(None, title="Power on its plate", gt=0, le=100)
    input_power_kw: Kw | None = Field(None, title="Input measured under load", gt=0, le=200)
    motor_efficiency: Plain = Field(
        0.8, title="Efficiency of that motor", ge=0.1, le=0.97, description="1 hp, common practice"
    )
    running_amps_a: Ampere | None = Field(None, title="Amps under load", gt=0, le=500)
    no_load_amps_a: Ampere | None = Field(None, title="Amps with the belt off", gt=0, le=500)
    plate_amps_a: Ampere | None = Field(None, title="Amps on its plate", gt=0, le=500)
    plate_speed_rpm: Rpm | None = Field(None, title="Speed on its plate", gt=0, le=3600)
    loaded_speed_rpm: Rpm | None = Field(None, title="Speed under load", gt=0, le=3600)
    synchronous_rpm: Rpm | None = Field(
        None, title="Synchronous speed", gt=0, le=3600, description="1800 for 4 poles, 60 Hz"
    )
    drive_efficiency: Plain = Field(
        0.9, title="Efficiency of the old drive", ge=0.2, le=1, description="one belt stage"
    )
    last_shaft_rpm: Rpm | None = Field(None, title="Last shaft turned at", gt=0, le=20_000)


PHASE = Remark(
    code="need.old_motor.phase",
    severity=Severity.WARNING,
    quantity="supply",
    fact="Amps say little about the load on a single-phase motor",
    advice="Use a plug-in watt meter.",
)
RANGE = Remark(
    code="need.old_motor.range",
    severity=Severity.WARNING,
    quantity="implied load",
    unit="share",
    fact="The implied load is outside the range of this method",
    advice="Measure the input power instead.",
)


def _load(sheet: OldMotorSheet, out: Outcome) -> float:
    """Load as a share of rated power, from amps or from slip."""
    if sheet.how == "amps":
        amps, idle, plate = known(sheet.running_amps_a, sheet.no_load_amps_a, sheet.plate_amps_a)
        value = sqrt(max(amps**2 - idle**2, 0.0) / max(plate**2 - idle**2, 1e-9))
        return out.step(
            "Load", "x = √((I² - I0²) / (I_FL² - I0²))", value, "share", RIGHT_ANGLES, I=amps, I0=idle, I_FL=plate
        )
    plate_rpm, rpm, synchronous = known(sheet.plate_speed_rpm, sheet.loaded_speed_rpm, sheet.synchronous_rpm)
    value = (synchronous - rpm) / max(synchronous - plate_rpm, 1e-9)
    return out.step(
        "Load", "x = (n_s - n) / (n_s - n_FL)", value, "share", SLIP_SOURCE, n_s=synchronous, n=rpm, n_FL=plate_rpm
    )


def _shaft_power_kw(sheet: OldMotorSheet, out: Outcome) -> float:
    if sheet.how == "watts":
        (power,) = known(sheet.input_power_kw)
        return out.step(
            "Shaft power of the old motor",
            "P_m = P_in η_m",
            power * sheet.motor_efficiency,
            "kW",
            P_in=power,
            η_m=sheet.motor_efficiency,
        )
    load = _load(sheet, out)
    (rated,) = known(sheet.rated_power_kw)
    if not 0.1 <= load <= 1.15:
        out.findings.append(state(RANGE, "need", load))
    return out.step("Shaft power of the old motor", "P_m = x P", load * rated, "kW", x=load, P=rated)


def work(sheet: OldMotorSheet, corner: Corner) -> Outcome:
    """Torque at the last shaft from what the old motor took."""
    out = Outcome()
    ideal = sheet.speed_ideal_rpm or sheet.last_shaft_rpm
    out.speeds = SpeedBand(
        sheet.speed_min_rpm,
        ideal,
        sheet.speed_max_rpm,
        "the speed it ran at" if not sheet.speed_ideal_rpm else "as entered",
    )
    if sheet.how != "watts" and sheet.supply == "single_phase":
        out.findings.append(state(PHASE, "need"))
    with out.working("running"):
        power = _shaft_power_kw(sheet, out)
        (speed,) = known(sheet.last_shaft_rpm)
        at_shaft = out.step(
            "Power at the last shaft",
            "P_s = P_m η_d",
            power * sheet.drive_efficiency,
            "kW",
            P_m=power,
            η_d=sheet.drive_efficiency,
        )
        spread = pick(MEASURED_ONCE, corner)
        torque = torque_from_power_nm(out, at_shaft, speed)
        out.running_nm = (
            torque
            if spread == 1
            else out.step("With its spread", "T = T k", torque * spread, "N*m", COMMON_PRACTICE, k=spread)
        )
        out.say("power_at_the_last_shaft", "Power at the last shaft", at_shaft * spread, "kW")
    return out


def sketch(sheet: OldMotorSheet) -> Sketch:
    """Motor, belt and last shaft with where the meter goes."""
    drawing = Sketch("A meter in the supply of the old motor")
    drawing.ground(-160, 420, -95)
    drawing.box(-80, -95, 160, 95)
    drawing.circle((0, 0), 80)
    drawing.circle((0, 0), 32, "motion")
    drawing.circle((300, 20), 90, "motion")
    drawing.line((3, 32), (292, 110), role="thin")
    drawing.line((-3, -32), (308, -70), role="thin")
    drawing.line((-80, -30), (-150, -30), (-150, 70), role="thin")
    drawing.circle((-150, 100), 30, "thin")
    drawing.text((-150, 100), {"watts": "W", "amps": "A", "slip": "rpm"}[sheet.how])
    drawing.text((300, 20), "last shaft")
    drawing.turn((300, 20), 62)
    return drawing


def hides(sheet: OldMotorSheet) -> frozenset[str]:
    """Fields of the ways of measuring that are not in use."""
    watts = {"input_power_kw", "motor_efficiency"}
    amps = {"running_amps_a", "no_load_amps_a", "plate_amps_a"}
    slip = {"plate_speed_rpm", "loaded_speed_rpm", "synchronous_rpm"}
    rated = {"rated_power_kw"}
    return frozenset({"watts": amps | slip | rated, "amps": watts | slip, "slip": watts | amps}[sheet.how])


OLD_MOTOR = NeedKind(
    kind="old_motor",
    title="Old motor’s load",
    group="Measured",
    question="What does the present motor take?",
    model=OldMotorSheet,
    work=work,
    sketch=sketch,
    caution="Measuring in live wiring is for a qualified person; a plug-in meter or a clamp on an insulated "
    "lead is not.",
    advice="Of the three, input power with a meter is the surest, within 5 %; amps serve between half and full "
    "load of a "
    "three-phase motor; slip is good to 20 to 30 %.",
    rules=(PHASE, RANGE),
    hides=hides,
    words="old motor amps replace existing drive",
)
