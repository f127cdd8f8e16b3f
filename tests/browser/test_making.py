"""From the sheet to a wheel to make, its files, and a revision given out, as a person does it."""

from __future__ import annotations

import pytest
from playwright.sync_api import expect

from browser.test_places import demo, keep

pytestmark = pytest.mark.browser


def test_a_wheel_is_made_here_judged_and_taken_along(window, empty_shop):
    page = window(keep(empty_shop, demo("Windrow")) + "/sheet")
    page.get_by_role("link", name="Sprocket for chain 60, 84 teeth").click()
    expect(page.get_by_role("heading", name="Sprocket for chain 60, 84 teeth")).to_be_visible()
    page.get_by_label("Made here of").select_option(label="birch plywood")
    page.get_by_role("button", name="Keep", exact=True).click()
    expect(page.get_by_text("Teeth of a soft wheel for a chain")).to_be_visible()
    page.get_by_text("Your cutter and printer").click()
    page.get_by_label("Kerf").fill("1/16 in")
    page.get_by_role("button", name="Keep for the shop").click()
    expect(page.get_by_text("For the cutter, kerf allowed")).to_be_visible()
    with page.expect_download() as taken:
        page.get_by_role("link", name="3MF").click()
    assert taken.value.suggested_filename.endswith("3-driven.3mf")
    page.get_by_role("link", name="Back to the sheet").click()
    expect(page.get_by_role("row", name="Driven sprocket 60, 84 t")).to_contain_text("to make")
    with page.expect_download() as sheet:
        page.locator(".files li", has_text="PDF, one page").get_by_role("link", name="A4").click()
    assert sheet.value.suggested_filename.endswith(".pdf")


def test_a_sheet_is_given_out_and_says_what_changed(window, empty_shop):
    page = window(keep(empty_shop, demo("Marlpit")) + "/sheet")
    page.get_by_text("It may stay").first.click()
    page.get_by_label("Why it may stay").first.fill("Runs two hours a year")
    page.get_by_label("Accepted by").first.fill("the smith")
    page.get_by_role("button", name="Accept").first.click()
    expect(page.locator(".paper-sheet").get_by_text("Accepted: Runs two hours a year")).to_be_visible()
    page.get_by_label("Given out to, or why").fill("first build")
    page.get_by_role("button", name="Give out the next revision").click()
    expect(page.locator(".paper-sheet header")).to_contain_text("Revision 1 of")
    page.get_by_role("button", name="Open again").first.click()
    expect(page.locator(".changes")).to_contain_text("Accepted findings: 1 → none")


def test_the_sheet_prints_without_what_stands_round_it(window, empty_shop):
    page = window(keep(empty_shop, demo("Windrow")) + "/sheet")
    page.evaluate("() => { window.printed = 0; window.print = () => { window.printed += 1; }; }")
    page.get_by_role("button", name="Print").click()
    page.wait_for_timeout(300)
    assert page.evaluate("() => window.printed") == 1
    page.emulate_media(media="print")
    expect(page.locator(".paper-sheet h1")).to_be_visible()
    expect(page.locator("#side")).to_be_hidden()
    expect(page.locator("header.top .tools")).to_be_hidden()
