"""No violation that axe-core finds, on any view, light and dark, wide and narrow."""

from __future__ import annotations

import pytest
from axe_playwright_python.sync_playwright import Axe

from builders import SHIPPED, build_machine
from pulltide.core.links import family_of
from pulltide.core.machine import Machine
from pulltide.core.shafts import ShaftPart
from pulltide.demo import demo_machines, demo_shelf
from pulltide.services.stock import SHELF
from pulltide.store.machines import PostgresMachines
from pulltide.store.stock import PostgresStock

pytestmark = pytest.mark.browser
VIEWS = ("?at=need", "?at=duty", "?at=source", "?at=link-1&show=shaft-2/torque", "?at=link-2", "?plan=1&at=link-3")


#: In the dark only colors differ; formulas have those of the text around them.
DARK = {"runOnly": {"type": "rule", "values": ["color-contrast"]}}
BUT_FORMULAS = {"exclude": [["math"]]}


def violations_of(page) -> list[dict]:
    """What axe-core finds on a page as it is, and in the dark."""
    found = []
    for scheme, rules, where in (("light", {}, None), ("dark", DARK, BUT_FORMULAS)):
        # without motion: no color is on its way from one to the other
        page.emulate_media(color_scheme=scheme, reduced_motion="reduce")
        found += Axe().run(page, where, options={"resultTypes": ["violations"], **rules}).response["violations"]
    page.emulate_media(color_scheme="light")
    return found


@pytest.mark.parametrize("part", range(3))
def test_no_violation(window, empty_shop, part: int):
    store = PostgresMachines(empty_shop)
    kept = [store.create(machine) for machine in (*demo_machines(), build_machine(duty={"shock": None}))]
    blank = store.create(build_machine().model_copy(update={"plans": (type(kept[0].machine.plans[0])(),)}))
    paths = [
        "/",
        "/methods",
        "/new",
        "/stock",
        "/stock?list=empty",
        f"/machines/{blank.id}",
        f"/machines/{blank.id}?at=source",
        f"/machines/{kept[1].id}",
        f"/machines/{kept[3].id}",
    ]
    paths += [f"/machines/{kept[0].id}{view}" for view in VIEWS]
    paths += [f"/machines/{kept[0].id}/ways?wish=stages:1", f"/machines/{kept[0].id}/compare"]
    paths += [
        f"/machines/{kept[4].id}/fit?at=shaft-4",
        f"/machines/{kept[4].id}/fit?at=shaft-2",
        f"/machines/{kept[4].id}/sheet",
        f"/machines/{kept[4].id}/sheet?at=3-driver",
        f"/machines/{kept[3].id}/runup",
        f"/machines/{kept[4].id}/log",
        "/practice?level=2&hints=1",
        f"/machines/{kept[5].id}/source?pick=motors",
        f"/machines/{kept[5].id}/need",
    ]
    stock = PostgresStock(empty_shop)
    stock.put(SHELF, demo_shelf())
    page = window()
    for path in paths[part::3]:
        page.goto(path)
        violations = violations_of(page)
        assert not violations, (
            path,
            [(v["id"], v["nodes"][0]["html"][:160], v["nodes"][0].get("failureSummary", "")[:300]) for v in violations],
        )


def rig() -> Machine:
    """A line of the newer links, with a described shaft and a drum at its end."""
    links = [family_of(kind).starter(SHIPPED).model_dump(mode="json") for kind in ("planetary", "worm_set", "coupling")]
    machine = build_machine(links=links, need={"end": {"kind": "drum"}})
    part = ShaftPart(shaft=2, diameter_mm=25.0, steel="steel_1045", key_width_mm=8.0, key_length_mm=30.0)
    return machine.model_copy(update={"plans": (machine.plans[0].model_copy(update={"shafts": (part,)}),)})


