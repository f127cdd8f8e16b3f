"""Lantern pinions: pins between two discs that mesh with a toothed wheel."""

from pulltide.core.catalog import Catalog, counts
from pulltide.core.family import Family, LinkWords
from pulltide.core.labels import choice
from pulltide.core.links.lantern import checks
from pulltide.core.links.lantern.bill import bill
from pulltide.core.links.lantern.checks import RULES
from pulltide.core.links.lantern.failure import failure_points
from pulltide.core.links.lantern.inputs import Lantern
from pulltide.core.links.lantern.making import makes
from pulltide.core.links.lantern.methods import METHODS
from pulltide.core.links.lantern.transmission import LanternTransmission
from pulltide.core.links.lantern.variants import reconcile, starter, variants
from pulltide.core.links.lantern.working import workings
from pulltide.core.spur.mesh import service_factor
from pulltide.core.spur.neighbors import GEAR

__all__ = ["FAMILY", "Lantern"]


def _stock(link: Lantern, catalog: Catalog) -> dict[str, tuple[float | str, ...]]:
    return {
        "pins": tuple(str(pins) for pins in range(8, 25)),
        "wheel_teeth": tuple(str(teeth) for teeth in counts(catalog, GEAR)),
    }


def _words(link: Lantern, step: int) -> LinkWords:
    counts = f"{link.pins} pins, {link.wheel_teeth} t"
    return LinkWords(
        "Lantern pinion", (counts, f"{{{link.circular_pitch_mm}|mm}} pitch", f"{choice(link.drives)} drives")
    )


FAMILY = Family(
    kind="lantern",
    title="Lantern pinion",
    model=Lantern,
    prepare=LanternTransmission,
    variants=variants,
    reconcile=reconcile,
    starter=starter,
    usual_ratios=(0.2, 8.0),
    workings=workings,
    stock=_stock,
    words=_words,
    methods=METHODS,
    factors=lambda sizing: (("Lantern pinion", service_factor(sizing)),),
    caution="Pins draw in whatever touches them, deeper than teeth do: close the mesh in before first power.",
    failure_points=failure_points,
    jam=checks.STALL,
    rules=RULES,
    makes=makes,
    bill=bill,
    explains={"stall": "tooth", "speed": "pitch_speed"},
)
