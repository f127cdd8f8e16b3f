"""A family more: one folder and its name in the registry, and the whole program knows it."""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
from pathlib import Path

TESTS = Path(__file__).parents[1]
SOURCE = TESTS.parent / "src" / "pulltide"

#: Walks the program as a person would: add the link, edit it, see it judged, mended, explained and reported.
WALK = """
import re, sys
from fastapi.testclient import TestClient
from pulltide.core.links import FAMILIES
from pulltide.web.app import create_app
from pulltide.web.settings import Settings

assert FAMILIES[-1].kind == "cord"
with TestClient(create_app(Settings(sys.argv[1], "secret")), base_url="http://127.0.0.1") as client:
    token = re.search(r'name="form-token" content="([^"]+)"', client.get("/").text)[1]
    motor = {"power_kw": 0.5, "speed_rpm": 1400.0, "frequency_hz": 50.0}
    need = {"running_torque_nm": 9.0, "peak_torque_nm": 10.0}
    raw = {"name": "Toy", "need": need, "plans": [{"source": motor}]}
    machine = client.post("/api/v1/machines", json=raw).json()["id"]

    def change(**fields):
        version = client.get(f"/api/v1/machines/{machine}").json()["version"]
        data = {"form_token": token, "version": str(version), **fields}
        answer = client.post(f"/machines/{machine}/edit", data=data, headers={"x-fragment": "1"})
        assert answer.status_code == 200, answer.text
        return answer.text

    page = change(operation="add_link", kind="cord")
    assert "Stage 1 · Cord" in page and "50 mm → 100 mm" in page
    assert "The cord is pulled over its strength" in page
    assert "Use a 400 N cord" in page, "a remedy of its own, proved on the whole plan"
    page = change(**{"set:plans.0.links.0.driver_diameter_mm": "2 in"})
    assert "50.8 mm" in page
    figure = client.get(f"/machines/{machine}/train?at=link-1&show=link-1/pull").text
    assert "F = 2000 T / d" in figure and "<mfrac>" in figure
    assert "Cord breaks" in figure
    assert "The cord is pulled over its strength" in client.get("/methods").text
    report = client.get(f"/api/v1/machines/{machine}/result").json()
    assert report["plans"][0]["settings"][0]["links"][0]["kind"] == "cord"
    assert "Cord" in client.get(f"/machines/{machine}/duty").text
    client.delete(f"/api/v1/machines/{machine}")
"""


def test_a_family_in_one_folder_and_its_name_is_known_everywhere(tmp_path: Path, database_url: str, empty_shop):
    shutil.copytree(SOURCE, tmp_path / "pulltide", ignore=shutil.ignore_patterns("__pycache__"))
    links = tmp_path / "pulltide" / "core" / "links"
    shutil.copytree(TESTS / "data" / "toy_family", links / "cord", ignore=shutil.ignore_patterns("__pycache__"))
    registry = links / "__init__.py"
    text = registry.read_text("utf-8")
    named = text.replace("    coupling,\n", "    cord,\n    coupling,\n", 1).replace(
        "    reducer.FAMILY,\n", "    reducer.FAMILY,\n    cord.FAMILY,\n"
    )
    registry.write_text(named, "utf-8")
    environment = {**os.environ, "PYTHONPATH": str(tmp_path)}
    run = subprocess.run(
        [sys.executable, "-c", WALK, database_url], env=environment, capture_output=True, text=True, timeout=120
    )
    assert run.returncode == 0, run.stderr[-2000:]
