"""How a chain is set: which strand hangs, how far, and what it takes to keep it so as the chain wears."""

from __future__ import annotations

from dataclasses import dataclass
from math import sqrt

from pulltide.core.drawing import open_loop
from pulltide.core.observed import USUAL_SAG
from pulltide.core.transmission import AnyResult


@dataclass(frozen=True, slots=True)
class Slack:
    """The slack strand of a chain: its span and sag at mid-span, how far the centers move in from tight for that, and
    out again until it is worn [mm], which is at so much stretch [%].

    ``above`` tells whether it is the upper strand, None while the sense is not known.
    """

    span_mm: float
    sag_mm: float
    in_mm: float
    wear_mm: float
    worn_percent: float
    above: bool | None


def slack_of(result: AnyResult, turn: int | None) -> Slack | None:
    """The slack of a stage, its driver turning clockwise, 1, or the other way; None where no open chain runs.

    Centers moved in by ΔC free 2 ΔC cos γ, which hangs through f = √(¾ t ΔC cos γ). Wear ε takes ε L / (2 cos γ).
    Source: exact to first order for a flat strand.

    The strand that runs toward the driver is tight: the upper one where a driver on the left turns counter-clockwise.
    """
    seen, picture = result.transmission.observed(result).chain, result.transmission.picture()
    center = result.center_distance_mm
    if seen is None or picture.path or center is None:
        return None
    radii = picture.driver_radius_mm, picture.driven_radius_mm
    span = sqrt(center**2 - (radii[1] - radii[0]) ** 2)
    cosine, sag = span / center, USUAL_SAG * span
    long = open_loop((0.0, 0.0), radii[0], (center, 0.0), radii[1]).length_mm
    wear_mm = seen.worn_percent / 100 * long / (2 * cosine)
    above = None if turn is None else turn == 1
    return Slack(span, sag, sag**2 / (0.75 * span * cosine), wear_mm, seen.worn_percent, above)
