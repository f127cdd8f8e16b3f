"""Measures runs in time: what a second of machine time takes, for every demo plan and every case.

    .venv/bin/python bench/running.py

Baseline in the same run: the acceleration of one rigid drive worked out as often, with nothing round it.
"""

from __future__ import annotations

import time
from statistics import median

from pulltide.core.line import solve_plan
from pulltide.core.run_up.cases import CASES, run_up
from pulltide.core.run_up.control import Conditions
from pulltide.core.run_up.drive_train import DriveTrain, drive_train
from pulltide.demo import demo_machines

ROUNDS, BARE = 3, 2000


def trains() -> list[DriveTrain]:
    """Every demo plan that can be run."""
    found = []
    for machine in demo_machines():
        for plan in machine.plans:
            line = solve_plan(machine, plan)
            if line is not None and plan.links:
                found.append(drive_train(machine, plan, line.chosen))
    return found


def taken_ms(train: DriveTrain, conditions: Conditions) -> tuple[float, float]:
    """Time to work a run out, the best of some, and that over the machine time in it [ms, ms/s]."""
    best, seconds = float("inf"), 1.0
    for _ in range(ROUNDS):
        began = time.perf_counter()
        run = run_up(train, conditions)
        best, seconds = min(best, time.perf_counter() - began), max(run.time_s[-1], 1e-9)
    return 1000 * best, 1000 * best / seconds


def bare_us(train: DriveTrain) -> float:
    """Time of one acceleration [µs]."""
    began = time.perf_counter()
    for step in range(BARE):
        train.whole.motion(10.0, 5.0, 0.1 * step)
    return 1e6 * (time.perf_counter() - began) / BARE


def main() -> None:
    """Print the table."""
    made = trains()
    print(f"baseline, one acceleration: {median(map(bare_us, made)):.1f} µs")
    print(f"{'case':<12} {'run, ms':>9} {'worst':>7} {'a second of machine time, ms':>30} {'worst':>7}")
    for case in CASES:
        whole, second = zip(*(taken_ms(train, Conditions(then=case)) for train in made), strict=True)
        print(f"{case:<12} {median(whole):>9.0f} {max(whole):>7.0f} {median(second):>30.1f} {max(second):>7.1f}")


if __name__ == "__main__":
    main()
