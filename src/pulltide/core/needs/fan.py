"""Fan or blower."""

from __future__ import annotations

from collections.abc import Iterator
from math import pi
from typing import Literal

from pydantic import Field

from pulltide.core.findings import EXACT, Check, Finding, Severity, Source, judge
from pulltide.core.model import Kpa, M3PerH, Mm, Plain, Rpm
from pulltide.core.needs.contract import (
    Built,
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
from pulltide.core.units import rim_speed_m_per_s


class FanSheet(Worksheet):
    """Flow times pressure over efficiency; power grows with the cube of speed."""

    ORDER = (("at_rpm", "max_rpm"),)

    kind: Literal["fan"] = "fan"
    flow_m3_h: M3PerH | None = Field(None, title="Flow", gt=0, le=200_000)
    pressure_kpa: Kpa | None = Field(
        None, title="Pressure, total", gt=0, le=50, description="1 inch of water is {0.249|kPa}"
    )
    efficiency: Plain = Field(
        0.5, title="Fan efficiency", ge=0.1, le=0.9, description="small fans 0.4 to 0.65, common practice"
    )
    at_rpm: Rpm | None = Field(
        None, title="Speed for that flow", gt=0, le=20_000, description="from its chart or plate"
    )
    max_rpm: Rpm | None = Field(None, title="Fastest the wheel is rated for", gt=0, le=20_000)
    wheel_diameter_mm: Mm | None = Field(None, title="Wheel diameter", ge=30, le=3000)


WHEEL = Check(
    code="need.fan.wheel_speed",
    severity=Severity.ERROR,
    quantity="fastest speed of the wheel",
    unit="rpm",
    fact="The wheel would run over its rated speed and can burst",
    clear="The wheel stays within its rated speed",
    base="rated speed of the wheel",
    advice="Raise the ratio.",
    source=Source("fan plate", "rated speed of the wheel", "entered"),
)


def judge_built(sheet: FanSheet, built: Built) -> Iterator[Finding]:
    """The wheel at the fastest speed the plan gives it."""
    if sheet.max_rpm is not None:
        yield judge(WHEEL, "need", built.fastest_rpm, sheet.max_rpm)


def work(sheet: FanSheet, corner: Corner) -> Outcome:
    """Torque at the speed of the flow; it falls and rises with the square of speed."""
    out = Outcome(load_exponent=2.0)
    with out.working("speed"):
        (speed,) = known(sheet.at_rpm)
        out.step("Speed for the flow", "n = as entered", speed, "rpm", EXACT)
        top = min(1.03 * speed, sheet.max_rpm or 1.03 * speed)
        out.speeds = SpeedBand(
            0.95 * speed,
            min(speed, top),
            top,
            "5 % fast takes 16 % more power: the upper end is hard",
            sheet.max_rpm is not None and sheet.max_rpm <= 1.03 * speed,
        )
        if sheet.max_rpm is not None:
            out.findings.append(judge(WHEEL, "need", speed, sheet.max_rpm))
    with out.working("running"):
        flow, pressure, speed = known(sheet.flow_m3_h, sheet.pressure_kpa, sheet.at_rpm)
        efficiency = min(sheet.efficiency * {"low": 1.3, "typical": 1.0, "high": 0.8}[corner], 0.95)
        power = out.step(
            "Power at the fan",
            "P = Q Δp / (3600 η)",
            flow * pressure / 3600 / efficiency,
            "kW",
            EXACT,
            Q=flow,
            Δp=pressure,
            η=efficiency,
        )
        out.say("power_at_the_fan", "Power at the fan", power, "kW")
        out.running_nm = torque_from_power_nm(out, power, speed)
    out.times("peak", "Damper open, cold air", 1.2)
    out.times("breakaway", "From rest", 0.3)
    return out


def say(sheet: FanSheet, speed_rpm: float) -> tuple[Saying, ...]:
    """Flow and power as shares of what was asked."""
    words: tuple[Saying, ...] = ()
    if sheet.at_rpm is not None:
        ratio = speed_rpm / sheet.at_rpm
        words = (
            Saying("flow_share", "of the flow", ratio, "share"),
            Saying("power_share", "of the power", ratio**3, "share"),
        )
    if sheet.wheel_diameter_mm is not None:
        words += (Saying("tips", "at the tips", rim_speed_m_per_s(sheet.wheel_diameter_mm, speed_rpm), "m/s"),)
    return words


def sketch(sheet: FanSheet) -> Sketch:
    """The wheel in its scroll."""
    wheel = sheet.wheel_diameter_mm or 400.0
    radius = wheel / 2
    drawing = Sketch("The wheel in its scroll")
    spiral = [
        (radius * (1.12 + 0.5 * k / 36) * p[0], radius * (1.12 + 0.5 * k / 36) * p[1])
        for k, p in enumerate(arc((0, 0), 1.0, 0.0, 1.75 * pi))
    ]
    drawing.line(*spiral, (radius * 1.9, spiral[-1][1]), role="part")
    drawing.line((radius * 1.12, 0), (radius * 1.9, 0))
    drawing.circle((0, 0), radius, "motion")
    for k in range(12):
        angle = k * pi / 6
        inner, outer = (
            arc((0, 0), radius * 0.55, angle, angle + 0.01)[0],
            arc((0, 0), radius * 0.97, angle - 0.25, angle)[0],
        )
        drawing.line(inner, outer, role="thin")
    drawing.turn((0, 0), radius * 0.4, clockwise=False)
    drawing.measure((-radius, radius * 1.5), (radius, radius * 1.5), "wheel", sheet.wheel_diameter_mm, 0.05)
    drawing.arrow((radius * 1.35, -radius * 0.62), (radius * 2.4, -radius * 0.62), "flow", sheet.flow_m3_h, "m**3/h")
    return drawing


FAN = NeedKind(
    kind="fan",
    title="Fan",
    group="Air and water",
    question="What does the fan move?",
    model=FanSheet,
    work=work,
    sketch=sketch,
    say=say,
    last_shaft="Fan shaft",
    duty="fan or centrifugal pump",
    caution="Never run a fan wheel past the speed it is rated for. Guard the inlet as well as the belt.",
    advice="Choose the nearest slower ratio: power goes with the cube of speed.",
    rules=(WHEEL,),
    judge_built=judge_built,
    words="blower forge bellows extractor dust air",
    starter={"flow_m3_h": 3000, "pressure_kpa": 0.5, "at_rpm": 1400, "wheel_diameter_mm": 400},
)
