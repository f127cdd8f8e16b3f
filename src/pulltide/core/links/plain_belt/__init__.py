"""Flat and round belts, open or crossed: leather, polyamide, urethane."""

from pulltide.core.catalog import Catalog
from pulltide.core.family import Family, LinkWords
from pulltide.core.labels import choice
from pulltide.core.links.plain_belt import tables
from pulltide.core.links.plain_belt.bill import bill
from pulltide.core.links.plain_belt.checks import RULES
from pulltide.core.links.plain_belt.failure import failure_points
from pulltide.core.links.plain_belt.inputs import PlainBelt
from pulltide.core.links.plain_belt.making import makes
from pulltide.core.links.plain_belt.methods import METHODS
from pulltide.core.links.plain_belt.transmission import BeltTransmission, service_factor
from pulltide.core.links.plain_belt.variants import WIDTHS_MM, reconcile, seeds, starter, variants
from pulltide.core.links.plain_belt.working import workings

__all__ = ["FAMILY", "PlainBelt"]


def _stock(link: PlainBelt, catalog: Catalog) -> dict[str, tuple[float | str, ...]]:
    return {} if tables.belts()[link.belt].is_round else {"width_mm": WIDTHS_MM}


def _words(link: PlainBelt, step: int) -> LinkWords:
    flat = not tables.belts()[link.belt].is_round
    size = f"{{{link.width_mm}|mm}} wide" if flat else f"{link.belts} round"
    sizes = f"{{{link.driver_diameter_mm}|mm}} → {{{link.driven_diameter_mm}|mm}}"
    return LinkWords("Flat belt" if flat else "Round belt", (sizes, size, choice(link.runs)))


FAMILY = Family(
    kind="plain_belt",
    title="Flat or round belt",
    model=PlainBelt,
    prepare=BeltTransmission,
    variants=variants,
    reconcile=reconcile,
    starter=starter,
    seeds=seeds,
    usual_ratios=(0.2, 6.0),
    workings=workings,
    stock=_stock,
    words=_words,
    methods=METHODS,
    factors=lambda sizing: (("Flat or round belt", service_factor(sizing)),),
    caution="A flat belt draws fingers in where it runs on; never shift or dress it by hand while it runs.",
    failure_points=failure_points,
    rules=RULES,
    makes=makes,
    bill=bill,
    align_deg=tables.ALIGN_DEG,
    samples=(
        PlainBelt(
            belt="leather_1_ply",
            runs="crossed",
            driver_diameter_mm=150.0,
            driven_diameter_mm=450.0,
            center_distance_mm=2500.0,
            width_mm=80.0,
        ),
    ),
    explains={
        "pull": "capacity",
        "slip_at_peak": "tension_ratio",
        "too_tight": "allowed",
        "tension_unset": "to_set",
        "speed": "belt_speed",
        "touch": "center",
        "crossed_near": "center",
    },
    empty={"static_tension_n": "not measured", "own_efficiency": "from the tables"},
)
