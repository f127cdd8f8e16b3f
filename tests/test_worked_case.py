"""The worked case of the README: the arithmetic by hand, the command line, and the numbers printed there."""

from __future__ import annotations

import json
from math import pi, sin
from pathlib import Path

import pytest
from typer.testing import CliRunner

from pulltide.cli.main import app

PROJECT = Path(__file__).resolve().parents[1]
STEPS_IN = ((3.4, 8.0), (4.0, 7.5), (4.6, 7.0))


@pytest.fixture(scope="module")
def plan() -> dict:
    run = CliRunner().invoke(app, ["solve", str(PROJECT / "docs" / "worked_case.json")])
    return json.loads(run.stdout)["plans"][0]


def test_speeds_of_every_step_by_hand(plan: dict):
    """A section: the belt rides 0.25 in inside the rim. 15 : 1, then 17 to 46 teeth. Creep takes under 1 %."""
    for setting, (driver, driven) in zip(plan["settings"], STEPS_IN, strict=True):
        by_hand = 1740 * (driver - 0.25) / (driven - 0.25) / 15 * 17 / 46
        assert by_hand * 0.99 < setting["shafts"][3]["speed_rpm"] < by_hand


def test_torques_by_hand(plan: dict):
    """120 N·m at the drum, back through chain 0.97, worm 0.851 and belt 0.821."""
    line = plan["settings"][1]
    sprocket = 120 * 17 / 46 / 0.97
    reducer_in = sprocket / 15 / line["links"][1]["efficiency"]
    motor = 9549.3 * line["shafts"][0]["power_kw"] / 1740
    found = [shaft["running_torque_nm"] for shaft in line["shafts"]]
    assert found[2] == pytest.approx(sprocket)
    assert found[1] == pytest.approx(reducer_in)
    assert found[0] == pytest.approx(motor, rel=1e-4)
    assert line["efficiency"] == pytest.approx(0.8211 * 0.8506 * 0.97, rel=1e-3)


def test_stall_of_the_chain_by_hand(plan: dict):
    """Breakdown torque 2.5 x 6.14 N·m times 1.933 and 15, on 17 teeth of 15.875 mm pitch, against 21.7 kN."""
    stall = 2.5 * 9549.3 * 1.5 * 0.7457 / 1740 * (7.25 / 3.75) * 15
    pull = 2000 * stall / (15.875 / sin(pi / 17))
    finding = next(f for f in plan["findings"] if f["code"] == "roller_chain.stall_safety")
    assert finding["measured"] == pytest.approx(21_707 / pull, rel=0.005)
    assert finding["severity"] == "warning"
    assert finding["remedies"][0]["label"] == "Use two strands"


def test_the_readme_prints_what_the_program_gives(plan: dict):
    text = (PROJECT / "README.md").read_text("utf-8")
    for setting in plan["settings"]:
        assert f"{setting['shafts'][3]['speed_rpm']:.2f}" in text
    for shaft in plan["settings"][1]["shafts"]:
        assert f"{shaft['running_torque_nm']:.2f}" in text
