"""Quantities as people write them."""

from __future__ import annotations

import pytest

from pulltide.quantities import Units, read_quantity, reader_for, show, show_for_edit


@pytest.mark.parametrize(
    ("text", "unit", "value"),
    [
        ("1 1/2 in", "mm", 38.1),
        ('1-1/2"', "mm", 38.1),
        ("1½ in", "mm", 38.1),
        ("38mm", "mm", 38.0),
        ("3/4 hp", "kW", 0.559275),
        ("35 in-lb", "N*m", 3.954469),
        ("120 kgf*cm", "N*m", 11.76798),
        ("120 kgf·cm", "N*m", 11.76798),
        ("30 ft-lb", "N*m", 40.67454),
        ("5' 6\"", "mm", 1676.4),
        ("1,5 kW", "kW", 1.5),
        ("8 kg", "N", 78.4532),
        ("300 RPM", "rpm", 300.0),
        ("77 °F", "degC", 25.0),
        ("20 min", "h", 1 / 3),
        ("85 %", "", 0.85),
        ("1740 1/min", "rpm", 1740.0),
        (" 2 HP ", "kW", 1.4914),
        ("12 Nm", "N*m", 12.0),
        ("-5 mm", "mm", -5.0),
        ("50 Hz", "rpm", 3000.0),
        ("5 rad/s", "rpm", 47.746483),
        ("60 rpm", "Hz", 1.0),
        ("32 %", "deg", 17.744672),
        ("2 PS", "kW", 1.4709975),
        ("3 cv", "kW", 2.20649625),
    ],
)
def test_reads_what_people_write(text: str, unit: str, value: float):
    assert read_quantity(text, unit) == pytest.approx(value, rel=1e-5)


def test_lever_test():
    """Common practice, no source: 8 kg at 15 cm is 120 kgf·cm."""
    assert read_quantity("8 kg", "N") * 0.15 == pytest.approx(read_quantity("120 kgf*cm", "N*m"))


@pytest.mark.parametrize(
    ("text", "unit"),
    [
        ("", "mm"),
        ("abc", "mm"),
        ("10 kg", "mm"),
        ("1,500", "rpm"),
        ("1 1/0 in", "mm"),
        ("nan", "mm"),
        ("1e400", "mm"),
        ("3 furlongz", "mm"),
        ("2 in**9", "mm"),
        ("__import__('os')", "mm"),
        ("9" * 80, "mm"),
        ("5 mm", "rpm"),
        ("3 Hz", "deg"),
        ("1 m", "deg"),
        ("80 %", "rpm"),
    ],
)
def test_refuses_the_rest_saying_what_is_wanted(text: str, unit: str):
    with pytest.raises(ValueError, match=r"write|too long"):
        read_quantity(text, unit)


def test_bare_numbers_are_in_the_persons_own_unit():
    assert reader_for(Units(length="in"))("3.4", "mm") == pytest.approx(86.36)
    assert reader_for(Units())("3.4", "mm") == pytest.approx(3.4)


def test_shown_as_a_builder_reads_it():
    inch = Units(length="in", torque="lbf*ft", power="hp")
    assert str(show(38.1, "mm", inch)) == "1½ in"
    assert str(show(86.36, "mm", inch)) == "3.4 in"
    assert str(show(None, "N*m", inch)) == "unknown"
    assert str(show(0.872, "share", inch)) == "87%"
    assert str(show(1.18, "share", inch)) == "118%"
    assert str(show(0.74570, "kW", inch)) == "1 hp"
    assert show_for_edit(411.1625, "mm", inch) == "16 3/16 in"


@pytest.mark.parametrize(
    ("text", "wanted"),
    [("115/230 V", "V"), ("208-230/460", "V"), ("60/50", "Hz"), ("13.4/6.7 A", "A"), ("1725/1425", "rpm")],
)
def test_several_values_of_a_plate_are_no_fraction(text: str, wanted: str):
    """A dual-voltage plate once read as half a volt."""
    with pytest.raises(ValueError, match="the one it is connected for"):
        read_quantity(text, wanted)


def test_fractions_are_still_fractions():
    assert read_quantity("1/2 hp", "kW") == pytest.approx(0.37285, rel=1e-4)
    assert read_quantity("1 13/64 in", "mm") == pytest.approx(30.559, rel=1e-4)
    assert read_quantity("1/2 A", "A") == 0.5
    assert read_quantity("1450/150", "") == pytest.approx(9.6667, rel=1e-4)
