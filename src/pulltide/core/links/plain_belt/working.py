"""How the figures of a flat or round belt come about."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from pulltide.core.findings import COMMON_PRACTICE, EXACT
from pulltide.core.links.plain_belt import tables
from pulltide.core.links.plain_belt.checks import SHIGLEY
from pulltide.core.links.plain_belt.transmission import BeltDetails
from pulltide.core.rim import rim_workings
from pulltide.core.transmission import LinkResult
from pulltide.core.working import Working, made_of


def workings(result: LinkResult[BeltDetails]) -> Mapping[str, Callable[[], Working]]:
    """Working of every figure of a belt, by key."""
    d = result.details
    link, crossed = d.link, d.link.runs == "crossed"
    small, large = sorted((link.driver_diameter_mm, link.driven_diameter_mm))
    sign = "+" if crossed else "-"
    length = (
        "L = 2 C cos β + (D + d)(π/2 + β), sin β = (D + d)/(2 C)"
        if crossed
        else "L = 2 C cos γ + π (D + d)/2 + γ (D - d), sin γ = (D - d)/(2 C)"
    )
    wrap = f"θ = 180 {sign} 2 asin((D {sign} d) / (2 C))"
    speed, width = d.speed_m_per_s, 1.0 if d.data.is_round else link.width_mm
    source = tables.table("belts").as_source
    hardest = max(d.design_pull_n, d.peak_pull_n or 0.0)
    names = (("belt_speed", "Belt speed"), ("pull", "Pull, running"), ("design_pull", "Design pull"))
    return {
        **rim_workings(result, link.driver_diameter_mm, "F", names),
        "ratio": made_of(
            "Ratio", "i = D_2 / D_1", result.ratio, "", EXACT, D_2=link.driven_diameter_mm, D_1=link.driver_diameter_mm
        ),
        "center": made_of("Center distance", "C = as entered, at least clear", d.layout.center_mm, "mm", EXACT),
        "length": made_of(
            "Belt length", length, d.layout.length_mm, "mm", EXACT, D=large, d=small, C=d.layout.center_mm
        ),
        "wrap": made_of(
            "Wrap of the small pulley", wrap, d.layout.wrap_deg, "deg", EXACT, D=large, d=small, C=d.layout.center_mm
        ),
        "tension_ratio": made_of(
            "Tight over slack tension, at most",
            "R = exp(f π θ / 180)",
            d.tension_ratio,
            "",
            SHIGLEY,
            f=d.data.friction,
            θ=d.layout.wrap_deg,
        ),
        "allowed": made_of(
            "Allowed in the tight side",
            "F_1 = F_a b N C_p",
            d.allowed_n,
            "N",
            source,
            note="b: width of a flat belt, 1 for a round one; C_p by the small pulley",
            F_a=d.data.allowed_n,
            b=width,
            N=float(link.belts),
            C_p=d.pulley_share,
        ),
        "capacity": made_of(
            "Pull it can transmit",
            "F = (F_1 - m v²)(1 - 1/R)",
            d.capacity_n,
            "N",
            SHIGLEY,
            F_1=d.allowed_n,
            m=d.mass_kg_per_m,
            v=speed,
            R=d.tension_ratio,
        ),
        "to_set": made_of(
            "Tension to set, each belt",
            "T = (F (R + 1) / (2 (R - 1)) + m v²) / N",
            d.to_set_n,
            "N",
            SHIGLEY,
            note="F: design or peak pull, the larger",
            F=hardest,
            R=d.tension_ratio,
            m=d.mass_kg_per_m,
            v=speed,
            N=float(link.belts),
        ),
        "efficiency": made_of("Efficiency", "η = of bending, less creep", result.efficiency, "share", COMMON_PRACTICE),
    }
