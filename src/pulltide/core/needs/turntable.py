"""Turntable or welding positioner."""

from __future__ import annotations

from math import cos, hypot, pi, radians, sin
from typing import Literal

from pydantic import Field

from pulltide.core.findings import COMMON_PRACTICE, EXACT, Check, Severity, Source, judge
from pulltide.core.model import Degrees, Kg, Mm, MPerMin, Plain
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
from pulltide.core.sketch import Sketch, turned
from pulltide.core.units import G_M_PER_S2, rim_speed_m_per_s

CLUTCH = Source("Shigley’s Mechanical Engineering Design", "disc friction, uniform pressure", "quoted from memory")


class TurntableSheet(Worksheet):
    """Off-center weight on a tilted axis, bearing friction, weld speed."""

    BANDS = {"offset_mm": (0.5, 1.0, 1.5)}

    ORDER = (("seam_least_mm", "seam_most_mm"),)

    kind: Literal["turntable"] = "turntable"
    mass_kg: Kg | None = Field(None, title="Work and table", gt=0, le=20_000)
    offset_mm: Mm | None = Field(
        None,
        title="Center of gravity off the axis",
        ge=0,
        le=3000,
        description="unmeasured: a tenth of the work’s radius",
    )
    height_mm: Mm = Field(0.0, title="Center of gravity above the tilt axis", ge=0, le=3000)
    tilt_deg: Degrees = Field(0.0, title="Axis off the vertical by", ge=0, le=135, description="90 is a level axis")
    bearing: Literal["thrust_washers", "rolling_ring"] = Field("rolling_ring", title="Bearing")
    bearing_outside_mm: Mm | None = Field(None, title="Bearing, outside", ge=10, le=3000)
    bearing_inside_mm: Mm | None = Field(None, title="Bearing, inside", ge=5, le=2900)
    bearing_friction: Plain | None = Field(
        None,
        title="Bearing friction of your own",
        ge=0.0005,
        le=0.5,
        description="washers 0.15, rolling 0.006, common practice",
    )
    seam_least_mm: Mm | None = Field(None, title="Smallest seam diameter", ge=1, le=6000)
    seam_most_mm: Mm | None = Field(None, title="Largest seam diameter", ge=1, le=6000)
    travel_m_min: MPerMin | None = Field(
        None, title="Travel at the seam", gt=0, le=60, description="welding {0.2|m/min} to {0.6|m/min}"
    )


LURCH = Check(
    code="need.turntable.lurch",
    severity=Severity.WARNING,
    quantity="weight torque less friction",
    unit="N*m",
    limits=(0.0,),
    fact="The off-center weight turns the table by itself when the power is off",
    clear="Friction holds the table when the power is off",
    advice="Balance the work, or use a drive that holds, with a brake.",
    curable=False,
)
RING = Check(
    code="need.turntable.ring",
    severity=Severity.ERROR,
    quantity="inside diameter",
    unit="mm",
    fact="The bearing’s inside is not smaller than its outside",
    clear="The bearing’s diameters are in order",
    base="outside diameter",
    advice="Swap them.",
)


def bearing_nm(sheet: TurntableSheet) -> float:
    """Friction torque of the bearing [N·m]; a washer by uniform pressure, a rolling ring at its mean diameter."""
    mass, outside, inside = known(sheet.mass_kg, sheet.bearing_outside_mm, sheet.bearing_inside_mm)
    weight = mass * G_M_PER_S2
    ro, ri = outside / 2000, min(inside, 0.99 * outside) / 2000
    if sheet.bearing == "thrust_washers":
        return 2 / 3 * (sheet.bearing_friction or 0.15) * weight * (ro**3 - ri**3) / (ro**2 - ri**2)
    mean = ro + ri
    moment = weight * ((sheet.offset_mm or 0.0) + sheet.height_mm * abs(sin(radians(sheet.tilt_deg)))) / 1000
    axial, radial = abs(cos(radians(sheet.tilt_deg))) * weight, sin(radians(sheet.tilt_deg)) * weight
    return (sheet.bearing_friction or 0.006) / 2 * (4.4 * moment + axial * mean + 2.2 * radial * mean)


def _speeds(sheet: TurntableSheet, out: Outcome) -> None:
    (travel,) = known(sheet.travel_m_min)
    small, large = sheet.seam_least_mm or sheet.seam_most_mm, sheet.seam_most_mm or sheet.seam_least_mm
    (least, most) = known(small, large)
    ends = 1000 * travel / (pi * most), 1000 * travel / (pi * least)
    ideal = out.step(
        "Between the largest and the smallest seam",
        "n = 1000 v / (π √(d_1 d_2))",
        (ends[0] * ends[1]) ** 0.5,
        "rpm",
        EXACT,
        v=travel,
        d_1=least,
        d_2=most,
    )
    out.speeds = SpeedBand(0.95 * ends[0], ideal, 1.05 * ends[1], "travel at the seam from the largest to the smallest")


