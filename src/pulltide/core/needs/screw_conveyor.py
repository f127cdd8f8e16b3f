"""Screw conveyor, by two methods."""

from __future__ import annotations

from math import pi
from typing import Literal

from pydantic import Field

from pulltide.core.findings import COMMON_PRACTICE, EXACT, Check, Severity, Source, judge
from pulltide.core.model import Degrees, KgPerM3, Mm, Plain, TPerH
from pulltide.core.needs.contract import (
    Corner,
    NeedKind,
    Outcome,
    Saying,
    SpeedBand,
    Worksheet,
    known,
    table_rows,
    torque_from_power_nm,
)
from pulltide.core.sketch import Sketch
from pulltide.core.tables import load_table
from pulltide.core.units import KW_PER_HP, MM_PER_IN

ISO = Source("ISO 7119", "power of a screw conveyor", "quoted from memory")
CEMA = Source("CEMA 350", "HP_f and HP_m", "quoted from memory")
FILLS = {"easy": 0.45, "usual": 0.30, "abrasive": 0.15}
Hanger = Literal[
    "ball_or_roller", "bronze_babbitt_wood", "nylon_uhmw_ptfe", "hard_iron", "hardened_alloy_sleeve",
]  # fmt: skip
FT_PER_MM, LB_FT3_PER_KG_M3, FT3_PER_M3 = 1 / 304.8, 0.06242796, 35.314667


class ScrewConveyorSheet(Worksheet):
    """Progress resistance, lift and empty running."""

    BANDS = {"progress": (2.0, 2.5, 4.0)}

    kind: Literal["screw_conveyor"] = "screw_conveyor"
    flow_as: Literal["easy", "usual", "abrasive"] = Field(
        "usual", title="Material flows", description="trough filled to 45, 30 or 15 %"
    )
    screw_diameter_mm: Mm | None = Field(None, title="Screw diameter", ge=40, le=1000)
    pitch_mm: Mm | None = Field(None, title="Pitch", ge=20, le=1500)
    length_mm: Mm | None = Field(None, title="Length", ge=100, le=60_000)
    lift_mm: Mm = Field(0.0, title="Lift", ge=0, le=20_000)
    incline_deg: Degrees = Field(
        0.0, title="Incline", ge=0, le=30, description="carries 2 % less for each degree, up to 20"
    )
    bulk_density_kg_m3: KgPerM3 | None = Field(None, title="Density of the material", ge=50, le=5000)
    throughput_t_h: TPerH | None = Field(None, title="Throughput wanted", gt=0, le=500)
    progress: Plain = Field(
        2.5, title="Progress resistance", ge=1, le=8, description="2 easy, 2.5 to 3 sand and cement, 4 sticky"
    )
    hanger: Hanger = Field("bronze_babbitt_wood", title="Hanger bearings")
    material_factor: Plain = Field(
        1.0, title="Material factor", ge=0.3, le=5, description="0.4 grain to 3 abrasive, quoted from memory"
    )


STEEP = Check(
    code="need.screw_conveyor.steep",
    severity=Severity.WARNING,
    quantity="incline",
    unit="deg",
    limits=(20.0,),
    fact="Over {limit} a standard screw loses material back down the flight",
    clear="The incline suits a standard screw",
    advice="Use a short pitch and a closed tube.",
)


def carried_t_h(sheet: ScrewConveyorSheet, speed_rpm: float) -> float:
    """Throughput [t/h]: Q = 60 π/4 D² s n φ ρ k with lengths in m, ρ in t/m³."""
    diameter, pitch, density = known(sheet.screw_diameter_mm, sheet.pitch_mm, sheet.bulk_density_kg_m3)
    climb = max(1 - 0.02 * sheet.incline_deg, 0.2)
    return (
        60 * pi / 4 * (diameter / 1000) ** 2 * pitch / 1000 * speed_rpm * FILLS[sheet.flow_as] * density / 1000 * climb
    )


def cema_kw(sheet: ScrewConveyorSheet, speed_rpm: float, throughput_t_h: float) -> float:
    """Shaft power [kW] by the horsepowers of friction and of material, with overload and without drive loss."""
    diameter, length, density = known(sheet.screw_diameter_mm, sheet.length_mm, sheet.bulk_density_kg_m3)
    rows = [
        row for row in load_table("pulltide.core.needs", "screw_cema_factors").rows if row["table"] == "Fd diameter in"
    ]
    inches = diameter / MM_PER_IN
    row = next((row for row in rows if float(row["key"]) >= inches - 0.01), rows[-1])
    hanger = float(table_rows("screw_cema_factors", "key")[sheet.hanger]["value"])
    friction_hp = length * FT_PER_MM * speed_rpm * float(row["value"]) * hanger / 1e6
    capacity = throughput_t_h * 1000 / density * FT3_PER_M3
    material_hp = capacity * length * FT_PER_MM * density * LB_FT3_PER_KG_M3 * sheet.material_factor / 1e6
    total = friction_hp + material_hp
    overload = 3.0 if total < 0.3 else 2.0 if total < 2 else 1.3 if total < 5.2 else 1.0
    return total * overload * KW_PER_HP


