"""Vertical door with a counterbalance."""

from __future__ import annotations

from collections.abc import Iterator
from math import pi
from typing import Literal

from pydantic import Field

from pulltide.core.findings import EXACT, Check, Finding, Remark, Severity, Source, judge, judge_two, state
from pulltide.core.model import Kg, Mm, MPerS, Newton, Plain
from pulltide.core.needs.contract import (
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

EN_12453 = Source("EN 12453", "closing forces; confirm against the standard", "quoted from memory")


class DoorSheet(Worksheet):
    """Weight less balance over the travel, friction in the guides."""

    BANDS = {"guide_friction": (0.03, 0.045, 0.06)}

    kind: Literal["door"] = "door"
    mass_kg: Kg | None = Field(None, title="Door, as clad", gt=0, le=5000)
    travel_mm: Mm | None = Field(None, title="Travel", ge=100, le=10_000)
    drum_radius_mm: Mm | None = Field(None, title="Radius of drum or sprocket", ge=10, le=500)
    balance_closed_n: Newton | None = Field(
        None,
        title="Balance, door closed",
        ge=0,
        le=50_000,
        description="a scale under the edge: weight less its reading",
    )
    balance_open_n: Newton | None = Field(None, title="Balance, door open", ge=0, le=50_000)
    guide_friction: Plain = Field(
        0.045, title="Guides, share of the weight", ge=0, le=0.3, description="3 to 6 %, common practice"
    )
    edge_m_s: MPerS = Field(
        0.15, title="Door speed", ge=0.02, le=1, description="{0.12|m/s} to {0.2|m/s}, common practice"
    )


BALANCE = Check(
    code="need.door.balance",
    severity=Severity.WARNING,
    quantity="largest residual over weight",
    unit="share",
    limits=(0.08, 0.5),
    fact="The counterbalance is off by more than {limit} of the weight",
    clear="The counterbalance is within {limit} of the weight",
    advice="Adjust the spring or counterweight first; a stronger drive is not the fix.",
)
SPEED = Check(
    code="need.door.speed",
    severity=Severity.WARNING,
    quantity="speed of the edge",
    unit="m/s",
    limits=(0.3,),
    fact="The edge is faster than {limit}",
    clear="The edge is slow enough",
    advice="Slow the door.",
)
SPRING_LOST = Check(
    code="need.door.spring_lost",
    severity=Severity.WARNING,
    quantity="torque without balance",
    unit="N*m",
    fact="If the spring breaks, the full door weight is on the drive",
    clear="The drive could hold the door without its counterbalance",
    limits=(2.0,),
    base="running torque",
    advice="Fit a catch, or a brake on the drum rated to hold the door.",
    curable=False,
)
CLOSING = Remark(
    code="need.door.closing",
    severity=Severity.NOTE,
    quantity="closing force",
    fact="Closing on a person: {150|N} held, {400|N} for 0.75 s at most",
    advice="Fit an edge that reverses; local code decides.",
    source=EN_12453,
    about=True,
    curable=False,
)


def residuals_n(sheet: DoorSheet) -> tuple[float, float]:
    """Weight less balance, closed and open [N]."""
    mass, closed, opened = known(sheet.mass_kg, sheet.balance_closed_n, sheet.balance_open_n)
    return mass * G_M_PER_S2 - closed, mass * G_M_PER_S2 - opened


def judge_built(sheet: DoorSheet, built: Built) -> Iterator[Finding]:
    """The edge at the speed the plan gives it."""
    if sheet.drum_radius_mm is not None:
        yield judge(SPEED, "need", rim_speed_m_per_s(2 * sheet.drum_radius_mm, built.fastest_rpm))


def work(sheet: DoorSheet, corner: Corner) -> Outcome:
    """Largest residual plus friction, at the drum."""
    out = Outcome()
    with out.working("speed"):
        (radius,) = known(sheet.drum_radius_mm)
        ideal = out.step(
            "Drum at the door’s speed",
            "n = 60000 v / (2 π r)",
            60_000 * sheet.edge_m_s / (2 * pi * radius),
            "rpm",
            EXACT,
            v=sheet.edge_m_s,
            r=radius,
        )
        out.speeds = SpeedBand(0.7 * ideal, ideal, 1.2 * ideal, "door speed; faster is dangerous, slower is not")
        out.findings.append(
            judge(
                SPEED,
                "need",
                1.2 * sheet.edge_m_s
                if sheet.speed_max_rpm is None
                else rim_speed_m_per_s(2 * radius, sheet.speed_max_rpm),
            )
        )
    with out.working("running"):
        ends = residuals_n(sheet)
        mass, radius = known(sheet.mass_kg, sheet.drum_radius_mm)
        weight = mass * G_M_PER_S2
        worst = max(ends, key=abs)
        rub = sheet.at("guide_friction", corner) * weight
        pull = out.step(
            "Residual and guides",
            "F = |m g - F_b| + μ m g",
            abs(worst) + rub,
            "N",
            EXACT,
            m=mass,
            g=G_M_PER_S2,
            F_b=weight - worst,
            μ=rub / weight,
        )
        out.running_nm = out.step("At the drum", "T = F r", pull * radius / 1000, "N*m", EXACT, F=pull, r=radius / 1000)
        out.say("residual_closed", "Residual, closed", ends[0], "N")
        out.say("residual_open", "Residual, open", ends[1], "N")
        lost = weight * radius / 1000
        out.say("if_the_spring_breaks", "If the spring breaks", lost, "N*m")
        out.say("energy_in_the_balance", "Energy in the balance", weight * (sheet.travel_mm or 0.0) / 1000, "J")
        with out.working("holding"):
            out.holding_nm = out.step(
                "To hold", "T_h = |m g - F_b| r", abs(worst) * radius / 1000, "N*m", EXACT, r=radius / 1000
            )
        out.findings.append(judge_two(BALANCE, "need", abs(worst) / weight))
        if sheet.balance_closed_n or sheet.balance_open_n:
            out.findings.append(judge(SPRING_LOST, "need", lost, of=out.running_nm))
        out.findings.append(state(CLOSING, "need"))
    if out.running_nm is None:
        return out
    out.times("peak", "A jam in the guides", 2.5)
    out.times("breakaway", "After rest, seals stuck", 1.5)
    say_power(sheet, out, "Power at the drum")
    return out


def say(sheet: DoorSheet, speed_rpm: float) -> tuple[Saying, ...]:
    """Speed of the edge and time for the travel."""
    if sheet.drum_radius_mm is None:
        return ()
    speed = rim_speed_m_per_s(2 * sheet.drum_radius_mm, speed_rpm)
    whole = () if sheet.travel_mm is None else (Saying("open", "to open", sheet.travel_mm / 1000 / speed, "s"),)
    return (Saying("edge", "edge", speed, "m/s"), *whole)


def sketch(sheet: DoorSheet) -> Sketch:
    """The door in its guides under the drum."""
    travel = sheet.travel_mm or 2100.0
    wide, radius = travel * 0.8, min(sheet.drum_radius_mm or travel * 0.05, travel * 0.15)
    drawing = Sketch("The door in its guides, part open")
    drawing.ground(-wide * 0.8, wide * 0.8)
    up = travel * 0.25
    drawing.box(-wide / 2, up, wide, travel, "charge")
    for k in range(1, 4):
        drawing.line((-wide / 2, up + k * travel / 4), (wide / 2, up + k * travel / 4), role="thin")
    for side in (-1, 1):
        drawing.line((side * wide * 0.53, 0), (side * wide * 0.53, travel * 1.45), role="part")
        drawing.line((side * wide * 0.42, up + travel), (side * wide * 0.42, travel * 1.5), role="motion")
        drawing.circle(
            (side * wide * 0.42 - side * max(radius, travel * 0.03), travel * 1.5), max(radius, travel * 0.03)
        )
    drawing.line((-wide * 0.42, travel * 1.5), (wide * 0.42, travel * 1.5), role="thin")
    drawing.measure((wide * 0.6, travel), (wide * 0.6, 0), "travel", sheet.travel_mm, 0.05)
    drawing.arrow((0, up + travel * 0.5), (0, up), "door", sheet.mass_kg, "kg")
    return drawing


DOOR = NeedKind(
    kind="door",
    title="Counterbalanced door",
    group="Lifting and moving",
    question="What does the door weigh against its balance?",
    model=DoorSheet,
    work=work,
    sketch=sketch,
    say=say,
    last_shaft="Drum shaft",
    duty="counterbalanced door or gate",
    caution="A wound spring kills: trained people and proper bars only. If spring or cable breaks, the whole "
    "weight falls on the drive: fit a catch.",
    advice="Weigh the door at its edge, closed and open, after it is clad.",
    rules=(BALANCE, SPEED, SPRING_LOST, CLOSING),
    judge_built=judge_built,
    words="hangar overhead bifold door counterweight",
    starter={"mass_kg": 80, "travel_mm": 2100, "drum_radius_mm": 60, "balance_closed_n": 740, "balance_open_n": 730},
)
