"""Every kind of link in the real interface: added, changed, refused, stepped through stock, drawn, undone."""

from __future__ import annotations

import pytest
from playwright.sync_api import Page, expect

from builders import SHIPPED, build_belt, build_machine
from pulltide.core.links import family_of
from pulltide.store.machines import PostgresMachines

pytestmark = pytest.mark.browser

NEED = {"running_torque_nm": 20.0, "peak_torque_nm": 30.0, "breakaway_torque_nm": None}
#: Button, its title on the post, a field with a value, a field with a value out of range, and what the refusal says.
KINDS = [
    ("Timing belt", "Timing belt L", ("Driven teeth", "48"), ("Driven teeth", "2000"), "out of range"),
    ("Gear pair", "Gear pair", ("Driven teeth", "80"), ("Driven teeth", "3"), "6 to 400"),
    ("Helical gear pair", "Helical pair", ("Driven teeth", "80"), ("Helix angle", "60 deg"), "5° to 45°"),
    ("Bevel gear pair", "Bevel pair", ("Driven teeth", "50"), ("Angle between the shafts", "10 deg"), "30° to 150°"),
    ("Friction roller", "Friction roller", ("Driver diameter", "80 mm"), ("Driving rollers", "9"), "1 to 4"),
    ("Gear train", "Gear train", ("First pair, driver teeth", "24"), ("First pair, driver teeth", "3"), "6 to 400"),
    ("Flat or round belt", "Flat belt", ("Driven pulley", "300 mm"), ("Driven pulley", "5 mm"), "10 mm to 3000 mm"),
    ("Planetary set", "Planetary set", ("Planet teeth", "30"), ("Ring teeth", "10"), "20 to 600"),
    ("Worm and wheel", "Worm and wheel", ("Wheel teeth", "60"), ("Starts of the worm", "0"), "1 to 8"),
    ("Strain-wave gear", "Strain-wave gear", ("Teeth of the flexible cup", "160"), ("Teeth of the rigid ring", "163"),
     "multiple of 2"),
    ("Coupling", "Coupling CJ-65", ("Coupling", "CC-40-16"), ("Coupling", "CJ-66"), "CJ-65"),
    ("Lantern pinion", "Lantern pinion", ("Pins", "14"), ("Pins", "2"), "3 to 60"),
    ("Gear reducer", "Reducer PW-1", ("Reducer", "PX-2 80:1"), ("Reducer", "PX-2 81:1"), "PX-2 80:1"),
]  # fmt: skip


def settled(page: Page) -> None:
    expect(page.locator("#train[data-busy]")).to_have_count(0)


def put(page: Page, label: str, text: str) -> None:
    field = page.locator("#bench").get_by_label(label, exact=True)
    if field.evaluate("node => node.tagName") == "SELECT":
        field.select_option(text)
    else:
        field.fill(text)
        field.press("Tab")
    settled(page)


def press(page: Page, name: str) -> None:
    page.get_by_role("button", name=name, exact=True).click()
    settled(page)


def open_rig(window, engine, links) -> Page:
    machine = build_machine(links=links, need=NEED)
    return window(f"/machines/{PostgresMachines(engine).create(machine).id}")


@pytest.mark.parametrize("kind", KINDS, ids=lambda kind: kind[0])
def test_a_link_of_every_kind_is_added_changed_refused_and_undone(window, empty_shop, kind: tuple):
    name, title, good, bad, says = kind
    page = open_rig(window, empty_shop, [])
    press(page, f"+ {name}")
    expect(page.locator("#link-1 h2")).to_have_text(title)
    expect(page.locator(".elevation .wheel, .elevation .case").first).to_be_visible()
    page.locator("#link-1 a").first.click()
    settled(page)
    put(page, *good)
    before = page.locator(".gives .figure").inner_text()
    field = page.locator("#bench").get_by_label(bad[0], exact=True)
    field.fill(bad[1])
    field.press("Tab")
    settled(page)
    expect(page.locator("#bench .help", has_text=says)).to_be_visible()
    expect(field).to_have_value(bad[1])
    expect(page.locator(".gives .figure")).to_have_text(before)
    page.reload()
    page.locator("#undo").click()
    settled(page)
    page.locator("#undo").click()
    settled(page)
    expect(page.locator("#link-1")).to_have_count(0)


def test_a_drum_and_an_idler_change_the_picture(window, empty_shop):
    page = open_rig(window, empty_shop, [build_belt(belt="A75")])
    page.locator("#link-1 a").first.click()
    settled(page)
    wheels = page.locator(".elevation .wheel").count()
    expect(page.get_by_label("Idler outside diameter", exact=True)).to_have_count(0)
    put(page, "Idler", "slack_strand_outside")
    expect(page.get_by_label("Idler outside diameter", exact=True)).to_be_visible()
    expect(page.locator(".elevation .wheel")).to_have_count(wheels + 1)
    put(page, "Driven rim is", "flat_drum")
    expect(page.locator("#bench .remarks")).to_contain_text("flat drum")
    page.locator("#bench").get_by_label("Belt runs", exact=True).select_option("crossed")
    settled(page)
    expect(page.locator("#bench .help", has_text="does not run crossed")).to_be_visible()


