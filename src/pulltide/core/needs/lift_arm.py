"""Arm or gate lifted about a level axis, balanced by a weight or a spring."""

from __future__ import annotations

from math import cos, radians, sin
from typing import Literal

from pydantic import Field

from pulltide.core.findings import COMMON_PRACTICE, EXACT, Check, Remark, Severity, judge, state
from pulltide.core.model import Degrees, Kg, Mm, Nm, Plain, Seconds
from pulltide.core.needs.contract import Corner, NeedKind, Outcome, SpeedBand, Worksheet, known, say_power
from pulltide.core.sketch import Sketch, arc
from pulltide.core.units import G_M_PER_S2

SAMPLES = 61


class LiftArmSheet(Worksheet):
    """Weight of the arm less its balance over the travel."""

    kind: Literal["lift_arm"] = "lift_arm"
    mass_kg: Kg | None = Field(None, title="Arm and what it carries", gt=0, le=10_000)
    gravity_radius_mm: Mm | None = Field(None, title="Pivot to its center of gravity", ge=10, le=20_000)
    from_deg: Degrees = Field(0.0, title="Travel from", ge=-90, le=180, description="0 is level")
    to_deg: Degrees = Field(85.0, title="Travel to", ge=-90, le=180)
    counterweight_kg: Kg = Field(0.0, title="Counterweight", ge=0, le=10_000)
    counterweight_radius_mm: Mm = Field(0.0, title="Pivot to the counterweight", ge=0, le=10_000)
    spring_start_nm: Nm = Field(
        0.0, title="Spring torque at the start", ge=0, le=100_000, description="lifting; falls evenly to the end"
    )
    spring_end_nm: Nm = Field(0.0, title="Spring torque at the end", ge=0, le=100_000)
    friction: Plain = Field(
        0.06, title="Pivot friction, share of weight torque", ge=0, le=0.5, description="0.03 to 0.1, common practice"
    )
    travel_s: Seconds | None = Field(None, title="Time for the travel", ge=0.2, le=600)


SPRING_LOST = Check(
    code="need.lift_arm.spring_lost",
    severity=Severity.WARNING,
    quantity="torque without balance",
    unit="N*m",
    fact="If the spring breaks, the full weight is on the drive",
    clear="The drive can hold the arm without its counterbalance",
    limits=(2.0,),
    base="running torque",
    advice="Fit a brake rated to hold the arm, or a catch.",
    curable=False,
)
TRAVEL = Remark(
    code="need.lift_arm.travel",
    severity=Severity.ERROR,
    quantity="travel",
    unit="deg",
    fact="The travel has no length",
    advice="Enter where it starts and ends.",
    curable=False,
)


def residual_nm(sheet: LiftArmSheet, angle_deg: float) -> float:
    """Torque left for the drive at an angle [N·m]: m g l cos θ less counterweight and spring."""
    mass, radius = known(sheet.mass_kg, sheet.gravity_radius_mm)
    arm = (mass * radius - sheet.counterweight_kg * sheet.counterweight_radius_mm) / 1000
    span = sheet.to_deg - sheet.from_deg
    share = (angle_deg - sheet.from_deg) / span if span else 0.0
    spring = sheet.spring_start_nm + (sheet.spring_end_nm - sheet.spring_start_nm) * share
    return G_M_PER_S2 * arm * cos(radians(angle_deg)) - spring


def over_travel(sheet: LiftArmSheet) -> list[tuple[float, float]]:
    """Angle [deg] and residual torque [N·m] over the travel."""
    step = (sheet.to_deg - sheet.from_deg) / (SAMPLES - 1)
    return [(sheet.from_deg + k * step, residual_nm(sheet, sheet.from_deg + k * step)) for k in range(SAMPLES)]


