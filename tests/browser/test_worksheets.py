"""Each worksheet filled in the real interface, in metric and in inch units, with one absurd value that is refused."""

from __future__ import annotations

from typing import Any

import pytest
from playwright.sync_api import Page, expect
from pydantic import TypeAdapter

from builders import build_machine
from pulltide.core.needs import NEED_KINDS, AnyWorksheet
from pulltide.core.needs.assess import assess
from pulltide.quantities import Units, show
from pulltide.services.fields import describe
from pulltide.store.machines import PostgresMachines
from worksheets import WORKSHEETS

pytestmark = pytest.mark.browser
INCH_UNITS = Units(
    length="in", torque="lbf*ft", power="hp", force="lbf", rim_speed="ft/min", temperature="degF", mass="lb"
)
#: Text of a value in each system: unit as typed, and how many of it one core unit is.
METRIC = {
    "mm": ("mm", 1),
    "kg": ("kg", 1),
    "N": ("N", 1),
    "N*m": ("N·m", 1),
    "kW": ("kW", 1),
    "m/s": ("m/s", 1),
    "m/min": ("m/min", 1),
    "kg/m**3": ("kg/m³", 1),
    "kg/m": ("kg/m", 1),
    "kPa": ("kPa", 1),
    "MPa": ("N/mm²", 1),
    "deg": ("°", 1),
    "rpm": ("rpm", 1),
    "Pa*s": ("Pa·s", 1),
    "m**3/h": ("m³/h", 1),
    "t/h": ("t/h", 1),
    "s": ("s", 1),
    "kg*m**2": ("kg·m²", 1),
    "kJ/kg": ("kJ/kg", 1),
    "arcmin": ("arcmin", 1),
    "A": ("A", 1),
    "": ("", 1),
}
INCH = METRIC | {
    "mm": ("in", 1 / 25.4),
    "kg": ("lb", 1 / 0.45359237),
    "N": ("lb", 1 / 4.4482216),
    "N*m": ("ft-lb", 1 / 1.3558179),
    "kW": ("hp", 1 / 0.74569987),
    "m/s": ("ft/min", 196.850394),
    "m/min": ("ft/min", 3.2808399),
    "kg/m**3": ("lb/ft³", 1 / 16.018463),
    "kg/m": ("lb/ft", 1 / 1.4881639),
    "kPa": ("psi", 1 / 6.8947573),
    "MPa": ("ksi", 1 / 6.8947573),
    "Pa*s": ("cP", 1000),
    "m**3/h": ("gpm", 4.4028675),
}


def typed(kind: str, name: str, value: Any, system: dict[str, tuple[str, float]]) -> str:
    """How a person would type a value of a field."""
    document = {"need": {"worksheet": {"kind": kind, name: value}}}
    described = describe(document, f"need.worksheet.{name}")
    if described.kind == "yes_no":
        return "yes" if value else "no"
    if described.kind != "quantity":
        return str(value)
    unit, factor = system[described.unit]
    return f"{value * factor:.7g} {unit}".strip()


def settled(page: Page) -> None:
    expect(page.locator("#train[data-busy]")).to_have_count(0, timeout=20_000)


PUT = """
([name, text]) => {
  const field = document.getElementById(`f-need-worksheet-${name}`);
  field.value = text;
  field.dispatchEvent(new Event("input", { bubbles: true }));
  field.dispatchEvent(new Event("change", { bubbles: true }));
}
"""


def put(page: Page, name: str, text: str) -> None:
    """Leave a field with a text in it, as quickly as the page takes it; some show only once another is chosen."""
    page.locator(f"#f-need-worksheet-{name}").wait_for()
    page.evaluate(PUT, [name, text])


def choose(page: Page, title: str) -> None:
    page.locator("#kinds summary").click()
    page.locator("#kinds").get_by_role("button", name=title, exact=True).click()
    settled(page)


def shown_running(page: Page) -> str:
    return page.locator(".tile", has_text="Running torque").locator(".big").inner_text()


def in_units(page: Page, units: Units) -> None:
    """Choose units in the menu of the page."""
    page.locator("details.menu summary", has_text="mm").click()
    for name, value in units.model_dump().items():
        page.locator(f"#units-{name}").select_option(value)
    page.get_by_role("button", name="Use these").click()


def describe_of(kind: str, name: str):
    return describe({"need": {"worksheet": {"kind": kind}}}, f"need.worksheet.{name}")


def fill_and_check(page: Page, kind: str, units: Units, system: dict[str, tuple[str, float]]) -> None:
    inputs = WORKSHEETS[kind]
    for name, value in inputs.items():
        put(page, name, typed(kind, name, value, system))
    settled(page)
    asked = assess(TypeAdapter(AnyWorksheet).validate_python({"kind": kind, **inputs}))
    expected = str(show(asked.running_nm[1], "N*m", units))
    assert shown_running(page) == expected, kind
    assert page.locator(".sketch").is_visible()
    assert page.locator(".working").count() >= 1

    name = next(name for name in inputs if describe_of(kind, name).kind == "quantity")
    described = describe_of(kind, name)
    field, told = (page.locator(f"#f-need-worksheet-{name}{part}") for part in ("", "-help"))
    field.fill(f"{described.high * 1000:.6g} {METRIC[described.unit][0]}")
    field.press("Tab")
    expect(field).to_have_attribute("aria-invalid", "true")
    expect(told).to_contain_text(described.title)
    expect(told).to_contain_text("Accepted:")
    assert shown_running(page) == expected, "nothing that was saved has changed"
    for other in inputs:
        if other != name:
            assert page.locator(f"#f-need-worksheet-{other}").input_value() != "", (kind, other)
    put(page, name, typed(kind, name, inputs[name], system))
    settled(page)


@pytest.mark.parametrize("units", [Units(), INCH_UNITS], ids=["metric", "inch"])
@pytest.mark.parametrize("group", list(dict.fromkeys(kind.group for kind in NEED_KINDS)))
def test_worksheets_are_filled_and_absurd_values_refused(window, empty_shop, group: str, units: Units):
    blank = {name: None for name in ("speed_min_rpm", "speed_ideal_rpm", "speed_max_rpm")}
    stored = PostgresMachines(empty_shop).create(build_machine(need=blank))
    page = window(f"/machines/{stored.id}?at=need")
    if units != Units():
        in_units(page, units)
        page.goto(f"/machines/{stored.id}?at=need")
    system = METRIC if units == Units() else INCH
    for kind in NEED_KINDS:
        if kind.group == group:
            choose(page, kind.title)
            clear_speeds(page)
            fill_and_check(page, kind.kind, units, system)


def clear_speeds(page: Page) -> None:
    """Speeds of one's own are taken from one worksheet to the next."""
    for name in ("speed_min_rpm", "speed_ideal_rpm", "speed_max_rpm"):
        if page.locator(f"#f-need-worksheet-{name}").input_value():
            put(page, name, "")
            settled(page)
