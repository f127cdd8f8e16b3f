"""Crank press or punch with a flywheel."""

from __future__ import annotations

from math import acos, pi, sin, sqrt
from typing import Literal

from pydantic import Field

from pulltide.core.findings import COMMON_PRACTICE, EXACT, Check, Severity, Source, judge
from pulltide.core.model import Kg, Mm, Mpa, Newton, Plain
from pulltide.core.needs.contract import (
    Corner,
    NeedKind,
    Outcome,
    Pulse,
    Saying,
    SpeedBand,
    Worksheet,
    known,
    rad_per_s,
    torque_from_power_nm,
)
from pulltide.core.needs.flywheel import DIAMETER, MASS, told_as_disc, too_light
from pulltide.core.sketch import Sketch

PENETRATION = Source("Machinery’s Handbook", "penetration factors of blanking", "quoted from memory")


class PressSheet(Worksheet):
    """Work of a stroke from force and penetration."""

    BANDS = {"penetration": (0.35, 0.5, 0.6)}

    kind: Literal["press"] = "press"
    shear_strength_mpa: Mpa | None = Field(
        None, title="Shear strength of the stock", ge=10, le=1500, description="mild steel 350"
    )
    cut_length_mm: Mm | None = Field(
        None, title="Length of cut", ge=1, le=5000, description="a round hole: π times its diameter"
    )
    thickness_mm: Mm | None = Field(None, title="Stock thickness", ge=0.1, le=60)
    penetration: Plain = Field(
        0.5, title="Part of the thickness that is cut", ge=0.2, le=1, description="0.35 to 0.6, then it breaks through"
    )
    own_force_n: Newton | None = Field(
        None, title="Force of your own", gt=0, le=5_000_000, description="in place of shear strength times area"
    )
    stroke_mm: Mm | None = Field(None, title="Stroke", ge=2, le=800)
    efficiency: Plain = Field(
        0.7, title="Press passes on", ge=0.3, le=0.95, description="guides and crank, common practice"
    )
    slow_down: Plain = Field(
        0.10, title="Flywheel may slow by", ge=0.02, le=0.3, description="0.1 working on, 0.2 now and then"
    )
    wheel_diameter_mm: Mm | None = Field(None, title=DIAMETER, ge=100, le=3000)
    wheel_mass_kg: Kg | None = Field(
        None, title=MASS, gt=0.5, le=5000, description="weighed; counted as a solid disc of that diameter"
    )


WHEEL = too_light("press")
REACH = Check(
    code="need.press.reach",
    severity=Severity.ERROR,
    quantity="stock thickness",
    unit="mm",
    fact="The stock is thicker than the press can follow",
    clear="The stroke covers the stock",
    limits=(1.0,),
    base="stroke",
    advice="Use a longer stroke.",
)


def force_n(sheet: PressSheet) -> float:
    """Cutting force [N]: shear strength times the sheared area, or as entered."""
    if sheet.own_force_n is not None:
        return sheet.own_force_n
    strength, length, thickness = known(sheet.shear_strength_mpa, sheet.cut_length_mm, sheet.thickness_mm)
    return strength * length * thickness


def work(sheet: PressSheet, corner: Corner) -> Outcome:
    """Mean torque from work a stroke; peak where the tool meets the stock."""
    out = Outcome()
    out.speeds = SpeedBand(
        sheet.speed_min_rpm, sheet.speed_ideal_rpm, sheet.speed_max_rpm, "strokes a minute, as entered"
    )
    with out.working("running"):
        force = force_n(sheet)
        if sheet.own_force_n is None:
            strength, length, thickness = known(sheet.shear_strength_mpa, sheet.cut_length_mm, sheet.thickness_mm)
            out.step("Cutting force", "F = τ L t", force, "N", EXACT, τ=strength, L=length, t=thickness)
        else:
            out.step("Cutting force", "F = as entered", force, "N", EXACT)
        thickness, strokes = known(sheet.thickness_mm, sheet.speed_ideal_rpm)
        share = sheet.at("penetration", corner)
        energy = out.step(
            "Work of a stroke, in J",
            "E = F t k / 1000",
            force * thickness * share / 1000,
            "",
            PENETRATION,
            F=force,
            t=thickness,
            k=share,
        )
        power = out.step(
            "Mean power",
            "P = E n / (60000 η)",
            energy * strokes / 60_000 / sheet.efficiency,
            "kW",
            COMMON_PRACTICE,
            E=energy,
            n=strokes,
            η=sheet.efficiency,
        )
        out.running_nm = torque_from_power_nm(out, power, strokes)
        out.say("cutting_force", "Cutting force", force, "N")
        out.say("work_of_a_stroke", "Work of a stroke", energy, "J")
        out.say("mean_power", "Mean power", power, "kW")
        out.fluctuation = sheet.slow_down
        with out.working("inertia"):
            ratio = (1 - (1 - sheet.slow_down) ** 2) / 2
            out.inertia_kgm2 = out.step(
                "Flywheel at the crank",
                "J = E / (k ω²), k = (1 - (1 - s)²) / 2",
                energy / (ratio * rad_per_s(strokes) ** 2),
                "kg*m**2",
                EXACT,
                E=energy,
                s=sheet.slow_down,
                ω=rad_per_s(strokes),
                k=ratio,
            )
        at_hand = told_as_disc(out, sheet.wheel_diameter_mm, sheet.wheel_mass_kg, WHEEL)
        if at_hand is not None:
            left = 1 - 2 * energy / (at_hand * rad_per_s(strokes) ** 2)
            out.fluctuation = 1 - sqrt(left) if left > 0 else 1.0
        _peak(sheet, out, force)
    return out


