"""A pull at a radius, measured: weight on a lever, scale on a rope or handle, torque wrench."""

from __future__ import annotations

from math import cos, radians
from typing import Literal

from pydantic import Field

from pulltide.core.findings import COMMON_PRACTICE, EXACT, Check, Severity, judge
from pulltide.core.model import Degrees, Kg, Mm, Newton, Nm, Rpm
from pulltide.core.needs.contract import (
    ENTERED,
    POWER,
    Corner,
    NeedKind,
    Outcome,
    SpeedBand,
    StillUnknown,
    Worksheet,
    known,
    pick,
    power_from_torque_kw,
)
from pulltide.core.sketch import Sketch
from pulltide.core.units import G_M_PER_S2, NM_RPM_PER_KW

#: Low, typical and high of a mean reading, by how often it was taken. Common practice, no source.
SPREAD = {1: (0.8, 1.0, 1.3), 2: (0.8, 1.0, 1.3), 3: (0.9, 1.0, 1.15)}


class PullSheet(Worksheet):
    """Readings taken on the machine itself, loaded as it will run."""

    kind: Literal["pull"] = "pull"
    how: Literal["arm", "rope", "wrench"] = Field("arm", title="Measured with")
    arm_mm: Mm | None = Field(
        None, title="Arm", gt=1, le=5000, description="shaft center to the line of pull, not the diameter"
    )
    drum_diameter_mm: Mm | None = Field(None, title="Drum the rope winds on", gt=1, le=5000)
    rope_diameter_mm: Mm = Field(6.0, title="Rope", ge=0, le=60)
    rope_layer: int = Field(1, title="Layer of rope", ge=1, le=10)
    running_1_n: Newton | None = Field(None, title="Slow, even turning: first try", gt=0, le=50_000)
    running_2_n: Newton | None = Field(None, title="second try", gt=0, le=50_000)
    running_3_n: Newton | None = Field(None, title="third try", gt=0, le=50_000)
    breakaway_1_n: Newton | None = Field(None, title="At first movement: first try", gt=0, le=50_000)
    breakaway_2_n: Newton | None = Field(None, title="second try to move", gt=0, le=50_000)
    breakaway_3_n: Newton | None = Field(None, title="third try to move", gt=0, le=50_000)
    peak_n: Newton | None = Field(None, title="Hardest pull of the cycle", gt=0, le=100_000)
    wrench_running_nm: Nm | None = Field(None, title="Wrench, slow even turning", gt=0, le=100_000)
    wrench_breakaway_nm: Nm | None = Field(None, title="Wrench, at first movement", gt=0, le=100_000)
    angle_deg: Degrees = Field(0.0, title="Pull off square by", ge=0, le=75, description="0 is square to the arm")
    lever_mass_kg: Kg = Field(0.0, title="Mass of a level lever", ge=0, le=200, description="0 when balanced")
    lever_length_mm: Mm = Field(0.0, title="Length of that lever", ge=0, le=5000)
    outputs: int = Field(1, title="Like shafts turned together", ge=1, le=24, description="one was measured")
    load_law: Literal["constant", "rising", "square"] = Field(
        "constant", title="Torque against speed", description="slow readings miss what speed adds"
    )
    hand_turned_rpm: Rpm | None = Field(None, title="Turned by hand at", gt=0, le=300, description="cross-check only")


ANGLE = Check(
    code="need.pull.angle",
    severity=Severity.WARNING,
    quantity="angle off square",
    unit="deg",
    limits=(30.0,),
    fact="The pull is far off square, so the reading is uncertain",
    clear="The pull is near square",
    advice="Pull square to the arm.",
)
SWAPPED = Check(
    code="need.pull.swapped",
    severity=Severity.WARNING,
    quantity="breakaway torque",
    relation=">=",
    unit="N*m",
    fact="Breakaway is below running: the readings may be swapped",
    clear="Breakaway is above running",
    base="running torque",
    advice="Check which reading is which.",
)
BINDING = Check(
    code="need.pull.binding",
    severity=Severity.WARNING,
    quantity="breakaway over running",
    limits=(3.0,),
    fact="Breakaway is far above running: something binds",
    clear="Breakaway is in proportion",
    advice="Look for a tight seal, a bent shaft or a set load.",
)
BY_HAND = Check(
    code="need.pull.by_hand",
    severity=Severity.NOTE,
    quantity="power by hand",
    unit="kW",
    limits=(0.1,),
    fact="More power than a person can crank all day: check the reading",
    clear="The reading agrees with cranking by hand",
    advice="A person can sustain 50 to 75 W.",
)


