"""Stock gear reducers: right-angle worm, inline helical, shaft-mounted parallel helical; or one of your own."""

from pulltide.core.family import Family, LinkWords
from pulltide.core.links.reducer import tables
from pulltide.core.links.reducer.checks import RULES
from pulltide.core.links.reducer.gives import gives
from pulltide.core.links.reducer.inputs import OWN, Reducer
from pulltide.core.links.reducer.transmission import ReducerTransmission, service_factor
from pulltide.core.links.reducer.variants import settle, starter, variants
from pulltide.core.links.reducer.working import METHODS, workings

__all__ = ["FAMILY", "Reducer"]


def _one_step(link: Reducer) -> int:
    return 1


def _stock(link: Reducer) -> dict[str, tuple[float | str, ...]]:
    return {"designation": (*tables.stock(), OWN)}


def _words(link: Reducer, step: int) -> LinkWords:
    unit = link.unit
    name = "Own reducer" if link.designation == OWN else f"Reducer {unit.designation.split(' ')[0]}"
    return LinkWords(name, (f"{unit.ratio:.4g} : 1", "right-angle worm" if unit.is_worm else "helical"))


FAMILY = Family(
    kind="reducer",
    title="Gear reducer",
    model=Reducer,
    step_count=_one_step,
    prepare=ReducerTransmission,
    variants=variants,
    settle=settle,
    starter=starter,
    workings=workings,
    stock=_stock,
    words=_words,
    methods=METHODS,
    factors=lambda sizing: (
        ("Reducer, helical", service_factor(False, sizing)),
        ("Reducer, worm", service_factor(True, sizing)),
    ),
    housing="Reducer",
    caution="A reducer is no brake, a worm least of all. A load that could fall or run back needs a brake and rated "
    "lifting gear.",
    gives=gives,
    rules=RULES,
)
