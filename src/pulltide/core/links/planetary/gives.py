"""What gives in a planetary set as the load rises."""

from __future__ import annotations

from collections.abc import Iterator

from pulltide.core.family import GivePoint, LinkResult
from pulltide.core.links.planetary.transmission import PlanetaryDetails
from pulltide.core.spur.kinds import MOMENT_SHARE


def gives(result: LinkResult) -> Iterator[GivePoint]:
    """Flanks and roots at their lasting limits, overload factor in; roots at what they bear for a moment."""
    d: PlanetaryDetails = result.details
    lever_m = result.flow.driver_torque_nm / d.force_n if d.force_n else 0.0
    lasting_m = lever_m / d.overload_factor
    if d.wear_n is None:
        yield GivePoint("tooth flanks wear out", "wears", None, "a material whose hardness rates it")
    else:
        yield GivePoint("tooth flanks wear out", "wears", d.wear_n * lasting_m)
    yield GivePoint("teeth tire in bending", "wears", d.weakest.bending_n * lasting_m)
    yield GivePoint("teeth break off", "breaks", MOMENT_SHARE * d.weakest.bending_n * lever_m)
