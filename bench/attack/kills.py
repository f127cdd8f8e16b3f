"""Kill -9 at any moment, at any part, while edits are saved: what was acknowledged is there, and it starts again."""

from __future__ import annotations

import random
import threading
import time
from collections import defaultdict
from statistics import median
from typing import Any

from shop import GONE, Shop, kill

TARGETS = ("starter", "web parent", "worker", "backend", "postmaster", "restart", "first start")


class Editor:
    """Saves one machine again and again, and notes every version that was acknowledged."""

    def __init__(self, shop: Shop) -> None:
        made = self._made(shop)
        self.shop, self.machine, self.saved, self.over = shop, made, made["version"], False
        self.edits = 0
        # of no consequence to the end of the program: what goes wrong meanwhile is said, and not waited on
        self.thread = threading.Thread(target=self._edit, daemon=True)
        self.thread.start()

    @staticmethod
    def _made(shop: Shop) -> dict[str, Any]:
        while True:
            try:
                return shop.call("/api/v1/machines", "POST", {"name": "Edit 0"})
            except GONE:
                time.sleep(0.1)

    def _edit(self) -> None:
        address = f"/api/v1/machines/{self.machine['id']}"
        while not self.over:
            named = {**self.machine["machine"], "name": f"Edit {self.saved}"}
            try:
                self.saved = self.shop.call(address, "PUT", {"version": self.saved, "machine": named})["version"]
                self.edits += 1
            except GONE:
                time.sleep(0.02)
                self._look()

    def _look(self) -> None:
        """A save whose answer was lost may stand or not; either way the version tells."""
        try:
            self.saved = max(self.saved, self.shop.call(f"/api/v1/machines/{self.machine['id']}")["version"])
        except GONE:
            return

    def faults(self) -> list[str]:
        """What is wrong with the machine as it is now."""
        now = self.shop.sure(f"/api/v1/machines/{self.machine['id']}")
        found = []
        if now["version"] < self.saved:
            found.append(f"lost: version {now['version']} after {self.saved} was acknowledged")
        if now["machine"]["name"] != f"Edit {now['version'] - 1}":
            found.append(f"half: {now['machine']['name']} at version {now['version']}")
        return found

    def stop(self) -> None:
        self.over = True
        self.thread.join(60)


def attack(shop: Shop, rounds: int, seed: int) -> list[str]:
    """Run; gives what went wrong and prints what it measured."""
    chance, found = random.Random(seed), []
    times: dict[str, list[float]] = defaultdict(list)
    edits = 0
    shop.ready()
    for number in range(rounds):
        target = TARGETS[number % len(TARGETS)]
        shop.ready()
        editor = Editor(shop)
        time.sleep(chance.uniform(0.05, 0.4))
        times[target].append(_first_start(shop, chance) if target == "first start" else _strike(shop, target, chance))
        editor.stop()
        found += [f"round {number}, {target}: {fault}" for fault in editor.faults()]
        edits += editor.edits
        shop.sure(f"/api/v1/machines/{editor.machine['id']}", "DELETE")
        if (number + 1) % 100 == 0:
            print(f"  {number + 1} rounds, {edits} acknowledged edits, {len(found)} faults", flush=True)
    for target, taken in times.items():
        print(f"  {target}: {len(taken)} kills, ready again after {median(taken):.2f} s, at most {max(taken):.2f} s")
    print(f"  {edits} acknowledged edits in {rounds} rounds; {len(found)} faults")
    return found


def _strike(shop: Shop, target: str, chance: random.Random) -> float:
    parts: dict[str, Any] = shop.parts()
    if target == "restart":
        kill(parts["starter"])
        shop.process.wait(10)
        shop.start()
        time.sleep(chance.uniform(0.1, 2.0))
        kill([shop.process.pid])
        shop.process.wait(10)
    else:
        struck = parts[target]
        kill([chance.choice(struck)] if struck else [])
    if target in ("starter", "web parent"):
        shop.process.wait(30)
    return shop.ready()


def _first_start(shop: Shop, chance: random.Random) -> float:
    """A shop of its own, killed while it is made."""
    other = Shop(shop.folder.with_name(shop.folder.name + "-first"), shop.port + 50, workers=1)
    try:
        other.start()
        time.sleep(chance.uniform(0.2, 3.0))
        kill([other.process.pid])
        other.process.wait(10)
        return other.ready()
    finally:
        other.delete()
