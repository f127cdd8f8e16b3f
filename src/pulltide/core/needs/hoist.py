"""Hoist or winch."""

from __future__ import annotations

from math import pi
from typing import Literal

from pydantic import Field

from pulltide.core.findings import EXACT, Check, Remark, Severity, Source, judge, state
from pulltide.core.model import Kg, Mm, MPerS
from pulltide.core.needs.contract import Corner, NeedKind, Outcome, Saying, SpeedBand, Worksheet, known, say_power
from pulltide.core.sketch import Sketch
from pulltide.core.units import G_M_PER_S2, rim_speed_m_per_s

#: Efficiency of one sheave. Source: handbooks, rolling and plain bearing, quoted from memory.
SHEAVES = {"rolling": 0.98, "plain": 0.95}
HANDBOOK = Source("handbooks", "efficiency of a block", "quoted from memory")


class HoistSheet(Worksheet):
    """Load on the falls of a block, rope on a drum in layers."""

    kind: Literal["hoist"] = "hoist"
    load_kg: Kg | None = Field(None, title="Load with hook and block", gt=0, le=20_000)
    falls: int = Field(1, title="Falls of rope", ge=1, le=12, description="parts of rope that carry the block")
    sheave: Literal["rolling", "plain"] = Field("rolling", title="Sheave bearings")
    drum_diameter_mm: Mm | None = Field(None, title="Drum, bare", ge=20, le=1500)
    rope_diameter_mm: Mm | None = Field(None, title="Rope", ge=1, le=40)
    layers: int = Field(1, title="Layers on the drum when full", ge=1, le=10)
    lift_m_s: MPerS | None = Field(None, title="Lifting speed", gt=0, le=3)
    load_holding: Literal["no", "brake", "not_decided"] = Field(
        "not_decided", title="Load held by", description="a gear unit is not a brake"
    )


BRAKE = Check(
    code="need.hoist.brake",
    severity=Severity.ERROR,
    quantity="torque to hold",
    unit="N*m",
    fact="Only the gears would hold the load",
    clear="A load-holding brake is planned",
    base="torque of the brake: none where none is planned",
    advice="Plan a brake that sets when the power is off, rated for the torque to hold.",
    curable=False,
)
DRUM_SIZE = Check(
    code="need.hoist.drum",
    severity=Severity.WARNING,
    quantity="drum over rope",
    relation=">=",
    limits=(18.0,),
    fact="The drum is too small for this rope",
    clear="The drum is large enough for the rope",
    advice="Use a drum of 18 rope diameters or more.",
)
NO_PEOPLE = Remark(
    code="need.hoist.people",
    severity=Severity.NOTE,
    quantity="use",
    fact="Not for lifting people, and no one under the load",
    advice="Local code decides on lifting gear.",
    about=True,
    curable=False,
)


def pull_per_metre(sheet: HoistSheet) -> float | None:
    """Rope pull on the drum over its torque [1/m]: 1 / r of the first layer, where the pull is greatest."""
    if sheet.drum_diameter_mm is None or sheet.rope_diameter_mm is None:
        return None
    return 1000 / layer_radius_mm(sheet, 1)


def block_efficiency(falls: int, sheave: float) -> float:
    """Efficiency of a block of n falls: (1 - η^n) / (n (1 - η)).

    >>> round(block_efficiency(4, 0.98), 4)
    0.9704
    """
    return (1 - sheave**falls) / (falls * (1 - sheave))


def layer_radius_mm(sheet: HoistSheet, layer: int) -> float:
    """Radius of the rope's middle in a layer, ropes stacked square [mm]: D/2 + d (j - 1/2)."""
    drum, rope = known(sheet.drum_diameter_mm, sheet.rope_diameter_mm)
    return drum / 2 + rope * (layer - 0.5)


