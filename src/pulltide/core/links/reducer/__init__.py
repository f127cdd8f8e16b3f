"""Stock gear reducers: right-angle worm, inline helical, shaft-mounted parallel helical; or one of your own."""

from pulltide.core.family import Family
from pulltide.core.links.reducer.inputs import Reducer
from pulltide.core.links.reducer.transmission import ReducerTransmission
from pulltide.core.links.reducer.variants import settle, starter, variants
from pulltide.core.links.reducer.working import METHODS, workings

__all__ = ["FAMILY", "Reducer"]


def _one_step(link: Reducer) -> int:
    return 1


FAMILY = Family(
    kind="reducer", title="Gear reducer", model=Reducer, step_count=_one_step, prepare=ReducerTransmission,
    variants=variants, settle=settle, starter=starter, workings=workings, methods=METHODS,
)
