"""Takes anything: malformed structure, unusable text, foreign names of this server, stale removals. Never a 5xx."""

from __future__ import annotations

import json
import os
import signal

import pytest
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from sqlalchemy import text
from sqlalchemy.exc import OperationalError

from builders import build_machine
from draws import draws
from pulltide.ops.cluster import Cluster
from pulltide.store.database import connect
from pulltide.web.app import create_app
from pulltide.web.guard import POLICY
from pulltide.web.settings import Settings
from web.test_pages import keep, post, set_value

BROKEN = [
    {"json:plans": "5"},
    {"json:plans": "[5]"},
    {"json:plans": '[{"links":5}]'},
    {"set:plans": "x"},
    {"json:plans.0.source": "5"},
    {"json:plans.0.links": "[5]"},
    {"json:plans.0.links": '{"a":1}'},
    {"json:plans.0.links.0": '{"kind":"v_belt"}'},
    {"json:plans.0.links.0.section": "[]"},
    {"json:plans.0.links.0.steps": "5", "operation": "add_step"},
    {"json:duty.cycle": "5", "operation": "add_segment"},
    {"json:plans.0.shafts": "5", "operation": "add_shaft"},
    {"json:need.set_aside": "5", "operation": "choose_worksheet", "kind": "drum"},
    {"json:plans.0.links": "5", "operation": "remove_link"},
    {"json:plans.0": "5", "operation": "duplicate_plan"},
    {"set:plans.99999999999999999999.name": "x"},
    {"set:name": "a\0b"},
    {"set:name": "\u200b\u202e"},
    {"set:plans.0.name": " \u2066 "},
    {"set:plans.0.links.0.belt": "\u202e"},
]


@pytest.mark.parametrize("fields", BROKEN, ids=lambda fields: " ".join(f"{k}={v!r}" for k, v in fields.items())[:60])
def test_a_malformed_change_is_refused_with_faults_and_saves_nothing(client: TestClient, fields: dict[str, str]):
    machine_id = keep(client)
    sent = {"version": "1", "plan": "0", "index": "0", **fields}
    answer = post(client, f"/machines/{machine_id}/edit", **sent)
    assert answer.status_code == 422
    assert 1 <= len(answer.json()["faults"]) <= 26
    assert all(len(fault["given"]) <= 80 and fault["sentence"] for fault in answer.json()["faults"])
    assert client.app.state.machines.get(machine_id).version == 1


values = st.recursive(
    st.one_of(st.none(), st.booleans(), st.integers(-5, 10**9), st.floats(allow_nan=False, allow_infinity=False),
              st.text(max_size=4)),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.sampled_from(["kind", "name", "links", "x"]), inner),
    max_leaves=6,
)  # fmt: skip
paths = st.sampled_from(
    ["plans", "plans.0", "plans.0.links", "plans.0.links.0", "plans.0.links.1.data", "plans.0.source", "plans.0.shafts",
     "need", "need.worksheet", "need.end", "need.set_aside", "need.entered", "duty", "duty.cycle", "name", "note"]
)  # fmt: skip
operations = st.sampled_from(
    ["", "add_link", "remove_link", "move_link", "swap_link", "copy_link", "refresh_link", "add_step", "add_shaft",
     "duplicate_plan", "remove_plan", "choose_worksheet", "choose_end", "choose_source", "add_segment"]
)  # fmt: skip


@settings(max_examples=draws(60), deadline=None, suppress_health_check=list(HealthCheck))
@given(path=paths, value=values, operation=operations, kind=st.sampled_from(["drum", "v_belt", "dc", "", "rack"]))
def test_no_value_at_any_place_breaks_the_server(
    client: TestClient, path: str, value: object, operation: str, kind: str
):
    machine_id = keep(client)
    fields = {f"json:{path}": json.dumps(value), "operation": operation, "kind": kind}
    answer = post(client, f"/machines/{machine_id}/edit", version="1", **fields)
    assert answer.status_code in (200, 422)
    for place in ("need", "duty", "source", "train") if answer.status_code == 200 else ():
        assert client.get(f"/machines/{machine_id}/{place}").status_code == 200


DEEP = '{"name":"x","plans":[' + "[" * 200 + "]" * 200 + "]}"
JSON = {"content-type": "application/json"}


@pytest.mark.parametrize(
    "body",
    [
        r'{"name":"\ud800"}',
        r'{"name":"a\u0000b"}',
        r'{"name":"\u202e"}',
        '{"name":"x","plans":[{"source":5}]}',
        r'{"name":"x","\ud800":1}',
        r'{"name":"x","\ud800":"\u0000"}',
        DEEP,
    ],
    ids=["half", "zero", "mark", "source", "field", "both", "deep"],
)
def test_a_file_that_cannot_be_kept_is_refused_by_every_door(client: TestClient, body: str):
    for path in ("/api/v1/machines", "/api/v1/solve", "/api/v1/calc/need_drum"):
        answer = client.post(path, content=body, headers=JSON)
        assert answer.status_code == 422, (path, answer.text[:200])


def test_a_mark_at_the_start_of_a_file_is_passed_over_and_another_coding_refused_alike(client: TestClient):
    marked = "\ufeff" + json.dumps(build_machine().model_dump(mode="json"))
    assert client.post("/api/v1/solve", content=marked.encode(), headers=JSON).status_code == 200
    assert client.post("/api/v1/solve", content=marked.encode("utf-16"), headers=JSON).status_code == 422