def _speed(sheet: ScrewConveyorSheet, out: Outcome) -> None:
    (wanted,) = known(sheet.throughput_t_h)
    one = carried_t_h(sheet, 1.0)
    ideal = out.step("Speed for the throughput", "n = Q / (60 π/4 D² s φ ρ k)", wanted / one, "rpm", EXACT, Q=wanted)
    out.speeds = SpeedBand(0.9 * ideal, ideal, 1.2 * ideal, "the wanted throughput, up to a fifth more")


def work(sheet: ScrewConveyorSheet, corner: Corner) -> Outcome:
    """The larger of two methods, which differ most on small machines."""
    out = Outcome()
    with out.working("speed"):
        _speed(sheet, out)
    with out.working("running"):
        (speed,) = known(sheet.speed_ideal_rpm or out.speeds.ideal_rpm)
        diameter, length = known(sheet.screw_diameter_mm, sheet.length_mm)
        flow = out.step(
            "Throughput",
            "Q = 60 π/4 D² s n φ ρ k",
            carried_t_h(sheet, speed),
            "t/h",
            EXACT,
            D=diameter / 1000,
            s=(sheet.pitch_mm or 0.0) / 1000,
            n=speed,
            φ=FILLS[sheet.flow_as],
            ρ=(sheet.bulk_density_kg_m3 or 0.0) / 1000,
        )
        progress = sheet.at("progress", corner)
        iso = flow * (progress * length / 1000 + sheet.lift_mm / 1000) / 367 + diameter * length / 2e7
        out.step(
            "Power by progress resistance",
            "P_1 = Q (λ L + H) / 367 + D L / 20",
            iso,
            "kW",
            ISO,
            Q=flow,
            λ=progress,
            L=length / 1000,
            H=sheet.lift_mm / 1000,
            D=diameter / 1000,
        )
        cema = out.step(
            "Power by friction and material", "P_2 = (HP_f + HP_m) F_o", cema_kw(sheet, speed, flow), "kW", CEMA, Q=flow
        )
        power = out.step("The larger", "P = max(P_1, P_2)", max(iso, cema), "kW", COMMON_PRACTICE, P_1=iso, P_2=cema)
        out.say("power_at_the_screw", "Power at the screw", power, "kW")
        out.say("by_progress_resistance", "By progress resistance", iso, "kW")
        out.say("by_friction_and_material", "By friction and material", cema, "kW")
        out.running_nm = torque_from_power_nm(out, power, speed)
    if out.running_nm is not None:
        out.times("peak", "A plug", 2.5)
        out.times("breakaway", "Full trough after rest", 2)
        out.say("shear_pin_set_at", "Shear pin set at", 2.5 * out.running_nm, "N*m")
    out.findings.append(judge(STEEP, "need", sheet.incline_deg))
    return out


def say(sheet: ScrewConveyorSheet, speed_rpm: float) -> tuple[Saying, ...]:
    """Throughput."""
    if None in (sheet.screw_diameter_mm, sheet.pitch_mm, sheet.bulk_density_kg_m3):
        return ()
    return (Saying("carried", "carried", carried_t_h(sheet, speed_rpm), "t/h"),)


def sketch(sheet: ScrewConveyorSheet) -> Sketch:
    """The trough with its screw, from the side; a few turns of a long one."""
    diameter = sheet.screw_diameter_mm or 150.0
    pitch = sheet.pitch_mm or diameter
    turns = 5
    long = turns * pitch
    return flight(
        Sketch("Some turns of the screw in its trough"),
        diameter,
        pitch,
        (long, turns),
        (sheet.screw_diameter_mm, sheet.pitch_mm),
    )


def flight(
    drawing: Sketch, diameter: float, pitch: float, size: tuple[float, int], entered: tuple[float | None, float | None]
) -> Sketch:
    """Draw some turns of a flight in a trough; ``size`` is length and turns, ``entered`` diameter and pitch."""
    long, turns = size
    radius = diameter / 2
    drawing.box(0, -radius * 1.06, long, radius * 0.75, "charge")
    drawing.line((0, radius * 1.4), (0, -radius * 1.06), (long, -radius * 1.06), (long, radius * 1.4))
    drawing.box(-pitch * 0.4, -radius * 0.16, long + pitch * 0.8, radius * 0.32, "part")
    for k in range(turns):
        drawing.line((k * pitch, -radius), ((k + 0.5) * pitch, radius), role="motion")
        drawing.line(((k + 0.5) * pitch, radius), ((k + 1) * pitch, -radius), role="hidden")
    drawing.measure((long, radius), (long, -radius), "screw", entered[0], 0.1)
    drawing.measure((pitch * 0.5, radius), (pitch * 1.5, radius), "pitch", entered[1], 0.14)
    return drawing


SCREW_CONVEYOR = NeedKind(
    kind="screw_conveyor",
    title="Screw conveyor",
    group="Conveying",
    question="What does the screw carry?",
    model=ScrewConveyorSheet,
    work=work,
    sketch=sketch,
    say=say,
    last_shaft="Screw",
    duty="chain or drag or screw conveyor",
    caution="A screw draws in a hand in a second. Bolt the covers down, lock out before opening, and fit a shear pin.",
    advice="",
    rules=(STEEP,),
    words="auger flighting grain pellets feed",
    starter={
        "screw_diameter_mm": 200,
        "pitch_mm": 200,
        "length_mm": 6000,
        "lift_mm": 1000,
        "bulk_density_kg_m3": 750,
        "throughput_t_h": 5,
    },
)
