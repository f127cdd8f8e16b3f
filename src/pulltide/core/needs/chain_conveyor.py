"""Chain, slat or drag conveyor."""

from __future__ import annotations

from math import cos, pi, radians, sin
from typing import Literal

from pydantic import Field

from pulltide.core.findings import COMMON_PRACTICE, EXACT, Check, Severity, judge
from pulltide.core.model import Degrees, KgPerM, Mm, MPerS, Plain
from pulltide.core.needs.contract import (
    Corner,
    NeedKind,
    Outcome,
    Saying,
    SpeedBand,
    Worksheet,
    known,
    pick,
    row_band,
    say_power,
    table_rows,
    table_source,
)
from pulltide.core.sketch import Sketch, turned
from pulltide.core.units import G_M_PER_S2, rim_speed_m_per_s

Track = Literal["steel_track_oiled", "steel_track_dry", "uhmw_strip"]
Carried = Literal["steel_track_dry", "grain_on_steel_trough", "sand_on_steel_trough", "uhmw_strip"]


class ChainConveyorSheet(Worksheet):
    """Chain and load dragged along; chain weight cancels between its two strands."""

    kind: Literal["chain_conveyor"] = "chain_conveyor"
    length_mm: Mm | None = Field(None, title="Loaded length", ge=100, le=100_000)
    incline_deg: Degrees = Field(0.0, title="Incline", ge=-45, le=60)
    chain_kg_m: KgPerM | None = Field(None, title="Chain and slats a length", gt=0, le=500, description="one strand")
    load_kg_m: KgPerM | None = Field(None, title="Load a length", gt=0, le=2000)
    track: Track = Field("steel_track_dry", title="Chain runs on")
    load_on: Carried = Field(
        "grain_on_steel_trough", title="Load drags as", description="carried on the slats: as the chain"
    )
    track_friction: Plain | None = Field(None, title="Chain on its track, friction of your own", gt=0.01, le=1)
    load_friction: Plain | None = Field(None, title="Load dragged, friction of your own", gt=0.01, le=1.5)
    side_factor: Plain = Field(1.15, title="Side friction", ge=1, le=1.6, description="1.1 to 1.25, common practice")
    sprocket_diameter_mm: Mm | None = Field(None, title="Head sprocket, pitch diameter", ge=20, le=2000)
    travel_m_s: MPerS | None = Field(None, title="Chain speed", gt=0, le=3)


BACK_RUN = Check(
    code="need.chain_conveyor.back_run",
    severity=Severity.WARNING,
    quantity="back-running torque with low friction",
    unit="N*m",
    limits=(0.0,),
    fact="The load can run the chain backwards when the power is off",
    clear="Friction holds the load when the power is off",
    advice="Fit a backstop or a brake.",
    curable=False,
)


def pull_n(sheet: ChainConveyorSheet, track: float, load: float) -> float:
    """Chain pull [N]: g L ((2 m_c μ_c + m_m μ_m) cos β + m_m sin β) k."""
    length, chain, mass = known(sheet.length_mm, sheet.chain_kg_m, sheet.load_kg_m)
    slope = radians(sheet.incline_deg)
    return (
        G_M_PER_S2
        * length
        / 1000
        * ((2 * chain * track + mass * load) * cos(slope) + mass * sin(slope))
        * sheet.side_factor
    )


