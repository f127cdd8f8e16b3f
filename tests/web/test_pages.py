"""Pages in process: what they show, what they refuse, and how they stand against foreign and hostile input."""

from __future__ import annotations

import html
import inspect
import re

import pytest
from fastapi.testclient import TestClient

from builders import build_belt, build_machine
from pulltide.demo import demo_machines
from pulltide.quantities import Units
from pulltide.services.proof import proofs
from pulltide.services.raw_machines import read_machine
from pulltide.web import api, pages
from pulltide.web.guard import MAX_BYTES, POLICY
from pulltide.web.room import SEATS, room


def keep(client: TestClient, machine=None) -> str:
    return client.app.state.machines.create(machine or build_machine()).id


def token(client: TestClient) -> str:
    page = client.get("/").text
    return re.search(r'name="form-token" content="([^"]+)"', page)[1]


def post(client: TestClient, address: str, fragment: bool = True, **fields: str):
    data = {"form_token": token(client), **fields}
    return client.post(address, data=data, headers={"x-fragment": "1"} if fragment else {}, follow_redirects=False)


def set_value(client: TestClient, machine_id: str, path: str, value: str, version: int = 1):
    return post(client, f"/machines/{machine_id}/edit", version=str(version), **{f"set:{path}": value})


@pytest.mark.parametrize(
    "query",
    [
        "",
        "?at=need",
        "?at=duty",
        "?at=source",
        "?at=link-1",
        "?at=link-2",
        "?at=link-3",
        "?show=shaft-4/speed",
        "?at=link-99&show=nonsense",
        "?plan=7",
    ],
)
def test_the_train_page_renders_and_follows_its_address(client: TestClient, query: str):
    page = client.get(f"/machines/{keep(client)}{query}")
    assert page.status_code == 200
    assert "17.3 <small>" not in page.text or "rpm" in page.text
    assert not re.search(r"<script(?![^>]*\bsrc=)|\son\w+=|\sstyle=", page.text)


def test_the_methods_page_names_every_chapter_with_sources_and_how_sure(client: TestClient):
    page = client.get("/methods")
    assert page.status_code == 200
    text = html.unescape(page.text)
    for said in ("Gear pair", "Shigley", "table quoted from memory", "common practice", "gear_lewis"):
        assert said in text
    assert not re.search(r"<script(?![^>]*\bsrc=)|\son\w+=|\sstyle=", page.text)


def test_every_demo_machine_renders(client: TestClient):
    for machine in demo_machines():
        for plan in range(len(machine.plans)):
            assert client.get(f"/machines/{keep(client, machine)}?plan={plan}&at=link-1").status_code == 200
    floor = client.get("/").text
    assert "Marlpit pug mill" in floor
    assert "2 problems" in floor


def test_an_empty_shop_and_a_blank_machine_say_what_to_do(client: TestClient):
    assert "The floor is empty" in client.get("/").text
    blank = post(client, "/machines", name="Drum")
    where = blank.headers["location"]
    assert "What must the last shaft do?" in client.get(where).text
    page = client.get(where.removesuffix("/need")).text
    assert "What will turn it?" in page
    assert "Enter the motor" in page


def test_an_edit_answers_with_the_fragment_and_is_kept(client: TestClient):
    machine_id = keep(client)
    answer = set_value(client, machine_id, "plans.0.links.0.steps.0.driver_diameter_mm", "4 in")
    assert answer.status_code == 200
    assert answer.text.lstrip().startswith('<div id="train"')
    kept = client.app.state.machines.get(machine_id)
    assert kept.version == 2
    assert kept.machine.plans[0].links[0].steps[0].driver_diameter_mm == pytest.approx(101.6)


def test_without_script_a_form_leads_back_to_the_page(client: TestClient):
    machine_id = keep(client)
    answer = post(client, f"/machines/{machine_id}/edit?at=need", fragment=False, version="1", **{"set:name": "Plain"})
    assert answer.status_code == 303
    assert answer.headers["location"] == f"/machines/{machine_id}/need"


def test_a_bad_value_is_refused_and_nothing_is_saved(client: TestClient):
    machine_id = keep(client)
    answer = set_value(client, machine_id, "plans.0.links.0.belts", "99")
    assert answer.status_code == 422
    (fault,) = answer.json()["faults"]
    assert fault["path"] == "plans.0.links.0.belts"
    assert fault["sentence"] == "Number of belts: 99 is out of range. Accepted: 1 to 6."
    assert client.app.state.machines.get(machine_id).version == 1


