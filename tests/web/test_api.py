"""The JSON interface and the command line give one answer."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
import schemathesis
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, given, settings
from typer.testing import CliRunner

from builders import build_machine
from draws import draws
from pulltide.cli.main import app as cli
from pulltide.core.machine import FORMAT_VERSION
from pulltide.core.methods import METHODS

RAW = build_machine().model_dump(mode="json")


def test_the_same_result_three_ways(client: TestClient, tmp_path: Path):
    file = tmp_path / "rig.json"
    file.write_text(json.dumps(RAW), "utf-8")
    by_cli = json.loads(CliRunner().invoke(cli, ["solve", str(file)]).stdout)
    by_api = client.post("/api/v1/solve", json=RAW).json()
    kept = client.post("/api/v1/machines", json=RAW)
    assert kept.status_code == 201
    by_kept = client.get(f"/api/v1/machines/{kept.json()['id']}/result").json()
    assert by_cli == by_api == by_kept
    assert by_api["plans"][0]["settings"][0]["shafts"][-1]["speed_rpm"] == pytest.approx(17.7, abs=0.2)
    given = by_api["plans"][0]["gives_first"]
    known = [rung["times"] for rung in given if rung["times"] is not None]
    assert known == sorted(known)
    assert len(known) > 5
    assert [rung["missing"] for rung in given[len(known) :]] == [
        "the tension set on each belt",
        "sizes of keys and shafts",
    ]


def test_a_kept_machine_is_replaced_only_from_its_own_version(client: TestClient):
    kept = client.post("/api/v1/machines", json=RAW).json()
    address = f"/api/v1/machines/{kept['id']}"
    changed = {**RAW, "name": "Changed"}
    assert client.put(address, json={"version": 1, "machine": changed}).json()["version"] == 2
    assert client.put(address, json={"version": 1, "machine": RAW}).status_code == 409
    assert client.get(address).json()["machine"]["name"] == "Changed"
    assert [item["name"] for item in client.get("/api/v1/machines").json()] == ["Changed"]
    assert client.delete(address).status_code == 204
    assert client.get(address).status_code == 404


def test_a_bad_machine_names_every_fault(client: TestClient):
    raw = json.loads(json.dumps(RAW))
    raw["plans"][0]["links"][0]["belts"] = 0
    raw["need"]["running_torque_nm"] = "much"
    answer = client.post("/api/v1/solve", json=raw)
    assert answer.status_code == 422
    assert {fault["path"] for fault in answer.json()["faults"]} == {"plans.0.links.0.belts", "need.running_torque_nm"}


@pytest.mark.parametrize("name", METHODS)
def test_every_method_describes_itself_and_refuses_nothing_at_all(client: TestClient, name: str):
    assert client.get(f"/api/v1/calc/{name}/schema").json()["properties"]
    answer = client.post(f"/api/v1/calc/{name}", json={})
    assert answer.status_code == 422
    assert "is missing" in answer.json()["error"]


def test_calc_by_command_line_and_api(client: TestClient):
    inputs = {"power_kw": "2 kW", "speed_rpm": 1440}
    run = CliRunner().invoke(cli, ["calc", "shaft_torque"], input=json.dumps(inputs))
    assert json.loads(run.stdout) == client.post("/api/v1/calc/shaft_torque", json=inputs).json()
    listed = json.loads(CliRunner().invoke(cli, ["calc", "--list"]).stdout)
    assert {item["name"] for item in listed} == set(METHODS) == {i["name"] for i in client.get("/api/v1/calc").json()}
    assert "properties" in json.loads(CliRunner().invoke(cli, ["calc", "motor_slip", "--schema"]).stdout)
    assert "properties" in json.loads(CliRunner().invoke(cli, ["schema"]).stdout)


@pytest.mark.parametrize(
    ("arguments", "given"),
    [
        (["solve", "/no/such/file"], ""),
        (["solve", "-"], "{"),
        (["solve", "-"], "{}"),
        (["calc", "magic"], "{}"),
        (["calc", "shaft_torque"], '{"power_kw": "2 apples", "speed_rpm": 1}'),
        (["calc", "v_belt_center"], '{"small_diameter_mm": 50, "large_diameter_mm": 900, "pitch_length_mm": 900}'),
    ],
)
def test_the_command_line_fails_with_a_sentence(arguments: list[str], given: str):
    run = CliRunner().invoke(cli, arguments, input=given)
    assert run.exit_code == 2
    assert run.stderr.strip()
    assert "Traceback" not in run.output


def test_the_file_schema_is_published_with_units(client: TestClient):
    schema = client.get("/api/v1/schema/machine").json()
    assert '"unit": "mm"' in json.dumps(schema)
    assert schema["properties"]["format_version"]["const"] == FORMAT_VERSION


OURS = {"host": "127.0.0.1"}


def check_random_requests(operation) -> None:
    documented = set(operation.definition.raw["responses"])

    @given(case=operation.as_strategy())
    @settings(max_examples=draws(10), deadline=None, suppress_health_check=list(HealthCheck))
    def check(case):
        answer = case.call(headers=OURS)
        assert str(answer.status_code) in documented, (case.path, answer.status_code, answer.text[:200])

    check()


def test_random_requests_get_a_documented_answer(client: TestClient):
    """Requests made from the OpenAPI description: no crash, no status that the description does not have."""
    schema = schemathesis.openapi.from_asgi("/api/v1/openapi.json", client.app, headers=OURS)
    operations = [found.ok() for found in schema.get_all_operations()]
    assert len(operations) >= 10
    for operation in operations:
        check_random_requests(operation)
