"""From a need to an adopted drive off the lists, in the real interface."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from browser.test_places import demo, keep, settled

pytestmark = pytest.mark.browser


def found(page: Page) -> None:
    """Wait for the lists to be rated, which the first start after a change takes a while for."""
    rows, again = page.locator("article.way"), page.get_by_role("link", name="Look again")
    for _ in range(90):
        settled(page)
        if not again.count():
            break
        page.wait_for_timeout(1000)
        again.click()
    expect(rows.first).to_be_visible()


def test_a_drive_is_found_tried_beside_and_taken_back(window, empty_shop):
    page = window(keep(empty_shop, demo("Windrow")) + "/train")
    settled(page)
    page.keyboard.press("g")
    page.keyboard.press("w")
    expect(page.get_by_role("heading", name="Ways to get there")).to_be_visible()
    found(page)
    page.get_by_role("link", name="as the motor", exact=True).click()
    found(page)
    assert "wish=turn:same" in page.url
    page.get_by_role("link", name="either way", exact=True).click()
    found(page)
    names = page.locator("article.way h2").all_inner_texts()
    assert len(names) >= 2
    assert len(set(names)) == len(names)

    chain = page.locator("a.switch", has_text="Roller chain")
    for state in ("must", "never"):
        chain.click()
        settled(page)
        expect(chain).to_have_class(re.compile(f"switch-{state}"))
    expect(page.locator("article.way h2").filter(has_text=re.compile("chain", re.I))).to_have_count(0)
    chain.click()
    settled(page)

    best = page.locator("article.way").first
    promised = best.locator(".way-figure .big").first.inner_text()
    name = best.locator("h2").inner_text()[2:].strip()
    plans = page.locator("nav.plans a")
    before = plans.count()
    best.get_by_role("button").click()
    settled(page)
    expect(plans).to_have_count(before + 1)
    expect(page.locator("nav.plans a[aria-current]")).to_have_text(name)
    page.reload()
    expect(page.locator("nav.plans a[aria-current]")).to_have_text(name)
    page.get_by_role("navigation", name="Places").get_by_role("link", name=re.compile("Train")).click()
    settled(page)
    assert page.locator(".gives .big").first.inner_text().strip() == promised.strip()
    expect(page.locator("#side .state-fix")).to_have_count(0)
    page.get_by_role("button", name=re.compile("^Undo")).click()
    settled(page)
    expect(plans).to_have_count(before)


def test_what_is_missing_or_cannot_be_is_said(window, empty_shop):
    from builders import build_machine

    page = window(keep(empty_shop, build_machine(need={"running_torque_nm": None})) + "/ways?wish=stages:1")
    found_or_said = page.get_by_role("heading", name=re.compile("Nothing to show|The lists are being read"))
    expect(found_or_said).to_be_visible()
    for _ in range(90):
        again = page.get_by_role("link", name="Look again")
        if not again.count():
            break
        page.wait_for_timeout(1000)
        again.click()
        settled(page)
    expect(page.locator("#ways")).to_contain_text("Torque")

    page.goto(keep(empty_shop, demo("Windrow")) + "/ways?wish=stages:1")
    expect(page.locator("#ways")).to_contain_text("Allow one more stage")
    page.goto(keep(empty_shop, demo("Windrow")) + "/ways?wish=stages:nine;never:wings")
    expect(page.get_by_role("heading", name="Ways to get there")).to_be_visible()


def test_it_can_be_used_at_phone_width(window, empty_shop):
    page = window(keep(empty_shop, demo("Bellwether")) + "/ways?wish=stages:1")
    page.set_viewport_size({"width": 390, "height": 844})
    found(page)
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    for box in page.locator(".switch, article.way .btn").all():
        assert box.bounding_box()["height"] >= 44


def test_a_stage_is_searched_for_from_its_bench_and_tried_beside(window, empty_shop):
    page = window(keep(empty_shop, demo("Windrow")) + "/train?at=link-3")
    stays = page.locator("li.link h2").all_inner_texts()[:2]
    page.get_by_role("link", name="Find a better one").click()
    found(page)
    expect(page.get_by_text("stage 3 anew", exact=False)).to_be_visible()
    page.get_by_role("button", name="Try A beside this plan").click()
    expect(page.locator("nav.plans a")).to_have_count(3)
    page.goto(page.url.replace("/ways", "/train").split("?")[0] + "?plan=2")
    assert page.locator("li.link h2").all_inner_texts()[:2] == stays
