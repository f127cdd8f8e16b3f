"""What fails in a strain-wave gear as the load rises."""

from __future__ import annotations

from collections.abc import Iterator

from pulltide.core.links.strain_wave.transmission import WaveDetails
from pulltide.core.part_load import idle_share, power_in_kw
from pulltide.core.transmission import FailurePoint, LinkResult
from pulltide.core.units import power_kw, torque_nm


def failure_points(result: LinkResult[WaveDetails]) -> Iterator[FailurePoint]:
    """Rating used up with its service factor, then teeth that skip; all at the output, told at the driver."""
    d = result.details
    rated, speed = d.link.rated_torque_nm, result.flow.driver_speed_rpm
    missing = "its rated torque" if rated is None else ""

    def at_input(output_nm: float) -> float:
        slow = speed / d.link.ratio
        taken = power_in_kw(
            power_kw(output_nm, slow), power_kw(rated or 1.0, slow), d.rated_efficiency, idle_share("strain_wave")
        )
        return torque_nm(taken, speed)

    used = None if rated is None else at_input(rated / result.sizing_factor)
    yield FailurePoint("rating used up", "wears", used, missing)
    yield FailurePoint("teeth skip", "breaks", None if d.moment_nm is None else at_input(d.moment_nm), missing)
