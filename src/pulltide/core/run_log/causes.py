"""What may be wrong: each cause is the drive with something changed, by how severe it is."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import cache

import numpy as np

from pulltide.core.run_log.meters import InductionMeters, MagnetMeters
from pulltide.core.run_log.running import Running, StageModel
from pulltide.core.tables import load_table

#: What a person notices without an instrument.
NOTICED = ("no_start", "trips", "squeal", "unsteady", "tick", "hum", "dust")
#: Points from mild to severe at which a cause is tried, and where they span more than a factor of ten.
POINTS, MANY_POINTS = 6, 10


@dataclass(frozen=True, slots=True, kw_only=True)
class CauseRow:
    """One row of the table of causes."""

    code: str
    where: str
    prior: float
    severities: tuple[float, ...]
    noticed: dict[str, float]


@dataclass(frozen=True, slots=True, eq=False)
class Cause:
    """One cause at one place of a line: ``at`` is ``link-1``, ``shaft-2`` or empty. ``offsets`` are what it changes, at
    each of its severities.
    """

    row: CauseRow
    at: str
    offsets: tuple[dict[str, float], ...]

    @property
    def code(self) -> str:
        """Its code."""
        return self.row.code


@cache
def rows() -> tuple[CauseRow, ...]:
    """The table of causes."""
    return tuple(
        CauseRow(
            code=row["code"],
            where=row["where"],
            prior=float(row["prior"]),
            severities=_severities(float(row["low"]), float(row["high"]), row["steps"]),
            noticed={name: float(row[name]) for name in NOTICED},
        )
        for row in load_table("pulltide.core.run_log", "causes").rows
    )


def _severities(low: float, high: float, steps: str) -> tuple[float, ...]:
    if low == high:
        return (low,)
    made = np.geomspace(low, high, MANY_POINTS) if steps == "ratio" else np.linspace(low, high, POINTS)
    return tuple(float(value) for value in made)


#: What a cause changes at a severity, where the number of a stage or shaft is needed.
Effect = Callable[[float, int], dict[str, float]]


def _worn_belt(mm: float, k: int) -> dict[str, float]:
    return {f"driver_mm@{k}": -mm, f"friction@{k}": 1 - 0.05 * mm, f"tension@{k}": 1 - 0.04 * mm}


def _tight(times: float, k: int) -> dict[str, float]:
    drag = 1 + 0.66 * (times - 1)
    return {f"tension@{k}": times, f"bearing_times@{k}": drag, f"bearing_times@{k + 1}": drag}


def _worn_chain(percent: float, k: int) -> dict[str, float]:
    return {
        f"stretch@{k}": percent,
        f"sag@{k}": 1 + percent / 2,
        f"lossier@{k}": 0.0038 * percent,
        "vibration": percent,
    }


def _worn_worm(degrees: float, k: int) -> dict[str, float]:
    return {f"play@{k}": degrees, f"lossier@{k}": 0.03 * degrees, "vibration": degrees}


def _cold_oil(times: float, k: int) -> dict[str, float]:
    return {f"drag@{k}": times, "breakaway": 1.1 + 0.1 * (times - 1), f"case_k@{k}": -7.5 - 12.5 * (times - 2)}


def _tight_mesh(share: float, k: int) -> dict[str, float]:
    return {f"lossier@{k}": share, f"play_times@{k}": 0.3, "vibration": 60 * share, "breakaway": 1 + 2 * share}


EFFECTS: dict[str, Effect] = {
    "nothing_wrong": lambda value, k: {},
    "belt_slack": lambda value, k: {f"tension@{k}": value},
    "belt_oily": lambda value, k: {f"friction@{k}": value},
    "belt_worn": _worn_belt,
    "wrong_pulley": lambda value, k: {f"ratio@{k}": value},
    "wrong_section": lambda value, k: {f"riding@{k}": value},
    "out_of_line": lambda value, k: {f"misaligned@{k}": value, "vibration": 187 * value},
    "belt_tight": _tight,
    "load_heavy": lambda value, k: {"load": value, "breakaway": value},
    "batch_sticks": lambda value, k: {"breakaway": value, "load": 1 + 0.3 * (value - 1)},
    "chain_worn": _worn_chain,
    "chain_dry": lambda value, k: {f"lossier@{k}": value},
    "ratio_not_as_marked": lambda value, k: {f"ratio@{k}": value},
    "volts_low": lambda value, k: {"volts": value},
    "phase_lost": lambda value, k: {"slip": 1.9, "amps_times": 1.54, "watts_times": 1.12},
    "star_for_delta": lambda value, k: {"phase_volts": 3**-0.5, "amps_times": 3**-0.5},
    "half_speed": lambda value, k: {"field": value},
    "capacitor_failed": lambda value, k: {},
    "switch_stuck_closed": lambda value, k: {
        "amps_times": value,
        "watts_times": 1 + 0.5 * (value - 1),
        "vibration": 4.5,
    },
    "switch_stuck_open": lambda value, k: {},
    "overload_set_low": lambda value, k: {},
    "cooling_blocked": lambda value, k: {"warmer_motor": 1 / value},
    "bearing_dry": lambda value, k: {f"bearing@{k}": value, "vibration": 3 + 6 * value},
    "bearing_overgreased": lambda value, k: {f"bearing@{k}": value},
    "shaft_bent": lambda value, k: {"vibration": value},
    "mesh_tight": _tight_mesh,
    "mesh_loose": lambda value, k: {f"play@{k}": value, "vibration": 3 + 2 * value},
    "oil_cold": _cold_oil,
    "worm_worn": _worn_worm,
    "battery_sags": lambda value, k: {"volts": value},
    "driver_limits": lambda value, k: {"phase_volts": value},
    "key_slips": lambda value, k: {f"slips@{k}": value},
}

#: Whether a stage is a place for a cause.
STAGES: dict[str, Callable[[StageModel], bool]] = {
    "grip": lambda stage: stage.observed.loop is not None and stage.observed.loop.friction is not None,
    "loop": lambda stage: stage.observed.loop is not None,
    "chain": lambda stage: stage.observed.chain is not None,
    "case": lambda stage: stage.observed.case is not None,
    "mesh": lambda stage: stage.observed.meshes,
    "worm": lambda stage: stage.observed.is_worm,
    "stage": lambda stage: True,
}


def causes(running: Running, *, three_phase: bool) -> Iterator[Cause]:
    """Every cause that this drive can have, at each place where it can."""
    for row in rows():
        if row.code == "wrong_poles":
            yield from _other_poles(row, running)
        elif row.where in STAGES:
            for number, stage in enumerate(running.stages, 1):
                if STAGES[row.where](stage):
                    yield _at(row, f"link-{number}", number, running)
        elif row.where == "bearing":
            for shaft, drag in enumerate(running.bearing_nm, 1):
                if drag > 0:
                    yield _at(row, f"shaft-{shaft}", shaft, running)
        elif _applies(row.where, running, three_phase):
            yield _at(row, "", 0, running)


def _applies(where: str, running: Running, three_phase: bool) -> bool:
    induction = isinstance(running.meters, InductionMeters)
    return {
        "line": True,
        "breakaway": running.breakaway_nm is not None,
        "motor": induction or isinstance(running.meters, MagnetMeters),
        "mains": induction,
        "induction": induction,
        "three_phase": induction and three_phase,
        "one_phase": induction and not three_phase,
        "magnet": isinstance(running.meters, MagnetMeters),
    }[where]


def _at(row: CauseRow, at: str, number: int, running: Running) -> Cause:
    effect = EFFECTS[row.code]
    return Cause(row, at, tuple(_sized(effect(value, number), number, running) for value in row.severities))


def _sized(off: dict[str, float], number: int, running: Running) -> dict[str, float]:
    """What pulleys out of line lose goes with the size of the drive."""
    share = off.pop(f"misaligned@{number}", None)
    return off if share is None else {**off, f"extra_w@{number}": share * running.rated_w}


def _other_poles(row: CauseRow, running: Running) -> Iterator[Cause]:
    """The next numbers of poles, fewer and more."""
    if isinstance(running.meters, InductionMeters):
        pairs = max(round(3600 / running.meters.synchronous_rpm), 1)
        fields = [pairs / (pairs + 1), *([pairs / (pairs - 1)] if pairs > 1 else [])]
        yield Cause(row, "", tuple({"field": value} for value in fields))
