"""Mechanical power hammer driven by a crank through a spring, toggle or helve."""

from __future__ import annotations

from collections.abc import Iterator
from math import cos, log, pi, radians, sin, sqrt
from typing import Literal

from pydantic import Field

from pulltide.core.findings import (
    COMMON_PRACTICE,
    EXACT,
    Check,
    Finding,
    Remark,
    Severity,
    Source,
    judge,
    judge_two,
    state,
)
from pulltide.core.labels import quantity
from pulltide.core.model import Kg, Mm, Plain
from pulltide.core.needs.contract import (
    Built,
    Corner,
    NeedKind,
    Outcome,
    Pulse,
    Saying,
    SpeedBand,
    Worksheet,
    known,
    rad_per_s,
    table_source,
    torque_from_power_nm,
)
from pulltide.core.needs.drop import FALLS, drop, falls
from pulltide.core.needs.flywheel import DIAMETER, MASS, told_as_disc, too_light
from pulltide.core.sketch import Sketch
from pulltide.core.tables import load_table
from pulltide.core.units import G_M_PER_S2

FLUCTUATION = Source("Marks’ and Kent’s handbooks", "coefficients of fluctuation: hammers 0.2", "quoted from memory")


class HammerSheet(Worksheet):
    """Energy a blow, torque over a turn, flywheel."""

    BANDS = {"whip": (1.0, 1.3, 1.6)}

    kind: Literal["hammer"] = "hammer"
    ram_mass_kg: Kg | None = Field(
        None, title="Ram with top die", ge=2, le=600, description="weighed, with half the link"
    )
    stroke_mm: Mm | None = Field(None, title="Stroke at speed", ge=40, le=800)
    drive: Literal["crank", "cam", "rope_or_board"] = Field(
        "crank", title="Ram driven by", description="a cam or a rope lifts it and lets it fall"
    )
    lobes: int = Field(1, title="Lifts a turn", ge=1, le=6, description="lobes of the cam")
    lift_share: Plain = Field(
        0.6,
        title="Share of the turn that lifts",
        ge=0.3,
        le=0.8,
        description="the rest is left to fall, common practice",
    )
    linkage: Literal["spring", "toggle_or_helve", "rigid"] = Field("spring", title="Crank to ram by")
    whip: Plain = Field(
        1.3, title="Whip", ge=0.8, le=2.2, description="impact over crank speed, 1.0 to 1.6, common practice"
    )
    linkage_efficiency: Plain = Field(
        0.70, title="Linkage and guides pass on", ge=0.4, le=0.95, description="0.6 to 0.8, common practice"
    )
    fluctuation: Plain = Field(
        0.20, title="Speed may swing by", ge=0.02, le=0.5, description="hammers 0.2; a stiff motor wants 0.08"
    )
    energy_share: Plain = Field(
        0.9, title="Share of the blow from the flywheel", ge=0.3, le=1.5, description="common practice"
    )
    wheel_diameter_mm: Mm | None = Field(None, title=DIAMETER, ge=100, le=3000)
    wheel_mass_kg: Kg | None = Field(
        None, title=MASS, gt=0.5, le=5000, description="weighed; counted as a solid disc of that diameter"
    )


WHEEL = too_light("hammer")
RIGID = Remark(
    code="need.hammer.rigid",
    severity=Severity.ERROR,
    quantity="linkage",
    fact="A rigid crank has no give at the bottom and wrecks itself on the work",
    advice="Put a spring, a toggle or a helve between crank and ram.",
)
RATE = Check(
    code="need.hammer.rate",
    severity=Severity.WARNING,
    quantity="blows a minute",
    unit="rpm",
    fact="At this blow rate the ram cannot follow its linkage",
    clear="The blow rate suits the ram",
    limits=(1.0, 1.25),
    base="usual blows a minute of the ram",
    advice="Lower the blow rate.",
    source=Source("shop practice", "blow rates by ram mass", "common practice"),
)


SLOW = Check(
    code="need.hammer.slow",
    severity=Severity.WARNING,
    quantity="impact speed of the ram",
    relation=">=",
    unit="m/s",
    limits=(1.5,),
    fact="Too slow for its stroke: the ram hits weakly",
    clear="The crank is fast enough for its stroke",
    advice="Lower the ratio, lengthen the stroke, or use a toggle or helve that throws more.",
    source=Source("shop practice", "impact speeds of power hammers", "common practice"),
)


def judge_built(sheet: HammerSheet, built: Built) -> Iterator[Finding]:
    """Blow rate and impact at the speed the plan gives."""
    if sheet.drive != "crank":
        yield from falls(sheet, built.fastest_rpm)
        return
    if sheet.ram_mass_kg is not None:
        high = practice(sheet.ram_mass_kg, "blows_min_high")
        yield judge_two(RATE, "need", built.speed_rpm, of=high)
    if sheet.stroke_mm is not None:
        yield judge(SLOW, "need", impact_m_per_s(sheet, built.speed_rpm, sheet.whip))


