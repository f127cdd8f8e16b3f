"""Every stage that the lists allow as one row of numbers: all that a search sees of a family.

A row is what the family's own transmission says of itself at a few driver speeds. Between two of them capacity and
efficiency are taken straight on logarithmic scales; what a search finds is solved as a whole line before it is shown.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, fields
from math import inf, log, nan

import numpy as np
import numpy.typing as npt

from pulltide.core.candidates import Candidate
from pulltide.core.catalog import Catalog
from pulltide.core.duty import Duty
from pulltide.core.errors import PulltideError
from pulltide.core.family import Family
from pulltide.core.links import FAMILIES
from pulltide.core.transmission import AnyTransmission, Bound, Flow, Sizing
from pulltide.core.units import power_kw, torque_nm

Floats = npt.NDArray[np.float64]
Ints = npt.NDArray[np.int64]

#: Driver speeds at which a stage is asked what it can carry [rpm].
GRID_RPM: Floats = np.array([5.0, 20.0, 70.0, 200.0, 500.0, 1000.0, 1800.0, 3600.0])
LN_GRID: Floats = np.log(GRID_RPM)
#: Where pulls and overhung ratings are read: at this speed, and at half of what the stage can carry.
MIDDLE = 5
#: A stage without service factor: what is sized by a duty is scaled to it when it is searched for.
NEUTRAL = Sizing(Duty())


@dataclass(frozen=True, slots=True, kw_only=True)
class Columns:
    """What a search sees of stages, whatever their family: R rows, G speeds.

    ``ln_ratio`` [-]; ``ln_efficiency`` R x G; ``pull_in``, ``pull_out`` overhung load per newton meter on driver and
    driven shaft [1/m]; ``rating_in``, ``rating_out`` R x G overhung ratings [N] by driver speed; ``bore_in``,
    ``bore_out`` greatest bores and ``shaft_in``, ``shaft_out`` own shafts [mm]; ``outside_mm`` of a belt pulley on the
    driver shaft, else infinite; ``turn`` +1, -1 or 0 where only the part can tell; ``price``; ``parts`` to buy.
    Infinite stands for no limit, 0 for a shaft that is not known.
    """

    ln_ratio: Floats
    ln_efficiency: Floats
    pull_in: Floats
    pull_out: Floats
    rating_in: Floats
    rating_out: Floats
    bore_in: Floats
    bore_out: Floats
    shaft_in: Floats
    shaft_out: Floats
    outside_mm: Floats
    turn: Ints
    price: Floats
    parts: Ints


#: Names of those columns.
SHARED = tuple(field.name for field in fields(Columns))


@dataclass(frozen=True, slots=True, kw_only=True)
class Rows(Columns):
    """The stages of one family, one row each.

    ``alike`` tells which rows share their kind; ``ln_limit`` by bound (code, basis, R x G array) ln [N·m] at the
    driver, minus infinity where nothing is known; ``max_rpm`` at the driver.
    """

    family: Family
    candidates: tuple[Candidate, ...]
    alike: Ints
    ln_limit: tuple[tuple[str, str, Floats], ...]
    max_rpm: Floats

    def __len__(self) -> int:
        return len(self.candidates)


def rows_of(family: Family, candidates: Sequence[Candidate], catalog: Catalog) -> Rows:
    """Ask every candidate's transmission; one that cannot be made is left out."""
    assert family.stages is not None
    made: list[tuple[Candidate, _Asked]] = []
    for candidate in candidates:
        try:
            stage = family.prepare(family.stages.build(candidate.shape, catalog), 1)
            made.append((candidate, _ask(stage)))
        except PulltideError:
            continue
    said = [asked for _, asked in made]
    names = sorted({candidate.alike for candidate, _ in made})
    columns = {name: np.array([getattr(asked, name) for asked in said], dtype=np.float64) for name in FIGURES}
    shape = len(made), len(GRID_RPM)
    return Rows(
        family=family,
        candidates=tuple(candidate for candidate, _ in made),
        alike=np.array([names.index(candidate.alike) for candidate, _ in made], dtype=np.int64),
        ln_limit=_limits(said),
        **{name: np.array([getattr(asked, name) for asked in said]).reshape(shape) for name in BY_SPEED},
        turn=np.array([asked.turn for asked in said], dtype=np.int64),
        price=np.array([candidate.price for candidate, _ in made]),
        parts=np.array([len(candidate.parts) for candidate, _ in made], dtype=np.int64),
        **columns,
    )


def rows_again(known: Rows, candidates: Sequence[Candidate], catalog: Catalog, make: Make = rows_of) -> Rows:
    """Rows of other candidates of a family, asking only those of a shape that is not among the known ones."""
    place = {one.shape: at for at, one in enumerate(known.candidates)}
    fresh = make(known.family, [one for one in candidates if one.shape not in place], catalog)
    place |= {one.shape: len(known) + at for at, one in enumerate(fresh.candidates)}
    made = tuple(one for one in candidates if one.shape in place)
    take = np.array([place[one.shape] for one in made], dtype=np.int64)
    names = sorted({one.alike for one in made})
    both = {name: np.concatenate([getattr(known, name), getattr(fresh, name)])[take] for name in (*SHARED, "max_rpm")}
    both["price"] = np.array([one.price for one in made])
    both["parts"] = np.array([len(one.parts) for one in made], dtype=np.int64)
    return Rows(
        family=known.family,
        candidates=made,
        alike=np.array([names.index(one.alike) for one in made], dtype=np.int64),
        ln_limit=tuple(_joined(known, fresh, take)),
        **both,
    )


