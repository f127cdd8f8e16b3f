"""Duty and Source in the real interface: what is taken, inferred, compared and refused there."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from builders import build_belt, build_machine
from pulltide.demo import demo_machines
from pulltide.store.machines import PostgresMachines

pytestmark = pytest.mark.browser


def settled(page: Page) -> None:
    expect(page.locator("#train[data-busy]")).to_have_count(0)


def put(page: Page, label: str, text: str) -> None:
    field = page.get_by_label(label, exact=True)
    if field.evaluate("node => node.tagName") == "SELECT":
        field.select_option(text)
    else:
        field.fill(text)
        field.press("Tab")
    settled(page)


def keep(engine, machine) -> str:
    return f"/machines/{PostgresMachines(engine).create(machine).id}"


def demo(name: str):
    return next(machine for machine in demo_machines() if machine.name.startswith(name))


def told(page: Page, name: str) -> str:
    return page.locator(".told div", has=page.locator(f"dt:text-is('{name}')")).inner_text()


def test_a_half_legible_plate_is_read_and_its_guesses_are_marked(window, empty_shop):
    machine = build_machine(links=[build_belt()])
    bare = machine.model_copy(update={"plans": (machine.plans[0].model_copy(update={"source": None}),)})
    page = window(keep(empty_shop, bare) + "?at=source")
    expect(page.get_by_role("heading", name="Enter the motor")).to_be_visible()
    put(page, "Voltage", "115")
    put(page, "Current", "9.8 A")
    put(page, "How it starts", "capacitor_start")
    expect(page.get_by_role("heading", name="Not enough entered yet")).to_be_visible()
    put(page, "Speed with the belt off", "1795")
    assert "likely" in told(page, "Power")
    assert "a guess" in told(page, "Full-load speed")
    assert "follows" in told(page, "Poles")
    expect(page.locator(".curve")).to_be_visible()
    assert page.locator(".points li").count() >= 3
    put(page, "Full-load speed", "1725")
    assert "read" in told(page, "Full-load speed")
    put(page, "Full-load speed", "9000")
    expect(page.get_by_label("Full-load speed", exact=True)).to_have_attribute("aria-invalid", "true")
    assert "1725" in told(page, "Full-load speed"), "what was saved stays"


def test_the_next_larger_motor_shows_what_it_changes_and_is_taken(window, empty_shop):
    page = window(keep(empty_shop, demo("Lofthook")) + "?at=source")
    table = page.locator("section", has=page.get_by_role("heading", name="Smaller and larger"))
    loads = table.locator("tr", has_text="Loaded to").locator("td").all_inner_texts()
    assert [float(text.rstrip("%")) for text in loads] == sorted((float(t.rstrip("%")) for t in loads), reverse=True)
    table.get_by_role("button", name="Use it").last.click()
    settled(page)
    expect(page.get_by_label("Power", exact=True)).to_have_value("0.55 kW")
    expect(page.locator(".plans-card .was").first).to_be_visible()


def test_a_stock_motor_is_taken_and_put_on_the_shelf(window, empty_shop):
    where = keep(empty_shop, demo("Lofthook"))
    page = window(where + "?at=source")
    page.get_by_role("link", name="Open the list of motors").click()
    page.get_by_role("link", name="any supply").click()
    page.get_by_role("button", name="Use M091").click()
    settled(page)
    expect(page.get_by_label("Power", exact=True)).to_have_value("0.75 kW")
    assert "230 V" not in page.get_by_label("Circuit", exact=True).input_value(), "the circuit stays as it was"
    page.locator("#shelf-name").fill("spare from the mixer")
    page.get_by_role("button", name="Put it on the shelf").click()
    expect(page.get_by_text("spare from the mixer")).to_be_visible()
    page.goto(keep(empty_shop, demo("Marlpit")) + "?at=source")
    page.locator(".shelf-row", has_text="spare from the mixer").get_by_role("button", name="Use it").click()
    settled(page)
    expect(page.get_by_label("Frame", exact=True)).not_to_have_value("")
    page.get_by_role("button", name="Remove from shelf").click()
    expect(page.get_by_text("The shelf is empty", exact=False)).to_be_visible()


@pytest.mark.parametrize(
    ("kind", "fields", "says"),
    [
        (
            "Brushed DC motor",
            {"Voltage at the motor": "24", "Winding resistance": "0.16", "No-load speed": "3000"},
            "Current, running",
        ),
        (
            "Brushless motor",
            {"Voltage at the motor": "36", "Winding resistance": "0.045", "Speed per volt": "60 kV"},
            "Stall",
        ),
        ("Universal motor", {"Input on its plate": "900 W", "No-load speed": "20000"}, "Unloaded"),
        ("Hand crank", {"Force on the handle": "18 lb"}, "Force, running"),
        ("Small engine", {"Power on its plate": "5 1/2 hp", "At": "3600"}, "Torque at governed speed"),
    ],
)
def test_other_sources_are_entered(window, empty_shop, kind: str, fields: dict[str, str], says: str):
    page = window(keep(empty_shop, build_machine(links=[build_belt()], need={"running_torque_nm": 2.0})) + "?at=source")
    page.get_by_role("button", name=kind, exact=True).click()
    settled(page)
    for label, text in fields.items():
        put(page, label, text)
    expect(page.locator(".curve")).to_be_visible()
    expect(page.locator(".facts dt", has_text=says).first).to_be_visible()
    page.locator(".rail").get_by_role("link", name="Train").click()
    expect(page.locator(".gives .figure")).to_be_visible()


def test_the_duty_of_the_tables_is_taken_and_a_cycle_is_built(window, empty_shop):
    page = window(keep(empty_shop, demo("Marlpit").model_copy(update={"need": demo("Windrow").need})) + "?at=duty")
    page.get_by_role("button", name="Use it").click()
    settled(page)
    expect(page.get_by_label("Shock of the load", exact=True)).to_have_value("light")
    factors = page.locator(".factors tbody tr")
    assert {
        "V-belt",
        "Roller chain",
        "Reducer, helical",
        "Reducer, worm",
        "Timing belt",
        "Flat or round belt",
        "Gear train",
        "Helical gears",
        "Bevel gears",
        "Friction roller",
        "Open gears",
        "Planetary set",
        "Worm and wheel",
        "Strain-wave gear",
        "Lantern pinion",
        "Coupling, jaw",
        "Motor",
    } == set(factors.locator("th").all_inner_texts())
    page.get_by_role("button", name="Add a stretch").click()
    settled(page)
    page.get_by_role("button", name="Add a stretch").click()
    settled(page)
    put(page, "Torque over running torque, stretch 1", "1.5")
    put(page, "Speed over ideal speed, stretch 2", "0")
    put(page, "Torque over running torque, stretch 2", "0")
    expect(page.locator(".tile", has_text="Root mean cube").locator(".big")).to_have_text("150%")
    put(page, "Torque over running torque, stretch 1", "50000")
    expect(page.get_by_label("Torque over running torque, stretch 1", exact=True)).to_have_attribute(
        "aria-invalid", "true"
    )


def test_three_margin_rules_stand_side_by_side(window, empty_shop):
    page = window(keep(empty_shop, demo("Lofthook")) + "?at=duty")
    rules = page.locator("section", has=page.get_by_role("heading", name="Sizing by other margin rules"))
    assert rules.locator("tbody tr").count() == 3
    expect(rules.locator("tr.chosen th")).to_have_text("running load × part's factor")
    put(page, "Margin rule", "motor_nameplate")
    expect(rules.locator("tr.chosen th")).to_have_text("motor nameplate × factor")


def test_a_worksheet_changed_later_says_what_it_did_to_every_plan(window, empty_shop):
    page = window(keep(empty_shop, demo("Lofthook")) + "?at=need")
    card = page.locator(".plans-card")
    expect(card.locator("tbody tr")).to_have_count(2)
    put(page, "Mass of a piece", "16 kg")
    expect(card).to_contain_text("running torque 24 N·m →")
    assert card.locator(".was").count() >= 4, "motor and tightest part of both plans, before and after"
    page.keyboard.press("Escape")
    page.locator("#undo").click()
    settled(page)
    expect(page.get_by_label("Mass of a piece", exact=True)).to_have_value("11 kg")


def test_the_load_is_turned_up_and_the_picture_answers(window, empty_shop):
    links = [build_belt(static_tension_n=90, slips_first=True), {"kind": "reducer", "designation": "PW-6 15:1"}]
    page = window(keep(empty_shop, build_machine(links=links, need={"running_torque_nm": 45.0})))
    use = page.locator("#link-1 .use b")
    at_rest = use.inner_text()
    torque = page.locator("#shaft-1 [data-torque] b").inner_text()
    fuse = page.locator(".rung", has_text="intended fuse")
    expect(fuse).not_to_have_class(re.compile("passed"))
    slider = page.get_by_label("Increase the load")
    slider.focus()
    slider.press("End")
    expect(fuse).to_have_class(re.compile("passed"))
    expect(page.locator("#link-1 .use-gauge")).to_have_class(re.compile("use-gauge-fix"))
    expect(use).not_to_have_text(at_rest)
    expect(page.locator("#turn-up-says")).to_contain_text("× the running load")
    expect(page.locator(".elevation .loop.belt.gave")).to_have_count(1)
    assert page.locator("#shaft-1 [data-torque] b").inner_text() != torque
    expect(page.locator(".rung-unknown")).to_contain_text("Keys shear, shafts twist")
    slider.press("Home")
    expect(page.locator(".rung.passed")).to_have_count(0)
    expect(page.locator(".elevation .gave")).to_have_count(0)
