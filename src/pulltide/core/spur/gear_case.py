"""The least case round a train of gears: its shafts and bearings, its walls, what it holds, weighs and takes of oil.

The train lies level: x along its center line, z along its shafts. Each pair has its own place along z; a shaft carries
the driven gear of one pair and the driver of the next. Where two shafts lie on one axis they end in a wall between the
pairs, with a boss that holds a bearing of each. Gaps, walls and masses are common practice, no source.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from math import acos, hypot, pi, radians, sqrt, tan

from pulltide.core.fit.bearings import Bearing, deep_groove

#: Between gears beside each other on one shaft, tips and walls, tips and the floor of the sump [mm].
BESIDE_MM, TIP_MM, SUMP_MM = 6.0, 10.0, 25.0
#: What a boss between two bearings of one axis adds to both [mm], and metal between two bearing seats [mm].
BOSS_MM, SEAT_MM = 8.0, 8.0
#: Castings and plates weigh so much more than plain walls; gears so much of a solid disc.
RIBS, LIGHTER = 1.25, 0.85
#: Iron and steel [kg/mm³].
IRON, STEEL = 7.2e-6, 7.85e-6
#: Shear that a shaft is sized by where only its room counts [MPa].
SHAFT_MPA = 40.0
#: Oil: how deep the lowest wheel dips at least [mm, modules] and at most [of its radius].
DIP_MM, DIP_MODULES, DIP_MOST = 10.0, 2.0, 1 / 3


@dataclass(frozen=True, slots=True)
class Pair:
    """One pair: module [mm], teeth, face [mm], torque of its driver [N·m], speed of its driver [rpm]."""

    module_mm: float
    teeth: tuple[int, int]
    face_mm: float
    torque_nm: float
    speed_rpm: float

    @property
    def center_mm(self) -> float:
        """Between its axes [mm]."""
        return self.module_mm * sum(self.teeth) / 2

    def tip_mm(self, side: int) -> float:
        """Tip radius of its driver, 0, or its driven gear, 1 [mm]."""
        return self.module_mm * (self.teeth[side] + 2) / 2


@dataclass(frozen=True, slots=True)
class InCase:
    """A shaft in the case: number of its axis, diameter [mm], between its bearings [mm], its bearing, the load of the
    heavier one [N], its speed [rpm], and how long that lives [h]; None where no bearing is thick enough.
    """

    axis: int
    diameter_mm: float
    span_mm: float
    bearing: Bearing | None
    load_n: float
    speed_rpm: float
    life_h: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class GearCase:
    """A case: inside along x, up, and along z; its wall [mm]; volumes [L]; masses [kg].

    ``reach_mm`` is from tip to tip along x, ``largest_mm`` the largest tip radius, ``dip_mm`` how deep that dips.

    ``seat_mm`` is the least metal between the seats of two bearings of neighboring axes, below 0 where they overlap.
    """

    inside_mm: tuple[float, float, float]
    wall_mm: float
    shafts: tuple[InCase, ...]
    case_kg: float
    gears_kg: float
    oil_l: float
    dipped_l: float
    dip_mm: float
    reach_mm: tuple[float, float]
    largest_mm: float
    seat_mm: float

    @property
    def outside_mm(self) -> tuple[float, float, float]:
        """Over its walls [mm]."""
        x, y, z = (inside + 2 * self.wall_mm for inside in self.inside_mm)
        return x, y, z

    @property
    def volume_l(self) -> float:
        """Inside [L]."""
        x, y, z = self.inside_mm
        return x * y * z / 1e6

    @property
    def mass_kg(self) -> float:
        """Case, gears and shafts [kg]."""
        return self.case_kg + self.gears_kg

    @property
    def life_h(self) -> float | None:
        """Of the bearing that wears first [h]; None where one of them is not listed."""
        known = [shaft.life_h for shaft in self.shafts if shaft.life_h is not None]
        return min(known) if len(known) == len(self.shafts) else None


def gear_case(pairs: Sequence[Pair], *, folded: bool, pressure_angle_deg: float, reliability: int = 90) -> GearCase:
    """The least case of a train on two axes back and forth, ``folded``, or with a new axis for every shaft.

    ``reliability`` is the share of bearings that reach the life told [%].
    """
    places = Places.of(pairs, folded)
    inside = places.inside_mm
    slope = tan(radians(pressure_angle_deg))
    shafts = tuple(_in_case(places, number, slope, reliability) for number in range(len(pairs) + 1))
    outside = [one + 2 * places.wall_mm for one in inside]
    walls = outside[0] * outside[1] * outside[2] - inside[0] * inside[1] * inside[2]
    gears = sum(
        LIGHTER * STEEL * pi * (pair.module_mm * teeth) ** 2 / 4 * pair.face_mm
        for pair in pairs
        for teeth in pair.teeth
    )
    rods = sum(STEEL * pi * one.diameter_mm**2 / 4 * (one.span_mm + 2 * one.diameter_mm) for one in shafts)
    dipped = _dipped_l(pairs, places)
    return GearCase(
        inside_mm=inside,
        wall_mm=places.wall_mm,
        shafts=shafts,
        case_kg=RIBS * IRON * walls,
        gears_kg=gears + rods,
        oil_l=inside[0] * inside[2] * (SUMP_MM + places.dip_mm) / 1e6 - dipped,
        dipped_l=dipped,
        dip_mm=places.dip_mm,
        reach_mm=places.reach_mm,
        largest_mm=places.largest[0],
        seat_mm=places.seat_mm,
    )


@dataclass(frozen=True, slots=True)
class Places:
    """Where everything stands: the axis of every shaft along x, each pair and both bearings of every shaft along z."""

    pairs: tuple[Pair, ...]
    axes: tuple[int, ...]
    axes_mm: tuple[float, ...]
    diameters_mm: tuple[float, ...]
    bearings: tuple[Bearing | None, ...]
    pairs_mm: tuple[float, ...]
    held_mm: tuple[tuple[float, float], ...]
    wall_mm: float
    long_mm: float

    @classmethod
    def of(cls, pairs: Sequence[Pair], folded: bool) -> Places:
        """Place a train."""
        axes = tuple(index % 2 if folded else index for index in range(len(pairs) + 1))
        axes_mm = [0.0]
        for pair in pairs:
            axes_mm.append(axes_mm[-1] + pair.center_mm)
        if folded:
            axes_mm = [0.0, max(pair.center_mm for pair in pairs)]
        diameters = tuple((16_000 * torque / (pi * SHAFT_MPA)) ** (1 / 3) for torque in _torques(pairs))
        bearings = tuple(next((one for one in deep_groove("62") if one.bore_mm >= d), None) for d in diameters)
        wide = [bearing.width_mm if bearing else d for bearing, d in zip(bearings, diameters, strict=True)]
        wall = max(8.0, 0.025 * max(pair.center_mm for pair in pairs) + 3)
        found = _along(pairs, wide, folded, max(8.0, 1.2 * wall))
        return cls(tuple(pairs), axes, tuple(axes_mm), diameters, bearings, *found[:2], wall, found[2])

    @property
    def largest(self) -> tuple[float, float]:
        """Tip radius of the largest gear, and its module [mm]."""
        return max((pair.tip_mm(side), pair.module_mm) for pair in self.pairs for side in (0, 1))

    @property
    def dip_mm(self) -> float:
        """How deep the largest gear dips into the oil [mm]."""
        radius, module = self.largest
        return min(max(DIP_MM, DIP_MODULES * module), DIP_MOST * radius)

    @property
    def reach_mm(self) -> tuple[float, float]:
        """From tip to tip along x [mm], the input's axis at 0."""
        reach = [
            (self.axes_mm[self.axes[number + side]], pair.tip_mm(side))
            for number, pair in enumerate(self.pairs)
            for side in (0, 1)
        ]
        return min(at - tip for at, tip in reach), max(at + tip for at, tip in reach)

    @property
    def case_mm(self) -> tuple[float, float]:
        """Both walls along x, inside [mm]."""
        left, right = self.reach_mm
        return left - TIP_MM, right + TIP_MM

    def shaft_mm(self, number: int) -> float:
        """Where a shaft stands along x [mm]."""
        return self.axes_mm[self.axes[number]]

    def wide_mm(self, number: int) -> float:
        """Width of the bearings of a shaft; as wide as it is thick where none is listed [mm]."""
        bearing = self.bearings[number]
        return self.diameters_mm[number] if bearing is None else bearing.width_mm

    def seat_outside_mm(self, number: int) -> float:
        """Outside of the bearings of a shaft; twice its diameter where none is listed [mm]."""
        bearing = self.bearings[number]
        return 2 * self.diameters_mm[number] if bearing is None else bearing.outside_mm

    def meets(self, before: int, after: int) -> bool:
        """Whether two shafts lie on one axis, end to end."""
        return self.axes[before] == self.axes[after] and self.held_mm[before][1] < self.held_mm[after][0]

    @property
    def inside_mm(self) -> tuple[float, float, float]:
        """Room along x, up and along z [mm]."""
        left, right = self.reach_mm
        return right - left + 2 * TIP_MM, 2 * self.largest[0] + TIP_MM + SUMP_MM, self.long_mm

    @property
    def seat_mm(self) -> float:
        """Least metal between the bearing seats of neighboring axes [mm]."""
        outside = [
            max((one.outside_mm if one else 2 * d) for one, d, here in self._seats() if here == axis)
            for axis in range(len(self.axes_mm))
        ]
        apart = [
            second - first - (a + b) / 2
            for first, second, a, b in zip(self.axes_mm, self.axes_mm[1:], outside, outside[1:], strict=False)
        ]
        return min(apart)

    def _seats(self) -> Iterator[tuple[Bearing | None, float, int]]:
        return zip(self.bearings, self.diameters_mm, self.axes, strict=True)


