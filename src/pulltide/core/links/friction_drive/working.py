"""How the figures of a friction roller come about."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from pulltide.core.findings import EXACT, Source
from pulltide.core.labels import choice
from pulltide.core.links.friction_drive import tables
from pulltide.core.links.friction_drive.transmission import MIN_LEFT, RollerDetails
from pulltide.core.rim import rim_workings
from pulltide.core.transmission import LinkResult
from pulltide.core.working import Working, made_of


def workings(result: LinkResult[RollerDetails]) -> Mapping[str, Callable[[], Working]]:
    """Working of every figure of a roller, by key."""
    d = result.details
    link, value = d.link, {item.key: item.value or 0.0 for item in result.figures}
    lining = tables.table("linings").as_source
    own = Source("own value", "friction", "own value")
    small, large = sorted((link.driver_diameter_mm, link.driven_diameter_mm))
    # where rolling takes nearly all the grip a little is taken to be left
    grip = "(μ - k c)" if d.friction - d.margin * d.rolling_share >= MIN_LEFT * d.friction else f"{MIN_LEFT:g} μ"
    sign, count = "-" if link.is_inside else "+", float(link.rollers)
    found = {
        "ratio": made_of(
            "Ratio", "i = D_2 / D_1", result.ratio, "", EXACT, D_2=link.driven_diameter_mm, D_1=link.driver_diameter_mm
        ),
        "center": made_of("Center distance", f"C = (D {sign} d) / 2", value["center"], "mm", EXACT, D=large, d=small),
        "friction": made_of(
            "Friction counted on",
            f"μ = low value, {choice(link.lining)}, rim {choice(link.surface)}",
            d.friction,
            "",
            lining if link.own_friction is None else own,
        ),
        "to_set": made_of(
            "Press to set, each roller",
            f"N = 1.03 k F / (z {grip})",
            d.to_set_n,
            "N",
            EXACT,
            note="k: margin, of the design or the peak; F passed on; c: rolling over press, 2 e / d_e",
            k=d.margin,
            F=d.pull_out_n,
            μ=d.friction,
            c=d.rolling_share,
            z=count,
        ),
        "pressure": made_of(
            "Rolling pressure",
            f"k = N (1/d {sign} 1/D) / b",
            d.pressure_mpa,
            "MPa",
            EXACT,
            N=d.press_n,
            b=link.face_width_mm,
            d=small,
            D=large,
        ),
        "efficiency": made_of(
            "Efficiency",
            "η = P2 / P1",
            result.efficiency,
            "share",
            EXACT,
            note="lost: rolling at the rim, and creep of the lining",
            P2=result.flow.power_out_kw,
            P1=result.flow.power_in_kw,
        ),
    }
    names = (("rim_speed", "Rim speed"), ("pull", "Pull, running"), ("design_pull", "Design pull"))
    found |= rim_workings(result, link.driver_diameter_mm, "F", names)
    if link.press_n is None:
        found["rolling"] = made_of(
            "Rolling resistance", "F_r = as much as 1.5 times the press that just grips", d.rolling_n, "N", lining
        )
        return found
    found["grip"] = made_of(
        "Pull it can transmit", "F = μ N z", d.grip_n or 0.0, "N", EXACT, μ=d.friction, N=link.press_n, z=count
    )
    found["rolling"] = made_of(
        "Rolling resistance",
        f"F_r = 2 z N e (1/d {sign} 1/D)",
        d.rolling_n,
        "N",
        lining,
        z=count,
        N=link.press_n,
        e=d.rolling_arm_mm,
        d=small,
        D=large,
    )
    return found
