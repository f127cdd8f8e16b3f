"""A flywheel as a disc: what the inertia called for weighs, and whether the wheel at hand is heavy enough."""

from __future__ import annotations

from math import pi

from pulltide.core.findings import EXACT, Check, Severity, judge
from pulltide.core.forces import DENSITY_KG_M3
from pulltide.core.needs.contract import Outcome

DIAMETER = "Flywheel, outside diameter"
MASS = "Flywheel at hand, its weight"


def disc_inertia_kgm2(mass_kg: float, diameter_mm: float) -> float:
    """Inertia of a solid disc [kg·m²]: m D² / 8. A wheel with its weight in the rim has up to twice as much.

    >>> disc_inertia_kgm2(80.0, 500.0)
    2.5
    """
    return mass_kg * (diameter_mm / 1000) ** 2 / 8


def too_light(kind: str) -> Check:
    """The check of the wheel at hand, under the name of a worksheet."""
    return Check(
        code=f"need.{kind}.wheel",
        severity=Severity.WARNING,
        quantity="inertia of the wheel at hand, as a disc",
        relation=">=",
        unit="kg*m**2",
        fact="The wheel at hand is too light: the speed swings more than wanted",
        clear="The wheel at hand is heavy enough",
        base="inertia that the swing of speed calls for",
        advice="Use a heavier or a larger wheel, or one with its weight in the rim.",
        source=EXACT,
    )


def told_as_disc(out: Outcome, diameter_mm: float | None, mass_kg: float | None, rule: Check) -> float | None:
    """Say the inertia called for as a steel disc, and judge the wheel at hand; its inertia, None while it is not known.

    ``out.inertia_kgm2`` is what is called for; once a wheel is at hand, what turns is that wheel.
    """
    called_for = out.inertia_kgm2
    if called_for is None or diameter_mm is None:
        return None
    mass = 8 * called_for / (diameter_mm / 1000) ** 2
    out.say("flywheel_as_a_steel_disc_weight", "Flywheel as a steel disc, weight", mass, "kg")
    face_mm = 1000 * mass / (DENSITY_KG_M3["steel"] * pi / 4 * (diameter_mm / 1000) ** 2)
    out.say("and_thickness", "and thickness", face_mm, "mm")
    if mass_kg is None:
        return None
    at_hand = disc_inertia_kgm2(mass_kg, diameter_mm)
    out.findings.append(judge(rule, "need", at_hand, called_for))
    with out.working("inertia"):
        out.inertia_kgm2 = out.step(
            "The wheel at hand, as a disc", "J_h = m D² / 8", at_hand, "kg*m**2", EXACT, m=mass_kg, D=diameter_mm / 1000
        )
    return at_hand
