"""Which unit each kind of quantity is shown in. Stored per person; nothing stored in a machine changes."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict, Field, field_validator

#: Kind of quantity by the unit the core keeps it in.
KIND_OF_UNIT = {
    "mm": "length",
    "N*m": "torque",
    "kW": "power",
    "N": "force",
    "m/s": "rim_speed",
    "degC": "temperature",
    "kg": "mass",
}

#: Units that follow a choice made for another kind: the kind, and the unit for each of its choices.
FOLLOWS: dict[str, tuple[str, dict[str, str]]] = {
    "kg/m": ("mass", {"kg": "kg/m", "lb": "lb/ft"}),
    "kg/m**3": ("mass", {"kg": "kg/m**3", "lb": "lb/ft**3"}),
    "kg*m**2": ("mass", {"kg": "kg*m**2", "lb": "lb*ft**2"}),
    "m/min": ("rim_speed", {"m/s": "m/min", "ft/min": "ft/min"}),
    "MPa": ("length", {"mm": "MPa", "in": "ksi"}),
    "kPa": ("length", {"mm": "kPa", "in": "psi"}),
    # a difference of temperatures, which has no zero to be off by
    "delta_degC": ("temperature", {"degC": "delta_degC", "degF": "delta_degF"}),
}

#: Units a person may choose, first the core's own.
UNIT_CHOICES: dict[str, tuple[str, ...]] = {
    "length": ("mm", "in"),
    "torque": ("N*m", "lbf*ft", "lbf*in", "kgf*cm"),
    "power": ("kW", "W", "hp"),
    "force": ("N", "lbf", "kgf"),
    "rim_speed": ("m/s", "ft/min"),
    "temperature": ("degC", "degF"),
    "mass": ("kg", "lb"),
}


class Units(BaseModel):
    """One unit per kind of quantity."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    length: str = "mm"
    torque: str = "N*m"
    power: str = "kW"
    force: str = "N"
    rim_speed: str = "m/s"
    temperature: str = "degC"
    mass: str = "kg"
    #: What prices are counted in: the shop's, not a person's.
    money: str = Field("price units", min_length=1, max_length=12)

    @field_validator(*UNIT_CHOICES)
    @classmethod
    def _offered(cls, value: str) -> str:
        if not any(value in choices for choices in UNIT_CHOICES.values()):
            raise ValueError(f"{value} is not offered")
        return value

    def unit_for(self, core_unit: str) -> str:
        """The unit to show a core unit in; units without a choice stay."""
        if core_unit in FOLLOWS:
            leader, choices = FOLLOWS[core_unit]
            return choices[getattr(self, leader)]
        kind = KIND_OF_UNIT.get(core_unit)
        return core_unit if kind is None else str(getattr(self, kind))


DEFAULT_UNITS = Units()
