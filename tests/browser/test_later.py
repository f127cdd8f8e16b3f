"""Remedies come after the first answer, into room kept for them, and never over what was done meanwhile."""

from __future__ import annotations

import pytest
from playwright.sync_api import Route, expect

from browser.test_journey import fill, keep, settled
from pulltide.demo import demo_machines

pytestmark = pytest.mark.browser


def test_remedies_follow_the_answer_and_an_edit_does_not_wait_for_them(window, empty_shop):
    marlpit = next(machine for machine in demo_machines() if "Marlpit" in machine.name)
    page = window(f"{keep(empty_shop, marlpit)}/train?at=link-1")
    expect(page.locator(".remedy").first).to_be_visible()
    held: list[Route] = []

    def hold(route: Route) -> None:
        asks_later = route.request.method == "GET" and route.request.headers.get("x-fragment")
        held.append(route) if asks_later and len(held) < 1 else route.continue_()

    page.route("**/machines/**", hold)
    fill(page, "Driver diameter, step 1", "102 mm")
    expect(page.locator(".later").first).to_have_text("Trying stock parts…")
    expect(page.locator(".remedy")).to_have_count(0)
    page.wait_for_timeout(300)
    assert len(held) == 1, "the remedies are asked for"
    fill(page, "Driver diameter, step 1", "104 mm")
    settled(page)
    expect(page.locator(".remedy").first).to_be_visible()
    said = page.locator(".findings").inner_text()
    held[0].continue_()
    page.wait_for_timeout(300)
    assert page.get_by_label("Driver diameter, step 1", exact=True).input_value().startswith("104"), (
        "the old answer is dropped"
    )
    assert page.locator(".findings").inner_text() == said


def test_an_equal_value_typed_again_is_saved_already(window, empty_shop):
    page = window(f"{keep(empty_shop)}/train?at=link-1")
    field = page.get_by_label("Driver diameter, step 1", exact=True)
    found = field.input_value()
    field.press("End")
    field.press("Backspace")
    expect(page.locator("#saved")).to_have_text("Not saved yet")
    field.type(found[-1])
    field.press("Tab")
    expect(page.locator("#saved")).to_contain_text("Saved")


def test_a_refused_entry_keeps_its_text_and_its_reason_when_remedies_arrive(window, empty_shop):
    marlpit = next(machine for machine in demo_machines() if "Marlpit" in machine.name)
    page = window(f"{keep(empty_shop, marlpit)}/train?at=link-1")
    fill(page, "Driver diameter, step 1", "102 mm")
    field = page.get_by_label("Number of belts", exact=True)
    field.fill("77")
    field.press("Tab")
    expect(page.locator("#bench .help.bad")).to_contain_text("1 to 6")
    page.wait_for_timeout(600)
    expect(page.locator(".remedy").first).to_be_visible()
    expect(page.locator("#bench .help.bad")).to_contain_text("1 to 6")
    expect(field).to_have_value("77")
    expect(field).to_have_attribute("aria-invalid", "true")
