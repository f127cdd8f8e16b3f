"""Everything that can be gone to by its name: complete, and every address leads somewhere."""

from __future__ import annotations

from fastapi.testclient import TestClient

from pulltide.core.handbook import chapters
from web.test_pages import keep


def test_every_destination_of_a_machine_leads_somewhere(client: TestClient):
    machine_id, other = keep(client), keep(client)
    found = client.get(f"/find?machine={machine_id}&plan=0").json()
    names = {(item["kind"], item["name"]) for item in found}
    assert {
        ("place", "Need"),
        ("place", "Shop floor"),
        ("place", "Keeping"),
        ("plan", "Plan A"),
        ("stage", "Stage 3 · Chain 50"),
    } <= names
    assert {("shaft", "Shaft 1 · Motor"), ("figure", "Center distance, stage 3")} <= names
    assert {item["address"] for item in found if item["kind"] == "machine"} == {f"/machines/{other}"}
    assert sum(item["kind"] == "methods" for item in found) == len(chapters())
    addresses = {item["address"].split("#")[0] for item in found}
    for address in sorted(addresses)[::5]:
        assert client.get(address).status_code == 200, address
    page = client.get("/methods").text
    for item in found:
        if item["kind"] == "methods":
            assert f'id="{item["address"].split("#")[1]}"' in page


def test_without_a_machine_the_floor_and_the_methods_are_found(client: TestClient):
    machine_id = keep(client)
    found = client.get("/find").json()
    assert f"/machines/{machine_id}" in {item["address"] for item in found}
    assert {item["kind"] for item in found} == {"machine", "place", "methods", "formula", "loose part"}
    assert client.get("/find?machine=nowhere").status_code == 404
