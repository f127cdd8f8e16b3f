"""By keyboard alone: where the focus goes, what Escape, Ctrl+Z, + and / do, and how few keys a main job takes."""

from __future__ import annotations

import pytest
from playwright.sync_api import Page, expect

from browser.test_journey import keep, settled
from builders import build_belt, build_machine

pytestmark = pytest.mark.browser


def focused(page: Page) -> str:
    return page.evaluate("document.activeElement.id || document.activeElement.textContent.trim()")


def test_focus_goes_into_what_is_opened_and_back_to_where_it_came_from(window, empty_shop):
    page = window(f"{keep(empty_shop)}/train")
    page.locator("#link-3 a").first.focus()
    page.keyboard.press("Enter")
    settled(page)
    expect(page.get_by_label("Chain", exact=True)).to_be_focused()
    page.locator("#bench header a", has_text="Close").focus()
    page.keyboard.press("Enter")
    settled(page)
    expect(page.locator("#link-3 a").first).to_be_focused()


def test_escape_leaves_a_field_as_it_was_and_ctrl_z_undoes_when_nothing_is_typed(window, empty_shop):
    page = window(f"{keep(empty_shop)}/train?at=link-1")
    belts = page.get_by_label("Number of belts", exact=True)
    belts.fill("2")
    belts.press("Tab")
    settled(page)
    belts.focus()
    page.keyboard.type("9")
    page.keyboard.press("Escape")
    expect(belts).to_have_value("2")
    expect(belts).not_to_be_focused()
    expect(page.locator("#saved")).to_contain_text("Saved")
    page.keyboard.press("Control+z")
    expect(belts).to_have_value("1")
    page.keyboard.press("Control+Shift+Z")
    expect(belts).to_have_value("2")
    belts.focus()
    page.keyboard.type("3")
    page.keyboard.press("Control+z")  # belongs to what is being typed
    page.keyboard.press("Escape")
    expect(belts).to_have_value("2")


def test_a_sign_typed_in_a_name_is_no_step_through_stock(window, empty_shop):
    link = {"kind": "coupling", "designation": "CJ-65"}
    page = window(f"{keep(empty_shop, build_machine(links=[build_belt(), link]))}/train?at=link-2")
    field = page.get_by_label("Coupling", exact=True)
    field.fill("CC")
    page.keyboard.type("-40-16")
    page.keyboard.press("Tab")
    settled(page)
    expect(field).to_have_value("CC-40-16")
    field.focus()
    page.keyboard.press("End")
    page.keyboard.press("+")
    settled(page)
    expect(field).not_to_have_value("CC-40-16")


def test_anything_is_gone_to_by_its_name(window, empty_shop):
    page = window(f"{keep(empty_shop)}/duty")
    page.keyboard.press("/")
    name = page.locator("#palette-name")
    expect(name).to_be_focused()
    name.fill("center distance stage 3")
    expect(page.locator("#palette-list li").first).to_contain_text("Center distance, stage 3")
    page.keyboard.press("Enter")
    settled(page)
    expect(page.locator("#working")).to_contain_text("Center distance")
    page.keyboard.press("/")
    name.fill("nothing of the kind")
    expect(page.get_by_text("Nothing goes by that name.")).to_be_visible()
    name.fill("reducer")
    options = page.locator("#palette-list li")
    expect(options.first).to_have_attribute("aria-selected", "true")
    page.keyboard.press("ArrowDown")
    expect(options.nth(1)).to_have_attribute("aria-selected", "true")
    page.keyboard.press("Escape")
    expect(name).to_be_hidden()
    page.keyboard.press("/")
    name.fill("shop floor")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Shop floor")).to_be_visible()


def test_a_tooth_count_is_changed_with_few_keys(window, empty_shop):
    """From the page as it opens: to stage 3, its driver teeth, one more, and back to see the speed."""
    page = window(f"{keep(empty_shop)}/train")
    before = page.locator(".gives .figure").inner_text()
    keys = 0

    def press(key: str) -> None:
        nonlocal keys
        keys += 1
        page.keyboard.press(key)
        settled(page)

    press("/")
    for char in "stage 3":
        press("Space" if char == " " else char)
    expect(page.locator("#palette-list li").first).to_contain_text("Stage 3")
    press("Enter")
    expect(page.get_by_label("Chain", exact=True)).to_be_focused()
    press("Tab")
    expect(page.get_by_label("Driver teeth", exact=True)).to_be_focused()
    press("End")
    press("+")
    expect(page.locator(".gives .figure")).not_to_have_text(before)
    assert keys <= 40
    assert focused(page)


#: What an answer that comes late does to the page.
REDRAWN = """async () => {
    const answer = await fetch(location.pathname, { headers: { "X-Fragment": "1" } });
    document.getElementById("train")._x_dataStack[0].swap(await answer.text());
}"""


def test_what_is_typed_in_the_list_of_names_outlives_remedies_that_arrive(window, empty_shop):
    page = window(f"{keep(empty_shop)}/train")
    page.keyboard.press("/")
    name = page.locator("#palette-name")
    name.fill("shop floor")
    page.evaluate(REDRAWN)
    expect(name).to_have_value("shop floor")
