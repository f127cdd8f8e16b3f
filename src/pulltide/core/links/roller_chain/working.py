"""How the figures of a chain link come about, and the same formulas callable by name."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from pydantic import Field

from pulltide.core.findings import COMMON_PRACTICE, EXACT, Source
from pulltide.core.links.roller_chain import checks, geometry, tables
from pulltide.core.links.roller_chain.inputs import ChainNumber
from pulltide.core.links.roller_chain.rating import rating
from pulltide.core.links.roller_chain.transmission import ChainDetails
from pulltide.core.model import CoreModel, Rpm
from pulltide.core.transmission import LinkResult
from pulltide.core.two_wheels import entered_center
from pulltide.core.units import KW_PER_HP, MM_PER_IN
from pulltide.core.working import Step, Working, made_of

SHIGLEY = Source("Shigley's Mechanical Engineering Design", "Eq. 17-29 to 17-40", "formula, constants from memory")
STRANDS = Source("Shigley's Mechanical Engineering Design", "Table 17-23", "table quoted from memory")


class RatingInputs(CoreModel):
    """Inputs of the roller chain rating."""

    chain: ChainNumber = Field(title="Chain")
    small_teeth: int = Field(title="Teeth of the small sprocket", ge=6, le=120)
    small_speed_rpm: Rpm = Field(title="Speed of the small sprocket", gt=0, le=6000)
    strands: int = Field(1, title="Strands", ge=1, le=4)


def rating_working(inputs: RatingInputs) -> Working:
    """Plate, roller and galling limits of a strand, the least of them, and all strands."""
    size = tables.sizes()[inputs.chain]
    result = rating(size, inputs.small_teeth, inputs.small_speed_rpm)
    numbers = {"N": float(inputs.small_teeth), "n": inputs.small_speed_rpm, "p": size.pitch_mm / MM_PER_IN}
    strands = tables.strand_factor(inputs.strands)
    return Working(
        "Roller chain rating",
        (
            Step(
                "Link plates, p in inches",
                "H1",
                "Kp N^1.08 n^0.9 p^(3 - 0.07 p)",
                {"Kp": size.plate_constant, **numbers},
                result.plates_kw / KW_PER_HP,
                "hp",
                SHIGLEY,
            ),
            Step(
                "Rollers and bushings",
                "H2",
                "1000 Kr N^1.5 p^0.8 / n^1.5",
                {"Kr": size.roller_constant, **numbers},
                result.rollers_kw / KW_PER_HP,
                "hp",
                SHIGLEY,
            ),
            Step(
                "Galling of pins",
                "H3",
                "n p N / 110.84 (4.413 - 2.073 p - 0.0274 N - ln(n/1000) (1.59 log10 p + 1.873))",
                numbers,
                result.galling_kw / KW_PER_HP,
                "hp",
                SHIGLEY,
            ),
            Step(
                "Rating of all strands",
                "P",
                "0.7457 · min(H1, H2, H3) · K2",
                {
                    "H1": result.plates_kw / KW_PER_HP,
                    "H2": result.rollers_kw / KW_PER_HP,
                    "H3": result.galling_kw / KW_PER_HP,
                    "K2": strands,
                },
                result.min_kw * strands,
                "kW",
                STRANDS,
            ),
        ),
    )


class LengthInputs(CoreModel):
    """Inputs of chain length and center distance."""

    chain: ChainNumber = Field(title="Chain")
    driver_teeth: int = Field(title="Driver teeth", ge=6, le=120)
    driven_teeth: int = Field(title="Driven teeth", ge=6, le=120)
    pitches: int = Field(title="Links", ge=16, le=600)


def center_working(inputs: LengthInputs) -> Working:
    """Center distance for a number of links, by the handbook formula and exactly."""
    pitch = tables.sizes()[inputs.chain].pitch_mm
    teeth = (inputs.driver_teeth, inputs.driven_teeth)
    exact = geometry.center_pitches(inputs.pitches, *teeth)
    book = geometry.handbook_center_pitches(inputs.pitches, *teeth) or exact
    numbers = {"N1": float(teeth[0]), "N2": float(teeth[1]), "X": float(inputs.pitches)}
    return Working(
        "Chain center distance",
        (
            Step(
                "By the handbook",
                "c0",
                "(-A + √(A² - 8 ((N2 - N1)/(2π))²)) / 4, A = (N1 + N2)/2 - X",
                numbers,
                book,
                "pitches",
                SHIGLEY,
            ),
            Step(
                "Exact, from the tangents of the pitch circles",
                "c",
                "X = 2 c cos β + N1 (180 - 2β)/360 + N2 (180 + 2β)/360, solved for c",
                numbers,
                exact,
                "pitches",
                EXACT,
            ),
            Step("Center distance", "C", "c p", {"c": exact, "p": pitch}, exact * pitch, "mm", EXACT),
        ),
    )


class SprocketInputs(CoreModel):
    """Inputs of a sprocket's diameters."""

    chain: ChainNumber = Field(title="Chain")
    teeth: int = Field(title="Teeth", ge=6, le=120)