@pytest.mark.parametrize("host", ["evil.example", "127.0.0.1.evil.example", "evil.example:8420", "[::2]", "", "]"])
def test_a_page_under_another_name_reads_nothing(client: TestClient, host: str):
    machine_id = keep(client)
    for path in ("/", f"/machines/{machine_id}/train", "/api/v1/machines", "/static/css/app.css"):
        answer = client.get(path, headers={"host": host})
        assert answer.status_code == 421
        assert "Test rig" not in answer.text
        assert answer.headers["x-content-type-options"] == "nosniff"
    for ours in ("127.0.0.1:8420", "localhost", "[::1]:8420"):
        assert client.get("/", headers={"host": ours}).status_code == 200


def test_an_origin_counts_with_its_scheme(client: TestClient):
    machine_id = keep(client)
    answer = client.post(f"/machines/{machine_id}/edit", headers={"origin": "https://127.0.0.1"})
    assert answer.status_code == 403
    assert set_value(client, machine_id, "name", "Mine").status_code == 200


def test_head_and_strange_addresses_are_answered_as_http_says(client: TestClient):
    whole, head = client.get("/"), client.head("/")
    assert (head.status_code, head.content) == (200, b"")
    assert head.headers["content-type"] == whole.headers["content-type"]
    put = client.put("/")
    assert put.status_code == 405
    assert put.headers["allow"] == "GET"
    assert client.get("/machines/a%00b/train").status_code == 404
    for address in ("/stock?list=%00", "/stock/list.csv?list=a%00", "/stock?find=%00", "/find?q=%00"):
        assert client.get(address).status_code == 404
    assert client.get("/machines/" + "5" * 5000).status_code in (404, 422)
    ids = {client.get("/").headers["x-request-id"] for _ in range(3)}
    assert len(ids) == 3


def test_a_removal_is_meant_for_the_machine_as_it_was_seen(client: TestClient):
    machine_id = keep(client)
    set_value(client, machine_id, "name", "Changed since")
    assert post(client, f"/machines/{machine_id}/remove", version="1").status_code == 409
    assert client.delete(f"/api/v1/machines/{machine_id}?version=1").status_code == 409
    assert client.get(f"/machines/{machine_id}/train").status_code == 200
    assert post(client, f"/machines/{machine_id}/remove", version="2").status_code == 303


def test_a_log_that_cannot_be_written_breaks_no_answer(client: TestClient, monkeypatch: pytest.MonkeyPatch):
    class Full:
        def write(self, text: str) -> int:
            raise OSError(28, "No space left on device")

        def flush(self) -> None:
            raise OSError(28, "No space left on device")

    monkeypatch.setattr("sys.stderr", Full())
    assert client.get("/").status_code == 200


def test_nothing_waits_on_the_database_for_ever(client: TestClient):
    with client.app.state.engine.connect() as connection:
        for name in ("statement_timeout", "lock_timeout", "idle_in_transaction_session_timeout"):
            assert connection.execute(text(f"SHOW {name}")).scalar() not in ("0", None)
        assert connection.dialect.name == "postgresql"
    with client.app.state.engine.connect() as connection:
        connection.execute(text("SET statement_timeout = 50"))
        with pytest.raises(OperationalError, match="statement timeout"):
            connection.execute(text("SELECT pg_sleep(5)"))


def test_a_fault_of_the_program_is_answered_in_plain_words_and_logged_as_data(
    database_url: str, capsys: pytest.CaptureFixture[str]
):
    app = create_app(Settings(database_url, "test-secret"))

    def broken() -> None:
        secret = "the text somebody typed"
        raise RuntimeError(f"{len(secret)} went wrong")

    app.add_api_route("/broken", broken)
    app.add_api_route("/api/v1/broken", broken)
    with TestClient(app, base_url="http://127.0.0.1", raise_server_exceptions=True) as client:
        page, data = client.get("/broken"), client.get("/api/v1/broken")
    for answer in (page, data):
        assert answer.status_code == 500
        assert answer.headers["content-security-policy"] == POLICY
        assert "fault here" in answer.text
        assert answer.headers["x-request-id"] in answer.text
        assert "went wrong" not in answer.text
    records = [json.loads(line) for line in capsys.readouterr().err.splitlines() if line.startswith("{")]
    faults = [record for record in records if record["event"] == "fault"]
    assert [fault["id"] for fault in faults] == [page.headers["x-request-id"], data.headers["x-request-id"]]
    told = faults[0]["exception"][0]
    assert (told["exc_type"], told["exc_value"]) == ("RuntimeError", "23 went wrong")
    assert told["frames"][-1]["name"] == "broken"
    assert "the text somebody typed" not in json.dumps(records)


@pytest.mark.long
def test_a_database_server_that_hangs_is_given_up(cluster: Cluster, monkeypatch: pytest.MonkeyPatch):
    """Its own limits do not help then: the wait ends on this side, and the next connection is a new one."""
    monkeypatch.setattr("pulltide.store.patient.ANSWER_S", 0.3)
    engine = connect(cluster.url("postgres"))
    with engine.connect() as connection:
        backend = connection.execute(text("SELECT pg_backend_pid()")).scalar_one()
        os.kill(backend, signal.SIGSTOP)
        try:
            with pytest.raises(OperationalError, match="does not answer"):
                connection.execute(text("SELECT 1"))
        finally:
            os.kill(backend, signal.SIGCONT)
    with engine.connect() as connection:
        assert connection.execute(text("SELECT pg_backend_pid()")).scalar_one() != backend
    engine.dispose()


@pytest.mark.parametrize(
    ("method", "body"),
    [
        ("ratio_asked", {"first_speed_rpm": 1e-308, "last_speed_rpm": 120, "plan_ratio": 15}),
        ("shaft_torque", {"power_kw": 2, "speed_rpm": 1e-311}),
    ],
)
def test_a_figure_beyond_all_numbers_is_refused_in_words(client, method, body):
    answer = client.post(f"/api/v1/calc/{method}", json=body)
    assert answer.status_code == 422
    assert "too large or too small" in answer.text
