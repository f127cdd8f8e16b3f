"""Timing belts: XL L H, 3M to 14M, T5 and T10."""

from pulltide.core.catalog import Catalog, Teeth, Use, counts
from pulltide.core.family import Family, LinkWords
from pulltide.core.labels import as_is
from pulltide.core.links.toothed_belt import checks, tables
from pulltide.core.links.toothed_belt.bill import bill
from pulltide.core.links.toothed_belt.candidates import STAGES
from pulltide.core.links.toothed_belt.checks import RULES
from pulltide.core.links.toothed_belt.failure import failure_points
from pulltide.core.links.toothed_belt.inputs import ToothedBelt
from pulltide.core.links.toothed_belt.lengths import lengths
from pulltide.core.links.toothed_belt.making import makes
from pulltide.core.links.toothed_belt.methods import METHODS
from pulltide.core.links.toothed_belt.transmission import BeltTransmission, service_factor
from pulltide.core.links.toothed_belt.variants import reconcile, starter, variants
from pulltide.core.links.toothed_belt.working import workings

__all__ = ["FAMILY", "ToothedBelt"]


def _stock(link: ToothedBelt, catalog: Catalog) -> dict[str, tuple[float | str, ...]]:
    teeth = tuple(str(count) for count in counts(catalog, tables.PULLEY))
    belts = tables.listed_belts(catalog, link.profile) or tuple(range(30, 401))
    widths: tuple[float | str, ...] = tables.widths_mm(link.profile)
    return {
        "driver_teeth": teeth,
        "driven_teeth": teeth,
        "width_mm": widths,
        "belt_teeth": tuple(str(count) for count in belts),
    }


def _uses(link: ToothedBelt) -> tuple[Use, ...]:
    if link.belt_teeth is None:
        return ()
    name, data = tables.belt_name(link.profile, link.belt_teeth), tables.belt(link.profile, link.belt_teeth)
    return (Use(tables.BELT, name, data, group=link.profile),)


def _words(link: ToothedBelt, step: int) -> LinkWords:
    length = f"{link.belt_teeth} t belt" if link.belt_teeth else "length open"
    return LinkWords(
        f"Timing belt {as_is(link.profile)}",
        (f"{link.driver_teeth} → {link.driven_teeth} t", f"{{{link.width_mm}|mm}} wide", length),
    )


FAMILY = Family(
    kind="toothed_belt",
    title="Timing belt",
    model=ToothedBelt,
    prepare=BeltTransmission,
    variants=variants,
    reconcile=reconcile,
    starter=starter,
    favorite="profile",
    usual_ratios=(0.15, 7.0),
    workings=workings,
    stock=_stock,
    shipped=tables.shipped,
    parts={tables.BELT: tables.Belt, tables.PULLEY: Teeth},
    uses=_uses,
    words=_words,
    methods=METHODS,
    factors=lambda sizing: (("Timing belt", service_factor(sizing)),),
    caution="A timing belt does not slip: a jam reaches the motor. It pulls fingers in as a chain does.",
    failure_points=failure_points,
    jam=checks.JAM,
    rules=RULES,
    stages=STAGES,
    bill=bill,
    lengths=lengths,
    makes=makes,
    align_deg=tables.ALIGN_DEG,
    slide=lambda link: (checks.TAKE_UP.limits[0] * tables.profiles()[link.profile].pitch_mm, 0.0),
    toothed_loop=True,
    samples=(ToothedBelt(profile="8M", driver_teeth=28, driven_teeth=56, belt_teeth=100, width_mm=20.0),),
    explains={
        "rating": "capacity",
        "speed": "belt_speed",
        "tension_set": "tension",
        "touch": "center",
        "jump": "pull",
        "jam": "pull",
        "least_teeth": "driver_pitch",
    },
    empty={
        "center_distance_mm": "follows from the length",
        "static_tension_n": "not measured",
        "own_efficiency": "from the tables",
    },
)
