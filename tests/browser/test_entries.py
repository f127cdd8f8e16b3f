"""Nothing typed is lost, and nothing lands in the wrong place."""

from __future__ import annotations

import pytest
from playwright.sync_api import Page, Route, expect

from browser.test_journey import fill, keep, settled
from builders import build_belt, build_machine

pytestmark = pytest.mark.browser
BELTS = "Number of belts"


def refuse(page: Page, label: str, text: str) -> None:
    field = page.get_by_label(label, exact=True)
    field.fill(text)
    field.press("Tab")
    settled(page)
    expect(field).to_have_attribute("aria-invalid", "true")


def test_one_refused_field_holds_up_no_other_and_is_kept_over_places_and_reload(window, empty_shop):
    page = window(f"{keep(empty_shop)}/train?at=link-1")
    refuse(page, BELTS, "77")
    line = page.locator("#unsaved")
    expect(line).to_contain_text("1 entry not saved: Number of belts “77”")
    fill_settled(page, "Motor base travel", "44 mm")
    expect(page.get_by_label("Motor base travel", exact=True)).to_have_value("44 mm")
    expect(page.get_by_label(BELTS, exact=True)).to_have_value("77")
    expect(page.locator("#bench .help.bad")).to_contain_text("1 to 6")
    page.reload()
    expect(page.get_by_label("Motor base travel", exact=True)).to_have_value("44 mm")
    expect(page.get_by_label(BELTS, exact=True)).to_have_value("77")
    page.locator(".rail a", has_text="Duty").click()
    settled(page)
    expect(line).to_be_visible()
    line.get_by_role("link").click()
    settled(page)
    expect(page.get_by_label(BELTS, exact=True)).to_be_focused()
    expect(page.get_by_label(BELTS, exact=True)).to_have_value("77")
    fill(page, BELTS, "3")
    expect(line).to_be_hidden()
    page.reload()
    expect(page.get_by_label(BELTS, exact=True)).to_have_value("3")
    expect(line).to_be_hidden()


def test_what_is_typed_over_a_refused_entry_outlives_an_answer_that_comes_late(window, empty_shop):
    """The remedies of an earlier edit arrive while a refused field is being typed in: the typing stands."""
    page = window(f"{keep(empty_shop)}/train?at=link-1")
    refuse(page, BELTS, "77")
    field = page.get_by_label(BELTS, exact=True)
    field.click()
    field.press("ControlOrMeta+a")
    field.press_sequentially("3")
    page.evaluate("""async () => {
      const shell = document.querySelector("[x-data]")._x_dataStack[0];
      const answer = await fetch(shell.root().dataset.address, { headers: { "X-Fragment": "1" } });
      shell.swap(await answer.text());
    }""")
    expect(field).to_have_value("3")
    field.press("Tab")
    expect(page.locator("#unsaved")).to_be_hidden()
    page.reload()
    expect(page.get_by_label(BELTS, exact=True)).to_have_value("3")


def fill_settled(page: Page, label: str, text: str) -> None:
    field = page.get_by_label(label, exact=True)
    field.fill(text)
    field.press("Tab")
    settled(page)


def test_two_fields_that_are_only_right_together_are_saved_together(window, empty_shop):
    page = window(f"{keep(empty_shop, build_machine())}/need")
    refuse(page, "Slowest useful speed", "30 rpm")
    fill_settled(page, "Ideal speed", "33 rpm")
    expect(page.locator("#unsaved")).to_contain_text("2 entries not saved")
    fill_settled(page, "Fastest useful speed", "40 rpm")
    expect(page.locator("#unsaved")).to_be_hidden()
    page.reload()
    expect(page.get_by_label("Slowest useful speed", exact=True)).to_have_value("30 rpm")
    expect(page.get_by_label("Ideal speed", exact=True)).to_have_value("33 rpm")


def test_a_refused_entry_goes_with_its_stage_and_is_shown_when_that_is_gone(window, empty_shop):
    links = [build_belt(), build_belt(belt="A60")]
    page = window(f"{keep(empty_shop, build_machine(links=links))}/train?at=link-2")
    refuse(page, BELTS, "77")
    page.get_by_role("button", name="← Earlier").click()
    settled(page)
    expect(page.get_by_label("Belt", exact=True)).to_have_value("A60")
    expect(page.get_by_label(BELTS, exact=True)).to_have_value("77")
    page.locator("#link-2 a").first.click()
    settled(page)
    expect(page.get_by_label("Belt", exact=True)).to_have_value("A51")
    expect(page.get_by_label(BELTS, exact=True)).to_have_value("1")
    page.locator("#link-1 a").first.click()
    settled(page)
    page.get_by_role("button", name="Remove stage").click()
    settled(page)
    line = page.locator("#unsaved")
    expect(line).to_contain_text("Number of belts “77”, which is not there any more")
    page.locator("#link-1 a").first.click()
    settled(page)
    expect(page.get_by_label(BELTS, exact=True)).to_have_value("1")
    line.get_by_role("button").click()
    expect(line).to_be_hidden()


def test_the_old_place_takes_no_entry_once_another_is_asked_for(window, empty_shop):
    """Teeth that were meant for the next stage must not be stored in the one before, however slow the server is."""
    page = window(f"{keep(empty_shop, build_machine(links=[build_belt(), build_belt(belt='A60')]))}/train?at=link-1")
    held: list[Route] = []
    page.route("**/train?*at=link-2*", lambda route: route.continue_() if held else held.append(route))
    page.locator("#link-2 a").first.click()
    field = page.locator("#f-plans-0-links-0-belts")
    assert field.evaluate("node => Boolean(node.closest('[inert]'))")
    page.keyboard.type("5")
    page.wait_for_timeout(100)
    expect(field).to_have_value("1")
    held[0].continue_()
    settled(page)
    expect(page.get_by_label("Belt", exact=True)).to_have_value("A60")
    fill(page, BELTS, "4")
    page.reload()
    expect(page.get_by_label(BELTS, exact=True)).to_have_value("4")
    page.locator("#link-1 a").first.click()
    settled(page)
    expect(page.get_by_label(BELTS, exact=True)).to_have_value("1")


def test_an_entry_is_sent_again_until_there_is_an_answer(window, empty_shop):
    page = window(f"{keep(empty_shop)}/train?at=link-1")
    failed: list[Route] = []

    def fail_twice(route: Route) -> None:
        if len(failed) < 2:
            failed.append(route)
            route.abort()
        else:
            route.continue_()

    page.route("**/edit?*", fail_twice)
    field = page.get_by_label(BELTS, exact=True)
    field.fill("2")
    field.press("Tab")
    expect(page.locator("#saved")).to_contain_text("still trying")
    expect(page.locator("#saved")).to_contain_text("Saved", timeout=20_000)
    page.unroute("**/edit?*")
    page.reload()
    expect(field).to_have_value("2")
