"""A page of readings judged: each beside what is expected of it, and what explains them all."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, Literal

import numpy as np

from pulltide.core.line import solve_plan
from pulltide.core.machine import Machine, Plan
from pulltide.core.run_log.causes import causes
from pulltide.core.run_log.diagnosis import Diagnosis, Observation, Suspects
from pulltide.core.run_log.instruments import WARM, instrument_of, usual
from pulltide.core.run_log.log import Visit
from pulltide.core.run_log.model import Array, Band, Model, nuisances
from pulltide.core.run_log.of_line import is_three_phase, running_of
from pulltide.core.run_log.running import Offsets, Quantity, Running
from pulltide.core.run_log.weighing import Read
from pulltide.core.units import G_M_PER_S2

#: Share of the load that is on.
SHARES: dict[str, float] = {"full": 1.0, "half": 0.5, "none": 0.0}
#: What varies from day to day on a machine that was once read in good order, one sigma. Common practice, no source.
DAY_TO_DAY = {"load": 0.05, "volts": 0.015, "breakaway": 0.06, "shake": 0.15, "coasting": 0.1}
STEADY = 0.01
#: Factors by which a slip of the pen or of the unit is off.
SLIPS: dict[str, float] = {
    "twice": 2.0,
    "half": 0.5,
    "inches": 25.4,
    "in_inches": 1 / 25.4,
    "kilograms": 1 / G_M_PER_S2,
    "newtons": G_M_PER_S2,
    "pounds": 1 / 4.4482,
    "per_second": 1 / 60,
    "feet": 0.3048,
}

State = Literal["clear", "warning", "error"]


@dataclass(frozen=True, slots=True)
class Judged:
    """One reading beside its band; temperatures as they are read. ``slip`` names a factor that it is off by."""

    what: str
    at: str
    value: float
    band: Band
    off: float
    state: State
    slip: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Page:
    """A page of readings: those judged, those kept but not judged, what else can be read, and what explains them.

    ``why_not`` says why nothing is judged; ``learned`` whether a page in good order was held against.
    """

    judged: tuple[Judged, ...]
    kept: tuple[tuple[str, str, float], ...]
    bands: Mapping[Quantity, Band]
    diagnosis: Diagnosis | None
    why_not: Literal["", "other_line", "no_load", "nothing_read"]
    learned: bool
    running: Running


def line_kinds(plan: Plan) -> str:
    """The kinds of stages of a plan, as a page of readings remembers them."""
    return ",".join(link.kind for link in plan.links)


@lru_cache(maxsize=64)
def page_of(machine: Machine, plan_index: int, visit_index: int) -> Page:
    """A page of the log held against a plan. Raises InputError naming what has to be known first."""
    plan, visit = machine.plans[plan_index], machine.log.visits[visit_index]
    running = _running(machine, plan)
    if visit.line and visit.line != line_kinds(plan):
        return _unjudged(running, visit, "other_line")
    if visit.readings and visit.load not in SHARES:
        return _unjudged(running, visit, "no_load")
    model, learned = _model(running, machine.log.visits, visit_index, line_kinds(plan))
    bands = {key: _as_read(key, band, visit) for key, band in model.bands().items() if _readable(key, visit)}
    observed, judged, kept = [], [], []
    for reading in visit.readings:
        key, value = (reading.kind, reading.at), float(reading.value)
        if key not in bands:
            kept.append((*key, value))
            continue
        instrument = instrument_of(reading.kind, reading.instrument) if reading.instrument else usual(key[0], value)
        band = _as_read(key, model.band(key, instrument), visit)
        rise = value - (visit.air_c or 0.0) if reading.kind in WARM else value
        observed.append(Observation(*key, rise, instrument.sigma(rise)))
        judged.append(_judged(key, value, band))
    diagnosis = None
    if observed or visit.noticed:
        drive = running, model.share, is_three_phase(plan)
        known = tuple(model.spreads.items()), tuple(model.base.items())
        diagnosis = _suspects(drive, *known).diagnose(observed, visit.noticed)
    return Page(
        judged=tuple(judged),
        kept=tuple(kept),
        bands=bands,
        diagnosis=diagnosis,
        why_not="" if diagnosis else "nothing_read",
        learned=learned,
        running=running,
    )


@lru_cache(maxsize=32)
def _suspects(drive: tuple[Running, float, bool], spreads: Known, base: Known) -> Suspects:
    """What can be wrong with a drive at a share of its load, on three phases or not, with what is known of it: the same
    for every reading of a page.
    """
    running, share, three_phase = drive
    return Suspects(Model(running, share, dict(spreads), dict(base)), causes(running, three_phase=three_phase))


#: Unknowns by name.
Known = tuple[tuple[str, float], ...]


def _running(machine: Machine, plan: Plan) -> Running:
    result = solve_plan(machine, plan)
    if result is None:
        return running_of(machine, plan, None)
    return running_of(machine, plan, result.chosen)


def _unjudged(running: Running, visit: Visit, why: Any) -> Page:
    kept = tuple((reading.kind, reading.at, float(reading.value)) for reading in visit.readings)
    model = Model(running, 1.0, nuisances(running))
    bands = {key: _as_read(key, band, visit) for key, band in model.bands().items()} if why == "no_load" else {}
    return Page(judged=(), kept=kept, bands=bands, diagnosis=None, why_not=why, learned=False, running=running)


def _readable(key: Quantity, visit: Visit) -> bool:
    """Whether something can be judged: a temperature over air that is known."""
    return key[0] not in WARM or visit.air_c is not None


def _as_read(key: Quantity, band: Band, visit: Visit) -> Band:
    """A band as the instrument shows it: temperatures with the air's."""
    return Band(band.middle + (visit.air_c or 0.0), band.half) if key[0] in WARM else band