def sprocket_working(inputs: SprocketInputs) -> Working:
    """Diameters of a sprocket that a caliper measures, its pitch diameter and its greatest bore."""
    size, teeth = tables.sizes()[inputs.chain], inputs.teeth
    pitch = geometry.pitch_diameter_mm(size.pitch_mm, teeth)
    outside = geometry.outside_diameter_mm(size.pitch_mm, teeth)
    caliper = geometry.caliper_diameter_mm(size.pitch_mm, teeth, size.roller_diameter_mm)
    bore, hub_mm = geometry.greatest_bore_mm(size.pitch_mm, teeth), geometry.largest_hub_mm(size.pitch_mm, teeth)
    by_teeth = {"p": size.pitch_mm, "N": float(teeth)}
    over = {"PD": pitch, "D_r": size.roller_diameter_mm, "N": float(teeth)}
    hub = Source("Machinery's Handbook", "sprocket hub proportions", "quoted from memory")
    tips = Source("ANSI B29.1", "tooth tips, approximate", "formula quoted from memory")
    return Working(
        "Sprocket",
        (
            Step("Outside diameter", "OD", "p (0.6 + cot(180/N))", by_teeth, outside, "mm", tips),
            Step("Root diameter", "RD", "PD - D_r", over, pitch - size.roller_diameter_mm, "mm", EXACT),
            Step("Over two roots", "CD", "PD - D_r, odd N: PD cos(90/N) - D_r", over, caliper, "mm", EXACT),
            Step("Largest hub", "MHD", "p (cot(180/N) - 1) - 0.762", by_teeth, hub_mm, "mm", hub),
            Step("Greatest bore", "B", "(MHD - 2 K - 0.02 PD) / (4/3)", {"PD": pitch}, bore, "mm", hub),
            Step("Pitch diameter", "PD", "p / sin(180/N)", by_teeth, pitch, "mm", EXACT),
        ),
    )


def _single(title: str, step: Step) -> Callable[[], Working]:
    return lambda: Working(title, (step,))


