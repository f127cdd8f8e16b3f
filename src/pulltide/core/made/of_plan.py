"""The wheels of a plan that can be made in the shop, on its shafts."""

from __future__ import annotations

from dataclasses import replace

from pulltide.core.ends import end_kind
from pulltide.core.links import family_of
from pulltide.core.machine import Machine, Plan
from pulltide.core.made.wheel import MadeWheel
from pulltide.core.shafts import key_height_mm

#: What stands before the side in the name of a wheel of the simple machine on the last shaft.
END = "end"


def wheels_of(machine: Machine, plan: Plan) -> dict[str, MadeWheel]:
    """Every wheel that a family tells the outline of, by ``1-driver`` and so on; bored where its shaft is known."""
    found = {}
    for number, link in enumerate(plan.links, start=1):
        for wheel in family_of(link.kind).makes(link):
            name = f"{number}-{wheel.side}"
            found[name] = _on(plan, shaft_of(plan, name), wheel)
    end = machine.need.end
    if end is not None and plan.links:
        for wheel in end_kind(end.kind).makes(end):
            name = f"{END}-{wheel.side}"
            found[name] = _on(plan, shaft_of(plan, name), wheel)
    return found


def as_made(plan: Plan, name: str, wheel: MadeWheel) -> MadeWheel:
    """A wheel with the material that the plan has it made of, where its stage does not tell one."""
    part = plan.made_part(name)
    if part is None or wheel.material or part.material == "not_known":
        return wheel
    return replace(wheel, material=part.material)


def shaft_of(plan: Plan, name: str) -> int:
    """Number of the shaft that a wheel is on, by its name."""
    stage, _, side = name.partition("-")
    if stage == END:
        return len(plan.links) + 1
    return int(stage) + (side == "driven")


def _on(plan: Plan, shaft: int, wheel: MadeWheel) -> MadeWheel:
    """The wheel bored for its shaft."""
    part = plan.shaft_part(shaft)
    if part is None or not wheel.hub:
        return wheel
    key = None
    if part.key_width_mm is not None:
        key = part.key_width_mm, key_height_mm(part.key_width_mm) / 2
    return wheel.fitted(part.diameter_mm, key)
