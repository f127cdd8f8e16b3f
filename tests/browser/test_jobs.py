"""Nine jobs from start to end as a person does them in the real interface, with the steps they take counted."""

from __future__ import annotations

import pytest
from playwright.sync_api import Page, expect

from browser.test_new import Hand
from browser.test_places import demo, keep, settled
from browser.test_ways import found

pytestmark = pytest.mark.browser


def begun(hand: Hand, words: str, kind: str) -> None:
    """A machine of a kind out of the gallery, with its starting values."""
    hand.press("link", "New machine")
    hand.type("Find a kind of machine", words)
    hand.press("button", kind)
    expect(hand.page.get_by_text("starting value", exact=False).first).to_be_visible()


def entered(hand: Hand, label: str, text: str) -> None:
    hand.steps += 1
    field = hand.page.get_by_label(label, exact=True)
    if field.evaluate("node => node.tagName") == "SELECT":
        field.select_option(label=text)
    else:
        field.fill(text)
        field.press("Tab")
    settled(hand.page)


def adopted(hand: Hand, supply: str) -> None:
    """The best drive that a motor on a supply allows, taken."""
    hand.press("link", "Find drives")
    hand.press("link", f"Any motor on the list for {supply}")
    found(hand.page)
    hand.press("button", "Adopt A")
    hand.page.goto(hand.page.url.split("/ways")[0] + "/train")


def is_sound(page: Page) -> None:
    """A drive with stages, and nothing in it that must be mended."""
    expect(page.locator("li.link").first).to_be_visible()
    expect(page.locator(".finding-fix")).to_have_count(0)


def test_a_hammer_says_its_blows_at_the_drive_it_got(window, empty_shop):
    hand = Hand(window())
    begun(hand, "forge", "Power hammer")
    entered(hand, "Ram with top die", "60 lb")
    adopted(hand, "230 V, one-phase, 60 Hz")
    is_sound(hand.page)
    expect(hand.page.locator(".gives")).to_contain_text("blows a minute")
    assert hand.steps <= 7


def test_a_drum_is_driven_by_a_belt_round_its_shell(window, empty_shop):
    hand = Hand(window())
    begun(hand, "tumbler", "Drum or tumbler")
    hand.page.locator(".rail").get_by_role("link", name="Source").click()
    hand.press("link", "Open the list of motors")
    hand.press("link", "115 V, one-phase, 60 Hz")
    hand.steps += 1
    hand.page.locator(".pick-list tr", has_text="1725 rpm").get_by_role("button").first.click()
    settled(hand.page)
    hand.page.locator(".rail").get_by_role("link", name="Train").click()
    hand.steps += 2
    hand.press("button", "+ V-belt")
    hand.press("button", "+ V-belt")
    entered(hand, "Driven rim is", "flat drum")
    entered(hand, "Driven diameter, step 1", "900 mm")
    expect(hand.page.locator("#link-2")).to_contain_text("900 mm")
    expect(hand.page.get_by_label("Driven rim is", exact=True)).to_have_value("flat_drum")
    expect(hand.page.locator(".gives .figure")).not_to_have_text("unknown")
    assert hand.steps <= 13


def test_a_bench_mill_for_a_half_inch_cutter_in_1018(window, empty_shop):
    hand = Hand(window())
    begun(hand, "milling", "Milling spindle")
    entered(hand, "Material", "1018 steel, cold drawn")
    entered(hand, "Cutter diameter", "1/2 in")
    expect(hand.page.get_by_text("K_p").first).to_be_attached()
    adopted(hand, "115 V, one-phase, 60 Hz")
    is_sound(hand.page)
    assert hand.steps <= 8


def test_a_door_gets_a_drive_that_holds(window, empty_shop):
    hand = Hand(window())
    begun(hand, "counterbalanced door", "Counterbalanced door")
    adopted(hand, "brushed, direct current")
    is_sound(hand.page)
    assert hand.steps <= 6


def test_a_robot_joint(window, empty_shop):
    hand = Hand(window())
    begun(hand, "robot", "Motion axis")
    adopted(hand, "115 V, one-phase, 60 Hz")
    is_sound(hand.page)
    expect(hand.page.locator(".gives")).to_contain_text("for the move")
    assert hand.steps <= 6


def test_a_requirement_alone_says_power_and_nothing_absurd(window, empty_shop):
    hand = Hand(window())
    hand.press("link", "New machine")
    hand.type("Name", "Only asked")
    hand.press("button", "Begin without a picture")
    entered(hand, "Ideal speed", "60")
    entered(hand, "Running torque", "40 ft-lb")
    expect(hand.page.locator(".tiles")).to_contain_text("0.341 kW")
    for place in ("duty", "source", "train", "ways", "fit", "compare", "sheet"):
        hand.page.goto(hand.page.url.rpartition("/")[0] + f"/{place}")
        text = hand.page.locator("main").inner_text()
        assert not any(absurd in text for absurd in ("NaN", "None", "inf ", "unknown%", "e-1", "nan")), place
    assert hand.steps <= 5


