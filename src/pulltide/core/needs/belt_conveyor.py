"""Short belt conveyor on a slider bed or rollers, level or inclined."""

from __future__ import annotations

from math import atan, cos, degrees, pi, radians, sin
from typing import Literal, Protocol

from pydantic import Field

from pulltide.core.findings import COMMON_PRACTICE, EXACT, Check, Severity, judge
from pulltide.core.model import Degrees, Kg, KgPerM, Mm, MPerS, Newton, Plain
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

Bed = Literal["steel_slider_bed", "wood_slider_bed", "belt_on_rollers"]


class BeltConveyorSheet(Worksheet):
    """Friction on the bed, lift of the load, and the return strand."""

    ORDER = (("belt_min_m_s", "belt_ideal_m_s"), ("belt_ideal_m_s", "belt_max_m_s"), ("belt_min_m_s", "belt_max_m_s"))

    kind: Literal["belt_conveyor"] = "belt_conveyor"
    bed: Bed = Field("steel_slider_bed", title="Bed")
    length_mm: Mm | None = Field(None, title="Loaded length", ge=100, le=100_000)
    incline_deg: Degrees = Field(
        0.0, title="Incline", ge=-30, le=45, description="degrees, not percent: 30 % is 16.7 degrees"
    )
    piece_mass_kg: Kg | None = Field(None, title="Mass of a piece", gt=0, le=5000)
    pitch_mm: Mm | None = Field(
        None, title="One piece every", gt=1, le=50_000, description="fully loaded; for bulk: any length and its mass"
    )
    belt_kg_m: KgPerM | None = Field(None, title="Belt mass a length", gt=0, le=200)
    friction: Plain | None = Field(
        None, title="Friction of your own", ge=0.01, le=1, description="in place of the bed’s band"
    )
    extra_n: Newton = Field(
        50.0, title="Cleaners, skirts, guides", ge=0, le=5000, description="{20|N} to {100|N}, common practice"
    )
    return_friction: Plain = Field(
        0.03, title="Return strand", ge=0.0, le=0.3, description="0.02 to 0.05, common practice"
    )
    accumulates: bool = Field(False, title="Load can stand while the belt runs")
    drum_diameter_mm: Mm | None = Field(None, title="Head drum with its lagging", ge=20, le=2000)
    belt_thickness_mm: Mm = Field(3.0, title="Belt thickness", ge=0, le=40)
    belt_min_m_s: MPerS | None = Field(None, title="Slowest belt", gt=0, le=10)
    belt_ideal_m_s: MPerS | None = Field(
        None,
        title="Ideal belt speed",
        gt=0,
        le=10,
        description="parcels {0.2|m/s} to {0.7|m/s}, picking {0.1|m/s} to {0.3|m/s}",
    )
    belt_max_m_s: MPerS | None = Field(None, title="Fastest belt", gt=0, le=10)


BACK_RUN = Check(
    code="need.belt_conveyor.back_run",
    severity=Severity.WARNING,
    quantity="back-running torque with low friction",
    unit="N*m",
    limits=(0.0,),
    fact="The load can run the belt backwards when the power is off",
    clear="Friction holds the load when the power is off",
    advice="Fit a backstop or a brake.",
    curable=False,
)
STEEP = Check(
    code="need.belt_conveyor.steep",
    severity=Severity.WARNING,
    quantity="incline",
    unit="deg",
    limits=(25.0,),
    fact="At this incline cartons slide on a smooth belt",
    clear="The load stays where it is put",
    advice="Use a rough-top belt or cleats.",
)


class OnBelt(Protocol):
    """What every belt conveyor has."""

    @property
    def drum_diameter_mm(self) -> float | None:
        """Head drum with its lagging."""

    @property
    def belt_thickness_mm(self) -> float:
        """Thickness of the belt."""

    @property
    def belt_min_m_s(self) -> float | None:
        """Slowest useful belt speed."""

    @property
    def belt_ideal_m_s(self) -> float | None:
        """Ideal belt speed."""

    @property
    def belt_max_m_s(self) -> float | None:
        """Fastest useful belt speed."""


def effective_drum_mm(sheet: OnBelt) -> float:
    """Diameter on which the belt pulls [mm]: drum with lagging plus one belt thickness."""
    (drum,) = known(sheet.drum_diameter_mm)
    return drum + sheet.belt_thickness_mm


def masses_kg(sheet: BeltConveyorSheet) -> tuple[float, float]:
    """Load on the belt and belt above the bed [kg]."""
    length, piece, pitch, belt = known(sheet.length_mm, sheet.piece_mass_kg, sheet.pitch_mm, sheet.belt_kg_m)
    return length / pitch * piece, belt * length / 1000


