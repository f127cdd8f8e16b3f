"""Pairs of spur gears, outside or inside one another."""

from pulltide.core.catalog import Catalog, Teeth, counts, wheels
from pulltide.core.family import Family, LinkWords
from pulltide.core.links.gear_pair import checks
from pulltide.core.links.gear_pair.bill import bill
from pulltide.core.links.gear_pair.candidates import STAGES
from pulltide.core.links.gear_pair.checks import RULES
from pulltide.core.links.gear_pair.failure import failure_points
from pulltide.core.links.gear_pair.inputs import GearPair
from pulltide.core.links.gear_pair.making import makes
from pulltide.core.links.gear_pair.methods import METHODS
from pulltide.core.links.gear_pair.transmission import GearTransmission
from pulltide.core.links.gear_pair.variants import reconcile, starter, variants
from pulltide.core.links.gear_pair.working import workings
from pulltide.core.spur import tables
from pulltide.core.spur.mesh import service_factor
from pulltide.core.spur.neighbors import GEAR
from pulltide.core.transmission import AnyResult

__all__ = ["FAMILY", "GearPair"]


def _stock(link: GearPair, catalog: Catalog) -> dict[str, tuple[float | str, ...]]:
    teeth = tuple(str(count) for count in counts(catalog, GEAR))
    return {"driver_teeth": teeth, "driven_teeth": teeth, "module_mm": tables.modules_mm()}


def _words(link: GearPair, step: int) -> LinkWords:
    pitch = f"module {link.module_mm:g}" if link.module_mm is not None else f"{link.diametral_pitch:g} pitch"
    title = "Gear in a ring" if link.mesh == "internal" else "Gear pair"
    return LinkWords(
        title, (f"{link.driver_teeth} → {link.driven_teeth} t", pitch, f"{{{link.face_width_mm}|mm}} wide")
    )


#: How spur gears are lubricated, by how they run. Common practice, no source.
OIL = {
    "enclosed_oiled": "EP gear oil ISO VG 220, the larger gear one to two tooth depths deep in it",
    "open_greased": "open-gear grease, a film brushed on the flanks",
    "open_dirty": "dry graphite, or grease wiped off and renewed each shift",
}


def _oil(result: AnyResult, ambient_c: float) -> str:
    return OIL[result.details.link.running]


FAMILY = Family(
    kind="gear_pair",
    title="Gear pair",
    model=GearPair,
    prepare=GearTransmission,
    variants=variants,
    reconcile=reconcile,
    starter=starter,
    usual_ratios=(0.2, 6.0),
    workings=workings,
    stock=_stock,
    shipped=lambda: wheels(GEAR, tables.stock_teeth()),
    parts={GEAR: Teeth},
    makes=makes,
    oil=_oil,
    words=_words,
    methods=METHODS,
    factors=lambda sizing: (("Open gears", service_factor(sizing)),),
    caution="Gears draw in whatever touches the mesh, and a broken tooth flies: close them in before first power.",
    failure_points=failure_points,
    jam=checks.TEETH.stall,
    rules=RULES,
    stages=STAGES,
    bill=bill,
    samples=(
        GearPair(mesh="internal", module_mm=3.0, driver_teeth=20, driven_teeth=61, face_width_mm=30.0),
        GearPair(module_mm=3.0, driver_teeth=20, driven_teeth=61, face_width_mm=30.0, idlers=1, idler_teeth=25),
        GearPair(
            module_mm=3.0, driver_teeth=20, driven_teeth=61, face_width_mm=30.0, driven_material="acetal_or_nylon"
        ),
    ),
    explains={"speed": "pitch_speed", "stall": "bending"},
    empty={"own_efficiency": "from the tables"},
    hides=lambda link: frozenset() if link.idlers else frozenset({"idler_teeth"}),
)
