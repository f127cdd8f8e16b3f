"""Shafts of a plan between their bearings: what pulls them, what is found, and what is missing."""

from __future__ import annotations

from math import hypot

import pytest

from builders import build_belt, build_machine
from pulltide.core.findings import Severity
from pulltide.core.fit import checks
from pulltide.core.fit.shaft import case_of, harder, is_free, missing, solve
from pulltide.core.fit.working import workings
from pulltide.core.line import solve_plan
from pulltide.core.machine import Machine
from pulltide.core.shafts import ShaftPart, Span
from pulltide.demo import demo_machines
from pulltide.quantities import Units
from pulltide.words import filled

JACK = 4
CHAIN = {"kind": "roller_chain", "chain": "50", "driver_teeth": 17, "driven_teeth": 46, "pitches": 90}
PLACED = {"length_mm": 500, "bearing_1_mm": 100, "bearing_2_mm": 400, "driven_at_mm": 250}


def rig(diameter: float = 40.0, steel: str = "steel_1045", need: dict | None = None, **span) -> Machine:
    """The usual rig with its last shaft described."""
    machine = build_machine(need=need or {})
    part = ShaftPart(shaft=JACK, diameter_mm=diameter, steel=steel, span=Span(**{**PLACED, **span}))
    plan = machine.plans[0].model_copy(update={"shafts": (part,)})
    return machine.model_copy(update={"plans": (plan,)})


def coupled(**span) -> Machine:
    """A long thin shaft of its own behind a coupling, its load across the end beyond both bearings."""
    links = [{"kind": "coupling", "designation": "CJ-65"}, CHAIN]
    machine = build_machine(links=links, need={"running_torque_nm": 30.0, "peak_torque_nm": 40.0})
    placed = {"length_mm": 900, "bearing_1_mm": 200, "bearing_2_mm": 800, "driver_at_mm": 500, "driven_at_mm": 20}
    part = ShaftPart(shaft=2, diameter_mm=20.0, steel="steel_1045", span=Span(**{**placed, **span}))
    plan = machine.plans[0].model_copy(update={"shafts": (part,)})
    return machine.model_copy(update={"plans": (plan,)})


def quick() -> Machine:
    """A thick shaft driven three times as fast as its motor."""
    step = {"driver_diameter_mm": 203.0, "driven_diameter_mm": 86.0}
    machine = build_machine(links=[build_belt(steps=[step])], need={"running_torque_nm": 1.0, "peak_torque_nm": 1.5})
    span = Span(length_mm=500, bearing_1_mm=100, bearing_2_mm=400, driven_at_mm=250)
    plan = machine.plans[0].model_copy(update={"shafts": (ShaftPart(shaft=2, diameter_mm=60.0, span=span),)})
    return machine.model_copy(update={"plans": (plan,)})


def fast() -> Machine:
    """A long thin spindle behind one belt."""
    machine = build_machine(links=[build_belt()], need={"running_torque_nm": 3.0, "peak_torque_nm": 4.0})
    span = Span(length_mm=2600, bearing_1_mm=100, bearing_2_mm=2500, driven_at_mm=1300)
    plan = machine.plans[0].model_copy(update={"shafts": (ShaftPart(shaft=2, diameter_mm=20.0, span=span),)})
    return machine.model_copy(update={"plans": (plan,)})


def found(machine: Machine) -> dict:
    result = solve_plan(machine, machine.plans[0])
    told = (*result.findings, *result.chosen.remarks)
    return {one.code: one for one in told if one.code.startswith("fit.")}


def answer(machine: Machine):
    plan = machine.plans[0]
    return solve(case_of(machine, plan, solve_plan(machine, plan).chosen, JACK))


def test_shafts_of_motors_and_cases_are_not_the_builders():
    plan = build_machine().plans[0]
    assert [is_free(plan, number) for number in (1, 2, 3, 4)] == [False, False, False, True]


def test_what_is_missing_is_named_and_nothing_is_judged_until_then():
    assert missing(None, driven=True, driver=False) == (
        "its diameter", "where two bearings stand", "where the wheel of the stage before stands",
    )  # fmt: skip
    assert found(rig(bearing_2_mm=None)) == {}
    assert found(build_machine()) == {}


def test_reactions_carry_the_pull_of_the_chain_and_the_weight_of_its_sprocket():
    """In the middle between both bearings each carries half; the moment is F L / 4."""
    solved = answer(rig())
    (wheel,) = solved.case.wheels
    pull = hypot(wheel.force.x_n, wheel.force.y_n - 9.80665 * wheel.mass_kg)
    assert [bearing.radial_n for bearing in solved.bearings] == pytest.approx([pull / 2, pull / 2], rel=1e-9)
    assert solved.weakest.moment_nmm == pytest.approx(pull * 300 / 4, rel=1e-9)
    chain = solve_plan(rig(), rig().plans[0]).chosen.links[-1]
    assert hypot(wheel.force.x_n, wheel.force.y_n) == pytest.approx(chain.details.pull_n)


