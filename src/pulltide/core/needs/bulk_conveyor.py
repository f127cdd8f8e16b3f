"""Belt conveyor for bulk material on idlers: the main formula of the standard, single resistances where it is short."""

from __future__ import annotations

from itertools import pairwise
from math import cos, log, radians
from typing import Literal

from pydantic import Field

from pulltide.core.findings import COMMON_PRACTICE, EXACT, Check, Severity, Source, judge
from pulltide.core.model import Degrees, KgPerM, Mm, MPerS, Newton, Plain, TPerH
from pulltide.core.needs.belt_conveyor import effective_drum_mm, speed_band
from pulltide.core.needs.contract import (
    Corner,
    NeedKind,
    Outcome,
    Saying,
    Worksheet,
    known,
    pick,
    say_power,
    table_rows,
    table_source,
)
from pulltide.core.sketch import Sketch, turned
from pulltide.core.units import G_M_PER_S2, rim_speed_m_per_s

ISO = Source("ISO 5048", "main formula of belt conveyors; DIN 22101", "quoted from memory")
#: Artificial friction f: idlers and belt flexing, good, usual and poor upkeep. Source: ISO 5048, from memory.
FRICTION = (0.016, 0.020, 0.030)
#: Shorter than this the length factor does not serve [m]. Source: ISO 5048, from memory.
SHORTEST_M = 80.0
#: A loaded belt starts against so much of its running friction. Common practice, no source: 1.3 to 1.5.
START = 1.4


class BulkConveyorSheet(Worksheet):
    """Idlers, belt flexing, lift of the material, what loading and cleaning take."""

    ORDER = (("belt_min_m_s", "belt_ideal_m_s"), ("belt_ideal_m_s", "belt_max_m_s"), ("belt_min_m_s", "belt_max_m_s"))

    kind: Literal["bulk_conveyor"] = "bulk_conveyor"
    length_mm: Mm | None = Field(None, title="Length, drum to drum", ge=500, le=1_000_000)
    incline_deg: Degrees = Field(
        0.0, title="Incline", ge=-20, le=30, description="degrees, not percent: 30 % is 16.7 degrees"
    )
    throughput_t_h: TPerH | None = Field(None, title="Material an hour", gt=0, le=20_000)
    belt_kg_m: KgPerM | None = Field(None, title="Belt mass a length", gt=0, le=200)
    top_idlers_kg_m: KgPerM | None = Field(
        None, title="Turning mass of the top idlers a length", gt=0, le=200, description="one set over its spacing"
    )
    return_idlers_kg_m: KgPerM | None = Field(None, title="Turning mass of the return idlers a length", gt=0, le=200)
    friction: Plain | None = Field(
        None, title="Friction f of your own", ge=0.01, le=0.1, description="0.016 well kept, 0.020, 0.030 poor"
    )
    extra_n: Newton = Field(50.0, title="Cleaners, skirts, plows", ge=0, le=50_000, description="what each takes")
    drum_diameter_mm: Mm | None = Field(None, title="Head drum with its lagging", ge=20, le=2000)
    belt_thickness_mm: Mm = Field(8.0, title="Belt thickness", ge=0, le=40)
    belt_min_m_s: MPerS | None = Field(None, title="Slowest belt", gt=0, le=10)
    belt_ideal_m_s: MPerS | None = Field(
        None, title="Ideal belt speed", gt=0, le=10, description="bulk sand {1|m/s} to {2|m/s}"
    )
    belt_max_m_s: MPerS | None = Field(None, title="Fastest belt", gt=0, le=10)


BACK_RUN = Check(
    code="need.bulk_conveyor.back_run",
    severity=Severity.WARNING,
    quantity="back-running pull, well kept",
    unit="N",
    limits=(0.0,),
    fact="The material can run the belt backwards when the power is off",
    clear="Friction holds the material when the power is off",
    advice="Fit a backstop or a brake.",
    curable=False,
)
STEEP = Check(
    code="need.bulk_conveyor.steep",
    severity=Severity.WARNING,
    quantity="incline",
    unit="deg",
    limits=(18.0,),
    fact="At this incline loose material slides or rolls back on a smooth belt",
    clear="The material stays on the belt",
    advice="Use cleats, or a flatter belt.",
)


