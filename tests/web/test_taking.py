"""Files of a plan: read back by what reads such files, and measured against the plan."""

from __future__ import annotations

import json
import subprocess
from io import BytesIO, StringIO
from math import pi
from zipfile import ZipFile

import ezdxf
import pytest
from defusedxml import ElementTree
from ezdxf.math import bulge_to_arc
from openpyxl import load_workbook
from shapely.geometry import MultiPolygon, Point
from typer.testing import CliRunner

from builders import SHIPPED, build_belt, build_machine
from pulltide.cli.main import app
from pulltide.core.layout import place
from pulltide.core.line import solve_plan
from pulltide.demo import demo_machines
from pulltide.presentation.paper.bundle import KINDS, plain_name, taken_of
from pulltide.presentation.paper.label import label_svg
from pulltide.quantities import DEFAULT_UNITS

DEMO = demo_machines()


def taken(machine, plan=0):
    return taken_of(machine, machine.plans[plan], SHIPPED, DEFAULT_UNITS, "State 7")


def text_of(pdf: bytes) -> str:
    return subprocess.run(
        ["pdftotext", "-layout", "-", "-"], input=pdf, capture_output=True, check=True
    ).stdout.decode()


def flat(text: str) -> str:
    return " ".join(text.split())


@pytest.mark.long
@pytest.mark.parametrize("machine", DEMO, ids=lambda machine: machine.name)
def test_the_pdf_says_what_the_sheet_says(machine):
    made = taken(machine)
    text = flat(text_of(made.file("pdf", "A4")))
    assert machine.name in text
    assert "State 7" in text
    sheet = made.paper.sheet
    for shaft in sheet.shafts:
        assert flat(f"{shaft.number} {shaft.name}") in text
        assert flat(shaft.speed) in text
        assert flat(shaft.tachometer) in text
    for name, value in sheet.need:
        assert flat(name) in text
        assert flat(value).split(",")[0] in text
    for part in sheet.parts:
        assert flat(part.designation) in text
    for finding in sheet.findings:
        assert " ".join(finding.finding.fact.split()[:5]) in text


@pytest.mark.long
def test_both_papers_have_their_size():
    for size, points in (("A4", (595, 842)), ("Letter", (612, 792))):
        pdf = taken(DEMO[0]).file("pdf", size)
        told = subprocess.run(["pdfinfo", "-"], input=pdf, capture_output=True, check=True).stdout.decode()
        wide, _, high = told.split("Page size:")[1].split()[:3]
        assert (round(float(wide)), round(float(high))) == points


def reopened(machine, plan=0):
    document = ezdxf.read(StringIO(taken(machine, plan).file("dxf").decode()))
    assert not document.audit().errors
    return document


@pytest.mark.parametrize("machine", DEMO, ids=lambda machine: machine.name)
def test_the_drawing_reopens_in_true_scale_with_closed_outlines(machine):
    document, line = reopened(machine), solve_plan(machine, machine.plans[0]).chosen
    assert document.units == 4, "millimeters"
    sides = [(item.dxf.start, item.dxf.end) for item in document.query('LINE[layer=="DIMENSIONS"]')]
    measured = sorted(a.distance(b) for a, b in sides if min(a.y, b.y) >= place(machine.plans[0], line).extent[1])
    expected = sorted(link.center_distance_mm for link in line.links if link.center_distance_mm is not None)
    assert measured == pytest.approx(expected, rel=1e-6)
    for layer in ("BELTS", "CHAINS"):
        assert all(loop.closed for loop in document.query(f'LWPOLYLINE[layer=="{layer}"]'))


def outline_length(loop) -> float:
    """Length of an outline of straights and arcs, by the library that reads the file."""
    points = list(loop.get_points("xyb"))
    total = 0.0
    for (x, y, bulge), (x2, y2, _) in zip(points, [*points[1:], points[0]], strict=True):
        if not bulge:
            total += ((x - x2) ** 2 + (y - y2) ** 2) ** 0.5
            continue
        _, start, end, radius = bulge_to_arc((x, y), (x2, y2), bulge)
        total += radius * ((end - start) % (2 * pi))
    return total


