"""Formulas of fixing and standing that a shop asks for by name: feet, torque arm, set screws, clamped hubs."""

from __future__ import annotations

from math import cos, hypot, radians, sin
from typing import Literal

from pydantic import Field

from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.family import Method
from pulltide.core.findings import COMMON_PRACTICE, EXACT, Source
from pulltide.core.fit.hubs import FRICTION, SCREWS_N, clamp_nm, set_screw_size, set_screws_nm
from pulltide.core.labels import phrase
from pulltide.core.model import CoreModel, Degrees, Kg, Mm, Newton, Nm, Plain
from pulltide.core.units import G_M_PER_S2 as G
from pulltide.core.working import Result, Step, Working

STATICS = Source("statics", "rigid base on equal springs", "formula")
HOLDING = Source("Shigley's Mechanical Engineering Design", "set-screw table", "quoted from memory, low")
PROOF = Source("ISO 898-1", "three quarters of the proof load, class 8.8", "quoted from memory")

ClampScrew = Literal["M5", "M6", "M8", "M10", "M12", "M16"]


class FeetInputs(CoreModel):
    """Inputs of the forces on four feet: seen along the shaft, x to the right, distances back from mid-shaft."""

    pull_n: Newton = Field(title="Pull on the shaft", ge=0, le=200_000)
    pull_deg: Degrees = Field(title="Its direction, 0 right, 90 up", ge=-360, le=360)
    height_mm: Mm = Field(title="Shaft over the feet", gt=0, le=2000)
    first_row_mm: Mm = Field(title="Mid-shaft to the first row of feet", ge=0, le=2000)
    across_mm: Mm = Field(title="Feet across", gt=0, le=3000)
    along_mm: Mm = Field(title="Feet along the shaft", gt=0, le=3000)
    mass_kg: Kg = Field(title="Mass", ge=0, le=20_000)
    mass_at_mm: Mm = Field(title="Mid-shaft to the center of mass", ge=0, le=5000)
    torque_nm: Nm = Field(
        0.0, title="Torque, more than 0 when the shaft turns counter-clockwise", ge=-100_000, le=100_000
    )


def feet_working(inputs: FeetInputs) -> Working:
    """What each foot pushes up with, less than 0 where its bolt pulls down, and the shear on it."""
    a, b, c = inputs.across_mm, inputs.along_mm, inputs.first_row_mm + inputs.along_mm / 2
    angle, weight = radians(inputs.pull_deg), G * inputs.mass_kg
    across, up = inputs.pull_n * cos(angle), inputs.pull_n * sin(angle)
    total = up - weight
    tilt = -inputs.height_mm * across / 1000 - inputs.torque_nm
    nod = (c * up + (inputs.mass_at_mm - c) * weight) / 1000
    twist = c * across / (2 * (a * a + b * b))
    pull = {"F": inputs.pull_n, "α": inputs.pull_deg}
    steps = [
        Step("Pull across", "F_x", "F cos α", pull, across, "N", EXACT),
        Step("Pull up", "F_u", "F sin α", pull, up, "N", EXACT),
        Step("All that lifts", "F_y", "F_u - 9.80665 m", {"F_u": up, "m": inputs.mass_kg}, total, "N", EXACT),
        Step(
            "Moment across the feet",
            "M_z",
            "-h F_x / 1000 - T",
            {"h": inputs.height_mm, "F_x": across, "T": inputs.torque_nm},
            tilt,
            "N*m",
            STATICS,
        ),
        Step(
            "Moment along the feet",
            "M_x",
            "(c F_u + (b_m - c) 9.80665 m) / 1000",
            {"c": c, "F_u": up, "b_m": inputs.mass_at_mm, "m": inputs.mass_kg},
            nod,
            "N*m",
            STATICS,
            "c: mid-shaft to the middle of the feet",
        ),
    ]
    numbers = {"F_y": total, "M_z": tilt, "a": a, "M_x": nod, "b": b}
    near = (("near_left", "Near left", 1, -1), ("near_right", "Near right", -1, -1))
    feet = (*near, ("far_left", "Far left", 1, 1), ("far_right", "Far right", -1, 1))
    results: list[Result] = []
    put_in_twist = {"c": c, "F_x": across, "a": a, "b": b}
    steps.append(Step("Twist of the base", "w", "c F_x / (2 (a^2 + b^2))", put_in_twist, twist, "N/mm", STATICS))
    for key, name, side, row in feet:
        value = -total / 4 + side * 500 * tilt / a + row * 500 * nod / b
        formula = f"-F_y / 4 {'+' if side > 0 else '-'} 500 M_z / a {'+' if row > 0 else '-'} 500 M_x / b"
        steps.append(Step(f"{phrase(name)} foot", f"Y_{len(results) + 1}", formula, numbers, value, "N", STATICS))
        results.append(Result(key, f"{phrase(name)} foot pushes up", value, "N"))
    for key, name, row in (("shear_near", "Shear, near feet", 1), ("shear_far", "Shear, far feet", -1)):
        value = hypot(across / 4 + row * twist * b, twist * a)
        sign = "+" if row > 0 else "-"
        put_in = {"F_x": across, "w": twist, "a": a, "b": b}
        formula = f"√((F_x / 4 {sign} w b)^2 + (w a)^2)"
        steps.append(Step(name, f"V_{key[6]}", formula, put_in, value, "N", STATICS))
        results.append(Result(key, name, value, "N"))
    return Working("Forces on the feet", tuple(steps), figures=tuple(results))


