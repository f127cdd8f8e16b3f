"""Grinding wheel."""

from __future__ import annotations

from collections.abc import Iterator
from math import pi
from typing import Literal

from pydantic import Field

from pulltide.core.findings import COMMON_PRACTICE, Check, Finding, Remark, Severity, Source, judge, state
from pulltide.core.labels import quantity
from pulltide.core.model import Mm, MPerS
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
from pulltide.core.sketch import Sketch
from pulltide.core.units import rim_speed_m_per_s

WHEELS = Source("ANSI B7.1", "rim speed limits by wheel type", "quoted from memory")


class GrinderSheet(Worksheet):
    """A wheel under its marked rim speed."""

    kind: Literal["grinder"] = "grinder"
    wheel_diameter_mm: Mm | None = Field(None, title="Wheel diameter", ge=20, le=1000)
    wheel_width_mm: Mm | None = Field(None, title="Wheel width", ge=2, le=200)
    marked_speed_m_s: MPerS | None = Field(
        None, title="Rim speed marked on the wheel", ge=5, le=125, description="vitrified bench wheels {33|m/s}"
    )


#: What a bench wheel without a marked speed is taken to stand [m/s].
BENCH_M_S = 33.0

RIM = Check(
    code="need.grinder.rim",
    severity=Severity.ERROR,
    quantity="rim speed at the fastest useful speed",
    unit="m/s",
    fact="The wheel would run over its marked speed and can burst",
    clear="The wheel stays under the speed it is checked for",
    base="marked speed of the wheel; a bench wheel's usual one where none is marked",
    advice="Slow the spindle or use a wheel marked for the speed.",
    source=WHEELS,
)
UNMARKED = Remark(
    code="need.grinder.unmarked",
    severity=Severity.WARNING,
    quantity="checked as",
    unit="m/s",
    fact="The wheel’s marked speed is not entered",
    advice="Read it off the wheel; never run a wheel without a marked speed.",
    curable=False,
)


def judge_built(sheet: GrinderSheet, built: Built) -> Iterator[Finding]:
    """The rim at the fastest speed the plan gives it."""
    if sheet.wheel_diameter_mm is not None:
        rim = rim_speed_m_per_s(sheet.wheel_diameter_mm, built.fastest_rpm)
        yield judge(RIM, "need", rim, (sheet.marked_speed_m_s or BENCH_M_S) * 1.000001)


def work(sheet: GrinderSheet, corner: Corner) -> Outcome:
    """Speed from the rim, power from the width of the wheel."""
    out = Outcome()
    marked = sheet.marked_speed_m_s or BENCH_M_S
    with out.working("speed"):
        (diameter,) = known(sheet.wheel_diameter_mm)
        top = 60_000 * marked / (pi * diameter)
        out.step("Fastest at the marked speed", "n = 60000 v / (π D)", top, "rpm", WHEELS, v=marked, D=diameter)
        ideal = out.step("A little under it", "n = 0.85 n_top", 0.85 * top, "rpm", COMMON_PRACTICE, n_top=top)
        out.speeds = SpeedBand(0.6 * top, ideal, top, f"under {quantity(marked, 'm/s')} at the rim", True)
        fastest = sheet.speed_max_rpm or sheet.speed_ideal_rpm or top
        out.findings.append(judge(RIM, "need", rim_speed_m_per_s(diameter, fastest), marked * 1.000001))
        if sheet.marked_speed_m_s is None:
            out.findings.append(state(UNMARKED, "need", BENCH_M_S))
    with out.working("running"):
        width, diameter, speed = known(
            sheet.wheel_width_mm, sheet.wheel_diameter_mm, sheet.speed_ideal_rpm or out.speeds.ideal_rpm
        )
        share = {"low": 0.5, "typical": 1.0, "high": 1.4}[corner]
        power = out.step(
            "Power by width",
            "P = 0.75 (b / 25) (D / 200) k",
            0.75 * width / 25 * diameter / 200 * share,
            "kW",
            COMMON_PRACTICE,
            b=width,
            D=diameter,
            k=share,
        )
        out.say("power_at_the_wheel", "Power at the wheel", power, "kW")
        out.running_nm = torque_from_power_nm(out, power, speed)
    out.times("peak", "Work pressed on", 2)
    return out


def say(sheet: GrinderSheet, speed_rpm: float) -> tuple[Saying, ...]:
    """Rim speed."""
    if sheet.wheel_diameter_mm is None:
        return ()
    return (Saying("rim", "at the rim", rim_speed_m_per_s(sheet.wheel_diameter_mm, speed_rpm), "m/s"),)


def sketch(sheet: GrinderSheet) -> Sketch:
    """The wheel from its side and its edge."""
    diameter = sheet.wheel_diameter_mm or 200.0
    radius, width = diameter / 2, sheet.wheel_width_mm or diameter * 0.12
    drawing = Sketch("The wheel from its side and from its edge, with its rest")
    drawing.circle((0, 0), radius, "charge")
    drawing.circle((0, 0), radius)
    drawing.circle((0, 0), radius * 0.28)
    drawing.box(-radius * 1.6, -radius * 0.12, radius * 0.58, radius * 0.12)
    left = radius * 1.35
    drawing.box(left, -radius, width, diameter, "charge")
    drawing.line((left - width * 0.8, 0), (left + width * 2, 0))
    drawing.turn((0, 0), radius * 0.62, clockwise=False)
    drawing.measure((-radius, radius), (radius, radius), "wheel", sheet.wheel_diameter_mm, 0.08)
    drawing.measure((left, -radius), (left + width, -radius), "width", sheet.wheel_width_mm, -0.08)
    return drawing


GRINDER = NeedKind(
    kind="grinder",
    title="Grinding wheel",
    group="Cutting",
    question="What wheel does it carry?",
    model=GrinderSheet,
    work=work,
    sketch=sketch,
    say=say,
    last_shaft="Wheel spindle",
    duty="grinder or belt grinder",
    caution="A wheel past its marked speed bursts. Ring-test it, guard it, set the rest within {3|mm}, stand "
    "aside at start.",
    advice="",
    rules=(RIM, UNMARKED),
    judge_built=judge_built,
    words="bench grinder stone sharpening wheel knife",
    starter={"wheel_diameter_mm": 200, "wheel_width_mm": 25, "marked_speed_m_s": 33},
)