def test_a_belt_in_the_file_is_a_string_round_its_wheels():
    document = reopened(build_machine([build_belt()]))
    loop, band = document.query('LWPOLYLINE[layer=="BELTS"]')
    assert band.closed
    circles = document.query('CIRCLE[layer=="WHEELS"]')
    wheels = [Point(*circle.dxf.center.vec2).buffer(circle.dxf.radius, 256) for circle in circles]
    assert len(wheels) == 2
    assert outline_length(loop) == pytest.approx(MultiPolygon(wheels).convex_hull.length, rel=1e-4)


@pytest.mark.parametrize("machine", DEMO, ids=lambda machine: machine.name)
def test_the_drawing_is_sound_xml_and_says_its_words(machine):
    root = ElementTree.fromstring(taken(machine).file("svg").decode())
    words = [item.text for item in root.iter("{http://www.w3.org/2000/svg}text")]
    assert "Motor" in words
    assert machine.need.last_shaft in words


@pytest.mark.long
def test_the_archive_holds_every_kind_as_it_is_alone():
    made = taken(DEMO[0])
    archive = ZipFile(BytesIO(made.file("zip")))
    assert {name.rsplit(".", 1)[1] for name in archive.namelist()} == set(KINDS) - {"zip"}
    assert archive.read(made.name("csv")) == made.file("csv")
    assert json.loads(archive.read(made.name("json")))["name"] == DEMO[0].name
    sheet = load_workbook(BytesIO(archive.read(made.name("xlsx")))).active
    assert sheet.max_row == len(made.paper.sheet.parts) + 1


HOSTILE = '=cmd|"/c calc"!A1<script>&\u202e../..'


@pytest.mark.long
def test_a_hostile_name_stays_words_in_every_file():
    machine = DEMO[0].model_copy(update={"name": HOSTILE})
    made = taken(machine)
    assert "/" not in made.name("pdf")
    assert plain_name("../..") == "machine"
    assert "<script>" in text_of(made.file("pdf"))
    assert b"<script>" not in made.file("svg")
    label = ElementTree.fromstring(label_svg(HOSTILE, "Plan A", "http://127.0.0.1:1/machines/x").decode())
    assert "<script>" in "".join(label.itertext())


def test_a_label_has_the_code_of_the_address():
    import segno

    address = "http://127.0.0.1:8000/machines/0b26106d-43cd-4bd2-af98-a5f4995d004b"
    label = label_svg(
        "A machine with a name as long as names of machines in a shop ever are", "Plan A", address
    ).decode()
    path = segno.make(address, error="m", micro=False).svg_inline(border=0).split(' d="')[1].split('"')[0]
    assert path in label
    assert label.count("<text") <= 4


@pytest.mark.parametrize("kind", KINDS)
def test_every_kind_is_had_from_the_page_and_from_programs(client, kind):
    made = client.post("/api/v1/machines", json=DEMO[0].model_dump(mode="json")).json()
    page = client.get(f"/machines/{made['id']}/plan.{kind}?plan=1")
    program = client.get(f"/api/v1/machines/{made['id']}/plans/2/sheet.{kind}")
    for answer in (page, program):
        assert answer.status_code == 200
        assert answer.headers["content-type"].startswith(KINDS[kind].split(";")[0])
        assert len(answer.content) > 100
    assert client.get(f"/machines/{made['id']}/plan.{kind}?plan=9").status_code == 404
    assert client.get(f"/api/v1/machines/{made['id']}/plans/9/sheet.{kind}").status_code == 422
    assert client.get(f"/machines/{made['id']}/label.svg").status_code == 200


@pytest.mark.long
def test_the_command_line_writes_files_and_refuses_in_words(tmp_path):
    machine = tmp_path / "m.json"
    machine.write_text(DEMO[0].model_dump_json())
    run = CliRunner().invoke(
        app, ["sheet", str(machine), "--to", str(tmp_path / "a.pdf"), "--to", str(tmp_path / "a.dxf")]
    )
    assert run.exit_code == 0
    assert (tmp_path / "a.pdf").read_bytes()[:5] == b"%PDF-"
    for wrong in (["--to", str(tmp_path / "a.exe")], ["--to", str(tmp_path / "a.pdf"), "--plan", "9"]):
        refused = CliRunner().invoke(app, ["sheet", str(machine), *wrong])
        assert refused.exit_code
        assert "Accepted" in refused.output
