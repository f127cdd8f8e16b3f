"""The Run-up place, its file, and the same run for programs."""

from __future__ import annotations

import csv
import json
from io import StringIO
from typing import get_args

import pytest
from defusedxml import ElementTree
from typer.testing import CliRunner

from builders import build_belt, build_machine
from pulltide.cli.main import app
from pulltide.core.machine import Machine
from pulltide.core.run_up.cases import run_up
from pulltide.core.run_up.checks import RUN_DOWN, STALLS, START_SLIP, findings
from pulltide.core.run_up.contacts import Contact
from pulltide.core.run_up.control import Conditions
from pulltide.core.run_up.drive_train import drive_train
from pulltide.core.sources.induction import Start
from pulltide.core.sources.others import HandCrank
from pulltide.demo import demo_machines
from pulltide.services.running import run_of, run_report
from pulltide.web.places.runup.runup_view import conditions_of, said_of
from web.test_past import changed

DEMO = demo_machines()


def kept(client, machine) -> str:
    return client.post("/api/v1/machines", json=machine.model_dump(mode="json")).json()["id"]


@pytest.mark.parametrize("machine", DEMO, ids=lambda machine: machine.name)
def test_every_demo_machine_is_run_and_says_what_happened(client, machine):
    where = f"/machines/{kept(client, machine)}/runup"
    page = client.get(where).text
    _, run = run_of(machine, machine.plans[0], Conditions())
    assert f"{run.when('up_to_speed'):.2f} s" in page
    assert "Power off." in page
    low = client.get(f"{where}?wish=volts:80;soft:2").text
    slower = run_of(machine, machine.plans[0], Conditions(volts=0.8, soft_s=2.0))[1].when("up_to_speed")
    assert slower is None or f"{slower:.2f} s" in low


def test_what_is_shown_is_what_programs_get_and_what_the_file_holds(client):
    machine = DEMO[3]
    identity = kept(client, machine)
    told = client.get(f"/api/v1/machines/{identity}/plans/1/run?volts=0.9").json()
    assert told == json.loads(json.dumps(run_report(machine, machine.plans[0], Conditions(volts=0.9))))
    rows = list(
        csv.DictReader(StringIO(client.get(f"/machines/{identity}/run.csv?wish=volts:90").content.decode("utf-8-sig")))
    )
    _, run = run_of(machine, machine.plans[0], Conditions(volts=0.9))
    assert len(rows) == len(run.time_s)
    assert float(rows[-1]["seconds"]) == pytest.approx(run.time_s[-1], abs=1e-5)
    assert client.get(f"/api/v1/machines/{identity}/plans/9/run").status_code == 422
    assert client.get(f"/api/v1/machines/{identity}/plans/1/run?volts=7").status_code == 422
    assert client.get(f"/machines/{identity}/run.csv?plan=9").status_code == 404
    drawn = client.get(f"/machines/{identity}/run.svg?wish=volts:90")
    assert drawn.headers["content-type"].startswith("image/svg+xml")
    words = [node.text for node in ElementTree.fromstring(drawn.content).iter("{http://www.w3.org/2000/svg}text")]
    assert "Motor current, A" in words
    assert "power off" in words


def test_what_cannot_be_run_says_what_is_missing(client):
    bare = build_machine([build_belt()])
    unknown = bare.model_copy(update={"need": bare.need.model_copy(update={"running_torque_nm": None})})
    page = client.get(f"/machines/{kept(client, unknown)}/runup").text
    assert "Nothing to run yet" in page
    assert "Running torque" in page
    answer = client.get(f"/api/v1/machines/{kept(client, unknown)}/plans/1/run")
    assert answer.status_code == 422


def test_conditions_that_are_not_offered_are_left_out():
    assert said_of("volts:12;soft:2;load:<x>") == {"soft": "2"}
    assert conditions_of(said_of("volts:80;load:50")) == Conditions(volts=0.8, load=0.5)


def test_the_command_line_runs_the_same(tmp_path):
    file = tmp_path / "m.json"
    file.write_text(DEMO[0].model_dump_json())
    run = CliRunner().invoke(app, ["run", str(file), "--load", "0.5"])
    assert json.loads(run.output) == json.loads(json.dumps(run_report(DEMO[0], DEMO[0].plans[0], Conditions(load=0.5))))
    assert CliRunner().invoke(app, ["run", str(file), "--plan", "7"]).exit_code


