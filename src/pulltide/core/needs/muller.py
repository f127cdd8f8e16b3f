"""Wheels that roll and scrub in a bed of sand or clay."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from pulltide.core.findings import COMMON_PRACTICE, EXACT, Check, Severity, judge
from pulltide.core.model import Kg, Mm, Plain
from pulltide.core.needs.contract import (
    Corner,
    NeedKind,
    Outcome,
    Saying,
    SpeedBand,
    Worksheet,
    known,
    say_power,
    speed_at_rim,
)
from pulltide.core.sketch import Sketch
from pulltide.core.units import G_M_PER_S2, RPM_PER_RAD_PER_S, rim_speed_m_per_s

PATH_SPEEDS = (1.0, 1.5, 2.0)


class MullerSheet(Worksheet):
    """Rolling and scrub of heavy wheels."""

    BANDS = {"rolling": (0.10, 0.20, 0.30), "scrub": (0.4, 0.5, 0.6)}

    kind: Literal["muller"] = "muller"
    wheels: int = Field(2, title="Wheels", ge=1, le=6)
    wheel_load_kg: Kg | None = Field(
        None, title="Weight on each wheel", gt=0, le=5000, description="with its spring, written as a mass"
    )
    path_radius_mm: Mm | None = Field(None, title="Wheel’s path radius", ge=50, le=3000)
    wheel_width_mm: Mm | None = Field(None, title="Wheel width", ge=10, le=800)
    pan_diameter_mm: Mm | None = Field(None, title="Pan", ge=100, le=6000)
    rolling: Plain = Field(
        0.20, title="Rolling in the bed", ge=0.02, le=0.6, description="0.1 to 0.3 in loose sand, common practice"
    )
    scrub: Plain = Field(0.5, title="Scrub of the tread", ge=0.1, le=1, description="0.4 to 0.6, common practice")


THROWN = Check(
    code="need.muller.thrown",
    severity=Severity.WARNING,
    quantity="Froude number at the pan wall",
    limits=(0.5,),
    fact="At this speed the sand is thrown against the wall",
    clear="The sand stays in the bed",
    advice="Run it slower.",
)


def work(sheet: MullerSheet, corner: Corner) -> Outcome:
    """Rolling resistance at the path, and scrub, because a wheel's edges slip as it turns about the post."""
    out = Outcome()
    with out.working("speed"):
        (radius,) = known(sheet.path_radius_mm)
        low, ideal, high = speed_at_rim(out, PATH_SPEEDS, 2 * radius)
        out.speeds = SpeedBand(low, ideal, high, "wheel path at {1|m/s} to {2|m/s}")
    with out.working("running"):
        mass, radius, width = known(sheet.wheel_load_kg, sheet.path_radius_mm, sheet.wheel_width_mm)
        load = out.step("Weight on a wheel", "W = m g", mass * G_M_PER_S2, "N", EXACT, m=mass, g=G_M_PER_S2)
        roll, scrub = sheet.at("rolling", corner), sheet.at("scrub", corner)
        value = sheet.wheels * (roll * load * radius + scrub * load * width / 4) / 1000
        out.running_nm = out.step(
            "Rolling and scrub",
            "T = z (c W R + μ W b / 4)",
            value,
            "N*m",
            COMMON_PRACTICE,
            z=float(sheet.wheels),
            c=roll,
            W=load,
            R=radius / 1000,
            μ=scrub,
            b=width / 1000,
        )
    if out.running_nm is None:
        return out
    out.times("peak", "Lumps", 2)
    out.times("breakaway", "Restart in a settled batch", 2.5)
    say_power(sheet, out, "Power at the post")
    speed = sheet.speed_ideal_rpm or out.speeds.ideal_rpm
    if sheet.pan_diameter_mm and speed:
        froude = (speed / RPM_PER_RAD_PER_S) ** 2 * sheet.pan_diameter_mm / 2000 / G_M_PER_S2
        out.findings.append(judge(THROWN, "need", froude))
    return out


def say(sheet: MullerSheet, speed_rpm: float) -> tuple[Saying, ...]:
    """Speed of the wheels along their path."""
    return (
        ()
        if sheet.path_radius_mm is None
        else (Saying("wheel_path", "wheel path", rim_speed_m_per_s(2 * sheet.path_radius_mm, speed_rpm), "m/s"),)
    )


def sketch(sheet: MullerSheet) -> Sketch:
    """The pan from above with its wheels."""
    radius = sheet.path_radius_mm or 350.0
    width = sheet.wheel_width_mm or radius * 0.35
    pan = (sheet.pan_diameter_mm or 2.6 * radius) / 2
    drawing = Sketch("The pan from above")
    drawing.circle((0, 0), pan, "charge")
    drawing.circle((0, 0), pan)
    drawing.circle((0, 0), radius, "hidden")
    drawing.circle((0, 0), pan * 0.07)
    long = radius * 0.75
    for side in (-1, 1)[: max(sheet.wheels, 1)]:
        drawing.box(side * radius - width / 2, -long / 2, width, long, "motion")
    drawing.line((-radius, 0), (radius, 0), role="thin")
    drawing.measure((0, 0), (radius, 0), "path", sheet.path_radius_mm, 0.3)
    drawing.measure(
        (radius - width / 2, -long / 2), (radius + width / 2, -long / 2), "wheel", sheet.wheel_width_mm, -0.12
    )
    drawing.measure((-pan, pan), (pan, pan), "pan", sheet.pan_diameter_mm, 0.08)
    drawing.turn((0, 0), radius * 0.5)
    return drawing


MULLER = NeedKind(
    kind="muller",
    title="Roller muller",
    group="Mixing and tumbling",
    question="What do the wheels roll in?",
    model=MullerSheet,
    work=work,
    sketch=sketch,
    say=say,
    last_shaft="Muller post",
    duty="sand muller",
    caution="Nothing stops a muller wheel but its drive. Interlock the crib door and fit a stop within reach.",
    advice="Torque rises through 3 to 5 % water: measure at the wettest clay temper, not dry.",
    rules=(THROWN,),
    words="sand foundry clay mortar wheels pan grinding edge runner",
    starter={"wheel_load_kg": 60, "path_radius_mm": 350, "wheel_width_mm": 120, "pan_diameter_mm": 1000},
)
