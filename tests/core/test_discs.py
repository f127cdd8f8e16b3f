"""Loose parts: cams against what rolls on them, hole circles and slots against their sizes."""

from __future__ import annotations

from itertools import pairwise
from math import cos, dist, hypot, radians, sin

import pytest
from pydantic import ValidationError
from shapely.geometry import Point, Polygon

from pulltide.core.hatch import hatch
from pulltide.core.made.discs import LOOSE, Cam, CrankDisc, HoleCircle, MotorBase, cam_figures, loose_part


def measures(disc) -> dict[str, float]:
    return {measure.name: measure.value for measure in loose_part(disc).measures}


def plate(wheel) -> Polygon:
    made = Polygon(wheel.outline, wheel.holes)
    assert made.is_valid
    assert made.exterior.is_ccw
    return made


@pytest.mark.parametrize("kind", LOOSE)
def test_every_kind_begins_as_a_part_that_can_be_made(kind):
    wheel = loose_part(LOOSE[kind].model())
    assert plate(wheel).area > 0
    assert wheel.measures
    assert wheel.order


@pytest.mark.parametrize("holes", [2, 3, 5, 6, 12])
def test_holes_stand_evenly_and_a_chord_apart(holes):
    disc = HoleCircle(holes=holes, circle_mm=120.0, hole_mm=8.0, start_deg=30.0)
    middles = [Polygon(hole).centroid for hole in loose_part(disc).holes]
    assert len(middles) == holes
    for middle in middles:
        assert hypot(middle.x, middle.y) == pytest.approx(60.0, abs=1e-6)
    around = [*middles, middles[0]]
    for a, b in pairwise(around):
        assert a.distance(b) == pytest.approx(measures(disc)["Hole to hole, straight across"], abs=1e-6)
    assert measures(disc)["Hole 1"] == pytest.approx(60 * cos(radians(30)))


def test_a_cam_has_the_pressure_angle_that_is_published():
    """Cycloidal, lift 20 over 90°, base 40: 27.37° at 41.3°, least convex radius 31.6 mm. Recomputed separately."""
    found = cam_figures(Cam())
    assert found.pressure_deg == pytest.approx(27.37, abs=0.01)
    assert found.at_deg == pytest.approx(41.3, abs=0.3)
    assert found.min_radius_mm == pytest.approx(31.6, abs=0.1)


@pytest.mark.parametrize("motion", ["cycloidal", "harmonic"])
def test_a_roller_on_the_cam_stands_where_the_motion_has_it(motion):
    """At every angle the roller touches the outline: its middle is a radius off, never nearer."""
    cam = Cam(motion=motion, rise_deg=100.0, hold_deg=40.0, fall_deg=120.0)
    outline = plate(loose_part(cam))
    told = measures(cam)
    for angle in range(0, 360, 15):
        radius = told[f"Middle of the roller at {angle}°"]
        middle = Point(radius * cos(radians(angle)), radius * sin(radians(angle)))
        assert outline.distance(middle) == pytest.approx(cam.roller_mm / 2, abs=0.01)
    assert told["Middle of the roller at 0°"] == cam.base_mm
    assert told["Middle of the roller at 120°"] == pytest.approx(cam.base_mm + cam.lift_mm)


def test_a_steep_cam_says_so():
    notes = [measure.note for measure in loose_part(Cam(lift_mm=40.0, rise_deg=60.0)).measures]
    assert any("the roller jams" in note for note in notes)


def test_the_slots_of_a_base_are_as_long_as_the_motor_slides():
    wheel = loose_part(MotorBase(across_mm=140.0, along_mm=100.0, bolt_mm=10.0, slide_mm=60.0))
    slots = [Polygon(hole).bounds for hole in wheel.holes[:4]]
    for left, low, right, high in slots:
        assert right - left == pytest.approx(70.0, abs=0.01)
        assert high - low == pytest.approx(10.0, abs=0.01)
    middles = sorted({(round((a + c) / 2, 3), round((b + d) / 2, 3)) for a, b, c, d in slots})
    assert dist(middles[0], middles[1]) == pytest.approx(100.0)
    assert dist(middles[0], middles[2]) == pytest.approx(140.0)
    assert len(wheel.holes) == 8


@pytest.mark.parametrize(
    ("kind", "raw", "words"),
    [
        (HoleCircle, {"circle_mm": 155.0}, "break out of the rim"),
        (HoleCircle, {"circle_mm": 35.0}, "run into the bore"),
        (HoleCircle, {"holes": 40}, "run into each other"),
        (CrankDisc, {"stroke_mm": 400.0}, "breaks out of the rim"),
        (CrankDisc, {"stroke_mm": 20.0}, "runs into the bore"),
        (Cam, {"rise_deg": 200.0, "fall_deg": 200.0}, "more than a turn"),
        (Cam, {"bore_mm": 70.0}, "leaves no metal"),
    ],
)
def test_a_part_that_cannot_be_is_refused_with_what_to_do(kind, raw, words):
    with pytest.raises(ValidationError, match=words):
        kind(**raw)


def test_hatching_stays_inside_and_covers_evenly():
    ring = Polygon([(0, 0), (10, 0), (10, 10), (6, 10), (6, 4), (4, 4), (4, 10), (0, 10)])
    lines = hatch(tuple(ring.exterior.coords)[:-1], 0.5)
    length = sum(dist(a, b) for a, b in lines)
    assert all(ring.buffer(1e-9).contains(Point((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)) for a, b in lines)
    assert length * 0.5 == pytest.approx(ring.area, rel=0.05)
