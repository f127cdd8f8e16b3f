"""How a chain is oiled, by its speed and the warmth of the place."""

from __future__ import annotations

from pulltide.core.labels import phrase
from pulltide.core.links.roller_chain.transmission import ChainDetails
from pulltide.core.transmission import LinkResult
from pulltide.core.units import M_PER_S_PER_FT_PER_MIN

#: Drops a minute of a drip feed, from a slow chain to the fastest that it is for. Source: ANSI B29.1, from memory.
DROPS = (4, 20)
#: Oil by the warmth of the place: up to so many °C, ISO VG. Common practice, no source.
GRADES = ((25.0, 68), (100.0, 100))


def drops_a_minute(speed_m_per_s: float, fastest_m_per_s: float) -> int:
    """Oil by drip: evenly from a slow chain to the fastest that drip is for.

    >>> drops_a_minute(0.0, 3.0), drops_a_minute(1.5, 3.0), drops_a_minute(9.0, 3.0)
    (4, 12, 20)
    """
    low, high = DROPS
    return round(low + (high - low) * min(speed_m_per_s / fastest_m_per_s, 1.0))


def oil(result: LinkResult[ChainDetails], ambient_c: float) -> str:
    """What it is oiled with and how much."""
    d = result.details
    if not d.link.oiled:
        return "none, as it is entered"
    grade = next(grade for up_to, grade in GRADES if ambient_c <= up_to)
    drip, bath = (limit * M_PER_S_PER_FT_PER_MIN for limit in (d.size.lube_a_max_ft_min, d.size.lube_b_max_ft_min))
    if d.speed_m_per_s <= drip:
        way = f"by brush every 8 h, or {drops_a_minute(d.speed_m_per_s, drip)} drops a minute"
    else:
        way = "a bath that the lowest links dip into" if d.speed_m_per_s <= bath else "a stream from a pump"
    return f"oil ISO VG {grade}: {phrase(way)}; on the inside of the slack strand"