def _torques(pairs: Sequence[Pair]) -> tuple[float, ...]:
    """Torque of every shaft [N·m]."""
    driver, driven = pairs[-1].teeth
    return (*(pair.torque_nm for pair in pairs), pairs[-1].torque_nm * driven / driver)


def _along(
    pairs: Sequence[Pair], wide_mm: Sequence[float], folded: bool, gap_mm: float
) -> tuple[tuple[float, ...], tuple[tuple[float, float], ...], float]:
    """Middles of the pairs, middles of both bearings of every shaft, and the whole length inside [mm]."""
    count = len(pairs)
    first = max(wide_mm[:2]) if folded else max(wide_mm)
    begins, ends = [wide / 2 for wide in wide_mm], [0.0] * (count + 1)
    at, middles = first + gap_mm, []
    for number, pair in enumerate(pairs):
        if number and folded:
            # a wall with a boss: the shaft before the last one ends in it, the next but one begins
            at += gap_mm
            ends[number - 1] = at + wide_mm[number - 1] / 2
            at += wide_mm[number - 1] + BOSS_MM
            begins[number + 1] = at + wide_mm[number + 1] / 2
            at += wide_mm[number + 1] + gap_mm
        elif number:
            at += BESIDE_MM
        middles.append(at + pair.face_mm / 2)
        at += pair.face_mm
    last = max(wide_mm[-2:]) if folded else max(wide_mm)
    long = at + gap_mm + last
    through = range(count - 1, count + 1) if folded else range(count + 1)
    for number in through:
        ends[number] = long - wide_mm[number] / 2
    return tuple(middles), tuple(zip(begins, ends, strict=True)), long


