"""Bulk belts by the standard's main formula, hammers that lift and let fall, drums that must throw."""

from __future__ import annotations

from itertools import pairwise
from math import log, sqrt
from typing import Any

import pytest
from pydantic import TypeAdapter

from pulltide.core.needs import AnyWorksheet
from pulltide.core.needs.assess import Requirement, assess
from pulltide.core.needs.bulk_conveyor import length_factor
from pulltide.core.needs.contract import Worksheet
from worksheets import WORKSHEETS

SHEETS: TypeAdapter[Worksheet] = TypeAdapter(AnyWorksheet)


def answer(kind: str, **changes: Any) -> Requirement:
    return assess(SHEETS.validate_python({"kind": kind, **WORKSHEETS[kind], **changes}))


@pytest.mark.parametrize(
    ("length_m", "factor"), [(80, 1.92), (100, 1.78), (150, 1.58), (200, 1.45), (400, 1.25), (1000, 1.09), (3000, 1.09)]
)
def test_the_length_factor_of_the_standard(length_m: float, factor: float):
    """ISO 5048, from memory."""
    assert length_factor(length_m) == pytest.approx(factor)


def test_between_printed_lengths_it_is_even_in_the_logarithm():
    share = log(120 / 100) / log(150 / 100)
    assert length_factor(120.0) == pytest.approx(1.78 + share * (1.58 - 1.78))
    assert length_factor(79.9) is None


def test_a_short_belt_counts_its_loading_in_place_of_the_factor():
    """12 m at 1.2 m/s, 30 t/h: 10 N bring the material to speed, beside the idlers."""
    steps = {step.symbol: step.value for step in answer("bulk_conveyor").workings["running"].steps}
    assert steps["F_A"] == pytest.approx(30 * 1.2 / 3.6)
    assert "F_C" not in steps
    long = {s.symbol: s.value for s in answer("bulk_conveyor", length_mm=120_000).workings["running"].steps}
    assert long["F_C"] == pytest.approx(length_factor(120.0) * long["F_H"])


@pytest.mark.parametrize("field", ["incline_deg", "throughput_t_h", "length_mm", "belt_kg_m", "extra_n"])
def test_more_of_anything_takes_more(field: str):
    torques = [answer("bulk_conveyor", **{field: value}).running_nm[1] for value in more_of(field)]
    assert all(b > a for a, b in pairwise(torques))


def more_of(field: str) -> list[float]:
    start = {"incline_deg": 2.0, "throughput_t_h": 20.0, "length_mm": 8000.0, "belt_kg_m": 3.0, "extra_n": 20.0}[field]
    return [start * k for k in (1, 2, 3)]


def test_a_level_belt_holds_itself_and_a_slope_does_not():
    assert answer("bulk_conveyor", incline_deg=0).holding_nm == 0
    assert answer("bulk_conveyor", incline_deg=14).holding_nm > 0


def test_well_kept_and_poor_idlers_make_the_band():
    low, typical, high = answer("bulk_conveyor").running_nm
    assert low < typical < high


@pytest.mark.parametrize("lobes", [1, 2, 3])
def test_a_cam_lifts_as_often_as_it_has_lobes(lobes: int):
    """Power is lifts a minute times m g h over what guides and cam leave: twice the lobes, twice the mean torque."""
    one, many = (answer("hammer", drive="cam", lobes=n, speed_ideal_rpm=30) for n in (1, lobes))
    assert many.running_nm[1] == pytest.approx(lobes * one.running_nm[1], rel=1e-6)


def test_a_drop_hammer_strikes_with_its_fall():
    """Lift m g h of 17 kg over 190 mm; a fall of √(2 h / g) is what the cam must leave it, and no blow has more."""
    asked = answer("hammer", drive="cam", speed_ideal_rpm=40)
    stroke = WORKSHEETS["hammer"]["stroke_mm"] / 1000
    lift = 17 * 9.80665 * stroke
    steps = {step.symbol: step.value for step in asked.workings["running"].steps}
    assert steps["E"] == pytest.approx(lift)
    blow = next(said.value for said in asked.own if said.label == "Energy of a blow")
    assert 0.7 * lift < blow < lift
    fastest = next(step for step in asked.workings["speed"].steps if step.symbol == "n")
    assert fastest.inputs["t"] >= sqrt(2 * stroke / 9.80665)


def test_a_cam_faster_than_its_ram_falls_is_an_error():
    codes = {
        f.code for f in answer("hammer", drive="cam", lobes=4, speed_ideal_rpm=60).findings if f.severity.rank == 3
    }
    assert "need.hammer.falls" in codes


def test_a_light_blend_is_thrown_between_a_third_and_two_thirds_of_critical():
    """Common practice, no source: 37 to 65 % of critical speed."""
    asked = answer("drum", purpose="thrown_blend")
    critical = next(s.value for w in asked.workings.values() for s in w.steps if "ritical" in s.name)
    assert asked.speeds.min_rpm / critical == pytest.approx(0.37, abs=0.005)
    assert asked.speeds.max_rpm / critical == pytest.approx(0.65, abs=0.005)
