"""Reads ``1 1/2 in``, ``38mm``, ``3/4 hp``, ``35 in-lb``, ``120 kgf·cm``, ``1,5 kW`` or a bare number."""

from __future__ import annotations

import re
from collections.abc import Callable
from functools import cache, lru_cache
from math import atan, degrees, isfinite
from typing import Any

from pulltide.language import looked_up
from pulltide.quantities.preferences import Units

MAX_CHARACTERS = 60

#: How each core unit is asked for in a message.
ASKED_FOR = {
    "mm": "a length in mm, cm, m, in or ft",
    "N*m": "a torque in N·m, lb·ft, lb·in or kgf·cm",
    "kW": "a power in W, kW, hp or PS",
    "N": "a force in N, kN, lb or kg",
    "rpm": "a speed in rpm, or turns a second in Hz",
    "deg": "an angle in degrees, or a slope in %",
    "degC": "a temperature in °C or °F",
    "V": "a voltage in V",
    "Hz": "a frequency in Hz",
    "h": "a time in h or min",
    "": "a plain number",
    "kg": "a mass in kg, g or lb",
    "kg/m": "a mass a length in kg/m or lb/ft",
    "kg/m**3": "a density in kg/m³ or lb/ft³",
    "kg*m**2": "an inertia in kg·m² or lb·ft²",
    "mm/s": "a speed in mm/s or in/s",
    "m/s": "a speed in m/s, m/min or ft/min",
    "m/min": "a speed in m/min, m/s or ft/min",
    "s": "a time in s or min",
    "MPa": "a stress in MPa, N/mm² or ksi",
    "kPa": "a pressure in Pa, kPa, bar or psi",
    "Pa*s": "a viscosity in Pa·s or cP",
    "t/h": "a throughput in t/h or kg/h",
    "m**3/h": "a flow in m³/h, L/min or gal/min",
    "A": "a current in A",
    "ohm": "a resistance in ohm",
    "A*h": "a charge in Ah",
    "J": "an energy in J, kJ or ft-lb",
    "kJ/kg": "an energy a mass in kJ/kg",
    "rpm/V": "a motor constant in rpm/V",
    "arcmin": "a backlash in arcmin or degrees",
}
VULGAR = {
    "½": "1/2",
    "⅓": "1/3",
    "⅔": "2/3",
    "¼": "1/4",
    "¾": "3/4",
    "⅕": "1/5",
    "⅖": "2/5",
    "⅗": "3/5",
    "⅘": "4/5",
    "⅙": "1/6",
    "⅚": "5/6",
    "⅛": "1/8",
    "⅜": "3/8",
    "⅝": "5/8",
    "⅞": "7/8",
}
#: Spoken names and how the unit library spells them. Order matters: longest first.
SPOKEN = {
    "inches": "in",
    "inch": "in",
    "feet": "ft",
    "foot": "ft",
    "metres": "m",
    "metre": "m",
    "meters": "m",
    "meter": "m",
    "horsepower": "hp",
    "watts": "W",
    "watt": "W",
    "r/min": "rpm",
    "rev/min": "rpm",
    "degrees": "deg",
    "degree": "deg",
    "hours": "h",
    "hour": "h",
    "hrs": "h",
    "hr": "h",
    "minutes": "min",
    "volts": "V",
    "volt": "V",
    "°c": "degC",
    "°f": "degF",
    "°": "deg",
    "″": "in",
    "”": "in",
    '"': "in",
    "′": "ft",
    "’": "ft",
    "'": "ft",
    "lbs": "lb",
    "kw": "kW",
    "hz": "Hz",
    "nm": "N*m",
    "rpm": "rpm",
    "1/min": "rpm",
    "/min": "rpm",
    "hp": "hp",
    "ps": "PS",
    "cv": "PS",
    "ch": "PS",
    "c": "degC",
    "f": "degF",
    "mm": "mm",
    "in": "in",
    "v": "V",
    "w": "W",
    "a": "A",
    "amps": "A",
    "amp": "A",
    "ω": "ohm",
    "ohms": "ohm",
    "ah": "A*h",
    "cp": "centipoise",
    "sec": "s",
    "seconds": "s",
    "second": "s",
    "t": "t",
    "l/min": "L/min",
    "gpm": "gal/min",
    "cfm": "ft**3/min",
    "fpm": "ft/min",
    "sfm": "ft/min",
    "kv": "rpm/V",
    "mpa": "MPa",
    "kpa": "kPa",
    "pa*s": "Pa*s",
}
#: In a force or a torque a pound, a kilogram or an ounce means its weight.
WEIGHTS = {"lb": "lbf", "kg": "kgf", "kp": "kgf", "oz": "ozf", "g": "gf"}