def speed_band(sheet: OnBelt, out: Outcome) -> None:
    """Speeds of the head drum from those of the belt."""
    diameter = effective_drum_mm(sheet)
    ends = [
        None if v is None else 60_000 * v / (pi * diameter)
        for v in (sheet.belt_min_m_s, sheet.belt_ideal_m_s, sheet.belt_max_m_s)
    ]
    if ends[1] is not None and sheet.belt_ideal_m_s is not None:
        out.step(
            "Head drum at the ideal belt speed",
            "n = 60000 v / (π D)",
            ends[1],
            "rpm",
            EXACT,
            v=sheet.belt_ideal_m_s,
            D=diameter,
        )
    out.speeds = SpeedBand(ends[0], ends[1], ends[2], "belt speed as entered")


def pull_n(sheet: BeltConveyorSheet, friction: float, again: float = 1.0) -> float:
    """Belt pull [N]: g (μ k (m + m_b) cos β + m sin β) + extra + return strand; ``again`` k is 1 while running."""
    load, belt = masses_kg(sheet)
    slope = radians(sheet.incline_deg)
    bed = friction * again * (load + belt) * cos(slope)
    standing = friction * load * cos(slope) if sheet.accumulates else 0.0
    return G_M_PER_S2 * (bed + standing + load * sin(slope) + sheet.return_friction * belt) + sheet.extra_n


def work(sheet: BeltConveyorSheet, corner: Corner) -> Outcome:
    """Pull on the belt and torque of the head drum."""
    out = Outcome()
    with out.working("speed"):
        speed_band(sheet, out)
    band = (
        (0.8 * sheet.friction, sheet.friction, 1.25 * sheet.friction)
        if sheet.friction
        else row_band("friction", "pair", sheet.bed)
    )
    friction = pick(band, corner)
    with out.working("running"):
        load, belt = masses_kg(sheet)
        out.step(
            "Load on the belt",
            "m = L / p · m_1",
            load,
            "kg",
            EXACT,
            L=sheet.length_mm or 0.0,
            p=sheet.pitch_mm or 0.0,
            m_1=sheet.piece_mass_kg or 0.0,
        )
        out.step(
            "Belt above the bed",
            "m_b = q_b L",
            belt,
            "kg",
            EXACT,
            q_b=sheet.belt_kg_m or 0.0,
            L=(sheet.length_mm or 0.0) / 1000,
        )
        pull = out.step(
            "Belt pull",
            "F = g (μ (k m + m_b) cos β + m sin β + μ_r m_b) + F_x",
            pull_n(sheet, friction),
            "N",
            table_source("friction"),
            g=G_M_PER_S2,
            μ=friction,
            m=load,
            m_b=belt,
            k=2.0 if sheet.accumulates else 1.0,
            β=sheet.incline_deg,
            μ_r=sheet.return_friction,
            F_x=sheet.extra_n,
        )
        diameter = effective_drum_mm(sheet)
        out.running_nm = out.step(
            "At the head drum", "T = F D / 2000", pull * diameter / 2000, "N*m", EXACT, F=pull, D=diameter
        )
        out.say("belt_pull", "Belt pull", pull, "N")
        with out.working("breakaway"):
            again = float(table_rows("friction", "pair")[sheet.bed]["breakaway_factor"])
            start = pull_n(sheet, friction, again)
            out.breakaway_nm = out.step(
                "After rest, bed friction times its breakaway factor",
                "T_b = F_b D / 2000",
                start * diameter / 2000,
                "N*m",
                table_source("friction"),
                F_b=start,
                D=diameter,
            )
        with out.working("peak"):
            high = pull_n(sheet, band[2])
            out.peak_nm = out.step(
                "With the bed at its stickiest",
                "T_peak = F D / 2000",
                max(high, pull) * diameter / 2000,
                "N*m",
                COMMON_PRACTICE,
                F=max(high, pull),
                D=diameter,
            )
        with out.working("inertia"):
            out.inertia_kgm2 = out.step(
                "Load and belt seen at the drum",
                "J = (m + 2 m_b) (D/2000)²",
                (load + 2 * belt) * (diameter / 2000) ** 2,
                "kg*m**2",
                EXACT,
                m=load,
                m_b=belt,
                D=diameter,
            )
        _holding(sheet, out, (load, belt), (band[0], diameter))
        say_power(sheet, out, "Power at the drum")
    return out


