"""What fails in a pair of gears as the load rises."""

from __future__ import annotations

from collections.abc import Iterator

from pulltide.core.links.gear_pair.transmission import GearDetails
from pulltide.core.spur.judging import tooth_failure_points
from pulltide.core.transmission import FailurePoint, LinkResult


def failure_points(result: LinkResult[GearDetails]) -> Iterator[FailurePoint]:
    """Flanks and roots of the weakest mesh, told at the driver."""
    d = result.details
    yield from tooth_failure_points(d.teeth, d.driver_mm / 2000.0, d.overload_factor)
