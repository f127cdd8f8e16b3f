"""What a builder sets a drive up by beside its tension: wheels in line, guards large enough, grease by the gram."""

from __future__ import annotations

from dataclasses import dataclass
from math import radians, tan

from pulltide.core.fit.bearings import Bearing
from pulltide.core.line_result import LineResult
from pulltide.core.links import family_of
from pulltide.core.machine import Plan
from pulltide.core.run_log.upkeep import Location

#: Thickness of a plastic card that is held against a rim [mm]. Source: ISO/IEC 7810, from memory.
CARD_MM = 0.76
#: Room between wheels and a guard, round them and to each side [mm]. Common practice, no source.
ROUND_MM, BESIDE_MM = 20.0, 15.0


@dataclass(frozen=True, slots=True)
class InLine:
    """How far the rims of a stage may stand out of line, measured over its centers [mm]."""

    stage: int
    offset_mm: float

    @property
    def cards(self) -> float:
        """The same in thicknesses of a card."""
        return self.offset_mm / CARD_MM


@dataclass(frozen=True, slots=True)
class Guard:
    """Clear inside of a guard round a stage [mm]."""

    stage: int
    length_mm: float
    height_mm: float
    depth_mm: float


def in_line(plan: Plan, line: LineResult) -> tuple[InLine, ...]:
    """Every stage whose wheels have to stand in line: centers times the tangent of what its family allows."""
    found = []
    for number, (link, result) in enumerate(zip(plan.links, line.links, strict=True), start=1):
        angle, center = family_of(link.kind).align_deg, result.center_distance_mm
        if angle is not None and center is not None:
            found.append(InLine(number, center * tan(radians(angle))))
    return tuple(found)


def guards(plan: Plan, line: LineResult) -> tuple[Guard, ...]:
    """The box round every stage that turns in the open, slide of its center counted."""
    found = []
    for number, (link, step) in enumerate(zip(plan.links, line.setting, strict=True), start=1):
        made = family_of(link.kind).prepare(link, step)
        picture, center = made.picture(), made.center_distance_mm
        if picture.role in ("case", "coupling") or center is None:
            continue
        reach = (picture.driver_radius_mm, picture.driven_radius_mm)
        slide = getattr(link, "take_up_mm", None) or 0.0
        face = max((disc.face_mm for disc in made.discs if disc.side != "between"), default=0.0)
        found.append(
            Guard(
                number, center + sum(reach) + slide + 2 * ROUND_MM, 2 * max(reach) + 2 * ROUND_MM, face + 2 * BESIDE_MM
            )
        )
    return tuple(found)


def grease_g(insert: Bearing) -> float:
    """One filling of grease [g]: 0.005 D B, D outside and B width of the bearing [mm]. Common practice, no source.

    >>> sizes = {"bore_mm": 30.0, "outside_mm": 62.0, "width_mm": 38.1}
    >>> round(grease_g(Bearing(dynamic_n=19_500.0, static_n=11_300.0, speed_rpm=5000.0, **sizes)), 1)
    11.8
    """
    return 0.005 * insert.outside_mm * insert.width_mm


def grease_hours(bore_mm: float, speed_rpm: float, location: Location) -> float:
    """Hours between greasings of a ball bearing: 10 (14·10⁶ / (n √d) - 4 d), a year at most; half of it in dirt.

    n speed [rpm], d bore [mm]. Common practice, uncertain.

    >>> round(grease_hours(25.0, 3450.0, "normal")), round(grease_hours(30.0, 700.0, "normal"))
    (7116, 8760)
    """
    hours: float = 10 * (14e6 / (max(speed_rpm, 1.0) * bore_mm**0.5) - 4 * bore_mm)
    return max(min(hours, 8760.0), 100.0) * (0.5 if location == "dirty" else 1.0)