def test_tooth_forces_on_a_shaft_between_two_meshes_turn_it_opposite_ways():
    """What drives the shaft and what it drives: both meshes act round it with its torque, one with it, one against."""
    pair = {"kind": "gear_pair", "module_mm": 3, "driver_teeth": 20, "driven_teeth": 60, "face_width_mm": 40}
    machine = build_machine(links=[pair, pair], need={"running_torque_nm": 30.0, "peak_torque_nm": 40.0})
    span = Span(length_mm=300, bearing_1_mm=20, bearing_2_mm=280, driven_at_mm=90, driver_at_mm=200)
    plan = machine.plans[0].model_copy(update={"shafts": (ShaftPart(shaft=2, diameter_mm=25.0, span=span),)})
    case = case_of(machine, plan, solve_plan(machine, plan).chosen, 2)
    first, second = (wheel.force for wheel in case.wheels)
    assert first.torque_nm == pytest.approx(-second.torque_nm, rel=0.06)
    assert abs(second.torque_nm) == pytest.approx(case.torque_nm, rel=0.06)
    # the second shaft turns counterclockwise where the motor is drawn clockwise: it is driven that way
    assert first.torque_nm > 0
    apart = [wheel.force.x_n for wheel in case.wheels]
    assert apart[0] > 0 > apart[1], "both meshes push their shafts apart"


def test_an_other_load_is_carried_too():
    plain, loaded = answer(rig()), answer(rig(load_n=2000, load_at_mm=250))
    down = [b.y_n - a.y_n for a, b in zip(plain.bearings, loaded.bearings, strict=True)]
    assert down == pytest.approx([1000, 1000], rel=1e-9)


@pytest.mark.parametrize(
    ("code", "severity", "machine"),
    [
        ("fit.fatigue", Severity.WARNING, rig(25.0)),
        ("fit.fatigue", Severity.ERROR, rig(17.0)),
        ("fit.yield", Severity.ERROR, rig(15.0)),
        ("fit.yield", Severity.WARNING, rig(24.8)),
        ("fit.critical_speed", Severity.ERROR, fast()),
        ("fit.deflection", Severity.WARNING, rig(20.0)),
        ("fit.bearing_slope", Severity.WARNING, rig(20.0, length_mm=900, bearing_2_mm=850)),
        ("fit.bearing_static", Severity.WARNING, rig(40.0, load_n=10_000, load_at_mm=110)),
        ("fit.bearing_static", Severity.ERROR, rig(40.0, load_n=20_000, load_at_mm=110)),
        ("fit.bearing_life", Severity.WARNING, rig(40.0, load_n=60_000, load_at_mm=110)),
        ("fit.insert_load", Severity.WARNING, rig(40.0, load_n=8_000, load_at_mm=250)),
        ("fit.no_insert", Severity.NOTE, rig(33.0)),
        ("fit.tapered_slope", Severity.WARNING,
         rig(20.0, length_mm=900, bearing_2_mm=850, bearing="tapered_face")),
        ("fit.coupling", Severity.WARNING, coupled()),
        ("fit.bearing_speed", Severity.WARNING, quick()),
        ("fit.tapered_pair", Severity.WARNING, rig(bearing="tapered_face", bearing_3_mm=480)),
        ("fit.locked_twice", Severity.WARNING, rig(locked="both", length_mm=900, bearing_2_mm=850)),
        ("fit.no_bearing", Severity.NOTE, rig(33.0, bearing="deep_62")),
        ("fit.twist", Severity.NOTE, rig(16.0)),
        ("fit.impossible", Severity.ERROR, rig(driven_at_mm=700)),
        ("fit.impossible", Severity.ERROR, rig(bearing_2_mm=100)),
    ],
    ids=lambda value: value if isinstance(value, str) else "",
)  # fmt: skip
def test_every_check_of_a_shaft_can_fail(code: str, severity: Severity, machine: Machine):
    assert found(machine)[code].severity is severity, found(machine)


def test_no_check_of_a_shaft_is_left_out():
    tripped = {parameter[0] for mark in test_every_check_of_a_shaft_can_fail.pytestmark for parameter in mark.args[1]}
    assert tripped == {rule.code for rule in checks.RULES if rule not in (*checks.ROOM, *checks.SURROUNDINGS)}