def test_stock_is_stepped_through_from_the_keyboard(window, empty_shop):
    page = open_rig(window, empty_shop, [{"kind": "coupling", "designation": "CJ-65"}])
    page.locator("#link-1 a").first.click()
    settled(page)
    field = page.locator("#bench").get_by_label("Coupling", exact=True)
    field.press("End")
    field.press("+")
    settled(page)
    expect(page.locator("#link-1 h2")).to_have_text("Coupling CJ-80")


def test_an_unmeetable_planetary_set_is_mended_by_what_is_offered(window, empty_shop):
    five = {"kind": "planetary", "sun_teeth": 24, "planet_teeth": 24, "ring_teeth": 72, "planets": 5}
    page = open_rig(window, empty_shop, [{**five, "module_mm": 2.0, "face_width_mm": 25.0}])
    fault = page.locator(".finding-fix", has_text="cannot be assembled")
    expect(fault).to_be_visible()
    fault.locator(".remedy").first.click()
    settled(page)
    expect(page.locator(".finding-fix", has_text="cannot be assembled")).to_have_count(0)


def test_a_sun_of_another_size_takes_its_ring_along(window, empty_shop):
    page = open_rig(window, empty_shop, [family_of("planetary").starter(SHIPPED).model_dump(mode="json")])
    page.locator("#link-1 a").first.click()
    settled(page)
    put(page, "Sun teeth", "18")
    expect(page.locator("#bench").get_by_label("Ring teeth", exact=True)).to_have_value("66")
    expect(page.locator("#link-1")).to_contain_text("18 / 24 / 66 t")


def test_a_shaft_is_described_and_becomes_a_rung(window, empty_shop):
    page = open_rig(window, empty_shop, [{"kind": "reducer", "designation": "PL-2 15:1"}])
    page.locator("#shaft-2 h2 a").click()
    settled(page)
    press(page, "Enter its size and key")
    put(page, "Least diameter", "20 mm")
    expect(page.locator("#bench")).to_contain_text("needs its steel")
    put(page, "Shaft steel", "steel_1045")
    expect(page.locator(".rung", has_text="Shaft twists")).to_contain_text("Shaft 2")
    press(page, "Forget this shaft’s sizes")
    expect(page.locator(".rung", has_text="Shaft twists")).to_have_count(0)


def test_a_drum_on_the_last_shaft_says_its_pull_and_wants_a_brake(window, empty_shop):
    page = open_rig(window, empty_shop, [{"kind": "reducer", "designation": "PL-2 15:1"}])
    page.locator(".rail").get_by_role("link", name="Need").click()
    settled(page)
    page.locator("#end").get_by_role("button", name="Drum and rope").click()
    settled(page)
    expect(page.locator("#end")).to_contain_text("Drum and rope pulls with 358 N (377 N without loss)")
    expect(page.locator(".side")).to_contain_text("Only the drive would hold the load")
    page.get_by_label("A brake holds the load", exact=True).select_option("yes")
    settled(page)
    expect(page.locator(".side")).not_to_contain_text("Only the drive would hold the load")
    page.locator(".rail").get_by_role("link", name="Train").click()
    expect(page.locator(".end-says")).to_contain_text("Drum and rope pulls with 358 N")
    page.get_by_role("link", name="What it moves").click()
    settled(page)
    page.locator("#end").get_by_role("button", name="Take it off").click()
    settled(page)
    expect(page.locator("#end")).to_contain_text("What it moves")


def test_a_reducer_is_taken_from_the_list_and_put_back(window, empty_shop):
    """≡ opens what every unit would do; Take changes the plan, the list stays open; undo brings the old one back."""
    kept = PostgresMachines(empty_shop).create(build_machine())
    page = window(f"/machines/{kept.id}/train?at=link-2")
    field = page.get_by_label("Reducer", exact=True)
    before = field.input_value()
    page.get_by_role("link", name="Reducer: list").click()
    expect(page.get_by_role("heading", name="Reducer for stage 2")).to_be_visible()
    first = page.locator(".pick-list tbody tr", has=page.get_by_role("button")).first
    name = first.locator("th").inner_text().split("\n")[0]
    first.get_by_role("button").click()
    expect(field).to_have_value(name)
    expect(page.locator(".pick-list tr.chosen th")).to_contain_text(name)
    page.locator("#undo").click()
    expect(field).to_have_value(before)
    page.get_by_role("link", name="Close the list").click()
    expect(page.locator("#picker")).to_have_count(0)
