"""The wheels of a plan that can be made in the shop, on its shafts."""

from __future__ import annotations

from pulltide.core.links import family_of
from pulltide.core.machine import Plan
from pulltide.core.making import MadeWheel
from pulltide.core.shafts import key_height_mm


def wheels_of(plan: Plan) -> dict[str, MadeWheel]:
    """Every wheel that a family tells the outline of, by ``1-driver`` and so on; bored where its shaft is known."""
    found = {}
    for number, link in enumerate(plan.links, start=1):
        for wheel in family_of(link.kind).makes(link):
            part = plan.shaft_part(number if wheel.side == "driver" else number + 1)
            bore = None if part is None else part.diameter_mm
            key = None
            if part is not None and part.key_width_mm is not None:
                key = part.key_width_mm, key_height_mm(part.key_width_mm) / 2
            found[f"{number}-{wheel.side}"] = wheel.fitted(bore, key)
    return found
