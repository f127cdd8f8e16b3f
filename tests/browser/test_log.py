"""The Run log in the real interface: a page of readings from begin to verdict, by hand, from a file and by ear."""

from __future__ import annotations

import re

import numpy as np
import pytest
from playwright.sync_api import Page, expect
from scipy.io import wavfile

from browser.test_places import demo, keep, settled
from pulltide.core.run_log.log import Log

pytestmark = pytest.mark.browser


def option(page: Page, begins: str) -> str:
    found = page.locator("#reading-what option").all()
    return next(one.get_attribute("value") for one in found if one.inner_text().strip().startswith(begins))


def read(page: Page, begins: str, value: str) -> None:
    page.locator("#reading-what").select_option(value=option(page, begins))
    page.get_by_label("Value read").fill(value)
    page.get_by_label("Value read").press("Enter")
    settled(page)


def strum_of(page: Page):
    return page.get_by_role("textbox", name="Belt, strummed, stage 1, V-belt")


def test_a_slack_belt_is_found_reading_by_reading(window, empty_shop):
    bare = demo("Windrow").model_copy(update={"log": Log()})
    page = window(keep(empty_shop, bare) + "/train")
    page.keyboard.press("g")
    page.keyboard.press("l")
    page.get_by_role("button", name="Begin a page of readings").click()
    settled(page)
    read(page, "Speed: Reducer in", "1045")
    expect(page.get_by_text("Say under what load this was read.")).to_be_visible()
    page.get_by_label("Load on").select_option(label="full")
    settled(page)
    page.get_by_label("Air").fill("59 F")
    page.get_by_label("Air").press("Tab")
    settled(page)
    expect(page.get_by_text("Cannot tell yet.")).to_be_visible()
    read(page, "Speed: Motor", "1464 rpm")
    read(page, "Motor current", "2.5")
    read(page, "Belt, strummed", "33")
    expect(page.get_by_role("heading", name=re.compile("Belt tension low .*likely"))).to_be_visible()
    expect(page.get_by_text(re.compile("Target: it strums at"))).to_be_visible()
    rows = page.locator("table.readings tbody tr")
    expect(rows).to_have_count(4)

    # a bad value is refused with its range and stays as typed; undo takes a reading back
    strum_of(page).fill("3300 Hz")
    strum_of(page).press("Tab")
    settled(page)
    expect(page.get_by_text(re.compile("1 Hz to 2000 Hz")).first).to_be_visible()
    expect(strum_of(page)).to_have_value("3300 Hz")
    strum_of(page).fill("33")
    strum_of(page).press("Tab")
    settled(page)
    page.get_by_role("button", name="Take out: Belt, strummed, stage 1, V-belt").click()
    settled(page)
    expect(rows).to_have_count(3)
    page.get_by_role("button", name=re.compile("^Undo")).click()
    settled(page)
    expect(rows).to_have_count(4)
    page.get_by_role("button", name="squeals").click()
    settled(page)
    expect(page.get_by_role("button", name="squeals")).to_have_attribute("aria-pressed", "true")
    page.reload()
    expect(page.get_by_role("heading", name=re.compile("Belt tension low"))).to_be_visible()


def test_upkeep_is_ticked_off_and_comes_due_again(window, empty_shop):
    page = window(keep(empty_shop, demo("Windrow")) + "/log")
    row = page.locator("table.upkeep tr", has_text="Set the belt tension")
    expect(row).to_contain_text("overdue")
    row.get_by_role("button", name=re.compile("Done now")).click()
    settled(page)
    expect(page.locator("table.upkeep tr", has_text="Set the belt tension")).to_contain_text("at 312 h")


def test_a_recording_and_a_file_become_readings(window, empty_shop, tmp_path):
    page = window(keep(empty_shop, demo("Windrow")) + "/log")
    time = np.arange(3 * 8000) / 8000 - 1.0
    tone = sum(np.sin(2 * np.pi * k * 38.0 * time) / k for k in range(1, 9)) * np.exp(-time / 0.3)
    sound = np.where(time >= 0, tone, 0.0) + 0.002 * np.random.default_rng(1).normal(size=len(time))
    wavfile.write(tmp_path / "belt.wav", 8000, (sound / np.abs(sound).max() * 20_000).astype(np.int16))
    page.get_by_text("By ear, or from a file").click()
    expect(page.get_by_role("button", name="Record", exact=True)).to_be_visible()
    page.get_by_label("Recording, WAV").set_input_files(tmp_path / "belt.wav")
    page.get_by_role("button", name="Listen", exact=True).click()
    expect(strum_of(page)).to_have_value("38 Hz")

    (tmp_path / "more.csv").write_text("hours,load,reading,where,value\n230,full,speed,shaft-2,1099 rpm\n")
    page.get_by_text("By ear, or from a file").click()
    page.get_by_label("Readings from a file").set_input_files(tmp_path / "more.csv")
    page.get_by_role("button", name="Read in").click()
    expect(page.get_by_role("navigation", name="Pages of readings").get_by_text("230 h")).to_be_visible()
    expect(page.get_by_role("textbox", name="Speed, Reducer in")).to_have_value("1099 rpm")


def test_something_wrong_begins_with_what_is_noticed(window, empty_shop):
    page = window("/new")
    page.get_by_text("Something is wrong with a machine I have").click()
    page.get_by_label("slips", exact=True).check()
    page.get_by_label("will not start", exact=True).check()
    page.get_by_role("button", name="Begin without a picture").click()
    page.goto(page.url.split("/source")[0] + "/log")
    expect(page.get_by_role("button", name="squeals")).to_have_attribute("aria-pressed", "true")
    expect(page.get_by_role("button", name="will not start")).to_have_attribute("aria-pressed", "true")
