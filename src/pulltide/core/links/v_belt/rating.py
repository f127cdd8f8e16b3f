"""Rating, tension and loss of V-belts. Published rating formulas take inches and give horsepower."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from math import exp, hypot, log10, pi, radians, sin, sqrt

from pulltide.core.links.v_belt import tables
from pulltide.core.observed import strum_hz
from pulltide.core.tables import interpolated
from pulltide.core.units import KW_PER_HP, M_PER_S_PER_FT_PER_MIN, MM_PER_IN

#: Friction of dry rubber on iron, for the load at which a belt really slips. Shigley, from memory.
DRY_FRICTION = 0.3
#: Share of the summed rating that two or more light-duty belts carry together. Common practice, no source.
MATCHED_LIGHT_SHARE = 0.95
N_PER_LBF = 4.4482216


def basic_rating_kw(section: str, small_diameter_mm: float, speed_rpm: float, ratio: float) -> float:
    """Power one belt carries at 180 degrees of wrap [kW]; may come out at or below zero: no rating there.

    Parameters: small pulley diameter d [mm], outside for 3L, 4L, 5L, else pitch; n speed of the small
    pulley [rpm] > 0; ratio i >= 1, large over small pitch diameter.

    Classical and narrow: hp = x (c1 - c2/d - c3 x^2 - c4 log10 x) + c2 r (1 - 1/K_SR), x = d r (RMA IP-20, IP-22).
    3L, 4L, 5L: hp = r (a d^0.91 r^-0.09 - b - c r^2 d^3) (RMA IP-23). r = n / 1000, d in inches.
    3V and the metric sections have no constants here: a share of a neighbor's rating, an estimate.

    >>> round(basic_rating_kw("4L", 76.2, 1725.0, 1.0) / 0.7457, 3)
    0.804
    """
    d_in = small_diameter_mm / MM_PER_IN
    r = speed_rpm / 1000.0
    data = tables.section(section)
    if data.light:
        a, b, c = tables.rating_constants(section)
        return KW_PER_HP * r * float(a * d_in**0.91 * r**-0.09 - b - c * r**2 * d_in**3)
    ratio_factor = tables.ratio_factor(data.group, ratio)
    rated = [_classical_hp(tables.rating_constants(name), d_in, r, ratio_factor) for name in data.rated_as]
    return KW_PER_HP * data.rated_share * sum(rated) / len(rated)


def _classical_hp(constants: tuple[float, ...], d_in: float, r: float, ratio_factor: float) -> float:
    c1, c2, c3, c4 = constants
    x = d_in * r
    return float(x * (c1 - c2 / d_in - c3 * x**2 - c4 * log10(x)) + c2 * r * (1.0 - 1.0 / ratio_factor))


#: What a wary builder takes of the narrow and cogged-narrow ratings, which are recalled. Common practice, no source.
CAUTIOUS_NARROW = 0.8


def cautious_rating_kw(
    section: str, small_pitch_mm: float, speed_rpm: float, belt_speed_m_per_s: float
) -> float | None:
    """A second, more cautious rating of one belt at 180 degrees [kW], or None where none is known.

    A, B, C: the older table; AX, BX, CX: the plain section; 5V, 3VX, 5VX: 0.8 of the standard. No ratio add-on.
    """
    data = tables.section(section)
    if data.light or data.estimated:
        return None
    if data.group == "narrow" or data.cogged:
        share, name = (CAUTIOUS_NARROW, section) if data.group == "narrow" else (1.0, data.plain)
        rated = share * basic_rating_kw(name, small_pitch_mm, speed_rpm, 1.0)
        return rated if rated > 0 else None
    feet = belt_speed_m_per_s / M_PER_S_PER_FT_PER_MIN
    old_hp = tables.old_rating_hp(section, small_pitch_mm / MM_PER_IN, feet)
    return None if old_hp is None else old_hp * KW_PER_HP


#: Most that the arc factor may reach beyond 180 degrees, with an idler. Common practice, no source.
MAX_ARC_FACTOR = 1.05
#: Tension ratio of half a turn on a groove and on a flat drum. Basis of the arc factors, RMA IP-20.
GROOVE_RATIO, DRUM_RATIO = 5.0, 2.5


def drum_arc_factor(drum_wrap_deg: float) -> float:
    """Arc factor of the flat drum of a V-flat drive [-]: 1.25 (1 - 2.5^(-theta/180)). Source: RMA IP-20, from memory.

    >>> round(drum_arc_factor(360 - 130.48), 4)
    0.8614
    """
    return float(1.25 * (1.0 - DRUM_RATIO ** (-drum_wrap_deg / 180.0)))


def arc_factor(wrap_deg: float) -> float:
    """Arc of contact factor K_theta = 1.25 (1 - 5^(-theta/180)) [-]; theta wrap [degrees].

    Reproduces Shigley Table 17-13 within 0.005.

    >>> round(arc_factor(157.10), 4)
    0.9432
    """
    return min(float(1.25 * (1.0 - GROOVE_RATIO ** (-wrap_deg / 180.0))), MAX_ARC_FACTOR)


def tension_ratio(wrap_deg: float) -> float:
    """Design ratio of tight to slack tension R = 5^(theta/180) [-]. Source: basis of the arc factor, RMA IP-20."""
    return float(5.0 ** (wrap_deg / 180.0))


def drum_tension_ratio(drum_wrap_deg: float) -> float:
    """Design ratio of tensions on a flat drum 2.5^(theta/180) [-]. Basis of the drum's arc factor, RMA IP-20."""
    return float(DRUM_RATIO ** (drum_wrap_deg / 180.0))


