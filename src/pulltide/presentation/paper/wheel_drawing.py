"""The shop drawing of a wheel to make: what is turned in half section, what is cut from its face and its edge."""

from __future__ import annotations

from collections.abc import Iterator
from html import escape
from math import atan2

from markupsafe import Markup

from pulltide.core.hatch import hatch
from pulltide.core.made.wheel import MadeWheel, bore_outline
from pulltide.core.sketch import Point
from pulltide.quantities import Units
from pulltide.words import say, worded

#: Height of letters and room of a line of measures, as shares of the drawing.
LETTER_SHARE, ROOM_SHARE = 1 / 26, 1 / 9
#: Width of a letter over its height, and the least turn between two edges that shows as a line from outside [radians].
LETTER_WIDE, EDGE_TURN = 0.62, 0.35
#: A wheel with its edge beside it is drawn in letters for this share of both.
EDGE_SHARE = 0.8
#: What is as wide as its outside diameter within this share is round; an odd count of teeth is a little less wide.
ROUND_SHARE = 0.03
INK, MUTED, FILL, BRASS = "#17262b", "#566870", "#f3ecdd", "#a86c1d"


class Sheet:
    """Shapes of a drawing in millimeters, y up, with its letters' size."""

    def __init__(self, size_mm: float) -> None:
        self.letter = size_mm * LETTER_SHARE
        self.room = size_mm * ROOM_SHARE
        self.pen = size_mm / 320
        self.shapes: list[str] = []

    def path(self, points: tuple[Point, ...], *, closed: bool = True, fill: str = "none", stroke: str = INK) -> None:
        """A polyline."""
        way = "M" + "L".join(f"{x:.4f} {-y:.4f}" for x, y in points) + ("Z" if closed else "")
        self.shapes.append(f'<path d="{way}" fill="{fill}" stroke="{stroke}" stroke-width="{self.pen:.4f}"/>')

    def thin(self, lines: Iterator[tuple[Point, Point]], stroke: str = MUTED, dash: str = "") -> None:
        """Thin lines from point to point."""
        way = "".join(f"M{a[0]:.4f} {-a[1]:.4f}L{b[0]:.4f} {-b[1]:.4f}" for a, b in lines)
        dashed = f' stroke-dasharray="{dash}"' if dash else ""
        if way:
            self.shapes.append(
                f'<path d="{way}" fill="none" stroke="{stroke}" stroke-width="{self.pen * 0.6:.4f}"{dashed}/>'
            )

    def axis(self, a: Point, b: Point) -> None:
        """A center line."""
        unit = self.letter / 2
        self.thin(iter(((a, b),)), dash=f"{4 * unit:.3f} {unit:.3f} {unit:.3f} {unit:.3f}")

    def text(self, at: Point, words: str, *, turned: bool = False) -> None:
        """Words, on a ground that keeps lines off them."""
        x, y = at[0], -at[1]
        turn = f' transform="rotate(-90 {x:.3f} {y:.3f})"' if turned else ""
        wide, high = self.letter * (LETTER_WIDE * len(words) + 0.4), self.letter * 1.2
        self.shapes.append(
            f'<g{turn}><rect x="{x - wide / 2:.3f}" y="{y - high / 2:.3f}" width="{wide:.3f}" height="{high:.3f}" '
            f'fill="#fff"/><text x="{x:.3f}" y="{y + self.letter * 0.35:.3f}" font-size="{self.letter:.3f}" '
            f'text-anchor="middle" fill="{INK}" font-family="monospace">{escape(words)}</text></g>'
        )

    def measure(self, a: Point, b: Point, words: str) -> None:
        """A line between two points, level or upright, with ticks at its ends and its measure on it."""
        upright = a[0] == b[0]
        tick = self.letter / 2
        ends = [((p[0] - tick / 2, p[1] - tick / 2), (p[0] + tick / 2, p[1] + tick / 2)) for p in (a, b)]
        self.thin(iter(((a, b), *ends)), stroke=INK)
        self.text(((a[0] + b[0]) / 2, (a[1] + b[1]) / 2), words, turned=upright)


def drawing_of(wheel: MadeWheel, units: Units) -> Markup:
    """The drawing with its main measures, not to any scale."""
    sheet, box = (_turned if wheel.turned else _plate)(wheel, units)
    left, low, wide, high = box
    view = f"{left:.3f} {-(low + high):.3f} {wide:.3f} {high:.3f}"
    title = escape(worded(wheel.title))
    return Markup(  # made of numbers and escaped words
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="{view}" role="img" aria-label="{title}">'
        f'<rect x="{left:.3f}" y="{-(low + high):.3f}" width="{wide:.3f}" height="{high:.3f}" fill="#fff"/>'
        f"{''.join(sheet.shapes)}</svg>"
    )


Box = tuple[float, float, float, float]


def _size(value_mm: float, units: Units) -> str:
    return (
        f"{value_mm:.2f}".rstrip("0").rstrip(".")
        if units.unit_for("mm") == "mm"
        else say("{value:.3f} in", value=value_mm / 25.4)
    )


