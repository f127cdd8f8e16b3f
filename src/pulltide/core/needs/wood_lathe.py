"""Wood lathe spindle, cut by hand tools."""

from __future__ import annotations

from collections.abc import Iterator
from math import pi
from typing import Literal

from pydantic import Field

from pulltide.core.findings import COMMON_PRACTICE, Check, Finding, Severity, judge
from pulltide.core.labels import quantity
from pulltide.core.model import Mm, Newton
from pulltide.core.needs.contract import (
    Built,
    Corner,
    NeedKind,
    Outcome,
    Saying,
    SpeedBand,
    Worksheet,
    known,
    table_source,
)
from pulltide.core.needs.cutting import cutting_speed_band, series
from pulltide.core.sketch import Sketch
from pulltide.core.units import MM_PER_IN, NM_RPM_PER_KW, rim_speed_m_per_s

#: Speed times diameter in inches that an unbalanced blank may reach. Common practice, no source.
ROUGH_RPM_IN, FINISH_RPM_IN = 6000.0, 9000.0


class WoodLatheSheet(Worksheet):
    """Chip force at the rim, a series of speeds, and what a blank allows."""

    ORDER = (("min_blank_mm", "max_blank_mm"),)

    kind: Literal["wood_lathe"] = "wood_lathe"
    swing_mm: Mm | None = Field(None, title="Swing", ge=20, le=2000, description="largest diameter over the bed")
    min_blank_mm: Mm | None = Field(None, title="Smallest usual blank", ge=3, le=1500)
    max_blank_mm: Mm | None = Field(None, title="Largest usual blank", ge=3, le=2000)
    chip_force_n: Newton | None = Field(
        None, title="Chip force when roughing", ge=1, le=2000, description="one hand tool takes about {60|N}"
    )
    at_diameter_mm: Mm = Field(100.0, title="On a blank of", ge=5, le=1500)
    speeds: int = Field(4, title="Speeds wanted", ge=1, le=12)


BLANK = Check(
    code="need.wood_lathe.blank",
    severity=Severity.WARNING,
    quantity="blank allowed at the slowest speed",
    relation=">=",
    unit="mm",
    fact="At its slowest speed the lathe is too fast for the largest unbalanced blank",
    clear="The slowest speed suits the largest blank",
    base="largest blank",
    advice="Add a slower speed, or keep large blanks off until they are trued up.",
)
SPAN = Check(
    code="need.wood_lathe.span",
    severity=Severity.NOTE,
    quantity="ratio from one speed to the next",
    limits=(2.0,),
    fact="Speed steps this wide lose a lot of cutting speed in between",
    clear="The speed steps are close enough",
    advice="Add a speed.",
)


def work(sheet: WoodLatheSheet, corner: Corner) -> Outcome:
    """Torque of the chip on the usual blank, at one rim speed for all: so it falls as the speed rises."""
    out = Outcome(load_exponent=-1.0)
    with out.working("speed"):
        small, large = known(sheet.min_blank_mm, sheet.max_blank_mm)
        rough = cutting_speed_band("turn by hand tool", "wood roughing") or (180.0, 300.0, 480.0)
        finish = cutting_speed_band("turn by hand tool", "wood finishing") or (300.0, 480.0, 720.0)
        slow, fast = 1000 * rough[0] / (pi * large), 1000 * finish[2] / (pi * small)
        usual = min(max(1000 * finish[1] / (pi * sheet.at_diameter_mm), slow), fast)
        out.step(
            "Roughing the largest",
            "n = 60000 v / (π d)",
            slow,
            "rpm",
            table_source("cutting_speeds"),
            v=rough[0] / 60,
            d=large,
        )
        out.step(
            "The usual blank at finishing speed, within the band",
            "n = 60000 v / (π d)",
            usual,
            "rpm",
            table_source("cutting_speeds"),
            v=finish[1] / 60,
            d=sheet.at_diameter_mm,
        )
        out.speeds = SpeedBand(
            slow, usual, fast, "{3|m/s} roughing the largest to {12|m/s} finishing the smallest blank"
        )
    low, high = sheet.speed_min_rpm or out.speeds.min_rpm, sheet.speed_max_rpm or out.speeds.max_rpm
    with out.working("running"):
        (chip,) = known(sheet.chip_force_n)
        force = {"low": 0.5, "typical": 1.0, "high": 2.0}[corner] * chip
        out.running_nm = out.step(
            "Chip at the rim",
            "T = F d / 2000",
            force * sheet.at_diameter_mm / 2000,
            "N*m",
            COMMON_PRACTICE,
            F=force,
            d=sheet.at_diameter_mm,
        )
    out.times("peak", "A dig-in", 2.5)
    if low and high and high > low:
        _speeds(sheet, out, low, high)
    return out


