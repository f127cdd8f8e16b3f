"""A shared shop in the browser, over TLS: signing in, letting somebody in, two people on one machine."""

from __future__ import annotations

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, expect

from browser.test_places import demo, keep, settled
from pulltide.services.accounts import Role
from pulltide.store.accounts import PostgresAccounts
from pulltide.store.passwords import Argon2Hasher

pytestmark = pytest.mark.browser
GOOD = "seven herons by the weir"
#: What a colleague does is seen within a second; a crowded machine is given longer [ms].
SOON_MS = 15_000


@pytest.fixture
def people(empty_shop) -> PostgresAccounts:
    accounts, hashed = PostgresAccounts(empty_shop), Argon2Hasher(quick=True).hash(GOOD)
    for name, role in (("Ada Rill", Role.OWNER), ("Bo Tarn", Role.BUILDER), ("Rea Lode", Role.READER)):
        accounts.add(name, role, hashed)
    return accounts


def come_in(page: Page, name: str) -> None:
    page.get_by_label("Name").fill(name)
    page.get_by_label("Password").fill(GOOD)
    page.get_by_role("button", name="Sign in").click()


def no_violation(page: Page) -> None:
    violations = Axe().run(page).response["violations"]
    assert not violations, [(v["id"], v["nodes"][0]["html"][:200]) for v in violations]


def no_sideways(page: Page) -> None:
    assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth + 1")


def test_signing_in_in_the_browser(shared_window, people, empty_shop):
    page = shared_window(keep(empty_shop, demo("Marlpit")) + "/sheet")
    page.get_by_label("Name").fill("ada rill")
    page.get_by_label("Password").fill("something else")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("Wrong name or password")
    expect(page.get_by_label("Name")).to_have_value("ada rill")
    expect(page.get_by_label("Password")).to_be_focused()
    come_in(page, "ada rill")
    expect(page.get_by_label("Build sheet")).to_be_visible()
    page.get_by_label("Signed in as Ada Rill").click()
    page.get_by_role("button", name="Sign out").click()
    expect(page.get_by_role("button", name="Sign in")).to_be_visible()
    page.go_back()
    expect(page.get_by_label("Build sheet")).not_to_be_visible()


def test_an_owner_lets_somebody_in(shared_window, people):
    page = shared_window("/people")
    come_in(page, "Ada Rill")
    page.get_by_label("Add a person").fill("Tam Weir")
    page.get_by_role("button", name="Make a link").click()
    link = page.locator(".secret").first.inner_text()
    other = shared_window("/sign-in", viewport={"width": 390, "height": 844})
    other.goto(link)
    other.get_by_label("Password").fill("four words in a row")
    other.get_by_role("button", name="Set password and sign in").click()
    expect(other.get_by_label("Signed in as Tam Weir")).to_be_visible()
    no_sideways(other)


def test_two_people_on_one_machine_see_each_other_and_what_the_other_changes(shared_window, people, empty_shop):
    path = keep(empty_shop, demo("Marlpit")) + "/duty"
    ada, bo = shared_window(path), shared_window(path)
    come_in(ada, "Ada Rill")
    come_in(bo, "Bo Tarn")
    expect(ada.locator("#together")).to_have_text("Also here: Bo Tarn", timeout=SOON_MS)
    expect(bo.locator("#together")).to_have_text("Also here: Ada Rill", timeout=SOON_MS)
    hours = ada.get_by_label("Hours a day")
    hours.focus()
    expect(bo.get_by_label("Hours a day")).to_have_attribute("title", "Ada Rill has this field open", timeout=SOON_MS)
    hours.fill("7")
    ada.keyboard.press("Tab")
    settled(ada)
    expect(bo.get_by_label("Hours a day")).to_have_value("7 h", timeout=SOON_MS)
    expect(bo.locator("#saved")).to_contain_text("Ada Rill")
    # another field is never refused, and what is being typed is not disturbed
    starts = bo.get_by_label("Starts an hour")
    starts.select_text()
    starts.press_sequentially("1")
    hours.fill("8")
    ada.keyboard.press("Tab")
    settled(ada)
    starts.press_sequentially("2")
    bo.keyboard.press("Tab")
    settled(bo)
    expect(ada.get_by_label("Starts an hour")).to_have_value("12", timeout=SOON_MS)
    expect(bo.get_by_label("Hours a day")).to_have_value("8 h", timeout=SOON_MS)
    bo.close()
    expect(ada.locator("#together")).to_be_hidden(timeout=SOON_MS)


def test_a_reader_is_told_and_an_entry_is_refused_in_words(shared_window, people, empty_shop):
    page = shared_window(keep(empty_shop, demo("Marlpit")) + "/duty")
    come_in(page, "Rea Lode")
    expect(page.get_by_text("You have read-only access")).to_be_visible()


@pytest.mark.parametrize(("scheme", "width"), [("light", 1280), ("dark", 390)])
def test_no_violation_on_what_is_for_people(shared_window, people, empty_shop, scheme: str, width: int):
    machine = keep(empty_shop, demo("Marlpit"))
    page = shared_window("/sign-in", color_scheme=scheme, viewport={"width": width, "height": 844})
    no_violation(page)
    come_in(page, "Ada Rill")
    for path in ("/people", "/me", "/shop", "/new", f"{machine}/history?look=1", f"{machine}/duty"):
        page.goto(path)
        no_violation(page)
        no_sideways(page)
