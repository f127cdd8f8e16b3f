"""The manual leads nowhere that is not there, is drawn from the demo, and the walk goes its five steps."""

from __future__ import annotations

import re

from fastapi.testclient import TestClient

from builders import build_machine
from pulltide.demo import demo_machines
from pulltide.web.manual import CHAPTERS, DRAWN
from pulltide.web.places import PLACES
from pulltide.web.tour import STEPS
from web.test_pages import keep, token


def test_no_link_of_the_manual_is_dead(client: TestClient):
    page = client.get("/manual").text
    here = set(re.findall(r'id="([\w-]+)"', page))
    links = set(re.findall(r'href="(/[^"?]*|#[^"]*)"', page)) - {"/tour"}
    assert len(links) > 20
    for link in links:
        if link.startswith("#"):
            assert link[1:] in here, link
        elif not link.startswith("/static"):
            assert client.get(link).status_code == 200, link


def test_every_place_of_a_machine_leads_to_its_chapter(client: TestClient):
    chapters = {name for name, _ in CHAPTERS}
    assert {place.key for place in PLACES} - chapters <= {"compare"}
    machine_id = keep(client)
    for place in PLACES:
        page = client.get(f"/machines/{machine_id}/{place.key}").text
        chapter = re.search(r'href="/manual#(\w+)"', page)[1]
        assert chapter in chapters, place.key


def test_the_manual_is_drawn_from_the_demo(client: TestClient):
    page = client.get("/manual").text
    assert page.count('class="manual-picture"') == len(DRAWN)
    assert all(any(machine.name.startswith(name) for machine in demo_machines()) for name in DRAWN.values())


def test_the_walk_goes_its_steps_and_any_other_press_leaves_it(client: TestClient):
    keep(client, build_machine())
    shown = keep(client, demo_machines()[0])
    assert "New here?" in client.get("/").text
    at = client.get("/tour", follow_redirects=False).headers["location"]
    for number, step in enumerate(STEPS, start=1):
        assert at == f"/machines/{shown}/{step.place}?tour={number}"
        page = client.get(at).text
        assert f"<b>{number} of {len(STEPS)}</b> {step.words}" in page
        assert "tour=" not in re.sub(r'<a class="btn btn-primary" href="[^"]*tour=\d">Next</a>', "", page)
        onward = re.search(r'href="([^"]*tour=\d)">Next', page)
        at = onward[1] if onward else ""
    client.post("/tour/leave", data={"form_token": token(client)})
    assert "New here?" not in client.get("/").text


def test_a_step_that_is_none_is_left_out(client: TestClient):
    machine_id = keep(client)
    for said in ("0", "6", "x", "2", "9" * 30):
        assert 'class="notice tour"' not in client.get(f"/machines/{machine_id}/need?tour={said}").text


def test_an_empty_floor_walks_to_the_manual(client: TestClient):
    assert "New here?" not in client.get("/").text
    assert client.get("/tour", follow_redirects=False).headers["location"] == "/manual"