def test_a_machine_changed_elsewhere_is_not_overwritten(client: TestClient):
    machine_id = keep(client)
    set_value(client, machine_id, "name", "Theirs")
    answer = set_value(client, machine_id, "name", "Mine", version=1)
    assert answer.status_code == 409
    assert client.app.state.machines.get(machine_id).machine.name == "Theirs"


SHAPE = "v_belt,reducer,roller_chain"
BELTS, TEETH = "plans.0.links.0.belts", "plans.0.links.2.driven_teeth"


def late(client: TestClient, machine_id: str, path: str, value: str, was: str, **more: str):
    """An edit made for version 1, which has passed, by a page that says what it saw."""
    fields = {"version": "1", f"set:{path}": value, f"was:{path}": was, "shape": SHAPE, **more}
    return post(client, f"/machines/{machine_id}/edit", **fields)


def test_an_edit_of_what_nobody_else_touched_is_applied_to_the_newer_machine(client: TestClient):
    machine_id = keep(client)
    set_value(client, machine_id, "name", "Theirs")
    assert late(client, machine_id, BELTS, "2", "1").status_code == 200
    machine = client.app.state.machines.get(machine_id).machine
    assert (machine.name, machine.plans[0].links[0].belts) == ("Theirs", 2)
    # sent again, because its answer was lost: it is there already
    assert late(client, machine_id, BELTS, "2", "1").status_code == 200
    assert client.app.state.machines.get(machine_id).version == 3


@pytest.mark.parametrize(
    ("theirs", "mine"),
    [
        ((BELTS, "3"), {}),
        (("name", "Theirs"), {"was": "4"}),
        (("name", "Theirs"), {"shape": "v_belt,reducer"}),
        (("name", "Theirs"), {"operation": "remove_link", "index": "0"}),
        (("name", "Theirs"), {"json:duty": "{}"}),
        (("name", "Theirs"), {"set:no.such.field": "1", "was:no.such.field": "1"}),
        (("name", "Theirs"), {"set:need.running_torque_nm": "9"}),
    ],
)
def test_an_edit_that_may_mean_something_else_by_now_is_refused(client: TestClient, theirs: tuple, mine: dict):
    machine_id = keep(client)
    set_value(client, machine_id, *theirs)
    before = client.app.state.machines.get(machine_id)
    answer = late(client, machine_id, BELTS, "2", **{"was": "1", **mine})
    assert answer.status_code == 409
    assert client.app.state.machines.get(machine_id) == before


def test_a_stage_that_another_window_moved_takes_no_entry_meant_for_its_neighbor(client: TestClient):
    machine_id = keep(client)
    post(client, f"/machines/{machine_id}/edit", version="1", operation="remove_link", index="1")
    assert late(client, machine_id, TEETH.replace(".2.", ".1."), "60", "46").status_code == 409


def test_undo_and_redo(client: TestClient):
    machine_id = keep(client)
    set_value(client, machine_id, "name", "Changed")
    assert "Test rig" in post(client, f"/machines/{machine_id}/history/undo", version="2").text
    assert "Changed" in post(client, f"/machines/{machine_id}/history/redo", version="3").text


def test_remedies_come_after_the_first_answer(client: TestClient):
    """The page's script asks for everything else first; a plain page has them at once."""
    marlpit = keep(client, next(m for m in demo_machines() if "Marlpit" in m.name))
    address = f"/machines/{marlpit}/train"
    first = client.get(address, headers={"X-Fragment": "1", "X-Remedies": "later"}).text
    whole = client.get(address, headers={"X-Fragment": "1"}).text
    assert "data-later" in first
    assert 'class="remedy"' not in first
    assert "data-later" not in whole
    assert 'class="remedy"' in whole
    assert first.count("Trying stock parts") == 3, "one for each finding that a part may cure"


def test_remedies_are_offered_and_clear_when_pressed(client: TestClient):
    machine = next(m for m in demo_machines() if "Marlpit" in m.name)
    machine_id = keep(client, machine)
    page = client.get(f"/machines/{machine_id}").text
    path, value = re.search(r'name="json:([^"]+)"\s+value="([^"]+)"', page).groups()
    answer = post(client, f"/machines/{machine_id}/edit", version="1", **{f"json:{path}": html.unescape(value)})
    assert "no problems" in answer.text