WHAT_HAPPENS = (
    ("load_steps", DEMO[4], "Load on again, at once"),
    ("dip", DEMO[4], "Volts fall to 60 %"),
    ("jam", DEMO[4], "Drum is held fast for 1 s"),
    ("blows", DEMO[3], "Blows begin, 310 a minute"),
    ("other_way", DEMO[4], "the other way round"),
)


@pytest.mark.parametrize(("then", "machine", "told"), WHAT_HAPPENS, ids=[one[0] for one in WHAT_HAPPENS])
def test_what_happens_at_speed_is_told_on_the_page_to_programs_and_on_the_command_line(
    client, tmp_path, then, machine, told
):
    identity = kept(client, machine)
    page = client.get(f"/machines/{identity}/runup?wish=then:{then}").text
    assert told in page
    report = client.get(f"/api/v1/machines/{identity}/plans/1/run?then={then}").json()
    assert report == json.loads(json.dumps(run_report(machine, machine.plans[0], Conditions(then=then))))
    file = tmp_path / "m.json"
    file.write_text(machine.model_dump_json())
    run = CliRunner().invoke(app, ["run", str(file), "--start", f"then:{then}"])
    assert json.loads(run.output) == report
    if then == "jam":
        worst = max(report["jam"], key=lambda one: one["use"])
        assert f"{100 * worst['use']:.0f} %" in page
        assert worst["name"].replace("'", "&#39;") in page
        assert {one["code"] for one in report["findings"]} >= {"run.jam_peak", "run.relay"}


def test_a_raised_batch_swings_back_on_the_page_and_for_programs(client):
    identity = kept(client, DEMO[4])
    page = client.get(f"/machines/{identity}/runup").text
    report = client.get(f"/api/v1/machines/{identity}/plans/1/run").json()
    back = next(event for event in report["events"] if event["what"] == "swings_back")
    assert f"swings the drive back, {back['value']:.0f}° at first" in page
    assert "Everything has stopped" not in page
    found = {one["code"]: one for one in report["findings"]}
    assert found["run.swings_back"]["severity"] == "warning"
    still = next(event for event in report["events"] if event["what"] == "hangs_still")
    off = next(event for event in report["events"] if event["what"] == "power_off")
    assert found["run.run_down"]["measured"] == pytest.approx(still["at_s"] - off["at_s"])


def test_volts_are_asked_of_what_has_some_and_a_pedal_of_direct_current(client):
    raw = build_machine().model_dump(mode="json")
    raw["plans"][0]["source"] = {"kind": "engine", "power_kw": 3.0, "speed_rpm": 3000, "clutch": "none"}
    engine = client.post("/api/v1/machines", json=raw).json()["id"]
    raw["plans"][0]["source"] = {"kind": "dc", "volts": 90, "kv_rpm_v": 20, "resistance_ohm": 0.4, "no_load_a": 1}
    direct = client.post("/api/v1/machines", json=raw).json()["id"]
    pages = [client.get(f"/machines/{one}/runup").text for one in (engine, direct)]
    assert "volts:90" not in pages[0]
    assert "volts:90" in pages[1]
    assert "pedal, 2 s" in pages[1]


def test_another_start_is_offered_once_it_was_run_and_mends_something(client):
    """At 120 N a soft start of 2 s slips too long, one of 5 s does not; the hammer runs down as long either way."""
    raw = DEMO[3].model_dump(mode="json")
    raw["plans"][0]["links"][0]["static_tension_n"] = 120
    identity = client.post("/api/v1/machines", json=raw).json()["id"]
    page = client.get(f"/machines/{identity}/runup").text
    assert "soft, 5 s: 1 of 2 findings gone" in page
    assert "soft, 2 s:" not in page
    after = client.get(f"/machines/{identity}/runup?wish=soft:5").text
    assert "It slips little or not at all at the start" in after
    assert "findings gone" not in after