def _judged(key: Quantity, value: float, band: Band) -> Judged:
    off = band.off(value)
    state: State = "clear" if off == 0 else "warning" if abs(off) <= band.half else "error"
    return Judged(*key, value, band, off, state, _slip(key[0], value, band) if state == "error" else "")


def _slip(what: str, value: float, band: Band) -> str:
    """The slip of a unit that would explain a reading far outside its band; empty where none does."""
    if what in WARM or band.middle <= 0:
        return ""
    near = band.half / band.middle
    return next((name for name, factor in SLIPS.items() if abs(value / band.middle / factor - 1) <= near), "")


def _model(running: Running, visits: Sequence[Visit], index: int, line: str) -> tuple[Model, bool]:
    """What to hold a page against: the drive as planned, or as the latest earlier page in good order found it."""
    share = SHARES.get(visits[index].load, 1.0)
    for visit in reversed(visits[:index]):
        if visit.healthy and visit.line == line and visit.load in SHARES and visit.readings:
            base, spreads = learned(running, visit)
            return Model(running, share, spreads, base), True
    return Model(running, share, nuisances(running)), False


def learned(
    running: Running, visit: Visit, spreads: Mapping[str, float] | None = None
) -> tuple[Offsets, dict[str, float]]:
    """What the readings of a machine in good order tell of its unknowns: where they stand and what is left of their
    spread; what varies from day to day still does.
    """
    spreads = dict(spreads or nuisances(running))
    model = Model(running, SHARES[visit.load], spreads)
    rows, values, sigmas = [], [], []
    for reading in visit.readings:
        key = (reading.kind, reading.at)
        if key in model.keys and _readable(key, visit):
            rise = float(reading.value) - (visit.air_c or 0.0) if reading.kind in WARM else float(reading.value)
            rows.append(model.keys.index(key))
            values.append(rise)
            sigmas.append(instrument_of(reading.kind, reading.instrument).sigma(rise))
    if not rows:
        return {}, spreads
    read = Read(rows, np.array(values), np.array(sigmas))
    factors, left = _most_likely(model, read)
    base, narrowed = {}, {}
    for number, (name, sigma) in enumerate(spreads.items()):
        base[name] = float(factors[number])
        least = DAY_TO_DAY.get(name, STEADY)
        narrowed[name] = max(sigma * float(max(left[number], 0.0)) ** 0.5, min(least, sigma))
    return base, narrowed


#: Rounds in which unknowns are found, most sigmas that they move in one, and how little they move when they are.
ROUNDS, MOST_SIGMAS, FOUND = 20, 3.0, 0.01


def _most_likely(model: Model, read: Read) -> tuple[Array, Array]:
    """Factors of the unknowns that explain readings best, and what is left of the variance of each, as a share.

    A factor is e^(σx), so that it is never below 0 and its spread is a share of it. Readings bend: the pitch of a belt
    goes with the root of its tension. Slopes are taken anew where the last ones led: Gauss and Newton's way to the most
    likely unknowns.
    """
    sigmas = np.array(list(model.spreads.values()))
    pulled = np.zeros(len(sigmas))
    for _ in range(ROUNDS):
        off = dict(zip(model.spreads, np.exp(sigmas * pulled).tolist(), strict=True))
        settled = model.settled(off)
        middle = model.values(settled)
        own = model.slopes(off, settled, middle)[read.rows]
        covariance = np.diag(read.sigmas**2) + own @ own.T
        then = own.T @ np.linalg.solve(covariance, read.values - middle[read.rows] + own @ pulled)
        moved = np.clip(then - pulled, -MOST_SIGMAS, MOST_SIGMAS)
        pulled = pulled + moved
        if np.abs(moved).max() <= FOUND:
            break
    left = 1 - np.einsum("ij,ij->j", own, np.linalg.solve(covariance, own))
    return np.exp(sigmas * pulled), left
