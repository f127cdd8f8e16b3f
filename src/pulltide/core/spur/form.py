"""The form of a generated spur tooth: fillet, undercut, tip, path of contact, and how it bends.

Lengths in modules (m = 1); angles in radians inside, in degrees where a name says so. z is any real number of teeth.
The fillet is that which the rack of the tool leaves; bending follows Lewis and, with the notch, AGMA 908.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from math import acos, atan2, cos, degrees, inf, pi, radians, sin, sqrt, tan

from pulltide.core.errors import ImpossibleGeometry

#: Teeth that stand for a rack or a ring.
RACK = 100_000.0
#: Depth and tip radius of the tool [modules] by pressure angle. ISO 53 and AGMA racks, from memory: these reproduce the
#: published geometry factors within 0.01.
TOOLS = {14.5: (1.157, 0.209), 20.0: (1.25, 0.25), 25.0: (1.35, 0.27)}
#: How much thinner a tooth is cut for backlash [modules]. Source: AGMA 908.
THINNED = 0.024
#: Points at which a fillet is scanned for its weakest section, and the golden section that refines it.
SCANNED, GOLDEN = 60, (sqrt(5) - 1) / 2


def involute(angle: float) -> float:
    """Involute function inv a = tan a - a."""
    return tan(angle) - angle


def angle_of_involute(value: float) -> float:
    """The angle [radians] whose involute has a value >= 0; Newton's method.

    >>> round(angle_of_involute(involute(0.4)), 12)
    0.4
    """
    angle = float(min((3 * max(value, 0.0)) ** (1 / 3), 1.2))
    for _ in range(40):
        slope = tan(angle) ** 2
        if slope < 1e-18:
            return angle
        step = (involute(angle) - value) / slope
        angle -= step
        if abs(step) < 1e-14:
            break
    return angle


@dataclass(frozen=True, slots=True)
class Tooth:
    """One generated tooth: teeth z, pressure angle [degrees], profile shift x; tip shortened and flanks thinned."""

    teeth: float
    angle_deg: float = 20.0
    shift: float = 0.0
    shortened: float = 0.0
    thinned: float = THINNED

    @property
    def phi(self) -> float:
        """Pressure angle [radians]."""
        return radians(self.angle_deg)

    @property
    def pitch_radius(self) -> float:
        """Pitch radius z / 2."""
        return self.teeth / 2

    @property
    def base_radius(self) -> float:
        """Base radius r cos φ."""
        return self.pitch_radius * cos(self.phi)

    @property
    def tip_radius(self) -> float:
        """Tip radius r + 1 + x, less what the tip is shortened by."""
        return self.pitch_radius + 1 + self.shift - self.shortened

    @property
    def tool(self) -> tuple[float, float]:
        """Depth of the tool under its pitch line after the shift, and the radius of its tip."""
        depth, radius = TOOLS[self.angle_deg]
        # no round is larger than one that takes up the whole tip of the tool
        half, slope = pi / 4 + self.thinned / 2, tan(self.phi)
        full = (half - depth * slope) / (1 / cos(self.phi) - slope)
        return depth - self.shift, min(radius, full)

    def half_angle(self, radius: float) -> float:
        """Half the angle [radians] that the involute tooth takes up at a radius: s / 2r + inv φ - inv φ_R."""
        thickness = pi / 2 + 2 * self.shift * tan(self.phi) - self.thinned
        at = acos(min(self.base_radius / radius, 1.0))
        return thickness / self.teeth + involute(self.phi) - involute(at)

    @property
    def tip_thickness(self) -> float:
        """Thickness at the tip [modules]; zero or less: pointed. Source: exact."""
        return 2 * self.tip_radius * self.half_angle(self.tip_radius)

    @property
    def straight_depth(self) -> float:
        """How deep the straight flank of the tool reaches: h_f - x - ρ (1 - sin φ)."""
        depth, radius = self.tool
        return depth - radius * (1 - sin(self.phi))

    @property
    def undercut(self) -> bool:
        """Whether the tool cuts into the flank: its straight depth is over r sin²φ. Source: exact."""
        return self.straight_depth > self.pitch_radius * sin(self.phi) ** 2

    def fillet(self, alpha: float) -> tuple[float, float]:
        """Radius and half angle [radians] of a point of the fillet, by the normal of the tool there."""
        depth, rho = self.tool
        eta = depth - rho
        # half a space at the pitch circle is π/4, half the thinning, less what a shift takes off: the tip's center lies
        # c inside it
        half = pi / 4 + self.thinned / 2 - self.shift * tan(self.phi)
        c = max(half - eta * tan(self.phi) - rho / cos(self.phi), 0.0)
        r = self.pitch_radius
        xi = eta / tan(alpha) if alpha < pi / 2 else 0.0
        theta = (xi - c) / r
        across, along = xi + rho * cos(alpha), r - eta - rho * sin(alpha)
        x = across * cos(theta) - along * sin(theta)
        y = across * sin(theta) + along * cos(theta)
        return sqrt(x * x + y * y), pi / self.teeth - atan2(x, y)

    @property
    def root_curvature(self) -> float:
        """Least radius of the fillet, at the root: ρ + η² / (r + η). Source: exact."""
        depth, rho = self.tool
        eta = depth - rho
        return rho + eta**2 / (self.pitch_radius + eta)

    @property
    def form(self) -> tuple[float, float]:
        """Radius where the involute begins, and the tool's normal [radians] at the fillet's end there."""
        return _form(self)


@lru_cache(maxsize=4096)
def _form(tooth: Tooth) -> tuple[float, float]:
    r, phi, rb = tooth.pitch_radius, tooth.phi, tooth.base_radius
    if not tooth.undercut:
        inner = r * sin(phi) - tooth.straight_depth / sin(phi)
        return sqrt(rb**2 + inner**2), phi

    def gap(alpha: float) -> float:
        radius, half = tooth.fillet(alpha)
        return half - tooth.half_angle(max(radius, rb))

    low, high = phi, phi + radians(35)
    steps = [low + (high - low) * k / 240 for k in range(241)]
    least = min(steps, key=gap)
    if gap(least) >= 0 or gap(low) <= 0:
        return max(tooth.fillet(low)[0], rb), low
    a, b = low, least
    for _ in range(60):
        middle = (a + b) / 2
        a, b = (middle, b) if gap(middle) > 0 else (a, middle)
    return max(tooth.fillet(b)[0], rb), b


@dataclass(frozen=True, slots=True)
class Path:
    """Path of contact of two teeth along their line of action, from the pinion's base tangent point."""

    start: float
    end: float
    base_pitch: float
    center: float

    @property
    def ratio(self) -> float:
        """Pairs of teeth in contact on average; never negative."""
        return max(self.end - self.start, 0.0) / self.base_pitch