class TorqueArmInputs(CoreModel):
    """Inputs of the torque arm of a shaft-mounted unit: seen along its output, which is the origin."""

    torque_in_nm: Nm = Field(title="Torque in, more than 0 counter-clockwise", ge=-100_000, le=100_000)
    torque_out_nm: Nm = Field(title="Torque out, more than 0 counter-clockwise", ge=-500_000, le=500_000)
    input_x_mm: Mm = Field(0.0, title="Input shaft to the right", ge=-3000, le=3000)
    input_y_mm: Mm = Field(title="Input shaft up", ge=-3000, le=3000)
    pull_n: Newton = Field(title="Pull on the input shaft", ge=0, le=200_000)
    pull_deg: Degrees = Field(title="Its direction, 0 right, 90 up", ge=-360, le=360)
    mass_kg: Kg = Field(title="Mass", ge=0, le=20_000)
    mass_x_mm: Mm = Field(title="Center of mass to the right", ge=-3000, le=3000)
    arm_x_mm: Mm = Field(title="Upright arm to the right", ge=-5000, le=5000)


def torque_arm_working(inputs: TorqueArmInputs) -> Working:
    """Force of an upright arm, more than 0 up, and what the driven shaft carries beside it.

    Raises ImpossibleGeometry for an arm on the output's own line.
    """
    if abs(inputs.arm_x_mm) < 1e-9:
        raise ImpossibleGeometry("an upright arm over the output shaft holds no torque; set it to one side")
    angle, weight = radians(inputs.pull_deg), G * inputs.mass_kg
    right, up = inputs.pull_n * cos(angle), inputs.pull_n * sin(angle)
    by_pull = (inputs.input_x_mm * up - inputs.input_y_mm * right) / 1000
    by_weight = -inputs.mass_x_mm * weight / 1000
    moment = inputs.torque_in_nm - inputs.torque_out_nm + by_pull + by_weight
    arm = -1000 * moment / inputs.arm_x_mm
    carried = hypot(right, up - weight + arm)
    pull = {"x": inputs.input_x_mm, "y": inputs.input_y_mm, "Q": inputs.pull_n, "α": inputs.pull_deg}
    steps = (
        Step("Turned by the pull", "M_q", "(x Q sin α - y Q cos α) / 1000", pull, by_pull, "N*m", STATICS),
        Step(
            "Turned by the weight",
            "M_w",
            "-x_m 9.80665 m / 1000",
            {"x_m": inputs.mass_x_mm, "m": inputs.mass_kg},
            by_weight,
            "N*m",
            STATICS,
        ),
        Step(
            "All that turns it",
            "M",
            "T_1 - T_2 + M_q + M_w",
            {"T_1": inputs.torque_in_nm, "T_2": inputs.torque_out_nm, "M_q": by_pull, "M_w": by_weight},
            moment,
            "N*m",
            STATICS,
        ),
        Step("Force of the arm", "F", "-1000 M / x_a", {"M": moment, "x_a": inputs.arm_x_mm}, arm, "N", STATICS),
        Step(
            "Carried by the driven shaft",
            "R",
            "√((Q cos α)^2 + (Q sin α - 9.80665 m + F)^2)",
            {"Q": inputs.pull_n, "α": inputs.pull_deg, "m": inputs.mass_kg, "F": arm},
            carried,
            "N",
            STATICS,
        ),
    )
    results = (
        Result("F", "Force of the arm, more than 0 up", arm, "N"),
        Result("R", "Carried by the shaft", carried, "N"),
    )
    return Working("Torque arm of a shaft-mounted unit", steps, figures=results)