def work(sheet: TurntableSheet, corner: Corner) -> Outcome:
    """Weight off the axis and bearing friction."""
    out = Outcome()
    with out.working("speed"):
        _speeds(sheet, out)
    with out.working("running"):
        (mass,) = known(sheet.mass_kg)
        off = sheet.at("offset_mm", corner)
        lean = abs(sin(radians(sheet.tilt_deg)))
        weight = out.step(
            "Weight off the axis",
            "T_off = m g e sin τ",
            mass * G_M_PER_S2 * off / 1000 * lean,
            "N*m",
            EXACT,
            m=mass,
            g=G_M_PER_S2,
            e=off / 1000,
            τ=sheet.tilt_deg,
        )
        rub = out.step(
            "Bearing",
            "T_b = 2/3 μ W (ro³ - ri³) / (ro² - ri²)"
            if sheet.bearing == "thrust_washers"
            else "T_b = μ/2 (4.4 M + F_a D + 2.2 F_r D)",
            bearing_nm(sheet),
            "N*m",
            CLUTCH if sheet.bearing == "thrust_washers" else COMMON_PRACTICE,
            W=mass * G_M_PER_S2,
        )
        out.running_nm = out.step("Together", "T = T_off + T_b", weight + rub, "N*m", EXACT, T_off=weight, T_b=rub)
        out.say(
            "worst_about_the_tilt_axis",
            "Worst about the tilt axis",
            mass * G_M_PER_S2 * hypot(sheet.height_mm, off) / 1000,
            "N*m",
        )
        out.findings.append(
            judge(RING, "need", sheet.bearing_inside_mm or 0.0, 0.999 * (sheet.bearing_outside_mm or 1.0))
        )
        with out.working("holding"):
            out.holding_nm = max(
                out.step(
                    "Weight less friction", "T_h = T_off - T_b", weight - rub, "N*m", EXACT, T_off=weight, T_b=rub
                ),
                0.0,
            )
            out.findings.append(judge(LURCH, "need", weight - rub))
        with out.working("breakaway"):
            out.breakaway_nm = out.step(
                "From rest", "T_s = T_off + 2 T_b", weight + 2 * rub, "N*m", COMMON_PRACTICE, T_off=weight, T_b=rub
            )
        with out.working("peak"):
            out.peak_nm = out.step(
                "Work moved further out",
                "T_peak = 1.5 T_off + 2 T_b",
                1.5 * weight + 2 * rub,
                "N*m",
                COMMON_PRACTICE,
                T_off=weight,
                T_b=rub,
            )
    if out.running_nm is not None and out.speeds.ideal_rpm:
        with out.working("power"):
            out.say(
                "power_at_the_table",
                "Power at the table",
                power_from_torque_kw(out, out.running_nm, sheet.speed_ideal_rpm or out.speeds.ideal_rpm),
                "kW",
            )
    return out


def say(sheet: TurntableSheet, speed_rpm: float) -> tuple[Saying, ...]:
    """Travel at the seam and time a turn."""
    turn = Saying("turn", "a turn", 60 / speed_rpm, "s")
    most = sheet.seam_most_mm or sheet.seam_least_mm
    return (
        (turn,)
        if most is None
        else (Saying("largest_seam", "at the largest seam", rim_speed_m_per_s(most, speed_rpm) * 60, "m/min"), turn)
    )


def sketch(sheet: TurntableSheet) -> Sketch:
    """The table on its tilted axis, with the weight off it."""
    outside = sheet.bearing_outside_mm or (sheet.seam_most_mm or 600.0) * 0.5
    table = max(sheet.seam_most_mm or 0.0, outside * 1.6)
    lean = -radians(min(sheet.tilt_deg, 90.0))
    drawing = Sketch("The table on its axis, seen across the tilt")

    def tilt(*points: tuple[float, float]) -> list[tuple[float, float]]:
        return turned(points, lean)

    drawing.ground(-table * 0.7, table * 0.8, -table * 0.85)
    drawing.line((0, -table * 0.85), (0, 0))
    drawing.area(tilt((-outside / 2, -table * 0.08), (outside / 2, -table * 0.08), (outside / 2, 0), (-outside / 2, 0)))
    drawing.area(tilt((-table / 2, 0), (table / 2, 0), (table / 2, table * 0.06), (-table / 2, table * 0.06)), "motion")
    off = min(sheet.offset_mm if sheet.offset_mm is not None else table * 0.08, table * 0.4)
    drawing.area(
        tilt(
            (off - table * 0.25, table * 0.06),
            (off + table * 0.25, table * 0.06),
            (off + table * 0.25, table * 0.4),
            (off - table * 0.25, table * 0.4),
        ),
        "charge",
    )
    drawing.line(*tilt((0, -table * 0.3), (0, table * 0.55)), role="hidden")
    gravity = tilt((off, table * 0.23))[0]
    drawing.arrow(gravity, (gravity[0], gravity[1] - table * 0.4), "mass", sheet.mass_kg, "kg")
    a, b = tilt((0, table * 0.45), (off, table * 0.45))
    drawing.measure(a, b, "offset", sheet.offset_mm, 0.06)
    drawing.text((-table * 0.3, -table * 0.6), f"tilt {sheet.tilt_deg:g}°")
    return drawing


TURNTABLE = NeedKind(
    kind="turntable",
    title="Turntable or positioner",
    group="Lifting and moving",
    question="What does the table turn?",
    model=TurntableSheet,
    work=work,
    sketch=sketch,
    say=say,
    last_shaft="Table",
    duty="turntable or positioner",
    caution="Off-center work falls round when the drive lets go. Welding current must not return through the bearings.",
    advice="Speeds span 20 to 1 and more: plan a variable speed with two stages of reduction.",
    rules=(LURCH, RING),
    words="welding positioner rotary table stage carousel",
    starter={
        "mass_kg": 120,
        "offset_mm": 30,
        "height_mm": 150,
        "tilt_deg": 45,
        "bearing_outside_mm": 300,
        "bearing_inside_mm": 200,
        "seam_least_mm": 100,
        "seam_most_mm": 500,
        "travel_m_min": 0.3,
    },
)
