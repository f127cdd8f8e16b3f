"""Couplings that join two shafts end to end: rigid sleeve, jaw, roller chain."""

from pulltide.core.catalog import Catalog, Use
from pulltide.core.family import Family, LinkWords
from pulltide.core.labels import as_is, choice
from pulltide.core.links.coupling import checks, tables
from pulltide.core.links.coupling.bill import bill
from pulltide.core.links.coupling.checks import RULES
from pulltide.core.links.coupling.failure import failure_points
from pulltide.core.links.coupling.inputs import OWN, Coupling
from pulltide.core.links.coupling.methods import METHODS
from pulltide.core.links.coupling.transmission import CouplingTransmission, service_factor
from pulltide.core.links.coupling.variants import fuses, reconcile, starter, variants, with_limiter
from pulltide.core.links.coupling.working import workings

__all__ = ["FAMILY", "Coupling"]


def _stock(link: Coupling, catalog: Catalog) -> dict[str, tuple[float | str, ...]]:
    return {"designation": (*catalog.names(tables.PART), OWN)}


def _words(link: Coupling, step: int) -> LinkWords:
    unit = link.unit
    name = "Own coupling" if link.designation == OWN else f"Coupling {as_is(unit.designation)}"
    bore = () if unit.max_bore_mm is None else (f"bore to {{{unit.max_bore_mm}|mm}}",)
    return LinkWords(name, (choice(unit.type), *bore))


#: What only shear pins have.
PIN_FIELDS = frozenset({"shear_pin_mm", "shear_circle_mm", "shear_pin_steel"})

FAMILY = Family(
    kind="coupling",
    title="Coupling",
    model=Coupling,
    prepare=CouplingTransmission,
    variants=variants,
    reconcile=reconcile,
    starter=starter,
    usual_ratios=(1.0, 1.0),
    workings=workings,
    stock=_stock,
    shipped=tables.shipped,
    kept=lambda link, name: Use(tables.PART, name, link.unit.model_copy(update={"designation": name})),
    parts={tables.PART: tables.Unit},
    uses=lambda link: () if link.data is None else (Use(tables.PART, link.designation, link.data),),
    words=_words,
    methods=METHODS,
    factors=lambda sizing: (("Coupling, jaw", service_factor(sizing)),),
    caution="A coupling's bolts and set screws catch sleeves and hair: cover it before first power.",
    failure_points=failure_points,
    jam=checks.STALL,
    fuses=fuses,
    limiter=with_limiter,
    bill=bill,
    rules=RULES,
    samples=(
        Coupling(designation="CJ-65", data=tables.unit("CJ-65"), angle_off_deg=0.3, parallel_off_mm=0.1),
        Coupling(
            designation="CJ-65",
            data=tables.unit("CJ-65"),
            shear_pins=2,
            shear_pin_mm=4.0,
            shear_circle_mm=60.0,
            shear_pin_steel="mild_steel_1018",
        ),
    ),
    explains={
        "torque": "rated_torque",
        "peak": "moment_torque",
        "stall": "moment_torque",
        "alignment": "misalignment",
        "bore": "max_bore",
    },
    hides=lambda link: frozenset() if link.shear_pins else PIN_FIELDS,
)
