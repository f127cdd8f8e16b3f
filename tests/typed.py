"""How a person types the values of a worksheet, in metric and in inch units."""

from __future__ import annotations

from typing import Any

from pulltide.quantities import Units
from pulltide.services.fields import describe

INCH_UNITS = Units(
    length="in", torque="lbf*ft", power="hp", force="lbf", rim_speed="ft/min", temperature="degF", mass="lb"
)
#: Text of a value in each system: unit as typed, and how many of it one core unit is.
METRIC = {
    "mm": ("mm", 1),
    "kg": ("kg", 1),
    "N": ("N", 1),
    "N*m": ("N·m", 1),
    "kW": ("kW", 1),
    "m/s": ("m/s", 1),
    "m/min": ("m/min", 1),
    "kg/m**3": ("kg/m³", 1),
    "kg/m": ("kg/m", 1),
    "kPa": ("kPa", 1),
    "MPa": ("N/mm²", 1),
    "deg": ("°", 1),
    "rpm": ("rpm", 1),
    "Pa*s": ("Pa·s", 1),
    "m**3/h": ("m³/h", 1),
    "t/h": ("t/h", 1),
    "s": ("s", 1),
    "kg*m**2": ("kg·m²", 1),
    "kJ/kg": ("kJ/kg", 1),
    "arcmin": ("arcmin", 1),
    "A": ("A", 1),
    "": ("", 1),
}
INCH = METRIC | {
    "mm": ("in", 1 / 25.4),
    "kg": ("lb", 1 / 0.45359237),
    "N": ("lb", 1 / 4.4482216),
    "N*m": ("ft-lb", 1 / 1.3558179),
    "kW": ("hp", 1 / 0.74569987),
    "m/s": ("ft/min", 196.850394),
    "m/min": ("ft/min", 3.2808399),
    "kg/m**3": ("lb/ft³", 1 / 16.018463),
    "kg/m": ("lb/ft", 1 / 1.4881639),
    "kPa": ("psi", 1 / 6.8947573),
    "MPa": ("ksi", 1 / 6.8947573),
    "Pa*s": ("cP", 1000),
    "m**3/h": ("gpm", 4.4028675),
}


def typed(kind: str, name: str, value: Any, system: dict[str, tuple[str, float]]) -> str:
    """How a person would type a value of a field."""
    document = {"need": {"worksheet": {"kind": kind, name: value}}}
    described = describe(document, f"need.worksheet.{name}")
    if described.kind == "yes_no":
        return "yes" if value else "no"
    if described.kind != "quantity":
        return str(value)
    unit, factor = system[described.unit]
    return f"{value * factor:.7g} {unit}".strip()
