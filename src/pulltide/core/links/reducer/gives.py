"""What gives in a gear reducer as the load rises."""

from __future__ import annotations

from collections.abc import Iterator

from pulltide.core.family import GivePoint, LinkResult
from pulltide.core.links.reducer.transmission import ReducerDetails, momentary_torque_nm


def gives(result: LinkResult) -> Iterator[GivePoint]:
    """Rating used up with its service factor, heat, and the torque it bears for a moment; all at its output."""
    d: ReducerDetails = result.details
    flow = result.flow
    to_driver = flow.driver_torque_nm / flow.driven_torque_nm if flow.driven_torque_nm else 0.0
    rated = d.rated_torque_nm
    yield GivePoint(
        "reducer rating used up",
        "wears",
        None if rated is None else rated / result.service_factor.value * to_driver,
        "its rated torque" if rated is None else "",
    )
    if d.thermal_kw is not None:
        hot = d.thermal_kw / flow.power_in_kw * flow.driver_torque_nm if flow.power_in_kw else 0.0
        yield GivePoint("reducer runs too hot", "wears", hot)
    most = momentary_torque_nm(d)
    yield GivePoint(
        "reducer's teeth or shaft",
        "breaks",
        None if most is None else most * to_driver,
        "its momentary torque" if most is None else "",
    )
