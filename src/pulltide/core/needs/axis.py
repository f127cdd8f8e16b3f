"""Motion axis that starts and stops: profile, equivalent torque, inertia, backlash."""

from __future__ import annotations

from collections.abc import Iterator
from math import cos, pi, radians, sqrt
from typing import Literal

from pydantic import Field

from pulltide.core.duty import Segment
from pulltide.core.findings import COMMON_PRACTICE, EXACT, Check, Finding, Severity, judge, judge_two
from pulltide.core.model import Arcmin, Degrees, Kg, KgM2, Mm, Nm, Plain, Seconds
from pulltide.core.needs.contract import Built, Corner, Move, NeedKind, Outcome, Saying, SpeedBand, Worksheet, known
from pulltide.core.sketch import Sketch, arc
from pulltide.core.units import G_M_PER_S2, RPM_PER_RAD_PER_S


class AxisSheet(Worksheet):
    """One move, its acceleration, gravity and friction, and a dwell."""

    BANDS = {"friction_nm": (0.6, 1.0, 1.6)}

    kind: Literal["axis"] = "axis"
    move_deg: Degrees | None = Field(None, title="Move", ge=0.1, le=36_000)
    move_s: Seconds | None = Field(None, title="Time for the move", ge=0.01, le=600)
    accelerating: Plain = Field(
        0.3333, title="Part of it spent speeding up", ge=0.02, le=0.5, description="the same again slowing down"
    )
    dwell_s: Seconds = Field(0.0, title="Rest after the move", ge=0, le=3600)
    inertia_kgm2: KgM2 | None = Field(None, title="Inertia turned", gt=0, le=5000)
    mass_kg: Kg = Field(0.0, title="Mass that gravity pulls on", ge=0, le=5000)
    mass_radius_mm: Mm = Field(0.0, title="Its radius", ge=0, le=5000)
    start_deg: Degrees = Field(0.0, title="It starts above level by", ge=-180, le=180)
    friction_nm: Nm = Field(0.0, title="Friction", ge=0, le=5000)
    motor_inertia_kgm2: KgM2 | None = Field(None, title="Inertia of the motor", gt=0, le=10)
    ratio: Plain | None = Field(None, title="Ratio planned, motor to axis", ge=0.5, le=1000)
    backlash_arcmin: Arcmin | None = Field(None, title="Backlash of the reducer", ge=0, le=200)
    radius_mm: Mm | None = Field(None, title="Radius that must be true", ge=1, le=5000)
    allowed_mm: Mm | None = Field(None, title="Play allowed there", gt=0, le=50)


INERTIA = Check(
    code="need.axis.inertia",
    severity=Severity.WARNING,
    quantity="inertia ratio",
    limits=(10.0, 20.0),
    fact="Load inertia is high compared with the motor’s, so it will hunt",
    clear="The inertia ratio is workable",
    advice="Raise the ratio or use a larger motor.",
)
BACKLASH = Check(
    code="need.axis.backlash",
    severity=Severity.WARNING,
    quantity="play at the radius",
    unit="mm",
    fact="Backlash leaves more play than you allow",
    clear="Backlash is within the play you allow",
    base="play you allow",
    advice="Use a finer grade of reducer.",
)


def judge_built(sheet: AxisSheet, built: Built) -> Iterator[Finding]:
    """Inertia ratio and play of the plan itself."""
    if sheet.inertia_kgm2 and built.rotor_inertia_kgm2:
        share = sheet.inertia_kgm2 / built.ratio**2 / built.rotor_inertia_kgm2
        yield judge_two(INERTIA, "need", share)
    if built.play_arcmin is not None and sheet.radius_mm and sheet.allowed_mm:
        yield judge(BACKLASH, "need", backlash_mm(sheet.radius_mm, built.play_arcmin), sheet.allowed_mm)


def backlash_mm(radius_mm: float, backlash_arcmin: float) -> float:
    """Play at a radius [mm]: r β π / 10800.

    >>> round(backlash_mm(500.0, 10.0), 3)
    1.454
    """
    return radius_mm * backlash_arcmin * pi / 10_800


def _profile(sheet: AxisSheet, out: Outcome) -> tuple[float, float, float]:
    """Peak speed [rad/s], acceleration [rad/s²], time speeding up [s]."""
    move, seconds = known(sheet.move_deg, sheet.move_s)
    rising = sheet.accelerating * seconds
    peak = radians(move) / (seconds - rising)
    return peak, peak / rising, rising


