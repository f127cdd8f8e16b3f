"""Swing or sliding gate in the wind."""

from __future__ import annotations

from collections.abc import Iterator
from math import pi
from typing import Literal

from pydantic import Field

from pulltide.core.findings import COMMON_PRACTICE, EXACT, Check, Finding, Severity, Source, judge
from pulltide.core.model import Kg, Mm, MPerS, Plain, Seconds
from pulltide.core.needs.contract import (
    POWER,
    Built,
    Corner,
    NeedKind,
    Outcome,
    Saying,
    SpeedBand,
    Worksheet,
    known,
    say_power,
)
from pulltide.core.sketch import Sketch
from pulltide.core.units import G_M_PER_S2, rim_speed_m_per_s

WIND = Source("ASCE 7", "velocity pressure 0.613 V² Pa", "quoted from memory")


class GateSheet(Worksheet):
    """Wind on the leaf, friction of hinges or wheels."""

    kind: Literal["gate"] = "gate"
    moves: Literal["swings", "slides"] = Field("swings", title="Gate")
    mass_kg: Kg | None = Field(None, title="Mass", gt=0, le=5000)
    width_mm: Mm | None = Field(None, title="Width of the leaf", ge=300, le=15_000)
    height_mm: Mm | None = Field(None, title="Height", ge=300, le=6000)
    closed_share: Plain = Field(
        1.0, title="Part of it that stops wind", ge=0.02, le=1, description="1 boards, 0.3 bars"
    )
    wind_m_s: MPerS = Field(
        10.0,
        title="Wind it must still move in",
        ge=0,
        le=40,
        description="{10|m/s} is a fresh breeze; latched it meets more",
    )
    wind_factor: Plain = Field(1.2, title="Force coefficient", ge=0.5, le=2)
    rolling: Plain = Field(
        0.035, title="Wheels, share of the weight", ge=0.005, le=0.2, description="0.02 to 0.05, common practice"
    )
    sprocket_diameter_mm: Mm | None = Field(None, title="Pinion or sprocket", ge=20, le=400)
    travel_s: Seconds | None = Field(None, title="Time to open", ge=2, le=180, description="90 degrees in 12 to 20 s")


EDGE = Check(
    code="need.gate.edge",
    severity=Severity.WARNING,
    quantity="speed of the edge",
    unit="m/s",
    limits=(0.3,),
    fact="The edge is faster than {limit}",
    clear="The edge is slow enough",
    advice="Slow the gate.",
)


def wind_pressure_pa(speed_m_s: float) -> float:
    """Velocity pressure [Pa]: 0.613 V²."""
    return 0.613 * speed_m_s**2


def _torque(sheet: GateSheet, out: Outcome, wind_m_s: float) -> float:
    width, height, mass = known(sheet.width_mm, sheet.height_mm, sheet.mass_kg)
    pressure = out.step("Wind pressure, in Pa", "p = 0.613 V²", wind_pressure_pa(wind_m_s), "", WIND, V=wind_m_s)
    area = width * height / 1e6 * sheet.closed_share
    if sheet.moves == "swings":
        wind = 0.5 * pressure * sheet.wind_factor * area * width / 1000
        out.step(
            "Wind about the hinge",
            "T_w = p C h w² c / 2",
            wind,
            "N*m",
            EXACT,
            p=pressure,
            C=sheet.wind_factor,
            h=height / 1000,
            w=width / 1000,
            c=sheet.closed_share,
        )
        hinge = 0.15 * mass * G_M_PER_S2 * 0.03
        return out.step(
            "With hinges",
            "T = T_w + 0.15 m g · 0.03",
            wind + hinge,
            "N*m",
            COMMON_PRACTICE,
            T_w=wind,
            m=mass,
            g=G_M_PER_S2,
        )
    (sprocket,) = known(sheet.sprocket_diameter_mm)
    force = sheet.rolling * mass * G_M_PER_S2 + 0.15 * pressure * sheet.wind_factor * area
    out.step(
        "Wheels and guide",
        "F = c m g + 0.15 p C A",
        force,
        "N",
        COMMON_PRACTICE,
        c=sheet.rolling,
        m=mass,
        g=G_M_PER_S2,
        p=pressure,
        C=sheet.wind_factor,
        A=area,
    )
    return out.step("At the pinion", "T = F D / 2000", force * sprocket / 2000, "N*m", EXACT, F=force, D=sprocket)


