"""Properties over the whole allowed range, by random search."""

from __future__ import annotations

from itertools import pairwise
from math import isfinite, prod

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from builders import LOOKED_UP, SHIPPED
from draws import draws
from pulltide.core.line import ladder_of, solve_plan
from pulltide.core.links.v_belt.tables import listed_belts, section_names
from pulltide.core.machine import Machine
from pulltide.quantities import UNIT_CHOICES, Units, read_quantity, show_for_edit
from pulltide.quantities.preferences import KIND_OF_UNIT

diameters = st.floats(25, 800)
belts = st.sampled_from(section_names()).flatmap(
    lambda section: st.fixed_dictionaries(
        {
            "kind": st.just("v_belt"),
            "section": st.just(section),
            "measured_as": st.sampled_from(["outside", "pitch"]),
            "steps": st.lists(
                st.fixed_dictionaries({"driver_diameter_mm": diameters, "driven_diameter_mm": diameters}),
                min_size=1,
                max_size=2,
            ),
            "belts": st.integers(1, 6),
            "belt": st.sampled_from([b.id for b in listed_belts(SHIPPED, section)]),
            "static_tension_n": st.none() | st.floats(1, 2000),
            "angle_deg": st.floats(-90, 90),
        }
    )
)
chains = st.fixed_dictionaries(
    {
        "kind": st.just("roller_chain"),
        "chain": st.sampled_from(["25", "35", "41", "40", "50", "60", "80", "100", "06B", "08B", "10B", "12B"]),
        "driver_teeth": st.integers(6, 120),
        "driven_teeth": st.integers(6, 120),
        "pitches": st.integers(16, 400),
        "strands": st.integers(1, 3),
        "oiled": st.booleans(),
    }
)
reducers = st.fixed_dictionaries({"kind": st.just("reducer"), "designation": st.sampled_from(SHIPPED.names("reducer"))})
machines = st.fixed_dictionaries(
    {
        "name": st.just("Any"),
        "need": st.fixed_dictionaries({"running_torque_nm": st.floats(0.01, 5000)}),
        "duty": st.fixed_dictionaries(
            {
                "shock": st.sampled_from(["uniform", "light", "moderate", "heavy"]),
                "hours_per_day": st.floats(0.1, 24),
                "starts_per_hour": st.floats(0, 60),
            }
        ),
        "plans": st.lists(
            st.fixed_dictionaries(
                {
                    "name": st.just("P"),
                    "source": st.fixed_dictionaries(
                        {
                            "power_kw": st.floats(0.02, 20),
                            "speed_rpm": st.floats(300, 3590),
                            "breakdown_torque_ratio": st.none() | st.floats(1.1, 5),
                        }
                    ),
                    "links": st.lists(belts | chains | reducers, max_size=4),
                }
            ),
            min_size=1,
            max_size=1,
        ),
    }
)


@settings(max_examples=draws(150), deadline=None)
@given(machines)
def test_any_line_solves_and_obeys_physics(raw: dict):
    machine = Machine.model_validate(raw, context=LOOKED_UP)
    result = solve_plan(machine, machine.plans[0])
    for line in result.settings:
        powers = [shaft.power_kw for shaft in line.shafts]
        assert all(isfinite(power) and power > 0 for power in powers)
        assert all(before >= after for before, after in pairwise(powers))
        assert line.ratio == pytest.approx(prod(link.ratio for link in line.links))
        assert line.last_shaft.running_torque_nm == pytest.approx(machine.need.running_torque_nm)
        assert all(link.loss_kw >= 0 for link in line.links)
        assert all(f.measured is None or isfinite(f.measured) for f in line.findings)
    found = ladder_of(machine, machine.plans[0], result.chosen)
    times = [rung.times for rung in found.known]
    assert all(isfinite(value) and value >= 0 for value in times)
    assert times == sorted(times)
    assert all(rung.point.missing for rung in found.unknown)


@settings(max_examples=draws(60), deadline=None)
@given(machines, st.floats(1.01, 3.0))
def test_more_torque_never_lowers_the_first_limit_of_any_link(raw: dict, factor: float):
    machine = Machine.model_validate(raw, context=LOOKED_UP)
    need = machine.need.model_copy(update={"running_torque_nm": machine.need.running_torque_nm * factor})
    light, heavy = (
        solve_plan(machine, machine.plans[0]),
        solve_plan(heavier := machine.model_copy(update={"need": need}), heavier.plans[0]),
    )
    for one, two in zip(light.chosen.links, heavy.chosen.links, strict=True):
        as_fast = two.flow.driver_speed_rpm > 0.995 * one.flow.driver_speed_rpm  # galling falls steeply with speed
        if as_fast and one.limits[0].use is not None and isfinite(one.limits[0].use):
            assert two.limits[0].use >= one.limits[0].use * 0.97  # creep slows what comes after, a few per cent at most


@settings(max_examples=draws(200), deadline=None)
@given(st.sampled_from(sorted(KIND_OF_UNIT)), st.floats(0.05, 5e4), st.data())
def test_what_is_shown_for_editing_reads_back(core_unit: str, value: float, data: st.DataObject):
    kind = KIND_OF_UNIT[core_unit]
    units = Units(**{kind: data.draw(st.sampled_from(UNIT_CHOICES[kind]))})
    text = show_for_edit(value, core_unit, units)
    near = min(1e-4 * value, 2e-5 * value + 0.005) if core_unit == "mm" else 2e-5 * value + 0.005
    assert read_quantity(text, core_unit) == pytest.approx(value, rel=0, abs=near)