def work(sheet: LiftArmSheet, corner: Corner) -> Outcome:
    """Largest residual over the travel with friction against it."""
    out = Outcome()
    span = abs(sheet.to_deg - sheet.from_deg)
    if span == 0:
        out.findings.append(state(TRAVEL, "need", 0.0))
        return out
    with out.working("speed"):
        (seconds,) = known(sheet.travel_s)
        ideal = out.step(
            "Mean speed of the travel", "n = Δθ / (6 t)", span / 6 / seconds, "rpm", EXACT, Δθ=span, t=seconds
        )
        out.speeds = SpeedBand(
            0.7 * ideal, ideal, 1.15 * ideal, "time for the travel; faster is dangerous, slower is not"
        )
    with out.working("running"):
        mass, radius = known(sheet.mass_kg, sheet.gravity_radius_mm)
        weight = mass * G_M_PER_S2 * radius / 1000
        worst = max(over_travel(sheet), key=lambda pair: abs(pair[1]))
        out.step(
            "Largest residual",
            "R = m g l cos θ - T_counter - T_spring",
            worst[1],
            "N*m",
            EXACT,
            m=mass,
            g=G_M_PER_S2,
            l=radius / 1000,
            θ=worst[0],
        )
        share = {"low": 0.5, "typical": 1.0, "high": 1.7}[corner]
        out.running_nm = out.step(
            "With pivot friction",
            "T = |R| + k μ m g l",
            abs(worst[1]) + share * sheet.friction * weight,
            "N*m",
            COMMON_PRACTICE,
            R=worst[1],
            k=share,
            μ=sheet.friction,
        )
        least = min(value for _, value in over_travel(sheet))
        out.say("residual_largest", "Residual, largest", worst[1], "N*m")
        out.say("residual_least", "Residual, least", least, "N*m")
        with out.working("holding"):
            out.holding_nm = out.step("To hold", "T_h = |R|", abs(worst[1]), "N*m", EXACT, R=worst[1])
        with out.working("inertia"):
            counter = sheet.counterweight_kg * (sheet.counterweight_radius_mm / 1000) ** 2
            out.inertia_kgm2 = out.step(
                "Arm and counterweight",
                "J = 4/3 m l² + m_c l_c²",
                4 / 3 * mass * (radius / 1000) ** 2 + counter,
                "kg*m**2",
                EXACT,
                m=mass,
                l=radius / 1000,
                m_c=sheet.counterweight_kg,
                l_c=sheet.counterweight_radius_mm / 1000,
            )
        if sheet.spring_start_nm or sheet.spring_end_nm:
            bare = sheet.model_copy(update={"spring_start_nm": 0.0, "spring_end_nm": 0.0})
            lost = max(abs(value) for _, value in over_travel(bare))
            out.say("if_the_spring_breaks", "If the spring breaks", lost, "N*m")
            out.findings.append(judge(SPRING_LOST, "need", lost, of=out.running_nm))
    if out.running_nm is None:
        return out
    out.times("peak", "Something in the way", 2)
    out.times("breakaway", "From rest", 1.3)
    say_power(sheet, out, "Power at the pivot")
    return out


def sketch(sheet: LiftArmSheet) -> Sketch:
    """The arm at the start, its travel, and the counterweight."""
    length = 2 * (sheet.gravity_radius_mm or 800.0)
    start, end = radians(sheet.from_deg), radians(sheet.to_deg)
    drawing = Sketch("The arm at the start of its travel")

    def at(radius: float, angle: float) -> tuple[float, float]:
        return radius * cos(angle), radius * sin(angle)

    drawing.line(*arc((0, 0), length, start, end), role="hidden")
    drawing.line((0, 0), at(length, end), role="thin")
    drawing.line((0, 0), at(length, start), role="motion")
    middle = at(length / 2, start)
    drawing.arrow(middle, (middle[0], middle[1] - length * 0.35), "mass", sheet.mass_kg, "kg")
    drawing.measure((0, 0), middle, "to the center of gravity", sheet.gravity_radius_mm, -0.16 if start >= 0 else 0.16)
    if sheet.counterweight_kg:
        place = at(-max(sheet.counterweight_radius_mm, length * 0.15), start)
        drawing.line((0, 0), place, role="part")
        drawing.circle(place, length * 0.09, "charge")
    drawing.circle((0, 0), length * 0.05)
    drawing.text(at(length * 0.75, (start + end) / 2), "travel")
    return drawing


LIFT_ARM = NeedKind(
    kind="lift_arm",
    title="Lifting arm or flap",
    group="Lifting and moving",
    question="What does the arm lift?",
    model=LiftArmSheet,
    work=work,
    sketch=sketch,
    last_shaft="Pivot",
    duty="counterbalanced door or gate",
    caution="A wound spring or a raised weight can maim. Block the arm before work on its drive or balance; "
    "stops at both ends.",
    advice="",
    rules=(SPRING_LOST, TRAVEL),
    words="boom tipper flap ramp tailgate crane arm",
    starter={"mass_kg": 45, "gravity_radius_mm": 700, "spring_start_nm": 250, "spring_end_nm": 30, "travel_s": 12},
)