def workings(result: LinkResult[ChainDetails]) -> Mapping[str, Callable[[], Working]]:
    """Working of every figure of a chain link, by key."""
    d = result.details
    place, size = d.layout, d.size
    table: dict[str, Callable[[], Working]] = {
        "ratio": _single(
            "Ratio",
            Step(
                "Ratio",
                "i",
                "N2 / N1",
                {"N2": float(d.link.driven_teeth), "N1": float(d.link.driver_teeth)},
                result.ratio,
                "",
                EXACT,
            ),
        ),
        "wrap": _single(
            "Wrap of the small sprocket",
            Step(
                "Wrap",
                "θ",
                "180 - 2 asin((D - d) / (2 C))",
                {
                    "D": max(place.driver_pitch_mm, place.driven_pitch_mm),
                    "d": min(place.driver_pitch_mm, place.driven_pitch_mm),
                    "C": place.center_mm,
                },
                place.wrap_deg,
                "deg",
                EXACT,
            ),
        ),
        "chain_speed": _single(
            "Chain speed",
            Step(
                "Chain speed",
                "v",
                "N1 p n / 60000",
                {"N1": float(d.link.driver_teeth), "p": size.pitch_mm, "n": result.flow.driver_speed_rpm},
                d.speed_m_per_s,
                "m/s",
                SHIGLEY,
            ),
        ),
        "efficiency": _single(
            "Efficiency of the chain link",
            Step(
                "Efficiency",
                "η",
                "as stated",
                {},
                result.efficiency,
                "share",
                COMMON_PRACTICE,
                "0.97 clean and oiled, 0.95 dry or dirty, or your own",
            ),
        ),
        "pull": _single(
            "Running pull",
            Step(
                "Pull of the tight strand",
                "F",
                "1000 P / v",
                {"P": result.flow.power_in_kw, "v": d.speed_m_per_s},
                d.pull_n,
                "N",
                EXACT,
            ),
        ),
        "worn": made_of(
            "Stretch at which the chain is done",
            "ε = 3, 200 / N above 67 teeth; at most 1.5 on fixed centers",
            d.worn_percent,
            "",
            checks.WORN.source,
            N=float(max(d.link.driver_teeth, d.link.driven_teeth)),
        ),
        "worn_travel": made_of(
            "Center travel that takes up the stretch",
            "Δ = ε X p / 200",
            d.worn_travel_mm,
            "mm",
            COMMON_PRACTICE,
            ε=d.worn_percent,
            X=float(d.layout.pitches),
            p=d.size.pitch_mm,
        ),
        "chordal": _single(
            "Speed variation of the links",
            Step(
                "Variation",
                "Δv/v",
                "(π/N) (1/sin(180/N) - 1/tan(180/N))",
                {"N": float(d.small_teeth)},
                geometry.chordal_variation(d.small_teeth),
                "share",
                SHIGLEY,
            ),
        ),
        "static_safety": _single(
            "Safety against breaking",
            Step(
                "Strength over pull with service factor, own weight and speed",
                "S",
                "F_U / F",
                {"F_U": d.static_safety * d.strand_pull_n, "F": d.strand_pull_n},
                d.static_safety,
                "",
                COMMON_PRACTICE,
                "7 or more is wanted",
            ),
        ),
    }
    for key, teeth, value in (
        ("driver_pitch", d.link.driver_teeth, place.driver_pitch_mm),
        ("driven_pitch", d.link.driven_teeth, place.driven_pitch_mm),
    ):
        table[key] = _single(
            "Pitch diameter",
            Step(
                "Pitch diameter", "D", "p / sin(180 / N)", {"p": size.pitch_mm, "N": float(teeth)}, value, "mm", SHIGLEY
            ),
        )
    table["capacity"] = lambda: _capacity(d)
    table["center"] = lambda: _center(d)
    table["length"] = lambda: _length(d)
    return table


def _capacity(d: ChainDetails) -> Working:
    base = rating_working(
        RatingInputs.model_construct(
            chain=d.link.chain, small_teeth=d.small_teeth, small_speed_rpm=d.small_speed_rpm, strands=d.link.strands
        )
    )
    left = d.capacity_kw / base.value if base.value else 1.0
    if abs(left - 1.0) < 1e-9:
        return base
    extra = Step(
        "Left with an offset link or without oil",
        "P'",
        "P k",
        {"P": base.value, "k": left},
        d.capacity_kw,
        "kW",
        COMMON_PRACTICE,
    )
    return Working(base.title, (*base.steps, extra))


def _length(d: ChainDetails) -> Working:
    if d.link.pitches is not None and d.layout.fault is None:
        step = Step("Links, as chosen", "X", "as entered", {}, d.layout.pitches, "links", EXACT)
    else:
        numbers = {
            "c": d.layout.center_mm / d.size.pitch_mm,
            "N1": float(d.link.driver_teeth),
            "N2": float(d.link.driven_teeth),
        }
        formula = "2 c cos β + N1 (180 - 2β)/360 + N2 (180 + 2β)/360"
        step = Step("Links for this center distance", "X", formula, numbers, d.layout.pitches, "links", EXACT)
    return Working("Chain length", (step,))


def _center(d: ChainDetails) -> Working:
    if d.link.pitches is None or d.layout.fault is not None:
        return Working("Center distance", (entered_center(d.layout.center_mm, d.layout.fault is not None),))
    return center_working(
        LengthInputs.model_construct(
            chain=d.link.chain,
            driver_teeth=d.link.driver_teeth,
            driven_teeth=d.link.driven_teeth,
            pitches=d.link.pitches,
        )
    )
