"""Rating, tension and loss of V-belts. Published rating formulas take inches and give horsepower."""

from __future__ import annotations

from dataclasses import dataclass
from math import exp, log10, radians, sin, sqrt

from pulltide.core.links.v_belt import tables
from pulltide.core.units import KW_PER_HP, MM_PER_IN

#: Friction of dry rubber on iron, for the load at which a belt really slips. Shigley, from memory.
DRY_FRICTION = 0.3
#: Share of the summed rating that two or more light-duty belts carry together. Common practice, no source.
MATCHED_LIGHT_SHARE = 0.95


def basic_rating_kw(section: str, small_diameter_mm: float, speed_rpm: float, ratio: float) -> float:
    """Power one belt carries at 180 degrees of wrap [kW]; may come out at or below zero: no rating there.

    Parameters: small pulley diameter d [mm], pitch (A, B) or outside (3L, 4L, 5L); n speed of the small
    pulley [rpm] > 0; ratio i >= 1, large over small pitch diameter.

    A, B: hp = x (c1 - c2/d - c3 x^2 - c4 log10 x) + c2 r (1 - 1/K_SR), x = d r (RMA IP-20).
    3L, 4L, 5L: hp = r (a d^0.91 r^-0.09 - b - c r^2 d^3) (RMA IP-23). r = n / 1000, d in inches.

    >>> round(basic_rating_kw("4L", 76.2, 1725.0, 1.0) / 0.7457, 3)
    0.804
    """
    d_in = small_diameter_mm / MM_PER_IN
    r = speed_rpm / 1000.0
    if tables.section(section).light:
        a, b, c = tables.rating_constants(section)
        return KW_PER_HP * r * float(a * d_in**0.91 * r**-0.09 - b - c * r**2 * d_in**3)
    c1, c2, c3, c4 = tables.rating_constants(section)
    x = d_in * r
    basic_hp = x * (c1 - c2 / d_in - c3 * x**2 - c4 * log10(x))
    add_on_hp = c2 * r * (1.0 - 1.0 / tables.ratio_factor(ratio))
    return KW_PER_HP * (basic_hp + add_on_hp)


def arc_factor(wrap_deg: float) -> float:
    """Arc of contact factor K_theta = 1.25 (1 - 5^(-theta/180)) [-]; theta wrap [degrees].

    Reproduces Shigley Table 17-13 within 0.005.

    >>> round(arc_factor(157.10), 4)
    0.9432
    """
    return float(1.25 * (1.0 - 5.0 ** (-wrap_deg / 180.0)))


def tension_ratio(wrap_deg: float) -> float:
    """Design ratio of tight to slack tension R = 5^(theta/180) [-]. Source: basis of the arc factor, RMA IP-20."""
    return float(5.0 ** (wrap_deg / 180.0))


def dry_tension_ratio(wrap_deg: float, groove_angle_deg: float) -> float:
    """Tension ratio at which a dry belt slips: exp(mu theta / sin(beta/2)) [-], mu = 0.3."""
    return exp(DRY_FRICTION * radians(wrap_deg) / sin(radians(groove_angle_deg / 2)))


@dataclass(frozen=True, slots=True)
class Loss:
    """Constants of the loss model: no-load share of the rating, and creep at full rating."""

    no_load_share: float
    creep_at_rating: float


GOOD_DIAMETER = Loss(0.025, 0.015)
LEAST_DIAMETER = Loss(0.05, 0.02)
#: Up to which multiple of the least diameter the loss still falls. Common practice, no source.
GOOD_FROM = 1.5


def loss_model(small_over_least: float) -> Loss:
    """Loss constants by small diameter over the section's least one; common practice, no source."""
    share = min(max((small_over_least - 1.0) / (GOOD_FROM - 1.0), 0.0), 1.0)
    return Loss(
        LEAST_DIAMETER.no_load_share + share * (GOOD_DIAMETER.no_load_share - LEAST_DIAMETER.no_load_share),
        LEAST_DIAMETER.creep_at_rating + share * (GOOD_DIAMETER.creep_at_rating - LEAST_DIAMETER.creep_at_rating),
    )


@dataclass(frozen=True, slots=True)
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


@dataclass(frozen=True, slots=True)
class Span:
    """What tension depends on besides the pull: wrap, belt speed, centre, mass, how it is held."""

    wrap_deg: float
    speed_m_per_s: float
    centre_mm: float
    chord_mm: float
    mass_kg_per_m: float
    locked: bool


def static_tension_n(pull_n: float, span: Span) -> float:
    """Tension to set at rest in each belt [N] for a design pull F [N].

    Locked centres: F (R + 1) / (2 (R - 1)) + T_c; a constant pull base needs no T_c. T_c = m v^2.
    Source: balance of forces; R as in the arc factor.
    """
    ratio = tension_ratio(span.wrap_deg)
    centrifugal = span.mass_kg_per_m * span.speed_m_per_s**2
    return pull_n * (ratio + 1) / (2 * (ratio - 1)) + (centrifugal if span.locked else 0.0)


def handbook_static_tension_n(pull_n: float, span: Span) -> float:
    """Static tension by RMA IP-20 [N]: 15/33 of ((2.5 - K) / K) F + 0.9 T_c, the lowest published figure."""
    factor = arc_factor(span.wrap_deg)
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
    ratio = tension_ratio(span.wrap_deg)
    centrifugal = span.mass_kg_per_m * span.speed_m_per_s**2
    static = static_tension_n(pull_n, span) if set_n is None else set_n
    mean = max(static - (centrifugal if span.locked else 0.0), 0.0)
    frequency = 1000.0 / (2 * span.chord_mm) * sqrt(static / span.mass_kg_per_m)
    return Tension(
        pull_n,
        centrifugal,
        ratio,
        static,
        span.chord_mm,
        span.chord_mm / 64,
        static / 16,
        frequency,
        handbook_static_tension_n(pull_n, span),
        shaft_load_n(pull_n, mean, belts, span),
    )


def slip_pull_n(static_n: float, ratio: float, span: Span) -> float:
    """Pull at which one belt slips [N] for a static tension and a tension ratio: 2 (T - T_c)(R - 1)/(R + 1)."""
    centrifugal = span.mass_kg_per_m * span.speed_m_per_s**2
    mean = max(static_n - (centrifugal if span.locked else 0.0), 0.0)
    return 2 * mean * (ratio - 1) / (ratio + 1)
