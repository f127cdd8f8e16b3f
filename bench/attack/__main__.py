"""Attack the program on loopback, by hand, in a shop of its own that is deleted afterwards.

    .venv/bin/python bench/attack [kills|fuzz|imports|editors|soak|database|disk]... [--size 0.01]

``--size 1`` is the full attack: 1,000 kills, 100,000 fuzzed calls, 10,000 hostile files, 50 editors, 200,000 edits.
"""

from __future__ import annotations

import argparse
import signal
import sys
import tempfile
from collections.abc import Callable
from pathlib import Path

import calls
import kills
import load
from shop import Shop


def slow(size: float) -> float:
    """What counts as slow: in a short attack, beside whatever else runs, nothing."""
    return calls.SLOW_SECONDS if size >= FULL else float("inf")


FULL = 0.05
#: Attacks that leave a shop as good as it was: in a short run one shop does for those that follow each other.
GENTLE = frozenset(("fuzz", "imports", "editors", "soak"))
ATTACKS: dict[str, Callable[[Shop, float, int], list[str]]] = {
    "kills": lambda shop, size, seed: kills.attack(shop, round(1_000 * size), seed),
    "fuzz": lambda shop, size, seed: calls.attack(shop, round(100_000 * size), seed, slow_s=slow(size)),
    "imports": lambda shop, size, seed: calls.attack(
        shop, round(10_000 * size), seed, hostile_files=True, slow_s=slow(size)
    ),
    "editors": lambda shop, size, _: load.editors(shop, 50, max(2, round(60 * size))),
    "soak": lambda shop, size, _: load.soak(shop, round(200_000 * size)),
    "database": lambda shop, *_: load.database(shop),
    "disk": lambda shop, *_: load.disk(shop),
}


def ended(*_: object) -> None:
    """Told to stop from outside: the shop is deleted on the way out."""
    raise KeyboardInterrupt


def main() -> int:
    signal.signal(signal.SIGTERM, ended)
    parser = argparse.ArgumentParser(prog="bench/attack", description="Attack the program on loopback.")
    parser.add_argument("attacks", nargs="*", default=list(ATTACKS), help=", ".join(ATTACKS))
    parser.add_argument("--size", type=float, default=0.01, help="share of the full attack (0.01)")
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--callers", type=int, default=2, help="clients of a fuzz at a time (2)")
    parser.add_argument("--port", type=int, default=19_300)
    options = parser.parse_args()
    if options.callers != 2:
        ATTACKS["fuzz"] = lambda shop, size, seed: calls.attack(
            shop, round(100_000 * size), seed, slow_s=slow(size), callers=options.callers
        )
    unknown = set(options.attacks) - set(ATTACKS)
    if unknown:
        parser.error(f"{', '.join(sorted(unknown))}: there are {', '.join(ATTACKS)}")
    found: list[str] = []
    with tempfile.TemporaryDirectory(prefix="attack-") as folder:
        Path(folder).chmod(0o711)
        shop: Shop | None = None
        try:
            for name in options.attacks:
                print(f"{name}:", flush=True)
                if shop is not None and not (name in GENTLE and options.size < FULL):
                    shop.delete()
                    shop = None
                shop = shop or Shop(Path(folder) / name, options.port)
                faults = ATTACKS[name](shop, options.size, options.seed)
                for fault in faults[:20]:
                    print(f"  FAULT {fault}", flush=True)
                found += faults
        finally:
            if shop is not None:
                shop.delete()
    print(f"{len(found)} faults")
    return 1 if found else 0


if __name__ == "__main__":
    sys.exit(main())
