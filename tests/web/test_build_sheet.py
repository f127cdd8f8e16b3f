"""The build sheet says what the other places say, in every format, and no name of a machine runs in a spreadsheet."""

from __future__ import annotations

import csv
import re
import subprocess
from io import BytesIO, StringIO

import pytest
from fastapi.testclient import TestClient
from openpyxl import load_workbook

from builders import LOOKED_UP, build_belt, build_machine
from pulltide.core.bill import total
from pulltide.core.fit.bearings import insert_for
from pulltide.core.line import solve_plan
from pulltide.core.links import family_of
from pulltide.core.machine import Machine, Plan
from pulltide.core.run_log.first import first_readings
from pulltide.core.set_up import grease_g
from pulltide.core.shaft_bill import whole_bill
from pulltide.core.shipped import shipped_catalog
from pulltide.demo import demo_machines
from pulltide.presentation.build_sheet import TACHOMETER, build_sheet
from pulltide.presentation.paper.bundle import taken_of
from pulltide.quantities import Units, show
from web.test_pages import keep, post

CATALOG = shipped_catalog()


def words(page: str) -> str:
    return re.sub(r"<[^>]+>|\s+", " ", page)


@pytest.mark.parametrize("machine", demo_machines(), ids=lambda machine: machine.name)
def test_every_figure_of_the_sheet_is_the_solved_one(machine):
    units = Units()
    for plan in machine.plans:
        result = solve_plan(machine, plan)
        sheet = build_sheet(machine, plan, result, CATALOG, units)
        for row, shaft in zip(sheet.shafts, result.chosen.shafts, strict=True):
            assert row.speed == str(show(shaft.speed_rpm, "rpm", units))
            low, high = (float(end.replace(" ", "")) for end in row.tachometer.removesuffix("rpm").split(" to "))
            band = first_readings(machine, plan, result.chosen).get(("speed", f"shaft-{shaft.number}"))
            expected = band.low if band is not None else shaft.speed_rpm * (1 - TACHOMETER)
            assert low == pytest.approx(expected, rel=0.01)
            assert low < shaft.speed_rpm < high
        pieces = whole_bill(plan, CATALOG)
        assert [part.count for part in sheet.parts] == [piece.count for piece in pieces]
        priced = sum(float(part.price) for part in sheet.parts if part.price)
        assert priced == pytest.approx(total(pieces).price, abs=0.06 * len(pieces))
        assert all(stage.center for stage, link in zip(sheet.stages, plan.links, strict=True) if "belt" in link.kind)
        told = {(one.finding.state, one.finding.fact) for one in sheet.findings}
        assert len(told) == len(sheet.findings)


def test_the_sheet_of_a_plan_without_a_drive_says_where_to_get_one(client: TestClient):
    machine = build_machine().model_copy(update={"plans": (Plan(),)})
    assert "No sheet yet" in client.get(f"/machines/{keep(client, machine)}/sheet").text


def test_the_parts_list_is_the_same_on_the_page_in_csv_and_in_a_workbook(client: TestClient):
    machine_id = keep(client)
    page = words(client.get(f"/machines/{machine_id}/sheet").text)
    written = client.get(f"/machines/{machine_id}/parts.csv")
    assert written.headers["content-type"].startswith("text/csv")
    rows = list(csv.DictReader(StringIO(written.text)))
    assert len(rows) >= 6
    for row in rows:
        assert row["what"].split(",")[0] in page
    book = load_workbook(BytesIO(client.get(f"/machines/{machine_id}/parts.xlsx").content))
    cells = [
        [("" if cell is None else cell) for cell in line] for line in book.active.iter_rows(min_row=2, values_only=True)
    ]
    assert [line[1] for line in cells] == [row["what"] for row in rows]
    assert [str(line[0]) for line in cells] == [row["count"] for row in rows]
    assert client.get(f"/machines/{machine_id}/parts.csv?plan=7").status_code == 404
    assert client.get(f"/machines/{machine_id}/parts.exe").status_code == 422


def test_a_changed_part_changes_the_sheet_and_its_state(client: TestClient):
    machine_id = keep(client)
    before = words(client.get(f"/machines/{machine_id}/sheet").text)
    assert "State 1 of" in before
    post(client, f"/machines/{machine_id}/edit", version="1", **{"set:plans.0.links.2.driven_teeth": "48"})
    after = words(client.get(f"/machines/{machine_id}/sheet").text)
    assert "State 2 of" in after
    assert "48 t" in after
    assert "48 t" not in before


