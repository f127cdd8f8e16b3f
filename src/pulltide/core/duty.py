"""How hard the machine works, and by which rule parts are sized."""

from __future__ import annotations

from collections.abc import Callable
from enum import StrEnum
from typing import Literal

from pydantic import Field

from pulltide.core.model import Celsius, CoreModel, Hours, Plain, Seconds

MAX_SEGMENTS = 12
Environment = Literal["clean", "dusty", "wet", "outdoors", "washed_down"]
Shock = Literal["uniform", "light", "moderate", "heavy"]


#: What turns the machine, as the tables of service factors tell sources apart.
PrimeMover = Literal["motor", "high_torque_motor", "engine", "single_cylinder", "hand"]


class MarginRule(StrEnum):
    """On what each part is sized."""

    RUNNING_LOAD = "running_load"
    MOTOR_NAMEPLATE = "motor_nameplate"
    FLAT_FACTOR = "flat_factor"


class Segment(CoreModel):
    """One stretch of a duty cycle, as shares of running torque and ideal speed; with an end it is an even ramp."""

    seconds: Seconds = Field(title="Time", gt=0, le=86_400)
    torque_share: Plain = Field(1.0, title="Torque over running torque", ge=-10_000, le=10_000)
    speed_share: Plain = Field(1.0, title="Speed over ideal speed", ge=0, le=5, description="0 at rest")
    torque_share_end: Plain | None = Field(
        None, title="Torque at its end", ge=-10_000, le=10_000, description="empty: the same"
    )
    speed_share_end: Plain | None = Field(None, title="Speed at its end", ge=0, le=5, description="empty: the same")

    @property
    def rests(self) -> bool:
        """Whether nothing turns in it."""
        return self.speed_share == 0 and not self.speed_share_end

    def over_time(self, value: Callable[[float, float], float]) -> float:
        """Integral over its time [s] of a function of torque and speed share; exact for a cubic in each ramp step."""
        t1 = self.torque_share if self.torque_share_end is None else self.torque_share_end
        n1 = self.speed_share if self.speed_share_end is None else self.speed_share_end
        if t1 == self.torque_share and n1 == self.speed_share:
            return self.seconds * value(t1, n1)
        total = 0.0
        for step in range(RAMP_STEPS + 1):
            u = step / RAMP_STEPS
            weight = 1 if step in (0, RAMP_STEPS) else 4 if step % 2 else 2
            torque = self.torque_share + u * (t1 - self.torque_share)
            total += weight * value(torque, self.speed_share + u * (n1 - self.speed_share))
        return self.seconds * total / (3 * RAMP_STEPS)


#: Wanted life where none is entered [h]. Common practice, no source: a shop machine.
SHOP_LIFE_H = 10_000.0
#: Steps of Simpson's rule along a ramp.
RAMP_STEPS = 32
#: By which exponent repeating loads count, where one is chosen for every part.
FATIGUE_EXPONENTS = {"cube": 3.0, "ten_thirds": 10 / 3}
#: What each kind of part counts by where none is chosen: makers' reducer ratings by custom, teeth by ISO 6336-6, from
#: memory. The cube mean is too kind to teeth.
REDUCER_EXPONENT, TOOTH_EXPONENT, ROLLER_EXPONENT = 3.0, 6.6, 10 / 3


def root_mean_power(cycle: tuple[Segment, ...], exponent: float) -> float | None:
    """Torque share that ages parts as the cycle does [-]: (Σ n |x|^p t / Σ n t)^(1/p); None where nothing turns.

    Source: equivalent load of ISO 281 and the gear standards; p 3 for ball bearings, 10/3 for roller bearings.

    >>> parts = [(0.3, 120, 20), (0.6, 40, 40), (0.3, -80, 20), (1.8, 30, 0)]
    >>> cycle = tuple(Segment(seconds=t, torque_share=x / 100, speed_share=n / 40) for t, x, n in parts)
    >>> round(100 * root_mean_power(cycle, 3.0), 2)
    74.65
    """
    turns = sum(part.over_time(lambda torque, speed: speed) for part in cycle)
    if turns <= 0:
        return None
    aged = sum(part.over_time(lambda torque, speed: speed * abs(torque) ** exponent) for part in cycle)
    return float((aged / turns) ** (1 / exponent))


class Duty(CoreModel):
    """Shock, hours, starts and surroundings. Shock and hours may be unknown; the cautious end is then used and said."""

    shock: Shock | None = Field(None, title="Shock of the load")
    hours_per_day: Hours | None = Field(None, title="Hours a day", gt=0, le=24)
    starts_per_hour: Plain | None = Field(None, title="Starts an hour", ge=0, le=600)
    reversing: bool = Field(False, title="Reverses under load")
    environment: Environment | None = Field(None, title="Location")
    ambient_c: Celsius = Field(25.0, title="Ambient temperature", ge=-20, le=60)
    cycle: tuple[Segment, ...] = Field((), title="Duty cycle", max_length=MAX_SEGMENTS)
    fatigue: Literal["by_part", "cube", "ten_thirds"] = Field(
        "by_part", title="Exponent for repeated loads", description="teeth 6.6, reducers 3, roller bearings 10/3"
    )
    energy_price: Plain | None = Field(
        None, title="Price of a kWh", gt=0, le=1000, description="on a scale where a 0.75 kW motor is 100"
    )
    life_h: Hours | None = Field(
        None, title="Wanted life", gt=0, le=200_000, description="empty: teeth as for 100 million turns"
    )
    bearing_reliability: Literal["90", "95", "96", "97", "98", "99"] = Field(
        "90", title="Bearings that reach it, percent", description="catalogs say 90; where a failure hurts, more"
    )
    emergency_share: Plain | None = Field(
        None, title="Emergency stop torque over running torque", gt=0, le=50, description="torque at the last shaft"
    )
    emergency_stops: Plain | None = Field(
        None, title="Emergency stops in its life", ge=0, le=1_000_000, description="few: each may come near the limit"
    )
    margin_rule: MarginRule = Field(MarginRule.RUNNING_LOAD, title="Margin rule")
    flat_factor: Plain = Field(2.0, title="Flat safety factor", ge=1, le=6)
    service_factor_override: Plain | None = Field(None, title="Your own service factor", ge=1, le=6)
    override_reason: str = Field("", title="Reason for it", max_length=200)

    @property
    def shock_used(self) -> Shock:
        """Shock class in force: the entered one, or heavy while it is unknown."""
        return self.shock or "heavy"

    @property
    def hours_used(self) -> float:
        """Hours a day in force: the entered ones, or 24 while they are unknown."""
        return self.hours_per_day if self.hours_per_day is not None else 24.0

    @property
    def emergency_stops_used(self) -> float:
        """Emergency stops in force: the entered ones, or often while unknown."""
        return self.emergency_stops if self.emergency_stops is not None else float("inf")

    @property
    def starts_used(self) -> float:
        """Starts an hour in force: the entered ones, or none."""
        return self.starts_per_hour or 0.0


def one_class_heavier(shock: Shock) -> Shock:
    """The next heavier shock class; heavy stays heavy."""
    order: tuple[Shock, ...] = ("uniform", "light", "moderate", "heavy")
    return order[min(order.index(shock) + 1, 3)]
