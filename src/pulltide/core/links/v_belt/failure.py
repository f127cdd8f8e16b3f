"""What fails in a V-belt as the load rises."""

from __future__ import annotations

from collections.abc import Iterator

from pulltide.core.links.v_belt.transmission import BeltDetails, slip_pull_n
from pulltide.core.transmission import FailurePoint, LinkResult, rated_torque_nm


def failure_points(result: LinkResult[BeltDetails]) -> Iterator[FailurePoint]:
    """Rating used up; slip at the tension set, early with the friction designs rely on, late in dry grooves.

    Without the tension really set, nobody can say when a belt slips.
    """
    d = result.details
    yield FailurePoint("belt reaches its rating", "wears", rated_torque_nm(result, d.capacity_kw))
    wanted = d.link.slips_first
    if d.set_n is None:
        yield FailurePoint("belt slips", "slips", None, "the tension set on each belt", wanted)
        return
    lever_m = d.layout.driver_pitch_mm / 2000.0 * d.link.belts
    yield FailurePoint("belt may start to slip", "slips", slip_pull_n(d, dry=False) * lever_m, certain=False)
    yield FailurePoint("belt slips, even dry", "slips", slip_pull_n(d, dry=True) * lever_m, wanted=wanted)
