"""Two or three pairs of gears in one case: in line, folded or in a row."""

from pulltide.core import catalog as listed
from pulltide.core.catalog import Catalog
from pulltide.core.family import Family, LinkWords
from pulltide.core.labels import choice
from pulltide.core.links.gear_train import checks
from pulltide.core.links.gear_train.checks import RULES
from pulltide.core.links.gear_train.failure import failure_points
from pulltide.core.links.gear_train.inputs import GearTrain
from pulltide.core.links.gear_train.methods import METHODS
from pulltide.core.links.gear_train.transmission import TrainTransmission
from pulltide.core.links.gear_train.variants import reconcile, starter, variants
from pulltide.core.links.gear_train.working import workings
from pulltide.core.sketch import Sketch
from pulltide.core.spur import tables
from pulltide.core.spur.case_section import case_section
from pulltide.core.spur.mesh import service_factor
from pulltide.core.spur.neighbors import GEAR
from pulltide.core.transmission import AnyResult

__all__ = ["FAMILY", "GearTrain"]


def _stock(link: GearTrain, catalog: Catalog) -> dict[str, tuple[float | str, ...]]:
    teeth = tuple(str(count) for count in listed.counts(catalog, GEAR))
    wheels = {f"{side}_{k}_teeth": teeth for k in range(1, len(link.pairs) + 1) for side in ("driver", "driven")}
    return {**wheels, "module_1_mm": tables.modules_mm()}


def _words(link: GearTrain, step: int) -> LinkWords:
    pairs = ", ".join(f"{driver} → {driven}" for driver, driven in link.pairs)
    in_line = link.layout == "back_and_forth" and len(link.pairs) == 2
    return LinkWords(
        "Gear train", (f"{pairs} t", f"module {link.module_1_mm:g}", "in line" if in_line else choice(link.layout))
    )


def _section(result: AnyResult) -> Sketch | None:
    d = result.details
    return case_section(d.loaded, folded=d.link.layout == "back_and_forth") if result.load_known else None


FAMILY = Family(
    kind="gear_train",
    title="Gear train",
    model=GearTrain,
    prepare=TrainTransmission,
    variants=variants,
    reconcile=reconcile,
    starter=starter,
    usual_ratios=(0.05, 36.0),
    workings=workings,
    stock=_stock,
    words=_words,
    methods=METHODS,
    factors=lambda sizing: (("Gear train", service_factor(sizing, "enclosed_oiled")),),
    caution="Gears draw in whatever touches the mesh, and a broken tooth flies: close them in before first power.",
    failure_points=failure_points,
    jam=checks.TEETH.stall,
    section=_section,
    rules=RULES,
    samples=(
        GearTrain(
            layout="in_a_row",
            driver_1_teeth=20,
            driven_1_teeth=40,
            driver_2_teeth=20,
            driven_2_teeth=50,
            driver_3_teeth=20,
            driven_3_teeth=60,
            module_1_mm=2.0,
            module_2_mm=2.5,
            module_3_mm=3.0,
            wanted_ratio=15.0,
        ),
    ),
    explains={"stall": "bending"},
    empty={
        "driver_3_teeth": "no third pair",
        "driven_3_teeth": "no third pair",
        "module_2_mm": "the same",
        "module_3_mm": "the same",
        "wanted_ratio": "none",
        "iron_price_kg": "cost not worked out",
        "own_efficiency": "from the tables",
    },
)