def _speeds(sheet: WoodLatheSheet, out: Outcome, low: float, high: float) -> None:
    speeds = series(low, high, sheet.speeds)
    if sheet.speeds > 1:
        out.say("step", "Step from speed to speed", speeds[1] / speeds[0], "")
        out.findings.append(judge(SPAN, "need", speeds[1] / speeds[0]))
    for number, speed in enumerate(speeds, start=1):
        out.say(f"speed_{number}", f"Speed {number}", speed, "rpm")
        if out.running_nm:
            out.say(f"power_{number}", f"Cutting power at speed {number}", out.running_nm * speed / NM_RPM_PER_KW, "kW")
    out.findings.extend(_blank(sheet, low))


def _blank(sheet: WoodLatheSheet, slowest_rpm: float) -> Iterator[Finding]:
    """Whether the largest blank may be roughed at the slowest speed."""
    largest = sheet.swing_mm or sheet.max_blank_mm
    if largest:
        yield judge(BLANK, "need", ROUGH_RPM_IN / slowest_rpm * MM_PER_IN, largest)


def judge_built(sheet: WoodLatheSheet, built: Built) -> Iterator[Finding]:
    """The largest blank at the slowest speed the plan has."""
    return _blank(sheet, built.slowest_rpm)


def say(sheet: WoodLatheSheet, speed_rpm: float) -> tuple[Saying, ...]:
    """Rim speed on the chip's blank, and the largest unbalanced blank at this speed."""
    return (
        Saying(
            "blank",
            f"on a {quantity(sheet.at_diameter_mm, 'mm')} blank",
            rim_speed_m_per_s(sheet.at_diameter_mm, speed_rpm),
            "m/s",
        ),
        Saying("largest_rough_blank", "largest rough blank", ROUGH_RPM_IN / speed_rpm * MM_PER_IN, "mm"),
    )


def sketch(sheet: WoodLatheSheet) -> Sketch:
    """Headstock, blank and bed from the front."""
    swing = sheet.swing_mm or (sheet.max_blank_mm or 280.0) * 1.05
    blank = sheet.at_diameter_mm
    long = swing * 1.6
    drawing = Sketch("Headstock, blank and bed")
    low = -swing / 2
    drawing.box(-swing * 0.75, low, swing * 0.6, swing * 0.72)
    drawing.box(-swing * 0.75, low - swing * 0.25, long + swing * 1.1, swing * 0.25)
    drawing.box(-swing * 0.15, -swing * 0.05, swing * 0.15, swing * 0.1)
    drawing.box(0, -blank / 2, long, blank, "charge")
    drawing.line((0, -swing / 2 + 0.02 * swing), (long, -swing / 2 + 0.02 * swing), role="hidden")
    drawing.line((0, swing / 2), (long, swing / 2), role="hidden")
    drawing.area(((long, 0), (long + swing * 0.2, swing * 0.08), (long + swing * 0.2, -swing * 0.08)))
    drawing.measure((long * 0.5, -blank / 2), (long * 0.5, blank / 2), "blank", sheet.at_diameter_mm, 0.0)
    drawing.measure((long * 0.92, swing / 2), (long * 0.92, -swing / 2), "swing", sheet.swing_mm, 0.0)
    drawing.arrow((long * 0.25, blank / 2 + swing * 0.3), (long * 0.25, blank / 2), "chip", sheet.chip_force_n)
    return drawing


WOOD_LATHE = NeedKind(
    kind="wood_lathe",
    title="Wood lathe",
    group="Cutting",
    question="What blanks does it turn?",
    model=WoodLatheSheet,
    work=work,
    sketch=sketch,
    say=say,
    last_shaft="Spindle",
    duty="lathe main drive",
    caution="An unbalanced blank flies. Keep speed times diameter in inches under 6000 until it is true, wear a "
    "face shield.",
    advice="Bench lathes carry {0.4|kW} to {0.8|kW} for {300|mm} of swing.",
    rules=(BLANK, SPAN),
    judge_built=judge_built,
    words="bowl turning wood lathe",
    starter={"swing_mm": 300, "min_blank_mm": 40, "max_blank_mm": 280, "chip_force_n": 60},
)
