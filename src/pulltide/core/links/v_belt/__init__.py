"""V-belts: sections 3L, 4L, 5L, A and B, single, multiple and stepped."""

from pulltide.core.family import Family
from pulltide.core.links.v_belt.inputs import VBelt
from pulltide.core.links.v_belt.transmission import BeltTransmission
from pulltide.core.links.v_belt.variants import settle, starter, variants
from pulltide.core.links.v_belt.working import METHODS, workings

__all__ = ["FAMILY", "VBelt"]


def _step_count(link: VBelt) -> int:
    return len(link.steps)


FAMILY = Family(
    kind="v_belt", title="V-belt", model=VBelt, step_count=_step_count, prepare=BeltTransmission,
    variants=variants, settle=settle, starter=starter, workings=workings, methods=METHODS,
)
