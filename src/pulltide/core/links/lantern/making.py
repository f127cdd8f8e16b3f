"""Lantern wheels to cut, and the discs that hold the pins of their pinion."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from math import atan2, cos, hypot, pi, sin

from pulltide.core.findings import Source
from pulltide.core.links.lantern.inputs import Lantern
from pulltide.core.made.wheel import MadeWheel, Measure, Side, arc, circle, round_the_wheel, turned_by
from pulltide.core.sketch import Point

ENVELOPE = Source("the pins rolled with the wheel: a parallel to an epicycloid", "exact", "formula")
#: Side play between pin and gap, and what is left flat at the tip of a tooth, over the pitch. Common practice.
PLAY_SHARE, LAND_SHARE = 0.02, 0.05
#: A rim under the gaps, over the pitch; room outside the pins on their discs, over a pin. Common practice, no source.
RIM_SHARE, EDGE_SHARE = 0.8, 1.0
#: Steps of the pinion's turn that a flank is followed in.
STEPS = 400
#: Pieces that a flank is drawn in.
POINTS = 32


@dataclass(frozen=True, slots=True)
class Flank:
    """One flank of a wheel, its gap on the x axis: from the gap outward, and the turn of the pinion at both ends."""

    points: tuple[Point, ...]
    start: float
    end: float

    @property
    def tip(self) -> float:
        """Radius that it ends at."""
        return hypot(*self.points[-1])

    def contact_ratio(self, pins: int) -> float:
        """Pins in contact on average: the turn from first to last contact over a pitch."""
        return (self.end - self.start) * pins / (2 * pi)


def flank(pins: int, teeth: int, pitch: float, pin_radius: float, land: float) -> Flank:
    """The flank that a pin of a radius runs on, up to a land at the tip; any unit of length.

    For a turn β of the pinion the pin stands at Q = (C - r_1 cos β, r_1 sin β) and touches where it is nearest to the
    pitch point; the wheel has turned by β r_1 / r_2. Source: exact.

    >>> found = flank(8, 48, 1.0, 0.225, 0.0)
    >>> round(found.contact_ratio(8), 2), round(found.tip - 48 / 2 / pi, 3)
    (1.18, 0.593)
    """
    r1, r2 = pitch * pins / 2 / pi, pitch * teeth / 2 / pi

    def at(beta: float) -> Point:
        x, y = r1 + r2 - r1 * cos(beta), r1 * sin(beta)
        apart = hypot(r2 - x, y)
        share = pin_radius / apart
        return turned_by(((x + (r2 - x) * share, y - y * share),), -beta * r1 / r2)[0]

    def left(beta: float) -> float:
        """Half the tooth at a point, less half the land."""
        x, y = at(beta)
        return (atan2(y, x) + pi / teeth) * hypot(x, y) - land / 2

    def out(beta: float) -> float:
        x, y = at(beta)
        return hypot(x - r2, y) - pin_radius

    most = min(pi / 2, 3 * 2 * pi / pins)
    turns = [most * number / STEPS for number in range(1, STEPS + 1)]
    inside = [number for number, beta in enumerate(turns) if out(beta) < 0 or hypot(*at(beta)) < r2 - pin_radius]
    first = inside[-1] + 1 if inside else 0
    start = _crossing(out, turns[first - 1], turns[first]) if first else turns[0]
    ends = [number for number in range(first, STEPS) if left(turns[number]) < 0]
    end = _crossing(left, turns[max(ends[0] - 1, 0)], turns[ends[0]]) if ends else turns[-1]
    end = max(end, start + 1e-6)
    points = tuple(at(start + (end - start) * number / POINTS) for number in range(POINTS + 1))
    return Flank(points, start, end)


def _crossing(function: Callable[[float], float], low: float, high: float) -> float:
    """Where a function changes its sign between two places."""
    sign = function(low) > 0
    for _ in range(50):
        middle = (low + high) / 2
        low, high = (middle, high) if (function(middle) > 0) == sign else (low, middle)
    return (low + high) / 2


def wheel_outline(link: Lantern) -> tuple[Point, ...]:
    """The whole wheel [mm], counter-clockwise, with play in every gap."""
    pitch, z = link.circular_pitch_mm, link.wheel_teeth
    pin = link.pin_diameter_mm / 2 + PLAY_SHARE * pitch / 2
    r2 = pitch * z / 2 / pi
    found = flank(link.pins, z, pitch, pin, LAND_SHARE * pitch)
    # the gap lies on the x axis: its floor from the lower flank's foot round the inner side to the upper one's
    foot = found.points[0]
    reach = atan2(-foot[1], foot[0] - r2)
    lower = tuple(reversed(found.points))
    floor = tuple(arc((r2, 0.0), pin, 2 * pi - reach, reach))
    upper = tuple((x, -y) for x, y in found.points)
    # from the lower tip to the upper one goes counter-clockwise round the wheel; the land joins it to the next gap
    tip = upper[-1]
    land = tuple(arc((0.0, 0.0), found.tip, atan2(tip[1], tip[0]), 2 * pi / z - atan2(tip[1], tip[0])))
    return round_the_wheel((*lower, *floor[1:-1], *upper, *land[1:-1]), z)


def makes(link: Lantern) -> Iterator[MadeWheel]:
    """The wheel, and one of the two discs of the pinion; nothing where pins are so thick that no tooth, or no metal
    between their holes, is left.
    """
    apart = link.circular_pitch_mm * link.pins / pi * sin(pi / link.pins)
    if link.pin_diameter_mm >= min(apart, (1 - PLAY_SHARE - LAND_SHARE) * link.circular_pitch_mm):
        return
    wheel_side: Side = "driven" if link.drives == "pinion" else "driver"
    disc_side: Side = "driver" if link.drives == "pinion" else "driven"
    yield from sorted((_wheel(wheel_side, link), _disc(disc_side, link)), key=lambda made: made.side, reverse=True)


def _wheel(side: Side, link: Lantern) -> MadeWheel:
    pitch, z, pin = link.circular_pitch_mm, link.wheel_teeth, link.pin_diameter_mm
    gap = pin + PLAY_SHARE * pitch
    found = flank(link.pins, z, pitch, gap / 2, LAND_SHARE * pitch)
    around, chord = pitch * z / pi, pitch * z / pi * sin(pi / z)
    measures = (
        Measure("Teeth", float(z), ""),
        Measure("Outside diameter", 2 * found.tip, "mm"),
        Measure("Pitch circle", around, "mm", "middles of the gaps lie on it"),
        Measure("Gap to gap, straight across", chord, "mm", "step it off with dividers: it comes out even"),
        Measure("Gap diameter", gap, "mm", "drill first, then saw the flanks down to the holes"),
        Measure("Tooth height over the pitch circle", found.tip - around / 2, "mm"),
        Measure("Pins in contact on average", found.contact_ratio(link.pins), "", "under 1.1 it runs in jerks"),
    )
    order = (
        f"Scribe the pitch circle, step off {z} centers and drill every gap {{{gap:.4g}|mm}}.",
        "Cut the flanks to the outline; grain, where there is one, along the tooth.",
        "Turn the pinion through the wheel by hand, a whole turn of the wheel: no pin climbs a tip.",
        "Ease the flanks where they are bright, never the gaps; grease pins and flanks.",
    )
    return MadeWheel(
        side=side,
        title=f"Lantern wheel, {z} teeth",
        draw=lambda: wheel_outline(link),
        outside_mm=2 * found.tip,
        face_mm=link.wheel_face_mm,
        turned=False,
        measures=measures,
        order=order,
        source=ENVELOPE,
        caution="Pins draw in whatever touches them: close the mesh in before first power.",
        largest_bore_mm=around - gap - 2 * RIM_SHARE * pitch,
        material=link.wheel_material,
        teeth=z,
    )


def _disc(side: Side, link: Lantern) -> MadeWheel:
    pin, n = link.pin_diameter_mm, link.pins
    around = link.circular_pitch_mm * n / pi
    outside = around + pin * (1 + 2 * EDGE_SHARE)
    places = [(around / 2 * cos(2 * pi * k / n), around / 2 * sin(2 * pi * k / n)) for k in range(n)]
    measures = (
        Measure("Pins", float(n), "", f"free length between the discs {{{link.pin_span_mm:.4g}|mm}}"),
        Measure("Outside diameter", outside, "mm", "two discs alike"),
        Measure("Hole circle", around, "mm"),
        Measure("Hole to hole, straight across", around * sin(pi / n), "mm", "between middles"),
        Measure("Hole diameter", pin, "mm", "the pin driven in; loose pins wear the disc"),
    )
    order = (
        f"Clamp both discs together and drill {n} holes {{{pin:.4g}|mm}} through them at one set-up, and the bore.",
        "Drive the pins in square; check across several with a caliper, one end against the other.",
        "Rivet, pin or weld the ends so that none can walk out sideways.",
    )
    return MadeWheel(
        side=side,
        title=f"Disc of a lantern pinion, {n} pins",
        draw=lambda: circle((0.0, 0.0), outside / 2),
        outside_mm=outside,
        face_mm=pin,
        turned=False,
        measures=measures,
        order=order,
        source=ENVELOPE,
        caution="A pin that works loose jams the wheel at once: check all of them whenever it stands still.",
        largest_bore_mm=around - 2 * pin,
        cut_out=lambda: tuple(tuple(reversed(circle(place, pin / 2))) for place in places),
    )
