"""Wheels that the shop makes, judged by what they are made of; findings that may stay; what a drive is set up by."""

from __future__ import annotations

from math import radians, tan

import pytest
from pydantic import ValidationError

from builders import LOOKED_UP, build_belt, build_machine
from pulltide.core.acceptance import accepted_as
from pulltide.core.bill import bill_of, total
from pulltide.core.findings import Severity
from pulltide.core.fit.bearings import insert_for
from pulltide.core.line import solve_plan
from pulltide.core.links.roller_chain.oil import drops_a_minute
from pulltide.core.machine import Machine
from pulltide.core.made import checks
from pulltide.core.made.part import OF_GEARS, stuff_of, stuffs
from pulltide.core.run_log.first import first_readings
from pulltide.core.run_log.judging import page_of
from pulltide.core.set_up import grease_g, grease_hours, guards, in_line
from pulltide.core.shipped import shipped_catalog
from pulltide.core.spur.tables import materials
from pulltide.demo import demo_machines

TIMING = {
    "kind": "toothed_belt",
    "profile": "8M",
    "driver_teeth": 28,
    "driven_teeth": 56,
    "belt_teeth": 100,
    "width_mm": 30,
}
GEARS = {"kind": "gear_pair", "driver_teeth": 20, "driven_teeth": 60, "module_mm": 3, "face_width_mm": 30}


def machine_of(links, made, **changes) -> Machine:
    raw = build_machine(links).model_dump(mode="json")
    raw["plans"][0]["made"] = made
    raw["plans"][0]["shafts"] = changes.pop("shafts", [])
    for part, values in changes.items():
        raw[part] |= values
    return Machine.model_validate(raw, context=LOOKED_UP)


def found_in(machine: Machine) -> dict[str, Severity]:
    result = solve_plan(machine, machine.plans[0])
    return {one.code: one.severity for one in result.findings if one.code.startswith("made.")}


def made(wheel: str, material: str = "not_known") -> list[dict[str, str]]:
    return [{"wheel": wheel, "material": material}]


FAST = build_belt(steps=[{"driver_diameter_mm": 150.0, "driven_diameter_mm": 300.0}], belt="A75")
KEY = {"shaft": 2, "diameter_mm": 30.0, "key_width_mm": 8.0, "key_length_mm": 20.0}
CASES = {
    "made.rim_speed": machine_of([FAST], made("1-driven", "pla_printed")),
    "made.key_bearing": machine_of([build_belt()], made("1-driven", "mdf"), shafts=[KEY]),
    "made.heat": machine_of([build_belt()], made("1-driver", "pla_printed"), duty={"ambient_c": 40.0}),
    "made.holds": machine_of([build_belt()], made("1-driven", "hardwood"), need={"holding_torque_nm": 50.0}),
    "made.teeth_unrated": machine_of([TIMING], made("1-driver", "petg_printed")),
    "made.material_unknown": machine_of([TIMING], made("1-driver")),
}


@pytest.mark.parametrize("code", sorted(CASES))
def test_each_check_of_a_made_wheel_comes_up_where_it_should(code):
    assert found_in(CASES[code])[code] is not Severity.CLEAR


def test_no_check_of_a_made_wheel_is_without_a_case():
    assert {rule.code for rule in checks.RULES} == set(CASES)


def test_a_plan_that_makes_nothing_says_nothing_of_it():
    assert found_in(machine_of([build_belt()], [])) == {}


def test_a_wheel_of_iron_passes_where_a_printed_one_does_not():
    iron = machine_of([build_belt()], made("1-driven", "gray_iron_30"), shafts=[KEY])
    assert set(found_in(iron).values()) == {Severity.CLEAR}


def test_a_gear_is_made_of_what_its_stage_says():
    printed = machine_of([GEARS | {"driven_material": "printed_nylon"}], made("1-driven", "steel_1045_normalized"))
    assert found_in(printed)["made.rim_speed"] is Severity.CLEAR
    limit = next(one.limit for one in solve_plan(printed, printed.plans[0]).findings if one.code == "made.rim_speed")
    assert limit == stuffs()["printed_nylon"].rim_m_per_s


def test_every_material_of_gears_is_known_here():
    assert all(stuff_of(name) is not None for name in materials())
    assert set(OF_GEARS) <= set(materials())


def test_pressure_of_a_key_is_force_over_its_half_height():
    """Shigley, section 7-7: F = T / r on an area of half the height times the length."""
    machine = CASES["made.key_bearing"]
    result = solve_plan(machine, machine.plans[0])
    found = next(one for one in result.findings if one.code == "made.key_bearing")
    torque = result.chosen.shafts[1].design_torque_nm
    assert found.measured == pytest.approx(torque / 0.015 / (3.5 * 20.0), rel=1e-9)