def work(sheet: HoistSheet, corner: Corner) -> Outcome:
    """Line pull through the block, torque on the top layer."""
    out = Outcome()
    with out.working("speed"):
        speed = known(sheet.lift_m_s)[0]
        top = layer_radius_mm(sheet, sheet.layers)
        ideal = out.step(
            "Drum on its top layer",
            "n = 60 v z / (2 π r)",
            60_000 * speed * sheet.falls / (2 * pi * top),
            "rpm",
            EXACT,
            v=speed,
            z=float(sheet.falls),
            r=top / 1000,
        )
        out.speeds = SpeedBand(
            0.7 * ideal, ideal, 1.1 * ideal, "lifting speed on the top layer; faster is dangerous, slower is not"
        )
    with out.working("running"):
        (load,) = known(sheet.load_kg)
        sheave = SHEAVES[sheet.sheave]
        block = out.step(
            "Block passes on",
            "η_r = (1 - η^z) / (z (1 - η))",
            block_efficiency(sheet.falls, sheave),
            "share",
            HANDBOOK,
            η=sheave,
            z=float(sheet.falls),
        )
        swing = {"low": 0.95, "typical": 1.0, "high": 1.1}[corner]
        pull = out.step(
            "Line pull",
            "F = k m g / (z η_r)",
            swing * load * G_M_PER_S2 / (sheet.falls * block),
            "N",
            EXACT,
            k=swing,
            m=load,
            g=G_M_PER_S2,
            z=float(sheet.falls),
            η_r=block,
        )
        radius = layer_radius_mm(sheet, sheet.layers)
        out.running_nm = out.step(
            "At the drum, top layer", "T = F r", pull * radius / 1000, "N*m", EXACT, F=pull, r=radius / 1000
        )
        out.say("line_pull", "Line pull", pull, "N")
        with out.working("holding"):
            out.holding_nm = out.step(
                "To hold; friction of the block helps",
                "T_h = m g r η_r / z",
                load * G_M_PER_S2 * radius / 1000 * block / sheet.falls,
                "N*m",
                EXACT,
                m=load,
                g=G_M_PER_S2,
                r=radius / 1000,
                η_r=block,
                z=float(sheet.falls),
            )
            out.findings.append(
                judge(BRAKE, "need", out.holding_nm, out.holding_nm if sheet.load_holding == "brake" else 0.0)
            )
        out.findings.append(state(NO_PEOPLE, "need"))
    if out.running_nm is None:
        return out
    out.times("peak", "Snatch from a slack rope", 1.6)
    out.times("breakaway", "Start under load", 1.3)
    if sheet.drum_diameter_mm and sheet.rope_diameter_mm:
        out.findings.append(judge(DRUM_SIZE, "need", sheet.drum_diameter_mm / sheet.rope_diameter_mm))
    say_power(sheet, out, "Power at the drum")
    return out


def say(sheet: HoistSheet, speed_rpm: float) -> tuple[Saying, ...]:
    """Lifting speed on the top and the bottom layer."""
    if sheet.drum_diameter_mm is None or sheet.rope_diameter_mm is None:
        return ()
    speeds = [
        rim_speed_m_per_s(2 * layer_radius_mm(sheet, layer), speed_rpm) / sheet.falls for layer in (sheet.layers, 1)
    ]
    lowest = () if sheet.layers == 1 else (Saying("bottom_layer", "on the bottom layer", speeds[1], "m/s"),)
    return (Saying("lifts_at", "lifts at", speeds[0], "m/s"), *lowest)


def sketch(sheet: HoistSheet) -> Sketch:
    """Drum, rope and load."""
    drum = sheet.drum_diameter_mm or 120.0
    rope = min(sheet.rope_diameter_mm or drum * 0.06, drum * 0.25)
    outer = drum / 2 + rope * sheet.layers
    drawing = Sketch("Drum, rope and load")
    drawing.circle((0, 0), outer, "thin")
    drawing.circle((0, 0), drum / 2)
    fall = outer - rope / 2
    drop = drum * 1.7
    if sheet.falls == 1:
        drawing.line((fall, 0), (fall, -drop), role="motion")
    else:
        drawing.circle((fall + drum * 0.25, -drop + drum * 0.25), drum * 0.25)
        drawing.line((fall, 0), (fall, -drop + drum * 0.25), role="motion")
        drawing.line((fall + drum * 0.5, -drop + drum * 0.25), (fall + drum * 0.5, drum * 0.2), role="motion")
        drawing.text((fall + drum * 0.9, -drum * 0.6), f"{sheet.falls} falls")
    left = fall - drum * 0.4 + (drum * 0.25 if sheet.falls > 1 else 0)
    drawing.box(left, -drop - drum * 0.7, drum * 0.8, drum * 0.7, "charge")
    drawing.arrow(
        (left + drum * 0.4, -drop - drum * 0.35), (left + drum * 0.4, -drop - drum * 1.2), "load", sheet.load_kg, "kg"
    )
    drawing.measure((-drum / 2, outer), (drum / 2, outer), "drum", sheet.drum_diameter_mm, 0.08)
    drawing.turn((0, 0), drum * 0.3, clockwise=False)
    return drawing


HOIST = NeedKind(
    kind="hoist",
    title="Hoist or winch",
    group="Lifting and moving",
    question="What does it lift?",
    model=HoistSheet,
    work=work,
    sketch=sketch,
    say=say,
    last_shaft="Drum",
    duty="hoist or winch",
    caution="Never lift people, never lift over people. A brake independent of the gears holds the load: a worm "
    "that locks at rest can creep "
    "or let go under vibration. Lifting gear is subject to local code and to inspection.",
    advice="The top layer decides torque, the bottom layer speed.",
    rules=(BRAKE, DRUM_SIZE, NO_PEOPLE),
    held=lambda sheet: sheet.load_holding == "brake",
    pull_per_metre=pull_per_metre,
    words="winch crane lift rope engine hoist",
    starter={
        "load_kg": 200,
        "falls": 2,
        "drum_diameter_mm": 140,
        "rope_diameter_mm": 6,
        "lift_m_s": 0.12,
        "load_holding": "brake",
    },
)
