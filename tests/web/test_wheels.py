"""Files of wheels to make: read back, measured, tiled and put together again."""

from __future__ import annotations

import json
import re
import subprocess
import sys
from dataclasses import replace
from io import BytesIO, StringIO
from itertools import combinations
from math import pi
from zipfile import ZipFile

import ezdxf
import pytest
import trimesh
from defusedxml import ElementTree
from shapely import affinity
from shapely.geometry import LineString, Point, Polygon, box
from shapely.ops import unary_union

from builders import LOOKED_UP, build_machine
from pulltide.core.machine import Machine
from pulltide.core.made.discs import LOOSE
from pulltide.core.made.of_plan import wheels_of
from pulltide.core.made.profile import MakingProfile
from pulltide.core.made.wheel import bore_outline
from pulltide.demo import demo_machines
from pulltide.presentation.paper.regions import sectors_needed
from pulltide.presentation.paper.solid_file import solid_file
from pulltide.presentation.paper.wheel_file import EDGE_MM, TILE_MM, WHEEL_KINDS, Look, shaped, wheel_file, wheel_paper
from pulltide.quantities import DEFAULT_UNITS
from pulltide.words import worded
from web.test_pages import post

GEARS = {"kind": "gear_pair", "driver_teeth": 18, "driven_teeth": 90, "module_mm": 3, "face_width_mm": 25}
WHERE = ("Test rig", "Plan A", "stage 1, driven")


@pytest.fixture(scope="module")
def machine() -> Machine:
    raw = build_machine([GEARS]).model_dump(mode="json")
    raw["plans"][0]["shafts"] = [{"shaft": 2, "diameter_mm": 40.0, "key_width_mm": 12.0}]
    return Machine.model_validate(raw, context=LOOKED_UP)


@pytest.fixture(scope="module")
def gear(machine):
    return wheels_of(machine, machine.plans[0])["1-driven"]


def outlines(wheel) -> dict[str, Polygon]:
    document = ezdxf.read(StringIO(wheel_file(wheel, "dxf", wheel_paper(wheel, WHERE, DEFAULT_UNITS)).decode()))
    assert document.units == 4
    assert not document.audit().errors
    found = document.query("LWPOLYLINE")
    assert all(line.closed for line in found)
    return {line.dxf.layer: Polygon([(x, y) for x, y, *_ in line.get_points()]) for line in found}


def test_the_outline_in_the_file_is_closed_true_and_bored_with_its_keyseat(gear):
    found = outlines(gear)
    wide = found["OUTLINE"].bounds[2] - found["OUTLINE"].bounds[0]
    assert wide == pytest.approx(92 * 3, abs=0.3)
    bore = found["BORE"]
    assert found["OUTLINE"].contains(bore)
    assert bore.bounds[2] - bore.bounds[0] == pytest.approx(40, abs=0.02)
    assert bore.bounds[3] == pytest.approx(20 + 4, abs=0.02), "a 12 mm key is 8 mm high and half of it is in the hub"


@pytest.mark.parametrize("machine", demo_machines(), ids=lambda machine: machine.name)
def test_what_is_exported_is_the_outline_that_was_judged(machine):
    """Sprockets and grooves are held against chain and belt as outlines: the files are those, to a thousandth."""
    for wheel in wheels_of(machine, machine.plans[0]).values():
        written, meant = outlines(wheel)["OUTLINE"], Polygon(wheel.section if wheel.turned else wheel.outline)
        assert written.symmetric_difference(meant).area < 1e-3


@pytest.mark.long
def test_two_gears_read_back_from_their_files_roll_through_a_turn(machine):
    """Exported, read back and set in mesh at their standard centers: no overlap, no more than the backlash apart."""
    wheels = wheels_of(machine, machine.plans[0])
    pinion, wheel = (outlines(wheels[name])["OUTLINE"] for name in ("1-driver", "1-driven"))
    center = 3 * (18 + 90) / 2
    wheel = affinity.rotate(wheel, 180 / 90, origin=(0, 0))
    for number in range(18):
        turn = 20 * number + 20 * number / 18
        first = affinity.rotate(pinion, turn, origin=(0, 0))
        second = affinity.translate(affinity.rotate(wheel, -turn * 18 / 90, origin=(0, 0)), 0, center)
        assert first.intersection(second).area < 1e-3
        assert first.distance(second) < 0.06 * 3