def practice(ram_kg: float, column: str) -> float:
    """A column of the table of practice at a ram mass, between its rows in proportion to log mass."""
    rows = [
        (float(row["ram_kg"]), float(row[column])) for row in load_table("pulltide.core.needs", "hammer_rules").rows
    ]
    if ram_kg <= rows[0][0] or ram_kg >= rows[-1][0]:
        edge = rows[0] if ram_kg <= rows[0][0] else rows[-1]
        return edge[1] * (ram_kg / edge[0]) ** (-0.2) if column.startswith("blows") else edge[1]
    upper = next(index for index, row in enumerate(rows) if row[0] >= ram_kg)
    (m1, v1), (m2, v2) = rows[upper - 1], rows[upper]
    share = log(ram_kg / m1) / log(m2 / m1)
    return v1 + (v2 - v1) * share


def impact_m_per_s(sheet: HammerSheet, blows: float, whip: float) -> float:
    """Impact speed [m/s]: k_v π n s / 60."""
    (stroke,) = known(sheet.stroke_mm)
    return whip * pi * blows * stroke / 60_000


def peak_crank_torque_nm(energy_j: float, lift_nm: float) -> float:
    """Largest of m g s/2 sin θ + E sin 2θ over a turn [N·m], with ``lift_nm`` = m g s/2.

    Where its slope is zero, 4 E c² + a c - 2 E = 0 for c = cos θ.
    """
    cosine = (-lift_nm + sqrt(lift_nm**2 + 32 * energy_j**2)) / (8 * energy_j)
    sine = sqrt(max(1 - cosine**2, 0.0))
    return lift_nm * sine + 2 * energy_j * sine * cosine


def _speeds(sheet: HammerSheet, out: Outcome) -> None:
    (ram,) = known(sheet.ram_mass_kg)
    low, ideal, high = (practice(ram, f"blows_min_{end}") for end in ("low", "typical", "high"))
    out.step("Blows a minute in practice", "n = by ram mass", ideal, "rpm", table_source("hammer_rules"), m=ram)
    out.speeds = SpeedBand(low, ideal, high, f"blow rates of hammers with a {quantity(ram, 'kg')} ram")
    out.findings.append(judge_two(RATE, "need", sheet.speed_ideal_rpm or ideal, of=high))
    if sheet.stroke_mm is not None:
        speed = impact_m_per_s(sheet, sheet.speed_ideal_rpm or ideal, sheet.whip)
        out.findings.append(judge(SLOW, "need", speed))
    out.say(
        "bar_it_works_steadily_square", "Bar it works steadily, square", practice(ram, "work_mm_square_steady"), "mm"
    )
    out.say("motor_in_practice", "Motor in practice", practice(ram, "motor_kW_practice"), "kW")


def work(sheet: HammerSheet, corner: Corner) -> Outcome:
    """Mean torque from the energy of the blow, peak from the crank, and the flywheel between them."""
    if sheet.drive != "crank":
        return drop(sheet, corner)
    out = Outcome(load_exponent=2.0, fluctuation=sheet.fluctuation)
    with out.working("speed"):
        _speeds(sheet, out)
    if sheet.linkage == "rigid":
        out.findings.append(state(RIGID, "need"))
        return out
    with out.working("running"):
        ram, stroke, blows = known(sheet.ram_mass_kg, sheet.stroke_mm, sheet.speed_ideal_rpm or out.speeds.ideal_rpm)
        whip = sheet.at("whip", corner)
        speed = out.step(
            "Impact speed",
            "v_i = k π n s / 60",
            impact_m_per_s(sheet, blows, whip),
            "m/s",
            COMMON_PRACTICE,
            k=whip,
            n=blows,
            s=stroke / 1000,
        )
        energy = out.step("Energy of a blow, in J", "E = m v_i² / 2", 0.5 * ram * speed**2, "", EXACT, m=ram, v_i=speed)
        power = out.step(
            "Mean power",
            "P = E n / (60000 η)",
            energy * blows / 60_000 / sheet.linkage_efficiency,
            "kW",
            COMMON_PRACTICE,
            E=energy,
            n=blows,
            η=sheet.linkage_efficiency,
        )
        out.running_nm = torque_from_power_nm(out, power, blows)
        out.say("mean_power", "Mean power", power, "kW")
        out.say("energy_of_a_blow", "Energy of a blow", energy, "J")
        _swing(sheet, out, energy, blows)
    return out


