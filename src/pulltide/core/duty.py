"""How hard the machine works, and by which rule parts are sized."""

from __future__ import annotations

from enum import StrEnum
from typing import Literal

from pydantic import Field

from pulltide.core.model import Celsius, CoreModel, Hours, Plain, Seconds

MOST_SEGMENTS = 12
Environment = Literal["clean", "dusty", "wet", "outdoors", "washed down"]
Shock = Literal["uniform", "light", "moderate", "heavy"]


#: What turns the machine, as the tables of service factors tell sources apart.
PrimeMover = Literal["motor", "high_torque_motor", "engine", "single_cylinder", "hand"]


class MarginRule(StrEnum):
    """On what each part is sized."""

    RUNNING_LOAD = "running_load"
    MOTOR_NAMEPLATE = "motor_nameplate"
    FLAT_FACTOR = "flat_factor"


class Segment(CoreModel):
    """One stretch of a duty cycle, as shares of running torque and ideal speed."""

    seconds: Seconds = Field(title="Time", gt=0, le=86_400)
    torque_share: Plain = Field(1.0, title="Torque over running torque", ge=-5, le=20)
    speed_share: Plain = Field(1.0, title="Speed over ideal speed", ge=0, le=5, description="0 at rest")


class Duty(CoreModel):
    """Shock, hours, starts and surroundings. Shock and hours may be unknown; the cautious end is then used and said."""

    shock: Shock | None = Field(None, title="Shock of the load")
    hours_per_day: Hours | None = Field(None, title="Hours a day", gt=0, le=24)
    starts_per_hour: Plain | None = Field(None, title="Starts an hour", ge=0, le=600)
    reversing: bool = Field(False, title="Reverses under load")
    environment: Environment | None = Field(None, title="Place")
    ambient_c: Celsius = Field(25.0, title="Air at the drive", ge=-20, le=60)
    cycle: tuple[Segment, ...] = Field((), title="Duty cycle", max_length=MOST_SEGMENTS)
    margin_rule: MarginRule = Field(MarginRule.RUNNING_LOAD, title="Margin rule")
    flat_factor: Plain = Field(2.0, title="Flat safety factor", ge=1, le=6)
    service_factor_override: Plain | None = Field(None, title="Service factor of your own", ge=1, le=6)
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
    def starts_used(self) -> float:
        """Starts an hour in force: the entered ones, or none."""
        return self.starts_per_hour or 0.0


def one_class_heavier(shock: Shock) -> Shock:
    """The next heavier shock class; heavy stays heavy."""
    order: tuple[Shock, ...] = ("uniform", "light", "moderate", "heavy")
    return order[min(order.index(shock) + 1, 3)]