def test_a_made_wheel_costs_nothing_and_is_not_bought():
    catalog = shipped_catalog()
    link = {"kind": "roller_chain", "chain": "40", "driver_teeth": 17, "driven_teeth": 34, "pitches": 80}
    bought, own = machine_of([link], []), machine_of([link], made("1-driven", "mild_steel"))
    before, after = (bill_of(machine.plans[0], catalog) for machine in (bought, own))
    assert [piece.made for piece in after] == [False, False, True, False]
    sprocket = next(piece for piece in before if piece.side == "driven")
    assert total(before).price - total(after).price == pytest.approx(sprocket.price)
    assert total(before).to_buy == total(after).to_buy + 1


def test_a_wheel_is_made_once():
    with pytest.raises(ValidationError, match="stands twice"):
        machine_of([TIMING], [*made("1-driver"), *made("1-driver", "mdf")])


def accepted(finding, **changes) -> dict:
    return {
        "code": finding.code,
        "subject": finding.subject,
        "reason": "slow enough in use",
        "by": "the smith",
        "on": "2026-11-29",
        "severity": finding.severity.value,
        "measured": finding.measured,
        "limit": finding.limit,
    } | changes


def test_a_finding_that_may_stay_is_open_again_when_it_is_another():
    machine = CASES["made.rim_speed"]
    finding = next(one for one in solve_plan(machine, machine.plans[0]).findings if one.code == "made.rim_speed")

    def kept(**changes) -> bool:
        raw = machine.model_dump(mode="json")
        raw["plans"][0]["accepted"] = [accepted(finding, **changes)]
        plan = Machine.model_validate(raw, context=LOOKED_UP).plans[0]
        return accepted_as(finding, plan.accepted) is not None

    assert kept()
    assert kept(measured=finding.measured * 0.995)
    assert not kept(measured=finding.measured * 0.95)
    assert not kept(limit=finding.limit * 1.1)
    assert not kept(severity="note")
    assert not kept(subject="link-2")


def test_rims_stand_in_line_within_the_angle_of_their_family():
    machine = build_machine()
    line = solve_plan(machine, machine.plans[0]).chosen
    belt, chain = in_line(machine.plans[0], line)
    assert (belt.stage, chain.stage) == (1, 3)
    assert belt.offset_mm == pytest.approx(line.links[0].center_distance_mm * tan(radians(0.5)))
    assert chain.offset_mm == pytest.approx(line.links[2].center_distance_mm * tan(radians(0.25)))
    assert belt.cards == pytest.approx(belt.offset_mm / 0.76)


def test_a_guard_holds_both_wheels_with_room_round_them():
    machine = build_machine([build_belt(take_up_mm=40.0)])
    line = solve_plan(machine, machine.plans[0]).chosen
    (guard,) = guards(machine.plans[0], line)
    picture = line.links[0]
    radii = (3.4 * 25.4 / 2, 8 * 25.4 / 2)
    assert guard.length_mm > picture.center_distance_mm + sum(radii) + 40
    assert guard.height_mm == pytest.approx(2 * radii[1] + 40, abs=1.0)


@pytest.mark.parametrize(("bore", "rpm", "hours"), [(30.0, 700.0, 8760.0), (25.0, 3450.0, 7116.0)])
def test_grease_is_due_as_the_formula_says(bore, rpm, hours):
    """Common practice, uncertain; recomputed by hand."""
    assert grease_hours(bore, rpm, "normal") == pytest.approx(hours, abs=1)
    assert grease_hours(bore, rpm, "dirty") == pytest.approx(hours / 2, abs=1)
    assert grease_g(insert_for(30.0)) == pytest.approx(0.005 * 62 * 38.1, rel=1e-6)


def test_drip_oil_grows_with_the_speed_of_a_chain():
    """4 to 20 drops a minute. Source: ANSI B29.1, from memory."""
    drops = [drops_a_minute(speed, 3.0) for speed in (0.0, 0.5, 1.5, 2.9, 3.0)]
    assert (drops[0], drops[-1]) == (4, 20)
    assert drops == sorted(drops)


def test_first_readings_are_the_bands_of_the_run_log():
    machine = next(one for one in demo_machines() if one.log.visits)
    plan = machine.plans[0]
    line = solve_plan(machine, plan).chosen
    first = first_readings(machine, plan, line)
    page = page_of(
        machine.model_copy(update={"log": machine.log.model_copy(update={"visits": machine.log.visits[:1]})}), 0, 0
    )
    speeds = [key for key in first if key[0] == "speed"]
    assert len(speeds) == len(line.shafts)
    for number, key in enumerate(speeds):
        assert first[key].low < line.shafts[number].speed_rpm < first[key].high
        assert first[key].middle == pytest.approx(page.bands[key].middle, rel=0.05)
