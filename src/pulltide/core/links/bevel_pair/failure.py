"""What fails in a pair of bevel gears as the load rises."""

from __future__ import annotations

from collections.abc import Iterator

from pulltide.core.spur.judging import tooth_failure_points
from pulltide.core.spur.single import LoadedMesh
from pulltide.core.transmission import FailurePoint, LinkResult


def failure_points(result: LinkResult[LoadedMesh]) -> Iterator[FailurePoint]:
    """Flanks and roots, told at the driver."""
    d = result.details
    yield from tooth_failure_points(d.teeth, d.driver_mm / 2000, d.overload_factor)
