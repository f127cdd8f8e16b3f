"""This shop: its name on what it gives out, what a new machine begins with, and its own starters."""

from __future__ import annotations

import re
from dataclasses import replace

import pytest
from fastapi.testclient import TestClient

from builders import SHIPPED, build_machine
from pulltide.core.beginning import Wish, begin
from pulltide.core.duty import Duty
from pulltide.core.links import FAMILIES
from pulltide.core.machine import MAX_PLANS
from pulltide.core.transmission import Sizing
from pulltide.demo import demo_machines
from pulltide.services.shop import ShopSettings
from pulltide.store.shop import PostgresShop
from web.test_pages import keep, token


def post(client: TestClient, path: str, **data: str):
    return client.post(path, data={"form_token": token(client), **data}, follow_redirects=False)


def settled(client: TestClient, **values: str):
    return post(client, "/shop", **{f"set:{name}": value for name, value in values.items()})


def document(client: TestClient, machine_id: str):
    return client.get(f"/api/v1/machines/{machine_id}").json()["machine"]


def starter(client: TestClient, machine_id: str, part: str, name: str) -> str:
    assert post(client, "/shop/starters", source=f"{machine_id} {part}", name=name).status_code == 303
    page = client.get("/shop").text
    before = page[: page.index(f'aria-label="Delete {name}"')]
    return re.findall(r'name="starter" value="(\d+)"', before)[-1]


def test_a_new_machine_begins_with_what_the_shop_takes_for_granted(client: TestClient):
    answer = settled(client, name="Tern Hollow shop", hours_per_day="6 h", environment="dusty", energy_price="0.3")
    assert answer.status_code == 303
    made = post(client, "/machines", name="Mixer").headers["location"].split("/")[2]
    duty = document(client, made)["duty"]
    assert (duty["hours_per_day"], duty["environment"], duty["energy_price"]) == (6.0, "dusty", 0.3)
    assert 'value="Tern Hollow shop"' in client.get("/shop").text


def test_what_is_known_of_a_machine_goes_before_what_the_shop_takes_for_granted():
    known = build_machine(duty={"hours_per_day": 3.0, "environment": None})
    begun = ShopSettings(hours_per_day=9.0, environment="wet").begins(known)
    assert (begun.duty.hours_per_day, begun.duty.environment) == (3.0, "wet")


def test_the_rules_that_the_shop_sizes_by_are_those_of_a_new_machine(client: TestClient):
    settled(client, ambient_c="40 C", margin_rule="flat_factor", flat_factor="2.5", bearing_reliability="95")
    made = post(client, "/machines", name="Mixer").headers["location"].split("/")[2]
    duty = document(client, made)["duty"]
    found = [duty[name] for name in ("ambient_c", "margin_rule", "flat_factor", "bearing_reliability")]
    assert found == [40.0, "flat_factor", 2.5, "95"]
    settled(client, service_factor_override="1.6")
    made = post(client, "/machines", name="Mixer").headers["location"].split("/")[2]
    duty = document(client, made)["duty"]
    assert (duty["service_factor_override"], duty["override_reason"]) == (1.6, "the shop's own")
    assert duty["margin_rule"] == "running_load"


def test_prices_are_told_in_what_the_shop_counts_them_in(client: TestClient):
    machine_id = keep(client, demo_machines()[0])
    assert "price units for" in client.get(f"/machines/{machine_id}/sheet").text
    settled(client, price_unit="talers")
    sheet, compare, ways = (
        client.get(f"/machines/{machine_id}/{place}").text for place in ("sheet", "compare", "ways")
    )
    assert "talers for" in sheet
    for text in (sheet, compare, ways):
        assert "price units" not in text
    assert "talers" in compare
    assert "motor is 100 talers" in ways
    for unit, told in (("\u200b", "shows nothing"), ("x" * 13, "12 characters")):
        refused = settled(client, price_unit=unit)
        assert refused.status_code == 422
        assert told in refused.text


@pytest.mark.parametrize(
    ("kind", "field", "favorite"),
    [("v_belt", "section", "5L"), ("roller_chain", "chain", "08B"), ("toothed_belt", "profile", "5M")],
)
def test_a_new_stage_begins_with_the_size_that_the_shop_likes_best(client: TestClient, kind, field, favorite):
    settled(client, **{f"favorites.{kind}": favorite})
    machine_id = keep(client, build_machine(links=[]))
    post(client, f"/machines/{machine_id}/edit", version="1", operation="add_link", plan="0", index="0", kind=kind)
    (link,) = document(client, machine_id)["plans"][0]["links"]
    assert link[field] == favorite


def test_a_favorite_that_is_too_weak_is_left_aside():
    family = next(one for one in FAMILIES if one.kind == "v_belt")
    strong = Wish(3.0, 1750.0, 120.0, 120.0, Sizing(Duty(), "motor", None))
    weak = replace(strong, driver_torque_nm=4.0, nameplate_nm=4.0)
    assert begin(family, SHIPPED, weak, "3L").section == "3L"
    assert begin(family, SHIPPED, strong, "3L").section == begin(family, SHIPPED, strong).section != "3L"