NUMBER = re.compile(
    r"^(?P<sign>[+-]?)(?:(?P<whole>\d+)(?:\s+|\s*-\s*|\+))?(?P<top>\d+)\s*/\s*(?P<bottom>\d+)(?P<rest>.*)$"
)
DECIMAL = re.compile(r"^(?P<number>[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?)(?P<rest>.*)$")
UNIT_LETTERS = re.compile(r"^[A-Za-z%µ/*23]{1,20}$")
#: A power written close to its unit: m3, ft2.
POWERED = re.compile(r"(?<=[A-Za-z])\*{0,2}\^?([23])(?![0-9])")
FEET_AND_INCHES = re.compile(r"^(?P<feet>\d+)\s*ft\s*(?P<rest>\d.*)$")


class NotUnderstood(ValueError):
    """The text is not a quantity of the wanted kind."""


@cache
def registry() -> Any:
    """The unit registry, made on first use: importing it takes half a second."""
    import pint

    made: Any = pint.UnitRegistry(autoconvert_offset_to_baseunit=True)
    made.define("hp = 745.69987158227 * watt")
    made.define("PS = 735.49875 * watt")  # metric horsepower: 75 kgf·m/s
    return made


@lru_cache(maxsize=512)
def factor(given: str, wanted: str) -> Callable[[float], float]:
    """A conversion from one unit to another; raises NotUnderstood if they are not of one kind."""
    import pint

    ureg = registry()
    try:
        if "deg" in given and "deg" in wanted and given != wanted and {given, wanted} <= {"degC", "degF"}:
            return lambda value: float(ureg.Quantity(value, given).to(wanted).magnitude)
        scale = float(ureg.Quantity(1.0, given or "dimensionless").to(wanted or "dimensionless").magnitude)
    except (pint.PintError, AttributeError, ValueError, TypeError, AssertionError) as error:
        words = looked_up("{unit} is no unit for {what}", "sentences")
        raise NotUnderstood(
            words.format(unit=given, what=looked_up(ASKED_FOR.get(wanted, wanted), "sentences"))
        ) from error
    return lambda value: value * scale


def _tidy(text: str) -> str:
    for mark, plain in VULGAR.items():
        text = re.sub(rf"(\d)\s*{mark}", rf"\1 {plain}", text).replace(mark, plain)
    return text.replace("−", "-").replace("–", "-").replace(" ", " ").strip()


def _comma(text: str) -> str:
    if "," not in text:
        return text
    if "." in text or text.count(",") > 1 or re.search(r"\d,\d{3}(?!\d)", text):
        raise NotUnderstood(
            looked_up(
                "could be a decimal comma or thousands; write it without the comma, such as 1500 or 1.5", "sentences"
            )
        )
    return text.replace(",", ".")


#: What a plate lists several of, and the finest fraction that is one: no rule is cut finer.
LISTED, FINEST = ("V", "A", "Hz", "rpm"), 128
ANOTHER = re.compile(r"\s*/\s*\d")


def _several(fraction: re.Match[str], wanted: str) -> bool:
    """Whether what looks like a fraction is two values of a plate: 115/230 V, 60/50 Hz."""
    top, bottom = int(fraction["top"]), int(fraction["bottom"])
    return (bottom > FINEST and wanted != "") or (wanted in LISTED and top >= bottom)