def radius_mm(sheet: PullSheet) -> float:
    """Radius of the line of pull [mm]. A rope's layer j stands square at D/2 + d (j - 1/2)."""
    if sheet.how == "rope":
        (drum,) = known(sheet.drum_diameter_mm)
        return drum / 2 + sheet.rope_diameter_mm * (sheet.rope_layer - 0.5)
    (arm,) = known(sheet.arm_mm)
    return arm


def _tries(sheet: PullSheet, name: str) -> list[float]:
    found = [getattr(sheet, f"{name}_{number}_n") for number in (1, 2, 3)]
    return [value for value in found if value is not None]


def _torque(sheet: PullSheet, out: Outcome, pull_n: float, name: str) -> float:
    radius = radius_mm(sheet)
    lever = 0.5 * sheet.lever_mass_kg * G_M_PER_S2 * sheet.lever_length_mm / 1000
    value = pull_n * radius / 1000 * cos(radians(sheet.angle_deg)) + lever
    return out.step(
        name,
        "T = F r cos φ / 1000 + T_lever",
        value,
        "N*m",
        EXACT,
        F=pull_n,
        r=radius,
        φ=sheet.angle_deg,
        T_lever=lever,
    )


def _running(sheet: PullSheet, out: Outcome, corner: Corner) -> float:
    if sheet.how == "wrench":
        (value,) = known(sheet.wrench_running_nm)
        spread = pick(SPREAD[1], corner)
        return out.step(
            "Read off the wrench, with its spread",
            "T_1 = T k",
            value * spread,
            "N*m",
            COMMON_PRACTICE,
            T=value,
            k=spread,
        )
    tries = _tries(sheet, "running")
    if not tries:
        raise StillUnknown
    mean = out.step("Mean of the tries", "F = ΣF / k", sum(tries) / len(tries), "N", EXACT, k=float(len(tries)))
    one = _torque(sheet, out, mean, "Torque on one shaft")
    spread = pick(SPREAD[len(tries)], corner)
    return (
        one
        if spread == 1
        else out.step("With its spread", "T = T_1 k", one * spread, "N*m", COMMON_PRACTICE, T_1=one, k=spread)
    )


def _all(sheet: PullSheet, out: Outcome, one: float) -> float:
    if sheet.outputs == 1:
        return one
    return out.step(
        "All shafts together", "T = z T_1", one * sheet.outputs, "N*m", EXACT, z=float(sheet.outputs), T_1=one
    )


def work(sheet: PullSheet, corner: Corner) -> Outcome:
    """Torque from readings: mean for running, largest for breakaway."""
    out = Outcome(load_exponent={"constant": 0.0, "rising": 1.0, "square": 2.0}[sheet.load_law])
    out.speeds = SpeedBand(sheet.speed_min_rpm, sheet.speed_ideal_rpm, sheet.speed_max_rpm)
    with out.working("running"):
        out.running_nm = _all(sheet, out, _running(sheet, out, corner))
    with out.working("breakaway"):
        if sheet.how == "wrench":
            (most,) = known(sheet.wrench_breakaway_nm)
            read = out.step("Read off the wrench", "T_b = as entered", most, "N*m", ENTERED)
            out.breakaway_nm = _all(sheet, out, read)
        elif tries := _tries(sheet, "breakaway"):
            out.breakaway_nm = _all(sheet, out, _torque(sheet, out, max(tries), "Largest of the tries"))
    with out.working("peak"):
        if sheet.how != "wrench":
            (peak,) = known(sheet.peak_n)
            out.peak_nm = _all(sheet, out, _torque(sheet, out, peak, "Hardest pull"))
    if sheet.speed_ideal_rpm and out.running_nm:
        with out.working("power"):
            out.say(POWER, "Power", power_from_torque_kw(out, out.running_nm, sheet.speed_ideal_rpm), "kW")
    _check(sheet, out)
    return out


