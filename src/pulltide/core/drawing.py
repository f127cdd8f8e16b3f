"""Shapes of an elevation in millimeters, x to the right, y up. What they look like is not decided here."""

from __future__ import annotations

from dataclasses import dataclass
from math import asin, atan2, cos, degrees, hypot, pi, radians, sin
from typing import Literal

from pulltide.core.belt_path import Round
from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.space import Vec, Z

#: What is said of a picture whose shafts lie on one axis.
IN_LINE = "shafts on one axis are drawn side by side"
Role = Literal["belt", "chain", "gear", "case", "coupling"]


@dataclass(frozen=True, slots=True)
class DrawnWheel:
    """A wheel besides the two on the shafts: an idler, a planet. ``at_mm`` is its center from the driver shaft.

    ``back_mm`` is how far behind the wheel of that shaft it stands.
    """

    at_mm: tuple[float, float]
    radius_mm: float
    teeth: int = 0
    back_mm: float = 0.0


#: Where a driven shaft points, for whoever looks along the driver shaft: as right, up and away.
POINTS: dict[str, Vec] = {
    "right": (1.0, 0.0, 0.0),
    "left": (-1.0, 0.0, 0.0),
    "up": (0.0, 1.0, 0.0),
    "down": (0.0, -1.0, 0.0),
}
Side = Literal["right", "left"]
Points = Literal["right", "left", "up", "down"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Housing:
    """Outside of a case in the axes of its driver shaft, from where that enters it [mm].

    How far it reaches to either side of that shaft, below and above it, and how deep it is. Its feet, where it has any,
    are as far apart as their holes. ``known`` is False where a size is no more than a guess of the picture.
    """

    left_mm: float
    right_mm: float
    low_mm: float
    high_mm: float
    deep_mm: float
    foot_across_mm: float | None = None
    foot_along_mm: float | None = None
    known: bool = True


@dataclass(frozen=True, slots=True, kw_only=True)
class Stands:
    """Where a driven shaft stands as it is, seen along the driver shaft [mm].

    ``offset_mm`` to the right and up, ``back_mm`` behind where the driver shaft enters or its wheel stands; ``toward``
    is where it points, and ``out_mm`` how far along it its own wheel stands or its case ends.
    """

    offset_mm: tuple[float, float] = (0.0, 0.0)
    back_mm: float = 0.0
    toward: Vec = Z
    out_mm: float = 0.0
    housing: Housing | None = None


@dataclass(frozen=True, slots=True)
class LinkPicture:
    """What one link looks like between its two shafts.

    ``offset_mm`` is the vector from driver to driven shaft. A belt or chain has wheels of two radii joined by
    a loop; a reducer has a case. With ``in_line`` both shafts lie on one axis: where to draw the driven one beside it
    is then free, and ``offset_mm`` no more than the least room it needs. ``stands`` is where it stands as it is, None
    where that is at ``offset_mm``, or on the axis. ``tip_share`` is the small end of bevel wheels over their large end.
    ``over_mm`` is how far teeth, chain or belt reach beyond the circles drawn: room is judged with it.
    """

    role: Role
    offset_mm: tuple[float, float]
    driver_radius_mm: float = 0.0
    driven_radius_mm: float = 0.0
    driver_teeth: int = 0
    driven_teeth: int = 0
    case_half_height_mm: float = 0.0
    note: str = ""
    extra: tuple[DrawnWheel, ...] = ()
    path: tuple[Round, ...] = ()
    in_line: bool = False
    stands: Stands | None = None
    tip_share: float = 1.0
    over_mm: float = 0.0

    @property
    def driver_reach_mm(self) -> float:
        """How far the link reaches out from its driver shaft."""
        return max(self.driver_radius_mm, *(wheel.radius_mm + hypot(*wheel.at_mm) for wheel in self.extra), 0.0)


@dataclass(frozen=True, slots=True)
class OpenLoop:
    """An open belt round two circles: its four tangent points, its length and the wrap of each circle."""

    upper: tuple[tuple[float, float], tuple[float, float]]
    lower: tuple[tuple[float, float], tuple[float, float]]
    length_mm: float
    wrap_first_deg: float
    wrap_second_deg: float


def polar(distance_mm: float, angle_deg: float) -> tuple[float, float]:
    """The vector of a length [mm] at an angle [degrees] above the horizontal."""
    return distance_mm * cos(radians(angle_deg)), distance_mm * sin(radians(angle_deg))


def open_loop(first: tuple[float, float], r1: float, second: tuple[float, float], r2: float) -> OpenLoop:
    """Open loop round circles of radius r1, r2 [mm] > 0 at two centers, neither inside the other.

    gamma = asin((r2 - r1) / C); spans C cos(gamma); wraps pi -/+ 2 gamma.

    Raises ImpossibleGeometry if one circle holds the other. Source: exact.
    """
    dx, dy = second[0] - first[0], second[1] - first[1]
    center = hypot(dx, dy)
    if center <= abs(r2 - r1):
        raise ImpossibleGeometry("One wheel lies inside the other, so no loop runs round both.")
    gamma = asin((r2 - r1) / center)
    along = atan2(dy, dx)
    up, down = along + pi / 2 + gamma, along - pi / 2 - gamma

    def point(at: tuple[float, float], radius: float, angle: float) -> tuple[float, float]:
        return at[0] + radius * cos(angle), at[1] + radius * sin(angle)

    return OpenLoop(
        (point(first, r1, up), point(second, r2, up)),
        (point(first, r1, down), point(second, r2, down)),
        2 * center * cos(gamma) + r1 * (pi - 2 * gamma) + r2 * (pi + 2 * gamma),
        degrees(pi - 2 * gamma),
        degrees(pi + 2 * gamma),
    )
