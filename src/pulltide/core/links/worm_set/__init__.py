"""A worm and its wheel, cut in the shop or bought as a pair."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil
from typing import Any

from pulltide.core.catalog import Catalog, Teeth, counts, wheels
from pulltide.core.family import Family, LinkWords, Variant
from pulltide.core.labels import choice
from pulltide.core.links.worm_set import checks, tables
from pulltide.core.links.worm_set.checks import RULES
from pulltide.core.links.worm_set.failure import failure_points
from pulltide.core.links.worm_set.inputs import WormSet
from pulltide.core.links.worm_set.transmission import FACE_SHARE, WormTransmission
from pulltide.core.links.worm_set.working import METHODS, workings
from pulltide.core.spur.mesh import service_factor
from pulltide.core.spur.tables import modules_mm

__all__ = ["FAMILY", "WormSet"]

REACH = 3
#: What a catalog calls a worm wheel.
WHEEL = "worm_set.wheel"


def _stock(link: WormSet, catalog: Catalog) -> dict[str, tuple[float | str, ...]]:
    return {"wheel_teeth": tuple(str(count) for count in counts(catalog, WHEEL)), "module_mm": modules_mm()}


def _words(link: WormSet, step: int) -> LinkWords:
    starts = "single start" if link.starts == 1 else f"{link.starts} starts"
    return LinkWords(
        "Worm and wheel", (f"{link.wheel_teeth / link.starts:.4g} : 1", starts, f"module {link.module_mm:g}")
    )


def starter(catalog: Catalog) -> WormSet:
    """A plain start: single start, 40 teeth of module 3."""
    return WormSet(wheel_teeth=40, module_mm=3.0, worm_pitch_mm=36.0, face_width_mm=22.0, worm_is="hardened_and_ground")


def reconcile(before: WormSet, raw: dict[str, Any], catalog: Catalog) -> dict[str, Any]:
    """Nothing follows from an edit."""
    return raw


def variants(link: WormSet, catalog: Catalog) -> Iterator[Variant]:
    """Stock wheels, starts, modules, face, bronze and cooling, smallest change first."""
    stock = counts(catalog, WHEEL)
    higher = [n for n in stock if n > link.wheel_teeth][:REACH]
    lower = [n for n in reversed(stock) if n < link.wheel_teeth][:REACH]
    for direction, listed in (("more teeth", higher), ("fewer teeth", lower)):
        for count in listed:
            yield Variant(direction, f"Use {count} teeth", link.model_copy(update={"wheel_teeth": count}))
    for starts in (link.starts + 1, link.starts - 1):
        if 1 <= starts <= 4:
            yield Variant("starts", f"Use {starts} starts", link.model_copy(update={"starts": starts}))
    if link.worm_is != "hardened_and_ground":
        update = {"worm_is": "hardened_and_ground"}
        yield Variant("better worm", "Use a hardened and ground worm", link.model_copy(update=update))
    for module in [m for m in modules_mm() if m > link.module_mm * 1.01][:REACH]:
        worm = float(ceil(link.worm_pitch_mm * module / link.module_mm))
        sizes = {"module_mm": module, "worm_pitch_mm": worm, "face_width_mm": float(int(FACE_SHARE * worm))}
        yield Variant("module", f"Use module {module:g}", link.model_copy(update=sizes))
    for cast in ("chill_cast", "centrifugally_cast"):
        if cast != link.wheel_cast:
            yield Variant("better bronze", f"Use a {choice(cast)} wheel", link.model_copy(update={"wheel_cast": cast}))
    if not link.fan:
        yield Variant("cooling", "Put a fan on the worm shaft", link.model_copy(update={"fan": True}))


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
    shipped=lambda: wheels(WHEEL, tables.stock_teeth()),
    parts={WHEEL: Teeth},
    words=_words,
    methods=METHODS,
    factors=lambda sizing: (("Worm and wheel", service_factor(sizing, "enclosed_oiled")),),
    housing="Worm set",
    caution="A worm is no brake. A load that could fall or run back needs a brake or pawl of its own; its thrust turns "
    "round with the sense, so both ends need thrust bearings.",
    failure_points=failure_points,
    jam=checks.STALL,
    rules=RULES,
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