def _check(sheet: PullSheet, out: Outcome) -> None:
    out.findings.append(judge(ANGLE, "need", sheet.angle_deg))
    if out.running_nm and out.breakaway_nm:
        out.findings.append(judge(SWAPPED, "need", out.breakaway_nm, out.running_nm))
        out.findings.append(judge(BINDING, "need", out.breakaway_nm / out.running_nm))
    if out.running_nm and sheet.hand_turned_rpm:
        power = out.running_nm / sheet.outputs * sheet.hand_turned_rpm / NM_RPM_PER_KW
        out.say("by_hand_one_shaft", "By hand, one shaft", power, "kW")
        out.findings.append(judge(BY_HAND, "need", power))


def sketch(sheet: PullSheet) -> Sketch:
    """The shaft end, the arm or the wound rope, and the pull."""
    drawing = Sketch("A pull square to an arm on the shaft")
    tries = _tries(sheet, "running")
    pull = sum(tries) / len(tries) if tries else None
    if sheet.how == "rope":
        drum = (sheet.drum_diameter_mm or 100.0) / 2
        try:
            radius = radius_mm(sheet)
        except StillUnknown:
            radius = drum + sheet.rope_diameter_mm / 2
        drawing.circle((0, 0), radius + sheet.rope_diameter_mm / 2, "thin")
        drawing.circle((0, 0), drum)
        drawing.arrow((radius, 0), (radius, -2.2 * drum), "pull", pull)
        drawing.measure((-drum, 0), (drum, 0), "drum", sheet.drum_diameter_mm, 0.3)
        drawing.measure((0, 0), (radius, 0), "radius", radius, -0.45)
        return drawing
    arm = sheet.arm_mm or 500.0
    drawing.circle((0, 0), arm * 0.12)
    drawing.box(-arm * 0.12, -arm * 0.025, arm * 1.12, arm * 0.05)
    lean = radians(sheet.angle_deg)
    tip = (arm + arm * 0.5 * (1 - cos(lean)), -arm * 0.5 * cos(lean))
    drawing.arrow((arm, 0), tip if sheet.angle_deg else (arm, -arm * 0.5), "pull", pull)
    drawing.measure((0, 0), (arm, 0), "arm", sheet.arm_mm, 0.22)
    drawing.turn((0, 0), arm * 0.2)
    return drawing


def hides(sheet: PullSheet) -> frozenset[str]:
    """Fields of the ways of measuring that are not in use."""
    rope = {"drum_diameter_mm", "rope_diameter_mm", "rope_layer"}
    wrench = {"wrench_running_nm", "wrench_breakaway_nm"}
    scale = {f"{name}_{k}_n" for name in ("running", "breakaway") for k in (1, 2, 3)} | {"peak_n", "angle_deg"}
    arm = {"arm_mm", "lever_mass_kg", "lever_length_mm"}
    return frozenset({"arm": rope | wrench, "rope": wrench | arm, "wrench": rope | arm | scale}[sheet.how])


PULL = NeedKind(
    kind="pull",
    title="Pull at a radius",
    group="Measured",
    question="What does it take to turn it?",
    model=PullSheet,
    work=work,
    sketch=sketch,
    caution="Block everything that could swing back before you hang a weight on a lever, and stand clear of its arc.",
    advice="Measure the machine loaded as it will run, three times, all round the turn. A luggage scale reads "
    "kilograms: "
    "write 24 kg and it is taken as the weight of 24 kg.",
    rules=(ANGLE, SWAPPED, BINDING, BY_HAND),
    hides=hides,
    words="measured pull rope lever scale unknown torque",
)