def _in_case(places: Places, number: int, slope: float, reliability: int) -> InCase:
    """A shaft with its heavier bearing. What pulls its ends from outside the case is not counted."""
    low, high = places.held_mm[number]
    forces = [*_forces(places, number, slope)]
    far = [sum(force[plane] * (at - low) / (high - low) for at, force in forces) for plane in (0, 1)]
    near = [sum(force[plane] for _, force in forces) - far[plane] for plane in (0, 1)]
    load, bearing = max(hypot(*near), hypot(*far)), places.bearings[number]
    speed = _speed_rpm(places.pairs, number)
    life = None if bearing is None else bearing.life_h(load, speed, reliability)
    return InCase(places.axes[number], places.diameters_mm[number], high - low, bearing, load, speed, life)


def _forces(places: Places, number: int, slope: float) -> Iterator[tuple[float, tuple[float, float]]]:
    """Where teeth push a shaft along z, and with what along x and up [N].

    The driven gear of the pair before and the driver of the pair after; teeth push apart, and around against the
    driver's motion.
    """
    for index, sign in ((number - 1, 1.0), (number, -1.0)):
        if not 0 <= index < len(places.pairs):
            continue
        pair = places.pairs[index]
        around = 2000 * pair.torque_nm / (pair.module_mm * pair.teeth[0])
        toward = 1.0 if places.axes[index + 1] > places.axes[index] else -1.0
        yield places.pairs_mm[index], (sign * toward * around * slope, sign * toward * (-1.0) ** index * around)


def _speed_rpm(pairs: Sequence[Pair], number: int) -> float:
    if number < len(pairs):
        return pairs[number].speed_rpm
    driver, driven = pairs[-1].teeth
    return pairs[-1].speed_rpm * driver / driven


def _dipped_l(pairs: Sequence[Pair], places: Places) -> float:
    """What of the gears is in the oil up to where the largest dips [L]: b (r² acos(c/r) - c √(r² - c²)) each."""
    deep = places.largest[0] - places.dip_mm
    taken = 0.0
    for pair in pairs:
        for side in (0, 1):
            radius = pair.tip_mm(side)
            if radius > deep:
                taken += pair.face_mm * (radius**2 * acos(deep / radius) - deep * sqrt(radius**2 - deep**2))
    return taken / 1e6
