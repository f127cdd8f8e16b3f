"""What fails in a flat or round belt as the load rises."""

from __future__ import annotations

from collections.abc import Iterator

from pulltide.core.links.plain_belt.transmission import BeltDetails
from pulltide.core.transmission import FailurePoint, LinkResult


def failure_points(result: LinkResult[BeltDetails]) -> Iterator[FailurePoint]:
    """Allowed pull used up; slip at the tension set, early by the published friction, at the latest by any.

    A belt may grip better than its table says, dressed or new: what stands behind is safe only from the latest slip.
    """
    d = result.details
    lever_m = d.link.driver_diameter_mm / 2000
    yield FailurePoint("belt reaches its allowable pull", "wears", d.capacity_n * lever_m / result.sizing_factor)
    if d.slip_n is None or d.max_n is None:
        yield FailurePoint("belt slips", "slips", None, "the tension set on each belt", d.link.slips_first)
        return
    yield FailurePoint("belt may start to slip", "slips", d.slip_n * lever_m, certain=False)
    yield FailurePoint("belt slips at any friction", "slips", d.max_n * lever_m, wanted=d.link.slips_first)
