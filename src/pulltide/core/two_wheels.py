"""Where two wheels stand that a belt or chain joins, shared by every family of loops."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.findings import EXACT, Check, Finding, judge
from pulltide.core.forces import ShaftForce, strand_forces
from pulltide.core.transmission import D, LinkResult, Transmission
from pulltide.core.working import Step

#: Clearance that center distances below the touching one are drawn with, so that a faulty link can still be seen.
DRAWN_CLEARANCE = 1.02
#: A hair over the touching distance, which is not enough.
BARELY = 1.0001


def placed_center(
    touching_mm: float,
    wanted_mm: float | None,
    by_length: Callable[[], float] | None,
    too_short: Callable[[], Finding],
    touch: tuple[Check, str],
) -> tuple[float, Finding | None]:
    """Center distance [mm] of two wheels and what is wrong with it; a faulty one is drawn just clear.

    ``by_length`` gives the center distance that a chosen belt or chain asks for and raises ImpossibleGeometry where it
    does not go round; without one the wanted distance holds. ``touch`` is the rule of rims that touch, and its subject.
    """
    center, fault = wanted_mm or touching_mm, None
    if by_length is not None:
        try:
            center = by_length()
        except ImpossibleGeometry:
            center, fault = 0.0, too_short()
    rule, subject = touch
    if fault is None and center <= touching_mm:
        fault = judge(rule, subject, center, touching_mm * BARELY)
    return (just_clear_mm(center, touching_mm) if fault else center), fault


def just_clear_mm(center_mm: float, touching_mm: float) -> float:
    """The center distance to draw a faulty link with [mm]."""
    return max(center_mm, touching_mm * DRAWN_CLEARANCE)


def entered_center(center_mm: float, faulty: bool) -> Step:
    """How a center distance without a chosen length came about: as entered, or drawn clear in place of one."""
    if not faulty:
        return Step("Center distance, as entered", "C", "as entered", {}, center_mm, "mm", EXACT)
    touching = center_mm / DRAWN_CLEARANCE
    name = "Drawn just clear: the distance or length asked for cannot be"
    return Step(name, "C", f"{DRAWN_CLEARANCE} C_t", {"C_t": touching}, center_mm, "mm", EXACT, "C_t: rims touch")


class LoopTransmission(Transmission[D]):
    """A belt or chain round two wheels: what all of them share."""

    link: Any
    layout: Any

    @property
    def center_distance_mm(self) -> float:
        """Center distance [mm]."""
        return float(self.layout.center_mm)

    def forces(self, result: LinkResult[D]) -> tuple[ShaftForce, ShaftForce]:
        """Each shaft is pulled toward the other."""
        return strand_forces(*self.pulls_n(result), self.link.angle_deg)
