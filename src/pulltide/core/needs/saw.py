"""Band saw or circular saw."""

from __future__ import annotations

from collections.abc import Iterator
from math import pi
from typing import Literal

from pydantic import Field

from pulltide.core.findings import COMMON_PRACTICE, Check, Finding, Severity, judge, judge_two
from pulltide.core.labels import choice, quantity
from pulltide.core.model import Mm, Mpa, MPerMin
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
    torque_from_power_nm,
)
from pulltide.core.needs.cutting import cutting_speed_band
from pulltide.core.sketch import Sketch
from pulltide.core.units import rim_speed_m_per_s

ROWS = {
    "band_saw_wood": ("band saw", "wood"),
    "band_saw_mild_steel": ("band saw bi-metal", "mild steel"),
    "band_saw_tool_steel": ("band saw bi-metal", "tool steel"),
    "band_saw_stainless": ("band saw bi-metal", "stainless 18-8"),
    "band_saw_aluminum": ("band saw bi-metal", "aluminum"),
    "circular_saw_wood": ("circular saw carbide", "wood"),
    "cold_saw_mild_steel": ("cold saw HSS", "mild steel"),
}
#: Cast-iron wheels and pulleys stay under this rim speed unless rated [m/s]. Common practice, no source.
CAST_RIM_M_S = 30.0


class SawSheet(Worksheet):
    """Blade speed and the power of the kerf."""

    BANDS = {"cutting_force_mpa": (20.0, 40.0, 60.0)}

    kind: Literal["saw"] = "saw"
    use: Literal[
        "band_saw_wood", "band_saw_mild_steel", "band_saw_tool_steel", "band_saw_stainless", "band_saw_aluminum",
        "circular_saw_wood", "cold_saw_mild_steel",
    ] = Field("band_saw_wood", title="Saw and stock")  # fmt: skip
    wheel_diameter_mm: Mm | None = Field(None, title="Wheel or blade diameter", ge=50, le=2000)
    band_thickness_mm: Mm | None = Field(None, title="Band thickness", ge=0.2, le=3)
    kerf_mm: Mm | None = Field(None, title="Kerf", ge=0.3, le=10)
    depth_mm: Mm | None = Field(None, title="Depth of cut", ge=1, le=1000)
    feed_m_min: MPerMin | None = Field(None, title="Feed", gt=0, le=60)
    cutting_force_mpa: Mpa = Field(
        40.0,
        title="Cutting force on the chip",
        ge=5,
        le=4000,
        description="wood 20 to 60 N/mm² with side friction; steel 2500",
    )


BEND = Check(
    code="need.saw.bend",
    severity=Severity.WARNING,
    quantity="wheel diameter",
    relation=">=",
    unit="mm",
    fact="The wheel is too small for this band thickness",
    clear="The wheel is large enough for the band",
    limits=(1000.0, 600.0),
    base="thickness of the band",
    advice="Use a thinner band or larger wheels.",
)
RIM = Check(
    code="need.saw.rim",
    severity=Severity.WARNING,
    quantity="rim speed",
    unit="m/s",
    limits=(CAST_RIM_M_S,),
    fact="Rim speed is over the usual limit for cast iron",
    clear="Rim speed is moderate",
    advice="Use wheels rated for the speed.",
)


def judge_built(sheet: SawSheet, built: Built) -> Iterator[Finding]:
    """Rim speed of a band wheel at the fastest speed the plan gives it."""
    if sheet.use.startswith("band_saw") and sheet.wheel_diameter_mm is not None:
        yield judge(RIM, "need", rim_speed_m_per_s(sheet.wheel_diameter_mm, built.fastest_rpm))


