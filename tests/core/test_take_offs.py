"""A take-off on any shaft: its torque goes through the links before it and no further."""

from __future__ import annotations

from typing import Any

import pytest
from pydantic import ValidationError

from builders import build_machine
from pulltide.core.line import ladder_of, solve_line
from pulltide.core.line_working import working
from pulltide.core.machine import Machine
from pulltide.core.shafts import ShaftPart
from pulltide.core.sources import drive_of

CHAIN = {"kind": "roller_chain", "chain": "50", "driver_teeth": 17, "driven_teeth": 51, "pitches": 100}
GEARS = {"kind": "gear_pair", "driver_teeth": 20, "driven_teeth": 80, "module_mm": 2.5, "face_width_mm": 25.0}
LINKS: list[dict[str, Any]] = [GEARS | {"own_efficiency": 0.95}, CHAIN | {"own_efficiency": 0.97}]
FAN = "speed_squared"


def machine(*shafts: dict[str, Any], **need: Any) -> Machine:
    band = {"speed_min_rpm": 100.0, "speed_ideal_rpm": 146.0, "speed_max_rpm": 160.0}
    torques = {"running_torque_nm": 60.0, "peak_torque_nm": 90.0, "breakaway_torque_nm": 72.0}
    made = build_machine(links=LINKS, need=band | torques | need, motor={"power_kw": 2.2})
    plan = made.plans[0].model_copy(update={"shafts": tuple(map(ShaftPart.model_validate, shafts))})
    return made.model_copy(update={"plans": (plan,)})


def line_of(made: Machine):
    return solve_line(made, made.plans[0])


def test_torques_by_hand_with_a_take_off_between():
    """60/3/0.97 is 20.62 N·m into the chain; with 10 N·m taken off, 30.62/4/0.95 is 8.06 at the motor."""
    line = line_of(machine({"shaft": 2, "take_off_nm": 10.0}))
    chain = 60 / 3 / 0.97
    assert line.links[1].flow.driver_torque_nm == pytest.approx(chain, rel=1e-4)
    assert line.links[0].flow.driven_torque_nm == pytest.approx(chain + 10, rel=1e-4)
    shafts = [shaft.running_torque_nm for shaft in line.shafts]
    assert shafts == pytest.approx([(chain + 10) / 4 / 0.95, chain + 10, 60.0], rel=1e-4)
    # of the peak only the need's own share rises
    peaks = [shaft.peak_torque_nm for shaft in line.shafts]
    assert peaks == pytest.approx([(1.5 * chain + 10) / 4 / 0.95, 1.5 * chain + 10, 90.0], rel=1e-3)
    out = line.shafts[2].power_kw + 10 * line.shafts[1].speed_rpm / 9549.3
    assert line.efficiency == pytest.approx(out / line.shafts[0].power_kw, rel=1e-4)


@pytest.mark.parametrize("shaft", [1, 2, 3])
def test_the_working_ends_at_what_the_shaft_shows(shaft: int):
    made = machine({"shaft": shaft, "take_off_nm": 3.0})
    line, motor = line_of(made), drive_of(made.plans[0].source)
    for number in (1, 2, 3):
        told = working(made, motor, line, f"shaft-{number}/torque")
        assert told.value == pytest.approx(line.shafts[number - 1].running_torque_nm, rel=1e-6)
    assert working(made, motor, line, "line/efficiency").value == pytest.approx(line.efficiency)


def test_a_fan_draws_by_the_square_of_the_speed():
    line = line_of(machine({"shaft": 2, "take_off_nm": 10.0, "take_off_rpm": 880.0, "take_off_law": FAN}))
    speed = line.shafts[1].speed_rpm
    assert line.taken_nm[1] == pytest.approx(10 * (speed / 880) ** 2, rel=1e-6)
    assert "shaft.take_off_speed" in {f.code for f in line.findings if f.severity.name == "WARNING"}
    with pytest.raises(ValidationError, match="needs the speed"):
        ShaftPart(shaft=2, take_off_nm=10.0, take_off_law=FAN)


def test_what_gives_first_leaves_the_take_off_out_of_the_links_behind_it():
    """A chain behind a take-off tires at the same torque of its own: its rung stays at the same load of the machine."""
    rungs = {}
    for shafts in ((), ({"shaft": 2, "take_off_nm": 15.0},)):
        made = machine(*shafts)
        found = ladder_of(made, made.plans[0], line_of(made))
        for rung in found.known:
            rungs.setdefault((rung.subject, rung.point.name), []).append(rung.times)
    chain = [times for (subject, _), times in rungs.items() if subject == "link-2"]
    gears = [times for (subject, _), times in rungs.items() if subject == "link-1"]
    assert chain
    assert gears
    assert all(taken == pytest.approx(plain, rel=0.01) for plain, taken in chain)
    assert all(taken < plain for plain, taken in gears)


def test_breakaway_and_high_end_scale_the_need_alone():
    made = machine({"shaft": 1, "take_off_nm": 3.0})
    line = line_of(made)
    need = 60 / 12 / 0.97 / 0.95
    assert line.taken_share == pytest.approx(3 / (3 + need), rel=1e-3)
    assert line.at_source_nm(72 / 60) == pytest.approx(3 + 1.2 * need, rel=1e-3)
    end = line_of(machine({"shaft": 3, "take_off_nm": 6.0}))
    assert end.need_torques_nm == pytest.approx((60.0, 90.0))
