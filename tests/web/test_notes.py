"""Notes and questions pinned to a plan, a stage, a shaft or a finding; they go where their stage goes."""

from __future__ import annotations

import re

import pytest
from fastapi.testclient import TestClient

from pulltide.core.machine import Machine
from pulltide.demo import demo_machines
from pulltide.quantities import DEFAULT_UNITS
from pulltide.services.change import Change
from pulltide.services.editing import apply_change
from web.test_pages import keep, post

MILL = next(machine for machine in demo_machines() if machine.name.startswith("Marlpit"))
HAMMER = next(machine for machine in demo_machines() if machine.name.startswith("Bellwether"))


def changed(machine: Machine, operation: str, **values) -> Machine:
    return apply_change(machine, Change(operation=operation, **values), DEFAULT_UNITS)[0]


def pinned(*places: str) -> Machine:
    machine = MILL
    for place in places:
        machine = changed(machine, "pin_note", kind=place, part=f"on {place}", by="Ada")
    return machine


def where(machine: Machine) -> dict[str, str]:
    return {note.text: note.at for note in machine.plans[0].pinned}


def test_notes_go_where_their_stage_and_shaft_go():
    machine = pinned("plan", "stage-1", "stage-2", "shaft-2", "shaft-3")
    longer = changed(machine, "add_link", index=0, kind="v_belt")
    assert [*where(longer).values()] == ["plan", "stage-2", "stage-3", "shaft-3", "shaft-4"]
    swapped = changed(machine, "move_link", index=0, kind="later")
    assert (where(swapped)["on stage-1"], where(swapped)["on stage-2"]) == ("stage-2", "stage-1")
    shorter = changed(machine, "remove_link", index=0)
    assert where(shorter)["on stage-1"] == "plan", "what is written is not lost with its stage"
    assert where(shorter)["on stage-2"] == "stage-1"


@pytest.mark.parametrize("kind", ["stage-9", "shaft-0", "wheel-1", "stage-x", "plan-1", "stage-" + "1" * 40])
def test_a_place_that_is_not_there_is_refused(kind: str):
    with pytest.raises(Exception, match="is not in this plan"):
        pinned(kind)


def test_a_question_is_open_until_it_is_answered_and_is_on_page_and_sheet(client: TestClient):
    machine_id = keep(client, HAMMER)
    edit = f"/machines/{machine_id}/edit"
    page = client.get(f"/machines/{machine_id}/train").text
    at = re.search(r'<option value="(\S+ [\w.]+)">finding:', page)[1]
    data = {"kind": at, "part": "Is a wider belt at hand?", "by": "Ada Rill", "question": "yes"}
    assert post(client, edit, operation="pin_note", version="1", **data).status_code == 200
    page = client.get(f"/machines/{machine_id}/train").text
    assert "1 open question" in page
    assert "Is a wider belt at hand?" in page
    assert "Open question: Is a wider belt at hand? (Ada Rill," in client.get(f"/machines/{machine_id}/sheet").text
    post(client, edit, operation="answer_note", version="2", index="0", part="Yes, two", by="Bo Tarn")
    page = client.get(f"/machines/{machine_id}/train").text
    assert "open question" not in page
    assert "Yes, two (Bo Tarn)" in page
    assert "Answer: Yes, two (Bo Tarn)" in client.get(f"/machines/{machine_id}/sheet").text
    post(client, edit, operation="unpin_note", version="3", index="0")
    assert "Is a wider belt at hand?" not in client.get(f"/machines/{machine_id}/train").text


@pytest.mark.parametrize(
    "data",
    [{"part": "", "by": "A"}, {"part": "x", "by": ""}, {"part": "x" * 401, "by": "A"}, {"part": "x", "by": "n" * 61}],
)
def test_a_note_without_words_or_name_is_refused(client: TestClient, data: dict[str, str]):
    machine_id = keep(client, HAMMER)
    answer = post(client, f"/machines/{machine_id}/edit", operation="pin_note", version="1", kind="plan", **data)
    assert answer.status_code == 422


def test_an_answer_to_a_note_that_is_not_there_is_refused(client: TestClient):
    machine_id = keep(client, HAMMER)
    for operation in ("answer_note", "unpin_note"):
        fields = {"operation": operation, "version": "1", "index": "3", "part": "x", "by": "A"}
        answer = post(client, f"/machines/{machine_id}/edit", **fields)
        assert answer.status_code == 422
