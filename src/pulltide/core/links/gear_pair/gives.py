"""What gives in a pair of gears as the load rises."""

from __future__ import annotations

from collections.abc import Iterator

from pulltide.core.family import GivePoint, LinkResult
from pulltide.core.links.gear_pair.transmission import GearDetails
from pulltide.core.spur.kinds import MOMENT_SHARE


def gives(result: LinkResult) -> Iterator[GivePoint]:
    """Flanks and roots at their lasting limits, overload factor in; roots at what they bear for a moment."""
    d: GearDetails = result.details
    lever_m = d.driver_mm / 2000.0
    lasting_m = lever_m / d.overload_factor
    if d.wear_n is None:
        yield GivePoint("tooth flanks wear out", "wears", None, "a material whose hardness rates it")
    else:
        yield GivePoint("tooth flanks wear out", "wears", d.wear_n * lasting_m)
    yield GivePoint("teeth tire in bending", "wears", d.bending_n * lasting_m)
    yield GivePoint("teeth break off", "breaks", MOMENT_SHARE * d.bending_n * lever_m)
