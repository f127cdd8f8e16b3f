"""Bolts that hold a drive down, beside a published check value and equilibrium; how belts come off."""

from __future__ import annotations

from math import cos, hypot, radians, sin

import numpy
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from builders import build_belt, build_machine
from draws import draws
from pulltide.core.fit.beam import Piece, twist_deg
from pulltide.core.fit.feet import Push, feet_forces, on_blocks, standings
from pulltide.core.fit.methods import FeetInputs, feet_working
from pulltide.core.fit.passing import passings
from pulltide.core.fit.shaft import harder
from pulltide.core.fit.slack import slack_of
from pulltide.core.fit.working import workings
from pulltide.core.layout import place
from pulltide.core.line import solve_plan
from pulltide.core.links.reducer.transmission import ReducerTransmission
from pulltide.core.machine import Machine
from pulltide.demo import demo_machines

PLACE, FORCE = st.floats(-400, 400), st.floats(-5000, 5000)
VECTOR = st.tuples(FORCE, FORCE, FORCE)


def test_four_feet_of_a_motor_take_what_the_formula_of_feet_says():
    """A frame 90S: 552 N at 25° on its shaft, 16 kg, 7.5 N·m; worked by the handbook formula, and by this one."""
    pull = (552 * cos(radians(25)), 552 * sin(radians(25)), 0.0)
    holes = [(x, -90.0, z) for z in (81.0, 181.0) for x in (-70.0, 70.0)]
    loads = [Push((0, 0, 0), pull), Push((0, 0, 150), (0, -16 * 9.80665, 0)), Push((0, 0, 0), couple=(0, 0, 7500))]
    made = feet_working(
        FeetInputs(
            pull_n=552, pull_deg=25, height_mm=90, first_row_mm=81, across_mm=140, along_mm=100, mass_kg=16,
            mass_at_mm=150, torque_nm=7.5,
        )
    )  # fmt: skip
    told = {result.key: result.value for result in made.figures}
    found = feet_forces(holes, loads)
    names = ("near_left", "near_right", "far_left", "far_right")
    assert [foot.up_n for foot in found] == pytest.approx([told[name] for name in names])
    assert [found[0].shear_n, found[2].shear_n] == pytest.approx([told["shear_near"], told["shear_far"]])


@settings(max_examples=draws(60))
@given(st.lists(st.tuples(st.tuples(PLACE, PLACE, PLACE), VECTOR, VECTOR), min_size=1, max_size=4))
def test_feet_hold_whatever_pushes(loads):
    """Pushes of the feet and the loads balance: no force up, no moment about either level axis (numpy)."""
    holes = [(-90.0, -60.0, 10.0), (90.0, -60.0, 10.0), (-90.0, -60.0, 230.0), (90.0, -60.0, 230.0)]
    found = feet_forces(holes, [Push(*load) for load in loads])
    flip = numpy.array([1.0, 1.0, -1.0])
    force = sum((numpy.array(load[1]) * flip for load in loads), numpy.zeros(3))
    moment = sum(
        (numpy.cross(numpy.array(load[0]) * flip - [0, -60, -120], numpy.array(load[1]) * flip) for load in loads),
        numpy.zeros(3),
    ) + sum((numpy.array(load[2]) * flip for load in loads), numpy.zeros(3))
    pushed, turned = force[1], moment.copy()
    for hole, foot in zip(holes, found, strict=True):
        arm = numpy.array(hole) * flip - [0, -60, -120]
        pushed += foot.up_n
        turned += numpy.cross(arm, [0, foot.up_n, 0])
    scale = 1 + numpy.abs(force).max() * 500 + numpy.abs(moment).max()
    assert abs(pushed) < 1e-6 * scale
    assert abs(turned[0]) < 1e-6 * scale
    assert abs(turned[2]) < 1e-6 * scale
    assert max(foot.shear_n for foot in found) >= hypot(force[0], force[2]) / 4 - 1e-6 * scale


def test_a_reducer_is_held_down_by_its_feet_and_counts_what_comes_in_and_goes_out():
    machine = next(machine for machine in demo_machines() if "compost" in machine.name)
    line = solve_plan(machine, machine.plans[0]).chosen
    told = {one.subject: one for one in standings(line, place(machine.plans[0], line))}
    assert set(told) == {"motor", "link-2"}
    assert not told["motor"].weighed
    assert told["link-2"].weighed
    # what all feet push up with carries the weight and the pulls of belt and chain
    case = line.links[1].transmission
    pulls = line.links[0].forces[1].y_n + line.links[2].forces[0].y_n
    pushed = sum(foot.up_n for foot in told["link-2"].feet)
    assert pushed == pytest.approx(9.80665 * case.mass_kg - pulls)


BEVEL = {"kind": "bevel_pair", "module_mm": 3, "driver_teeth": 20, "driven_teeth": 40, "face_width_mm": 18}


def stood(points: str, designation: str):
    """A reducer behind a bevel pair whose shaft points somewhere: how it stands on its feet."""
    links = [BEVEL | {"output_points": points}, {"kind": "reducer", "designation": designation}]
    machine = build_machine(links=links, need={"running_torque_nm": 40.0, "peak_torque_nm": 50.0})
    line = solve_plan(machine, machine.plans[0]).chosen
    return next(one for one in standings(line, place(machine.plans[0], line)) if one.subject == "link-2")


