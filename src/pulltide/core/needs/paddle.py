"""Paddles, plows and scrapers pushed through a bed of grain, sand, mortar or clay."""

from __future__ import annotations

from math import radians, sin, sqrt, tan
from typing import Literal

from pydantic import Field

from pulltide.core.findings import EXACT, Check, Severity, Source, judge
from pulltide.core.labels import choice, quantity
from pulltide.core.model import Degrees, KgPerM3, Kpa, Mm, Plain
from pulltide.core.needs.contract import (
    Corner,
    NeedKind,
    Outcome,
    Saying,
    SpeedBand,
    Worksheet,
    known,
    say_power,
    speed_at_rim,
)
from pulltide.core.sketch import Sketch
from pulltide.core.units import G_M_PER_S2, rim_speed_m_per_s

PASSIVE = Source("soil mechanics texts", "Rankine passive pressure", "quoted from memory")
#: Useful tip speeds [m/s] by mixer. Common practice, no source.
TIP_SPEEDS = {
    "mortar_paddle": (1.0, 1.25, 1.5),
    "dough_fork_or_spiral": (0.8, 1.1, 1.5),
    "pan_mixer_plow": (1.5, 2.0, 2.5),
}


class PaddleSheet(Worksheet):
    """Blades in a bed: passive pressure of the bed on each."""

    BANDS = {"side_factor": (1.2, 1.75, 2.5), "cohesion_kpa": (0.5, 1.0, 2.0)}

    kind: Literal["paddle"] = "paddle"
    mixer: Literal["mortar_paddle", "dough_fork_or_spiral", "pan_mixer_plow"] = Field("mortar_paddle", title="Mixer")
    tip_diameter_mm: Mm | None = Field(None, title="Circle of the blade tips", ge=50, le=4000)
    blade_radius_mm: Mm | None = Field(None, title="Radius of the blade’s middle", ge=20, le=2000)
    blade_width_mm: Mm | None = Field(None, title="Blade width across its way", ge=5, le=1000)
    bed_depth_mm: Mm | None = Field(None, title="Depth of the blade’s lower edge", ge=5, le=1500)
    blade_top_mm: Mm = Field(0.0, title="Depth of its upper edge", ge=0, le=1400, description="0 when it sticks out")
    blades: int = Field(2, title="Blades in the bed at once", ge=1, le=24)
    attack_deg: Degrees = Field(90.0, title="Blade to its way", ge=15, le=90, description="90 is square")
    bulk_density_kg_m3: KgPerM3 | None = Field(None, title="Density of the bed", ge=50, le=5000)
    friction_angle_deg: Degrees | None = Field(
        None, title="Internal friction", ge=0, le=50, description="sand 33, clay 5, mortar 20"
    )
    cohesion_kpa: Kpa | None = Field(
        None, title="Cohesion", ge=0, le=200, description="dry sand 0, mortar 0.2 to 1.5, clay 8 to 60"
    )
    cohesion_low_kpa: Kpa | None = Field(None, title="Cohesion, low", ge=0, le=200)
    cohesion_high_kpa: Kpa | None = Field(None, title="Cohesion, high", ge=0, le=200)
    side_factor: Plain = Field(
        1.75, title="Side flow and surcharge", ge=1, le=4, description="1.2 to 2.5, common practice"
    )


BURIED = Check(
    code="need.paddle.edges",
    severity=Severity.ERROR,
    quantity="depth of the upper edge",
    unit="mm",
    fact="The blade’s upper edge is below its lower edge",
    clear="The blade’s edges are in order",
    base="depth of the lower edge",
    advice="Swap the two depths.",
)


def blade_force_n(sheet: PaddleSheet, side_factor: float, cohesion_kpa: float) -> float:
    """Force of the bed on one blade [N]: k (½ ρ g (h2² - h1²) b K_p + 2 c (h2 - h1) b √K_p) sin attack."""
    width, depth, density, friction = known(
        sheet.blade_width_mm, sheet.bed_depth_mm, sheet.bulk_density_kg_m3, sheet.friction_angle_deg
    )
    b, h2, h1 = width / 1000, depth / 1000, min(sheet.blade_top_mm, depth) / 1000
    passive = tan(radians(45 + friction / 2)) ** 2
    weight = 0.5 * density * G_M_PER_S2 * (h2**2 - h1**2) * b * passive
    return side_factor * sin(radians(sheet.attack_deg)) * (weight + 2000 * cohesion_kpa * (h2 - h1) * b * sqrt(passive))