def segments(sheet: AxisSheet, friction_nm: float) -> list[tuple[float, float, float]]:
    """Time [s], torque [N·m] and mean speed [rpm] of speeding up, running, slowing down, rest; gravity at its worst."""
    peak, acceleration, rising = _profile(sheet, Outcome())
    move, seconds, inertia = known(sheet.move_deg, sheet.move_s, sheet.inertia_kgm2)
    angles = [sheet.start_deg + move * k / 36 for k in range(37)]
    gravity = (
        sheet.mass_kg * G_M_PER_S2 * sheet.mass_radius_mm / 1000 * max(abs(cos(radians(angle))) for angle in angles)
    )
    speed = peak * RPM_PER_RAD_PER_S
    thrust = inertia * acceleration
    return [
        (rising, thrust + gravity + friction_nm, speed / 2),
        (max(seconds - 2 * rising, 0.0), gravity + friction_nm, speed),
        (rising, gravity + friction_nm - thrust, speed / 2),
        (sheet.dwell_s, gravity if sheet.mass_kg else 0.0, 0.0),
    ]


def rms(parts: list[tuple[float, float, float]]) -> float:
    """Root mean square torque over the cycle, rest included: √(Σ T² t / Σ t)."""
    return sqrt(sum(t * torque**2 for t, torque, _ in parts) / sum(t for t, _, _ in parts))


def rmc(parts: list[tuple[float, float, float]]) -> float:
    """Root mean cube torque over the turns made: (Σ n t |T|³ / Σ n t)^(1/3)."""
    turns = sum(t * n for t, _, n in parts)
    return float((sum(t * n * abs(torque) ** 3 for t, torque, n in parts) / turns) ** (1 / 3))


def work(sheet: AxisSheet, corner: Corner) -> Outcome:
    """Root-mean-square torque for heat, the peak for strength."""
    out = Outcome()
    with out.working("speed"):
        peak, acceleration, rising = _profile(sheet, out)
        move, seconds = known(sheet.move_deg, sheet.move_s)
        top = out.step(
            "Peak speed",
            "n = 9.549 θ / (t - t_a)",
            peak * RPM_PER_RAD_PER_S,
            "rpm",
            EXACT,
            θ=radians(move),
            t=seconds,
            t_a=rising,
        )
        out.step("Acceleration, in rad/s²", "α = ω / t_a", acceleration, "", EXACT, ω=peak, t_a=rising)
        out.steps["speed"].reverse()
        out.speeds = SpeedBand(top, 1.05 * top, 1.6 * top, "at least the peak of the move; a little over leaves room")
    with out.working("running"):
        parts = segments(sheet, sheet.at("friction_nm", corner))
        for name, (seconds, torque, _) in zip(
            ("Speeding up", "Running", "Slowing down", "Resting"), parts, strict=True
        ):
            out.step(name, "T = J α + T_g + T_f", torque, "N*m", EXACT, t=seconds)
        out.running_nm = out.step(
            "Root mean square", "T_rms = √(Σ T² t / Σ t)", rms(parts), "N*m", EXACT, Σt=sum(part[0] for part in parts)
        )
        out.say("root_mean_cube_for_the_reducer", "Root mean cube, for the reducer", rmc(parts), "N*m")
        top = max(part[2] for part in parts)
        if out.running_nm > 0:
            out.cycle = tuple(
                Segment(seconds=t, torque_share=round(torque / out.running_nm, 9), speed_share=n / top)
                for t, torque, n in parts
                if t > 0 and abs(torque) <= 20 * out.running_nm
            )
        with out.working("peak"):
            out.peak_nm = out.step(
                "Speeding up",
                "T_peak = J α + T_g + T_f",
                max(abs(part[1]) for part in parts),
                "N*m",
                EXACT,
                J=sheet.inertia_kgm2 or 0.0,
            )
        with out.working("breakaway"):
            out.breakaway_nm = out.step(
                "First move", "T_b = T_peak", out.peak_nm or 0.0, "N*m", COMMON_PRACTICE, T_peak=out.peak_nm or 0.0
            )
        out.inertia_kgm2 = sheet.inertia_kgm2
        out.holding_nm = parts[3][1]
        with out.working("inertia"):
            out.step("As entered", "J = as entered", out.inertia_kgm2 or 0.0, "kg*m**2", EXACT)
        with out.working("holding"):
            out.step(
                "Gravity at rest",
                "T_h = m g r",
                out.holding_nm,
                "N*m",
                EXACT,
                m=sheet.mass_kg,
                g=G_M_PER_S2,
                r=sheet.mass_radius_mm / 1000,
            )
    _check(sheet, out)
    return out


