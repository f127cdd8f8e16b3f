"""Rating of stock reducers at their real input speed."""

from __future__ import annotations

from itertools import pairwise
from math import atan, cos, degrees, log, pi, radians

from pulltide.core import part_load, worms
from pulltide.core.links.reducer.tables import Unit
from pulltide.core.part_load import wave_efficiency
from pulltide.core.units import MM_PER_IN, power_kw

#: Exponent of the law that ratings follow above 1750 rpm, worms apart. Basis of the generic list.
SPEED_EXPONENT, STRAIN_WAVE_EXPONENT = 0.12, 1 / 3
#: The same for a worm of unknown size: the larger worms of the list lose about so much. Common practice, no source.
OWN_WORM_EXPONENT = 0.5
LIST_AMBIENT_C = 25.0
#: Low end of the published efficiency bands, for a unit whose efficiency nobody knows. Common practice, no source.
LOW_WORM_AT_5, LOW_WORM_AT_60 = 0.88, 0.55
LOW = {"helical": 0.94, "helical_bevel": 0.92, "planetary": 0.92, "cycloidal": 0.85, "strain_wave": 0.65}


def _log_between(speed_rpm: float, slow_rpm: float, fast_rpm: float) -> float:
    return log(speed_rpm / slow_rpm) / log(fast_rpm / slow_rpm)


def _interpolated(points: tuple[tuple[float, float], ...], speed_rpm: float) -> float:
    """Linear in log speed between rising points; held beyond both ends."""
    if speed_rpm <= points[0][0]:
        return points[0][1]
    for (slow, low), (fast, high) in pairwise(points):
        if speed_rpm <= fast:
            return low + (high - low) * _log_between(speed_rpm, slow, fast)
    return points[-1][1]


def rated_torque_nm(unit: Unit, input_rpm: float) -> float | None:
    """Output torque rating at service factor 1 [N·m] for an input speed [rpm], or None while unknown.

    Listed torques at 300, 875 and 1750 rpm, linear in log speed; constant below; above, the law of the list,
    (1750/n)^0.12, strain wave (1750/n)^(1/3), or, for worms, the velocity factor of AGMA 6034.
    """
    if unit.torque_300_nm is None or unit.torque_875_nm is None or unit.torque_1750_nm is None:
        return None
    if unit.by_plate:
        return unit.torque_1750_nm * own_speed_share(unit, input_rpm)
    points = ((300.0, unit.torque_300_nm), (875.0, unit.torque_875_nm), (1750.0, unit.torque_1750_nm))
    value = _interpolated(points, input_rpm)
    if input_rpm <= 1750.0:
        return value
    if not unit.is_worm or unit.size_mm is None:
        exponent = STRAIN_WAVE_EXPONENT if unit.type == "strain_wave" else SPEED_EXPONENT
        return float(value * (1750.0 / input_rpm) ** exponent)
    fast, listed = (
        worms.velocity_factor(sliding_speed_ft_min(unit.size_mm, unit.ratio, n)) for n in (input_rpm, 1750.0)
    )
    return value * fast / listed


OWN = "own"


def own_speed_share(unit: Unit, input_rpm: float) -> float:
    """Share of its plate's torque that a unit of one's own has at a speed [-]: 1 up to the speed it is rated at.

    Beyond, the law of the list, said wherever it counts; where the plate names no speed nothing is taken off.
    """
    if unit.rated_input_rpm is None or input_rpm <= unit.rated_input_rpm:
        return 1.0
    exponent = STRAIN_WAVE_EXPONENT if unit.type == "strain_wave" else SPEED_EXPONENT
    return float((unit.rated_input_rpm / input_rpm) ** (OWN_WORM_EXPONENT if unit.is_worm else exponent))


def sliding_speed_ft_min(center_mm: float, ratio: float, input_rpm: float) -> float:
    """Sliding speed of a generic worm [ft/min]: Vs = pi n d / (12 cos lambda), d = C^0.875 / 2.2 in.

    >>> round(sliding_speed_ft_min(63.0, 30.0, 1750.0), 0)
    465.0
    """
    worm_in = float((center_mm / MM_PER_IN) ** 0.875) / 2.2
    return pi * input_rpm * worm_in / (12 * cos(radians(lead_angle_deg(center_mm, ratio))))


def lead_angle_deg(center_mm: float, ratio: float) -> float:
    """Lead angle of a generic worm [degrees]: tan λ = D / (i d), d = C^0.875 / 2.2 in, D = 2 C - d.

    >>> round(lead_angle_deg(63.0, 30.0), 2)
    7.46
    """
    center_in = center_mm / MM_PER_IN
    worm_in = float(center_in**0.875) / 2.2
    return degrees(atan((2 * center_in - worm_in) / (ratio * worm_in)))


#: Worm size taken where a plate says none: the lead angle hardly depends on it [mm].
USUAL_WORM_MM = 63.0
#: Pressure angle of the generic worms [degrees], by ratio: long leads use 25. Common practice, no source.
WORM_ANGLE = 20.0


