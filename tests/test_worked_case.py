"""The worked case of the README: the arithmetic by hand, the command line, and the numbers printed there."""

from __future__ import annotations

import json
from math import exp, radians, sin
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
    """A section: the belt rides 0.25 in inside the rim. 15 : 1, then 17 to 46 teeth. Creep takes under 1 %.

    The motor slips in proportion to its torque, 60 rpm at 6.138 N·m, within a tenth of that slip.
    """
    for setting, (driver, driven) in zip(plan["settings"], STEPS_IN, strict=True):
        first = setting["shafts"][0]
        assert 1800 - first["speed_rpm"] == pytest.approx(60 * first["running_torque_nm"] / 6.138, rel=0.1)
        by_hand = first["speed_rpm"] * (driver - 0.25) / (driven - 0.25) / 15 * 17 / 46
        assert by_hand * 0.99 < setting["shafts"][3]["speed_rpm"] < by_hand


def test_torques_by_hand(plan: dict):
    """120 N·m at the drum, back through chain 0.97, worm 0.770 and belt 0.878."""
    line = plan["settings"][1]
    sprocket = 120 * 17 / 46 / 0.97
    reducer_in = sprocket / 15 / line["links"][1]["efficiency"]
    motor = 9549.3 * line["shafts"][0]["power_kw"] / line["shafts"][0]["speed_rpm"]
    found = [shaft["running_torque_nm"] for shaft in line["shafts"]]
    assert found[2] == pytest.approx(sprocket)
    assert found[1] == pytest.approx(reducer_in)
    assert found[0] == pytest.approx(motor, rel=1e-4)
    assert line["efficiency"] == pytest.approx(0.8781 * 0.7696 * 0.97, rel=1e-3)


def test_the_worm_loses_a_part_that_stays_by_hand(plan: dict):
    """PW-3 15:1 at 917 rpm: listed 0.837 at 1750 and 0.749 at 300 rpm, 0.805 between them in the logarithm, at rated
    torque. 30 % of that loss stays, the rest follows 45.7 N·m.
    """
    worm = plan["settings"][1]["links"][1]
    rated = worm["figures"]["rated_torque"]["value"]
    full = 0.8047
    share = 45.72 / rated
    lost = (1 / full - 1) * (0.3 + 0.7 * share) / share
    assert worm["efficiency"] == pytest.approx(1 / (1 + lost), abs=0.001)


def test_the_belt_slips_before_a_jam_breaks_anything(plan: dict):
    """27 lbf on an A belt, 168° on 34° grooves, dry friction 0.3: by the capstan equation, then back to the drum."""
    static, v, mass = 27 * 4.4482, 8.868, 0.097
    ratio = exp(0.3 * radians(168.47) / sin(radians(17)))
    pull = 2 * (static - mass * v**2) * (ratio - 1) / (ratio + 1)
    drum = pull * 0.09525 / 2 * 1.9333 * 15 * 46 / 17 * 0.93 * 0.81 * 0.97
    at = {rung["name"]: rung["times"] for rung in plan["gives_first"]}
    assert at["belt slips, even dry"] == pytest.approx(drum / 120, rel=0.06)
    assert at["belt slips, even dry"] < at["reducer's teeth or shaft, at rest"] < at["motor stalls"]
    severity = {finding["code"]: finding["severity"] for finding in plan["findings"]}
    assert severity["reducer.stall"] == severity["roller_chain.stall_safety"] == "clear"


def test_the_readme_prints_what_the_program_gives(plan: dict):
    text = (PROJECT / "README.md").read_text("utf-8")
    for setting in plan["settings"]:
        assert f"{setting['shafts'][3]['speed_rpm']:.2f}" in text
    for shaft in plan["settings"][1]["shafts"]:
        assert f"{shaft['running_torque_nm']:.2f}" in text
