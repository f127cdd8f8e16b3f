"""What gives in a roller chain as the load rises."""

from __future__ import annotations

from collections.abc import Iterator

from pulltide.core.family import GivePoint, LinkResult, rated_torque_nm
from pulltide.core.links.roller_chain.transmission import ChainDetails


def gives(result: LinkResult) -> Iterator[GivePoint]:
    """Rating used up; the chain parts at its least tensile strength, less what its own weight and speed pull."""
    d: ChainDetails = result.details
    yield GivePoint("chain reaches its rating", "wears", rated_torque_nm(result, d.capacity_kw))
    own_n = d.strand_pull_n - 1000.0 * d.design_power_kw / d.speed_m_per_s
    left_n = d.strand_pull_n * d.static_safety - own_n
    yield GivePoint("chain breaks", "breaks", left_n * d.layout.driver_pitch_mm / 2000.0)
