"""A stage shaped to a ratio and a load, out of listed parts: where a new one begins, and what another kind keeps.

Its family's own neighbors are followed downhill, from one link to the next, until none comes closer.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from math import inf, log

from pydantic import ValidationError

from pulltide.core.advantage import ratio_asked
from pulltide.core.catalog import Catalog
from pulltide.core.errors import PulltideError
from pulltide.core.family import Family
from pulltide.core.line_result import LineResult
from pulltide.core.links import family_of
from pulltide.core.machine import Machine, Plan
from pulltide.core.model import CoreModel
from pulltide.core.sources import drive_of
from pulltide.core.transmission import Flow, Sizing
from pulltide.core.units import power_kw, torque_nm

#: How near to the ratio a stage need come, as a share; how much overload weighs beside being off the ratio, and each
#: problem and each warning.
NEAR, OVERLOAD_WEIGHS, PROBLEM_WEIGHS, WARNING_WEIGHS = 0.01, 0.5, 0.3, 0.06
#: Steps downhill at most, and how many neighbors are rated at each, the nearest by ratio first.
MAX_STEPS, RATED = 30, 12


@dataclass(frozen=True, slots=True)
class Wish:
    """What a stage is to do: its ratio, the speed [rpm] and running torque [N·m] at its driver shaft.

    The torque is None while it is unknown.
    """

    ratio: float
    driver_speed_rpm: float
    driver_torque_nm: float | None
    nameplate_nm: float
    sizing: Sizing


def begin(family: Family, catalog: Catalog, wish: Wish | None, favorite: str = "") -> CoreModel:
    """A link of a family, as near to a wish as one stage usually goes; without a wish its plain start.

    ``favorite`` is the section, profile or chain that the shop likes best: taken where it does as well.
    """
    if wish is None:
        plain = family.starter(catalog)
        return _of_favorite(family, catalog, plain, favorite) or plain
    low, high = family.usual_ratios
    seeds = [*family.seeds(catalog, min(max(wish.ratio, low), high)), family.starter(catalog)]
    found = [shaped(family, catalog, seed, wish) for seed in seeds]
    best = min(found, key=lambda link: _cost(family, link, wish))
    liked = [_of_favorite(family, catalog, link, favorite) for link in (best, *seeds)]
    tried = [shaped(family, catalog, link, wish, family.favorite) for link in liked if link is not None]
    if not tried:
        return best
    nearest = min(tried, key=lambda link: _cost(family, link, wish))
    return nearest if _cost(family, nearest, wish) <= _cost(family, best, wish) + NEAR else best


def _of_favorite(family: Family, catalog: Catalog, link: CoreModel, favorite: str) -> CoreModel | None:
    """The same link with the shop's favorite, as an edit would make it; None where there is none or it has that."""
    if not favorite or not family.favorite or str(getattr(link, family.favorite)) == favorite:
        return None
    raw = {**link.model_dump(mode="json"), family.favorite: favorite}
    try:
        return family.model.model_validate(family.reconcile(link, raw, catalog))
    except (ValidationError, PulltideError):
        return None


def shaped(family: Family, catalog: Catalog, link: CoreModel, wish: Wish, kept: str = "") -> CoreModel:
    """A link brought to a ratio and strong enough for the load, by steps from one listed neighbor to the next.

    ``kept`` is a field that stays as it is.
    """
    low, high = family.usual_ratios
    wish = replace(wish, ratio=min(max(wish.ratio, low), high))
    best, cost = link, _cost(family, link, wish)
    for _ in range(MAX_STEPS):
        found = (pair for pair in _by_ratio(family, catalog, best, wish) if not kept or _same(pair[1], best, kept))
        neighbors = sorted(found, key=lambda pair: pair[0])[:RATED]
        rated = [(_cost(family, other, wish), index, other) for index, (_, other) in enumerate(neighbors)]
        if not rated or min(rated)[0] >= cost - 1e-9:
            return best
        cost, _, best = min(rated)
    return best


