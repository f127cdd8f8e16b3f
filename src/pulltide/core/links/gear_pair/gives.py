"""What gives in a pair of gears as the load rises."""

from __future__ import annotations

from collections.abc import Iterator

from pulltide.core.family import GivePoint, LinkResult
from pulltide.core.links.gear_pair.transmission import GearDetails
from pulltide.core.spur.judging import tooth_gives


def gives(result: LinkResult) -> Iterator[GivePoint]:
    """Flanks and roots of the weakest mesh, told at the driver."""
    d: GearDetails = result.details
    yield from tooth_gives(d.teeth, d.driver_mm / 2000.0, d.overload_factor)
