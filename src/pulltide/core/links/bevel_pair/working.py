"""How the figures of a pair of bevel gears come about."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from math import degrees

from pulltide.core.findings import EXACT
from pulltide.core.labels import phrase
from pulltide.core.links.bevel_pair.checks import BEVEL
from pulltide.core.links.bevel_pair.mesh import TREDGOLD
from pulltide.core.links.bevel_pair.transmission import PRESSURE_DEG
from pulltide.core.spur.single import LoadedMesh, force_workings
from pulltide.core.transmission import LinkResult
from pulltide.core.working import Working, made_of


def workings(result: LinkResult[LoadedMesh]) -> Mapping[str, Callable[[], Working]]:
    """Working of every figure of a pair, by key."""
    d = result.details
    link, value = d.link, {item.key: item.value or 0.0 for item in result.figures}
    n1, n2, m = float(link.driver_teeth), float(link.driven_teeth), link.module
    cones = [degrees(cone) for cone in link.cones]
    found = {
        "ratio": made_of("Ratio", "i = N2 / N1", result.ratio, "", EXACT, N2=n2, N1=n1),
        "cone": made_of("Cone distance", "A = m N1 / (2 sin γ)", value["cone"], "mm", BEVEL, m=m, N1=n1, γ=cones[0]),
        "mean_driver": made_of(
            "Driver diameter, middle of the face",
            "d_m = m N1 - b sin γ",
            value["mean_driver"],
            "mm",
            BEVEL,
            m=m,
            N1=n1,
            b=link.face_width_mm,
            γ=cones[0],
        ),
        "contact_ratio": made_of(
            "Contact ratio",
            "m_c = length of the path of contact over the base pitch, of the virtual teeth N / cos γ",
            value["contact_ratio"],
            "",
            TREDGOLD,
            N1=n1,
            N2=n2,
        ),
    }
    for side, count, mate, cone in (("driver", n1, n2, cones[0]), ("driven", n2, n1, cones[1])):
        title = side.capitalize()
        found[f"{side}_pitch"] = made_of(
            f"{phrase(title)} pitch diameter, large end", "d = m N", value[f"{side}_pitch"], "mm", EXACT, m=m, N=count
        )
        found[f"{side}_outside"] = made_of(
            f"{phrase(title)} tip diameter",
            "d_a = m (N + 2 cos γ)",
            value[f"{side}_outside"],
            "mm",
            BEVEL,
            m=m,
            N=count,
            γ=cone,
        )
        found[f"{side}_cone"] = made_of(
            f"{phrase(title)} pitch cone",
            "γ = atan(sin Σ / (N_m / N + cos Σ))",
            value[f"{side}_cone"],
            "deg",
            BEVEL,
            note="N_m: teeth of the mate",
            Σ=link.shafts_deg,
            N_m=mate,
            N=count,
        )
        found[f"{side}_thrust"] = made_of(
            f"Thrust on the {phrase(side)} shaft",
            "W_a = W tan φ sin γ",
            value[f"{side}_thrust"],
            "N",
            BEVEL,
            note="away from the apex",
            W=d.force_n,
            φ=PRESSURE_DEG,
            γ=cone,
        )
    return found | force_workings(result, d)