def work(sheet: ChainConveyorSheet, corner: Corner) -> Outcome:
    """Chain pull and torque of the head sprocket."""
    out = Outcome()
    with out.working("speed"):
        speed, sprocket = known(sheet.travel_m_s, sheet.sprocket_diameter_mm)
        ideal = out.step(
            "Sprocket at the chain speed",
            "n = 60000 v / (π D)",
            60_000 * speed / (pi * sprocket),
            "rpm",
            EXACT,
            v=speed,
            D=sprocket,
        )
        out.speeds = SpeedBand(0.9 * ideal, ideal, 1.1 * ideal, "chain speed within 10 %")
    with out.working("running"):
        bands = row_band("friction", "pair", sheet.track), row_band("friction", "pair", sheet.load_on)
        track = sheet.track_friction or pick(bands[0], corner)
        load = sheet.load_friction or pick(bands[1], corner)
        length, chain, mass, sprocket = known(
            sheet.length_mm, sheet.chain_kg_m, sheet.load_kg_m, sheet.sprocket_diameter_mm
        )
        pull = out.step(
            "Chain pull",
            "F = g L ((2 m_c μ_c + m_m μ_m) cos β + m_m sin β) k",
            pull_n(sheet, track, load),
            "N",
            table_source("friction"),
            g=G_M_PER_S2,
            L=length / 1000,
            m_c=chain,
            μ_c=track,
            m_m=mass,
            μ_m=load,
            β=sheet.incline_deg,
            k=sheet.side_factor,
        )
        driven = max(pull, 0.0)  # downhill the load drives the chain: there is nothing to turn
        out.running_nm = out.step(
            "At the sprocket", "T = F D / 2000", driven * sprocket / 2000, "N*m", EXACT, F=driven, D=sprocket
        )
        out.say("chain_pull", "Chain pull", pull, "N")
        least = sheet.track_friction or bands[0][0], sheet.load_friction or bands[1][0]
        slope = radians(abs(sheet.incline_deg))
        back = (
            G_M_PER_S2
            * length
            / 1000
            * (mass * sin(slope) - (2 * chain * least[0] + mass * least[1]) * cos(slope))
            * sprocket
            / 2000
        )
        with out.working("holding"):
            out.holding_nm = max(
                out.step(
                    "Weight less low friction",
                    "T_h = F_back D / 2000",
                    back,
                    "N*m",
                    EXACT,
                    F_back=back * 2000 / sprocket,
                    D=sprocket,
                ),
                0.0,
            )
        out.findings.append(judge(BACK_RUN, "need", back))
    if out.running_nm is None:
        return out
    with out.working("breakaway"):
        again = float(table_rows("friction", "pair")[sheet.load_on]["breakaway_factor"])
        out.breakaway_nm = out.step(
            "Under a settled load",
            "T_b = 1.5 k T / 1.3",
            1.5 * again / 1.3 * out.running_nm,
            "N*m",
            COMMON_PRACTICE,
            k=again,
            T=out.running_nm,
        )
    out.times("peak", "A jam cleared", 2)
    say_power(sheet, out, "Power at the sprocket")
    return out


def say(sheet: ChainConveyorSheet, speed_rpm: float) -> tuple[Saying, ...]:
    """Chain speed and throughput."""
    if sheet.sprocket_diameter_mm is None:
        return ()
    speed = rim_speed_m_per_s(sheet.sprocket_diameter_mm, speed_rpm)
    carried = () if sheet.load_kg_m is None else (Saying("carried", "carried", speed * sheet.load_kg_m * 3.6, "t/h"),)
    return (Saying("chain", "chain", speed, "m/s"), *carried)


def sketch(sheet: ChainConveyorSheet) -> Sketch:
    """The conveyor from its side with its slats."""
    length = sheet.length_mm or 4000.0
    size = max(min(sheet.sprocket_diameter_mm or 0.05 * length, length * 0.2), length * 0.06)
    slope = radians(sheet.incline_deg)
    drawing = Sketch("The conveyor from its side, at its slope")
    for x in (0.0, length):
        drawing.circle(turned([(x, 0)], slope)[0], size / 2)
    drawing.area(
        turned(
            [
                (size / 2, size / 2),
                (length - size / 2, size / 2),
                (length - size / 2, size * 1.1),
                (size / 2, size * 1.1),
            ],
            slope,
        ),
        "charge",
    )
    for y in (size / 2, -size / 2):
        drawing.line(*turned([(0, y), (length, y)], slope), role="motion")
        for k in range(12):
            x = (k + 0.5) * length / 12
            drawing.line(*turned([(x, y), (x, y + (size * 0.4 if y > 0 else -size * 0.4))], slope), role="thin")
    a, b = turned([(0, size * 1.1), (length, size * 1.1)], slope)
    drawing.measure(a, b, "loaded length", sheet.length_mm, 0.12)
    head = turned([(length, 0)], slope)[0]
    drawing.turn(head, size * 0.85)
    drawing.measure(
        (head[0] - size / 2, head[1] - size / 2),
        (head[0] + size / 2, head[1] - size / 2),
        "sprocket",
        sheet.sprocket_diameter_mm,
        -0.14,
    )
    return drawing


CHAIN_CONVEYOR = NeedKind(
    kind="chain_conveyor",
    title="Chain or drag conveyor",
    group="Conveying",
    question="What does the chain drag?",
    model=ChainConveyorSheet,
    work=work,
    sketch=sketch,
    say=say,
    last_shaft="Head sprocket",
    duty="chain or drag or screw conveyor",
    caution="A drag chain takes an arm with it: cover the trough, interlock the lids, lock out before clearing a jam.",
    advice="",
    rules=(BACK_RUN,),
    words="drag slats manure logs scraper apron chain",
    starter={
        "length_mm": 5000,
        "incline_deg": 10,
        "chain_kg_m": 4,
        "load_kg_m": 18,
        "sprocket_diameter_mm": 150,
        "travel_m_s": 0.3,
    },
)