def _turned(wheel: MadeWheel, units: Units) -> tuple[Sheet, Box]:
    """Above the axis in section, below from outside."""
    section, outside, face = wheel.section, wheel.outside_mm, wheel.face_mm
    sheet = Sheet(max(outside, face))
    sheet.path(section, fill=FILL)
    sheet.thin(iter(hatch(section, sheet.letter)), stroke=BRASS)
    profile = section[1:-1]
    sheet.path(((0.0, 0.0), *((x, -y) for x, y in profile), (face, 0.0)), closed=False)
    sheet.thin(((x, 0.0), (x, -y)) for x, y in _corners(profile))
    if wheel.bore_mm is not None:
        low = -wheel.bore_mm / 2
        sheet.thin(iter((((0.0, low), (face, low)),)), dash=f"{sheet.letter / 2:.3f}")
    room = sheet.room
    sheet.axis((-room / 3, 0.0), (face + room / 3, 0.0))
    left, right = -room, face + room
    if not wheel.rims_mm:
        sheet.thin(iter(((left, y), (0.0, y)) for y in (outside / 2, -outside / 2)))
        sheet.measure((left, -outside / 2), (left, outside / 2), f"Ø {_size(outside, units)}")
    else:
        for middle, diameter in wheel.rims_mm:
            sheet.text((middle, outside / 2 + room / 2), f"Ø{_size(diameter, units)}")
    if wheel.bore_mm is not None:
        bore = wheel.bore_mm / 2
        sheet.thin(iter(((face, y), (right, y)) for y in (bore, -bore)))
        sheet.measure((right, -bore), (right, bore), f"Ø {_size(wheel.bore_mm, units)}")
    foot = -outside / 2 - room
    sheet.thin(iter(((x, foot), (x, -outside / 2)) for x in (0.0, face)))
    sheet.measure((0.0, foot), (face, foot), _size(face, units))
    return sheet, (left - room / 2, foot - room / 2, right - left + room, outside + 2.5 * room)


def _corners(profile: tuple[Point, ...]) -> Iterator[Point]:
    """Where the rim turns sharply enough to show from outside; the points of a crown do not."""
    for before, at, after in zip(profile, profile[1:], profile[2:], strict=False):
        turn = atan2(after[1] - at[1], after[0] - at[0]) - atan2(at[1] - before[1], at[0] - before[0])
        if abs(turn) > EDGE_TURN:
            yield at


def _plate(wheel: MadeWheel, units: Units) -> tuple[Sheet, Box]:
    """From the shaft's end, with the edge beside it."""
    xs, ys = zip(*wheel.outline, strict=True)
    low, high, left, right = min(ys), max(ys), min(xs), max(xs)
    size = max(right - left, high - low)
    sheet = Sheet(max(size, (size + 2 * wheel.face_mm) * EDGE_SHARE))
    sheet.path(wheel.outline, fill=FILL)
    bore = bore_outline(wheel)
    for hole in (*((bore,) if bore else ()), *wheel.holes):
        sheet.path(hole, fill="#fff")
    room = sheet.room
    if wheel.outside_mm:
        sheet.axis((left - room / 3, 0.0), (right + room / 3, 0.0))
        sheet.axis((0.0, low - room / 3), (0.0, high + room / 3))
    foot = low - room
    sheet.thin(iter(((x, foot), (x, 0.0 if wheel.outside_mm else low)) for x in (left, right)))
    is_round = wheel.outside_mm and abs(right - left - wheel.outside_mm) < ROUND_SHARE * wheel.outside_mm
    across = f"Ø {_size(wheel.outside_mm, units)}" if is_round else _size(right - left, units)
    sheet.measure((left, foot), (right, foot), across)
    if wheel.bore_mm is not None:
        sheet.text((0.0, -wheel.bore_mm / 2 - sheet.letter), f"Ø {_size(wheel.bore_mm, units)}")
    edge = right + 1.4 * room
    far = _edge(sheet, wheel, (edge, low, high), units)
    return sheet, (left - room / 2, foot - room / 2, far - left + room, high - foot + 1.6 * room)


def _edge(sheet: Sheet, wheel: MadeWheel, where: tuple[float, float, float], units: Units) -> float:
    """The wheel from its edge, flanges and printed hub with it; gives how far it reaches."""
    at, low, high = where
    thick = wheel.face_mm
    flange = wheel.flange_mm
    start = at + (flange[1] if flange else 0.0)
    sheet.path(((start, low), (start + thick, low), (start + thick, high), (start, high)), fill=FILL)
    end = start + thick
    if flange:
        half = flange[0] / 2
        for x in (at, end):
            sheet.path(((x, -half), (x + flange[1], -half), (x + flange[1], half), (x, half)), fill=FILL)
        end += flange[1]
    top = max(high, flange[0] / 2 if flange else 0.0) + sheet.room / 2
    sheet.measure((start, top), (start + thick, top), _size(thick, units))
    if wheel.boss_mm:
        half, long = wheel.boss_mm[0] / 2, wheel.boss_mm[1]
        sheet.thin(
            iter(
                (
                    ((end, half), (end + long, half)),
                    ((end + long, half), (end + long, -half)),
                    ((end + long, -half), (end, -half)),
                )
            ),
            dash=f"{sheet.letter / 2:.3f}",
        )
        end += long
    return end + sheet.room / 2
