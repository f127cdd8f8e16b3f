"""Speeds, torques and losses of a planetary set: Willis's equation and a power balance in the carrier's frame."""

from __future__ import annotations

from dataclasses import dataclass
from math import radians, sin
from typing import Literal

from pulltide.core.errors import ImpossibleGeometry

Member = Literal["sun", "ring", "carrier"]

#: Room between the tips of neighboring planets, in modules. Common practice, no source.
TIP_ROOM = 0.5


def third_speed(sun: float, ring: float, known: dict[Member, float], wanted: Member) -> float:
    """Speed of a member from the speeds of two others, signs kept: S ωS + R ωR = (S + R) ωC. Source: Willis, exact.

    Parameters: teeth S, R > 0; two known speeds [any one unit]. Raises ImpossibleGeometry unless two others are known.

    >>> third_speed(20, 80, {"sun": -100.0, "ring": 0.0}, "carrier")
    -20.0
    """
    others = [name for name in ("sun", "ring", "carrier") if name != wanted]
    if any(name not in known for name in others):
        raise ImpossibleGeometry("Two speeds must be known; a held member's is 0. With fewer the set has no drive.")
    weights: dict[str, float] = {"sun": sun, "ring": ring, "carrier": -(sun + ring)}
    rest = sum(weights[name] * speed for name, speed in known.items() if name != wanted)
    return -rest / weights[wanted]


def planet_speed(sun: float, planet: float, sun_speed: float, carrier_speed: float) -> float:
    """Speed of a planet about its own pin, seen from the frame: ωP = ωC - (S / P)(ωS - ωC). Source: exact.

    >>> round(planet_speed(20, 30, -100.0, -20.0), 2)
    33.33
    """
    return carrier_speed - sun / planet * (sun_speed - carrier_speed)


@dataclass(frozen=True, slots=True)
class Balance:
    """Torques on the three members for one unit of driver torque, and the efficiency [-]."""

    ratio: float
    torques: dict[Member, float]
    efficiency: float


def balance(sun: float, ring: float, driver: Member, driven: Member, locked_efficiency: float) -> Balance:
    """Signed ratio, torques and efficiency of one stage with the third member held.

    ``locked_efficiency`` η0 is that of the set with its carrier held. In the carrier's frame the sun drives the ring or
    the ring the sun; T_R = (R / S) T_S η0^w, w = +1 where T_S (ωS - ωC) > 0, else -1; T_C = -(T_S + T_R).
    Both senses are tried and the one that agrees with itself is taken. Source: exact, η0 common practice.

    >>> found = balance(24, 72, "sun", "carrier", 0.97)
    >>> round(found.ratio, 6), round(found.efficiency, 4), round(found.torques["ring"], 2)
    (4.0, 0.9775, 2.91)
    """
    held: Member = next(name for name in ("sun", "ring", "carrier") if name not in (driver, driven))
    speeds: dict[Member, float] = {driver: 1.0, held: 0.0}
    speeds[driven] = third_speed(sun, ring, speeds, driven)
    for w in (1, -1):
        relative = ring / sun * locked_efficiency**w
        shares: dict[Member, float] = {"sun": 1.0, "ring": relative, "carrier": -(1 + relative)}
        torques: dict[Member, float] = {name: share / shares[driver] for name, share in shares.items()}
        flow = torques["sun"] * (speeds["sun"] - speeds["carrier"])
        if (flow > 0) == (w > 0):
            break
    efficiency = -torques[driven] * speeds[driven]
    return Balance(1 / speeds[driven], torques, efficiency)


def meets(sun: int, ring: int, planets: int) -> bool:
    """Whether equally spaced planets mesh with both: (S + R) / n is whole. Source: exact.

    >>> meets(24, 72, 4), meets(24, 72, 5)
    (True, False)
    """
    return (sun + ring) % planets == 0


def planets_apart(sun: int, planet: int, planets: int) -> float:
    """Distance of the centers of neighboring planets [modules]: (S + P) sin(180° / n). Source: exact.

    >>> round(planets_apart(24, 24, 4), 3)
    33.941
    """
    return (sun + planet) * sin(radians(180.0 / planets))


def room_needed(planet: int) -> float:
    """Least distance of neighboring planets [modules]: the tip circle P + 2 and some room."""
    return planet + 2 + TIP_ROOM


def goes_together(sun: int, planet: int, ring: int, planets: int) -> bool:
    """Whether equally spaced planets mesh with both and clear each other.

    >>> goes_together(24, 24, 72, 4), goes_together(24, 24, 72, 6)
    (True, False)
    """
    clear = planets < 2 or planets_apart(sun, planet, planets) >= room_needed(planet)
    return clear and meets(sun, ring, planets)