def _check(sheet: AxisSheet, out: Outcome) -> None:
    if sheet.inertia_kgm2 and sheet.motor_inertia_kgm2:
        out.say(
            "ratio_for_the_quickest_start",
            "Ratio for the quickest start",
            sqrt(sheet.inertia_kgm2 / sheet.motor_inertia_kgm2),
            "",
        )
        if sheet.ratio:
            share = sheet.inertia_kgm2 / sheet.ratio**2 / sheet.motor_inertia_kgm2
            out.say("inertia_ratio", "Inertia ratio", share, "")
            out.findings.append(judge_two(INERTIA, "need", share))
    if sheet.backlash_arcmin is not None and sheet.radius_mm:
        play = backlash_mm(sheet.radius_mm, sheet.backlash_arcmin)
        out.say("play_at_the_radius", "Play at the radius", play, "mm")
        if sheet.allowed_mm:
            out.findings.append(judge(BACKLASH, "need", play, sheet.allowed_mm))


def say(sheet: AxisSheet, speed_rpm: float) -> tuple[Saying, ...]:
    """Time for the move at this peak speed, and degrees a second."""
    turn = Saying("second", "a second", 6 * speed_rpm, "deg")
    if sheet.move_deg is None or sheet.move_s is None:
        return (turn,)
    return (Saying("move", "for the move", sheet.move_deg / (6 * speed_rpm) / (1 - sheet.accelerating), "s"), turn)


def sketch(sheet: AxisSheet) -> Sketch:
    """The arm over its move, and the speed over time below it."""
    radius = sheet.radius_mm or sheet.mass_radius_mm or 400.0
    drawing = Sketch("The arm over its move, and speed over time")
    start = radians(sheet.start_deg)
    end = start + radians(min(sheet.move_deg or 90.0, 300.0))
    far, near = arc((0, 0), radius, end, end + 0.01)[0], arc((0, 0), radius, start, start + 0.01)[0]
    drawing.line(*arc((0, 0), radius, start, end), role="hidden")
    drawing.line((0, 0), far, role="thin")
    drawing.line((0, 0), near, role="motion")
    drawing.circle((0, 0), radius * 0.12)
    drawing.measure((0, 0), near, "radius", sheet.radius_mm, -0.08)
    low, wide = -radius * 1.75, radius * 1.9
    left = -wide / 2
    drawing.line((left, low), (left + wide, low), role="thin")
    run = wide * 0.75
    rise = sheet.accelerating * run
    drawing.line(
        (left, low),
        (left + rise, low + radius * 0.5),
        (left + run - rise, low + radius * 0.5),
        (left + run, low),
        role="motion",
    )
    drawing.measure((left, low), (left + run, low), "time", sheet.move_s, -0.08, "s")
    return drawing


def move(sheet: AxisSheet) -> Move | None:
    """The move of the sheet; gravity goes with the angle that the load has by then."""
    if sheet.move_deg is None or sheet.move_s is None:
        return None

    def gravity(gone: float) -> float:
        return sheet.mass_kg * G_M_PER_S2 * sheet.mass_radius_mm / 1000 * cos(radians(sheet.start_deg) + gone)

    return Move(
        angle_rad=radians(sheet.move_deg),
        seconds=sheet.move_s,
        rising_s=sheet.accelerating * sheet.move_s,
        dwell_s=sheet.dwell_s,
        gravity_nm=gravity,
        friction_nm=sheet.friction_nm,
    )


AXIS = NeedKind(
    kind="axis",
    title="Motion axis",
    group="Lifting and moving",
    question="What must the axis do?",
    model=AxisSheet,
    work=work,
    sketch=sketch,
    say=say,
    last_shaft="Axis",
    duty="indexing table or motion axis",
    caution="An axis near people needs hard stops, a torque limit, and a way to free what it has caught. Enable "
    "stops and safe speeds are for a qualified person.",
    advice="Worn, a reducer has twice its backlash.",
    rules=(INERTIA, BACKLASH),
    judge_built=judge_built,
    move=move,
    words="robot joint camera slider arm motion telescope",
    starter={
        "move_deg": 90,
        "move_s": 1,
        "dwell_s": 2,
        "inertia_kgm2": 2.4,
        "mass_kg": 6,
        "mass_radius_mm": 450,
        "friction_nm": 3,
        "motor_inertia_kgm2": 0.0003,
        "ratio": 50,
        "backlash_arcmin": 10,
        "radius_mm": 500,
        "allowed_mm": 2,
    },
)