def test_a_thicker_bar_is_safer_in_everything_but_never_lighter():
    thin, thick = answer(rig(25.0)), answer(rig(35.0))
    assert thick.weakest.goodman > thin.weakest.goodman
    assert max(thick.wheels_mm) < max(thin.wheels_mm)
    assert thick.critical_rpm > thin.critical_rpm
    assert thin.goodman_mm == pytest.approx(thick.goodman_mm, rel=1e-3)
    assert answer(rig(thin.goodman_mm)).weakest.goodman == pytest.approx(2.0, rel=0.02)
    overhung = answer(rig(driven_at_mm=30))
    assert answer(rig(overhung.goodman_mm, driven_at_mm=30)).weakest.goodman == pytest.approx(2.0, rel=0.02)


@pytest.mark.parametrize(("wanted", "factor"), [("90", 1.0), ("95", 0.64), ("99", 0.25)])
def test_a_wanted_reliability_shortens_the_life_told(wanted, factor):
    """a1 of ISO 281:2007, Table 12, from memory."""
    machine = rig(load_n=20_000, load_at_mm=110)
    usual = answer(machine).bearings[0].life_h
    careful = machine.model_copy(update={"duty": machine.duty.model_copy(update={"bearing_reliability": wanted})})
    told = answer(careful)
    assert told.bearings[0].life_h == pytest.approx(factor * usual)
    lives = {step.symbol: step.value for step in workings(told)["bearing-1"]().steps}
    assert lives.get("L_nh", lives["L_10h"]) == pytest.approx(factor * usual)


def test_shafts_of_the_demo_shop_are_placed_and_sound():
    placed = [
        (machine, plan)
        for machine in demo_machines()
        for plan in machine.plans
        if any(part.span is not None for part in plan.shafts)
    ]
    assert len(placed) >= 5
    for machine, plan in placed:
        told = [one for one in solve_plan(machine, plan).findings if one.code.startswith("fit.")]
        assert told
        bent = {one.code for one in told if one.severity is not Severity.CLEAR}
        if plan.name == "By a jackshaft, as first built":
            assert bent >= BENT
        else:  # a cone between the bearings of its spindle holds its belt, and is said to
            assert bent <= ({"fit.belt_captive"} if machine.name.startswith("Spindlewood") else set())


#: What the demo's bent jackshaft shows, and its cure does not.
BENT = {"fit.fatigue", "fit.yield", "fit.deflection", "fit.bearing_slope"}


def test_a_drive_that_reverses_is_judged_both_ways():
    """Weight helps one way and adds the other: the harder way decides, and each finding is the graver of both."""
    pair = {"kind": "gear_pair", "module_mm": 3, "driver_teeth": 20, "driven_teeth": 60, "face_width_mm": 40}
    span = Span(length_mm=300, bearing_1_mm=20, bearing_2_mm=280, driven_at_mm=150, load_n=900, load_at_mm=150)

    def with_duty(reversing: bool):
        machine = build_machine(
            links=[pair], need={"running_torque_nm": 30.0, "peak_torque_nm": 40.0}, duty={"reversing": reversing}
        )
        plan = machine.plans[0].model_copy(update={"shafts": (ShaftPart(shaft=2, diameter_mm=16.0, span=span),)})
        line = solve_plan(machine, plan).chosen
        ways = [solve(case_of(machine, plan, line, 2, back=back)) for back in (False, True)]
        return harder(machine, plan, line, 2), ways

    one, (there, back) = with_duty(False)
    assert one.weakest.goodman == there.weakest.goodman
    assert not one.either_way
    assert there.weakest.goodman != pytest.approx(back.weakest.goodman, rel=1e-3)
    either, ways = with_duty(True)
    assert either.either_way
    assert either.weakest.goodman == min(way.weakest.goodman for way in ways)
    for found in either.findings:
        same = [one for way in ways for one in way.findings if one.code == found.code]
        assert found.severity.rank == max(one.severity.rank for one in same), found.code


BEVEL = {"kind": "bevel_pair", "module_mm": 3, "driver_teeth": 20, "driven_teeth": 40, "face_width_mm": 18}


@pytest.mark.parametrize(("points", "along"), [("up", -1), ("down", 1)])
def test_what_stands_on_an_upright_shaft_hangs_along_it(points: str, along: int):
    """The same shaft level and upright: its wheels no longer bend it by their weight, and press on one bearing."""
    pair = {"kind": "gear_pair", "module_mm": 4, "driver_teeth": 60, "driven_teeth": 90, "face_width_mm": 60}
    span = Span(length_mm=300, bearing_1_mm=60, bearing_2_mm=240, driven_at_mm=20, driver_at_mm=150)

    def turned(output_points: str):
        links = [BEVEL | {"output_points": output_points}, pair]
        machine = build_machine(links=links, need={"running_torque_nm": 40.0, "peak_torque_nm": 50.0})
        part = ShaftPart(shaft=2, diameter_mm=35.0, span=span)
        plan = machine.plans[0].model_copy(update={"shafts": (part,)})
        return case_of(machine, plan, solve_plan(machine, plan).chosen, 2)

    level, upright = turned("right"), turned(points)
    weight = 9.80665 * sum(wheel.mass_kg for wheel in level.wheels)
    assert weight > 150
    assert [wheel.force for wheel in level.wheels] == [wheel.force for wheel in upright.wheels]
    assert upright.along_n - level.along_n == pytest.approx(along * weight)
    lifts = [sum(one.y_n for one in solve(case).bearings) for case in (level, upright)]
    assert lifts[0] - lifts[1] == pytest.approx(weight)


