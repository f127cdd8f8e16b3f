"""Measures the search of the lists, in one run: cold and again, against trying every two-stage train by arrays.

    .venv/bin/python bench/search.py

The baseline tests the speed band of every pair of listed stages first, and all else on what is left, a block of numpy
arrays at a time. It is run on a slice of the pairs and extrapolated to all trains that the search may answer with, a
train of more stages counted as one of two. Ratios are what to compare; times vary.
"""

from __future__ import annotations

import resource
import sys
import time
from collections.abc import Callable
from dataclasses import replace
from math import exp, log, prod
from statistics import fmean, median

import numpy as np

from pulltide.core.duty import Duty
from pulltide.core.machine import Machine, Plan
from pulltide.core.search.bounds import Group, Reach
from pulltide.core.search.engine import Asked, words
from pulltide.core.search.kinds import find_kinds
from pulltide.core.search.rows import Floats
from pulltide.core.search.tables import Motors, Stock, Weights, at_speed
from pulltide.core.search.top import find_trains
from pulltide.core.search.ways import EACH, KINDS, TOP, groups_for, stocks_for
from pulltide.core.search.wish import Wish, motor_groups, motors_of, sources_for
from pulltide.core.shipped import shipped_catalog
from pulltide.core.transmission import Sizing
from pulltide.services.searching import Searcher
from pulltide.store.row_file import RowFile, cache_folder

#: Slowest, ideal and fastest speed [rpm], torque [N·m]: drum, mixer, mill, conveyor, saw, hoist, feed, table, lathe.
NEEDS = (
    (14, 17, 20, 261),
    (27, 28, 29, 260),
    (60, 65, 70, 90),
    (75, 80, 85, 40),
    (280, 300, 330, 29),
    (900, 1000, 1100, 8),
    (2800, 3000, 3200, 3),
    (9, 10, 11, 700),
    (4, 5, 6, 400),
    (180, 200, 220, 30),
    (9, 10, 11, 2200),
)
SLICE = 20_000_000


def motors() -> Motors:
    """One motor at hand and two to buy."""
    return Motors(
        id=np.arange(3),
        ln_speed=np.log([1425.0, 1440.0, 2850.0]),
        ln_torque=np.log([7.37, 14.6, 7.4]),
        price=np.array([0.0, 60.0, 50.0]),
        parts=np.array([0, 1, 1]),
        shaft_mm=np.array([24.0, 24.0, 24.0]),
        min_mm=np.array([60.0, 60.0, 60.0]),
    )


def one_by_one(stocks: dict[str, Stock], asked: Asked) -> float:
    """Seconds a candidate of the baseline takes, the least of three runs."""
    return min(_a_slice(stocks, asked) for _ in range(3))


def trains(stocks: dict[str, Stock], stages: int) -> int:
    """How many trains up to so many stages there are behind each motor."""
    asked = Asked(low_rpm=1, ideal_rpm=1, high_rpm=1, torque_nm=1, max_stages=stages)
    return sum(prod(len(stocks[kind]) for kind in word) for word in words(stocks.values(), asked))


