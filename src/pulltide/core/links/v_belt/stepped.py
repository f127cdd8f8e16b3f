"""Change pulleys for other speeds: listed pairs that run on the belt that is there, at nearly one center."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Iterator, Sequence
from math import exp, inf, log

from pulltide.core.catalog import Catalog
from pulltide.core.errors import PulltideError
from pulltide.core.links.v_belt import tables
from pulltide.core.links.v_belt.inputs import PulleyStep, VBelt
from pulltide.core.links.v_belt.layout import layout

#: How far a pair may be off the ratio that is wanted, as a share. Common practice, no source.
NEAR = 0.03
#: How far the center distance of a step may be from the first one's: the belt is laid over with the base loosened, and
#: the same slide tightens it. Common practice, no source.
MAX_SPREAD_MM = 6.0
#: Pairs are laid out only where their diameters alone come this close to the ratio.
ROUGHLY = 0.1
#: Steps of a pulley at most.
MAX_STEPS = 6


def with_ratios(link: VBelt, ratios: Sequence[float], catalog: Catalog) -> VBelt | None:
    """A belt stage with a pair to change to for each of some ratios, the pair that is there first.

    None where there is no belt yet, too many steps, or no listed pair for one of the ratios on this belt.
    """
    if link.belt is None or link.idler != "none" or len(link.steps) + len(ratios) > MAX_STEPS:
        return None
    center = layout(link, link.chosen_step).center_mm
    steps = list(link.steps)
    for ratio in ratios:
        found = min(_pairs(link, ratio, center, catalog), default=None, key=lambda one: one[0])
        if found is None:
            return None
        steps.append(found[1])
    return link.model_copy(update={"steps": tuple(steps), "steps_are": "change_pulleys"})


def _pairs(link: VBelt, ratio: float, center_mm: float, catalog: Catalog) -> Iterator[tuple[float, PulleyStep]]:
    """Listed pairs near a ratio and a center distance, with how far they are off both."""
    sizes = tables.listed_diameters_mm(catalog, link.measured_as)
    for driver in sizes:
        wanted = driver * ratio
        low, high = bisect_left(sizes, wanted * exp(-ROUGHLY)), bisect_right(sizes, wanted * exp(ROUGHLY))
        for driven in sizes[low:high]:
            step = PulleyStep(driver_diameter_mm=driver, driven_diameter_mm=driven)
            off = _off(link.model_copy(update={"steps": (step,), "chosen_step": 1}), ratio, center_mm)
            if off < inf:
                yield off, step


def _off(link: VBelt, ratio: float, center_mm: float) -> float:
    """How far a stage is off a ratio and a center distance, in shares of what is allowed; infinite beyond it."""
    try:
        place = layout(link, 1)
    except PulltideError:
        return inf
    off = abs(log(place.driven_pitch_mm / place.driver_pitch_mm / ratio)) / NEAR
    spread = abs(place.center_mm - center_mm) / MAX_SPREAD_MM
    return off + spread if place.fault is None and off <= 1 and spread <= 1 else inf