def test_a_move_is_followed_by_what_a_controller_drives_and_by_nothing_else(client):
    axis = {"kind": "axis", "move_deg": 90, "move_s": 1.2, "inertia_kgm2": 0.6, "friction_nm": 2, "dwell_s": 1}
    raw = build_machine([{"kind": "toothed_belt", "profile": "5M", "driver_teeth": 20, "driven_teeth": 60,
                          "width_mm": 25, "belt_teeth": 120}]).model_dump(mode="json")  # fmt: skip
    raw["need"] = {"last_shaft": "Axis", "worksheet": axis}
    plain = client.post("/api/v1/machines", json=raw).json()["id"]
    assert "then:move" not in client.get(f"/machines/{plain}/runup").text
    raw["plans"][0]["source"] = {
        "kind": "dc", "volts": 48, "kv_rpm_v": 60, "resistance_ohm": 0.3, "no_load_a": 0.5, "driver_limit_a": 20,
        "continuous_a": 8, "rotor_inertia_kgm2": 0.0004,
    }  # fmt: skip
    identity = client.post("/api/v1/machines", json=raw).json()["id"]
    assert "then:move" in client.get(f"/machines/{identity}/runup").text
    page = client.get(f"/machines/{identity}/runup?wish=then:move").text
    report = client.get(f"/api/v1/machines/{identity}/plans/1/run?then=move").json()
    assert "One move and the rest after it, 2.2 s" in page
    assert f"{100 * report['followed']['worst']:.0f} %" in page
    assert {one["code"] for one in report["findings"]} == {"run.follows", "run.move_heat"}


def test_only_what_means_something_for_a_machine_is_offered(client):
    hammer, trommel = (client.get(f"/machines/{kept(client, DEMO[number])}/runup").text for number in (3, 4))
    assert "then:blows" in hammer
    assert "then:blows" not in trommel
    assert "then:cycle" not in trommel
    raw = DEMO[4].model_dump(mode="json")
    raw["duty"]["cycle"] = [{"seconds": 20, "torque_share": 1.5}, {"seconds": 20, "torque_share": 0.4}]
    identity = client.post("/api/v1/machines", json=raw).json()["id"]
    page = client.get(f"/machines/{identity}/runup?wish=then:cycle").text
    assert "The duty cycle begins, 40 s each" in page
    assert "Winding, if it goes on" in page
    assert "Case of stage 2, if it goes on" in page
    report = client.get(f"/api/v1/machines/{identity}/plans/1/run?then=cycle").json()
    assert f"{100 * report['winding_if_it_goes_on']:.0f} %" in page
    assert client.get(f"/api/v1/machines/{identity}/plans/1/run?then=explodes").status_code == 422


def judged(machine, **conditions):
    from dataclasses import replace

    from pulltide.core.line import solve_plan

    made = drive_train(machine, machine.plans[0], solve_plan(machine, machine.plans[0]).chosen)
    slip = conditions.pop("slip_nm", None)
    made = made if slip is None else replace(made, contacts=(Contact(0, "slips", slip),))
    return {finding.rule: finding.severity.value for finding in findings(made, run_up(made, Conditions(**conditions)))}


@pytest.mark.long
def test_each_check_of_a_run_comes_up_and_clears():
    hammer, trommel = DEMO[3], DEMO[4]
    assert judged(hammer)[RUN_DOWN] == "warning"
    assert judged(trommel)[RUN_DOWN] == "clear"
    assert judged(trommel, volts=0.5)[STALLS] == "error"
    assert judged(hammer, slip_nm=9.0)[START_SLIP] in ("warning", "clear")
    assert judged(hammer, slip_nm=80.0)[START_SLIP] == "clear"
    slow = [judged(hammer, slip_nm=torque).get(START_SLIP) for torque in (5.0, 6.0, 7.0, 8.0)]
    assert "warning" in slow


def test_a_person_at_a_crank_lets_go_and_has_no_power_to_switch(client):
    need = {"running_torque_nm": 60.0, "peak_torque_nm": 60.0, "breakaway_torque_nm": 70.0, "holding_torque_nm": 5.0}
    machine = build_machine(need=need)
    plan = machine.plans[0].model_copy(update={"source": HandCrank(speed_rpm=50.0, handle_force_n=120.0)})
    page = client.get(f"/machines/{kept(client, machine.model_copy(update={'plans': (plan,)}))}/runup").text
    body = page[page.index("<main") :]
    for said in ("The crank is let go.", "after the crank was let go", "Once the crank is let go, this load runs back"):
        assert said in body, said
    assert "ower off" not in body
    assert "Time to coast to a stop" in body
    assert "under 0.01 s" in body, "neither arms nor machine have inertia that is known"


