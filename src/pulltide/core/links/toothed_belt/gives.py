"""What gives in a timing belt as the load rises."""

from __future__ import annotations

from collections.abc import Iterator
from math import pi

from pulltide.core.family import GivePoint, LinkResult, rated_torque_nm
from pulltide.core.links.toothed_belt.transmission import PEAK_SHARE, BeltDetails


def gives(result: LinkResult) -> Iterator[GivePoint]:
    """Rating used up; teeth jump at the peak the belt takes (common practice, no source)."""
    d: BeltDetails = result.details
    yield GivePoint("belt reaches its rating", "wears", rated_torque_nm(result, d.capacity_kw))
    lever_m = d.link.driver_teeth * d.data.pitch_mm / (2000.0 * pi)
    yield GivePoint("belt teeth jump or shear", "breaks", PEAK_SHARE * d.allowable_n * lever_m)
