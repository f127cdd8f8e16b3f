"""The Run log place and its files over HTTP, and the same for programs."""

from __future__ import annotations

import json
from datetime import date

import pytest
from typer.testing import CliRunner

from builders import build_machine
from pulltide.cli.main import app
from pulltide.core.run_log.judging import page_of
from pulltide.demo import demo_machines
from pulltide.presentation.log_words import Places, how_likely, row_words
from pulltide.quantities import Units
from pulltide.services.log_report import log_report
from web.test_pages import post

DEMO = demo_machines()


def kept(client, machine) -> str:
    return client.post("/api/v1/machines", json=machine.model_dump(mode="json")).json()["id"]


@pytest.mark.parametrize("machine", DEMO, ids=lambda machine: machine.name)
def test_every_demo_machine_has_its_log(client, machine):
    page = client.get(f"/machines/{kept(client, machine)}/log").text
    if not machine.log.visits:
        assert "Nothing read yet" in page
        return
    judged = page_of(machine, 0, len(machine.log.visits) - 1)
    for one in judged.judged:
        assert f"{one.band.high:.0f}"[:3] in page
    assert how_likely(judged.diagnosis.first.probability) in page or "as predicted" in page


@pytest.mark.parametrize(("temperature", "value", "says"), [("degC", "96°C", "°C over"), ("degF", "205°F", "°F over")])
def test_how_much_too_warm_is_a_difference_in_a_persons_unit(temperature: str, value: str, says: str):
    """Without the 32 degrees between the zeros of two scales."""
    machine = next(one for one in DEMO if one.name.startswith("Windrow"))
    page = page_of(machine, 0, len(machine.log.visits) - 1)
    warm = next(one for one in page.judged if one.what == "small_pulley")
    row = row_words(warm, Places(machine.plans[0], ()), Units(temperature=temperature))
    degrees = warm.off if temperature == "degC" else 1.8 * round(warm.off)
    assert (row.value, row.says) == (value, f"{degrees:.0f}{says}")


def test_programs_are_told_the_same(client, tmp_path):
    machine = DEMO[4]
    identity = kept(client, machine)
    told = client.get(f"/api/v1/machines/{identity}/plans/1/log?page=5").json()
    assert told == json.loads(json.dumps(log_report(machine, 0, 5, date.today())))
    file = tmp_path / "machine.json"
    file.write_text(machine.model_dump_json())
    printed = CliRunner().invoke(app, ["log", str(file), "--page", "5"])
    assert printed.exit_code == 0
    assert json.loads(printed.stdout)["causes"] == told["causes"]
    assert client.get(f"/api/v1/machines/{identity}/plans/1/log?page=9").status_code == 422
    assert client.get(f"/api/v1/machines/{identity}/plans/7/log").status_code == 422
    assert CliRunner().invoke(app, ["log", str(file), "--plan", "9"]).exit_code != 0


def test_readings_in_good_order_are_taken_over_with_what_they_change_and_undone(client):
    machine = DEMO[4]
    identity = kept(client, machine)
    where = f"/machines/{identity}/log?at=visit-2"
    page = client.get(where).text
    assert "What the readings say of the plan" in page
    assert "Take them over" not in page, "only after it was shown what they change"
    report = client.get(f"/api/v1/machines/{identity}/plans/1/log?page=2").json()
    shown = client.get(f"{where}&wish=correct").text
    for one in report["changes"]:
        assert one["plan"] in shown
    assert "Take them over" in shown
    before = client.get(f"/api/v1/machines/{identity}").json()
    form = {"version": str(before["version"]), "plan": "0", "index": "1", "operation": "take_over"}
    assert post(client, f"/machines/{identity}/edit?in=log&at=visit-2", False, **form).status_code == 303
    after = client.get(f"/api/v1/machines/{identity}").json()
    load = next(one for one in report["corrections"] if one["what"] == "load")
    assert after["machine"]["need"]["measured_torque_nm"] == pytest.approx(load["measured"], rel=1e-3)
    assert "Running torque, measured" in client.get(f"/machines/{identity}/need").text
    taken = after["machine"]["log"]["taken"]
    assert {one["what"] for one in taken} == {one["what"] for one in report["corrections"]}
    assert "2026-04-09" in client.get(where).text
    undo = {"version": str(after["version"]), "plan": "0"}
    assert post(client, f"/machines/{identity}/history/undo?in=log", False, **undo).status_code == 303
    assert client.get(f"/api/v1/machines/{identity}").json()["machine"] == before["machine"]
    refused = post(client, f"/machines/{identity}/edit?in=log", False, **{**form, "version": "3", "index": "0"})
    assert refused.status_code == 422
    assert "correct nothing of this plan" in refused.text


def test_files_go_out_and_what_is_missing_is_said(client):
    identity = kept(client, DEMO[4])
    assert client.get(f"/machines/{identity}/log.csv").text.count("\n") > 30
    assert "BEGIN:VCALENDAR" in client.get(f"/machines/{identity}/upkeep.ics").text
    bare = kept(client, build_machine())
    assert client.get(f"/machines/{bare}/log").status_code == 200
    assert client.get(f"/machines/{identity}/upkeep.ics?plan=9").status_code == 404
    empty = client.post("/api/v1/machines", json={"name": "Empty"}).json()["id"]
    assert client.get(f"/machines/{empty}/log").status_code == 200
    assert client.get(f"/machines/{empty}/upkeep.ics").status_code == 422


def test_a_recording_without_a_token_or_a_file_is_refused(client):
    identity = kept(client, DEMO[4])
    where = f"/machines/{identity}/log/listen"
    assert client.post(where, files={"file": b"x"}, data={"version": "1"}).status_code == 403
    token = client.get("/").text.split('name="form-token" content="')[1].split('"')[0]
    none = client.post(where, data={"form_token": token, "version": "1", "named": "strum@link-1"})
    assert none.status_code == 422
    odd = client.post(
        where, files={"file": b"RIFF"}, data={"form_token": token, "version": "1", "named": "whistle@link-1"}
    )
    assert odd.status_code == 422
    late = client.post(
        f"/machines/{identity}/log/import",
        files={"file": b"reading,where,value\nspeed,shaft-1,1460\n"},
        data={"form_token": token, "version": "7"},
    )
    assert late.status_code == 409
    assert client.app.state.machines.get(identity).version == 1


def test_a_copy_of_a_machine_begins_a_log_of_its_own(client):
    identity = kept(client, DEMO[4])
    token = client.get("/").text.split('name="form-token" content="')[1].split('"')[0]
    client.post(f"/machines/{identity}/duplicate", data={"form_token": token})
    (copy,) = [one for one in client.app.state.machines.all() if one.machine.name.endswith("(copy)")]
    assert not copy.machine.log.visits
    assert copy.machine.plans == DEMO[4].plans