def test_tiles_put_together_are_the_wheel_in_true_size(gear):
    paper = wheel_paper(gear, WHERE, DEFAULT_UNITS, Look(size="A4"))
    whole = Polygon(gear.outline)
    assert len(paper.tiles) == 4
    seen = []
    for _, svg in paper.tiles:
        root = ElementTree.fromstring(str(svg))
        x, y, wide, high = map(float, root.get("viewBox").split())
        assert (root.get("width"), root.get("height")) == (f"{wide:.3f}mm", f"{high:.3f}mm")
        assert (wide, high) == TILE_MM["A4"]
        seen.append(box(x, -y - high, x + wide, -y))
    together = unary_union(seen)
    assert together.area == pytest.approx(sum(tile.area for tile in seen)), "tiles do not overlap"
    assert together.contains(whole.buffer(EDGE_MM * 0.9))


@pytest.mark.long
def test_the_sheet_says_every_measure_and_how_to_prove_the_print(gear):
    paper = wheel_paper(gear, WHERE, DEFAULT_UNITS, Look(size="A4"))
    pdf = wheel_file(gear, "pdf", paper)
    text = subprocess.run(
        ["pdftotext", "-layout", "-", "-"], input=pdf, capture_output=True, check=True
    ).stdout.decode()
    for name, value, _ in paper.measures:
        assert name in text
        assert value in text
    assert text.count("The ruler is 100 mm") == 4
    told = subprocess.run(["pdfinfo", "-"], input=pdf, capture_output=True, check=True).stdout.decode()
    assert int(re.search(r"Pages:\s+(\d+)", told)[1]) == 5


def test_a_wheel_too_large_for_paper_is_left_to_the_file():
    large = build_machine([GEARS | {"driven_teeth": 400, "module_mm": 10}])
    wheel = wheels_of(large, large.plans[0])["1-driven"]
    paper = wheel_paper(wheel, WHERE, DEFAULT_UNITS)
    assert paper.too_large
    assert paper.tiles == ()


@pytest.mark.parametrize("machine", demo_machines(), ids=lambda machine: machine.name)
def test_every_wheel_of_the_demo_is_had_as_every_kind(client, machine):
    made = client.post("/api/v1/machines", json=machine.model_dump(mode="json")).json()
    wheels = wheels_of(machine, machine.plans[0])
    for name in wheels:
        for kind, media in WHEEL_KINDS.items():
            answer = client.get(f"/machines/{made['id']}/wheels/{name}.{kind}")
            assert answer.status_code == 200
            assert answer.headers["content-type"].startswith(media)
        page = client.get(f"/machines/{made['id']}/sheet?at={name}")
        assert worded(wheels[name].title) in page.text
    assert client.get(f"/machines/{made['id']}/wheels/9-driver.dxf").status_code == 404
    assert client.get(f"/machines/{made['id']}/wheels/1-driver.dxf?plan=7").status_code == 404


@pytest.mark.long
def test_a_size_changed_on_the_plan_changes_the_file(gear, machine):
    raw = machine.model_dump(mode="json")
    raw["plans"][0]["links"][0]["driven_teeth"] = 91
    other = wheels_of(*plan_of(raw))["1-driven"]
    assert outlines(other)["OUTLINE"].area > outlines(gear)["OUTLINE"].area


PRINTER = MakingProfile(clearance_mm=0.15, shrinkage=0.004)


def solid(wheel, kind: str, profile: MakingProfile = PRINTER):
    return trimesh.load(BytesIO(solid_file(wheel, kind, profile)), file_type=kind, force="mesh")


