"""Clay pug mill or auger by specific energy."""

from __future__ import annotations

from math import pi
from typing import Literal

from pydantic import Field

from pulltide.core.findings import COMMON_PRACTICE, EXACT, Check, Severity, judge
from pulltide.core.model import KgPerM3, KjPerKg, Mm, Plain
from pulltide.core.needs.contract import (
    Corner,
    NeedKind,
    Outcome,
    Saying,
    SpeedBand,
    Worksheet,
    known,
    torque_from_power_nm,
)
from pulltide.core.needs.screw_conveyor import flight
from pulltide.core.sketch import Sketch


class PugMillSheet(Worksheet):
    """Throughput times the energy a kilogram takes."""

    BANDS = {"energy_kj_kg": (4.0, 11.0, 20.0)}

    kind: Literal["pug_mill"] = "pug_mill"
    barrel_diameter_mm: Mm | None = Field(None, title="Barrel diameter", ge=40, le=800)
    pitch_mm: Mm | None = Field(None, title="Pitch", ge=20, le=1000)
    clay_density_kg_m3: KgPerM3 = Field(
        1900.0, title="Clay density", ge=1000, le=2500, description="plastic clay 1700 to 2000"
    )
    conveying: Plain = Field(
        0.06,
        title="Auger carries, of its swept volume",
        ge=0.005,
        le=0.6,
        description="a guess: weigh what comes out in a minute",
    )
    energy_kj_kg: KjPerKg = Field(
        11.0, title="Energy of the clay", ge=1, le=60, description="soft 4, usual 11, stiff 20, common practice"
    )


HAND_FED = Check(
    code="need.pug_mill.speed",
    severity=Severity.NOTE,
    quantity="ideal speed",
    unit="rpm",
    limits=(40.0,),
    fact="An auger this fast heats and shears the clay",
    clear="The auger runs at a usual pugging speed",
    advice="18 to 30 rpm is usual.",
)


def carried_kg_s(sheet: PugMillSheet, speed_rpm: float) -> float:
    """Throughput [kg/s]."""
    diameter, pitch = known(sheet.barrel_diameter_mm, sheet.pitch_mm)
    return pi / 4 * (diameter / 1000) ** 2 * pitch / 1000 * speed_rpm / 60 * sheet.clay_density_kg_m3 * sheet.conveying


def work(sheet: PugMillSheet, corner: Corner) -> Outcome:
    """Power from specific energy."""
    out = Outcome()
    with out.working("speed"):
        out.speeds = SpeedBand(18.0, 22.0, 28.0, "augers of shop pug mills, common practice")
        out.step("Usual", "n = 18 to 28", 22.0, "rpm", COMMON_PRACTICE)
    with out.working("running"):
        (speed,) = known(sheet.speed_ideal_rpm or out.speeds.ideal_rpm)
        flow = out.step(
            "Throughput, in kg/s",
            "m = π/4 D² s n/60 ρ η_c",
            carried_kg_s(sheet, speed),
            "",
            EXACT,
            D=(sheet.barrel_diameter_mm or 0.0) / 1000,
            s=(sheet.pitch_mm or 0.0) / 1000,
            n=speed,
            ρ=sheet.clay_density_kg_m3,
            η_c=sheet.conveying,
        )
        energy = sheet.at("energy_kj_kg", corner)
        power = out.step("Power at the auger", "P = m e", flow * energy, "kW", COMMON_PRACTICE, m=flow, e=energy)
        out.say("power_at_the_auger", "Power at the auger", power, "kW")
        out.running_nm = torque_from_power_nm(out, power, speed)
        out.findings.append(judge(HAND_FED, "need", speed))
    if out.running_nm is not None:
        out.times("peak", "Stiff lump or stone", 2.5)
        out.times("breakaway", "After rest, clay set", 1.5)
        out.say("shear_pin_set_at", "Shear pin set at", 2.5 * out.running_nm, "N*m")
    return out


def say(sheet: PugMillSheet, speed_rpm: float) -> tuple[Saying, ...]:
    """Throughput."""
    if sheet.barrel_diameter_mm is None or sheet.pitch_mm is None:
        return ()
    return (Saying("clay", "clay", carried_kg_s(sheet, speed_rpm) * 3.6, "t/h"),)


def sketch(sheet: PugMillSheet) -> Sketch:
    """The barrel with its auger."""
    diameter = sheet.barrel_diameter_mm or 150.0
    pitch = sheet.pitch_mm or diameter * 0.7
    drawing = Sketch("The auger in its barrel")
    return flight(drawing, diameter, pitch, (5 * pitch, 5), (sheet.barrel_diameter_mm, sheet.pitch_mm))


PUG_MILL = NeedKind(
    kind="pug_mill",
    title="Clay pug mill",
    group="Conveying",
    question="What does the auger push?",
    model=PugMillSheet,
    work=work,
    sketch=sketch,
    say=say,
    last_shaft="Auger",
    duty="clay pug mill",
    caution="An auger pulls a hand in and does not let go. A deep hopper with a grid, an interlock and a stop "
    "in reach.",
    advice="A bar and a luggage scale on the loaded auger tell more than any formula: use the pull at a radius.",
    rules=(HAND_FED,),
    words="clay brick extruder pottery",
    starter={"barrel_diameter_mm": 150, "pitch_mm": 100, "speed_ideal_rpm": 22},
)
