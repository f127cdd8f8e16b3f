"""What fails in a lantern pinion and its wheel as the load rises."""

from __future__ import annotations

from collections.abc import Iterator

from pulltide.core.links.lantern.transmission import LanternDetails
from pulltide.core.spur.kinds import MOMENT_SHARE
from pulltide.core.transmission import FailurePoint, LinkResult


def failure_points(result: LinkResult[LanternDetails]) -> Iterator[FailurePoint]:
    """Wear, which nobody rates; pins and teeth in bending, lasting and for a moment."""
    d = result.details
    lever_m = d.driver_mm / 2000.0
    yield FailurePoint("pins and teeth wear out", "wears", None, "a rating: none is known for pins on teeth")
    yield FailurePoint("pins tire in bending", "wears", d.pin_n * lever_m / d.overload_factor)
    yield FailurePoint("wheel teeth tire in bending", "wears", d.tooth_n * lever_m / d.overload_factor)
    yield FailurePoint("pins or teeth break", "breaks", MOMENT_SHARE * d.weakest_n * lever_m)