@pytest.mark.long
@pytest.mark.parametrize("kind", ["stl", "3mf"])
def test_a_gear_to_print_is_watertight_and_as_large_as_its_drawing(gear, kind):
    """Volume of the solid against area times face, hub and keyseat counted; grown for shrinkage, drawn in for play."""
    plain = solid(gear, kind, MakingProfile())
    assert plain.is_watertight
    outline, bore = Polygon(gear.outline), Polygon(bore_outline(gear))
    across, long = gear.boss_mm
    hub = Point(0, 0).buffer(across / 2, 512).difference(bore).area * long
    assert plain.volume == pytest.approx(outline.difference(bore).area * gear.face_mm + hub, rel=2e-3)
    assert plain.bounds[1][2] - plain.bounds[0][2] == pytest.approx(gear.face_mm + long, abs=1e-3)
    printed = solid(gear, kind)
    scale = 1 / (1 - 0.004)
    assert printed.bounds[1][0] == pytest.approx((plain.bounds[1][0] - 0.15) * scale, abs=0.02)
    assert printed.is_watertight


def test_a_turned_pulley_to_print_has_the_volume_of_its_section():
    """Pappus: area of the half section times the way of its middle, less the keyseat."""
    raw = build_machine().model_dump(mode="json")
    raw["plans"][0]["shafts"] = [{"shaft": 2, "diameter_mm": 25.0, "key_width_mm": 8.0}]
    pulley = wheels_of(*plan_of(raw))["1-driven"]
    made = solid(pulley, "stl", MakingProfile())
    assert made.is_watertight
    half = Polygon(pulley.section)
    ring = 2 * pi * half.centroid.y * half.area
    slot = Polygon(bore_outline(replace(pulley, turned=False))).difference(Point(0, 0).buffer(12.5, 512))
    assert made.volume == pytest.approx(ring - slot.area * pulley.face_mm, rel=3e-3)


def plan_of(raw):
    machine = Machine.model_validate(raw, context=LOOKED_UP)
    return machine, machine.plans[0]


def test_a_timing_pulley_to_print_has_its_flanges():
    belt = {"kind": "toothed_belt", "profile": "L", "driver_teeth": 14, "driven_teeth": 28, "width_mm": 25.4}
    machine = build_machine([belt | {"belt_teeth": 60}])
    wheels = wheels_of(machine, machine.plans[0])
    flanged, plain = (solid(wheels[name], "stl", MakingProfile()) for name in ("1-driver", "1-driven"))
    assert flanged.is_watertight
    assert flanged.bounds[1][0] == pytest.approx(wheels["1-driver"].flange_mm[0] / 2, abs=0.01)
    assert plain.bounds[1][0] == pytest.approx(wheels["1-driven"].outside_mm / 2, abs=0.2)


def test_a_cutter_takes_half_its_kerf_on_every_edge(gear):
    """What is left when a cutter of the kerf runs along the file's outlines is the wheel."""
    profile = MakingProfile(kerf_mm=1.2)
    (piece,) = shaped(gear, profile, "kerf")
    way = unary_union([LineString([*ring, ring[0]]).buffer(0.6, 64) for ring in (piece.outer, *piece.inner)])
    left = Polygon(piece.outer, piece.inner).difference(way)
    wheel = Polygon(gear.outline, [bore_outline(gear)])
    assert left.symmetric_difference(wheel).area < 0.002 * wheel.area
    # an inner corner sharper than the cutter stays round
    assert left.difference(wheel.buffer(0.4)).area < 1e-6


def test_sectors_fit_the_sheet_and_are_the_whole_wheel(gear):
    profile = MakingProfile(sheet_width_mm=200.0, sheet_height_mm=200.0)
    count = sectors_needed(gear, (200.0, 200.0))
    assert count > 1
    pieces = shaped(gear, profile, "sectors")
    assert len(pieces) == count
    areas = [Polygon(piece.outer, piece.inner).area for piece in pieces]
    assert sum(areas) == pytest.approx(Polygon(gear.outline, [bore_outline(gear)]).area, rel=1e-4)
    for piece in pieces:
        x0, y0, x1, y1 = Polygon(piece.outer).bounds
        assert max(x1 - x0, y1 - y0) <= 200.0
    boxes = [Polygon(piece.outer) for piece in pieces]
    assert all(not a.intersects(b) for a, b in combinations(boxes, 2))


