"""What fails in a planetary set as the load rises."""

from __future__ import annotations

from collections.abc import Iterator

from pulltide.core.links.planetary.transmission import PlanetaryDetails
from pulltide.core.spur.judging import tooth_failure_points
from pulltide.core.transmission import FailurePoint, LinkResult


def failure_points(result: LinkResult[PlanetaryDetails]) -> Iterator[FailurePoint]:
    """Flanks and roots of the hardest stage, told at the driver."""
    d = result.details
    lever_m = result.flow.driver_torque_nm / d.force_n if d.force_n else 0.0
    yield from tooth_failure_points(d.teeth, lever_m, d.overload_factor)
