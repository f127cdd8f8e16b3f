"""Every stage that the lists allow as one row of numbers: all that a search sees of a family.

A row is what the family's own transmission says of itself at a few driver speeds. Between two of them capacity and
efficiency are taken straight on logarithmic scales; what a search finds is solved as a whole line before it is shown.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, fields
from math import inf, log
from typing import Any

import numpy as np
import numpy.typing as npt

from pulltide.core.candidates import Candidate
from pulltide.core.catalog import Catalog
from pulltide.core.duty import Duty
from pulltide.core.errors import PulltideError
from pulltide.core.family import Family
from pulltide.core.links import FAMILIES
from pulltide.core.transmission import AnyTransmission, Flow, Sizing
from pulltide.core.units import power_kw

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
    driven shaft [1/m]; ``rating_in``, ``rating_out`` overhung ratings [N]; ``bore_in``, ``bore_out`` greatest bores and
    ``shaft_in``, ``shaft_out`` own shafts [mm]; ``outside_mm`` of a belt pulley on the driver shaft, else infinite;
    ``turn`` +1, -1 or 0 where only the part can tell; ``price``; ``parts`` to buy. Infinite stands for no limit, 0 for
    a shaft that is not known.
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


def rows_of(family: Family, candidates: Iterable[Candidate], catalog: Catalog) -> Rows:
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
    return Rows(
        family=family,
        candidates=tuple(candidate for candidate, _ in made),
        alike=np.array([names.index(candidate.alike) for candidate, _ in made], dtype=np.int64),
        ln_limit=_limits(said),
        ln_efficiency=np.array([asked.ln_efficiency for asked in said]).reshape(len(made), len(GRID_RPM)),
        turn=np.array([asked.turn for asked in said], dtype=np.int64),
        price=np.array([candidate.price for candidate, _ in made]),
        parts=np.array([len(candidate.parts) for candidate, _ in made], dtype=np.int64),
        **columns,
    )


#: What a transmission says of itself in one number each.
FIGURES = (
    "ln_ratio",
    "max_rpm",
    "pull_in",
    "pull_out",
    "rating_in",
    "rating_out",
    "bore_in",
    "bore_out",
    "shaft_in",
    "shaft_out",
    "outside_mm",
)


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
    max_rpm: float
    pull_in: float
    pull_out: float
    rating_in: float
    rating_out: float
    bore_in: float
    bore_out: float
    shaft_in: float
    shaft_out: float
    outside_mm: float
    turn: int


def _ask(stage: AnyTransmission) -> _Asked:
    limits: dict[str, list[float]] = {}
    basis: dict[str, str] = {}
    efficiency, middle = [], (0.0, 0.0)
    for place, speed in enumerate(GRID_RPM.tolist()):
        bounds = stage.capacity(speed, NEUTRAL)
        at_driver = [bound.torque_nm or 0.0 for bound in bounds if bound.basis != "driven_peak"]
        half = 0.5 * min(at_driver, default=0.0) or 1.0
        delivered = power_kw(half, speed)
        passed = stage.transmit(speed, delivered)
        efficiency.append(log(delivered / passed.power_in_kw) if passed.power_in_kw > 0 else -inf)
        multiplied = speed / passed.driven_speed_rpm * delivered / passed.power_in_kw
        for bound in bounds:
            # what is rated at the output counts as what brings it there
            torque = (bound.torque_nm or 0.0) / (multiplied if bound.basis == "driven_peak" else 1.0)
            limits.setdefault(bound.code, []).append(log(torque) if torque > 0 else -inf)
            basis[bound.code] = bound.basis
        if place == MIDDLE:
            middle = half, passed.driven_speed_rpm
    return _Asked(
        ln_ratio=log(float(GRID_RPM[MIDDLE]) / middle[1]),
        limits=limits,
        basis=basis,
        ln_efficiency=efficiency,
        max_rpm=stage.max_driver_rpm or inf,
        turn=stage.turn or 0,
        **_on_shafts(stage, *middle),
    )


def _on_shafts(stage: AnyTransmission, torque_nm: float, driven_rpm: float) -> dict[str, Any]:
    """Pulls and what its shafts allow, under a reference load."""
    speed = float(GRID_RPM[MIDDLE])
    out_nm = torque_nm * speed / driven_rpm
    flow = Flow(
        driver_speed_rpm=speed,
        driven_speed_rpm=driven_rpm,
        driver_torque_nm=torque_nm,
        driven_torque_nm=out_nm,
        driver_peak_torque_nm=None,
        driven_peak_torque_nm=None,
        driver_nameplate_torque_nm=torque_nm,
        power_in_kw=power_kw(torque_nm, speed),
        power_out_kw=power_kw(torque_nm, speed),
    )
    result = stage.rate(flow, NEUTRAL, "")
    shafts = result.shafts

    def no_limit(value: float | None) -> float:
        return value or inf

    return {
        "pull_in": result.driver_pull_n / torque_nm,
        "pull_out": result.driven_pull_n / out_nm,
        "rating_in": no_limit(shafts.driver_overhung_n) / shafts.driver_overhang_factor,
        "rating_out": no_limit(shafts.driven_overhung_n) / shafts.driven_overhang_factor,
        "bore_in": no_limit(shafts.driver_bore_max_mm),
        "bore_out": no_limit(shafts.driven_bore_max_mm),
        "shaft_in": shafts.driver_shaft_mm or 0.0,
        "shaft_out": shafts.driven_shaft_mm or 0.0,
        "outside_mm": no_limit(shafts.driver_outside_mm) if shafts.is_belt else inf,
    }


def under_duty(rows: Rows, sizing: Sizing, peak_over_running: float, catalog: Catalog) -> Floats:
    """Running torque at the driver that uses up the first limit of each row, R x G, ln [N·m].

    How much a duty takes off each limit is asked of one row of those that are alike: a service factor goes by section
    or chain, not by size.
    """
    found: Floats = np.full(rows.ln_efficiency.shape, inf)
    over = log(max(peak_over_running, 1.0))
    firsts = [_taken_off(rows, first, sizing, catalog) for first in _firsts(rows)]
    for code, basis, values in rows.ln_limit:
        share = np.array([taken[code] for taken in firsts]).reshape(len(firsts), len(GRID_RPM))
        peak = over if basis in ("peak", "driven_peak") else 0.0
        np.minimum(found, values + share[rows.alike] - peak, out=found)
    return found


def _firsts(rows: Rows) -> Iterator[int]:
    """The first row of each group of alike ones."""
    _, places = np.unique(rows.alike, return_index=True)
    yield from places.tolist()


def _taken_off(rows: Rows, first: int, sizing: Sizing, catalog: Catalog) -> dict[str, Floats]:
    """Ln of what a duty leaves of each limit of one row, at every speed of the grid.

    Where a limit is not known at a speed, what is left on average at the others; all of it where none ever is.
    """
    assert rows.family.stages is not None
    stage = rows.family.prepare(rows.family.stages.build(rows.candidates[first].shape, catalog), 1)
    told: dict[str, Floats] = {code: np.full(len(GRID_RPM), np.nan) for code, _, _ in rows.ln_limit}
    for place, speed in enumerate(GRID_RPM.tolist()):
        plain, asked = ({b.code: b.torque_nm for b in stage.capacity(speed, one)} for one in (NEUTRAL, sizing))
        for code, values in told.items():
            before, after = plain.get(code), asked.get(code)
            if before and after:
                values[place] = log(after / before)
    return {code: _filled(values) for code, values in told.items()}


def _filled(values: Floats) -> Floats:
    known = values[np.isfinite(values)]
    return np.where(np.isfinite(values), values, known.mean() if len(known) else 0.0)