def work(sheet: SawSheet, corner: Corner) -> Outcome:
    """Power of the chips over blade speed."""
    out = Outcome()
    with out.working("speed"):
        (wheel,) = known(sheet.wheel_diameter_mm)
        band = cutting_speed_band(*ROWS[sheet.use]) or (720.0, 1200.0, 1560.0)
        low, ideal, high = (1000 * v / (pi * wheel) for v in band)
        out.step(
            "Blade speed wanted",
            "n = 60000 v / (π D)",
            ideal,
            "rpm",
            table_source("cutting_speeds"),
            v=band[1] / 60,
            D=wheel,
        )
        out.speeds = SpeedBand(
            low, ideal, high, f"{choice(sheet.use)}: {quantity(band[0] / 60, 'm/s')} to {quantity(band[2] / 60, 'm/s')}"
        )
        if sheet.use.startswith("band_saw"):
            out.findings.append(judge(RIM, "need", rim_speed_m_per_s(wheel, sheet.speed_ideal_rpm or ideal)))
            if sheet.band_thickness_mm:
                out.findings.append(judge_two(BEND, "need", wheel, of=sheet.band_thickness_mm))
    with out.working("running"):
        kerf, depth, feed, speed = known(
            sheet.kerf_mm, sheet.depth_mm, sheet.feed_m_min, sheet.speed_ideal_rpm or out.speeds.ideal_rpm
        )
        force = sheet.at("cutting_force_mpa", corner)
        power = out.step(
            "Power of the chips",
            "P = k_s b h v_f / 60000",
            force * kerf * depth * feed / 60_000,
            "kW",
            COMMON_PRACTICE,
            k_s=force,
            b=kerf,
            h=depth,
            v_f=feed,
        )
        out.say("power_at_the_blade", "Power at the blade", power, "kW")
        out.running_nm = torque_from_power_nm(out, power, speed)
    out.times("peak", "A jam", 2.5)
    return out


def say(sheet: SawSheet, speed_rpm: float) -> tuple[Saying, ...]:
    """Blade speed."""
    if sheet.wheel_diameter_mm is None:
        return ()
    return (Saying("blade", "blade", rim_speed_m_per_s(sheet.wheel_diameter_mm, speed_rpm), "m/s"),)


def sketch(sheet: SawSheet) -> Sketch:
    """Wheels and band, or the blade, in the stock."""
    wheel = sheet.wheel_diameter_mm or 400.0
    radius, depth = wheel / 2, sheet.depth_mm or wheel * 0.3
    if sheet.use.startswith("band_saw"):
        drawing = Sketch("Wheels, band and stock")
        gap = wheel * 1.5 + min(depth, 1.5 * wheel)
        for y in (0.0, gap):
            drawing.circle((0, y), radius)
        for x in (-radius, radius):
            drawing.line((x, 0), (x, gap), role="motion")
        stock = min(depth, 1.4 * wheel)
        drawing.box(-radius - wheel * 0.35, gap / 2 - stock / 2, wheel * 0.7, stock, "charge")
        drawing.measure(
            (-radius - wheel * 0.35, gap / 2 - stock / 2),
            (-radius - wheel * 0.35, gap / 2 + stock / 2),
            "depth",
            sheet.depth_mm,
            0.06,
        )
        drawing.measure((-radius, 0), (radius, 0), "wheel", sheet.wheel_diameter_mm, 0.0)
        drawing.turn((0, gap), radius * 0.6, clockwise=False)
        return drawing
    drawing = Sketch("The blade through the table")
    stock = min(depth, radius * 0.8)
    drawing.circle((0, 0), radius, "motion")
    drawing.circle((0, 0), radius * 0.12)
    drawing.box(-wheel * 0.9, radius - stock, wheel * 1.8, stock, "charge")
    drawing.line((-wheel, radius - stock), (wheel, radius - stock), role="ground")
    drawing.measure((-wheel * 0.9, radius - stock), (-wheel * 0.9, radius), "depth", sheet.depth_mm, 0.05)
    drawing.measure((-radius, 0), (radius, 0), "blade", sheet.wheel_diameter_mm, -0.12)
    drawing.turn((0, 0), radius * 0.5, clockwise=False)
    return drawing


SAW = NeedKind(
    kind="saw",
    title="Saw",
    group="Cutting",
    question="What does the blade cut?",
    model=SawSheet,
    work=work,
    sketch=sketch,
    say=say,
    last_shaft="Blade shaft",
    duty="band saw or circular saw",
    caution="Guard the blade but for the cut, fit a riving knife to a circular saw, and never slow a blade by hand.",
    advice="A wood saw’s speed on steel kills the blade in one cut.",
    rules=(BEND, RIM),
    judge_built=judge_built,
    words="band circular sawmill table saw wood metal",
    starter={"wheel_diameter_mm": 400, "band_thickness_mm": 0.4, "kerf_mm": 1.1, "depth_mm": 120, "feed_m_min": 2},
)
