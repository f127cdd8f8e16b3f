"""Numbers as a person wants to read them: their unit, three or four figures, vulgar fractions of an inch."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from math import ceil, floor, isinf, isnan

from pulltide.language import looked_up
from pulltide.quantities.preferences import Units
from pulltide.quantities.reading import factor, read_quantity

UNIT_TEXT = {
    "N*m": "N·m",
    "lbf*ft": "lb·ft",
    "lbf*in": "lb·in",
    "kgf*cm": "kgf·cm",
    "lbf": "lb",
    "deg": "°",
    "degC": "°C",
    "degF": "°F",
    "delta_degC": "°C",
    "delta_degF": "°F",
    "share": "%",
    "1/s": "a second",
    "1/h": "an hour",
    "teeth": "teeth",
    "links": "links",
    "pitches": "pitches",
    "kg/m**3": "kg/m³",
    "lb/ft**3": "lb/ft³",
    "kg*m**2": "kg·m²",
    "lb*ft**2": "lb·ft²",
    "Pa*s": "Pa·s",
    "m**3/h": "m³/h",
    "A*h": "Ah",
    "ohm": "Ω",
    "blows/min": "blows/min",
}
FRACTIONS = {(1, 2): "½", (1, 4): "¼", (3, 4): "¾", (1, 8): "⅛", (3, 8): "⅜", (5, 8): "⅝", (7, 8): "⅞"}
UNKNOWN = "unknown"


@dataclass(frozen=True, slots=True)
class Shown:
    """A number and its unit, as text."""

    number: str
    unit: str

    def __str__(self) -> str:
        joint = "" if self.unit in ("", "°", "%", "°C", "°F") else " "
        return f"{self.number}{joint}{self.unit}"


def plain_number(value: float, figures: int = 3) -> str:
    """A number with at least ``figures`` figures, no exponent between 0.001 and a million.

    >>> plain_number(1740.0), plain_number(0.0512), plain_number(17.256), plain_number(-0.5)
    ('1740', '0.0512', '17.3', '-0.5')
    """
    if isnan(value) or isinf(value):
        return looked_up(UNKNOWN, "sentences")
    if value == 0:
        return "0"
    size = abs(value)
    if size >= 1e6 or size < 1e-4:
        return f"{value:.{figures}g}"
    digits = 0 if size >= 10 ** (figures - 1) else figures - 1 - _exponent(size)
    text = f"{value:.{digits}f}"
    return text.rstrip("0").rstrip(".") if "." in text else text


def _exponent(size: float) -> int:
    return int(f"{size:e}".split("e")[1])


def _inches(value: float) -> str:
    """Inches: a vulgar fraction when it is one of a sixteenth, else decimals."""
    sixteenths = round(value * 16)
    if abs(value * 16 - sixteenths) < 0.004 and value > 0:
        whole, part = divmod(Fraction(sixteenths, 16), 1)
        if part:
            mark = FRACTIONS.get((part.numerator, part.denominator), f"{part.numerator}/{part.denominator}")
            joint = " " if "/" in mark else ""
            return f"{whole}{joint}{mark}" if whole else mark
    return plain_number(value, 4 if abs(value) >= 1 else 3)


def show(value: float | None, core_unit: str, units: Units) -> Shown:
    """A core value in a person's unit; None is shown as unknown."""
    if value is None:
        return Shown(looked_up(UNKNOWN, "sentences"), "")
    if core_unit == "share":
        return Shown(plain_number(value * 100, 3 if abs(value) < 0.0995 else 2 if abs(value) < 0.9995 else 3), "%")
    unit = units.unit_for(core_unit)
    if unit == "kW" and 0 < abs(value) < 0.0995:
        return Shown(plain_number(value * 1000), "W")
    converted = value if unit == core_unit else factor(unit_name(core_unit), unit)(value)
    number = _inches(converted) if unit == "in" else plain_number(converted)
    return Shown(number, looked_up(UNIT_TEXT.get(unit, unit), "sentences"))


def in_unit(value: float, core_unit: str, units: Units) -> float:
    """A core value as the number in a person's unit, for a scale that is drawn."""
    unit = units.unit_for(core_unit)
    return value if unit == core_unit else float(factor(unit_name(core_unit), unit)(value))


def unit_name(core_unit: str) -> str:
    """The name the unit library knows a core unit by."""
    return core_unit


def show_for_edit(value: float | None, core_unit: str, units: Units) -> str:
    """Text for an input: exact enough to read back as the same value, empty while unknown."""
    if value is None:
        return ""
    unit = units.unit_for(core_unit)
    converted = value if unit == core_unit else factor(core_unit, unit)(value)
    number = _inches_to_edit(converted, value) if unit == "in" else f"{converted:.6g}"
    return str(Shown(number, UNIT_TEXT.get(unit, unit)))


#: A length in inches is told with so few figures that it is read back as near as this: to nothing that can be measured
#: [mm], and so near for itself that the module of a gear stays what it is.
NEAR_MM, NEAR = 0.004, 1e-4


def _inches_to_edit(inches: float, mm: float) -> str:
    """Inches as in ``_inches``, with more decimals where those lose too much."""
    for number in (_inches(inches), *(f"{inches:.{digits}f}" for digits in (4, 5, 6))):
        off = abs(factor("in", "mm")(read_quantity(number, "")) - mm)
        if off <= min(NEAR_MM, NEAR * abs(mm)):
            return number if "." not in number else number.rstrip("0").rstrip(".")
    return f"{inches:.6g}"


def show_limit(value: float, core_unit: str, units: Units, *, least: bool) -> str:
    """An end of an accepted range as text that is accepted itself: rounded inward where it has to be rounded.

    >>> show_limit(0.2, "mm", Units(length="in"), least=True), show_limit(0.2, "mm", Units(), least=True)
    ('0.007875 in', '0.2 mm')
    """
    text = show_for_edit(value, core_unit, units)
    read = read_quantity(text, core_unit)
    if read == value or (read > value) is least:
        return text
    unit = units.unit_for(core_unit)
    converted = value if unit == core_unit else factor(core_unit, unit)(value)
    step = 10.0 ** (_exponent(abs(converted)) - 3)
    inward = (ceil if least else floor)(converted / step) * step
    return str(Shown(f"{inward:.6g}", UNIT_TEXT.get(unit, unit)))
