"""Sprockets to cut: tooth form of ISO 606 midway between its least and its largest gap, and what they measure."""

from __future__ import annotations

from collections.abc import Iterator
from math import atan2, cos, hypot, pi, radians

from pulltide.core.findings import Source
from pulltide.core.labels import as_is
from pulltide.core.links.roller_chain import geometry, tables
from pulltide.core.links.roller_chain.inputs import RollerChain
from pulltide.core.made.wheel import MadeWheel, Measure, Side, arc, round_the_wheel
from pulltide.core.sketch import Point

ISO_606 = Source("ISO 606, tooth form", "midway between the least and the largest gap", "quoted from memory")
#: Points tried along a flank to find the tip circle.
TRIES = 60


def gap_form(pitch_mm: float, roller_mm: float, teeth: int) -> tuple[float, float, float, float]:
    """Seat radius [mm], half its angle [radians], flank radius [mm] and tip diameter [mm], midway between the limits.

    Source: ISO 606, from memory. Least gap r_i 0.505 d, α 140° - 90°/z, r_e 0.12 d (z + 2); largest r_i
    0.505 d + 0.069 ∛d, α 120° - 90°/z, r_e 0.008 d (z² + 180); tip d + p (1 - 1.6/z) - d_1 to d + 1.25 p - d_1.

    >>> [round(value, 2) for value in gap_form(12.7, 7.92, 17)[::2]]
    [4.07, 23.89]
    """
    d, z = roller_mm, teeth
    seat = (0.505 * d + 0.505 * d + 0.069 * d ** (1 / 3)) / 2
    half = radians((140 + 120) / 2 - 90 / z) / 2
    flank = (0.12 * d * (z + 2) + 0.008 * d * (z**2 + 180)) / 2
    around = geometry.pitch_diameter_mm(pitch_mm, z)
    tip = around - d + pitch_mm * (1 - 1.6 / z + 1.25) / 2
    return seat, half, flank, tip


def sprocket_outline(pitch_mm: float, roller_mm: float, teeth: int) -> tuple[Point, ...]:
    """The whole sprocket [mm], counter-clockwise; each gap is open to the roller that seats in it."""
    seat, half, flank, tip = gap_form(pitch_mm, roller_mm, teeth)
    around = geometry.pitch_diameter_mm(pitch_mm, teeth) / 2
    roller = (0.0, around)
    # the seat's right end, from the bottom of the gap; the flank's center lies beyond it on the same ray
    end = -pi / 2 + half
    center = (roller[0] + (seat + flank) * cos(end), roller[1] + (seat + flank) * _sin(end))
    side = _flank(center, flank, end + pi, tip / 2, pi / teeth)
    right = (*tuple(arc(roller, seat, -pi / 2, end)), *side[1:])
    left = tuple((-x, y) for x, y in reversed(right))
    gap = (*left[:-1], *right)
    # gaps from left to right run clockwise: the whole is turned round
    return round_the_wheel(tuple(reversed(gap)), teeth)


def _sin(angle: float) -> float:
    return cos(angle - pi / 2)


def _flank(center: Point, radius: float, start: float, tip_mm: float, half_pitch: float) -> tuple[Point, ...]:
    """From the seat's end outward until the tip circle, or until the middle of the tooth is met."""
    best = start
    low, high = start, start - pi / 2
    for number in range(1, TRIES + 1):
        angle = low + (high - low) * number / TRIES
        x, y = center[0] + radius * cos(angle), center[1] + radius * _sin(angle)
        if hypot(x, y) >= tip_mm or atan2(x, y) >= half_pitch:
            best = angle
            break
        best = angle
    before = best - (high - low) / TRIES
    for _ in range(50):
        middle = (before + best) / 2
        x, y = center[0] + radius * cos(middle), center[1] + radius * _sin(middle)
        if hypot(x, y) >= tip_mm or atan2(x, y) >= half_pitch:
            best = middle
        else:
            before = middle
    return tuple(arc(center, radius, start, before))


def makes(link: RollerChain) -> Iterator[MadeWheel]:
    """Both sprockets; plates of one strand are cut and stacked for more."""
    size = tables.sizes()[link.chain]
    for side, teeth in (("driver", link.driver_teeth), ("driven", link.driven_teeth)):
        yield _sprocket(side, size, teeth, link.strands)  # type: ignore[arg-type]


def _sprocket(side: Side, size: tables.ChainSize, teeth: int, strands: int) -> MadeWheel:
    pitch, roller = size.pitch_mm, size.roller_diameter_mm
    around = geometry.pitch_diameter_mm(pitch, teeth)
    odd = cos(pi / 2 / teeth) if teeth % 2 else 1.0
    share = 0.93 if pitch <= 12.7 else 0.95
    plate = share * size.inner_width_mm - 0.15
    tip = gap_form(pitch, roller, teeth)[3]
    measures = (
        Measure("Teeth", float(teeth), "", "" if strands == 1 else f"{strands} plates, teeth in line"),
        Measure("Outside diameter", tip, "mm"),
        Measure("Pitch diameter", around, "mm", "through the middles of the rollers"),
        Measure("Root diameter", around - roller, "mm", "+ 0, - {0.25|mm}"),
        Measure("Over two pins", around * odd + roller, "mm", f"pins of the roller, {{{roller:.4g}|mm}}"),
        Measure("Thickness of the teeth", plate, "mm", "at most; sides chamfered toward the tips"),
        Measure("Largest hub", geometry.largest_hub_mm(pitch, teeth), "mm", "or the side plates ride on it"),
    )
    order = (
        f"Plate of {{{plate:.3g}|mm}} cut to the outline; kerf allowed for outside and inside.",
        "Wrap a chain round it: every roller seats at the bottom, none rides up at the joint.",
        "Measure over two pins across the wheel; a wheel that measures over is filed in the seats, not at the tips.",
        "Chamfer both sides toward the tips, bore, and harden the teeth where it runs fast or in dirt.",
    )
    return MadeWheel(
        side=side,
        title=f"Sprocket for chain {as_is(size.chain)}, {teeth} teeth",
        draw=lambda: sprocket_outline(pitch, roller, teeth),
        outside_mm=tip,
        face_mm=plate,
        turned=False,
        measures=measures,
        order=order,
        source=ISO_606,
        caution="Guard both nips. A plate cut by flame is hard at its edge and may crack: dress it before it is bent.",
        largest_bore_mm=geometry.greatest_bore_mm(pitch, teeth),
        teeth=teeth,
        gap_angle=pi / 2,
    )