def working_angle(first: Tooth, second: Tooth, center: float) -> float:
    """Pressure angle [radians] at a center distance: cos φ' = (r_b1 + r_b2) / C. Source: exact."""
    return acos(min((first.base_radius + second.base_radius) / center, 1.0))


@lru_cache(maxsize=4096)
def tight_center(first: Tooth, second: Tooth) -> float:
    """Center distance without backlash: inv φ' = inv φ + 2 tan φ (x1 + x2) / (z1 + z2). Source: exact.

    Raises ImpossibleGeometry where the shifts are so low that none exists.

    >>> round(tight_center(Tooth(17, shift=0.2), Tooth(52, shift=0.326)), 3)
    35.0
    """
    z = first.teeth + second.teeth
    wanted = involute(first.phi) + 2 * tan(first.phi) * (first.shift + second.shift) / z
    if wanted <= 0:
        raise ImpossibleGeometry("the profile shifts bring the centers closer than any pressure angle allows")
    return float(z / 2 * cos(first.phi) / cos(angle_of_involute(wanted)))


@lru_cache(maxsize=4096)
def contact_path(first: Tooth, second: Tooth, spread: float = 0.0) -> Path:
    """Path of contact of an external pair, undercut counted, centers spread by so many modules.

    Source: exact; for teeth without undercut the formula of Shigley section 13-4.

    >>> round(contact_path(Tooth(18), Tooth(18)).ratio, 2), round(contact_path(Tooth(12), Tooth(60)).ratio, 2)
    (1.53, 1.24)
    """
    center = tight_center(first, second) + spread
    phi = working_angle(first, second, center)
    line = center * sin(phi)
    tips = [sqrt(max(t.tip_radius**2 - t.base_radius**2, 0.0)) for t in (first, second)]
    forms = [sqrt(max(t.form[0] ** 2 - t.base_radius**2, 0.0)) for t in (first, second)]
    start = max(line - tips[1], forms[0], 0.0)
    end = min(tips[0], line - forms[1], line)
    return Path(start, end, pi * cos(first.phi), center)


