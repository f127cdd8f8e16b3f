"""A stage shaped to a ratio and a load, out of listed parts: where a new one begins, and what another kind keeps.

Its family's own neighbors are followed downhill, from one link to the next, until none comes closer.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import inf, log
from typing import Any

from pydantic import ValidationError

from pulltide.core.advantage import ratio_asked
from pulltide.core.catalog import Catalog
from pulltide.core.errors import PulltideError
from pulltide.core.family import Family
from pulltide.core.findings import Severity
from pulltide.core.line_result import LineResult
from pulltide.core.links import family_of
from pulltide.core.machine import Machine, Plan
from pulltide.core.model import CoreModel
from pulltide.core.sources import drive_of
from pulltide.core.transmission import AnyResult, Flow, Sizing
from pulltide.core.units import power_kw, torque_nm

#: How near to the ratio a stage need come, as a share; how much overload weighs beside being off the ratio, and each
#: problem and each warning.
NEAR, OVERLOAD_WEIGHS, PROBLEM_WEIGHS, WARNING_WEIGHS = 0.01, 0.5, 0.3, 0.06
#: Steps downhill at most, and how many neighbors are rated at each, the nearest by ratio first.
MAX_STEPS, RATED = 100, 12


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
    downhill = _Downhill(family, catalog, wish)
    seeds = [*family.seeds(catalog, downhill.wish.ratio), family.starter(catalog)]
    weighed = _Weighed(family, wish)
    best = min((downhill.end(seed) for seed in seeds), key=weighed.cost)
    liked = [_of_favorite(family, catalog, link, favorite) for link in (best, *seeds)]
    kept = _Downhill(family, catalog, wish, family.favorite)
    tried = [kept.end(link) for link in liked if link is not None]
    if not tried:
        return best
    nearest = min(tried, key=weighed.cost)
    return nearest if weighed.cost(nearest) <= weighed.cost(best) + NEAR else best


def _of_favorite(family: Family, catalog: Catalog, link: CoreModel, favorite: str) -> CoreModel | None:
    """The same link with the shop's favorite, as an edit would make it; None where there is none or it has that."""
    if not favorite or not family.favorite or str(getattr(link, family.favorite)) == favorite:
        return None
    raw = {**link.model_dump(mode="json"), family.favorite: favorite}
    try:
        return family.model.model_validate(family.reconcile(link, raw, catalog))
    except (ValidationError, PulltideError):
        return None


def shaped(family: Family, catalog: Catalog, link: CoreModel, wish: Wish) -> CoreModel:
    """A link brought to a ratio and strong enough for the load, by steps from one listed neighbor to the next."""
    return _Downhill(family, catalog, wish).end(link)


class _Weighed:
    """Links of a family beside a wish; what was worked out of one is kept, as steps come by the same links again."""

    def __init__(self, family: Family, wish: Wish) -> None:
        self.family, self.wish = family, wish
        self._prepared: dict[CoreModel, Any] = {}
        self._costs: dict[CoreModel, float] = {}

    def _transmission(self, link: CoreModel) -> Any:
        if link not in self._prepared:
            try:
                self._prepared[link] = self.family.prepare(link, getattr(link, "chosen_step", 1))
            except PulltideError:
                self._prepared[link] = None
        return self._prepared[link]

    def off(self, link: CoreModel) -> float:
        """How far a link is off the ratio; infinitely where it cannot be."""
        transmission = self._transmission(link)
        if transmission is None or transmission.ratio <= 0:
            return inf
        return max(abs(log(transmission.ratio / self.wish.ratio)) - NEAR, 0.0)

    def cost(self, link: CoreModel, under: float = inf) -> float:
        """How far a link is off its ratio, and how far over its limits; faults of geometry weigh most.

        What is not under a bound is found to be so as cheaply as may be: its findings are worked out last.
        """
        known = self._costs.get(link)
        if known is not None:
            return known
        cost = self.off(link)
        if under > cost < inf and self.wish.driver_torque_nm is not None:
            result = self._rated(link, self.wish.driver_torque_nm)
            use = min(result.tightest.use or 0.0, 1e6) if result.tightest is not None else 0.0
            cost += OVERLOAD_WEIGHS * max(log(max(use, 1e-6)), 0.0)
            if cost < under:
                cost += sum(finding.severity.rank >= Severity.ERROR.rank for finding in result.findings)
        if cost < under:
            self._costs[link] = cost
        return cost

    def _rated(self, link: CoreModel, driver_torque_nm: float) -> AnyResult:
        wish, transmission = self.wish, self._transmission(link)
        power_in = power_kw(driver_torque_nm, wish.driver_speed_rpm)
        driven_rpm = wish.driver_speed_rpm / transmission.ratio
        flow = Flow(
            driver_speed_rpm=wish.driver_speed_rpm,
            driven_speed_rpm=driven_rpm,
            driver_torque_nm=driver_torque_nm,
            driven_torque_nm=torque_nm(power_in, driven_rpm),
            driver_peak_torque_nm=None,
            driven_peak_torque_nm=None,
            driver_nameplate_torque_nm=wish.nameplate_nm,
            power_in_kw=power_in,
            power_out_kw=power_in,
        )
        result: AnyResult = transmission.rate(flow, wish.sizing, "link-1")
        return result


class _Downhill(_Weighed):
    """Steps from a link to its nearest listed neighbors as long as one comes closer to a wish, at a ratio that is usual
    for the family. ``kept`` is a field that stays as it is.
    """

    def __init__(self, family: Family, catalog: Catalog, wish: Wish, kept: str = "") -> None:
        low, high = family.usual_ratios
        super().__init__(family, replace(wish, ratio=min(max(wish.ratio, low), high)))
        self.catalog, self.kept = catalog, kept
        self._ends: dict[CoreModel, CoreModel] = {}

    def end(self, link: CoreModel) -> CoreModel:
        """Where the steps from a link end."""
        best, way = link, list[CoreModel]()
        while best not in self._ends and len(way) < MAX_STEPS:
            way.append(best)
            closer = self._closer(best)
            if closer is None:
                break
            best = closer
        best = self._ends.get(best, best)
        self._ends.update(dict.fromkeys(way, best))
        return best

    def _closer(self, link: CoreModel) -> CoreModel | None:
        """The neighbor that comes closest, None where none comes closer."""
        found, under = None, self.cost(link) - 1e-9
        for other in self._neighbors(link):
            if self.off(other) >= under:
                break
            cost = self.cost(other, under)
            if cost < under:
                found, under = other, cost
        return found

    def _neighbors(self, link: CoreModel) -> list[CoreModel]:
        """Those nearest by ratio; what cannot be is left out."""
        found = (variant.link for variant in self.family.variants(link, self.catalog))
        known = [one for one in found if not self.kept or getattr(one, self.kept) == getattr(link, self.kept)]
        return sorted((one for one in known if self.off(one) < inf), key=self.off)[:RATED]


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