def test_a_shape_that_nothing_is_known_for_is_refused(client, machine):
    made = client.post("/api/v1/machines", json=machine.model_dump(mode="json")).json()
    client.put("/api/v1/making", json={})
    answer = client.get(f"/machines/{made['id']}/wheels/1-driven.dxf?shape=kerf")
    assert answer.status_code == 422
    assert "kerf, which is not entered" in answer.text


def test_the_shop_keeps_its_profile_and_the_files_follow(client, machine):
    made = client.post("/api/v1/machines", json=machine.model_dump(mode="json")).json()
    address = f"/machines/{made['id']}"
    typed = {
        "set:kerf_mm": "0.05 in",
        "set:shrinkage": "0.004",
        "set:sheet_width_mm": "300",
        "set:sheet_height_mm": "200",
    }
    assert post(client, f"{address}/making?in=sheet&at=1-driven", False, **typed).status_code == 303
    page = client.get(f"{address}/sheet?at=1-driven").text
    assert "every edge stands 0.635 mm off" in page
    assert "For the cutter, kerf allowed" in page
    drawn, cut = (client.get(f"{address}/wheels/1-driven.dxf?shape={shape}").text for shape in ("drawn", "kerf"))
    assert drawn != cut
    refused = post(client, f"{address}/making?in=sheet", False, **{"set:kerf_mm": "40"})
    assert refused.status_code == 422
    assert "Kerf" in refused.text
    assert "every edge stands 0.635 mm off" in client.get(f"{address}/sheet?at=1-driven").text


def test_a_wheel_that_the_lathe_at_hand_cannot_turn_is_said(client):
    """The belt pulleys are turned; the smaller of two lathes takes only the smaller one."""
    made = client.post("/api/v1/machines", json=build_machine().model_dump(mode="json")).json()
    wheels = wheels_of(build_machine(), build_machine().plans[0])
    small, large = (wheels[name].outside_mm for name in ("1-driver", "1-driven"))
    address = f"/machines/{made['id']}"
    post(client, f"{address}/making?in=sheet", False, **{"set:lathe_swing_mm": f"{(small + large) / 2:.4f}"})
    turns, over = (client.get(f"{address}/sheet?at=1-{side}").text for side in ("driver", "driven"))
    assert "It turns on the lathe at hand" in turns
    assert "more than the lathe at hand takes: have it turned elsewhere" in over
    assert f"{(large - small) / 2:.3g}"[:3] in over
    client.put("/api/v1/making", json={})


def test_a_wheel_is_made_of_what_is_chosen_and_follows_its_stage(client):
    made = client.post("/api/v1/machines", json=build_machine().model_dump(mode="json")).json()
    address = f"/machines/{made['id']}"

    def edit(**fields):
        version = client.get(f"/api/v1{address}").json()["version"]
        return post(client, f"{address}/edit?in=sheet", False, version=str(version), plan="0", **fields)

    assert edit(operation="make_wheel", kind="3-driven", part="mild_steel").status_code == 303
    assert "mild steel" in client.get(f"{address}/sheet?at=3-driven").text
    assert "to make" in client.get(f"{address}/sheet").text
    edit(operation="move_link", index="2", kind="0")
    plan = client.get(f"/api/v1{address}").json()["machine"]["plans"][0]
    assert [part["wheel"] for part in plan["made"]] == ["1-driven"]
    edit(operation="remove_link", index="0")
    assert client.get(f"/api/v1{address}").json()["machine"]["plans"][0]["made"] == []
    assert edit(operation="make_wheel", kind="9-driven", part="mdf").status_code == 422
    assert edit(operation="make_wheel", kind="1-driven", part="cheese").status_code == 422


def test_loose_parts_are_drawn_and_had_as_every_kind(client):
    for kind in LOOSE:
        page = client.get(f"/discs?part={kind}")
        assert page.status_code == 200
        assert worded(LOOSE[kind].title) in page.text
        for ending, media in WHEEL_KINDS.items():
            answer = client.get(f"/discs.{ending}?part={kind}")
            assert answer.status_code == 200
            assert answer.headers["content-type"].startswith(media)
    refused = client.get("/discs", params={"part": "crank", "set:stroke_mm": "16 in"})
    assert refused.status_code == 422
    assert "breaks out of the rim" in refused.text
    assert 'value="16 in"' in refused.text, "what was typed stays"
    assert client.get("/discs?part=teapot").status_code == 404


