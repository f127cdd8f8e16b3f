"""At the bench: large targets, sheet and log first, a screen that stays on while a checklist is open."""

from __future__ import annotations

import pytest
from playwright.sync_api import Page, expect

from browser.test_places import demo, keep, settled

pytestmark = pytest.mark.browser

#: Stands in for the device: counts what is asked of it, with its own event when it is let go.
WAKE = """
window.awake = [];
Object.defineProperty(navigator, "wakeLock", { value: { request: async (kind) => {
  window.awake.push(kind);
  return { addEventListener() {}, release: async () => { window.awake.push("released"); } };
} } });
"""


def to_bench(page: Page) -> None:
    page.get_by_label("Units and theme").click()
    page.get_by_label("At the bench").select_option("yes")
    page.get_by_role("button", name="Use these").click()


@pytest.mark.parametrize("width", [1024, 390])
def test_at_the_bench_targets_are_large_and_the_sheet_is_first(window, empty_shop, width: int):
    machine = keep(empty_shop, demo("Marlpit"))
    page = window("/", viewport={"width": width, "height": 844})
    to_bench(page)
    page.goto(machine)
    expect(page).to_have_url(f"{page.url.split('/machines')[0]}{machine}/sheet")
    assert page.locator(".rail > a b").all_inner_texts()[:2] == ["Build sheet", "Run log"]
    small = page.evaluate(
        """[...document.querySelectorAll(".btn, .pill, .form-control, .form-select")]
           .filter((one) => one.offsetParent && one.getBoundingClientRect().height < 44).map((one) => one.outerHTML)"""
    )
    assert small == []
    assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth + 1")


def test_the_screen_stays_on_while_a_checklist_is_open(window, empty_shop):
    machine = keep(empty_shop, demo("Marlpit"))
    page = window("/")
    page.add_init_script(WAKE)
    page.goto(f"{machine}/sheet")
    assert page.evaluate("window.awake") == [], "only at the bench"
    to_bench(page)
    page.goto(f"{machine}/sheet")
    page.wait_for_function("window.awake.length === 1")
    assert page.evaluate("window.awake") == ["screen"]
    page.locator(".rail > a", has_text="Duty").click()
    settled(page)
    page.wait_for_function("window.awake.length === 2")
    assert page.evaluate("window.awake") == ["screen", "released"]


def test_an_entry_made_without_a_network_is_sent_when_it_is_back(window, empty_shop):
    page = window(keep(empty_shop, demo("Marlpit")) + "/duty")
    page.context.set_offline(True)
    for label, text in (("Hours a day", "7"), ("Starts an hour", "3")):
        page.get_by_label(label).fill(text)
        page.keyboard.press("Tab")
    expect(page.locator("#saved")).to_contain_text("still trying; your entry is kept", timeout=15_000)
    page.context.set_offline(False)
    settled(page)
    expect(page.locator("#saved")).to_contain_text("Saved", timeout=15_000)
    page.reload()
    expect(page.get_by_label("Hours a day")).to_have_value("7 h")
    expect(page.get_by_label("Starts an hour")).to_have_value("3")


def angles(page: Page) -> list[float]:
    return page.evaluate(
        """[...document.querySelectorAll("[data-turns] .axle")].map((one) => {
             const found = /rotate\\(([-\\d.e]+)/.exec(one.getAttribute("transform") || "rotate(0");
             return Number(found[1]);
           })"""
    )


def test_shafts_turn_at_their_true_speeds_beside_each_other(window, empty_shop):
    page = window(keep(empty_shop, demo("Marlpit")) + "/runup")
    assert set(angles(page)) == {0.0}
    page.get_by_role("button", name="Let it turn").click()
    page.wait_for_function("document.querySelector('[data-turns] .axle').getAttribute('transform')")
    page.wait_for_timeout(500)
    page.get_by_role("button", name="Stop").click()
    page.wait_for_timeout(200)
    at, speeds = angles(page), page.evaluate("JSON.parse(document.querySelector('[data-turns]').dataset.turns)")
    assert len(at) == len(speeds) > 2
    assert at == pytest.approx([at[0] * speed / speeds[0] for speed in speeds], rel=1e-3)
    page.wait_for_timeout(300)
    assert angles(page) == at, "it stands"


def test_nothing_turns_for_whoever_has_asked_for_less_motion(window, empty_shop):
    page = window(keep(empty_shop, demo("Marlpit")) + "/runup", reduced_motion="reduce")
    expect(page.locator("[data-turns] svg")).to_be_visible()
    expect(page.locator("#turn")).to_be_hidden()
    expect(page.get_by_text("Shafts turn at their true speeds")).to_be_hidden()
