"""Centrifugal pump."""

from __future__ import annotations

from math import pi
from typing import Literal

from pydantic import Field

from pulltide.core.findings import EXACT
from pulltide.core.model import M3PerH, Mm, Plain, Rpm
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
from pulltide.core.sketch import Sketch, arc
from pulltide.core.units import G_M_PER_S2


class PumpSheet(Worksheet):
    """Flow times head over efficiency; power grows with the cube of speed."""

    ORDER = (("at_rpm", "max_rpm"),)

    kind: Literal["pump"] = "pump"
    flow_m3_h: M3PerH | None = Field(None, title="Flow", gt=0, le=5000)
    head_mm: Mm | None = Field(None, title="Head, with pipe losses", gt=0, le=300_000, description="write 15 m")
    specific_gravity: Plain = Field(1.0, title="Specific gravity", ge=0.5, le=3)
    efficiency: Plain = Field(
        0.6, title="Pump efficiency", ge=0.1, le=0.9, description="small pumps 0.45 to 0.75, common practice"
    )
    at_rpm: Rpm | None = Field(
        None, title="Speed for that flow", gt=0, le=10_000, description="from its chart or plate"
    )
    max_rpm: Rpm | None = Field(None, title="Fastest the pump is rated for", gt=0, le=10_000)


def work(sheet: PumpSheet, corner: Corner) -> Outcome:
    """Torque at the speed of the flow."""
    out = Outcome(load_exponent=2.0)
    with out.working("speed"):
        (speed,) = known(sheet.at_rpm)
        out.step("Speed for the flow", "n = as entered", speed, "rpm", EXACT)
        top = min(1.03 * speed, sheet.max_rpm or 1.03 * speed)
        out.speeds = SpeedBand(
            0.95 * speed, min(speed, top), top, "5 % fast takes 16 % more power: the upper end is hard"
        )
    with out.working("running"):
        flow, head, speed = known(sheet.flow_m3_h, sheet.head_mm, sheet.at_rpm)
        efficiency = min(sheet.efficiency * {"low": 1.2, "typical": 1.0, "high": 0.8}[corner], 0.92)
        power = out.step(
            "Power at the pump",
            "P = Q H g SG / (3600 η)",
            flow * head / 1000 * sheet.specific_gravity * G_M_PER_S2 / 3600 / efficiency,
            "kW",
            EXACT,
            Q=flow,
            H=head / 1000,
            g=G_M_PER_S2,
            SG=sheet.specific_gravity,
            η=efficiency,
        )
        out.say("power_at_the_pump", "Power at the pump", power, "kW")
        out.running_nm = torque_from_power_nm(out, power, speed)
    out.times("peak", "Open outlet", 1.3)
    out.times("breakaway", "From rest, packing tight", 0.3)
    return out


def say(sheet: PumpSheet, speed_rpm: float) -> tuple[Saying, ...]:
    """Flow, head and power as shares of what was asked."""
    if sheet.at_rpm is None:
        return ()
    ratio = speed_rpm / sheet.at_rpm
    return (
        Saying("flow_share", "of the flow", ratio, "share"),
        Saying("head_share", "of the head", ratio**2, "share"),
        Saying("power_share", "of the power", ratio**3, "share"),
    )


def sketch(sheet: PumpSheet) -> Sketch:
    """Pump, sump and the height it lifts; not to scale, as the pump is small beside its lift."""
    head = 1000.0
    drawing = Sketch("Pump and lift, not to scale")
    drawing.box(-900, -350, 700, 300, "charge")
    drawing.box(500, head - 250, 600, 250, "charge")
    drawing.line((-550, -200), (-550, 0), (-160, 0), role="part")
    drawing.line((0, 160), (0, head + 120), (650, head + 120), (650, head), role="part")
    drawing.circle((0, 0), 160)
    drawing.line(*arc((0, 0), 90, 0, pi), role="thin")
    drawing.measure((1250, head), (1250, -50), "head", sheet.head_mm, 0.04)
    drawing.arrow((80, 300), (80, 800), "flow", sheet.flow_m3_h, "m**3/h")
    drawing.turn((0, 0), 110)
    return drawing


PUMP = NeedKind(
    kind="pump",
    title="Pump",
    group="Air and water",
    question="What does the pump lift?",
    model=PumpSheet,
    work=work,
    sketch=sketch,
    say=say,
    last_shaft="Pump shaft",
    duty="fan or centrifugal pump",
    caution="Never run a pump dry or past its rated speed.",
    advice="Choose the nearest slower ratio: power goes with the cube of speed.",
    words="piston centrifugal water irrigation well",
    starter={"flow_m3_h": 20, "head_mm": 15000, "at_rpm": 1450},
)
