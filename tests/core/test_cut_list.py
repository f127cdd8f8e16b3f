"""Bars for shafting against a worked example and an integer program."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import Bounds, LinearConstraint, milp

from builders import build_machine
from draws import draws
from pulltide.core.cut_list import FACING_MM, cut_list, packed_bars
from pulltide.core.machine import Plan


def fewest(lengths: list[float], room: float, kerf: float) -> int:
    """Least number of bars by mixed-integer programming (scipy, HiGHS)."""
    count = len(lengths)
    takes = np.array(lengths) + kerf
    bars = count
    cost = np.concatenate([np.zeros(count * bars), np.ones(bars)])
    rows, low, high = [], [], []
    for piece in range(count):
        row = np.zeros(count * bars + bars)
        row[piece * bars : (piece + 1) * bars] = 1
        rows.append(row)
        low.append(1)
        high.append(1)
    for bar in range(bars):
        row = np.zeros(count * bars + bars)
        row[bar : count * bars : bars] = takes
        row[count * bars + bar] = -(room + kerf)
        rows.append(row)
        low.append(-np.inf)
        high.append(1e-6)
    limits = LinearConstraint(np.array(rows), low, high)
    found = milp(cost, constraints=limits, integrality=np.ones(len(cost)), bounds=Bounds(0, 1))
    return round(found.fun)


def test_the_worked_example_where_longest_first_takes_a_bar_too_many():
    """Pieces 590 to 130 mm from bars of 1000 mm at a kerf of 3: longest first takes 4 bars, 3 can do. By hand."""
    lengths = [590.0, 480.0, 480.0, 300.0, 300.0, 240.0, 200.0, 170.0, 130.0]
    bars, is_least = packed_bars(lengths, 1000.0, kerf_mm=3.0, trim_mm=0.0)
    assert (len(bars), is_least) == (3, True)
    assert sorted(number for bar in bars for number in bar) == list(range(9))
    for bar in bars:
        assert sum(lengths[number] for number in bar) + 3 * (len(bar) - 1) <= 1000


@settings(max_examples=draws(25), deadline=None)
@given(st.lists(st.integers(80, 990).map(float), min_size=1, max_size=7))
def test_no_fewer_bars_can_do(lengths):
    bars, is_least = packed_bars(lengths, 1000.0, kerf_mm=3.0, trim_mm=10.0)
    assert is_least
    assert len(bars) == fewest(lengths, 990.0, 3.0)
    assert sorted(number for bar in bars for number in bar) == list(range(len(lengths)))


def shafted(*shafts: dict) -> Plan:
    machine = build_machine()
    raw = machine.plans[0].model_dump(mode="json") | {"shafts": list(shafts)}
    return Plan.model_validate(raw)


def test_sizes_and_steels_never_share_a_bar_and_unknown_lengths_are_left_out():
    plan = shafted(
        {"shaft": 2, "diameter_mm": 25.0, "steel": "steel_1045", "span": {"length_mm": 400}},
        {"shaft": 3, "diameter_mm": 25.0, "steel": "mild_steel_1018", "span": {"length_mm": 300}},
        {"shaft": 4, "diameter_mm": 38.1, "steel": "steel_1045"},
    )
    found = cut_list(plan)
    assert [(bar.steel, len(bar.pieces)) for bar in found.bars] == [("steel_1045", 1), ("mild_steel_1018", 1)]
    assert found.bars[0].pieces[0].sawn_mm == pytest.approx(400 + 2 * FACING_MM)
    assert found.bars[0].left_mm == pytest.approx(3000 - 10 - 403 - 3)


def test_an_inch_bar_is_twelve_feet_and_what_is_longer_than_a_bar_is_said():
    plan = shafted(
        {"shaft": 2, "diameter_mm": 38.1, "steel": "steel_1045", "span": {"length_mm": 3400}},
        {"shaft": 3, "diameter_mm": 25.0, "steel": "steel_1045", "span": {"length_mm": 3400}},
    )
    found = cut_list(plan)
    assert [bar.length_mm for bar in found.bars] == [pytest.approx(12 * 304.8)]
    assert [piece.shaft for piece in found.too_long] == [3]
