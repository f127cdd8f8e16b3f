"""The hinged motor plate of a V-belt link, from what is entered of it."""

from __future__ import annotations

from pulltide.core.drawing import polar
from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.links.v_belt import rating
from pulltide.core.links.v_belt.hinged_base import Balance, HingedBaseInputs, balance
from pulltide.core.links.v_belt.inputs import VBelt
from pulltide.core.links.v_belt.layout import Layout

#: The steepest groove there is: what grips hardest when dry.
DRIEST_GROOVE_DEG = 30.0


def hinge_of(link: VBelt, place: Layout) -> HingedBaseInputs | None:
    """The plate as entered; None while something of it is not known."""
    known = (link.plate_mass_kg, link.plate_arm_mm, link.hinge_across_mm, link.hinge_up_mm)
    mass, arm, across, up = known
    if mass is None or arm is None or across is None or up is None or link.tight_strand is None:
        return None
    x, y = polar(place.center_mm, link.angle_deg)
    return HingedBaseInputs.model_construct(
        motor_across_mm=across,
        motor_up_mm=up,
        driven_across_mm=across + x,
        driven_up_mm=up + y,
        driver_diameter_mm=place.driver_pitch_mm,
        driven_diameter_mm=place.driven_pitch_mm,
        mass_kg=mass,
        weight_arm_mm=arm,
        belts=link.belts,
        tight_strand=link.tight_strand,
    )


def plate_of(link: VBelt, place: Layout) -> Balance | None:
    """The balance of a hinged plate; None where there is none, it is not known, or it cannot tighten the belt."""
    hinge = hinge_of(link, place) if link.tensioning == "hinged_plate" and place.fault is None else None
    if hinge is None:
        return None
    try:
        found = balance(hinge)
        found.slip_n(rating.dry_tension_ratio(place.wrap_deg, DRIEST_GROOVE_DEG))
    except ImpossibleGeometry:
        return None
    return found
