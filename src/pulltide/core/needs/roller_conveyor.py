"""Live roller conveyor driven by chain loops or a belt under the rollers."""

from __future__ import annotations

from math import pi
from typing import Literal

from pydantic import Field

from pulltide.core.findings import COMMON_PRACTICE, EXACT
from pulltide.core.model import Kg, Mm, MPerS, Plain
from pulltide.core.needs.contract import (
    Corner,
    NeedKind,
    Outcome,
    Saying,
    SpeedBand,
    Worksheet,
    known,
    pick,
    row_band,
    say_power,
    table_source,
)
from pulltide.core.sketch import Sketch
from pulltide.core.units import G_M_PER_S2, rim_speed_m_per_s

CARTONS = "live roller conveyor flat-bottom cartons"


class RollerConveyorSheet(Worksheet):
    """Rolling of the load, loss of each chain loop, curves."""

    kind: Literal["roller_conveyor"] = "roller_conveyor"
    load_kg: Kg | None = Field(None, title="Load on the driven rollers", gt=0, le=50_000)
    roller_diameter_mm: Mm | None = Field(None, title="Roller", ge=15, le=300)
    rollers: int = Field(20, title="Driven rollers", ge=1, le=400)
    loops: int = Field(
        20, title="Chain loops roller to roller", ge=0, le=400, description="each takes 1.5 %, common practice"
    )
    rolling: Plain | None = Field(
        None, title="Rolling share of your own", gt=0.001, le=0.5, description="pull over weight; cartons 0.08"
    )
    curve: bool = Field(False, title="Powered curve", description="adds 20 %, common practice")
    travel_m_s: MPerS | None = Field(None, title="Travel speed", gt=0, le=5)


def work(sheet: RollerConveyorSheet, corner: Corner) -> Outcome:
    """Force at the rollers, gathered at the first one."""
    out = Outcome()
    with out.working("speed"):
        speed, roller = known(sheet.travel_m_s, sheet.roller_diameter_mm)
        ideal = out.step(
            "Roller at the travel speed",
            "n = 60000 v / (π D)",
            60_000 * speed / (pi * roller),
            "rpm",
            EXACT,
            v=speed,
            D=roller,
        )
        out.speeds = SpeedBand(0.9 * ideal, ideal, 1.1 * ideal, "travel speed within 10 %")
    with out.working("running"):
        load, roller = known(sheet.load_kg, sheet.roller_diameter_mm)
        share = sheet.rolling or pick(row_band("friction", "pair", CARTONS), corner)
        force = out.step(
            "Rolling of the load",
            "F = c m g",
            share * load * G_M_PER_S2,
            "N",
            table_source("friction"),
            c=share,
            m=load,
            g=G_M_PER_S2,
        )
        gain = float(1.015 ** (sheet.loops / 2)) * (1.2 if sheet.curve else 1.0)
        pull = out.step(
            "With loops and curve",
            "F_1 = F · 1.015^(z/2) · k",
            force * gain,
            "N",
            COMMON_PRACTICE,
            F=force,
            z=float(sheet.loops),
            k=1.2 if sheet.curve else 1.0,
        )
        out.running_nm = out.step(
            "At the first roller", "T = F_1 D / 2000", pull * roller / 2000, "N*m", EXACT, F_1=pull, D=roller
        )
        out.say("force_at_the_rollers", "Force at the rollers", pull, "N")
        out.times("breakaway", "After rest", 1.5, table_source("friction"))
        out.times("peak", "Load against a stop", 2)
        say_power(sheet, out, "Power at the first roller")
    return out


def say(sheet: RollerConveyorSheet, speed_rpm: float) -> tuple[Saying, ...]:
    """Travel speed."""
    if sheet.roller_diameter_mm is None:
        return ()
    return (Saying("travel", "travel", rim_speed_m_per_s(sheet.roller_diameter_mm, speed_rpm), "m/s"),)


def sketch(sheet: RollerConveyorSheet) -> Sketch:
    """A few rollers with a carton on them."""
    roller = sheet.roller_diameter_mm or 50.0
    drawing = Sketch("Driven rollers under a carton")
    for k in range(6):
        drawing.circle((k * roller * 1.5, 0), roller / 2)
    drawing.box(roller * 1.2, roller / 2, roller * 4.2, roller * 2.4, "charge")
    drawing.ground(-roller, roller * 8.5, -roller * 1.6)
    drawing.measure((-roller / 2, 0), (roller / 2, 0), "roller", sheet.roller_diameter_mm, -0.2)
    drawing.arrow((roller * 5.6, roller * 1.6), (roller * 7.8, roller * 1.6), "travel", sheet.travel_m_s, "m/s")
    drawing.turn((0, 0), roller * 0.85)
    return drawing


ROLLER_CONVEYOR = NeedKind(
    kind="roller_conveyor",
    title="Roller conveyor",
    group="Conveying",
    question="What do the rollers carry?",
    model=RollerConveyorSheet,
    work=work,
    sketch=sketch,
    say=say,
    last_shaft="First roller",
    duty="belt conveyor unit loads or bulk unevenly fed",
    caution="Guard the chain loops their whole length; fingers are drawn in between roller and frame.",
    advice="Loops near the drive carry the pull of all the loops behind them: rate the first chain on it.",
    words="crates logs pallets rollers",
    starter={"load_kg": 220, "roller_diameter_mm": 50, "travel_m_s": 0.3},
)
