"""Roller chain, sizes 25 to 100 and 06B to 12B, one to four strands."""

from pulltide.core.catalog import Catalog, Teeth, counts, wheels
from pulltide.core.family import Family, LinkWords
from pulltide.core.labels import as_is
from pulltide.core.links.roller_chain import checks, tables
from pulltide.core.links.roller_chain.bill import bill
from pulltide.core.links.roller_chain.candidates import STAGES
from pulltide.core.links.roller_chain.checks import RULES
from pulltide.core.links.roller_chain.failure import failure_points
from pulltide.core.links.roller_chain.inputs import RollerChain
from pulltide.core.links.roller_chain.lengths import lengths
from pulltide.core.links.roller_chain.making import makes
from pulltide.core.links.roller_chain.methods import METHODS
from pulltide.core.links.roller_chain.oil import oil
from pulltide.core.links.roller_chain.transmission import STALL_SAFETY_WANTED, ChainTransmission, service_factor
from pulltide.core.links.roller_chain.variants import reconcile, starter, variants
from pulltide.core.links.roller_chain.working import workings

__all__ = ["FAMILY", "RollerChain"]


def _stock(link: RollerChain, catalog: Catalog) -> dict[str, tuple[float | str, ...]]:
    teeth = tuple(str(count) for count in counts(catalog, tables.SPROCKET))
    even = tuple(str(count) for count in range(30, 301, 2))
    return {"driver_teeth": teeth, "driven_teeth": teeth, "pitches": even}


def _words(link: RollerChain, step: int) -> LinkWords:
    length = f"{link.pitches} links" if link.pitches else "length open"
    strands = (f"{link.strands} strands",) if link.strands > 1 else ()
    return LinkWords(f"Chain {as_is(link.chain)}", (f"{link.driver_teeth} → {link.driven_teeth} t", length, *strands))


FAMILY = Family(
    kind="roller_chain",
    title="Roller chain",
    model=RollerChain,
    prepare=ChainTransmission,
    variants=variants,
    reconcile=reconcile,
    starter=starter,
    favorite="chain",
    usual_ratios=(0.2, 6.0),
    workings=workings,
    stock=_stock,
    shipped=lambda: wheels(tables.SPROCKET, tables.stock_teeth()),
    parts={tables.SPROCKET: Teeth},
    makes=makes,
    oil=oil,
    align_deg=tables.ALIGN_DEG,
    slide=lambda link: (0.0, checks.TAKE_UP.limits[0] * tables.sizes()[link.chain].pitch_mm),
    toothed_loop=True,
    words=_words,
    methods=METHODS,
    factors=lambda sizing: (("Roller chain", service_factor(sizing)),),
    failure_points=failure_points,
    jam=checks.STALL,
    jam_safety=STALL_SAFETY_WANTED,
    rules=RULES,
    stages=STAGES,
    bill=bill,
    lengths=lengths,
    explains={
        "rating": "capacity",
        "stall_safety": "static_safety",
        "teeth": "chordal",
        "fewest_teeth": "chordal",
        "touch": "center",
        "center_near": "center",
        "center_far": "center",
        "lubrication": "chain_speed",
        "dry": "chain_speed",
    },
    empty={
        "center_distance_mm": "follows from the length",
        "pitches": "not chosen",
        "own_efficiency": "from the tables",
    },
)