def _swing(sheet: HammerSheet, out: Outcome, energy: float, blows: float) -> None:
    ram, stroke = known(sheet.ram_mass_kg, sheet.stroke_mm)
    lift = ram * G_M_PER_S2 * stroke / 2000
    with out.working("peak"):
        out.peak_nm = out.step(
            "Largest over a turn",
            "T_peak = max of T_w sin θ + E sin 2θ",
            peak_crank_torque_nm(energy, lift),
            "N*m",
            EXACT,
            T_w=lift,
            E=energy,
        )
    with out.working("breakaway"):
        out.breakaway_nm = out.step(
            "Ram at its worst angle", "T_b = m g s / 2", lift, "N*m", EXACT, m=ram, g=G_M_PER_S2, s=stroke / 1000
        )
    with out.working("inertia"):
        swing = sheet.energy_share * energy
        value = swing / (sheet.fluctuation * rad_per_s(blows) ** 2)
        out.inertia_kgm2 = out.step(
            "Flywheel at the crank",
            "J = x E / (C_s ω²)",
            value,
            "kg*m**2",
            FLUCTUATION,
            x=sheet.energy_share,
            E=energy,
            C_s=sheet.fluctuation,
            ω=rad_per_s(blows),
        )
    at_hand = told_as_disc(out, sheet.wheel_diameter_mm, sheet.wheel_mass_kg, WHEEL)
    if at_hand is not None:
        out.fluctuation = sheet.fluctuation * value / at_hand


def say(sheet: HammerSheet, speed_rpm: float) -> tuple[Saying, ...]:
    """Blows a minute, impact speed, energy of a blow."""
    if sheet.drive != "crank":
        return (Saying("blows_a_minute", "blows a minute", speed_rpm * sheet.lobes, ""),)
    if sheet.ram_mass_kg is None or sheet.stroke_mm is None:
        return (Saying("blows_a_minute", "blows a minute", speed_rpm, ""),)
    speed = impact_m_per_s(sheet, speed_rpm, sheet.whip)
    return (
        Saying("blows_a_minute", "blows a minute", speed_rpm, ""),
        Saying("impact", "impact", speed, "m/s"),
        Saying("blow", "a blow", 0.5 * sheet.ram_mass_kg * speed**2, "J"),
    )


def sketch(sheet: HammerSheet) -> Sketch:
    """Crank, rod and ram over the anvil."""
    stroke = sheet.stroke_mm or 200.0
    throw = stroke / 2
    drawing = Sketch("Crank, spring link and ram, half-way down")
    drawing.circle((0, 0), throw * 1.5)
    drawing.circle((0, 0), throw, "hidden")
    pin = (throw * cos(pi / 6), throw * sin(pi / 6))
    rod = 2.3 * stroke
    top = pin[1] - sqrt(max(rod**2 - pin[0] ** 2, 1.0))
    drawing.circle(pin, throw * 0.14, "motion")
    drawing.line(pin, (0, top), role="motion")
    wide, high = stroke * 0.5, stroke * 1.1
    drawing.box(-wide / 2, top - high, wide, high, "motion")
    low = -throw - rod - high - stroke * 0.12
    drawing.box(-wide * 0.8, low - stroke * 0.9, wide * 1.6, stroke * 0.9)
    drawing.ground(-stroke * 1.7, stroke * 1.7, low - stroke * 0.9)
    drawing.measure(
        (wide * 0.75, throw - rod - high), (wide * 0.75, -throw - rod - high), "stroke", sheet.stroke_mm, 0.08
    )
    drawing.arrow((0, top - high * 0.5), (0, top - high * 1.25), "ram", sheet.ram_mass_kg, "kg")
    drawing.turn((0, 0), throw * 1.2)
    return drawing


def hides(sheet: HammerSheet) -> frozenset[str]:
    """What only a crank, or only a lift, has."""
    if sheet.drive == "crank":
        return frozenset({"lobes", "lift_share"})
    wheel = {"wheel_diameter_mm", "wheel_mass_kg"}
    return frozenset({"linkage", "whip", "whip_low", "whip_high", "energy_share", *wheel})


#: Arc of the crank that takes a blow [rad]: 25 degrees, 10 to 45. Common practice, no source.
BLOW_ARC = radians(25)


def pulse(sheet: HammerSheet) -> Pulse:
    """A crank strikes once a turn, over a short arc; a cam or rope lifts, and nothing is taken while the ram falls."""
    if sheet.drive == "crank":
        return Pulse(1, BLOW_ARC, min(sheet.energy_share, 1.0))
    return Pulse(sheet.lobes, 2 * pi / sheet.lobes * sheet.lift_share, 1.0)


HAMMER = NeedKind(
    kind="hammer",
    title="Power hammer",
    group="Striking and pressing",
    question="How hard does it hit?",
    model=HammerSheet,
    work=work,
    sketch=sketch,
    say=say,
    last_shaft="Crank",
    duty="power hammer",
    caution="A flywheel hits on after the power is off. Guard it, key and retain it, and lock the ram before "
    "hands go near the dies.",
    advice="Lifting the ram is not added: it comes back in the blow. Impact speed from a video settles the whip.",
    rules=(RIGID, RATE, SLOW, FALLS, WHEEL),
    hides=hides,
    judge_built=judge_built,
    pulse=pulse,
    words="forge smith trip spring helve power hammer blacksmith",
    starter={"ram_mass_kg": 17, "stroke_mm": 190},
)
