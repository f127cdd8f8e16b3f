"""The real interface in Chromium: a machine from nothing, broken, mended, undone, reloaded, taken out and in."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from builders import build_belt, build_machine
from pulltide.core.line import solve_line
from pulltide.store.machines import PostgresMachines

pytestmark = pytest.mark.browser


def fill(page: Page, label: str, text: str) -> None:
    field = page.get_by_label(label, exact=True)
    field.fill(text)
    field.press("Tab")
    expect(page.locator("#saved")).to_contain_text("Saved")


def settled(page: Page) -> None:
    expect(page.locator("#train[data-busy]")).to_have_count(0)


def press(page: Page, name: str) -> None:
    settled(page)
    page.get_by_role("button", name=name, exact=True).first.click()
    settled(page)


def gives(page: Page) -> str:
    return page.locator(".gives .figure").inner_text()


def keep(engine, machine=None) -> str:
    return f"/machines/{PostgresMachines(engine).create(machine or build_machine()).id}"


def test_a_machine_from_nothing(window, empty_shop, tmp_path: Path):
    page = window("/new")
    page.get_by_label("Name").fill("Mixer of ours")
    page.get_by_role("button", name="Begin without a picture").click()
    for label, text in (
        ("Slowest useful speed", "14"),
        ("Fastest useful speed", "20 rpm"),
        ("Ideal speed", "17"),
        ("Running torque", "90 ft-lb"),
        ("Peak torque", "130 lb-ft"),
        ("Name of the last shaft", "Paddle"),
    ):
        fill(page, label, text)
    expect(page.get_by_label("Running torque", exact=True)).to_have_value("122.024 N·m")

    page.locator(".rail").get_by_role("link", name="Source").click()
    expect(page.get_by_role("heading", name="What turns it?")).to_be_visible()
    fill(page, "Power", "1 1/2 hp")
    expect(page.get_by_role("heading", name="Not enough entered yet")).to_be_visible()
    fill(page, "Full-load speed", "1740")
    expect(page.locator(".curve")).to_be_visible()

    page.locator(".rail").get_by_role("link", name="Train").click()
    expect(page.locator(".gives .figure")).to_have_text("1740 rpm")
    for kind in ("+ V-belt", "+ Gear reducer", "+ Roller chain"):
        press(page, kind)
    page.locator("#link-1 a").click()
    page.get_by_label("Section").select_option("A")
    expect(page.locator("#link-1 h2")).to_have_text("V-belt A")
    fill(page, "Driver diameter, step 1", "3.4 in")
    fill(page, "Driven diameter, step 1", "8 in")
    fill(page, "Belt", "A51")
    page.locator("#link-2 a").click()
    fill(page, "Reducer", "PW-6 15:1")
    page.locator("#link-3 a").click()
    page.get_by_label("Chain", exact=True).select_option("50")
    fill(page, "Driver teeth", "17")
    fill(page, "Driven teeth", "46")
    fill(page, "Links", "90")
    expect(page.locator(".gives .figure")).to_have_text("17.7 rpm")
    expect(page.locator(".finding-fix")).to_have_count(0)

    fill(page, "Driven teeth", "66")  # broken: far too slow
    expect(page.locator(".finding-fix").first).to_contain_text("The last shaft is too slow")
    page.locator(".finding-fix .remedy").first.click()
    expect(page.locator(".finding-fix")).to_have_count(0)
    mended = gives(page)
    page.locator("#undo").click()
    expect(page.locator(".finding-fix").first).to_be_visible()
    page.reload()
    expect(page.locator(".finding-fix").first).to_be_visible()
    page.locator("#redo").click()
    expect(page.locator(".gives .figure")).to_have_text(mended)

    with page.expect_download() as download:
        page.get_by_role("link", name="Export as file").click()
    file = tmp_path / "machine.json"
    download.value.save_as(file)
    page.goto("/")
    page.get_by_label("Machine file (JSON)").set_input_files(file)
    page.get_by_role("button", name="Read it in").click()
    expect(page.get_by_role("heading", name="Mixer of ours is on the floor already")).to_be_visible()
    page.get_by_role("button", name="Keep both").click()
    expect(page.locator(".gives .figure")).to_have_text(mended)


def test_a_refused_entry_stays_and_the_rest_is_kept(window, empty_shop):
    page = window(keep(empty_shop) + "?at=need")
    slowest = page.get_by_label("Slowest useful speed")
    slowest.fill("500")
    slowest.press("Tab")
    message = page.locator("#f-need-speed_min_rpm-help")
    expect(message).to_contain_text("slowest useful speed is above ideal speed")
    expect(page.locator("#saved")).to_contain_text("Not saved")
    peak = page.get_by_label("Peak torque")
    peak.fill("two pounds")
    peak.press("Tab")
    expect(page.locator("#f-need-peak_torque_nm-help")).to_contain_text("two pounds")
    expect(slowest).to_have_value("500")
    for label, text in (("Peak torque", "190"), ("Ideal speed", "510"), ("Fastest useful speed", "520")):
        page.get_by_label(label).fill(text)
        page.get_by_label(label).press("Tab")
    expect(page.locator("#saved")).to_contain_text("Saved")
    page.reload()
    expect(page.get_by_label("Slowest useful speed")).to_have_value("500 rpm")


def test_two_windows_on_one_machine(window, empty_shop):
    path = keep(empty_shop) + "?at=need"
    mine, theirs = window(path), window(path)
    # typed before the other window saves, so that it does not matter how soon this one is told
    mine.get_by_label("Running torque", exact=True).fill("130")
    fill(theirs, "Running torque", "100")
    mine.get_by_label("Running torque", exact=True).press("Tab")
    expect(mine.get_by_role("alert")).to_contain_text("You had typed “130”")
    mine.get_by_role("button", name="Show the newer one").click()
    expect(mine.get_by_role("alert")).to_be_hidden()
    mine.reload()
    expect(mine.get_by_label("Running torque", exact=True)).to_have_value("100 N·m")


def test_two_windows_on_different_fields_keep_both(window, empty_shop):
    path = keep(empty_shop) + "?at=need"
    mine, theirs = window(path), window(path)
    fill(theirs, "Running torque", "100")
    fill(mine, "Breakaway torque", "155")
    expect(mine.get_by_label("Running torque", exact=True)).to_have_value("100 N·m")
    mine.reload()
    expect(mine.get_by_label("Running torque", exact=True)).to_have_value("100 N·m")
    expect(mine.get_by_label("Breakaway torque", exact=True)).to_have_value("155 N·m")


def test_units_are_a_matter_of_the_person(window, empty_shop):
    page = window(keep(empty_shop) + "?at=link-1")
    expect(page.get_by_label("Driver diameter, step 1", exact=True)).to_have_value("86.36 mm")
    page.locator("summary.pill").click()
    page.get_by_label("Show length in").select_option("in")
    page.get_by_role("button", name="Use these").click()
    page.goto(page.url + "?at=link-1")
    expect(page.get_by_label("Driver diameter, step 1", exact=True)).to_have_value("3.4 in")
    fill(page, "Driver diameter, step 1", "3 1/2")
    expect(page.get_by_label("Driver diameter, step 1", exact=True)).to_have_value("3½ in")


def test_keyboard(window, empty_shop):
    page = window(keep(empty_shop))
    page.keyboard.press("ArrowRight")
    expect(page.locator("#link-1")).to_have_class(re.compile("open"))
    page.keyboard.press("w")
    expect(page.locator("#working")).to_contain_text("1740")
    size = page.get_by_label("Driver diameter, step 1", exact=True)
    size.focus()
    page.keyboard.press("End")
    page.keyboard.press("+")
    expect(size).to_have_value("88.9 mm")
    page.locator("h1").first.evaluate("() => document.activeElement.blur()")
    page.keyboard.press("u")
    expect(size).to_have_value("86.36 mm")
    page.keyboard.press("?")
    expect(page.get_by_role("dialog")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_be_hidden()
    page.keyboard.press("g")
    page.keyboard.press("n")
    expect(page.get_by_role("heading", name="What must the last shaft do?")).to_be_visible()


def test_steps_of_a_cone_and_plans(window, empty_shop):
    steps = [
        {"driver_diameter_mm": 80, "driven_diameter_mm": 200},
        {"driver_diameter_mm": 100, "driven_diameter_mm": 182},
    ]
    machine = build_machine(links=[build_belt(steps=steps, measured_as="pitch", belt="A60")])
    page = window(keep(empty_shop, machine) + "?at=link-1")
    line = solve_line(machine, machine.plans[0], (2,))
    expect(page.locator(".steps tbody tr").nth(1)).to_contain_text(f"{line.last_shaft.speed_rpm:.0f}")
    press(page, "Run on step 2")
    expect(page.locator(".gives .figure")).to_have_text(f"{line.last_shaft.speed_rpm:.0f} rpm")
    press(page, "Duplicate this plan")
    expect(page.locator(".plans a.on")).to_have_text("Plan B")
    page.locator("#settings summary").click()
    press(page, "Remove this plan")
    expect(page.locator(".plans a")).to_have_count(1)


def test_the_page_works_without_script(window, empty_shop):
    page = window(keep(empty_shop) + "?at=need", java_script_enabled=False)
    page.get_by_label("Running torque", exact=True).fill("101")
    page.get_by_role("button", name="Save").first.click()
    expect(page.get_by_label("Running torque", exact=True)).to_have_value("101 N·m")


def test_a_lost_server_loses_nothing_typed(window, empty_shop):
    page = window(keep(empty_shop) + "?at=need")
    page.context.route("**/edit**", lambda route: route.abort())
    field = page.get_by_label("Running torque", exact=True)
    field.fill("111")
    field.press("Tab")
    expect(page.locator("#saved")).to_contain_text("still trying")
    expect(field).to_have_value("111")
    page.context.unroute("**/edit**")
    expect(page.locator("#saved")).to_contain_text("Saved", timeout=20_000)
    fill(page, "Peak torque", "200")
    page.reload()
    expect(page.get_by_label("Running torque", exact=True)).to_have_value("111 N·m")


def test_what_is_being_typed_survives_an_answer_that_comes_in(window, empty_shop):
    page = window(keep(empty_shop) + "?at=need")
    page.get_by_label("Peak torque").fill("190")
    page.get_by_label("Peak torque").press("Tab")
    torque = page.get_by_label("Running torque", exact=True)
    torque.focus()
    torque.press_sequentially("99")
    settled(page)
    expect(torque).to_have_value(re.compile("99"))
    torque.fill("99")
    torque.press("Tab")
    expect(page.locator("#saved")).to_contain_text("Saved")
    page.reload()
    expect(torque).to_have_value("99 N·m")


def test_taken_off_the_floor_and_put_back(window, empty_shop):
    page = window(keep(empty_shop))
    page.locator("#settings summary").click()
    page.get_by_role("button", name="Take the machine off the floor").click()
    expect(page.locator(".machine")).to_have_count(0)
    page.get_by_role("button", name="Put it back").click()
    expect(page.locator(".machine h2")).to_have_text("Test rig")


def test_the_next_size_in_stock_by_touch(window, empty_shop):
    page = window(keep(empty_shop) + "?at=link-3", has_touch=True)
    before = gives(page)
    page.get_by_role("button", name="Driven teeth: next smaller in stock").tap()
    expect(page.get_by_label("Driven teeth", exact=True)).to_have_value("45")
    settled(page)
    assert gives(page) != before
    box = page.get_by_role("button", name="Driven teeth: next smaller in stock").bounding_box()
    assert box["height"] >= 30


def test_the_address_brings_a_friend_to_the_same_place(window, empty_shop):
    path = keep(empty_shop)
    page = window(path)
    page.locator("#link-2 a").click()
    expect(page.locator("#bench h2")).to_contain_text("Stage 2")
    page.locator(".figures a").first.click()
    expect(page.locator("#working")).to_be_visible()
    friend = window(page.url.replace(page.url.split("/machines")[0], ""))
    expect(friend.locator("#bench h2")).to_contain_text("Stage 2")
    expect(friend.locator("#working")).to_be_visible()
    page.go_back()
    expect(page.locator("#working")).to_have_count(0)
