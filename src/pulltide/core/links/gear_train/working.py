"""How the figures of a train come about."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from pulltide.core.findings import COMMON_PRACTICE, EXACT
from pulltide.core.links.gear_train.case_working import case_workings
from pulltide.core.links.gear_train.transmission import TrainDetails
from pulltide.core.spur.kinds import mesh_efficiency
from pulltide.core.spur.working import bending_working, safety_workings, wear_working
from pulltide.core.transmission import LinkResult
from pulltide.core.working import Step, Working, made_of


def workings(result: LinkResult[TrainDetails]) -> Mapping[str, Callable[[], Working]]:
    """Working of every figure of a train, by key."""
    d = result.details
    link, weak = d.link, d.weakest
    ratios = {f"i_{k}": b / a for k, (a, b) in enumerate(link.pairs, start=1)}
    found = {
        "ratio": made_of("Ratio", f"i = {' · '.join(ratios)}", result.ratio, "", EXACT, note="", **ratios),
        "wanted": made_of("Wanted ratio", "i_w = as entered", link.wanted_ratio or 0.0, "", EXACT),
        "bending": lambda: bending_working(weak.strength),
        "force": made_of(
            "Tooth force, running",
            "W = 2000 T g / d",
            weak.force_n,
            "N",
            EXACT,
            note="g: torque of this pair's driver for one of the train's",
            T=result.flow.driver_torque_nm,
            g=weak.gain,
            d=weak.driver_mm,
        ),
        "design_force": made_of(
            "Tooth force with overload",
            "W_d = 2000 T_d g / d",
            weak.design_force_n,
            "N",
            EXACT,
            T_d=result.design.chosen_nm,
            g=weak.gain,
            d=weak.driver_mm,
        ),
        "efficiency": made_of(
            "Efficiency",
            "η = η_1^k",
            result.efficiency,
            "share",
            COMMON_PRACTICE,
            note="η_1 of one pair by how it runs and how its teeth are made, or your own; k pairs",
            η_1=link.own_efficiency or mesh_efficiency(link.running, link.made),
            k=float(len(d.pairs)),
        ),
    }
    for k, ((a, b), m, c) in enumerate(zip(link.pairs, link.modules_mm, link.centers_mm, strict=True), start=1):
        found[f"ratio_{k}"] = made_of("Ratio of a pair", "i = N2 / N1", b / a, "", EXACT, N2=float(b), N1=float(a))
        found[f"center_{k}"] = made_of(
            "Center distance", "C = m (N1 + N2) / 2", c, "mm", EXACT, m=m, N1=float(a), N2=float(b)
        )
    worn, wear = d.soonest_worn, None
    if worn is not None and d.wear_n is not None:
        share = weak.newtons_per_nm / worn.newtons_per_nm
        own = wear_working(worn.strength)
        put_in = {"W_w": worn.strength.wear_n or 0.0, "s": share}
        referred = Step("Referred to the weakest pair", "W", "W_w s", put_in, d.wear_n, "N", EXACT)
        wear = Working(own.title, (*own.steps, referred))
        found["wear"] = lambda: Working(own.title, (*own.steps, referred))
    return found | safety_workings(d.teeth, bending_working(weak.strength), wear) | case_workings(d)
