"""Loads that repeat: ramps against scipy, each part by its own exponent, rest by its source, stops and wanted life."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import quad

from builders import build_machine
from pulltide.core.duty import REDUCER_EXPONENT, ROLLER_EXPONENT, TOOTH_EXPONENT, Segment, root_mean_power
from pulltide.core.duty_advice import equivalent
from pulltide.core.findings import Severity
from pulltide.core.line import solve_plan
from pulltide.core.line_result import PlanResult
from pulltide.core.spur.rating import bending_cycle_factor, contact_cycle_factor

RAMP = Segment(seconds=2.0, torque_share=1.6, torque_share_end=0.4, speed_share=0.0, speed_share_end=1.0)
RUN = Segment(seconds=4.0, torque_share=0.4, speed_share=1.0)
REST = Segment(seconds=6.0, torque_share=0.0, speed_share=0.0)


def torque(at: float) -> float:
    return 1.6 - 0.6 * at


def test_a_ramp_heats_as_its_integral():
    """√(∫ T² dt / t): 2 s from 1.6 to 0.4, 4 s at 0.4, 6 s of rest, by scipy."""
    heat = quad(lambda at: torque(at) ** 2, 0, 2)[0] + 4 * 0.16
    found = equivalent((RAMP, RUN, REST), 1.0)
    assert found is not None
    assert found.root_mean_square == pytest.approx((heat / 12) ** 0.5, rel=1e-6)


@pytest.mark.parametrize("exponent", [3.0, 10 / 3, 6.6, 9.0])
def test_a_ramp_ages_as_its_integral_over_turns(exponent: float):
    """(∫ n T^p dt / ∫ n dt)^(1/p), by scipy."""
    worn = quad(lambda at: at / 2 * torque(at) ** exponent, 0, 2)[0] + 4 * 0.4**exponent
    found = root_mean_power((RAMP, RUN, REST), exponent)
    assert found == pytest.approx((worn / (1 + 4)) ** (1 / exponent), rel=2e-4)


def test_rest_cools_by_the_source():
    """A second of rest counts for 1/k: a motor with its own fan cools less at rest than one blown from outside."""
    own, blown = (equivalent((RUN, REST), k) for k in (4.0, 1.0))
    assert own is not None
    assert blown is not None
    assert own.root_mean_square == pytest.approx(0.4 * (4 / (4 + 6 / 4)) ** 0.5)
    assert own.root_mean_square > blown.root_mean_square


@given(st.lists(st.tuples(st.floats(0.1, 60), st.floats(0, 3), st.floats(0.1, 2)), min_size=1, max_size=6))
def test_means_stand_in_order(parts: list[tuple[float, float, float]]):
    """A higher exponent never counts less, and never more than the greatest load."""
    cycle = tuple(Segment(seconds=t, torque_share=x, speed_share=n) for t, x, n in parts)
    means = [root_mean_power(cycle, p) or 0.0 for p in (1.0, 3.0, 10 / 3, 6.6, 12.0)]
    most = max(x for _, x, _ in parts)
    assert all(b >= a - 1e-9 for a, b in zip(means, [*means[1:], most], strict=True))


def planned(links: list[dict[str, Any]], **duty: Any) -> PlanResult:
    need = {"running_torque_nm": 20.0, "peak_torque_nm": 30.0, "breakaway_torque_nm": None}
    machine = build_machine(links=links, need=need, duty={"shock": "uniform", "hours_per_day": 8, **duty})
    return solve_plan(machine, machine.plans[0])


GEARS = {"kind": "gear_pair", "driver_teeth": 20, "driven_teeth": 60, "module_mm": 2.5, "face_width_mm": 25.0}
WORM = {"kind": "reducer", "designation": "PW-4 15:1"}
CYCLE = [
    {"seconds": 1, "torque_share": 2.0, "speed_share": 1.0},
    {"seconds": 9, "torque_share": 0.5, "speed_share": 1.0},
]


def test_each_part_ages_by_its_own_exponent():
    """A tenth of the time at twice the load: reducers by the cube, teeth by 6.6, belts by the tables alone."""

    def by(power: float) -> float:
        return float((0.1 * 2**power + 0.9 * 0.5**power) ** (1 / power))

    assert REDUCER_EXPONENT == 3.0
    worm, teeth = (planned([link], cycle=CYCLE).chosen.links[0].design.repeats for link in (WORM, GEARS))
    assert worm == pytest.approx(by(REDUCER_EXPONENT), rel=1e-6)
    assert teeth == pytest.approx(by(TOOTH_EXPONENT), rel=1e-6)
    assert teeth > worm


@pytest.mark.parametrize(("fatigue", "power"), [("cube", 3.0), ("ten_thirds", ROLLER_EXPONENT)])
def test_an_exponent_can_be_chosen_for_all(fatigue: str, power: float):
    by = float((0.1 * 2**power + 0.9 * 0.5**power) ** (1 / power))
    for link in (WORM, GEARS):
        found = planned([link], cycle=CYCLE, fatigue=fatigue).chosen.links[0].design.repeats
        assert found == pytest.approx(by, rel=1e-6)


def test_an_emergency_stop_has_a_limit_of_its_own():
    def worst(share: float | None) -> Severity:
        result = planned([WORM], emergency_share=share)
        found = [f for f in result.findings if f.code == "reducer.emergency"]
        return max((f.severity for f in found), key=lambda s: s.rank, default=Severity.CLEAR)

    assert worst(None) is Severity.CLEAR
    assert worst(1.5) is Severity.CLEAR
    assert worst(40.0).rank >= Severity.WARNING.rank


@pytest.mark.parametrize(("cycles", "bending", "contact"), [(1e7, 1.0, 1.0), (1e8, 0.96, 0.948), (1e9, 0.921, 0.899)])
def test_wanted_cycles_lower_what_teeth_bear(cycles: float, bending: float, contact: float):
    """Y_N = 1.3558 N^-0.0178 and Z_N = 1.4488 N^-0.023, Shigley Figs. 14-14 and 14-15, from memory."""
    assert bending_cycle_factor(cycles) == pytest.approx(1.3558 * cycles**-0.0178, rel=0.02)
    assert contact_cycle_factor(cycles) == pytest.approx(1.4488 * cycles**-0.023, rel=0.02)
    assert bending_cycle_factor(cycles) == pytest.approx(bending, abs=0.03)
    assert contact_cycle_factor(cycles) == pytest.approx(contact, abs=0.05)


def test_a_longer_wanted_life_leaves_less():
    short, long = (planned([GEARS], life_h=hours).chosen.links[0] for hours in (200, 40_000))
    assert short.details.bending_n > long.details.bending_n
    assert short.details.wear_n > long.details.wear_n
