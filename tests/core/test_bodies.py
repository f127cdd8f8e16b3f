"""Motors drawn by their frames, on their feet and on a stand where that is higher than the feet."""

from __future__ import annotations

import pytest

from core.test_surroundings import with_room
from pulltide.core.bodies import motor_body
from pulltide.core.elevation import elevation
from pulltide.core.layout import place
from pulltide.core.line import solve_plan
from pulltide.core.plan_view import plan_view
from pulltide.core.sketch import Circle, Line
from pulltide.demo import demo_machines


@pytest.mark.parametrize(
    ("frame", "axis_mm", "across_mm", "along_mm", "shaft_mm"),
    [("56", 88.9, 123.8, 76.2, 15.9), ("145T", 88.9, 139.7, 127.0, 22.2), ("90S", 90, 140, 100, 24),
     ("100L", 100, 160, 140, 28)],
)  # fmt: skip
def test_feet_and_shafts_are_those_of_the_standards(frame, axis_mm, across_mm, along_mm, shaft_mm):
    """NEMA MG 1 part 4 and IEC 60072-1, from memory."""
    body = motor_body(frame)
    found = (body.axis_height_mm, body.foot_across_mm, body.foot_along_mm, body.shaft_mm)
    assert found == (axis_mm, across_mm, along_mm, shaft_mm)
    assert body.axis_height_mm * 1.7 < body.body_mm < body.axis_height_mm * 2.05
    assert body.long_mm > body.foot_along_mm


def test_a_frame_that_nobody_lists_is_drawn_by_its_power():
    assert motor_body("999X") is None
    assert motor_body(None) is None


def shapes(machine, role: str) -> list:
    plan = machine.plans[0]
    drawing = elevation(plan, solve_plan(machine, plan).chosen)
    return [shape for shape in drawing.shapes if isinstance(shape, Line | Circle) and shape.role == role]


def test_a_motor_stands_on_its_feet_and_its_feet_on_a_stand():
    trommel = next(machine for machine in demo_machines() if "trommel" in machine.name)
    plan = trommel.plans[0]
    placed = place(plan, solve_plan(trommel, plan).chosen)
    assert placed.body is not None
    (circle,) = (shape for shape in shapes(trommel, "motor") if isinstance(shape, Circle))
    assert circle.radius == placed.body.body_mm / 2
    (foot,) = (shape for shape in shapes(trommel, "motor") if isinstance(shape, Line))
    xs, ys = zip(*foot.points, strict=True)
    assert max(xs) - min(xs) == placed.body.feet_wide_mm
    assert min(ys) == -placed.body.axis_height_mm
    (stand,) = shapes(trommel, "stand")
    assert min(y for _, y in stand.points) == placed.floor_mm


def test_the_floor_is_where_the_motor_s_height_puts_it():
    machine = with_room(motor_height_mm=700)
    (stand,) = shapes(machine, "stand")
    assert min(y for _, y in stand.points) == -700


def test_the_wheel_of_a_motor_stands_at_the_end_of_its_shaft():
    trommel = next(machine for machine in demo_machines() if "trommel" in machine.name)
    plan = trommel.plans[0]
    line = solve_plan(trommel, plan).chosen
    drawing, placed = plan_view(plan, line)
    body, face = placed.body, placed.stands[0].face_mm
    (box,) = (shape for shape in drawing.shapes if isinstance(shape, Line) and shape.part == "motor")
    near, far = min(y for _, y in box.points), max(y for _, y in box.points)
    assert near == pytest.approx(max(face / 2, body.shaft_long_mm - face / 2))
    assert far - near == pytest.approx(body.long_mm)