def _joined(known: Rows, fresh: Rows, take: Ints) -> Iterator[tuple[str, str, Floats]]:
    """The limits of both; one that only some rows have does not limit the others."""
    limits = [{code: values for code, _, values in rows.ln_limit} for rows in (known, fresh)]
    basis = {code: at for rows in (known, fresh) for code, at, _ in rows.ln_limit}
    blanks = [np.full((len(rows), len(GRID_RPM)), inf) for rows in (known, fresh)]
    for code, at in basis.items():
        parts = [found.get(code, blank) for found, blank in zip(limits, blanks, strict=True)]
        yield code, at, np.concatenate(parts)[take]


#: What a transmission says of itself at every speed of the grid.
BY_SPEED = ("ln_efficiency", "rating_in", "rating_out")
#: What it says in one number each.
FIGURES = ("ln_ratio", "max_rpm", "pull_in", "pull_out", "bore_in", "bore_out", "shaft_in", "shaft_out", "outside_mm")


#: What makes rows of the candidates of a family.
Make = Callable[[Family, Sequence[Candidate], Catalog], Rows]


def _limits(said: list[_Asked]) -> tuple[tuple[str, str, Floats], ...]:
    """Every bound that any of them has; one that a stage does not have does not limit it."""
    basis = {code: asked.basis[code] for asked in said for code in asked.basis}
    blank = [inf] * len(GRID_RPM)
    return tuple((code, at, np.array([asked.limits.get(code, blank) for asked in said])) for code, at in basis.items())


#: Families whose parts are on lists.
SEARCHED: tuple[Family, ...] = tuple(family for family in FAMILIES if family.stages is not None)


@dataclass(frozen=True, slots=True, kw_only=True)
class _Asked:
    """What one transmission said."""

    ln_ratio: float
    limits: dict[str, list[float]]
    basis: dict[str, str]
    ln_efficiency: list[float]
    rating_in: list[float]
    rating_out: list[float]
    max_rpm: float
    pull_in: float
    pull_out: float
    bore_in: float
    bore_out: float
    shaft_in: float
    shaft_out: float
    outside_mm: float
    turn: int


def _flow(
    stage: AnyTransmission, speed_rpm: float, bounds: Sequence[Bound], peak_over_running: float | None = None
) -> Flow:
    """A stage under half of what it can carry at a speed, without service factor, losses in."""
    most = min((bound.torque_nm or 0.0 for bound in bounds if bound.basis != "driven_peak"), default=0.0)
    delivered = power_kw(0.5 * most or 1.0, speed_rpm)
    passed = stage.transmit(speed_rpm, delivered)
    taken, passed_on = torque_nm(passed.power_in_kw, speed_rpm), torque_nm(delivered, passed.driven_speed_rpm)
    return Flow(
        driver_speed_rpm=speed_rpm,
        driven_speed_rpm=passed.driven_speed_rpm,
        driver_torque_nm=taken,
        driven_torque_nm=passed_on,
        driver_peak_torque_nm=None if peak_over_running is None else peak_over_running * taken,
        driven_peak_torque_nm=None if peak_over_running is None else peak_over_running * passed_on,
        driver_nameplate_torque_nm=taken,
        power_in_kw=passed.power_in_kw,
        power_out_kw=delivered,
    )


def _ask(stage: AnyTransmission) -> _Asked:
    bounds = [stage.capacity(speed, NEUTRAL) for speed in GRID_RPM.tolist()]
    flows = [_flow(stage, speed, found) for speed, found in zip(GRID_RPM.tolist(), bounds, strict=True)]
    limits: dict[str, list[float]] = {}
    basis: dict[str, str] = {}
    for flow, found in zip(flows, bounds, strict=True):
        for bound in found:
            limits.setdefault(bound.code, []).append(_at_driver(bound, flow))
            basis[bound.code] = bound.basis
    middle = flows[MIDDLE]
    at_middle = stage.rate(middle, NEUTRAL, "").shafts
    rated = at_middle.driver_overhung_n or at_middle.driven_overhung_n
    # what has no rating at one speed has none at any
    shafts = [stage.rate(flow, NEUTRAL, "").shafts if rated else at_middle for flow in flows]
    pull_in, pull_out = _pulls(stage, middle, NEUTRAL)
    return _Asked(
        ln_ratio=log(middle.driver_speed_rpm / middle.driven_speed_rpm),
        limits=limits,
        basis=basis,
        ln_efficiency=[log(flow.power_out_kw / flow.power_in_kw) for flow in flows],
        rating_in=[_no_limit(one.driver_overhung_n) / one.driver_overhang_factor for one in shafts],
        rating_out=[_no_limit(one.driven_overhung_n) / one.driven_overhang_factor for one in shafts],
        max_rpm=_no_limit(stage.max_driver_rpm),
        pull_in=pull_in,
        pull_out=pull_out,
        bore_in=_no_limit(at_middle.driver_bore_max_mm),
        bore_out=_no_limit(at_middle.driven_bore_max_mm),
        shaft_in=at_middle.driver_shaft_mm or 0.0,
        shaft_out=at_middle.driven_shaft_mm or 0.0,
        outside_mm=_no_limit(at_middle.driver_outside_mm) if at_middle.is_belt else inf,
        turn=stage.turn or 0,
    )


