"""No violation that axe-core finds, on any view, light and dark, wide and narrow."""

from __future__ import annotations

import pytest
from axe_playwright_python.sync_playwright import Axe

from builders import build_machine
from pulltide.demo import demo_machines
from pulltide.store.machines import PostgresMachines

pytestmark = pytest.mark.browser
VIEWS = ("?at=need", "?at=duty", "?at=source", "?at=link-1&show=shaft-2/torque", "?at=link-2", "?plan=1&at=link-3")


@pytest.mark.parametrize("scheme", ["light", "dark"])
def test_no_violation(window, empty_shop, scheme: str):
    store = PostgresMachines(empty_shop)
    kept = [store.create(machine) for machine in (*demo_machines(), build_machine(duty={"shock": None}))]
    blank = store.create(build_machine().model_copy(update={"plans": (type(kept[0].machine.plans[0])(),)}))
    paths = [
        "/",
        "/methods",
        f"/machines/{blank.id}",
        f"/machines/{blank.id}?at=source",
        f"/machines/{kept[1].id}",
        f"/machines/{kept[3].id}",
    ]
    paths += [f"/machines/{kept[0].id}{view}" for view in VIEWS]
    page = window(color_scheme=scheme)
    for path in paths:
        page.goto(path)
        violations = Axe().run(page).response["violations"]
        assert not violations, (
            path,
            [(v["id"], v["nodes"][0]["html"][:160], v["nodes"][0].get("failureSummary", "")[:300]) for v in violations],
        )


def test_a_phone_needs_no_sideways_scrolling(window, empty_shop):
    kept = PostgresMachines(empty_shop).create(demo_machines()[0])
    page = window(is_mobile=True, has_touch=True)
    page.set_viewport_size({"width": 390, "height": 800})
    for path in ("/", f"/machines/{kept.id}?plan=1&at=link-1", f"/machines/{kept.id}?at=need"):
        page.goto(path)
        assert page.evaluate("document.documentElement.scrollWidth") <= 390, path
