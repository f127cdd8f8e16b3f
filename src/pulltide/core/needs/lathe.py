"""Metal lathe spindle."""

from __future__ import annotations

from math import radians, sin
from typing import Literal

from pydantic import Field

from pulltide.core.findings import COMMON_PRACTICE, EXACT, Check, Severity, judge
from pulltide.core.labels import quantity
from pulltide.core.model import Degrees, Mm, Mpa, MPerMin
from pulltide.core.needs.contract import Corner, NeedKind, Outcome, Saying, SpeedBand, Worksheet, known
from pulltide.core.needs.cutting import (
    Material,
    Tool,
    cutting_speed_band,
    say_series,
    specific_force_n_per_mm2,
    spindle_rpm,
    unit_power_kw,
)
from pulltide.core.sketch import Sketch
from pulltide.core.units import rim_speed_m_per_s


class LatheSheet(Worksheet):
    """Turning: surface speed and cutting force."""

    ORDER = (("min_diameter_mm", "work_diameter_mm"), ("work_diameter_mm", "max_diameter_mm"))

    kind: Literal["lathe"] = "lathe"
    material: Material = Field("C45_normalized", title="Material")
    tool: Tool = Field("HSS", title="Tool")
    min_diameter_mm: Mm | None = Field(None, title="Smallest work", gt=0.5, le=3000)
    work_diameter_mm: Mm | None = Field(None, title="Usual work, roughed", gt=0.5, le=3000)
    max_diameter_mm: Mm | None = Field(None, title="Largest work", gt=0.5, le=3000)
    feed_mm: Mm = Field(0.15, title="Feed a turn", ge=0.01, le=3, description="bench lathe, common practice")
    depth_mm: Mm = Field(1.0, title="Depth of cut", ge=0.01, le=25, description="bench lathe, common practice")
    approach_deg: Degrees = Field(90.0, title="Approach angle", ge=30, le=100)
    cutting_speed_m_min: MPerMin | None = Field(None, title="Cutting speed of your own", gt=0, le=2000)
    cutting_force_mpa: Mpa | None = Field(
        None, title="Specific cutting force of your own", gt=50, le=10_000, description="N/mm² at this chip"
    )
    speeds: int = Field(6, title="Speeds wanted", ge=1, le=36)


SPAN = Check(
    code="need.lathe.span",
    severity=Severity.NOTE,
    quantity="ratio from one speed to the next",
    limits=(2.0,),
    fact="Speed steps this wide lose a lot of cutting speed in between",
    clear="The speed steps are close enough",
    advice="Add speeds or narrow the range of work.",
)


def _band(sheet: LatheSheet) -> tuple[float, float, float]:
    if sheet.cutting_speed_m_min is not None:
        v = sheet.cutting_speed_m_min
        return 0.75 * v, v, 1.25 * v
    band = cutting_speed_band(f"turn {sheet.tool}", sheet.material) or cutting_speed_band("turn HSS", sheet.material)
    return band if band is not None else known(None, None, None)  # type: ignore[return-value]


