"""Abrasive belt grinder."""

from __future__ import annotations

from math import pi
from typing import Literal

from pydantic import Field

from pulltide.core.findings import EXACT
from pulltide.core.labels import choice, quantity
from pulltide.core.model import Mm, Newton, Plain
from pulltide.core.needs.contract import (
    Corner,
    NeedKind,
    Outcome,
    Saying,
    SpeedBand,
    Worksheet,
    known,
    say_power,
    table_source,
)
from pulltide.core.needs.cutting import cutting_speed_band
from pulltide.core.sketch import Sketch
from pulltide.core.units import rim_speed_m_per_s


class BeltGrinderSheet(Worksheet):
    """Contact force at belt speed."""

    BANDS = {"friction": (0.35, 0.5, 0.7)}

    kind: Literal["belt_grinder"] = "belt_grinder"
    use: Literal["rough", "finish"] = Field("rough", title="Grinding")
    drive_wheel_mm: Mm | None = Field(None, title="Drive wheel", ge=30, le=600)
    contact_force_n: Newton | None = Field(
        None, title="Work pressed on with", gt=0, le=2000, description="one hand {50|N} to {100|N}"
    )
    friction: Plain = Field(
        0.5, title="Grip of the belt on the work", ge=0.1, le=1, description="0.35 to 0.7, common practice"
    )
    belt_width_mm: Mm | None = Field(None, title="Belt width", ge=5, le=600)


def work(sheet: BeltGrinderSheet, corner: Corner) -> Outcome:
    """Friction force on the drive wheel."""
    out = Outcome()
    with out.working("speed"):
        (wheel,) = known(sheet.drive_wheel_mm)
        band = cutting_speed_band(f"belt_grinder {sheet.use}", "steel") or (1200.0, 1680.0, 2100.0)
        low, ideal, high = (1000 * v / (pi * wheel) for v in band)
        out.step(
            "Belt speed wanted",
            "n = 60000 v / (π D)",
            ideal,
            "rpm",
            table_source("cutting_speeds"),
            v=band[1] / 60,
            D=wheel,
        )
        out.speeds = SpeedBand(
            low,
            ideal,
            high,
            f"belt at {quantity(band[0] / 60, 'm/s')} to {quantity(band[2] / 60, 'm/s')}, {choice(sheet.use)}",
        )
    with out.working("running"):
        force, wheel = known(sheet.contact_force_n, sheet.drive_wheel_mm)
        grip = sheet.at("friction", corner)
        pull = out.step("Pull on the belt", "F = μ N", grip * force, "N", table_source("friction"), μ=grip, N=force)
        out.running_nm = out.step(
            "At the drive wheel", "T = F D / 2000", pull * wheel / 2000, "N*m", EXACT, F=pull, D=wheel
        )
        say_power(sheet, out, "Power at the drive wheel")
    out.times("peak", "Work leant on", 2)
    if sheet.belt_width_mm:
        out.say("motor_in_practice", "Motor in practice", 0.6 * sheet.belt_width_mm / 25, "kW")
    return out


def say(sheet: BeltGrinderSheet, speed_rpm: float) -> tuple[Saying, ...]:
    """Belt speed."""
    if sheet.drive_wheel_mm is None:
        return ()
    return (Saying("belt", "belt", rim_speed_m_per_s(sheet.drive_wheel_mm, speed_rpm), "m/s"),)


def sketch(sheet: BeltGrinderSheet) -> Sketch:
    """Drive wheel, contact wheel and idler with the belt round them."""
    wheel = sheet.drive_wheel_mm or 150.0
    radius = wheel / 2
    drawing = Sketch("Drive wheel, idler and contact wheel")
    contact, idler = (4.2 * radius, 0.0), (2.0 * radius, 3.4 * radius)
    drawing.circle((0, 0), radius, "motion")
    drawing.circle(contact, radius * 0.8)
    drawing.circle(idler, radius * 0.5)
    drawing.line((0, -radius), (contact[0], -radius * 0.8), role="part")
    drawing.line((-radius * 0.86, radius * 0.5), (idler[0] - radius * 0.43, idler[1] + radius * 0.25), role="part")
    drawing.line(
        (idler[0] + radius * 0.42, idler[1] + radius * 0.27), (contact[0] + radius * 0.68, radius * 0.42), role="part"
    )
    drawing.arrow((contact[0] + 2.2 * radius, 0), (contact[0] + 0.8 * radius, 0), "pressed on", sheet.contact_force_n)
    drawing.turn((0, 0), radius * 0.6)
    drawing.measure((-radius, -radius), (radius, -radius), "drive wheel", sheet.drive_wheel_mm, -0.1)
    return drawing


BELT_GRINDER = NeedKind(
    kind="belt_grinder",
    title="Belt grinder",
    group="Cutting",
    question="How is the belt used?",
    model=BeltGrinderSheet,
    work=work,
    sketch=sketch,
    say=say,
    last_shaft="Drive wheel",
    duty="grinder or belt grinder",
    caution="Belts part at the splice: keep under the speed printed inside the belt, guard the return run, and "
    "keep dust and sparks apart.",
    advice="Knife makers fit {0.5|kW} to {0.75|kW} for each {25|mm} of belt.",
    words="knife belt sander 2 x 72 grinder",
    starter={"drive_wheel_mm": 150, "contact_force_n": 60, "belt_width_mm": 50},
)