def test_units_and_theme_belong_to_a_person(client: TestClient):
    machine_id = keep(client)
    answer = post(client, "/preferences", length="in", theme="dark", back=f"/machines/{machine_id}")
    assert answer.headers["location"] == f"/machines/{machine_id}"
    page = client.get(f"/machines/{machine_id}?at=link-1").text
    assert "3.4 in" in page
    assert 'data-theme="dark"' in page
    client.cookies.clear()
    assert "86.4" in client.get(f"/machines/{machine_id}?at=link-1").text
    assert post(client, "/preferences", back="//evil.example").headers["location"] == "/"
    assert post(client, "/preferences", length="parsec").status_code == 422


def test_a_file_goes_out_and_comes_back(client: TestClient):
    machine_id = keep(client)
    answer = client.get(f"/machines/{machine_id}/file")
    assert "test-rig.pulltide.json" in answer.headers["content-disposition"]
    post(client, f"/machines/{machine_id}/remove")
    files = {"file": ("m.json", answer.content, "application/json")}
    back = client.post("/machines/import", data={"form_token": token(client)}, files=files, follow_redirects=False)
    again = client.app.state.machines.get(back.headers["location"].rsplit("/", 1)[1])
    assert again.machine == read_machine(answer.json(), Units())


@pytest.mark.parametrize("content", [b"", b"not json", b"\xff\xfe", b"[]", b'{"name": 3}', b"[" * 5000])
def test_a_bad_file_is_refused_with_a_sentence(client: TestClient, content: bytes):
    answer = client.post("/machines/import", data={"form_token": token(client)}, files={"file": ("m.json", content)})
    assert answer.status_code == 422
    assert "did not go through" in answer.text


def test_duplicate_remove_and_put_back(client: TestClient):
    machine_id = keep(client)
    assert "copy" in client.get(post(client, f"/machines/{machine_id}/duplicate").headers["location"]).text
    removed = post(client, f"/machines/{machine_id}/remove").headers["location"]
    assert "Put it back" in client.get(removed).text
    assert client.get(f"/machines/{machine_id}").status_code == 404
    post(client, f"/machines/{machine_id}/put-back")
    assert client.get(f"/machines/{machine_id}").status_code == 200


@pytest.mark.parametrize("headers", [{"origin": "http://evil.example"}, {"sec-fetch-site": "cross-site"}])
def test_a_change_from_another_site_is_refused(client: TestClient, headers: dict):
    answer = client.post("/machines", data={"form_token": token(client), "name": "x"}, headers=headers)
    assert answer.status_code == 403
    api = client.post("/api/v1/machines", json={"name": "x"}, headers=headers)
    assert api.status_code == 403


def test_a_change_without_the_pages_token_is_refused(client: TestClient):
    client.get("/")
    assert client.post("/machines", data={"name": "x"}).status_code == 403
    assert client.post("/machines", data={"name": "x", "form_token": "ä"}).status_code == 403
    client.cookies.clear()
    assert client.post("/machines", data={"name": "x", "form_token": "y"}).status_code == 403


def test_every_changing_route_wants_the_token_or_json(client: TestClient):
    """A route that forgets its guard fails here."""
    for route in client.app.routes:
        source = inspect.getsource(route.endpoint) if hasattr(route, "endpoint") else ""
        if getattr(route, "methods", set()) & {"POST", "PUT", "DELETE"} and not route.path.startswith("/api/"):
            assert "SurePerson" in source, route.path
        if hasattr(route, "endpoint") and "Machines" in source:
            assert not inspect.iscoroutinefunction(route.endpoint), f"{route.path} would block the loop"


def test_hostile_text_is_shown_as_text(client: TestClient):
    nasty = "<script>alert(1)</script>"
    machine_id = keep(client, build_machine().model_copy(update={"name": nasty, "note": nasty}))
    for page in (client.get("/").text, client.get(f"/machines/{machine_id}").text):
        assert nasty not in page
        assert "&lt;script&gt;" in page
    name = "x'; DROP TABLE machine; --"
    set_value(client, machine_id, "name", name)
    assert client.app.state.machines.get(machine_id).machine.name == name


