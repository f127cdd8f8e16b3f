"""The build sheet says what the other places say, in every format, and no name of a machine runs in a spreadsheet."""

from __future__ import annotations

import csv
import re
from io import BytesIO, StringIO

import pytest
from fastapi.testclient import TestClient
from openpyxl import load_workbook

from builders import build_machine
from pulltide.core.bill import bill_of, total
from pulltide.core.line import solve_plan
from pulltide.core.machine import Plan
from pulltide.core.shipped import shipped_catalog
from pulltide.demo import demo_machines
from pulltide.presentation.build_sheet import TACHOMETER, build_sheet
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
            low, high = (float(end.replace(" ", "")) for end in row.tachometer.split(" to "))
            assert low == pytest.approx(shaft.speed_rpm * (1 - TACHOMETER), rel=0.01)
            assert low < shaft.speed_rpm < high
        pieces = bill_of(plan, CATALOG)
        assert [part.count for part in sheet.parts] == [piece.count for piece in pieces]
        priced = sum(float(part.price) for part in sheet.parts if part.price)
        assert priced == pytest.approx(total(pieces).price, abs=0.06 * len(pieces))
        assert all(stage.center for stage, link in zip(sheet.stages, plan.links, strict=True) if "belt" in link.kind)
        told = {(one.state, one.fact) for one in sheet.findings}
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
