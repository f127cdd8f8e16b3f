"""What a builder knows better than a table is counted as entered, and what nobody knows stays unknown."""

from __future__ import annotations

from typing import Any

import pytest
from pydantic import TypeAdapter

from builders import build_belt, build_machine
from pulltide.core.line import solve_plan
from pulltide.core.links import family_of
from pulltide.core.needs import AnyWorksheet
from pulltide.core.needs.assess import Requirement, assess
from pulltide.core.needs.contract import Worksheet
from pulltide.core.shafts import usual_key_mm
from pulltide.core.sources.tables import full_load_amps
from pulltide.core.transmission import LinkResult
from worksheets import WORKSHEETS

SHEETS: TypeAdapter[Worksheet] = TypeAdapter(AnyWorksheet)


def answer(kind: str, **changes: Any) -> Requirement:
    return assess(SHEETS.validate_python({"kind": kind, **WORKSHEETS[kind], **changes}))


def solved(link: dict[str, Any], **changes: Any) -> LinkResult:
    machine = build_machine(links=[link], need={"running_torque_nm": 4.0, "peak_torque_nm": 6.0}, **changes)
    return solve_plan(machine, machine.plans[0]).chosen.links[0]


def test_a_drum_on_rollers_of_ones_own():
    """3341 N on the rollers, tread 465, roller 75, pin 10 mm: N ((f + μ r_b) R/r + f), by moments about the axle."""
    asked = answer("drum", rolling_arm_mm=4.0, roller_friction=0.006)
    rolls = 3341 * ((0.004 + 0.006 * 0.010) * 465 / 75 + 0.004)
    assert asked.running_nm[1] - 339.0 == pytest.approx(rolls, rel=5e-3)
    assert answer("drum", rolling_arm_mm=2.0).running_nm[1] < asked.running_nm[1]


def test_a_full_drum_turns_free_of_its_fill():
    """The center of a full drum's fill lies on the axis: nothing is lifted. Geometry."""
    full, half = answer("drum", fill=1.0), answer("drum", fill=0.5)
    assert full.running_nm[1] < 0.3 * half.running_nm[1]


@pytest.mark.parametrize("kind", ["lathe", "mill", "drill"])
def test_a_cutting_force_of_ones_own(kind: str):
    """Power follows the specific force: twice the force, twice the torque, less what turns without a cut."""
    once, twice = (answer(kind, cutting_force_mpa=value).running_nm[1] for value in (1500, 3000))
    assert once is not None
    assert twice == pytest.approx(2 * once, rel=1e-6)
    assert answer(kind, cutting_force_mpa=1500).running_nm[1] != answer(kind).running_nm[1]


def test_the_laminar_law_holds_below_ten_and_blends_above():
    """N_p = K_L/Re below Re 10, all of K_T from 300. McCabe, Smith and Harriott, section 9, from memory."""

    def number(reynolds: float) -> float:
        viscosity = 1000 * (300 / 60) * 0.15**2 / reynolds
        asked = answer(
            "agitator", impeller="four_pitched_blades", power_number=None, viscosity_pa_s=viscosity, speed_ideal_rpm=300
        )
        (value,) = (s.value for w in asked.workings.values() for s in w.steps if s.name.startswith("Power number"))
        return value

    assert number(5.0) == pytest.approx(44.5 / 5.0, rel=1e-6)
    assert 44.5 / 55 < number(55.0) < 44.5 / 55 + 1.27
    assert number(100_000.0) == pytest.approx(1.27, rel=0.01)


def test_a_laminar_constant_nobody_has_leaves_the_torque_unknown():
    thick = {"impeller": "six_pitched_blades", "power_number": None, "viscosity_pa_s": 50.0}
    asked = answer("agitator", **thick)
    assert asked.running_nm[1] is None
    assert "need.agitator.laminar_unknown" in {finding.code for finding in asked.findings}
    known = answer("agitator", **thick, laminar_constant=50.0)
    assert known.running_nm[1] is not None
    assert "need.agitator.laminar_unknown" not in {finding.code for finding in known.findings}


CHAIN = {"kind": "roller_chain", "chain": "40", "driver_teeth": 17, "driven_teeth": 34, "pitches": 80}
GEARS = {"kind": "gear_pair", "driver_teeth": 20, "driven_teeth": 60, "module_mm": 2.0, "face_width_mm": 20.0}


@pytest.mark.parametrize("link", [build_belt(), CHAIN, GEARS], ids=lambda link: str(link["kind"]))
def test_an_efficiency_of_ones_own(link: dict[str, Any]):
    own = solved({**link, "own_efficiency": 0.80})
    power_kw = own.flow.driver_torque_nm * own.flow.driver_speed_rpm / 9549.3
    assert own.loss_kw == pytest.approx(0.20 * power_kw, rel=2e-3)
    assert solved(link).loss_kw < own.loss_kw


def test_what_an_own_plate_is_rated_at_is_said_not_guessed():
    """Above the speed of its plate less torque is counted, and said; with no speed given nothing is taken off."""
    plate = {"type": "worm", "ratio": 15, "rated_torque_nm": 90.0}

    def unit(**own: Any) -> tuple[LinkResult, float]:
        link = solved({"kind": "reducer", "designation": "own", "own": {**plate, **own}})
        return link, next(limit.allowed for limit in link.limits if limit.code == "reducer.torque")

    _silent, as_it_stands = unit()
    assert as_it_stands == pytest.approx(90.0)
    slow, less = unit(rated_input_rpm=900)
    assert less == pytest.approx(90.0 * (900 / slow.flow.driver_speed_rpm) ** 0.5)
    assert less < 90.0
    assert unit(rated_input_rpm=1800)[1] == pytest.approx(90.0)


def test_a_center_that_was_replaced_is_not_called_entered():
    link = solved({**build_belt(belt=None), "center_distance_mm": 100.0})
    workings = family_of(link.kind).workings(link)
    told = " ".join(step.name for make in workings.values() for step in make().steps)
    assert "as entered" not in told
    assert "just clear" in told


@pytest.mark.parametrize(
    ("shaft_mm", "key_mm"), [(25.4, 6.35), (25.0, 8.0), (22.225, 4.7625), (30.0, 8.0), (38.1, 9.525)]
)
def test_keys_follow_the_shaft(shaft_mm: float, key_mm: float):
    """ANSI B17.1 Table 1 (1 in: 1/4; 7/8: 3/16; 1 1/2: 3/8) and ISO 773 (25 and 30 mm: 8), from memory."""
    found = usual_key_mm(shaft_mm)
    assert found is not None
    assert found[0] == pytest.approx(key_mm)


def test_currents_by_the_nearest_column():
    """NEC Table 430.250, from memory: 5 hp draws 15.2 A at 230 V; 240 V reads that column, 300 V none."""
    at_230, at_240 = full_load_amps(3.7285, 230, 3), full_load_amps(3.7285, 240, 3)
    assert at_230 == at_240 == pytest.approx(15.2)
    assert full_load_amps(3.7285, 300, 3) is None
