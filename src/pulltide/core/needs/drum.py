"""Rotating drum, tumbler, trommel or barrel, on rollers or on a shaft."""

from __future__ import annotations

from collections.abc import Iterator
from math import cos, pi, radians, sin, sqrt
from typing import Literal

from pydantic import Field

from pulltide.core.findings import COMMON_PRACTICE, EXACT, Check, Finding, Severity, Source, judge, judge_two
from pulltide.core.labels import choice
from pulltide.core.model import Degrees, Kg, KgPerM3, Mm, Plain
from pulltide.core.needs.contract import (
    Built,
    Corner,
    Hanging,
    NeedKind,
    Outcome,
    Saying,
    SpeedBand,
    StillUnknown,
    Worksheet,
    Zone,
    known,
    pick,
    row_band,
    say_power,
    table_rows,
    table_source,
)
from pulltide.core.sketch import Sketch, arc
from pulltide.core.units import G_M_PER_S2, RPM_PER_RAD_PER_S, rim_speed_m_per_s

Purpose = Literal[
    "gentle_wash",
    "sticky_blend",
    "thrown_blend",
    "concrete_drum",
    "rotary_dryer",
    "trommel_screen",
    "deburring_barrel",
    "rock_tumbler",
    "ball_mill",
]
#: Rolling arm by tread: the row of the friction table.
TREADS = {
    "steel": "steel wheel on steel",
    "polyurethane": "polyurethane tread on steel",
    "rubber": "pneumatic or soft rubber tread on steel",
}
ROLLER_BEARING = "sealed rolling bearing small (referred to shaft radius)"
TRACTION = "rubber drive roller on dry steel (traction)"
REGIMES = Source("Mellmann 2001", "regimes of a rotating bed", "quoted from memory")
LUMPS = {"fine": 1.3, "rock": 1.6, "big_stuck_lumps": 2.0}


class DrumSheet(Worksheet):
    """A batch lifted and tumbled by a turning shell."""

    BANDS = {"bed_angle_deg": (30.0, 40.0, 55.0)}

    kind: Literal["drum"] = "drum"
    purpose: Purpose = Field("trommel_screen", title="What it does")
    inside_diameter_mm: Mm | None = Field(None, title="Drum inside diameter", ge=100, le=4000, description="measured")
    length_mm: Mm | None = Field(None, title="Length filled", ge=50, le=10_000, description="measured")
    fill: Plain = Field(
        0.30, title="Part of the volume filled", ge=0.02, le=1, description="heaped, at rest; 1 is full"
    )
    bulk_density_kg_m3: KgPerM3 | None = Field(
        None, title="Density of the batch, wet", ge=50, le=5000, description="a bucket and a scale"
    )
    largest_piece_mm: Mm = Field(0.0, title="Largest piece", ge=0, le=800)
    bed_angle_deg: Degrees = Field(
        40.0, title="Angle it piles to", ge=5, le=90, description="30 to 55 degrees, common practice; 90 when it sticks"
    )
    bed_angle_low_deg: Degrees | None = Field(None, title="Angle it piles to, low", ge=5, le=90)
    bed_angle_high_deg: Degrees | None = Field(None, title="Angle it piles to, high", ge=5, le=90)
    sticks: bool = Field(
        False, title="Batch can set or stick", description="clay, concrete, dough: it then starts as one lump"
    )
    lumps: Literal["fine", "rock", "big_stuck_lumps"] = Field("fine", title="Falls as")
    tilt_deg: Degrees = Field(0.0, title="Axis tilted by", ge=0, le=30)
    shell_mass_kg: Kg | None = Field(None, title="Shell and fittings", gt=0, le=20_000)
    support: Literal["rollers", "shaft"] = Field("rollers", title="Carried on")
    tread_diameter_mm: Mm | None = Field(
        None, title="Track the rollers run on", ge=100, le=5000, description="outside diameter"
    )
    roller_diameter_mm: Mm | None = Field(None, title="Roller", ge=20, le=800)
    roller_pin_mm: Mm = Field(20.0, title="Roller axle", ge=4, le=120)
    roller_half_angle_deg: Degrees = Field(
        30.0, title="Rollers off the vertical by", ge=15, le=60, description="25 to 40, common practice"
    )
    tread: Literal["steel", "polyurethane", "rubber"] = Field("polyurethane", title="Roller tread")
    rolling_arm_mm: Mm | None = Field(
        None, title="Your own rolling arm", gt=0.05, le=30, description="steel 0.5, polyurethane 1.4, rubber 6"
    )
    roller_friction: Plain | None = Field(
        None, title="Roller bearing friction of your own", gt=0.0005, le=0.5, description="ball bearings 0.006"
    )
    driven_through: Literal["shell", "one_roller_line", "both_roller_lines"] = Field("shell", title="Driven through")


