"""A shaft placed between its bearings in the real interface, and a belt exchanged for the next length."""

from __future__ import annotations

import pytest
from playwright.sync_api import Page, expect

from browser.test_places import demo, keep, put, settled

pytestmark = pytest.mark.browser


def told(page: Page, name: str) -> str:
    return page.locator(".shaft-told div", has=page.locator(f"dt:text-is('{name}')")).locator("dd").first.inner_text()


def test_a_shaft_is_described_judged_and_mended(window, empty_shop):
    machine = demo("Windrow")
    bare = machine.model_copy(update={"plans": tuple(plan.model_copy(update={"shafts": ()}) for plan in machine.plans)})
    page = window(keep(empty_shop, bare) + "/train")
    page.keyboard.press("g")
    page.keyboard.press("f")
    expect(page.get_by_role("heading", name="Fit", exact=True)).to_be_visible()
    page.get_by_role("button", name="Describe this shaft").click()
    settled(page)
    expect(page.get_by_text("Still needed: its diameter, where two bearings stand")).to_be_visible()
    for label, text in (
        ("Least diameter", "25 mm"),
        ("First bearing at", "4 1/2 in"),
        ("Second bearing at", "380"),
        ("Wheel of the stage before at", "30 mm"),
    ):
        put(page, label, text)
    expect(page.locator("svg.strips")).to_be_visible()
    expect(page.locator("#side .finding-fix")).not_to_have_count(0)
    weak = float(told(page, "Safety against fatigue"))
    page.locator(".shaft-told").get_by_role("link").first.click()
    expect(page.locator("#working")).to_contain_text("Safety by Goodman")
    expect(page.locator("#working math").first).to_be_visible()
    page.get_by_role("link", name="Close working").click()
    settled(page)
    put(page, "Least diameter", "50 mm")
    expect(page.locator("#side .finding-fix")).to_have_count(0)
    assert float(told(page, "Safety against fatigue")) > 2 * weak
    put(page, "Second bearing at", "4 1/2 in")
    expect(page.get_by_text("A shaft needs two bearings at different places")).to_be_visible()
    page.keyboard.press("Escape")
    page.locator("h1").click()
    page.keyboard.press("u")
    settled(page)
    expect(page.locator("svg.strips")).to_be_visible()


def test_a_place_along_the_shaft_is_pressed_and_read(window, empty_shop):
    page = window(keep(empty_shop, demo("Windrow")) + "/fit")
    says = page.locator("#scrub-says")
    expect(says).to_contain_text("bending")
    holder = page.locator(".stripped")
    box = holder.bounding_box()
    # over the first bearing, where it bends most
    foot = page.locator("svg.strips text", has_text="bearing 1").bounding_box()
    holder.click(position={"x": foot["x"] + foot["width"] / 2 - box["x"], "y": 60})
    expect(page.locator(".stripped.marked")).to_have_count(1)
    most = page.locator("svg.strips text.size", has_text="N·m").first.text_content()
    expect(says).to_contain_text(f"bending {most}")
    pressed = says.inner_text()
    page.locator("#scrub").press("ArrowRight")
    expect(says).not_to_have_text(pressed)


def test_the_next_belt_is_one_press_and_moves_the_centers(window, empty_shop):
    page = window(keep(empty_shop, demo("Windrow")) + "/fit")
    card = page.locator(".length-card").first
    before = card.locator(".big").inner_text()
    promised = card.locator("li", has_not=page.locator("b")).last
    name, center = promised.get_by_role("button").inner_text(), promised.locator(".num").inner_text()
    promised.get_by_role("button").click()
    settled(page)
    expect(card.locator("li.now b")).to_have_text(name)
    assert card.locator(".big").inner_text().startswith(center)
    assert card.locator(".big").inner_text() != before


def test_fit_on_a_phone(window, empty_shop):
    page = window(keep(empty_shop, demo("Windrow")) + "/fit")
    page.set_viewport_size({"width": 390, "height": 844})
    assert page.evaluate("document.documentElement.scrollWidth") <= 390


def test_a_ringed_shaft_is_dragged_to_the_next_stock_length_and_back(window, empty_shop):
    page = window(keep(empty_shop, demo("Windrow")) + "/fit")
    ring = page.locator("#ring-3")
    before = ring.get_attribute("aria-valuetext")
    assert "150 links" in before
    box = ring.locator("circle").last.bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + 6, y, steps=3)
    expect(ring.locator("text")).to_contain_text("152 links")
    page.mouse.up()
    settled(page)
    expect(page.locator(".length-card", has_text="Chain 60").locator("li.now")).to_contain_text("152 links")
    expect(ring).to_have_attribute("aria-valuetext", page.locator("#ring-3").get_attribute("aria-valuetext"))
    page.keyboard.press("u")
    settled(page)
    expect(page.locator("#ring-3")).to_have_attribute("aria-valuetext", before)


