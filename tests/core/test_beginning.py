"""A stage begins at what is left to bridge, strong enough; another kind keeps the ratio; nothing absurd before that."""

from __future__ import annotations

from math import log

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from builders import SHIPPED, build_belt, build_machine, looked_up
from draws import draws
from pulltide.core.advantage import ratio_asked
from pulltide.core.beginning import RATED, Wish, _Downhill, _Weighed, begin, other_ratio, wish_for, wish_like
from pulltide.core.catalog import Catalog
from pulltide.core.duty import Duty
from pulltide.core.family import Family
from pulltide.core.line import solve_line, solve_plan
from pulltide.core.links import FAMILIES, family_of
from pulltide.core.links.reducer import Reducer
from pulltide.core.remedies import with_remedies
from pulltide.core.sources.others import Engine
from pulltide.core.transmission import Flow, Sizing
from pulltide.core.units import power_kw, torque_nm

each_family = pytest.mark.parametrize("family", FAMILIES, ids=lambda family: family.kind)
SIZING = Sizing(Duty.model_validate({"shock": "light", "hours_per_day": 6.0}))
#: Families whose one ratio, or few, cannot be chosen freely.
COARSE = {"coupling", "strain_wave", "friction_drive", "reducer", "gear_train", "worm_set", "planetary"}


@each_family
def test_a_stage_begins_at_the_ratio_that_is_left_or_as_far_as_one_stage_goes(family: Family):
    low, high = family.usual_ratios
    for ratio in (2.5, 4.0, 400.0):
        link = begin(family, SHIPPED, Wish(ratio, 1440.0, 3.0, 4.0, SIZING))
        wanted = min(max(ratio, low), high)
        reached = family.prepare(link, 1).ratio
        if family.kind not in COARSE:
            assert abs(log(reached / wanted)) < 0.05, (ratio, reached)
        assert family.model.model_validate(link.model_dump(mode="json")) == link


@pytest.mark.parametrize("kind", ["v_belt", "toothed_belt", "roller_chain", "reducer", "gear_pair", "worm_set"])
def test_a_stage_begins_strong_enough_for_the_load_there(kind: str):
    family = family_of(kind)
    wish = Wish(10.0 if kind in ("reducer", "worm_set") else 3.0, 1440.0, 9.0, 12.0, SIZING)
    link = begin(family, SHIPPED, wish)
    transmission = family.prepare(link, 1)
    power = power_kw(9.0, 1440.0)
    driven = 1440.0 / transmission.ratio
    flow = Flow(
        driver_speed_rpm=1440.0,
        driven_speed_rpm=driven,
        driver_torque_nm=9.0,
        driven_torque_nm=torque_nm(power, driven),
        driver_peak_torque_nm=None,
        driven_peak_torque_nm=None,
        driver_nameplate_torque_nm=12.0,
        power_in_kw=power,
        power_out_kw=power,
    )
    tightest = transmission.rate(flow, SIZING, "link-1").tightest
    assert tightest is not None
    assert tightest.use <= 1.0


@settings(max_examples=draws(30), deadline=None)
@given(st.sampled_from(["v_belt", "roller_chain", "reducer"]), st.floats(1.2, 60.0), st.floats(0.2, 20.0))
def test_a_beginning_never_fails_and_is_never_worse_than_the_plain_start(kind: str, ratio: float, torque: float):
    family = family_of(kind)
    link = begin(family, SHIPPED, Wish(ratio, 1440.0, torque, torque, SIZING))
    low, high = family.usual_ratios
    wanted = min(max(ratio, low), high)
    off = [abs(log(family.prepare(one, 1).ratio / wanted)) for one in (link, family.starter(SHIPPED))]
    assert off[0] <= off[1] + 0.7, "a little off the ratio for the sake of strength, no more"


def test_nothing_known_begins_plainly():
    for catalog in (SHIPPED, Catalog(())):
        assert begin(family_of("v_belt"), catalog, None) == family_of("v_belt").starter(catalog)


def test_what_is_left_is_the_ratio_asked_over_the_ratio_there():
    machine = build_machine(links=[build_belt(), {"kind": "reducer", "designation": "PW-6 15:1"}])
    line = solve_line(machine, machine.plans[0])
    wish = wish_for(machine, machine.plans[0], line, 2)
    assert wish.ratio == pytest.approx(line.shafts[0].speed_rpm / 17.0 / line.ratio)
    assert wish.driver_speed_rpm == line.last_shaft.speed_rpm
    assert wish.driver_torque_nm == pytest.approx(120.0 / wish.ratio)
    like = wish_like(machine, machine.plans[0], line, 1)
    assert like.ratio == pytest.approx(15.0)
    assert like.driver_torque_nm == line.links[1].flow.driver_torque_nm
    blank = build_machine(need={"speed_min_rpm": None, "speed_ideal_rpm": None, "speed_max_rpm": None})
    assert wish_for(blank, blank.plans[0], solve_line(blank, blank.plans[0]), 3) is None


