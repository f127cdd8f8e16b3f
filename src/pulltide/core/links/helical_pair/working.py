"""How the figures of a pair of helical gears come about."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from math import degrees

from pulltide.core.findings import EXACT
from pulltide.core.labels import phrase
from pulltide.core.links.helical_pair.checks import HELICAL
from pulltide.core.links.helical_pair.mesh import transverse_angle
from pulltide.core.spur.single import LoadedMesh, force_workings
from pulltide.core.transmission import LinkResult
from pulltide.core.working import Working, made_of


def workings(result: LinkResult[LoadedMesh]) -> Mapping[str, Callable[[], Working]]:
    """Working of every figure of a pair, by key."""
    d = result.details
    link, value = d.link, {item.key: item.value or 0.0 for item in result.figures}
    n1, n2, m, helix = float(link.driver_teeth), float(link.driven_teeth), link.module, link.helix_deg
    found = {
        "ratio": made_of("Ratio", "i = N2 / N1", result.ratio, "", EXACT, N2=n2, N1=n1),
        "center": made_of(
            "Center distance", "C = m (N1 + N2) / (2 cos ψ)", value["center"], "mm", HELICAL, m=m, N1=n1, N2=n2, ψ=helix
        ),
        "axial_pitch": made_of("Axial pitch", "p_x = π m / sin ψ", value["axial_pitch"], "mm", HELICAL, m=m, ψ=helix),
        "contact_ratio": made_of(
            "Contact ratio, in the plane of rotation",
            "m_p = length of the path of contact over the transverse base pitch",
            value["contact_ratio"],
            "",
            HELICAL,
            N1=n1,
            N2=n2,
            ψ=helix,
        ),
        "separating": made_of(
            "Separating force",
            "W_r = W tan φ_t",
            value["separating"],
            "N",
            HELICAL,
            W=d.force_n,
            φ_t=degrees(transverse_angle(helix)),
        ),
        "thrust": made_of(
            "Thrust on each shaft",
            "W_a = W tan ψ" if link.helices == "single" else "W_a = none: two halves push against each other",
            value["thrust"],
            "N",
            HELICAL,
            W=d.force_n,
            ψ=helix,
        ),
    }
    for side, count in (("driver", n1), ("driven", n2)):
        title = side.capitalize()
        found[f"{side}_pitch"] = made_of(
            f"{phrase(title)} pitch diameter",
            "d = m N / cos ψ",
            value[f"{side}_pitch"],
            "mm",
            HELICAL,
            m=m,
            N=count,
            ψ=helix,
        )
        found[f"{side}_outside"] = made_of(
            f"{phrase(title)} tip diameter",
            "d_a = m N / cos ψ + 2 m",
            value[f"{side}_outside"],
            "mm",
            HELICAL,
            m=m,
            N=count,
            ψ=helix,
        )
    return found | force_workings(result, d)
