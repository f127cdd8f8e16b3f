"""Measures what users wait for, in one run: edit to redraw in the browser, solving a line, starting.

    .venv/bin/python bench/bench.py

Baselines in the same run: the bare round trip of a page that does nothing (/healthz), and the speed and torque
arithmetic of the same line written straight down. Times vary with the machine; the ratios are what to compare.
"""

from __future__ import annotations

import json
import shutil
import signal
import subprocess
import sys
import time
from pathlib import Path
from statistics import median, quantiles
from urllib.request import Request, urlopen

from playwright.sync_api import sync_playwright

from pulltide.core.line import solve_line, solve_plan
from pulltide.core.links import family_of
from pulltide.core.machine import Machine
from pulltide.core.remedies import with_remedies
from pulltide.core.shipped import shipped_catalog
from pulltide.demo import demo_machines
from pulltide.ops.cluster import Cluster, free_port, home_for

PROJECT = Path(__file__).resolve().parents[1]
DATA = PROJECT / ".run" / "bench"
FLAGS = ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking"]
EDITS = 50

MEASURE = """
async ([selector, values, whole]) => {
  const times = [];
  const root = document.getElementById("train");
  for (const value of values) {
    const input = document.querySelector(selector);
    const drawn = new Promise((done) => {
      const watch = new MutationObserver(() => { watch.disconnect(); done(); });
      watch.observe(root, { attributes: true, attributeFilter: ["data-drawn"] });
    });
    const start = performance.now();
    input.value = value;
    input.dispatchEvent(new Event("change", { bubbles: true }));
    await drawn;
    const later = () => whole && root.querySelector("[data-later]");
    do await new Promise((done) => requestAnimationFrame(done)); while (later());
    times.push(performance.now() - start);
    await new Promise((done) => setTimeout(done, 50));
  }
  return times;
}
"""
ROUND_TRIP = """
async (count) => {
  const times = [];
  for (let number = 0; number < count; number += 1) {
    const start = performance.now();
    await (await fetch("/healthz")).text();
    await new Promise((done) => requestAnimationFrame(done));
    times.push(performance.now() - start);
  }
  return times;
}
"""


def spread(times: list[float]) -> str:
    return f"median {median(times):7.2f} ms   p95 {quantiles(times, n=20)[-1]:7.2f} ms"


def start() -> tuple[subprocess.Popen[bytes], str, float]:
    port = free_port(18_900)
    began = time.perf_counter()
    command = [str(PROJECT / "script" / "start"), "--data", str(DATA), "--port", str(port)]
    process = subprocess.Popen(command, stdout=subprocess.PIPE)
    while b"runs at" not in process.stdout.readline():
        pass
    return process, f"http://127.0.0.1:{port}", time.perf_counter() - began


def stop(process: subprocess.Popen[bytes]) -> None:
    process.send_signal(signal.SIGINT)
    process.wait(30)


def bench_start() -> tuple[subprocess.Popen[bytes], str]:
    process, _, cold = start()
    stop(process)
    process, address, warm = start()
    print(f"start, new data folder (makes the cluster, demo)  {cold:6.2f} s")
    print(f"start again, data kept                            {warm:6.2f} s")
    return process, address


def four_links() -> Machine:
    machine = demo_machines()[0]
    plan = machine.plans[1]
    return machine.model_copy(update={"plans": (plan.model_copy(update={"links": (*plan.links, plan.links[-1])}),)})


def keep(address: str, machine: Machine) -> str:
    body = json.dumps(machine.model_dump(mode="json")).encode()
    request = Request(f"{address}/api/v1/machines", body, {"content-type": "application/json"})
    with urlopen(request) as answer:
        return str(json.load(answer)["id"])