SPEED = Check(
    code="need.drum.speed",
    severity=Severity.WARNING,
    quantity="speed over critical",
    unit="share",
    fact="The drum throws or carries its batch instead of tumbling it",
    clear="The drum tumbles",
    base="0.65 of critical, a problem from 0.75; for a batch that is thrown 0.82 and 1",
    advice="Slow the drum.",
    source=REGIMES,
)
SLIDES = Check(
    code="need.drum.slides",
    severity=Severity.NOTE,
    quantity="speed over critical",
    relation=">=",
    unit="share",
    fact="At this low speed a smooth wall slides under the batch",
    clear="The wall carries the batch up",
    base="0.10 of critical, 0.05 in a dryer",
    advice="Fit lifters or turn faster.",
)
OVERFULL = Check(
    code="need.drum.fill",
    severity=Severity.WARNING,
    quantity="fill",
    unit="share",
    limits=(0.5,),
    fact="Over half full, the batch mixes poorly",
    clear="The fill leaves room to tumble",
    advice="Fill it less; overfilling makes it mix poorly.",
)
ROLLER_GRIP = Check(
    code="need.drum.traction",
    severity=Severity.ERROR,
    quantity="pull at the track x 1.5",
    unit="N",
    fact="The drive rollers slip on the shell",
    clear="The drive rollers grip the shell",
    base="grip of the rollers",
    advice="Drive the shell directly by belt, chain or ring gear.",
)


def half_angle_rad(fill: float) -> float:
    """Half angle θ of the bed from the fill J: J = (θ - sin θ cos θ) / π, by bisection.

    >>> round(half_angle_rad(0.30) * 180 / 3.141592653589793, 2)
    71.36
    """
    low, high = 0.0, pi
    for _ in range(60):
        middle = (low + high) / 2
        low, high = (middle, high) if (middle - sin(middle) * cos(middle)) / pi < fill else (low, middle)
    return (low + high) / 2


def critical_rpm(sheet: DrumSheet) -> float:
    """Speed at which the batch no longer leaves the wall [rpm]: n_c = 42.29 √(cos α / (D - d_p))."""
    (diameter,) = known(sheet.inside_diameter_mm)
    room = max(diameter - sheet.largest_piece_mm, 0.1 * diameter) / 1000
    return sqrt(2 * G_M_PER_S2 * cos(radians(sheet.tilt_deg)) / room) * RPM_PER_RAD_PER_S


#: Share of critical speed from which a drum throws, and above which it hardly tumbles, and below which it slides.
#: Common practice, no source; the last two also by the regimes.
THROWS, CARRIES, SLIDES_AT = (0.65, 0.75), (0.82, 1.0), {"rotary_dryer": 0.05}
#: Purposes that want the batch thrown.
THROWN = ("ball_mill", "thrown_blend")


def _tumbles(sheet: DrumSheet, fastest: float, usual: float) -> Iterator[Finding]:
    """Whether it tumbles at shares of critical speed."""
    weigh, fix = CARRIES if sheet.purpose in THROWN else THROWS
    yield judge_two(SPEED, "need", fastest, weigh, fix)
    yield judge(SLIDES, "need", usual, SLIDES_AT.get(sheet.purpose, 0.10))


def judge_built(sheet: DrumSheet, built: Built) -> Iterator[Finding]:
    """Whether it tumbles at the speeds the plan gives it."""
    if sheet.inside_diameter_mm is not None:
        critical = critical_rpm(sheet)
        yield from _tumbles(sheet, built.speed_rpm / critical, built.speed_rpm / critical)


