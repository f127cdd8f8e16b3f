"""Timing pulleys to cut or print: the groove of each profile, and what it measures over pins."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import atan2, cos, floor, pi, radians, sin, tan

from pulltide.core.labels import as_is
from pulltide.core.links.toothed_belt import tables
from pulltide.core.links.toothed_belt.inputs import ToothedBelt
from pulltide.core.links.toothed_belt.transmission import PULLEY_WIDER_MM
from pulltide.core.made.wheel import MadeWheel, Measure, Side, arc, rim_corner, round_the_wheel, tangent_side
from pulltide.core.sketch import Point
from pulltide.core.tables import Row, number

#: A rim under the grooves is at least this thick [mm]; a flange rises over the teeth of the belt by this much and is
#: this thick [mm]. Common practice, no source.
RIM_MM, FLANGE_OVER_MM, FLANGE_THICK_MM = 3.0, 0.5, 1.5
#: A pin for a round groove is this share of its floor's width. Common practice, no source.
PIN_SHARE = 0.9
#: A pin is only told where it may be this much thicker or thinner [mm]. Common practice, no source.
MIN_FLANK_MM = 0.1


@dataclass(frozen=True, slots=True)
class Groove:
    """One groove on a pulley of an outside radius [mm]: its right flank from ``low`` up to ``high`` on the rim."""

    outside: float
    depth_mm: float
    low: Point
    high: Point
    angle_deg: float | None
    root_radius: float
    tip_radius: float

    @property
    def floor_radius(self) -> float:
        """Radius of its floor [mm]."""
        return self.outside - self.depth_mm

    @property
    def round(self) -> bool:
        """Whether its floor is a half circle."""
        return self.angle_deg is None

    @property
    def root(self) -> tuple[Point, float]:
        """Center of the round that joins floor and flank, and its radius: no larger than half the floor allows."""
        half = radians((self.angle_deg or 0.0) / 2)
        radius = min(self.root_radius, self.low[0] / tan(pi / 4 - half / 2))
        return (self.low[0] - radius * tan(pi / 4 - half / 2), self.floor_radius + radius), radius

    @property
    def pin_mm(self) -> float | None:
        """Pin to measure over: the largest to half a millimeter that touches the straight flanks alone, or one that
        lies on the floor of a round groove; None where the flanks are too short for any.
        """
        if self.angle_deg is None:
            return round(2 * PIN_SHARE * self.root_radius, 1)
        half = radians(self.angle_deg / 2)
        (inside, _), radius = self.root
        _, leaves, _ = rim_corner(self.low, self.high, self.outside, self.tip_radius)
        first, last = (2 * x / cos(half) for x in (inside + radius * cos(half), leaves[0]))
        # a smaller one lies on the floor
        least = max(first, 2 * self.low[0] / tan(half) / (1 / sin(half) - 1))
        coarse = floor(2 * last) / 2
        if coarse > least:
            return coarse
        return round((least + last) / 2, 2) if last - least > MIN_FLANK_MM else None

    def over_pins_mm(self, teeth: int, pin_mm: float) -> float:
        """Measure over two pins [mm]: 2 r_c + d, r_c = r_g - w / 2 tan(a/2) + d / 2 sin(a/2); on a round floor
        r_c = r_g + d / 2. Source: exact."""
        if self.angle_deg is None:
            center = self.floor_radius + pin_mm / 2
        else:
            half = radians(self.angle_deg / 2)
            center = self.floor_radius - self.low[0] / tan(half) + pin_mm / 2 / sin(half)
        return 2 * center * (1.0 if teeth % 2 == 0 else cos(pi / 2 / teeth)) + pin_mm


def row_for(profile: str, teeth: int) -> Row:
    """The row of the table for a profile and a number of teeth."""
    rows = [row for row in tables.table("grooves_to_cut").rows if row["profile"] == profile]
    return [row for row in rows if teeth > number(row, "over_teeth")][-1]


def groove_at(profile: str, teeth: int) -> Groove:
    """The groove of a profile on a pulley of so many teeth.

    >>> [round(groove_at(p, z).over_pins_mm(z, d), 3) for p, z, d in (("XL", 20, 2.5), ("L", 17, 4.5))]
    [34.117, 54.503]
    """
    row, data = row_for(profile, teeth), tables.profiles()[profile]
    outside = (data.pitch_mm * teeth / pi - data.outside_less_mm) / 2
    depth, wide = number(row, "depth_mm"), number(row, "width_mm") / 2
    root, tip = number(row, "root_radius_mm"), number(row, "tip_radius_mm")
    floor = outside - depth
    if row["form"] == "round":
        high = (wide, (outside**2 - wide**2) ** 0.5)
        low = tangent_side(high, (0.0, floor + root), root)
        return Groove(outside, depth, low, high, None, root, tip)
    angle = number(row, "angle_deg")
    slope = tan(radians(angle / 2))
    if row["measured_at"] == "rim":
        wide -= slope * ((outside**2 - wide**2) ** 0.5 - floor)
    # the flank x = w + (y - floor) slope met with the rim
    a, b = 1 + slope**2, slope * (wide - slope * floor)
    c = (wide - slope * floor) ** 2 - outside**2
    y = (-b + (b**2 - a * c) ** 0.5) / a
    return Groove(outside, depth, (wide, floor), (wide + (y - floor) * slope, y), angle, root, tip)


def pulley_outline(profile: str, teeth: int) -> tuple[Point, ...]:
    """The whole pulley [mm], counter-clockwise, without its flanges."""
    groove = groove_at(profile, teeth)
    tip = groove.tip_radius
    center, leaves, meets = rim_corner(groove.low, groove.high, groove.outside, tip)
    while atan2(meets[0], meets[1]) > pi / teeth and tip > 0.01:
        tip *= 0.8
        center, leaves, meets = rim_corner(groove.low, groove.high, groove.outside, tip)
    start, end = (atan2(at[1] - center[1], at[0] - center[0]) for at in (leaves, meets))
    right = (*_floor(groove), *arc(center, tip, start, end))
    left = tuple((-x, y) for x, y in reversed(right))
    # gaps from left to right run clockwise: the whole is turned round
    return round_the_wheel(tuple(reversed((*left, *right))), teeth)


def _floor(groove: Groove) -> Iterator[Point]:
    """The right half of the floor with its round, up to the flank."""
    radius, (x, y) = groove.root_radius, groove.low
    if groove.angle_deg is None:
        center = (0.0, groove.floor_radius + radius)
        yield from arc(center, radius, -pi / 2, atan2(y - center[1], x - center[0]))
        return
    center, radius = groove.root
    yield from arc(center, radius, -pi / 2, -radians(groove.angle_deg / 2))


def makes(link: ToothedBelt) -> Iterator[MadeWheel]:
    """Both pulleys; the smaller has flanges."""
    counts: tuple[tuple[Side, int], ...] = (("driver", link.driver_teeth), ("driven", link.driven_teeth))
    for side, teeth in counts:
        flanged = teeth == min(link.driver_teeth, link.driven_teeth)
        yield _pulley(side, link, teeth, flanged=flanged)


def _pulley(side: Side, link: ToothedBelt, teeth: int, *, flanged: bool) -> MadeWheel:
    groove, row, data = groove_at(link.profile, teeth), row_for(link.profile, teeth), tables.profiles()[link.profile]
    face = link.width_mm + PULLEY_WIDER_MM
    flange = 2 * (groove.outside + number(row, "belt_tooth_mm") + FLANGE_OVER_MM)
    floor = "round floor" if groove.round else f"{groove.angle_deg:g}° between the flanks"
    measures = [
        Measure("Teeth", float(teeth), ""),
        Measure("Outside diameter", 2 * groove.outside, "mm", "+ {0.05|mm}, - 0: it sets the pitch of the belt on it"),
        Measure("Pitch diameter", data.pitch_mm * teeth / pi, "mm", "in the belt, not on the pulley"),
        Measure("Face between flanges" if flanged else "Face", face, "mm"),
        Measure("Groove depth", groove.depth_mm, "mm", floor),
        Measure("Groove width at the rim", 2 * groove.high[0], "mm", f"tips rounded {{{groove.tip_radius:g}|mm}}"),
    ]
    if groove.pin_mm is not None:
        over = groove.over_pins_mm(teeth, groove.pin_mm)
        measures.append(Measure("Over two pins", over, "mm", f"pins of {{{groove.pin_mm:.4g}|mm}}"))
    if flanged:
        measures.append(Measure("Flange diameter", flange, "mm", "leaned out 8° to 15°, edge broken"))
    order = (
        f"Blank turned to {{{2 * groove.outside:.5g}|mm}}, bored at one chucking; or printed on its face.",
        f"Index {teeth} grooves to the outline; cut three first and lay the belt in: it seats with no rock.",
        "Measure over two pins where the table tells them; too wide gives play, too narrow lifts the belt.",
        "Flanges pressed or screwed on; wheels in line within a quarter of a degree, or the belt climbs them.",
    )
    return MadeWheel(
        side=side,
        title=f"Timing pulley {as_is(link.profile)}, {teeth} teeth",
        draw=lambda: pulley_outline(link.profile, teeth),
        outside_mm=2 * groove.outside,
        face_mm=face,
        turned=False,
        measures=tuple(measures),
        order=order,
        source=tables.table("grooves_to_cut").as_source,
        caution="Where power or a load hangs on it, buy the pulley. Round profiles here are approximations.",
        largest_bore_mm=2 * (groove.floor_radius - RIM_MM),
        flange_mm=(flange, FLANGE_THICK_MM) if flanged else None,
    )