def test_a_hostile_name_is_text_in_every_file(client: TestClient):
    name = '=HYPERLINK("http://x","<b>")'
    machine = build_machine().model_copy(
        update={"name": name, "plans": (build_machine().plans[0].model_copy(update={"name": name}),)}
    )
    machine_id = keep(client, machine)
    page = client.get(f"/machines/{machine_id}/sheet").text
    assert "<b>" + '")' not in page
    disposition = client.get(f"/machines/{machine_id}/parts.csv").headers["content-disposition"]
    assert re.fullmatch(r'attachment; filename="[a-z0-9-]+-parts\.csv"', disposition)


def sheet_page(client: TestClient, machine_id: str) -> str:
    return words(client.get(f"/machines/{machine_id}/sheet").text)


def test_the_sheet_says_keys_alignment_guards_upkeep_and_first_readings():
    machine = next(one for one in demo_machines() if "Windrow" in one.name)
    plan = machine.plans[0]
    raw = machine.model_dump(mode="json")
    raw["plans"][0]["shafts"][0] |= {"key_width_mm": 14.0, "key_length_mm": 50.0}
    keyed = Machine.model_validate(raw, context=LOOKED_UP)
    result = solve_plan(keyed, keyed.plans[0])
    sheet = build_sheet(keyed, keyed.plans[0], result, CATALOG, Units())
    assert sheet.keys == (("Shaft 4, Drum", "key 14 mm × 9 mm × 50 mm long; keyseat 4.5 mm deep in shaft and in hub"),)
    assert [name for name, _ in sheet.in_line] == ["Stage 1, V-belt", "Stage 3, Roller chain"]
    assert [name for name, _ in sheet.guards] == ["Stage 1", "Stage 3"]
    tasks = {(task.what, task.where): task for task in sheet.upkeep}
    oil = next(task for (what, _), task in tasks.items() if what == "Oil the chain")
    assert "ISO VG 68" in oil.amount
    grease = next(task for (what, where), task in tasks.items() if what.startswith("Grease") and "Drum" in where)
    bore = next(part.diameter_mm for part in plan.shafts if part.shaft == 4)
    assert f"{grease_g(insert_for(bore)):.0f} g" in grease.amount
    assert {"Motor current", "Motor case"} <= {reading.what for reading in sheet.readings}


@pytest.mark.long
@pytest.mark.parametrize("size", ["Letter", "A4"])
@pytest.mark.parametrize("machine", demo_machines(), ids=lambda machine: machine.name)
def test_the_short_form_fits_one_page(machine, size):
    taken = taken_of(machine, machine.plans[0], CATALOG, Units())
    assert pages(taken.file("pdf", size, "short")) == 1


@pytest.mark.long
def test_the_longest_plan_fits_one_page_too():
    gears = {"kind": "gear_pair", "driver_teeth": 20, "driven_teeth": 24, "module_mm": 3, "face_width_mm": 30}
    machine = build_machine([build_belt(), *([gears] * 7)])
    long = machine.model_copy(update={"name": "A machine with a name as long as it may be, sixty letters..."})
    taken = taken_of(long, long.plans[0], CATALOG, Units())
    assert pages(taken.file("pdf", "Letter", "short")) == 1


def test_a_drive_that_stalls_has_no_first_readings():
    machine = build_machine(need={"running_torque_nm": 3000.0, "peak_torque_nm": 3000.0, "breakaway_torque_nm": None})
    result = solve_plan(machine, machine.plans[0])
    assert result.chosen.stalled
    sheet = build_sheet(machine, machine.plans[0], result, CATALOG, Units())
    assert sheet.readings == ()


@pytest.mark.long
def test_the_long_form_has_the_working_of_every_figure():
    machine = next(one for one in demo_machines() if "Windrow" in one.name)
    taken = taken_of(machine, machine.plans[0], CATALOG, Units())
    long = taken.file("pdf", "Letter", "long")
    text = " ".join(text_of(long).split())
    for number, result in enumerate(solve_plan(machine, machine.plans[0]).chosen.links, start=1):
        assert f"Workings: Stage {number}" in text
        made = family_of(machine.plans[0].links[number - 1].kind).workings(result)
        known = [figure.key for figure in result.figures if figure.key in made and figure.value is not None]
        assert known
        assert all(made[key]().title in text for key in known)
    assert pages(long) > pages(taken.file("pdf", "Letter"))


