"""Stock gear reducers of every kind, or one of your own."""

from pulltide.core.catalog import Catalog, Use
from pulltide.core.family import Family, LinkWords
from pulltide.core.labels import as_is, phrase
from pulltide.core.links.reducer import checks, tables
from pulltide.core.links.reducer.bill import bill
from pulltide.core.links.reducer.candidates import STAGES
from pulltide.core.links.reducer.checks import RULES
from pulltide.core.links.reducer.failure import failure_points
from pulltide.core.links.reducer.inputs import OWN, Reducer, ReducerPlate
from pulltide.core.links.reducer.methods import METHODS
from pulltide.core.links.reducer.outside import UPRIGHT
from pulltide.core.links.reducer.transmission import ReducerTransmission, service_factor
from pulltide.core.links.reducer.variants import reconcile, seeds, starter, variants
from pulltide.core.links.reducer.working import workings
from pulltide.core.transmission import AnyResult

__all__ = ["FAMILY", "Reducer"]


#: What each type is called on its card.
KIND_WORDS = {
    "worm": ("right-angle worm",),
    "helical": ("helical",),
    "helical_inline": ("helical",),
    "helical_shaft_mounted": ("helical", "shaft-mounted"),
    "helical_bevel": ("helical-bevel", "right angle"),
    "planetary": ("planetary",),
    "cycloidal": ("cycloidal",),
    "strain_wave": ("strain wave",),
}


def _stock(link: Reducer, catalog: Catalog) -> dict[str, tuple[float | str, ...]]:
    return {"designation": (*catalog.names(tables.PART), OWN)}


def _words(link: Reducer, step: int) -> LinkWords:
    unit = link.unit
    name = "Own reducer" if link.designation == OWN else f"Reducer {as_is(unit.designation.split(' ')[0])}"
    return LinkWords(name, (f"{unit.ratio:.4g} : 1", *KIND_WORDS[unit.type]))


#: Oil of each type by ISO viscosity grade, where it is filled by the shop. Common practice, no source.
OIL = {"worm": "compounded or polyglycol oil ISO VG 460, never the two mixed"}
OTHER_OIL = "EP gear oil ISO VG 220"
FOR_LIFE = ("strain_wave", "cycloidal", "planetary")


def _oil(result: AnyResult, ambient_c: float) -> str:
    kind = result.details.link.unit.type
    if kind in FOR_LIFE:
        return "grease or oil as it is delivered; as its plate says"
    oil = phrase(OIL.get(kind, OTHER_OIL))
    return f"{oil}, to the level plug of the position it is mounted in; its plate tells how much"


def _hides(link: Reducer) -> frozenset[str]:
    """Where an output at a right angle points, unless it is mounted upright; about where, once it is measured."""
    measured = {f"{side}_position" for side in ("input", "output") if getattr(link, f"{side}_at_mm") is not None}
    if link.unit.direction != "right_angle" or link.mounting in UPRIGHT:
        return frozenset({"output_points", "worm_sits", *measured})
    return frozenset(measured if link.unit.is_worm else {"worm_sits", *measured})


FAMILY = Family(
    kind="reducer",
    title="Gear reducer",
    model=Reducer,
    prepare=ReducerTransmission,
    variants=variants,
    reconcile=reconcile,
    starter=starter,
    seeds=seeds,
    usual_ratios=(3.0, 100.0),
    workings=workings,
    stock=_stock,
    shipped=tables.shipped,
    kept=lambda link, name: Use(tables.PART, name, link.unit.model_copy(update={"designation": name})),
    parts={tables.PART: tables.Unit},
    uses=lambda link: () if link.data is None else (Use(tables.PART, link.designation, link.data),),
    words=_words,
    methods=METHODS,
    factors=lambda sizing: (
        ("Reducer, helical", service_factor(False, sizing)),
        ("Reducer, worm", service_factor(True, sizing)),
    ),
    housing="Reducer",
    caution="A reducer is no brake, a worm least of all. A load that could fall or run back needs a brake and rated "
    "lifting gear.",
    failure_points=failure_points,
    jam=checks.STALL,
    rules=RULES,
    stages=STAGES,
    bill=bill,
    oil=_oil,
    hides=_hides,
    samples=(
        Reducer(designation="PS-1 5:1", data=tables.unit("PS-1 5:1"), torque_arm_mm=300.0),
        Reducer(designation=OWN, own=ReducerPlate(ratio=20.0)),
    ),
    explains={
        "torque": "rated_torque",
        "peak": "rated_torque",
        "stall": "rated_torque",
        "nameplate": "rated_torque",
        "oversize": "rated_torque",
        "emergency": "rated_torque",
    },
    empty={
        "input_at_mm": "as said above",
        "output_at_mm": "as said above",
        "torque_arm_mm": "none",
        "max_backlash_arcmin": "does not matter",
    },
)
