"""Mortar, dough and concrete mixers by the power that like machines are built with."""

from __future__ import annotations

from math import pi
from typing import Literal

from pydantic import Field

from pulltide.core.labels import quantity
from pulltide.core.model import Kg, Mm, Plain
from pulltide.core.needs.contract import (
    Corner,
    NeedKind,
    Outcome,
    Saying,
    SpeedBand,
    Worksheet,
    known,
    pick,
    speed_at_rim,
    table_rows,
    table_source,
    torque_from_power_nm,
)
from pulltide.core.sketch import Sketch, arc
from pulltide.core.units import rim_speed_m_per_s

MixerName = Literal[
    "concrete_drum", "mortar_trough_mixer", "concrete_pan_mixer", "sand_muller", "dough_mixer", "kitchen_mixer"
]
TIP_SPEEDS = {
    "concrete_drum": (0.6, 0.8, 1.0),
    "mortar_trough_mixer": (1.0, 1.25, 1.5),
    "concrete_pan_mixer": (1.5, 2.0, 2.5),
    "sand_muller": (1.0, 1.5, 2.0),
    "dough_mixer": (0.8, 1.1, 1.5),
    "kitchen_mixer": (0.8, 1.1, 1.5),
}


class BatchMixerSheet(Worksheet):
    """Installed power per kilogram of batch."""

    kind: Literal["batch_mixer"] = "batch_mixer"
    mixer: MixerName = Field("mortar_trough_mixer", title="Mixer")
    batch_kg: Kg | None = Field(None, title="Batch", gt=0, le=5000, description="full load, wet")
    tip_diameter_mm: Mm | None = Field(None, title="Circle of the tips", ge=50, le=4000)
    drive_efficiency: Plain = Field(
        0.85, title="Drive of like machines", ge=0.4, le=1, description="their power is the motor’s; common practice"
    )


def work(sheet: BatchMixerSheet, corner: Corner) -> Outcome:
    """Power by batch, torque at the tip speed that suits the mixer."""
    out = Outcome()
    band = TIP_SPEEDS[sheet.mixer]
    with out.working("speed"):
        (circle,) = known(sheet.tip_diameter_mm)
        low, ideal, high = speed_at_rim(out, band, circle)
        out.speeds = SpeedBand(low, ideal, high, f"tip speed {quantity(band[0], 'm/s')} to {quantity(band[2], 'm/s')}")
    with out.working("running"):
        (batch,) = known(sheet.batch_kg)
        row = table_rows("specific_power_mixers", "mixer")[sheet.mixer]
        specific = pick(tuple(float(row[f"installed_W_per_kg_{end}"]) for end in ("low", "typical", "high")), corner)  # type: ignore[arg-type]
        power = out.step(
            "Power at the mixer",
            "P = w m η / 1000",
            specific * batch * sheet.drive_efficiency / 1000,
            "kW",
            table_source("specific_power_mixers"),
            w=specific,
            m=batch,
            η=sheet.drive_efficiency,
        )
        out.say("power_at_the_mixer", "Power at the mixer", power, "kW")
        (speed,) = known(sheet.speed_ideal_rpm or out.speeds.ideal_rpm)
        out.running_nm = torque_from_power_nm(out, power, speed)
    out.times("peak", "Dry or over-kneaded batch", 2)
    out.times("breakaway", "Restart in a settled batch", 2.5)
    return out


def say(sheet: BatchMixerSheet, speed_rpm: float) -> tuple[Saying, ...]:
    """Tip speed."""
    return (
        ()
        if sheet.tip_diameter_mm is None
        else (Saying("tips", "at the tips", rim_speed_m_per_s(sheet.tip_diameter_mm, speed_rpm), "m/s"),)
    )


def sketch(sheet: BatchMixerSheet) -> Sketch:
    """A trough with its paddle shaft, end on."""
    radius = (sheet.tip_diameter_mm or 500.0) / 2
    drawing = Sketch("A trough with its paddles, seen from the end")
    drawing.area([*arc((0, 0), radius * 1.08, pi, 2 * pi)], "charge")
    drawing.line((-radius * 1.08, radius * 0.7), *arc((0, 0), radius * 1.08, pi, 2 * pi), (radius * 1.08, radius * 0.7))
    drawing.circle((0, 0), radius, "hidden")
    drawing.circle((0, 0), radius * 0.12)
    for k in range(3):
        angle = pi / 2 + k * 2 * pi / 3
        end = arc((0, 0), radius * 0.97, angle, angle + 0.01)[0]
        drawing.line((0, 0), end, role="motion")
    drawing.turn((0, 0), radius * 0.5)
    drawing.measure((-radius, radius * 0.85), (radius, radius * 0.85), "tips", sheet.tip_diameter_mm, 0.0)
    return drawing


BATCH_MIXER = NeedKind(
    kind="batch_mixer",
    title="Mortar, dough or concrete mixer",
    group="Mixing and tumbling",
    question="What does the mixer hold?",
    model=BatchMixerSheet,
    work=work,
    sketch=sketch,
    say=say,
    last_shaft="Mixer shaft",
    duty="mortar or pan mixer",
    caution="A mixer catches hands and tools. Interlock the lid or grid; a set batch is dug out, not powered through.",
    advice="A rule of thumb from like machines, good to half or twice. A measured pull on the loaded mixer is surer.",
    words="cement concrete mortar dough plaster paint mixer",
    starter={"batch_kg": 90, "tip_diameter_mm": 500},
)