@pytest.mark.parametrize(
    ("low", "ideal", "high", "aimed"),
    [(14.0, None, 20.0, 17.0), (14.0, 18.0, 20.0, 18.0), (None, 18.0, None, 18.0), (14.0, None, None, None)],
)
def test_a_band_alone_is_aimed_at_in_its_middle(low, ideal, high, aimed):
    machine = build_machine(need={"speed_min_rpm": low, "speed_ideal_rpm": ideal, "speed_max_rpm": high})
    assert machine.need.aimed_rpm == aimed
    line = solve_line(machine, machine.plans[0])
    asked = ratio_asked(machine, line)
    assert asked == (None if aimed is None else pytest.approx(line.shafts[0].speed_rpm / aimed))


def test_a_motor_alone_far_from_the_speed_needed_is_judged_by_nothing_that_depends_on_load():
    machine = build_machine(links=[])
    result = solve_plan(machine, machine.plans[0])
    line = result.chosen
    assert line.unbridged
    assert {f.code for f in result.findings if f.severity.rank} == {"line.no_stage"}
    assert (line.motor_load, line.last_shaft.running_torque_nm, line.last_shaft.power_kw) == (None, None, None)
    near = build_machine(links=[], need={"speed_min_rpm": 1500, "speed_ideal_rpm": 1700, "speed_max_rpm": 1800,
                                         "running_torque_nm": 4.0, "peak_torque_nm": 5.0})  # fmt: skip
    direct = solve_plan(near, near.plans[0])
    assert not direct.chosen.unbridged
    assert direct.chosen.motor_load is not None


def test_a_stage_is_brought_to_the_ideal_speed_and_offered_where_that_cures():
    """A second chain wheel of nearly the size of the first leaves the drum two and a half times too fast."""
    chain = {"kind": "roller_chain", "chain": "60", "driver_teeth": 17, "driven_teeth": 18, "pitches": 90}
    machine = build_machine(links=[build_belt(take_up_mm=80), {"kind": "reducer", "designation": "PW-6 15:1"}, chain])
    plan = machine.plans[0]
    line = solve_line(machine, plan)
    other = other_ratio(machine, plan, line, 2, SHIPPED)
    assert other.driven_teeth / other.driver_teeth == pytest.approx(
        18 / 17 * line.shafts[0].speed_rpm / 17.0 / line.ratio, rel=0.05
    )
    found = with_remedies(machine, plan, solve_plan(machine, plan)).findings
    speed = next(finding for finding in found if finding.code == "need.speed_high")
    assert speed.remedies, "too fast by far more than one stock step"
    for remedy in speed.remedies:
        assert 14.0 <= remedy.last_speed_rpm <= 20.0


def test_another_kind_keeps_the_ratio():
    line = solve_line(machine := build_machine(), machine.plans[0])
    belt = begin(family_of("toothed_belt"), SHIPPED, wish_like(machine, machine.plans[0], line, 0))
    assert family_of("toothed_belt").prepare(belt, 1).ratio == pytest.approx(line.links[0].ratio, rel=0.03)
    worm = looked_up(Reducer, designation="PW-6 15:1")
    assert begin(
        family_of("reducer"), SHIPPED, wish_like(machine, machine.plans[0], line, 1)
    ).unit.ratio == pytest.approx(worm.unit.ratio, rel=0.05)


def test_a_stage_behind_an_engine_is_sized_for_an_engine():
    machine = build_machine()
    plan = machine.plans[0].model_copy(update={"source": Engine(power_kw=3.0, speed_rpm=3600.0)})
    line = solve_line(machine, plan)
    assert line is not None
    for wish in (wish_for(machine, plan, line, 3), wish_like(machine, plan, line, 0)):
        assert wish.sizing.engine_driven


@pytest.mark.parametrize("kind", ["v_belt", "roller_chain", "gear_pair", "planetary", "reducer"])
@pytest.mark.parametrize(("ratio", "torque"), [(1.7, 3.0), (3.0, 40.0), (8.0, 3.0)])
def test_no_neighbor_of_where_the_steps_end_comes_closer(kind: str, ratio: float, torque: float):
    """Each neighbor judged to the end, however far off it is, and none of what was kept of others."""
    family, wish = family_of(kind), Wish(ratio, 1440.0, torque, torque, SIZING)
    downhill = _Downhill(family, SHIPPED, wish)
    for seed in (*family.seeds(SHIPPED, downhill.wish.ratio), family.starter(SHIPPED)):
        end = downhill.end(seed)
        weighed = _Weighed(family, downhill.wish)
        nearest = sorted((variant.link for variant in family.variants(end, SHIPPED)), key=weighed.off)[:RATED]
        assert weighed.cost(end) <= weighed.cost(seed)
        assert all(weighed.cost(other) >= weighed.cost(end) - 1e-9 for other in nearest)
