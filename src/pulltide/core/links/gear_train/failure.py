"""What fails in a gear train as the load rises."""

from __future__ import annotations

from collections.abc import Iterator

from pulltide.core.links.gear_train.transmission import TrainDetails
from pulltide.core.spur.judging import tooth_failure_points
from pulltide.core.transmission import FailurePoint, LinkResult


def failure_points(result: LinkResult[TrainDetails]) -> Iterator[FailurePoint]:
    """Flanks and roots of the weakest pair, told at the train's driver."""
    d = result.details
    yield from tooth_failure_points(d.teeth, 1 / d.weakest.newtons_per_nm, d.overload_factor)