def _speeds(sheet: DrumSheet, out: Outcome) -> None:
    (diameter,) = known(sheet.inside_diameter_mm)
    critical = out.step(
        "Critical speed",
        "n_c = 42.29 √(cos α / (D - d_p)) with lengths in m",
        critical_rpm(sheet),
        "rpm",
        EXACT,
        α=sheet.tilt_deg,
        D=diameter / 1000,
        d_p=sheet.largest_piece_mm / 1000,
    )
    row = table_rows("drum_speed_fraction", "purpose")[sheet.purpose]
    low, ideal, high = (float(row[name]) for name in ("frac_min", "frac_ideal", "frac_max"))
    speed = out.step(
        "Useful share of it",
        "n = x n_c",
        ideal * critical,
        "rpm",
        table_source("drum_speed_fraction"),
        x=ideal,
        n_c=critical,
    )
    reason = f"{low * 100:.0f} to {high * 100:.0f} % of critical for a {choice(sheet.purpose)}"
    out.speeds = SpeedBand(low * critical, speed, high * critical, reason)
    out.zones = (
        Zone(0, 0.1 * critical, "slides", "note"),
        Zone(0.1 * critical, 0.32 * critical, "rolls", "clear"),
        Zone(0.32 * critical, 0.65 * critical, "tumbles, throws", "clear"),
        Zone(0.65 * critical, critical, "rides high", "weigh"),
        Zone(critical, 1.15 * critical, "rides the wall", "fix"),
    )
    most = (sheet.speed_max_rpm or out.speeds.max_rpm or 0) / critical
    out.findings.extend(_tumbles(sheet, most, (sheet.speed_ideal_rpm or speed) / critical))
    out.say("critical_speed", "Critical speed", critical, "rpm")


def _bed(sheet: DrumSheet, out: Outcome) -> tuple[float, float]:
    """Mass of the batch [kg] and radius of its center of gravity [m]."""
    diameter, length, density = known(sheet.inside_diameter_mm, sheet.length_mm, sheet.bulk_density_kg_m3)
    radius = diameter / 2000
    theta = half_angle_rad(sheet.fill)
    mass = out.step(
        "Batch",
        "m = ρ π R² L J",
        density * pi * radius**2 * length / 1000 * sheet.fill,
        "kg",
        EXACT,
        ρ=density,
        R=radius,
        L=length / 1000,
        J=sheet.fill,
    )
    arm = 2 / 3 * radius * sin(theta) ** 3 / (theta - sin(theta) * cos(theta))
    out.step(
        "Its center of gravity from the axis, in m",
        "r = 2/3 R sin³θ / (θ - sin θ cos θ)",
        arm,
        "",
        EXACT,
        R=radius,
        θ=theta,
    )
    return mass, arm


def lift_nm(sheet: DrumSheet, mass_kg: float, arm_m: float, angle_deg: float) -> float:
    """Torque to hold the batch up [N·m]: m g cos α r sin ψ."""
    return mass_kg * G_M_PER_S2 * cos(radians(sheet.tilt_deg)) * arm_m * sin(radians(min(angle_deg, 90.0)))


def _rolling(sheet: DrumSheet, out: Outcome, mass: float, corner: Corner) -> float:
    """Torque of the rollers [N·m], or of a shaft's bearings, which is small beside the lift."""
    if sheet.support == "shaft":
        return 0.0
    shell, track, roller = known(sheet.shell_mass_kg, sheet.tread_diameter_mm, sheet.roller_diameter_mm)
    weight = (mass + shell) * G_M_PER_S2 * cos(radians(sheet.tilt_deg))
    normal = out.step(
        "Load on all rollers",
        "ΣN = W / cos φ",
        weight / cos(radians(sheet.roller_half_angle_deg)),
        "N",
        EXACT,
        W=weight,
        φ=sheet.roller_half_angle_deg,
    )
    arm = sheet.rolling_arm_mm or pick(row_band("friction", "pair", TREADS[sheet.tread]), corner)
    bearing = sheet.roller_friction or pick(row_band("friction", "pair", ROLLER_BEARING), corner)
    share = arm * (2 / track + 2 / roller) + bearing * sheet.roller_pin_mm / roller
    return out.step(
        "Rolling",
        "T_roll = ΣN (f (1/R_t + 1/r_r) + μ r_p/r_r) R_t / 1000",
        normal * share * track / 2000,
        "N*m",
        table_source("friction"),
        ΣN=normal,
        f=arm,
        R_t=track / 2,
        r_r=roller / 2,
        μ=bearing,
        r_p=sheet.roller_pin_mm / 2,
    )