def dry_drum_ratio(drum_wrap_deg: float) -> float:
    """Tension ratio at which a dry belt slips on a flat drum: exp(mu theta) [-], mu = 0.3."""
    return exp(DRY_FRICTION * radians(drum_wrap_deg))


def dry_tension_ratio(wrap_deg: float, groove_angle_deg: float) -> float:
    """Tension ratio at which a dry belt slips: exp(mu theta / sin(beta/2)) [-], mu = 0.3."""
    return exp(DRY_FRICTION * radians(wrap_deg) / sin(radians(groove_angle_deg / 2)))


#: Loss of a well-chosen V-belt drive over the power it carries [kW]: the middle of a band, a third either way.
#: Source: fan-engineering charts of belt drive loss, from memory, low confidence. The European rules for fans (EU
#: 327/2011, annex II, from memory) count 11 % up to 1 kW and 4 % from 5 kW on, inside that band.
DRIVE_LOSS = ((0.186, 0.15), (0.746, 0.09), (3.73, 0.06), (7.46, 0.05), (37.3, 0.035))
LOG_LOSS = tuple((log10(power), log10(share)) for power, share in DRIVE_LOSS)
LOSS_BAND = (2 / 3, 4 / 3)
#: Loss without load over the power of the usual pull: good pulleys, then what bending makes of it: cogged and narrow
#: belts bend easily, a pulley of the least diameter bends them hard. Common practice, no source: 1 to 3 %.
IDLE_SHARE, SUPPLE, HARD_BENT = 0.015, 0.7, 1.5
#: A well-chosen drive carries its rating over this. Common practice, no source: the usual service factor.
WELL_CHOSEN = 1.4
#: Belt speed at which a section's usual pull is taken [m/s], and the multiple of the least diameter that bends easily.
USUAL_SPEED_M_S, GOOD_FROM = 10.0, 1.5
#: Creep under the usual pull: good pulleys, the least pulley, supple belts, a flat drum. Common practice, no source:
#: 1 to 2 %.
CREEP_GOOD, CREEP_LEAST, CREEP_SUPPLE, CREEP_DRUM = 0.011, 0.014, 0.007, 0.014
#: Creep beyond which a belt slips instead.
MAX_CREEP = 0.2


def drive_loss_share(power_kw: float) -> float:
    """Loss of a well-chosen drive as a share of the power [kW > 0] it carries [-]; straight on log scales, held beyond.

    >>> round(drive_loss_share(0.746), 3), round(drive_loss_share(2.24), 3), round(drive_loss_share(0.1), 3)
    (0.09, 0.068, 0.15)
    """
    return float(10 ** interpolated(LOG_LOSS, log10(max(power_kw, 1e-6))))


@cache
def usual_pull_n(section: str) -> float:
    """Pull for which one belt of a section is made [N]: its rating at 10 m/s on good pulleys, over 1.4.

    >>> round(usual_pull_n("A")), round(usual_pull_n("B"))
    (177, 357)
    """
    data = tables.section(section)
    diameter = GOOD_FROM * data.min_diameter_mm
    speed = 60_000 * USUAL_SPEED_M_S / (pi * diameter)
    return 1000 * basic_rating_kw(section, diameter, speed, 1.0) / USUAL_SPEED_M_S / WELL_CHOSEN


