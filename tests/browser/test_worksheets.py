"""Each worksheet filled in the real interface, in metric and in inch units, with one absurd value that is refused."""

from __future__ import annotations

import pytest
from playwright.sync_api import Page, expect
from pydantic import TypeAdapter

from builders import build_machine
from pulltide.core.needs import NEED_KINDS, AnyWorksheet
from pulltide.core.needs.assess import assess
from pulltide.quantities import UNIT_CHOICES, Units, show
from pulltide.services.fields import describe
from pulltide.store.machines import PostgresMachines
from typed import INCH, INCH_UNITS, METRIC, typed
from worksheets import WORKSHEETS

pytestmark = pytest.mark.browser


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
    for name, value in units.model_dump(include=set(UNIT_CHOICES)).items():
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


#: One worksheet of each group in the browser, metric and inch in turn; all of them at the form level.
FIRST_OF_GROUP = {kind.group: kind for kind in reversed(NEED_KINDS)}


@pytest.mark.parametrize("group", list(FIRST_OF_GROUP))
def test_worksheets_are_filled_and_absurd_values_refused(window, empty_shop, group: str):
    units = (Units(), INCH_UNITS)[list(FIRST_OF_GROUP).index(group) % 2]
    blank = {name: None for name in ("speed_min_rpm", "speed_ideal_rpm", "speed_max_rpm")}
    stored = PostgresMachines(empty_shop).create(build_machine(need=blank))
    page = window(f"/machines/{stored.id}?at=need")
    if units != Units():
        in_units(page, units)
        page.goto(f"/machines/{stored.id}?at=need")
    system = METRIC if units == Units() else INCH
    kind = FIRST_OF_GROUP[group]
    choose(page, kind.title)
    clear_speeds(page)
    fill_and_check(page, kind.kind, units, system)


def clear_speeds(page: Page) -> None:
    """Speeds of one's own are taken from one worksheet to the next."""
    for name in ("speed_min_rpm", "speed_ideal_rpm", "speed_max_rpm"):
        if page.locator(f"#f-need-worksheet-{name}").input_value():
            put(page, name, "")
            settled(page)
