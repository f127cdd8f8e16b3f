"""Impeller in a liquid."""

from __future__ import annotations

from math import log10
from typing import Literal

from pydantic import Field

from pulltide.core.findings import EXACT, Check, Remark, Severity, Source, judge, state
from pulltide.core.labels import choice, quantity
from pulltide.core.model import KgPerM3, Mm, PaS, Plain
from pulltide.core.needs.contract import (
    Corner,
    NeedKind,
    Outcome,
    Saying,
    SpeedBand,
    Worksheet,
    known,
    pick,
    speed_at_rim,
    table_rows,
    table_source,
    torque_from_power_nm,
)
from pulltide.core.sketch import Sketch
from pulltide.core.units import rim_speed_m_per_s

Impeller = Literal[
    "marine_propeller", "six_blade_disk", "four_pitched_blades", "six_pitched_blades", "flat_paddle", "anchor"
]
METZNER = Source("Metzner and Otto", "shear rate 11 N", "quoted from memory")
TIP_SPEEDS = {"gentle": (2.0, 2.5, 3.0), "vigorous": (3.0, 4.5, 6.0)}
#: A vortex divides the turbulent power number by this much. Common practice, no source.
VORTEX = (4.0, 3.0, 2.0)
SEALS = {"none": 1.0, "mechanical": 1.02, "packing": 1.10}


class AgitatorSheet(Worksheet):
    """Power number over Reynolds number."""

    kind: Literal["agitator"] = "agitator"
    impeller: Impeller = Field("four_pitched_blades", title="Impeller")
    impeller_diameter_mm: Mm | None = Field(None, title="Impeller diameter", ge=20, le=3000)
    vessel_diameter_mm: Mm | None = Field(None, title="Vessel diameter", ge=30, le=10_000)
    impellers: int = Field(1, title="Impellers on the shaft", ge=1, le=5, description="a diameter apart or more")
    baffled: bool = Field(True, title="Vessel has baffles", description="four strips a twelfth wide")
    density_kg_m3: KgPerM3 = Field(1000.0, title="Density of the liquid", ge=500, le=3000, description="water")
    viscosity_pa_s: PaS | None = Field(
        None, title="Viscosity", gt=0, le=1000, description="water 0.001, honey 10; thinning: at a shear of 1 a second"
    )
    flow_index: Plain = Field(1.0, title="Flow index", ge=0.1, le=1.5, description="1 for a liquid that does not thin")
    vigour: Literal["gentle", "vigorous"] = Field("gentle", title="Stirring")
    power_number: Plain | None = Field(None, title="Turbulent power number of your own", gt=0, le=20)
    laminar_constant: Plain | None = Field(
        None, title="Laminar constant of your own, N_p times Re", gt=0, le=1000, description="30 to 100 by impeller"
    )
    seal: Literal["none", "mechanical", "packing"] = Field("none", title="Shaft seal")


SIZE = Check(
    code="need.agitator.size",
    severity=Severity.WARNING,
    quantity="impeller over vessel",
    fact="The impeller is over {limit} of the vessel, where the power numbers no longer hold",
    clear="The impeller is no larger than suits the vessel",
    limits=(0.5,),
    advice="Choose the impeller nearer 0.3 to 0.5 of the vessel.",
)
SMALL = Check(
    code="need.agitator.small",
    severity=Severity.WARNING,
    quantity="impeller over vessel",
    relation=">=",
    fact="The impeller is under {limit} of the vessel, where the power numbers no longer hold",
    clear="The impeller is no smaller than suits the vessel",
    limits=(0.3,),
    advice="Choose the impeller nearer 0.3 to 0.5 of the vessel.",
)
TRANSITION = Check(
    code="need.agitator.transition",
    severity=Severity.NOTE,
    quantity="Reynolds number",
    relation=">=",
    fact="Between laminar and turbulent flow the power shown is a safe upper bound",
    clear="The flow is clearly turbulent",
    limits=(1e4,),
    advice="Expect to need less.",
)


LAMINAR_UNKNOWN = Remark(
    code="need.agitator.laminar_unknown",
    severity=Severity.WARNING,
    quantity="Reynolds number",
    fact="In a liquid this thick the power of this impeller is not known: no table gives its laminar constant",
    advice="Enter the constant for your impeller, or choose one that is listed for thick liquids, such as an anchor.",
    curable=False,
)
#: Laminar law up to here, and the turbulent number in full from here on; below the third the laminar part matters.
#: Common practice, no source.
LAMINAR_TO, TURBULENT_FROM, MATTERS = 10.0, 300.0, 1000.0


def _number(sheet: AgitatorSheet, out: Outcome, reynolds: float, corner: Corner) -> float:
    row = table_rows("power_number", "impeller")[sheet.impeller]
    source = table_source("power_number")
    cell = row["KL_laminar_Np_x_Re"]
    constant = sheet.laminar_constant or (None if cell == "na" else float(cell))
    if constant is None and reynolds < MATTERS:
        out.findings.append(state(LAMINAR_UNKNOWN, "need", reynolds))
        known(constant)
    laminar = (constant or 0.0) / reynolds
    turbulent = sheet.power_number or float(row["KT_turbulent_Np_baffled"])
    if not sheet.baffled and reynolds > TURBULENT_FROM:
        turbulent /= pick(VORTEX, corner)
    share = min(max(log10(reynolds / LAMINAR_TO) / log10(TURBULENT_FROM / LAMINAR_TO), 0.0), 1.0)
    out.step("Laminar share", "N_L = K_L / Re", laminar, "", source, K_L=constant or 0.0, Re=reynolds)
    return out.step(
        "Power number; laminar alone up to Re 10, the whole turbulent one from 300 on",
        "N_p = K_L / Re + w K_T",
        laminar + share * turbulent,
        "",
        source,
        K_L=constant or 0.0,
        Re=reynolds,
        w=share,
        K_T=turbulent,
    )


