"""The history of a machine: every state, what each changed, and the way back to any of them."""

from __future__ import annotations

import re

from fastapi.testclient import TestClient
from sqlalchemy import Engine, update
from sqlalchemy.orm import Session

from pulltide.store.tables import MachineStateRow
from web.test_pages import keep, token


def changed(client: TestClient, machine_id: str, version: int, **sets: str) -> None:
    data = {"form_token": token(client), "version": str(version), **sets}
    assert client.post(f"/machines/{machine_id}/edit", data=data, follow_redirects=False).status_code == 303


def thrice_changed(client: TestClient) -> str:
    machine_id = keep(client)
    for version, name in enumerate(("First", "Second", "Third"), start=1):
        changed(client, machine_id, version, **{"set:name": name})
    return machine_id


def name_of(client: TestClient, machine_id: str) -> str:
    return client.get(f"/api/v1/machines/{machine_id}").json()["name"]


def test_every_state_is_listed_the_last_first_with_what_each_changed(client: TestClient):
    machine_id = thrice_changed(client)
    page = client.get(f"/machines/{machine_id}/history").text
    places = [int(place) for place in re.findall(r"look=(\d+)#compared", page)]
    assert places == [4, 3, 2, 1]
    told = client.get(f"/machines/{machine_id}/history?look=3").text
    row = re.search(r"<tbody>(.*?)</tbody>", told, re.S)[1]
    assert re.findall(r"<td>(.*?)</td>", row) == ["First", "Second"]
    against = client.get(f"/machines/{machine_id}/history?look=2&against=now").text
    assert re.findall(r"<td>(.*?)</td>", against) == ["First", "Third"]


def test_the_way_back_is_a_step_forward_that_undo_takes_back(client: TestClient):
    machine_id = thrice_changed(client)
    data = {"form_token": token(client), "version": "4", "place": "2"}
    client.post(f"/machines/{machine_id}/history/back-to", data=data)
    assert name_of(client, machine_id) == "First"
    client.post(f"/machines/{machine_id}/history/undo", data={"form_token": token(client), "version": "5"})
    assert name_of(client, machine_id) == "Third"


def test_the_way_back_needs_the_present_version_and_a_state_that_is_kept(client: TestClient):
    machine_id = thrice_changed(client)
    for data, status in (({"version": "3", "place": "2"}, 409), ({"version": "4", "place": "9"}, 404)):
        answer = client.post(f"/machines/{machine_id}/history/back-to", data={"form_token": token(client), **data})
        assert answer.status_code == status
    assert name_of(client, machine_id) == "Third"


def test_a_state_that_cannot_be_read_is_told_so_and_nobody_goes_back_to_it(client: TestClient, engine: Engine):
    machine_id = thrice_changed(client)
    with Session(engine) as session, session.begin():
        spoilt = update(MachineStateRow).where(MachineStateRow.machine_id == machine_id, MachineStateRow.place == 2)
        session.execute(spoilt.values(document={"format": "none"}))
    assert "cannot read" in client.get(f"/machines/{machine_id}/history?look=2").text
    data = {"form_token": token(client), "version": "4", "place": "2"}
    assert client.post(f"/machines/{machine_id}/history/back-to", data=data).status_code == 409
    assert name_of(client, machine_id) == "Third"


def test_a_machine_that_is_not_there_has_no_history(client: TestClient):
    assert client.get("/machines/none/history").status_code == 404
