"""The shelf and the shop's lists by the JSON interface and on the command line: the same answers as the pages."""

from __future__ import annotations

import json
from io import BytesIO
from pathlib import Path

import pytest
from fastapi.testclient import TestClient
from openpyxl import load_workbook
from typer.testing import CliRunner

from pulltide.cli.main import app
from pulltide.services.stock import SHELF

LISTS = Path(__file__).parents[1] / "data" / "lists"
CSV = {"content-type": "text/csv"}
GOOD = "family,designation,section,outside_mm,grooves,on_hand\nv_pulley,fan pulley,A,90,1,2\nv_pulley,lathe,A,150,1,1\n"
BAD = GOOD + "v_pulley,odd,A,minus,1,1\n"


def kept(client: TestClient, name: str) -> list[str]:
    return [one["part"]["designation"] for one in client.get(f"/api/v1/lists/{name}").json()["parts"]]


def test_a_list_is_looked_at_taken_in_and_written_out(client: TestClient):
    seen = client.post("/api/v1/lists/Yard?dry_run=true", content=GOOD, headers=CSV).json()
    assert (seen["good"], seen["refused"]) == (2, 0)
    assert kept(client, "Yard") == []
    assert client.post("/api/v1/lists/Yard", content=GOOD, headers=CSV).json() == {
        "added": 2, "updated": 0, "left_out": 0,
    }  # fmt: skip
    assert client.post("/api/v1/lists/Yard", content=GOOD, headers=CSV).json()["updated"] == 2
    assert {"name": "Yard", "parts": 2} in client.get("/api/v1/lists").json()
    assert kept(client, "Yard?find=lathe") == ["lathe"]
    page = client.get("/api/v1/lists/Yard?start=1&most=1").json()
    assert (page["total"], len(page["parts"])) == (2, 1)
    book = load_workbook(BytesIO(client.get("/api/v1/lists/Yard/file.xlsx").content))
    assert "lathe" in {cell.value for row in book.active.rows for cell in row}
    again = client.post("/api/v1/lists/Other", content=client.get("/api/v1/lists/Yard/file.csv").content, headers=CSV)
    assert again.json()["added"] == 2


def test_a_list_with_a_bad_row_is_refused_whole_unless_that_is_said(client: TestClient):
    refused = client.post("/api/v1/lists/Yard", content=BAD, headers=CSV)
    assert refused.status_code == 422
    assert refused.json()["faults"][0]["field"].startswith("Line 4")
    assert kept(client, "Yard") == []
    taken = client.post("/api/v1/lists/Yard?leave_out=true", content=BAD, headers=CSV).json()
    assert (taken["added"], taken["left_out"]) == (2, 1)


@pytest.mark.parametrize("name", [file.name for file in sorted(LISTS.glob("bad_*"))])
def test_no_bad_file_is_ever_taken_in_whole(client: TestClient, name):
    kind = CSV if name.endswith(".csv") else {"content-type": "application/octet-stream"}
    answer = client.post("/api/v1/lists/Yard", content=(LISTS / name).read_bytes(), headers=kind)
    assert answer.status_code in (413, 422)
    assert kept(client, "Yard") == []


def test_a_long_list_is_taken_in_and_one_that_is_too_long_is_not(client: TestClient):
    rows = (
        GOOD.splitlines()[0]
        + "\n"
        + "".join(f"v_pulley,pulley number {k},A,{80 + k / 100},1,1\n" for k in range(30_000))
    )
    assert len(rows) > 1_000_000
    assert client.post("/api/v1/lists/Yard", content=rows, headers=CSV).json()["added"] == 30_000
    assert client.post("/api/v1/lists/Yard", content="x" * 9_000_000, headers=CSV).status_code == 413


def test_one_part_is_put_on_and_taken_off(client: TestClient):
    part = {"family": "v_pulley", "designation": "old", "section": "A", "outside_mm": "3 1/2 in", "grooves": 1}
    assert client.post(f"/api/v1/lists/{SHELF}/parts", json=part).status_code == 201
    (item,) = client.get(f"/api/v1/lists/{SHELF}").json()["parts"]
    assert item["part"]["outside_mm"] == pytest.approx(88.9)
    assert client.delete(f"/api/v1/lists/parts/{item['id']}").json()["part"]["designation"] == "old"
    assert client.delete(f"/api/v1/lists/parts/{item['id']}").status_code == 404
    for wrong in ({**part, "grooves": "many"}, {**part, "color": "red"}, ["old"]):
        assert client.post(f"/api/v1/lists/{SHELF}/parts", json=wrong).status_code == 422


def test_a_page_of_another_site_cannot_send_a_list(client: TestClient):
    for kind in ("text/plain", "application/x-www-form-urlencoded", "multipart/form-data; boundary=x"):
        answer = client.post("/api/v1/lists/Yard", content=GOOD, headers={"content-type": kind})
        assert answer.status_code in (403, 422)
    assert kept(client, "Yard") == []


def test_the_command_line_reads_a_list_and_keeps_nothing(tmp_path: Path):
    good, bad = tmp_path / "good.csv", tmp_path / "bad.csv"
    good.write_text(GOOD)
    bad.write_text(BAD)
    read = CliRunner().invoke(app, ["list", str(good)])
    assert read.exit_code == 0
    assert json.loads(read.output)["good"] == 2
    read = CliRunner().invoke(app, ["list", str(bad)])
    assert read.exit_code == 1
    assert json.loads(read.output)["faults"][0]["line"] == 4
    assert CliRunner().invoke(app, ["list", str(tmp_path / "none.csv")]).exit_code == 2
