"""Two loads on one machine in the real interface."""

from __future__ import annotations

import pytest
from playwright.sync_api import expect

from browser.test_places import demo, keep, settled

pytestmark = pytest.mark.browser


def test_a_lathe_that_also_drills_is_judged_by_the_harder_load(window, empty_shop):
    page = window(keep(empty_shop, demo("Spindlewood")) + "/need")
    page.locator("#further summary").click()
    page.locator("#further").get_by_role("button", name="Drill press").click()
    expect(page.get_by_role("heading", name="Loads")).to_be_visible()
    page.get_by_role("button", name="Fill in starting values").click()
    settled(page)
    page.locator("#loads").get_by_role("button", name="Wood lathe", exact=True).click()
    settled(page)
    row = page.locator("#loads tr", has_text="Drill press")
    expect(row).to_contain_text("step 1")
    expect(row).to_contain_text("hardest")
    words = page.get_by_label("In the machine’s own words").locator("tr", has_text="Speed").first
    assert words.locator("td").count() == 5
    page.keyboard.press("g")
    page.keyboard.press("t")
    expect(page.locator(".findings")).to_contain_text("Drill press: the motor is overloaded (at step 1)")
    page.goto(page.url.replace("/train", "/need"))
    page.get_by_role("button", name="Take off Drill press").click()
    settled(page)
    expect(page.locator("#loads")).to_have_count(0)


def test_on_a_phone_the_loads_scroll_in_their_card(window, empty_shop):
    page = window(keep(empty_shop, demo("Spindlewood")) + "/need")
    page.set_viewport_size({"width": 390, "height": 844})
    page.locator("#further summary").click()
    page.locator("#further").get_by_role("button", name="Drill press").click()
    expect(page.get_by_role("heading", name="Loads")).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
