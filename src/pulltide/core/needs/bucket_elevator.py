"""Bucket elevator."""

from __future__ import annotations

from collections.abc import Iterator
from math import pi, sqrt
from typing import Literal

from pydantic import Field

from pulltide.core.findings import COMMON_PRACTICE, EXACT, Check, Finding, Remark, Severity, judge, state
from pulltide.core.model import Mm, Plain, TPerH
from pulltide.core.needs.contract import (
    Built,
    Corner,
    NeedKind,
    Outcome,
    Saying,
    SpeedBand,
    Worksheet,
    known,
    rad_per_s,
    torque_from_power_nm,
)
from pulltide.core.sketch import Sketch
from pulltide.core.units import G_M_PER_S2, RPM_PER_RAD_PER_S, rim_speed_m_per_s


class BucketElevatorSheet(Worksheet):
    """Lift, digging as an extra lift, and the backstop."""

    BANDS = {"digging_mm": (5000.0, 6500.0, 8000.0)}

    kind: Literal["bucket_elevator"] = "bucket_elevator"
    throws: Literal["centrifugal", "continuous"] = Field("centrifugal", title="Discharge")
    throughput_t_h: TPerH | None = Field(None, title="Throughput", gt=0, le=500)
    lift_mm: Mm | None = Field(None, title="Lift", ge=200, le=60_000)
    digging_mm: Mm = Field(
        6500.0, title="Digging as extra lift", ge=0, le=20_000, description="{5000|mm} to {8000|mm}, common practice"
    )
    head_diameter_mm: Mm | None = Field(None, title="Head pulley with the bucket’s middle", ge=80, le=3000)
    efficiency: Plain = Field(0.9, title="Head shaft bearings and belt", ge=0.4, le=1)


BACKSTOP = Remark(
    code="need.bucket_elevator.backstop",
    severity=Severity.WARNING,
    quantity="torque to hold",
    unit="N*m",
    fact="Full buckets run back when the power fails: a backstop is required",
    advice="Fit a backstop on the head shaft.",
    curable=False,
)
DISCHARGE = Check(
    code="need.bucket_elevator.discharge",
    severity=Severity.WARNING,
    quantity="Froude number at the head",
    limits=(1.1,),
    fact="The buckets would discharge too early or too late at this speed",
    clear="The buckets discharge at the head",
    advice="Set the head shaft speed for centrifugal discharge.",
)


def _discharge(sheet: BucketElevatorSheet, speed_rpm: float) -> Iterator[Finding]:
    """Whether buckets throw where they should: ω² r / g."""
    if sheet.throws == "centrifugal" and sheet.head_diameter_mm is not None:
        share = rad_per_s(speed_rpm) ** 2 * sheet.head_diameter_mm / 2000 / G_M_PER_S2
        yield judge(DISCHARGE, "need", share)


def judge_built(sheet: BucketElevatorSheet, built: Built) -> Iterator[Finding]:
    """Discharge at the speed the plan gives."""
    return _discharge(sheet, built.speed_rpm)


