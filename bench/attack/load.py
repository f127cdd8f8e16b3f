"""Many editors at once, a long soak, and a database or a disk that fails while the program runs."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import threading
import time
from pathlib import Path
from statistics import median, quantiles
from typing import Any
from urllib.error import HTTPError

from shop import GONE, Shop, memory_mb


def _edits(shop: Shop, machine: dict[str, Any], count: int, pause_s: float, times: list[float]) -> int:
    """Edit one machine; how many were saved. A change of somebody else is read and the edit made again."""
    address, version, saved = f"/api/v1/machines/{machine['id']}", machine["version"], 0
    while saved < count:
        named = {**machine["machine"], "note": f"{threading.get_ident()} {saved}"}
        began = time.monotonic()
        try:
            version = shop.call(address, "PUT", {"version": version, "machine": named})["version"]
            saved += 1
            times.append(time.monotonic() - began)
            time.sleep(pause_s)
        except HTTPError as error:
            if error.code != 409:
                raise
            version = shop.call(address)["version"]
    return saved


def editors(shop: Shop, people: int, edits: int) -> list[str]:
    """Half of the people on one machine, the others on their own, an edit a second each: no edit overwrites another."""
    shop.ready()
    shared = shop.call("/api/v1/machines", "POST", {"name": "Shared"})
    own = [shop.call("/api/v1/machines", "POST", {"name": f"Own {k}"}) for k in range(people - people // 2)]
    times: list[float] = []
    asked = [shared] * (people // 2) + own
    threads = [threading.Thread(target=_edits, args=(shop, machine, edits, 1.0, times)) for machine in asked]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    found = []
    for machine, expected in [(shared, people // 2 * edits), *((each, edits) for each in own)]:
        version = shop.call(f"/api/v1/machines/{machine['id']}")["version"]
        if version != 1 + expected:
            found.append(f"{machine['id']}: version {version} after {expected} acknowledged edits")
        shop.call(f"/api/v1/machines/{machine['id']}", "DELETE")
    p95 = quantiles(times, n=20)[-1]
    print(f"  {people} people, {len(times)} edits: median {1000 * median(times):.0f} ms, p95 {1000 * p95:.0f} ms")
    return found


#: A soak of fewer edits says nothing of how long they take.
LONG = 10_000


def soak(shop: Shop, edits: int) -> list[str]:
    """So many edits on end by two editors: memory and latency at the end against those after the first tenth."""
    shop.ready()
    machines = [shop.call("/api/v1/machines", "POST", {"name": f"Soak {k}"}) for k in range(2)]
    figures = []
    for part in range(10):
        times: list[float] = []
        machines = [shop.call(f"/api/v1/machines/{machine['id']}") for machine in machines]
        threads = [
            threading.Thread(target=_edits, args=(shop, machine, edits // 20, 0.0, times)) for machine in machines
        ]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        figures.append((median(times), memory_mb(shop.parts()["worker"])))
        print(f"  {(part + 1) * 10} %: median {1000 * figures[-1][0]:.1f} ms, {figures[-1][1]:.0f} MB", flush=True)
    (first_s, first_mb), (last_s, last_mb) = figures[0], figures[-1]
    found = [] if last_mb < 1.3 * first_mb + 20 else [f"memory grew from {first_mb:.0f} to {last_mb:.0f} MB"]
    slower = last_s > 2 * first_s and edits >= LONG
    return found + ([f"an edit took {1000 * first_s:.1f}, then {1000 * last_s:.1f} ms"] if slower else [])


def database(shop: Shop) -> list[str]:
    """Hung, stopped and killed: pages say so in time, and go on by themselves when it is back."""
    shop.ready()
    found = []
    postmaster = shop.parts()["postmaster"]
    struck = postmaster + shop.parts()["backend"]
    for pid in struck:
        os.kill(pid, signal.SIGSTOP)
    began = time.monotonic()
    try:
        status = shop.status("/", 60)
    finally:
        for pid in struck:
            os.kill(pid, signal.SIGCONT)
    print(f"  hung: {status} after {time.monotonic() - began:.1f} s")
    if status != 503:
        found.append(f"hung database: {status}")
    print(f"  goes on: ready after {shop.ready():.2f} s")
    for name, number in (("stopped", signal.SIGINT), ("killed", signal.SIGKILL)):
        for pid in shop.parts()["postmaster"]:
            os.kill(pid, number)
        time.sleep(0.05)
        print(f"  {name}: ready after {shop.ready():.2f} s")
    return found


def disk(shop: Shop) -> list[str]:
    """A disk that is full, then read-only, then well again. Needs the right to mount; skipped without it."""
    shop.folder.mkdir(parents=True, exist_ok=True)
    small = ["mount", "-t", "tmpfs", "-o", "size=220m,mode=711", "tmpfs", str(shop.folder)]
    if subprocess.run(small, capture_output=True, check=False).returncode != 0:
        print("  skipped: this account may not mount a small disk")
        return []
    try:
        return _full_then_read_only(shop)
    finally:
        shop.stop()
        subprocess.run(["umount", "-l", str(shop.folder)], check=False)


def _full_then_read_only(shop: Shop) -> list[str]:
    shop.ready()
    machine = shop.call("/api/v1/machines", "POST", {"name": "Disk"})
    ballast, answers = Path(shop.folder) / "ballast", set()
    try:
        with ballast.open("wb", buffering=0) as file:
            while True:
                file.write(b"0" * 1_000_000)
    except OSError:
        pass
    for number in range(200):
        named = {**machine["machine"], "note": f"{number} " + "x" * 1000}
        try:
            machine["version"] = shop.call(
                f"/api/v1/machines/{machine['id']}", "PUT", {"version": machine["version"], "machine": named}
            )["version"]
            answers.add(200)
        except HTTPError as error:
            answers.add(error.code)
        except GONE:
            answers.add(0)
    print(f"  full: edits answered {sorted(answers)}, pages {shop.status('/')}")
    found = [f"full disk: {answer}" for answer in answers - {200, 503, 409}]
    ballast.unlink()
    print(f"  room again: ready after {shop.ready():.2f} s")
    version = shop.call(f"/api/v1/machines/{machine['id']}")["version"]
    found += [] if version >= machine["version"] else [f"full disk lost version {machine['version']}: {version}"]
    return found + _read_only(shop)


def _read_only(shop: Shop) -> list[str]:
    """A disk that became read-only while nothing ran: refused in a sentence, and well again afterwards."""
    shop.stop()
    remount = ["mount", "-o", "remount,{}", str(shop.folder)]
    subprocess.run([part.format("ro") for part in remount], check=True)
    command = [sys.executable, "-m", "pulltide.ops.start", "--data", str(shop.folder), "--port", str(shop.port)]
    refused = subprocess.run(command, capture_output=True, text=True, check=False)
    print(f"  read-only: {refused.stderr.strip()}")
    subprocess.run([part.format("rw") for part in remount], check=True)
    print(f"  writable again: ready after {shop.ready():.2f} s")
    told = refused.returncode == 1 and "cannot be written" in refused.stderr and "Traceback" not in refused.stderr
    return [] if told else [f"read-only: {refused.stderr[-300:]}"]
