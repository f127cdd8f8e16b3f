"""Milling spindle."""

from __future__ import annotations

from math import sqrt
from typing import Literal

from pydantic import Field

from pulltide.core.findings import COMMON_PRACTICE, EXACT, Check, Severity, judge
from pulltide.core.labels import quantity
from pulltide.core.model import Mm, Mpa, MPerMin
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
from pulltide.core.needs.cutting import (
    Material,
    Tool,
    cutting_speed_band,
    feed_used_mm,
    say_series,
    specific_force_n_per_mm2,
    spindle_rpm,
)
from pulltide.core.sketch import Sketch
from pulltide.core.units import rim_speed_m_per_s


class MillSheet(Worksheet):
    """Milling: chips of mean thickness at many teeth."""

    kind: Literal["mill"] = "mill"
    material: Material = Field("C45_normalized", title="Material")
    tool: Tool = Field("HSS", title="Cutter")
    cutter_diameter_mm: Mm | None = Field(None, title="Cutter diameter", ge=1, le=400)
    teeth: int = Field(4, title="Teeth", ge=1, le=40)
    tooth_feed_mm: Mm | None = Field(
        None, title="Feed a tooth", ge=0.005, le=1, description="empty: 1/240 of the cutter, common practice"
    )
    width_mm: Mm | None = Field(None, title="Width of cut", ge=0.1, le=400)
    depth_mm: Mm | None = Field(None, title="Depth of cut", ge=0.05, le=100)
    cutting_speed_m_min: MPerMin | None = Field(None, title="Cutting speed of your own", gt=0, le=2000)
    cutting_force_mpa: Mpa | None = Field(
        None, title="Specific cutting force of your own", gt=50, le=10_000, description="N/mm² at this chip"
    )
    speeds: int = Field(1, title="Speeds wanted", ge=1, le=16, description="steps of a cone, in geometric series")


WIDTH = Check(
    code="need.mill.width",
    severity=Severity.ERROR,
    quantity="width of cut",
    unit="mm",
    fact="The cut is wider than the cutter",
    clear="The cut is within the cutter",
    base="cutter diameter",
    advice="Use a larger cutter or a narrower cut.",
)


def work(sheet: MillSheet, corner: Corner) -> Outcome:
    """Power from removal rate, torque at the spindle speed."""
    out = Outcome(load_exponent=-1.0)
    with out.working("speed"):
        (diameter,) = known(sheet.cutter_diameter_mm)
        own = sheet.cutting_speed_m_min
        band = (
            (0.75 * own, own, 1.25 * own)
            if own
            else cutting_speed_band(f"turn {sheet.tool}", sheet.material)
            or cutting_speed_band("turn HSS", sheet.material)
        )
        if band is not None:
            ideal = spindle_rpm(out, band[1], diameter)
            out.speeds = SpeedBand(
                ideal * band[0] / band[1],
                ideal,
                ideal * band[2] / band[1],
                f"{quantity(band[0], 'm/min')} to {quantity(band[2], 'm/min')} at the cutter, as for turning",
            )
    with out.working("running"):
        diameter, width, depth, speed = known(
            sheet.cutter_diameter_mm, sheet.width_mm, sheet.depth_mm, sheet.speed_ideal_rpm or out.speeds.ideal_rpm
        )
        feed_tooth = feed_used_mm(sheet.tooth_feed_mm, diameter, 1 / 240, 0.01, 0.15)
        out.say("feed_a_tooth", "Feed a tooth", feed_tooth, "mm")
        out.findings.append(judge(WIDTH, "need", width, diameter))
        chip = out.step(
            "Mean chip",
            "h = f_z √(a_e / d), at most f_z",
            feed_tooth * sqrt(min(width / diameter, 1.0)),
            "mm",
            COMMON_PRACTICE,
            f_z=feed_tooth,
            a_e=width,
            d=diameter,
        )
        specific = specific_force_n_per_mm2(out, sheet.material, chip, sheet.cutting_force_mpa)
        feed = out.step(
            "Feed, in mm/min",
            "v_f = f_z z n",
            feed_tooth * sheet.teeth * speed,
            "",
            EXACT,
            f_z=feed_tooth,
            z=float(sheet.teeth),
            n=speed,
        )
        wear = {"low": 1.0, "typical": 1.15, "high": 1.4}[corner]
        power = out.step(
            "Cutting power with tool wear",
            "P = w k_c a_e a_p v_f / 60000000",
            wear * specific * width * depth * feed / 6e7,
            "kW",
            COMMON_PRACTICE,
            w=wear,
            k_c=specific,
            a_e=width,
            a_p=depth,
            v_f=feed,
        )
        out.say("cutting_power", "Cutting power", power, "kW")
        out.say("feed", "Feed", feed, "mm")
        out.own[-1] = Saying("feed_a_minute", "Feed a minute", feed, "mm")
        out.running_nm = torque_from_power_nm(out, power, speed)
    out.times("peak", "Tooth by tooth", 2)
    low, high = sheet.speed_min_rpm or out.speeds.min_rpm, sheet.speed_max_rpm or out.speeds.max_rpm
    say_series(out, low, high, sheet.speeds)
    return out


def say(sheet: MillSheet, speed_rpm: float) -> tuple[Saying, ...]:
    """Cutting speed at the cutter."""
    if sheet.cutter_diameter_mm is None:
        return ()
    return (Saying("cutter", "at the cutter", rim_speed_m_per_s(sheet.cutter_diameter_mm, speed_rpm) * 60, "m/min"),)


def sketch(sheet: MillSheet) -> Sketch:
    """The cutter in the side of the work."""
    diameter = sheet.cutter_diameter_mm or 20.0
    width, depth = sheet.width_mm or diameter * 0.5, sheet.depth_mm or diameter * 0.3
    drawing = Sketch("The cutter in the work, seen along its feed")
    block = diameter * 1.6
    left = diameter / 2 - width
    drawing.area(
        (
            (-diameter / 2 - block * 0.2 + 0, depth * 0 - block * 0.8),
            (left + block, -block * 0.8),
            (left + block, depth),
            (diameter / 2, depth),
            (diameter / 2, 0),
            (-diameter / 2 - block * 0.2, 0),
        ),
        "charge",
    )
    drawing.box(-diameter / 2, 0, diameter, diameter * 1.6, "motion")
    drawing.line((-diameter / 2 + diameter * 0.25, 0), (-diameter / 2 + diameter * 0.5, diameter * 1.6), role="thin")
    drawing.line((0, 0), (diameter * 0.25, diameter * 1.6), role="thin")
    drawing.measure(
        (-diameter / 2, diameter * 1.6), (diameter / 2, diameter * 1.6), "cutter", sheet.cutter_diameter_mm, 0.1
    )
    drawing.measure((left, 0), (diameter / 2, 0), "width", sheet.width_mm, -0.15)
    drawing.measure((left + block, depth), (left + block, 0), "depth", sheet.depth_mm, 0.08)
    return drawing


MILL = NeedKind(
    kind="mill",
    title="Milling spindle",
    group="Cutting",
    question="What does the cutter take?",
    model=MillSheet,
    work=work,
    sketch=sketch,
    say=say,
    last_shaft="Spindle",
    duty="milling spindle",
    caution="A cutter throws chips and breaks: guard it, and clamp the work, never hold it by hand.",
    advice="Cutting speeds are those of turning; slot milling runs at the low end.",
    rules=(WIDTH,),
    words="milling spindle cutter router mill",
    starter={"cutter_diameter_mm": 16, "width_mm": 8, "depth_mm": 3},
)
