"""Planetary sets of sun, planets, carrier and ring, in all six drives and in rows."""

from typing import get_args

from pulltide.core.catalog import Catalog, counts
from pulltide.core.family import Family, LinkWords
from pulltide.core.labels import choice
from pulltide.core.links.planetary import checks
from pulltide.core.links.planetary.checks import RULES
from pulltide.core.links.planetary.failure import failure_points
from pulltide.core.links.planetary.inputs import Arrangement, Planetary
from pulltide.core.links.planetary.methods import METHODS
from pulltide.core.links.planetary.transmission import PlanetaryTransmission
from pulltide.core.links.planetary.variants import reconcile, starter, variants
from pulltide.core.links.planetary.working import workings
from pulltide.core.spur import tables
from pulltide.core.spur.mesh import service_factor
from pulltide.core.spur.neighbors import GEAR

__all__ = ["FAMILY", "Planetary"]


def _stock(link: Planetary, catalog: Catalog) -> dict[str, tuple[float | str, ...]]:
    usual = tuple(str(teeth) for teeth in counts(catalog, GEAR))
    return {"module_mm": tables.modules_mm(), "sun_teeth": usual, "planet_teeth": usual}


def _words(link: Planetary, step: int) -> LinkWords:
    rows = f", {link.stages} stages" if link.stages > 1 else ""
    teeth = f"{link.sun_teeth} / {link.planet_teeth} / {link.ring_teeth} t{rows}"
    return LinkWords("Planetary set", (teeth, f"{link.planets} planets", choice(link.arrangement)))


FAMILY = Family(
    kind="planetary",
    title="Planetary set",
    model=Planetary,
    prepare=PlanetaryTransmission,
    variants=variants,
    reconcile=reconcile,
    starter=starter,
    usual_ratios=(0.1, 12.0),
    workings=workings,
    stock=_stock,
    words=_words,
    methods=METHODS,
    factors=lambda sizing: (("Planetary set", service_factor(sizing, "enclosed_oiled")),),
    caution="The held member pushes back with the whole difference of torque: bolt it for the peak. It is no brake.",
    housing="",
    failure_points=failure_points,
    jam=checks.TEETH.stall,
    rules=RULES,
    samples=(
        *(
            Planetary(
                sun_teeth=24, planet_teeth=24, ring_teeth=72, module_mm=2.0, face_width_mm=25.0, arrangement=drive
            )
            for drive in get_args(Arrangement)[1:]
        ),
    ),
    explains={"speed": "pitch_speed", "stall": "bending"},
)
