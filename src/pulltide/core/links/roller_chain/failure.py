"""What fails in a roller chain as the load rises."""

from __future__ import annotations

from collections.abc import Iterator

from pulltide.core.links.roller_chain.transmission import ChainDetails
from pulltide.core.transmission import FailurePoint, LinkResult, rated_torque_nm


def failure_points(result: LinkResult[ChainDetails]) -> Iterator[FailurePoint]:
    """Rating used up; the chain parts at its least tensile strength, less what its own weight and speed pull."""
    d = result.details
    yield FailurePoint("chain reaches its rating", "wears", rated_torque_nm(result, d.capacity_kw))
    own_n = d.strand_pull_n - 1000.0 * d.design_power_kw / d.speed_m_per_s
    left_n = d.strand_pull_n * d.static_safety - own_n
    yield FailurePoint("chain breaks", "breaks", left_n * d.layout.driver_pitch_mm / 2000.0)