def work(sheet: PaddleSheet, corner: Corner) -> Outcome:
    """Force on every blade at its radius."""
    out = Outcome()
    with out.working("speed"):
        (circle,) = known(sheet.tip_diameter_mm)
        low, ideal, high = speed_at_rim(out, TIP_SPEEDS[sheet.mixer], circle)
        band = TIP_SPEEDS[sheet.mixer]
        out.speeds = SpeedBand(
            low,
            ideal,
            high,
            f"tip speed {quantity(band[0], 'm/s')} to {quantity(band[2], 'm/s')} for a {choice(sheet.mixer)}",
        )
    with out.working("running"):
        cohesion, factor = sheet.at("cohesion_kpa", corner), sheet.at("side_factor", corner)
        radius, friction, width, depth = known(
            sheet.blade_radius_mm, sheet.friction_angle_deg, sheet.blade_width_mm, sheet.bed_depth_mm
        )
        passive = out.step(
            "Passive pressure", "K_p = tan²(45° + φ/2)", tan(radians(45 + friction / 2)) ** 2, "", PASSIVE, φ=friction
        )
        force = blade_force_n(sheet, factor, cohesion)
        out.step(
            "On one blade",
            "F = k sin δ (½ ρ g (h2² - h1²) b K_p + 2 c (h2 - h1) b √K_p)",
            force,
            "N",
            PASSIVE,
            k=factor,
            δ=sheet.attack_deg,
            ρ=sheet.bulk_density_kg_m3 or 0.0,
            h2=depth / 1000,
            h1=sheet.blade_top_mm / 1000,
            b=width / 1000,
            K_p=passive,
            c=cohesion * 1000,
        )
        out.running_nm = out.step(
            "All blades",
            "T = z F R",
            sheet.blades * force * radius / 1000,
            "N*m",
            EXACT,
            z=float(sheet.blades),
            F=force,
            R=radius / 1000,
        )
    if out.running_nm is None:
        return out
    out.times("peak", "A stone or a lump", 2)
    out.times("breakaway", "Restart in a settled batch", 2.5)
    out.findings.append(judge(BURIED, "need", sheet.blade_top_mm, sheet.bed_depth_mm or sheet.blade_top_mm))
    say_power(sheet, out, "Power at the shaft")
    return out


def say(sheet: PaddleSheet, speed_rpm: float) -> tuple[Saying, ...]:
    """Tip speed."""
    return (
        ()
        if sheet.tip_diameter_mm is None
        else (Saying("tips", "at the tips", rim_speed_m_per_s(sheet.tip_diameter_mm, speed_rpm), "m/s"),)
    )


def sketch(sheet: PaddleSheet) -> Sketch:
    """The shaft with its blades over the bed, seen along the way of the blade."""
    radius = sheet.blade_radius_mm or 200.0
    width = sheet.blade_width_mm or radius * 0.4
    depth = sheet.bed_depth_mm or radius * 0.5
    tip = max((sheet.tip_diameter_mm or 2.3 * radius) / 2, radius)
    drawing = Sketch("A blade pushed through the bed")
    drawing.box(-tip * 1.15, -depth * 1.15, tip * 2.3, depth * 1.15, "charge")
    drawing.line(
        (-tip * 1.15, depth * 0.5),
        (-tip * 1.15, -depth * 1.15),
        (tip * 1.15, -depth * 1.15),
        (tip * 1.15, depth * 0.5),
        role="part",
    )
    drawing.box(-tip * 0.03, -depth, tip * 0.06, depth + radius * 0.7)
    for side in (-1, 1):
        top = -min(sheet.blade_top_mm, depth) if sheet.blade_top_mm else depth * 0.15
        drawing.box(side * radius - width / 2, -depth, width, depth + top, "motion")
        drawing.line((0, depth * 0.3), (side * radius, depth * 0.3), (side * radius, top), role="thin")
    drawing.measure((0, radius * 0.62), (radius, radius * 0.62), "radius", sheet.blade_radius_mm, 0.0)
    drawing.measure((radius - width / 2, -depth), (radius + width / 2, -depth), "blade", sheet.blade_width_mm, -0.16)
    drawing.measure((-tip, 0), (-tip, -depth), "depth", sheet.bed_depth_mm, -0.1)
    return drawing


PADDLE = NeedKind(
    kind="paddle",
    title="Paddle or plow in a bed",
    group="Mixing and tumbling",
    question="What pushes through the bed?",
    model=PaddleSheet,
    work=work,
    sketch=sketch,
    say=say,
    last_shaft="Paddle shaft",
    duty="mortar or pan mixer",
    caution="A mixer catches hands and tools. Interlock the lid or grid, and fit a slip belt or a shear pin: a "
    "stone stops it dead.",
    advice="Material strength is a guess within half to twice. Measure with a bar and a luggage scale when you can.",
    rules=(BURIED,),
    words="plow stirrer bed muck compost turner paddle",
    starter={
        "tip_diameter_mm": 700,
        "blade_radius_mm": 260,
        "blade_width_mm": 120,
        "bed_depth_mm": 140,
        "bulk_density_kg_m3": 2000,
        "friction_angle_deg": 20,
        "cohesion_kpa": 0.8,
    },
)
