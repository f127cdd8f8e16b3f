"""Undo, copies and the shafts of a plan by the JSON interface and on the command line."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from fastapi.testclient import TestClient
from typer.testing import CliRunner

from pulltide.cli.main import app
from pulltide.core.fit.shaft import harder
from pulltide.core.line import solve_plan
from pulltide.core.machine import Machine
from pulltide.demo import demo_machines

RAW = demo_machines()[0].model_dump(mode="json")
HAMMER = next(machine for machine in demo_machines() if machine.name.startswith("Bellwether"))


def kept(client: TestClient, machine: Machine = HAMMER) -> str:
    return client.post("/api/v1/machines", json=machine.model_dump(mode="json")).json()["id"]


def test_a_change_is_taken_back_and_made_again(client: TestClient):
    at = f"/api/v1/machines/{kept(client)}"
    first = client.get(at).json()
    changed = {"version": first["version"], "machine": {**first["machine"], "note": "moved"}}
    second = client.put(at, json=changed).json()
    back = client.post(f"{at}/undo", json={"version": second["version"]}).json()
    assert back["machine"]["note"] == HAMMER.note
    again = client.post(f"{at}/redo", json={"version": back["version"]}).json()
    assert again["machine"]["note"] == "moved"
    assert client.post(f"{at}/undo", json={"version": first["version"]}).status_code == 409
    assert client.post(f"{at}/undo", json={"version": "first"}).status_code == 422


def test_a_machine_is_copied_removed_and_put_back(client: TestClient):
    at = f"/api/v1/machines/{kept(client)}"
    copy = client.post(f"{at}/copy").json()
    assert (copy["name"], copy["machine"]["plans"]) == (
        f"{HAMMER.name} (copy)", client.get(at).json()["machine"]["plans"],
    )  # fmt: skip
    client.delete(at)
    assert client.get(at).status_code == 404
    assert client.post(f"{at}/put-back").json()["name"] == HAMMER.name
    assert client.get(at).status_code == 200
    assert client.post("/api/v1/machines/nowhere/copy").status_code == 404


def test_the_shafts_of_a_plan_are_told_as_the_page_works_them_out(client: TestClient, tmp_path: Path):
    told = client.get(f"/api/v1/machines/{kept(client)}/plans/2/fit").json()
    jack, crank = told["shafts"]
    assert (jack["shaft"], crank["shaft"]) == (2, 3)
    plan = HAMMER.plans[1]
    answer = harder(HAMMER, plan, solve_plan(HAMMER, plan).chosen, 2)
    assert jack["bearings"][1]["radial_n"] == pytest.approx(answer.bearings[1].radial_n)
    assert min(section["goodman"] for section in jack["sections"] if section["goodman"] is not None) == pytest.approx(
        answer.weakest.goodman
    )
    assert {hold["way"] for hold in jack["holds"]} == {"key", "set_screws", "clamp", "bushing"}
    assert [one["stage"] for one in told["tensions"]] == [1, 2]
    file = tmp_path / "hammer.json"
    file.write_text(json.dumps(HAMMER.model_dump(mode="json")))
    printed = CliRunner().invoke(app, ["fit", str(file), "--plan", "2"])
    assert json.loads(printed.output)["shafts"] == told["shafts"]
    assert client.get(f"/api/v1/machines/{kept(client)}/plans/9/fit").status_code == 422


def test_what_stands_in_the_way_is_told_with_how_far_it_is(client: TestClient):
    raw = HAMMER.model_dump(mode="json")
    post = {"name": "Post", "left_mm": 900, "bottom_mm": 0, "wide_mm": 100, "high_mm": 200}
    raw["plans"][1]["room"] = {"motor_height_mm": 420, "obstacles": [post]}
    identity = client.post("/api/v1/machines", json=raw).json()["id"]
    (told,) = client.get(f"/api/v1/machines/{identity}/plans/2/fit").json()["in_the_way"]
    assert (told["name"], told["stage"]) == ("Post", 2)
    assert 0 < told["clearance_mm"] < 200
    page = client.get(f"/machines/{identity}/fit?plan=1").text
    assert f"{told['clearance_mm']:.3g} mm from stage 2" in page


def test_a_shaft_that_says_too_little_says_what_is_missing(client: TestClient):
    bare = HAMMER.model_copy(update={"plans": (HAMMER.plans[0].model_copy(update={"shafts": ()}),)})
    (shaft,) = client.get(f"/api/v1/machines/{kept(client, bare)}/plans/1/fit").json()["shafts"]
    assert "its diameter" in shaft["missing"]
    assert shaft["holds"] == []


def test_a_call_with_a_key_is_done_once_and_answered_alike(client: TestClient):
    """draft-ietf-httpapi-idempotency-key-header-06, sections 2.4 to 2.7."""
    key = {"idempotency-key": "5f3b-1"}
    first = client.post("/api/v1/machines", json=RAW, headers=key)
    again = client.post("/api/v1/machines", json=RAW, headers=key)
    assert (first.status_code, again.status_code) == (201, 201)
    assert first.content == again.content
    assert again.headers["idempotency-replayed"] == "true"
    assert len(client.get("/api/v1/machines").json()) == 1
    other = client.post("/api/v1/machines", json={**RAW, "name": "Other"}, headers=key)
    assert other.status_code == 422
    assert "another call" in other.json()["error"]


def test_a_call_with_a_key_that_came_to_nothing_is_a_first_one_again(client: TestClient):
    key = {"idempotency-key": "5f3b-2"}
    assert client.post("/api/v1/machines", json={}, headers=key).status_code == 422
    assert client.post("/api/v1/machines", json=RAW, headers=key).status_code == 201
    assert client.post("/api/v1/machines", json=RAW, headers={"idempotency-key": "k" * 201}).status_code == 422


def test_a_machine_that_is_known_is_not_sent_again(client: TestClient):
    """RFC 9110, 8.8.3 and 13.1.2."""
    kept = client.post("/api/v1/machines", json=RAW).json()
    address = f"/api/v1/machines/{kept['id']}"
    mark = client.get(address).headers["etag"]
    for known in (mark, f'"x", {mark}', f"W/{mark}", "*"):
        answer = client.get(address, headers={"if-none-match": known})
        assert (answer.status_code, answer.content, answer.headers["etag"]) == (304, b"", mark)
    client.put(address, json={"version": 1, "machine": {**RAW, "name": "Changed"}})
    assert client.get(address, headers={"if-none-match": mark}).status_code == 200


def test_machines_are_listed_in_pages_each_once(client: TestClient):
    for number in range(5):
        client.post("/api/v1/machines", json={**RAW, "name": f"Machine {number}"})
    whole = client.get("/api/v1/machines").json()
    address, found, pages = "/api/v1/machines?limit=2", [], 0
    while address:
        answer = client.get(address)
        found, pages = found + answer.json(), pages + 1
        link = answer.headers.get("link", "")
        address = link[1 : link.index(">")] if link else ""
    assert (found, pages) == (whole, 3)
    assert client.get("/api/v1/machines?after=nothing").json() == []
