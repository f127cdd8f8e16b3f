"""How a belt comes off its wheels: over which ends of its shafts it passes, and where something is in its way."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from pulltide.core.findings import Finding, state
from pulltide.core.fit import checks
from pulltide.core.fit.shaft import is_free
from pulltide.core.layout import Placed
from pulltide.core.line_result import LineResult
from pulltide.core.machine import Plan
from pulltide.core.shafts import Span

SIDES = ("near", "far")
HOUSED = ("case", "coupling")


@dataclass(frozen=True, slots=True)
class Passing:
    """Over which ends of its driver and of its driven shaft the belt of a stage, from 1, comes off."""

    stage: int
    driver: frozenset[str]
    driven: frozenset[str]

    @property
    def both(self) -> frozenset[str]:
        """Ends that it comes off together."""
        return self.driver & self.driven

    @property
    def captive(self) -> bool:
        """Whether it cannot come off one of them at all."""
        return not (self.driver and self.driven)


def passings(plan: Plan, line: LineResult, placed: Placed) -> Iterator[Passing]:
    """Every belt of which it is known what stands on both its shafts."""
    for index, picture in enumerate(placed.pictures):
        if picture.role != "belt":
            continue
        ends = [_free(plan, line, placed, index, shaft) for shaft in (index, index + 1)]
        if ends[0] is not None and ends[1] is not None:
            yield Passing(index + 1, ends[0], ends[1])


def _free(plan: Plan, line: LineResult, placed: Placed, stage: int, shaft: int) -> frozenset[str] | None:
    """The ends of a shaft, from 0, that the belt of a stage passes over; None where that is not known."""
    blocked = _housed(placed, shaft)
    if not is_free(plan, shaft + 1):
        return frozenset(SIDES) - blocked if blocked else None
    part = plan.shaft_part(shaft + 1)
    span = None if part is None else part.span
    at = None if span is None else span.driver_at_mm if shaft == stage else span.driven_at_mm
    if span is None or at is None or len(span.bearings_mm) < 2:
        return None
    loads = [span.load_at_mm] if span.load_n and span.load_at_mm is not None else []
    stands = [*span.bearings_mm, *_others(line, span, stage, shaft), *loads]
    blocked |= {"near" if other < at else "far" for other in stands if other != at}
    return frozenset(SIDES) - blocked


def _housed(placed: Placed, shaft: int) -> set[str]:
    """The ends of a shaft, from 0, at which a motor, a case or a coupling stands."""
    blocked = {"far"} if shaft == 0 else set()  # a motor stands behind its first wheel
    if shaft and placed.pictures[shaft - 1].role in HOUSED:
        blocked.add("near")
    if shaft < len(placed.pictures) and placed.pictures[shaft].role in HOUSED:
        blocked.add("far")
    return blocked


def _others(line: LineResult, span: Span, stage: int, shaft: int) -> Iterator[float]:
    """Where a wheel of the other stage stands that is larger than the belt's own: the belt does not pass over it."""
    other, at = (shaft - 1, span.driven_at_mm) if shaft == stage else (shaft, span.driver_at_mm)
    if at is None or not 0 <= other < len(line.links):
        return
    own = _outside_mm(line, stage, "driver" if shaft == stage else "driven")
    if _outside_mm(line, other, "driven" if shaft == stage else "driver") > own:
        yield at


def _outside_mm(line: LineResult, stage: int, side: str) -> float:
    """To the tips of its teeth or the outside of its chain; a pulley without its belt, which comes off [mm]."""
    transmission = line.links[stage].transmission
    picture = transmission.picture()
    over = 0.0 if picture.role == "belt" else picture.over_mm
    return max((disc.outside_mm + 2 * over for disc in transmission.discs if disc.side == side), default=0.0)


def findings(plan: Plan, line: LineResult, placed: Placed) -> Iterator[Finding]:
    """Belts that cannot be taken off, and those that have to be passed across."""
    for one in passings(plan, line, placed):
        if one.captive:
            yield state(checks.CAPTIVE, f"link-{one.stage}")
        elif not one.both:
            yield state(checks.PASSES, f"link-{one.stage}")
