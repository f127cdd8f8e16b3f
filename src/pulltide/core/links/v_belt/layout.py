"""Where the pulleys, the drum and the idler of a V-belt stand: all that does not depend on load."""

from __future__ import annotations

from dataclasses import dataclass

from pulltide.core import belt_path
from pulltide.core import open_belt as geometry
from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.findings import Finding, judge, state
from pulltide.core.links.v_belt import checks, tables
from pulltide.core.links.v_belt.inputs import VBelt
from pulltide.core.two_wheels import just_clear_mm, placed_center


@dataclass(frozen=True, slots=True, kw_only=True)
class Layout:
    """Load-independent sizes of one step [mm, degrees]; ``fault`` names a belt that cannot be fitted.

    ``path`` is set with an idler: the wheels in belt order, driver, driven, idler.
    """

    driver_pitch_mm: float
    driven_pitch_mm: float
    driver_outside_mm: float
    driven_outside_mm: float
    length_mm: float
    center_mm: float
    driver_wrap_deg: float
    driven_wrap_deg: float
    span_mm: float
    fault: Finding | None
    path: tuple[belt_path.Round, ...] = ()
    drum: bool = False

    @property
    def small_pitch_mm(self) -> float:
        """Pitch diameter of the smaller pulley."""
        return min(self.driver_pitch_mm, self.driven_pitch_mm)

    @property
    def small_outside_mm(self) -> float:
        """Outside diameter of the smaller pulley."""
        return min(self.driver_outside_mm, self.driven_outside_mm)

    @property
    def large_pitch_mm(self) -> float:
        """Pitch diameter of the larger pulley."""
        return max(self.driver_pitch_mm, self.driven_pitch_mm)

    @property
    def reduction(self) -> float:
        """Large over small pitch diameter, >= 1."""
        return self.large_pitch_mm / self.small_pitch_mm

    @property
    def wrap_deg(self) -> float:
        """Wrap that decides: of the smaller pulley, or of the grooved one beside a drum."""
        if self.drum:
            return self.driver_wrap_deg
        driver_smaller = self.driver_pitch_mm <= self.driven_pitch_mm
        return self.driver_wrap_deg if driver_smaller else self.driven_wrap_deg

    @property
    def drum_wrap_deg(self) -> float | None:
        """Wrap of the flat drum, where there is one."""
        return self.driven_wrap_deg if self.drum else None


@dataclass(frozen=True, slots=True)
class Pulleys:
    """Diameters of both pulleys at one step [mm]."""

    driver_pitch_mm: float
    driven_pitch_mm: float
    driver_outside_mm: float
    driven_outside_mm: float

    @property
    def touching_mm(self) -> float:
        """Center distance at which the rims touch."""
        return (self.driver_outside_mm + self.driven_outside_mm) / 2


def pulleys(link: VBelt, step: int) -> Pulleys:
    """Pitch and outside diameters of a step. A drum's pitch line lies outside it: outside plus 2 x belt depth to it."""
    pair, data = link.steps[step - 1], tables.section(link.section)
    gap = data.outside_minus_pitch_mm
    inward = gap if link.measured_as == "outside" else 0.0
    driver = pair.driver_diameter_mm - inward
    if link.driven_rim == "flat_drum" and data.flat_drum_mm is not None:
        drum = pair.driven_diameter_mm
        return Pulleys(driver, drum + data.flat_drum_mm, driver + gap, drum)
    driven = pair.driven_diameter_mm - inward
    return Pulleys(driver, driven, driver + gap, driven + gap)


def idler_of(link: VBelt) -> belt_path.Idler | None:
    """The idler at the pitch line, or None. A flat one carries the belt by its inside or its back."""
    if link.idler == "none" or link.idler_diameter_mm is None:
        return None
    data, on_back = tables.section(link.section), link.idler_on_back
    if data.flat_drum_mm is None:
        add = data.outside_minus_pitch_mm if on_back else -data.outside_minus_pitch_mm
    else:
        add = 2 * data.depth_mm - data.flat_drum_mm if on_back else data.flat_drum_mm
    radius = (link.idler_diameter_mm + add) / 2
    return belt_path.Idler(radius, link.idler_share, link.idler_push_mm, on_back)


def layout(link: VBelt, step: int, subject: str = "link") -> Layout:
    """Sizes of one step (from 1). A belt that does not fit is noted in ``fault``, and the rims drawn just clear."""
    sizes = pulleys(link, step)
    small, large = sorted((sizes.driver_pitch_mm, sizes.driven_pitch_mm))
    center, fault = _center(link, sizes, subject)
    idler = idler_of(link)
    if idler is not None and fault is None:
        try:
            return _with_idler(link, sizes, center, idler)
        except ImpossibleGeometry:
            fault = state(checks.IDLER_OFF, subject, link.idler_push_mm)
            center = just_clear_mm(center, sizes.touching_mm)
    wrap = geometry.wrap_small_deg(small, large, center)
    wraps = (wrap, 360 - wrap) if sizes.driver_pitch_mm <= sizes.driven_pitch_mm else (360 - wrap, wrap)
    return Layout(
        driver_pitch_mm=sizes.driver_pitch_mm,
        driven_pitch_mm=sizes.driven_pitch_mm,
        driver_outside_mm=sizes.driver_outside_mm,
        driven_outside_mm=sizes.driven_outside_mm,
        length_mm=geometry.open_belt_length_mm(small, large, center),
        center_mm=center,
        driver_wrap_deg=wraps[0],
        driven_wrap_deg=wraps[1],
        span_mm=(center**2 - (large - small) ** 2 / 4) ** 0.5,
        fault=fault,
        drum=link.driven_rim == "flat_drum",
    )


def _center(link: VBelt, sizes: Pulleys, subject: str) -> tuple[float, Finding | None]:
    """Center distance without an idler, and what is wrong with it."""
    small, large = sorted((sizes.driver_pitch_mm, sizes.driven_pitch_mm))
    length = 0.0 if link.belt is None else tables.belt(link.section, link.belt).pitch_length_mm

    def too_short() -> Finding:
        return judge(checks.TOO_SHORT, subject, length, geometry.open_belt_length_mm(small, large, sizes.touching_mm))

    by_length = None if link.belt is None else lambda: geometry.center_from_length_mm(length, small, large)
    touch = (checks.TOUCH, subject)
    return placed_center(sizes.touching_mm, link.center_distance_mm, by_length, too_short, touch)


def _with_idler(link: VBelt, sizes: Pulleys, start_mm: float, idler: belt_path.Idler) -> Layout:
    radii = (sizes.driver_pitch_mm / 2, sizes.driven_pitch_mm / 2)
    center = start_mm
    if link.belt is not None:
        length = tables.belt(link.section, link.belt).pitch_length_mm
        center = belt_path.center_with_idler_mm(length, *radii, start_mm, idler)
    wheels = belt_path.with_idler(*radii, center, idler)
    path = belt_path.belt_path(wheels)
    if center <= sizes.touching_mm:
        raise ImpossibleGeometry("The idler takes so much belt that the pulleys would touch.")
    return Layout(
        driver_pitch_mm=sizes.driver_pitch_mm,
        driven_pitch_mm=sizes.driven_pitch_mm,
        driver_outside_mm=sizes.driver_outside_mm,
        driven_outside_mm=sizes.driven_outside_mm,
        length_mm=path.length_mm,
        center_mm=center,
        driver_wrap_deg=path.wraps_deg[0],
        driven_wrap_deg=path.wraps_deg[1],
        span_mm=path.spans[0].length_mm,
        fault=None,
        path=wheels,
        drum=link.driven_rim == "flat_drum",
    )
