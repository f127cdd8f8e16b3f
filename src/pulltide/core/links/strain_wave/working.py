"""How the figures of a strain-wave gear come about."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from pulltide.core.findings import COMMON_PRACTICE, EXACT
from pulltide.core.links.strain_wave.inputs import StrainWave
from pulltide.core.links.strain_wave.transmission import MOMENT, PRINTED_MOMENT, WaveDetails
from pulltide.core.part_load import idle_share
from pulltide.core.transmission import LinkResult
from pulltide.core.working import Step, Working, made_of

FORMULAS = {"ring": "-Zf / (Zc - Zf)", "cup": "Zc / (Zc - Zf)"}


def ratio_working(link: StrainWave) -> Working:
    """Signed ratio of a strain-wave gear."""
    signed = -link.ratio if link.held == "ring" else link.ratio
    numbers = {"Zf": float(link.cup_teeth), "Zc": float(link.ring_teeth)}
    note = "Zf teeth of the cup, Zc of the ring; minus: against the generator"
    return Working(
        "Ratio of a strain-wave gear", (Step("Ratio", "i", FORMULAS[link.held], numbers, signed, "", EXACT, note),)
    )


def workings(result: LinkResult[WaveDetails]) -> Mapping[str, Callable[[], Working]]:
    """Working of every figure of a gear, by key."""
    d = result.details
    link, flow = d.link, result.flow
    moment = PRINTED_MOMENT if link.made_of == "printed" else MOMENT
    found = {
        "ratio": lambda: ratio_working(link),
        "rated_efficiency": made_of(
            "Efficiency at rated torque",
            "η_r = 0.75 at 50 to 1, evenly to 0.65 at 160 to 1; up to 0.06 more down to 300 rpm; printed 0.6 of it",
            d.rated_efficiency,
            "share",
            COMMON_PRACTICE,
            i=result.ratio,
        ),
        "design_torque": made_of(
            "Design torque at the output",
            "T_d = T_d1 T2 / T1",
            d.design_torque_nm,
            "N*m",
            EXACT,
            T_d1=result.design.chosen_nm,
            T2=flow.driven_torque_nm,
            T1=flow.driver_torque_nm,
        ),
    }
    if d.moment_nm is not None and link.rated_torque_nm is not None:
        found["moment_torque"] = made_of(
            "Torque at which it may skip",
            "T_m = k T_r",
            d.moment_nm,
            "N*m",
            COMMON_PRACTICE,
            k=moment,
            T_r=link.rated_torque_nm,
        )
    if d.rated_kw is not None:
        found["efficiency"] = made_of(
            "Efficiency at this load",
            "η = P / (P + P_r (1 / η_r - 1) (a + (1 - a) P / P_r))",
            result.efficiency,
            "share",
            COMMON_PRACTICE,
            η_r=d.rated_efficiency,
            a=idle_share("strain_wave"),
            P=flow.power_out_kw,
            P_r=d.rated_kw,
        )
    else:
        found["efficiency"] = made_of(
            "Efficiency, its rating unknown",
            "η = η_r",
            result.efficiency,
            "share",
            COMMON_PRACTICE,
            η_r=d.rated_efficiency,
        )
    return found
