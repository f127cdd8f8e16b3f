"""A worm and its wheel, cut in the shop or bought as a pair."""

from __future__ import annotations

from pulltide.core.catalog import Catalog, Teeth, counts, wheels
from pulltide.core.family import Family, LinkWords
from pulltide.core.links.worm_set import checks, tables
from pulltide.core.links.worm_set.checks import RULES
from pulltide.core.links.worm_set.failure import failure_points
from pulltide.core.links.worm_set.inputs import WormSet
from pulltide.core.links.worm_set.methods import METHODS
from pulltide.core.links.worm_set.transmission import WormTransmission
from pulltide.core.links.worm_set.variants import reconcile, starter, variants
from pulltide.core.links.worm_set.working import workings
from pulltide.core.spur.mesh import service_factor
from pulltide.core.spur.tables import modules_mm

__all__ = ["FAMILY", "WormSet"]


def _stock(link: WormSet, catalog: Catalog) -> dict[str, tuple[float | str, ...]]:
    return {"wheel_teeth": tuple(str(count) for count in counts(catalog, tables.WHEEL)), "module_mm": modules_mm()}


def _words(link: WormSet, step: int) -> LinkWords:
    starts = "single start" if link.starts == 1 else f"{link.starts} starts"
    return LinkWords(
        "Worm and wheel", (f"{link.wheel_teeth / link.starts:.4g} : 1", starts, f"module {link.module_mm:g}")
    )


def _hides(link: WormSet) -> frozenset[str]:
    """A worm beside a wheel that lies level sits neither over nor under it."""
    return frozenset({"worm_sits"}) if link.output_points in ("up", "down") else frozenset()


FAMILY = Family(
    kind="worm_set",
    title="Worm and wheel",
    model=WormSet,
    prepare=WormTransmission,
    variants=variants,
    reconcile=reconcile,
    starter=starter,
    usual_ratios=(5.0, 80.0),
    workings=workings,
    stock=_stock,
    shipped=lambda: wheels(tables.WHEEL, tables.stock_teeth()),
    parts={tables.WHEEL: Teeth},
    words=_words,
    methods=METHODS,
    factors=lambda sizing: (("Worm and wheel", service_factor(sizing, "enclosed_oiled")),),
    housing="Worm set",
    caution="A worm is no brake. A load that could fall or run back needs a brake or pawl of its own; its thrust turns "
    "round with the sense, so both ends need thrust bearings.",
    failure_points=failure_points,
    jam=checks.STALL,
    rules=RULES,
    hides=_hides,
    samples=(WormSet(wheel_teeth=40, module_mm=3.0, worm_pitch_mm=36.0, face_width_mm=22.0),),
    explains={
        "heat": "oil",
        "stall": "bending",
        "start": "start_efficiency",
        "no_brake": "back_at_rest",
        "rough": "friction",
    },
    empty={"case_area_m2": "smallest usual area"},
)
