"""The shop called from the command line and by a client written from its own description."""

from __future__ import annotations

import ast
import json
from collections.abc import Mapping
from types import ModuleType

import pytest
from fastapi.testclient import TestClient
from typer.testing import CliRunner

from pulltide.cli import shop
from pulltide.cli.client_file import client_file
from pulltide.cli.main import app as cli
from pulltide.cli.operations import operations, sender
from pulltide.demo import demo_machines

RAW = demo_machines()[0].model_dump(mode="json")


@pytest.fixture
def send(client: TestClient):
    """Calls the application in process."""

    def sent(method: str, path: str, body: bytes | None, headers: Mapping[str, str]) -> tuple[int, str, bytes]:
        answer = client.request(method, path, content=body, headers=dict(headers))
        return answer.status_code, answer.headers.get("content-type", ""), answer.content

    return sent


@pytest.fixture
def call(send, monkeypatch: pytest.MonkeyPatch):
    """Runs ``pulltide call``."""
    monkeypatch.setattr(shop, "sender", lambda at, token, certificate: send)

    def run(*arguments: str, given: str = ""):
        return CliRunner().invoke(cli, ["call", *arguments], input=given)

    return run


@pytest.fixture
def described(client: TestClient):
    return client.app.openapi()


def written(described) -> ModuleType:
    """The client as a module."""
    module = ModuleType("pulltide_client")
    exec(compile(client_file(described), "pulltide_client.py", "exec"), module.__dict__)
    return module


def test_every_operation_has_a_name_of_its_own_a_sentence_and_its_refusals(described):
    names = [one["operationId"] for methods in described["paths"].values() for one in methods.values()]
    assert len(names) == len(set(names)) == len(operations(described)) > 30
    for path, methods in described["paths"].items():
        for method, one in methods.items():
            assert one.get("description"), (method, path)
            if "{" in path or method != "get":
                assert {"404", "422"} <= set(one["responses"]), (method, path)


def test_the_command_line_lists_and_does_what_the_interface_does(call, described):
    listed = call().stdout
    assert all(line.split()[0] in operations(described) for line in listed.splitlines())
    assert len(listed.splitlines()) == len(operations(described))
    made = json.loads(call("create_machine", "--body", "-", given=json.dumps(RAW)).stdout)
    found = json.loads(call("list_machines", "limit=1").stdout)
    assert [one["id"] for one in found] == [made["id"]]
    assert json.loads(call("get_machine", f"machine_id={made['id']}").stdout)["machine"] == RAW


@pytest.mark.parametrize(
    ("arguments", "said"),
    [
        (("fly",), "is nothing that this shop does"),
        (("get_machine",), "machine_id is missing"),
        (("list_machines", "color=red"), "color is not known"),
        (("list_machines", "limit"), "name=value"),
        (("create_machine",), "takes a body"),
        (("get_machine", "machine_id=none"), "404: There is no such machine"),
        (("create_machine", "--body", "/no/such/file"), "No such file"),
        (("list_machines", "--token-file", "/no/such/file"), "cannot be read"),
    ],
)
def test_the_command_line_fails_with_a_sentence(call, arguments: tuple[str, ...], said: str):
    run = call(*arguments)
    assert run.exit_code == 2
    assert said in run.stderr


def test_nobody_at_an_address_is_said(monkeypatch: pytest.MonkeyPatch):
    run = CliRunner().invoke(cli, ["call", "--at", "http://127.0.0.1:9"])
    assert run.exit_code == 2
    assert "No answer from http://127.0.0.1:9" in run.stderr
    assert callable(sender("http://127.0.0.1:9"))


def test_a_client_written_from_the_description_calls_every_operation(described, send):
    module = written(described)
    kept = module.Shop("", send=send)
    machine = kept.create_machine(RAW, idempotency_key="one")
    assert kept.create_machine(RAW, idempotency_key="one") == machine
    assert [one["id"] for one in kept.list_machines(limit=5)] == [machine["id"]]
    changed = kept.replace_machine(machine["id"], {"version": 1, "machine": {**RAW, "name": "Changed"}})
    assert [one["label"] for one in kept.machine_history(machine["id"])] == ["Changed by a program", "Machine made"]
    assert kept.back_to(machine["id"], {"version": changed["version"], "place": 1})["name"] == RAW["name"]
    with pytest.raises(module.Refused) as refused:
        kept.create_machine({**RAW, "name": ""})
    assert refused.value.status == 422
    assert refused.value.faults[0]["path"] == "name"
    methods = {name for name in dir(module.Shop) if not name.startswith("_")}
    assert methods == set(operations(described))


def test_the_client_is_plain_python_with_a_docstring_a_method(described):
    tree = ast.parse(client_file(described))
    imported = {node.module.split(".")[0] for node in ast.walk(tree) if isinstance(node, ast.ImportFrom)}
    assert imported <= {"__future__", "typing", "urllib"}
    functions = [node for node in ast.walk(tree) if isinstance(node, ast.FunctionDef) and not node.name.startswith("_")]
    assert all(ast.get_docstring(node) for node in functions)


def resolved(schema, part):
    """A schema with what it refers to in its place."""
    while "$ref" in part:
        part = schema["components"]["schemas"][part["$ref"].rsplit("/", 1)[1]]
    return part


def example_of(schema, content):
    """What a body looks like: its own example, or one made of its fields' examples."""
    if "example" in content:
        return content["example"]
    fields = resolved(schema, content["schema"])["properties"]
    return {name: field["examples"][0] for name, field in fields.items()}


def test_every_body_has_an_example_that_works(client: TestClient, described):
    known = {"part": "cam", "kind": "dxf", "method": "shaft_torque", "name": "Yard", "plan": "1"}
    tried = 0
    for one in operations(described).values():
        if not one.takes_body or one.body_type != "application/json":
            continue
        tried += 1
        kept = client.post("/api/v1/machines", json=RAW).json()
        content = described["paths"][one.path][one.method.lower()]["requestBody"]["content"]["application/json"]
        path = one.path.replace("{machine_id}", kept["id"])
        for name, value in known.items():
            path = path.replace(f"{{{name}}}", value)
        answer = client.request(one.method, path, json=example_of(described, content))
        assert answer.status_code < 300, (one.name, answer.text[:300])
    assert tried > 10