def _number(text: str, wanted: str) -> tuple[float, str]:
    fraction = NUMBER.match(text)
    if fraction:
        if int(fraction["bottom"]) == 0:
            raise NotUnderstood(looked_up("has a zero under its fraction", "sentences"))
        if _several(fraction, wanted):
            raise NotUnderstood(
                looked_up(
                    "is more than one value; of several on a plate, enter the one it is connected for", "sentences"
                )
            )
        value = int(fraction["whole"] or 0) + int(fraction["top"]) / int(fraction["bottom"])
        return (-value if fraction["sign"] == "-" else value), fraction["rest"].strip()
    decimal = DECIMAL.match(text)
    if not decimal:
        raise NotUnderstood(looked_up("does not begin with a number", "sentences"))
    if wanted in LISTED and ANOTHER.match(decimal["rest"]):
        raise NotUnderstood(
            looked_up("is more than one value; of several on a plate, enter the one it is connected for", "sentences")
        )
    return float(decimal["number"]), decimal["rest"].strip()


def _unit(text: str, wanted: str) -> str:
    unit = text.strip().rstrip(".")
    lowered = unit.lower()
    for spoken, proper in SPOKEN.items():
        if lowered == spoken:
            return proper
    unit = unit.replace("²", "2").replace("³", "3").replace("^", "").replace("**", "")
    unit = re.sub(r"\s*[-·•×*⋅ ]\s*", "*", unit)
    if not UNIT_LETTERS.match(unit):
        raise NotUnderstood(f"has no unit in “{unit}”")
    parts = [SPOKEN.get(part.lower(), part) for part in unit.split("*")]
    if wanted in ("N", "N*m"):
        parts = [WEIGHTS.get(part, part) for part in parts]
    return POWERED.sub(r"**\1", "*".join(parts))


def read_quantity(text: str, wanted: str, bare_unit: str | None = None) -> float:
    """The value of a written quantity in the core unit ``wanted``; a bare number is in ``bare_unit``.

    Raises NotUnderstood (a ValueError) saying what was given and what is accepted.
    """
    asked = ASKED_FOR.get(wanted, wanted)
    if len(text) > MAX_CHARACTERS:
        raise NotUnderstood(f"is too long for {asked}")
    tidy = _tidy(text)
    if not tidy:
        raise NotUnderstood(f"is empty; write {asked}")
    try:
        value = _value(_comma(tidy), wanted, bare_unit or wanted)
    except NotUnderstood as error:
        raise NotUnderstood(f"“{text}” {error}; write {asked}") from error
    if not isfinite(value):
        raise NotUnderstood(f"“{text}” is not a usable number; write {asked}")
    return float(f"{value:.12g}")


def _value(text: str, wanted: str, bare_unit: str) -> float:
    spaced = text.replace("'", " ft ").replace("′", " ft ")
    compound = FEET_AND_INCHES.match(spaced.strip()) if wanted == "mm" else None
    if compound:
        inches = compound["rest"] if re.search(r"[a-z\"]", compound["rest"]) else compound["rest"] + " in"
        return factor("ft", "mm")(float(compound["feet"])) + _value(inches, wanted, bare_unit)
    number, rest = _number(text, wanted)
    unit = _unit(rest, wanted) if rest else bare_unit
    if unit == "%" and wanted == "":
        return number / 100.0
    if unit == "%" and wanted == "deg":
        return degrees(atan(number / 100.0))  # a slope
    if wanted == "rpm" and unit in CYCLES:
        return number * 60.0
    if wanted == "Hz" and unit == "rpm":
        return number / 60.0
    if wanted in ANGULAR and not any(word in unit.lower() for word in ANGULAR[wanted]):
        raise NotUnderstood(f"has “{unit}”, which is no unit here")
    return factor(unit, wanted)(number)


#: Turns a second, by whatever name: the unit library would count them as radians.
CYCLES = ("Hz", "1/s", "/s", "rps", "rev/s", "turn/s", "r/s")
#: What a unit must name where the unit library would take any bare number for radians.
ANGULAR = {
    "deg": ("deg", "rad", "turn", "rev", "grad", "arcmin", "arcsec", "gon"),
    "arcmin": ("deg", "rad", "turn", "rev", "arcmin", "arcsec"),
    "rpm": ("rpm", "rev", "turn", "rad", "deg", "rps"),
}


def reader_for(units: Units) -> Callable[[str, str], float]:
    """A reader that takes bare numbers in a person's own units."""
    return lambda text, wanted: read_quantity(text, wanted, units.unit_for(wanted))
