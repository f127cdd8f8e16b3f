"""Stages dragged to another place, and equal ones edited together, in the real interface."""

from __future__ import annotations

import pytest
from playwright.sync_api import expect

from browser.test_places import demo, keep, settled

pytestmark = pytest.mark.browser


def headings(page):
    return page.locator("li.link h2").all_inner_texts()


def test_a_stage_is_dragged_to_another_place_and_the_bench_follows_it(window, empty_shop):
    page = window(keep(empty_shop, demo("Marlpit")) + "/train")
    before = headings(page)
    assert len(before) > 1
    last = len(before)
    page.locator("#link-1").drag_to(page.locator(f"#link-{last}"))
    settled(page)
    assert headings(page) == [*before[1:], before[0]]
    expect(page.locator(f"#link-{last}.open")).to_be_visible()
    page.keyboard.press("u")
    settled(page)
    assert headings(page) == before


def test_equal_stages_are_changed_together_on_request(window, empty_shop):
    page = window(keep(empty_shop, demo("Spindlewood")) + "/train?at=link-1")
    page.get_by_role("button", name="Copy stage").click()
    settled(page)
    expect(page.get_by_text("Equal to stage 1.")).to_be_visible()
    page.get_by_role("button", name="Change them together").click()
    expect(page.get_by_role("button", name="Change them together")).to_have_attribute("aria-pressed", "true")
    page.get_by_label("Number of belts", exact=True).fill("2")
    page.keyboard.press("Tab")
    settled(page)
    expect(page.locator("#link-1")).to_contain_text("2 belts")
    expect(page.locator("#link-2")).to_contain_text("2 belts")
    expect(page.get_by_text("Equal to stage 1.")).to_be_visible()
    page.reload()
    expect(page.get_by_role("button", name="Change them together")).to_have_attribute("aria-pressed", "true")
