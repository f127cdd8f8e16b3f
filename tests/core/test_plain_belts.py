"""Flat and round belts against a published example, exact geometry and a general geometry library."""

from __future__ import annotations

from math import exp, pi, radians
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from shapely.geometry import Point
from shapely.ops import unary_union

from anything import any_of
from builders import build_machine
from draws import draws
from pulltide.core.findings import Severity
from pulltide.core.line import solve_plan
from pulltide.core.links.plain_belt import PlainBelt
from pulltide.core.links.plain_belt.failure import failure_points
from pulltide.core.links.plain_belt.tables import belts
from pulltide.core.transmission import LinkResult

PLAIN = {"kind": "plain_belt", "belt": "polyamide_a2", "driver_diameter_mm": 120, "driven_diameter_mm": 240}


def solved(running_nm: float = 4.0, **changes: Any) -> LinkResult:
    link = {**PLAIN, "center_distance_mm": 700, **changes}
    need = {"running_torque_nm": running_nm, "peak_torque_nm": running_nm, "breakaway_torque_nm": None}
    machine = build_machine(links=[link], need=need)
    return solve_plan(machine, machine.plans[0]).chosen.links[0]


def figure(link: LinkResult, key: str) -> float:
    (value,) = (one.value for one in link.figures if one.key == key)
    assert value is not None
    return value


def test_an_open_belt_is_the_hull_of_its_pulleys():
    """Perimeter of the convex hull of two circles, by a geometry library."""
    hull = unary_union([Point(0, 0).buffer(60, 4096), Point(700, 0).buffer(120, 4096)]).convex_hull
    assert figure(solved(), "length") == pytest.approx(hull.length, rel=1e-6)


def test_a_crossed_belt_by_hand_and_turning_the_other_way():
    """80 and 200 mm at 500 mm: 1479.285 mm and 212.52 degrees, recomputed by hand."""
    link = solved(runs="crossed", driver_diameter_mm=80, driven_diameter_mm=200, center_distance_mm=500, width_mm=20)
    assert figure(link, "length") == pytest.approx(1479.285, abs=0.001)
    assert figure(link, "wrap") == pytest.approx(212.52, abs=0.01)
    assert link.turn == -1
    assert solved().turn == 1


def test_a_published_example():
    """Shigley Example 17-1, from memory: A-3, 6 in wide, 6 and 18 in at 8 ft, 1750 rpm: 420 and 25.7 lbf."""
    inch = 25.4
    link = solved(
        belt="polyamide_a3",
        width_mm=6 * inch,
        driver_diameter_mm=6 * inch,
        driven_diameter_mm=18 * inch,
        center_distance_mm=96 * inch,
    )
    assert figure(link, "allowed") / 4.44822 == pytest.approx(420, rel=1e-3)
    assert link.details.centrifugal_n / 4.44822 == pytest.approx(
        25.7 * (link.flow.driver_speed_rpm / 1750) ** 2, rel=0.01
    )
    assert figure(link, "wrap") == pytest.approx(172.83, abs=0.05)


def test_slip_and_the_tension_that_prevents_it_are_one_balance():
    """Set to what is asked for its design pull, the belt slips at that pull. Euler's equation."""
    asked = figure(solved(), "to_set")
    link = solved(static_tension_n=asked)
    assert link.details.slip_n == pytest.approx(figure(link, "design_pull"), rel=1e-6)
    ratio = exp(0.8 * radians(figure(link, "wrap")))
    assert figure(link, "tension_ratio") == pytest.approx(ratio)


def test_only_a_slack_strand_is_sure_to_slip():
    """A belt may grip better than its table says: sure is 2 (T - T_c), where one side hangs loose. Statics."""
    link = solved(static_tension_n=100.0)
    early, late = (point for point in failure_points(link) if point.mode == "slips")
    assert not early.certain
    assert late.certain
    thrown = link.details.centrifugal_n
    assert late.torque_nm == pytest.approx(2 * (100.0 - thrown) * 0.120 / 2)
    ratio = link.details.tension_ratio
    assert early.torque_nm == pytest.approx(late.torque_nm * (ratio - 1) / (ratio + 1))


def test_round_belts_carry_by_the_piece():
    """Four strands carry four times one; allowed pull follows the area: 33 lbf at 1/2 in is 168 lbf/in²."""
    one = solved(1.0, belt="urethane_round_1_2")
    four = solved(1.0, belt="urethane_round_1_2", belts=4)
    assert figure(four, "allowed") == pytest.approx(4 * figure(one, "allowed"))
    stresses = [b.allowed_n / (pi * b.size_mm**2 / 4) for b in belts().values() if b.is_round]
    assert max(stresses) / min(stresses) < 1.02


@settings(max_examples=draws(120), deadline=None, suppress_health_check=list(HealthCheck))
@given(data=st.data())
def test_any_allowed_belt_gives_figures(data: st.DataObject):
    link = PlainBelt.model_validate(data.draw(any_of(PlainBelt, kind="plain_belt")))
    machine = build_machine(
        links=[link.model_dump(mode="json")], need={"running_torque_nm": 5.0, "peak_torque_nm": 9.0}
    )
    result = solve_plan(machine, machine.plans[0])
    found = result.chosen.links[0]
    assert found.loss_kw > 0
    assert all(limit.allowed is None or limit.allowed > 0 for limit in found.limits)
    assert all(f.severity in Severity for f in found.findings)