def _peak(sheet: PressSheet, out: Outcome, force: float) -> None:
    with out.working("peak"):
        stroke, thickness = known(sheet.stroke_mm, sheet.thickness_mm)
        throw = stroke / 2
        out.findings.append(judge(REACH, "need", thickness, of=throw))
        angle = acos(max(1 - min(thickness, throw) / throw, 0.0))
        out.peak_nm = out.step(
            "Where the tool meets the stock",
            "T_peak = F r sin θ / 1000, cos θ = 1 - t/r",
            force * throw * sin(angle) / 1000,
            "N*m",
            EXACT,
            F=force,
            r=throw,
            θ=angle * 180 / pi,
            t=thickness,
        )


def say(sheet: PressSheet, speed_rpm: float) -> tuple[Saying, ...]:
    """Strokes a minute."""
    return (Saying("strokes_a_minute", "strokes a minute", speed_rpm, ""),)


def sketch(sheet: PressSheet) -> Sketch:
    """Crank, ram and stock on the bed."""
    stroke = sheet.stroke_mm or 60.0
    throw, rod = stroke / 2, stroke * 2.2
    thick = sheet.thickness_mm or stroke * 0.15
    drawing = Sketch("Crank press where the tool meets the stock")
    angle = acos(max(1 - min(thick, throw) / throw, 0.0))
    pin = (throw * sin(angle), throw * (min(thick, throw) / throw - 1))
    drawing.circle((0, 0), throw * 1.4)
    drawing.circle(pin, throw * 0.2, "motion")
    foot = pin[1] - rod
    drawing.line(pin, (0, foot), role="motion")
    drawing.box(-stroke * 0.35, foot - stroke * 0.8, stroke * 0.7, stroke * 0.8, "motion")
    low = foot - stroke * 0.8
    drawing.box(-stroke * 1.3, low - thick, stroke * 2.6, thick, "charge")
    drawing.box(-stroke * 1.3, low - thick - stroke * 0.4, stroke, stroke * 0.4)
    drawing.box(stroke * 0.3, low - thick - stroke * 0.4, stroke, stroke * 0.4)
    drawing.measure((stroke * 1.3, low), (stroke * 1.3, low - thick), "stock", sheet.thickness_mm, 0.08)
    drawing.measure((-throw, throw * 1.4), (throw, throw * 1.4), "stroke", sheet.stroke_mm, 0.05)
    drawing.arrow((0, low + stroke * 0.75), (0, low), "force", sheet.own_force_n)
    drawing.turn((0, 0), throw * 1.1)
    return drawing


#: What of the work of a press is done while it cuts; the rest moves guides and slide. Common practice, no source.
CUTS = 0.9


def pulse(sheet: PressSheet) -> Pulse | None:
    """It cuts while the crank goes from where the tool meets the stock to where that breaks through: the slide stands
    x = s (1 - cos θ) / 2 above its lowest place.
    """
    if sheet.thickness_mm is None or sheet.stroke_mm is None or sheet.thickness_mm >= sheet.stroke_mm:
        return None
    meets, through = (
        acos(1 - 2 * sheet.thickness_mm * share / sheet.stroke_mm) for share in (1.0, 1.0 - sheet.penetration)
    )
    return Pulse(1, meets - through, CUTS)


PRESS = NeedKind(
    kind="press",
    title="Press or punch",
    group="Striking and pressing",
    question="What does the stroke cut?",
    model=PressSheet,
    work=work,
    sketch=sketch,
    say=say,
    last_shaft="Crank",
    duty="punch or press with flywheel",
    caution="A press takes fingers. Two-hand control, a fixed guard or a light curtain by local code; the "
    "flywheel runs on after the stop.",
    advice="Sized on mean power with no flywheel, a press stalls on its first heavy stroke.",
    rules=(REACH, WHEEL),
    pulse=pulse,
    words="punch cider brick screw toggle flywheel shear press",
    starter={
        "shear_strength_mpa": 350,
        "cut_length_mm": 62.83,
        "thickness_mm": 6,
        "stroke_mm": 40,
        "speed_ideal_rpm": 40,
    },
)