def length_factor(length_m: float) -> float | None:
    """Length factor C [-], linear in the logarithm of length; None below 80 m. Source: ISO 5048, from memory.

    >>> length_factor(60.0), length_factor(100.0), length_factor(1000.0)
    (None, 1.78, 1.09)
    """
    rows = [(float(key), float(row["c"])) for key, row in table_rows("belt_length_factor", "length_m").items()]
    if length_m < SHORTEST_M:
        return None
    for (l1, c1), (l2, c2) in pairwise(rows):
        if length_m <= l2:
            return c1 + (c2 - c1) * log(length_m / l1) / log(l2 / l1)
    return rows[-1][1]


def _pull(sheet: BulkConveyorSheet, out: Outcome, f: float) -> tuple[float, float, float]:
    """Pull [N]: friction, lift of the material, and all of it."""
    length, load, belt = known(sheet.length_mm, sheet.throughput_t_h, sheet.belt_kg_m)
    top, below, speed = known(sheet.top_idlers_kg_m, sheet.return_idlers_kg_m, sheet.belt_ideal_m_s)
    meters = length / 1000
    carried = out.step("Material a length", "q_G = Q / (3.6 v)", load / (3.6 * speed), "kg/m", EXACT, Q=load, v=speed)
    weights = top + below + (2 * belt + carried) * cos(radians(sheet.incline_deg))
    main = out.step(
        "Idlers and flexing of the belt",
        "F_H = f L g (q_RO + q_RU + (2 q_B + q_G) cos δ)",
        f * meters * G_M_PER_S2 * weights,
        "N",
        ISO,
        f=f,
        L=meters,
        g=G_M_PER_S2,
        q_RO=top,
        q_RU=below,
        q_B=belt,
        q_G=carried,
        δ=sheet.incline_deg,
    )
    factor = length_factor(meters)
    if factor is None:
        loading = out.step(
            "Bringing the material to speed", "F_A = Q v / 3.6", load * speed / 3.6, "N", ISO, Q=load, v=speed
        )
        friction = main + loading
    else:
        source = table_source("belt_length_factor")
        friction = out.step("With the length factor", "F_C = C F_H", factor * main, "N", source, C=factor, F_H=main)
    height = meters * _rise(sheet)
    lift = out.step(
        "Lift of the material",
        "F_L = q_G g H",
        carried * G_M_PER_S2 * height,
        "N",
        EXACT,
        q_G=carried,
        g=G_M_PER_S2,
        H=height,
    )
    put_in = {"F": friction, "F_L": lift, "F_x": sheet.extra_n}
    pull = out.step("Belt pull", "F_U = F + F_L + F_x", friction + lift + sheet.extra_n, "N", ISO, **put_in)
    return friction, lift, pull


def _rise(sheet: BulkConveyorSheet) -> float:
    """Rise over length along the belt [-]."""
    return turned(((1.0, 0.0),), radians(sheet.incline_deg))[0][1]


def work(sheet: BulkConveyorSheet, corner: Corner) -> Outcome:
    """Pull on the belt and torque of the head drum."""
    out = Outcome()
    with out.working("speed"):
        speed_band(sheet, out)
    own = sheet.friction
    band = (0.8 * own, own, 1.25 * own) if own else FRICTION
    with out.working("running"):
        friction, lift, pull = _pull(sheet, out, pick(band, corner))
        diameter = effective_drum_mm(sheet)
        out.running_nm = out.step(
            "At the head drum", "T = F_U D / 2000", pull * diameter / 2000, "N*m", EXACT, F_U=pull, D=diameter
        )
        out.say("belt_pull", "Belt pull", pull, "N")
        with out.working("breakaway"):
            start = START * friction + lift + sheet.extra_n
            put_in = {"k": START, "F": friction, "F_L": lift, "F_x": sheet.extra_n, "D": diameter}
            out.breakaway_nm = out.step(
                "A loaded belt started again",
                "T_b = (k F + F_L + F_x) D / 2000",
                start * diameter / 2000,
                "N*m",
                COMMON_PRACTICE,
                **put_in,
            )
        with out.working("peak"):
            out.peak_nm = out.step(
                "As at its start",
                "T_peak = T_b",
                max(out.breakaway_nm, out.running_nm),
                "N*m",
                COMMON_PRACTICE,
                T_b=max(out.breakaway_nm, out.running_nm),
            )
        _inertia_and_holding(sheet, out, band, diameter)
        say_power(sheet, out, "Power at the drum")
    return out


