"""How the figures of a worm set come about, and the same formulas callable by name."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from pydantic import Field

from pulltide.core.findings import COMMON_PRACTICE, EXACT, Source
from pulltide.core.labels import phrase
from pulltide.core.links.worm_set import checks, rating, tables
from pulltide.core.links.worm_set.transmission import WormDetails
from pulltide.core.model import CoreModel, Degrees, Plain
from pulltide.core.transmission import AnyResult, LinkResult
from pulltide.core.working import Step, Working, made_of

SHIGLEY = Source("Shigley's Mechanical Engineering Design", "Eq. 13-46 and 13-47", "formula")
FRICTION = Source("AGMA 6034", "Shigley Eq. 15-38", "formula quoted from memory")


class HoldingInputs(CoreModel):
    """Inputs of the question whether a wheel turns its worm."""

    lead_angle_deg: Degrees = Field(title="Lead angle", ge=0.5, le=45)
    pressure_angle_deg: Degrees = Field(20.0, title="Normal pressure angle", ge=10, le=30)
    friction: Plain = Field(title="Friction", gt=0, le=0.5)


def holding_working(inputs: HoldingInputs) -> Working:
    """Efficiency both ways, and from which friction a wheel no longer turns its worm."""
    lead, phi, mu = inputs.lead_angle_deg, inputs.pressure_angle_deg, inputs.friction
    numbers = {"φ": phi, "λ": lead, "f": mu}
    holds = rating.holding_friction(lead, phi)
    forward, back = rating.efficiency(lead, phi, mu), rating.back_efficiency(lead, phi, mu)
    warning = "never a brake: friction at rest is 0.15, in motion 0.02, and wear lowers both"
    return Working(
        "Worm and wheel, both ways",
        (
            Step("Worm drives", "η", "(cos φ - f tan λ) / (cos φ + f cot λ)", numbers, forward, "share", SHIGLEY),
            Step(
                "Holds at rest from",
                "f_h",
                "cos φ tan λ",
                {"φ": phi, "λ": lead},
                holds,
                "",
                checks.BRAKE.source,
                warning,
            ),
            Step(
                "Wheel drives; zero or less: it does not at this friction",
                "η'",
                "(cos φ - f cot λ) / (cos φ + f tan λ)",
                numbers,
                back,
                "share",
                SHIGLEY,
                warning,
            ),
        ),
    )


def _branches(d: WormDetails, ratio: float) -> tuple[str, str, str]:
    """The branch of each published factor that is in force, as a formula."""
    center_in = d.center_mm / rating.MM_PER_IN
    by_wheel = {
        "sand_cast": "1190 - 477 log10 D, 1000 up to 2.5 in",
        "chill_cast": "1412 - 456 log10 D, 1000 up to 8 in",
        "centrifugally_cast": "1251 - 180 log10 D, 1000 up to 25 in",
    }[d.link.wheel_cast]
    materials = f"least of 720 + 10.37 C³ and {phrase(by_wheel)}" if center_in <= 3 else by_wheel
    if ratio <= 20:
        by_ratio = "0.02 √(-i² + 40 i - 76) + 0.46"
    else:
        by_ratio = "0.0107 √(-i² + 56 i + 5145)" if ratio <= 76 else "1.1483 - 0.00658 i"
    feet = d.sliding_m_per_s * rating.FPM_PER_M_S
    by_speed = "0.659 exp(-0.0011 V)" if feet < 700 else "13.31 V^-0.571" if feet < 3000 else "65.52 V^-0.774"
    return materials, by_ratio, by_speed


def _wear(d: WormDetails) -> Working:
    link, ratio = d.link, d.link.wheel_teeth / d.link.starts
    factors = {
        "C_s": rating.materials_factor(d.center_mm, d.wheel_mm, link.wheel_cast),
        "D": d.wheel_mm / rating.MM_PER_IN,
        "F_e": d.face_mm / rating.MM_PER_IN,
        "C_m": rating.ratio_factor(ratio),
        "C_v": rating.velocity_factor(d.sliding_m_per_s),
    }
    materials, by_ratio, by_speed = _branches(d, ratio)
    speed = {"V": d.sliding_m_per_s * rating.FPM_PER_M_S}
    size = {"C": d.center_mm / rating.MM_PER_IN, "D": factors["D"]}
    return Working(
        "Wheel force that wear allows",
        (
            Step("Materials factor", "C_s", materials, size, factors["C_s"], "", checks.AGMA),
            Step("Ratio factor", "C_m", by_ratio, {"i": ratio}, factors["C_m"], "", checks.AGMA),
            Step("Velocity factor", "C_v", by_speed, speed, factors["C_v"], "", checks.AGMA),
            Step("Wheel force", "W", "4.4482 C_s D^0.8 F_e C_m C_v, inches", factors, d.wear_n, "N", checks.AGMA),
        ),
    )


def _friction(d: WormDetails) -> Working:
    rough = d.link.worm_is != "hardened_and_ground"
    k = rating.ROUGH_WORM if rough else 1.0
    numbers = {"k": k, "V": d.sliding_m_per_s * rating.FPM_PER_M_S}
    formula = "k (0.103 exp(-0.110 V^0.450) + 0.012)" if numbers["V"] > 10 else "k 0.124 exp(-0.074 V^0.645)"
    note = "k is 2 for a soft or as-cut worm, common practice" if rough else ""
    return Working("Friction", (Step("Friction, V in ft/min", "f", formula, numbers, d.friction, "", FRICTION, note),))


def workings(result: LinkResult[WormDetails]) -> Mapping[str, Callable[[], Working]]:
    """Working of every figure of a set, by key."""
    d = result.details
    link, flow, m = d.link, result.flow, d.link.module_mm
    z1, n2, dw, phi = float(link.starts), float(link.wheel_teeth), link.worm_pitch_mm, float(link.pressure_angle)
    start = rating.START_FRICTION * (1.0 if link.worm_is == "hardened_and_ground" else 1.25)
    both = "(cos φ - f tan λ) / (cos φ + f cot λ)"
    back = "(cos φ - f cot λ) / (cos φ + f tan λ)"
    holds = "zero or less: it does not turn back at this friction; never count on it"
    form = tables.form_factor(link.pressure_angle)
    heat = {"P_in": flow.power_in_kw, "P_out": flow.power_out_kw, "A": d.area_m2, "n": flow.driver_speed_rpm}
    return {
        "ratio": made_of("Ratio", "i = N / z1", result.ratio, "", EXACT, N=n2, z1=z1),
        "lead_angle": made_of("Lead angle", "λ = atan(z1 m / d)", d.lead_deg, "deg", EXACT, z1=z1, m=m, d=dw),
        "lead": made_of("Lead", "L = π m z1", result_of(result, "lead"), "mm", EXACT, m=m, z1=z1),
        "center": made_of("Center distance", "C = (d + m N) / 2", d.center_mm, "mm", EXACT, d=dw, m=m, N=n2),
        "wheel_pitch": made_of("Wheel pitch diameter", "D = m N", d.wheel_mm, "mm", EXACT, m=m, N=n2),
        "worm_outside": made_of(
            "Worm outside diameter", "d_a = d + 2 m", result_of(result, "worm_outside"), "mm", EXACT, d=dw, m=m
        ),
        "sliding": made_of(
            "Sliding speed",
            "v = π d n / (60000 cos λ)",
            d.sliding_m_per_s,
            "m/s",
            EXACT,
            d=dw,
            n=flow.driver_speed_rpm,
            λ=d.lead_deg,
        ),
        "friction": lambda: _friction(d),
        "mesh_efficiency": made_of(
            "Efficiency of the mesh",
            f"η = {both}",
            d.mesh_efficiency,
            "share",
            SHIGLEY,
            φ=phi,
            λ=d.lead_deg,
            f=d.friction,
        ),
        "start_efficiency": made_of(
            "Efficiency at the start",
            f"η_s = 0.95 {both}, at most the running one",
            d.start_efficiency,
            "share",
            COMMON_PRACTICE,
            φ=phi,
            λ=d.lead_deg,
            f=start,
        ),
        "back_running": made_of(
            "Driven back while running",
            f"η' = {back}",
            d.back_running,
            "share",
            SHIGLEY,
            note=holds,
            φ=phi,
            λ=d.lead_deg,
            f=d.friction,
        ),
        "back_at_rest": made_of(
            "Driven back from rest",
            f"η' = {back}",
            d.back_at_rest,
            "share",
            SHIGLEY,
            note=holds,
            φ=phi,
            λ=d.lead_deg,
            f=rating.REST_FRICTION,
        ),
        "wear": lambda: _wear(d),
        "bending": made_of(
            "Wheel force that bending allows",
            "W = σ π m cos λ F y",
            d.bending_n,
            "N",
            checks.BENDS,
            note="σ: half the endurance limit of phosphor bronze, from memory",
            σ=rating.BRONZE_MPA,
            m=m,
            λ=d.lead_deg,
            F=d.face_mm,
            y=form,
        ),
        "force": made_of(
            "Wheel force", "F = 2000 T2 / D", d.force_n, "N", EXACT, T2=flow.driven_torque_nm, D=d.wheel_mm
        ),
        "worm_force": made_of(
            "Worm force", "F1 = 2000 T1 / d", d.worm_force_n, "N", EXACT, T1=flow.driver_torque_nm, d=dw
        ),
        "separating": made_of(
            "Separating force",
            "F_r = F sin φ / (cos φ cos λ - f sin λ)",
            d.separating_n,
            "N",
            SHIGLEY,
            F=d.force_n,
            φ=phi,
            λ=d.lead_deg,
            f=d.friction,
        ),
        "oil": lambda: Working(
            "Oil temperature",
            (
                Step(
                    "Oil temperature once it settles",
                    "t",
                    f"t_a + 15.86152 (P_in - P_out) / ((n / {3939 if link.fan else 6494} + 0.13) A)",
                    {"t_a": d.oil_c - d.rise_c, **heat},
                    d.oil_c,
                    "degC",
                    checks.HEAT,
                    "h in ft·lbf/(min·in²·°F)",
                ),
            ),
        ),
        "efficiency": made_of(
            "Efficiency of mesh and bearings",
            "η = 0.95 η_mesh",
            result.efficiency,
            "share",
            COMMON_PRACTICE,
            η_mesh=d.mesh_efficiency,
        ),
    }


def result_of(result: AnyResult, key: str) -> float:
    """Value of a figure by its key."""
    return next(figure.value or 0.0 for figure in result.figures if figure.key == key)