@dataclass(frozen=True, slots=True)
class Loss:
    """How a set of belts creeps and loses: ``idle`` is lost without load, as a share of the power of the usual pull
    [N, all belts]; ``creep`` is that under the usual pull.
    """

    usual_n: float
    idle: float
    creep: float

    def usual_kw(self, belt_speed_m_per_s: float) -> float:
        """Power of the usual pull [kW]."""
        return self.usual_n * belt_speed_m_per_s / 1000

    def loss_kw(self, power_kw: float, belt_speed_m_per_s: float) -> float:
        """Power lost while a power is delivered [kW]: √((f P)² + (i P_u)²), f by the chart at the power carried.

        The chart holds for drives chosen for their load; far more belt than that adds what bending it takes.
        """
        return hypot(drive_loss_share(power_kw) * power_kw, self.idle * self.usual_kw(belt_speed_m_per_s))

    def creep_at(self, power_kw: float, belt_speed_m_per_s: float) -> float:
        """Creep [-] while a power is delivered: in proportion to the pull."""
        return min(self.creep * power_kw / self.usual_kw(belt_speed_m_per_s), MAX_CREEP)


def loss_model(section: str, belts: int, small_over_least: float, on_drum: bool = False) -> Loss:
    """How belts lose and creep, by section, number and small pulley over the least one. Common practice, no source.

    Cogged and narrow belts bend easily; on a flat drum they creep more.
    """
    data = tables.section(section)
    share = min(max((small_over_least - 1.0) / (GOOD_FROM - 1.0), 0.0), 1.0)
    bent = HARD_BENT + share * (1 - HARD_BENT)
    creep = CREEP_LEAST + share * (CREEP_GOOD - CREEP_LEAST)
    if data.cogged or data.group == "narrow":
        bent, creep = SUPPLE, CREEP_SUPPLE
    return Loss(belts * usual_pull_n(section), IDLE_SHARE * bent, max(creep, CREEP_DRUM) if on_drum else creep)


#: Bending constant of an A belt [lbf·in], for sections that have none: by their mass. Shigley Table 17-16, from memory.
A_BENDING, A_MASS = 220.0, 0.097
NM_PER_LBF_IN = 0.112985


@cache
def bending_nm2(section: str) -> float:
    """Bending stiffness EI of a belt [N·m²]: K_b h / 12, K_b the constant of its life trend, h its depth.

    >>> round(bending_nm2("A"), 4), round(bending_nm2("B"), 3)
    (0.0178, 0.061)
    """
    data, life = tables.section(section), tables.life(section)
    constant = life.bending if life is not None else A_BENDING * (data.mass_kg_per_m / A_MASS) ** 2
    return constant * NM_PER_LBF_IN * data.depth_mm / 1000 / 12


@dataclass(frozen=True, slots=True, kw_only=True)
class Tension:
    """Tensions of one belt [N] and what to measure them by, for a design pull."""

    pull_n: float
    centrifugal_n: float
    ratio: float
    static_n: float
    span_mm: float
    deflection_mm: float
    deflection_force_n: float
    frequency_hz: float
    handbook_static_n: float
    shaft_load_n: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Span:
    """What tension depends on besides the pull: wrap, belt speed, center, mass, how it is held."""

    wrap_deg: float
    speed_m_per_s: float
    center_mm: float
    chord_mm: float
    mass_kg_per_m: float
    locked: bool
    drum_wrap_deg: float | None = None
    bending_nm2: float = 0.0

    @property
    def ratio(self) -> float:
        """Design ratio of tight to slack tension, of the side that slips first."""
        ratio = tension_ratio(self.wrap_deg)
        return ratio if self.drum_wrap_deg is None else min(ratio, drum_tension_ratio(self.drum_wrap_deg))

    @property
    def arc_factor(self) -> float:
        """Arc factor of the side that slips first."""
        factor = arc_factor(self.wrap_deg)
        return factor if self.drum_wrap_deg is None else min(factor, drum_arc_factor(self.drum_wrap_deg))


def static_tension_n(pull_n: float, span: Span) -> float:
    """Tension to set at rest in each belt [N] for a design pull F [N].

    Locked centers: F (R + 1) / (2 (R - 1)) + T_c; a constant pull base needs no T_c. T_c = m v^2.
    Source: balance of forces; R as in the arc factor.
    """
    ratio = span.ratio
    centrifugal = span.mass_kg_per_m * span.speed_m_per_s**2
    return pull_n * (ratio + 1) / (2 * (ratio - 1)) + (centrifugal if span.locked else 0.0)


