"""Every worksheet through its form, in metric and in inch units, with one absurd value that is refused."""

from __future__ import annotations

import re
from typing import Any

import pytest
from fastapi.testclient import TestClient

from builders import build_machine
from pulltide.core.needs import NEED_KINDS
from pulltide.core.needs.assess import assess
from pulltide.quantities import Units, show
from pulltide.services.fields import describe
from typed import INCH, INCH_UNITS, METRIC, typed
from worksheets import WORKSHEETS


def put(client: TestClient, token: str, machine_id: str, **values: str) -> Any:
    version = client.app.state.machines.get(machine_id).version
    data = {"form_token": token, "version": str(version), **values}
    return client.post(f"/machines/{machine_id}/edit?at=need", data=data, headers={"x-fragment": "1"})


@pytest.mark.parametrize("units", [Units(), INCH_UNITS], ids=["metric", "inch"])
@pytest.mark.parametrize("kind", NEED_KINDS, ids=lambda kind: kind.kind)
def test_a_worksheet_is_filled_and_an_absurd_value_refused(client: TestClient, kind: Any, units: Units):
    token = re.search(r'name="form-token" content="([^"]+)"', client.get("/").text)[1]
    machine_id = client.post("/api/v1/machines", json=build_machine().model_dump(mode="json")).json()["id"]
    put(client, token, machine_id, operation="choose_worksheet", kind=kind.kind)
    speeds = {f"set:need.worksheet.{name}": "" for name in ("speed_min_rpm", "speed_ideal_rpm", "speed_max_rpm")}
    system = METRIC if units == Units() else INCH
    inputs = WORKSHEETS[kind.kind]
    entries = {f"set:need.worksheet.{name}": typed(kind.kind, name, value, system) for name, value in inputs.items()}
    answer = put(client, token, machine_id, **{**speeds, **entries})
    assert answer.status_code == 200, answer.text
    kept = client.app.state.machines.get(machine_id).machine.need
    expected = assess(kind.model.model_validate({"kind": kind.kind, **inputs}))
    assert kept.running_torque_nm == pytest.approx(expected.running_nm[1], rel=1e-5)
    assert str(show(expected.running_nm[1], "N*m", Units())).split()[0] in answer.text

    document = {"need": {"worksheet": {"kind": kind.kind}}}
    described = {name: describe(document, f"need.worksheet.{name}") for name in inputs}
    name, field = next((name, field) for name, field in described.items() if field.kind == "quantity")
    absurd = f"{field.high * 1000:.6g} {METRIC[field.unit][0]}"
    refused = put(client, token, machine_id, **{f"set:need.worksheet.{name}": absurd})
    assert refused.status_code == 422
    (fault,) = refused.json()["faults"]
    assert fault["field"] == field.title
    assert fault["accepted"]
    assert client.app.state.machines.get(machine_id).machine.need == kept, "nothing that was saved has changed"
