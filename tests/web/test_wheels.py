"""Files of wheels to make: read back, measured, tiled and put together again."""

from __future__ import annotations

import re
import subprocess
from io import StringIO

import ezdxf
import pytest
from defusedxml import ElementTree
from shapely.geometry import Polygon, box
from shapely.ops import unary_union

from builders import LOOKED_UP, build_machine
from pulltide.core.machine import Machine
from pulltide.core.wheels import wheels_of
from pulltide.demo import demo_machines
from pulltide.presentation.paper.wheel_file import EDGE_MM, TILE_MM, WHEEL_KINDS, wheel_file, wheel_paper
from pulltide.quantities import DEFAULT_UNITS

GEARS = {"kind": "gear_pair", "driver_teeth": 18, "driven_teeth": 90, "module_mm": 3, "face_width_mm": 25}
WHERE = ("Test rig", "Plan A", "stage 1, driven")


@pytest.fixture(scope="module")
def machine() -> Machine:
    raw = build_machine([GEARS]).model_dump(mode="json")
    raw["plans"][0]["shafts"] = [{"shaft": 2, "diameter_mm": 40.0, "key_width_mm": 12.0}]
    return Machine.model_validate(raw, context=LOOKED_UP)


@pytest.fixture(scope="module")
def gear(machine):
    return wheels_of(machine.plans[0])["1-driven"]


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


def test_tiles_put_together_are_the_wheel_in_true_size(gear):
    paper = wheel_paper(gear, WHERE, DEFAULT_UNITS, "A4")
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


def test_the_sheet_says_every_measure_and_how_to_prove_the_print(gear):
    paper = wheel_paper(gear, WHERE, DEFAULT_UNITS, "A4")
    pdf = wheel_file(gear, "pdf", paper, "A4")
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
    wheel = wheels_of(large.plans[0])["1-driven"]
    paper = wheel_paper(wheel, WHERE, DEFAULT_UNITS)
    assert paper.too_large
    assert paper.tiles == ()


@pytest.mark.parametrize("machine", demo_machines(), ids=lambda machine: machine.name)
def test_every_wheel_of_the_demo_is_had_as_every_kind(client, machine):
    made = client.post("/api/v1/machines", json=machine.model_dump(mode="json")).json()
    wheels = wheels_of(machine.plans[0])
    for name in wheels:
        for kind, media in WHEEL_KINDS.items():
            answer = client.get(f"/machines/{made['id']}/wheels/{name}.{kind}")
            assert answer.status_code == 200
            assert answer.headers["content-type"].startswith(media)
        page = client.get(f"/machines/{made['id']}/sheet?at={name}")
        assert wheels[name].title in page.text
    assert client.get(f"/machines/{made['id']}/wheels/9-driver.dxf").status_code == 404
    assert client.get(f"/machines/{made['id']}/wheels/1-driver.dxf?plan=7").status_code == 404


def test_a_size_changed_on_the_plan_changes_the_file(gear, machine):
    raw = machine.model_dump(mode="json")
    raw["plans"][0]["links"][0]["driven_teeth"] = 91
    other = wheels_of(Machine.model_validate(raw, context=LOOKED_UP).plans[0])["1-driven"]
    assert outlines(other)["OUTLINE"].area > outlines(gear)["OUTLINE"].area