def _same(one: CoreModel, other: CoreModel, field: str) -> bool:
    return bool(getattr(one, field) == getattr(other, field))


def _by_ratio(family: Family, catalog: Catalog, link: CoreModel, wish: Wish) -> Iterator[tuple[float, CoreModel]]:
    """Neighbors with how far they are off the ratio; one that cannot be is left out."""
    for variant in family.variants(link, catalog):
        off = _off(family, variant.link, wish.ratio)
        if off < inf:
            yield off, variant.link


def _off(family: Family, link: CoreModel, ratio: float) -> float:
    try:
        own = family.prepare(link, getattr(link, "chosen_step", 1)).ratio
    except PulltideError:
        return inf
    return max(abs(log(own / ratio)) - NEAR, 0.0) if own > 0 else inf


def _cost(family: Family, link: CoreModel, wish: Wish) -> float:
    """How far a link is off its ratio, and how far over its limits; faults of geometry weigh most."""
    off = _off(family, link, wish.ratio)
    if off == inf or wish.driver_torque_nm is None:
        return off
    transmission = family.prepare(link, getattr(link, "chosen_step", 1))
    power_in = power_kw(wish.driver_torque_nm, wish.driver_speed_rpm)
    driven_rpm = wish.driver_speed_rpm / transmission.ratio
    driven_nm = torque_nm(power_in, driven_rpm)
    flow = Flow(
        driver_speed_rpm=wish.driver_speed_rpm,
        driven_speed_rpm=driven_rpm,
        driver_torque_nm=wish.driver_torque_nm,
        driven_torque_nm=driven_nm,
        driver_peak_torque_nm=None,
        driven_peak_torque_nm=None,
        driver_nameplate_torque_nm=wish.nameplate_nm,
        power_in_kw=power_in,
        power_out_kw=power_in,
    )
    result = transmission.rate(flow, wish.sizing, "link-1")
    wrong = sum(finding.severity.rank >= 3 for finding in result.findings)
    tightest = result.tightest
    use = min(tightest.use or 0.0, 1e6) if tightest is not None else 0.0
    return off + OVERLOAD_WEIGHS * max(log(max(use, 1e-6)), 0.0) + wrong


def wish_for(machine: Machine, plan: Plan, line: LineResult | None, index: int) -> Wish | None:
    """What a stage put behind shaft ``index`` (from 0) has to do: bridge what is left, at the torque there.

    None while the source or the speed that is needed is not known.
    """
    asked = None if line is None else ratio_asked(machine, line)
    if line is None or asked is None:
        return None
    left = asked / line.ratio
    shaft = line.shafts[min(index, len(line.shafts) - 1)]
    torque = shaft.running_torque_nm
    needed = machine.need.running_torque_nm
    if line.unbridged or index >= len(line.links):
        # behind the last shaft, the torque comes down by what the new stage bridges
        torque = None if needed is None else needed / left
    return Wish(left, shaft.speed_rpm, torque, torque or 0.0, _sizing(machine, plan))


def wish_like(machine: Machine, plan: Plan, line: LineResult, index: int) -> Wish:
    """What a stage does now, for another kind to do in its place."""
    link = line.links[index]
    flow = link.flow
    return Wish(
        link.ratio,
        flow.driver_speed_rpm,
        flow.driver_torque_nm or None,
        flow.driver_nameplate_torque_nm,
        _sizing(machine, plan),
    )


def _sizing(machine: Machine, plan: Plan) -> Sizing:
    drive = drive_of(plan.source)
    return Sizing(machine.duty, drive.prime_mover if drive else "motor", machine.cycle)


def other_ratio(machine: Machine, plan: Plan, line: LineResult, index: int, catalog: Catalog) -> CoreModel | None:
    """A stage brought to the ratio at which the last shaft runs at its ideal speed; None where that is not known."""
    asked = ratio_asked(machine, line)
    if asked is None:
        return None
    now = wish_like(machine, plan, line, index)
    family = family_of(plan.links[index].kind)
    return shaped(family, catalog, plan.links[index], replace(now, ratio=now.ratio * asked / line.ratio))
