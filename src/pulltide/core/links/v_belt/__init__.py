"""V-belts: sections 3L, 4L, 5L, A and B, single, multiple and stepped."""

from pulltide.core.family import Family, LinkWords
from pulltide.core.links.v_belt import tables
from pulltide.core.links.v_belt.checks import RULES
from pulltide.core.links.v_belt.gives import gives
from pulltide.core.links.v_belt.inputs import VBelt
from pulltide.core.links.v_belt.methods import METHODS as MORE_METHODS
from pulltide.core.links.v_belt.transmission import BeltTransmission, service_factor
from pulltide.core.links.v_belt.variants import settle, starter, variants
from pulltide.core.links.v_belt.working import METHODS, workings

__all__ = ["FAMILY", "VBelt"]


def _step_count(link: VBelt) -> int:
    return len(link.steps)


def _stock(link: VBelt) -> dict[str, tuple[float | str, ...]]:
    diameters = tables.stock_diameters_mm(link.measured_as)
    belts = tuple(item.designation for item in tables.stock_belts(link.section))
    return {"belt": belts, "driver_diameter_mm": diameters, "driven_diameter_mm": diameters}


def _words(link: VBelt, step: int) -> LinkWords:
    pair = link.steps[step - 1]
    belts = f"{link.belts} belt{'s' if link.belts > 1 else ''}" + (f" {link.belt}" if link.belt else "")
    steps = (f"step {step} of {len(link.steps)}",) if len(link.steps) > 1 else ()
    sizes = f"{{{pair.driver_diameter_mm}|mm}} → {{{pair.driven_diameter_mm}|mm}}"
    return LinkWords(f"V-belt {link.section}", (sizes, belts, *steps))


FAMILY = Family(
    kind="v_belt",
    title="V-belt",
    model=VBelt,
    step_count=_step_count,
    prepare=BeltTransmission,
    variants=variants,
    settle=settle,
    starter=starter,
    workings=workings,
    stock=_stock,
    words=_words,
    methods=(*METHODS, *MORE_METHODS),
    factors=lambda sizing: (("V-belt", service_factor(sizing)),),
    gives=gives,
    rules=RULES,
)
