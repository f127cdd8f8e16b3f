"""How the figures of a pair of gears come about, and the same formulas callable by name."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from math import gcd, radians, tan

from pydantic import Field

from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.family import LinkResult, Method
from pulltide.core.findings import COMMON_PRACTICE, EXACT, Source
from pulltide.core.links.gear_pair import rating, tables
from pulltide.core.links.gear_pair.transmission import GearDetails, Strength
from pulltide.core.model import CoreModel, Mm, Newton, Plain
from pulltide.core.working import Step, Working

SHIGLEY = Source("Shigley's Mechanical Engineering Design", "chapter 14", "formula, constants from memory")
MESHING = Source("Shigley's Mechanical Engineering Design", "section 13-4", "formula")


class LewisInputs(CoreModel):
    """Inputs of the Lewis bending stress."""

    tooth_force_n: Newton = Field(title="Tooth force", gt=0, le=1e7)
    module_mm: Mm = Field(title="Module", ge=0.3, le=25)
    teeth: int = Field(title="Teeth", ge=12, le=400)
    face_width_mm: Mm = Field(title="Face width", ge=1, le=400)
    velocity_factor: Plain = Field(1.0, title="Velocity factor", ge=1, le=6)


def lewis_working(inputs: LewisInputs) -> Working:
    """Bending stress at the root of a 20 degree tooth by Lewis."""
    form = tables.lewis_form(inputs.teeth, "20")
    value = inputs.velocity_factor * inputs.tooth_force_n / (inputs.face_width_mm * inputs.module_mm * form)
    numbers = {
        "Kv": inputs.velocity_factor,
        "W": inputs.tooth_force_n,
        "b": inputs.face_width_mm,
        "m": inputs.module_mm,
        "Y": form,
    }
    look = Step(
        "Form factor", "Y", "table by teeth", {"N": float(inputs.teeth)}, form, "", tables.table("lewis_form").as_source
    )
    return Working(
        "Lewis bending stress", (look, Step("Bending stress", "σ", "Kv W / (b m Y)", numbers, value, "MPa", SHIGLEY))
    )


class CountsInputs(CoreModel):
    """Inputs of a search for tooth counts."""

    ratio: Plain = Field(title="Ratio wanted", ge=0.01, le=100)
    fewest: int = Field(17, title="Fewest teeth", ge=8, le=100)
    most: int = Field(120, title="Most teeth", ge=10, le=200)


def best_counts(ratio: float, fewest: int, most: int) -> tuple[int, int]:
    """Tooth counts (driver, driven) whose ratio is nearest, the smaller pair of equals. Every pair is tried.

    Raises ImpossibleGeometry if no pair lies within the counts.

    >>> best_counts(3.141592653589793, 17, 120), best_counts(2 ** 0.5, 17, 60)
    ((21, 66), (29, 41))
    """
    if fewest > most:
        raise ImpossibleGeometry("The fewest teeth are more than the most; exchange them.")
    pairs = ((driver, driven) for driver in range(fewest, most + 1) for driven in range(fewest, most + 1))
    return min(pairs, key=lambda pair: (round(abs(pair[1] / pair[0] / ratio - 1), 12), sum(pair)))


def counts_working(inputs: CountsInputs) -> Working:
    """The pair of tooth counts nearest to a ratio, its error, and whether it hunts."""
    driver, driven = best_counts(inputs.ratio, inputs.fewest, inputs.most)
    error = driven / driver / inputs.ratio - 1
    numbers = {"N1": float(driver), "N2": float(driven)}
    return Working(
        "Tooth counts for a ratio",
        (
            Step(
                "Driver",
                "N1",
                "every pair tried, least error first",
                {"r": inputs.ratio},
                float(driver),
                "teeth",
                EXACT,
            ),
            Step(
                "Driven",
                "N2",
                "every pair tried, least error first",
                {"r": inputs.ratio},
                float(driven),
                "teeth",
                EXACT,
            ),
            Step(
                "Common divisor; 1 lets every tooth meet every other",
                "g",
                "gcd of N1 and N2",
                numbers,
                float(gcd(driver, driven)),
                "",
                EXACT,
            ),
            Step("Error", "e", "N2 / N1 / r - 1", {**numbers, "r": inputs.ratio}, error, "share", EXACT),
        ),
    )


METHODS = (
    Method("gear_lewis", "Bending stress of a gear tooth by Lewis", LewisInputs, lewis_working),
    Method("gear_counts", "Tooth counts nearest to a ratio", CountsInputs, counts_working),
)


def _one(name: str, written: str, value: float, unit: str, source: Source, /, **put_in: float) -> Callable[[], Working]:
    symbol, _, formula = written.partition(" = ")
    return lambda: Working(name, (Step(name, symbol, formula, put_in, value, unit, source),))


def _factors(d: GearDetails) -> tuple[Step, ...]:
    quality = rating.QUALITY[d.link.made]
    return (
        Step(
            "Dynamic factor",
            "Kv",
            "((A + √V) / A)^B by quality",
            {"Qv": quality, "V": d.speed_m_per_s * rating.FPM_PER_M_S},
            d.dynamic_factor,
            "",
            SHIGLEY,
        ),
        Step(
            "Load distribution",
            "Km",
            "1 + C_pf + C_ma",
            {"b": d.link.face_width_mm, "d": d.pinion_mm},
            d.face_factor,
            "",
            SHIGLEY,
        ),
    )


def _bending(d: GearDetails) -> Working:
    weak: Strength = min(d.pinion, d.gear, key=lambda item: item.bending_n)
    b, m = d.link.face_width_mm, d.link.module
    if weak.material.hardness_hb is None:
        speed = rating.lewis_velocity_factor(d.link.made, d.speed_m_per_s)
        form = tables.lewis_form(weak.teeth, d.link.pressure_angle)
        numbers = {"σ": weak.bending_mpa, "b": b, "m": m, "Y": form, "Kv": speed}
        step = Step(
            f"{weak.teeth} teeth, {weak.material.name}", "W", "σ b m Y / Kv", numbers, weak.bending_n, "N", SHIGLEY
        )
        return Working("Tooth force by Lewis, no hardness rates it", (step,))
    numbers = {
        "σ": weak.bending_mpa,
        "b": b,
        "m": m,
        "J": weak.geometry_factor,
        "Kv": d.dynamic_factor,
        "Ks": weak.size_factor,
        "Km": d.face_factor,
    }
    return Working(
        "Tooth force that bending allows",
        (
            *_factors(d),
            Step(
                "Allowable stress",
                "σ",
                "(77.3 HB + 12800) psi · YN / KR",
                {"HB": weak.material.hardness_hb, "KR": rating.RELIABILITY},
                weak.bending_mpa,
                "MPa",
                SHIGLEY,
            ),
            Step(
                "Geometry factor",
                "J",
                "table by teeth and mate",
                {"N": float(weak.teeth)},
                weak.geometry_factor,
                "",
                tables.table("geometry_factor").as_source,
            ),
            Step(
                f"Weaker member: {weak.teeth} teeth", "W", "σ b m J / (Kv Ks Km)", numbers, weak.bending_n, "N", SHIGLEY
            ),
        ),
    )


def _wear(d: GearDetails) -> Working:
    stress = min(item.contact_mpa or 0.0 for item in (d.pinion, d.gear))
    size = max(d.pinion.size_factor, d.gear.size_factor)
    numbers = {
        "σ_c": stress,
        "C_p": d.elastic,
        "d": d.pinion_mm,
        "b": d.link.face_width_mm,
        "I": d.contact_shape,
        "Kv": d.dynamic_factor,
        "Ks": size,
        "Km": d.face_factor,
    }
    return Working(
        "Tooth force that wear allows",
        (
            *_factors(d),
            Step(
                "Allowable contact stress of the softer",
                "σ_c",
                "(322 HB + 29100) psi · ZN CH / KR",
                {"KR": rating.RELIABILITY},
                stress,
                "MPa",
                SHIGLEY,
            ),
            Step(
                "Contact geometry",
                "I",
                "cos φ sin φ / 2 · m_G / (m_G ± 1)",
                {"φ": d.link.angle},
                d.contact_shape,
                "",
                SHIGLEY,
            ),
            Step("Both flanks", "W", "(σ_c / C_p)² d b I / (Kv Ks Km)", numbers, d.wear_n or 0.0, "N", SHIGLEY),
        ),
    )


def workings(result: LinkResult) -> Mapping[str, Callable[[], Working]]:
    """Working of every figure of a pair, by key."""
    d: GearDetails = result.details
    link, m = d.link, d.link.module
    n1, n2, figures = (
        float(link.driver_teeth),
        float(link.driven_teeth),
        {item.key: item.value or 0.0 for item in result.figures},
    )
    sign = "-" if link.mesh == "internal" else "+"
    weak = min(d.pinion, d.gear, key=lambda item: item.lewis_n)
    form, speed = (
        tables.lewis_form(weak.teeth, link.pressure_angle),
        rating.lewis_velocity_factor(link.made, d.speed_m_per_s),
    )

    def tip(n: float) -> str:
        return "d_a = m (N - 2)" if link.mesh == "internal" and n == link.large_teeth else "d_a = m (N + 2)"

    found = {
        "ratio": _one("Ratio", "i = N2 / N1", result.ratio, "", EXACT, N2=n2, N1=n1),
        "centre": _one(
            "Centre distance",
            f"C = m (N_large {sign} N_small) / 2 + s",
            d.centre_mm,
            "mm",
            EXACT,
            m=m,
            N_large=float(link.large_teeth),
            N_small=float(link.small_teeth),
            s=link.spread_mm,
        ),
        "driver_pitch": _one("Driver pitch diameter", "d = m N", d.driver_mm, "mm", EXACT, m=m, N=n1),
        "driven_pitch": _one("Driven pitch diameter", "d = m N", d.driven_mm, "mm", EXACT, m=m, N=n2),
        "driver_outside": _one("Driver tip diameter", tip(n1), figures["driver_outside"], "mm", EXACT, m=m, N=n1),
        "driven_outside": _one("Driven tip diameter", tip(n2), figures["driven_outside"], "mm", EXACT, m=m, N=n2),
        "contact_ratio": _one(
            "Contact ratio",
            "m_c = (√(ra1² - rb1²) ± √(ra2² - rb2²) ∓ C' sin φ') / p_b",
            d.contact_ratio,
            "",
            MESHING,
            N1=n1,
            N2=n2,
            φ=link.angle,
        ),
        "pitch_speed": _one(
            "Pitch-line speed",
            "v = π d n / 60000",
            d.speed_m_per_s,
            "m/s",
            EXACT,
            d=d.driver_mm,
            n=result.flow.driver_speed_rpm,
        ),
        "bending": lambda: _bending(d),
        "lewis": _one(
            "Quick look, Lewis",
            "W = σ b m Y / Kv",
            figures["lewis"],
            "N",
            SHIGLEY,
            σ=weak.material.static_mpa,
            b=link.face_width_mm,
            m=m,
            Y=form,
            Kv=speed,
        ),
        "force": _one(
            "Tooth force, running",
            "W = 2000 T / d",
            d.force_n,
            "N",
            EXACT,
            T=result.flow.driver_torque_nm,
            d=d.driver_mm,
        ),
        "design_force": _one(
            "Tooth force with overload",
            "W_d = 2000 T_d / d",
            d.design_force_n,
            "N",
            EXACT,
            T_d=result.design.chosen_nm,
            d=d.driver_mm,
        ),
        "separating": _one(
            "Separating force",
            "W_r = W tan φ",
            d.force_n * tan(radians(link.angle)),
            "N",
            EXACT,
            W=d.force_n,
            φ=link.angle,
        ),
        "efficiency": _one("Efficiency of the mesh", "η = as stated", result.efficiency, "share", COMMON_PRACTICE),
    }
    if d.wear_n is not None:
        found["wear"] = lambda: _wear(d)
    return found
