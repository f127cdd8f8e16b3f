"""What fails in a coupling as the load rises."""

from __future__ import annotations

from collections.abc import Iterator

from pulltide.core.links.coupling.transmission import CouplingDetails
from pulltide.core.transmission import FailurePoint, LinkResult


def failure_points(result: LinkResult[CouplingDetails]) -> Iterator[FailurePoint]:
    """Rating used up with its service factor, and what it bears for a moment."""
    d = result.details
    rated = d.unit.rated_torque_nm
    missing = "its rated torque" if rated is None else ""
    yield FailurePoint("rating used up", "wears", None if rated is None else rated / result.sizing_factor, missing)
    if d.link.shear_pins:
        lacking = "" if d.pin_nm is not None else "size, circle and steel of the shear pins"
        yield FailurePoint("shear pins shear", "slips", d.pin_nm, lacking, wanted=True, parts=True)
    if d.link.limiter_nm is not None:
        yield FailurePoint("torque limiter slips", "slips", d.link.limiter_nm, wanted=True)
    yield FailurePoint("coupling breaks", "breaks", d.moment_nm, missing)
