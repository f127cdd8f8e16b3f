"""When a reading that drifts evenly reaches its limit: a straight line through what was read since the last reset."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from pulltide.core.fit.tensions import AGAIN_SHARE
from pulltide.core.observed import strum_hz
from pulltide.core.run_log.instruments import instrument_of, usual
from pulltide.core.run_log.log import Log
from pulltide.core.run_log.running import Running

#: Fewest readings of a trend, how sure its slope must be (sigmas), the share of cases in which it comes sooner than
#: planned (10 %), and how far beyond what was watched it is followed.
FEWEST, SURE, SOONER, REACH = 3, 2.0, 1.2816, 3.0
#: Work after which a reading begins anew.
RESETS = {"stretch": ("replace_chain",), "strum": ("set_tension", "replace_belt")}


@dataclass(frozen=True, slots=True)
class Trend:
    """A drift: hours at which the limit is reached, one sigma of that, and hours to plan for."""

    what: str
    at: str
    limit: float
    hours: float
    sigma_h: float
    plan_h: float


def line_to(points: Sequence[tuple[float, float]], sigma: float, limit: float) -> tuple[float, float, float] | None:
    """Hours at which a straight line reaches a limit, one sigma of them, and the hours to plan for.

    Points are hours and values, each value read with a sigma. None where there are too few, where the slope is not
    sure, where it leads away from the limit or too far. Source: least squares; errors by propagation.

    >>> found = line_to([(50, 0.35), (150, 0.62), (260, 0.95), (350, 1.20)], 0.1, 2.0)
    >>> [round(value) for value in found]
    [630, 69, 542]
    """
    if len(points) < FEWEST:
        return None
    hours, values = np.array(points).T
    rows = np.stack([np.ones_like(hours), hours], axis=1)
    if np.ptp(hours) <= 0:
        return None
    covariance = np.linalg.inv(rows.T @ rows) * sigma**2
    start, slope = np.linalg.lstsq(rows, values, rcond=None)[0]
    if abs(slope) <= SURE * covariance[1, 1] ** 0.5:
        return None
    at = (limit - start) / slope
    spread = float((covariance[0, 0] + at**2 * covariance[1, 1] + 2 * at * covariance[0, 1]) ** 0.5 / abs(slope))
    planned = float(at) - SOONER * spread
    if at <= hours.max() or planned > REACH * hours.max():
        return None
    return float(at), spread, planned


def trends(running: Running, log: Log, line: str) -> Iterator[Trend]:
    """Every drift that is sure enough: chains that stretch, belts whose strum falls."""
    for number, stage in enumerate(running.stages, 1):
        at, seen = f"link-{number}", stage.observed
        if seen.chain is not None:
            yield from _trend(log, line, ("stretch", at), seen.chain.worn_percent)
        loop = seen.loop
        if loop is not None and loop.friction is not None and loop.wanted_n > 0:
            again = strum_hz(AGAIN_SHARE * loop.wanted_n, loop.span_mm, loop.mass_kg_per_m, loop.bending_nm2)
            yield from _trend(log, line, ("strum", at), again)


def _trend(log: Log, line: str, key: tuple[str, str], limit: float) -> Iterator[Trend]:
    what, at = key
    since = max((work.hours for work in log.works if work.at == at and work.task in RESETS[what]), default=0.0)
    points, sigma = [], 0.0
    for visit in log.visits:
        if visit.hours is None or visit.hours < since or visit.line != line:
            continue
        for reading in visit.readings:
            if (reading.kind, reading.at) == key:
                value = float(reading.value)
                points.append((visit.hours, value))
                own = instrument_of(what, reading.instrument) if reading.instrument else usual(what, value)
                sigma = max(sigma, own.sigma(value))
    found = line_to(points, sigma, limit)
    if found is not None:
        yield Trend(what, at, limit, *found)