def test_a_start_in_two_ways_or_in_none_that_is_known_is_refused(client, tmp_path):
    identity = kept(client, DEMO[4])
    where = f"/api/v1/machines/{identity}/plans/1/run"
    star = client.get(f"{where}?star_s=3").json()
    assert "delta" in [event["what"] for event in star["events"]]
    assert client.get(f"{where}?star_s=3&vfd_s=2").status_code == 422
    page = client.get(f"/machines/{identity}/runup?wish=soft:star3").text
    assert "Star becomes delta." in page
    assert "Motor current, A" in page
    assert "VFD, 2 s" not in client.get(f"/machines/{kept(client, DEMO[5])}/runup").text, "one phase has neither"
    file = tmp_path / "machine.json"
    file.write_text(DEMO[4].model_dump_json())
    assert json.loads(CliRunner().invoke(app, ["run", str(file), "--start", "star:3"]).output) == star
    for odd in ("star", "star:99", "crank:3", "vfd:-1"):
        assert CliRunner().invoke(app, ["run", str(file), "--start", odd]).exit_code != 0, odd


def test_another_run_stands_beside_it(client):
    identity = kept(client, DEMO[4])
    where = f"/machines/{identity}/runup?wish="
    alone = client.get(f"{where}soft:vfd2").text
    assert 'class="beside"' not in alone
    direct, plan = (client.get(f"{where}soft:vfd2;beside:{one}").text for one in ("direct", "plan1"))
    assert direct.count('class="beside"') == 3
    assert "beside it: started direct" in direct
    assert f"beside it: {DEMO[4].plans[1].name}" in plan
    assert 'class="beside"' not in client.get(f"{where}beside:plan7").text
    assert said_of("beside:plan99") == {}


def test_a_run_stands_beside_what_it_was_before_the_last_change(client):
    """A larger motor, and both runs in one chart."""
    identity = kept(client, DEMO[3])
    where = f"/machines/{identity}/runup?wish="
    assert "before the last change" not in client.get(where).text
    changed(client, identity, 1, **{"set:plans.0.source.power_kw": "3 kW"})
    page = client.get(f"{where}beside:before").text
    assert "beside it: before the last change" in page
    assert page.count('class="beside"') >= 2


def test_the_first_jerk_is_judged_by_what_breaks_and_a_softer_start_is_offered_after_it_was_run(client):
    identity = kept(client, DEMO[4])
    page = client.get(f"/machines/{identity}/runup?wish=then:jerk").text
    report = client.get(f"/api/v1/machines/{identity}/plans/1/run?then=jerk").json()
    assert "In the first jerk, against what breaks it" in page
    assert f"{report['jerk']['frequencies_hz'][0]:.3g} Hz" in page
    assert f"torque into stage {report['jerk']['worst_stage']}" in page
    assert max(one["use"] for one in report["jam"]) > 0
    assert "run.start_peak" in {one["code"] for one in report["findings"]}


def test_a_one_way_clutch_is_run_as_one_and_never_turned_about(client):
    machine = DEMO[3]
    raw = machine.model_dump(mode="json")
    raw["plans"][0]["shafts"] = [{"shaft": 2, "one_way": "driven_wheel", "brake_nm": None}]
    identity = client.post("/api/v1/machines", json=raw).json()["id"]
    page = client.get(f"/machines/{identity}/runup?wish=then:load_steps").text
    assert "the other way</a>" not in page
    report = client.get(f"/api/v1/machines/{identity}/plans/1/run").json()
    assert [one["stage"] for one in report["parts_at"]] == [1]


@pytest.mark.parametrize("how", get_args(Start))
def test_a_motor_with_a_vfd_is_never_started_without_it(client, how):
    """Also one of a single phase, which none suits: that is said under Source."""
    fitted, index = next(
        (machine, k)
        for machine in DEMO
        for k, plan in enumerate(machine.plans)
        if getattr(plan.source, "inverter", None) and plan.source.inverter.fitted
    )
    raw = fitted.model_dump(mode="json")
    raw["plans"][index]["source"] |= {"start": how}
    identity = kept(client, Machine.model_validate(raw))
    page = client.get(f"/machines/{identity}/runup?plan={index}").text
    assert ">direct</a>" not in page
    assert ">soft, 2 s</a>" not in page
    report = client.get(f"/api/v1/machines/{identity}/plans/{index + 1}/run").json()
    assert report["conditions"]["vfd_s"] == 2.0
    up = next(event["at_s"] for event in report["events"] if event["what"] == "up_to_speed")
    assert up == pytest.approx(2.0, rel=0.1)