def work(sheet: DrumSheet, corner: Corner) -> Outcome:
    """Lift of the batch and rolling of the shell."""
    out = Outcome()
    angle = sheet.at("bed_angle_deg", corner)
    lift = rolling = mass = arm = 0.0
    with out.working("speed"):
        _speeds(sheet, out)
    with out.working("running"):
        mass, arm = _bed(sheet, out)
        lift = out.step(
            "Lifting the batch",
            "T_lift = m g r sin ψ cos α",
            lift_nm(sheet, mass, arm, angle),
            "N*m",
            EXACT,
            m=mass,
            g=G_M_PER_S2,
            r=arm,
            ψ=angle,
            α=sheet.tilt_deg,
        )
        rolling = _rolling(sheet, out, mass, corner)
        out.running_nm = out.step(
            "Running torque", "T = T_lift + T_roll", lift + rolling, "N*m", EXACT, T_lift=lift, T_roll=rolling
        )
    if out.running_nm is None:
        return out
    _peaks(sheet, out, (mass, arm), (lift, rolling), angle)
    if sheet.shell_mass_kg and sheet.inside_diameter_mm:
        with out.working("inertia"):
            radius = sheet.inside_diameter_mm / 2000
            value = sheet.shell_mass_kg * radius**2 + mass * (arm**2 + radius**2 / 4)
            out.inertia_kgm2 = out.step(
                "Inertia at the drum",
                "J = m_s R² + m (r² + R²/4)",
                value,
                "kg*m**2",
                EXACT,
                m_s=sheet.shell_mass_kg,
                R=radius,
                m=mass,
                r=arm,
            )
    out.findings.append(judge(OVERFULL, "need", sheet.fill))
    out.say("batch", "Batch", mass, "kg")
    say_power(sheet, out, "Power at the drum")
    _traction(sheet, out, mass)
    return out


def _peaks(
    sheet: DrumSheet, out: Outcome, bed: tuple[float, float], torques: tuple[float, float], angle: float
) -> None:
    lift, rolling = torques
    with out.working("peak"):
        factor = LUMPS[sheet.lumps]
        out.peak_nm = out.step(
            "Lumps stuck, then falling",
            "T_peak = k T_lift + T_roll",
            factor * lift + rolling,
            "N*m",
            COMMON_PRACTICE,
            k=factor,
            T_lift=lift,
            T_roll=rolling,
        )
    with out.working("breakaway"):
        steepest = 90.0 if sheet.sticks else min(angle + 10, 90.0)
        stuck = lift_nm(sheet, *bed, steepest)
        again = float(table_rows("friction", "pair")[TREADS[sheet.tread]]["breakaway_factor"])
        out.breakaway_nm = out.step(
            "Riding up until it slips, rollers from rest",
            "T_b = m g r sin ψ_b cos α + k T_roll",
            stuck + again * rolling,
            "N*m",
            COMMON_PRACTICE,
            m=bed[0],
            g=G_M_PER_S2,
            r=bed[1],
            ψ_b=steepest,
            α=sheet.tilt_deg,
            k=again,
            T_roll=rolling,
        )


def _traction(sheet: DrumSheet, out: Outcome, mass: float) -> None:
    if (
        sheet.driven_through == "shell"
        or sheet.support == "shaft"
        or not (sheet.shell_mass_kg and sheet.tread_diameter_mm)
    ):
        return
    weight = (mass + sheet.shell_mass_kg) * G_M_PER_S2 * cos(radians(sheet.tilt_deg))
    normal = (
        weight / cos(radians(sheet.roller_half_angle_deg)) * (0.5 if sheet.driven_through == "one_roller_line" else 1.0)
    )
    grip = row_band("friction", "pair", TRACTION)[0] * normal
    pull = (out.running_nm or 0.0) * 1.5 / (sheet.tread_diameter_mm / 2000)
    out.findings.append(judge(ROLLER_GRIP, "need", pull, grip))


def say(sheet: DrumSheet, speed_rpm: float) -> tuple[Saying, ...]:
    """Share of critical speed and rim speed."""
    if sheet.inside_diameter_mm is None:
        return ()
    return (
        Saying("critical_share", "of critical speed", speed_rpm / critical_rpm(sheet), "share"),
        Saying("rim", "at the rim", rim_speed_m_per_s(sheet.inside_diameter_mm, speed_rpm), "m/s"),
    )


def sketch(sheet: DrumSheet) -> Sketch:
    """The drum end on, turning clockwise: the batch is carried up on the side that comes down last."""
    diameter = sheet.inside_diameter_mm or 900.0
    radius, theta, lean = diameter / 2, half_angle_rad(sheet.fill), radians(sheet.bed_angle_deg)
    drawing = Sketch("The drum seen from its end, with the batch leaning to the side it is carried up")
    middle = -pi / 2 - lean
    drawing.circle((0, 0), radius)
    drawing.area(arc((0, 0), radius, middle - theta, middle + theta), "charge")
    gravity = 2 / 3 * radius * sin(theta) ** 3 / (theta - sin(theta) * cos(theta))
    at = (gravity * cos(middle), gravity * sin(middle))
    mass = None
    if sheet.length_mm and sheet.bulk_density_kg_m3 and sheet.inside_diameter_mm:
        mass = sheet.bulk_density_kg_m3 * pi * (radius / 1000) ** 2 * sheet.length_mm / 1000 * sheet.fill
    drawing.arrow(at, (at[0], at[1] - radius * 0.62), "batch", mass, "kg")
    drawing.line((0, 0), (0, -radius), role="hidden")
    drawing.measure((at[0], -radius * 0.12), (0, -radius * 0.12), "arm", gravity * sin(lean), 0.0)
    drawing.turn((0, 0), radius * 0.72)
    drawing.measure((-radius, radius), (radius, radius), "inside", sheet.inside_diameter_mm, 0.1)
    if sheet.support == "rollers":
        _rollers(sheet, drawing, radius)
    else:
        drawing.circle((0, 0), radius * 0.06, "part")
    return drawing


