"""Plans side by side in the real interface."""

from __future__ import annotations

import pytest
from playwright.sync_api import Page, expect

from browser.test_places import demo, keep, settled

pytestmark = pytest.mark.browser


def heads(page: Page) -> list[str]:
    """Names of the plans, left to right."""
    return [text.split("\n")[0] for text in page.locator("table.compare thead tr:first-child th").all_inner_texts()]


def test_plans_are_compared_one_is_picked_with_a_reason_and_taken_back(window, empty_shop):
    page = window(keep(empty_shop, demo("Lofthook")) + "/train")
    page.keyboard.press("g")
    page.keyboard.press("c")
    expect(page.get_by_role("heading", name="Plans side by side")).to_be_visible()
    before = heads(page)
    assert len(before) == 2
    speed = page.locator("table.compare tbody tr").nth(1).locator("td").all_inner_texts()
    assert len(set(speed)) == 2

    rows = page.locator("table.compare tbody tr").count()
    page.get_by_role("link", name="Only differences").click()
    settled(page)
    assert page.locator("table.compare tbody tr").count() < rows
    expect(page.get_by_text("alike not shown")).to_be_visible()
    assert "wish=differences" in page.url

    page.get_by_label("Why plan B").fill("worm is quiet, but loses more")
    page.keyboard.press("Tab")
    settled(page)
    page.get_by_role("button", name="Pick plan B: it stands first").click()
    settled(page)
    after = heads(page)
    assert [name[1:].split(" picked")[0].strip() for name in after] == [
        name[1:].split(" picked")[0].strip() for name in reversed(before)
    ]
    expect(page.get_by_label("Why plan A")).to_have_value("worm is quiet, but loses more")
    page.keyboard.press("u")
    settled(page)
    assert heads(page) == before


def test_on_a_phone_the_table_scrolls_and_the_page_does_not(window, empty_shop):
    page = window(keep(empty_shop, demo("Lofthook")) + "/compare")
    page.set_viewport_size({"width": 390, "height": 844})
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    card = page.locator(".compare-card")
    assert card.evaluate("card => card.scrollWidth > card.clientWidth")