def test_no_violation_on_shafts_ends_and_newer_links(window, empty_shop):
    kept = PostgresMachines(empty_shop).create(rig())
    page = window()
    for query in ("?at=need", "?at=link-1", "?at=link-2&show=link-2/wear", "?at=link-3", "?at=shaft-2", "?at=shaft-3"):
        page.goto(f"/machines/{kept.id}{query}")
        violations = violations_of(page)
        assert not violations, (query, [(v["id"], v["nodes"][0]["html"][:160]) for v in violations])
        slider = page.get_by_label("Increase the load")
        if slider.count():
            slider.focus()
            slider.press("End")
            assert not violations_of(page), f"{query}, load turned up"


def test_newer_links_fit_a_phone_and_print_without_being_cut(window, empty_shop):
    kept = PostgresMachines(empty_shop).create(rig())
    page = window(is_mobile=True, has_touch=True)
    page.set_viewport_size({"width": 390, "height": 800})
    for query in ("?at=need", "?at=link-1", "?at=shaft-2"):
        page.goto(f"/machines/{kept.id}{query}")
        assert page.evaluate("document.documentElement.scrollWidth") <= 390, query
    page.set_viewport_size({"width": 720, "height": 1000})
    page.emulate_media(media="print")
    assert page.evaluate("document.documentElement.scrollWidth") <= 720
    page.goto(f"/machines/{kept.id}")
    assert page.locator(".end-says").is_visible()
    assert not page.locator(".presses").first.is_visible()


def test_a_phone_needs_no_sideways_scrolling(window, empty_shop):
    kept = PostgresMachines(empty_shop).create(demo_machines()[0])
    page = window(is_mobile=True, has_touch=True)
    page.set_viewport_size({"width": 390, "height": 800})
    places = (
        f"/machines/{kept.id}/{place}" for place in ("runup", "sheet?at=1-driver", "source?pick=motors", "fit", "log")
    )
    for path in ("/", f"/machines/{kept.id}?plan=1&at=link-1", f"/machines/{kept.id}?at=need", *places):
        page.goto(path)
        assert page.evaluate("document.documentElement.scrollWidth") <= 390, path


#: What a finger is aimed at, and the least it may be high [px]; a link within a sentence is no such thing.
AIMED_AT = "button, .btn, .pill, a.step, .form-control, .form-select, summary, .remedy, .quiet"
FINGER, NO_ZOOM = 44, 16
TOO_SMALL = """([selector, least]) => [...document.querySelectorAll(selector)]
  .filter((one) => one.checkVisibility() && one.type !== "hidden" && one.getClientRects().length)
  .filter((one) => one.getBoundingClientRect().height < least - 0.5)
  .map((one) => `${one.outerHTML.slice(0, 90)} ${one.getBoundingClientRect().height}`)"""
SMALL_TEXT = """(least) => [...document.querySelectorAll("input, select, textarea")]
  .filter((one) => one.checkVisibility() && one.type !== "hidden")
  .filter((one) => !["range", "file"].includes(one.type) && parseFloat(getComputedStyle(one).fontSize) < least)
  .map((one) => one.outerHTML.slice(0, 90))"""


def test_a_phone_is_fit_for_fingers(window, empty_shop):
    """Every view at 390 px: no violation, no sideways scrolling, targets a finger hits, inputs that are not zoomed."""
    kept = PostgresMachines(empty_shop).create(demo_machines()[0])
    page = window(is_mobile=True, has_touch=True)
    page.set_viewport_size({"width": 390, "height": 844})
    views = ("need", "duty", "source", "train", "train?plan=1&at=link-1", "train?plan=1&at=link-2&pick=designation")
    for path in ("/", "/keeping", *(f"/machines/{kept.id}/{view}" for view in views)):
        page.goto(path)
        assert page.evaluate("document.documentElement.scrollWidth") <= 390, path
        assert page.evaluate(TOO_SMALL, [AIMED_AT, FINGER]) == [], path
        assert page.evaluate(SMALL_TEXT, NO_ZOOM) == [], path
        violations = violations_of(page)
        assert not violations, (path, [(v["id"], v["nodes"][0]["html"][:160]) for v in violations])
