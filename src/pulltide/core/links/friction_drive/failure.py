"""What fails in a friction roller as the load rises."""

from __future__ import annotations

from collections.abc import Iterator

from pulltide.core.links.friction_drive.transmission import RollerDetails
from pulltide.core.transmission import FailurePoint, LinkResult


def failure_points(result: LinkResult[RollerDetails]) -> Iterator[FailurePoint]:
    """Slip at the least friction. A clean rim may grip far better, so nothing behind it is protected by it."""
    d = result.details
    if d.grip_n is None:
        yield FailurePoint("roller slips", "slips", None, "the force it is pressed with")
        return
    yield FailurePoint("roller may start to slip", "slips", d.grip_n * d.link.driver_diameter_mm / 2000, certain=False)