def _rollers(sheet: DrumSheet, drawing: Sketch, radius: float) -> None:
    track = max((sheet.tread_diameter_mm or 2.04 * radius) / 2, radius)
    roller = (sheet.roller_diameter_mm or 0.3 * radius) / 2
    drawing.line(*arc((0, 0), track, 0.0, 2 * pi), role="thin")
    side = radians(sheet.roller_half_angle_deg)
    for sign in (-1, 1):
        drawing.circle((sign * (track + roller) * sin(side), -(track + roller) * cos(side)), roller)
    low = -(track + roller) * cos(side) - roller
    drawing.ground(-track * 1.25, track * 1.25, low)
    right = (track + roller) * sin(side)
    drawing.measure((right - roller, low), (right + roller, low), "roller", sheet.roller_diameter_mm, -0.1)


def residence_min(length_m: float, diameter_m: float, speed_rpm: float, slope_deg: float, repose_deg: float) -> float:
    """Time a grain stays in an inclined drum [min]: 1.77 √β L / (S D n). Source: U.S. Bureau of Mines, Sullivan 1927.

    >>> round(residence_min(1.5, 1.2, 10.0, 3.0, 40.0), 3)
    0.466
    """
    return 1.77 * sqrt(repose_deg) * length_m / (slope_deg * diameter_m * speed_rpm)


DUTY = {
    "trommel_screen": "trommel screen",
    "ball_mill": "ball or tumbling mill",
    "concrete_drum": "drum with rock or concrete",
    "rock_tumbler": "drum with rock or concrete",
    "deburring_barrel": "drum with rock or concrete",
}


def duty(sheet: DrumSheet) -> str:
    """Row of the table of duty classes, by what the drum does."""
    return DUTY.get(sheet.purpose, "drum on rollers loose dry load")


def hides(sheet: DrumSheet) -> frozenset[str]:
    """Roller fields while the drum runs on a shaft."""
    rollers = {
        "tread_diameter_mm",
        "roller_diameter_mm",
        "roller_pin_mm",
        "roller_half_angle_deg",
        "tread",
        "rolling_arm_mm",
        "roller_friction",
        "driven_through",
    }
    return frozenset() if sheet.support == "rollers" else frozenset(rollers)


def hangs(sheet: DrumSheet) -> Hanging | None:
    """The batch, carried to the angle it piles to."""
    try:
        mass, arm = _bed(sheet, Outcome())
    except StillUnknown:
        return None
    return Hanging(lift_nm(sheet, mass, arm, 90.0), radians(min(sheet.bed_angle_deg, 90.0)))


DRUM = NeedKind(
    kind="drum",
    title="Drum or tumbler",
    group="Mixing and tumbling",
    question="What must the drum do?",
    model=DrumSheet,
    work=work,
    sketch=sketch,
    say=say,
    last_shaft="Drum",
    duty_by_sheet=duty,
    caution="A turning drum drags sleeves and gloves in at the rollers. Guard both nip lines and fit a stop "
    "that can be "
    "reached from the loading side.",
    advice="Surer than a formula: wind a rope round the loaded drum and pull it with a luggage scale until the "
    "batch rolls.",
    rules=(SPEED, SLIDES, OVERFULL, ROLLER_GRIP),
    hides=hides,
    judge_built=judge_built,
    hangs=hangs,
    words="washer tumbler trommel barrel mill kiln dryer composter raw hide seaweed rock polish sieve",
    starter={
        "inside_diameter_mm": 900,
        "length_mm": 2400,
        "fill": 0.18,
        "bulk_density_kg_m3": 550,
        "bed_angle_deg": 45,
        "bed_angle_low_deg": 35,
        "bed_angle_high_deg": 55,
        "tilt_deg": 5,
        "shell_mass_kg": 145,
        "tread_diameter_mm": 930,
        "roller_diameter_mm": 150,
    },
)
