"""Numbers as they are shown."""

from __future__ import annotations

from math import inf, nan

import pytest

from pulltide.quantities import UNIT_CHOICES, Units, plain_number, show, show_for_edit


@pytest.mark.parametrize(
    ("value", "text"),
    [
        (0.0, "0"),
        (1740.0, "1740"),
        (17.256, "17.3"),
        (0.0512, "0.0512"),
        (-0.5, "-0.5"),
        (99.96, "100"),
        (999.6, "1000"),
        (123456.0, "123456"),
        (0.00001, "1e-05"),
        (2.5e7, "2.5e+07"),
        (nan, "unknown"),
        (inf, "unknown"),
    ],
)
def test_three_figures_and_no_exponent_in_the_usual_range(value: float, text: str):
    assert plain_number(value) == text


@pytest.mark.parametrize(
    ("inches", "text"),
    [
        (0.5, "½ in"),
        (2.25, "2¼ in"),
        (3.4, "3.4 in"),
        (0.0625, "1/16 in"),
        (16.1875, "16 3/16 in"),
        (12.0, "12 in"),
        (1.33, "1.33 in"),
        (0.8125, "13/16 in"),
    ],
)
def test_inches_are_vulgar_fractions_where_they_are_one(inches: float, text: str):
    assert str(show(inches * 25.4, "mm", Units(length="in"))) == text


@pytest.mark.parametrize(
    ("core", "value", "units", "text"),
    [
        ("N*m", 10.0, {"torque": "kgf*cm"}, "102 kgf·cm"),
        ("N*m", 1.0, {"torque": "lbf*in"}, "8.85 lb·in"),
        ("kW", 0.75, {"power": "W"}, "750 W"),
        ("N", 98.0665, {"force": "kgf"}, "10 kgf"),
        ("m/s", 5.08, {"rim_speed": "ft/min"}, "1000 ft/min"),
        ("degC", 25.0, {"temperature": "degF"}, "77°F"),
        ("delta_degC", 25.0, {"temperature": "degF"}, "45°F"),
        ("delta_degC", 25.0, {}, "25°C"),
        ("deg", 157.1, {}, "157°"),
        ("rpm", 17.42, {}, "17.4 rpm"),
        ("", 1.25, {}, "1.25"),
        ("links", 76.0, {}, "76 links"),
    ],
)
def test_every_kind_in_the_unit_of_choice(core: str, value: float, units: dict[str, str], text: str):
    assert str(show(value, core, Units(**units))) == text


def test_unknown_is_a_word_and_an_empty_field():
    assert str(show(None, "mm", Units())) == "unknown"
    assert show_for_edit(None, "mm", Units()) == ""


def test_units_that_are_not_offered_are_refused():
    assert all(choices[0] == getattr(Units(), kind) for kind, choices in UNIT_CHOICES.items())
    with pytest.raises(ValueError, match="not offered"):
        Units(length="furlong")
