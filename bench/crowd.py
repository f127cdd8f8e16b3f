"""How long reading waits while many heavy pages are asked for at once, beside an idle server. On loopback, by hand.

    .venv/bin/python bench/crowd.py [ADDRESS]

The baseline is the same list of machines asked for on the idle server, in the same run.
"""

from __future__ import annotations

import json
import sys
import threading
import time
from statistics import median, quantiles
from urllib.request import Request, urlopen

#: Pages of eight links at once, and how often the list is read meanwhile.
PAGES, READS = 44, 60
HEAVY = {
    "name": "Eight links, for the bench",
    "need": {"speed_ideal_rpm": 5.0, "running_torque_nm": 50.0, "peak_torque_nm": 80.0},
    "plans": [
        {
            "name": "Plan",
            "source": {"kind": "induction", "power_kw": 1.1, "speed_rpm": 1740.0},
            "links": [
                {
                    "kind": "v_belt",
                    "section": "A",
                    "measured_as": "outside",
                    "belt": "A51",
                    "steps": [
                        {"driver_diameter_mm": 80.0 + 2 * k, "driven_diameter_mm": 200.0 - 2 * k} for k in range(6)
                    ],
                }
            ]
            * 8,
        }
    ],
}


def timed(address: str) -> float:
    start = time.perf_counter()
    with urlopen(address, timeout=120) as answer:
        answer.read()
    return time.perf_counter() - start


def told(name: str, times: list[float], base: float) -> None:
    p95 = quantiles(times, n=20)[-1]
    print(f"{name}: median {1000 * median(times):.0f} ms, p95 {1000 * p95:.0f} ms; {median(times) / base:.1f} x idle")


def main() -> None:
    server = (sys.argv[1] if len(sys.argv) > 1 else "http://127.0.0.1:8420").rstrip("/")
    body = json.dumps(HEAVY).encode()
    made = urlopen(Request(f"{server}/api/v1/machines", body, {"content-type": "application/json"}, method="POST"))
    machine = json.load(made)["id"]
    reading = f"{server}/api/v1/machines"
    try:
        one = timed(f"{server}/machines/{machine}/train")
        idle = [timed(reading) for _ in range(READS)]
        base = median(idle)
        print(f"one page of eight links {1000 * one:.0f} ms")
        told("list of machines, idle", idle, base)
        pages = [threading.Thread(target=timed, args=(f"{server}/machines/{machine}/train",)) for _ in range(PAGES)]
        for page in pages:
            page.start()
        time.sleep(0.2)
        busy = []
        while any(page.is_alive() for page in pages) and len(busy) < READS:
            busy.append(timed(reading))
        told(f"list of machines beside {PAGES} such pages", busy, base)
        for page in pages:
            page.join()
    finally:
        urlopen(Request(f"{server}/api/v1/machines/{machine}", method="DELETE"))


if __name__ == "__main__":
    main()
