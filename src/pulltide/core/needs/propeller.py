"""Boat propeller."""

from __future__ import annotations

from math import pi, sqrt
from typing import Literal

from pydantic import Field

from pulltide.core.findings import COMMON_PRACTICE, Source
from pulltide.core.model import KgPerM3, Mm, Plain
from pulltide.core.needs.contract import (
    Corner,
    NeedKind,
    Outcome,
    Saying,
    SpeedBand,
    Worksheet,
    known,
    power_from_torque_kw,
)
from pulltide.core.sketch import Sketch, arc
from pulltide.core.units import rim_speed_m_per_s

NAVAL = Source("naval architecture texts", "torque coefficient K_Q", "quoted from memory")


class PropellerSheet(Worksheet):
    """Torque coefficient, worst at the dock."""

    BANDS = {"torque_coefficient": (0.02, 0.03, 0.04)}

    kind: Literal["propeller"] = "propeller"
    diameter_mm: Mm | None = Field(None, title="Propeller diameter", ge=50, le=2500)
    pitch_mm: Mm | None = Field(None, title="Pitch", ge=30, le=3000)
    torque_coefficient: Plain = Field(
        0.03,
        title="Torque coefficient at the dock",
        ge=0.005,
        le=0.1,
        description="0.02 to 0.04 moderate pitch, common practice",
    )
    water_kg_m3: KgPerM3 = Field(
        1025.0, title="Density of the water", ge=990, le=1050, description="sea 1025, fresh 1000"
    )
    waterline_mm: Mm | None = Field(None, title="Length of waterline", ge=1000, le=40_000)
    slip: Plain = Field(
        0.35, title="Slip under way", ge=0.05, le=0.8, description="0.2 to 0.5 displacement hulls, common practice"
    )


def work(sheet: PropellerSheet, corner: Corner) -> Outcome:
    """Torque at the dock at the ideal speed; it goes with the square of speed."""
    out = Outcome(load_exponent=2.0)
    out.speeds = SpeedBand(sheet.speed_min_rpm, sheet.speed_ideal_rpm, sheet.speed_max_rpm)
    with out.working("running"):
        diameter, speed = known(sheet.diameter_mm, sheet.speed_ideal_rpm)
        coefficient = sheet.at("torque_coefficient", corner)
        turns, size = speed / 60, diameter / 1000
        out.running_nm = out.step(
            "Torque at the dock, n in turns a second",
            "T = K_Q ρ n² D⁵",
            coefficient * sheet.water_kg_m3 * turns**2 * size**5,
            "N*m",
            NAVAL,
            K_Q=coefficient,
            ρ=sheet.water_kg_m3,
            n=turns,
            D=size,
        )
        out.times("peak", "Weed or rope", 2)
        out.times("breakaway", "From rest", 0.3)
        with out.working("power"):
            power = power_from_torque_kw(out, out.running_nm, speed)
            out.say("power_at_the_dock", "Power at the dock", power, "kW")
            area = pi / 4 * size**2
            thrust = (2 * sheet.water_kg_m3 * area) ** (1 / 3) * (power * 1000) ** (2 / 3)
            out.say("ideal_pull_at_the_dock_at_most", "Ideal pull at the dock, at most", float(thrust), "N")
    if sheet.waterline_mm:
        with out.working("hull"):
            feet = sheet.waterline_mm / 304.8
            knots = out.step(
                "Hull speed, in knots", "V = 1.34 √L_ft", 1.34 * sqrt(feet), "", COMMON_PRACTICE, L_ft=feet
            )
            out.say("hull_speed", "Hull speed", knots * 0.514444, "m/s")
    return out


def say(sheet: PropellerSheet, speed_rpm: float) -> tuple[Saying, ...]:
    """Tip speed and speed under way by pitch and slip."""
    words: tuple[Saying, ...] = ()
    if sheet.pitch_mm is not None:
        words = (
            Saying(
                "under_way_by_pitch",
                "under way, by pitch",
                sheet.pitch_mm / 1000 * speed_rpm / 60 * (1 - sheet.slip),
                "m/s",
            ),
        )
    if sheet.diameter_mm is not None:
        words += (Saying("tips", "at the tips", rim_speed_m_per_s(sheet.diameter_mm, speed_rpm), "m/s"),)
    return words


def sketch(sheet: PropellerSheet) -> Sketch:
    """The propeller from astern."""
    size = sheet.diameter_mm or 350.0
    radius = size / 2
    drawing = Sketch("The propeller seen from astern")
    drawing.circle((0, 0), radius, "hidden")
    for k in range(3):
        angle = pi / 2 + k * 2 * pi / 3
        left, right = (
            arc((0, 0), radius * 0.75, angle - 0.35, angle + 0.2),
            arc((0, 0), radius, angle - 0.12, angle + 0.28),
        )
        drawing.area([(0.0, 0.0), *left[:1], right[0], right[-1], left[-1]], "motion")
    drawing.circle((0, 0), radius * 0.18)
    drawing.turn((0, 0), radius * 0.5)
    drawing.measure((-radius, -radius), (radius, -radius), "propeller", sheet.diameter_mm, -0.08)
    return drawing


PROPELLER = NeedKind(
    kind="propeller",
    title="Propeller",
    group="Air and water",
    question="What does the propeller push?",
    model=PropellerSheet,
    work=work,
    sketch=sketch,
    say=say,
    last_shaft="Propeller shaft",
    duty="boat propeller",
    caution="Stop the propeller with anyone in the water. Batteries on board need a fuse within {200|mm} and a "
    "vented box.",
    advice="Size for the dock, where torque is 1.2 to 1.6 times that under way; the unit’s bearings must take "
    "the thrust.",
    words="boat launch canoe screw outboard",
    starter={"diameter_mm": 400, "pitch_mm": 300, "waterline_mm": 6000, "speed_ideal_rpm": 600},
)
