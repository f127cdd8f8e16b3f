"""Wheels to make as data: which a plan has, what each measures, and a loose part out of its sizes."""

from __future__ import annotations

from typing import Any

from pulltide.core.errors import InputError, InputErrors
from pulltide.core.machine import Machine, Plan
from pulltide.core.made.discs import LOOSE, loose_part
from pulltide.core.made.of_plan import wheels_of
from pulltide.core.made.wheel import MadeWheel
from pulltide.presentation.paper.wheel_file import stage_words
from pulltide.presentation.words import cited
from pulltide.quantities import Units
from pulltide.services.typed import record_from
from pulltide.words import say


def wheel_named(machine: Machine, plan: Plan, name: str) -> MadeWheel:
    """A wheel of a plan by its name. Raises InputErrors naming those that there are."""
    wheels = wheels_of(machine, plan)
    if name not in wheels:
        accepted = ", ".join(wheels) or say("this plan has none that can be made")
        raise InputErrors([InputError(say("Wheel"), name, say("is not in this plan"), accepted=accepted)])
    return wheels[name]


def wheels_report(machine: Machine, plan: Plan) -> list[dict[str, Any]]:
    """Every wheel of a plan that can be made."""
    return [
        {
            "name": name,
            "title": wheel.title,
            "where": stage_words(name),
            "made": plan.made_part(name) is not None,
            "bore_mm": wheel.bore_mm,
            "measures": [{"name": one.name, "value": one.value, "unit": one.unit} for one in wheel.measures],
            "source": cited(wheel.source),
        }
        for name, wheel in wheels_of(machine, plan).items()
    ]


def loose_named(part: str, sizes: Any, units: Units) -> MadeWheel:
    """A loose part out of named sizes. Raises InputErrors naming what is wrong."""
    if part not in LOOSE:
        raise InputErrors([InputError(say("Part"), part[:40], say("is not known"), accepted=", ".join(LOOSE))])
    if not isinstance(sizes, dict):
        raise InputErrors([InputError(say("Sizes"), "", say("is not a set of named values"))])
    return loose_part(record_from(LOOSE[part].model, {str(name): value for name, value in sizes.items()}, units))