def _holding(sheet: BeltConveyorSheet, out: Outcome, masses: tuple[float, float], ends: tuple[float, float]) -> None:
    load, belt = masses
    low_friction, diameter = ends
    slope = radians(abs(sheet.incline_deg))
    with out.working("holding"):
        back = G_M_PER_S2 * (load * sin(slope) - low_friction * (load + belt) * cos(slope)) * diameter / 2000
        value = out.step(
            "Weight less bed friction, at the drum",
            "T_h = g (m sin β - μ_low (m + m_b) cos β) D/2000",
            back,
            "N*m",
            EXACT,
            g=G_M_PER_S2,
            m=load,
            β=sheet.incline_deg,
            μ_low=low_friction,
            m_b=belt,
            D=diameter,
        )
        out.holding_nm = max(value, 0.0)
        out.findings.append(judge(BACK_RUN, "need", value))
    out.findings.append(judge(STEEP, "need", abs(sheet.incline_deg)))
    out.say(
        "slope_at_which_it_would_run_back",
        "Slope at which it would run back",
        degrees(atan(low_friction * (load + belt) / load)),
        "deg",
    )


def say(sheet: BeltConveyorSheet, speed_rpm: float) -> tuple[Saying, ...]:
    """Belt speed and pieces an hour."""
    if sheet.drum_diameter_mm is None:
        return ()
    speed = rim_speed_m_per_s(effective_drum_mm(sheet), speed_rpm)
    pieces = (
        ()
        if sheet.pitch_mm is None
        else (Saying("pieces_an_hour_full", "pieces an hour, full", speed * 3_600_000 / sheet.pitch_mm, ""),)
    )
    return (Saying("belt", "belt", speed, "m/s"), *pieces)


def sketch(sheet: BeltConveyorSheet) -> Sketch:
    """The conveyor from its side at its slope; pieces are drawn at their pitch."""
    length = sheet.length_mm or 4000.0
    drum = min((sheet.drum_diameter_mm or length * 0.04), length * 0.25)
    shown = max(drum, length * 0.05)
    slope = radians(sheet.incline_deg)
    drawing = Sketch("The conveyor from its side, at its slope")

    def tilt(*points: tuple[float, float]) -> list[tuple[float, float]]:
        return turned(points, slope)

    for x in (0.0, length):
        drawing.circle(tilt((x, 0))[0], shown / 2)
    drawing.line(*tilt((0, shown / 2), (length, shown / 2)), role="motion")
    drawing.line(*tilt((0, -shown / 2), (length, -shown / 2)), role="thin")
    pitch = max(sheet.pitch_mm or length / 4, length / 12)
    size = min(pitch * 0.45, length * 0.09)
    for k in range(int(length // pitch)):
        x = pitch * (k + 0.5)
        drawing.area(
            tilt(
                (x - size / 2, shown / 2),
                (x + size / 2, shown / 2),
                (x + size / 2, shown / 2 + size * 0.7),
                (x - size / 2, shown / 2 + size * 0.7),
            ),
            "charge",
        )
    floor = min(0.0, tilt((length, 0))[0][1]) - shown * 2.2
    drawing.ground(-length * 0.06, length * 1.06, floor)
    a, b = tilt((0, shown / 2), (length, shown / 2))
    drawing.measure(a, b, "loaded length", sheet.length_mm, 0.2)
    drawing.measure((length * 0.42, floor), (length * 0.78, floor), "slope", sheet.incline_deg, -0.0, "deg")
    head = tilt((length, 0))[0]
    drawing.turn(head, shown * 0.9)
    drawing.measure(
        (head[0] - shown / 2, head[1] - shown * 0.5),
        (head[0] + shown / 2, head[1] - shown * 0.5),
        "drum",
        sheet.drum_diameter_mm,
        -0.12,
    )
    return drawing


BELT_CONVEYOR = NeedKind(
    kind="belt_conveyor",
    title="Belt conveyor",
    group="Conveying",
    question="What does the belt carry?",
    model=BeltConveyorSheet,
    work=work,
    sketch=sketch,
    say=say,
    last_shaft="Head drum",
    duty="belt conveyor unit loads or bulk unevenly fed",
    caution="Guard both drums where the belt runs on, and fit a pull cord along the side. An inclined belt is "
    "blocked before work on its drive.",
    advice="A helical unit runs back freely; only a backstop or a brake holds a slope.",
    rules=(BACK_RUN, STEEP),
    words="parcels boxes pieces conveyor belt steep",
    starter={
        "length_mm": 7000,
        "incline_deg": 14,
        "piece_mass_kg": 11,
        "pitch_mm": 1400,
        "belt_kg_m": 3.2,
        "extra_n": 60,
        "drum_diameter_mm": 108,
        "belt_ideal_m_s": 0.45,
    },
)