def handbook_static_tension_n(pull_n: float, span: Span) -> float:
    """Static tension by RMA IP-20 [N]: 15/33 of ((2.5 - K) / K) F + 0.9 T_c, the lowest published figure."""
    factor = span.arc_factor
    centrifugal = span.mass_kg_per_m * span.speed_m_per_s**2
    return 15.0 / 33.0 * (2.5 - factor) / factor * pull_n + 0.9 * centrifugal


def shaft_load_n(pull_n: float, mean_n: float, belts: int, span: Span) -> float:
    """Force of all belts on either shaft [N] from pull F and mean tension without T_c, each belt [N].

    Q = sqrt(A^2 + B^2 + 2 A B cos 2 gamma), A and B the strand tensions. Source: exact.
    """
    tight, slack = belts * (mean_n + pull_n / 2), belts * max(mean_n - pull_n / 2, 0.0)
    cos_two_gamma = -_cos_deg(span.wrap_deg)
    return sqrt(tight**2 + slack**2 + 2 * tight * slack * cos_two_gamma)


def _cos_deg(angle_deg: float) -> float:
    return sin(radians(90.0 - angle_deg))


def tension(pull_n: float, belts: int, span: Span, set_n: float | None) -> Tension:
    """Tensions for a design pull per belt [N]; ``set_n`` is the tension really set, if it is known."""
    ratio = span.ratio
    centrifugal = span.mass_kg_per_m * span.speed_m_per_s**2
    static = static_tension_n(pull_n, span) if set_n is None else set_n
    mean = max(static - (centrifugal if span.locked else 0.0), 0.0)
    frequency = strum_hz(static, span.chord_mm, span.mass_kg_per_m, span.bending_nm2) if static > 0 else 0.0
    return Tension(
        pull_n=pull_n,
        centrifugal_n=centrifugal,
        ratio=ratio,
        static_n=static,
        span_mm=span.chord_mm,
        deflection_mm=span.chord_mm / 64,
        deflection_force_n=static / 16,
        frequency_hz=frequency,
        handbook_static_n=handbook_static_tension_n(pull_n, span),
        shaft_load_n=shaft_load_n(pull_n, mean, belts, span),
    )


def slip_pull_n(static_n: float, ratio: float, span: Span) -> float:
    """Pull at which one belt slips [N] for a static tension and a tension ratio: 2 (T - T_c)(R - 1)/(R + 1)."""
    centrifugal = span.mass_kg_per_m * span.speed_m_per_s**2
    mean = max(static_n - (centrifugal if span.locked else 0.0), 0.0)
    return 2 * mean * (ratio - 1) / (ratio + 1)


@dataclass(frozen=True, slots=True)
class Life:
    """Life trend of one belt: peaks [N] on both pulleys, passes until it tires, hours."""

    peak_small_n: float
    peak_large_n: float
    passes: float
    hours: float


#: The fit holds up to here; beyond it more is not told.
MAX_PASSES = 1e9


def life(
    section: str, tight_n: float, diameters_mm: tuple[float, float], length_mm: float, speed_m_per_s: float
) -> Life | None:
    """Life trend of a belt, None where the section has no constants. ``tight_n`` holds the centrifugal tension.

    T = F1 + K_b / d on both pulleys; N = 1 / ((K/T1)^-b + (K/T2)^-b), told up to 1e9; hours = N L / (720 V), L in
    inches, V in ft/min. A ranking: with an exponent near 11, hours are good to a factor of five.
    Source: Shigley Eq. 17-25 to 17-28, Tables 17-16 and 17-17, from memory.
    """
    data = tables.life(section)
    if data is None:
        return None
    peaks = [tight_n / N_PER_LBF + data.bending / (mm / MM_PER_IN) for mm in diameters_mm]
    used = sum((data.life_force_lbf / peak) ** -data.exponent for peak in peaks)
    passes = 1 / used
    counted = min(passes, MAX_PASSES)
    hours = counted * length_mm / MM_PER_IN / (720 * speed_m_per_s / M_PER_S_PER_FT_PER_MIN)
    return Life(peaks[0] * N_PER_LBF, peaks[1] * N_PER_LBF, passes, hours)