def test_a_ring_is_moved_by_keys_and_escape_leaves_it(window, empty_shop):
    page = window(keep(empty_shop, demo("Windrow")) + "/fit")
    ring = page.locator("#ring-1")
    before = ring.get_attribute("aria-valuetext")
    ring.focus()
    page.keyboard.press("ArrowRight")
    settled(page)
    expect(page.locator(".length-card", has_text="V-belt A").locator("li.now")).to_contain_text("A48")
    expect(page.locator("#ring-1")).to_be_focused()
    page.keyboard.press("ArrowLeft")
    settled(page)
    expect(page.locator("#ring-1")).to_have_attribute("aria-valuetext", before)
    box = page.locator("#ring-1 circle").last.bounding_box()
    page.mouse.move(box["x"] + 10, box["y"] + 10)
    page.mouse.down()
    page.mouse.move(box["x"] + 60, box["y"] + 10, steps=3)
    page.keyboard.press("Escape")
    page.mouse.up()
    settled(page)
    expect(page.locator("#ring-1")).to_have_attribute("aria-valuetext", before)


def test_a_bearing_is_dragged_along_its_shaft_and_a_wheel_moved_by_keys(window, empty_shop):
    """The bent jackshaft of the hammer: the bearing goes out, the shaft bends less, and undo takes it back."""
    page = window(keep(empty_shop, demo("Bellwether")) + "/fit?plan=1&at=shaft-2")
    ring = page.locator("#ring-s-bearing_2_mm")
    ring.scroll_into_view_if_needed()
    expect(ring).to_have_attribute("aria-valuetext", "300 mm")
    safety = page.locator(".shaft-told dd.num").first
    before = float(safety.inner_text())
    box = ring.locator("circle").last.bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + 60, y, steps=4)
    expect(ring.locator("text")).to_contain_text("mm")
    page.mouse.up()
    settled(page)
    assert float(page.locator("#ring-s-bearing_2_mm").get_attribute("aria-valuetext").split()[0]) > 350
    assert float(safety.inner_text()) > before
    page.keyboard.press("u")
    settled(page)
    expect(page.locator("#ring-s-bearing_2_mm")).to_have_attribute("aria-valuetext", "300 mm")
    page.locator("#ring-s-driven_at_mm").focus()
    page.keyboard.press("ArrowRight")
    settled(page)
    expect(page.locator("#ring-s-driven_at_mm")).to_have_attribute("aria-valuetext", "115 mm")
    expect(page.locator("#ring-s-driven_at_mm")).to_be_focused()


def test_something_in_the_way_is_added_drawn_and_taken_away(window, empty_shop):
    page = window(keep(empty_shop, demo("Bellwether")) + "/fit?plan=1")
    page.locator("#room > summary").click()
    page.get_by_role("button", name="Add an obstacle").click()
    settled(page)
    expect(page.locator("#room")).to_contain_text("Still needed: how high the motor's shaft stands")
    page.get_by_label("Motor shaft above the floor").fill("420 mm")
    page.keyboard.press("Tab")
    settled(page)
    expect(page.locator(".obstacle-row h3")).to_contain_text("from stage")
    expect(page.locator(".sheet-card .obstacle")).to_have_count(1)
    page.get_by_label("Height", exact=True).fill("900")
    page.keyboard.press("Tab")
    settled(page)
    expect(page.locator(".obstacle-row h3")).to_contain_text("into stage")
    expect(page.locator("#side")).to_contain_text("An obstacle stands in this part of the drive")
    page.get_by_role("button", name="Remove").click()
    settled(page)
    expect(page.locator(".obstacle-row")).to_have_count(0)


def test_a_chain_beyond_a_right_angle_is_dragged_on_the_side_that_shows_it(window, empty_shop):
    page = window(keep(empty_shop, demo("Lofthook")) + "/fit?plan=1")
    front, above, side = page.locator(".sheet-card .ringed").all()
    expect(front.locator("path.band.chain")).to_have_count(1)
    expect(above.locator("path.band.chain")).to_have_count(1)
    expect(side.locator("path.loop.chain")).to_have_count(1)
    ring = side.locator("#ring-3")
    before = ring.get_attribute("aria-valuetext")
    assert before.startswith("70 links")
    ring.scroll_into_view_if_needed()
    box, loop = ring.locator("circle").last.bounding_box(), side.locator("path.loop.chain").bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    assert loop["x"] < x < loop["x"] + loop["width"] / 2, "on the driven sprocket, toward the near side"
    assert abs(y - (loop["y"] + loop["height"] / 2)) < 12
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x - 6, y, steps=3)
    expect(ring.locator("text")).to_contain_text("72 links")
    page.mouse.up()
    settled(page)
    expect(page.locator(".length-card", has_text="Chain 40").locator("li.now")).to_contain_text("72 links")
    page.keyboard.press("u")
    settled(page)
    expect(page.locator("#ring-3")).to_have_attribute("aria-valuetext", before)