class SetScrewInputs(CoreModel):
    """Inputs of what set screws hold."""

    screw_mm: Mm = Field(title="Diameter of the screw", ge=3, le=20)
    diameter_mm: Mm = Field(title="Shaft", gt=0, le=500)
    screws: Literal["one", "two"] = Field("two", title="Screws, two 60° to 90° apart")
    safety: Plain = Field(2.0, title="Safety: 2 steady, 4 to 8 under shock", ge=1, le=20)


def set_screw_working(inputs: SetScrewInputs) -> Working:
    """Torque at which set screws slip, and what is used of it. Raises ImpossibleGeometry for a screw of no list."""
    count = 1 if inputs.screws == "one" else 2
    size = set_screw_size(inputs.screw_mm)
    slips = set_screws_nm(size, inputs.diameter_mm, count)
    one = set_screws_nm(size, inputs.diameter_mm, 1)
    share = slips / one
    force = 2000 * one / inputs.diameter_mm
    first = {"F": force, "d": inputs.diameter_mm, "k": share}
    used = {"T": slips, "n": inputs.safety}
    return Working(
        "What set screws hold",
        (
            Step("Slips at", "T", "F d k / 2000", first, slips, "N*m", HOLDING, "k: 1.75 for two"),
            Step("To be used", "T_s", "T / n", used, slips / inputs.safety, "N*m", COMMON_PRACTICE),
        ),
    )


class ClampInputs(CoreModel):
    """Inputs of what a split hub holds."""

    size: ClampScrew = Field(title="Screw, class 8.8")
    screws: Plain = Field(2.0, title="Screws on one side", ge=1, le=8)
    diameter_mm: Mm = Field(title="Shaft", gt=0, le=500)


def clamp_working(inputs: ClampInputs) -> Working:
    """Torque at which a split hub slips on its shaft."""
    value = clamp_nm(inputs.size, inputs.diameter_mm, 1) * inputs.screws
    put_in = {"μ": FRICTION, "n": inputs.screws, "F": SCREWS_N[inputs.size], "d": inputs.diameter_mm}
    step = Step("Slips at", "T", "2 μ n F d / 1000", put_in, value, "N*m", PROOF, "stiff hub; a thin ring holds more")
    return Working("What a split hub holds", (step,))


METHODS = (
    Method("motor_feet", "Forces on the four feet of a motor or block", FeetInputs, feet_working),
    Method("torque_arm", "Torque arm of a shaft-mounted unit", TorqueArmInputs, torque_arm_working),
    Method("set_screws", "What set screws hold", SetScrewInputs, set_screw_working),
    Method("clamp_hub", "What a split hub holds", ClampInputs, clamp_working),
)