def work(sheet: LatheSheet, corner: Corner) -> Outcome:
    """Speeds from cutting speed and work; torque of the roughing cut, at one cutting speed for every diameter."""
    out = Outcome(load_exponent=-1.0)
    with out.working("speed"):
        band = _band(sheet)
        (usual,) = known(sheet.work_diameter_mm)
        ideal = spindle_rpm(out, band[1], usual)
        least, most = sheet.min_diameter_mm or usual, sheet.max_diameter_mm or usual
        low, high = 318.30989 * band[0] / most, 318.30989 * band[2] / least
        out.speeds = SpeedBand(
            min(low, ideal),
            ideal,
            max(high, ideal),
            f"{quantity(band[0], 'm/min')} to {quantity(band[2], 'm/min')} from the largest to the smallest work",
        )
        _series(sheet, out, out.speeds)
    with out.working("running"):
        (diameter,) = known(sheet.work_diameter_mm)
        chip = sheet.feed_mm * sin(radians(min(sheet.approach_deg, 90)))
        specific = specific_force_n_per_mm2(out, sheet.material, chip, sheet.cutting_force_mpa)
        force = out.step(
            "Cutting force",
            "F_c = k_c f a",
            specific * sheet.feed_mm * sheet.depth_mm,
            "N",
            EXACT,
            k_c=specific,
            f=sheet.feed_mm,
            a=sheet.depth_mm,
        )
        wear = {"low": 1.0, "typical": 1.1, "high": 1.3}[corner]
        out.running_nm = out.step(
            "Torque with tool wear",
            "T = w F_c d / 2000",
            wear * force * diameter / 2000,
            "N*m",
            COMMON_PRACTICE,
            w=wear,
            F_c=force,
            d=diameter,
        )
        speed = _band(sheet)[1]
        power = out.step(
            "Cutting power, sharp tool", "P = F_c v / 60000", force * speed / 60_000, "kW", EXACT, F_c=force, v=speed
        )
        out.steps["power"] = [*out.steps["running"][:2], out.steps["running"].pop()]
        out.say("cutting_power_by_specific_force", "Cutting power, by specific force", power, "kW")
        other = unit_power_kw(
            sheet.material, speed * 1000 / 60 * sheet.feed_mm * sheet.depth_mm, sheet.feed_mm, 1.3, 0.8
        )
        out.say("motor_by_unit_power", "At the motor, by unit power", other, "kW")
    out.times("peak", "Heavy first cut", 1.5)
    return out


def _series(sheet: LatheSheet, out: Outcome, speeds: SpeedBand) -> None:
    low, high = sheet.speed_min_rpm or speeds.min_rpm, sheet.speed_max_rpm or speeds.max_rpm
    step = say_series(out, low, high, sheet.speeds)
    if step is not None:
        out.findings.append(judge(SPAN, "need", step))


def say(sheet: LatheSheet, speed_rpm: float) -> tuple[Saying, ...]:
    """Cutting speed on the usual work."""
    if sheet.work_diameter_mm is None:
        return ()
    return (
        Saying("usual_work", "on the usual work", rim_speed_m_per_s(sheet.work_diameter_mm, speed_rpm) * 60, "m/min"),
    )


def sketch(sheet: LatheSheet) -> Sketch:
    """The work end on, with the tool at its side."""
    diameter = sheet.work_diameter_mm or 50.0
    radius = diameter / 2
    depth = min(sheet.depth_mm, radius * 0.8)
    drawing = Sketch("The work seen from the headstock, cut by the tool at its front")
    drawing.circle((0, 0), radius, "charge")
    drawing.circle((0, 0), radius - depth, "thin")
    drawing.area(
        ((radius - depth, 0), (radius * 2.1, 0), (radius * 2.1, -radius * 0.35), (radius * 1.02, -radius * 0.35)),
        "part",
    )
    drawing.turn((0, 0), radius * 0.6)
    drawing.measure((-radius, radius), (radius, radius), "work", sheet.work_diameter_mm, 0.1)
    drawing.measure((radius - depth, -radius * 0.7), (radius, -radius * 0.7), "depth", sheet.depth_mm, -0.05)
    drawing.arrow((radius, radius * 0.85), (radius, 0), "chip force")
    return drawing


LATHE = NeedKind(
    kind="lathe",
    title="Metal lathe",
    group="Cutting",
    question="What does the spindle turn?",
    model=LatheSheet,
    work=work,
    sketch=sketch,
    say=say,
    last_shaft="Spindle",
    duty="lathe main drive",
    caution="Chucks have a marked top speed: never gear past it. No gloves, no loose sleeves; a screw-on chuck "
    "unwinds in reverse.",
    advice="A general lathe asks a span of 16 to 40 between slowest and fastest; the belt on its small step "
    "sets the depth of cut.",
    rules=(SPAN,),
    words="metal turning engine lathe spindle",
    starter={"min_diameter_mm": 10, "work_diameter_mm": 40, "max_diameter_mm": 160},
)