def press(client: TestClient, machine_id: str, path: str, **fields: str):
    """A form of the sheet, sent as the page has it now."""
    version = client.get(f"/api/v1/machines/{machine_id}").json()["version"]
    return post(client, f"/machines/{machine_id}/{path}?in=sheet", False, **{"version": str(version), **fields})


def pages(pdf: bytes) -> int:
    told = subprocess.run(["pdfinfo", "-"], input=pdf, capture_output=True, check=True).stdout.decode()
    return int(re.search(r"Pages:\s+(\d+)", told)[1])


def text_of(pdf: bytes) -> str:
    done = subprocess.run(["pdftotext", "-layout", "-", "-"], input=pdf, capture_output=True, check=True)
    return done.stdout.decode()


def test_a_revision_is_numbered_and_says_what_changed_since(client: TestClient):
    machine_id = keep(client)
    assert "not given out yet" in sheet_page(client, machine_id)
    assert press(client, machine_id, "revisions", note="to the fitter").status_code == 303
    page = sheet_page(client, machine_id)
    assert "Revision 1 of" in page
    assert "to the fitter" in page
    assert "Changed since then" not in page
    edited = {"set:plans.0.links.2.driver_teeth": "18"}
    assert press(client, machine_id, "edit", **edited).status_code == 303
    assert "Changed since then:  Stage 3, Driver teeth: 17 → 18" in sheet_page(client, machine_id)
    pdf = client.get(f"/machines/{machine_id}/plan.pdf").content
    assert "Driver teeth: 17 → 18" in text_of(pdf)
    press(client, machine_id, "revisions", note="")
    assert "Revision 2 of" in sheet_page(client, machine_id)
    press(client, machine_id, "history/undo")
    assert "Driver teeth: 18 → 17" in sheet_page(client, machine_id)


def test_a_note_or_a_log_page_is_no_change_of_the_sheet(client: TestClient):
    machine_id = keep(client)
    press(client, machine_id, "revisions", note="")
    press(client, machine_id, "edit", operation="add_visit")
    assert "Changed since then" not in sheet_page(client, machine_id)


def test_a_revision_of_an_older_page_is_refused(client: TestClient):
    machine_id = keep(client)
    late = press(client, machine_id, "revisions", version="7", note="")
    assert late.status_code == 409
    assert "not given out yet" in sheet_page(client, machine_id)


def test_a_finding_is_accepted_with_reason_and_name_and_opened_again(client: TestClient):
    machine = build_machine(duty={"shock": "heavy", "hours_per_day": 20.0})
    machine_id = keep(client, machine)
    named = open_finding(machine)
    said = {"operation": "accept_finding", "kind": named}
    refused = press(client, machine_id, "edit", **said, part="", by="")
    assert refused.status_code == 422
    assert "Why it may stay" in refused.text
    assert press(client, machine_id, "edit", **said, part="Run an hour a week", by="the smith").status_code == 303
    page = sheet_page(client, machine_id)
    assert "Accepted: Run an hour a week (the smith," in page
    assert "Run an hour a week" in text_of(client.get(f"/machines/{machine_id}/plan.pdf").content)
    assert press(client, machine_id, "edit", operation="reopen_finding", kind=named).status_code == 303
    assert "Accepted:" not in sheet_page(client, machine_id)
    assert (
        press(
            client, machine_id, "edit", operation="accept_finding", kind="no.such link-1", part="why not", by="x"
        ).status_code
        == 422
    )


def open_finding(machine: Machine) -> str:
    result = solve_plan(machine, machine.plans[0])
    return next(" ".join(one.key) for one in result.findings if one.severity in ("error", "warning"))


@pytest.mark.long
@pytest.mark.parametrize("kind", ["pdf", "svg", "dxf", "xlsx", "csv", "json"])
def test_a_size_changed_on_the_plan_changes_every_file(kind):
    machine = build_machine()
    raw = machine.model_dump(mode="json")
    raw["plans"][0]["links"][2] |= {"driven_teeth": 60, "pitches": 98}
    changed = Machine.model_validate(raw, context=LOOKED_UP)
    files = [taken_of(one, one.plans[0], CATALOG, Units()).file(kind) for one in (machine, changed)]
    if kind == "xlsx":
        files = [str([[cell.value for cell in row] for row in load_workbook(BytesIO(one)).active]) for one in files]
    if kind == "pdf":
        files = [text_of(one) for one in files]
    assert files[0] != files[1]
    if kind in ("pdf", "xlsx", "csv", "json"):
        told = [one if isinstance(one, str) else one.decode() for one in files]
        assert "60 t" in told[1] or '"driven_teeth": 60' in told[1]
