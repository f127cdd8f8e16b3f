"""Placement of shafts and the elevation as a drawing, beside shapely and plain geometry."""

from __future__ import annotations

from cmath import exp, phase
from itertools import pairwise
from math import hypot, pi

import pytest
from shapely.geometry import LineString, Point

from builders import INCH, build_belt, build_machine
from pulltide.core.elevation import elevation
from pulltide.core.layout import BESIDE_GAP_MM, FLOOR_GAP_MM, Placed, place
from pulltide.core.line import solve_plan
from pulltide.core.machine import Machine
from pulltide.core.sketch import Axle, Bow, Circle, Dimension, Loop, Sketch, Straight, Turning


def solved(machine: Machine, *, unfolded: bool = False) -> tuple[Placed, Sketch]:
    plan = machine.plans[0]
    line = solve_plan(machine, plan).chosen
    return place(plan, line, unfolded=unfolded), elevation(plan, line, unfolded=unfolded)


def of(drawing: Sketch, kind: type, role: str = "") -> list:
    return [
        shape for shape in drawing.shapes if isinstance(shape, kind) and getattr(shape, "role", "").startswith(role)
    ]


def test_shafts_stand_at_the_center_distances_of_their_links():
    machine = build_machine(links=[build_belt(angle_deg=30), build_belt(belt="A60", angle_deg=-45)])
    line = solve_plan(machine, machine.plans[0]).chosen
    placed, drawing = solved(machine)
    for (first, second), link in zip(pairwise(placed.centers), line.links, strict=True):
        assert hypot(second[0] - first[0], second[1] - first[1]) == pytest.approx(link.center_distance_mm)
    assert [axle.at for axle in of(drawing, Axle)] == list(placed.centers)
    assert [dim.value for dim in of(drawing, Dimension)] == [link.center_distance_mm for link in line.links]
    assert placed.centers[1][1] == pytest.approx(line.links[0].center_distance_mm / 2), "30 degrees above level"


def test_everything_stands_inside_the_extent_and_above_the_floor():
    placed, drawing = solved(build_machine(links=[build_belt(angle_deg=80), build_belt(angle_deg=-60)]))
    left, floor, right, high = placed.extent
    for wheel in of(drawing, Circle):
        assert left <= wheel.at[0] - wheel.radius
        assert wheel.at[0] + wheel.radius <= right
        assert wheel.at[1] + wheel.radius <= high
        assert floor + FLOOR_GAP_MM <= wheel.at[1] - wheel.radius + 1e-9


def traced(loop: Loop) -> LineString:
    """The outline as straight pieces, arcs cut fine: written apart from the program's painter."""
    points, here = [loop.start], loop.start
    for step in loop.steps:
        if isinstance(step, Bow):
            points += arc(here, step)
        points.append(step.to)
        here = step.to
    return LineString(points)


def arc(start: tuple[float, float], bow: Bow) -> list[tuple[float, float]]:
    """Center from the chord: on its left for a small counter-clockwise arc."""
    a, b, r = complex(*start), complex(*bow.to), bow.radius
    half = (b - a) / 2
    height = max(r * r - abs(half) ** 2, 0.0) ** 0.5
    side = 1j if bow.large == bow.clockwise else -1j
    middle = a + half + side * half / abs(half) * height

    first, last = phase(a - middle), phase(b - middle)
    turn = (first - last) % (2 * pi) if bow.clockwise else -((last - first) % (2 * pi))
    steps = [middle + r * exp(1j * (first - turn * k / 60)) for k in range(1, 60)]
    return [(point.real, point.imag) for point in steps]


@pytest.mark.parametrize(
    "changes",
    [
        {},
        {"angle_deg": 70},
        {"belt": "A75", "idler": "slack_strand_outside", "idler_diameter_mm": 130.0, "idler_push_mm": 40.0},
        {"belt": "A75", "idler": "slack_strand_inside", "idler_diameter_mm": 90.0, "idler_push_mm": 15.0},
    ],
    ids=["open", "steep", "idler outside", "idler inside"],
)
def test_a_belt_drawn_is_as_long_as_the_belt_and_lies_on_its_wheels(changes: dict):
    """Belts are drawn on the outside of V-pulleys, a little longer than the pitch line."""
    machine = build_machine(links=[build_belt(**changes)])
    link = machine.plans[0].links[0]
    _, drawing = solved(machine)
    (loop,) = of(drawing, Loop, "loop")
    path = traced(loop)
    assert path.is_ring or path.is_closed
    wheels = of(drawing, Circle, "wheel")
    for wheel in wheels:
        assert path.distance(Point(wheel.at)) == pytest.approx(wheel.radius, abs=5.5), (
            "within a belt's depth of the rim"
        )
    nominal = int(link.belt.removeprefix("A")) * INCH
    assert path.length == pytest.approx(nominal + 1.3 * INCH, rel=0.02)


def test_a_coupling_has_room_beside_the_wheels_of_its_neighbors():
    coupling = {"kind": "coupling", "designation": "CJ-65"}
    placed, drawing = solved(
        build_machine(links=[build_belt(belt="A75"), coupling, build_belt(belt="A75")]), unfolded=True
    )
    apart = placed.centers[2][0] - placed.centers[1][0]
    assert apart >= placed.pictures[0].driven_radius_mm + placed.pictures[2].driver_radius_mm + BESIDE_GAP_MM - 1e-9
    assert placed.centers[1][1] == placed.centers[2][1]
    assert len(of(drawing, Turning)) == 4


def test_every_shape_of_a_link_names_its_part():
    _, drawing = solved(build_machine(), unfolded=True)
    parts = {shape.part for shape in drawing.shapes if hasattr(shape, "part") and shape.part}
    assert parts == {"motor", "link-1", "link-2", "link-3"}
    (case,) = of(drawing, Loop, "case")
    assert sum(isinstance(step, Straight) for step in case.steps) == 4
    xs = [step.to[0] for step in case.steps]
    ys = [step.to[1] for step in case.steps]
    assert max(xs) - min(xs) > max(ys) - min(ys) > 0
