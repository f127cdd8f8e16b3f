"""Drilling spindle."""

from __future__ import annotations

from math import pi, radians, sin
from typing import Literal

from pydantic import Field

from pulltide.core.findings import COMMON_PRACTICE, EXACT, Source
from pulltide.core.labels import quantity
from pulltide.core.model import Degrees, Mm, Mpa, MPerMin
from pulltide.core.needs.contract import Corner, NeedKind, Outcome, Saying, SpeedBand, Worksheet, known, say_power
from pulltide.core.needs.cutting import (
    Material,
    cutting_speed_band,
    feed_used_mm,
    say_series,
    specific_force_n_per_mm2,
    spindle_rpm,
)
from pulltide.core.sketch import Sketch
from pulltide.core.units import rim_speed_m_per_s

TWO_LIPS = Source("machining handbooks", "drilling with two lips", "quoted from memory")


class DrillSheet(Worksheet):
    """Drilling: torque and thrust of two lips."""

    ORDER = (("min_drill_mm", "drill_mm"),)

    kind: Literal["drill"] = "drill"
    material: Material = Field("C45_normalized", title="Material")
    min_drill_mm: Mm | None = Field(None, title="Smallest drill", ge=0.3, le=100)
    drill_mm: Mm | None = Field(None, title="Largest drill", ge=0.3, le=100)
    feed_mm: Mm | None = Field(
        None, title="Feed a turn", ge=0.01, le=1, description="empty: 1/80 of the drill, common practice"
    )
    point_deg: Degrees = Field(118.0, title="Point angle", ge=60, le=160)
    cutting_speed_m_min: MPerMin | None = Field(None, title="Cutting speed of your own", gt=0, le=400)
    cutting_force_mpa: Mpa | None = Field(
        None, title="Specific cutting force of your own", gt=50, le=10_000, description="N/mm² at this chip"
    )
    speeds: int = Field(1, title="Speeds wanted", ge=1, le=16, description="steps of a cone, in geometric series")


def _feed_mm(sheet: DrillSheet, drill_mm: float) -> float:
    return feed_used_mm(sheet.feed_mm, drill_mm, 1 / 80, 0.02, 0.4)


def work(sheet: DrillSheet, corner: Corner) -> Outcome:
    """Speeds from the smallest to the largest drill, torque of the largest."""
    out = Outcome(load_exponent=-1.0)
    with out.working("speed"):
        (largest,) = known(sheet.drill_mm)
        own = sheet.cutting_speed_m_min
        turning = cutting_speed_band("turn HSS", sheet.material) or (15.0, 20.0, 25.0)
        listed = cutting_speed_band("drill HSS", sheet.material) or (
            0.8 * turning[0],
            0.8 * turning[1],
            0.8 * turning[2],
        )
        band = (0.75 * own, own, 1.25 * own) if own else listed
        ideal = spindle_rpm(out, band[1], largest)
        smallest = min(sheet.min_drill_mm or largest, largest)
        out.speeds = SpeedBand(
            1000 * band[0] / (pi * largest),
            ideal,
            1000 * band[2] / (pi * smallest),
            f"{quantity(band[0], 'm/min')} to {quantity(band[2], 'm/min')} from the largest to the smallest drill",
        )
    with out.working("running"):
        (diameter,) = known(sheet.drill_mm)
        feed = _feed_mm(sheet, diameter)
        out.say("feed_a_turn", "Feed a turn", feed, "mm")
        half = radians(sheet.point_deg / 2)
        chip = out.step(
            "Chip of one lip", "h = f/2 sin(ε/2)", feed / 2 * sin(half), "mm", EXACT, f=feed, ε=sheet.point_deg
        )
        specific = specific_force_n_per_mm2(out, sheet.material, chip, sheet.cutting_force_mpa)
        wear = {"low": 1.0, "typical": 1.15, "high": 1.4}[corner]
        torque = out.step(
            "Torque, sharp drill",
            "T_0 = k_c f d² / 8000",
            specific * feed * diameter**2 / 8000,
            "N*m",
            TWO_LIPS,
            k_c=specific,
            f=feed,
            d=diameter,
        )
        out.running_nm = out.step("With wear", "T = w T_0", wear * torque, "N*m", COMMON_PRACTICE, w=wear, T_0=torque)
        out.say("thrust", "Thrust", 0.7 * diameter / 2 * feed * specific * sin(half), "N")
    if out.running_nm is not None:
        out.times("peak", "Breaking through", 2)
        say_power(sheet, out, "Power at the spindle")
    low, high = sheet.speed_min_rpm or out.speeds.min_rpm, sheet.speed_max_rpm or out.speeds.max_rpm
    say_series(out, low, high, sheet.speeds)
    return out


def say(sheet: DrillSheet, speed_rpm: float) -> tuple[Saying, ...]:
    """Cutting speed of the largest drill."""
    if sheet.drill_mm is None:
        return ()
    return (
        Saying("largest_drill", "at the largest drill", rim_speed_m_per_s(sheet.drill_mm, speed_rpm) * 60, "m/min"),
    )


def sketch(sheet: DrillSheet) -> Sketch:
    """The drill in the work."""
    diameter = sheet.drill_mm or 12.0
    radius = diameter / 2
    point = radius / max(sin(radians(sheet.point_deg / 2)), 0.1) * 0.55
    drawing = Sketch("The drill in the work")
    drawing.area(
        (
            (-diameter * 1.6, 0),
            (-radius, 0),
            (-radius, -diameter),
            (0, -diameter - point),
            (radius, -diameter),
            (radius, 0),
            (diameter * 1.6, 0),
            (diameter * 1.6, -diameter * 2),
            (-diameter * 1.6, -diameter * 2),
        ),
        "charge",
    )
    drawing.area(
        (
            (-radius, diameter * 1.6),
            (-radius, -diameter),
            (0, -diameter - point),
            (radius, -diameter),
            (radius, diameter * 1.6),
        ),
        "motion",
    )
    for k in range(3):
        drawing.line((-radius, diameter * (1.2 - 0.7 * k)), (radius, diameter * (1.6 - 0.7 * k)), role="thin")
    drawing.measure((-radius, diameter * 1.6), (radius, diameter * 1.6), "drill", sheet.drill_mm, 0.1)
    drawing.arrow((diameter, diameter * 1.3), (diameter, diameter * 0.2), "feed", _feed_mm(sheet, diameter), "mm")
    return drawing


DRILL = NeedKind(
    kind="drill",
    title="Drill press",
    group="Cutting",
    question="What does it drill?",
    model=DrillSheet,
    work=work,
    sketch=sketch,
    say=say,
    last_shaft="Spindle",
    duty="drill press",
    caution="Clamp the work: when the drill breaks through, it spins what is held by hand.",
    advice="The largest drill asks for torque, the smallest for speed.",
    words="drill press auger bore post",
    starter={"min_drill_mm": 3, "drill_mm": 13},
)