def _inertia_and_holding(
    sheet: BulkConveyorSheet, out: Outcome, band: tuple[float, float, float], diameter: float
) -> None:
    length, load, belt = known(sheet.length_mm, sheet.throughput_t_h, sheet.belt_kg_m)
    top, below, speed = known(sheet.top_idlers_kg_m, sheet.return_idlers_kg_m, sheet.belt_ideal_m_s)
    meters, carried = length / 1000, load / (3.6 * speed)
    moving = (carried + 2 * belt + top + below) * meters
    with out.working("inertia"):
        out.inertia_kgm2 = out.step(
            "Material, belt and idler rims seen at the drum",
            "J = m (D/2000)²",
            moving * (diameter / 2000) ** 2,
            "kg*m**2",
            EXACT,
            m=moving,
            D=diameter,
        )
    with out.working("holding"):
        least = 0.5 * band[0] * meters * G_M_PER_S2 * (top + below + 2 * belt + carried)
        pulls = carried * G_M_PER_S2 * meters * abs(_rise(sheet))
        back = out.step(
            "Weight down the slope less half of the least friction",
            "F_b = F_L - F_f",
            pulls - least,
            "N",
            ISO,
            F_L=pulls,
            F_f=least,
        )
        out.holding_nm = out.step(
            "At the head drum, at least 0",
            "T_h = F_b D / 2000",
            max(back, 0.0) * diameter / 2000,
            "N*m",
            EXACT,
            F_b=max(back, 0.0),
            D=diameter,
        )
    out.findings.append(judge(BACK_RUN, "need", back))
    out.findings.append(judge(STEEP, "need", abs(sheet.incline_deg)))


def say(sheet: BulkConveyorSheet, speed_rpm: float) -> tuple[Saying, ...]:
    """Belt speed."""
    if sheet.drum_diameter_mm is None:
        return ()
    return (Saying("belt", "belt", rim_speed_m_per_s(effective_drum_mm(sheet), speed_rpm), "m/s"),)


def sketch(sheet: BulkConveyorSheet) -> Sketch:
    """The conveyor from its side at its slope, heaped over its whole length."""
    length = sheet.length_mm or 10_000.0
    drum, slope = length * 0.06, radians(sheet.incline_deg)
    drawing = Sketch("The conveyor from its side, at its slope; drums not to scale")

    def tilt(*points: tuple[float, float]) -> list[tuple[float, float]]:
        return turned(points, slope)

    for x in (0.0, length):
        drawing.circle(tilt((x, 0))[0], drum / 2)
    for k in range(1, 8):
        drawing.circle(tilt((length * k / 8, drum * 0.38))[0], drum * 0.12)
    heap = [(length * 0.06, drum / 2), (length * 0.1, drum * 0.85), (length * 0.96, drum * 0.85), (length, drum / 2)]
    drawing.area(tilt(*heap), "charge")
    drawing.line(*tilt((0, drum / 2), (length, drum / 2)), role="motion")
    drawing.line(*tilt((0, -drum / 2), (length, -drum / 2)), role="thin")
    floor = min(0.0, tilt((length, 0))[0][1]) - drum * 2.2
    drawing.ground(-length * 0.06, length * 1.06, floor)
    a, b = tilt((0, drum * 0.9), (length, drum * 0.9))
    drawing.measure(a, b, "length", sheet.length_mm, 0.2)
    drawing.measure((length * 0.42, floor), (length * 0.78, floor), "slope", sheet.incline_deg, -0.0, "deg")
    drawing.turn(tilt((length, 0))[0], drum * 0.9)
    return drawing


BULK_CONVEYOR = NeedKind(
    kind="bulk_conveyor",
    title="Bulk belt conveyor",
    group="Conveying",
    question="What does the belt carry an hour?",
    model=BulkConveyorSheet,
    work=work,
    sketch=sketch,
    say=say,
    last_shaft="Head drum",
    duty="belt conveyor unit loads or bulk unevenly fed",
    caution="Guard both drums and every idler that can be reached, and fit a pull cord along the side. An inclined "
    "belt is blocked before work on its drive.",
    advice="A slope runs back with the power off unless a backstop or a brake holds it.",
    rules=(BACK_RUN, STEEP),
    words="gravel sand grain coal chips conveyor belt bulk",
    starter={
        "length_mm": 12000,
        "incline_deg": 12,
        "throughput_t_h": 30,
        "belt_kg_m": 5.0,
        "top_idlers_kg_m": 8.0,
        "return_idlers_kg_m": 3.0,
        "drum_diameter_mm": 220,
        "belt_ideal_m_s": 1.2,
    },
)
