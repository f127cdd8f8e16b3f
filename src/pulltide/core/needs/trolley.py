"""Trolley or door moved along a track by chain, belt or cable, with a spring whose help changes over the travel."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import cos, pi, radians, sin
from typing import Literal

from pydantic import Field

from pulltide.core.duty import Segment
from pulltide.core.findings import EXACT, Check, Finding, Remark, Severity, judge, state
from pulltide.core.labels import phrase
from pulltide.core.model import Degrees, Kg, Mm, MPerS, Newton, Nm, Plain
from pulltide.core.needs.contract import (
    Built,
    Corner,
    NeedKind,
    Outcome,
    Saying,
    SpeedBand,
    Worksheet,
    known,
    say_power,
)
from pulltide.core.needs.door import EN_12453
from pulltide.core.sketch import Sketch
from pulltide.core.units import G_M_PER_S2, rim_speed_m_per_s

#: Share that reaches the load. Common practice, no source.
KEPT = {"chain": 0.97, "toothed_belt": 0.97, "cable": 0.95}
#: Stretches that the travel is looked at in.
STRETCHES = 10
#: Residual over weight beyond which a spring does not follow its load, and the usual fastest edge near people [m/s].
#: Common practice, no source.
FOLLOWS, FASTEST_M_S = 0.15, 0.3
#: Share of its weight that presses the guides where it hangs straight down. Common practice, no source.
MIN_LEANING = 0.3


class TrolleySheet(Worksheet):
    """Weight along the track, less the spring, plus rolling: at every place of the travel, both ways."""

    BANDS = {"rolling": (0.02, 0.035, 0.05)}

    kind: Literal["trolley"] = "trolley"
    moved_by: Literal["chain", "toothed_belt", "cable"] = Field("chain", title="Moved by")
    mass_kg: Kg | None = Field(None, title="Mass that moves", gt=0, le=5000)
    travel_mm: Mm | None = Field(None, title="Travel", ge=100, le=30_000)
    drive_diameter_mm: Mm | None = Field(
        None, title="Sprocket, pulley or drum", ge=15, le=1000, description="pitch diameter, cable included"
    )
    slope_start_deg: Degrees = Field(
        0.0, title="Track rises at the start", ge=-90, le=90, description="0 level, 90 straight up"
    )
    slope_end_deg: Degrees = Field(
        0.0,
        title="Track rises at the end",
        ge=-90,
        le=90,
        description="a door that turns under the ceiling: 90, then 0",
    )
    in_sections: bool = Field(
        False, title="Turns section by section", description="a sectional door: ever fewer sections hang"
    )
    rolling: Plain = Field(
        0.035, title="Wheels, share of the weight", ge=0.003, le=0.3, description="0.02 to 0.05, common practice"
    )
    spring: Literal["none", "extension", "torsion"] = Field("none", title="Spring that helps at the start")
    spring_start_n: Newton | None = Field(None, title="Its pull at the start", ge=0, le=50_000)
    spring_end_n: Newton | None = Field(None, title="Its pull at the end", ge=0, le=50_000)
    wound_turns: Plain | None = Field(None, title="Turns wound at the start", ge=0, le=100)
    turn_torque_nm: Nm | None = Field(None, title="Torque for each turn", gt=0, le=500)
    cable_drum_mm: Mm | None = Field(None, title="Drum of the spring's cable", ge=20, le=1000)
    edge_m_s: MPerS = Field(0.15, title="Speed wanted", ge=0.005, le=3)


BALANCE = Check(
    code="need.trolley.balance",
    severity=Severity.WARNING,
    quantity="largest residual over weight",
    unit="share",
    limits=(FOLLOWS,),
    fact="At some point of the travel the spring leaves more than {limit} of the weight unbalanced",
    clear="The spring follows the load",
    advice="Adjust it for the middle of the travel, or choose a rate that follows the load; a stronger "
    "drive is not the fix.",
    curable=False,
)
SLACK = Check(
    code="need.trolley.slack",
    severity=Severity.WARNING,
    quantity="pull of the spring at the end",
    relation=">=",
    unit="N",
    fact="The spring runs out before the end of the travel: its cable goes slack and jumps the groove",
    clear="The spring stays tight to the end",
    base="1 N, or 1 % of the weight if less",
    advice="Add turns, or use a longer spring.",
    curable=False,
)
SPRING_LOST = Check(
    code="need.trolley.spring_lost",
    severity=Severity.WARNING,
    quantity="torque without the spring",
    unit="N*m",
    fact="If the spring breaks, the drive has to hold far more than it runs with",
    clear="The drive could move it without the spring",
    limits=(2.0,),
    base="running torque",
    advice="Fit a catch, or a brake rated for it.",
    curable=False,
)
EDGE = Check(
    code="need.trolley.edge",
    severity=Severity.WARNING,
    quantity="speed",
    unit="m/s",
    limits=(FASTEST_M_S,),
    fact="It moves faster than {limit}, too fast near people without an edge that reverses",
    clear="It moves slowly",
    advice="Slow it, or fence it.",
)
CLOSING = Remark(
    code="need.trolley.closing",
    severity=Severity.NOTE,
    quantity="closing force",
    fact="Closing on a person: {150|N} held, {400|N} for 0.75 s at most",
    advice="Fit an edge that reverses; local code decides.",
    source=EN_12453,
    about=True,
    curable=False,
)


@dataclass(frozen=True, slots=True)
class Place:
    """One place of the travel: share of it [-], weight along the track, help of the spring and rolling [N]."""

    share: float
    weight_n: float
    spring_n: float
    rolling_n: float

    @property
    def residual_n(self) -> float:
        """What is left of the weight [N]; below zero the spring pulls more."""
        return self.weight_n - self.spring_n

    @property
    def out_n(self) -> float:
        """Pull out along the travel [N]."""
        return self.residual_n + self.rolling_n

    @property
    def back_n(self) -> float:
        """Pull back [N]."""
        return self.rolling_n - self.residual_n


def spring_n(sheet: TrolleySheet, moved_m: float) -> float:
    """Pull of the spring along the travel [N] after so many meters; never pushing.

    An extension spring goes evenly from its pull at the start to that at the end; a torsion spring loses a turn with
    each turn of its cable's drum.
    """
    if sheet.spring == "extension":
        start, end, travel = known(sheet.spring_start_n, sheet.spring_end_n, sheet.travel_mm)
        return start + 1000 * moved_m / travel * (end - start)
    if sheet.spring == "torsion":
        turns, rate, drum = known(sheet.wound_turns, sheet.turn_torque_nm, sheet.cable_drum_mm)
        left = max(turns - 1000 * moved_m / (pi * drum), 0.0)
        return rate * left * 2000 / drum
    return 0.0


def places(sheet: TrolleySheet, rolling: float) -> tuple[Place, ...]:
    """Forces at eleven places from start to end.

    The rise of the track changes evenly between; of a door in sections, the part that has turned grows evenly.
    """
    mass, travel = known(sheet.mass_kg, sheet.travel_mm)
    weight, found = mass * G_M_PER_S2, []
    for number in range(STRETCHES + 1):
        share = number / STRETCHES
        lifted, leaned = _rise(sheet, share)
        rolls = rolling * weight * max(leaned, MIN_LEANING)
        found.append(Place(share, weight * lifted, spring_n(sheet, share * travel / 1000), rolls))
    return tuple(found)


def _rise(sheet: TrolleySheet, share: float) -> tuple[float, float]:
    """Shares of the weight along the track and on it, at a share of the travel."""
    ends = [radians(sheet.slope_start_deg), radians(sheet.slope_end_deg)]
    if sheet.in_sections:
        along, on = ([turn(end) for end in ends] for turn in (sin, cos))
        return along[0] + share * (along[1] - along[0]), on[0] + share * (on[1] - on[0])
    slope = ends[0] + share * (ends[1] - ends[0])
    return sin(slope), cos(slope)


def work(sheet: TrolleySheet, corner: Corner) -> Outcome:
    """The hardest place of the travel, either way; how the pull changes goes to the duty cycle."""
    out = Outcome()
    with out.working("speed"):
        (diameter,) = known(sheet.drive_diameter_mm)
        put_in = {"v": sheet.edge_m_s, "D": diameter}
        ideal = 60_000 * sheet.edge_m_s / (pi * diameter)
        out.step("Drive wheel at the wanted speed", "n = 60000 v / (π D)", ideal, "rpm", EXACT, **put_in)
        out.speeds = SpeedBand(0.7 * ideal, ideal, 1.2 * ideal, "speed of travel")
        fastest = 1.2 * sheet.edge_m_s
        if sheet.speed_max_rpm is not None:
            fastest = rim_speed_m_per_s(diameter, sheet.speed_max_rpm)
        out.findings.append(judge(EDGE, "need", fastest))
    with out.working("running"):
        _running(sheet, corner, out)
    if out.running_nm is None:
        return out
    out.times("peak", "Something in the track", 2)
    out.times("breakaway", "From rest", 1.5)
    out.findings.append(state(CLOSING, "need"))
    say_power(sheet, out, "Power at the drive wheel")
    return out


def _running(sheet: TrolleySheet, corner: Corner, out: Outcome) -> None:
    along = places(sheet, sheet.at("rolling", corner))
    (diameter,) = known(sheet.drive_diameter_mm)
    hardest = max(along, key=lambda place: max(place.out_n, place.back_n))
    outward, kept = hardest.out_n >= hardest.back_n, KEPT[sheet.moved_by]
    put_in = {"W": hardest.weight_n, "S": hardest.spring_n, "R": hardest.rolling_n}
    way = "out" if outward else "back"
    pull = out.step(
        f"Hardest place, {hardest.share:.0%} of the travel, {phrase(way)}",
        "F = W - S + R" if outward else "F = S - W + R",
        max(hardest.out_n, hardest.back_n),
        "N",
        EXACT,
        **put_in,
    )
    torque = pull * diameter / 2000 / kept
    out.running_nm = out.step(
        "At the drive wheel", "T = F D / (2000 η)", torque, "N*m", EXACT, F=pull, D=diameter, η=kept
    )
    worst = max(along, key=lambda place: abs(place.residual_n))
    with out.working("holding"):
        held = abs(worst.residual_n) * diameter / 2000
        put_in = {"W": worst.weight_n, "S": worst.spring_n, "D": diameter}
        out.holding_nm = out.step("To hold", "T_h = |W - S| D / 2000", held, "N*m", EXACT, **put_in)
    out.cycle = _cycle(sheet, along, pull)
    out.say("pull_at_the_start_out", "Pull at the start, out", along[0].out_n, "N")
    out.say("pull_at_the_end_out", "Pull at the end, out", along[-1].out_n, "N")
    out.say("pull_at_the_start_back", "Pull at the start, back", along[0].back_n, "N")
    weight = (sheet.mass_kg or 0.0) * G_M_PER_S2
    if sheet.spring != "none":
        out.findings.append(judge(BALANCE, "need", abs(worst.residual_n) / weight))
        out.findings.append(judge(SLACK, "need", along[-1].spring_n, min(1.0, weight / 100)))
        lost = max(place.weight_n for place in along) * diameter / 2000
        out.say("if_the_spring_breaks", "If the spring breaks", lost, "N*m")
        out.findings.append(judge(SPRING_LOST, "need", lost, of=out.running_nm))


def _cycle(sheet: TrolleySheet, along: tuple[Place, ...], hardest_n: float) -> tuple[Segment, ...]:
    """Out and back in two halves each, every half at the cube mean of its pulls."""
    seconds = (sheet.travel_mm or 0.0) / 1000 / sheet.edge_m_s / 2
    halves = along[: STRETCHES // 2 + 1], along[STRETCHES // 2 :]
    pulls = [[place.out_n for place in half] for half in halves]
    pulls += [[place.back_n for place in half] for half in reversed(halves)]
    shares = [(sum(abs(pull) ** 3 for pull in half) / len(half)) ** (1 / 3) / hardest_n for half in pulls]
    return tuple(Segment(seconds=seconds, torque_share=min(share, 1.0), speed_share=1.0) for share in shares)


def judge_built(sheet: TrolleySheet, built: Built) -> Iterator[Finding]:
    """The edge at the speed the plan gives it."""
    if sheet.drive_diameter_mm is not None:
        yield judge(EDGE, "need", rim_speed_m_per_s(sheet.drive_diameter_mm, built.fastest_rpm))


def say(sheet: TrolleySheet, speed_rpm: float) -> tuple[Saying, ...]:
    """Speed of travel and time from end to end."""
    if sheet.drive_diameter_mm is None:
        return ()
    speed = rim_speed_m_per_s(sheet.drive_diameter_mm, speed_rpm)
    whole = (
        () if sheet.travel_mm is None else (Saying("end_to_end", "end to end", sheet.travel_mm / 1000 / speed, "s"),)
    )
    return (Saying("travel", "travel", speed, "m/s"), *whole)


def hides(sheet: TrolleySheet) -> frozenset[str]:
    """Fields of the other springs."""
    extension, torsion = {"spring_start_n", "spring_end_n"}, {"wound_turns", "turn_torque_nm", "cable_drum_mm"}
    shown = {"none": set(), "extension": extension, "torsion": torsion}[sheet.spring]
    return frozenset((extension | torsion) - shown)


def sketch(sheet: TrolleySheet) -> Sketch:
    """The track as it bends, the trolley on it a quarter of the way, and the drive wheel at the end."""
    travel = sheet.travel_mm or 2000.0
    size = travel * 0.09
    drawing = Sketch("The trolley on its track, a quarter of the way")
    track, at = [(0.0, 0.0)], (0.0, 0.0)
    slopes = [sheet.slope_start_deg + (k + 0.5) / 40 * (sheet.slope_end_deg - sheet.slope_start_deg) for k in range(40)]
    for slope in slopes:
        at = (at[0] + travel / 40 * cos(radians(slope)), at[1] + travel / 40 * sin(radians(slope)))
        track.append(at)
    drawing.line(*track, role="part")
    place, lean = track[10], radians(slopes[10])
    along, across = (cos(lean), sin(lean)), (-sin(lean), cos(lean))

    def corner(u: float, v: float) -> tuple[float, float]:
        return place[0] + u * along[0] + v * across[0], place[1] + u * along[1] + v * across[1]

    body = [corner(-size, size * 0.35), corner(size, size * 0.35), corner(size, size * 1.5), corner(-size, size * 1.5)]
    drawing.area(body, "charge")
    for side in (-0.6, 0.6):
        drawing.circle(corner(side * size, size * 0.2), size * 0.18)
    wheel = max(min((sheet.drive_diameter_mm or 100.0) / 2, size), size * 0.3)
    drawing.circle(track[-1], wheel)
    drawing.line(corner(size, size * 0.9), track[-1], role="motion")
    if sheet.spring != "none":
        drawing.line(corner(size, size * 1.2), (track[-1][0], track[-1][1] + size * 1.6), role="hidden")
        drawing.text((track[-1][0], track[-1][1] + size * 2.1), f"{phrase(sheet.spring)} spring")
    drawing.arrow(corner(0, size), (corner(0, size)[0], corner(0, size)[1] - 2.2 * size), "mass", sheet.mass_kg, "kg")
    drawing.measure(track[0], track[-1], "travel", sheet.travel_mm, -0.12)
    return drawing


TROLLEY = NeedKind(
    kind="trolley",
    title="Trolley or spring door on a track",
    group="Lifting and moving",
    question="What moves along the track, and what helps it?",
    model=TrolleySheet,
    work=work,
    sketch=sketch,
    say=say,
    last_shaft="Drive wheel",
    duty="counterbalanced door or gate",
    caution="A wound or stretched spring kills: trained people and proper bars only. A trolley on a slope runs off "
    "when its cable parts: stops at both ends, and a catch.",
    advice="Read the pull of the spring off a scale at both ends of the travel.",
    rules=(BALANCE, SLACK, SPRING_LOST, EDGE, CLOSING),
    hides=hides,
    judge_built=judge_built,
    words="garage sectional roller door spring track",
    starter={
        "mass_kg": 60,
        "travel_mm": 2200,
        "drive_diameter_mm": 60,
        "slope_start_deg": 90,
        "slope_end_deg": 0,
        "in_sections": True,
        "spring": "torsion",
        "wound_turns": 7.4,
        "turn_torque_nm": 4.0,
        "cable_drum_mm": 100,
    },
)
