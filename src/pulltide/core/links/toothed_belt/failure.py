"""What fails in a timing belt as the load rises."""

from __future__ import annotations

from collections.abc import Iterator
from math import pi

from pulltide.core.links.toothed_belt.transmission import PEAK_SHARE, BeltDetails
from pulltide.core.transmission import FailurePoint, LinkResult, rated_torque_nm


def failure_points(result: LinkResult[BeltDetails]) -> Iterator[FailurePoint]:
    """Rating used up; teeth jump at the peak the belt takes (common practice, no source)."""
    d = result.details
    yield FailurePoint("belt reaches its rating", "wears", rated_torque_nm(result, d.capacity_kw))
    lever_m = d.link.driver_teeth * d.data.pitch_mm / (2000.0 * pi)
    yield FailurePoint("belt teeth jump or shear", "breaks", PEAK_SHARE * d.allowable_n * lever_m)