def test_bars_are_cut_by_the_kerf_of_the_shops_saw(client: TestClient):
    """Two bars of 500 mm: facing 1.5 mm an end, 10 mm trimmed; a saw of 1 mm leaves 4 mm more than one of 3 mm."""
    raw = build_machine().model_dump(mode="json")
    raw["plans"][0]["shafts"] = [{"shaft": number, "diameter_mm": 25, "span": {"length_mm": 500}} for number in (2, 3)]
    machine_id = client.post("/api/v1/machines", json=raw).json()["id"]
    left = 3000 - 10 - 2 * (503 + 3)
    assert f"{left} mm left" in client.get(f"/machines/{machine_id}/sheet").text
    settled(client, saw_kerf_mm="1 mm")
    assert f"{left + 4} mm left" in client.get(f"/machines/{machine_id}/sheet").text


def test_what_one_process_keeps_another_takes_over_at_once(empty_shop):
    """Pages are drawn with what was so a moment ago; what is begun or edited goes by what is kept now."""
    one, other = PostgresShop(empty_shop), PostgresShop(empty_shop)
    assert other.lately() == ShopSettings()
    one.keep(ShopSettings(name="Tern Hollow shop", price_unit="talers"))
    assert other.get().name == "Tern Hollow shop"
    assert one.lately().price_unit == "talers"


def test_a_setting_that_cannot_be_read_is_refused_and_stays_as_typed(client: TestClient):
    settled(client, name="Tern Hollow shop")
    answer = settled(client, name="Other", hours_per_day="30")
    assert answer.status_code == 422
    assert "Hours a day" in answer.text
    assert "more than 0 h, up to 24 h" in answer.text
    assert 'value="30"' in answer.text
    assert 'value="Tern Hollow shop"' in client.get("/shop").text


def test_the_name_of_the_shop_stands_on_its_sheets_and_labels(client: TestClient):
    settled(client, name="Tern Hollow shop")
    machine_id = keep(client, demo_machines()[0])
    for path in ("sheet", "label.svg"):
        assert "Tern Hollow shop" in client.get(f"/machines/{machine_id}/{path}").text


def test_a_machine_is_begun_from_a_starter_with_an_empty_log(client: TestClient):
    original = next(machine for machine in demo_machines() if machine.log.visits)
    number = starter(client, keep(client, original), "machine", "Our mixer")
    assert "Our mixer" in client.get("/new").text
    made = post(client, "/shop/starters/begin", starter=number, name="Third mixer").headers["location"].split("/")[2]
    found = document(client, made)
    assert found["name"] == "Third mixer"
    assert found["plans"] == original.model_dump(mode="json")["plans"]
    assert found["log"]["visits"] == []


def test_a_plan_and_a_stage_are_added_to_another_machine_and_taken_back(client: TestClient):
    source = demo_machines()[0]
    machine_id, other = keep(client, source), keep(client, build_machine())
    before = document(client, other)
    plan = starter(client, machine_id, "plan-1", "Our drive")
    stage = starter(client, machine_id, "stage-1-1", "Our belts")
    answer = post(client, "/shop/starters/add", starter=plan, to=f"{other} 0")
    assert answer.headers["location"] == f"/machines/{other}/train?plan={len(before['plans'])}"
    whole = source.model_dump(mode="json")
    assert document(client, other)["plans"][-1] == whole["plans"][0]
    post(client, "/shop/starters/add", starter=stage, to=f"{other} 0")
    links = document(client, other)["plans"][0]["links"]
    assert links == [*before["plans"][0]["links"], whole["plans"][0]["links"][0]]
    for version in (3, 4):
        post(client, f"/machines/{other}/history/undo", version=str(version))
    assert document(client, other) == before


def test_what_no_longer_fits_or_is_no_longer_there_is_said(client: TestClient):
    machine_id = keep(client, build_machine())
    plan = starter(client, machine_id, "plan-1", "Our drive")
    for _ in range(MAX_PLANS - 1):
        assert post(client, "/shop/starters/add", starter=plan, to=f"{machine_id} 0").status_code == 303
    assert post(client, "/shop/starters/add", starter=plan, to=f"{machine_id} 0").status_code == 422
    assert post(client, "/shop/starters/begin", starter=plan).status_code == 422
    post(client, "/shop/starters/throw-away", starter=plan)
    assert post(client, "/shop/starters/add", starter=plan, to=f"{machine_id} 0").status_code == 404
    assert post(client, "/shop/starters", source=f"{machine_id} stage-1-99", name="x").status_code == 422
    assert post(client, "/shop/starters", source=f"{machine_id} soul", name="x").status_code == 422
    assert post(client, "/shop/starters", source=f"{machine_id} machine", name="\u202e").status_code == 422


def test_a_shaft_that_is_added_begins_with_the_steel_at_hand(client: TestClient):
    machine_id = keep(client, build_machine())
    for version, (steel, begun) in enumerate((("", "not_known"), ("steel_1045", "steel_1045")), start=1):
        settled(client, steel=steel)
        edit = {"version": str(version), "operation": "add_shaft", "index": str(version), "plan": "0"}
        assert post(client, f"/machines/{machine_id}/edit", **edit).status_code == 303
        assert document(client, machine_id)["plans"][0]["shafts"][-1]["steel"] == begun