def _a_slice(stocks: dict[str, Stock], asked: Asked) -> float:
    first, second = stocks["v_belt"], stocks["roller_chain"]
    start = float(motors().ln_speed[0])
    rows = max(SLICE // len(second), 1)
    began = time.perf_counter()
    for low in range(0, min(rows, len(first)), 200):
        part = np.arange(low, min(low + 200, rows, len(first)))
        out = start - first.ln_ratio[part][:, None] - second.ln_ratio[None, :]
        i, j = np.nonzero((out >= log(asked.low_rpm)) & (out <= log(asked.high_rpm)))
        middle: Floats = start - first.ln_ratio[part[i]]
        torque = log(asked.torque_nm) - second.ln_ratio[j] - at_speed(second.ln_efficiency, j, middle)
        fits = torque <= at_speed(second.ln_capacity, j, middle)
        torque = torque - first.ln_ratio[part[i]]
        fits &= torque <= at_speed(first.ln_capacity, part[i], np.full(len(i), start))
        np.argsort((first.price[part[i]] + second.price[j])[fits])[:20]
    taken = time.perf_counter() - began
    return taken / (min(rows, len(first)) * len(second))


def multiplied(stock: Stock, times: int, chance: np.random.Generator) -> Stock:
    """A stock so many times as large: its stages again, a little larger or smaller, dearer or cheaper."""
    rows = np.tile(np.arange(len(stock)), times)
    made = stock.taken(rows)
    other = np.where(np.arange(len(rows)) < len(stock), 0.0, 1.0)
    return replace(
        made,
        id=np.arange(len(rows)),
        ln_ratio=made.ln_ratio + other * chance.uniform(-0.02, 0.02, len(rows)),
        ln_capacity=made.ln_capacity + (other * chance.uniform(-0.1, 0.1, len(rows)))[:, None],
        price=made.price * (1 + other * chance.uniform(-0.1, 0.1, len(rows))),
    )


Best = Callable[[Reach, Asked], tuple[object, bool, int]]


def the_kinds(reach: Reach, asked: Asked) -> tuple[object, bool, int]:
    """The best of each kind, as the page shows them first."""
    return find_kinds(reach, asked, (KINDS, EACH))


def the_top(reach: Reach, asked: Asked) -> tuple[object, bool, int]:
    """The best of all, whatever their kind."""
    return find_trains(reach, asked, TOP)


def timed(
    groups: dict[str, Group], sources: Motors, stages: int, find: Best = the_kinds
) -> tuple[list[float], list[float], list[int], int]:
    """Seconds of each need cold, and again with bounds kept; rows looked at, and how many the budget stopped."""
    kept, cold, again, looked, cut = Reach(sources, groups, Weights()), [], [], [], 0
    for low, ideal, high, torque in NEEDS:
        asked = Asked(low_rpm=low, ideal_rpm=ideal, high_rpm=high, torque_nm=torque, max_stages=stages)
        for times, reach in ((cold, Reach(sources, groups, Weights())), (again, kept)):
            if times is again:
                find(kept, replace(asked, torque_nm=0.97 * torque))
            began = time.perf_counter()
            _, stopped, looked_at = find(reach, asked)
            times.append(time.perf_counter() - began)
        looked.append(looked_at)
        cut += stopped
    return cold, again, looked, cut


def growth(stocks: dict[str, Stock]) -> None:
    """How time grows with the lists."""
    chance, first = np.random.default_rng(1), 0.0
    for times in (1, 2, 4, 10):
        groups = groups_for({kind: multiplied(one, times, chance) for kind, one in stocks.items()}, Weights())
        cold, _, looked, _ = timed(groups, motors(), 2)
        mean = exp(fmean(log(one) for one in cold))
        first = first or mean
        exponent = f", exponent {log(mean / first) / log(times):.2f}" if times > 1 else ""
        print(f"lists x {times}: mean {1000 * mean:.0f} ms{exponent}; looked at {median(looked):.0f} in the median")


def main() -> None:
    catalog, sizing = shipped_catalog(), Sizing(Duty(shock="moderate", hours_per_day=8))
    began = time.perf_counter()
    rows = Searcher(RowFile(cache_folder())).rows(catalog)
    print(f"{sum(map(len, rows))} rows, rated or read in {time.perf_counter() - began:.1f} s")
    began = time.perf_counter()
    stocks = stocks_for(rows, sizing, 1.5, catalog)
    groups = groups_for(stocks, Weights())
    print(f"made ready for a duty in {1000 * (time.perf_counter() - began):.0f} ms")
    each = one_by_one(stocks, Asked(low_rpm=14, ideal_rpm=17, high_rpm=20, torque_nm=261))
    machine = Machine(name="Bench", duty=sizing.duty, plans=(Plan(name="Plan"),))
    listed = motors_of(sources_for(machine.plans[0], Wish(motor=motor_groups(catalog)[0]), catalog), machine)
    for sources, what in ((motors(), "three motors"), (listed, f"any of {len(listed.id)} listed motors")):
        for stages, find, of in (
            (4, the_top, f"the best {TOP} of all"),
            *((stages, the_kinds, f"the best {KINDS} kinds") for stages in (2, 3, 4)),
        ):
            cold, again, looked, cut = timed(groups, sources, stages, find)
            again_of_cold = median(a / b for a, b in zip(again, cold, strict=True))
            print(
                f"{what}, up to {stages} stages, {of}: cold median {1000 * median(cold):.0f} ms, "
                f"worst {1000 * max(cold):.0f} ms; after a small change {again_of_cold:.2f} of that; looked at "
                f"{median(looked):.0f} rows in the median, {max(looked)} at most; {cut} of {len(NEEDS)} stopped"
            )
            took = each * trains(stocks, stages) * len(sources.id)
            print(f"every train by arrays: {1e9 * each:.1f} ns each, {took:.3g} s; x {took / median(cold):.3g}")
        print(f"peak memory {resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024:.0f} MB")
    growth(stocks)


if __name__ == "__main__":
    sys.exit(main())