def test_plans_are_compared_and_the_sheet_goes_to_paper_and_files(window, empty_shop):
    hand = Hand(window(keep(empty_shop, demo("Lofthook")) + "/train"))
    page = hand.page
    page.locator(".rail").get_by_role("link", name="Compare").click()
    hand.steps += 1
    expect(page.get_by_role("heading", name="Plans side by side")).to_be_visible()
    page.locator(".rail").get_by_role("link", name="Build sheet").click()
    hand.steps += 1
    expect(page.get_by_role("button", name="Print")).to_be_visible()
    for kind, words, ending in (
        ("PDF:", "A4", "pdf"), ("Drawing:", "DXF in true scale", "dxf"), ("Everything:", "ZIP", "zip"),
    ):  # fmt: skip
        with page.expect_download() as download:
            page.locator(".files li", has_text=kind).get_by_role("link", name=words, exact=True).click()
        assert download.value.suggested_filename == f"Lofthook-parcel-conveyor-Belt-and-helical.{ending}"
    page.emulate_media(media="print")
    expect(page.locator(".rail")).to_be_hidden()
    expect(page.locator(".paper-sheet")).to_be_visible()
    assert hand.steps <= 2


ODD = ("NaN", "1e400", "-5", "12 furlongs", "<script>alert(1)</script>", "=1+1", "1/0", "\u202e7", "9" * 300)


def test_odd_entries_are_refused_in_words_and_what_was_saved_stays(window, empty_shop):
    page = window(keep(empty_shop, demo("Marlpit")) + "/source")
    field = page.get_by_label("Power", exact=True)
    before = field.input_value()
    for text in ODD:
        field.fill(text)
        field.press("Tab")
        settled(page)
        expect(page.locator("#unsaved")).to_contain_text("1 entry not saved: Power")
        message = page.locator(f"#{field.get_attribute('id')}-help")
        expect(message).to_be_visible()
        assert len(message.inner_text()) < 400
    page.goto(page.url.replace("/source", "/need"))
    page.goto(page.url.replace("/need", "/source"))
    page.get_by_role("button", name="Forget").first.click()
    expect(page.get_by_label("Power", exact=True)).to_have_value(before)
    for text, meant in (("½ hp", "0.37285 kW"), ("1 1/2 hp", "1.11855 kW"), ("1,5 kW", "1.5 kW")):
        field = page.get_by_label("Power", exact=True)
        field.fill(text)
        field.press("Tab")
        settled(page)
        expect(field).to_have_value(meant)


#: Keys of travel from the floor to another tooth count on the chain of a demo machine.
MAX_KEYS = 40


def test_by_keyboard_alone_and_then_on_a_phone(window, empty_shop):
    path = keep(empty_shop, demo("Bellwether"))
    page = window(path + "/train")
    keys = 0

    def key(*names: str) -> None:
        nonlocal keys
        for name in names:
            keys += 1
            page.keyboard.press(name)

    key("/")
    expect(page.locator("#palette-name")).to_be_focused()
    key(*"source", "Enter")
    page.wait_for_url("**/source*")
    settled(page)
    key("g", "t")
    page.wait_for_url("**/train*")
    settled(page)
    expect(page.locator("li.link").first).to_be_visible()
    assert keys <= MAX_KEYS

    phone = window(path + "/train", has_touch=True)
    phone.set_viewport_size({"width": 390, "height": 844})
    phone.locator("#link-1 a").first.tap()
    settled(phone)
    expect(phone.locator("#bench")).to_be_in_viewport()
    assert phone.evaluate("document.documentElement.scrollWidth") <= 390


def test_a_pulley_to_make_is_opened_and_its_outline_taken_along(window, empty_shop):
    page = window(keep(empty_shop, demo("Spindlewood")) + "/sheet")
    page.get_by_role("link", name="V-belt pulley, 4 steps, stage 1, driver").click()
    expect(page.get_by_role("heading", name="V-belt pulley, 4 steps")).to_be_visible()
    expect(page.locator("#wheel")).to_contain_text("Over two pins, step 1")
    with page.expect_download() as download:
        page.locator(".files").first.get_by_role("link", name="DXF").first.click()
    assert download.value.suggested_filename == "Spindlewood-bench-lathe-1-driver.dxf"
    page.get_by_role("link", name="Back to the sheet").click()
    expect(page.get_by_role("heading", name="Before first power")).to_be_visible()