def test_headers_and_size_limit(client: TestClient):
    answer = client.get("/")
    assert answer.headers["content-security-policy"] == POLICY
    assert "unsafe" not in POLICY
    assert answer.headers["x-content-type-options"] == "nosniff"
    large = client.post("/api/v1/solve", content=b"x" * (MAX_BYTES + 1), headers={"content-type": "application/json"})
    assert large.status_code == 413

    def chunks():
        for _ in range(20):
            yield b"x" * 100_000

    streamed = client.post("/api/v1/solve", content=chunks(), headers={"content-type": "application/json"})
    assert streamed.status_code == 413


def test_health_and_unknown_addresses(client: TestClient):
    assert client.get("/healthz").json() == {"status": "ok"}
    assert client.get("/nothing").status_code == 404
    assert client.get("/machines/nothing").status_code == 404
    assert client.get("/machines/" + "x" * 5000).status_code == 404


def test_requests_are_logged_as_json(client: TestClient, capsys: pytest.CaptureFixture):
    client.get("/healthz?secret=1")
    assert '"path": "/healthz"' in capsys.readouterr().err


def test_stepped_pulley_shows_the_speeds_of_all_steps(client: TestClient):
    steps = [
        {"driver_diameter_mm": 80, "driven_diameter_mm": 200},
        {"driver_diameter_mm": 90, "driven_diameter_mm": 190},
    ]
    machine_id = keep(client, build_machine(links=[build_belt(steps=steps, measured_as="pitch", belt="A60")]))
    page = client.get(f"/machines/{machine_id}?at=link-1").text
    assert "Speeds of all steps" in page
    assert "Run on step 2" in page


def test_the_methods_page_shows_published_figures_beside_ours(client: TestClient):
    """Every proof is on the page with its source, and every one agrees."""
    page = client.get("/methods").text
    assert page.count('aria-label="agrees"') == len(proofs())
    assert "disagrees" not in page
    for proof in proofs()[::7]:
        assert html.escape(proof.example) in page


def test_what_takes_long_waits_for_a_seat_and_reading_does_not(client: TestClient):
    """Routes that solve or draw a machine share a few seats; lists, files and health are answered beside them."""
    seated = {
        (method, route.path)
        for router in (pages.router, api.router)
        for route in router.routes
        for method in route.methods
        if any(dependency.dependency is room for dependency in route.dependencies)
    }
    assert {
        ("POST", "/machines/{machine_id}/edit"),
        ("GET", "/machines/{machine_id}/{place}"),
        ("POST", "/api/v1/solve"),
        ("GET", "/api/v1/machines/{machine_id}/result"),
    } <= seated
    assert not seated & {("GET", "/healthz"), ("GET", "/api/v1/machines"), ("GET", "/machines/{machine_id}/file")}
    assert client.app.state.room.total_tokens == SEATS
    assert client.app.state.room.borrowed_tokens == 0


def test_a_page_that_searches_leaves_the_other_seats_free(client: TestClient, monkeypatch: pytest.MonkeyPatch):
    machine_id, state, taken = keep(client), client.app.state, []

    def not_ready(within_s: float) -> bool:
        taken.append((state.room.borrowed_tokens, state.search_room.borrowed_tokens))
        return False

    monkeypatch.setattr(state.searcher, "prepared", not_ready)
    assert "The lists are being read" in client.get(f"/machines/{machine_id}/ways").text
    post(client, f"/machines/{machine_id}/edit?in=ways", version="1", **{"set:name": "Renamed"})
    assert taken == [(0, 1), (0, 1)]
    assert state.search_room.total_tokens == 1


def test_a_search_that_takes_long_says_so_and_is_there_later(client):
    state = client.app.state
    first, other = (state.machines.create(demo_machines()[number]).id for number in (0, 5))
    client.get(f"/machines/{first}/ways")  # whatever is to be rated is rated by then
    patience, state.patience_s = state.patience_s, 0.0
    try:
        page = client.get(f"/machines/{other}/ways")
        assert "Searching the lists" in page.text
        assert "data-again" in page.text
    finally:
        state.patience_s = patience
    assert "kinds of drive" in client.get(f"/machines/{other}/ways").text
