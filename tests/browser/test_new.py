"""From an empty floor to an adopted drive of stock parts, in the real interface, with the steps counted."""

from __future__ import annotations

import pytest
from playwright.sync_api import Page, expect

from browser.test_ways import found

pytestmark = pytest.mark.browser

#: What a newcomer presses and types at most, without the manual.
MAX_STEPS = 6


class Hand:
    """Counts what a person does."""

    def __init__(self, page: Page) -> None:
        self.page = page
        self.steps = 0

    def press(self, role: str, name: str) -> None:
        """One press."""
        self.steps += 1
        self.page.get_by_role(role, name=name, exact=True).first.click()  # type: ignore[arg-type]
        self.page.wait_for_load_state()
        expect(self.page.locator("#train[data-busy]")).to_have_count(0, timeout=30_000)

    def type(self, label: str, text: str) -> None:
        """One entry."""
        self.steps += 1
        self.page.get_by_label(label).fill(text)


def test_a_newcomer_has_a_drive_in_a_few_presses(window, empty_shop):
    page = window()
    hand = Hand(page)
    expect(page.get_by_role("heading", name="The floor is empty")).to_be_visible()
    hand.press("link", "New machine")
    hand.type("Find a kind of machine", "winch")
    expect(page.locator(".gallery-tile:visible")).to_have_count(1)
    hand.press("button", "Hoist or winch")
    expect(page.get_by_text("starting values", exact=False).first).to_be_visible()
    torque = page.locator(".tile .big").first.inner_text()
    assert any(figure.isdigit() for figure in torque)
    hand.press("link", "Find drives")
    hand.press("link", "Any motor on the list for 115 V, one-phase, 60 Hz")
    found(page)
    hand.press("button", "Adopt A")
    plans = page.locator("nav.plans a")
    expect(plans).to_have_count(1)
    assert hand.steps <= MAX_STEPS
    page.goto(page.url.split("/ways")[0] + "/train")
    expect(page.locator(".link").first).to_be_visible()
    expect(page.locator(".finding-fix")).to_have_count(0)


def test_the_gallery_is_found_by_plain_words_and_says_when_it_has_none(window, empty_shop):
    page = window("/new")
    tiles = page.locator(".gallery-tile:visible")
    everything = tiles.count()
    find = page.get_by_label("Find a kind of machine")
    for words, kind in (
        ("cement", "batch_mixer"),
        ("forge", "hammer"),
        ("gate", "gate"),
        ("bulk grain", "bulk_conveyor"),
    ):
        find.fill(words)
        assert kind in [tile.get_attribute("value") for tile in tiles.all()], words
        assert tiles.count() < everything
    find.fill("spaceship")
    expect(page.get_by_text("No kind of that name")).to_be_visible()
    find.fill("")
    assert tiles.count() == everything


def test_a_machine_with_something_wrong_begins_with_what_is_measured(window, empty_shop):
    page = window("/new")
    page.get_by_text("Something is wrong with a machine I have").click()
    page.get_by_label("slips").check()
    page.get_by_label("Name it").fill("Old mixer")
    page.get_by_role("button", name="Mortar, dough or concrete mixer").click()
    expect(page.get_by_role("heading", name="What turns it?")).to_be_visible()
    page.goto(page.url.split("/source")[0] + "/need")
    expect(page.locator(".starting")).to_have_count(0)
    page.goto(page.url.split("/machines")[0] + "/")
    expect(page.get_by_role("heading", name="Old mixer")).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth <= innerWidth")
