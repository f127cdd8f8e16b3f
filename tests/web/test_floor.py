"""The floor: what was taken off it can be put back, and a file that matches a machine asks what is meant."""

from __future__ import annotations

import html
import json
import re

from fastapi.testclient import TestClient

from builders import build_machine
from pulltide.quantities import Units
from pulltide.services.change import Change
from pulltide.services.editing import apply_change
from pulltide.services.matching import differences
from web.test_pages import keep, post, token


def read_in(client: TestClient, document: object):
    files = {"file": ("machine.json", json.dumps(document).encode(), "application/json")}
    return client.post("/machines/import", data={"form_token": token(client)}, files=files, follow_redirects=False)


def test_what_was_taken_off_the_floor_is_listed_and_put_back(client: TestClient):
    machine_id = keep(client)
    assert "Off the floor" not in client.get("/").text
    post(client, f"/machines/{machine_id}/remove")
    page = client.get("/").text
    assert "Off the floor: 1" in page
    assert f'action="/machines/{machine_id}/put-back"' in page
    assert client.get(f"/machines/{machine_id}/train").status_code == 404
    post(client, f"/machines/{machine_id}/put-back")
    assert "Off the floor" not in client.get("/").text
    assert client.get(f"/machines/{machine_id}/train").status_code == 200


def test_a_file_of_a_machine_that_is_there_asks_what_is_meant(client: TestClient):
    machine_id = keep(client)
    changed, _ = apply_change(build_machine(), Change(sets={"plans.0.links.0.belts": "3"}), Units())
    page = read_in(client, changed.model_dump(mode="json"))
    assert page.status_code == 200
    assert "Test rig is on the floor already" in page.text
    row = re.sub(r"<[^>]+>|\s+", " ", page.text)
    assert re.search(r"Plan 1, stage 1\s+Number of belts\s+1\s+3", row)
    document = html.unescape(re.search(r'name="document"\s+value="([^"]+)"', page.text)[1])

    replaced = post(client, "/machines/import/decided", document=document, machine_id=machine_id, version="1")
    assert replaced.headers["location"] == f"/machines/{machine_id}"
    assert client.app.state.machines.get(machine_id).machine.plans[0].links[0].belts == 3
    post(client, f"/machines/{machine_id}/history/undo", version="2")
    assert client.app.state.machines.get(machine_id).machine == build_machine(), "undo takes it back"
    late = post(client, "/machines/import/decided", document=document, machine_id=machine_id, version="1")
    assert late.status_code == 409

    both = post(client, "/machines/import/decided", document=document)
    assert both.headers["location"] != f"/machines/{machine_id}"
    assert len(client.app.state.machines.all()) == 2


def test_a_file_of_its_own_is_read_in_at_once_and_the_same_one_is_said_to_be(client: TestClient):
    assert read_in(client, build_machine().model_dump(mode="json")).status_code == 303
    page = read_in(client, build_machine().model_dump(mode="json")).text
    assert "the very same machine" in page
    assert "Replace it" not in page
    assert post(client, "/machines/import/decided", document="no json").status_code == 422


def test_differences_are_told_by_place_and_title():
    here = build_machine()
    there, _ = apply_change(here, Change(sets={"need.speed_ideal_rpm": "18"}), Units())
    there, _ = apply_change(there, Change(operation="remove_link", index=2), Units())
    found = {(item.place, item.title): (item.here, item.there) for item in differences(here, there)}
    assert found == {("Need", "Ideal speed"): (17.0, 18.0), ("Plan 1", "Stages"): ("3", "2")}
    assert differences(here, here) == ()
