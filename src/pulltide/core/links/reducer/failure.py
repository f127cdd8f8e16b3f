"""What fails in a gear reducer as the load rises."""

from __future__ import annotations

from collections.abc import Iterator

from pulltide.core.links.reducer import rating
from pulltide.core.links.reducer.transmission import ReducerDetails
from pulltide.core.transmission import FailurePoint, LinkResult
from pulltide.core.units import power_kw, torque_nm


def failure_points(result: LinkResult[ReducerDetails]) -> Iterator[FailurePoint]:
    """Rating used up with its service factor, heat, and the torque it bears for a moment; all at its output."""
    d = result.details
    speed, unit = result.flow.driver_speed_rpm, d.unit

    def at_input(output_nm: float) -> float:
        return torque_nm(rating.power_in_kw(unit, speed, power_kw(output_nm, speed / unit.ratio)), speed)

    rated = d.rated_torque_nm
    yield FailurePoint(
        "reducer reaches its rating",
        "wears",
        None if rated is None else at_input(rated / result.sizing_factor),
        "its rated torque" if rated is None else "",
    )
    if d.thermal_kw is not None:
        yield FailurePoint("reducer overheats", "wears", torque_nm(d.thermal_kw, speed))
    most = rating.torque_at_rest_nm(unit)
    yield FailurePoint(
        "reducer's teeth or shaft, at rest",
        "breaks",
        None if most is None else at_input(most),
        "its momentary torque" if most is None else "",
    )