def test_a_shaft_turned_down_bends_as_the_beam_of_its_pieces_and_is_judged_at_its_shoulders():
    """Both ends 25 mm of a 40 mm bar: deflection against the same beam, moments as before."""
    plain = answer(rig(40.0, length_mm=600))
    turned = answer(rig(40.0, length_mm=600, end_1_mm=120, end_1_diameter_mm=25, end_2_mm=250, end_2_diameter_mm=25,
                        fillet_mm=2))  # fmt: skip
    assert [(one.start_mm, one.end_mm, one.diameter_mm) for one in turned.case.pieces] == [
        (0, 120, 25), (120, 350, 40), (350, 600, 25),
    ]  # fmt: skip
    assert [one.radial_n for one in turned.bearings] == pytest.approx([one.radial_n for one in plain.bearings])
    assert turned.wheels_mm[0] > plain.wheels_mm[0]
    steps = {one.name: one for one in turned.sections if one.name.startswith("shoulder")}
    assert set(steps) == {"shoulder 1", "shoulder 2"}
    assert steps["shoulder 1"].diameter_mm == 25
    sharp = answer(rig(40.0, length_mm=600, end_1_mm=120, end_1_diameter_mm=25, end_2_mm=250, end_2_diameter_mm=25))
    worse = {one.name: one.goodman for one in sharp.sections}
    assert all(worse[name] < step.goodman for name, step in steps.items()), "a sharp corner is the worse one"
    assert {one.bore_mm for one in turned.case.inserts} == {25.0}


def test_ends_that_take_up_the_whole_shaft_are_refused():
    with pytest.raises(ValueError, match="whole length"):
        Span(length_mm=200, end_1_mm=120, end_1_diameter_mm=20, end_2_mm=90, end_2_diameter_mm=20)


@pytest.mark.parametrize(
    ("span", "lacks"),
    [
        ({"end_1_mm": 100}, "the diameter its first end is turned to"),
        ({"end_1_diameter_mm": 20}, "how far its first end is turned down"),
        ({"length_mm": None, "end_2_mm": 100, "end_2_diameter_mm": 20}, "its length, for the end that is turned down"),
    ],
)
def test_an_end_that_is_half_entered_is_kept_and_what_is_missing_is_named(span, lacks):
    """Fields are entered one after the other: nothing is judged until the end is whole."""
    machine = rig(**span)
    part = machine.plans[0].shaft_part(JACK)
    assert [filled(what, Units()) for what in missing(part, driven=True, driver=False)] == [lacks]
    assert found(machine) == {}


def test_balls_and_rollers_live_by_their_own_ratings():
    """The same shaft in three kinds of bearing: life as ISO 281 has it for each."""
    for kind, rated, power in (("insert", 22_500.0, 3), ("deep_63", 40_800.0, 3), ("tapered_face", 61_600.0, 10 / 3)):
        solved = answer(rig(40.0, bearing=kind, load_n=6000, load_at_mm=250))
        for one, own in zip(solved.bearings, solved.case.inserts, strict=True):
            load = own.equivalent_n(one.radial_n, one.thrust_n)
            hours = (own.dynamic_n / load) ** power * 1e6 / (60 * solved.case.speed_rpm)
            assert one.life_h == pytest.approx(min(hours, 100_000), rel=1e-6), kind
        assert solved.case.inserts[0].dynamic_n == pytest.approx(rated, rel=0.5), kind


def test_tapered_rollers_hold_between_or_beyond_where_they_stand():
    """Face to face the load centers lie inside, back to back outside: 17 mm from the back of 19.75 for a bore of 40."""
    inside, outside = (answer(rig(40.0, bearing=kind)).case for kind in ("tapered_face", "tapered_back"))
    by = 17 - 19.75 / 2
    assert inside.bearings_mm == pytest.approx([inside.stations_mm[0] + by, inside.stations_mm[1] - by])
    assert outside.bearings_mm == pytest.approx([outside.stations_mm[0] - by, outside.stations_mm[1] + by])
