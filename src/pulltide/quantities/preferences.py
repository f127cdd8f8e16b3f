"""Which unit each kind of quantity is shown in. Stored per person; nothing stored in a machine changes."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict, field_validator

#: Kind of quantity by the unit the core keeps it in.
KIND_OF_UNIT = {"mm": "length", "N*m": "torque", "kW": "power", "N": "force", "m/s": "rim_speed", "degC": "temperature"}

#: Units a person may choose, first the core's own.
UNIT_CHOICES: dict[str, tuple[str, ...]] = {
    "length": ("mm", "in"),
    "torque": ("N*m", "lbf*ft", "lbf*in", "kgf*cm"),
    "power": ("kW", "W", "hp"),
    "force": ("N", "lbf", "kgf"),
    "rim_speed": ("m/s", "ft/min"),
    "temperature": ("degC", "degF"),
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

    @field_validator("*")
    @classmethod
    def _offered(cls, value: str) -> str:
        if not any(value in choices for choices in UNIT_CHOICES.values()):
            raise ValueError(f"{value} is not offered")
        return value

    def unit_for(self, core_unit: str) -> str:
        """The unit to show a core unit in; units without a choice stay."""
        kind = KIND_OF_UNIT.get(core_unit)
        return core_unit if kind is None else str(getattr(self, kind))


DEFAULT_UNITS = Units()