@dataclass(frozen=True, slots=True)
class Bending:
    """How a tooth bends under a load at a radius: critical thickness s, lever h, Lewis Y, and J with the notch."""

    thickness: float
    lever: float
    lewis: float
    notch: float
    factor: float


def load_angle(tooth: Tooth, load_radius: float) -> float:
    """Angle [radians] at which a load at a radius leans on the tooth: pressure angle there less half the tooth."""
    at = acos(min(tooth.base_radius / load_radius, 1.0))
    return tan(at) - tooth.half_angle(tooth.base_radius)


@lru_cache(maxsize=4096)
def bending(tooth: Tooth, load_radius: float) -> Bending:
    """Weakest section of a fillet under a load at a radius: inscribed parabola; notch by Dolan and Broghamer.

    Source: AGMA 908, procedure from memory.
    """
    phi = tooth.phi
    load = load_angle(tooth, load_radius)
    vertex = tooth.base_radius / cos(load)

    def section(alpha: float) -> tuple[float, float]:
        radius, half = tooth.fillet(alpha)
        return 2 * radius * sin(half), vertex - radius * cos(half)

    def weakness(alpha: float) -> float:
        s, h = section(alpha)
        return inf if h <= 1e-9 else s * s / h

    low, high = tooth.form[1], pi / 2 - 1e-9
    steps = [low + (high - low) * k / SCANNED for k in range(SCANNED + 1)]
    best = min(range(SCANNED + 1), key=lambda k: weakness(steps[k]))
    a, b = steps[max(best - 1, 0)], steps[min(best + 1, SCANNED)]
    for _ in range(40):
        c, d = b - GOLDEN * (b - a), a + GOLDEN * (b - a)
        a, b = (a, d) if weakness(c) < weakness(d) else (c, b)
    s, h = section((a + b) / 2)
    lewis = s * s / (6 * h)
    form = 1 / (cos(load) / cos(phi) * (6 * h / s**2 - tan(load) / s))
    base, power_s, power_h = 0.331 - 0.436 * phi, 0.324 - 0.492 * phi, 0.261 + 0.545 * phi
    notch = base + (s / tooth.root_curvature) ** power_s * (s / h) ** power_h
    return Bending(s, h, lewis, notch, form / notch)


def lewis_form(tooth: Tooth) -> float:
    """Lewis form factor Y under a load at the tip.

    >>> round(lewis_form(Tooth(12, thinned=0.0)), 4), round(lewis_form(Tooth(8, thinned=0.0)), 4)
    (0.2246, 0.1501)
    """
    return bending(tooth, tooth.tip_radius).lewis


@lru_cache(maxsize=4096)
def geometry_factor(tooth: Tooth, mate: Tooth, spread: float = 0.0, shared: bool = True) -> float:
    """Bending geometry factor J of an external tooth [-]: at the highest point of single contact, or at the tip.

    ``shared`` says whether the teeth are true enough to share the load; where fewer than one pair is in contact on
    average the tip counts.

    >>> round(geometry_factor(Tooth(17), Tooth(52)), 3), round(geometry_factor(Tooth(17), Tooth(52), 0.0, False), 3)
    (0.321, 0.232)
    """
    path = contact_path(tooth, mate, spread)
    if not shared or path.ratio < 1:
        return bending(tooth, tooth.tip_radius).factor
    reach = min(path.start + path.base_pitch, path.end)
    return bending(tooth, sqrt(tooth.base_radius**2 + reach**2)).factor


def min_shift(teeth: float, angle_deg: float) -> float:
    """Least profile shift without undercut [-]: h_f - ρ (1 - sin φ) - z sin²φ / 2. Source: exact.

    >>> round(min_shift(10, 20.0), 2), round(min_shift(20, 20.0), 2)
    (0.5, -0.08)
    """
    tooth = Tooth(teeth, angle_deg)
    return tooth.straight_depth - teeth * sin(tooth.phi) ** 2 / 2


def working_angle_deg(first: Tooth, second: Tooth, spread: float = 0.0) -> float:
    """Working pressure angle [degrees] at the tight center distance plus a spread."""
    return degrees(working_angle(first, second, tight_center(first, second) + spread))
