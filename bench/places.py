"""How long each place of a machine takes to be drawn, for one, three and six stages: on loopback, by hand.

    .venv/bin/python bench/places.py

The baseline in the same run is a page that does nothing (/healthz). Median and 95th percentile of the whole answer, in
ms and times the baseline; remedies follow an answer by themselves and are given apart, on Train.
"""

from __future__ import annotations

import shutil
import sys
import time
from statistics import median
from urllib.request import Request, urlopen

from bench import DATA, keep, spread, start, stop
from pulltide.core.machine import Machine
from pulltide.demo import demo_machines
from pulltide.ops.cluster import Cluster, home_for

ROUNDS = 40
PLACES = ("need", "duty", "source", "train", "compare", "fit", "sheet")
FRAGMENT = {"X-Fragment": "1", "X-Remedies": "later"}


def machine_of(stages: int) -> Machine:
    """A conveyor with so many stages: belts and chains by turns, with two steps in the first belt."""
    lofthook = demo_machines()[0]
    belt, *_, chain = lofthook.plans[1].links
    links = tuple(belt.model_copy() if number % 2 == 0 else chain for number in range(stages))
    plan = lofthook.plans[1].model_copy(update={"links": links, "shafts": ()})
    return lofthook.model_copy(update={"plans": (plan,)})


def answers(address: str, headers: dict[str, str], rounds: int) -> list[float]:
    """Milliseconds of each answer; the first, which fills caches, is left out."""
    found = []
    for _ in range(rounds + 1):
        began = time.perf_counter()
        with urlopen(Request(address, headers=headers)) as answer:
            answer.read()
        found.append((time.perf_counter() - began) * 1000)
    return found[1:]


def main() -> None:
    shutil.rmtree(DATA, ignore_errors=True)
    process, address, _ = start()
    try:
        base = answers(f"{address}/healthz", {}, ROUNDS)
        print(f"{'bare answer (/healthz), the baseline':42} {spread(base)}")
        for stages in (1, 3, 6):
            machine = machine_of(stages)
            where = f"{address}/machines/{keep(address, machine)}"
            for place in PLACES:
                times = answers(f"{where}/{place}", FRAGMENT, ROUNDS)
                name = f"{place}, {stages} stage{'s' if stages > 1 else ''}"
                print(f"{name:42} {spread(times)}   {median(times) / median(base):6.1f} x")
            times = answers(f"{where}/train", {"X-Fragment": "1"}, 10)
            print(f"{f'train with remedies, {stages}':42} {spread(times)}   {median(times) / median(base):6.1f} x")
    finally:
        stop(process)
        Cluster(home_for(DATA, "pg")).destroy()
        shutil.rmtree(DATA, ignore_errors=True)


if __name__ == "__main__":
    sys.exit(main())
