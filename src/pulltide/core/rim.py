"""Workings that every link with a rim shows: its speed, and the pull there, running and at design torque."""

from __future__ import annotations

from collections.abc import Callable

from pulltide.core.findings import EXACT
from pulltide.core.transmission import AnyResult
from pulltide.core.working import Working, made_of


def rim_workings(
    result: AnyResult, diameter_mm: float, letter: str, names: tuple[tuple[str, str], tuple[str, str], tuple[str, str]]
) -> dict[str, Callable[[], Working]]:
    """Workings at a driver's rim of a diameter [mm]: ``names`` are key and title of speed, running and design pull."""
    value = {figure.key: figure.value or 0.0 for figure in result.figures}
    (speed, speed_title), (pull, pull_title), (design, design_title) = names
    n, torque, chosen = result.flow.driver_speed_rpm, result.flow.driver_torque_nm, result.design.chosen_nm
    d = diameter_mm
    return {
        speed: made_of(speed_title, "v = π d n / 60000", value[speed], "m/s", EXACT, d=d, n=n),
        pull: made_of(pull_title, f"{letter} = 2000 T / d", value[pull], "N", EXACT, T=torque, d=d),
        design: made_of(design_title, f"{letter}_d = 2000 T_d / d", value[design], "N", EXACT, T_d=chosen, d=d),
    }
