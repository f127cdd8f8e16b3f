"""The shelf in the real interface: a list looked at, taken, and used by a search that buys nothing it need not."""

from __future__ import annotations

from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from pulltide.store.stock import PostgresStock

pytestmark = pytest.mark.browser
LISTS = Path(__file__).parents[1] / "data" / "lists"


def send(page: Page, file: Path, to: str) -> None:
    page.goto(page.url.split("/stock")[0] + "/stock")
    page.get_by_label("To the list").fill(to)
    page.get_by_label("File", exact=True).set_input_files(file)
    page.get_by_role("button", name="Look at it").click()


def test_a_list_is_looked_at_mended_and_taken(window, empty_shop):
    page = window("/stock")
    expect(page.get_by_text("Nothing on it yet")).to_be_visible()
    send(page, LISTS / "bad_spreadsheet_dates.csv", "Yard")
    expect(page.get_by_role("heading", name="4 good rows")).to_be_visible()
    expect(page.get_by_text("is a date", exact=False).first).to_be_visible()
    page.get_by_role("button", name="Keep them").click()
    expect(page.get_by_text("cannot be read: mend the file", exact=False)).to_be_visible()
    page.go_back()
    page.get_by_label("leave out the 2 and take the rest").check()
    page.get_by_role("button", name="Keep them").click()
    expect(page.get_by_text("Added: 4")).to_be_visible()
    page.get_by_role("link", name="To the list").click()
    expect(page.get_by_role("row", name="A46")).to_be_visible()
    page.get_by_label("Name or note").fill("fan")
    page.get_by_role("button", name="Show").click()
    expect(page.locator("tbody tr")).to_have_count(1)
    page.get_by_role("button", name="Take big fan pulley off").click()
    expect(page.get_by_text("big fan pulley is off the list")).to_be_visible()
    page.get_by_role("button", name="Put it back").click()
    assert PostgresStock(empty_shop).page("Yard").total == 4


def test_a_long_list_says_how_far_it_is_and_is_taken(window, empty_shop, tmp_path: Path):
    file = tmp_path / "long.csv"
    rows = (f"v_belt,belt {k},A,{500 + k / 8:g},{k % 9},new,{2 + k % 7}.5" for k in range(20_000))
    file.write_text("\n".join(("family,name,section,length,on hand,condition,price", *rows)), "utf-8")
    page = window("/stock")
    send(page, file, "Long")
    expect(page.get_by_role("heading", name="20000 good rows")).to_be_visible(timeout=60_000)
    page.get_by_role("button", name="Keep them").click()
    expect(page.get_by_text("Added: 20000")).to_be_visible(timeout=60_000)
    page.get_by_role("link", name="To the list").click()
    expect(page.get_by_text("1 to 100 of 20000 parts")).to_be_visible()
    page.get_by_role("link", name="Later").click()
    expect(page.get_by_text("101 to 200 of 20000 parts")).to_be_visible()


def test_the_shelf_fits_a_phone(window, empty_shop):
    page = window("/stock")
    page.set_viewport_size({"width": 390, "height": 844})
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    page.get_by_label("Name", exact=True).fill("motor off the dryer")
    page.get_by_label("Power", exact=True).fill("1/3 hp")
    page.get_by_role("button", name="Put it on the list").click()
    expect(page.get_by_text("0.249 kW")).to_be_visible()
