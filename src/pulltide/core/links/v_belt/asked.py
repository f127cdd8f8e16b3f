"""Rating, center distance and tension of V-belts, callable by name, and the sources they go by."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from pulltide.core import open_belt as geometry
from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.findings import COMMON_PRACTICE, EXACT, Source
from pulltide.core.labels import as_is, quantity
from pulltide.core.links.v_belt import rating, tables
from pulltide.core.links.v_belt.inputs import Section
from pulltide.core.model import CoreModel, Degrees, Kw, Mm, Rpm
from pulltide.core.units import KW_PER_HP, MM_PER_IN
from pulltide.core.working import Step, Working

RATING_A_B = Source(
    "RMA IP-20 and IP-22", "rating formula, as printed in Machinery's Handbook", "constants quoted from memory"
)
RATING_LIGHT = Source("RMA IP-23", "rating formula, as printed in Machinery's Handbook", "constants quoted from memory")
ARC = Source("RMA IP-20", "arc of contact factor; reproduces Shigley Table 17-13 within 0.005", "formula")
ENTERED = Source("the link", "as entered", "entered")
LOSS_CHART = Source("fan-engineering charts of belt drive loss", "middle of the band", "from memory, low confidence")
LENGTH = Source("Shigley's Mechanical Engineering Design", "Table 17-14", "table quoted from memory")
LIFE = Source("Shigley's Mechanical Engineering Design", "Eq. 17-27, Tables 17-16 and 17-17", "quoted from memory")
IP20 = Source("RMA IP-20", "static tension", "formula quoted from memory")


class RatingInputs(CoreModel):
    """Inputs of the V-belt rating."""

    section: Section = Field(title="Section")
    small_diameter_mm: Mm = Field(title="Small pulley, pitch (A, B) or outside (3L 4L 5L)", ge=20, le=1500)
    small_speed_rpm: Rpm = Field(title="Speed of the small pulley", gt=0, le=6000)
    ratio: float = Field(title="Large over small pitch diameter", ge=1, le=20)
    wrap_deg: Degrees = Field(180.0, title="Wrap of the small pulley", ge=83, le=180)
    nominal_length_in: float = Field(title="Nominal belt length, inches", ge=10, le=400)
    belts: int = Field(1, title="Number of belts", ge=1, le=12)
    drum_wrap_deg: Degrees | None = Field(None, title="Wrap of a flat drum", ge=180, le=300)


def rating_working(inputs: RatingInputs) -> Working:
    """Rating of one belt, corrected, and of all belts."""
    light = tables.section(inputs.section).light
    one = rating.basic_rating_kw(inputs.section, inputs.small_diameter_mm, inputs.small_speed_rpm, inputs.ratio)
    data, on_drum = tables.section(inputs.section), inputs.drum_wrap_deg is not None
    arc = rating.arc_factor(inputs.wrap_deg)
    if inputs.drum_wrap_deg is not None:
        arc = min(arc, rating.drum_arc_factor(inputs.drum_wrap_deg))
    length = tables.length_factor(inputs.section, inputs.nominal_length_in)
    shared = rating.MATCHED_LIGHT_SHARE if light and inputs.belts > 1 else 1.0
    total = max(one, 0.0) * arc * length * shared * inputs.belts
    names = ("a", "b", "c") if light else ("c1", "c2", "c3", "c4")
    constants = dict(zip(names, tables.rating_constants(data.rated_as[0]), strict=True))
    basis = {"d": inputs.small_diameter_mm / MM_PER_IN, "r": inputs.small_speed_rpm / 1000.0, **constants}
    formula = "r (a d^0.91 r^-0.09 - b - c r^2 d^3)"
    if not light:
        basis["K_SR"] = tables.ratio_factor(data.group, inputs.ratio)
        formula = "d r (c1 - c2/d - c3 (d r)^2 - c4 log10(d r)) + c2 r (1 - 1/K_SR)"
    if data.estimated:
        basis["k"] = data.rated_share
        formula = f"k times the rating of {as_is(' and '.join(data.rated_as))}, their mean"
    steps = (
        Step(
            "Rating of one belt at 180°, d in inches, r in 1000 rpm",
            "H",
            formula,
            basis,
            one / KW_PER_HP,
            "hp",
            RATING_LIGHT if light else RATING_A_B,
        ),
        Step(
            "Arc factor",
            "K_θ",
            "least of 1.25 (1 - 5^(-θ/180)) and, on the drum, 1.25 (1 - 2.5^(-θ_D/180))"
            if on_drum
            else "1.25 (1 - 5^(-θ/180)), at most 1.05",
            {"θ": inputs.wrap_deg, **({"θ_D": inputs.drum_wrap_deg} if inputs.drum_wrap_deg is not None else {})},
            arc,
            "",
            ARC,
        ),
        Step(
            "Length factor",
            "K_L",
            "table, by nominal length",
            {"L": inputs.nominal_length_in},
            length,
            "",
            LENGTH,
            "light sections have none" if light else "",
        ),
        Step(
            "Rating of all belts",
            "P",
            "H · 0.7457 · K_θ · K_L · N" + (" · 0.95" if shared < 1 else ""),
            {"H": max(one, 0.0) / KW_PER_HP, "K_θ": arc, "K_L": length, "N": float(inputs.belts)},
            total,
            "kW",
            EXACT,
        ),
    )
    return Working("V-belt rating", steps)


class GeometryInputs(CoreModel):
    """Inputs of open belt geometry."""

    small_diameter_mm: Mm = Field(title="Small pitch diameter", ge=10, le=1500)
    large_diameter_mm: Mm = Field(title="Large pitch diameter", ge=10, le=2000)
    pitch_length_mm: Mm = Field(title="Pitch length of the belt", ge=100, le=20_000)


def center_working(inputs: GeometryInputs) -> Working:
    """Center distance for a belt length, by the handbook formula and exactly; then the wrap."""
    d, large, length = inputs.small_diameter_mm, inputs.large_diameter_mm, inputs.pitch_length_mm
    exact = geometry.center_from_length_mm(length, d, large)
    if exact <= (d + large) / 2:
        raise ImpossibleGeometry(
            f"The belt is too short: at {quantity(exact, 'mm')} between centers the pulleys touch."
        )
    approximate = geometry.handbook_center_mm(length, *sorted((d, large))) or exact
    wrap = geometry.wrap_small_deg(d, large, exact)
    numbers = {"L": length, "D": large, "d": d}
    return Working(
        "Center distance and wrap of an open belt",
        (
            Step(
                "First value",
                "C0",
                "(K + √(K² - 32 (D - d)²)) / 16, K = 4 L - 2π (D + d)",
                numbers,
                approximate,
                "mm",
                Source("Machinery's Handbook", "V-belt center distance", "formula"),
            ),
            Step(
                "Wrap of the small pulley",
                "θ",
                "180 - 2 asin(|D - d| / (2 C))",
                {"D": large, "d": d, "C": exact},
                wrap,
                "deg",
                EXACT,
            ),
            Step(
                "Center distance, exact",
                "C",
                "L = 2 C cos γ + π (D + d)/2 + γ (D - d), sin γ = (D - d)/(2 C), solved for C",
                numbers,
                exact,
                "mm",
                EXACT,
            ),
        ),
    )


class TensionInputs(CoreModel):
    """Inputs of static tension."""

    section: Section = Field(title="Section")
    design_power_kw: Kw = Field(title="Design power, all belts", gt=0, le=100)
    belt_speed_m_per_s: float = Field(title="Belt speed, m/s", gt=0, le=40)
    belts: int = Field(1, title="Number of belts", ge=1, le=12)
    wrap_deg: Degrees = Field(title="Wrap of the small pulley", ge=60, le=180)
    span_mm: Mm = Field(title="Free span", ge=20, le=6000)
    tensioning: Literal["locked", "constant_pull"] = Field("locked", title="Tension type")
    drum_wrap_deg: Degrees | None = Field(None, title="Wrap of a flat drum", ge=180, le=300)


def tension_working(inputs: TensionInputs) -> Working:
    """Static tension of one belt, and the force to press it with at mid-span."""
    mass = tables.section(inputs.section).mass_kg_per_m
    span = rating.Span(
        wrap_deg=inputs.wrap_deg,
        speed_m_per_s=inputs.belt_speed_m_per_s,
        center_mm=inputs.span_mm,
        chord_mm=inputs.span_mm,
        mass_kg_per_m=mass,
        locked=inputs.tensioning == "locked",
        drum_wrap_deg=inputs.drum_wrap_deg,
    )
    pull = 1000.0 * inputs.design_power_kw / (inputs.belt_speed_m_per_s * inputs.belts)
    result = rating.tension(pull, inputs.belts, span, None)
    return Working("V-belt static tension", _tension_steps(result, inputs, mass))


def _tension_steps(result: rating.Tension, inputs: TensionInputs, mass: float) -> tuple[Step, ...]:
    v = inputs.belt_speed_m_per_s
    locked = inputs.tensioning == "locked"
    formula = "F (R + 1) / (2 (R - 1))" + (" + m v²" if locked else "")
    numbers = {"F": result.pull_n, "R": result.ratio, **({"m": mass, "v": v} if locked else {})}
    arc = rating.arc_factor(inputs.wrap_deg)
    ratio = Step("Tight over slack tension", "R", "5^(θ/180)", {"θ": inputs.wrap_deg}, result.ratio, "", ARC)
    if inputs.drum_wrap_deg is not None:
        arc = min(arc, rating.drum_arc_factor(inputs.drum_wrap_deg))
        both = {"θ": inputs.wrap_deg, "θ_D": inputs.drum_wrap_deg}
        ratio = Step(
            "Tight over slack tension", "R", "least of 5^(θ/180) and 2.5^(θ_D/180)", both, result.ratio, "", ARC
        )
    least = Step(
        "Lowest published figure, for comparison",
        "T_IP",
        "15/33 (2.5 - K_θ)/K_θ · F + 0.9 m v²",
        {"K_θ": arc, "F": result.pull_n, "m": mass, "v": v},
        result.handbook_static_n,
        "N",
        IP20,
    )
    return (
        Step(
            "Pull of each belt, at design power or at peak",
            "F",
            "1000 P / (v N)",
            {"P": inputs.design_power_kw, "v": v, "N": float(inputs.belts)},
            result.pull_n,
            "N",
            EXACT,
        ),
        ratio,
        least,
        Step("Dip at mid-span", "q", "s / 64", {"s": result.span_mm}, result.deflection_mm, "mm", COMMON_PRACTICE),
        Step(
            "Force that presses it so", "F_q", "T / 16", {"T": result.static_n}, result.deflection_force_n, "N", EXACT
        ),
        Step("Static tension of each belt", "T", formula, numbers, result.static_n, "N", EXACT),
    )
