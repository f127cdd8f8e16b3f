"""How a motor is switched on: direct, soft, star and then delta, or up a VFD's ramp; its torque and current."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from math import exp, log
from typing import Literal

from pulltide.core.units import RPM_PER_RAD_PER_S

#: Voltage at which a soft start begins, as a share. Common practice, no source.
SOFT_FROM = 0.4
#: Torque and line current in star over those in delta. Source: exact.
STAR = 1 / 3
#: Ramp of a VFD of which none is told [s]. Common practice, no source.
VFD_RAMP_S = 2.0
#: Time without torque while star becomes delta [s], and what a VFD lets of rated torque. Common practice, no source.
GAP_S, VFD_LIMIT = 0.05, 1.5
#: Overload relay, class 10: heat h follows τ h' = x² - h, x current over what it is set to; it trips at 1.15². τ so
#: that it trips in 10 s at 7.2 times from cold. Source: IEC 60947-4-1 limits, from memory.
RELAY_TAU_S, RELAY_TRIPS = 387.0, 1.3225


#: What happens to a drive that is up to speed, before it is switched off.
Then = Literal["stop", "load_steps", "dip", "jam", "blows", "cycle", "other_way", "move", "jerk"]


@dataclass(frozen=True, slots=True)
class Conditions:
    """Volts over rated, share of the load that is on, and how it is switched on: seconds of a soft start's ramp, in
    star, or of a VFD's ramp; direct where all are 0. ``then`` is what happens once it is up to speed.
    """

    volts: float = 1.0
    soft_s: float = 0.0
    load: float = 1.0
    star_s: float = 0.0
    vfd_s: float = 0.0
    then: Then = "stop"

    def of(self, on_vfd: bool) -> Conditions:
        """As they are for a motor: one on a VFD is always started by it."""
        if not on_vfd or self.vfd_s > 0:
            return self
        return replace(self, soft_s=0.0, star_s=0.0, vfd_s=VFD_RAMP_S)

    @property
    def ramp_s(self) -> float:
        """When the motor is on in full [s]."""
        return max(self.soft_s, self.vfd_s, self.star_s + GAP_S if self.star_s > 0 else 0.0)

    @property
    def jumps_s(self) -> tuple[float, ...]:
        """When its torque jumps [s]."""
        return (self.star_s, self.star_s + GAP_S) if self.star_s > 0 else ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Motor:
    """A motor switched on: torque over speed at rated volts [N·m, rad/s].

    For an induction motor: ``field_rad_s`` the speed of its field, ``limited_slip_rad_s`` the slip at which a VFD's
    limit is reached with the torque ``limit_nm``; ``amps_at`` the current over speed [rpm] and volts, ``rated_a`` that
    of its plate. None where they do not apply.
    ``volts`` says what less volts do: torque falls with their square, or the straight line of a direct-current motor
    moves down with its no-load speed ``no_load_rad_s``, or nothing. ``amps_of`` is the current for a torque [N·m];
    ``on_vfd`` whether it never runs otherwise.
    """

    torque_nm: Callable[[float], float]
    field_rad_s: float | None = None
    limited_slip_rad_s: float = 0.0
    limit_nm: float = 0.0
    amps_at: Callable[[float, float], float] | None = None
    rated_a: float | None = None
    volts: Literal["square", "line", "none"] = "square"
    no_load_rad_s: float = 0.0
    amps_of: Callable[[float], float] | None = None
    on_vfd: bool = False

    @property
    def follows(self) -> bool:
        """Whether a VFD or a controller makes it follow a speed."""
        return self.on_vfd or self.volts == "line"

    @property
    def tells_amps(self) -> bool:
        """Whether its current is known."""
        return self.amps_at is not None or self.amps_of is not None

    def torque(self, at: float, speed: float, on: Conditions, field: float | None = None) -> float:
        """Torque at a time after it is switched on and a speed [N·m].

        ``field`` is the share of its speed that it is told to follow, where it can; None: all of it.
        """
        if on.vfd_s > 0 and self.field_rad_s is not None:
            return self._by_vfd(self._lag(at, speed, on, field))
        if on.star_s <= at < on.star_s + GAP_S and on.star_s > 0:
            return 0.0
        share = STAR if at < on.star_s else 1.0
        if self.volts == "none":
            return self.torque_nm(speed)
        if self.volts == "line":
            volts = self._volts(at, on) * (1.0 if field is None else field)
            return max(self.torque_nm(speed + self.no_load_rad_s * (1 - volts)), 0.0)
        return self.torque_nm(speed) * share * self._volts(at, on) ** 2

    def amps(self, at: float, speed: float, on: Conditions, field: float | None = None) -> float | None:
        """Current in a lead [A]; None where its plate says none. Behind a VFD that of the motor."""
        if self.amps_of is not None:
            return self.amps_of(self.torque(at, speed, on, field))
        if self.amps_at is None:
            return None
        if on.vfd_s > 0 and self.field_rad_s is not None:
            lag = min(max(self._lag(at, speed, on, field), 0.0), self.limited_slip_rad_s)
            return self.amps_at((self.field_rad_s - lag) * RPM_PER_RAD_PER_S, 1.0)
        if on.star_s <= at < on.star_s + GAP_S and on.star_s > 0:
            return 0.0
        share = STAR if at < on.star_s else 1.0
        return share * self.amps_at(speed * RPM_PER_RAD_PER_S, self._volts(at, on))

    def _volts(self, at: float, on: Conditions) -> float:
        """Volts over rated; a soft starter begins with some, a pedal or controller with none."""
        begins = 0.0 if self.volts == "line" else SOFT_FROM
        ramp = min(begins + (1 - begins) * at / on.soft_s, 1.0) if on.soft_s > 0 else 1.0
        return on.volts * ramp

    def _lag(self, at: float, speed: float, on: Conditions, field: float | None) -> float:
        """By how much the rotor lags the field that the VFD makes [rad/s]; it waits where its limit is reached."""
        assert self.field_rad_s is not None
        share = 1.0 if field is None else field
        return self.field_rad_s * min(at / on.vfd_s, share) - speed

    def _by_vfd(self, lag: float) -> float:
        assert self.field_rad_s is not None
        if lag <= 0:
            return 0.0
        return self.limit_nm if lag >= self.limited_slip_rad_s else self.torque_nm(self.field_rad_s - lag)


#: Losses that do not follow the load, over all at full load; winding over case, as a share of its rise; time constants
#: of winding and case [s]. Common practice, no source: 0.25 to 0.5; 0.25 to 0.45; 1.5 to 8 min; 20 to 60 min.
EVEN_LOSS, OVER_CASE, WINDING_S, CASE_S = 0.35, 0.35, 180.0, 2100.0


def heating(share: float) -> float:
    """Losses over those at full load with a current over that of the plate: a + (1 - a) x².

    >>> heating(1.0), round(heating(2.0), 2)
    (1.0, 2.95)
    """
    return EVEN_LOSS + (1 - EVEN_LOSS) * share**2 if share > 0 else 0.0


def winding_heat(times: list[float], amps: list[float], rated_a: float) -> list[float]:
    """Rise of the winding over that of steady full load, from cold: the case over the air, and the winding over it.

    Two bodies in a row, each exactly for losses that stay from one time to the next.

    >>> heat = winding_heat([60.0 * k for k in range(600)], [1.0] * 600, 1.0)
    >>> round(heat[3], 2), round(heat[-1], 3)
    (0.27, 1.0)
    """
    case = winding = 0.0
    found = [0.0]
    for k in range(1, len(times)):
        seconds, losses = times[k] - times[k - 1], heating(amps[k] / rated_a)
        case = losses * (1 - OVER_CASE) + (case - losses * (1 - OVER_CASE)) * exp(-seconds / CASE_S)
        winding = losses * OVER_CASE + (winding - losses * OVER_CASE) * exp(-seconds / WINDING_S)
        found.append(case + winding)
    return found


def mean_heat(times: list[float], amps: list[float], rated_a: float, between: tuple[float, float]) -> float:
    """Mean losses between two times over those at full load: the rise that goes on for ever comes to."""
    total = 0.0
    for k in range(1, len(times)):
        if between[0] < times[k] <= between[1]:
            losses = (heating(amps[k] / rated_a) + heating(amps[k - 1] / rated_a)) / 2
            total += losses * (times[k] - times[k - 1])
    return total / max(between[1] - between[0], 1e-9)


#: Time-delay fuses of a motor over its plate, and how they melt at the earliest: they hold 5 times their rating for
#: 10 s; over 1.35 times they open within the hour. Source: NEC 430.52 and UL 248 class RK5, from memory.
FUSE_SHARE, FUSE_HOLDS, FUSE_HOLDS_S, FUSE_MELTS = 1.75, 5.0, 10.0, 1.35**2
FUSE_TAU_S = FUSE_HOLDS_S / log(FUSE_HOLDS**2 / (FUSE_HOLDS**2 - FUSE_MELTS))


def fuse_heat(times: list[float], amps: list[float], rated_a: float) -> tuple[float, float | None]:
    """Most heat of time-delay fuses sized for a motor, over that at which they melt, and when they do [s] or None.

    >>> most, at = fuse_heat([0.01 * k for k in range(2000)], [8.75] * 2000, 1.0)
    >>> round(at, 1)
    10.0
    """
    return _melts(times, [one / (FUSE_SHARE * rated_a) for one in amps], FUSE_TAU_S, FUSE_MELTS)


def relay_heat(times: list[float], amps: list[float], rated_a: float) -> tuple[float, float | None]:
    """Most heat of a class 10 relay, over that at which it trips, and when it trips [s] or None.

    Set to ``rated_a``, from cold; τ h' = x² - h, exactly for a current that stays from one time to the next.

    >>> most, at = relay_heat([0.1 * k for k in range(200)], [7.2] * 200, 1.0)
    >>> round(at)
    10
    """
    return _melts(times, [one / rated_a for one in amps], RELAY_TAU_S, RELAY_TRIPS)


def _melts(times: list[float], shares: list[float], tau_s: float, limit: float) -> tuple[float, float | None]:
    """Most heat over its limit, and when that is passed [s] or None; τ h' = x² - h from cold."""
    heat, most, passed = 0.0, 0.0, None
    for k in range(1, len(times)):
        end = shares[k] ** 2
        heat = end + (heat - end) * exp(-(times[k] - times[k - 1]) / tau_s)
        most = max(most, heat)
        if passed is None and heat >= limit:
            passed = times[k]
    return most / limit, passed