def work(sheet: BucketElevatorSheet, corner: Corner) -> Outcome:
    """Power of the lift at the head shaft."""
    out = Outcome()
    with out.working("speed"):
        (head,) = known(sheet.head_diameter_mm)
        radius = head / 2000
        one = out.step(
            "Speed at which weight and throw balance",
            "n_1 = 29.9 / √r",
            RPM_PER_RAD_PER_S * sqrt(G_M_PER_S2 / radius),
            "rpm",
            EXACT,
            r=radius,
        )
        if sheet.throws == "centrifugal":
            out.speeds = SpeedBand(0.9 * one, 0.95 * one, one, "0.9 to 1.0 of the speed where weight and throw balance")
        else:
            low, ideal, high = (60_000 * v / (pi * head) for v in (0.5, 0.6, 0.7))
            out.speeds = SpeedBand(low, ideal, high, "buckets at 0.5 to 0.7 m/s")
        if sheet.speed_ideal_rpm:
            out.findings.extend(_discharge(sheet, sheet.speed_ideal_rpm))
    with out.working("running"):
        flow, lift, speed, head = known(
            sheet.throughput_t_h, sheet.lift_mm, sheet.speed_ideal_rpm or out.speeds.ideal_rpm, sheet.head_diameter_mm
        )
        digging = sheet.at("digging_mm", corner)
        power = out.step(
            "Power at the head shaft",
            "P = Q (H + H0) / (367 η)",
            flow * (lift + digging) / 1000 / 367 / sheet.efficiency,
            "kW",
            COMMON_PRACTICE,
            Q=flow,
            H=lift / 1000,
            H0=digging / 1000,
            η=sheet.efficiency,
        )
        out.say("power_at_the_head_shaft", "Power at the head shaft", power, "kW")
        out.running_nm = torque_from_power_nm(out, power, speed)
        with out.working("holding"):
            travel = rim_speed_m_per_s(head, speed)
            mass = out.step(
                "Load in the buckets",
                "m = Q H / (3.6 v)",
                flow / 3.6 / travel * lift / 1000,
                "kg",
                EXACT,
                Q=flow,
                H=lift / 1000,
                v=travel,
            )
            out.holding_nm = out.step(
                "Full buckets at the head",
                "T_h = m g r",
                mass * G_M_PER_S2 * head / 2000,
                "N*m",
                EXACT,
                m=mass,
                g=G_M_PER_S2,
                r=head / 2000,
            )
            out.findings.append(state(BACKSTOP, "need", out.holding_nm))
    out.times("peak", "A choked boot", 2)
    out.times("breakaway", "Start with a full boot", 1.75)
    return out


def say(sheet: BucketElevatorSheet, speed_rpm: float) -> tuple[Saying, ...]:
    """Bucket speed."""
    if sheet.head_diameter_mm is None:
        return ()
    return (Saying("buckets", "buckets", rim_speed_m_per_s(sheet.head_diameter_mm, speed_rpm), "m/s"),)


def sketch(sheet: BucketElevatorSheet) -> Sketch:
    """The elevator from its side; the legs are drawn shorter than they are when they are long."""
    head = sheet.head_diameter_mm or 500.0
    lift = min(sheet.lift_mm or head * 5, head * 6)
    radius = head / 2
    drawing = Sketch("Head, boot and buckets; a long leg is drawn shortened")
    for y in (0.0, lift):
        drawing.circle((0, y), radius)
    for side in (-1, 1):
        drawing.line((side * radius, 0), (side * radius, lift), role="motion")
        for k in range(6):
            y = lift * (k + 0.5) / 6
            out = side * radius
            points = (
                (out, y),
                (out + side * radius * 0.45, y + radius * 0.1 * -side),
                (out + side * radius * 0.35, y - side * radius * 0.4),
                (out, y - side * radius * 0.4),
            )
            drawing.area(
                points
                if side > 0
                else (
                    (out, y),
                    (out - radius * 0.45, y + radius * 0.1),
                    (out - radius * 0.35, y - radius * 0.4),
                    (out, y - radius * 0.4),
                ),
                "charge" if side < 0 else "thin",
            )
    drawing.turn((0, lift), radius * 0.6)
    drawing.measure((-radius * 1.7, 0), (-radius * 1.7, lift), "lift", sheet.lift_mm, 0.06)
    drawing.measure((-radius, lift + radius), (radius, lift + radius), "head", sheet.head_diameter_mm, 0.06)
    return drawing


BUCKET_ELEVATOR = NeedKind(
    kind="bucket_elevator",
    title="Bucket elevator",
    group="Conveying",
    question="What do the buckets lift?",
    model=BucketElevatorSheet,
    work=work,
    sketch=sketch,
    say=say,
    last_shaft="Head shaft",
    duty="bucket elevator",
    caution="Full buckets run back when the power fails: a backstop is part of the machine. Dust can explode; "
    "that is for a licensed designer.",
    advice="",
    rules=(BACKSTOP, DISCHARGE),
    judge_built=judge_built,
    words="grain sand cups elevator leg",
    starter={"throughput_t_h": 4, "lift_mm": 6000, "head_diameter_mm": 300},
)
