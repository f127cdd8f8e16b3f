"""A screw and its nut."""

from __future__ import annotations

from collections.abc import Iterator
from math import atan, cos, degrees, pi, radians, tan
from typing import Literal

from pydantic import Field

from pulltide.core.ends.contract import EndKind, EndResult, Pull, lever_step
from pulltide.core.findings import COMMON_PRACTICE, EXACT, Check, Finding, Remark, Severity, Source, judge, state
from pulltide.core.model import CoreModel, Mm, Plain
from pulltide.core.working import Step

#: Half the angle between flanks [degrees].
FLANKS = {"square": 0.0, "trapezoidal": 15.0, "v_thread": 30.0, "ball_screw": 0.0}
BALL_EFFICIENCY = 0.90
SCREW = Source("Shigley's Mechanical Engineering Design", "section 8-2, Eq. 8-1 to 8-6", "formula")


class ScrewAndNut(CoreModel):
    """A screw that pushes a nut, or a nut that pushes a screw."""

    kind: Literal["screw"] = "screw"
    thread: Literal["square", "trapezoidal", "v_thread", "ball_screw"] = Field("trapezoidal", title="Thread")
    mean_diameter_mm: Mm = Field(18.0, title="Mean diameter of the thread", ge=2, le=200)
    lead_mm: Mm = Field(4.0, title="Lead, travel a turn", ge=0.2, le=200)
    friction: Plain = Field(
        0.15, title="Friction of the thread", ge=0.02, le=0.5, description="greased steel on bronze"
    )
    collar_diameter_mm: Mm = Field(0.0, title="Mean diameter of a plain thrust collar", ge=0, le=300)


def screw_efficiency(end: ScrewAndNut) -> float:
    """Efficiency with the screw driving, collar included [-]; a ball screw 0.9.

    T = F d/2 (l + π f d sec α) / (π d - f l sec α) + F f d_c / 2, η = F l / (2 π T). Source: Shigley Eq. 8-1, 8-5, 8-6.
    """
    if end.thread == "ball_screw":
        return BALL_EFFICIENCY
    d, lead, f = end.mean_diameter_mm, end.lead_mm, end.friction / cos(radians(FLANKS[end.thread]))
    spare = pi * d - f * lead
    raise_nmm = d / 2 * (lead + pi * f * d) / spare if spare > 0 else float("inf")
    return lead / (2 * pi * (raise_nmm + end.friction * end.collar_diameter_mm / 2))


def back_efficiency(end: ScrewAndNut) -> float:
    """Efficiency with the load driving the screw [-]; zero or less: it does not turn back at this friction."""
    if end.thread == "ball_screw":
        return 2 - 1 / BALL_EFFICIENCY
    lead_angle = atan(end.lead_mm / (pi * end.mean_diameter_mm))
    friction_angle = atan(end.friction / cos(radians(FLANKS[end.thread])))
    thread = tan(lead_angle - friction_angle) / tan(lead_angle)
    return thread - pi * end.friction * end.collar_diameter_mm / end.lead_mm


LOCKS = Remark(
    code="end.screw_holds",
    severity=Severity.WARNING,
    quantity="efficiency with the load driving",
    fact="This screw may hold its load at rest, but it can creep or run back when shaken, oiled or worn",
    advice="Fit a brake or a safety nut wherever the load could fall or close on someone.",
    source=SCREW,
)
RUNS_BACK = Check(
    code="end.screw_runs_back",
    severity=Severity.WARNING,
    quantity="efficiency with the load driving",
    unit="share",
    limits=(0.0,),
    fact="The load can back-drive this screw",
    clear="The load does not back-drive the screw at this friction",
    advice="Fit a brake.",
    source=SCREW,
)


def _pull(end: ScrewAndNut) -> Pull:
    per_metre = 2000 * pi / end.lead_mm
    forward = screw_efficiency(end)
    lead_angle = degrees(atan(end.lead_mm / (pi * end.mean_diameter_mm)))
    numbers = {
        "d": end.mean_diameter_mm,
        "l": end.lead_mm,
        "f": end.friction,
        "α": FLANKS[end.thread],
        "d_c": end.collar_diameter_mm,
    }
    ball = end.thread == "ball_screw"
    return Pull(
        per_metre,
        forward,
        back_efficiency(end),
        (
            lever_step("2000 π / l", {"l": end.lead_mm}, per_metre),
            Step(
                "Lead angle",
                "λ",
                "atan(l / (π d))",
                {"l": end.lead_mm, "d": end.mean_diameter_mm},
                lead_angle,
                "deg",
                EXACT,
            ),
            Step(
                "Efficiency of the screw",
                "η",
                "of a ball screw"
                if ball
                else "l / (2 π T/F), T/F = d/2 (l + π f d sec α) / (π d - f l sec α) + f d_c / 2",
                {} if ball else numbers,
                forward,
                "share",
                COMMON_PRACTICE if ball else SCREW,
            ),
        ),
    )


def _inspect(end: ScrewAndNut, result: EndResult) -> Iterator[Finding]:
    back = result.pull.back_efficiency
    if back <= 0:
        yield state(LOCKS, "need")
    yield judge(RUNS_BACK, "need", back)


SCREW_KIND = EndKind(
    "screw",
    "Screw and nut",
    "pushes",
    ScrewAndNut,
    _pull,
    _inspect,
    (LOCKS, RUNS_BACK),
    "A screw is no brake. Keep hands out of what it closes, and stop it at both ends.",
)
