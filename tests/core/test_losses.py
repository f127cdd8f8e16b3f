"""What belts, chains, gears and reducers lose: against published bands, without jumps, at any load."""

from __future__ import annotations

from itertools import pairwise
from typing import Any

import pytest

from builders import SHIPPED, build_belt, build_machine
from pulltide.core import part_load
from pulltide.core.line import solve_plan
from pulltide.core.links.reducer import rating, tables
from pulltide.core.links.v_belt.rating import drive_loss_share
from pulltide.core.transmission import LinkResult


def solved(link: dict[str, Any], running_nm: float, **changes: Any) -> LinkResult:
    need = {"running_torque_nm": running_nm, "peak_torque_nm": running_nm, "breakaway_torque_nm": None}
    machine = build_machine(links=[link], need=need, **changes)
    return solve_plan(machine, machine.plans[0]).chosen.links[0]


@pytest.mark.parametrize(
    ("power_hp", "least", "most"),
    [
        (0.25, 0.10, 0.18),
        (0.5, 0.09, 0.16),
        (1.0, 0.07, 0.12),
        (3.0, 0.05, 0.09),
        (5.0, 0.05, 0.09),
        (10.0, 0.04, 0.07),
    ],
)
def test_drive_loss_lies_in_the_published_band(power_hp: float, least: float, most: float):
    """Fan-engineering charts of belt drive loss, from memory: 10 to 18 % at 1/4 hp, 5 to 9 % at 3 to 5 hp."""
    assert least <= drive_loss_share(0.7457 * power_hp) <= most


def test_drive_loss_falls_with_power_and_has_no_jump():
    shares = [drive_loss_share(0.05 * 1.05**k) for k in range(160)]
    assert all(b <= a for a, b in pairwise(shares))
    assert all(a / b < 1.05 for a, b in pairwise(shares))


def test_two_belts_on_two_kilowatts_lose_what_such_drives_lose():
    """Once 16 % as a share of their rating; 7 % by the charts, more by far too much belt on the least pulley."""
    step = [{"driver_diameter_mm": 140.0, "driven_diameter_mm": 280.0}]
    belts = build_belt(section="B", belt="B68", belts=2, steps=step, measured_as="pitch")
    link = solved(belts, 22.0, motor={"power_kw": 2.2})
    power = link.flow.power_in_kw
    assert 1.8 < power < 2.3
    assert 0.06 < link.loss_kw / power < 0.12


def test_creep_follows_the_pull_and_never_jumps():
    """From a tenth of the load to all of it: rising, in even steps, one to two per cent at the end."""
    creeps = []
    for share in range(1, 21):
        link = solved(build_belt(), 0.7 * share)
        ideal = link.flow.driver_speed_rpm / link.ratio
        creeps.append(1 - link.flow.driven_speed_rpm / ideal)
    assert all(b > a for a, b in pairwise(creeps))
    steps = [b - a for a, b in pairwise(creeps)]
    assert max(steps) < 1.6 * min(steps)
    assert 0.004 < creeps[-1] < 0.03


def test_a_pulley_that_carries_hardly_anything_still_creeps_by_its_pull():
    """Where the rating tends to nothing creep once went to its bound of 20 %."""
    step = [{"driver_diameter_mm": 50.0, "driven_diameter_mm": 100.0}]
    link = solved(build_belt(section="B", belt="B42", steps=step, measured_as="pitch"), 1.0)
    assert 1 - link.flow.driven_speed_rpm * link.ratio / link.flow.driver_speed_rpm < 0.03


@pytest.mark.parametrize("kind", ["worm", "helical_inline", "planetary", "cycloidal", "strain_wave"])
def test_a_reducer_loses_a_part_that_stays(kind: str):
    """Loss at a load: a share that stays and the rest in step with torque; no load still costs something."""
    unit = next(one for one in SHIPPED.data("reducer") if one.type == kind)
    rated = rating.rated_torque_nm(unit, 1450.0)
    assert rated is not None
    rated_kw = rated * 1450 / unit.ratio / 9549.3

    def lost(share: float) -> float:
        return rating.power_in_kw(unit, 1450.0, share * rated_kw) - share * rated_kw

    idle = lost(1e-9)
    assert 0.15 * lost(1.0) < idle < 0.6 * lost(1.0), "makers print no-load torques of a fifth to a half. Practice"
    assert lost(0.5) == pytest.approx((idle + lost(1.0)) / 2, rel=1e-6)
    assert rated_kw / (rated_kw + lost(1.0)) == pytest.approx(rating.efficiency(unit, 1450.0), rel=1e-6)


@pytest.mark.parametrize("share", [0.1, 0.25, 0.5, 1.0])
def test_part_load_is_worse_than_full_load(share: float):
    full = 1 / part_load.power_in_kw(1.0, 1.0, 0.8, 0.3)
    part = share / part_load.power_in_kw(share, 1.0, 0.8, 0.3)
    assert full == pytest.approx(0.8)
    assert part <= full
    by_hand = share / (share + 0.25 * (0.3 + 0.7 * share))
    assert part == pytest.approx(by_hand)


@pytest.mark.parametrize(
    ("ratio", "unit"), [(50, "PX-2 50:1"), (80, "PX-2 80:1"), (100, "PX-2 100:1"), (160, "PX-2 160:1")]
)
def test_a_strain_wave_gear_has_one_efficiency_whatever_it_is_called(ratio: int, unit: str):
    """The same gear bought as a unit and built as a link: within a point at the same share of its rating."""
    torque = rating.rated_torque_nm(tables.unit(unit), 1740.0)
    assert torque is not None
    own = {"kind": "strain_wave", "cup_teeth": 2 * ratio, "ring_teeth": 2 * ratio + 2, "rated_torque_nm": torque}
    built = solved(own, 0.8 * torque)
    bought = solved({"kind": "reducer", "designation": unit}, 0.8 * torque)
    assert built.efficiency == pytest.approx(bought.efficiency, abs=0.012)


def test_overhung_load_is_judged_at_the_design_torque():
    """A chain pulls 2000 T_d / d: with a service factor of 1.3, 1.3 times the running pull."""
    chain = {"kind": "roller_chain", "chain": "50", "driver_teeth": 15, "driven_teeth": 30, "pitches": 80}
    light, heavy = (solved(chain, 40.0, duty={"shock": shock, "hours_per_day": 8}) for shock in ("uniform", "moderate"))
    factor = heavy.service_factor.value / light.service_factor.value
    assert factor == pytest.approx(1.3)
    assert heavy.driver_pull_n == pytest.approx(factor * light.driver_pull_n, rel=0.01)