def bench_edits(address: str) -> None:
    lofthook, marlpit, _, bellwether, windrow, _ = demo_machines()
    step, pulleys = ".steps input", [f"{98 + number % 5} mm" for number in range(EDITS + 5)]
    sizes = [f"{900 + number % 7} mm" for number in range(EDITS + 5)]
    loads = [f"{11 + number % 7 / 10} kg" for number in range(EDITS + 5)]
    powers = [f"{2.2 + number % 7 / 100} kW" for number in range(EDITS + 5)]
    shares = [f"{1 + number % 7 / 10}" for number in range(EDITS + 5)]
    cases = (
        ("clear plan, 2 links", lofthook, "?at=link-1", step, pulleys),
        ("plan with findings", marlpit, "?at=link-1", step, pulleys),
        ("3 links, 3 steps", lofthook, "?plan=1&at=link-1", step, pulleys),
        ("worksheet of a drum", windrow, "?at=need", "#f-need-worksheet-inside_diameter_mm", sizes),
        ("worksheet, two plans", lofthook, "?at=need", "#f-need-worksheet-piece_mass_kg", loads),
        ("duty", windrow, "?at=duty", "#f-duty-flat_factor", shares),
        ("source, neighbors solved", bellwether, "?at=source", "#f-plans-0-source-power_kw", powers),
    )
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800}, bypass_csp=True)
        page.goto(address)
        base = page.evaluate(ROUND_TRIP, EDITS)
        print(f"bare round trip (/healthz), the baseline   {spread(base)}")
        for name, machine, query, selector, values in cases:
            page.goto(f"{address}/machines/{keep(address, machine)}{query}")
            field = page.locator(selector).first
            rounds = [("redraw", False)]
            if page.locator(".finding-fix, .finding-weigh").count():
                rounds.append(("remedies", True))
            for until, whole in rounds:
                times = page.evaluate(MEASURE, [f"#{field.get_attribute('id')}", values, whole])[5:]
                print(f"edit to {until}, {name:36} {spread(times)}   {median(times) / median(base):5.1f} x baseline")
        browser.close()


def straight_down() -> float:
    """Speed and torque of a belt, worm and two chains, written straight down."""
    speed, torque = 1410.0, 24.02
    ratios, efficiencies = (103 / 90, 10.0, 27 / 17, 27 / 17), (0.89, 0.80, 0.97, 0.97)
    for ratio in ratios:
        speed /= ratio
    for ratio, efficiency in zip(reversed(ratios), reversed(efficiencies), strict=True):
        torque /= ratio * efficiency
    return torque * speed


def timed(work, times: int) -> list[float]:
    found = []
    for _ in range(times):
        began = time.perf_counter()
        work()
        found.append((time.perf_counter() - began) * 1000)
    return found


def heaviest_links() -> Machine:
    """A belt round an idler that is the fuse, a planetary set, a worm, gears with two idlers: the most work."""
    belt = {
        "kind": "v_belt",
        "section": "A",
        "measured_as": "outside",
        "steps": [{"driver_diameter_mm": 86.4, "driven_diameter_mm": 203.2}],
        "belt": "A75",
        "idler": "slack_strand_outside",
        "idler_diameter_mm": 130.0,
        "idler_push_mm": 40.0,
        "slips_first": True,
        "static_tension_n": 100.0,
    }
    rest = [
        family_of(kind).starter(shipped_catalog()).model_dump(mode="json")
        for kind in ("planetary", "worm_set", "gear_pair")
    ]
    document = four_links().model_dump(mode="json")
    document["plans"][0]["links"] = [belt, *rest[:2], {**rest[2], "idlers": 2, "idler_teeth": 25}]
    return Machine.model_validate(document)


def bench_solving() -> None:
    machine = four_links()
    plan = machine.plans[0]
    base = timed(lambda: [straight_down() for _ in range(100)], 300)
    one = timed(lambda: solve_line(machine, plan), 300)
    whole = timed(lambda: solve_plan(machine, plan), 100)
    heavy = heaviest_links()
    heaviest = timed(lambda: solve_line(heavy, heavy.plans[0]), 300)
    marlpit = demo_machines()[1]
    result = solve_plan(marlpit, marlpit.plans[0])
    remedies = timed(lambda: with_remedies(marlpit, marlpit.plans[0], result), 30)
    print(
        f"solve_line, 4 links, all checks            {spread(one)}   {median(one) / median(base) * 100:5.0f} x "
        "the bare arithmetic"
    )
    times = median(heaviest) / median(base) * 100
    print(f"solve_line, the 4 heaviest links           {spread(heaviest)}   {times:5.0f} x")
    print(f"solve_plan, 4 links, 3 steps               {spread(whole)}")
    print(f"remedies tried for a plan with 3 findings  {spread(remedies)}")


def main() -> None:
    shutil.rmtree(DATA, ignore_errors=True)
    bench_solving()
    process, address = bench_start()
    try:
        bench_edits(address)
    finally:
        stop(process)
        Cluster(home_for(DATA, "pg")).destroy()
        shutil.rmtree(DATA, ignore_errors=True)


if __name__ == "__main__":
    sys.exit(main())
