"""What fails in a worm set as the load rises."""

from __future__ import annotations

from collections.abc import Iterator

from pulltide.core.links.worm_set.checks import HOT
from pulltide.core.links.worm_set.transmission import WormDetails
from pulltide.core.spur.kinds import MOMENT_SHARE
from pulltide.core.transmission import FailurePoint, LinkResult


def failure_points(result: LinkResult[WormDetails]) -> Iterator[FailurePoint]:
    """Wear of the bronze with its overload factor, teeth in bending, heat, and what the teeth bear for a moment."""
    d = result.details
    driver_nm = result.flow.driver_torque_nm
    per_newton = driver_nm / d.force_n if d.force_n else 0.0
    yield FailurePoint("bronze wears out", "wears", d.wear_n / d.overload_factor * per_newton)
    yield FailurePoint("wheel teeth tire in bending", "wears", d.bending_n / d.overload_factor * per_newton)
    if d.rise_c > 0:
        # Oil warms in proportion to what is lost, and loss to torque.
        yield FailurePoint("oil gets too hot", "wears", driver_nm * (HOT.limits[1] - d.oil_c + d.rise_c) / d.rise_c)
    yield FailurePoint("wheel teeth break off", "breaks", MOMENT_SHARE * d.bending_n * per_newton)