def command(*words: str, given: str = "") -> subprocess.CompletedProcess:
    return subprocess.run(
        [sys.executable, "-m", "pulltide.cli.main", *words], input=given, capture_output=True, text=True
    )


def test_wheels_by_command_line_and_api_are_the_page_s(client, machine, gear, tmp_path):
    document = json.dumps(machine.model_dump(mode="json"))
    made = client.post("/api/v1/machines", json=json.loads(document)).json()
    base = f"/api/v1/machines/{made['id']}"
    listed = client.get(f"{base}/plans/1/wheels").json()
    assert listed == json.loads(command("wheels", "-", given=document).stdout)
    assert [wheel["name"] for wheel in listed] == ["1-driver", "1-driven"]
    paths = [tmp_path / name for name in ("gear.svg", "gear.stl")]
    words = [word for path in paths for word in ("--to", str(path))]
    done = command("wheel", "-", "1-driven", *words, "--with", "kerf=0.05in", given=document)
    assert done.returncode == 0, done.stderr
    client.put("/api/v1/making", json={"kerf_mm": "0.05 in"})
    assert paths[0].read_bytes() == client.get(f"{base}/wheels/1-driven.svg?shape=kerf").content
    assert paths[1].read_bytes() == client.get(f"{base}/wheels/1-driven.stl").content
    assert client.get("/api/v1/making").json()["kerf_mm"] == pytest.approx(1.27)
    assert client.get(f"{base}/wheels/7-driven.svg").status_code == 422


def test_a_loose_part_by_command_line_and_api(client, tmp_path):
    target, sizes = tmp_path / "cam.dxf", {"lift_mm": "1 in", "rise_deg": 120}
    done = command("part", "cam", "--to", str(target), given=json.dumps(sizes))
    assert done.returncode == 0, done.stderr
    sent = client.post("/api/v1/loose/cam.svg", json=sizes)
    assert sent.status_code == 200
    assert "Cam, cycloidal" in sent.text
    assert "LWPOLYLINE" in target.read_text()
    refused = command("part", "cam", "--to", str(target), given='{"lift_mm": "9 mi"}')
    assert refused.returncode == 2
    assert "Lift" in refused.stderr
    unknown = command("part", "cam", "--to", str(target), "--with", "kerf", given="{}")
    assert "--with" in unknown.stderr


def test_the_archive_of_a_plan_has_the_wheels_that_are_made(client):
    raw = build_machine().model_dump(mode="json")
    raw["plans"][0]["made"] = [{"wheel": "3-driven", "material": "mild_steel"}]
    made = client.post("/api/v1/machines", json=raw).json()
    names = ZipFile(BytesIO(client.get(f"/machines/{made['id']}/plan.zip").content)).namelist()
    assert {name.rpartition(".")[2] for name in names if name.startswith("wheels/")} == set(WHEEL_KINDS)
    assert len(names) == 6 + len(WHEEL_KINDS)


def test_sectors_come_on_paper_too(client, machine):
    made = client.post("/api/v1/machines", json=machine.model_dump(mode="json")).json()
    client.put("/api/v1/making", json={"sheet_width_mm": 200, "sheet_height_mm": 200})
    address = f"/machines/{made['id']}/wheels/1-driven.pdf"
    whole, split = (pages(client.get(f"{address}?shape={shape}").content) for shape in ("drawn", "sectors"))
    assert split > whole


def pages(pdf: bytes) -> int:
    told = subprocess.run(["pdfinfo", "-"], input=pdf, capture_output=True, check=True).stdout.decode()
    return int(re.search(r"Pages:\s+(\d+)", told)[1])


@pytest.mark.long
def test_a_label_by_command_line(machine, tmp_path):
    target = tmp_path / "label.svg"
    document = json.dumps(machine.model_dump(mode="json"))
    done = command("label", "-", "http://127.0.0.1:8000/machines/x", "--to", str(target), given=document)
    assert done.returncode == 0, done.stderr
    assert machine.name in target.read_text()