def _speeds(sheet: AgitatorSheet, out: Outcome) -> None:
    (diameter,) = known(sheet.impeller_diameter_mm)
    band = TIP_SPEEDS[sheet.vigour]
    low, ideal, high = speed_at_rim(out, band, diameter)
    out.speeds = SpeedBand(
        low, ideal, high, f"tip speed {quantity(band[0], 'm/s')} to {quantity(band[2], 'm/s')}, {choice(sheet.vigour)}"
    )


def work(sheet: AgitatorSheet, corner: Corner) -> Outcome:
    """Power of the impeller at its ideal speed; it grows with the cube of speed."""
    out = Outcome(load_exponent=2.0)
    with out.working("speed"):
        _speeds(sheet, out)
    with out.working("running"):
        diameter, consistency, speed = known(
            sheet.impeller_diameter_mm, sheet.viscosity_pa_s, sheet.speed_ideal_rpm or out.speeds.ideal_rpm
        )
        size, turns = diameter / 1000, speed / 60
        viscosity = (
            consistency
            if sheet.flow_index == 1
            else out.step(
                "Viscosity at that shear, in Pa·s",
                "μ = K (11 N)^(m - 1)",
                consistency * (11 * turns) ** (sheet.flow_index - 1),
                "",
                METZNER,
                K=consistency,
                N=turns,
                m=sheet.flow_index,
            )
        )
        reynolds = out.step(
            "Reynolds number, N in turns a second",
            "Re = ρ N D² / μ",
            sheet.density_kg_m3 * turns * size**2 / viscosity,
            "",
            EXACT,
            ρ=sheet.density_kg_m3,
            N=turns,
            D=size,
            μ=viscosity,
        )
        number = _number(sheet, out, reynolds, corner)
        power = number * sheet.density_kg_m3 * turns**3 * size**5 / 1000 * sheet.impellers * SEALS[sheet.seal]
        out.step(
            "Power",
            "P = N_p ρ N³ D⁵ z s / 1000",
            power,
            "kW",
            table_source("power_number"),
            N_p=number,
            ρ=sheet.density_kg_m3,
            N=turns,
            D=size,
            z=float(sheet.impellers),
            s=SEALS[sheet.seal],
        )
        out.say("power_at_the_impeller", "Power at the impeller", power, "kW")
        out.say("reynolds_number", "Reynolds number", reynolds, "")
        out.running_nm = torque_from_power_nm(out, power, speed)
        out.load_exponent = 1.0 if reynolds < LAMINAR_TO else 2.0
        if reynolds >= LAMINAR_TO:
            out.findings.append(judge(TRANSITION, "need", reynolds))
    out.times("peak", "Surging", 1.5)
    out.times("breakaway", "From rest, nothing settled", 1.0)
    if sheet.vessel_diameter_mm and sheet.impeller_diameter_mm:
        share = sheet.impeller_diameter_mm / sheet.vessel_diameter_mm
        out.findings += [judge(SIZE, "need", share), judge(SMALL, "need", share)]
    return out


def say(sheet: AgitatorSheet, speed_rpm: float) -> tuple[Saying, ...]:
    """Tip speed."""
    return (
        ()
        if sheet.impeller_diameter_mm is None
        else (Saying("tips", "at the tips", rim_speed_m_per_s(sheet.impeller_diameter_mm, speed_rpm), "m/s"),)
    )


def sketch(sheet: AgitatorSheet) -> Sketch:
    """The vessel cut open, with its impeller."""
    vessel = sheet.vessel_diameter_mm or (sheet.impeller_diameter_mm or 300.0) * 2.6
    size = sheet.impeller_diameter_mm or vessel * 0.38
    high = vessel * 1.05
    drawing = Sketch("The vessel cut open")
    drawing.box(-vessel / 2, 0, vessel, high * 0.85, "charge")
    drawing.line((-vessel / 2, high), (-vessel / 2, 0), (vessel / 2, 0), (vessel / 2, high))
    if sheet.baffled:
        for side in (-1, 1):
            drawing.box(
                side * vessel / 2 - (vessel / 12 if side > 0 else 0), high * 0.08, vessel / 12, high * 0.77, "thin"
            )
    drawing.line((0, high * 1.18), (0, high * 0.3), role="part")
    for k in range(sheet.impellers):
        drawing.box(-size / 2, high * (0.28 + 0.55 * k / max(sheet.impellers, 1)), size, vessel * 0.06, "motion")
    drawing.measure((-size / 2, high * 0.3), (size / 2, high * 0.3), "impeller", sheet.impeller_diameter_mm, -0.12)
    drawing.measure((-vessel / 2, 0), (vessel / 2, 0), "vessel", sheet.vessel_diameter_mm, -0.1)
    return drawing


AGITATOR = NeedKind(
    kind="agitator",
    title="Agitator in a liquid",
    group="Mixing and tumbling",
    question="What is stirred?",
    model=AgitatorSheet,
    work=work,
    sketch=sketch,
    say=say,
    last_shaft="Agitator shaft",
    duty="liquid agitator thin",
    caution="Flammable liquids need a rated motor and earthing; that is for a licensed designer.",
    advice="Twice the speed takes eight times the power.",
    rules=(SIZE, SMALL, TRANSITION, LAMINAR_UNKNOWN),
    words="stirrer tank impeller liquid dye glaze brew vat",
    starter={"impeller_diameter_mm": 150, "vessel_diameter_mm": 450, "viscosity_pa_s": 0.5},
)