def _at_driver(bound: Bound, flow: Flow) -> float:
    """Ln of a bound's torque [N·m] at the driver: what is rated at the output counts as what brings it there."""
    multiplied = flow.driven_torque_nm / flow.driver_torque_nm if bound.basis == "driven_peak" else 1.0
    return log(bound.torque_nm / multiplied) if bound.torque_nm else -inf


def _no_limit(value: float | None) -> float:
    """A limit, infinite where there is none."""
    return value or inf


def _pulls(stage: AnyTransmission, flow: Flow, sizing: Sizing) -> tuple[float, float]:
    """Overhung load per newton meter on driver and driven shaft [1/m]."""
    result = stage.rate(flow, sizing, "")
    return result.driver_pull_n / flow.driver_torque_nm, result.driven_pull_n / flow.driven_torque_nm


@dataclass(frozen=True, slots=True)
class UnderDuty:
    """What a duty makes of rows: ln of the running torque at the driver that uses up the first limit [N·m], R x G, and
    the overhung loads per newton meter [1/m].
    """

    ln_capacity: Floats
    pull_in: Floats
    pull_out: Floats


def under_duty(rows: Rows, sizing: Sizing, peak_over_running: float, catalog: Catalog) -> UnderDuty:
    """Rows under a duty.

    How much a duty takes off each limit, and adds to a pull, is asked of one row of those that are alike: a service
    factor goes by section or chain, not by size.
    """
    found: Floats = np.full(rows.ln_efficiency.shape, inf)
    peak_over_running = max(peak_over_running, 1.0)
    probes = [_probe(rows, first, sizing, peak_over_running, catalog) for first in _firsts(rows)]
    for code, basis, values in rows.ln_limit:
        share = np.array([probe.left[code] for probe in probes])
        over = log(peak_over_running) if basis in ("peak", "driven_peak") else 0.0
        np.minimum(found, values + share[rows.alike] - over, out=found)
    more = np.array([probe.pulls for probe in probes])[rows.alike]
    return UnderDuty(found, rows.pull_in * more[:, 0], rows.pull_out * more[:, 1])


def _firsts(rows: Rows) -> Iterator[int]:
    """The first row of each group of alike ones."""
    _, places = np.unique(rows.alike, return_index=True)
    yield from places.tolist()


@dataclass(frozen=True, slots=True)
class _Probe:
    """What a duty does to one row: ln of what it leaves of each limit at every speed, and times how much it pulls."""

    left: dict[str, Floats]
    pulls: tuple[float, float]


def _probe(rows: Rows, first: int, sizing: Sizing, peak_over_running: float, catalog: Catalog) -> _Probe:
    """Where a limit is not known at a speed, what is left on average at the others; all of it where none ever is."""
    assert rows.family.stages is not None
    stage = rows.family.prepare(rows.family.stages.build(rows.candidates[first].shape, catalog), 1)
    plain, asked = _capacities(stage, NEUTRAL), _capacities(stage, sizing)
    left = {}
    for code, _, _ in rows.ln_limit:
        left[code] = np.array([_left(at.get(code), then.get(code)) for at, then in zip(plain, asked, strict=True)])
    speed = float(GRID_RPM[MIDDLE])
    bounds = stage.capacity(speed, NEUTRAL)
    before_in, before_out = _pulls(stage, _flow(stage, speed, bounds), NEUTRAL)
    after_in, after_out = _pulls(stage, _flow(stage, speed, bounds, peak_over_running), sizing)
    pulls = (after_in / before_in if before_in else 1.0, after_out / before_out if before_out else 1.0)
    return _Probe({code: _filled(values) for code, values in left.items()}, pulls)


def _capacities(stage: AnyTransmission, sizing: Sizing) -> list[dict[str, float | None]]:
    """Torque of every bound at every speed of the grid [N·m]."""
    return [{bound.code: bound.torque_nm for bound in stage.capacity(speed, sizing)} for speed in GRID_RPM.tolist()]


def _left(before: float | None, after: float | None) -> float:
    return log(after / before) if before and after else nan


def _filled(values: Floats) -> Floats:
    known = values[np.isfinite(values)]
    return np.where(np.isfinite(values), values, known.mean() if len(known) else 0.0)