def judge_built(sheet: GateSheet, built: Built) -> Iterator[Finding]:
    """The edge at the speed the plan gives it."""
    across = None if sheet.width_mm is None else 2 * sheet.width_mm
    across = sheet.sprocket_diameter_mm if sheet.moves != "swings" else across
    if across is not None:
        yield judge(EDGE, "need", rim_speed_m_per_s(across, built.fastest_rpm))


def work(sheet: GateSheet, corner: Corner) -> Outcome:
    """Torque in still air, in the entered wind, and in half as much again."""
    out = Outcome()
    with out.working("speed"):
        seconds, width = known(sheet.travel_s, sheet.width_mm)
        if sheet.moves == "swings":
            ideal = out.step("A quarter turn in that time", "n = 15 / t", 15 / seconds, "rpm", EXACT, t=seconds)
            edge = width / 1000 * pi / 2 / seconds
        else:
            (sprocket,) = known(sheet.sprocket_diameter_mm)
            ideal = out.step(
                "Its width in that time",
                "n = 60 w / (π D t)",
                60 * width / (pi * sprocket * seconds),
                "rpm",
                EXACT,
                w=width,
                D=sprocket,
                t=seconds,
            )
            edge = width / 1000 / seconds
        out.speeds = SpeedBand(0.7 * ideal, ideal, 1.15 * ideal, "time to open; faster is dangerous, slower is not")
        out.findings.append(judge(EDGE, "need", edge))
    with out.working("running"):
        out.running_nm = _torque(sheet, out, {"low": 0.5, "typical": 1.0, "high": 1.25}[corner] * sheet.wind_m_s)
    if out.running_nm is None:
        return out
    with out.working("holding"):
        out.holding_nm = _torque(sheet, out, sheet.wind_m_s) if sheet.moves == "swings" else 0.0
    out.times("peak", "A gust", 2)
    out.times("breakaway", "Stuck by rust or frost", 1.5)
    say_power(sheet, out, "Power", POWER)
    return out


def say(sheet: GateSheet, speed_rpm: float) -> tuple[Saying, ...]:
    """Time to open."""
    if sheet.moves == "swings":
        return (Saying("open", "to open", 15 / speed_rpm, "s"),)
    if sheet.sprocket_diameter_mm is None or sheet.width_mm is None:
        return ()
    return (
        Saying(
            "open", "to open", sheet.width_mm / 1000 / rim_speed_m_per_s(sheet.sprocket_diameter_mm, speed_rpm), "s"
        ),
    )


def sketch(sheet: GateSheet) -> Sketch:
    """The leaf from the front."""
    width, height = sheet.width_mm or 3000.0, sheet.height_mm or 1500.0
    drawing = Sketch("The gate from the front")
    drawing.ground(-width * 0.12, width * 1.15)
    drawing.box(-width * 0.05, 0, width * 0.05, height * 1.15)
    drawing.box(0, height * 0.06, width, height, "charge")
    for k in range(1, 8):
        drawing.line((width * k / 8, height * 0.06), (width * k / 8, height * 1.06), role="thin")
    drawing.measure((0, height * 1.06), (width, height * 1.06), "width", sheet.width_mm, 0.08)
    drawing.measure((width, height * 1.06), (width, height * 0.06), "height", sheet.height_mm, 0.06)
    at, r = (width * 0.5, height * 0.62), min(width, height) * 0.07
    drawing.circle(at, r, "motion")
    for lean in (1, -1):
        drawing.line(
            (at[0] - 0.7 * r, at[1] - 0.7 * r * lean), (at[0] + 0.7 * r, at[1] + 0.7 * r * lean), role="motion"
        )
    drawing.text((at[0], at[1] - 2.4 * r), "wind, square on the leaf")
    return drawing


def hides(sheet: GateSheet) -> frozenset[str]:
    """Fields of the other kind of gate."""
    return frozenset({"rolling", "sprocket_diameter_mm"}) if sheet.moves == "swings" else frozenset()


GATE = NeedKind(
    kind="gate",
    title="Gate",
    group="Lifting and moving",
    question="What does the gate meet?",
    model=GateSheet,
    work=work,
    sketch=sketch,
    say=say,
    last_shaft="Hinge or pinion",
    duty="counterbalanced door or gate",
    caution="A driven gate crushes at its closing edge and at the hinge. Edge that reverses, force limits and "
    "signs by local code.",
    advice="",
    rules=(EDGE,),
    hides=hides,
    judge_built=judge_built,
    words="sliding swinging driveway farm gate opener",
    starter={"mass_kg": 110, "width_mm": 3000, "height_mm": 1500, "closed_share": 0.3, "travel_s": 18},
)