@pytest.mark.parametrize("designation", ["PL-2 15:1", "PW-3 15:1"])
@pytest.mark.parametrize("points", ["up", "down", "left"])
def test_a_reducer_on_an_upright_shaft_stands_on_a_wall(monkeypatch, points: str, designation: str):
    """All but its weight turns with the shaft; the weight hangs on the bolts' shear, not on their pull."""
    weighed = stood(points, designation)
    monkeypatch.setattr(ReducerTransmission, "mass_kg", None)
    level, turned = stood("right", designation), stood(points, designation)
    for one, other in zip(level.feet, turned.feet, strict=True):
        assert (other.up_n, other.shear_n) == pytest.approx((one.up_n, one.shear_n), rel=1e-6, abs=1e-3)
    if points != "left":
        assert sum(foot.up_n for foot in weighed.feet) == pytest.approx(sum(foot.up_n for foot in turned.feet))
        assert weighed.shear_n != pytest.approx(turned.shear_n, rel=1e-3)


def test_a_block_is_pulled_where_its_shaft_lifts_it():
    machine = next(machine for machine in demo_machines() if "compost" in machine.name)
    plan = machine.plans[0]
    answer = harder(machine, plan, solve_plan(machine, plan).chosen, 4)
    for block, bearing, insert in zip(on_blocks(answer), answer.bearings, answer.case.inserts, strict=True):
        tilt = insert.block_height_mm * abs(bearing.x_n) / insert.block_bolts_mm
        assert block.pull_n == pytest.approx(max(0.0, -bearing.y_n / 2 + tilt))
        assert block.shear_n == abs(bearing.x_n)


JACK = {"length_mm": 500, "bearing_1_mm": 100, "bearing_2_mm": 400}


def jackshaft(**span) -> Machine:
    raw = build_machine([build_belt(), build_belt()], need={"running_torque_nm": 20.0}).model_dump(mode="json")
    last = {**JACK, "driven_at_mm": 50}
    raw["plans"][0]["shafts"] = [
        {"shaft": number, "diameter_mm": 40.0, "span": one} for number, one in ((2, {**JACK, **span}), (3, last))
    ]
    return Machine.model_validate(raw)


@pytest.mark.parametrize(
    ("span", "expected", "codes"),
    [
        ({"driven_at_mm": 60, "driver_at_mm": 30}, [("near", "near"), ("near", "near")], set()),
        ({"driven_at_mm": 250, "driver_at_mm": 30}, [("near", ""), ("near", "near")], {"fit.belt_captive"}),
        ({"driven_at_mm": 60, "driver_at_mm": 450}, [("near", "near"), ("far", "near")], {"fit.belt_passes_across"}),
        ({"driven_at_mm": 30, "driver_at_mm": 60}, [("near", "near"), ("", "near")], {"fit.belt_captive"}),
    ],
    ids=["outside", "between", "either end", "behind a larger one"],
)
def test_a_belt_comes_off_where_neither_bearing_nor_larger_wheel_stands(span, expected, codes):
    machine = jackshaft(**span)
    plan = machine.plans[0]
    result = solve_plan(machine, plan)
    found = [
        (" ".join(sorted(one.driver)), " ".join(sorted(one.driven)))
        for one in passings(plan, result.chosen, place(plan, result.chosen))
    ]
    told = {one.code for one in result.findings if one.code.startswith("fit.belt")}
    assert found == expected
    assert told == codes


def test_nothing_is_said_of_belts_while_bearings_are_not_placed():
    machine = jackshaft(bearing_2_mm=None, driven_at_mm=250, driver_at_mm=30)
    assert not [one for one in solve_plan(machine, machine.plans[0]).findings if one.code.startswith("fit.belt")]


def test_a_shaft_of_two_diameters_twists_as_its_lengths_in_a_row():
    """θ = T L / (G J), Shigley eq. 3-35; 60 N·m through 150 x 25 and 120 x 32 mm, G 79.3 GPa, by hand."""
    both = [Piece(0, 150, 25), Piece(150, 270, 32)]
    assert twist_deg(both, (0, 270), 60.0) == pytest.approx(0.1696 + 0.0505, rel=2e-3)
    assert twist_deg(both, (0, 150), 60.0) == pytest.approx(0.1696, rel=2e-3)
    machine = next(machine for machine in demo_machines() if "compost" in machine.name)
    answer = harder(machine, machine.plans[0], solve_plan(machine, machine.plans[0]).chosen, 4)
    assert workings(answer)["twist"]().steps[-1].value == pytest.approx(answer.twist_deg)


def test_a_chain_is_set_by_what_its_slack_strand_hangs_through():
    """A chain 12B, 19 to 38 teeth on 80 links: span 483.7 mm, 3 % of wear takes up 23.0 mm; 1 mm of center hangs
    through 19.0 mm, which the catenary gives too (19.01)."""
    chain = {"kind": "roller_chain", "chain": "12B", "driver_teeth": 19, "driven_teeth": 38, "pitches": 80}
    machine = build_machine([chain])
    line = solve_plan(machine, machine.plans[0]).chosen
    assert line.links[0].center_distance_mm == pytest.approx(487.127, abs=0.05)
    slack = slack_of(line.links[0], 1)
    assert slack.span_mm == pytest.approx(483.72, abs=0.1)
    assert slack.wear_mm * 3 / slack.worn_percent == pytest.approx(23.0, abs=0.1)
    assert slack.sag_mm == pytest.approx(0.02 * slack.span_mm)
    assert slack.in_mm == pytest.approx((slack.sag_mm / 18.98) ** 2, rel=5e-3)
    assert slack.above, "a driver on the left that turns clockwise pulls with its lower strand"
    assert slack_of(line.links[0], -1).above is False
    assert slack_of(line.links[0], None).above is None
    assert slack_of(solve_plan(jackshaft(), jackshaft().plans[0]).chosen.links[0], 1) is None