def start_efficiency(unit: Unit) -> float | None:
    """Efficiency at the start of a worm unit [-], before an oil film forms; None for the others.

    By its lead angle and friction 0.12, bearings as usual. Source: Shigley Eq. 13-46; friction common practice.

    >>> from pulltide.core.links.reducer import tables
    >>> round(start_efficiency(tables.unit("PW-3 60:1")), 2), round(start_efficiency(tables.unit("PW-3 5:1")), 2)
    (0.31, 0.73)
    """
    if not unit.is_worm:
        return None
    lead = lead_angle_deg(unit.size_mm or USUAL_WORM_MM, unit.ratio)
    return min(worms.efficiency(lead, WORM_ANGLE, worms.START_FRICTION) * worms.BEARINGS, efficiency(unit, 300.0))


def power_in_kw(unit: Unit, input_rpm: float, power_out_kw: float) -> float:
    """Power a unit takes in [kW] to give a power: by load where its rating is known, else at its efficiency."""
    share, rated = efficiency(unit, input_rpm), rated_torque_nm(unit, input_rpm)
    if rated is None:
        return power_out_kw / share
    rated_kw = power_kw(rated, input_rpm / unit.ratio)
    return part_load.power_in_kw(power_out_kw, rated_kw, share, part_load.idle_share(unit.type))


#: What a worm unit bears at rest over its rating, at a start or a stall. Source: AGMA 6034, 300 % for momentary peaks,
#: from memory, medium confidence.
WORM_AT_REST = 3.0


def torque_at_rest_nm(unit: Unit) -> float | None:
    """Output torque a unit bears for a moment at rest [N·m]: its slow rating times the momentary factor; worms 3.

    A rating at running speed counts wear and heat, which a moment at rest has not. None while unknown.
    """
    if unit.torque_300_nm is None or unit.peak_factor is None:
        return None
    listed = unit.is_worm and unit.size_mm is not None
    return unit.torque_300_nm * (max(WORM_AT_REST, unit.peak_factor) if listed else unit.peak_factor)


def efficiency(unit: Unit, input_rpm: float) -> float:
    """Efficiency [-] at rated torque and an input speed: listed values, linear in log speed; strain wave by its law.

    A low published value while unknown.
    """
    if unit.type == "strain_wave" and unit.efficiency_1750 is not None and unit.efficiency_300 is not None:
        slow = 1 - _log_between(min(max(input_rpm, 300.0), 1750.0), 300.0, 1750.0)
        if unit.size_mm is not None:
            return wave_efficiency(unit.ratio, slow)
    if unit.efficiency_300 is None or unit.efficiency_1750 is None:
        return assumed_efficiency(unit)
    return _interpolated(((300.0, unit.efficiency_300), (1750.0, unit.efficiency_1750)), input_rpm)


def assumed_efficiency(unit: Unit) -> float:
    """Low end of the published band [-] for a unit of unknown efficiency; said as such wherever it is used."""
    if not unit.is_worm:
        return LOW.get(unit.type, LOW["helical"])
    share = min(max(log(max(unit.ratio, 1.0) / 5.0) / log(60.0 / 5.0), 0.0), 1.0)
    return LOW_WORM_AT_5 + share * (LOW_WORM_AT_60 - LOW_WORM_AT_5)


def thermal_limit_kw(unit: Unit, input_rpm: float, ambient_c: float) -> float | None:
    """Input power the case can shed [kW] in still shop air, or None while unknown.

    Listed at 25 C and 1750 rpm; B = (s - t) / (s - 25), at most 1.15, sump limit s 93 C, 90 C for planetary and
    cycloidal, 70 C for strain wave. Worm units scale with speed as
    h (n) / (1 - eta (n)), h = n / 6494 + 0.13 (AGMA 6034, no fan).
    """
    if unit.thermal_kw is None:
        return None
    warm = min((unit.sump_c - ambient_c) / (unit.sump_c - LIST_AMBIENT_C), 1.15)
    if not unit.is_worm or unit.efficiency_1750 is None:
        return unit.thermal_kw * warm
    shed = (input_rpm / 6494 + 0.13) / (1750 / 6494 + 0.13)
    lost = (1 - unit.efficiency_1750) / max(1 - efficiency(unit, input_rpm), 1e-6)
    return unit.thermal_kw * warm * shed * lost


def overhung_at_speed_n(listed_n: float | None, speed_rpm: float, listed_speed_rpm: float) -> float | None:
    """Overhung load at a shaft speed [N]: listed value x f(n)/f(listed), f = min((100/n)^(1/3), 1.5)."""
    if listed_n is None:
        return None

    def life(speed: float) -> float:
        return float(min((100.0 / speed) ** (1.0 / 3.0), 1.5))

    return listed_n * life(speed_rpm) / life(listed_speed_rpm)
