"""Roller chain, sizes 25 to 60, one to three strands."""

from pulltide.core.family import Family
from pulltide.core.links.roller_chain.inputs import RollerChain
from pulltide.core.links.roller_chain.transmission import ChainTransmission
from pulltide.core.links.roller_chain.variants import settle, starter, variants
from pulltide.core.links.roller_chain.working import METHODS, workings

__all__ = ["FAMILY", "RollerChain"]


def _one_step(link: RollerChain) -> int:
    return 1


FAMILY = Family(
    kind="roller_chain", title="Roller chain", model=RollerChain, step_count=_one_step, prepare=ChainTransmission,
    variants=variants, settle=settle, starter=starter, workings=workings, methods=METHODS,
)
