"""A ram that a cam or a rope lifts and lets fall: work of the lift, torque while it lifts, time left to fall."""

from __future__ import annotations

from collections.abc import Iterator
from math import pi, sqrt
from typing import Any

from pulltide.core.findings import COMMON_PRACTICE, EXACT, Check, Finding, Severity, judge
from pulltide.core.needs.contract import Corner, Outcome, SpeedBand, known, torque_from_power_nm
from pulltide.core.units import G_M_PER_S2

FALLS = Check(
    code="need.hammer.falls",
    severity=Severity.ERROR,
    quantity="time left to fall",
    relation=">=",
    unit="s",
    fact="The next lift comes before the ram has fallen",
    clear="The ram has time to fall",
    base="time of a free fall through the stroke",
    advice="Run it slower, use fewer lobes, or use less lift.",
    source=EXACT,
)


def fall_s(stroke_mm: float) -> float:
    """Time of a free fall [s]: √(2 h / g).

    >>> round(fall_s(300.0), 4)
    0.2474
    """
    return sqrt(2 * stroke_mm / 1000 / G_M_PER_S2)


def falls(sheet: Any, speed_rpm: float) -> Iterator[Finding]:
    """Whether the ram falls in what a turn leaves for it."""
    if sheet.stroke_mm is not None:
        left = 60 / (speed_rpm * sheet.lobes) * (1 - sheet.lift_share)
        yield judge(FALLS, "need", left, fall_s(sheet.stroke_mm))


def drop(sheet: Any, corner: Corner) -> Outcome:
    """A ram that is lifted and let fall: work of the lift, torque while it lifts."""
    out = Outcome(fluctuation=sheet.fluctuation)
    with out.working("speed"):
        (stroke,) = known(sheet.stroke_mm)
        most = out.step(
            "Fastest that leaves time to fall",
            "n = 60 (1 - x) / (z t)",
            60 * (1 - sheet.lift_share) / (sheet.lobes * fall_s(stroke)),
            "rpm",
            EXACT,
            x=sheet.lift_share,
            z=float(sheet.lobes),
            t=fall_s(stroke),
        )
        out.speeds = SpeedBand(0.4 * most, 0.7 * most, 0.9 * most, "leaves the ram time to fall", True)
        out.findings.extend(falls(sheet, sheet.speed_ideal_rpm or 0.7 * most))
    with out.working("running"):
        ram, stroke, speed = known(sheet.ram_mass_kg, sheet.stroke_mm, sheet.speed_ideal_rpm or out.speeds.ideal_rpm)
        energy = out.step(
            "Lift of the ram, in J",
            "E = m g h",
            ram * G_M_PER_S2 * stroke / 1000,
            "",
            EXACT,
            m=ram,
            g=G_M_PER_S2,
            h=stroke / 1000,
        )
        power = out.step(
            "Mean power",
            "P = E n z / (60000 η)",
            energy * speed * sheet.lobes / 60_000 / sheet.linkage_efficiency,
            "kW",
            EXACT,
            E=energy,
            n=speed,
            z=float(sheet.lobes),
            η=sheet.linkage_efficiency,
        )
        out.running_nm = torque_from_power_nm(out, power, speed)
        out.say("mean_power", "Mean power", power, "kW")
        out.say("energy_of_a_blow", "Energy of a blow", {"low": 0.8, "typical": 0.9, "high": 1.0}[corner] * energy, "J")
        with out.working("peak"):
            out.peak_nm = out.step(
                "While it lifts, picked up with a jerk",
                "T = 1.5 E z / (2 π x η)",
                1.5 * energy * sheet.lobes / (2 * pi * sheet.lift_share * sheet.linkage_efficiency),
                "N*m",
                COMMON_PRACTICE,
                E=energy,
                z=float(sheet.lobes),
                x=sheet.lift_share,
                η=sheet.linkage_efficiency,
            )
        with out.working("breakaway"):
            out.breakaway_nm = out.step(
                "Ram on the cam",
                "T_b = T_peak / 1.5",
                (out.peak_nm or 0.0) / 1.5,
                "N*m",
                EXACT,
                T_peak=out.peak_nm or 0.0,
            )
    return out
