"""Pairs of straight bevel gears."""

from pulltide.core.catalog import Catalog, counts
from pulltide.core.family import Family, LinkWords
from pulltide.core.links.bevel_pair import checks
from pulltide.core.links.bevel_pair.checks import RULES
from pulltide.core.links.bevel_pair.failure import failure_points
from pulltide.core.links.bevel_pair.inputs import BevelPair
from pulltide.core.links.bevel_pair.methods import METHODS
from pulltide.core.links.bevel_pair.transmission import BevelTransmission
from pulltide.core.links.bevel_pair.variants import reconcile, starter, variants
from pulltide.core.links.bevel_pair.working import workings
from pulltide.core.spur import tables
from pulltide.core.spur.mesh import service_factor
from pulltide.core.spur.neighbors import GEAR

__all__ = ["FAMILY", "BevelPair"]


def _stock(link: BevelPair, catalog: Catalog) -> dict[str, tuple[float | str, ...]]:
    teeth = tuple(str(count) for count in counts(catalog, GEAR))
    return {"driver_teeth": teeth, "driven_teeth": teeth, "module_mm": tables.modules_mm()}


def _words(link: BevelPair, step: int) -> LinkWords:
    pitch = f"module {link.module_mm:g}" if link.module_mm is not None else f"{link.diametral_pitch:g} pitch"
    title = "Miter gears" if link.driver_teeth == link.driven_teeth else "Bevel pair"
    return LinkWords(
        title, (f"{link.driver_teeth} → {link.driven_teeth} t", pitch, f"shafts at {{{link.shafts_deg}|deg}}")
    )


FAMILY = Family(
    kind="bevel_pair",
    title="Bevel gear pair",
    model=BevelPair,
    prepare=BevelTransmission,
    variants=variants,
    reconcile=reconcile,
    starter=starter,
    usual_ratios=(0.25, 4.0),
    workings=workings,
    stock=_stock,
    words=_words,
    methods=METHODS,
    factors=lambda sizing: (("Bevel gears", service_factor(sizing, "enclosed_oiled")),),
    caution="Gears draw in whatever touches the mesh, and a broken tooth flies: close them in before first power.",
    failure_points=failure_points,
    jam=checks.TEETH.stall,
    rules=RULES,
    samples=(
        BevelPair(
            module_mm=4.0, driver_teeth=20, driven_teeth=41, face_width_mm=26.0, driven_material="acetal_or_nylon"
        ),
    ),
    explains={"speed": "pitch_speed", "stall": "bending", "face": "cone", "thrust": "driven_thrust"},
    empty={"own_efficiency": "from the tables"},
)
