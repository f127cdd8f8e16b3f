"""Small drawings as pictures: to scale, on their paper, dimensions with their names and values."""

from __future__ import annotations

import re
from itertools import combinations
from math import hypot

import pytest

from pulltide.core.needs import NEED_KINDS
from pulltide.core.sketch import Sketch, arc, turned
from pulltide.presentation.painting import HEIGHT, MARGIN, WIDTH, Picture, picture
from pulltide.quantities import Units

METRIC, INCHES = Units(), Units(length="in", force="lbf")


def drawn(sketch: Sketch, units: Units = METRIC) -> Picture:
    return picture(sketch, units)


def numbers(path: str) -> list[float]:
    return [float(text) for text in re.findall(r"-?\d+\.?\d*", path)]


def plate() -> Sketch:
    """A plate of 200 x 100 mm with a hole of 20 mm radius, its width measured below, a load pressing down on it."""
    made = Sketch("A plate")
    made.box(0, 0, 200, 100)
    made.circle((50, 50), 20)
    made.measure((0, 0), (200, 0), "w", 200.0, off=-0.1)
    made.measure((200, 0), (200, 100), "h", None, off=-0.1)
    made.arrow((100, 160), (100, 100), "load", 500.0)
    made.turn((50, 50), 20, clockwise=False)
    made.text((150, 50), "plate")
    return made


def test_a_drawing_is_to_scale_and_upright():
    made = drawn(plate())
    outline = next(mark for mark in made.marks if mark.role == "part" and mark.d.endswith("Z") and "L" in mark.d)
    corners = outline.corners
    width = hypot(corners[1][0] - corners[0][0], corners[1][1] - corners[0][1])
    height = hypot(corners[2][0] - corners[1][0], corners[2][1] - corners[1][1])
    assert width / height == pytest.approx(2.0)
    hole = next(mark for mark in made.marks if mark.role == "part" and "a" in mark.d)
    (left, top), (right, bottom) = hole.corners
    assert (right - left) / width == pytest.approx(40 / 200)
    assert (bottom - top) == pytest.approx(right - left)
    assert (left + right) / 2 - corners[0][0] == pytest.approx(width / 4)
    assert corners[2][1] < corners[1][1], "y points up on the part, down on the paper"


def test_a_drawing_fills_its_paper_but_keeps_its_margin():
    made = drawn(plate())
    xs = [x for mark in made.marks for x, _ in mark.corners]
    ys = [y for mark in made.marks for _, y in mark.corners]
    assert min(xs) >= 0
    assert max(xs) <= made.width
    assert min(ys) >= 0
    assert max(ys) <= made.height
    assert made.width <= WIDTH + 1
    assert made.height <= HEIGHT + 1
    assert (max(xs) - min(xs)) > 0.5 * (WIDTH - 2 * MARGIN) or (max(ys) - min(ys)) > 0.5 * (HEIGHT - 2 * MARGIN)


def test_words_do_not_leave_the_paper_nor_cover_each_other():
    made = drawn(plate())
    for word in made.words:
        left, top, right, bottom = word.box
        assert -0.5 <= left < right <= made.width + 0.5
        assert -0.5 <= top < bottom <= made.height + 0.5
    texts = {word.text for word in made.words}
    for first, second in combinations(made.words, 2):
        (a, b, c, d), (e, f, g, h) = first.box, second.box
        assert c <= e or g <= a or d <= f or h <= b, (first.text, second.text)
    assert {"w 200 mm", "h", "load 500 N", "plate"} <= texts, "an unknown measure shows its name alone"


def test_words_follow_a_persons_units():
    texts = {word.text for word in drawn(plate(), INCHES).words}
    assert "w 7.874 in" in texts
    assert "load 112 lb" in texts


def test_a_dimension_stands_off_with_ticks_and_reach_lines():
    made = drawn(plate())
    measures = [mark for mark in made.marks if mark.role == "measure"]
    assert len(measures) == 2
    (_, y1), (_, y2) = measures[0].corners
    assert y1 == pytest.approx(y2), "a level measure stays level"
    assert [mark.role for mark in made.marks].count("reach") == 4
    assert measures[0].d.count("M") == 3, "the line and a tick at both ends"
    ticks = numbers(measures[0].d)[4:]
    assert ticks[0] == pytest.approx(ticks[2], abs=0.11), "ticks are square to the line"
    assert abs(ticks[1] - ticks[3]) == pytest.approx(8, abs=0.21)
    outline = next(mark for mark in made.marks if mark.role == "part" and "L" in mark.d)
    assert y1 > max(y for _, y in outline.corners), "set off below"


def test_a_turning_arrow_points_the_way_it_turns():
    def sweep(clockwise: bool) -> str:
        made = Sketch("A wheel")
        made.circle((0, 0), 100)
        made.turn((0, 0), 60, clockwise)
        mark = next(mark for mark in drawn(made).marks if mark.role == "turn")
        return re.search(r"A[\d.]+ [\d.]+ 0 0 ([01])", mark.d).group(1)

    assert sweep(clockwise=True) == "1"
    assert sweep(clockwise=False) == "0"


def test_arcs_and_turned_points():
    points = arc((10, 0), 5, 0, 3.14159265)
    assert points[0] == pytest.approx((15, 0))
    assert points[-1] == pytest.approx((5, 0), abs=1e-6)
    assert all(hypot(x - 10, y) == pytest.approx(5) for x, y in points)
    assert turned([(1, 0)], 3.14159265 / 2)[0] == pytest.approx((0, 1), abs=1e-6)
    assert turned([(2, 1)], 3.14159265, about=(1, 1))[0] == pytest.approx((0, 1), abs=1e-6)


@pytest.mark.parametrize("kind", NEED_KINDS, ids=lambda kind: kind.kind)
def test_every_worksheet_draws_even_before_anything_is_entered(kind):
    """A blank sheet has a caption, shapes and the names of what is still to be entered, all on the paper."""
    made = drawn(kind.sketch(kind.model()))
    assert made.caption
    assert made.marks
    for mark in made.marks:
        assert all(-1 <= x <= made.width + 1 and -1 <= y <= made.height + 1 for x, y in mark.corners), mark.role
    assert not any("None" in word.text or "nan" in word.text for word in made.words)
